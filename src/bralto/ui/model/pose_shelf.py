"""The poses that ship, as small pictures; two in a row, or one, the easiest first."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QScrollArea, QWidget

from bralto.core.mannequin.posing.poses import HARDEST, NamedPose, named_poses
from bralto.ui.model.drawn import small_picture
from bralto.ui.running.tasks import Tasks
from bralto.ui.theme.paint import text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["PoseShelf"]

_WIDE, _PICTURE, _TALL = 112, 132, 182
_GAP, _BAR = 10, 14


class PoseShelf(QScrollArea):
    """Chosen by a click, or by the arrows and Enter."""

    chosen = pyqtSignal(str)

    def __init__(self, tasks: Tasks, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.grid = _Grid(tasks, tokens, self)
        self.setWidget(self.grid)
        self.grid.chosen.connect(self.chosen)
        self.stand_in(2)

    @staticmethod
    def width_of(columns: int) -> int:
        """px that it takes with so many poses in a row."""
        return columns * (_WIDE + _GAP) - _GAP + _BAR

    def stand_in(self, columns: int) -> None:
        """So many poses in a row."""
        self.setFixedWidth(self.width_of(columns))
        self.grid.stand_in(columns)

    def hold_up(self, key: str) -> None:
        """Show which pose stands there; none of them for an empty key."""
        self.grid.hold_up(key)

    def pause(self, on: bool) -> None:
        """Make no small pictures while something is dragged: the large one has the processors."""
        self.grid.pause(on)


class _Grid(QWidget):
    chosen = pyqtSignal(str)

    def __init__(self, tasks: Tasks, tokens: Tokens, shelf: PoseShelf) -> None:
        super().__init__(shelf)
        self._tasks, self._tokens, self._shelf = tasks, tokens, shelf
        self.poses: tuple[NamedPose, ...] = tuple(
            sorted(named_poses().values(), key=lambda one: one.hard)
        )
        self.pictures: dict[str, QImage] = {}
        self._asked = 0
        self._paused = self.waiting = False
        self.current, self._held, self._columns = 0, "", 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Poses")
        self.heard = Heard(self, "Poses")
        self._say()

    def stand_in(self, columns: int) -> None:
        if columns != self._columns:
            self._columns = columns
            rows = -(-len(self.poses) // columns)
            self.setFixedSize(columns * (_WIDE + _GAP) - _GAP, rows * (_TALL + _GAP))
            self._bring_in_sight(self.current)
            self.update()

    def sizeHint(self) -> QSize:
        return self.size()

    def hold_up(self, key: str) -> None:
        if key != self._held:  # asked at every step of a drag
            self._held = key
            numbers = [i for i, pose in enumerate(self.poses) if pose.key == key]
            if numbers:
                self.current = numbers[0]
            self._say()
            self.update()

    def _say(self) -> None:
        said = [self._words(pose) for pose in self.poses]
        self.setAccessibleDescription(said[self.current])
        self.heard.say(said)

    def _words(self, pose: NamedPose) -> str:
        stands = ", stands there" if pose.key == self._held else ""
        return f"{pose.title}{stands}, difficulty {pose.hard} of {HARDEST}"

    def area(self, number: int) -> QRect:
        """Where a pose is."""
        row, column = divmod(number, self._columns)
        return QRect(column * (_WIDE + _GAP), row * (_TALL + _GAP), _WIDE, _TALL)

    # Pictures are made one after the other, so that the large one never waits long.

    def showEvent(self, event: object) -> None:
        if self._asked == 0:
            self._next()

    def pause(self, on: bool) -> None:
        self._paused = on
        if self.waiting and not on:
            self._next()

    @property
    def complete(self) -> bool:
        """Whether every pose has its picture."""
        return len(self.pictures) == len(self.poses)

    def _next(self) -> None:
        self.waiting = self._paused
        if self._asked < len(self.poses) and not self._paused:
            key = self.poses[self._asked].key
            self._asked += 1
            ratio = max(1, round(self.devicePixelRatioF()))
            work = partial(small_picture, key, ratio * _WIDE, ratio * _PICTURE)
            self._tasks.run(work, partial(self._came, key), self._lost)

    def _came(self, key: str, picture: QImage) -> None:
        self.pictures[key] = picture
        self.update()
        self._next()

    def _lost(self, message: str) -> None:
        self._next()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for number, pose in enumerate(self.poses):
            area = self.area(number)
            if area.intersects(event.rect()):
                self._pose(painter, QRectF(area), number, pose)
        painter.end()

    def _pose(self, painter: QPainter, area: QRectF, number: int, pose: NamedPose) -> None:
        tokens = self._tokens
        frame = QRectF(area.left(), area.top(), area.width(), _PICTURE)
        picture = self.pictures.get(pose.key)
        painter.fillRect(frame, tokens.colour("slip"))
        if picture is not None:
            painter.drawImage(frame, picture)
        held = pose.key == self._held
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if held:
            painter.setPen(QPen(tokens.colour("here"), 5.0))
            painter.drawRect(frame.adjusted(1, 1, -1, -1))
            painter.setPen(QPen(tokens.colour("ink"), 2.0))
            painter.drawRect(frame.adjusted(1, 1, -1, -1))
        if self.hasFocus() and number == self.current:
            painter.setPen(QPen(tokens.colour("ink"), 1.4, Qt.PenStyle.DotLine))
            painter.drawRect(frame.adjusted(4, 4, -4, -4))
        face = font(Size.FINE, bold=held)
        lines = wrapped(pose.title, face, area.width())[:2]
        for i, line in enumerate(lines):
            base = frame.bottom() + 15.0 + 15.0 * i
            text(painter, area.left(), base, line, face, tokens.colour("ink"))
        y = frame.bottom() + 15.0 * len(lines) + 9.0
        for i in range(HARDEST):
            painter.setPen(QPen(tokens.colour("ink2"), 1.0))
            filled = i < pose.hard
            painter.setBrush(tokens.colour("ink2") if filled else Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QRectF(area.left() + 1.0 + 9.0 * i, y - 3.0, 5.0, 5.0))

    # By hand

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for number in range(len(self.poses)):
            if self.area(number).contains(event.position().toPoint()):
                self._choose(number)

    def _choose(self, number: int) -> None:
        self.current = number
        self._say()
        self.update()
        self.chosen.emit(self.poses[number].key)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {
            Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -self._columns, Qt.Key.Key_Down: self._columns,
        }  # fmt: skip
        key = Qt.Key(event.key())
        if key in steps:
            there = self.current + steps[key]
            if 0 <= there < len(self.poses):
                self.current = there
                self._say()
                self._bring_in_sight(there)
                self.update()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._choose(self.current)
        else:
            event.ignore()

    def _bring_in_sight(self, number: int) -> None:
        at = self.area(number).center()
        self._shelf.ensureVisible(at.x(), at.y(), 0, _TALL // 2)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.update()
