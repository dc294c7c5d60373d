"""What is marked next, where it lies, and what a mark is worth."""
