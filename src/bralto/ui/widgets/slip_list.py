"""Slips of paper below each other: a list for pointer, keys and screen readers alike."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import (
    QAbstractListModel,
    QModelIndex,
    QObject,
    QPointF,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QListView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from bralto.ui.theme.tokens import Tokens

__all__ = ["SlipList"]

Paint = Callable[[QPainter, QRectF, int], None]
"""Paints the slip of a row into its area."""

_MOVES = frozenset({
    Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp,
    Qt.Key.Key_PageDown,
})  # fmt: skip
_ONWARDS = frozenset({
    QAbstractItemView.CursorAction.MoveDown, QAbstractItemView.CursorAction.MoveRight,
    QAbstractItemView.CursorAction.MoveNext, QAbstractItemView.CursorAction.MovePageDown,
    QAbstractItemView.CursorAction.MoveEnd,
})  # fmt: skip
_TAKES = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space})


class SlipList(QListView):
    """Arrows go from slip to slip, Enter takes one; every other key is left to the place. Keys stop
    at slips that can be taken; where none can, there is nothing for keys to do.

    Signals: ``pointed`` the row under the pointer or the one that keys are at, -1 for none;
    ``taken`` a row and where it was clicked within its slip, or (0, 0) by key.
    """

    pointed = pyqtSignal(int)
    taken = pyqtSignal(int, QPointF)
    scrolled = pyqtSignal()

    def __init__(
        self, name: str, paint: Paint, tokens: Tokens, parent: QWidget, *, gap: float
    ) -> None:
        """``gap`` is the space below each slip, px."""
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setMouseTracking(True)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerItem)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _: self.scrolled.emit())
        self._rows = _Rows(self)
        self.setModel(self._rows)
        self.setItemDelegate(_Slip(paint, tokens, gap, self))

    def say(
        self, words: Sequence[str], heights: Sequence[float], stops: Sequence[bool] | None = None
    ) -> None:
        """Other slips.

        Args:
            words: what each says to who hears it.
            heights: how high each is, px without the gap.
            stops: which of them can be taken; all where nothing is said.
        """
        stops = (True,) * len(words) if stops is None else stops
        if self._rows.show(tuple(words), tuple(heights), tuple(stops)) and self.hasFocus():
            self._go_to_first()  # the keys were here before there was anything

    def count(self) -> int:
        """How many slips there are."""
        return len(self._rows.words)

    def first(self) -> int:
        """The row at the top."""
        bar = self.verticalScrollBar()
        return 0 if bar is None else bar.value()

    def below(self) -> int:
        """How many slips lie below those that are whole in sight."""
        return sum(not self.is_whole(row) for row in range(self.first(), self.count()))

    def is_whole(self, row: int) -> bool:
        """Whether a slip at or below the top ends in sight."""
        viewport = self.viewport()
        return viewport is not None and self.area(row).bottom() <= viewport.height() + 0.5

    def go_to(self, row: int, first: int) -> None:
        """Keys stand on a row again, where it is still there to be taken; another is at the top."""
        if 0 <= row < self.count() and self._rows.stops[row]:
            self.setCurrentIndex(self._rows.index(row, 0))
        self.executeDelayedItemsLayout()  # it is how far down there is
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(first)

    def area(self, row: int) -> QRectF:
        """Where a slip lies in the list, nowhere where there is none."""
        delegate = self.itemDelegate()
        assert isinstance(delegate, _Slip)
        rect = self.visualRect(self._rows.index(row, 0))
        return QRectF(rect).adjusted(0.0, 0.0, 0.0, -delegate.gap) if rect.isValid() else QRectF()

    def row_at(self, at: QPointF) -> int:
        """The row whose slip is there, or -1."""
        row = self.indexAt(at.toPoint()).row()
        return row if row >= 0 and self.area(row).contains(at) else -1

    def repaint_slips(self) -> None:
        """What is lit is another."""
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointed.emit(self.row_at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row = self.row_at(event.position())
        if row >= 0 and self._rows.stops[row]:
            self.setCurrentIndex(self._rows.index(row, 0))
        if row >= 0 and event.button() == Qt.MouseButton.LeftButton:
            self.taken.emit(row, event.position() - self.area(row).topLeft())

    def leaveEvent(self, event: object) -> None:
        self.pointed.emit(-1)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in _MOVES:
            super().keyPressEvent(event)
        elif key in _TAKES and self.currentIndex().isValid():
            self.taken.emit(self.currentIndex().row(), QPointF(0.0, 0.0))
        else:
            event.ignore()

    def moveCursor(
        self, action: QAbstractItemView.CursorAction, modifiers: Qt.KeyboardModifier
    ) -> QModelIndex:
        """To the next slip that can be taken, the way that the key goes."""
        found = super().moveCursor(action, modifiers)
        stops = [row for row, stop in enumerate(self._rows.stops) if stop]
        if not stops or not found.isValid():
            return found
        if action in _ONWARDS:
            row = next((one for one in stops if one >= found.row()), stops[-1])
        else:
            row = next((one for one in reversed(stops) if one <= found.row()), stops[0])
        return self._rows.index(row, 0)

    def _go_to_first(self) -> None:
        row = next((row for row, stop in enumerate(self._rows.stops) if stop), None)
        if row is not None:
            self.setCurrentIndex(self._rows.index(row, 0))

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        if self.hasFocus():
            self.pointed.emit(current.row())

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if event is not None and event.reason() == Qt.FocusReason.MouseFocusReason:
            return  # what is clicked is what is meant
        if not self.currentIndex().isValid():
            self._go_to_first()
        else:
            self.pointed.emit(self.currentIndex().row())

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.pointed.emit(-1)


class _Rows(QAbstractListModel):
    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.words: tuple[str, ...] = ()
        self.heights: tuple[float, ...] = ()
        self.stops: tuple[bool, ...] = ()

    def show(
        self, words: tuple[str, ...], heights: tuple[float, ...], stops: tuple[bool, ...]
    ) -> bool:
        """Whether they are others than before."""
        if (words, heights, stops) == (self.words, self.heights, self.stops):
            return False
        self.beginResetModel()
        self.words, self.heights, self.stops = words, heights, stops
        self.endResetModel()
        return True

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own
        return 0 if parent.isValid() else len(self.words)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        spoken = role in {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole}
        return self.words[index.row()] if spoken else None


class _Slip(QStyledItemDelegate):
    def __init__(self, paint: Paint, tokens: Tokens, gap: float, parent: SlipList) -> None:
        super().__init__(parent)
        self._paint, self._tokens, self.gap, self._list = paint, tokens, gap, parent

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        model = index.model()
        assert isinstance(model, _Rows)
        return QSize(10, round(model.heights[index.row()] + self.gap))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        area = QRectF(option.rect).adjusted(0.0, 0.0, 0.0, -self.gap)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint(painter, area, index.row())
        if self._list.hasFocus() and index == self._list.currentIndex():
            painter.setPen(QPen(self._tokens.colour("ink"), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(area.adjusted(1.0, 1.0, -1.0, -1.0), 3.0, 3.0)
        painter.restore()
