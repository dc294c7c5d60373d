"""A figure that cannot be had is a value with a reason, never NaN, 0 or a stray exception."""

from __future__ import annotations

from typing import NoReturn

__all__ = ["NotMeasurable"]


class NotMeasurable:
    """Why a figure cannot be computed. Falsy, so that ``if result:`` reads naturally.

    Frozen; written by hand, since the window starts without `dataclasses`, and no tuple, since
    nothing may take it for a list of figures.
    """

    __slots__ = ("reason",)

    reason: str

    def __init__(self, reason: str) -> None:
        object.__setattr__(self, "reason", reason)

    def __bool__(self) -> bool:
        return False

    def __eq__(self, other: object) -> bool:
        return isinstance(other, NotMeasurable) and other.reason == self.reason

    def __hash__(self) -> int:
        return hash((NotMeasurable, self.reason))

    def __repr__(self) -> str:
        return f"NotMeasurable({self.reason!r})"

    def __setattr__(self, name: str, value: object) -> NoReturn:
        raise AttributeError(f"{name}: a NotMeasurable does not change")

    def __reduce__(self) -> tuple[type[NotMeasurable], tuple[str]]:
        return NotMeasurable, (self.reason,)
