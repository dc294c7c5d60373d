"""Tokens, type and the few shapes that carry meaning."""
