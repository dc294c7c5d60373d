"""Reads the canons that ship with the package; each says where it comes from."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

import numpy as np

from bralto.core.errors import UserError

__all__ = ["BY_AGE", "Canon", "canon_keys", "canon_named", "canons_of"]

BY_AGE = "child"
"""The canon that wants an age, as in ``child-at-6``."""

_BY_AGE = re.compile(r"child-at-(\d{1,2}(?:\.\d+)?)")


@dataclass(frozen=True, eq=False)
class Canon:
    """An average by name. It is a question to a drawing, and nobody is it.

    Attributes:
        view: key of the view whose measures it speaks of.
        source: where it comes from.
        note: of whom it is an average, in one line.
        values: by measure id, in the measure's unit (heads, parts of an axis, ratios).
    """

    key: str
    title: str
    view: str
    source: str
    note: str
    values: Mapping[str, float]


@lru_cache(maxsize=1)
def canon_keys() -> tuple[str, ...]:
    """Keys of all shipped canons; a child's is completed by an age, as in ``child-at-6``."""
    folder = resources.files(__package__) / "data"
    return tuple(
        sorted(f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml"))
    )


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
    text = (resources.files(__package__) / "data" / f"{name}.toml").read_text("utf-8")
    data = tomllib.loads(text)
    values, title = data.get("values", {}), data["title"]
    if "age" in data:
        ages = [row["years"] for row in data["age"]]
        if aged is None or not ages[0] <= float(aged[1]) <= ages[-1]:
            raise UserError(
                f"the canon of a child wants an age from {ages[0]} to {ages[-1]}, as child-at-6"
            )
        heads = float(np.interp(float(aged[1]), ages, [row["heads"] for row in data["age"]]))
        values, title = {"span.figure": heads, "height.sole": heads}, f"A child at {aged[1]}"
    return Canon(key, title, data["view"], data["source"], data["note"], values)


def canons_of(view: str) -> tuple[Canon, ...]:
    """The canons of a view that need no age."""
    named = (canon_named(key) for key in canon_keys() if key != BY_AGE)
    return tuple(one for one in named if one.view == view)
