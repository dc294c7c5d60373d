"""Instants as the library keeps them."""

from __future__ import annotations

from datetime import UTC, datetime

__all__ = ["BIN_DAYS", "now_utc"]

BIN_DAYS = 30
"""How long a study lies in the bin (common practice, no source)."""


def now_utc() -> str:
    """This instant, ISO 8601, to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")
