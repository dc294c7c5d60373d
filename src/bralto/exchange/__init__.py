"""Files in and out, in open formats."""
