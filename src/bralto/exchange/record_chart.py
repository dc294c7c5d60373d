"""The record's charts as a picture: SVG, or PNG where no vector picture is wanted.

Both are made of the same few strokes, so that they show the same; one panel a skill on one time
axis, a dot a study with its interval, the line of the trend with its band.
"""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import NamedTuple
from xml.sax.saxutils import escape

from bralto.core.errors import UserError
from bralto.core.longitudinal.course import SKILL_TITLES, Course, trend_words, units_said
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import day_words
from bralto.disk.given import write_given

__all__ = ["record_png", "record_svg", "write_chart"]

_WIDTH, _PANEL, _LEFT, _RIGHT, _TOP = 900.0, 120.0, 210.0, 20.0, 40.0
_AIR = 14.0
_INK, _NOTE, _HAIR, _BAND, _PAPER = "#292724", "#575047", "#7F7566", "#D9D2C2", "#FCFAF4"


class _Stroke(NamedTuple):
    """One mark on the paper, px from the top left corner.

    Attributes:
        kind: ``line``, ``area``, ``dot`` or ``text``. points: of a line or an area; one place else.
        size: width of a line, radius of a dot, height of letters.
    """

    kind: str
    points: tuple[tuple[float, float], ...]
    colour: str
    size: float = 1.0
    words: str = ""
    right: bool = False


def write_chart(path: Path, courses: Mapping[str, Course], title: str) -> None:
    """Write the charts where the name ends in ``.svg`` or ``.png``.

    Raises:
        UserError: it ends otherwise, or cannot be written.
    """
    if path.suffix.lower() not in {".svg", ".png"}:
        raise UserError(f"{path}: a chart is written as .svg or .png")
    svg = path.suffix.lower() == ".svg"
    made = record_svg(courses, title).encode() if svg else record_png(courses, title)
    write_given(path, made)


def _strokes(courses: Mapping[str, Course], title: str) -> tuple[list[_Stroke], float]:
    shown = [one for one in courses.values() if len(one)]
    out = [_Stroke("text", ((_RIGHT, 26.0),), _INK, 18.0, title)]
    days = [when for one in shown for when in one.when]
    if not days:
        out.append(_Stroke("text", ((_RIGHT, 60.0),), _NOTE, 14.0, "nothing measured yet"))
        return out, 90.0
    first, last = min(days), max(days)
    whole = max(1.0, (last - first).total_seconds())
    for number, course in enumerate(shown):
        out += _panel(course, _TOP + number * _PANEL, first.timestamp(), whole)
    floor = _TOP + len(shown) * _PANEL + 6.0
    for when, right in ((first, False), (last, True)):
        x = _WIDTH - _RIGHT if right else _LEFT
        day = day_words(when)
        out.append(_Stroke("text", ((x, floor + 8.0),), _NOTE, 13.0, day, right=right))
    return out, floor + 24.0


def _panel(course: Course, top: float, start: float, whole: float) -> list[_Stroke]:
    floor, high = top + _PANEL - _AIR, _PANEL - 2.0 * _AIR
    most = 1.1 * max(course.values) or 1.0

    def at(when: float, value: float) -> tuple[float, float]:
        share = (when - start) / whole
        x = _LEFT + 8.0 + share * (_WIDTH - _LEFT - _RIGHT - 16.0)
        return round(x, 2), round(floor - high * min(value / most, 1.04), 2)

    times = [when.timestamp() for when in course.when]
    assert course.now is not None
    digits = 1 if course.unit == "degree" else 3
    now = f"{course.now:.{digits}f} {units_said(course.unit)}"
    out = [
        _Stroke("line", ((_LEFT, floor), (_WIDTH - _RIGHT, floor)), _HAIR),
        _Stroke("text", ((_RIGHT, top + 28.0),), _INK, 16.0, SKILL_TITLES[course.skill]),
        _Stroke("text", ((_RIGHT, top + 48.0),), _INK, 14.0, now),
        *(
            _Stroke("text", ((_RIGHT, top + 66.0 + 14.0 * row),), _NOTE, 11.0, words)
            for row, words in enumerate(trend_words(course)[0].split("; "))
        ),
        _Stroke("text", ((_LEFT - 6.0, floor),), _NOTE, 11.0, "0", right=True),
        _Stroke("text", ((_LEFT - 6.0, floor - high + 4.0),), _NOTE, 11.0, f"{most:.2g}",
                right=True),
    ]  # fmt: skip
    line = course.line()
    there = times[len(times) - len(line) :]
    if line:
        above = [at(when, one[2]) for when, one in zip(there, line, strict=True)]
        below = [at(when, one[1]) for when, one in zip(there, line, strict=True)]
        out.append(_Stroke("area", (*above, *reversed(below)), _BAND))
    for when, value, u in zip(times, course.values, course.u, strict=True):
        ends = (at(when, max(0.0, value - COVERAGE * u)), at(when, value + COVERAGE * u))
        out.append(_Stroke("line", ends, _HAIR))
    if line:
        course_of = tuple(at(when, one[0]) for when, one in zip(there, line, strict=True))
        out.append(_Stroke("line", course_of, _INK, 2.0))
    out += [
        _Stroke("dot", (at(when, value),), _INK, 3.0)
        for when, value in zip(times, course.values, strict=True)
    ]
    return out


def record_svg(courses: Mapping[str, Course], title: str) -> str:
    """SVG 1.1, self-contained."""
    strokes, height = _strokes(courses, title)
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="{_WIDTH:g}" '
        f'height="{height:g}" viewBox="0 0 {_WIDTH:g} {height:g}">',
        f"<title>{escape(title)}</title>",
        f'<rect width="{_WIDTH:g}" height="{height:g}" fill="{_PAPER}"/>',
    ]
    for one in strokes:
        (x, y), points = one.points[0], " ".join(f"{a:g},{b:g}" for a, b in one.points)
        if one.kind == "line":
            lines.append(
                f'<polyline points="{points}" fill="none" stroke="{one.colour}" '
                f'stroke-width="{one.size:g}"/>'
            )
        elif one.kind == "area":
            lines.append(f'<polygon points="{points}" fill="{one.colour}"/>')
        elif one.kind == "dot":
            lines.append(f'<circle cx="{x:g}" cy="{y:g}" r="{one.size:g}" fill="{one.colour}"/>')
        else:
            anchor = ' text-anchor="end"' if one.right else ""
            lines.append(
                f'<text x="{x:g}" y="{y:g}" font-family="sans-serif" font-size="{one.size:g}" '
                f'fill="{one.colour}"{anchor}>{escape(one.words)}</text>'
            )
    return "\n".join([*lines, "</svg>", ""])


def record_png(courses: Mapping[str, Course], title: str, scale: int = 2) -> bytes:
    """The same as PNG, twice as fine."""
    # Pillow takes a tenth of a second to load.
    from PIL import Image, ImageDraw, ImageFont

    from bralto.imaging.png import png_of

    strokes, height = _strokes(courses, title)
    image = Image.new("RGB", (round(scale * _WIDTH), round(scale * height)), _PAPER)
    draw = ImageDraw.Draw(image)
    for one in strokes:
        points = [(scale * x, scale * y) for x, y in one.points]
        (x, y), size = points[0], scale * one.size
        if one.kind == "line":
            draw.line(points, fill=one.colour, width=max(1, round(size)), joint="curve")
        elif one.kind == "area":
            draw.polygon(points, fill=one.colour)
        elif one.kind == "dot":
            draw.ellipse((x - size, y - size, x + size, y + size), fill=one.colour)
        else:
            face = ImageFont.load_default(size)
            draw.text((x, y), one.words, one.colour, face, anchor="rs" if one.right else "ls")
    return png_of(image)
