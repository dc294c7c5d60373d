"""What the places are put together from."""
