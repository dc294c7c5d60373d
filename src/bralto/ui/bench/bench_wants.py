"""What is asked for on the bench and done by others: by the place, or by what joins the places."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

__all__ = ["BenchWants"]


class BenchWants(QObject):
    """One for a bench, handed to all that ask; who does it connects here."""

    sheet = pyqtSignal(object)
    """The sheet of a picture is to be given: its `Board`."""
    mirrored = pyqtSignal(object)
    """A picture is to be mirrored: the `Doubt` that this settles."""
    state = pyqtSignal()
    """The next state of the drawing is to be taken in."""
    permission = pyqtSignal(object)
    """What is agreed with who is in a picture is to be noted: its `Board`."""
    sitter = pyqtSignal()
    """The next sitter for practice."""
    anew = pyqtSignal()
    """The study has another room than before: it is to be put on the bench again."""
