"""The marks of both pictures side by side, those that they share first, and their best fit."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.fit.similarity import Similarity, fit_similarity
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks, sight_marks
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["Pair", "pair_marks"]


@dataclass(frozen=True, slots=True)
class Pair:
    """Sight marks of both pictures; the first ``shared`` rows of each are the same landmarks."""

    seen: SightMarks
    drawn: SightMarks
    shared: int

    @property
    def common(self) -> frozenset[str]:
        """Landmarks that both pictures have."""
        return frozenset(self.seen.keys[: self.shared])

    def only(self, keys: tuple[str, ...]) -> Pair:
        """The same pair with these shared marks alone, in this order."""
        return Pair(self.seen.picked(keys), self.drawn.picked(keys), len(keys))

    def shared_only(self) -> Pair:
        """The same pair without the marks that one picture lacks."""
        return self.only(self.seen.keys[: self.shared])

    def placing_sd(self) -> Floats:
        """(shared,) placing SD of each shared mark, both pictures together, in drawing units.

        The reference's part is brought over by the ratio of the two extents: near enough for
        weights, and it needs no fit.
        """
        n = self.shared
        extent = [
            np.ptp(marks.xy[:n], axis=0).max() if n else 0.0 for marks in (self.seen, self.drawn)
        ]
        ratio = extent[1] / extent[0] if extent[0] > 0.0 else 1.0
        variance = np.einsum("nkk->n", self.drawn.cov[:n])
        variance = variance + ratio**2 * np.einsum("nkk->n", self.seen.cov[:n])
        # A mark given without spread is exact; it must not take all the weight.
        sd = np.sqrt(variance / 2.0)
        floor = 1e-3 * float(sd.max(initial=0.0))
        guarded: Floats = np.maximum(sd, floor if floor > 0.0 else 1.0)
        return guarded

    def best_fit(self, *, gradients: bool = True) -> Similarity | NotMeasurable:
        """Best fit of the shared marks, its gradients over these alone, 0 where they are not
        wanted."""
        n, sd = self.shared, self.placing_sd()
        return fit_similarity(self.seen.xy[:n], self.drawn.xy[:n], sd, gradients=gradients)

    def over_all(self, fit: Similarity | NotMeasurable) -> Similarity | NotMeasurable:
        """A best fit with its gradients widened by zeros to all marks of each picture."""
        if isinstance(fit, NotMeasurable):
            return fit

        def widen(gradient: Floats, n: int) -> Floats:
            widened: Floats = np.pad(gradient, ((0, 0), (0, n - gradient.shape[1]), (0, 0)))
            return widened

        return replace(
            fit,
            by_reference=widen(fit.by_reference, len(self.seen.keys)),
            by_drawing=widen(fit.by_drawing, len(self.drawn.keys)),
        )


def pair_marks(
    view: View, reference: Picture, drawing: Picture, *, in_mm: bool = True
) -> Pair | tuple[Board, NotMeasurable]:
    """Bring both pictures' marks into their sight frames.

    Returns:
        The pair, or whose picture (``reference`` or ``drawing``) has no sight frame, and why.
    """
    known = [mark.key for mark in view.landmarks]
    on_seen, on_drawn = reference.placed(), drawing.placed()
    shared = [key for key in known if key in on_seen and key in on_drawn]
    sight = []
    for whose, picture, own in (
        (Board.REFERENCE, reference, on_seen - on_drawn),
        (Board.DRAWING, drawing, on_drawn - on_seen),
    ):
        marks = sight_marks(picture, shared + [k for k in known if k in own], in_mm=in_mm)
        if isinstance(marks, NotMeasurable):
            return whose, marks
        sight.append(marks)
    return Pair(sight[0], sight[1], len(shared))
