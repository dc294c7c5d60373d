"""The sheet before a line is drawn: how large the figure may be, and where each station comes.

Everything is in mm on the paper, x right from the left edge, y down from the top edge, for a figure
that is placed in the middle of what the margins leave (measurement, section 10).
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from bralto.core.errors import UserError
from bralto.core.page.page_extent import LARGEST_MM, PRINT, Extent, Station, scaled
from bralto.core.views.model import HEAD
from bralto.core.words.lengths import INCH, length

__all__ = [
    "PAPERS",
    "SheetPlan",
    "divider_words",
    "paper_size",
    "plan_sheet",
]


def _inches(wide: float, high: float) -> tuple[float, float]:
    return round(wide * INCH, 2), round(high * INCH, 2)


PAPERS: dict[str, tuple[float, float]] = {
    "A3": (297.0, 420.0),  # ISO 216, mm
    "A4": (210.0, 297.0),
    "A2": (420.0, 594.0),
    "A5": (148.0, 210.0),
    "Letter": _inches(8.5, 11),  # ANSI/ASME Y14.1 A
    "Tabloid": _inches(11, 17),  # ANSI/ASME Y14.1 B
    # Pads as they are sold (common practice, no source).
    "9 x 12 in": _inches(9, 12),
    "11 x 14 in": _inches(11, 14),
    "14 x 17 in": _inches(14, 17),
    "18 x 24 in": _inches(18, 24),
    "24 x 32 cm": (240.0, 320.0),
    "30 x 40 cm": (300.0, 400.0),
    "50 x 65 cm": (500.0, 650.0),
    "50 x 70 cm": (500.0, 700.0),
    "70 x 100 cm": (700.0, 1000.0),
    "A1": (594.0, 841.0),  # ISO 216
    "B4": (250.0, 353.0),
    "B3": (353.0, 500.0),
}
"""Width and height upright, mm; the most usual for drawing figures first (common practice, no
source)."""

_UNITS_MM = {"": 1.0, "mm": 1.0, "cm": 10.0, "in": INCH}


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """A figure placed on a sheet; mm.

    Attributes:
        width, height: of the paper as it lies.
        scale: mm on the sheet a unit of the extent: the setting of the proportional dividers.
        unit: that unit.
        top, left: where the figure's extent begins; ``tall`` and ``wide`` are its size, and
            ``above`` what of it lies above the highest mark.
        plumb: the plumb line's distance from the left edge.
        head: length of the head on the sheet, or None.
        largest_head: the head of the largest figure that fits, or None.
        sized_by, sized_heads: what the drawing is planned by, and how many heads (units of the
            view) that is.
        fits: whether the figure keeps the margins.
        leaving: labels of the stations that would leave the paper itself.
        stations: with ``down`` from the top edge and ``across`` from the plumb line; from the top
            down, or of a figure that lies from left to right.
        lies: whether it does; its stations stand along the upper edge then.
    """

    width: float
    height: float
    scale: float
    unit: str
    top: float
    left: float
    tall: float
    wide: float
    plumb: float
    head: float | None
    largest_head: float | None
    fits: bool
    leaving: tuple[str, ...]
    stations: tuple[Station, ...]
    lies: bool = False
    above: float = 0.0
    sized_by: str = HEAD
    sized_heads: float = 1.0

    @property
    def size(self) -> float | None:
        """Length on the sheet of what the drawing is planned by, mm, or None."""
        return scaled(self.head, self.sized_heads)

    @property
    def largest(self) -> float | None:
        """That of the largest figure that fits, mm, or None."""
        return scaled(self.largest_head, self.sized_heads)

    def along(self, one: Station) -> float:
        """mm of a station from the edge that it is copied to: the upper end of the left one, or of
        a figure that lies the left end of the upper one."""
        return self.plumb + one.across if self.lies and one.across is not None else one.down


def _bare(name: str) -> str:
    """A paper's name as it may be typed, without blanks."""
    return "".join(name.lower().replace("×", "x").split())


def paper_size(name: str) -> tuple[float, float]:
    """Width and height upright in mm of a named paper, or of one's own as ``300x400``.

    Raises:
        UserError: it is neither.
    """
    bare = _bare(name)
    for known, size in PAPERS.items():
        if _bare(known) == bare:
            return size
    own = re.fullmatch(r"(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)(mm|cm|in|)", bare)
    if own is None:
        raise UserError(
            f"unknown paper '{name}'; use one of {', '.join(PAPERS)}, or its size as 300x400 (mm), "
            "30x40cm or 12x16in"
        )
    mm = _UNITS_MM[own[3]]
    size = (float(own[1]) * mm, float(own[2]) * mm)
    if not all(10.0 <= side <= LARGEST_MM for side in size):
        raise UserError(f"a paper of {name} mm is none; each side has 10 to {LARGEST_MM:.0f} mm")
    return min(size), max(size)


def plan_sheet(
    extent: Extent,
    paper: tuple[float, float],
    margin: float,
    *,
    head_mm: float | None = None,
    landscape: bool | None = None,
) -> SheetPlan:
    """Place a figure on a sheet.

    Args:
        paper: width and height upright, mm.
        margin: mm on all four sides.
        head_mm: a head wanted, instead of the largest figure that fits.
        landscape: which way the paper lies; None takes the way that lets the figure be larger.

    Raises:
        UserError: the margins leave nothing, or a head is wanted of an extent without one.
    """
    upright = (min(paper), max(paper))
    if not 0.0 <= margin < 0.5 * upright[0]:
        raise UserError(f"margins of {margin:g} mm leave nothing of {upright[0]:g} mm of paper")
    ways = {False: upright, True: upright[::-1]}
    rooms = {way: _largest(extent, size, margin) for way, size in ways.items()}
    if landscape is None:
        landscape = rooms[True] > rooms[False]
    width, height = ways[landscape]
    most = rooms[landscape]
    scale = most
    if head_mm is not None:
        if extent.head is None:
            ends = "crown and chin" if extent.sized_by == HEAD else "its ends"
            raise UserError(f"a {extent.sized_by} is wanted, but {ends} are not both marked")
        if not 0.0 < head_mm <= LARGEST_MM:
            wanted = extent.sized_heads * head_mm
            raise UserError(f"a {extent.sized_by} of {wanted:g} mm is none; give mm above 0")
        scale = head_mm / extent.head
    tall, wide = scale * extent.height, scale * (extent.left + extent.right)
    top, left = 0.5 * (height - tall), 0.5 * (width - wide)
    plumb = left + scale * extent.left
    stations = tuple(
        Station(one.key, one.label, top + scale * one.down, scaled(one.across, scale))
        for one in extent.stations
    )
    plan = SheetPlan(
        width=width,
        height=height,
        scale=scale,
        unit=extent.unit,
        top=top,
        left=left,
        tall=tall,
        wide=wide,
        plumb=plumb,
        head=None if extent.head is None else scale * extent.head,
        largest_head=None if extent.head is None else most * extent.head,
        fits=scale <= most * (1.0 + 1e-9),
        leaving=tuple(
            one.label
            for one in stations
            if not (0.0 <= one.down <= height and 0.0 <= plumb + (one.across or 0.0) <= width)
        ),
        stations=stations,
        lies=extent.lies,
        above=scale * extent.above,
        sized_by=extent.sized_by,
        sized_heads=extent.sized_heads,
    )
    return replace(plan, stations=tuple(sorted(stations, key=plan.along)))


def divider_words(plan: SheetPlan) -> str:
    """How the proportional dividers are set, in what a learner can hold against the sheet; nobody
    can hold a picture's px, so there it is what the drawing is planned by."""
    sized = plan.size
    if plan.unit != "px":
        if plan.unit in {"mm", PRINT}:  # a ratio, whatever lengths are said in
            unit = "mm of the reference's sheet" if plan.unit == "mm" else plan.unit
            return f"{plan.scale:.3g} mm a {unit}"
        return f"{length(plan.scale, 1)} a {plan.unit}"
    if sized is None:
        return "not known before the picture's size beside you is said"
    return f"{length(sized, 1)} {'a' if plan.sized_heads == 1.0 else 'for the'} {plan.sized_by}"


def _largest(extent: Extent, size: tuple[float, float], margin: float) -> float:
    """mm a unit of the largest figure within the margins."""
    wide = extent.left + extent.right
    by_height = (size[1] - 2.0 * margin) / extent.height
    return min(by_height, (size[0] - 2.0 * margin) / wide) if wide > 0.0 else by_height
