"""Whether a mark that was just set can be meant so: asked there and then, of one picture alone.

A reference is held against the view's typical places, a drawing against its reference: a drawing
may be as odd as it likes. What both pictures together tell is doubted later (`all_doubts`).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from bralto.core.marking.whereabouts import Whereabouts, carried, expected
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.core.views.model import View
from bralto.core.views.typical import typical_of

__all__ = ["Question", "ask_at_once"]

_DOUBLE = 2.0
"""Standard deviations of placing within which two marks are one spot."""

_NEIGHBOURS = 0.1
"""Heads within which two marks usually lie so near that they may fall together."""

_FAR, _FITS = 5.0, 3.0
"""Standard deviations from which on a mark is far from where it is looked for, and within which it
fits another place."""

_OTHER = 14.0
"""By how much minus two log-likelihood must fall before the sides are asked about: one in a
thousand (chi-squared with 2 degrees of freedom, 13.8)."""

_LEVEL = {"figure": 0.5, "portion": 0.3, "part": 0.1}
"""Heads by which one mark usually lies above another before the order is asked about."""


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked about a mark.

    Attributes:
        key: the mark; ``other``, the one that it is about besides, or "".
        remedy: ``exchange``, with ``other``, which may have no place yet; ``back``, take it back.
        words: the question in one sentence; ``button``, what the remedy is called.
    """

    kind: Literal["double", "side", "order", "far"]
    key: str
    other: str
    remedy: Literal["exchange", "back"]
    words: str
    button: str


def ask_at_once(
    view: View, picture: Picture, key: str, reference: Picture | None = None
) -> Question | None:
    """What to ask about a mark, or None where it may well be meant so.

    Args:
        reference: where ``picture`` is a drawing, the reference that it is held against.
    """
    return (
        _double(view, picture, key, reference)
        or _upside_down(view, picture, key)
        or _side(view, picture, key, reference)
        or _far(view, picture, key, reference)
    )


def _double(view: View, picture: Picture, key: str, reference: Picture | None) -> Question | None:
    """Two marks in one spot, unless they are so on the reference or lie close in life."""
    for other in picture.placed() - {key}:
        if _close(view, key, other):
            continue
        if _one_spot(picture, key, other) and not (
            reference is not None
            and {key, other} <= reference.placed()
            and _one_spot(reference, key, other, 3.0)
        ):
            words = f"The {view.point_label(other)} is in that spot already:"
            return Question("double", key, other, "back", words, "take it back")
    return None


def _close(view: View, key: str, other: str) -> bool:
    """Whether two marks usually lie so near that perspective may bring them together."""
    typical = typical_of(view.key, view.stance)
    if typical is None or key not in typical.row or other not in typical.row:
        return False
    away = typical.mean[typical.row[key]] - typical.mean[typical.row[other]]
    return float(np.hypot(*away)) < _NEIGHBOURS


def _one_spot(picture: Picture, key: str, other: str, times: float = 1.0) -> bool:
    one, two = picture.marks[key], picture.marks[other]
    reach = times * _DOUBLE * float(np.hypot(one.spread, two.spread))
    return float(np.hypot(one.x - two.x, one.y - two.y)) <= reach


def _upside_down(view: View, picture: Picture, key: str) -> Question | None:
    """The top edge below the bottom one, while nothing else is known."""
    placed = picture.placed()
    if len(placed) != 2:
        return None
    top, bottom = (_marks_of(view, edge) & placed for edge in view.edges)
    if not top or not bottom or key not in top | bottom:
        return None
    (above,), (below,) = sorted(top)[:1], sorted(bottom)[:1]
    one, two = picture.marks[above], picture.marks[below]
    if one.y - two.y <= abs(one.x - two.x):
        return None
    words = f"The {view.point_label(above)} lies below the {view.point_label(below)}:"
    return Question("order", key, below if key == above else above, "exchange", words, "exchange")


def _marks_of(view: View, point: str) -> frozenset[str]:
    derived = next((one for one in view.points if one.key == point), None)
    return frozenset(derived.marks if derived is not None else (point,))


def _places(
    view: View, picture: Picture, keys: tuple[str, ...], ref: Picture | None
) -> list[Whereabouts] | None:
    """Where marks are looked for, as if they were not set; None where that cannot be told."""
    bare = replace(picture, marks={k: m for k, m in picture.marks.items() if k not in keys})
    found = [
        expected(view, bare, key) if ref is None else carried(view, ref, bare, key) for key in keys
    ]
    known = [one for one in found if not isinstance(one, NotMeasurable)]
    return known if len(known) == len(found) else None


def _side(view: View, picture: Picture, key: str, reference: Picture | None) -> Question | None:
    """Set on the wrong side of its pair, or where the other side is looked for."""
    if key[-2:] not in {"_r", "_l"}:
        return None
    other = key[:-1] + ("l" if key.endswith("r") else "r")
    places = _places(view, picture, (key, other), reference)
    if places is None:
        return None
    own, across = places
    mark, there = picture.marks[key], picture.marks.get(other)
    gain = own.away(mark.x, mark.y) ** 2 - across.away(mark.x, mark.y) ** 2
    fits = across.away(mark.x, mark.y) < _FITS
    if other in picture.placed() and there is not None:
        gain += across.away(there.x, there.y) ** 2 - own.away(there.x, there.y) ** 2
        fits = fits and own.away(there.x, there.y) < _FITS
    if gain < _OTHER or not fits:
        return None
    words = f"That looks like the {view.point_label(other)}:"
    return Question("side", key, other, "exchange", words, "exchange them")


def _far(view: View, picture: Picture, key: str, reference: Picture | None) -> Question | None:
    """Out of the order of the body, or far from where it is looked for."""
    places = _places(view, picture, (key,), reference)
    mark = picture.marks[key]
    if places is None or places[0].away(mark.x, mark.y) < _FAR:
        return None
    label = view.point_label(key)
    for other in _by_level(view, picture, key, reference):
        there = picture.marks[other]
        side = "above" if mark.y < there.y else "below"
        words = f"The {label} lies {side} the {view.point_label(other)}:"
        return Question("order", key, other, "back", words, "take it back")
    words = f"That is far from where the {label} is looked for:"
    return Question("far", key, "", "back", words, "take it back")


def _by_level(view: View, picture: Picture, key: str, reference: Picture | None) -> list[str]:
    """Marks that lie on the other side of it, above or below, than they should; nearest first."""
    typical = typical_of(view.key, view.stance)
    if reference is not None:
        levels = {k: reference.marks[k].y for k in reference.placed()}
        unit = float(np.ptp(list(levels.values()))) / max(view.heads, 1.0) if levels else 0.0
    elif typical is not None:
        levels = {k: float(typical.mean[i, 1]) for k, i in typical.row.items()}
        unit = 1.0
    else:
        return []
    if key not in levels:
        return []
    least = _LEVEL[view.size] * unit
    found = [
        (abs(levels[k] - levels[key]), k)
        for k in picture.placed()
        if k != key
        and k in levels
        and abs(levels[k] - levels[key]) > least
        and (levels[k] - levels[key]) * (picture.marks[k].y - picture.marks[key].y) < 0.0
    ]
    return [k for _, k in sorted(found)]
