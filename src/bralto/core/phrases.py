"""Figures and reasons as bits of text; apart from `wording`, which knows readings and NumPy."""

from __future__ import annotations

__all__ = ["minutes", "sentence", "signed"]


def sentence(reason: str) -> str:
    """A reason as a sentence of its own."""
    return f"{reason[:1].upper()}{reason[1:]}."


def minutes(seconds: float) -> str:
    """'4 min', never less than one."""
    return f"{max(1, round(seconds / 60.0))} min"


def signed(value: float, digits: int) -> str:
    """A number with its sign; nothing rounds to minus nought."""
    text = f"{value:+.{digits}f}"
    if not text.strip("+-0."):
        return text[1:]
    return text.replace("-", "−")
