"""What of a sighted figure goes on the sheet: its told stations, counted in heads."""

from __future__ import annotations

from dataclasses import replace

from bralto.core.canons.figure import HEAD_PX
from bralto.core.page.page_extent import Extent, extent_in_heads
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.alone import sighted_marks
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.stand_in import implied_picture
from bralto.core.study.taken import Sightings
from bralto.core.views.model import View

__all__ = ["extent_of_sightings"]


def extent_of_sightings(view: View, sightings: Sightings) -> Extent | NotMeasurable:
    """The extent of what the sightings tell; a station that is only usual is none of it."""
    implied = imply(view, sightings.items)
    if isinstance(implied, NotMeasurable):
        return implied
    known, along = sighted_marks(view, implied), sighted_marks(view, implied, along_alone=True)
    wide = {view.plumb} | (along if view.lies else known)
    made_of = {point.key: point.marks for point in view.points}
    for edge in view.edges:
        if not along.intersection(made_of.get(edge, (edge,))):
            return NotMeasurable(
                f"the {view.point_label(edge)} is not told yet: sight how far it is from the "
                f"{view.point_label(view.head[0])}"
            )
    picture = implied_picture(implied)
    told = replace(picture, marks={k: m for k, m in picture.marks.items() if k in known | along})
    extent = extent_in_heads(view, told, HEAD_PX)
    if isinstance(extent, NotMeasurable):
        return extent
    stations = tuple(
        one if wide.issuperset(made_of.get(one.key, (one.key,))) else replace(one, across=None)
        for one in extent.stations
    )
    if view.lies:  # they stand along the upper edge
        stations = tuple(one for one in stations if one.across is not None)
    return replace(extent, stations=stations)
