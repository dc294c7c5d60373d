"""A thumbnail laid for its card: scaled, or its sheet seen straight on."""

from __future__ import annotations

from PyQt6.QtCore import QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QImageReader, QPainter

from bralto.store.summaries import Shown
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.viewport import Viewport

__all__ = ["lay_for_card"]


def lay_for_card(path: str, shown: Shown, size: QSize) -> QImage:
    """The thumbnail at ``path`` at that size; a null image where it cannot be read."""
    reader = QImageReader(path)
    if shown.frame is None:
        reader.setScaledSize(size)
        return reader.read()
    small = reader.read()
    if small.isNull():
        return small
    laid = QImage(size, QImage.Format.Format_RGB32)
    laid.fill(Qt.GlobalColor.white)
    view = Viewport(shown.width, shown.height, shown.plumb_deg, flat=shown.flat, frame=shown.frame)
    painter = QPainter(laid)
    paint_laid(painter, view.fitted(QSizeF(size)), small)
    painter.end()
    return laid
