"""Quickly made named tuples are what `typing.NamedTuple`, the standard library's, makes."""

from __future__ import annotations

import copy
import pickle
import subprocess
import sys
import typing
from collections.abc import Callable
from typing import Any

import pytest

from bralto.core import quick_tuples


def _line(base: Any, name: str) -> Any:
    """A class of named tuples on either base, under a name by which pickle finds it."""

    class Line(base):  # type: ignore[misc]
        """A line on a sheet."""

        length: float
        name: str
        turned: float = 0.0
        tags: tuple[str, ...] = ()

        def doubled(self) -> float:
            """Twice as long."""
            return 2.0 * self.length

        @property
        def level(self) -> bool:
            """Whether it lies level."""
            return self.turned == 0.0

    Line.__name__ = Line.__qualname__ = name
    return Line


Quick = _line(quick_tuples.NamedTuple, "Quick")
Plain = _line(typing.NamedTuple, "Plain")


_SEEN: dict[str, Callable[[Any], object]] = {
    "by place": lambda made: made(1.0, "a", 2.0, ("b",)),
    "by name": lambda made: made(name="a", turned=2.0, length=1.0),
    "by both": lambda made: made(1.0, "a", tags=("b",)),
    "alone": lambda made: made(1.0, "a"),
    "one field": lambda made: [made(1.0, "a").name, made(1.0, "a", 3.0).turned],
    "unpacked": lambda made: [*made(1.0, "a")],
    "equal": lambda made: [made(1.0, "a") == (1.0, "a", 0.0, ()), made(1.0, "a") < made(2.0, "a")],
    "hashed": lambda made: hash(made(1.0, "a")) == hash((1.0, "a", 0.0, ())),
    "replaced": lambda made: made(1.0, "a")._replace(turned=3.0, name="b"),
    "as a mapping": lambda made: made(1.0, "a")._asdict(),
    "made of a list": lambda made: made._make([1.0, "a", 2.0, ()]),
    "kept": lambda made: [made._fields, made._field_defaults, made.__match_args__, made.__doc__],
    "a method": lambda made: [made(1.5, "a").doubled(), made(1.0, "a").level],
    "copied": lambda made: copy.deepcopy(made(1.0, "a", 0.0, ("b",))),
    "written": lambda made: pickle.loads(pickle.dumps(made(1.0, "a"))),
    "named so": lambda made: [made.__module__, made.__mro__[-2:], made.__slots__, type(made)],
    "what has no value": lambda made: made(1.0),
    "one too many": lambda made: made(1.0, "a", 2.0, (), 3),
    "what there is no place for": lambda made: made(1.0, "a", wide=3),
    "given twice": lambda made: made(1.0, "a", length=2.0),
    "replaced by nothing known": lambda made: made(1.0, "a")._replace(wide=3),
    "made of too few": lambda made: made._make([1.0]),
    "set": lambda made: setattr(made(1.0, "a"), "name", "b"),
    "set besides": lambda made: setattr(made(1.0, "a"), "other", "b"),
}


def _said(of: Any, act: Callable[[Any], object]) -> str:
    """What comes of it, or that it is refused; the class is called alike."""
    try:
        return repr(act(of)).replace(of.__name__, "Line")
    except AttributeError:
        return "no such attribute, or not to be set"
    except (TypeError, ValueError):  # of a field that is none: the former from Python 3.13 on
        return "refused"


@pytest.mark.parametrize("act", _SEEN.values(), ids=_SEEN)
def test_it_is_as_the_standard_library_has_it(act: Callable[[Any], object]) -> None:
    assert _said(Quick, act) == _said(Plain, act)


def test_it_is_taken_apart_by_its_fields() -> None:
    match Quick(1.0, "a", 2.0):
        case Quick(length, name, turned=2.0):
            assert (length, name) == (1.0, "a")
        case _:
            pytest.fail("not matched")


def test_a_field_is_read_where_this_python_has_no_short_way() -> None:
    """`collections` has one of its own in C, which not every Python has."""
    code = """
import collections, typing
del collections._tuplegetter
from bralto.core.quick_tuples import NamedTuple
class Line(NamedTuple):
    length: float
    name: str = "a"
line = Line(1.0)
print(line.length, line.name, type(vars(Line)["name"]).__name__)
try:
    line.name = "b"
except AttributeError:
    print("kept")
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout.split() == ["1.0", "a", "property", "kept"]
