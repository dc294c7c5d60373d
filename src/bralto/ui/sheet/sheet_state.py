"""Where a sheet is thought to be in a photo, while the learner looks at it. No widgets."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.page.known_length import sheet_from_corner, sheet_from_length
from bralto.core.page.page_plan import PAPERS
from bralto.core.page.photo import PaperGuess, guess_paper, read_sheet_photo, wide_of
from bralto.core.results import NotMeasurable
from bralto.core.study.curled import FLAT, of_other_corners
from bralto.core.study.values import Picture, Sheet
from bralto.core.tolerances import Grade
from bralto.core.words.lengths import length
from bralto.core.words.phrases import sentence
from bralto.imaging.outcome import FoundSheet

__all__ = ["WAYS", "SheetState"]

WAYS: dict[str, tuple[str, tuple[str, ...]]] = {
    "corners": (
        "four corners of the paper",
        ("top-left corner", "top-right corner", "bottom-right corner", "bottom-left corner"),
    ),
    "corner": (
        "one corner and a known length",
        ("corner", "end of the known length along one edge", "any place on the other edge"),
    ),
    "length": ("a known length alone", ("one end of the known length", "its other end")),
    "none": ("not at all: count in pixels", ()),
}
"""How a sheet can be known: words for it, and the points that it wants."""

Point = tuple[float, float]

_SIDES = ("upper", "right", "lower", "left")

_NAMED = 4  # of the papers that fit alike, how many are named

_HEADS_A_SHEET = 9.0
"""Heads in a sheet's longer side before anything is marked: a figure with some room above and below
(common practice, no source)."""

_FAR = 0.008
"""Share of the picture's longer side by which edges may move a corner that was shown by hand."""


def _bowed(found: FoundSheet) -> str:
    """Which edge leaves its chord, and what to do about it."""
    side = int(found.bows.argmax())
    rest = float(np.delete(found.bows, side).max())
    if found.bow > 2.0 * rest:
        return (
            f"The {_SIDES[side]} edge curls by {found.bow:.0f} px: straightened by that; pressed "
            "flat it is surer."
        )
    return f"The edges bow by {found.bow:.0f} px, lens or curling paper: straightened by that."


class SheetState(QObject):
    """Points on a photo and the paper that they stand for."""

    changed = pyqtSignal()

    def __init__(
        self,
        picture: Picture,
        grade: Grade,
        usual: tuple[tuple[float, float], ...] = (),
        head_mm: float | None = None,
        parent: QObject | None = None,
    ) -> None:
        """``usual`` are the papers that the learner used last, mm, the last one first; ``head_mm``
        is a head on the sheet, where it is known."""
        super().__init__(parent)
        self.picture, self._grade, self._usual = picture, grade, usual
        self._head_mm = head_mm
        self.way = "corners"
        self.points: tuple[Point, ...] = ()
        self.size_mm: tuple[float, float] | None = None
        self.known_mm = 100.0
        self.spread = 0.0
        self.bow = 0.0
        self.bends = FLAT
        self.status = "Looking for the sheet …"
        if picture.sheet is not None:
            self.points, self.size_mm = picture.sheet.corners, picture.sheet.size_mm
            self.spread, self.bends = picture.sheet.spread, picture.sheet.bends
            self.status = "As it was kept."

    # What the finder says

    def take(self, found: FoundSheet | NotMeasurable) -> None:
        """The finder's answer; what the learner has shown meanwhile stays."""
        if isinstance(found, NotMeasurable):
            if not self.points:
                self.status = sentence(found.reason)
            self.changed.emit()
            return
        self.way = "corners"
        self.points = tuple((float(x), float(y)) for x, y in found.corners)
        self._follow(found)
        least = float(found.seen.min())
        self.status = f"Found: the corners are where the edges meet, ± {2 * found.spread:.1f} px."
        if least < 0.75:
            self.status = f"Found, but one edge shows only {100 * least:.0f} %: look at it."
        if self.bends:
            self.status += f" {_bowed(found)}"
        self._choose_size()
        self.changed.emit()

    def _follow(self, found: FoundSheet) -> None:
        """Take over how the paper's edges run."""
        self.bow = found.bow
        self.bends, self.spread = found.plane()

    def _choose_size(self) -> None:
        """The paper used last where it fits, else the most usual that does."""
        if self.size_mm is not None and self._fits(self.size_mm):
            return
        guess = self.guess()
        fitting = [size for _, size in guess.papers] if guess else []
        fitting.sort(key=self._used)
        self.size_mm = fitting[0] if fitting else None

    def _used(self, size_mm: tuple[float, float]) -> int:
        """How long ago a paper was used last, beside others."""
        known = [set(size) for size in self._usual]
        return known.index(set(size_mm)) if set(size_mm) in known else len(known)

    def draw_to_edges(self, shown: tuple[Point, ...], found: FoundSheet | NotMeasurable) -> None:
        """Corners shown by hand, followed to the paper's edges; if they were moved meanwhile, or
        the edges lead elsewhere, they stay as they were shown."""
        if self.points != shown or isinstance(found, NotMeasurable):
            return
        moved = np.hypot(*(found.corners - np.array(shown)).T)
        if moved.max() > _FAR * max(self.picture.width, self.picture.height):
            return
        self.points = tuple((float(x), float(y)) for x, y in found.corners)
        self._follow(found)
        self.status = f"Set by hand and drawn to the edges, by {moved.max():.1f} px at most."
        self.changed.emit()

    def _forget_edges(self) -> None:
        self.spread = self.bow = 0.0
        self.bends = FLAT

    # What the learner does

    def use(self, way: str) -> None:
        """Know the sheet in another way; its points are asked for anew."""
        if way != self.way:
            self.way, self.points = way, ()
            self._forget_edges()
            self._say_next()

    def start_again(self) -> None:
        """Show all points by hand."""
        self.points = ()
        self._forget_edges()
        self._say_next()

    def add(self, x: float, y: float, spread: float) -> None:
        """The next point that is asked for."""
        if len(self.points) < len(WAYS[self.way][1]):
            self.points = (*self.points, self._inside(x, y))
            self.spread = max(self.spread, spread)
            if self.way == "corners" and len(self.points) == 4:
                self._choose_size()
            self._say_next()

    def move(self, index: int, x: float, y: float, spread: float) -> None:
        """Put a point elsewhere."""
        points = list(self.points)
        points[index] = self._inside(x, y)
        self.points = tuple(points)
        self.spread, self.bends = max(self.bow / 2.0, spread), FLAT
        self.status = "Set by hand."
        self.changed.emit()

    def turn(self) -> None:
        """Another corner is the top-left one: the paper lies a quarter turn round."""
        if self.way == "corners" and len(self.points) == 4:
            self.points = (*self.points[1:], self.points[0])
            self.bends = of_other_corners(self.bends, (1, 2, 3, 0))
            if self.size_mm is not None:
                self.size_mm = self.size_mm[::-1]
            self.changed.emit()

    def set_size(self, size_mm: tuple[float, float]) -> None:
        """The paper's width and height as it lies."""
        self.size_mm = size_mm
        self.changed.emit()

    def set_known(self, mm: float) -> None:
        """What the known length is."""
        self.known_mm = mm
        self.changed.emit()

    def _inside(self, x: float, y: float) -> Point:
        # A corner may lie a little outside the photo: its edges tell where.
        wide, high = self.picture.width, self.picture.height
        margin = 0.25 * max(wide, high)
        return min(max(x, -margin), wide + margin), min(max(y, -margin), high + margin)

    def _say_next(self) -> None:
        wanted = WAYS[self.way][1]
        if len(self.points) < len(wanted):
            self.status = f"Click the {wanted[len(self.points)]}."
        else:
            self.status = "Set by hand." if wanted else "Figures in heads, none in mm."
        self.changed.emit()

    # What it comes to

    @property
    def asked(self) -> str | None:
        """The point that the next click sets, or None."""
        wanted = WAYS[self.way][1]
        return wanted[len(self.points)] if len(self.points) < len(wanted) else None

    def guess(self) -> PaperGuess | None:
        """Which papers the four corners can be."""
        if self.way != "corners" or len(self.points) != 4:
            return None
        size = (self.picture.width, self.picture.height)
        corners = np.array(self.points)
        return guess_paper(corners, max(self.spread, 0.5), size, wide_of(self.picture))

    def _fits(self, size_mm: tuple[float, float]) -> bool:
        guess = self.guess()
        if guess is None:
            return True
        return abs(size_mm[0] / size_mm[1] - guess.ratio) <= max(3.0 * guess.u, 0.03 * guess.ratio)

    def sheet(self) -> Sheet | NotMeasurable | None:
        """The sheet as it stands; None where it is known not to be; or what is still lacking."""
        if self.way == "none":
            return None
        if self.asked is not None:
            return NotMeasurable(f"the {self.asked} is still to be shown")
        if self.way == "length":
            one, two = self.points
            size = (self.picture.width, self.picture.height)
            return sheet_from_length(one, two, self.known_mm, size)
        if self.way == "corner":
            corner, along, other = self.points
            found = sheet_from_corner(corner, along, other, self.known_mm)
            if isinstance(found, NotMeasurable):
                return found
            return replace(found, spread=math.hypot(found.spread, self.spread))
        if self.size_mm is None:
            return NotMeasurable("say which paper it is")
        a, b, c, d = self.points
        return Sheet((a, b, c, d), self.size_mm, self.spread, bends=self.bends)

    def notes(self) -> tuple[str, ...]:
        """What to know of this photo: what the paper is, and what makes it less exact."""
        out = []
        guess = self.guess()
        if guess is not None:
            out.append(f"Its sides are {guess.ratio:.3f} ± {2 * guess.u:.3f} : 1.")
            names = [name for name, _ in guess.papers]
            if not names:
                near = " or ".join(
                    f"{name}, if each corner is {off:.0f} px off" for name, off in guess.nearest
                )
                out.append(f"No paper has these sides; nearest {near}. Else give its size.")
            elif len(names) > 1:
                few = ", ".join(names[:_NAMED])
                more = f" and {len(names) - _NAMED} more" if len(names) > _NAMED else ""
                out.append(f"{few}{more} fit alike: a picture cannot tell their size.")
            if self.size_mm is not None and not self._fits(self.size_mm):
                out.append("The paper chosen does not fit these sides.")
        sheet = self.sheet()
        if isinstance(sheet, Sheet):
            head_mm = self._head_mm or max(sheet.size_mm) / _HEADS_A_SHEET
            reading = read_sheet_photo(sheet, self._grade, head_mm)
            if isinstance(reading, NotMeasurable):
                out.append(sentence(reading.reason))
            else:
                out.append(
                    f"{reading.px_per_mm:.1f} px a mm at least; the sheet is known to "
                    f"± {length(2 * reading.spread_mm, 1)}."
                )
                out += [sentence(note) for note in reading.notes]
        return tuple(out)

    def papers(self) -> tuple[tuple[str, tuple[float, float]], ...]:
        """Every paper, those used last first; upright, then across."""
        upright = sorted(PAPERS.items(), key=lambda one: self._used(one[1]))
        return tuple(upright + [(f"{name}, across", (b, a)) for name, (a, b) in upright])
