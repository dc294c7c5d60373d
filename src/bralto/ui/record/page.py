"""What the record asks of its pages; a page is made when it is first gone to."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from bralto.ui.prompt import Prompt

__all__ = ["NARROW", "Page"]

NARROW = 900
"""Width of a page, px, below which what stands beside its subject takes less."""


class Page(QWidget):
    """A page overrides what it has; the answers here are those of a page that has nothing."""

    opened = pyqtSignal(str)
    """A study to put on the bench."""
    begun = pyqtSignal(object)
    """A `practice.Item` to begin."""
    posed = pyqtSignal(str)
    """A pose of the model to set up."""
    said = pyqtSignal(str)
    refused = pyqtSignal(str)

    @property
    def busy(self) -> bool:
        """Whether something is being worked out that will be shown."""
        return False

    def look(self) -> None:
        """Show what there is by now: the page is in sight, or something has changed."""

    def takes_keys(self) -> QWidget | None:
        """What arrows and Enter belong to; None leaves them to the page's word."""
        return None

    def prompt(self) -> Prompt:
        """What to do on it."""
        raise NotImplementedError
