"""The same pose drawn again: a new study of an old reference, linked to the first of its tries."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from bralto.core.errors import UserError
from bralto.core.mannequin.known import MODEL
from bralto.core.session.notes import Notes, notes_of, with_notes
from bralto.core.study.values import Study
from bralto.store.library import Library

__all__ = ["drawn_before", "next_title", "pose_title", "try_again"]

_ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth",
             "tenth")  # fmt: skip
_TRY = re.compile(r"(.*), (\w+) try")
_MOST_LOOKED_AT = 60
"""Studies of one title that are looked at for the setting they were drawn from."""


def next_title(title: str) -> str:
    """What the next try of a study is called: *Rope coiler, second try*."""
    found = _TRY.fullmatch(title)
    if found is None:
        return f"{title or 'Untitled study'}, second try"
    name, which = found.groups()
    if which in _ORDINALS[:-1]:
        return f"{name}, {_ORDINALS[_ORDINALS.index(which) + 1]} try"
    number = re.fullmatch(r"(\d+)(?:st|nd|rd|th)", which)
    if number is None and which != _ORDINALS[-1]:
        return f"{title}, second try"
    count = 1 + (int(number[1]) if number is not None else len(_ORDINALS))
    ending = (
        "th" if count % 100 in {11, 12, 13} else {1: "st", 2: "nd", 3: "rd"}.get(count % 10, "th")
    )
    return f"{name}, {count}{ending} try"


def pose_title(title: str) -> str:
    """What the pose of a try is called: *Rope coiler*."""
    found = _TRY.fullmatch(title)
    return title if found is None else found[1]


def try_again(library: Library, study_id: str, made: str) -> str:
    """A new study of the same reference with its marks, or from life with what was sighted, and no
    drawing yet; gives its id.

    Raises:
        UserError: there is no such study, it cannot be read, or it has no reference.
    """
    stored = library.stored(study_id)
    if stored is None:
        raise UserError("that study is no longer in the library")
    old = stored.study
    if old.reference is None and not old.from_life:
        raise UserError("it was drawn from imagination: there is no reference to draw again")
    notes = notes_of(old)
    kept = {MODEL: old.extra[MODEL]} if MODEL in old.extra else {}
    new = replace(old, title=next_title(old.title), states=(), guesses=(), intents=(), extra=kept)
    again = Notes(plan=notes.plan, line=notes.line, again_of=notes.again_of or study_id)
    media = {"": stored.media[""]} if "" in stored.media else {}
    return library.add(with_notes(new, again), media, made)


def drawn_before(library: Library, title: str, document: Mapping[str, Any]) -> str:
    """Id of the first study of the model as it stood in that setting, or ""."""
    looked = 0
    for row in reversed(library.rows()):
        if row.binned is not None or row.fault or row.title.split(",")[0] != title:
            continue
        looked += 1
        if looked > _MOST_LOOKED_AT:
            break
        study = _read(library, row.id)
        if study is None or (study.sightings is not None and not study.states):
            continue  # what was sighted for practice alone is no try
        known = study.extra.get(MODEL)
        if isinstance(known, Mapping) and known.get("setting") == dict(document):
            return notes_of(study).again_of or row.id
    return ""


def _read(library: Library, study_id: str) -> Study | None:
    try:
        return library.find(study_id)
    except UserError:
        return None  # it cannot be read; the shelf says so
