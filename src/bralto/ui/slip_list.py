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
_TAKES = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space})


class SlipList(QListView):
    """Arrows go from slip to slip, Enter takes one; every other key is left to the place.

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

    def say(self, words: Sequence[str], heights: Sequence[float]) -> None:
        """Other slips: what each says to who hears it, and how high it is, px without the gap."""
        if (tuple(words), tuple(heights)) != (self._rows.words, self._rows.heights):
            self._rows.show(words, heights)
            if self.hasFocus() and words:  # the keys were here before there was anything
                self.setCurrentIndex(self._rows.index(0, 0))

    def count(self) -> int:
        """How many slips there are."""
        return len(self._rows.words)

    def first(self) -> int:
        """The row at the top."""
        bar = self.verticalScrollBar()
        return 0 if bar is None else bar.value()

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
        if row >= 0:
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

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        if self.hasFocus():
            self.pointed.emit(current.row())

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if event is not None and event.reason() == Qt.FocusReason.MouseFocusReason:
            return  # what is clicked is what is meant
        if not self.currentIndex().isValid() and self.count():
            self.setCurrentIndex(self._rows.index(0, 0))
        elif self.currentIndex().isValid():
            self.pointed.emit(self.currentIndex().row())

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.pointed.emit(-1)


class _Rows(QAbstractListModel):
    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.words: tuple[str, ...] = ()
        self.heights: tuple[float, ...] = ()

    def show(self, words: Sequence[str], heights: Sequence[float]) -> None:
        self.beginResetModel()
        self.words, self.heights = tuple(words), tuple(heights)
        self.endResetModel()

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
