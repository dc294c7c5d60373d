"""Rows of a pass's slip: a glyph, words, figures at the right; chosen by pointer or by keys."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.verdict_names import Verdict
from bralto.ui.theme.paint import (
    Align,
    check,
    elided,
    in_lines,
    ring,
    rounded,
    text,
    text_width,
    verdict_mark,
    wrapped,
)
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["Row", "Rows", "Tick"]

_LINE, _DETAIL, _GAP = 22.0, 17.0, 3.0
_INDENT, _AIR = 24.0, 10.0
_NARROW = 300.0
"""Width, px, below which columns stand closer."""
_MOST_LINES = 4
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
        ends = _TICKS[self.glyph] if isinstance(self.glyph, Tick) else self.glyph or ""
        said = ""
        for part in filter(None, (self.label, *self.right, self.detail, ends)):
            between = " " if said.endswith("?") else ", " if said else ""
            said += between + part.removesuffix(".")
        return said


class Rows(QWidget):
    """Rows as a list for pointer, keys and screen readers; titles of the columns above it, and
    below it a line that says how many rows do not fit."""

    chosen = pyqtSignal(str)
    pointed = pyqtSignal(object)

    def __init__(
        self, tokens: Tokens, name: str, parent: QWidget | None = None, *, inset: float = 0.0
    ) -> None:
        super().__init__(parent)
        self._tokens, self._inset = tokens, inset
        self.rows: tuple[Row, ...] = ()
        self.columns: tuple[str, ...] = ()
        self.lit: str | None = None
        self._saying = False
        self.list = SlipList(name, self._row, tokens, self, gap=_GAP)
        self.list.pointed.connect(self._point)
        self.list.taken.connect(self._take)
        self.list.scrolled.connect(self.update)
        self.setFocusProxy(self.list)

    def say(self, rows: tuple[Row, ...], columns: tuple[str, ...] = ()) -> None:
        """Show other rows; ``columns`` are titles over the figures, as `Row.right` has them."""
        if (rows, columns) != (self.rows, self.columns):
            self.rows, self.columns = rows, columns
            keys = Qt.FocusPolicy.StrongFocus if self.can_be_chosen else Qt.FocusPolicy.NoFocus
            self.list.setFocusPolicy(keys)
            self._lay()

    @property
    def can_be_chosen(self) -> bool:
        """Whether there is anything to choose, by pointer or by keys."""
        return any(row.key for row in self.rows)

    def light(self, point: str | None) -> None:
        """Light up the rows of a mark."""
        if point != self.lit:
            self.lit = point
            self.list.repaint_slips()

    @property
    def current(self) -> str:
        """Key of the row that the keys stand on, or ""."""
        at = self.list.currentIndex().row()
        return "" if at < 0 else self.rows[at].key

    # Where rows lie

    def resizeEvent(self, event: object) -> None:
        self._lay()

    def _lay(self) -> None:
        """Give the list its rows and its room; the row that keys stand on, and the one at the top,
        stay where they are."""
        at, first = self.list.currentIndex().row(), self.list.first()
        top = round(_TITLES) if self.columns else 0
        heights = [self._height(row) for row in self.rows]
        fits = sum(heights) + _GAP * len(heights) <= self.height() - top + _GAP
        room = self.height() - top - (0 if fits else round(_MORE))
        wide = round(self.width() - 2.0 * self._inset)
        self.list.setGeometry(round(self._inset), top, wide, max(0, room))
        self._saying = True
        stops = [bool(row.key) for row in self.rows]
        self.list.say([row.spoken for row in self.rows], heights, stops)
        self.list.go_to(at, first)
        self._saying = False
        self.list.repaint_slips()
        self.update()

    def _height(self, row: Row) -> float:
        if row.title:
            below = _DETAIL * len(self._note_below(row))
            return _LINE * len(self._title(row)) + 8.0 + below
        name, below = self._label(row)
        return _LINE + _DETAIL * (len(name) + below + len(self._details(row)) - 1)

    def _wide(self, row: Row) -> float:
        """What a row's words and figures have from its indent on, px."""
        left = 0.0 if row.title else self._indent(row)
        return self.width() - 2.0 * self._inset - left - 4.0

    def _title(self, row: Row) -> list[str]:
        """A heading in as many lines as it takes beside the titles of its columns."""
        room = self._wide(row) - self._beside(row)
        return wrapped(row.label, font(Size.TITLE, bold=True), room)

    def _note_below(self, row: Row) -> list[str]:
        """The note of a heading, where it has no room beside it."""
        after = text_width(self._title(row)[-1], font(Size.TITLE, bold=True)) + _AIR
        face = font(Size.NOTE)
        if text_width(row.detail, face) <= self._wide(row) - self._beside(row) - after:
            return []
        return in_lines(row.detail, face, self._wide(row), _MOST_LINES)

    def _label(self, row: Row) -> tuple[list[str], bool]:
        """The name in several lines where it is long, and whether its figures take a line of their
        own below it: beside them it would be cut."""
        face, wide = self._name_face(row), self._wide(row)
        room = wide - self._beside(row)
        lines = wrapped(row.label, face, room)
        cut = len(lines) > _MOST_LINES or any(text_width(one, face) > room for one in lines)
        below = cut and bool(row.right)
        return in_lines(row.label, face, wide if below else room, _MOST_LINES), below

    def _details(self, row: Row) -> list[str]:
        """The line below, or several where it is long."""
        if not row.detail:
            return []
        return in_lines(row.detail, font(Size.FINE), self._wide(row) - 2.0, _MOST_LINES)

    @staticmethod
    def _name_face(row: Row) -> QFont:
        return font(Size.NOTE, bold=bool(row.detail) or row.held)

    def _beside(self, row: Row) -> float:
        """What the columns at the right take, px, with air before them."""
        return _AIR - min((left for left, _ in self._columns(row, 0.0)), default=_AIR)

    def _indent(self, row: Row) -> float:
        return _INDENT if row.glyph else 6.0

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        edge = self.width() - self._inset - 4.0
        if self.columns:
            self._columns_at(painter, edge, 14.0, Row("", "", right=self.columns, title=True))
        if count := self.list.below():
            face, ink2 = font(Size.FINE, italic=True), self._tokens.colour("ink2")
            words = f"{count} more below"
            text(painter, edge, self.height() - 4.0, words, face, ink2, Align.AlignRight)
        painter.end()

    def _columns(self, row: Row, edge: float) -> list[tuple[float, str]]:
        """Figures in columns from the right edge: where each begins, and as much as is shown."""
        found, face = [], font(Size.NOTE, bold=not row.title)
        for one in row.right:
            shown = elided(one, face, self._wide(row) / len(row.right))
            wide = text_width(shown, face)
            found.append((edge - wide, shown))
            edge -= max(wide + 14.0, 78.0 if self.width() > _NARROW else 52.0)
        return found

    def _columns_at(self, painter: QPainter, edge: float, base: float, row: Row) -> None:
        """Figures in columns from the right edge, on a baseline."""
        face, first = font(Size.NOTE, bold=not row.title), "ink2" if row.title else row.role
        for i, (left, shown) in enumerate(self._columns(row, edge)):
            text(painter, left, base, shown, face, self._tokens.colour("ink2" if i else first))

    def _row(self, painter: QPainter, area: QRectF, i: int) -> None:
        if i > self.list.first() and not self.list.is_whole(i):
            return  # half a row reads as another one
        tokens, row, edge = self._tokens, self.rows[i], area.right() - 4.0
        if row.title:
            self._heading(painter, area, row)
            return
        if row.held or (self.lit is not None and self.lit in row.points):
            rounded(painter, area, tokens.colour("here"))
        base, left = area.top() + 16.0, area.left() + self._indent(row)
        if row.glyph:
            self._glyph(painter, QPointF(area.left() + 10.0, area.top() + 11.0), row)
        name, below = self._label(row)
        self._columns_at(painter, edge, base + _DETAIL * len(name) * below, row)
        for line in name:
            text(painter, left, base, line, self._name_face(row), tokens.colour("ink"))
            base += _DETAIL
        base += _DETAIL * below
        for line in self._details(row):
            text(painter, left, base, line, font(Size.FINE), tokens.colour("ink2"))
            base += _DETAIL

    def _heading(self, painter: QPainter, area: QRectF, row: Row) -> None:
        """A title, the titles of its columns, and its note beside or below it."""
        face, note, below = font(Size.TITLE, bold=True), font(Size.NOTE), self._note_below(row)
        ink, ink2 = self._tokens.colour("ink"), self._tokens.colour("ink2")
        left, base = area.left(), area.bottom() - 6.0
        for above, line in enumerate(reversed(below)):
            text(painter, left, base - above * _DETAIL, line, note, ink2)
        base -= len(below) * _DETAIL
        lines = self._title(row)
        for above, line in enumerate(reversed(lines)):
            text(painter, left, base - above * _LINE, line, face, ink)
        self._columns_at(painter, area.right() - 4.0, base, row)
        if not below:
            text(painter, left + text_width(lines[-1], face) + _AIR, base, row.detail, note, ink2)

    def _glyph(self, painter: QPainter, at: QPointF, row: Row) -> None:
        tokens = self._tokens
        if row.glyph == Tick.DONE:
            check(painter, at, tokens.colour("ink"))
        elif row.glyph == Tick.OPEN:
            ring(painter, at, tokens.colour("ink2"))
        elif row.glyph is not None:
            verdict_mark(painter, at, row.glyph, row.way, tokens, 4.5)

    # Pointer and keys

    def _point(self, at: int) -> None:
        if self._saying:
            return  # nobody pointed at another one
        row = self.rows[at] if at >= 0 else None
        self.list.setToolTip("" if row is None else row.spoken)
        hand = Qt.CursorShape.PointingHandCursor if row and row.key else Qt.CursorShape.ArrowCursor
        self.list.setCursor(hand)
        self.pointed.emit(row)

    def _take(self, at: int, _where: QPointF) -> None:
        if self.rows[at].key:
            self.chosen.emit(self.rows[at].key)
