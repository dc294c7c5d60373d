"""The planned sheet as lines in mm: the same on the screen and on the printed page."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from bralto.core.discover.constructions import Form, construct
from bralto.core.discover.figures import Figure
from bralto.core.page.page_plan import SheetPlan
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import PlanNote
from bralto.core.session.planning import plan_of, plan_of_sightings
from bralto.core.study.two_boards import Board
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.label_spreading import spread_out

__all__ = ["CHECK_BAR_MM", "Paper", "paint_paper"]

CHECK_BAR_MM = 100.0
"""Length of the bar by which a print is checked with a rule."""

_TICK_MM = 6.0
_LABEL_MM = 4.0
_BIG = frozenset({"egg", "block", "ball", "jaw", "cylinder", "oval", "plane"})


@dataclass(frozen=True, slots=True)
class Paper:
    """What is put on paper.

    Attributes:
        margin: mm on all sides.
        forms: outlines of the big forms, mm on the sheet.
    """

    plan: SheetPlan
    margin: float
    forms: tuple[tuple[QPointF, ...], ...] = ()

    @classmethod
    def planned(cls, study: OpenStudy, note: PlanNote) -> Paper | str:
        """As a study plans it, or in words why nothing can be."""
        if study.from_life:
            plan = plan_of_sightings(study.view, study.sighted.kept, note)
        else:
            plan = plan_of(study.view, study.picture(Board.REFERENCE), note)
        if isinstance(plan, str):
            return plan
        heads = study.examination.both.heads.forms(Board.REFERENCE, study.session.built)
        return cls.of(plan, note.margin, study.examination.seen.figure, heads)

    @classmethod
    def of(
        cls, plan: SheetPlan, margin: float, figure: Figure | NotMeasurable, own: Sequence[Form]
    ) -> Paper:
        """With the reference's big forms where the head tells their size; of a head its ``own``."""
        if isinstance(figure, NotMeasurable) or plan.head is None:
            return cls(plan, margin)
        view, head = figure.view, plan.head
        row = view.point_rows[view.plumb]
        xy = figure.heads
        across = 0.5 * float(xy[:, 0].min() + xy[:, 0].max())
        if figure.points.present[row]:
            across = float(figure.points.xy[row, 0]) / figure.head.value
        top, highest = float(xy[:, 1].max()), plan.top + plan.above
        forms = tuple(
            tuple(
                QPointF(plan.plumb + head * (x - across), highest + head * (top - y))
                for x, y in form.outline.tolist()
            )
            for form in own or construct(figure)
            if form.kind in _BIG
        )
        return cls(plan, margin, forms)


def paint_paper(
    painter: QPainter, paper: Paper, px: float, face: QFont, *, beside: QColor | None = None
) -> None:
    """Everything but the ground; the painter's origin is the sheet's corner, ``px`` a mm.

    ``beside`` names the stations in that colour to the left of the sheet, or above it where the
    figure lies; a print has no room there.
    """
    plan, ink, hair = paper.plan, LIGHT.colour("ink"), LIGHT.colour("hair")
    sheet = QRectF(0.0, 0.0, px * plan.width, px * plan.height)
    inner = sheet.adjusted(*(px * paper.margin * way for way in (1, 1, -1, -1)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(hair, max(1.0, 0.2 * px), Qt.PenStyle.DashLine))
    painter.drawRect(inner)
    painter.setPen(QPen(LIGHT.colour("ink", 0.5), max(1.0, 0.25 * px)))
    for form in paper.forms:
        painter.drawPolygon(QPolygonF([px * place for place in form]))
    role = "ink" if plan.fits else "red"
    painter.setPen(QPen(LIGHT.colour(role), max(1.4, 0.35 * px)))
    figure = QRectF(px * plan.left, px * plan.top, px * plan.wide, px * plan.tall)
    for y in (figure.top(), figure.bottom()):
        painter.drawLine(QLineF(figure.left(), y, figure.right(), y))
    for x in (figure.left(), figure.right()):
        painter.drawLine(QLineF(x, figure.top(), x, figure.bottom()))
    painter.setPen(QPen(ink, max(1.0, 0.2 * px)))
    plumb = px * plan.plumb
    # On a print the name of the mark that it goes through stands above a figure that lies.
    start = figure.top() if plan.lies and beside is None else 0.0
    painter.drawLine(QLineF(plumb, start, plumb, sheet.height()))
    _stations(painter, paper, px, face, beside=beside)


def _stations(
    painter: QPainter, paper: Paper, px: float, face: QFont, *, beside: QColor | None
) -> None:
    """Ticks on the left edge, or of a figure that lies on the upper one, to be copied on the
    paper's own edge; labels do not touch."""
    plan, ink = paper.plan, LIGHT.colour("ink")
    metrics = QFontMetricsF(face, painter.device())
    painter.setFont(face)
    ends = [plan.along(one) for one in plan.stations]
    marks = [px * end for end in ends]
    edge = px * (plan.width if plan.lies else plan.height)
    places = spread_out(marks, metrics.height(), 0.0, edge)

    def at(along: float, inward: float) -> QPointF:
        return QPointF(along, inward) if plan.lies else QPointF(inward, along)

    tick, air = px * _TICK_MM, px * _LABEL_MM
    for one, end, true, place in zip(plan.stations, ends, marks, places, strict=True):
        painter.setPen(QPen(ink, max(1.0, 0.25 * px)))
        painter.drawLine(QLineF(at(true, 0.0), at(true, tick)))
        words = f"{one.label} {end:.0f}"
        wide, foot = metrics.horizontalAdvance(words), 0.35 * metrics.ascent()
        # Where the label begins on its way from the edge, and the hair that leads there.
        near, hair = (tick + air, (tick, tick + air - 3.0))
        if beside is not None:
            near, hair = (-air - 6.0, (0.0, -6.0))
        painter.setPen(QPen(LIGHT.colour("hair"), 1.0))
        painter.drawLine(QLineF(at(true, hair[0]), at(place, hair[1])))
        painter.setPen(beside or ink)
        painter.save()
        if plan.lies:  # read upwards
            painter.translate(place + foot, near + wide if beside is None else near)
            painter.rotate(-90.0)
        else:
            painter.translate(near if beside is None else near - wide, place + foot)
        painter.drawText(QPointF(0.0, 0.0), words)
        painter.restore()
