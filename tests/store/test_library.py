"""The library: private, transactional, and guarded against a second hand."""

from __future__ import annotations

import os
import signal
import sqlite3
import stat
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.errors import UserError
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.store.failures import Failure, LibraryError
from bralto.store.intake import add_study_from_files
from bralto.store.library import Library
from bralto.store.sqlite.database import Database
from bralto.store.summaries import KeptDigest

MADE = "2026-05-02T18:20:00Z"


def modes(root: Path) -> set[int]:
    """Rights of a library's folder and all that is in it."""
    return {stat.S_IMODE(path.stat().st_mode) for path in (root, *root.rglob("*"))}


def test_folder_and_files_are_the_learners_alone_whatever_was_there(
    tmp_path: Path, picture_files: tuple[Path, Path]
) -> None:
    root = tmp_path / "library"
    root.mkdir(mode=0o755)
    bare = Study("", "figure-front", Picture("", 1, 1))
    with Library.open(root) as library:
        add_study_from_files(library, bare, *picture_files, MADE)
        assert modes(root) == {0o700, 0o600}
    for path in root.rglob("*"):
        path.chmod(0o755 if path.is_dir() else 0o644)
    with Library.open(root) as library:
        library.add(study_of({}, {}), {}, MADE)
        library.media.close_to_others()
        assert modes(root) == {0o700, 0o600}


@pytest.mark.parametrize(
    "name", ["who? me", "50%25 done", "a#b&c=d", "100%", " ", "häuser ö", "a:b"]
)
def test_a_folder_may_have_any_name(tmp_path: Path, name: str) -> None:
    """A path that was read as a URL put the database elsewhere, and showed another's studies."""
    with Library.open(tmp_path / name) as library:
        library.add(replace(study_of({}, {}), title=name), {}, MADE)
    assert (tmp_path / name / "library.sqlite3").is_file()
    assert [path.name for path in tmp_path.iterdir()] == [name]
    with Library.open(tmp_path / name, reading=True) as library:
        assert [row.title for row in library.rows()] == [name]


def test_a_study_comes_back_as_it_went_in(library: Library) -> None:
    study = study_of(figure_marks(), figure_marks(scale=60.0), school="envelope")
    study_id = library.add(study, {"": "ab/x.png"}, MADE)
    stored = library.stored(study_id)
    assert stored.study == study
    assert stored.media == {"": "ab/x.png"}
    assert [one.id for one in library.studies()] == [study_id]
    assert library.find("nothing") is None


def test_marks_are_set_moved_and_taken_away(library: Library) -> None:
    stored = library.stored(library.add(study_of({}, {}), {}, MADE))
    reference, drawing = stored.pictures[""], stored.pictures["first"]
    at = stored.version
    for picture, mark in (
        (reference, Mark(1.5, 2.5, "inferred", 0.7)),
        (reference, Mark(3.5, 2.5)),
        (drawing, Mark(9.0, 9.0)),
        (drawing, None),
    ):
        at = library.edits.put_marks(stored.id, at, picture, {"crown": mark})
    again = library.stored(stored.id)
    assert again.study.reference.marks == {"crown": Mark(3.5, 2.5)}
    assert again.study.states[0].picture.marks == {}
    assert again.version == at == stored.version + 4


def writes(library: Library) -> dict[str, Callable[[str, int], object]]:
    """Every way in which an open study is written, by a version that is given."""
    study = study_of(figure_marks(), {})
    picture = Picture("again.jpg", 5, 5)
    return {
        "marks": lambda i, at: library.edits.put_marks(i, at, 1, {"chin": Mark(1.0, 1.0)}),
        "head": lambda i, at: library.edits.put_head(i, at, study),
        "picture": lambda i, at: library.edits.put_picture(i, at, 1, picture),
        "state": lambda i, at: library.edits.add_state(i, at, State("later", picture), None),
    }


@pytest.mark.parametrize("way", ["marks", "head", "picture", "state"])
def test_a_write_on_a_version_that_is_not_the_last_is_refused(library: Library, way: str) -> None:
    """Two hands on one study wrote over each other, and no row counted as success."""
    study_id = library.add(study_of({}, {}), {}, MADE)
    at = library.stored(study_id).version
    library.edits.put_marks(study_id, at, 1, {"crown": Mark(7.0, 7.0)})  # the other hand
    before = library.stored(study_id)
    with pytest.raises(LibraryError, match="changed elsewhere") as refused:
        writes(library)[way](study_id, at)
    assert refused.value.kind is Failure.ELSEWHERE
    assert library.stored(study_id) == before
    library.erase([study_id])
    with pytest.raises(LibraryError, match="removed elsewhere"):
        writes(library)[way](study_id, before.version)


def test_an_erased_study_leaves_no_rows_and_says_which_pictures_are_free(library: Library) -> None:
    first = library.add(
        study_of(figure_marks(), figure_marks()), {"": "ab/x", "first": "cd/y"}, MADE
    )
    second = library.add(study_of(figure_marks(), {}), {"": "ab/x"}, MADE)
    library.put_tags({first: ["hands"], second: ["hands"]})
    assert library.pictures_of_alone([first]) == {"cd/y"}
    assert library.erase([first]) == {"cd/y"}
    assert library.erase([second]) == {"ab/x"}
    with closing(sqlite3.connect(library.root / "library.sqlite3")) as connection, connection:
        for table in ("study", "state", "picture", "mark", "tag", "summary"):
            assert connection.execute(f"SELECT count(*) FROM {table}").fetchone() == (0,)
    connection.close()


def test_what_is_erased_is_in_no_file_any_more(library: Library) -> None:
    """Names are the learner's own, and perhaps a model's."""
    kept = library.add(replace(study_of(figure_marks(), {}), title="Net mender"), {}, MADE)
    gone = library.add(replace(study_of(figure_marks(), {}), title="Zimtstern-Modell"), {}, MADE)
    library.put_tags({gone: ["Pfauenauge"]})
    library.erase([gone])
    files = b"".join(path.read_bytes() for path in library.root.glob("library.sqlite3*"))
    assert b"Net mender" in files
    assert b"Zimtstern" not in files
    assert b"Pfauenauge" not in files
    assert library.find(kept) is not None


def test_names_tags_bin_and_hidden_are_kept_and_renaming_measures_nothing_anew(
    library: Library,
) -> None:
    study_id = library.add(study_of({}, {}), {}, MADE)
    library.put_digests([KeptDigest(study_id, 1, 1, "{}")])
    library.rename(study_id, "Net mender")
    library.put_tags({study_id: {"hands", "quick"}})
    library.put_hidden({study_id: True})
    library.put_binned({study_id: MADE})
    (row,) = library.rows()
    assert (row.title, row.hidden, row.binned) == ("Net mender", 1, MADE)
    assert row.tags.split("\x1f") == ["hands", "quick"]
    assert row.stamp == row.version == 2
    assert library.take_touched() == {study_id}
    assert library.take_touched() == set()
    with pytest.raises(LibraryError, match="no longer"):
        library.put_hidden({"nothing": True})


def test_a_duplicate_shares_the_pictures_and_nothing_else(library: Library) -> None:
    study_id = library.add(study_of(figure_marks(), figure_marks()), {"": "ab/x"}, MADE)
    copy = library.stored(library.duplicate(study_id, "again", MADE))
    assert copy.study == replace(library.find(study_id), title="again")
    assert copy.media == {"": "ab/x"}
    assert set(copy.pictures.values()).isdisjoint(library.stored(study_id).pictures.values())


def test_another_thread_reads_and_writes_beside_the_first(library: Library) -> None:
    """Workers measure while the hand works; neither waits for the other's connection."""
    found: list[object] = []

    def work() -> None:
        found.append(library.add(study_of({}, {}), {}, MADE))
        found.append(len(library.rows()))

    threads = [threading.Thread(target=work) for _ in range(4)]
    for thread in threads:
        thread.start()
    for number in range(20):
        library.put_tags({library.add(study_of({}, {}), {}, MADE): [str(number)]})
    for thread in threads:
        thread.join()
    assert len(library.rows()) == 24
    assert len(found) == 8


def test_no_row_leads_out_of_the_folder_of_pictures(library: Library) -> None:
    """Whoever made the library, or whatever befell it: no file of another folder is shown, or goes
    with a study that is deleted for good. A name too long for the disk is no fault of Bralto's."""
    own = library.root.parent / "letters.png"
    own.write_bytes(b"mine")
    names = [str(own), "../../letters.png", "ab/../../../letters.png", "..", "", "x" * 5000, "a\0b"]
    media = library.media
    for name in names:
        for path in (media.path(name), media.thumbnail(name), media.card(name, "1x1")):
            assert path.resolve().is_relative_to(library.root / "media")
            assert not path.exists()
        study_id = library.add(study_of({}, {}), {"": name}, MADE)
        assert media.remove(library.erase([study_id])) == 0
        assert media.size([name]) == 0
        assert not media.is_sound(name)
    assert own.read_bytes() == b"mine"


def test_threads_that_write_take_turns_however_slow_the_disk_is(library: Library) -> None:
    """A job that writes 25 studies, each as slow as a disk that takes 30 ms: nothing of it and no
    gesture beside it is refused, where SQLite's own waiting (0.25 s) gave up."""
    refused: list[LibraryError] = []
    database = Database(library.root, reading=False)

    def write(times: int) -> None:
        for _ in range(times):
            try:
                with database.writing() as connection:
                    connection.execute(
                        "INSERT INTO practice (at, kind, document) VALUES (?, 'x', '{}')", (MADE,)
                    )
                    time.sleep(0.03)
            except LibraryError as error:
                refused.append(error)

    threads = [threading.Thread(target=write, args=(5,)) for _ in range(5)]
    for thread in threads:
        thread.start()
    write(10)
    for thread in threads:
        thread.join()
    database.settle()
    database.close()
    assert not refused
    assert len(library.practice()) == 35


def test_a_disk_that_has_stalled_is_not_another_program(
    library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The sentence tells what can be done: there is no other program to close."""
    monkeypatch.setattr("bralto.store.sqlite.database.TURN_S", 0.05)
    database = Database(library.root, reading=False)
    begun, done = threading.Event(), threading.Event()

    def stall() -> None:
        with database.writing():
            begun.set()
            done.wait(60)

    thread = threading.Thread(target=stall)
    thread.start()
    assert begun.wait(60)
    with (
        pytest.raises(LibraryError, match="still writing something else") as met,
        database.writing(),
    ):
        pass
    assert met.value.kind is Failure.LOCKED
    done.set()
    thread.join()
    with database.writing():
        pass
    database.close()


@pytest.mark.parametrize(
    ("statement", "said"),
    [
        ("UPDATE study SET extra = '{not json'", "what is said of it"),
        ("UPDATE study SET kind = 'carved'", "'carved' is none of observed"),
        ("UPDATE mark SET visibility = 'maybe' WHERE key = 'chin'", "the mark 'chin'"),
        ("UPDATE mark SET x = 1e308 WHERE key = 'chin'", "the mark 'chin'"),
        ("UPDATE mark SET y = -1000001.0 WHERE key = 'chin'", "beyond any picture"),
        ("UPDATE picture SET polygons = '[[1, 2]]'", "the picture"),
        ("UPDATE picture SET polygons = '{\"trunk\": [[0, 1e7], [1, 1], [2, 0]]}'", "the picture"),
        ("UPDATE picture SET sheet = '{\"corners\": [[0, 0]]}'", "the picture"),
        ("UPDATE picture SET width = 0", "it has no size"),
        ("UPDATE state SET extra = 'x'", "the state 'first'"),
        ("DELETE FROM mark; DELETE FROM picture WHERE id = 1", "is not there"),
    ],
)
def test_one_bad_row_is_said_and_the_other_studies_are_there(
    library: Library, statement: str, said: str
) -> None:
    bad = library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
    with closing(sqlite3.connect(library.root / "library.sqlite3")) as connection, connection:
        connection.executescript(statement)
    connection.close()
    good = library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
    assert {row.id for row in library.rows()} == {bad, good}
    assert library.find(good) is not None
    with pytest.raises(UserError, match="cannot be read") as refused:
        library.stored(bad)
    assert said in str(refused.value)


_WRITER = """
import sys
from pathlib import Path
from bralto.core.study.values import Mark
from bralto.store.library import Library
library = Library.open(Path(sys.argv[1]))
at = library.stored(sys.argv[2]).version
for number in range(10_000):
    at = library.edits.put_marks(sys.argv[2], at, 1, {"crown": Mark(float(number), 1.0)})
    print(number, flush=True)
"""


def test_nothing_finished_is_lost_by_kill_9(tmp_path: Path) -> None:
    """A writer is killed in mid-gesture; the last gesture it reported is in the library."""
    with Library.open(tmp_path / "library") as library:
        study_id = library.add(study_of({}, {}), {}, MADE)
    writer = subprocess.Popen(
        [sys.executable, "-c", _WRITER, str(library.root), study_id],
        stdout=subprocess.PIPE,
        text=True,
    )
    lines = iter(writer.stdout.readline, "")
    reported = [next(lines) for _ in range(25)]
    os.kill(writer.pid, signal.SIGKILL)
    reported += list(lines)
    writer.wait()
    writer.stdout.close()
    with Library.open(tmp_path / "library") as library:  # the dead holder's lock is free
        kept = library.find(study_id).reference.marks["crown"].x
    last = float(reported[-1])
    assert kept in {last, last + 1.0}  # one more may have been kept and not yet told


def test_a_full_disk_is_said_and_loses_nothing(library: Library) -> None:
    database = Database(library.root, reading=False)
    library = Library(library.root, database, None)
    stored = library.stored(library.add(study_of(figure_marks(), {}), {}, MADE))
    with database.using() as connection:
        pages = connection.execute("PRAGMA page_count").fetchone()[0]
        connection.execute(f"PRAGMA max_page_count = {pages}")
    at = stored.version

    def fill() -> None:
        nonlocal at
        for number in range(2000):
            marks = {f"mark{number}": Mark(1.0, 2.0)}
            at = library.edits.put_marks(stored.id, at, stored.pictures[""], marks)

    with pytest.raises(LibraryError, match="the disk is full") as refused:
        fill()
    assert refused.value.kind is Failure.FULL
    again = library.stored(stored.id)
    assert again.study.reference.marks["crown"] == stored.study.reference.marks["crown"]
    assert again.version == at  # the refused change is wholly undone
    database.close()


def test_a_folder_that_is_replaced_is_noticed_and_what_was_done_can_be_kept(
    library: Library, tmp_path: Path, picture_files: tuple[Path, Path]
) -> None:
    bare = Study("Bell ringer", "figure-front", Picture("", 1, 1))
    study_id = add_study_from_files(library, bare, *picture_files, MADE)
    stored = library.stored(study_id)
    assert library.in_place
    library.root.rename(tmp_path / "moved")
    with Library.open(library.root) as other:  # somebody made another in its place
        assert not library.in_place
        library.edits.put_marks(study_id, stored.version, 1, {"crown": Mark(5.0, 5.0)})
        assert other.rows() == []
        with pytest.raises(LibraryError, match="not where it was"):
            run_in_thread(lambda: library.add(study_of({}, {}), {}, MADE))
        with pytest.raises(UserError, match="a library already"):
            library.copy_to(library.root)
    library.copy_to(tmp_path / "kept")
    with Library.open(tmp_path / "kept") as kept:
        assert kept.find(study_id).reference.marks == {"crown": Mark(5.0, 5.0)}


def run_in_thread(work: Callable[[], object]) -> None:
    """Run it in another thread and raise here what it raises there."""
    met: list[BaseException] = []

    def run() -> None:
        try:
            work()
        except BaseException as error:
            met.append(error)

    thread = threading.Thread(target=run)
    thread.start()
    thread.join()
    if met:
        raise met[0]


def test_a_picture_is_not_kept_in_a_folder_that_is_gone(
    library: Library, picture_files: tuple[Path, Path]
) -> None:
    from bralto.imaging.load import clean_picture

    library.root.rename(library.root.with_name("moved"))
    with pytest.raises(UserError):
        library.media.put(clean_picture(picture_files[0]))
    assert not library.root.exists()


def test_an_open_study_is_put_whole_into_another_library(library: Library) -> None:
    study_id = library.add(study_of(figure_marks(), {}), {}, MADE)
    changed = replace(study_of({"crown": Mark(1.0, 1.0)}, figure_marks()), title="From memory")
    library.edits.replace(study_id, changed)
    assert library.find(study_id) == changed
    with pytest.raises(UserError, match="no longer in the library as it was"):
        library.edits.replace(study_id, replace(changed, states=()))
