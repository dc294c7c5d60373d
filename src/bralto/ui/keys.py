"""All keys on one sheet (F1)."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QGridLayout, QLabel, QWidget

__all__ = ["KEYS", "KeySheet"]

KEYS: tuple[tuple[str, str], ...] = (
    ("Arrows", "nudge the mark or crosshair by half a screen pixel"),
    ("Shift+Arrows", "nudge by five"),
    ("Enter", "set the crosshair's mark, or say that a carried one is right, and go on"),
    ("Backspace", "go back to the mark before"),
    ("Tab", "ask for the mark on the other board"),
    ("N", "skip this mark for now"),
    ("H", "the next mark is hidden: set where you believe it is"),
    ("O", "the model's other side"),
    ("Delete", "take the held mark away"),
    ("Escape", "let go"),
    ("Z", "loupe on or off"),
    ("S", "snap the held mark to the nearest line or edge"),
    ("P, L", "plumb and level through the pointer, on both boards"),
    ("A", "a stick along any line: drag it, and it is carried to the other board"),
    ("Space, B, W", "the drawing over the reference: veil, blink, wipe; Escape takes all off"),
    ("Q, V, E", "squint; two and three values; uneven light taken away"),
    ("R, U", "a quarter turn; upside down"),
    ("Ctrl+Left, Ctrl+Right", "pass back, pass on"),
    ("0", "fit: crown and sole level"),
    ("+ and −, wheel", "zoom; drag the picture to move it"),
    ("T", "move both boards together"),
    ("M", "mirror"),
    ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
    ("Ctrl+N, Ctrl+V", "new study; bring in the picture on the clipboard"),
    ("Alt+1, 2, 3", "shelf, bench, record"),
)


class KeySheet(QDialog):
    """A plain table."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        grid = QGridLayout(self)
        grid.setContentsMargins(24, 20, 24, 20)
        grid.setHorizontalSpacing(24)
        for row, (keys, meaning) in enumerate(KEYS):
            name = QLabel(f"<b>{keys}</b>", self)
            grid.addWidget(name, row, 0)
            grid.addWidget(QLabel(meaning, self), row, 1)
