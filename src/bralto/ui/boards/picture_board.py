"""A picture on a board: painted at any zoom, with marks that can be set, moved and nudged."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QPointF, QSizeF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QTabletEvent,
    QTouchEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from bralto.core.marking.mark_worth import placing_spread
from bralto.core.marking.repeats import kind_of
from bralto.core.marking.whereabouts import about_a_head
from bralto.core.study.two_boards import Board
from bralto.ui.boards.board_painting import BoardPainting
from bralto.ui.boards.board_view import lay
from bralto.ui.boards.hands.keyboard_placing import KeyHand
from bralto.ui.boards.hands.line_hand import LineHand
from bralto.ui.boards.hands.other_hands import Fingers, as_mouse
from bralto.ui.boards.hands.pointer_placing import PointerHand
from bralto.ui.boards.hands.tool_hand import ToolHand
from bralto.ui.boards.hands.tools import Tool
from bralto.ui.boards.overlays import overlay
from bralto.ui.boards.overlays.marks_and_loupe import MAGNIFY, loupe_focus
from bralto.ui.boards.shown_picture import ShownPicture
from bralto.ui.boards.viewport import Viewport
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing
from bralto.ui.session.moment import Moment
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.heard import Heard

__all__ = ["PictureBoard"]

_NOTCH = 1.2  # zoom a notch of the wheel
_AT_REST_MS = 120


class PictureBoard(QWidget):
    """One of the two boards. Marks go through `OpenStudy`; looking is the board's own."""

    viewed = pyqtSignal()
    panned = pyqtSignal(QPointF)
    zoomed = pyqtSignal(float, QPointF)
    begun = pyqtSignal(QPointF)
    """A click where a curve may begin, image px."""
    hovered = pyqtSignal(object)
    grasped = pyqtSignal()
    """A hand took hold of the board: it stays where it is."""

    def __init__(
        self, study: OpenStudy, board: Board, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setObjectName(f"{board}_board")
        self.setMouseTracking(True)
        self.setTabletTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_AcceptTouchEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumWidth(120)
        self.setAccessibleName("Reference" if board == Board.REFERENCE else "Your drawing")
        self.heard = Heard(self, "Marks")
        self.study, self.board, self.tokens = study, board, tokens
        picture = study.picture(board)
        self.viewport = lay(picture)
        self.candidate: QPointF | None = None  # image px, the crosshair that the keys move
        self.hover: QPointF | None = None  # board px
        self.loupe_on = True
        self.above: Callable[[QPainter], None] | None = None  # paints over everything
        self.overview = False  # near: the whole is shown in a corner
        self.quiet = False  # without marks and instruments
        self.plain = False  # without anything that tells
        self.overlay: overlay.Overlay = overlay.PLAIN
        self.over: Callable[[QPainter], None] | None = None  # paints over the picture
        self.shown = ShownPicture(self._on_shown, self.update)
        self._on_the_move = QTimer(self)  # while the hand zooms or pans: coarse, then smooth
        self._on_the_move.setSingleShot(True)
        self._on_the_move.setInterval(_AT_REST_MS)
        self._on_the_move.timeout.connect(self.update)
        self.tools: ToolHand = ToolHand(self, self)
        self._pointer = PointerHand(self)
        self._hand = KeyHand(self, self.lines, self.tools)
        self._painting = BoardPainting(self, self.lines, self)
        self._fingers = Fingers(self, self._pointer)
        self.under_finger = False  # the loupe stands above what points
        study.changed.connect(self._on_change)

    def release(self) -> None:
        """Let go of the study before the board is thrown away."""
        self.study.changed.disconnect(self._on_change)
        self._on_the_move.stop()

    # The picture

    def _on_shown(self) -> None:
        self._painting.forget_picture()
        self.update()

    @property
    def full_size(self) -> QImage | None:
        """The picture as fine as it is, flat px, or None while it is being opened."""
        return self.shown.whole(self.viewport.width)

    @property
    def message(self) -> str:
        """Why there is no picture, or ""."""
        return self.shown.message

    def look(self, viewport: Viewport) -> None:
        """Look at another part of the picture."""
        self.viewport = viewport
        self.viewed.emit()
        self.update()

    def look_on_the_way(self, viewport: Viewport, *, last: bool) -> None:
        """Look elsewhere while the board glides there: coarse until it has come to rest."""
        if not last:
            self._on_the_move.start()
        self.look(viewport)

    def relay(self) -> None:
        """Lay the picture anew: its sheet, plumb or crop may be another."""
        picture = self.study.picture(self.board)
        self.look(lay(picture, self.viewport).fitted(QSizeF(self.size())))

    def fit(self) -> None:
        """The whole picture on the board."""
        self.look(self.viewport.fitted(QSizeF(self.size())))

    def at(self, key: str) -> QPointF | None:
        """Where a mark lies on the board, or None."""
        mark = self.study.picture(self.board).marks.get(key)
        return None if mark is None else self.viewport.to_board(mark.x, mark.y)

    def level_for(self, zoom: float) -> QImage | None:
        """The smallest level of the picture that is not coarser than a zoom wants."""
        return self.shown.level_for(zoom * self.devicePixelRatioF() * self.viewport.width)

    @property
    def lines(self) -> LineHand:
        """The points of lines that are drawn already."""
        return self._pointer.lines

    @property
    def tool(self) -> Tool | None:
        """The tool in hand, see `ToolHand`."""
        return self.tools.tool

    @property
    def moving_mark(self) -> bool:
        """Whether a mark is in hand."""
        return self._pointer.key is not None

    @property
    def marking(self) -> bool:
        """Whether the hand is here to set a mark: then nothing lights up under it."""
        step = self.study.step
        return self.overview and step is not None and step.board == self.board

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        self._painting.paint(painter)
        painter.end()

    @property
    def is_moving(self) -> bool:
        """Whether the hand zooms or pans: what is coarse then is smooth once it rests."""
        return self._on_the_move.isActive()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.update()

    def paint_laid_over(self, painter: QPainter) -> None:
        """See `BoardPainting.paint_laid_over`."""
        self._painting.paint_laid_over(painter)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.viewed.emit()

    # Pointer

    def to_a_mark(self, place: QPointF) -> QPointF:
        """An image point, or the mark that it nearly hits: sticks are held to marks."""
        key = self._pointer.mark_at(self.viewport.to_board(place.x(), place.y()))
        mark = self.study.picture(self.board).marks.get(key or "")
        return place if mark is None else QPointF(mark.x, mark.y)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        self.take_hold()
        if self.tool is None:
            self._pointer.press(event.position(), pan=event.button() != Qt.MouseButton.LeftButton)
        elif event.button() == Qt.MouseButton.LeftButton:
            self.tools.press(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.hover, self.candidate = event.position(), None
        self.hovered.emit(self.hover)
        if self.tool is not None:
            self.tools.move(event.position())
        elif self._pointer.move(event.position()):
            return  # it is painted already
        else:
            known = self.study.view.landmark(self.study.session.pointed or "")
            self.setToolTip(f"{known.label}: {known.how}" if known else "")
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.tool is not None:
            self.tools.release()
        else:
            own = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self._pointer.release(event.position(), own=own)

    def tabletEvent(self, event: QTabletEvent | None) -> None:
        assert event is not None
        mouse = as_mouse(event)
        if mouse is not None:
            super().event(mouse)
            event.accept()

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QTouchEvent) and self.tool is None:
            self.setFocus()
            self._fingers.take(event)
            event.accept()
            return True
        return super().event(event)

    def take_hold(self) -> None:
        """A hand takes hold of the board: it stays where it is."""
        self.grasped.emit()

    def begin_curve(self, place: QPointF) -> None:
        """A curve may begin there, image px."""
        self.begun.emit(place)

    def aim(self, at: QPointF | None) -> None:
        """The loupe looks here (board px), or nowhere."""
        self.hover = at
        self.update()

    def pan(self, by: QPointF) -> None:
        """The picture is dragged along."""
        self._on_the_move.start()
        self.look(self.viewport.panned(by))
        self.panned.emit(by)

    def leaveEvent(self, event: object) -> None:
        self.hover = None
        self.hovered.emit(None)
        self.study.apply(pointing.point_at, None)
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        notches = event.angleDelta().y() / 120.0
        if notches:
            self._on_the_move.start()
            self.zoom(_NOTCH**notches, event.position())
        event.accept()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Nearer or farther about a point of the board, the middle where none is given."""
        about = about or QPointF(self.width() / 2.0, self.height() / 2.0)
        self.look(self.viewport.zoomed(factor, about))
        self.zoomed.emit(factor, about)

    def spread(self, *, nudged: bool = False, key: str | None = None) -> float:
        """SD of placing a mark as it is seen now, image px; the learner's own where it is known.

        Args:
            key: the mark; the one that is asked for where it is not given.
        """
        step = self.study.step
        key = key or (step.key if step is not None else "")
        own = self.study.session.hand.get(kind_of(key))
        if own is not None:
            return own * about_a_head(self.study.view, self.study.picture(self.board))
        loupe = MAGNIFY if loupe_focus(self) is not None else 1.0
        return placing_spread(self.viewport.zoom, loupe=loupe, nudged=nudged)

    # Keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if not self._hand.take(event):
            event.ignore()

    def start_of_keys(self) -> QPointF:
        """Where the crosshair begins, see `KeyHand`."""
        return self._hand.start()

    def cancel_drag(self) -> bool:
        """Put back a mark that is being dragged; False where none is."""
        return self._pointer.cancel()

    def _on_change(self, before: Moment, after: Moment) -> None:
        in_hand, step = after.session.in_hand, after.session.step
        if in_hand is not None and after.examination is before.examination:
            if in_hand.board == self.board:
                self.repaint()  # a mark follows the hand; figures follow it
            return
        if in_hand is not None and not self._painting.is_behind:
            return  # the other board's marks moved
        if after.pictures_changed(before) or after.boards_changed(before):
            self.relay()
        if step is not None and step != before.session.step:
            asked = step.board == self.board
            self.setCursor(Qt.CursorShape.CrossCursor if asked else Qt.CursorShape.ArrowCursor)
        self.update()
