"""The window: Qt Widgets over the same core as the command line."""
