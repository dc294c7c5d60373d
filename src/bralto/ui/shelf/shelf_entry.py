"""A study as the shelf lists it, by what is kept of it."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime
from functools import cached_property

from bralto.core.examination.summary import SCIENCE, Summary
from bralto.core.study.instants_read import instant_of
from bralto.store.summaries import TAG_SEPARATOR, Digest, ShelfRow, read_digest

__all__ = [
    "Entry",
]

_MEASURING = "measuring …"

_UNDATED = datetime(1970, 1, 1, tzinfo=UTC)


class Entry:
    """A study on the shelf: its row, and what is read out of it when it is asked for."""

    def __init__(self, row: ShelfRow) -> None:
        self.row = row
        self.id = row.id
        self.broken = False
        """Whether what is kept of it was looked at and is no digest: it is measured again."""

    @property
    def title(self) -> str:
        """The study's title, never empty."""
        if self.row.fault and not self.row.title:
            return f"Study {self.id}"
        return self.row.title or "Untitled study"

    @cached_property
    def when(self) -> datetime:
        """When it was made; the beginning of time where its row does not say it."""
        return instant_of(self.row.made) or _UNDATED

    @property
    def dated(self) -> bool:
        """Whether it is known when it was made."""
        return self.when is not _UNDATED

    @property
    def states(self) -> int:
        """How many states of the drawing there are."""
        return self.row.states

    @cached_property
    def tags(self) -> tuple[str, ...]:
        """In order of their names."""
        return tuple(sorted(self.row.tags.split(TAG_SEPARATOR))) if self.row.tags else ()

    @property
    def in_force(self) -> bool:
        """Whether its digest is of its content and of today's science."""
        row = self.row
        return self.digest is not None and (row.stamp, row.science) == (row.version, SCIENCE)

    @cached_property
    def digest(self) -> Digest | None:
        """What was measured last, also where the study has changed since."""
        found = read_digest(self.row.document) if self.row.document else None
        self.broken = found is None and bool(self.row.document)
        return found

    @property
    def summary(self) -> Summary | None:
        """None until it is measured, and where it cannot be; ``why`` says which."""
        return self.digest.summary if self.digest and self.in_force else None

    @property
    def log(self) -> tuple[tuple[str, str], ...]:
        """What was written about it, also where it has changed since: question and words."""
        return self.digest.log if self.digest else ()

    @property
    def why(self) -> str:
        """Why there is no summary."""
        if self.row.fault:
            return f"it cannot be read: {self.row.fault}"
        return self.digest.why if self.digest and self.in_force else _MEASURING

    def matches(self, words: Iterable[str]) -> bool:
        """Whether title, a tag or the log has each of these words, whatever their case."""
        written = "\n".join(words for _, words in self.log)
        text = f"{self.row.title}\n{self.row.tags}\n{written}".casefold()
        return all(word in text for word in words)
