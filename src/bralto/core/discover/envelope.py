"""The envelope: the outermost marks, and how wide the whole is against how high it is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.uncertainty import propagate

__all__ = ["EDGES", "Envelope", "envelope_of"]

EDGES = ("top", "bottom", "left", "right")
"""In the order in which they are set: top and bottom, then left and right."""


@dataclass(frozen=True, slots=True)
class Envelope:
    """The box about all marks, plumb and level.

    Attributes:
        marks: key of the outermost mark at each of `EDGES`.
        height, width: heads of this picture.
        ratio: width : height, with ``u`` its standard uncertainty from placing the marks.
    """

    marks: dict[str, str]
    height: float
    width: float
    ratio: float
    u: float


def envelope_of(figure: Figure) -> Envelope | None:
    """The envelope of a figure's marks; None where they have no height."""
    xy, names = figure.heads, figure.marks.keys
    rows = {
        "top": int(np.argmax(xy[:, 1])),
        "bottom": int(np.argmin(xy[:, 1])),
        "left": int(np.argmin(xy[:, 0])),
        "right": int(np.argmax(xy[:, 0])),
    }
    height = float(xy[rows["top"], 1] - xy[rows["bottom"], 1])
    width = float(xy[rows["right"], 0] - xy[rows["left"], 0])
    if height <= 0.0:
        return None
    ratio = width / height
    # d(w / h): the outermost marks alone decide, and the head cancels.
    gradient = np.zeros((len(names), 2))
    gradient[rows["right"], 0] += 1.0 / height
    gradient[rows["left"], 0] -= 1.0 / height
    gradient[rows["top"], 1] -= ratio / height
    gradient[rows["bottom"], 1] += ratio / height
    u = float(np.sqrt(propagate(gradient[None] / figure.head.value, figure.marks.cov)[0]))
    return Envelope({edge: names[row] for edge, row in rows.items()}, height, width, ratio, u)
