"""What a folder can be when it is opened, and one sentence for each."""

from __future__ import annotations

import errno
import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from tests.studies import figure_marks, study_of

from bralto.store.failures import Failure, LibraryError
from bralto.store.library import Library
from bralto.store.lock import InUseError, Lock
from bralto.store.sqlite import schema
from bralto.store.sqlite.database import connected
from bralto.store.summaries import KeptDigest

RELEASED = Path(__file__).parents[1] / "data/library-0002.sql"
"""A library as the first released program wrote it, dumped."""

MADE = "2026-05-02T18:20:00Z"


def refused(root: Path, **how: bool) -> LibraryError:
    with pytest.raises(LibraryError) as met:
        Library.open(root, **how).close()
    return met.value


def released(root: Path, script: str | None = None) -> Path:
    root.mkdir()
    connection = sqlite3.connect(root / "library.sqlite3")
    connection.executescript(RELEASED.read_text("utf-8") if script is None else script)
    connection.close()
    return root


def tables(root: Path) -> list[tuple[str, ...]]:
    connection = sqlite3.connect(root / "library.sqlite3")
    found = connection.execute("SELECT sql FROM sqlite_master ORDER BY name").fetchall()
    connection.close()
    return found


def test_the_newest_script_is_the_one_that_the_code_expects() -> None:
    folder = Path(schema.__file__).parent / "scripts"
    assert max(int(path.stem) for path in folder.glob("*.sql")) == schema.HEAD


def test_a_released_library_is_migrated_with_all_that_is_in_it(tmp_path: Path) -> None:
    root = released(tmp_path / "library")
    with Library.open(root) as library:
        figure, head = sorted(library.studies(), key=lambda one: one.made)
    assert figure.media == {"": "ab/one.png", "first": "cd/two.jpg"}
    study = figure.study
    assert study.title == "Pencil and paper, a figure"
    assert study.reference.marks["crotch"].y == 500.0
    assert study.intents[0].factor == 1.1
    assert study.guesses[0].at == "2026-05-02T18:05:00Z"
    assert study.anchors[0].label == "end of the rope"
    assert study.extra == {"bench": {"line": ["chin"]}}
    drawn = study.states[0].picture
    assert drawn.crop == (1.0, 2.0, 30.0, 40.0)
    assert drawn.focal_35mm == 26.0
    assert drawn.sheet.size_mm == (297.0, 420.0)
    assert drawn.polygons == {"gap": ((1.0, 1.0), (2.0, 1.0), (2.0, 2.0))}
    assert study.reference.sheet is None  # it was a JSON null
    assert head.study.scale.school == "envelope"
    with Library.open(tmp_path / "new"):
        assert tables(root) == tables(tmp_path / "new")
    (kept,) = (root / "backups").glob("before-*.sqlite3")
    connection = sqlite3.connect(kept)
    assert connection.execute("SELECT version_num FROM alembic_version").fetchone() == ("0002",)
    connection.close()


@pytest.mark.parametrize(
    "undone",
    [
        "ALTER TABLE picture DROP COLUMN focal_35mm;"
        "UPDATE alembic_version SET version_num = '0001'",
        "ALTER TABLE picture DROP COLUMN focal_35mm; ALTER TABLE picture DROP COLUMN crop;"
        "UPDATE alembic_version SET version_num = '0001'",
        "UPDATE alembic_version SET version_num = '0001'",
        "DELETE FROM alembic_version",
        "DROP TABLE alembic_version",
    ],
)
def test_an_upgrade_that_the_released_program_did_not_finish_is_finished(
    tmp_path: Path, undone: str
) -> None:
    """It committed every statement by itself: such libraries are out there."""
    root = released(tmp_path / "library", RELEASED.read_text("utf-8") + undone)
    with Library.open(root) as library:
        assert len(library.studies()) == 2


@pytest.mark.parametrize("left", [0, 1, 2, 3])
def test_a_creation_that_the_released_program_did_not_finish_begins_again(
    tmp_path: Path, left: int
) -> None:
    script = "CREATE TABLE alembic_version (version_num VARCHAR(32) NOT NULL);"
    for name in ("picture", "study", "state")[:left]:
        script += f"CREATE TABLE {name} (id INTEGER PRIMARY KEY);"
    root = released(tmp_path / "library", script)
    with Library.open(root) as library:
        library.add(study_of(figure_marks(), {}), {}, MADE)
        assert len(library.rows()) == 1


_KILLED = """
import os, signal, sqlite3, sys
from pathlib import Path
from bralto.store.sqlite import database
from bralto.store.library import Library
left = int(sys.argv[2])
def count(statement):
    global left
    left -= 1
    if left < 0:
        os.kill(os.getpid(), signal.SIGKILL)
plain = database.connected
def connected(*given, **more):
    made = plain(*given, **more)
    made.set_trace_callback(count)
    return made
database.connected = connected
Library.open(Path(sys.argv[1])).close()
print(left)
"""


def killed(root: Path, after: int) -> int | None:
    """Open a library in a process that is killed at its n-th statement; None where it was, else
    how many statements were left over."""
    done = subprocess.run(
        [sys.executable, "-c", _KILLED, str(root), str(after)], capture_output=True, text=True
    )
    assert done.returncode in {0, -signal.SIGKILL}, done.stderr
    return int(done.stdout) if done.returncode == 0 else None


@pytest.mark.parametrize("kind", ["creation", "migration"])
def test_a_start_that_is_killed_leaves_a_library_that_opens(tmp_path: Path, kind: str) -> None:
    """At some of its statements; `make survive` does all of them."""
    at, ended = 2, False
    while not ended:
        root = tmp_path / f"{kind}-{at}"
        if kind == "migration":
            released(root)
        ended = killed(root, at) is not None
        with Library.open(root) as library:
            assert len(library.studies()) == (2 if kind == "migration" else 0)
            library.add(study_of(figure_marks(), {}), {}, MADE)
        at += 9
    assert at > 30


def test_a_library_of_a_newer_bralto_is_refused_by_name(tmp_path: Path) -> None:
    with Library.open(tmp_path) as library:
        library.add(study_of({}, {}), {}, MADE)
    connection = sqlite3.connect(tmp_path / "library.sqlite3")
    connection.execute("PRAGMA user_version = 99")
    connection.close()
    for reading in (False, True):
        error = refused(tmp_path, reading=reading)
        assert error.kind is Failure.NEWER
        assert "newer Bralto (schema 99)" in str(error)
    newer = released(tmp_path / "old", RELEASED.read_text("utf-8").replace("'0002'", "'0099'"))
    assert refused(newer).kind is Failure.NEWER


def test_another_programs_database_is_refused_and_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "library.sqlite3"
    path.write_bytes(b"not a database" * 100)
    assert refused(tmp_path).kind is Failure.NOT_A_LIBRARY
    assert path.read_bytes() == b"not a database" * 100
    path.unlink()
    connection = sqlite3.connect(path)
    connection.execute("CREATE TABLE accounts (sum INTEGER)")
    connection.close()
    assert refused(tmp_path).kind is Failure.NOT_A_LIBRARY


def test_a_database_that_lacks_a_table_is_called_damaged(tmp_path: Path) -> None:
    with Library.open(tmp_path) as library:
        library.add(study_of({}, {}), {}, MADE)
    connection = sqlite3.connect(tmp_path / "library.sqlite3")
    connection.execute("DROP TABLE mark")
    connection.close()
    error = refused(tmp_path)
    assert (error.kind, "no table mark" in str(error)) == (Failure.DAMAGED, True)


def test_what_is_left_of_such_a_database_can_be_read(tmp_path: Path) -> None:
    with Library.open(tmp_path) as library:
        ids = {library.add(study_of(figure_marks(), {}), {}, MADE) for _ in range(3)}
    connection = sqlite3.connect(tmp_path / "library.sqlite3")
    connection.execute("DROP TABLE mark")
    connection.close()
    with Library.open(tmp_path, reading=True) as library:
        assert {row.id for row in library.rows()} == ids
        with pytest.raises(LibraryError) as met:
            library.stored(next(iter(ids)))
        assert met.value.kind is Failure.DAMAGED


@pytest.mark.parametrize("name", ["tag", "summary"])
def test_a_table_that_holds_nothing_of_a_study_is_made_again(tmp_path: Path, name: str) -> None:
    with Library.open(tmp_path) as library:
        study_id = library.add(study_of(figure_marks(), {}), {}, MADE)
    connection = sqlite3.connect(tmp_path / "library.sqlite3")
    connection.execute(f"DROP TABLE {name}")
    connection.close()
    with Library.open(tmp_path, reading=True) as library:
        assert [row.id for row in library.rows()] == [study_id]
    with Library.open(tmp_path) as library:
        library.put_tags({study_id: ["hands"]})
        library.put_digests([KeptDigest(study_id, 1, 1, "{}")])
        assert library.rows()[0].tags == "hands"
    with Library.open(tmp_path / "new"):
        assert tables(tmp_path) == tables(tmp_path / "new")


@pytest.mark.parametrize("how", ["gone", "empty", "without tables"])
def test_pictures_without_their_database_are_no_new_library(tmp_path: Path, how: str) -> None:
    media = tmp_path / "media/ab"
    media.mkdir(parents=True)
    (media / "abcd.jpg").write_bytes(b"a picture")
    if how == "empty":
        (tmp_path / "library.sqlite3").touch()
    elif how == "without tables":
        connection = sqlite3.connect(tmp_path / "library.sqlite3")
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("CREATE TABLE a (b)")
        connection.execute("DROP TABLE a")
        connection.close()
    assert refused(tmp_path).kind is Failure.EMPTIED
    with Library.open(tmp_path, anew=True) as library:
        assert library.rows() == []


@pytest.mark.skipif(os.geteuid() == 0, reason="root writes anywhere")
def test_a_folder_without_the_right_to_write_is_said(tmp_path: Path) -> None:
    Library.open(tmp_path / "library").close()
    (tmp_path / "library").chmod(0o500)
    assert refused(tmp_path / "library").kind is Failure.READ_ONLY


def test_a_place_that_cannot_be_a_folder_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").touch()
    for root in (tmp_path / "file", tmp_path / "file/library"):
        assert refused(root).kind is Failure.CANNOT_OPEN
    assert refused(tmp_path / "nowhere", reading=True).kind is Failure.CANNOT_OPEN


def test_one_hand_at_a_time_and_reading_stays_open(tmp_path: Path) -> None:
    with Library.open(tmp_path, what="a Bralto window") as first:
        study_id = first.add(study_of({}, {}), {}, MADE)
        with pytest.raises(InUseError) as met:
            Library.open(tmp_path)
        assert met.value.holder.pid == os.getpid()
        assert f"a Bralto window (process {os.getpid()})" in str(met.value)
        assert met.value.address == first.address
        with Library.open(tmp_path, reading=True) as second:
            assert second.find(study_id) is not None
            with pytest.raises(LibraryError) as met:
                second.add(study_of({}, {}), {}, MADE)
            assert met.value.kind is Failure.READ_ONLY
    Library.open(tmp_path).close()


def test_a_lock_whose_words_are_rubbish_still_holds(tmp_path: Path) -> None:
    lock = Lock.take(tmp_path, "a test")
    (tmp_path / "library.lock").write_text("[" * 3000)
    with pytest.raises(InUseError, match="another program has this library open"):
        Lock.take(tmp_path, "another")
    lock.let_go()
    lock.let_go()
    Lock.take(tmp_path, "another").let_go()


def test_a_held_database_makes_nobody_wait(tmp_path: Path) -> None:
    """Another program may hold it; a gesture must not: 0.25 s, where it was 3 s."""
    with Library.open(tmp_path) as library:
        study_id = library.add(study_of({}, {}), {}, MADE)
        other = sqlite3.connect(tmp_path / "library.sqlite3", isolation_level=None)
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(LibraryError) as met:
            library.rename(study_id, "held")
        assert met.value.kind is Failure.LOCKED
        assert len(library.rows()) == 1  # reading goes on
        other.execute("ROLLBACK")
        library.rename(study_id, "free")
        other.close()


@pytest.mark.parametrize(
    ("number", "kind"),
    [
        (errno.ENOSPC, Failure.FULL),
        (errno.EDQUOT, Failure.FULL),
        (errno.EROFS, Failure.READ_ONLY),
        (errno.EACCES, Failure.READ_ONLY),
        (errno.EIO, Failure.CANNOT_OPEN),
        (errno.ESTALE, Failure.CANNOT_OPEN),
    ],
)
def test_what_the_system_refuses_has_its_kind(
    number: int, kind: Failure, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """By the numbers of errno(3); no file system of the tests' own refuses so."""
    plain = os.open

    def refuse(path: object, flags: int, *more: object, **other: object) -> int:
        if str(path).endswith("library.sqlite3") and flags & os.O_CREAT:
            raise OSError(number, os.strerror(number))
        return plain(path, flags, *more, **other)

    monkeypatch.setattr("os.open", refuse)
    error = refused(tmp_path)
    assert error.kind is kind
    assert "damaged" not in str(error)
    monkeypatch.undo()
    Library.open(tmp_path).close()  # the lock was let go


def test_what_is_no_database_is_let_go_at_once(tmp_path: Path) -> None:
    path = tmp_path / "library.sqlite3"
    path.write_bytes(b"no database" * 100)
    with pytest.raises(sqlite3.DatabaseError) as refused:
        connected(path, reading=True)
    assert "not a database" in str(refused.value)
    held = Path("/proc/self/fd")
    assert path not in {one.readlink() for one in held.iterdir() if one.is_symlink()}
