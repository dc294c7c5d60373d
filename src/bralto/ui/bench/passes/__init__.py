"""What each pass shows."""
