"""What a hand does in the window, sent by Qt's own functions for tests.

PyQt's stubs have these as methods of an object, which they are not; that is passed over here alone.
"""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget

__all__ = ["click", "key", "move", "press", "release", "wait"]

_LEFT = Qt.MouseButton.LeftButton


def wait(ms: int) -> None:
    """Let the window work for so long."""
    QTest.qWait(ms)  # type: ignore[call-arg, arg-type]


def move(widget: QWidget, at: QPoint) -> None:
    """Point at a place; it is painted before this returns."""
    QTest.mouseMove(widget, at)  # type: ignore[call-overload]


def press(widget: QWidget, at: QPoint) -> None:
    """The left button goes down."""
    QTest.mousePress(widget, _LEFT, pos=at)  # type: ignore[call-overload]


def release(widget: QWidget, at: QPoint) -> None:
    """The left button comes up."""
    QTest.mouseRelease(widget, _LEFT, pos=at)  # type: ignore[call-overload]


def click(widget: QWidget, at: QPoint) -> None:
    """The left button goes down and comes up."""
    QTest.mouseClick(widget, _LEFT, pos=at)  # type: ignore[call-overload]


def key(widget: QWidget, pressed: Qt.Key) -> None:
    """One key goes down and comes up."""
    QTest.keyClick(widget, pressed)  # type: ignore[call-overload]
