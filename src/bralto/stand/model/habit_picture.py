"""A learner's habits as one picture: the model as it is seen, and as they draw it, only more so."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from bralto.core.mannequin.setting import set_up
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key
from bralto.stand.model.habits import PARTS, Habits
from bralto.stand.model.pencil_view import Page, PageDrawing, drawn_by
from bralto.stand.model.portrait import HeadHabits, portrait_by
from bralto.stand.model.stage import Stage

__all__ = ["SHOWN", "HabitPicture", "habit_picture"]

_PAGE = Page((210.0, 297.0), 2.4, 0.86)
_SEEN = (540, 720)
_POSE = "weight-right"
_SEED = 5

_WHICH = {
    "head": ("head",), "arms": ("arm_r", "arm_l"), "legs": ("leg_r", "leg_l"),
    "forearms": ("forearm_r", "forearm_l"), "shanks": ("shank_r", "shank_l"),
    "hands": ("hand_r", "hand_l"), "feet": ("foot_r", "foot_l"),
}  # fmt: skip
"""Of traits of size (`core.longitudinal.traits.trait_table`), the parts that come out so."""

_SIDES = {"sides.arm": "arm", "sides.leg": "leg", "sides.forearm": "forearm"}
_STIFF = ("tilts", "leans", "counter_tilt")
_OF_FIGURE = frozenset({*_WHICH, *_SIDES, *_STIFF, "trunk", "width", "lean"})
_UPRIGHT = ("tilts", "head_tip")
_OF_HEAD = frozenset(
    {"eyes", "face", "features", "ears_place", "width", "head_raise", "chin_up", *_UPRIGHT}
)
_TIPPED, _BOWED = 12.0, 14.0
"""Degrees by which the head that is seen is tipped and bowed where a habit is about that."""

SHOWN: Mapping[str, frozenset[str]] = {"figure": _OF_FIGURE, "head": _OF_HEAD}
"""By group of views, the traits that can be shown."""


@dataclass(frozen=True, slots=True, eq=False)
class HabitPicture:
    """Two drawings of the model on sheets of one size.

    Attributes:
        seen: as it is. drawn: with the habits, so many times as strong.
        shown: keys of the traits that ``drawn`` shows.
    """

    seen: PageDrawing
    drawn: PageDrawing
    shown: tuple[str, ...]


def habit_picture(group: str, traits: Mapping[str, float], times: float = 2.0) -> HabitPicture:
    """Draw the model with habits.

    Args:
        group: ``figure`` or ``head``. traits: by key the value of a habit (`Habit.value`): relative
            sizes, degrees, slopes; those that cannot be shown are left out.
    """
    there = {key: value for key, value in traits.items() if key in SHOWN[group]}
    if not there:  # drawn as it is seen
        seen = drawn = _head_seen(0.0, 0.0) if group == "head" else _figure_seen()
    elif group == "head":
        seen, drawn = _heads(there, times)
    else:
        seen, drawn = _figure_seen(), _figure(_habits(there, times))
    return HabitPicture(seen, drawn, tuple(there))


def _heads(traits: Mapping[str, float], times: float) -> tuple[PageDrawing, PageDrawing]:
    """A bust as it is seen, tipped or bowed where a habit is about that, and as it is drawn."""
    lean = _TIPPED if any(key in traits for key in _UPRIGHT) else 0.0
    nod = _BOWED if "head_raise" in traits else 0.0
    shares = min(traits.get(key, 1.0) for key in _UPRIGHT), traits.get("head_raise", 1.0)
    tipped, bowed = (
        by * max(0.0, 1.0 + times * (share - 1.0))
        for by, share in zip((lean, nod), shares, strict=True)
    )
    bowed -= times * traits.get("chin_up", 0.0)
    return _head_seen(lean, nod), _head(_head_habits(traits, times), tipped, bowed)


def _habits(traits: Mapping[str, float], times: float) -> Habits:
    parts = dict.fromkeys(PARTS, 1.0)
    for key, names in _WHICH.items():
        for name in names:
            parts[name] *= 1.0 + times * traits.get(key, 0.0)
    for key, name in _SIDES.items():  # half of it on either side
        parts[f"{name}_l"] *= 1.0 + 0.5 * times * traits.get(key, 0.0)
        parts[f"{name}_r"] *= 1.0 - 0.5 * times * traits.get(key, 0.0)
    trunk = 1.0 + times * traits.get("trunk", 0.0)
    for name in ("head", "arm_r", "arm_l", "leg_r", "leg_l"):
        parts[name] /= trunk  # a long trunk is all the rest short beside it
    slopes = [traits[key] for key in _STIFF if key in traits]
    straight = 1.0 + times * (min(slopes, default=1.0) - 1.0)
    return Habits(
        parts, straight=max(0.0, straight), width=1.0 + times * traits.get("width", 0.0),
        lean_deg=times * traits.get("lean", 0.0),
    )  # fmt: skip


def _head_habits(traits: Mapping[str, float], times: float) -> HeadHabits:
    return HeadHabits(
        eyes_high=times * traits.get("eyes", 0.0),
        face_wide=1.0 + times * (traits.get("face", 0.0) + traits.get("width", 0.0)),
        features=1.0 + times * traits.get("features", 0.0),
        ears_low=-times * traits.get("ears_place", 0.0),
    )


def _figure(habits: Habits) -> PageDrawing:
    stage = Stage.of(set_up(_POSE))
    view = view_named("figure-front")
    return drawn_by(stage, stage.view(*_SEEN), view, habits, _PAGE, _SEED)


@lru_cache(maxsize=1)
def _figure_seen() -> PageDrawing:
    """Kept, as the next: it is the same whatever the habits are."""
    return _figure(Habits())


def _head(habits: HeadHabits, lean: float, nod: float) -> PageDrawing:
    """The bust tipped and bowed by so many degrees, drawn with habits."""
    level = set_up("head")
    pose = level.pose.with_turns({"head.lean": lean, "head.nod": nod})
    stage = Stage.of(replace(level, pose=pose))
    looked, view = stage.view(*_SEEN), view_named("head-front")
    key = answer_key(stage, looked, view)
    return portrait_by(stage, looked, view, key, habits, _PAGE, _SEED)


@lru_cache(maxsize=4)
def _head_seen(lean: float, nod: float) -> PageDrawing:
    return _head(HeadHabits(), lean, nod)
