"""A view that a learner wrote: checked as if a stranger had, with the line of what is wrong."""

from __future__ import annotations

import re
import tomllib
from typing import Any

from bralto.core.errors import BugError, UserError
from bralto.core.measures.kinds import FORMULAS
from bralto.core.terms import School
from bralto.core.views.model import View
from bralto.core.views.shipped_views import parse_view, view_keys

__all__ = ["parse_own_view"]

_TEXTS = ("key", "title", "seen_from", "school", "plumb")
_LISTS = ("head", "edges", "short", "stations", "rails", "pass", "landmark", "part", "measure")
_ROWS = {
    "pass": ("key", "title", "hint"),
    "landmark": ("key", "label", "step", "how"),
    "part": ("key", "label", "spans"),
    "measure": ("id", "label", "skill", "step"),
    "limb": ("key", "label", "root", "marks"),
    "order": ("key", "marks"),
    "point": ("key", "label"),
}
"""Keys that every row of a table wants."""

_KINDS = {
    "a text": (
        "key", "label", "how", "step", "short", "hint", "title", "own", "parent", "along", "at",
        "from", "to", "id", "lower", "upper", "skill", "work", "alone", "turns_as", "socket",
        "apart", "grows", "region",
    ),
    "true or false": (
        "paired", "girdle", "rigid", "turns", "sized", "slides", "posed", "telling", "mass",
        "against_plumb", "offer",
    ),
    "a number": ("nominal",),  # of files written before canons held all averages: read, not used
    "a list of texts": (
        "marks", "root", "span", "against", "line", "lowest", "mean", "support", "pair", "own_pair",
        "group", "socket_marks", "instead",
    ),
    "a list of numbers": ("weights",),
    "a list of pairs of texts": ("spans",),
}  # fmt: skip
"""What a key of a row must hold, whatever its table."""

_LARGEST = 1e6

_KEY = re.compile(r"[a-z][a-z0-9_-]*")


def parse_own_view(text: str, where: str) -> View:
    """Build a view from TOML text; ``where`` names it in messages.

    Raises:
        UserError: one sentence with the line of the first fault.
    """
    try:
        data = tomllib.loads(text)
    except ValueError as error:  # TOMLDecodeError, and a number of more digits than Python reads
        raise UserError(f"{where}: not valid TOML, {str(error).partition(';')[0]}") from None
    except RecursionError:
        raise UserError(f"{where}: not valid TOML (nested too deep)") from None
    _check_form(data, text, where)
    if data["key"] in view_keys():
        raise UserError(
            _at(text, where, data["key"], f"the key '{data['key']}' is a shipped view's")
        )
    try:
        return parse_view(data)
    except BugError as error:
        name = re.search(r"'([^']*)'", str(error))
        raise UserError(_at(text, where, name[1] if name else "", str(error))) from None
    except (KeyError, TypeError, IndexError, ValueError, AttributeError, ArithmeticError) as error:
        lacking = str(error).strip("'\"")
        raise UserError(
            _at(text, where, lacking, f"something is missing or misshapen: {lacking}")
        ) from None


def _at(text: str, where: str, name: str, message: str) -> str:
    """A message with the first line that names what is wrong."""
    pattern = re.compile(rf"[\"\s=\[]{re.escape(name)}[\"\s=\]]|^{re.escape(name)}\b")
    for number, line in enumerate(text.splitlines(), start=1):
        if name and pattern.search(line):
            return f"{where}, line {number}: {message}"
    return f"{where}: {message}"


def _is(value: object, kind: str) -> bool:
    """Whether a value is of one of `_KINDS`."""
    if kind == "true or false":
        return isinstance(value, bool)
    if kind == "a number":
        if isinstance(value, bool) or not isinstance(value, int | float):
            return False
        return abs(value) < _LARGEST  # and no NaN, which is less than nothing
    if kind == "a text":
        return isinstance(value, str)
    if not isinstance(value, list) or not value:
        return False
    if kind == "a list of pairs of texts":
        return all(_is(one, "a list of texts") and len(one) == 2 for one in value)
    return all(_is(one, "a text" if kind == "a list of texts" else "a number") for one in value)


def _check_form(data: dict[str, Any], text: str, where: str) -> None:
    """That every table and every row of it has the keys it must have, in their kinds."""

    def fault(name: str, message: str) -> UserError:
        return UserError(_at(text, where, name, message))

    for name in _TEXTS:
        if not isinstance(data.get(name), str) or not data[name]:
            raise fault(name, f"'{name}' must be a text")
    for name in _LISTS:
        if not isinstance(data.get(name), list) or not data[name]:
            raise fault(name, f"'{name}' must be a list that is not empty")
    for name in ("head", "edges", "stations", "rails"):
        if not _is(data[name], "a list of texts"):
            raise fault(name, f"'{name}' must be a list of texts")
    if not all(_is(one, "a text") or _is(one, "a list of texts") for one in data["short"]):
        raise fault("short", "'short' must be a list of texts, or of lists of them")
    if not _is(data.get("heads", 1.0), "a number") or data.get("heads", 1.0) <= 0:
        raise fault("heads", "'heads' must be a number above 0")
    for name in ("heads_scatter", "beyond"):
        if not _is(data.get(name, 0.0), "a number") or data.get(name, 0.0) < 0:
            raise fault(name, f"'{name}' must be a number, 0 or above")
    for name in ("unit", "sized_by"):
        if not _is(data.get(name, ""), "a text"):
            raise fault(name, f"'{name}' must be a text")
    if data.get("unit_along", "straight") not in {"straight", "plumb"}:
        raise fault("unit_along", "'unit_along' must be straight or plumb")
    if data["school"] not in tuple(School):
        raise fault("school", f"'school' must be one of {', '.join(School)}")
    for table in ("limb", "point"):
        if not isinstance(data.get(table, []), list):
            raise fault(table, f"'{table}' must be a list of tables")
    if len(data["head"]) != 2 or len(data["edges"]) != 2:
        raise fault("head", "'head' and 'edges' must name two points each")
    if data["seen_from"] not in {"front", "back", "side"}:
        raise fault("seen_from", "'seen_from' must be front, back or side")
    for table, wanted in _ROWS.items():
        for row in data.get(table, []):
            known = str(row.get("key") or row.get("id") or "") if isinstance(row, dict) else ""
            for name in wanted:
                if not isinstance(row, dict) or name not in row:
                    raise fault(known, f"a {table} {known} lacks '{name}'".replace("  ", " "))
            for name, value in row.items():
                kind = next((kind for kind, names in _KINDS.items() if name in names), None)
                if kind is None:
                    raise fault(name, f"a {table} {known} has '{name}', which is no key of one")
                if not _is(value, kind):
                    raise fault(name, f"'{name}' of {table} {known} must be {kind}")
            if table != "measure" and not _KEY.fullmatch(str(row["key"])):
                raise fault(known, f"'{known}' is no key; use small letters, digits, - and _")
    one_sided = data["seen_from"] == "side"
    steps = {row["key"] for row in data["pass"]}
    for row in data["landmark"]:
        if row.get("paired") and one_sided:
            raise fault(row["key"], f"landmark '{row['key']}' is paired, but seen from the side")
        if row["step"] not in steps:
            raise fault(row["step"], f"landmark {row['key']}: there is no pass '{row['step']}'")
    for row in data["measure"]:
        kind = str(row["id"]).split(".", 1)[0]
        along = row.get("along", "straight")
        if "." not in str(row["id"]) or (kind, along) not in FORMULAS:
            known = ", ".join(sorted({k for k, _ in FORMULAS}))
            raise fault(
                row["id"], f"measure '{row['id']}' along {along} is none; kinds are {known}"
            )
