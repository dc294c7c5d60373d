"""The model stand: a posable figure to draw from."""
