"""The person in the room: a picture that is sighted for practice, as large as there is room."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QImageReader, QPainter, QPaintEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.study.values import Picture
from bralto.ui.theme.paint import text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Sitter"]

_BORDER = 8.0


class Sitter(QWidget):
    """Without marks or lines: it is looked at with a pencil held up before the screen."""

    def __init__(
        self, path: str | None, picture: Picture, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setMinimumWidth(220)
        self.setAccessibleName("The sitter")
        self._tokens, self._turned = tokens, picture.plumb_deg
        self._whole = QPixmap()
        if path is not None:
            reader = QImageReader(path)
            reader.setAutoTransform(True)
            size = reader.size()
            if size.isValid() and max(size.width(), size.height()) > _MOST:
                size.scale(_MOST, _MOST, Qt.AspectRatioMode.KeepAspectRatio)
                reader.setScaledSize(size)
            self._whole = QPixmap.fromImage(reader.read())
        self._shown = QPixmap()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._shown = QPixmap()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), self._tokens.colour("sheet"))
        if self._whole.isNull():
            text(painter, 24.0, 60.0, "The picture is not there.", font(Size.TITLE),
                 self._tokens.colour("ink2"))  # fmt: skip
        else:
            room = QRectF(self.rect()).adjusted(_BORDER, _BORDER, -_BORDER, -_BORDER)
            if self._shown.isNull():
                self._shown = self._fitted(room)
            at = room.center() - QPointF(
                self._shown.deviceIndependentSize().width() / 2.0,
                self._shown.deviceIndependentSize().height() / 2.0,
            )
            painter.translate(room.center())
            painter.rotate(-self._turned)  # as it stood
            painter.translate(-room.center())
            painter.drawPixmap(at, self._shown)
        painter.end()

    def _fitted(self, room: QRectF) -> QPixmap:
        ratio = self.devicePixelRatioF()
        size = QSize(round(room.width() * ratio), round(room.height() * ratio))
        keep, smooth = Qt.AspectRatioMode, Qt.TransformationMode
        shown = self._whole.scaled(size, keep.KeepAspectRatio, smooth.SmoothTransformation)
        shown.setDevicePixelRatio(ratio)
        return shown


_MOST = 2400
"""Px of the longer side that are kept: more than any screen here shows."""
