"""How a picture lies on its board: turn, mirror, zoom, shift. No widgets, no painting."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, QSizeF
from PyQt6.QtGui import QPainterPath, QTransform

if TYPE_CHECKING:  # the shelf needs no NumPy
    from bralto.core.study.bend_grid import BendGrid

__all__ = ["Viewport"]

_NEAREST, _FARTHEST = 40.0, 0.01


@dataclass(frozen=True)
class Viewport:
    """Image px (y down) to board px: turned by the plumb correction, mirrored, zoomed, shifted.

    The photo of a curled sheet is painted with its bends taken out; *flat px* are px of that
    picture. Of any other picture they are its image px.

    Attributes:
        width, height: the picture's size, image px.
        plumb_deg: counter-clockwise turn.
        upright_deg: counter-clockwise turn beside it, by which a tilted head stands upright.
        zoom: board px an image px.
        shift: board px of the picture's middle.
        mirrored: left and right exchanged, as in a mirror.
        quarters: quarter turns clockwise, beside the plumb correction.
        bends: how the sheet curls; None where it lies flat.
        flat: (3, 3) map from flat px to px of the sheet seen straight on, row by row; None where
            the picture is shown as it was taken.
        frame: left, top, width, height of what is looked at, px after ``flat``; None for all.
    """

    width: int
    height: int
    plumb_deg: float = 0.0
    zoom: float = 1.0
    shift: QPointF = field(default_factory=QPointF)
    mirrored: bool = False
    quarters: int = 0
    flat: tuple[float, ...] | None = None
    frame: tuple[float, float, float, float] | None = None
    upright_deg: float = 0.0
    bends: BendGrid | None = None

    @property
    def whole(self) -> QRectF:
        """What is looked at, px after ``flat``."""
        return QRectF(*self.frame) if self.frame else QRectF(0.0, 0.0, self.width, self.height)

    def transform(self) -> QTransform:
        """The map from flat px to the board."""
        return QTransform(self._transform)

    @cached_property
    def _transform(self) -> QTransform:
        made = QTransform()
        made.translate(self.shift.x(), self.shift.y())
        made.scale(-self.zoom if self.mirrored else self.zoom, self.zoom)
        made.rotate(90.0 * self.quarters - self.plumb_deg - self.upright_deg)
        middle = self.whole.center()
        made.translate(-middle.x(), -middle.y())
        if self.flat is None:
            return made
        # Qt's matrices act on rows.
        a, b, c, d, e, f, g, h, i = self.flat
        return QTransform(a, d, g, b, e, h, c, f, i) * made

    def outline(self) -> QPainterPath:
        """The edge of what is looked at, board px."""
        path = QPainterPath()
        path.addRect(self.whole)
        return replace(self, flat=None).transform().map(path)

    def frame_corners(self) -> list[tuple[float, float]]:
        """Corners of what is looked at, flat px."""
        inverse, _ = self._transform.inverted()
        edge = inverse.map(self.outline().toFillPolygon())
        return [(edge.at(i).x(), edge.at(i).y()) for i in range(edge.size() - 1)]

    def to_board(self, x: float, y: float) -> QPointF:
        """Where an image point lies on the board."""
        return self._transform.map(self.to_flat(x, y))

    def to_image(self, at: QPointF) -> QPointF:
        """Which image point lies there on the board."""
        inverse, _ = self._transform.inverted()
        return self.from_flat(inverse.map(at))

    def to_flat(self, x: float, y: float) -> QPointF:
        """An image point in flat px."""
        return QPointF(x, y) if self.bends is None else QPointF(*self.bends.flat(x, y))

    def from_flat(self, flat: QPointF) -> QPointF:
        """The image point of a place in flat px."""
        return flat if self.bends is None else QPointF(*self.bends.curled(flat.x(), flat.y()))

    def fitted(self, board: QSizeF) -> Viewport:
        """The whole picture inside the board."""
        upright = replace(self, zoom=1.0, shift=QPointF(0.0, 0.0), flat=None)
        bounds = upright.transform().mapRect(self.whole)
        zoom = min(board.width() / bounds.width(), board.height() / bounds.height())
        return replace(self, zoom=zoom, shift=QPointF(board.width() / 2.0, board.height() / 2.0))

    def aligned(self, at: QPointF, board_at: QPointF, zoom: float) -> Viewport:
        """At a given zoom, with an image point lying at a given place of the board."""
        moved = replace(self, zoom=zoom)
        now = moved.to_board(at.x(), at.y())
        return replace(moved, shift=moved.shift + board_at - now)

    def zoomed(self, factor: float, about: QPointF) -> Viewport:
        """Nearer or farther, the point under the pointer staying where it is."""
        zoom = min(max(self.zoom * factor, _FARTHEST), _NEAREST)
        return self.aligned(self.to_image(about), about, zoom)

    def panned(self, by: QPointF) -> Viewport:
        """Shifted by board px."""
        return replace(self, shift=self.shift + by)

    def quarter(self, board: QSizeF) -> Viewport:
        """Turned by another quarter, whole on the board."""
        return replace(self, quarters=(self.quarters + 1) % 4).fitted(board)

    def mirror(self, board_width: float) -> Viewport:
        """Exchange left and right about the middle of the board."""
        shift = QPointF(board_width - self.shift.x(), self.shift.y())
        return replace(self, mirrored=not self.mirrored, shift=shift)
