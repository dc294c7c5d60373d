"""The study in hand: its value, its undo and what writes it to the library."""
