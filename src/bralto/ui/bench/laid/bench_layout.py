"""Where the bench's parts stand, and what of them a pass shows: the boards side by side with the
ladder between them, or, for a figure that lies, one above the other and the lists beside."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QVBoxLayout, QWidget

from bralto.core.study.two_boards import BOARDS, Board
from bralto.ui.bench.laid.edge import Edge
from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.told.correction_list import Moves
from bralto.ui.bench.told.doubt_slips import Doubts
from bralto.ui.bench.told.off_list import FOLDED, UNFOLDED, OffList

__all__ = ["BenchLayout"]

_MARGIN = 24
_LOWER = 132  # height of rails and figures below the ladder, px
_BELOW = 80  # height of the rails where each board has its own above the other, px
_LEAST, _LEAST_ABOVE = 160, 96  # height of a board, and where another stands above or below, px
_BESIDE = 320  # of the lists beside such boards, px
_NARROW = 260  # of the ladder where the boards want the width: a head is nearly as wide as high
_FOLD_BELOW = 1100  # window width under which the list folds to a strip
_ALONE = (None, 0, 1)  # which board has the room of both

Cell = tuple[int, int, int, int]
"""Row and column in the grid, and how many of either."""


class _Places(NamedTuple):
    """Where the parts of the bench stand in its grid.

    Attributes:
        headings: over the reference, the middle, the drawing and the list.
        upper: reference, ladder and drawing; ``lower``, the rails and the list below the ladder.
        whole: what stands in the ladder's place; ``right``, in the drawing's.
        aside: the list of corrections.
        edges: of the middle and of the list, where they are drawn back.
        boards: row or column that either board takes its room from.
    """

    headings: tuple[Cell, Cell, Cell, Cell]
    upper: tuple[Cell, Cell, Cell]
    lower: tuple[Cell, Cell, Cell]
    whole: Cell
    right: Cell
    aside: Cell
    edges: tuple[Cell, Cell]
    boards: tuple[int, int]


_SIDE_BY_SIDE = _Places(
    headings=((0, 0, 1, 1), (0, 1, 1, 1), (0, 2, 1, 1), (0, 4, 1, 1)),
    upper=((1, 0, 1, 1), (1, 1, 1, 1), (1, 2, 1, 1)),
    lower=((2, 0, 1, 1), (2, 1, 1, 1), (2, 2, 1, 1)),
    whole=(1, 1, 2, 1),
    right=(1, 2, 2, 3),
    aside=(1, 4, 2, 1),
    edges=((0, 1, 3, 1), (0, 4, 3, 1)),
    boards=(0, 2),
)
_ONE_ABOVE = _Places(
    headings=((0, 0, 1, 1), (0, 1, 1, 1), (3, 0, 1, 1), (0, 4, 1, 1)),
    upper=((1, 0, 1, 1), (1, 1, 1, 1), (4, 0, 1, 1)),
    lower=((2, 0, 1, 1), (1, 1, 5, 1), (5, 0, 1, 1)),
    whole=(1, 1, 5, 1),
    right=(1, 2, 5, 3),
    aside=(1, 4, 5, 1),
    edges=((0, 1, 6, 1), (0, 4, 6, 1)),
    boards=(1, 4),
)


_ROWS, _COLUMNS = range(6), range(5)
_ANY_HEIGHT = (1 << 24) - 1  # Qt's QWIDGETSIZE_MAX, which PyQt6 does not name


class BenchLayout:
    """Reference, middle, drawing, air, list, with the rails below; or reference above drawing."""

    def __init__(
        self,
        bench: QWidget,
        headings: Sequence[QWidget],
        upper: tuple[QWidget, QWidget, QWidget],
        rails: tuple[QWidget, QWidget],
        middle: MiddleColumn,
        lists: tuple[Doubts, Moves, OffList],
        edges: tuple[Edge, Edge],
        *,
        narrow_ladder: bool = False,
    ) -> None:
        self._headings, self._upper, self._rails = headings, upper, rails
        self._middle, (self._doubts, self._moves, self._off) = middle, lists
        self._narrow_ladder, self._wide = narrow_ladder, 0
        self._edges, self._drawn_back = edges, False
        self._aside = QWidget(bench)
        self.room: QWidget | None = None
        self._alone: int | None = None
        self._grid = grid = QGridLayout(bench)
        grid.setContentsMargins(_MARGIN, 6, _MARGIN, 8)
        grid.setHorizontalSpacing(0)
        grid.setVerticalSpacing(6)
        grid.setColumnMinimumWidth(3, _MARGIN)
        wide = QSizePolicy.Policy.Ignored
        for above in upper:
            above.setSizePolicy(wide, QSizePolicy.Policy.Expanding)
        for whole in (middle.whole, middle.right):
            whole.setSizePolicy(wide, wide)
        # A window may be lower than what is told would have it.
        self._aside.setSizePolicy(QSizePolicy.Policy.Preferred, wide)
        stack = QVBoxLayout(self._aside)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(self._doubts)
        stack.addWidget(self._moves)
        stack.addWidget(self._off, 1)
        self._places = _SIDE_BY_SIDE
        self._lay()

    @property
    def stacked(self) -> bool:
        """Whether one board stands above the other."""
        return self._places is _ONE_ABOVE

    def _lay(self) -> None:
        """Put every part where it stands."""
        at, middle = self._places, self._middle
        parts = (
            *zip(self._headings, at.headings, strict=True),
            *zip(self._upper, at.upper, strict=True),
            *zip((self._rails[0], middle.below, self._rails[1]), at.lower, strict=True),
            *zip(self._edges, at.edges, strict=True),
            (middle.whole, at.whole), (middle.right, at.right), (self._aside, at.aside),
        )  # fmt: skip
        for part, _ in parts:
            self._grid.removeWidget(part)
        for part, cell in parts:
            self._grid.addWidget(part, *cell)
        for board in (self._upper[0], self._upper[2]):
            board.setMinimumHeight(_LEAST_ABOVE if self.stacked else _LEAST)
        ignored, fixed = QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed
        for below in (*self._rails, middle.below):
            high = _BELOW if self.stacked else _LOWER
            below.setSizePolicy(ignored, fixed)
            below.setMinimumHeight(high)
            below.setMaximumHeight(high)
        if self.stacked:
            middle.below.setSizePolicy(ignored, ignored)
            middle.below.setMaximumHeight(_ANY_HEIGHT)
        for row in _ROWS:
            self._grid.setRowStretch(row, 0)
        for column in _COLUMNS:
            self._grid.setColumnStretch(column, 0)
        if self.stacked:
            self._grid.setColumnStretch(0, 1)
        else:
            self._grid.setRowStretch(1, 1)

    def arrange(self, size: QSize) -> None:
        """The ladder keeps 200 to 360 px, a narrow list folds, the boards share the rest."""
        folded = size.width() < _FOLD_BELOW
        self._off.folded = self._moves.folded = self._doubts.folded = folded
        if not self._drawn_back:
            self._headings[3].setVisible(not folded and not self._aside.isHidden())
        self._aside.setFixedWidth(FOLDED if folded else UNFOLDED)
        self._doubts.arrange()
        self._moves.arrange()
        self._off.arrange()
        self._wide = size.width()
        self._share()
        self._grid.activate()

    def _share(self) -> None:
        """The middle's width."""
        width = round(min(max(0.31 * self._wide, 200), _BESIDE if self.stacked else 360))
        if self._narrow_ladder and self._upper[1].isVisibleTo(self._upper[1].parentWidget()):
            width = min(width, _NARROW)
        for part in (self._upper[1], self._middle.below, self._middle.whole):
            part.setFixedWidth(width)
        self._grid.setColumnMinimumWidth(1, 0 if self._drawn_back else width)

    def add_room(self, room: QWidget) -> None:
        """What has the whole bench to itself in its pass; it lies over all columns."""
        self.room = room
        room.hide()

    def _leave_all_to_the_room(self) -> None:
        middle = self._middle
        for part in (*self._headings, *self._upper, *self._rails, middle.below, middle.whole,
                     middle.right, self._aside):  # fmt: skip
            part.setVisible(False)

    def turn_boards(self) -> None:
        """One board has the room of both, then the other, then they share it again."""
        self._alone = _ALONE[(_ALONE.index(self._alone) + 1) % len(_ALONE)]

    def show_pass(
        self,
        key: str,
        middle: MiddleColumn,
        *,
        boards_first: Sequence[Board] = (),
        lies: bool = False,
    ) -> None:
        """Show what belongs to a pass, and nothing else.

        Args:
            lies: whether the figure lies; boards that are wider than high stand one above the
                other, but beside a planned sheet.
            boards_first: for which boards ladder and list are drawn back to their edges; one that
                is named alone has the room of both.
        """
        room = page_of(key).room and self.room is not None
        if self.room is not None:
            self.room.setVisible(room)
        if room:
            self._leave_all_to_the_room()
            return
        reference, ladder_, drawing = self._upper
        ladder, paper = middle.show_pass(key)
        places = _ONE_ABOVE if lies and not paper else _SIDE_BY_SIDE
        if places is not self._places:
            self._places = places
            self._lay()
        back = self._drawn_back = bool(boards_first)
        for edge in self._edges:
            edge.setVisible(back)
        ladder_.setVisible(ladder and not back and not self.stacked)
        self._share()
        middle.below.setVisible(ladder and not back)
        middle.whole.setVisible(not ladder and not back)
        middle.right.setVisible(paper and not back)
        self._aside.setVisible(not paper and middle.eye_first is None and not back)
        self._headings[1].setVisible(not back)
        self._headings[3].setVisible(not self._aside.isHidden() and not self._off.folded)
        rails = (ladder or page_of(key).rails) and middle.eye_first is None and not back
        alone = self._alone
        if alone is None and len(boards_first) == 1:
            alone = BOARDS.index(boards_first[0])
        stretch = self._grid.setRowStretch if self.stacked else self._grid.setColumnStretch
        for number, (board, rail) in enumerate(zip((reference, drawing), self._rails, strict=True)):
            mine = alone in (None, number)
            board.setVisible(mine and not (number == 1 and paper))
            rail.setVisible(rails and not board.isHidden())
            shown = mine or (number == 1 and paper)
            stretch(self._places.boards[number], int(shown))
            self._headings[2 * number].setVisible(shown)
        self._grid.activate()
