"""How deep documents are nested that somebody else may have written."""

from __future__ import annotations

from typing import Any

__all__ = ["is_deep"]

_DEEPEST = 100
"""Levels of a document at most: ours have a dozen, and what walks through one calls itself once or
twice a level, of the thousand calls that Python has."""


def is_deep(data: Any) -> bool:
    """Whether lists and tables lie in each other deeper than any document of ours."""
    level = [data] if isinstance(data, dict | list) else []
    for _ in range(_DEEPEST):
        inside = (one.values() if isinstance(one, dict) else one for one in level)
        level = [part for one in inside for part in one if isinstance(part, dict | list)]
        if not level:
            return False
    return True
