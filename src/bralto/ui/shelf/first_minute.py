"""The empty shelf: what a study gives, as a picture, and three ways in."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtBoundSignal, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bralto.ui.theme.tokens import Tokens

__all__ = ["FirstMinute"]

_PICTURES = Path(__file__).parent / "pictures"
_LEAST_WIDE = 900  # px of the shelf below which the ways alone are shown
_WAYS = 400


class _Picture(QLabel):
    """The worked example as it lies on the bench; a click opens it."""

    pressed = pyqtSignal()

    def __init__(self, name: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._whole = QPixmap(str(_PICTURES / f"worked-example-{name}.png"))
        self.setObjectName("framed")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("The worked example on the bench")
        self.setToolTip("Look at the worked example")

    def show_within(self, room: QSize) -> None:
        """As large as there is room, never larger than it is."""
        size = self._whole.size().scaled(room, Qt.AspectRatioMode.KeepAspectRatio)
        size = size.boundedTo(self._whole.size())
        ratio = self.devicePixelRatioF()
        smooth = Qt.TransformationMode.SmoothTransformation
        shown = self._whole.scaled(size * ratio, Qt.AspectRatioMode.KeepAspectRatio, smooth)
        shown.setDevicePixelRatio(ratio)
        self.setPixmap(shown)

    def minimumSizeHint(self) -> QSize:
        return QSize(1, 1)  # it gives way first

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.pressed.emit()


class FirstMinute(QWidget):
    """Says what there is to do; whoever shows it does it."""

    begin_wanted = pyqtSignal()
    life_wanted = pyqtSignal()
    model_wanted = pyqtSignal()
    example_wanted = pyqtSignal()
    bring_wanted = pyqtSignal()

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self._picture = _Picture(tokens.name, self)
        self._picture.pressed.connect(self.example_wanted)
        self._caption = QLabel(
            "Where the drawing is off, by how much, how surely, and what to mend first.", self
        )
        self._caption.setObjectName("note")
        self._caption.setWordWrap(True)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addStretch(2)
        left.addWidget(self._picture)
        left.addWidget(self._caption)
        left.addStretch(3)
        ways = QVBoxLayout()
        ways.setSpacing(12)
        ways.addStretch(2)
        title = QLabel("Measure a drawing", self)
        title.setObjectName("panel")
        ways.addWidget(title)
        ways.addWidget(
            self._way(
                "Two pictures",
                "The reference that you drew from, and a photo or scan of your drawing; or the "
                "drawing alone, held against an average. Drop them on this window, or choose.",
                "Start a study …", "new", self.begin_wanted, first=True,
            )
        )  # fmt: skip
        ways.addWidget(
            self._way(
                "Nobody to draw from",
                "A model that holds still: pose it, light it, draw it, and have its answer key.",
                "Go to the model", "model", self.model_wanted,
            )
        )  # fmt: skip
        ways.addWidget(
            self._way(
                "From life, without a photo",
                "Pencil and thumb: the sightings that tell most are asked for, one by one, and "
                "your drawing is held against them.",
                "Sight a figure …", "life", self.life_wanted,
            )
        )  # fmt: skip
        row = QHBoxLayout()
        for words, name, act in (
            ("Look at a worked example", "example", self.example_wanted),
            ("Bring in a study …", "bring", self.bring_wanted),
        ):
            button = QPushButton(words, self)
            button.setObjectName(name)
            button.clicked.connect(act)
            row.addWidget(button)
        row.addStretch(1)
        ways.addLayout(row)
        ways.addStretch(3)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(24, 10, 24, 10)
        whole.setSpacing(32)
        whole.addStretch(1)
        whole.addLayout(left)
        whole.addLayout(ways)
        whole.addStretch(1)

    def _way(
        self,
        title: str,
        words: str,
        offer: str,
        name: str,
        act: pyqtBoundSignal,
        *,
        first: bool = False,
    ) -> QFrame:
        slip = QFrame(self)
        slip.setObjectName("way")
        slip.setFixedWidth(_WAYS)
        heading = QLabel(title, slip)
        heading.setObjectName("heading")
        about = QLabel(words, slip)
        about.setObjectName("note")
        about.setWordWrap(True)
        button = QPushButton(offer, slip)
        button.setObjectName(name)
        button.setDefault(first)
        button.clicked.connect(act)
        row = QHBoxLayout()
        row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(slip)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(6)
        column.addWidget(heading)
        column.addWidget(about)
        column.addLayout(row)
        return slip

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        wide = self.width() >= _LEAST_WIDE
        self._picture.setVisible(wide)
        self._caption.setVisible(wide)
        if wide:
            room = self.width() - _WAYS - 3 * 32 - 48
            self._picture.show_within(QSize(max(room, 1), round(0.86 * self.height())))
            self._caption.setMaximumWidth(max(120, self._picture.sizeHint().width()))
