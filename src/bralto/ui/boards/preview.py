"""The drawing as it would look corrected, laid over it; the pointer wipes it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

import numpy as np
from PyQt6.QtCore import QObject, QPointF, QRectF, pyqtSignal
from PyQt6.QtGui import QImage, QPainter, QPen

from bralto.core.arrays import Floats
from bralto.core.corrections.corrected import corrected_marks
from bralto.core.corrections.correction_words import Correction
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.ui.boards.board_view import in_flat_px
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pixels import as_image, as_pixels
from bralto.ui.running.tasks import Tasks
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["Preview"]


def _bent(source: QImage, marks: Floats, places: Floats, frame: Floats | None) -> QImage:
    from bralto.imaging.bent import bend  # slow to load

    return as_image(bend(as_pixels(source), marks, places, frame))


def _places(marks: Mapping[str, Mark], keys: Sequence[str]) -> Floats:
    """(n, 2) image px."""
    return np.array([[marks[key].x, marks[key].y] for key in keys])


class Preview(QObject):
    """Of the held correction alone, or of all that are listed; gone once a mark moves."""

    changed = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(self, board: PictureBoard, tasks: Tasks) -> None:
        super().__init__(board)
        self._board, self._tasks = board, tasks
        self.image: QImage | None = None
        self.on, self._asked = False, 0
        board.over = self.paint
        board.study.changed.connect(self._on_change)

    def release(self) -> None:
        """Let go of the study."""
        self._board.study.changed.disconnect(self._on_change)
        self._tasks.call_off(self)

    def toggle(self) -> None:
        """Show the corrected drawing, or the drawing again."""
        if self.on:
            self.put_away()
            return
        study = self._board.study
        if study.now.listed.awaits_list:
            study.advice.search_now()
        chosen = (study.session.held,) if study.session.held is not None else study.corrections
        source = self._board.shown.look_source()
        if not chosen:
            self.trouble.emit("There is nothing to correct, or too few marks to tell.")
        elif source is None:
            self.trouble.emit("The drawing's picture is not there.")
        else:
            self._begin(chosen, source)

    def _begin(self, chosen: tuple[Correction, ...], source: QImage) -> None:
        board = self._board
        picture = board.study.picture(Board.DRAWING)
        wanted = corrected_marks(picture, chosen)
        if isinstance(wanted, NotMeasurable):
            self.trouble.emit(wanted.reason)
            return
        shrink = source.width() / picture.width
        keys = list(wanted)
        marks, places = (
            shrink * in_flat_px(board.viewport, _places(one, keys))
            for one in (picture.marks, wanted)
        )
        frame = None
        if board.viewport.frame is not None:  # what lies beside the sheet stays where it is
            frame = shrink * np.array(board.viewport.frame_corners())
        self.on = True
        self._asked += 1  # an older one that comes late is not shown
        work = partial(_bent, source, marks, places, frame)
        self._tasks.run(work, partial(self._take, self._asked), self.trouble.emit)
        self.changed.emit()

    def _take(self, asked: int, image: QImage) -> None:
        if self.on and asked == self._asked:
            self.image = image
            self._board.quiet = True
            self._board.update()

    def put_away(self) -> None:
        """The drawing as it is."""
        if self.on:
            self.on, self.image, self._board.quiet = False, None, False
            self._board.update()
            self.changed.emit()

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.ground is not before.ground or after.measured_otherwise(before):
            self.put_away()

    def paint(self, painter: QPainter) -> None:
        """Right of the pointer; over the whole board while the pointer is elsewhere."""
        if self.image is None:
            return
        board = self._board
        edge = board.hover.x() if board.hover is not None else 0.0
        painter.save()
        painter.setClipRect(QRectF(edge, 0.0, board.width() - edge, board.height()))
        painter.fillRect(QRectF(board.rect()), board.tokens.colour("slip"))
        paint_laid(painter, board.viewport, self.image)
        painter.restore()
        ink, veil, face = LIGHT.colour("ink"), LIGHT.colour("veil"), font(Size.FINE, bold=True)
        halo_text(painter, QPointF(board.width() - 76.0, 20.0), "corrected", face, ink, veil)
        if edge > 0.0:
            painter.setPen(QPen(LIGHT.colour("red"), 1.2))
            painter.drawLine(QPointF(edge, 0.0), QPointF(edge, float(board.height())))
            if edge > 80.0:
                halo_text(painter, QPointF(12.0, 20.0), "as drawn", face, ink, veil)
