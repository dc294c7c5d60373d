"""The record: accuracy over time."""
