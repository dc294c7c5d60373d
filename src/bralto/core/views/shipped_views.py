"""Reads the views that ship with the package; the only place that knows their TOML form."""

from __future__ import annotations

import tomllib
from collections.abc import Collection, Iterable
from dataclasses import replace
from functools import lru_cache
from importlib import resources
from typing import Any

from bralto.core.errors import BugError, UserError
from bralto.core.terms import School
from bralto.core.tolerances import GRADES_OF
from bralto.core.views.limb_tree import WORK, Limb
from bralto.core.views.model import (
    REGIONS,
    DerivedPoint,
    Landmark,
    MeasureSpec,
    Order,
    Part,
    Pass,
    View,
)
from bralto.core.views.pass_keys import PassKey

__all__ = ["mark_measures", "parse_view", "view_keys", "view_named"]

_SIDES = {"r": "R", "l": "L"}
# Seen from the front, the model's right is on the viewer's left. A view from the side has no pairs.
_VIEWER = {
    "front": {"r": "on your left", "l": "on your right"},
    "back": {"r": "on your right", "l": "on your left"},
    "side": {},
}


@lru_cache(maxsize=1)
def view_keys() -> tuple[str, ...]:
    """Keys of all shipped views, in alphabetical order."""
    folder = resources.files(__package__) / "data"
    return tuple(
        sorted(f.name.removesuffix(".toml") for f in folder.iterdir() if ".toml" in f.name)
    )


@lru_cache
def view_named(key: str) -> View:
    """The shipped view of that key.

    Raises:
        UserError: there is none; the message lists those there are.
    """
    if key not in view_keys():
        raise UserError(f"unknown view '{key}'; use one of {', '.join(view_keys())}")
    text = (resources.files(__package__) / "data" / f"{key}.toml").read_text("utf-8")
    return parse_view(tomllib.loads(text))


def parse_view(data: dict[str, Any]) -> View:
    """Build a view from its TOML table, expanding pairs; every name used must exist.

    Raises:
        BugError: a measure, part or list names a point that is not there.
    """
    viewer = _VIEWER[data["seen_from"]]
    landmarks = tuple(mark for row in data["landmark"] for mark in _landmarks(row, viewer))
    points = tuple(_point(row) for row in data.get("point", ()))
    named = tuple(spec for row in data["measure"] for spec in _measures(row))
    unit = data.get("unit", "head")
    measures = tuple(
        spec if unit == "head" else replace(spec, counted=unit)
        for spec in _auto_measures(data, landmarks, points, named) + named
    )
    parts = tuple(part for row in data["part"] for part in _parts(row))
    view = View(
        key=data["key"],
        title=data["title"],
        school=School(data["school"]),
        head=(data["head"][0], data["head"][1]),
        heads=data.get("heads", 1.0),
        unit=unit,
        seen_from=data["seen_from"],
        plumb=data["plumb"],
        edges=(data["edges"][0], data["edges"][1]),
        landmarks=landmarks,
        points=points,
        passes=tuple(Pass(**row) for row in data["pass"]),
        parts=parts,
        measures=measures,
        short=tuple((s,) if isinstance(s, str) else tuple(s) for s in data["short"]),
        placing=_placing(data, landmarks),
        stations=tuple(data["stations"]),
        rails=tuple(data["rails"]),
        limbs=tuple(limb for row in data.get("limb", ()) for limb in _limbs(row)),
        size=data.get("size", "figure"),
        beyond=data.get("beyond", View.beyond),
        sized_by=data.get("sized_by", data.get("unit", View.sized_by)),
        heads_scatter=data.get("heads_scatter", 0.0),
        facing=tuple(data.get("facing", ())),
        axis=tuple(data.get("axis", ())),
        axis_lean=data.get("axis_lean", 0.0),
        unit_along=data.get("unit_along", "straight"),
        orders=tuple(Order(row["key"], tuple(row["marks"])) for row in data.get("order", ())),
    )
    _check(view)
    return view


def _sided(text: str, side: str) -> str:
    """``*`` is the side itself, ``~`` the other one."""
    return text.replace("*", side).replace("~", "l" if side == "r" else "r")


def _landmarks(row: dict[str, Any], viewer: dict[str, str]) -> list[Landmark]:
    label, short = row["label"], row.get("short", row["label"])
    region = row.get("region", "")
    if not row.get("paired", False):
        return [Landmark(row["key"], label, short, row["how"], row["step"], region)]
    return [
        Landmark(
            key=f"{row['key']}_{side}",
            label=f"{letter} {label} ({viewer[side]})",
            short=f"{letter} {short}",
            how=row["how"],
            step=row["step"],
            region=region,
        )
        for side, letter in _SIDES.items()
    ]


def _point(row: dict[str, Any]) -> DerivedPoint:
    rule = next((rule for rule in ("lowest", "support", "mass") if rule in row), "mean")
    return DerivedPoint(row["key"], row["label"], rule, () if rule == "mass" else tuple(row[rule]))


def _measures(row: dict[str, Any]) -> list[MeasureSpec]:
    kind = row["id"].split(".", 1)[0]
    sides = _SIDES if row.get("paired", False) else {"": ""}
    return [
        MeasureSpec(
            id=row["id"] + (f"_{side}" if side else ""),
            label=f"{letter} {row['label']}".strip(),
            kind=kind,
            points=tuple(_sided(key, side) for key in _points_of(kind, row)),
            along=row.get("along", "both" if len(row.get("against", ())) == 4 else "straight"),
            skill=row["skill"],
            step=row["step"],
            telling=row.get("telling", True),
            posed=row.get("posed", True),
            against_plumb=row.get("against_plumb", False),
        )
        for side, letter in sides.items()
    ]


def mark_measures(
    crown: str,
    plumb: str,
    labels: Iterable[tuple[str, str]],
    *,
    stations: Collection[str] = (),
    rails: Collection[str] = (),
) -> tuple[tuple[MeasureSpec, ...], tuple[MeasureSpec, ...]]:
    """``height.MARK`` and ``offset.MARK`` for marks given as (key, label); only those of the
    stations and rails are telling."""
    labels = list(labels)
    heights = tuple(
        MeasureSpec(
            id=f"height.{key}",
            label=label,
            kind="height",
            points=(crown, key),
            along="plumb",
            skill="heights",
            step=PassKey.HEIGHTS,
            telling=key in stations,
        )
        for key, label in labels
    )
    offsets = tuple(
        MeasureSpec(
            id=f"offset.{key}",
            label=f"{label} from plumb",
            kind="offset",
            points=(plumb, key),
            along="level",
            skill="plumb",
            step=PassKey.WIDTHS,
            telling=key in rails,
        )
        for key, label in labels
    )
    return heights, offsets


def _points_of(kind: str, row: dict[str, Any]) -> list[str]:
    """The points of a measure's formula, in its order."""
    if kind in {"ratio", "angle"}:
        return [*row["line"], *row["against"]]
    names = ("upper", "at", "lower") if kind == "fraction" else ("from", "to")
    return [row[name] for name in names]


def _auto_measures(
    data: dict[str, Any],
    landmarks: tuple[Landmark, ...],
    points: tuple[DerivedPoint, ...],
    named: tuple[MeasureSpec, ...],
) -> tuple[MeasureSpec, ...]:
    """Heights and offsets of every mark, and heights of the derived points."""
    crown, plumb = data["edges"][0], data["plumb"]
    # A named span from the crown along plumb says the same as the height of its lower end.
    spans = {spec.points[1] for spec in named if spec.points[0] == crown and _is_drop(spec)}
    labels = [(mark.key, mark.short) for mark in landmarks]
    # Where the weight falls is told by a measure of its own; its height tells nothing.
    derived = [(p.key, p.label) for p in points if p.rule in {"mean", "lowest"}]
    telling = set(data["stations"]) - spans
    heights, offsets = mark_measures(
        crown, plumb, labels, stations=telling, rails=set(data["rails"])
    )
    return heights + mark_measures(crown, plumb, derived, stations=telling)[0] + offsets


def _is_drop(spec: MeasureSpec) -> bool:
    return (spec.kind, spec.along) == ("span", "plumb")


def _parts(row: dict[str, Any]) -> list[Part]:
    sides = _SIDES if row.get("paired", False) else {"": ""}
    return [
        Part(
            key=row["key"] + (f"_{side}" if side else ""),
            label=f"{letter} {row['label']}".strip(),
            spans=tuple((_sided(a, side), _sided(b, side)) for a, b in row["spans"]),
        )
        for side, letter in sides.items()
    ]


def _limbs(row: dict[str, Any]) -> list[Limb]:
    sides = _SIDES if row.get("paired", False) else {"": ""}

    def all_sided(name: str, side: str) -> tuple[str, ...]:
        return tuple(_sided(key, side) for key in row.get(name, ()))

    return [
        Limb(
            key=row["key"] + (f"_{side}" if side else ""),
            label=f"{letter} {row['label']}".strip(),
            own=f"{letter} {row.get('own', row['label'])}".strip(),
            parent=_sided(row["parent"], side) if "parent" in row else None,
            root=all_sided("root", side),
            weights=tuple(row.get("weights", [1.0 / len(row["root"])] * len(row["root"]))),
            marks=all_sided("marks", side),
            span=all_sided("span", side),
            girdle=row.get("girdle", False),
            rigid=row.get("rigid", True),
            turns=row.get("turns", True),
            sized=row.get("sized", True),
            slides=row.get("slides", False),
            work=row.get("work", "girdle" if row.get("girdle", False) else "limb"),
            alone=row.get("alone", ""),
            turns_as=row.get("turns_as", ""),
            pair=tuple(row.get("pair", ())),
            own_pair=tuple(row.get("own_pair", row.get("pair", ()))),
            group=tuple(row.get("group", ())),
            socket=row.get("socket", ""),
            socket_marks=all_sided("socket_marks", side),
            apart=row.get("apart", ""),
            grows=row.get("grows", "longer"),
            instead=all_sided("instead", side),
        )
        for side, letter in sides.items()
    ]


def _placing(data: dict[str, Any], landmarks: tuple[Landmark, ...]) -> tuple[str, ...]:
    """The short set first, then the rest: each in the order of the passes, then of the file."""
    order = {row["key"]: i for i, row in enumerate(data["pass"])}
    by_pass = sorted(landmarks, key=lambda m: order[m.step])
    short = {
        key for entry in data["short"] for key in ([entry] if isinstance(entry, str) else entry)
    }
    first = [m.key for m in by_pass if m.key in short]
    return tuple(first + [m.key for m in by_pass if m.key not in short])


def _check(view: View) -> None:
    marks = {m.key for m in view.landmarks}
    known = marks | {p.key for p in view.points}
    passes = {p.key for p in view.passes}
    used = [(f"measure {s.id}", key) for s in view.measures for key in s.points]
    used += [(f"part {p.key}", key) for p in view.parts for pair in p.spans for key in pair]
    used += [("stations", key) for key in view.stations] + [("rails", key) for key in view.rails]
    used += [("edges", key) for key in (*view.edges, view.plumb)]
    used += [(f"order {one.key}", key) for one in view.orders for key in one.marks]
    used += [("facing", key) for key in view.facing] + [("axis", key) for key in view.axis]
    used += [
        (f"limb {x.key}", key)
        for x in view.limbs
        for key in (*x.root, *x.instead, *x.marks, *x.span, *x.socket_marks)
    ]
    above: set[str | None] = {None}
    if view.size not in GRADES_OF:
        raise BugError(f"view {view.key}: '{view.size}' is no size; {', '.join(GRADES_OF)}")
    for limb in view.limbs:
        if limb.parent not in above:
            raise BugError(f"view {view.key}, limb {limb.key}: '{limb.parent}' must stand above it")
        if len(limb.weights) != len(limb.root) or abs(sum(limb.weights) - 1.0) > 1e-9:
            raise BugError(f"view {view.key}, limb {limb.key}: its weights must sum to 1")
        if limb.work not in WORK:
            raise BugError(f"view {view.key}, limb {limb.key}: '{limb.work}' is no kind of work")
        if {len(limb.pair), len(limb.own_pair), len(limb.group)} - {0, 2}:
            raise BugError(
                f"view {view.key}, limb '{limb.key}': a pair or a group has a key and its words"
            )
        above.add(limb.key)
    for where, key in used:
        if key not in known:
            raise BugError(f"view {view.key}, {where}: there is no point '{key}'")
    for mark in view.landmarks:
        if mark.region not in {"", *REGIONS}:
            raise BugError(f"view {view.key}, {mark.key}: '{mark.region}' is no region")
    for point in view.points:
        if not set(point.marks) <= marks:
            raise BugError(f"view {view.key}, point {point.key}: made from unknown marks")
    for spec in view.measures:
        if spec.step not in passes:
            raise BugError(f"view {view.key}, measure {spec.id}: there is no pass '{spec.step}'")
    if len({s.id for s in view.measures}) != len(view.measures):
        raise BugError(f"view {view.key}: a measure id stands twice")
