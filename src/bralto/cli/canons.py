"""`bralto canons`: the averages a figure can be held against, and where they come from."""

from __future__ import annotations

from typing import Annotated

import typer

from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.views import ListFormat, Output
from bralto.core.canons.shipped_canons import Canon, canon_keys, canon_named
from bralto.core.measures.view_kinds import UNITS
from bralto.core.views.shipped_views import view_named
from bralto.core.words.phrases import between

__all__ = ["canons"]

_SAMPLE_AGE = 6


def canons(
    canon: Annotated[str | None, typer.Argument(help="a canon, to list its values")] = None,
    output: Output = ListFormat.text,
) -> None:
    """List the canons, or the values of one. A canon is an average; nobody is it."""
    if canon is not None:
        found = canon_named(canon)
        rows = [_about(found) | {"values": _values(found)}]
        text = [f"{found.title}: {found.note}.", f"Source: {found.source}."]
        for view in found.views:
            text += ["", view, *_lines(found, view)]
    else:
        keys = [key if key != "child" else f"child-at-{_SAMPLE_AGE}" for key in canon_keys()]
        rows = [_about(canon_named(key)) for key in keys]
        text = [f"{r['canon']:<26} {r['title']}: {r['note']}" for r in rows]
    if output is ListFormat.json:
        tell_document(rows)
    else:
        tell("\n".join(text))


def _lines(canon: Canon, view: str) -> list[str]:
    """Its values of a view as the other commands say them, each with the measure's own name."""
    known, out = view_named(view), []
    for key, one in canon.values(view).items():
        spec = known.measure(key)
        assert spec is not None, key
        factor, unit = _SAID[UNITS[spec.kind]]
        values = between(factor * one.low, factor * one.high)
        unit = unit.replace("head", spec.counted) + "s" * (unit == " head" and values != "1")
        out.append(f"  {key:<30} {spec.label:<48} {values}{unit}")
    return out


_SAID = {
    "head": (1.0, " head"), "degree": (1.0, "°"), "fraction": (100.0, " %"),
    "ratio": (1.0, " : 1"),
}  # fmt: skip
"""By unit, what a value is shown times, and what stands behind it."""


def _about(canon: Canon) -> dict[str, object]:
    return {
        "canon": canon.key, "title": canon.title, "views": list(canon.views), "note": canon.note,
        "source": canon.source, "general": canon.general,
    }  # fmt: skip


def _values(canon: Canon) -> dict[str, dict[str, list[float]]]:
    """By view and measure, from and to."""
    return {
        view: {key: [one.low, one.high] for key, one in canon.values(view).items()}
        for view in canon.views
    }
