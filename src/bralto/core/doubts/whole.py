"""Doubts about the whole picture: mirrored, turned, out of order, its sheet taken otherwise."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.exchanged import wrong_board
from bralto.core.doubts.scene import Scene
from bralto.core.page.page_plan import PAPERS
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_marks
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture
from bralto.core.tolerances import DEFAULT_SPREAD_PX

__all__ = ["same_picture", "whole_picture"]

_SAME = 4.0
"""Marks of one picture set twice lie within so many times their placing, by the middle one."""

_SUSPECT = 0.12
"""Heads: with a smaller typical miss the whole picture is not doubted."""

_UPSET = 0.4
"""Heads: with a smaller one it neither lies on its side nor is every mark its neighbour's."""

_SOUND, _FALLS = 0.25, 4.0
"""A change explains a picture that leaves a typical miss below so many heads, or one so many times
smaller (measurement, section 7a)."""

_AT_LEAST = 2.0
"""In any case the miss must become so many times smaller."""


def same_picture(scene: Scene) -> list[Doubt]:
    """Whether the drawing is the reference once more."""
    seen, drawn = scene.seen, scene.drawn
    if not seen.file or (seen.file, seen.width, seen.height) != (
        drawn.file, drawn.width, drawn.height
    ):  # fmt: skip
        return []
    places = [
        np.array([(one.marks[key].x, one.marks[key].y) for key in scene.keys])
        for one in (seen, drawn)
    ]
    apart = float(np.median(np.hypot(*(places[0] - places[1]).T)))
    spread = max(DEFAULT_SPREAD_PX, *(seen.marks[key].spread for key in scene.keys))
    if apart > _SAME * spread:
        return []
    words = "Reference and drawing are the same picture, marked twice."
    return [
        Doubt("same-picture", (), Board.DRAWING, "choose", words, "Choose the drawing's picture")
    ]


def whole_picture(scene: Scene) -> Doubt | None:
    """The change of the whole picture that explains it best, or None."""
    if scene.before < _SUSPECT * scene.size:
        return None
    found: tuple[float, Doubt] | None = None
    tried = [*_corners(scene), *_papers(scene), *_sides(scene)]
    if scene.before > _UPSET * scene.size:
        tried += [*_turns(scene), *_orders(scene)]
    for miss, doubt in tried:
        sound = miss < _SOUND * scene.size or miss < scene.before / _FALLS
        if not sound or miss > scene.before / _AT_LEAST:
            continue
        if found is None or miss < _CHEAPER * found[0]:
            found = (miss, doubt)
    return None if found is None else found[1]


_CHEAPER = 0.8
"""What is tried later must explain so much more than what is tried first."""


def _sides(scene: Scene) -> Iterable[tuple[float, Doubt]]:
    """Right and left exchanged everywhere; the mirror image, its sides named as they are or as they
    look."""
    flipped = scene.q * [-1.0, 1.0]
    mirror = "The drawing is the mirror image of the reference."
    button = "Mirror the picture"
    if not scene.pairs:
        yield (
            scene.miss(scene.p, flipped),
            Doubt("mirrored", (), Board.DRAWING, "mirror", mirror, button),
        )
        return
    rows = list(range(len(scene.keys)))
    for right, left in scene.pairs:
        rows[scene.row[right]], rows[scene.row[left]] = scene.row[left], scene.row[right]
    marks = tuple(key for pair in scene.pairs for key in pair)
    board = wrong_board(scene, scene.pairs)
    words = f"On the {board} right and left are exchanged at every mark."
    all_sides = Doubt("exchanged-sides", marks, board, "exchange", words, "Exchange them all")
    plain = Doubt("mirrored", (), Board.DRAWING, "mirror", mirror, button)
    looks = Doubt("mirrored", marks, Board.DRAWING, "mirror", mirror, button)
    tried = [
        (0.95 * scene.miss(scene.p, scene.q[rows]), all_sides),
        (scene.miss(scene.p, flipped), plain),
        (scene.miss(scene.p, flipped[rows]), looks),
    ]
    yield min(tried, key=lambda one: one[0])  # they differ by the middle line alone


def _turns(scene: Scene) -> Iterable[tuple[float, Doubt]]:
    for degrees, words in ((180.0, "stands on its head"), (90.0, "lies on its side"),
                           (-90.0, "lies on its side")):  # fmt: skip
        c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
        turned = scene.q @ np.array([[c, -s], [s, c]]).T
        miss = scene.miss(scene.p, turned)
        half = "half way round" if abs(degrees) == 180.0 else "by a quarter"
        said, button = f"The drawing {words} against the reference.", f"Turn the picture {half}"
        yield miss, Doubt("turned", (), Board.DRAWING, "turn", said, button, amount=degrees)


def _orders(scene: Scene) -> Iterable[tuple[float, Doubt]]:
    """From some mark on each stands where the next, or the one before, belongs: a mark was left out
    or set twice in the order of placing."""
    order = [key for key in scene.view.placing if key in scene.row]
    rows = np.array([scene.row[key] for key in order])
    n = len(rows)
    if n < _FEWEST:
        return
    for board, own, other in (
        (Board.DRAWING, scene.q, scene.p),
        (Board.REFERENCE, scene.p, scene.q),
    ):
        shifted, still = own[rows], other[rows]
        for by in (1, -1):
            best: tuple[float, int] | None = None
            for at in range(n - 3):
                # What was set as mark i belongs to mark i + by.
                kept = np.arange(n) < at
                into = np.arange(at, n)
                from_ = into - by
                ok = (from_ >= (at if by > 0 else 0)) & (from_ < n) & (from_ >= 0)
                into, from_ = into[ok], from_[ok]
                a = np.vstack([still[kept], still[into]])
                b = np.vstack([shifted[kept], shifted[from_]])
                miss = scene.miss(a, b) if board == Board.DRAWING else scene.miss(b, a)
                if best is None or miss < best[0]:
                    best = (miss, at)
            assert best is not None
            miss, at = best
            where = scene.view.point_label(order[at])
            what = "was left out" if by > 0 else "was set twice"
            words = (
                f"On the {board} every mark from {where} on stands where its neighbour in the "
                f"order of placing belongs: one {what}."
            )
            yield (
                miss * 1.05,
                Doubt("order-shifted", tuple(order[at:]), board, "reorder", words,
                      "Shift them back", amount=float(by)),
            )  # fmt: skip


_FEWEST = 8


def _boards(scene: Scene) -> tuple[tuple[Board, Picture], ...]:
    return ((Board.DRAWING, scene.drawn), (Board.REFERENCE, scene.seen))


def _with(scene: Scene, board: Board, picture: Picture) -> float | None:
    """Typical miss with another picture on a board, or None where it cannot be."""
    marks = sight_marks(picture, scene.keys)
    if isinstance(marks, NotMeasurable):
        return None
    return (
        scene.miss(scene.p, marks.xy) if board == Board.DRAWING else scene.miss(marks.xy, scene.q)
    )


def _corners(scene: Scene) -> Iterable[tuple[float, Doubt]]:
    for board, picture in _boards(scene):
        sheet = picture.sheet
        if sheet is None:
            continue
        for first in range(4):
            for way in (1, -1):
                if (first, way) == (0, 1):
                    continue
                order = tuple((first + way * i) % 4 for i in range(4))
                miss = _with(scene, board, replace(picture, sheet=sheet.with_corners_in(order)))
                if miss is None:
                    continue
                what = "run the other way round" if way < 0 else "begin at another corner"
                words = f"The corners of the {board}'s sheet {what}."
                numbers = (order[0], order[1], order[2], order[3])
                yield (
                    miss,
                    Doubt("sheet-corners", (), board, "corners", words, "Set the corners right",
                          corners=numbers),
                )  # fmt: skip


_PAPER_APART = 0.15
"""Papers whose proportions differ by less are not told apart by a drawing."""


def _papers(scene: Scene) -> Iterable[tuple[float, Doubt]]:
    for board, picture in _boards(scene):
        sheet = picture.sheet
        if sheet is None:
            continue
        have = sheet.size_mm[0] / sheet.size_mm[1]
        for name, (short, long) in PAPERS.items():
            for size, lies in (((short, long), "upright"), ((long, short), "across")):
                if abs(np.log(size[0] / size[1] / have)) < _PAPER_APART:
                    continue
                # Of the papers of one shape the one that is named is the one that was taken.
                if name not in {_own_name(sheet.size_mm), "Letter", "Tabloid"}:
                    continue
                miss = _with(scene, board, replace(picture, sheet=replace(sheet, size_mm=size)))
                if miss is None:
                    continue
                words = f"The {board}'s sheet looks like {name} {lies}."
                yield (
                    miss * 1.02,
                    Doubt("paper", (), board, "paper", words, f"Take it as {name} {lies}",
                          size_mm=size),
                )  # fmt: skip


def _own_name(size: tuple[float, float]) -> str:
    """The paper that is in force, or A4 where it is none that has a name."""
    own = (min(size), max(size))
    return next((name for name, known in PAPERS.items() if known == own), "A4")
