"""How both boards are looked at: level with the ladder, together or each alone, mirrored."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPolygonF

from bralto.core.study.two_boards import Board
from bralto.core.views.model import REGIONS
from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.scales.ladder import Ladder
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.board_view import head_px
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import prompting

__all__ = ["BoardAlignment"]

_CLOSER, _NEAREST, _COARSEST = 0.86, 5.0, 3.0
"""Share of a board that a region of the head takes, how much nearer it is looked at at most, and
how many board px one px of a picture may take then."""

_ASIDE, _ABOVE = 0.06, 0.1
"""Shares of the length of what lies by which its outline goes beyond its marks at either side, and
above and below: half a head, and the hand of an arm of which the wrist is marked."""

_SHORTEST = 1e-3  # heads; marks in one spot have no length

_ACROSS, _BELOW = 0.9, 16.0
"""Share of a board's width that a figure may take, and px that stay free below it."""


class BoardAlignment:
    """The learner zooms and pans freely; a new pass begins aligned."""

    def __init__(self, boards: tuple[PictureBoard, PictureBoard], ladder: Ladder) -> None:
        self._boards, self._ladder, self._study = boards, ladder, boards[0].study
        self.linked = False
        self._moved_by_hand = False
        for board, other in (boards, boards[::-1]):
            board.panned.connect(partial(self._follow_pan, other))
            board.zoomed.connect(partial(self._follow_zoom, board, other))

    def align(self) -> None:
        """Both pictures at one height: crown and sole level with the ladder, in reference heads.

        Where a board has no unit yet it shows its whole picture.
        """
        self._moved_by_hand = False
        if self._study.lies:
            self._align_along()
            return
        smaller = self._to_fit() if self._ladder.isHidden() else 1.0
        for board in self._boards:
            tilt = (
                self._study.examination.side(board.board).tilt_deg
                if self._stands_upright()
                else 0.0
            )
            board.viewport = replace(board.viewport, upright_deg=-tilt)
            board.viewport = board.viewport.fitted(board.size().toSizeF())
            head = self._head(board)
            crown = point_on_board(board, self._study.view.edges[0])
            if head is not None and crown is not None and board.viewport.quarters == 0:
                zoom = smaller * self._ladder.px_per_head(self._boards[0].height()) / head
                image_crown = board.viewport.to_image(crown)
                middle = self._middle(board, zoom)
                board.viewport = board.viewport.aligned(
                    image_crown, QPointF(middle, self._ladder.y_of(0.0)), zoom
                )
        self._look_closer()
        for board in self._boards:
            board.viewed.emit()
            board.update()
        self._ladder.update()

    def _align_along(self) -> None:
        """Of a figure that lies: all of both at one scale, the plumb line of one below that of the
        other where the boards stand so. What cannot be laid so shows its whole picture."""
        for board in self._boards:
            board.viewport = replace(board.viewport, upright_deg=0.0)
            board.viewport = board.viewport.fitted(board.size().toSizeF())
        found = [(board, *lain) for board in self._boards if (lain := self._in_heads(board))]
        if found:
            left = min(box.left() for _, box, _ in found)
            right = max(box.right() for _, box, _ in found)
            wide = max(right - left, _SHORTEST)
            scale = min(
                min(
                    board.width() / ((1.0 + 2.0 * _ASIDE) * wide),
                    board.height() / (box.height() + 2.0 * _ABOVE * wide),
                )
                for board, box, _ in found
            )
            for board, box, head in found:
                at = board.at(self._study.view.plumb)
                assert at is not None
                there = QPointF(
                    0.5 * board.width() - 0.5 * scale * (left + right),
                    0.5 * board.height() - scale * box.center().y(),
                )
                image = board.viewport.to_image(at)
                board.viewport = board.viewport.aligned(image, there, scale / head)
        for board in self._boards:
            board.viewed.emit()
            board.update()

    def _in_heads(self, board: PictureBoard) -> tuple[QRectF, float] | None:
        """What holds the marks of a board that is shown, heads from the mark that the plumb line
        goes through, and px of such a head before zooming; None before there is that mark, and of
        a canon, which stands. Where no drawing tells the unit yet it is a px of the board."""
        at, places = board.at(self._study.view.plumb), self._places(board)
        canon = board.board == Board.REFERENCE and self._study.by_canon
        if board.isHidden() or canon or at is None or len(places) < 2:
            return None
        box = QPolygonF(places).boundingRect().translated(-at)
        head = self._head(board) or 1.0 / board.viewport.zoom
        one = 1.0 / (head * board.viewport.zoom)
        return QRectF(box.topLeft() * one, box.size() * one), head

    def _head(self, board: PictureBoard) -> float | None:
        return head_px(self._study.assessment, self._study.picture(board.board), board.board)

    def _look_closer(self) -> None:
        """At the region of a head whose marks are looked at, both pictures at one scale still; as
        long as each shows two of its marks."""
        region = prompting.region_in_sight(self._study.session)
        keys = self._study.view.region(region)
        boxes = [_box(board, keys) for board in self._boards if not board.isHidden()]
        if region in {"", REGIONS[-1]} or any(box is None for box in boxes):
            return
        sizes = [box.size() for box in boxes if box is not None]
        wide = max(max(size.width() for size in sizes), 1.0)
        high = max(max(size.height() for size in sizes), 1.0)
        for board in self._boards:
            box = _box(board, keys)
            if box is None:
                continue
            nearer = min(
                _CLOSER * board.width() / wide, _CLOSER * board.height() / high, _NEAREST,
                _COARSEST / board.viewport.zoom,
            )  # fmt: skip
            middle = board.viewport.to_image(box.center())
            board.viewport = board.viewport.aligned(
                middle, QRectF(board.rect()).center(), board.viewport.zoom * max(nearer, 1.0)
            )

    def _stands_upright(self) -> bool:
        """Whether a tilted head is shown upright: where it is read along its own centre line."""
        return bool(self._study.view.axis) and page_of(self._study.current_pass).along_itself

    def _to_fit(self) -> float:
        """How much smaller both figures must be so that no mark lies beside or below its board;
        only where no ladder ties them to its scale."""
        least = 1.0
        for board in self._boards:
            head = self._head(board)
            places = self._places(board)
            crown = point_on_board(board, self._study.view.edges[0])
            if head is None or not places or board.isHidden() or crown is None:
                continue
            zoom = self._ladder.px_per_head(self._boards[0].height()) / head / board.viewport.zoom
            xs = [at.x() for at in places]
            across = (max(xs) - min(xs)) * zoom
            down = (max(at.y() for at in places) - crown.y()) * zoom
            below = board.height() - self._ladder.y_of(0.0) - _BELOW
            least = min(least, _ACROSS * board.width() / max(across, 1.0), below / max(down, 1.0))
        return least

    def _places(self, board: PictureBoard) -> list[QPointF]:
        """Where a board's marks lie; the neck's foot and the hair matter in their own pass."""
        study, likeness = self._study, self._study.current_pass == PassKey.LIKENESS
        return [
            at
            for key in study.picture(board.board).placed()
            if (mark := study.view.landmark(key)) and (likeness or mark.step != PassKey.LIKENESS)
            if (at := board.at(key)) is not None
        ]

    def keep_aligned(self) -> None:
        """After another size: unless the learner looks elsewhere."""
        if not self._moved_by_hand:
            self.align()

    def mirror(self) -> None:
        """Both boards as in a mirror; the eye sees them fresh."""
        for board in self._boards:
            board.look(board.viewport.mirror(board.width()))

    def _middle(self, board: PictureBoard, zoom: float) -> float:
        """Where the crown goes so that the marks' extent is centred on the board, in board px."""
        places = [place.x() for place in self._places(board)]
        crown = board.at(self._study.view.edges[0])
        assert crown is not None
        extent = (min(places) + max(places)) / 2.0
        return board.width() / 2.0 + (crown.x() - extent) * zoom / board.viewport.zoom

    def _follow_pan(self, other: PictureBoard, by: QPointF) -> None:
        self._moved_by_hand = True
        if self.linked:
            other.look(other.viewport.panned(by))

    def _follow_zoom(
        self, board: PictureBoard, other: PictureBoard, factor: float, about: QPointF
    ) -> None:
        self._moved_by_hand = True
        if self.linked:
            # The same place of the figure: where the other board has its own height of it.
            across = about.x() * other.width() / max(1, board.width())
            other.look(other.viewport.zoomed(factor, QPointF(across, about.y())))


def _box(board: PictureBoard, keys: Iterable[str]) -> QRectF | None:
    """What holds those of the marks that a board shows, board px; None where they are fewer than
    two."""
    places = [at for key in keys if (at := board.at(key)) is not None]
    if len(places) < 2:
        return None
    return QPolygonF(places).boundingRect()
