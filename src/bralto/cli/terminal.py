"""Text for a terminal: what a file says of itself must not steer the terminal that shows it."""

from __future__ import annotations

__all__ = ["printable", "tell"]


def printable(text: str) -> str:
    """The text with control characters, and halves of characters, shown as their codes; lines and
    tabs stay."""
    if text.isprintable():
        return text
    return "".join(
        one if one.isprintable() or one in "\n\t" else f"\\x{ord(one):02x}" for one in text
    )


def tell(text: object, end: str = "\n") -> None:
    """Print text that has words out of a file in it."""
    print(printable(str(text)), end=end)
