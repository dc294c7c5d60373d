"""How marks and lines are set: by pointer, keys, pen and fingers."""
