"""The library: studies in SQLite, pictures beside it; every method that writes is a transaction."""

from __future__ import annotations

import secrets
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType
from typing import Any, Self

from sqlalchemy import Connection, create_engine, delete, event, insert, select, update
from sqlalchemy.exc import DatabaseError

from bralto.core.errors import UserError
from bralto.core.study import Mark, Picture, State, Study
from bralto.store import rows
from bralto.store.media import MediaFolder
from bralto.store.schema import bring_up_to_date
from bralto.store.tables import mark, picture, state, study

__all__ = ["Library", "StoredStudy"]

_FILE = "library.sqlite3"


@dataclass(frozen=True, slots=True)
class StoredStudy:
    """A study with where its pictures lie.

    Attributes:
        id: stable id, also for `bralto measure`.
        made: ISO 8601 instant of its making, UTC.
        pictures: picture row of the reference ("") and of each state by name.
        media: name in the media folder of each of those pictures that has one.
    """

    id: str
    made: str
    study: Study
    pictures: Mapping[str, int]
    media: Mapping[str, str]


class Library:
    """Open with `Library.open`; close it, or use it in a ``with`` statement."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self.media = MediaFolder(root / "media")
        self._engine = create_engine(f"sqlite:///{root / _FILE}")
        event.listen(self._engine, "connect", _set_up)

    @classmethod
    def open(cls, root: Path) -> Self:
        """Open a library folder, making or migrating it where needed (mode 0700).

        Raises:
            UserError: it cannot be made, is damaged, or was written by a newer Bralto.
        """
        try:
            root.mkdir(parents=True, exist_ok=True, mode=0o700)
            library = cls(root)
            bring_up_to_date(library._engine, root)
        except OSError as error:
            raise UserError(f"{root}: the library cannot be opened ({error.strerror})") from None
        except DatabaseError:
            raise UserError(f"{root / _FILE}: not a Bralto library, or a damaged one") from None
        return library

    def close(self) -> None:
        """Let go of the database."""
        self._engine.dispose()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.close()

    # Reading

    def studies(self) -> tuple[StoredStudy, ...]:
        """All studies, newest first."""
        with self._engine.connect() as connection:
            return _load(connection)

    def stored(self, study_id: str) -> StoredStudy | None:
        """The study of that id, or None."""
        with self._engine.connect() as connection:
            return next(iter(_load(connection, study_id)), None)

    def find(self, study_id: str) -> Study | None:
        """The bare study of that id, or None."""
        found = self.stored(study_id)
        return found.study if found else None

    # Writing

    @contextmanager
    def _writing(self) -> Iterator[Connection]:
        """One transaction; what the disk refuses is said in one sentence."""
        try:
            with self._engine.begin() as connection:
                yield connection
        except DatabaseError as error:
            raise UserError(
                f"{self.root}: the change was not kept ({error.orig}); nothing before it is lost"
            ) from None

    def add(self, new: Study, media: Mapping[str, str], made: str) -> str:
        """Keep a new study; ``media`` names its pictures by state name, the reference by ""."""
        study_id = secrets.token_hex(4)
        with self._writing() as connection:
            reference = None
            if new.reference is not None:
                reference = _add_picture(connection, new.reference, media.get(""))
            connection.execute(
                insert(study).values(
                    id=study_id, reference_id=reference, made=made, **rows.study_row(new)
                )
            )
            for number, one in enumerate(new.states):
                _add_state(connection, study_id, number, one, media.get(one.name))
        return study_id

    def put_marks(self, picture_id: int, marks: Mapping[str, Mark | None]) -> None:
        """Set marks of a picture, or take those away that are None."""
        with self._writing() as connection:
            connection.execute(
                delete(mark).where(mark.c.picture_id == picture_id, mark.c.key.in_(list(marks)))
            )
            new = [rows.mark_row(picture_id, key, one) for key, one in marks.items() if one]
            if new:
                connection.execute(insert(mark), new)

    def put_head(self, study_id: str, changed: Study) -> None:
        """Keep what is said of a study as a whole: title, school, grade and the like."""
        with self._writing() as connection:
            connection.execute(
                update(study).where(study.c.id == study_id).values(**rows.study_row(changed))
            )

    def put_picture(self, picture_id: int, value: Picture) -> None:
        """Keep what is said of a picture, its marks apart: sheet, plumb, crop and the like."""
        row = rows.picture_row(value, None)
        del row["media"]
        with self._writing() as connection:
            connection.execute(update(picture).where(picture.c.id == picture_id).values(**row))

    def add_state(self, study_id: str, new: State, media_name: str | None) -> None:
        """Add a further state of the drawing."""
        with self._writing() as connection:
            number = len(
                connection.execute(select(state.c.id).where(state.c.study_id == study_id)).all()
            )
            _add_state(connection, study_id, number, new, media_name)

    def remove(self, study_id: str) -> None:
        """Remove a study and its pictures' rows; the media files stay for other studies."""
        with self._writing() as connection:
            reference = connection.execute(
                select(study.c.reference_id).where(study.c.id == study_id)
            ).scalar()
            drawn = connection.execute(
                select(state.c.picture_id).where(state.c.study_id == study_id)
            ).scalars()
            pictures = [*drawn, reference]
            connection.execute(delete(study).where(study.c.id == study_id))
            connection.execute(delete(picture).where(picture.c.id.in_(pictures)))


def _set_up(connection: Any, _record: object) -> None:
    """Foreign keys, and a write-ahead log that is on disk when a gesture ends."""
    cursor = connection.cursor()
    cursor.execute("PRAGMA foreign_keys = ON")
    cursor.execute("PRAGMA journal_mode = WAL")
    cursor.execute("PRAGMA synchronous = FULL")
    cursor.execute("PRAGMA busy_timeout = 3000")
    cursor.close()


def _add_picture(connection: Connection, value: Picture, media_name: str | None) -> int:
    result = connection.execute(insert(picture).values(rows.picture_row(value, media_name)))
    picture_id = int(result.inserted_primary_key[0])  # type: ignore[index]
    marks = [rows.mark_row(picture_id, key, one) for key, one in value.marks.items()]
    if marks:
        connection.execute(insert(mark), marks)
    return picture_id


def _add_state(
    connection: Connection, study_id: str, number: int, value: State, media_name: str | None
) -> None:
    picture_id = _add_picture(connection, value.picture, media_name)
    connection.execute(
        insert(state).values(
            study_id=study_id,
            number=number,
            name=value.name,
            taken=value.taken,
            picture_id=picture_id,
            extra=dict(value.extra),
        )
    )


def _load(connection: Connection, study_id: str | None = None) -> tuple[StoredStudy, ...]:
    """Studies with all that hangs from them, in four statements however many there are."""
    chosen = select(study).order_by(study.c.made.desc(), study.c.id)
    if study_id is not None:
        chosen = chosen.where(study.c.id == study_id)
    heads = connection.execute(chosen).mappings().all()
    states: dict[str, list[Any]] = {row["id"]: [] for row in heads}
    for row in connection.execute(select(state).order_by(state.c.number)).mappings():
        if row["study_id"] in states:
            states[row["study_id"]].append(row)
    wanted = {r["picture_id"] for group in states.values() for r in group}
    wanted |= {row["reference_id"] for row in heads}
    marks: dict[int, dict[str, Mark]] = {}
    marks_query, pictures_query = select(mark), select(picture)
    if study_id is not None:
        marks_query = marks_query.where(mark.c.picture_id.in_(wanted))
        pictures_query = pictures_query.where(picture.c.id.in_(wanted))
    for row in connection.execute(marks_query).mappings():
        marks.setdefault(row["picture_id"], {})[row["key"]] = rows.mark_value(dict(row))
    pictures = {row["id"]: row for row in connection.execute(pictures_query).mappings()}
    return tuple(_stored(row, states[row["id"]], pictures, marks) for row in heads)


def _stored(
    head: Any, states: list[Any], pictures: Mapping[int, Any], marks: Mapping[int, Any]
) -> StoredStudy:
    ids = {row["name"]: row["picture_id"] for row in states}
    if head["reference_id"] is not None:
        ids[""] = head["reference_id"]
    values = {name: rows.picture_value(pictures[i], marks.get(i, {})) for name, i in ids.items()}
    return StoredStudy(
        id=head["id"],
        made=head["made"],
        study=rows.study_value(
            head,
            values.get(""),
            tuple(State(r["name"], values[r["name"]], r["taken"], r["extra"]) for r in states),
        ),
        pictures=ids,
        media={name: pictures[i]["media"] for name, i in ids.items() if pictures[i]["media"]},
    )
