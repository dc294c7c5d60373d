"""The bench: the measuring session."""
