"""What is shown, without widgets."""
