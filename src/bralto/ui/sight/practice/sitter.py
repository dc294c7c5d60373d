"""The person in the room: a picture that is sighted for practice, as large as there is room."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
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

    resized = pyqtSignal()
    """There is more or less room than before."""

    def __init__(
        self, path: str | None, picture: Picture, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setMinimumWidth(220)
        self.setAccessibleName("The sitter")
        self._tokens, self._picture = tokens, picture
        self._wanted: float | None = None
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

    def show_at(self, picture_px: float | None) -> None:
        """So large that a px of the window shows so many of the picture, or as large as there is
        room where that is smaller; None for as large as there is room."""
        self._wanted = picture_px
        self._shown = QPixmap()
        self.update()

    @property
    def nearest(self) -> float:
        """Px of the picture that a px of the window shows where it is as large as there is room."""
        room = self._room.size()
        across, down = max(room.width(), 1.0), max(room.height(), 1.0)
        return max(self._picture.width / across, self._picture.height / down)

    @property
    def _room(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_BORDER, _BORDER, -_BORDER, -_BORDER)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._shown = QPixmap()
        self.resized.emit()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), self._tokens.colour("sheet"))
        if self._whole.isNull():
            text(painter, 24.0, 60.0, "The picture is not there.", font(Size.TITLE),
                 self._tokens.colour("ink2"))  # fmt: skip
        else:
            room = self._room
            if self._shown.isNull():
                self._shown = self._fitted()
            half = 0.5 * self._shown.deviceIndependentSize()
            # At the top: where the window scrolls, one who stands further off is seen whole.
            painter.translate(room.center().x(), room.top() + half.height())
            painter.rotate(-self._picture.plumb_deg)  # as it stood
            painter.drawPixmap(QPointF(-half.width(), -half.height()), self._shown)
        painter.end()

    def _fitted(self) -> QPixmap:
        ratio = self.devicePixelRatioF()
        a_px = max(self.nearest, self._wanted or 0.0) / ratio
        size = QSize(round(self._picture.width / a_px), round(self._picture.height / a_px))
        keep, smooth = Qt.AspectRatioMode, Qt.TransformationMode
        shown = self._whole.scaled(size, keep.KeepAspectRatio, smooth.SmoothTransformation)
        shown.setDevicePixelRatio(ratio)
        return shown


_MOST = 2400
"""Px of the longer side that are kept: more than any screen here shows."""
