"""What can have gone wrong: the moves of a view, and lists of them composed."""
