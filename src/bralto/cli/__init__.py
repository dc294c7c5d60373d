"""The command line: the same core as the window, and never a display."""
