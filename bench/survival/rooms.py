"""Folders, disks and clocks as they come: full, oddly named, shared, damaged, set back."""

from __future__ import annotations

import os
import random
import shutil
import subprocess
import sys
from pathlib import Path

from bench.certain import certain
from bench.survival.rounds import Tally, run
from bralto.core.study.values import Picture, Study
from bralto.store.care.backups import newest_sound
from bralto.store.failures import Failure, LibraryError
from bralto.store.library import Library

__all__ = ["clocks", "damaged_pages", "full_disk", "names", "three_starts", "two_hands"]

MADE = "2026-05-02T18:20:00Z"

# An evening: a study of two pictures, marks, a head, tags, a further state, settings, a backup.
# Every write of the process counts; from the n-th on the disk is full, until it is said to be free.
_EVENING = """
import errno, json, os, sqlite3, sys
from datetime import UTC, datetime
from pathlib import Path
left = int(sys.argv[2]) if sys.argv[2] != "free" else None
class Full(sqlite3.Connection):
    def execute(self, statement, *more):
        global left
        if left is not None and statement.split(None, 1)[0] in {"INSERT", "UPDATE", "DELETE",
                                                               "COMMIT", "CREATE", "VACUUM"}:
            left -= 1
            if left < 0:
                pages = super().execute("PRAGMA page_count").fetchone()[0]
                super().execute(f"PRAGMA max_page_count = {max(1, pages)}")
        return super().execute(statement, *more)
plain = sqlite3.connect
sqlite3.connect = lambda *given, **more: plain(*given, factory=Full, **more)
for name in ("write", "fsync"):
    def refuse(*given, real=getattr(os, name), **more):
        global left
        if left is not None:
            left -= 1
            if left < 0:
                raise OSError(errno.ENOSPC, "No space left on device")
        return real(*given, **more)
    setattr(os, name, refuse)
from bralto.core.errors import UserError
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.imaging.load import clean_picture
from bralto.store.care.backups import keep_backup
from bralto.store.intake import add_state, add_study_from_files
from bralto.store.library import Library
from bralto.ui.settings import Settings
root, pictures = Path(sys.argv[1]), Path(sys.argv[3])
kept, refused = {}, []
def step(name, act):
    try:
        kept[name] = act()
    except UserError as error:
        refused.append(str(error))
try:
    library = Library.open(root)
except UserError as error:
    print(json.dumps([{}, [str(error)]]))
    sys.exit(0)
bare = Study("Evening", "figure-front", Picture("", 1, 1))
step("study", lambda: add_study_from_files(
    library, bare, pictures / "a.png", pictures / "b.jpg", "2026-05-02T18:20:00Z"))
if "study" in kept:
    stored = library.stored(kept["study"])
    study, at, seen = stored.id, stored.version, stored.pictures[""]
    for number in range(30):
        def mark(number=number):
            global at
            place = {f"place_{number}": Mark(float(number), 1.0)}
            at = library.edits.put_marks(study, at, seen, place)
            return number
        step(f"mark {number}", mark)
    def head():
        global at
        at = library.edits.put_head(study, at, bare)
        return 1
    step("head", head)
    step("tags", lambda: library.put_tags({study: ["hands"]}) or 1)
    def state():
        global at
        clean = clean_picture(pictures / "b.jpg")
        new = State("later", Picture("b.jpg", 600, 800))
        at = add_state(library, study, at, new, clean).version
        return 1
    step("state", state)
step("backup", lambda: str(keep_backup(root, datetime.now(UTC), asked=True).path))
settings = Settings(root)
settings.set_step_back_min(9)
if settings.refused:
    refused.append(settings.refused)
print(json.dumps([kept, refused]))
"""


def full_disk(scratch: Path, share: float) -> Tally:
    """The disk is full from the n-th write on; what was told to be kept is there, nothing else is
    harmed, no half-written file is left, and with room again the same evening goes through."""
    from PIL import Image

    tally = Tally()
    for name, size in (("a.png", (300, 400)), ("b.jpg", (600, 800))):
        Image.effect_noise(size, 60).convert("RGB").save(scratch / name)
    step = 1 if share >= 1.0 else 34
    for at in range(0, 600, step):
        root = scratch / f"full-{at}"
        with Library.open(root) as library:
            first = library.add(Study("Old", "figure-front", Picture("a", 9, 9)), {}, MADE)
        one = run(_EVENING, root, at, scratch)
        tally.add(one, f"write {at}")
        if one.status:
            tally.dead += 1
            continue
        kept, refused = one.json()
        try:
            with Library.open(root) as library:
                assert library.find(first) is not None, "the study of before"
                if "study" in kept:
                    stored = certain(library.stored(kept["study"]))
                    marks = certain(stored.study.reference).marks
                    for name in kept:
                        if name.startswith("mark "):
                            assert f"place_{name[5:]}" in marks, name
                    assert ("state" not in kept) or len(stored.study.states) == 2, "state"
                    assert all(library.media.is_sound(m) for m in stored.media.values()), "pictures"
                else:
                    assert library.media.is_empty(), "a refused study left a picture"
            strays = [p for p in root.rglob("*") if ".partial-" in p.name]
            assert not strays, f"left behind: {strays[0].name}"
        except AssertionError as error:
            tally.lost += 1
            tally.notes.append(f"write {at}: {error}")
        except Exception as error:
            tally.dead += 1
            tally.notes.append(f"write {at}: {error}")
        again = run(_EVENING, root, "free", scratch)
        if again.status or again.json()[1]:
            tally.dead += 1
            tally.notes.append(f"write {at}, with room again: {again.out[-200:]}{again.err[-200:]}")
        shutil.rmtree(root)
        if not refused:
            break
    tally.said.append(f"{at} writes in an evening; refused by size limits and system calls, "
                      "not by a real device")  # fmt: skip
    return tally


_NAMES = (
    "who? me", "50%25 done", "a#b&c=d", "100%", " ", "häuser ö", "a:b", "x" * 200, "-rf", "~",
    "$HOME", "a;b", "'quoted'", '"double"', "new\nline", "tab\tin it", "back\\slash", "émigré",
    "ス スタディ", ".hidden",
)  # fmt: skip


def names(scratch: Path, _share: float) -> Tally:
    """The database lies in the folder that was named, and nowhere else."""
    tally = Tally()
    for name in _NAMES:
        tally.rounds += 1
        root = scratch / name
        try:
            with Library.open(root) as library:
                library.add(Study(name, "figure-front", Picture("a", 9, 9)), {}, MADE)
            with Library.open(root, reading=True) as library:
                assert [row.title for row in library.rows()] == [name]
            assert (root / "library.sqlite3").is_file()
            assert len(list(scratch.iterdir())) == tally.rounds
        except Exception as error:
            tally.dead += 1
            tally.notes.append(f"{name!r}: {error}")
    return tally


_WINDOW = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
import bralto.app
plain = QApplication.exec
def shown(*_):
    QTimer.singleShot(1200, QApplication.quit)
    return plain()
QApplication.exec = staticmethod(shown)
status = bralto.app.run_window(Path(sys.argv[1]))
print("ended", status)
"""


def three_starts(scratch: Path, share: float) -> Tally:
    """Three starts on a folder that is not there yet: one window, and all three end well."""
    tally = Tally()
    for number in range(max(2, round(25 * share))):
        root = scratch / f"at-once-{number}"
        env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
        starts = [
            subprocess.Popen(
                [sys.executable, "-c", _WINDOW, root], env=env, text=True,
                stdout=subprocess.PIPE, stderr=subprocess.PIPE,
            )
            for _ in range(3)
        ]  # fmt: skip
        tally.rounds += 1
        for one in starts:
            try:
                _, err = one.communicate(timeout=20)
            except subprocess.TimeoutExpired:
                one.kill()
                _, err = one.communicate()
                tally.hung += 1
            if "Traceback" in err or one.returncode:
                tally.raised += 1
                tally.notes.append(f"{number}: {one.returncode} {err[-200:]}")
        try:
            Library.open(root).close()
        except LibraryError as error:
            tally.dead += 1
            tally.notes.append(f"{number}: {error}")
    return tally


def two_hands(scratch: Path, share: float) -> Tally:
    """Two hold the same study without a lock between them (as on a disk that knows none): of every
    two writes on one version one is refused, and no gesture that was told kept is overwritten."""
    from bralto.core.study.values import Mark
    from bralto.store.sqlite.database import Database

    tally, chance = Tally(), random.Random(3)
    root = scratch / "library"
    with Library.open(root) as library:
        study_id = library.add(Study("", "figure-front", Picture("a", 900, 900)), {}, MADE)
    hands = [Library(root, Database(root, reading=False), None) for _ in range(2)]
    at = [certain(hand.stored(study_id)).version for hand in hands]
    kept: dict[str, float] = {}
    for number in range(max(20, round(1000 * share))):
        tally.rounds += 1
        who, key = chance.randrange(2), f"place_{number % 30}"
        try:
            marks = {key: Mark(float(number % 800), 1.0)}
            at[who] = hands[who].edits.put_marks(study_id, at[who], 1, marks)
            kept[key] = float(number % 800)
        except LibraryError as error:
            if error.kind is not Failure.ELSEWHERE:
                tally.raised += 1
            at[who] = certain(hands[who].stored(study_id)).version  # opened again
    found = {k: m.x for k, m in certain(certain(hands[0].find(study_id)).reference).marks.items()}
    if found != kept:
        tally.lost += 1
        tally.notes.append("what is there is not what was told to be kept")
    for hand in hands:
        hand.close()
    return tally


_CLOCK = """
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path
from bralto.core.study.values import Picture, Study
from bralto.store import housekeeping
from bralto.store.library import Library
days = float(sys.argv[2])
class Clock(datetime):
    @classmethod
    def now(cls, zone=None):
        return datetime.now(zone) + timedelta(days=days)
housekeeping.datetime = Clock
with Library.open(Path(sys.argv[1])) as library:
    assert housekeeping.keep_house(Path(sys.argv[1]), library)
    print(len(library.rows()))
"""


def clocks(scratch: Path, share: float) -> Tally:
    """A clock that jumps makes no heap of backups and empties no bin before its time."""
    tally, chance = Tally(), random.Random(4)
    root = scratch / "library"
    with Library.open(root) as library:
        kept = library.add(Study("", "figure-front", Picture("a", 9, 9)), {}, MADE)
        binned = library.add(Study("", "figure-front", Picture("a", 9, 9)), {}, MADE)
        from bralto.store.instants import now_utc

        library.put_binned({binned: now_utc()})
    for number in range(max(3, round(40 * share))):
        days = chance.uniform(-4000.0, 25.0)
        one = run(_CLOCK, root, days)
        tally.add(one, f"{days:+.0f} days")
        with Library.open(root) as library:
            if {row.id for row in library.rows()} != {kept, binned}:
                tally.lost += 1
                tally.notes.append(f"{number}: {days:+.0f} days emptied the bin")
    if len(list((root / "backups").iterdir())) > 12:
        tally.dead += 1
        tally.notes.append("the backups heap up")
    return tally


_LOOK = """
import json, sys
from pathlib import Path
from bralto.core.errors import UserError
from bralto.store.library import Library
try:
    with Library.open(Path(sys.argv[1])) as library:
        rows = library.rows()
        read = 0
        for row in rows:
            try:
                read += library.stored(row.id) is not None
            except UserError:
                pass
        print(json.dumps({"rows": len(rows), "read": read}))
except UserError as error:
    print(json.dumps({"refused": error.kind.name}))
"""


def damaged_pages(scratch: Path, share: float) -> Tally:
    """Pages zeroed, scribbled on or cut off: what can be read is read, the rest is said, and the
    backup that is beside it can be put back."""
    from datetime import UTC, datetime

    from bench.survival.rounds import data
    from bralto.store.care.backups import keep_backup, restore

    tally, chance = Tally(), random.Random(5)
    root = scratch / "library"
    with Library.open(root) as library:
        from bralto.exchange.study_file import read_study

        study = read_study(data("pencil-figure.json"))
        for _ in range(15):
            library.add(study, {}, MADE)
        keep_backup(root, datetime.now(UTC), asked=True)
    sound = (root / "library.sqlite3").read_bytes()
    pages = len(sound) // 4096
    refused = partly = 0
    for number in range(max(8, round(2000 * share))):
        hurt = bytearray(sound)
        way = number % 4
        page = chance.randrange(pages) if way else chance.randrange(1, pages)
        start = page * 4096
        if way == 0:
            hurt[start : start + 4096] = bytes(4096)
        elif way == 1:
            for _ in range(chance.randrange(1, 40)):
                hurt[start + chance.randrange(4096)] = chance.randrange(256)
        elif way == 2:
            hurt = hurt[: chance.randrange(len(hurt))]
        else:
            other = chance.randrange(pages) * 4096
            hurt[start : start + 4096] = sound[other : other + 4096]
        (root / "library.sqlite3").write_bytes(bytes(hurt))
        for end in ("-wal", "-shm"):
            (root / f"library.sqlite3{end}").unlink(missing_ok=True)
        one = run(_LOOK, root)
        tally.add(one, f"damage {number}")
        if one.status == 0:
            found = one.json()
            refused += "refused" in found
            partly += 0 < found.get("read", 15) < 15
        if number % 50 == 0:
            try:
                restore(root, certain(newest_sound(root)))
                with Library.open(root) as library:
                    if len(library.studies()) != 15:
                        tally.lost += 1
            except Exception as error:
                tally.dead += 1
                tally.notes.append(f"damage {number}, restored: {error}")
    tally.said.append(f"{refused} were refused with their kind, {partly} were read in part")
    return tally
