"""All keys on one sheet (F1)."""

from __future__ import annotations

from PyQt6.QtWidgets import QBoxLayout, QDialog, QGridLayout, QHBoxLayout, QLabel, QWidget

from bralto.ui.room import fit_slip, room_on_screen

__all__ = ["KEYS", "KeySheet"]

KEYS: dict[str, tuple[tuple[str, str], ...]] = {
    "Marks": (
        ("Arrows, Shift+Arrows", "nudge the mark or crosshair by half a screen pixel, by five"),
        ("Enter", "set the crosshair's mark, and go on"),
        ("Backspace", "go back to the mark before"),
        ("Tab", "ask for the mark on the other board"),
        ("F", "the reference alone first, or both by turns"),
        ("N, H, O", "skip it; it is hidden; the model's other side"),
        ("Delete", "the mark that is asked for is not in the picture"),
        ("Ctrl+click, Ctrl+P", "a point of your own here; name one"),
        ("S, Z", "snap to the nearest line; loupe"),
        ("?", "how to find the mark that is asked for"),
        ("Delete, Escape", "take the held mark away; let go"),
    ),
    "Shelf": (
        ("Enter; Ctrl+click, Ctrl+A", "open a study; select some, or all"),
        ("F2, Ctrl+T, Ctrl+D, Ctrl+H", "rename; tags; duplicate; hide"),
        ("Ctrl+R", "try the same pose again, on a new sheet"),
        ("Delete", "into the bin; in the bin: for good"),
        ("Ctrl+E, Ctrl+O", "write out as bundles; bring bundles and study files in"),
        ("Ctrl+F, Escape", "find by name, tag or what you wrote; back"),
    ),
    "Passes": (
        ("Ctrl+Left, Ctrl+Right", "pass back, pass on"),
        ("Enter", "go on to what is worth doing, once a pass has its marks"),
        ("Down, then Enter", "choose in the list of a pass, once F6 has led there"),
        ("Enter; [ and ]", "Action: as proposed; Light: find shadows, less or more of them"),
        ("F6", "from the boards to the lists, one after the other, and back"),
        ("G", "guess by eye before any figure"),
        ("Ctrl+J", "write down what went well, what next"),
    ),
    "Sighting": (
        ("P, L", "plumb and level through the pointer"),
        ("A, J", "a stick along any line; a second one, and the angle between"),
        ("X", "halves, thirds, heads on the stick"),
        ("D", "dividers, to step a length; in Shapes, Action, Light: draw one"),
        ("K, Ctrl+K", "the big forms, of a head school by school; this model beside an average"),
    ),
    "From life": (
        ("0 to 9, /, arrows", "heads; then a quarter, third, half more; a little"),
        ("Arrows; Y, A, O", "turn the stick, or step beside the line; yes, alike, no"),
        ("Enter, N", "that is it; another one"),
        ("R, M, K, O", "sight it twice, blind; thumb marks in mm; how you sight; one of your own"),
        ("P", "how the model is placed: stands, sits, lies, and to which side"),
    ),
    "Comparing": (
        ("Space, B, W", "the drawing over the reference: veil, blink, wipe"),
        ("Y, [ and ]", "outlines that differ; thinner or slower, thicker or faster"),
        ("Q, V, E", "squint; two and three values; uneven light taken away"),
        ("M, U, R", "mirror; upside down; a quarter turn"),
        ("0, + and −, wheel", "fit: crown and sole level; zoom"),
        ("T, F2", "move both boards together; one board alone"),
        ("F3", "the boards take the window; ladder and list come back"),
        ("Shift while clicking", "the board stays where it is, for the next mark too"),
    ),
    "Corrections": (
        ("1 to 9", "hold a correction"),
        ("Enter, I", "put right; meant so"),
        ("C", "the drawing as it would look corrected"),
    ),
    "Model": (
        ("Left, Right; Up, Down", "turn the stand; raise and lower the eye"),
        ("+ and −, wheel", "nearer, farther"),
        ("Ctrl+D, Ctrl+Shift+D", "draw this; draw it from memory"),
        ("Ctrl+Enter", "add the pose to the series"),
        ("Space, H, L, N", "while drawing: pause, hide, look, next pose"),
    ),
    "Everywhere": (
        ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
        ("Ctrl+N, Ctrl+V", "new study; bring in the picture on the clipboard"),
        ("Alt+1, 2, 3, 4", "shelf, bench, model, record"),
        ("Ctrl+,", "settings"),
    ),
}


class KeySheet(QDialog):
    """Two columns of small tables; one below the other where the screen is too narrow."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        columns = QHBoxLayout(self)
        columns.setContentsMargins(24, 18, 24, 18)
        columns.setSpacing(36)
        grids = [QGridLayout(), QGridLayout()]
        for grid in grids:
            grid.setHorizontalSpacing(18)
            grid.setVerticalSpacing(2)
            columns.addLayout(grid)
        half = len(KEYS) // 2
        for number, (title, rows) in enumerate(KEYS.items()):
            grid = grids[number >= half]
            head = QLabel(title, self)
            head.setObjectName("panel")
            head.setContentsMargins(0, 6 if grid.rowCount() > 1 else 0, 0, 2)
            grid.addWidget(head, grid.rowCount(), 0, 1, 2)
            for keys, meaning in rows:
                at = grid.rowCount()
                grid.addWidget(QLabel(f"<b>{keys}</b>", self), at, 0)
                grid.addWidget(QLabel(meaning, self), at, 1)
        for grid in grids:
            grid.setRowStretch(grid.rowCount(), 1)
        room = room_on_screen(self)
        if room is not None and self.sizeHint().width() > room.width():
            columns.setDirection(QBoxLayout.Direction.TopToBottom)
            columns.setSpacing(6)
        fit_slip(self, room)
