"""Habits in words, as a teacher would say them."""

from __future__ import annotations

from bralto.core.longitudinal.traits.comparison import Change
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.core.longitudinal.traits.trait_table import TraitSpec
from bralto.core.words.phrases import how_many, plain, signed

__all__ = [
    "change_words", "habit_figure", "habit_title", "note_words", "range_words", "spoken_habit",
]  # fmt: skip


def _shown(trait: TraitSpec, value: float) -> float:
    """A value in what it is shown in: degrees, or percent."""
    return value if trait.unit == "degrees" else 100.0 * value


def _unit(trait: TraitSpec) -> str:
    return "°" if trait.unit == "degrees" else " %"


def _digits(trait: TraitSpec) -> int:
    return 1 if trait.unit in {"degrees", "share"} else 0


def _signed(trait: TraitSpec, value: float) -> str:
    return signed(_shown(trait, value), _digits(trait))


def habit_title(habit: Habit) -> str:
    """What is done every time, or what cannot be told yet."""
    trait = habit.trait
    if habit.state in {"habit", "slight"}:
        return trait.more if habit.value > habit.nothing else trait.less
    what = trait.what[:1].upper() + trait.what[1:]
    return f"{what}: cannot tell yet" if habit.state == "open" else f"{what}: as seen"


def habit_figure(habit: Habit) -> str:
    """How far it is from as seen: with its sign, in percent or degrees."""
    return _signed(habit.trait, habit.value - habit.nothing) + _unit(habit.trait)


def range_words(habit: Habit) -> str:
    """The interval about the figure, with its signs: *5 to 11 %*, *−5 to −2 %*."""
    trait, digits = habit.trait, _digits(habit.trait)
    shown = (_shown(trait, end - habit.nothing) for end in (habit.low, habit.high))
    low, high = (plain(end, digits) for end in shown)
    return f"{low} to {high}{_unit(trait)}"


def note_words(habit: Habit) -> str:
    """A second line: what is told of a slope, how surely, or what would settle it."""
    studies = how_many(habit.n, "study")
    if habit.state == "open":
        if habit.more is None:
            return f"it comes and goes too much over {studies}"
        return f"{how_many(habit.more, 'more study')} should settle it"
    if habit.trait.told and habit.state != "none":
        return habit.trait.told.format(f"{100.0 * habit.value:.0f} %")
    if habit.state == "slight":
        return f"surely, but under half of what one study is held to; {studies}"
    if habit.state == "none":
        limit = _shown(habit.trait, habit.tolerance)
        return f"surely by less than {limit:.0f}{_unit(habit.trait)}; {studies}"
    beside = ", against the rest" if habit.trait.kind == "size" else ""
    return f"in {studies}{beside}"


def spoken_habit(habit: Habit) -> str:
    """All of it in one line."""
    figure = f"{habit_figure(habit)} ({range_words(habit)})"
    return f"{habit_title(habit)}: {figure}; {note_words(habit)}"


def change_words(change: Change) -> str:
    """What changed: *heads: +9 % to +3 %*."""
    trait = change.trait
    before, after = (_signed(trait, one - change.nothing) for one in (change.before, change.after))
    return f"{trait.what}: {before} to {after}{_unit(trait)}"
