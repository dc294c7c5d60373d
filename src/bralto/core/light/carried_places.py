"""Places of the reference carried to the drawing, with the limb that they lie on.

By the best fit of the marks as they are seen, whatever is meant otherwise, and then by what the
marks nearby miss it by: so an error of proportion, or a push, is not told again as one of light.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import figure_of
from bralto.core.fit.similarity import Similarity
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points, sight_points
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["Carrying", "carrying"]

_NOTHING = 0.2
"""Of a mark's weight: so much says that nothing is off, so that far from all marks the fit alone
carries (chosen here, no source)."""


@dataclass(frozen=True, eq=False)
class Carrying:
    """From the reference's image frame to the drawing.

    Attributes:
        pair: the marks of both; ``fit``, their best fit.
        head: one reference head in units of the drawing's sight frame.
        near: heads within which a mark carries with it what lies about it.
    """

    reference: Picture
    drawing: Picture
    pair: Pair
    fit: Similarity
    head: float
    near: float

    def to_sight(self, places: Floats) -> Floats | NotMeasurable:
        """Places (n, 2), image px, in the drawing's sight frame."""
        nothing = np.zeros(len(places))
        there = sight_points(self.reference, places, nothing)
        if isinstance(there, NotMeasurable):
            return there
        laid = self.fit.scale * there.xy + self.fit.shift
        misses = self.fit.residuals
        fitted = self.pair.drawn.xy[: self.pair.shared] - misses
        away = np.hypot(*(laid[:, None] - fitted[None]).transpose(2, 0, 1))
        weights = np.exp(-0.5 * np.square(away / (self.near * self.head)))
        moved: Floats = laid + (weights @ misses) / (weights.sum(axis=1) + _NOTHING)[:, None]
        return moved

    def to_image(self, places: Floats) -> Floats | NotMeasurable:
        """The same in the drawing's image frame, px."""
        found = self.to_sight(places)
        return found if isinstance(found, NotMeasurable) else image_points(self.drawing, found)


def carrying(
    view: View, reference: Picture, drawing: Picture, near: float
) -> Carrying | NotMeasurable:
    """What carries from one picture to the other, or why nothing can.

    Args:
        near: see `Carrying`.
    """
    pair = pair_marks(view, reference, drawing)
    if isinstance(pair, tuple):
        return pair[1]
    fit, seen = pair.best_fit(), figure_of(view, reference)
    if isinstance(fit, NotMeasurable):
        return fit
    if isinstance(seen, NotMeasurable):
        return seen
    return Carrying(reference, drawing, pair, fit, fit.scale * seen.head.value, near)
