"""How a head stands in space, by its marks: how far it is turned, raised and tipped.

Marks lie on a solid. An average head, with the ways in which sitters differ, is put before the eye
so that its marks fall on those of the picture (`head_fit`). A drawing is then held against the same
head, not against the average: what a sitter is by nature cancels.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.discover.levels import USUAL
from bralto.core.heads.average_head import AverageHead, average_head
from bralto.core.heads.head_fit import POSE, HeadFit, rotations
from bralto.core.results import NotMeasurable

__all__ = ["DEPTH", "RAISED", "TIPPED", "TURNED", "HeadInSpace", "head_in_space", "same_head"]

TURNED, RAISED, TIPPED = range(3)
"""Rows of `HeadInSpace.angles`."""

_PEOPLE = 0.02
"""SD by which a mark of a sitter lies elsewhere than any head of the model has it, heads (chosen
here, no source)."""

_FEWEST = 6
"""Marks: as many as where, how large and how turned a head is are spent on three of them; the rest
is to tell one face from another."""

_SUREST = 8.0
"""Degrees; a turn that is known worse than this is not told (chosen here)."""

_START = {"head-front": 0.0, "head-three-quarter": 45.0, "head-profile": 88.0}
"""Degrees to the left of the picture from where a view is begun with."""

_WITHIN = 0.5
"""Cosine of how far from there a head may be turned and be of that view still."""

DEPTH = 0.04
"""Share of a turn by which it is wrong, as an SD, since a sitter's forms stand out by more or less
than the average's (weighed on busts with faces by chance, 5 to 13 degrees apart: with it 93 % and
more of the intervals hold)."""

_LEAST = 1e-4
"""Heads: no mark is placed better than that."""

_MIDDLE = 0.6745
"""The middle one of the distances from the mean of a normal distribution, SDs."""


@dataclass(frozen=True, eq=False)
class HeadInSpace:
    """One picture's head.

    Attributes:
        keys: its marks, of those that an average head has.
        places: (n, 3) where they lie in the head's own frame (`AverageHead`), heads; seen from
            where the eye is they fall on the marks.
        solid: the same of all marks that an average head has; what was not marked as the others
            imply it.
        angles: (3,) degrees: turned about plumb, + where the face points to the picture's right;
            raised about the line from ear to ear, + where the chin is up; tipped towards a
            shoulder, + to the sitter's right.
        cov: (3, 3) their covariance, degrees squared.
        size: of its head, heads of the picture; ``at`` (2,) where its joint lies there, sight
            frame.
        mirrored: whether the sitter's right side is the near one.
        away: distance of the eye, heads. ``unit``, a head of the picture in its sight frame.
    """

    keys: tuple[str, ...]
    places: Floats
    average: AverageHead
    solid: Floats
    angles: Floats
    cov: Floats
    size: float
    at: Floats
    mirrored: bool
    away: float
    unit: float

    @property
    def u(self) -> Floats:
        """(3,) standard uncertainty of the angles, degrees."""
        found: Floats = np.sqrt(np.diagonal(self.cov))
        return found

    @cached_property
    def rotation(self) -> Floats:
        """(3, 3), rows are the picture's right, its up and towards the eye, in the head's frame
        as its marks are written: mirrored where the right side is the near one."""
        turned, raised, tipped = np.radians(self.angles)
        side = 1.0 if self.mirrored else -1.0
        return rotations(np.array([side * turned, raised, -side * tipped]))[0]

    @property
    def tilt(self) -> float:
        """How far its upright axis is turned in the picture, counter-clockwise, radians."""
        across, up = self.rotation[:2, 1]
        return math.atan2(across if self.mirrored else -across, up)

    def project(self, points: Floats) -> Floats:
        """(..., 2) where (..., 3) points of the head lie in the picture, heads, sight frame."""
        turned = points @ self.rotation.T
        near = self.size / (1.0 - turned[..., 2] / self.away)
        flip = np.array([-1.0 if self.mirrored else 1.0, 1.0])
        found: Floats = self.at + near[..., None] * turned[..., :2] * flip
        return found

    def turning(self, keys: Sequence[str]) -> dict[str, Floats]:
        """Where marks of the picture go as the head is turned (``face``), its chin raised (``nod``)
        or it is tipped (``tip``); what the head does not carry stays.

        Args:
            keys: of the marks.

        Returns:
            (2, n, 2) heads each, by a radian and by its square. A turn is left out that, of these
            marks, can hardly be told from one of the whole picture.
        """
        rows = [self.average.row.get(key, -1) for key in keys]
        flat = np.vstack([self.project(self.solid), np.zeros((1, 2))])[rows]  # the last row stays
        found = {}
        for kind, angle in (("face", TURNED), ("nod", RAISED), ("tip", TIPPED)):
            ends = []
            for by in (_STEP, -_STEP):
                angles = self.angles.copy()
                angles[angle] += math.degrees(by)
                there = replace(self, angles=angles).project(self.solid)
                ends.append(np.vstack([there, np.zeros((1, 2))])[rows])
            field = (ends[0] - ends[1]) / (2.0 * _STEP)
            if _own_share(flat, field) >= _OWN:
                curve = (ends[0] + ends[1] - 2.0 * flat) / (2.0 * _STEP * _STEP)
                found[kind] = np.array([field, curve])
        return found


def _own_share(flat: Floats, field: Floats) -> float:
    """Share of a field (n, 2) over marks (n, 2) that no shift, turn and size of all explains."""
    x, y = flat.T
    zero, one = np.zeros(len(x)), np.ones(len(x))
    table = np.column_stack(
        [np.ravel([one, zero]), np.ravel([zero, one]), np.ravel([x, y]), np.ravel([-y, x])]
    )
    goal = field.T.ravel()
    left = goal - table @ np.linalg.lstsq(table, goal, rcond=None)[0]
    return float(np.sqrt(left @ left / max(float(goal @ goal), 1e-300)))


_OWN = 0.15
"""Less of its own than this share, and a turn of the head is one of the whole picture (chosen
here)."""

_STEP = 0.01
"""Radians over which slope and curve of a turn are taken."""


def head_in_space(figure: Figure, away: float = USUAL.heads) -> HeadInSpace | NotMeasurable:
    """How the head of a picture stands, by an average head that is bent to its marks.

    Args:
        figure: of a view of the head. away: distance of the eye, heads.
    """
    average = average_head(figure.view.key)
    if average is None:
        return NotMeasurable("it is no head that is known as a solid")
    rows = _rows(average, figure.marks.keys)
    if len(rows) < _FEWEST:
        return NotMeasurable(f"how a head is turned wants {_FEWEST} of its marks")
    at = [figure.marks.keys.index(average.keys[row]) for row in rows]
    marks, sd = figure.heads[at], np.hypot(figure.sd[at], _PEOPLE)
    start = _START[figure.view.key]
    return _stands(
        average, tuple(rows), marks.tobytes(), sd.tobytes(), start, away, figure.head.value
    )


@lru_cache(maxsize=8)
def _stands(
    average: AverageHead, rows: tuple[int, ...], places: bytes, spread: bytes, start_deg: float,
    away: float, unit: float,
) -> HeadInSpace | NotMeasurable:  # fmt: skip
    """Kept, because a reference stays while a drawing of it is marked."""
    xy, sd = np.frombuffer(places).reshape(-1, 2), np.frombuffer(spread)
    begun, best = math.radians(start_deg), None
    for side in (1.0, -1.0) if begun else (1.0,):
        marks = xy * np.array([side, 1.0])
        one = HeadFit(average.mean[list(rows)], average.ways[:, list(rows)], marks, sd, away)
        start = one.start(begun)
        if best is None or one.off(start) < best[0].off(best[1]):
            best = one, start, side
    assert best is not None
    problem, start, side = best
    found = problem.solved(start)
    if found is None or math.cos(float(found[0][0]) - begun) < _WITHIN:  # seen through the head
        return NotMeasurable("its marks do not lie as a head's do")
    theta, cov, _ = found
    whole = average.mean + np.tensordot(theta[POSE:], average.ways, 1)
    return _made(average, rows, whole, theta, cov, problem, unit, mirrored=side < 0.0)


def same_head(seen: HeadInSpace, drawn: Figure, sd: Floats) -> HeadInSpace | NotMeasurable:
    """How the same head stands in a drawing.

    Args:
        sd: (n,) of placing each mark of ``seen`` on both pictures, heads; what the hand strayed
            besides is taken from what is left over.
    """
    rows = [i for i, key in enumerate(seen.keys) if key in drawn.marks.keys]
    if len(rows) < _FEWEST:
        return NotMeasurable(f"how a head is turned wants {_FEWEST} marks that both pictures have")
    at = [drawn.marks.keys.index(seen.keys[row]) for row in rows]
    side = -1.0 if seen.mirrored else 1.0
    marks = drawn.heads[at] * np.array([side, 1.0])
    sd = np.maximum(sd[rows], _LEAST)
    problem = HeadFit(seen.places[rows], np.zeros((0, len(rows), 3)), marks, sd, seen.away)
    start = np.zeros(POSE)
    turned, raised, tipped = np.radians(seen.angles)
    start[:4] = -side * turned, raised, side * tipped, math.log(seen.size)
    start[4:] = (marks - problem.seen(start)[0]).mean(axis=0)
    spare = 2 * len(rows) - POSE
    found = problem.solved(start)
    if found is not None:
        # How far the hand strays is not known before: by the middle of what is left over.
        left = np.abs(problem.seen(found[0])[0] - marks)
        hand = float(np.median(left)) / _MIDDLE * math.sqrt(2 * len(rows) / spare)
        problem = replace(problem, sd=np.maximum(problem.sd, hand))
        found = problem.solved(found[0])
    if found is None:
        return NotMeasurable("the drawing's marks do not lie as a head's do")
    theta, cov, _ = found
    average, keys = seen.average, [seen.keys[row] for row in rows]
    made = _made(
        average, _rows(average, keys), seen.solid, theta, cov, problem, drawn.head.value,
        mirrored=seen.mirrored,
    )  # fmt: skip
    if isinstance(made, NotMeasurable):
        return made
    apart = DEPTH * (made.angles - seen.angles)
    return replace(made, cov=made.cov + np.diag(apart * apart))


def _rows(average: AverageHead, keys: Sequence[str]) -> list[int]:
    """Rows of the marks that tell how a head is turned."""
    return [row for row, key in enumerate(average.keys) if key in keys and key not in average.hair]


def _made(
    average: AverageHead, rows: Sequence[int], whole: Floats, theta: Floats, cov: Floats,
    problem: HeadFit, unit: float, *, mirrored: bool,
) -> HeadInSpace | NotMeasurable:  # fmt: skip
    """The head as it was found; each mark moved within the picture until it is seen where it is."""
    flat, solid = problem.seen(theta)
    rotation = rotations(theta[:3])[0]
    near = math.exp(float(theta[3])) / (1.0 - (solid @ rotation.T)[:, 2] / problem.away)
    places = solid + ((problem.marks - flat) / near[:, None]) @ rotation[:2]
    whole = whole.copy()
    whole[list(rows)] = places
    signs = np.array([1.0, 1.0, -1.0]) if mirrored else np.array([-1.0, 1.0, 1.0])
    degrees = math.degrees(1.0) * signs
    spread: Floats = cov[:3, :3] * np.outer(degrees, degrees)
    if not float(np.diagonal(spread)[:2].max()) <= _SUREST**2:
        return NotMeasurable("its marks do not tell how it is turned")
    at = theta[4:POSE] * np.array([-1.0 if mirrored else 1.0, 1.0])
    keys = tuple(average.keys[row] for row in rows)
    return HeadInSpace(
        keys, places, average, whole, theta[:3] * degrees, spread,
        math.exp(float(theta[3])), at, mirrored, problem.away, unit,
    )  # fmt: skip
