"""Killed with SIGKILL: while editing, reading in, and at each statement of what happens once."""

from __future__ import annotations

import random
import shutil
import sqlite3
from pathlib import Path

from bench.certain import certain
from bench.survival.rounds import Tally, data, run
from bralto.core.study.values import Picture, Study
from bralto.store.library import Library

__all__ = ["creation", "editing", "importing", "migration", "restoring"]

MADE = "2026-05-02T18:20:00Z"

_EDIT = """
import sys
from pathlib import Path
from bralto.core.study.values import Mark
from bralto.store.library import Library
library = Library.open(Path(sys.argv[1]))
at = library.stored(sys.argv[2]).version
first = int(sys.argv[3])
for number in range(first, first + 10_000):
    at = library.edits.put_marks(sys.argv[2], at, 1, {"crown": Mark(float(number), 1.0)})
    print(number, flush=True)
"""


def editing(scratch: Path, share: float) -> Tally:
    """A hand sets one mark after the other; the last that it reported is there."""
    tally, chance = Tally(), random.Random(1)
    root = scratch / "library"
    with Library.open(root) as library:
        study_id = library.add(Study("", "figure-front", Picture("a", 900, 900)), {}, MADE)
    last = 0
    for number in range(max(3, round(300 * share))):
        after = 0.25 + 0.35 * chance.random()
        one = run(_EDIT, root, study_id, last + 1, kill_after=after)
        tally.add(one, f"edit {number}")
        told = [int(line) for line in one.out.split() if line.isdigit()]
        last = told[-1] if told else last
        try:
            with Library.open(root) as library:
                mark = certain(certain(library.find(study_id)).reference).marks.get("crown")
        except Exception as error:
            tally.dead += 1
            tally.notes.append(f"edit {number}: {error}")
            break
        kept = int(mark.x) if mark is not None else 0
        if kept not in {last, last + 1}:  # one more may have been kept and not yet told
            tally.lost += 1
            tally.notes.append(f"edit {number}: told {last}, kept {kept}")
        last = kept
    tally.said.append(f"{last} gestures in all")
    return tally


_IMPORT = """
import sys
from pathlib import Path
from bralto.store.carrying import read_in
from bralto.store.library import Library
with Library.open(Path(sys.argv[1])) as library:
    while True:
        print(read_in(library, Path(sys.argv[2])), flush=True)
"""


def importing(scratch: Path, share: float) -> Tally:
    """A bundle with its pictures is read in again and again; every study told of is whole."""
    from PIL import Image

    from bralto.store.carrying import write_out
    from bralto.store.intake import add_study_from_files

    tally, chance = Tally(), random.Random(2)
    for name, size in (("a.png", (300, 400)), ("b.jpg", (600, 800))):
        Image.effect_noise(size, 60).convert("RGB").save(scratch / name)
    with Library.open(scratch / "first") as library:
        bare = Study("", "figure-front", Picture("", 1, 1))
        made = add_study_from_files(library, bare, scratch / "a.png", scratch / "b.jpg", MADE)
        write_out(library, made, scratch / "a.bralto")
    root = scratch / "library"
    told: list[str] = []
    for number in range(max(2, round(100 * share))):
        one = run(_IMPORT, root, scratch / "a.bralto", kill_after=0.5 + 0.5 * chance.random())
        tally.add(one, f"import {number}")
        told += one.out.split()
        try:
            with Library.open(root) as library:
                there = {row.id for row in library.rows()}
                whole = [certain(library.stored(i)) for i in (set(told[-20:]) | there) & there]
                pictures = {m for s in whole for m in s.media.values()}
                if not all(library.media.is_sound(m) for m in pictures):
                    tally.lost += 1
                    tally.notes.append(f"import {number}: a picture is not whole")
        except Exception as error:
            tally.dead += 1
            tally.notes.append(f"import {number}: {error}")
            break
        if not set(told) <= there:
            tally.lost += 1
            tally.notes.append(f"import {number}: a study that was told of is not there")
    tally.said.append(f"{len(told)} studies read in between the kills")
    return tally


# Counts the statements of every connection and what is done with files in the library's folder,
# and kills the process at the n-th.
_COUNTED = """
import os, signal, sqlite3, sys
from pathlib import Path
left = int(sys.argv[2])
def count(_):
    global left
    left -= 1
    if left < 0:
        os.kill(os.getpid(), signal.SIGKILL)
class Counted(sqlite3.Connection):
    def __init__(self, *given, **more):
        super().__init__(*given, **more)
        self.set_trace_callback(count)
plain = sqlite3.connect
sqlite3.connect = lambda *given, **more: plain(*given, factory=Counted, **more)
def hook(event, given):
    if event in {"open", "os.rename", "os.link", "os.remove", "os.mkdir", "os.chmod"}:
        if any(sys.argv[1] in str(one) for one in given):
            count(event)
sys.addaudithook(hook)
"""
_OPEN = (
    _COUNTED + "from bralto.store.library import Library\nLibrary.open(Path(sys.argv[1])).close()\n"
)
_RESTORE = _COUNTED + (
    "from bralto.store.care.backups import newest_sound, restore\n"
    "root = Path(sys.argv[1])\nrestore(root, newest_sound(root))\n"
)


def _every(scratch: Path, share: float, code: str, make: object, studies: int) -> Tally:
    """Kill at each step until it ends by itself; the library opens each time after that."""
    tally = Tally()
    step = 1 if share >= 0.5 else 9
    for at in range(0, 400, step):
        root = scratch / f"at-{at}"
        make(root)  # type: ignore[operator]
        one = run(code, root, at)
        tally.add(one, f"step {at}")
        try:
            with Library.open(root) as library:
                count = len(library.studies())
                library.add(Study("", "figure-front", Picture("a", 9, 9)), {}, MADE)
        except Exception as error:
            tally.dead += 1
            tally.notes.append(f"step {at}: {error}")
        else:
            if count != studies:
                tally.lost += 1
                tally.notes.append(f"step {at}: {count} studies of {studies}")
        shutil.rmtree(root)
        if one.status == 0:
            break
    tally.said.append(f"{at} steps: statements, and files opened, renamed, linked, removed")
    return tally


def creation(scratch: Path, share: float) -> Tally:
    """A first start."""
    return _every(scratch, share, _OPEN, lambda _: None, 0)


def _released(root: Path) -> None:
    root.mkdir()
    connection = sqlite3.connect(root / "library.sqlite3")
    connection.executescript(data("library-0002.sql").read_text("utf-8"))
    connection.close()


def migration(scratch: Path, share: float) -> Tally:
    """The first start on a library of the first released program, with two studies."""
    return _every(scratch, share, _OPEN, _released, 2)


def _with_backup(root: Path) -> None:
    from datetime import UTC, datetime

    from bralto.store.care.backups import keep_backup

    with Library.open(root) as library:
        library.add(Study("", "figure-front", Picture("a", 9, 9)), {}, MADE)
        keep_backup(root, datetime.now(UTC), asked=True)


def restoring(scratch: Path, share: float) -> Tally:
    """A backup is put back; one study is in both."""
    return _every(scratch, share, _RESTORE, _with_backup, 1)
