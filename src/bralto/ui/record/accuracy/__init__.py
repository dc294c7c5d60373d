"""Accuracy over time and habits, one page of the record."""
