"""Several learners on one machine: each has a library of their own, a name and a colour.

A small JSON file beside the first library lists them; nothing of what they draw is in it.
"""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from pathlib import Path

from bralto.core.errors import UserError
from bralto.core.quick_tuples import NamedTuple
from bralto.disk.private import make_private_folder, write_private
from bralto.disk.regular import read_text
from bralto.store.care.places import library_folder, named_library

__all__ = [
    "COLOURS", "Learner", "add_learner", "current_library", "last_root", "learners", "remember",
]  # fmt: skip

COLOURS = {
    "red chalk": "#A32C1C", "blue pencil": "#1D4E93", "ochre": "#76540A", "moss": "#3F6B3A",
    "heather": "#6A4C8C", "graphite": "#575047",
}  # fmt: skip
"""A learner's own, by name."""

_FILE, _FOLDER = "learners.json", "learners"
_LARGEST = 64 * 1024
_MOST, _LONGEST = 40, 40


class Learner(NamedTuple):
    """A name, a colour as #RRGGBB, and where the library lies."""

    name: str
    colour: str
    root: Path


def _read(first: Path) -> dict[str, object]:
    path = first.parent / _FILE
    try:
        if not path.exists():
            return {}
        found = json.loads(read_text(path, "the list of learners", _LARGEST))
    except (UserError, OSError, ValueError, RecursionError):
        return {}  # the first learner's library is there all the same
    return found if isinstance(found, dict) else {}


def learners(first: Path) -> tuple[Learner, ...]:
    """All learners, in the order in which they came; () where there was never a second one.

    Args:
        first: the first learner's library (`places.library_folder`).
    """
    rows = _read(first).get("learners")
    out = []
    for row in rows if isinstance(rows, list) else ():
        if not isinstance(row, dict):
            continue
        name, colour, folder = (row.get(key) for key in ("name", "colour", "folder"))
        if not isinstance(name, str) or not name or not isinstance(folder, str):
            continue
        plain = re.fullmatch(r"[a-z0-9-]{0,60}", folder) is not None
        if not plain:
            continue  # it would lead out of the folder
        root = first.parent / _FOLDER / folder / "library" if folder else first
        good = isinstance(colour, str) and re.fullmatch(r"#[0-9A-Fa-f]{6}", colour)
        out.append(Learner(name[:_LONGEST], str(colour) if good else COLOURS["graphite"], root))
    return tuple(out[:_MOST])


def add_learner(first: Path, own: str, name: str, colour: str) -> Learner:
    """One more learner, with an empty library; the first one gets a name on that occasion.

    Args:
        own: the name of the first learner, where there was none yet.

    Raises:
        UserError: the name is empty or taken, or it cannot be written there.
    """
    name, own = (" ".join(one.split())[:_LONGEST] for one in (name, own))
    there = learners(first) or (Learner(own or "First learner", COLOURS["graphite"], first),)
    if not name or not name.isprintable():
        raise UserError("a learner wants a name")
    if name.casefold() in {one.name.casefold() for one in there}:
        raise UserError(f"there is a learner called {name} already")
    taken = {one.root.parent.name for one in there}
    stem = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:40] or "learner"
    folder, number = stem, 2
    while folder in taken:
        folder, number = f"{stem}-{number}", number + 1
    new = Learner(name, colour, first.parent / _FOLDER / folder / "library")
    try:
        make_private_folder(new.root.parent, parents=True)
    except OSError as error:
        raise UserError(f"{new.root.parent}: cannot be made: {error.strerror}") from None
    _write(first, (*there, new), new.root)
    return new


def remember(first: Path, root: Path) -> None:
    """Whose library was opened last: Bralto begins there the next time. Where that cannot be
    written it begins with the first."""
    there = learners(first)
    if there:
        try:
            _write(first, there, root)
        except UserError:
            return


def last_root(first: Path) -> Path:
    """The library that was opened last, as far as there are several learners; else the first."""
    last = _read(first).get("last")
    found = next((one for one in learners(first) if _folder(first, one) == last), None)
    return first if found is None else found.root


def current_library() -> Path:
    """The library that was named for this run, else that of whoever drew last on this machine."""
    return named_library() or last_root(library_folder().absolute())


def _folder(first: Path, one: Learner) -> str:
    return "" if one.root == first else one.root.parent.name


def _write(first: Path, there: Sequence[Learner], last: Path) -> None:
    body = {
        "learners": [
            {"name": one.name, "colour": one.colour, "folder": _folder(first, one)} for one in there
        ],
        "last": next((_folder(first, one) for one in there if one.root == last), ""),
    }
    path = first.parent / _FILE
    try:
        make_private_folder(first.parent, parents=True)
        write_private(path, json.dumps(body, ensure_ascii=False, indent=1).encode())
    except OSError as error:
        raise UserError(f"{path}: cannot be written: {error.strerror}") from None
