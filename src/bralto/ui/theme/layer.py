"""A layer that is painted once and kept while what it shows stays the same.

Dragging a mark repaints a board, the ladder, rails and fan at every move of the hand; the picture,
the tape's ticks and the reference's labels do not change by it.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSizeF, Qt
from PyQt6.QtGui import QColor, QPainter, QPixmap
from PyQt6.QtWidgets import QWidget

__all__ = ["Layer"]


class Layer:
    """One pixmap of a widget with the key of what it shows."""

    def __init__(self, widget: QWidget) -> None:
        self._widget = widget
        self._kept: tuple[object, QPixmap] | None = None

    def forget(self) -> None:
        """Paint anew next time, whatever the key."""
        self._kept = None

    def pixmap(
        self,
        key: object,
        paint: Callable[[QPainter], None],
        ground: QColor | Qt.GlobalColor = Qt.GlobalColor.transparent,
    ) -> QPixmap:
        """The layer in the widget's size; ``paint`` is called only where ``key`` is another."""
        ratio, size = self._widget.devicePixelRatioF(), self._widget.size()
        whole = (key, size.width(), size.height(), ratio)
        if self._kept is None or self._kept[0] != whole:
            layer = QPixmap((QSizeF(size) * ratio).toSize())
            layer.setDevicePixelRatio(ratio)
            layer.fill(ground)
            painter = QPainter(layer)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint(painter)
            painter.end()
            self._kept = (whole, layer)
        return self._kept[1]
