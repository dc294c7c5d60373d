"""A figure that cannot be had is a value with a reason, never NaN, 0 or a stray exception."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["NotMeasurable"]


@dataclass(frozen=True, slots=True)
class NotMeasurable:
    """Why a figure cannot be computed. Falsy, so that ``if result:`` reads naturally."""

    reason: str

    def __bool__(self) -> bool:
        return False
