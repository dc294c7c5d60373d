"""The traits that are asked of every study, read from data; the only place that knows the table."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

__all__ = ["FitSpec", "TraitSpec", "fit_spec", "group_of", "trait_named", "traits_of"]


@dataclass(frozen=True, slots=True)
class TraitSpec:
    """One trait, as data.

    Attributes:
        key: id, a contract. kind: see the head of ``data/traits.toml``.
        moves: of the search for corrections, as kind and part (None for the whole).
        measures: ids that a slope is about. lines: of an ``away``, the tilts of the
            two limbs.
        zero: of a slope of directions or angles, at which of them there is nothing to straighten,
            degrees; None for distances, which are 0 then.
        border: of an angle in space, degrees: from there on it is told as a slope, up to there as
            of the whole; 0 for all else.
        weight: of a size, its say in what the rest of the body is.
        what: the subject in words; more, less: what a learner does who has the habit; told: the
            same of a slope, with a place for its value.
        unit: ``percent``, ``degrees`` or ``share`` (percent of the line it divides).
        first, step, measure: what to check first, in which pass, by which measure or "".
        drill, poses: what trains it, and the poses of the model that have it in them.
    """

    key: str
    kind: str
    moves: tuple[tuple[str, str | None], ...]
    measures: tuple[str, ...]
    lines: tuple[str, ...]
    zero: float | None
    border: float
    weight: float
    what: str
    more: str
    less: str
    told: str
    unit: str
    first: str
    step: str
    measure: str
    drill: str
    poses: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FitSpec:
    """What is fitted beside the traits of a group of views.

    Attributes:
        beside: moves that must not pass for a trait, as kind and part, which may end in ``*``.
        shift: SD of where a part may stand, heads.
    """

    beside: tuple[tuple[str, str], ...]
    shift: float


def group_of(view: str) -> str:
    """Of which group a view is: the first word of its key."""
    return view.split("-", 1)[0]


@lru_cache(maxsize=1)
def _data() -> dict[str, object]:
    text = (resources.files(__package__) / "data" / "traits.toml").read_text("utf-8")
    return tomllib.loads(text)


@lru_cache
def traits_of(group: str) -> tuple[TraitSpec, ...]:
    """The traits that are asked of that group of views, in the order of the table."""
    rows = _data()["trait"]
    assert isinstance(rows, list)
    return tuple(_trait(row) for row in rows if group in row["views"])


@lru_cache
def trait_named(key: str) -> TraitSpec | None:
    """The trait of that id, or None."""
    rows = _data()["trait"]
    assert isinstance(rows, list)
    return next((_trait(row) for row in rows if row["key"] == key), None)


@lru_cache
def fit_spec(group: str) -> FitSpec | None:
    """What is fitted beside the traits of a group; None where none are asked (objects)."""
    table = _data()["fit"]
    assert isinstance(table, dict)
    row = table.get(group)
    if row is None:
        return None
    beside = tuple(tuple(one.split()) for one in row["turns"])
    return FitSpec(beside, float(row["shift"]))


def _trait(row: dict[str, object]) -> TraitSpec:
    def words(key: str) -> str:
        return str(row.get(key, ""))

    def many(key: str) -> tuple[str, ...]:
        found = row.get(key, ())
        assert isinstance(found, list | tuple)
        return tuple(found)

    moves = tuple(_move(one) for one in many("moves"))
    zero = row.get("zero")
    return TraitSpec(
        words("key"), words("kind"), moves, many("measures"), many("lines"),
        None if zero is None else float(str(zero)), float(str(row.get("border", 0.0))),
        float(str(row.get("weight", 0.0))), words("what"), words("more"), words("less"),
        words("told"), words("unit"), words("first"), words("step"), words("measure"),
        words("drill"), many("poses"),
    )  # fmt: skip


def _move(said: str) -> tuple[str, str | None]:
    kind, part = said.split()
    return kind, None if part == "whole" else part
