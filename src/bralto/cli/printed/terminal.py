"""Text for a terminal: what a file says of itself must not steer the terminal that shows it."""

from __future__ import annotations

import os
import sys
import threading
from typing import NoReturn

__all__ = ["leave", "printable", "tell"]


def leave(status: int) -> NoReturn:
    """End the process. Jobs that were left behind end with it at once: an interpreter that takes
    itself apart around a thread in the middle of a library can crash."""
    if threading.active_count() > 1:
        for stream in (sys.stdout, sys.stderr):
            stream.flush()
        os._exit(status)
    sys.exit(status)


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
