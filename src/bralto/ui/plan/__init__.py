"""The sheet before a line is drawn: the paper, its figures, and how it is printed."""
