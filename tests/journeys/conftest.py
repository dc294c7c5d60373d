"""Journeys use the window's fixtures."""

from tests.ui.conftest import open_at_once, open_window, qapp

__all__ = ["open_at_once", "open_window", "qapp"]
