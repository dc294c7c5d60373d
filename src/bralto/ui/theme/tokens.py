"""Colours by role, light and dark. Paper, graphite, red chalk, blue pencil."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtGui import QColor

from bralto.core.measures.verdict_names import Verdict
from bralto.core.quick_tuples import NamedTuple

__all__ = ["DARK", "LIGHT", "Tokens", "contrast"]


_VERDICTS = {Verdict.OVER: "red", Verdict.UNDER: "blue", Verdict.CANNOT_TELL: "ochre"}


class Tokens(NamedTuple):
    """One theme. Every text role must read at 4.5 : 1 on `ground` and `sheet` (WCAG 2.2, 1.4.3);
    red, blue and ochre must be told apart without the cones for red, green or blue as well.

    Attributes:
        ground, slip, tape, sheet: surfaces, from the table outward to the paper.
        ink, ink2: text and agreement; secondary text and staffs.
        red, blue, ochre: more than the reference, less, cannot tell.
        hair: idle ticks and separating lines, never text.
        here: the one light that says 'you are here'.
        veil: laid under lines on pictures.
    """

    name: str
    ground: str
    slip: str
    tape: str
    sheet: str
    ink: str
    ink2: str
    red: str
    blue: str
    ochre: str
    hair: str
    here: str
    veil: str

    def colour(self, role: str, alpha: float = 1.0) -> QColor:
        """The colour of a role, alpha 0 to 1. Shared between callers: take it as it is."""
        return _colour(getattr(self, role), alpha)

    def verdict(self, verdict: Verdict | None) -> str:
        """The role that says a verdict, or none."""
        return "ink" if verdict is None else _VERDICTS.get(verdict, "ink")


@lru_cache(maxsize=1024)
def _colour(code: str, alpha: float) -> QColor:
    colour = QColor(code)
    colour.setAlphaF(alpha)
    return colour


LIGHT = Tokens(
    name="light",
    ground="#E1DBCF",
    slip="#F0EBE1",
    tape="#F4EEDC",
    sheet="#FCFAF5",
    ink="#292724",
    ink2="#555049",
    red="#A13D59",
    blue="#1D4E93",
    ochre="#634D08",
    hair="#7F7566",
    here="#FFFFFF",
    veil="#FCFAF5",
)

DARK = Tokens(
    name="dark",
    ground="#242220",
    slip="#2E2B28",
    tape="#38332B",
    sheet="#1B1A18",
    ink="#EFE9DC",
    ink2="#BDB4A4",
    red="#F78A82",
    blue="#8FB8EE",
    ochre="#F5CC3A",
    hair="#857C6E",
    here="#3F3A33",
    veil="#1B1A18",
)


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours, 1 to 21 (WCAG 2.2, definition of contrast ratio)."""

    def luminance(code: str) -> float:
        parts = []
        for i in (1, 3, 5):
            c = int(code[i : i + 2], 16) / 255.0
            parts.append(c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4)
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    bright, dim = sorted((luminance(one), luminance(other)), reverse=True)
    return (bright + 0.05) / (dim + 0.05)
