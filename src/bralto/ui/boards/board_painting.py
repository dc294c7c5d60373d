"""How a board is painted: its picture, what lies over it, and what of both is kept."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.study.two_boards import Board
from bralto.ui.boards.board_message import draw_message, message_place
from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.hands.line_hand import LineHand
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.overlays import overlay
from bralto.ui.boards.overlays.forms_and_canons import draw_laid
from bralto.ui.boards.overlays.marks_and_loupe import INKS
from bralto.ui.theme.layer import Layer

__all__ = ["BoardPainting"]


class BoardPainting:
    """Paints one board; what changes seldom is kept as a layer."""

    def __init__(self, board: HandledBoard, lines: LineHand, widget: QWidget) -> None:
        """``widget``: the board as the widget that it is."""
        self._board, self._lines = board, lines
        self._picture, self._laid, self._still = Layer(widget), Layer(widget), Layer(widget)
        self._laid_of: object = None
        self._laid_figure: object = None
        self._laid_number = 0
        self._painted: tuple[int, frozenset[str]] | None = None

    def forget_picture(self) -> None:
        """The picture is another, or looked at otherwise."""
        self._picture.forget()

    @property
    def is_behind(self) -> bool:
        """Whether the marks that were painted last are others by now."""
        return self._shows() != self._painted

    def paint(self, painter: QPainter) -> None:
        """Everything, from the picture up."""
        board = self._board
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = board.viewport, board.is_moving
        ground = board.tokens.colour("slip")
        painter.drawPixmap(0, 0, self._picture.pixmap(shown, self._paint_picture, ground))
        if board.over is not None:
            board.over(painter)
        words = board.message
        place, free = message_place(board, words) if words else (QRectF(), True)
        if not free:  # no mark is to lie under it
            draw_message(painter, board, words, place)
        self._paint_marks(painter)
        if board.above is not None:
            board.above(painter)
        if board.tool is None:
            self._lines.paint(painter)
        else:
            board.tool.paint(painter, QRectF(board.rect()), board.viewport)
        if board.hasFocus():
            self._focus_frame(painter)
        if words and free:
            draw_message(painter, board, words, place)
        self._painted = self._shows()

    def paint_laid_over(self, painter: QPainter) -> None:
        """The big forms and the canon; painted anew only where they are others, and once a mark
        that is dragged has been let go."""
        board, study = self._board, self._board.study
        if not study.now.dragging or self._laid_of is None:
            canon = study.session.canon
            canon_key = (canon.key if canon else "", study.study.canon)
            figure = study.examination.side(board.board).figure
            if figure is not self._laid_figure:  # kept: another could have its id, once it is gone
                self._laid_figure, self._laid_number = figure, self._laid_number + 1
            built = study.session.built if study.session.forms_on else ""
            self._laid_of = self._laid_number, built, canon_key
        laid = self._laid.pixmap((board.viewport, self._laid_of), lambda p: draw_laid(p, board))
        painter.drawPixmap(0, 0, laid)

    def _paint_picture(self, painter: QPainter) -> None:
        """The picture without marks."""
        board = self._board
        image = board.level_for(board.viewport.zoom)
        if image is not None:
            paint_laid(painter, board.viewport, image, smooth=not board.is_moving)

    def _paint_marks(self, painter: QPainter) -> None:
        """Marks, and the instruments over them."""
        board, study = self._board, self._board.study
        if study.now.dragging and not board.moving_mark and board.hover is None:
            # The hand is on the other board: what lies over this one changes seldom.
            key = self._shows(), board.viewport, study.current_pass, study.session.pointed
            over = self._still.pixmap(key, lambda p: overlay.draw_board(p, board))
            painter.drawPixmap(0, 0, over)
        else:
            self._still.forget()  # anything may be another by the next drag
            overlay.draw_board(painter, board)

    def _focus_frame(self, painter: QPainter) -> None:
        """The keys go here."""
        frame = QRectF(self._board.rect()).adjusted(1.0, 1.0, -1.0, -1.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for ink, wide in (("veil", 3.0), ("ink", 1.6)):
            painter.setPen(QPen(INKS.colour(ink), wide))
            painter.drawRect(frame)

    def _shows(self) -> tuple[int, frozenset[str]]:
        """What of the marks a board's overlay depends on, but for the drawing's verdicts."""
        study, board = self._board.study, self._board.board
        own = id(study.assessment if board == Board.DRAWING else study.picture(board))
        return own, study.now.ground.shared
