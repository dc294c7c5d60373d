"""What the record reads of many studies."""
