"""What settles a doubt, done to the study: exchanged, turned, put back in order."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bralto.core.doubts.doubt import Doubt, Remedy
from bralto.core.study.snapped import mirrored
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Point, Study
from bralto.core.views.model import View

__all__ = ["REMEDIED", "remedied", "remedied_picture"]

REMEDIED: frozenset[Remedy] = frozenset(
    {"exchange", "mirror", "turn", "reorder", "corners", "paper"}
)
"""Remedies that can be done to the marks or what is said of the picture."""


def remedied(view: View, study: Study, state: str, doubt: Doubt) -> Study:
    """The study with a doubt's remedy taken; as it was where that takes a look at the picture."""
    if doubt.board == Board.REFERENCE:
        if study.reference is None:
            return study
        return replace(study, reference=remedied_picture(view, study.reference, doubt))
    drawn = study.state(state)
    if drawn is None:
        return study
    return study.with_state(replace(drawn, picture=remedied_picture(view, drawn.picture, doubt)))


def remedied_picture(view: View, picture: Picture, doubt: Doubt) -> Picture:
    """One picture with a doubt's remedy taken."""
    if doubt.remedy == "exchange":
        return replace(picture, marks=_exchanged(picture.marks, doubt.marks))
    if doubt.remedy == "mirror":
        flipped = {k: mirrored(m, picture.width) for k, m in picture.marks.items()}
        if doubt.marks:
            flipped = _exchanged(flipped, doubt.marks)
        corners = picture.sheet
        if corners is not None:
            a, b, c, d = ((picture.width - x, y) for x, y in corners.corners)
            corners = replace(corners, corners=(a, b, c, d)).with_corners_in((1, 0, 3, 2))
        crop = picture.crop
        if crop is not None:
            left, top, wide, high = crop
            crop = (picture.width - left - wide, top, wide, high)
        shapes, curves = (
            {name: _flipped(picture, line) for name, line in lines.items()}
            for lines in (picture.polygons, picture.curves)
        )
        shadows = tuple(_flipped(picture, ring) for ring in picture.shadows)
        return replace(
            picture, marks=flipped, sheet=corners, plumb_deg=-picture.plumb_deg, crop=crop,
            polygons=shapes, curves=curves, shadows=shadows,
        )  # fmt: skip
    if doubt.remedy == "turn":
        degrees = (picture.plumb_deg + doubt.amount + 180.0) % 360.0 - 180.0
        return replace(picture, plumb_deg=degrees)
    if doubt.remedy == "reorder":
        return replace(picture, marks=_reordered(view, picture, doubt))
    if doubt.remedy == "corners" and picture.sheet is not None:
        return replace(picture, sheet=picture.sheet.with_corners_in(doubt.corners))
    if doubt.remedy == "paper" and picture.sheet is not None and doubt.size_mm is not None:
        return replace(picture, sheet=replace(picture.sheet, size_mm=doubt.size_mm))
    return picture


def _flipped(picture: Picture, line: tuple[Point, ...]) -> tuple[Point, ...]:
    return tuple((picture.width - x, y) for x, y in line)


def _exchanged(marks: Mapping[str, Mark], keys: tuple[str, ...]) -> dict[str, Mark]:
    """Marks of both sides in each other's places."""
    other = {key: f"{key[:-1]}{'l' if key.endswith('r') else 'r'}" for key in keys}
    return {key: marks.get(other.get(key, key), mark) for key, mark in marks.items()}


def _reordered(view: View, picture: Picture, doubt: Doubt) -> dict[str, Mark]:
    """Each mark of the doubt from its neighbour; the one that has none is taken away."""
    keys, by = doubt.marks, int(doubt.amount)
    out = {key: mark for key, mark in picture.marks.items() if key not in keys}
    for at, key in enumerate(keys):
        if 0 <= at - by < len(keys):
            out[key] = picture.marks[keys[at - by]]
    order = {key: i for i, key in enumerate(view.placing)}
    return dict(sorted(out.items(), key=lambda item: order.get(item[0], len(order))))
