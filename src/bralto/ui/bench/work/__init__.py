"""What the learner does on the bench, and the commands for it."""
