"""Text for a terminal: what a file says of itself must not steer the terminal that shows it."""

from __future__ import annotations

import codecs
import io
import json
import os
import sys
import threading
from typing import NoReturn

__all__ = ["leave", "printable", "show_what_can_be", "tell", "tell_document"]

_PLAIN = {
    "−": "-", "±": "+-", "×": "x", "°": " deg", "…": "...", "·": "-", "“": '"', "”": '"',
    "‘": "'", "’": "'", "–": "-", "—": "-",
}  # fmt: skip
"""What a terminal shows that has none of these."""


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


def tell_document(document: object) -> None:
    """Print JSON; in letters that every terminal and file has where this one is not Unicode."""
    unicode = (sys.stdout.encoding or "").lower().startswith("utf")
    print(json.dumps(document, ensure_ascii=not unicode, indent=1, allow_nan=False))


def show_what_can_be() -> None:
    """Let a terminal that is not Unicode show what it can, and signs that it lacks as others: a
    minus as a hyphen, a name in another script by its codes."""
    codecs.register_error("plainly", _plainly)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="plainly")


def _plainly(error: UnicodeError) -> tuple[str, int]:
    if not isinstance(error, UnicodeEncodeError):
        raise error
    lacking = error.object[error.start : error.end]
    return "".join(_PLAIN.get(one) or f"\\u{ord(one):04x}" for one in lacking), error.end
