"""What the shelf and the record show of a study, as kept beside it; read without NumPy."""

from __future__ import annotations

import json
import math
from typing import Any

from bralto.core.examination.summary import NO_FACTS, Facts, MissFigure, SkillFigure, Summary
from bralto.core.quick_tuples import NamedTuple
from bralto.core.results import NotMeasurable

__all__ = [
    "TAG_SEPARATOR", "Digest", "KeptDigest", "ShelfRow", "Shown", "digest_document",
    "read_digest",
]  # fmt: skip


TAG_SEPARATOR = "\x1f"
"""Between the tags of a `ShelfRow`: ASCII's unit separator."""


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
        facts: by what the record tells it apart from others.
        log: what the learner wrote about it: question and words. answers: to the questions on how
            it was made, of its last state.
        sketch: strokes of the figure that sightings imply, 1 high, where there is no drawing yet.
    """

    summary: Summary | None
    why: str
    ratio: float | None
    reference: Shown | None
    drawing: Shown | None
    seconds: float
    facts: Facts = NO_FACTS
    log: tuple[tuple[str, str], ...] = ()
    answers: tuple[tuple[str, str], ...] = ()
    sketch: tuple[tuple[tuple[float, float], ...], ...] = ()


class KeptDigest(NamedTuple):
    """What was measured of a study, ready to be kept: its id, the version that was measured, the
    science that measured it, its digest, and its traits (`store.record.trait_documents`) or ""."""

    study: str
    stamp: int
    science: int
    document: str
    traits: str = ""


class ShelfRow(NamedTuple):
    """A study in the library as the shelf lists it; times are ISO 8601, UTC.

    Attributes:
        version: of the study; ``stamp`` and ``science`` are of the digest, None without one.
        binned: when it was put into the bin, or None.
        tags: joined by `TAG_SEPARATOR`.
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
        "facts": digest.facts,
        "log": digest.log,
        "answers": digest.answers,
    }
    if digest.sketch:
        body["sketch"] = digest.sketch
    if summary is not None:
        body["tracked"] = _miss_document(summary.tracked)
        body["miss"] = _miss_document(summary.miss)
        body["skills"] = summary.skills
        if summary.unit != "head":
            body["unit"] = summary.unit
    return json.dumps(body, separators=(",", ":"))


def _miss_document(miss: MissFigure | NotMeasurable) -> Any:
    return miss.reason if isinstance(miss, NotMeasurable) else miss


def read_digest(document: str) -> Digest | None:
    """The digest of a document, or None where it is none: it is measured again then."""
    try:
        body = json.loads(document)
        summary = None
        if "tracked" in body:
            skills = tuple(SkillFigure(*one) for one in body["skills"])
            summary = Summary(
                _miss(body["tracked"]), _miss(body["miss"]), skills, str(body.get("unit", "head"))
            )
            # One sum for all: it is no number, or not finite, where one of them is not.
            if not math.isfinite(sum(one.value + one.u + one.limit for one in skills)):
                return None
        ratio, seconds = body["ratio"], body["seconds"]
        if not math.isfinite((ratio or 0.0) + seconds):
            return None
        return Digest(
            summary,
            str(body["why"]),
            ratio,
            _shown(body["reference"]),
            _shown(body["drawing"]),
            seconds,
            _facts(body["facts"]),
            _words(body["log"]),
            _words(body["answers"]),
            _strokes(body.get("sketch", ())),
        )
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return None


def _words(kept: Any) -> tuple[tuple[str, str], ...]:
    return tuple((str(key), str(words)) for key, words in kept)


def _strokes(kept: Any) -> tuple[tuple[tuple[float, float], ...], ...]:
    strokes = tuple(tuple((float(x), float(y)) for x, y in stroke) for stroke in kept)
    if not all(math.isfinite(x + y) for stroke in strokes for x, y in stroke):
        raise ValueError("not finite")
    return strokes


def _facts(kept: Any) -> Facts:
    found = Facts(*kept)
    if not all(isinstance(one, str) for one in (*found[:4], found.again, found.cropped)):
        raise ValueError("no words")
    return found._replace(hard=int(found.hard))


def _miss(kept: Any) -> MissFigure | NotMeasurable:
    if isinstance(kept, str):
        return NotMeasurable(kept)
    found = MissFigure(*kept)
    if not math.isfinite(found.value + found.u + found.limit):
        raise ValueError("not finite")
    return found


def _shown(kept: Any) -> Shown | None:
    if kept is None:
        return None
    media, width, height, plumb, flat, frame = kept
    if not (width > 0 and height > 0):
        raise ValueError("no size")
    if not math.isfinite(sum(flat or ()) + sum(frame or ()) + plumb):
        raise ValueError("not finite")
    return Shown(
        media,
        width,
        height,
        plumb,
        None if flat is None else tuple(flat),
        None if frame is None else tuple(frame),
    )
