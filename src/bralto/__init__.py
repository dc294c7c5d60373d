"""Bralto: measure a drawing of the figure against its reference."""

__version__ = "0.1.0"
