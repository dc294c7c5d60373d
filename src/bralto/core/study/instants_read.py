"""Instants that are read: of a row, a note, a file."""

from __future__ import annotations

from datetime import UTC, datetime

__all__ = ["instant_of"]

_FROM, _TO = datetime(1970, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)
"""What a clock that is wrong may still say; a damaged row may say the year 1, or 9999, and one such
day would stretch every axis of time over all the others."""


def instant_of(text: str) -> datetime | None:
    """The instant that an ISO 8601 text says, aware, UTC where it names no zone; None where it says
    none, or one beyond what any clock does."""
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        return None
    found = found if found.tzinfo is not None else found.replace(tzinfo=UTC)
    return found if _FROM < found < _TO else None
