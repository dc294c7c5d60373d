"""What the window asks of a place; a new place is one folder and one `Door` in `house.py`."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QWidget

from bralto.core.quick_tuples import NamedTuple
from bralto.ui.prompt import Prompt
from bralto.ui.widgets.tape import TapeShown

__all__ = ["Door", "Place"]


class Place(QWidget):
    """Fills the window between tape and prompt line.

    A place overrides what it has; the answers here are those of a place that has nothing. The
    signals say that what the window shows of it is another.
    """

    prompt_changed = pyqtSignal()
    tape_changed = pyqtSignal()

    @property
    def subject(self) -> str:
        """What is worked on there, for the strip; "" where that is nothing in particular."""
        return ""

    @property
    def least_high(self) -> int:
        """px below which it is scrolled and not squeezed; how wide that is its layout says."""
        return 484

    @property
    def busy(self) -> bool:
        """Whether something is being worked out that will be shown."""
        return False

    @property
    def undo_stack(self) -> QUndoStack | None:
        """What Ctrl+Z takes back there."""
        return None

    def prompt(self) -> Prompt:
        """What to do next."""
        raise NotImplementedError

    def tape(self) -> TapeShown:
        """What lies on the tape."""
        return TapeShown()

    def on_tape(self, key: str) -> None:
        """A segment of the tape was chosen."""

    def enter(self) -> None:
        """One has come here: show what has changed meanwhile, and take the keys."""

    def tick(self) -> None:
        """A second was spent here, at work."""

    def rest(self) -> None:
        """Time to step back."""

    def release(self) -> None:
        """The window closes: begin nothing more, keep what is not kept."""


class Door(NamedTuple):
    """The way to a place, which is made when it is first gone to: the shelf is there the sooner.

    Attributes:
        title: its word in the strip.
        make: makes it.
    """

    title: str
    make: Callable[[], Place]
