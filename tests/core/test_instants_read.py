"""Instants out of rows, notes and files: what ISO 8601 says, and no day that no clock shows."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta, timezone

import pytest

from bralto.core.study.instants_read import instant_of


@pytest.mark.parametrize(
    ("text", "instant"),
    [
        ("2026-10-02T22:30:00Z", datetime(2026, 10, 2, 22, 30, tzinfo=UTC)),
        ("2026-10-02T22:30:00", datetime(2026, 10, 2, 22, 30, tzinfo=UTC)),
        ("2026-10-02", datetime(2026, 10, 2, tzinfo=UTC)),
        ("1999-12-31T23:59:59+11:00", datetime(1999, 12, 31, 12, 59, 59, tzinfo=UTC)),
        ("2024-02-29T23:59:59-05:00", datetime(2024, 3, 1, 4, 59, 59, tzinfo=UTC)),
    ],
)
def test_an_instant_is_read_with_its_zone(text: str, instant: datetime) -> None:
    """ISO 8601-1:2019, 5.4.2 (local time and its shift from UTC), reckoned by hand."""
    assert instant_of(text) == instant


@pytest.mark.parametrize(
    "text",
    [
        "", "yesterday", "2026-02-30T10:00:00Z", "2026-10-02T25:00:00Z", "-1",
        "0001-01-01T00:00:00Z", "0001-01-01T00:00:00+14:00", "1969-12-31T23:59:59Z",
        "9999-12-31T23:59:59Z", "9999-12-31T23:59:59-12:00", "2999-01-01T00:00:00Z",
    ],
)  # fmt: skip
def test_what_is_no_day_of_any_clock_is_none(text: str) -> None:
    assert instant_of(text) is None


def test_every_instant_has_a_day_on_every_clock() -> None:
    """The ends of what is read can be told where the clock is furthest ahead and behind."""
    first, last = instant_of("1970-01-01T00:00:01Z"), instant_of("2199-12-31T23:59:59Z")
    assert first is not None
    assert last is not None
    behind, ahead = timezone(timedelta(hours=-12)), timezone(timedelta(hours=14))
    assert first.astimezone(behind).date() == date(1969, 12, 31)
    assert last.astimezone(ahead).date() == date(2200, 1, 1)
