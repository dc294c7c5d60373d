"""The database."""
