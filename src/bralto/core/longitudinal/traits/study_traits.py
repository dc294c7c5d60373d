"""What one study says of its learner, whether or not a correction named it."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from bralto.core.corrections.intent import limb_measure
from bralto.core.heads.head_in_space import RAISED, TIPPED, TURNED
from bralto.core.longitudinal.traits.joint_fit import Amount, JointFit
from bralto.core.longitudinal.traits.trait_table import TraitSpec, group_of, traits_of
from bralto.core.measures.kinds import fold_degrees, wrap_degrees
from bralto.core.measures.readings import Reading
from bralto.core.views.model import View

__all__ = ["OF_HEAD", "SeenDrawn", "StudyTraits", "read_traits"]

OF_HEAD = {"head.turned": TURNED, "head.raised": RAISED, "head.tipped": TIPPED}
"""What traits may be about besides the view's own measures: how a head stands in space, by the rows
of `HeadInSpace.angles`, degrees."""

_AWAY = 20.0
"""Degrees from plumb from which a limb reaches away from the trunk (as `typical_faults`)."""

_BESIDE = 12.0
"""Degrees from plumb up to which it hangs beside it."""


@dataclass(frozen=True, slots=True)
class SeenDrawn:
    """One line or distance as it is seen and as it is drawn, from where there is nothing to
    straighten; with the standard uncertainty of either."""

    seen: float
    drawn: float
    u_seen: float
    u_drawn: float


@dataclass(frozen=True, slots=True)
class StudyTraits:
    """Figures of one study by trait.

    Attributes:
        sizes: natural logarithms of how large parts came out, up to one number that they share.
        values: all others but slopes; logarithms of sizes, degrees, or parts of a line.
        pairs: of slopes.
        misses: how far each mark lies from where it belongs once size, width, lean and turn of the
            whole are taken out, heads of the reference, x right and y up.
    """

    sizes: Mapping[str, Amount]
    values: Mapping[str, Amount]
    pairs: Mapping[str, tuple[SeenDrawn, ...]]
    misses: Mapping[str, tuple[float, float]]


def read_traits(
    found: JointFit,
    view: View,
    readings: Mapping[str, Reading],
    as_drawn: Mapping[str, Reading],
    doubts: Mapping[str, tuple[float, float]],
    misses: Mapping[str, tuple[float, float]],
    meant: Collection[str] = (),
    beside: Mapping[str, SeenDrawn] = MappingProxyType({}),
) -> StudyTraits:
    """Every trait that a study can tell.

    Args:
        readings: by id, those that were measured once the whole is put right; ``as_drawn``, as it
            was drawn: what a straightened pose lost must not count as a turn of the whole.
        doubts: by id, standard uncertainties of the value seen and of the value drawn.
        misses: of the levelled drawing.
        meant: measures that were changed on purpose; what they are of is no habit.
        beside: what is known in space, by its id.
    """
    sizes: dict[str, Amount] = {}
    values: dict[str, Amount] = {}
    pairs: dict[str, tuple[SeenDrawn, ...]] = {}
    for trait in traits_of(group_of(view.key)):
        if trait.kind == "slope":
            there = _seen_drawn(trait, readings if trait.zero is None else as_drawn, doubts, meant)
            there += tuple(one for one in _of_those(trait, beside) if abs(one.seen) >= trait.border)
            if there:
                pairs[trait.key] = there
            continue
        if _is_meant(view, trait, meant):
            continue
        near = [abs(one.seen) < trait.border for one in _of_those(trait, beside)]
        if trait.border and not any(near):
            continue
        amount = _amount(trait, found, readings)
        if amount is not None:
            (sizes if trait.kind == "size" else values)[trait.key] = amount
    return StudyTraits(sizes, values, pairs, misses)


def _of_those(trait: TraitSpec, beside: Mapping[str, SeenDrawn]) -> list[SeenDrawn]:
    return [beside[key] for key in trait.measures if key in beside]


def _is_meant(view: View, trait: TraitSpec, meant: Collection[str]) -> bool:
    """Whether a length or direction of one of its parts was changed on purpose."""
    parts = [_LIMB.get(part, part) for _, part in trait.moves if part is not None]
    names = [limb_measure(view, kind, part) for part in parts for kind in ("span", "tilt")]
    return any(name in meant for name in names)


_LIMB = {"trunk": "upper_body"}
"""Parts of moves that are called otherwise among the limbs."""


def _amount(trait: TraitSpec, found: JointFit, readings: Mapping[str, Reading]) -> Amount | None:
    if trait.kind == "place":
        return found.raised(trait.moves)
    if trait.kind == "sides":
        return found.between(*trait.moves)
    if trait.kind == "away":
        first = _reaching(trait.lines, readings)
        if first is None:
            return None
        return found.between(trait.moves[first], trait.moves[1 - first])
    amount = found.mean(trait.moves)
    if amount is not None and trait.unit == "degrees":
        tangent = trait.moves[0][0] == "lean"  # all others are angles themselves
        angle = float(np.arctan(amount.value)) if tangent else amount.value
        return Amount(float(np.degrees(angle)), float(np.degrees(amount.u)))
    return amount


def _reaching(lines: Sequence[str], readings: Mapping[str, Reading]) -> int | None:
    """Which of two limbs reaches away from the trunk while the other hangs beside it."""
    leans = []
    for key in lines:
        seen = readings[key].reference if key in readings else None
        if seen is None:
            return None
        leans.append(90.0 - abs(fold_degrees(seen)))
    for first in (0, 1):
        if leans[first] >= _AWAY and leans[1 - first] <= _BESIDE:
            return first
    return None


def _seen_drawn(
    trait: TraitSpec,
    readings: Mapping[str, Reading],
    doubts: Mapping[str, tuple[float, float]],
    meant: Collection[str],
) -> tuple[SeenDrawn, ...]:
    out = []
    for key in trait.measures:
        one = readings.get(key)
        if one is None or one.reference is None or one.drawing is None:
            continue
        if key in meant or key not in doubts:
            continue
        seen, drawn = one.reference, one.drawing
        if one.unit == "degree" and trait.zero is not None:
            folded = fold_degrees if one.spec.kind == "tilt" else wrap_degrees
            seen, drawn = (folded(at - trait.zero) for at in (seen, drawn))
        u_seen, u_drawn = doubts[key]
        out.append(SeenDrawn(seen, drawn, u_seen, u_drawn))
    return tuple(out)
