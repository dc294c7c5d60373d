"""What keeps a library whole."""
