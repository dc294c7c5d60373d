"""Backups rotate, are read through before they count, and can be put back."""

from __future__ import annotations

import shutil
import sqlite3
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.errors import UserError
from bralto.core.study.values import Mark
from bralto.store.care.backups import backups, keep_backup, newest_sound, restore
from bralto.store.checking import check
from bralto.store.failures import Failure, LibraryError
from bralto.store.housekeeping import keep_house
from bralto.store.instants import now_utc
from bralto.store.library import Library

MADE = "2026-05-02T18:20:00Z"
NOON = datetime(2026, 3, 2, 12, tzinfo=UTC)  # a Monday


def kinds(root: Path) -> list[str]:
    return [one.kind for one in backups(root)]


def test_a_month_of_days_leaves_seven_daily_and_four_weekly(library: Library) -> None:
    for day in range(40):
        for hour in (0, 3):  # two starts a day are one backup
            keep_backup(library.root, NOON + timedelta(days=day, hours=hour))
    there = backups(library.root)
    assert kinds(library.root).count("daily") == 7
    assert kinds(library.root).count("weekly") == 4
    weekly = [one.made for one in there if one.kind == "weekly"]
    assert weekly == [NOON + timedelta(days=7 * week) for week in (5, 4, 3, 2)]
    assert {path.stat().st_mode & 0o777 for path in (library.root / "backups").iterdir()} == {0o600}


def test_a_clock_that_is_set_back_makes_no_more(library: Library) -> None:
    for days in (0, 1, -300, -2000, -1):
        keep_backup(library.root, NOON + timedelta(days=days))
    assert len(backups(library.root)) == 2


def test_backups_are_bounded_in_room_and_the_newest_of_a_kind_stays(
    library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("bralto.store.care.backups.ROOM", 1)
    for day in range(6):
        keep_backup(library.root, NOON + timedelta(days=day))
    assert kinds(library.root) == ["daily", "weekly"]


def test_a_backup_beside_a_writer_is_one_moment_of_it(library: Library) -> None:
    study_id = library.add(study_of({}, {}), {}, MADE)
    ended = threading.Event()
    made: list[Path] = []

    def copy() -> None:
        made.extend(
            keep_backup(library.root, NOON + timedelta(minutes=i), asked=True).path
            for i in range(4)
        )
        ended.set()

    thread = threading.Thread(target=copy)
    thread.start()
    at, number = 1, 0
    while not ended.is_set():
        marks = {"crown": Mark(float(number), 1.0), "chin": Mark(float(number), 2.0)}
        at = library.edits.put_marks(study_id, at, 1, marks)
        number += 1
    thread.join()
    for path in made:
        connection = sqlite3.connect(path)
        found = connection.execute("SELECT DISTINCT x FROM mark").fetchall()
        assert connection.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        connection.close()
        assert len(found) <= 1  # never half a gesture


def test_a_backup_is_put_back_and_what_was_there_is_kept(tmp_path: Path) -> None:
    root = tmp_path / "library"
    with Library.open(root) as library:
        first = library.add(study_of({}, {}), {}, MADE)
        keep_backup(root, NOON, asked=True)
        second = library.add(study_of({}, {}), {}, MADE)  # it is in the log alone
        library.restore(newest_sound(root))
    with Library.open(root) as library:
        assert [row.id for row in library.rows()] == [first]
    (replaced,) = (one for one in backups(root) if one.kind == "replaced")
    assert newest_sound(root).kind == "asked"
    other = tmp_path / "other"
    other.mkdir()
    for end in ("", "-wal"):
        source = Path(f"{replaced.path}{end}")
        if source.exists():
            shutil.copy(source, other / f"library.sqlite3{end}")
    with Library.open(other) as library:
        assert {row.id for row in library.rows()} == {first, second}


def test_where_putting_back_fails_the_library_is_as_it_was_with_its_log(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    root = tmp_path / "library"
    with Library.open(root) as library:
        library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
        backup = keep_backup(root, NOON, asked=True)
        assert backup is not None
        library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
        before = {path.name: path.read_bytes() for path in root.glob("library.sqlite3*")}
        assert before["library.sqlite3-wal"]  # the second study is in the log alone

        def refuse(_: Path) -> None:
            raise OSError(28, "No space left on device")

        monkeypatch.setattr("bralto.disk.private.sync_file", refuse)
        with pytest.raises(UserError, match="full"):
            library.restore(backup)
        after = {path.name: path.read_bytes() for path in root.glob("library.sqlite3*")}
    assert after == before
    assert [one.kind for one in backups(root)] == ["asked"]
    with Library.open(root) as library:
        assert library.count() == 2


def test_a_damaged_library_pushes_no_sound_backup_out(library: Library) -> None:
    for _ in range(30):
        library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
    sound = keep_backup(library.root, NOON)
    library.close()
    path = library.root / "library.sqlite3"
    data = bytearray(path.read_bytes())
    data[5 * 4096 : 9 * 4096] = bytes(4 * 4096)
    path.write_bytes(bytes(data))
    with pytest.raises(LibraryError) as met:
        keep_backup(library.root, NOON + timedelta(days=9))
    assert met.value.kind is Failure.DAMAGED
    assert [one.path for one in backups(library.root)] == [sound.path]
    assert not [p for p in (library.root / "backups").iterdir() if p != sound.path]
    with Library.open(library.root) as again:
        assert not keep_house(library.root, again)
        assert check(again)


def test_a_damaged_backup_is_passed_over_and_not_put_back(library: Library) -> None:
    library.add(study_of({}, {}), {}, MADE)
    keep_backup(library.root, NOON)
    keep_backup(library.root, NOON + timedelta(days=1))
    newest = backups(library.root)[0]
    newest.path.write_bytes(newest.path.read_bytes()[:9000])
    assert newest_sound(library.root).made == NOON
    with pytest.raises(UserError, match="damaged too"):
        restore(library.root, newest)
    (library.root / "backups/daily-tomorrow.sqlite3").touch()
    (library.root / "backups/notes.txt").touch()
    assert len(backups(library.root)) == 2


def test_the_bin_is_emptied_after_a_month_and_strays_after_a_week(
    library: Library, picture_files: tuple[Path, Path]
) -> None:
    import os
    import time

    from bralto.imaging.load import clean_picture
    from bralto.store.intake import keeping

    def add(path: Path) -> str:
        with keeping(library) as keep:
            return library.add(study_of({}, {}), {"": keep(clean_picture(path))}, MADE)

    old, fresh = add(picture_files[0]), add(picture_files[1])
    stray = library.media.path(next(iter(library.stored(old).media.values()))).parent / ".partial-x"
    (library.root / "backups").mkdir()
    strays = [stray, library.root / "backups/.partial-x", library.root / ".partial-settings"]
    for path in strays:
        path.write_bytes(b"half")
    month_ago = (datetime.now(UTC) - timedelta(days=31)).isoformat()
    library.put_binned({old: month_ago, fresh: now_utc()})
    assert keep_house(library.root, library)
    assert [row.id for row in library.rows()] == [fresh]
    assert len(list(library.media.names())) == 1
    assert all(path.exists() for path in strays)  # a week first: they may be under way
    week_ago = time.time() - 8 * 24 * 3600
    for path in strays:
        os.utime(path, (week_ago, week_ago))
    keep_house(library.root, library)
    assert not any(path.exists() for path in strays)
    assert check(library) == []


def test_backups_that_are_made_at_once_do_not_spoil_each_other(library: Library) -> None:
    for _ in range(20):
        library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
    met: list[BaseException] = []

    def copy() -> None:
        try:
            for _ in range(5):
                keep_backup(library.root, NOON, asked=True)
        except BaseException as error:
            met.append(error)

    threads = [threading.Thread(target=copy) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert met == []
    assert len(backups(library.root)) == 1  # of one and the same moment
    assert newest_sound(library.root) is not None
    assert not [p for p in (library.root / "backups").iterdir() if p.name.startswith(".")]
