"""The library: private, transactional, migrated, and safe from being killed."""

from __future__ import annotations

import os
import signal
import stat
import subprocess
import sys
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, event, text
from tests.studies import figure_marks, study_of

from bralto.core.errors import UserError
from bralto.core.study import Mark, Picture, Study
from bralto.store import schema
from bralto.store.intake import add_study_from_files
from bralto.store.library import Library
from bralto.store.tables import metadata

MADE = "2026-05-02T18:20:00Z"


def test_the_folder_is_the_learners_alone(library: Library) -> None:
    assert stat.S_IMODE(library.root.stat().st_mode) == 0o700


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
    library.put_marks(reference, {"crown": Mark(1.5, 2.5, "inferred", 0.7)})
    library.put_marks(reference, {"crown": Mark(3.5, 2.5)})
    library.put_marks(drawing, {"crown": Mark(9.0, 9.0)})
    library.put_marks(drawing, {"crown": None})
    again = library.find(stored.id)
    assert again.reference.marks == {"crown": Mark(3.5, 2.5)}
    assert again.states[0].picture.marks == {}


def test_a_removed_study_leaves_no_rows(library: Library) -> None:
    study_id = library.add(study_of(figure_marks(), figure_marks()), {}, MADE)
    library.remove(study_id)
    engine = create_engine(f"sqlite:///{library.root / 'library.sqlite3'}")
    with engine.connect() as connection:
        for table in ("study", "state", "picture", "mark"):
            assert connection.execute(text(f"SELECT count(*) FROM {table}")).scalar() == 0
    engine.dispose()


def test_pictures_are_copied_and_told_by_their_content(
    library: Library, picture_files: tuple[Path, Path]
) -> None:
    bare = Study("", "figure-front", Picture("", 1, 1, permission="my own"))
    first = library.stored(add_study_from_files(library, bare, *picture_files, MADE))
    second = library.stored(add_study_from_files(library, bare, *picture_files, MADE))
    for path in picture_files:
        path.unlink()
    assert first.media == second.media
    assert library.media.path(first.media[""]).exists()
    assert library.media.thumbnail(first.media["first"]).exists()
    assert first.study.reference.permission == "my own"
    assert (first.study.reference.width, first.study.reference.height) == (300, 400)


def test_a_bad_picture_keeps_nothing(library: Library, picture_files: tuple[Path, Path]) -> None:
    picture_files[1].write_text("not a picture")
    with pytest.raises(UserError, match="not a picture"):
        add_study_from_files(library, Study("", "figure-front", None), *picture_files, MADE)
    assert library.studies() == ()
    assert not (library.root / "media").exists()


def test_migrations_make_the_tables_that_the_code_names(library: Library) -> None:
    engine = create_engine(f"sqlite:///{library.root / 'library.sqlite3'}")
    with engine.connect() as connection:
        context = MigrationContext.configure(connection, opts={"compare_type": True})
        assert compare_metadata(context, metadata) == []
    engine.dispose()


def test_the_newest_revision_is_the_one_the_code_expects() -> None:
    config = Config()
    config.set_main_option("script_location", str(Path(schema.__file__).parent / "migrations"))
    assert ScriptDirectory.from_config(config).get_current_head() == schema.HEAD


def test_a_library_of_a_newer_bralto_is_refused_by_name(tmp_path: Path) -> None:
    with Library.open(tmp_path) as library:
        library.add(study_of({}, {}), {}, MADE)
    engine = create_engine(f"sqlite:///{tmp_path / 'library.sqlite3'}")
    with engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = '0099'"))
    engine.dispose()
    with pytest.raises(UserError, match=r"newer Bralto \(schema 0099\)"):
        Library.open(tmp_path)


def test_a_damaged_library_is_refused_and_left_alone(tmp_path: Path) -> None:
    (tmp_path / "library.sqlite3").write_bytes(b"not a database" * 100)
    with pytest.raises(UserError, match="not a Bralto library"):
        Library.open(tmp_path)
    assert (tmp_path / "library.sqlite3").read_bytes().startswith(b"not a database")


_WRITER = """
import sys
from pathlib import Path
from bralto.core.study import Mark
from bralto.store.library import Library
library = Library.open(Path(sys.argv[1]))
picture = library.stored(sys.argv[2]).pictures[""]
for number in range(10_000):
    library.put_marks(picture, {"crown": Mark(float(number), 1.0)})
    print(number, flush=True)
"""


def test_nothing_finished_is_lost_by_kill_9(library: Library) -> None:
    """A writer is killed in mid-gesture; the last gesture it reported is in the library."""
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
    kept = library.find(study_id).reference.marks["crown"].x
    last = float(reported[-1])
    assert kept in {last, last + 1.0}  # one more may have been kept and not yet told


def test_a_full_disk_is_said_and_loses_nothing(library: Library) -> None:
    stored = library.stored(library.add(study_of(figure_marks(), {}), {}, MADE))
    engine = library._engine
    with engine.connect() as connection:
        pages = connection.execute(text("PRAGMA page_count")).scalar()
    engine.dispose()
    event.listen(engine, "connect", lambda c, _: c.execute(f"PRAGMA max_page_count = {pages}"))

    def fill() -> None:
        for number in range(2000):
            library.put_marks(stored.pictures[""], {f"mark{number}": Mark(1.0, 2.0)})

    with pytest.raises(UserError, match="not kept"):
        fill()
    assert library.find(stored.id).reference.marks["crown"] == stored.study.reference.marks["crown"]
