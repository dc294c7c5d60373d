"""What is told of the ground: how high the eye is, how the feet stand on it."""

from __future__ import annotations

from bralto.core.action.action_facts import both_of, each_of, told_fact
from bralto.core.action.bend import Doubted
from bralto.core.action.ground import StandingGround
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import signed, with_doubt

__all__ = ["ground_facts", "ground_words"]

_LEGS = {"r": "R", "l": "L"}


def ground_facts(
    seen: StandingGround | NotMeasurable, drawn: StandingGround | NotMeasurable, grade: Grade
) -> tuple[Fact, ...]:
    """Height of the eye, and the feet on the ground, of both pictures."""
    both = both_of(seen, drawn)
    known = next((one for one in both if one is not None), None)
    if known is None:
        return ()
    # On the ground a slip of the hand in height is as much longer as one looks flatter at it.
    deep = grade.head * known.eye.distance.value / known.eye.height.value
    return (
        Fact("height of the eye", _eye(both[0]), _eye(both[1])),
        told_fact("toes apart, across", each_of(both, _across), _side, grade.head, by_size=True),
        told_fact("toes apart, in depth", each_of(both, _apart), _side, deep, by_size=True),
        *(
            told_fact(
                f"{_LEGS[side]} foot along the ground",
                each_of(both, lambda one, side=side: one.feet[side].length),  # type: ignore[misc]
                _length, deep,
            )
            for side in known.feet
            if known.feet[side].lies != "lifted"
        ),
    )  # fmt: skip


def ground_words(found: StandingGround) -> tuple[str, str, bool | None]:
    """Whether both feet lie on one ground, in words, with what else it may be or "", and as a sign;
    None where that is open."""
    lies = {side: foot.lies for side, foot in found.feet.items()}
    if found.one_ground:
        return "both feet lie on one ground", "", True
    off = [side for side, how in lies.items() if how in ("lifted", "steep")]
    if not off:
        return "one ground or two cannot be told", "", None
    names = " and ".join(_LEGS[side] for side in off)
    if all(lies[side] == "lifted" for side in off):
        heels = "heel is" if len(off) == 1 else "heels are"
        return f"the {names} {heels} lifted", "or the toe lies too low", False
    return f"the {names} foot is too flat", "for this height of the eye", False


def _eye(one: StandingGround | None) -> str:
    if one is None:
        return ""
    height = one.eye.height
    doubt = COVERAGE * height.u
    return with_doubt(height.value, doubt, 1) if doubt >= 0.05 else f"{height.value:.1f}"


def _across(one: StandingGround) -> Doubted:
    return one.across


def _apart(one: StandingGround) -> Doubted:
    return one.apart


def _side(value: float) -> str:
    return signed(value, 2)


def _length(value: float) -> str:
    return f"{value:.2f}"
