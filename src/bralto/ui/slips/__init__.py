"""Slips that the whole window offers."""
