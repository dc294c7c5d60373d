"""The slip on which a sheet is found in a photo, shown, mended and kept."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, Sheet
from bralto.core.tolerances import Grade
from bralto.core.words.lengths import size as size_words
from bralto.imaging.outcome import FoundSheet
from bralto.ui.boards.board_view import lay
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.boards.pyramid import level_of, load_pyramid, straightened
from bralto.ui.room import fit_slip
from bralto.ui.running.tasks import Tasks
from bralto.ui.sheet.corner_board import CornerBoard
from bralto.ui.sheet.sheet_state import WAYS, SheetState
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.choice_box import choice_box
from bralto.ui.widgets.length_spin import LengthSpin

__all__ = ["SheetSlip"]

_ASIDE = 344
_OWN = "another size …"


def _look_for(path: Path) -> tuple[tuple[QImage, ...], FoundSheet | NotMeasurable]:
    """Off the GUI thread: the picture, and where the finder sees a sheet in it."""
    from bralto.imaging.find_sheet import find_sheet  # slow to load

    levels = load_pyramid(path)
    return levels, find_sheet(as_pixels(levels[0]))


def _follow(image: QImage, shown: tuple[tuple[float, float], ...]) -> FoundSheet | NotMeasurable:
    """Off the GUI thread: corners shown by hand, to the edges that meet there."""
    from bralto.imaging.find_sheet import to_the_edges  # slow to load

    return to_the_edges(as_pixels(image), np.array(shown))


class _Flattened(QWidget):
    """The sheet as it is seen straight on, by the points as they stand."""

    def __init__(self, state: SheetState, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The sheet seen straight on")
        self._state, self._tokens = state, tokens
        self._levels: tuple[QImage, ...] = ()
        self._straight: tuple[object, QImage] = (None, QImage())  # of which bends and level
        state.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(_ASIDE, 300)

    def show_levels(self, levels: tuple[QImage, ...]) -> None:
        self._levels = levels
        self._straight = (None, QImage())
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        sheet = self._state.sheet()
        image = level_of(self._levels, 2.0 * self.width())
        if not isinstance(sheet, Sheet) or image is None:
            painter.setPen(self._tokens.colour("ink2"))
            words = "The sheet seen straight on appears here once its corners and size are known."
            if self._state.way == "none":
                words = "Without a sheet the picture is taken as it lies."
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(QRectF(self.rect()), int(flags), words)
            painter.end()
            return
        view = lay(replace(self._state.picture, sheet=sheet, plumb_deg=0.0, crop=None))
        view = view.fitted(QSizeF(self.width() - 4, self.height() - 4)).panned(QPointF(2.0, 2.0))
        if self._straight[0] != (view.bends, image.width()):
            self._straight = (
                (view.bends, image.width()), straightened(image, view.bends, view.width),
            )  # fmt: skip
        paint_laid(painter, view, self._straight[1])
        painter.setPen(QPen(self._tokens.colour("hair"), 1.0))
        painter.drawPath(view.outline())
        painter.end()


class SheetSlip(QDialog):
    """Accepted with `sheet` set: the sheet, or None where the learner wants none. Rejected, it was
    put off."""

    LEFT_OUT = 2
    """Result where a new photo is not wanted at all."""

    def __init__(
        self,
        picture: Picture,
        path: Path,
        grade: Grade,
        tasks: Tasks,
        tokens: Tokens,
        parent: QWidget | None = None,
        *,
        usual: tuple[tuple[float, float], ...] = (),
        head_mm: float | None = None,
        new: str = "",
    ) -> None:
        """``new`` names a state whose photo is not kept yet, and may be left out."""
        super().__init__(parent)
        self.setWindowTitle("The sheet in the photo")
        self.resize(1080, 720)
        self.sheet: Sheet | None = None
        self.state = SheetState(picture, grade, usual, head_mm, self)
        self.board = CornerBoard(self.state, tokens, self)
        self.flat = _Flattened(self.state, tokens, self)
        self.way, self.paper = choice_box("Known by", self), choice_box("Paper", self)
        self.wide, self.high, self.known = (LengthSpin(self) for _ in range(3))
        self.status, self.notes = QLabel(self), QLabel(self)
        self.keep = QPushButton("Keep this sheet", self)
        self._found: FoundSheet | NotMeasurable | None = None
        self._image: QImage | None = None
        self._sized = False  # by figures, whatever paper they come to
        self._tasks = tasks
        self.leave_out = QPushButton("Leave the photo out", self)
        self.leave_out.setVisible(bool(new))
        self.leave_out.setToolTip("Nothing of it is kept")
        self._lay_out()
        self._connect()
        self.state.changed.connect(self._show)
        self._show()
        tasks.run(partial(_look_for, path), self._on_found, self._on_failed)
        fit_slip(self)

    def _lay_out(self) -> None:
        for key, (words, _) in WAYS.items():
            self.way.addItem(words, key)
        for name, size in self.state.papers():
            self.paper.addItem(f"{name}  ({size_words(*size)})", size)
        self.paper.addItem(_OWN, None)
        for spin in (self.wide, self.high, self.known):
            spin.setRange(5.0, 3000.0)
            spin.setDecimals(1)
        self.status.setWordWrap(True)
        self.status.setObjectName("title")
        self.notes.setWordWrap(True)
        self.notes.setObjectName("note")
        self.keep.setDefault(True)
        own = QWidget(self)
        sizes = QHBoxLayout(own)
        sizes.setContentsMargins(0, 0, 0, 0)
        sizes.addWidget(self.wide)
        sizes.addWidget(QLabel("×", own))
        sizes.addWidget(self.high)
        self._form = QFormLayout()
        self._form.addRow("Known by", self.way)
        self._form.addRow("Paper", self.paper)
        self._form.addRow("Size", own)
        self._form.addRow("Length", self.known)
        self._own = own
        self.again = QPushButton("Find again", self)
        self.by_hand = QPushButton("By hand", self)
        self.quarter = QPushButton("Turn round", self)
        tools = QHBoxLayout()
        for button in (self.again, self.by_hand, self.quarter):
            tools.addWidget(button)
        self.leave = QPushButton("Not now", self)
        self.leave.setToolTip("The photo stays; its sheet can be shown any time")
        last = QHBoxLayout()
        last.addWidget(self.leave)
        last.addStretch(1)
        last.addWidget(self.keep)
        aside = QVBoxLayout()
        aside.setSpacing(10)
        aside.addWidget(self.status)
        aside.addLayout(self._form)
        aside.addLayout(tools)
        aside.addWidget(self.flat, 1)
        aside.addWidget(self.notes)
        apart = QHBoxLayout()
        apart.addWidget(self.leave_out)
        apart.addStretch(1)
        aside.addLayout(apart)
        aside.addLayout(last)
        side = QWidget(self)
        side.setLayout(aside)
        side.setFixedWidth(_ASIDE)
        row = QHBoxLayout(self)
        row.setContentsMargins(18, 18, 18, 18)
        row.setSpacing(18)
        row.addWidget(self.board, 1)
        row.addWidget(side)

    def _connect(self) -> None:
        self.way.activated.connect(lambda _: self.state.use(self.way.currentData()))
        self.paper.activated.connect(lambda _: self._choose_paper())
        for spin in (self.wide, self.high):
            spin.valueChanged.connect(lambda _: self._own_size())
        self.known.valueChanged.connect(self.state.set_known)
        self.again.clicked.connect(self._find_again)
        self.by_hand.clicked.connect(self._by_hand)
        self.quarter.clicked.connect(self.state.turn)
        self.leave.clicked.connect(self.reject)
        self.leave_out.clicked.connect(lambda: self.done(self.LEFT_OUT))
        self.keep.clicked.connect(self._accept)
        self.board.shown.connect(self._on_shown)

    # The finder

    def _on_found(self, result: tuple[tuple[QImage, ...], FoundSheet | NotMeasurable]) -> None:
        levels, self._found = result
        self._image = levels[0]
        self.board.show_levels(levels)
        self.flat.show_levels(levels)
        if not self.state.points:
            self.state.take(self._found)

    def _on_failed(self, message: str) -> None:
        self.state.status = message
        self._show()

    def _on_shown(self) -> None:
        """All four corners have been shown: follow the edges from there."""
        shown = self.state.points
        if self._image is not None and self.state.way == "corners" and len(shown) == 4:
            take = partial(self.state.draw_to_edges, shown)
            self._tasks.run(partial(_follow, self._image, shown), take, self._on_failed)

    def _find_again(self) -> None:
        if self._found is not None:
            self.state.points = ()
            self.state.take(self._found)

    def _by_hand(self) -> None:
        self.board.held = None
        self.state.start_again()

    # Sizes

    def _choose_paper(self) -> None:
        size = self.paper.currentData()
        self._sized = size is None
        self.state.set_size((self.wide.value(), self.high.value()) if size is None else tuple(size))

    def _own_size(self) -> None:
        self.state.set_size((self.wide.value(), self.high.value()))

    def _show(self) -> None:
        state = self.state
        self.status.setText(state.status)
        self.notes.setText("\n".join(state.notes()))
        self.way.setCurrentIndex(self.way.findData(state.way))
        corners, own = state.way == "corners", False
        if corners and state.size_mm is not None:
            sizes = [self.paper.itemData(i) for i in range(self.paper.count())]
            last = self.paper.count() - 1
            named = state.size_mm in sizes and not self._sized
            at = sizes.index(state.size_mm) if named else last
            self.paper.setCurrentIndex(at)
            own = self.paper.itemData(at) is None
            for spin, value in zip((self.wide, self.high), state.size_mm, strict=True):
                spin.blockSignals(True)
                spin.setValue(value)
                spin.blockSignals(False)
        elif corners:
            self.paper.setCurrentIndex(-1)
        self._form.setRowVisible(1, corners)
        self._form.setRowVisible(2, corners and own)
        self._form.setRowVisible(3, state.way in {"corner", "length"})
        self.known.blockSignals(True)
        self.known.setValue(state.known_mm)
        self.known.blockSignals(False)
        self.quarter.setEnabled(corners and len(state.points) == 4)
        self.by_hand.setEnabled(state.way != "none")
        ready = not isinstance(state.sheet(), NotMeasurable)
        self.keep.setEnabled(ready)
        self.keep.setText("Count in pixels" if state.way == "none" else "Keep this sheet")

    def _accept(self) -> None:
        found = self.state.sheet()
        if not isinstance(found, NotMeasurable):
            self.sheet = found
            self.accept()
