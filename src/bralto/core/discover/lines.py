"""Plumb lines, levels and alignments: what stands below what, and which checks reach furthest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.tolerances import COVERAGE, Grade

__all__ = ["Alignment", "SightLine", "find_alignments", "held_against", "sight_lines"]

_AXIS = {"plumb": 0, "level": 1}
"""Coordinate that marks on such a line share: x on a plumb line, y on a level."""

_SHORTEST = 1 / 8
"""Share of the whole height between the ends of an alignment that is worth sighting
(common practice, no source)."""


@dataclass(frozen=True, slots=True)
class SightLine:
    """A plumb line or level that many marks lie on.

    Attributes:
        along: ``plumb`` or ``level``.
        anchor: the mark to hang it from: the best placed one near the line.
        keys: the marks within tolerance of it, from top to bottom or left to right.
        reach: distance of its outermost marks along it, heads.
        at: where it lies, heads to the right of (above) the anchor.
    """

    along: str
    anchor: str
    keys: tuple[str, ...]
    reach: float
    at: float


@dataclass(frozen=True, slots=True)
class Alignment:
    """Two or three marks that share a plumb line or a level.

    Attributes:
        length: distance of the outermost along the line, heads: a long one checks more.
        miss: the largest distance across it, heads; ``u`` is its standard uncertainty.
    """

    along: str
    keys: tuple[str, ...]
    length: float
    miss: float
    u: float


def sight_lines(figure: Figure, along: str, grade: Grade, most: int = 5) -> tuple[SightLine, ...]:
    """The lines that pass within tolerance of most marks, best first, no mark on two of them.

    Args:
        along: ``plumb`` or ``level``.
        grade: its tolerance in heads is how near is on the line.
    """
    axis = _AXIS[along]
    xy, sd = figure.heads, figure.sd
    left = set(range(len(xy)))
    found: list[SightLine] = []
    while len(found) < most:
        best: tuple[tuple[int, float], list[int]] | None = None
        for anchor in left:
            # A window of twice the tolerance that begins at each mark in turn finds the fullest.
            low = xy[anchor, axis]
            on = [i for i in left if low <= xy[i, axis] <= low + 2.0 * grade.head]
            reach = float(np.ptp(xy[on, 1 - axis]))
            if best is None or (len(on), reach) > best[0]:
                best = (len(on), reach), on
        if best is None or best[0][0] < 2:
            break
        on = best[1]
        at = float(np.mean(xy[on, axis]))
        anchor = min(on, key=lambda i: (abs(xy[i, axis] - at) > grade.head / 2, sd[i]))
        order = sorted(on, key=lambda i: -xy[i, 1] if axis == 0 else xy[i, 0])
        names = tuple(figure.marks.keys[i] for i in order)
        offset = at - float(xy[anchor, axis])
        found.append(SightLine(along, figure.marks.keys[anchor], names, best[0][1], offset))
        left -= set(on)
    return tuple(sorted(found, key=lambda line: (-len(line.keys), -line.reach)))


def find_alignments(figure: Figure, grade: Grade, most: int = 12) -> tuple[Alignment, ...]:
    """Pairs and triples of marks that share a plumb line or level, the most telling first.

    A long alignment checks more, an exact one is easier to see: ranked by length less what it
    misses and may miss, in tolerances. A triple stands for the pairs in it, and one alignment for
    all that repeat its line.
    """
    found: list[Alignment] = []
    for along in _AXIS:
        pairs = [
            one
            for keys in combinations(range(len(figure.marks.keys)), 2)
            if (one := _alignment(figure, along, keys, grade)) is not None
        ]
        joined = {frozenset(one.keys) for one in pairs}
        names = figure.marks.keys
        rows = {key: i for i, key in enumerate(names)}
        triples = []
        for one in pairs:
            for third in names:
                ends = (frozenset((one.keys[0], third)), frozenset((one.keys[1], third)))
                if third in one.keys or not (ends[0] in joined or ends[1] in joined):
                    continue
                three = tuple(sorted(rows[k] for k in (*one.keys, third)))
                made = _alignment(figure, along, three, grade)
                if made is not None:
                    triples.append(made)
        unique = {frozenset(one.keys): one for one in triples}
        inside = {frozenset(pair) for keys in unique for pair in combinations(keys, 2)}
        found += list(unique.values())
        found += [one for one in pairs if frozenset(one.keys) not in inside]
    told: list[Alignment] = []
    for one in sorted(found, key=lambda one: -_tell(one, grade)):
        if len(told) == most:
            break
        if not any(_repeats(figure, one, other, grade) for other in told):
            told.append(one)
    return tuple(told)


def _repeats(figure: Figure, one: Alignment, other: Alignment, grade: Grade) -> bool:
    """Whether two alignments are one line: a plumb line or a level is fixed by one mark that they
    share, or all their marks lie on it."""
    if one.along != other.along:
        return False
    if set(one.keys) & set(other.keys):
        return True
    rows = [figure.marks.keys.index(key) for key in {*one.keys, *other.keys}]
    return float(np.ptp(figure.heads[rows, _AXIS[one.along]])) <= grade.head


def _tell(one: Alignment, grade: Grade) -> float:
    doubt = (abs(one.miss) + COVERAGE * one.u) / grade.head
    return one.length / (1.0 + doubt) * (1.0 + 0.25 * (len(one.keys) - 2))


def _alignment(figure: Figure, along: str, rows: Sequence[int], grade: Grade) -> Alignment | None:
    """The alignment of some marks, or None where they do not share a line."""
    axis, chosen = _AXIS[along], list(rows)
    xy, sd = figure.heads[chosen], figure.sd[chosen]
    length = float(np.ptp(xy[:, 1 - axis]))
    low, high = int(np.argmin(xy[:, axis])), int(np.argmax(xy[:, axis]))
    miss = float(xy[high, axis] - xy[low, axis])
    if length < _SHORTEST * figure.tall or miss > grade.head:
        return None
    order = sorted(chosen, key=lambda i: -figure.heads[i, 1] if axis == 0 else figure.heads[i, 0])
    names = tuple(figure.marks.keys[i] for i in order)
    return Alignment(along, names, length, miss, float(np.hypot(sd[low], sd[high])))


def held_against(one: Alignment, drawing: Figure) -> Alignment | None:
    """The same marks on the drawing, in its own heads; None where one is missing."""
    row = {key: i for i, key in enumerate(drawing.marks.keys)}
    if not set(one.keys) <= set(row):
        return None
    axis, chosen = _AXIS[one.along], [row[key] for key in one.keys]
    xy, sd = drawing.heads[chosen], drawing.sd[chosen]
    low, high = int(np.argmin(xy[:, axis])), int(np.argmax(xy[:, axis]))
    return Alignment(
        one.along,
        one.keys,
        float(np.ptp(xy[:, 1 - axis])),
        float(xy[high, axis] - xy[low, axis]),
        float(np.hypot(sd[low], sd[high])),
    )
