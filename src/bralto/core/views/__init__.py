"""Landmark views: which marks there are, how to find them, and what is measured between them."""
