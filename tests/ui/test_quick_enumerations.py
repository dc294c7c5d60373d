"""PyQt's enumerations made the short way are those that it makes by itself, all of them."""

from __future__ import annotations

import json
import subprocess
import sys
from typing import Any

import pytest

_DESCRIBE = """
import enum, json, pickle, sys
if sys.argv[1] == "quickly":
    from bralto.ui.running.quick_enumerations import make_quickly
    make_quickly()
from PyQt6 import QtCore, QtGui, QtPrintSupport, QtSvg, QtWidgets

def all_of(owner, path, module):
    getattr(owner, "none of this name", None)  # makes those that are made when first named
    for name, one in list(vars(owner).items()):
        if not isinstance(one, type) or one.__module__ != module or "." in name:
            continue
        if one.__qualname__ != path + name:
            continue
        if issubclass(one, enum.Enum):
            yield one
        elif path.count(".") < 3:
            yield from all_of(one, path + name + ".", module)

def tried(act):
    try:
        found = act()
        return [repr(found), repr(getattr(found, "value", None))]
    except (TypeError, ValueError, KeyError) as error:
        return [type(error).__name__, str(error)]

_KEPT = (
    "_flag_mask_", "_all_bits_", "_singles_mask_", "_boundary_", "_member_type_", "_use_args_",
    "_value_repr_", "__doc__", "__module__", "__qualname__",
)

def described(one):
    members = one.__members__
    said = {
        "bases": [base.__name__ for base in one.__mro__],
        "members": [[name, repr(it), str(it), it.name] for name, it in members.items()],
        "iterated": [repr(it) for it in one],
        "pickled": [pickle.loads(pickle.dumps(it)) is it for it in one],
        "values": [tried(lambda: one(value)) for value in (0, 1, 3, 7, 255, -1, 1 << 40, "a")],
        "own": sorted(name for name in vars(one) if name not in members),
        "kept": [repr(getattr(one, name, None)) for name in _KEPT],
    }
    if issubclass(one, enum.Flag):
        first = list(members.values())[:10]
        said["together"] = [
            tried(act)
            for a in first
            for b in first
            for act in (lambda: a | b, lambda: a & b, lambda: a ^ b, lambda: a in b, lambda: ~a)
        ]
    return said

everything = {}
for module in (QtCore, QtGui, QtPrintSupport, QtSvg, QtWidgets):
    for one in all_of(module, "", module.__name__):
        everything[f"{one.__module__}.{one.__qualname__}"] = described(one)
print(json.dumps(everything))
"""


def _described(way: str) -> dict[str, dict[str, Any]]:
    """Every enumeration of the modules that are used, by name."""
    done = subprocess.run(
        [sys.executable, "-c", _DESCRIBE, way], check=True, capture_output=True, text=True
    )
    made: dict[str, dict[str, Any]] = json.loads(done.stdout)
    return made


def test_they_are_those_that_pyqt_makes() -> None:
    """Names, values, order, what they are together, and how they are kept in files."""
    quickly, plainly = _described("quickly"), _described("plainly")
    assert len(plainly) > 500
    assert len(plainly["PyQt6.QtCore.Qt.Key"]["members"]) > 400
    assert quickly.keys() == plainly.keys()
    others = [name for name in plainly if quickly[name] != plainly[name]]
    assert others == []


@pytest.mark.parametrize(
    ("made", "module"),
    [
        ("enum.Enum('Side', 'LEFT RIGHT')", "__main__"),
        ("enum.Flag('Side', {'LEFT': 1, 'RIGHT': 2}, module='elsewhere', qualname='A.Side')",
         "elsewhere"),
        ("enum.IntEnum('Side', ['LEFT', 'RIGHT'], start=5, module='PyQt6.own')", "PyQt6.own"),
    ],
)  # fmt: skip
def test_all_others_are_made_as_before(made: str, module: str) -> None:
    """Of what is no enumeration of PyQt's, as the functional form makes it."""
    code = f"""
import enum
plain = {made}
from bralto.ui.running.quick_enumerations import make_quickly
make_quickly()
side = {made}
assert [(a.name, a.value) for a in side] == [(a.name, a.value) for a in plain]
assert side.__mro__[1:] == plain.__mro__[1:]
assert (side.__module__, side.__qualname__) == (plain.__module__, plain.__qualname__)
print(side.__module__)
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout.strip() == module


@pytest.mark.parametrize("module", ["PyQt6.own", "elsewhere"])
def test_they_are_made_by_the_names_of_what_is_given_too(module: str) -> None:
    """As Python 3.12 and 3.13 call what makes them: no window opened there."""
    code = f"""
import enum
from bralto.ui.running.quick_enumerations import make_quickly
make_quickly()
told = dict(module={module!r}, qualname="A.Side", type=None, start=1, boundary=None)
side = enum.Enum._create_(class_name="Side", names={{"LEFT": 1, "RIGHT": 2}}, **told)
print([(one.name, one.value) for one in side], side.__module__, side.__qualname__)
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout == f"[('LEFT', 1), ('RIGHT', 2)] {module} A.Side\n"


@pytest.mark.skipif(sys.version_info[:2] != (3, 11), reason="done with this Python alone")
def test_they_are_made_from_one_template_for_each_base() -> None:
    """The standard library's own way is gone once a base, not once an enumeration."""
    code = """
import enum, re  # whose own flags are made so too
plain, bases = enum._simple_enum, []
def simple(base, **how):
    bases.append(base.__name__)
    return plain(base, **how)
enum._simple_enum = simple
from bralto.ui.running.quick_enumerations import make_quickly
make_quickly()
from PyQt6.QtCore import Qt
assert len(Qt.Key) > 400
assert Qt.MouseButton.LeftButton in Qt.MouseButton.LeftButton | Qt.MouseButton.RightButton
print(*sorted(bases))
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout.split() == ["Enum", "Flag", "IntEnum", "IntFlag"]


@pytest.mark.skipif(sys.version_info[:2] != (3, 11), reason="done with this Python alone")
def test_flags_are_made_the_standard_library_s_way_where_theirs_are_other_ones() -> None:
    """As in Python 3.11.2, which Debian 12 has: flags there have no mask of their single bits."""
    code = """
import enum, re  # whose own flags are made so too
plain, bases = enum._simple_enum, []
def simple(base, **how):
    def made(cls):
        bases.append(base.__name__)
        whole = plain(base, **how)(cls)
        if issubclass(base, enum.Flag):
            type.__delattr__(whole, "_singles_mask_")
        return whole
    return made
enum._simple_enum = simple
from bralto.ui.running.quick_enumerations import make_quickly
make_quickly()
from PyQt6.QtCore import Qt
Qt.Key
print(bases.count("Enum"), bases.count("IntEnum"), bases.count("Flag") > 10)
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout == "1 1 True\n"


def test_a_start_makes_them_quickly() -> None:
    """The command does so, and before PyQt is there, which makes its first ones as it is loaded."""
    code = """
import sys
from bralto.ui.running import quick_enumerations
plain = quick_enumerations.make_quickly
def make_quickly():
    print("PyQt6" in sys.modules)
    plain()
    import bralto.app
    bralto.app.run_window = lambda folder: print(folder) or 0
quick_enumerations.make_quickly = make_quickly
sys.argv = ["bralto", "--library", "here"]
from bralto.start import run
run()
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout.split() == ["False", "here"]
