"""What a benchmark has set up must be there: anything else ends it."""

from __future__ import annotations

from typing import TypeVar

from bralto.core.results import NotMeasurable

__all__ = ["certain"]

_Value = TypeVar("_Value")


def certain(value: _Value | NotMeasurable | None) -> _Value:
    """The value itself.

    Raises:
        RuntimeError: there is none, or it could not be measured.
    """
    if value is None or isinstance(value, NotMeasurable):
        raise RuntimeError(f"the benchmark needs what is not there: {value}")
    return value
