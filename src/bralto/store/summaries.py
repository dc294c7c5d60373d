"""What the shelf and the record show of a study, as kept beside it; read without NumPy."""

from __future__ import annotations

import json
import math
from typing import Any, NamedTuple

from bralto.core.results import NotMeasurable
from bralto.core.summary import MissFigure, SkillFigure, Summary

__all__ = ["Digest", "ShelfRow", "Shown", "digest_document", "read_digest"]


class Shown(NamedTuple):
    """A picture as a card shows it.

    Attributes:
        media: its name in the media folder, or None where it came without its picture.
        width, height: image px.
        plumb_deg: counter-clockwise turn.
        flat: (3, 3) map, row by row, to the sheet seen straight on; None as it was taken.
        frame: left, top, width, height of what is looked at, after ``flat``; None for all.
    """

    media: str | None
    width: int
    height: int
    plumb_deg: float
    flat: tuple[float, ...] | None
    frame: tuple[float, float, float, float] | None


class Digest(NamedTuple):
    """A study in short.

    Attributes:
        summary: None where the study cannot be measured; ``why`` says why.
        ratio: the drawing's scale, drawing px a reference px, where known.
        reference, drawing: the pictures of its card.
        seconds: time spent on it.
    """

    summary: Summary | None
    why: str
    ratio: float | None
    reference: Shown | None
    drawing: Shown | None
    seconds: float


class ShelfRow(NamedTuple):
    """A study in the library as the shelf lists it; times are ISO 8601, UTC.

    Attributes:
        version: of the study; ``stamp`` and ``science`` are of the digest, None without one.
        binned: when it was put into the bin, or None.
        tags: joined by the unit separator, U+001F.
        fault: why nothing more is known of it, or "".
    """

    id: str
    title: str
    view: str
    kind: str
    made: str
    version: int
    hidden: int
    binned: str | None
    tags: str
    states: int
    stamp: int | None
    science: int | None
    document: str | None
    fault: str = ""


def digest_document(digest: Digest) -> str:
    """A digest as the JSON that is kept."""
    summary = digest.summary
    body: dict[str, Any] = {
        "why": digest.why,
        "ratio": digest.ratio,
        "reference": digest.reference,
        "drawing": digest.drawing,
        "seconds": digest.seconds,
    }
    if summary is not None:
        body["tracked"] = _miss_document(summary.tracked)
        body["miss"] = _miss_document(summary.miss)
        body["skills"] = summary.skills
    return json.dumps(body, separators=(",", ":"))


def _miss_document(miss: MissFigure | NotMeasurable) -> Any:
    return miss.reason if isinstance(miss, NotMeasurable) else miss


def read_digest(document: str) -> Digest | None:
    """The digest of a document, or None where it is none: it is measured again then."""
    try:
        body = json.loads(document)
        summary = None
        if "tracked" in body:
            skills = tuple(
                SkillFigure(str(name), str(unit), *_three(middle, low, high), int(count))
                for name, unit, middle, low, high, count in body["skills"]
            )
            summary = Summary(_miss(body["tracked"]), _miss(body["miss"]), skills)
        ratio = body["ratio"]
        return Digest(
            summary,
            str(body["why"]),
            None if ratio is None else _floats([ratio])[0],
            _shown(body["reference"]),
            _shown(body["drawing"]),
            _floats([body["seconds"]])[0],
        )
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return None


def _floats(values: list[Any]) -> list[float]:
    found = [float(value) for value in values]
    if not all(map(math.isfinite, found)):
        raise ValueError("not finite")
    return found


def _three(*values: Any) -> tuple[float, float, float]:
    first, second, third = _floats(list(values))
    return first, second, third


def _miss(kept: Any) -> MissFigure | NotMeasurable:
    if isinstance(kept, str):
        return NotMeasurable(kept)
    *figures, marks = kept
    value, u, limit = _floats(figures)
    return MissFigure(value, u, limit, int(marks))


def _shown(kept: Any) -> Shown | None:
    if kept is None:
        return None
    media, width, height, plumb, flat, frame = kept
    if not (int(width) > 0 and int(height) > 0):
        raise ValueError("no size")
    if frame is not None:
        left, top, wide, high = _floats(frame)
        frame = (left, top, wide, high)
    return Shown(
        None if media is None else str(media),
        int(width),
        int(height),
        _floats([plumb])[0],
        None if flat is None else tuple(_floats(flat)),
        frame,
    )
