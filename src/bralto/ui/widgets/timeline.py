"""Time along the tape: months as segments, days as bars, and where a day falls. No widgets."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from datetime import datetime, timedelta

from bralto.core.words.phrases import MONTHS, local
from bralto.ui.widgets.tape import Segment

__all__ = ["months", "share_of", "span_of"]


_LONG = timedelta(days=3 * 365)
"""Longer than this, years are shown: months would be lines beside lines."""


_FINE = 2560
"""Bars at most, one or two px apart on a wide screen (chosen here, no source)."""


def span_of(days: Sequence[datetime]) -> tuple[datetime, datetime]:
    """The stretch of time shown: from the first to the last day with a little air."""
    first, last = min(days), max(days)
    air = max(timedelta(days=2), (last - first) * 0.03)
    return first - air, last + air


def share_of(day: datetime, span: tuple[datetime, datetime]) -> float:
    """Where a day falls in a span, 0 to 1."""
    return (day - span[0]) / (span[1] - span[0])


def months(days: Sequence[datetime]) -> tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]]:
    """A segment for each month of the span, or each year of a long one, and a bar for each day
    given."""
    if not days:
        return (), ()
    span = span_of(days)
    yearly = span[1] - span[0] > _LONG
    starts = [local(span[0])]
    while (following := _next(starts[-1], yearly=yearly)) < span[1]:
        starts.append(following)
    ends = [*starts[1:], span[1]]
    segments, order = [], sorted(days)
    for start, end in zip(starts, ends, strict=True):
        wide = share_of(end, span) - share_of(start, span)
        inside = bisect_left(order, end) - bisect_left(order, start)
        segments.append(
            Segment(
                key=f"{start:%Y-%m}",
                title=_title(start, wide, yearly=yearly),
                note=f"{inside}" if inside else "",
                start=share_of(start, span),
                end=share_of(end, span),
                filled=0,
                done=False,
            )
        )
    begun, whole = span[0].timestamp(), (span[1] - span[0]).total_seconds()
    shares: dict[int, float] = {}  # thousands of studies are not thousands of bars
    for day in days:
        share = (day.timestamp() - begun) / whole
        shares.setdefault(int(share * _FINE), share)
    bars = tuple((share, 0.6) for share in shares.values())
    return tuple(segments), bars


def _next(start: datetime, *, yearly: bool) -> datetime:
    """The beginning of the month, or year, after an instant, on the clock of this machine."""
    if yearly:
        return datetime(start.year + 1, 1, 1).astimezone()
    return datetime(start.year + start.month // 12, start.month % 12 + 1, 1).astimezone()


def _title(start: datetime, wide: float, *, yearly: bool) -> str:
    """What there is room for."""
    if yearly:
        return f"{start:%Y}" if wide > 0.05 else ""
    name = MONTHS[start.month - 1]
    return name if wide > 0.12 else name[:3] if wide > 0.05 else ""
