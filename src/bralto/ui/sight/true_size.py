"""How large a millimetre is on this screen: as the desktop says, or checked with a bank card."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QSlider, QVBoxLayout, QWidget

from bralto.ui.room import fit_slip
from bralto.ui.settings import Settings
from bralto.ui.theme.paint import text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["CARD_MM", "CardSlip", "px_per_mm"]

CARD_MM = (85.60, 53.98)
"""Width and height of a bank card (ISO/IEC 7810, ID-1)."""

_LEAST, _MOST = 1.5, 16.0
"""px a mm (40 to 400 dots an inch) that a screen has, in the window's own px."""

_STEPS = 100.0


def px_per_mm(settings: Settings, widget: QWidget) -> float:
    """px of the window a millimetre: as it was checked with a card, else as the desktop says."""
    if settings.px_per_mm is not None:
        return settings.px_per_mm
    screen = widget.screen()
    found = 96.0 / 25.4 if screen is None else screen.physicalDotsPerInchX() / 25.4
    return min(max(found, _LEAST), _MOST)


class CardSlip(QDialog):
    """A card is laid on the screen, and its outline there made as large."""

    checked = pyqtSignal(float)

    def __init__(self, settings: Settings, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Lay a bank card on the screen")
        words = QLabel(
            "Lay a bank card on the outline, and move the slider (or the arrow keys) until both "
            "are as wide. Then a mm on the screen is a mm.",
            self,
        )
        words.setWordWrap(True)
        self.card = _Card(px_per_mm(settings, self if parent is None else parent), tokens, self)
        self.slider = QSlider(Qt.Orientation.Horizontal, self)
        self.slider.setRange(round(_STEPS * _LEAST), round(_STEPS * _MOST))
        self.slider.setValue(round(_STEPS * self.card.px))
        self.slider.setAccessibleName("How wide the card is on the screen")
        self.slider.valueChanged.connect(lambda value: self.card.show_px(value / _STEPS))
        keep = QPushButton("As wide as the card", self)
        keep.setDefault(True)
        keep.clicked.connect(self._keep)
        leave = QPushButton("Not now", self)
        leave.clicked.connect(self.reject)
        buttons = QHBoxLayout()
        buttons.addWidget(leave)
        buttons.addStretch(1)
        buttons.addWidget(keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        column.addWidget(words)
        column.addWidget(self.card)
        column.addWidget(self.slider)
        column.addLayout(buttons)
        self._settings = settings
        fit_slip(self)

    def _keep(self) -> None:
        self._settings.set_px_per_mm(self.card.px)
        self.checked.emit(self.card.px)
        self.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() in steps:
            self.slider.setValue(self.slider.value() + steps[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)


class _Card(QWidget):
    def __init__(self, px: float, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens, self.px = tokens, px
        self.setMinimumSize(420, 260)

    def show_px(self, px: float) -> None:
        self.px = px
        self.update()

    @property
    def outline(self) -> QRectF:
        """The card's outline, px of this widget; its upper left corner stays. Where it is wider
        than there is room, it stands upright."""
        wide, tall = CARD_MM
        if self.px * wide > self.width() - 16.0:
            wide, tall = tall, wide
        return QRectF(8.0, 8.0, self.px * wide, self.px * tall)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        card = self.outline
        painter.setPen(QPen(self._tokens.colour("ink"), 1.6))
        painter.setBrush(self._tokens.colour("sheet"))
        painter.drawRoundedRect(card, 3.0 * self.px, 3.0 * self.px)
        at = QPointF(card.left() + 14.0, card.center().y())
        words = f"{card.width() / self.px:.1f} mm"
        text(painter, at.x(), at.y(), words, font(Size.TITLE), self._tokens.colour("ink2"))
        painter.end()
