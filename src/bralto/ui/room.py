"""The room that a screen leaves: what does not fit in it is scrolled to, and nothing is cut off."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, QSize, Qt
from PyQt6.QtGui import QFocusEvent, QGuiApplication
from PyQt6.QtWidgets import QDialog, QFrame, QLayout, QScrollArea, QVBoxLayout, QWidget

__all__ = ["fit_slip", "room_on_screen", "scrolled"]

_FRAME = QSize(16, 48)
"""What a desktop's own frame about a window takes, px (chosen here, no source)."""


def room_on_screen(widget: QWidget) -> QSize | None:
    """What a window may fill of its screen; None where there is no real one."""
    screen = widget.screen()
    if screen is None or QGuiApplication.platformName() in {"offscreen", "minimal"}:
        return None
    return screen.availableSize() - _FRAME


def scrolled(inner: QWidget, parent: QWidget | None = None) -> QScrollArea:
    """A part in an area that scrolls once it is given less than the part's least size."""
    area = QScrollArea(parent)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidgetResizable(True)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(inner)
    return area


def fit_slip(slip: QDialog, room: QSize | None = None) -> None:
    """Let a slip scroll where it wants more than the screen has; called once it is laid out.

    Args:
        room: what there is, px; that of the slip's screen where it is not given.
    """
    room = room or room_on_screen(slip)
    layout = slip.layout()
    if room is None or layout is None:
        return
    usual = slip.size() if slip.testAttribute(_RESIZED) else slip.sizeHint()
    least = slip.minimumSizeHint().expandedTo(slip.minimumSize())
    if least.width() > room.width() or least.height() > room.height():
        inner = QWidget()
        layout.setSizeConstraint(QLayout.SizeConstraint.SetDefaultConstraint)
        inner.setLayout(layout)
        slip.setMinimumSize(0, 0)
        area = scrolled(inner, slip)
        outer = QVBoxLayout(slip)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(area)
        _Follower(area, slip)
        if least.height() > room.height():  # beside the bar all of its width has room
            bar = area.verticalScrollBar()
            assert bar is not None
            usual = QSize(usual.width() + bar.sizeHint().width(), usual.height())
    if usual.width() > room.width() or usual.height() > room.height():
        slip.resize(usual.boundedTo(room))


_RESIZED = Qt.WidgetAttribute.WA_Resized


_BY_KEY = (
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
    Qt.FocusReason.ShortcutFocusReason,
)


class _Follower(QObject):
    """Keeps the field that has the keys in sight."""

    def __init__(self, area: QScrollArea, slip: QDialog) -> None:
        super().__init__(area)
        self._area = area
        for one in slip.findChildren(QWidget):
            one.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        by_key = isinstance(event, QFocusEvent) and event.gotFocus() and event.reason() in _BY_KEY
        if by_key and isinstance(watched, QWidget):
            self._area.ensureWidgetVisible(watched)
        return False
