"""One file a revision."""
