"""In which order sightings are asked for: schools of practitioners, beside *what tells most*."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

from bralto.core.views.model import MeasureSpec, View

__all__ = ["MOST_TELLING", "SightingOrder", "order_named", "orders_of"]

MOST_TELLING = "telling"
"""The key of asking for what tells most; no list."""


@dataclass(frozen=True, slots=True)
class SightingOrder:
    """A school: ``key``, ``title``, what it ``says``, and ids of measures in their order."""

    key: str
    title: str
    says: str
    measures: tuple[str, ...]


@lru_cache
def _all() -> tuple[SightingOrder, ...]:
    text = (resources.files(__package__) / "orders.toml").read_text("utf-8")
    return tuple(
        SightingOrder(one["key"], one["title"], one["says"], tuple(one["measures"]))
        for one in tomllib.loads(text)["order"]
    )


def orders_of(view: View) -> tuple[SightingOrder, ...]:
    """Those that ask for at least three measures of the view."""
    return tuple(one for one in _all() if len(_of(view, one)) > 2)


def order_named(view: View, key: str) -> tuple[MeasureSpec, ...]:
    """The measures of an order that the view has; none where there is no such order."""
    return next((_of(view, one) for one in _all() if one.key == key), ())


def _of(view: View, one: SightingOrder) -> tuple[MeasureSpec, ...]:
    found = (view.measure(measure_id) for measure_id in one.measures)
    return tuple(spec for spec in found if spec is not None)
