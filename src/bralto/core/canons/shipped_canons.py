"""Reads the canons that ship with the package; each says where it comes from."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

import numpy as np

from bralto.core.errors import UserError

__all__ = ["BY_AGE", "Average", "Canon", "canon_keys", "canon_named", "canons_of", "general_of"]

BY_AGE = "child"
"""The canon that wants an age, as in ``child-at-6``."""

_BY_AGE = re.compile(r"child-at-(\d{1,2}(?:\.\d+)?)")
_AGES = (4, 8, 12)
"""Those that are offered; any other can be named."""

_HEADS = "heads"
"""What a canon by age writes where the heads of that age are meant."""

_ABOUT = frozenset({"key", "title", "source", "note", "general", "apart", "age"})


@dataclass(frozen=True, slots=True)
class Average:
    """A usual value, in the unit of its measure: from ``low`` to ``high``, mostly one and the
    same."""

    low: float
    high: float

    @property
    def middle(self) -> float:
        """Halfway between them."""
        return 0.5 * (self.low + self.high)

    def nearest(self, value: float) -> float:
        """The usual value that lies nearest to another."""
        return min(max(value, self.low), self.high)

    def mirrored(self) -> Average:
        """The same with the other sign."""
        return Average(-self.high, -self.low)


@dataclass(frozen=True, eq=False)
class Canon:
    """An average by name. It is a question to a drawing, and nobody is it.

    Attributes:
        source: where it comes from.
        note: of whom it is an average, in one line.
        by_view: by view, its values by measure id. What lies forward in a view from the side is
            counted as in a figure that faces to the viewer's right.
        general: what all schools say: it completes any other canon and is not chosen itself.
        apart: it speaks of something of its own, of children or of stylised faces: other schools do
            not complete it, nor it them.
    """

    key: str
    title: str
    source: str
    note: str
    by_view: Mapping[str, Mapping[str, Average]]
    general: bool = False
    apart: bool = False

    @property
    def views(self) -> tuple[str, ...]:
        """Keys of the views that it speaks of."""
        return tuple(self.by_view)

    def values(self, view: str) -> Mapping[str, Average]:
        """What it says of a view's measures; nothing of a view that it does not speak of."""
        return self.by_view.get(view, {})


@lru_cache(maxsize=1)
def canon_keys() -> tuple[str, ...]:
    """Keys of all shipped canons; a child's is completed by an age, as in ``child-at-6``."""
    folder = resources.files(__package__) / "data"
    return tuple(
        sorted(f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml"))
    )


@lru_cache
def _read(name: str) -> Mapping[str, Any]:
    """A file of data; a child's serves all ages."""
    text = (resources.files(__package__) / "data" / f"{name}.toml").read_text("utf-8")
    return tomllib.loads(text)


@lru_cache
def canon_named(key: str) -> Canon:
    """The canon of that key.

    Raises:
        UserError: there is none, or a child's age is missing or out of range.
    """
    aged = _BY_AGE.fullmatch(key)
    name = BY_AGE if aged else key
    if name not in canon_keys():
        raise UserError(f"unknown canon '{key}'; use one of {', '.join(canon_keys())}")
    data = _read(name)
    heads, title = None, data["title"]
    if "age" in data:
        ages = [row["years"] for row in data["age"]]
        if aged is None or not ages[0] <= float(aged[1]) <= ages[-1]:
            raise UserError(
                f"the canon of a child wants an age from {ages[0]} to {ages[-1]}, as child-at-6"
            )
        heads = float(np.interp(float(aged[1]), ages, [row["heads"] for row in data["age"]]))
        title = f"A child at {aged[1]}"
    by_view = {view: _values(data[view], heads) for view in data if view not in _ABOUT}
    kind = {name: data.get(name, False) for name in ("general", "apart")}
    return Canon(key, title, data["source"], data["note"], by_view, **kind)


def _values(table: Mapping[str, Any], heads: float | None) -> dict[str, Average]:
    """A view's table; ``_*`` in an id stands for either side."""
    out = {}
    for key, value in table.items():
        said: Any = heads if value == _HEADS else value
        low, high = said if isinstance(said, list) else (said, said)
        for side in ("_r", "_l") if key.endswith("_*") else ("",):
            out[key.removesuffix("_*") + side] = Average(float(low), float(high))
    return out


def canons_of(view: str) -> tuple[Canon, ...]:
    """The canons of a view to choose from: its schools, or what all say where it has none; then
    children of some ages."""
    said = [one for one in _ageless() if view in one.by_view]
    schools = [one for one in said if not one.general] or said
    aged = [canon_named(f"{BY_AGE}-at-{age}") for age in _AGES]
    return (*schools, *(one for one in aged if view in one.by_view))


def general_of(view: str) -> Canon | None:
    """What all schools say of a view, or None."""
    return next((one for one in _ageless() if one.general and view in one.by_view), None)


@lru_cache(maxsize=1)
def _ageless() -> tuple[Canon, ...]:
    return tuple(canon_named(key) for key in canon_keys() if key != BY_AGE)
