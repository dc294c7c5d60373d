"""What is drawn over both pictures."""
