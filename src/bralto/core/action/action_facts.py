"""What is told of the action: how much of the bend was kept, and how the masses stand."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import partial
from typing import TypeVar

from bralto.core.action.bend import Doubted
from bralto.core.action.bend_kept import Kept
from bralto.core.action.limbs import Run
from bralto.core.action.ribs_on_pelvis import Masses
from bralto.core.action.sweep_pairs import Sweep, SweepPair
from bralto.core.action.sweeps import Pair
from bralto.core.action.weight import Weighing
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import View
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import plain, sentence, signed, with_doubt

__all__ = [
    "both_of",
    "each_of",
    "kept_verdict",
    "kept_within",
    "kept_words",
    "limb_facts",
    "mass_facts",
    "sweep_facts",
    "told_fact",
    "weight_facts",
]

T = TypeVar("T")

_BEND = 3.0
"""How many times the grade's percent a share of the bend may be off: a bend of 0.3 head that is off
by 9 % is off by half a tolerance of lengths (chosen here, no source)."""

_SOFT = 2.0
"""The same of widths and bulges, which lie on a soft edge, and of where a middle mark lies."""

_PLACE = 0.3
"""Share of the way that is no place any more (chosen here, no source)."""

_WIDTHS = ("width at a quarter", "width at the half", "width at three quarters")
_BULGES = ("outer bulge at", "inner bulge at")


def kept_words(pair: SweepPair) -> str:
    """'You kept 70 % of the bend', or that it cannot be told."""
    found = pair.kept
    if isinstance(found, NotMeasurable):
        return "No share of its bend can be told"
    if found.share < 0.0:
        return "It bends the other way"
    of_it = "the bend" if found.meant == 1.0 else "the bend you meant"
    return f"You kept {_percent(found.share)} of {of_it}"


def kept_within(pair: SweepPair) -> str:
    """'62 to 79 %, nineteen times in twenty', or why there is no share."""
    found = pair.kept
    if isinstance(found, NotMeasurable):
        return sentence(found.reason)
    return f"{plain(100.0 * found.low, 0)} to {_percent(found.high)}, nineteen times in twenty"


def kept_verdict(found: Kept, grade: Grade) -> Verdict:
    """Whether bend was lost or overdone beyond what the grade allows, one of `Verdict`."""
    u = 0.5 * (found.high - found.low) / COVERAGE
    return verdict_on(found.share - 1.0, u, _BEND * grade.percent / 100.0)


def sweep_facts(pair: SweepPair, grade: Grade) -> tuple[Fact, ...]:
    """The figures of one sweep, its bend first."""
    both = both_of(pair.seen, pair.drawn)
    known = [one for one in both if one is not None]
    if not known:
        return ()
    facts = []
    if not isinstance(pair.kept, NotMeasurable):
        share, verdict = pair.kept.share, kept_verdict(pair.kept, grade)
        facts.append(Fact("bend kept", "100 %", _percent(share), verdict, share > 1.0))
    in_heads = all(one.counted == "head" for one in known)
    say, allowed = (_heads, grade.head) if in_heads else (_percent, None)
    return (
        *facts,
        told_fact("farthest from straight", each_of(both, _sagitta), say, allowed),
        told_fact("turns by", each_of(both, lambda one: one.bend.turning), _degrees, grade.degrees),
        told_fact(
            "leans as a whole", each_of(both, lambda one: one.bend.leans), _leaning, grade.degrees,
            by_size=True,
        ),
        _said("bulges to your", both, _bulges),
        _said("bends most", both, _sharpest),
        _said("turns over", both, _overs),
    )  # fmt: skip


def mass_facts(
    seen: Masses | NotMeasurable, drawn: Masses | NotMeasurable, grade: Grade
) -> tuple[Fact, ...]:
    """Ribcage against pelvis on both pictures."""
    if isinstance(seen, NotMeasurable):
        return ()
    both, points = both_of(seen, drawn), seen.marks
    # Told as of the side that is squeezed on the reference, so that straighter is always more.
    inverse = seen.sides.value >= 1.0
    facts = [
        told_fact(
            "ribcage tilts on the pelvis", each_of(both, lambda one: one.tilt), _leaning,
            grade.degrees, by_size=True, points=points,
        ),
        told_fact(
            "ribcage beside the pelvis", each_of(both, lambda one: one.shift), _beside, grade.head,
            by_size=True, points=points,
        ),
        told_fact(
            f"its {seen.squeezed} side to the other",
            each_of(both, lambda one: _inverse(one.sides) if inverse else one.sides), _heads,
            grade.percent / 100.0, relative=True, points=points,
        ),
    ]  # fmt: skip
    if seen.turn is not None:
        facts.append(
            told_fact(
                "ribcage turned on the pelvis", each_of(both, lambda one: one.turn), _turned,
                _SOFT * grade.percent, by_size=True, points=points,
            )
        )  # fmt: skip
    return tuple(facts)


def weight_facts(
    seen: Weighing | NotMeasurable, drawn: Weighing | NotMeasurable, view: View, grade: Grade
) -> tuple[Fact, ...]:
    """What weighs against what, and what hangs above the leg that bears."""
    both = both_of(seen, drawn)
    if both[0] is None:
        return ()
    facts = [
        told_fact(
            f"{name} beside the gravity line", each_of(both, partial(_beside_line, name)), _beside,
            grade.head, by_size=True, points=points,
        )
        for name, points in both[0].marks.items()
    ]  # fmt: skip
    legs = {"r": "R", "l": "L"}
    if both[0].pit is not None:
        label = f"{view.point_label(view.plumb)} beside the {legs[both[0].bears]} heel"
        facts.append(
            told_fact(label, each_of(both, lambda one: one.pit), _beside, grade.head, by_size=True)
        )
    if both[0].hip is not None:
        facts.append(
            told_fact(
                "R hip above the L", each_of(both, lambda one: one.hip), _beside, grade.head,
                by_size=True,
            )
        )  # fmt: skip
    return tuple(facts)


def _beside_line(name: str, one: Weighing) -> Doubted | None:
    return one.beside.get(name)


def limb_facts(
    seen: Mapping[Pair, Run | NotMeasurable],
    drawn: Mapping[Pair, Run | NotMeasurable],
    grade: Grade,
) -> tuple[tuple[str, tuple[Fact, ...]], ...]:
    """Of each limb whose edges were drawn: its widths at the quarters, taper and bulges."""
    share = _SOFT * grade.percent / 100.0
    lacking = NotMeasurable("its edges are not drawn")
    out = []
    for pair in dict.fromkeys((*seen, *drawn)):
        both = both_of(seen.get(pair, lacking), drawn.get(pair, lacking))
        if both == (None, None):
            continue
        facts = [
            told_fact(label, each_of(both, partial(_width, i)), _heads, share, relative=True)
            for i, label in enumerate(_WIDTHS)
        ]
        facts.append(
            told_fact(
                "tapers to", each_of(both, lambda one: one.taper), _percent, share, relative=True
            )
        )
        facts += [
            told_fact(label, each_of(both, partial(_bulge, i)), _percent, share)
            for i, label in enumerate(_BULGES)
        ]
        uneven = each_of(both, lambda one: one.uneven)
        facts.append(told_fact("outer below inner by", uneven, _percent, share, by_size=True))
        out.append((pair.limb, tuple(facts)))
    return tuple(out)


def both_of(seen: T | NotMeasurable, drawn: T | NotMeasurable) -> tuple[T | None, T | None]:
    """Of both pictures, None where it cannot be told."""
    return (
        None if isinstance(seen, NotMeasurable) else seen,
        None if isinstance(drawn, NotMeasurable) else drawn,
    )


def each_of(
    both: tuple[T | None, T | None], of: Callable[[T], Doubted | None]
) -> tuple[Doubted | None, Doubted | None]:
    """A figure of both."""
    one, two = both
    return None if one is None else of(one), None if two is None else of(two)


def told_fact(
    label: str,
    both: tuple[Doubted | None, Doubted | None],
    say: Callable[[float], str],
    tolerance: float | None,
    *,
    relative: bool = False,
    by_size: bool = False,
    points: tuple[str, ...] = (),
) -> Fact:
    """A figure of both pictures; with its verdict where both have it.

    Args:
        tolerance: of the difference, or of it as a part of the first where ``relative``; None
            where the two are not counted in the same.
        by_size: more is what is further from 0.
    """
    one, two = both
    seen, drawn = ("" if x is None else say(x.value) for x in both)
    if one is None or two is None or tolerance is None or (relative and one.value <= 0.0):
        return Fact(label, seen, drawn, points=points)
    error, u = two.value - one.value, math.hypot(one.u, two.u)
    if relative:
        error /= one.value
        u = math.hypot(two.u, (1.0 + error) * one.u) / one.value
    more = abs(two.value) > abs(one.value) if by_size else error > 0.0
    verdict = verdict_on(abs(error) if more else -abs(error), u, tolerance)
    return Fact(label, seen, drawn, verdict, more, points)


def _width(at: int, run: Run) -> Doubted:
    return run.widths[at]


def _bulge(at: int, run: Run) -> Doubted:
    return run.bulges[at]


def _sagitta(one: Sweep) -> Doubted:
    return Doubted(abs(one.bend.sagitta.value), one.bend.sagitta.u)


def _said(label: str, both: tuple[Sweep | None, Sweep | None], say: Callable[[Sweep], str]) -> Fact:
    seen, drawn = ("" if one is None else say(one) for one in both)
    return Fact(label, seen, drawn)


def _inverse(of: Doubted) -> Doubted:
    return Doubted(1.0 / of.value, of.u / of.value**2)


def _heads(value: float) -> str:
    return f"{value:.2f}"


def _beside(value: float) -> str:
    return signed(value, 2)


def _degrees(value: float) -> str:
    return f"{value:.0f}°"


def _leaning(value: float) -> str:
    return signed(value, 0) + "°"


def _percent(value: float) -> str:
    return f"{plain(100.0 * value, 0)} %"


def _turned(value: float) -> str:
    return signed(value, 0) + " %"


def _bulges(one: Sweep) -> str:
    return one.bend.bulges or "neither"


def _sharpest(one: Sweep) -> str:
    found = one.bend.sharpest
    if not one.bend.bent:
        return "nowhere"
    return f"{_percent(found.value)} down" if COVERAGE * found.u < _PLACE else "no one place"


def _overs(one: Sweep) -> str:
    """Where it turns over: heads below its upper end, or shares of its way."""
    if not one.bend.over:
        return "nowhere"
    if one.counted != "head":
        return ", ".join(_percent(over.share.value) for over in one.bend.over)
    return ", ".join(
        with_doubt(over.below.value, COVERAGE * over.below.u, 1) for over in one.bend.over
    )
