"""A table as Markdown."""

from __future__ import annotations

from collections.abc import Sequence

__all__ = ["table"]


def table(rows: Sequence[Sequence[str]]) -> str:
    head, *rest = rows
    lines = [head, ("---",) * len(head), *rest]
    return "\n".join("| " + " | ".join(row) + " |" for row in lines)
