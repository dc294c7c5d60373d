"""Rows of a pass's slip: a glyph, words, figures at the right; chosen by pointer or by keys."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.verdict_names import Verdict
from bralto.ui.heard import Heard
from bralto.ui.theme.paint import (
    Align,
    check,
    elided,
    ring,
    rounded,
    text,
    verdict_mark,
    wrapped,
)
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Row", "Rows", "Tick"]

_LINE, _DETAIL, _GAP = 22.0, 17.0, 3.0
_INDENT = 24.0
_CHOOSE = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space})
_NARROW = 300.0
_TITLES = 20.0  # px for the titles of the columns
_MORE = 18.0  # px for the line that says how many are below


class Tick(StrEnum):
    """Whether something is done."""

    DONE = "yes"
    OPEN = "no"


_TICKS = {Tick.DONE: "done", Tick.OPEN: "open"}


@dataclass(frozen=True, slots=True)
class Row:
    """One row.

    Attributes:
        key: what `Rows.chosen` says of it; "" for one that cannot be chosen.
        right: figures in columns from the right edge, the last one first.
        glyph: a tick or a verdict, None for neither; ``way`` is where a triangle points.
        title: a heading between rows; its ``right`` are the titles of their columns.
        held: the one in force.
        points: marks that light up with it, and light it up.
    """

    key: str
    label: str
    detail: str = ""
    right: tuple[str, ...] = ()
    glyph: Tick | Verdict | None = None
    way: str = "up"
    role: str = "ink"
    title: bool = False
    held: bool = False
    points: tuple[str, ...] = ()

    @property
    def spoken(self) -> str:
        """The row for a screen reader."""
        said = _TICKS[self.glyph] if isinstance(self.glyph, Tick) else self.glyph or ""
        return ", ".join(part for part in (self.label, *self.right, self.detail, said) if part)


class Rows(QWidget):
    """Painted; a wheel or the arrow keys scroll where there are more than fit."""

    chosen = pyqtSignal(str)
    pointed = pyqtSignal(object)

    def __init__(
        self, tokens: Tokens, name: str, parent: QWidget | None = None, *, inset: float = 0.0
    ) -> None:
        super().__init__(parent)
        self._inset = inset
        self.setMouseTracking(True)
        self.setAccessibleName(name)
        self.heard = Heard(self, name)
        self._tokens = tokens
        self.rows: tuple[Row, ...] = ()
        self.columns: tuple[str, ...] = ()
        self.lit: str | None = None
        self._first = 0
        self._at: int | None = None  # the row that the keys stand on
        self._tall: tuple[tuple[Row, ...], int, list[float]] | None = None

    def say(self, rows: tuple[Row, ...], columns: tuple[str, ...] = ()) -> None:
        """Show other rows; ``columns`` are titles over the figures, as `Row.right` has them."""
        if (rows, columns) == (self.rows, self.columns):
            return
        self.rows, self.columns = rows, columns
        keyed = any(row.key for row in rows)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if keyed else Qt.FocusPolicy.NoFocus)
        self._first = min(self._first, max(0, len(rows) - 1))
        if self._at is not None and (self._at >= len(rows) or not rows[self._at].key):
            self._at = None
        self.heard.say(row.spoken for row in rows)
        self.update()

    def light(self, point: str | None) -> None:
        """Light up the rows of a mark."""
        if point != self.lit:
            self.lit = point
            self.update()

    @property
    def current(self) -> str:
        """Key of the row that the keys stand on, or ""."""
        return "" if self._at is None else self.rows[self._at].key

    # Where rows lie

    def laid(self) -> tuple[tuple[QRectF, int], ...]:
        """Where the rows in sight lie, px, with their places in `rows`."""
        y, spots = _TITLES if self.columns else 0.0, []
        heights = self._heights()
        for i in range(self._first, self._last()):
            high = heights[i]
            area = QRectF(self._inset, y, self.width() - 2.0 * self._inset, high)
            spots.append((area, i))
            y += high + _GAP
        return tuple(spots)

    def bring(self, at: int) -> QRectF:
        """Scroll until a row is in sight; gives where it lies then, px."""
        self._first = min(self._first, at)
        while at >= self._last():
            self._first += 1
        self.update()
        return next(area for area, i in self.laid() if i == at)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.columns:
            self._columns_at(painter, 14.0, self.columns, font(Size.NOTE), "ink2")
        for area, i in self.laid():
            self._row(painter, area, i)
        if (last := self._last()) < len(self.rows):
            self._more(painter, len(self.rows) - last)
        painter.end()

    def _last(self) -> int:
        """Behind the last row that fits; where some do not, a line is kept to say so."""
        ends, y = [], _TITLES if self.columns else 0.0
        for high in self._heights()[self._first :]:
            y += high + _GAP
            ends.append(y)
        if not ends or ends[-1] <= self.height() + _GAP:
            return len(self.rows)
        return self._first + max(1, sum(end <= self.height() - _MORE for end in ends))

    def _heights(self) -> list[float]:
        """Of all rows, px; worked out anew where they are others, or have other room."""
        shown = (self.rows, self.width())
        if self._tall is None or self._tall[0] is not shown[0] or self._tall[1] != shown[1]:
            self._tall = (*shown, [self._height(row) for row in self.rows])
        return self._tall[2]

    def _height(self, row: Row) -> float:
        if row.title:
            return _LINE + 8.0
        return _LINE + _DETAIL * len(self._details(row))

    def _details(self, row: Row) -> list[str]:
        """The second line, or two where it is long."""
        if not row.detail:
            return []
        indent = _INDENT if row.glyph else 6.0
        face, room = font(Size.FINE), self.width() - 2.0 * self._inset - indent - 6.0
        lines = wrapped(row.detail, face, room)
        rest = elided(" ".join(lines[1:]), face, room)
        return [elided(lines[0], face, room), *([rest] if rest else [])]

    def _more(self, painter: QPainter, count: int) -> None:
        face, ink2 = font(Size.FINE, italic=True), self._tokens.colour("ink2")
        edge, words = self.width() - self._inset - 4.0, f"{count} more below"
        text(painter, edge, self.height() - 4.0, words, face, ink2, Align.AlignRight)

    def _columns_at(
        self,
        painter: QPainter,
        baseline: float,
        words: tuple[str, ...],
        face: QFont,
        role: str,
    ) -> float:
        """Figures in columns; gives where they begin."""
        edge = left = self.width() - self._inset - 4.0
        for i, one in enumerate(words):
            shown = elided(one, face, 0.34 * self.width())
            colour = self._tokens.colour(role if i == 0 else "ink2")
            wide = text(painter, edge, baseline, shown, face, colour, Align.AlignRight)
            left = min(left, edge - wide)
            edge -= max(wide + 14.0, 78.0 if self.width() > _NARROW else 52.0)
        return left

    def _row(self, painter: QPainter, area: QRectF, i: int) -> None:
        tokens, row = self._tokens, self.rows[i]
        lit = row.held or (self.lit is not None and self.lit in row.points)
        if row.title:
            face = font(Size.TITLE, bold=True)
            left, base = self._inset, area.bottom() - 6.0
            wide = left + text(painter, left, base, row.label, face, tokens.colour("ink"))
            note, ink2 = font(Size.NOTE), tokens.colour("ink2")
            edge = self._columns_at(painter, base, row.right, note, "ink2") if row.right else 0.0
            room = (edge or self.width()) - wide - 14.0
            shown = elided(row.detail, note, room)
            text(painter, wide + 10.0, base, shown, note, ink2)
            return
        if lit:
            rounded(painter, area, tokens.colour("here"))
        if self._at == i and self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(tokens.colour("ink"), 1.4))
            painter.drawRoundedRect(area.adjusted(0.7, 0.7, -0.7, -0.7), 3.0, 3.0)
        base, left = area.top() + 16.0, area.left() + 6.0
        if row.glyph:
            self._glyph(painter, QPointF(area.left() + 10.0, area.top() + 11.0), row)
            left = area.left() + _INDENT
        bold = font(Size.NOTE, bold=True)
        right = self._columns_at(painter, base, row.right, bold, row.role)
        face = font(Size.NOTE, bold=bool(row.detail) or row.held)
        words = elided(row.label, face, right - left - 10.0)
        text(painter, left, base, words, face, tokens.colour("ink"))
        if row.detail:
            note = font(Size.FINE)
            for number, line in enumerate(self._details(row), start=1):
                text(painter, left, base + number * _DETAIL, line, note, tokens.colour("ink2"))

    def _glyph(self, painter: QPainter, at: QPointF, row: Row) -> None:
        tokens = self._tokens
        if row.glyph == Tick.DONE:
            check(painter, at, tokens.colour("ink"))
        elif row.glyph == Tick.OPEN:
            ring(painter, at, tokens.colour("ink2"))
        elif row.glyph is not None:
            verdict_mark(painter, at, row.glyph, row.way, tokens, 4.5)

    # Pointer and keys

    def _row_at(self, at: QPointF) -> Row | None:
        found = next((i for area, i in self.laid() if area.contains(at)), None)
        return None if found is None else self.rows[found]

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row = self._row_at(event.position())
        self.setToolTip("" if row is None else row.spoken)
        self.setCursor(
            Qt.CursorShape.PointingHandCursor if row and row.key else Qt.CursorShape.ArrowCursor
        )
        self.pointed.emit(row)

    def leaveEvent(self, event: object) -> None:
        self.pointed.emit(None)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row = self._row_at(event.position())
        if row is not None and row.key and event.button() == Qt.MouseButton.LeftButton:
            self._at = self.rows.index(row)
            self.chosen.emit(row.key)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self._scroll(-1 if event.angleDelta().y() > 0 else 1)
        event.accept()

    def _scroll(self, by: int) -> None:
        shown = self._last() - self._first
        self._first = min(max(self._first + by, 0), max(0, len(self.rows) - shown))
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in {Qt.Key.Key_Up, Qt.Key.Key_Down}:
            self._step(1 if key == Qt.Key.Key_Down else -1)
        elif key in _CHOOSE and self._at is not None:
            self.chosen.emit(self.rows[self._at].key)
        else:
            event.ignore()

    def _step(self, by: int) -> None:
        keyed = [i for i, row in enumerate(self.rows) if row.key]
        if not keyed:
            return
        if self._at in keyed:
            at = min(max(keyed.index(self._at) + by, 0), len(keyed) - 1)
        else:
            at = 0 if by > 0 else len(keyed) - 1
        self._at = keyed[at]
        self.bring(self._at)
        self.pointed.emit(self.rows[self._at])
        self.update()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        if self._at is None:
            self._step(1)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.update()
