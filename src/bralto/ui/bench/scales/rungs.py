"""The rungs of the ladder: the view's stations as both pictures have them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bralto.core.measures.readings import Reading
from bralto.core.study.two_boards import Board
from bralto.core.views.model import View
from bralto.ui.document.open_study import OpenStudy

__all__ = [
    "Station",
    "face_bands",
    "heads_tall",
    "points_up",
    "stations",
]


_HALVES = (0.0, 0.5, 0.75, 0.875, 1.0)
"""Crown, eyes, nose, mouth, chin of a face in halves."""


@dataclass(frozen=True, slots=True)
class Station:
    """One rung: a point's height on both pictures, in heads from the crown, and its reading."""

    key: str
    label: str
    reference: float | None
    drawing: float | None
    reading: Reading


def stations(study: OpenStudy) -> tuple[Station, ...]:
    """The view's stations; derived points take their figures from the marks they are made of."""
    rungs = []
    for key in study.view.stations:
        reading = study.assessment.reading(f"height.{key}")
        if reading is not None:
            label = study.view.point_label(key)
            rungs.append(Station(key, label, reading.reference, reading.drawing, reading))
    return tuple(rungs)


def points_up(view: View, rungs: Sequence[Station]) -> bool:
    """Whether what is seen points up from where its heights are counted, as a hand may: they are
    told as heights above it then."""
    other = next((one.reference for one in rungs if one.key == view.head[1]), None)
    return other is not None and other < 0.0


def heads_tall(study: OpenStudy, board: Board) -> str:
    """'7.4 heads tall' for a board's title, in each picture's own heads; of a figure that lies, how
    long it is."""
    whole = study.assessment.reading("span.figure")
    head = study.assessment.reading("span.head")
    if whole is None or head is None:
        return ""
    if board == Board.REFERENCE:
        how = "long" if study.lies else "tall"
        return f"{whole.reference:.1f} heads {how}" if whole.reference else ""
    if whole.drawing and head.drawing:
        return f"{whole.drawing / head.drawing:.1f} own heads"
    return ""


def face_bands(study: OpenStudy, rungs: Sequence[Station], *, reference: bool) -> list[list[float]]:
    """Edges of the halves from crown to chin (the lower half halved, and once more), and of the
    thirds from hairline to chin, as that picture has its ends; whichever are wished for."""
    if not study.view.axis:
        return []
    at = {
        one.key: height
        for one in rungs
        if (height := one.reference if reference else one.drawing) is not None
    }
    crown, chin = (at.get(key) for key in study.view.edges)
    if crown is None or chin is None:
        return []
    out, tall = [], chin - crown
    if study.session.bands != "thirds":
        out.append([crown + share * tall for share in _HALVES])
    hairline = at.get("hairline")
    if study.session.bands != "halves" and hairline is not None:
        low = chin - hairline
        out.append([crown, *(hairline + part * low / 3.0 for part in range(4))])
    return out
