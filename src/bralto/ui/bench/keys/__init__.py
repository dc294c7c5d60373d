"""What keys ask for on the bench."""
