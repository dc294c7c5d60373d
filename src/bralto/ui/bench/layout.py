"""Where the bench's parts stand: five columns, and what of them a pass shows."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QVBoxLayout, QWidget

from bralto.ui.bench.correction_list import Moves
from bralto.ui.bench.doubt_slips import Doubts
from bralto.ui.bench.edge import Edge
from bralto.ui.bench.middle_column import Middle
from bralto.ui.bench.off_list import FOLDED, UNFOLDED, OffList
from bralto.ui.bench.pass_pages import page_of

__all__ = ["BenchLayout"]

_MARGIN = 24
_LOWER = 132  # height of rails and figures below the ladder, px
_NARROW = 260  # of the ladder where the boards want the width: a head is nearly as wide as high
_FOLD_BELOW = 1100  # window width under which the list folds to a strip
_ALONE = (None, 0, 2)  # columns of the board that has the room of both


class BenchLayout:
    """Reference, middle, drawing, air, list; the lower row is the rails'."""

    def __init__(
        self,
        bench: QWidget,
        headings: Sequence[QWidget],
        upper: tuple[QWidget, QWidget, QWidget],
        rails: tuple[QWidget, QWidget],
        middle: Middle,
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
        for column, heading in zip((0, 1, 2, 4), headings, strict=True):
            grid.addWidget(heading, 0, column)
        wide = QSizePolicy.Policy.Ignored
        lower: tuple[QWidget, ...] = (rails[0], middle.below, rails[1])
        for column, (above, below) in enumerate(zip(upper, lower, strict=True)):
            above.setSizePolicy(wide, QSizePolicy.Policy.Expanding)
            below.setSizePolicy(wide, QSizePolicy.Policy.Fixed)
            below.setFixedHeight(_LOWER)
            grid.addWidget(above, 1, column)
            grid.addWidget(below, 2, column)
        stack = QVBoxLayout(self._aside)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(self._doubts)
        stack.addWidget(self._moves)
        stack.addWidget(self._off, 1)
        for column, span, whole in ((1, 1, middle.whole), (2, 3, middle.right)):
            whole.setSizePolicy(wide, wide)
            grid.addWidget(whole, 1, column, 2, span)
        grid.addWidget(self._aside, 1, 4, 2, 1)
        for column, edge in zip((1, 4), edges, strict=True):
            grid.addWidget(edge, 0, column, 3, 1)
        grid.setRowStretch(1, 1)

    def arrange(self, size: QSize) -> None:
        """The ladder keeps 200 to 360 px, a narrow list folds, the boards share the rest."""
        folded = size.width() < _FOLD_BELOW
        self._off.folded = self._moves.folded = self._doubts.folded = folded
        if not self._drawn_back:
            self._headings[3].setVisible(not folded and not self._aside.isHidden())
        self._aside.setFixedWidth(FOLDED if folded else UNFOLDED)
        self._doubts.arrange()
        self._moves.arrange()
        self._wide = size.width()
        self._share()
        self._grid.activate()

    def _share(self) -> None:
        """The middle's width."""
        width = round(min(max(0.31 * self._wide, 200), 360))
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

    def show_pass(self, key: str, middle: Middle, *, boards_first: str = "") -> None:
        """Show what belongs to a pass, and nothing else.

        Args:
            boards_first: ladder and list are drawn back to their edges for ``both`` boards, or for
                the ``reference`` or the ``drawing`` alone; "" where nothing is drawn back.
        """
        room = page_of(key).room and self.room is not None
        if self.room is not None:
            self.room.setVisible(room)
        if room:
            self._leave_all_to_the_room()
            return
        reference, ladder_, drawing = self._upper
        ladder, paper = middle.show_pass(key)
        back = self._drawn_back = bool(boards_first)
        for edge in self._edges:
            edge.setVisible(back)
        ladder_.setVisible(ladder and not back)
        self._share()
        middle.below.setVisible(ladder and not back)
        middle.whole.setVisible(not ladder and not back)
        middle.right.setVisible(paper and not back)
        self._aside.setVisible(not paper and middle.eye_first is None and not back)
        self._headings[1].setVisible(not back)
        self._headings[3].setVisible(not self._aside.isHidden() and not self._off.folded)
        rails = (ladder or page_of(key).rails) and middle.eye_first is None and not back
        alone = self._alone
        if alone is None and back:
            alone = {"reference": 0, "drawing": 2}.get(boards_first)
        for column, board, rail in ((0, reference, self._rails[0]), (2, drawing, self._rails[1])):
            mine = alone in (None, column)
            board.setVisible(mine and not (column == 2 and paper))
            rail.setVisible(rails and not board.isHidden())
            shown = mine or (column == 2 and paper)
            self._grid.setColumnStretch(column, int(shown))
            self._headings[column].setVisible(shown)
        self._grid.activate()
