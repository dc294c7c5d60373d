"""What each pass shows; a new pass is a line in `core.session.passes` or a view, and one here."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.passes.action_rows import action_prompt, action_rows
from bralto.ui.bench.passes.light_rows import light_prompt, light_rows
from bralto.ui.bench.passes.likeness_rows import likeness_rows
from bralto.ui.bench.passes.pass_rows import fact_rows, gate_rows, line_rows, shape_rows
from bralto.ui.boards.overlays import overlay
from bralto.ui.boards.overlays.overlay import Overlay
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.widgets.row_list import Row

__all__ = ["PassPage", "page_of"]


class PassPage(NamedTuple):
    """One pass on the bench.

    Attributes:
        heading: over the middle; "" where the ladder stands there, which has its own.
        overlay: what is drawn over both pictures.
        rows: the figures or offers of its list, below the ladder or in its place; None for none.
        columns: what stands over the figures of the list.
        named: what a screen reader calls the list that stands in the ladder's place.
        unit: whether the heading says what is counted in.
        rails: whether the rails stand below the boards without the ladder too.
        along_itself: whether a head is shown upright on its centre line, not as it was taken.
        fan: whether the fan of tilts stands above the list.
        levels: whether the sliders of what counts as shadow stand above the list.
        room: whether it has the whole bench to itself.
        paper: whether the planned sheet lies in the drawing's place and its slip in the middle.
        prompt: what to do in a pass that asks for no marks, or how to find that out.
    """

    heading: str = ""
    overlay: Overlay = overlay.PLAIN
    rows: Callable[[OpenStudy], tuple[Row, ...]] | None = None
    columns: tuple[str, ...] = ()
    named: str = ""
    unit: bool = False
    rails: bool = False
    along_itself: bool = False
    fan: bool = False
    levels: bool = False
    room: bool = False
    paper: bool = False
    prompt: Prompt | Callable[[OpenStudy], Prompt] | None = None

    @property
    def ladder(self) -> bool:
        """Whether the ladder stands between the boards."""
        return not self.named and not self.paper and not self.room


_SEEN_DRAWN = ("drawn", "seen")

_PAGES: dict[str, PassPage] = {
    PassKey.SIGHT: PassPage("Sight", room=True),
    PassKey.SHEET: PassPage(
        "The sheet", overlay.SHEET, paper=True,
        prompt=Prompt(
            "Place the figure before a line is drawn:",
            "copy the stations on the paper's edge",
            (("Ctrl+→", "next pass"), ("↑ ↓", "size")),
        ),
    ),
    PassKey.EDGES: PassPage("", overlay.EDGES, fact_rows, _SEEN_DRAWN),
    PassKey.PLUMB: PassPage(
        "Plumb and weight", overlay.PLUMB, line_rows, named="Plumb lines", rails=True
    ),
    PassKey.HEIGHTS: PassPage("", overlay.HEIGHTS, fact_rows, _SEEN_DRAWN, along_itself=True),
    PassKey.WIDTHS: PassPage(
        "Widths", overlay.WIDTHS, fact_rows, _SEEN_DRAWN, "Widths",
        unit=True, rails=True, along_itself=True,
    ),
    PassKey.TILTS: PassPage(
        "Tilts", overlay.TILTS, fact_rows, _SEEN_DRAWN, "Axes and angles", fan=True
    ),
    PassKey.FAR_SIDE: PassPage(
        "Far side", overlay.TILTS, fact_rows, _SEEN_DRAWN, "The other leg and arm"
    ),
    PassKey.LIKENESS: PassPage(
        "Likeness", overlay.LEVELS, likeness_rows, named="Marks of likeness"
    ),
    PassKey.ACTION: PassPage(
        "Action", overlay.ACTION, action_rows, named="Action", prompt=action_prompt,
    ),
    PassKey.LIGHT: PassPage(
        "Light", overlay.TONES, light_rows, named="Light and shadow", levels=True,
        prompt=light_prompt,
    ),
    PassKey.SHAPES: PassPage(
        "Shapes", overlay.SHAPES, shape_rows, named="Shapes",
        prompt=Prompt(
            "Draw one shape on both pictures:",
            "gaps first; straight lines, no detail",
            (("D", "a new shape"), ("Drag", "a corner"), ("Ctrl+→", "next pass")),
        ),
    ),
    PassKey.VERDICT: PassPage(
        "Before shading", overlay.PLAIN, gate_rows, named="Before shading",
        prompt=Prompt(
            "Put the greatest right first, then look again:",
            "step back, squint, mirror",
            (("1 to 9", "hold one"), ("M", "mirror"), ("U", "upside down")),
        ),
    ),
}  # fmt: skip

_OF_A_VIEW = PassPage()
"""Of a pass that only a learner's own view has: the ladder, and plumb on the boards."""


def page_of(key: str) -> PassPage:
    """The page of a pass by its key."""
    return _PAGES.get(key, _OF_A_VIEW)
