"""The paper on the bench at true proportion; margins and the figure's size are dragged on it."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.session.notes import PlanNote
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.plan.paper import Paper, paint_paper
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import text
from bralto.ui.theme.tokens import LIGHT, Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["PlanBoard"]

_AIR = 14.0  # px about the paper
_NAMES = 110.0  # px at its left, or above it, for the stations' names
_REACH = 7.0  # px within which a line is taken hold of
_LEAST_HEAD, _LEAST_MARGIN = 5.0, 0.0  # mm


class PlanBoard(QWidget):
    """Takes the right board's place in the sheet's pass."""

    def __init__(self, study: OpenStudy, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The planned sheet")
        self.setToolTip("Drag the dashed margin, or the figure's top or bottom to size it")
        self._study, self._tokens = study, tokens
        self._held: str | None = None
        self._trial: PlanNote | None = None
        study.changed.connect(self._on_change)

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if self.isVisible() and not after.pointing_only(before):
            self.update()

    # Geometry

    def paper(self) -> Paper | str:
        """What is planned, or in words why nothing can be."""
        return Paper.planned(self._study, self._trial or self._study.head.plan_note)

    def laid(self, paper: Paper) -> tuple[QPointF, float]:
        """Where the paper's corner lies, and px a mm."""
        plan = paper.plan
        beside, above = (0.0, _NAMES) if plan.lies else (_NAMES, 0.0)
        room = QRectF(self.rect()).adjusted(_AIR + beside, _AIR + above, -_AIR, -_AIR)
        px = min(room.width() / plan.width, room.height() / plan.height)
        return QPointF(room.center().x() - px * plan.width / 2.0, room.top()), px

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._tokens.colour("slip"))
        paper = self.paper()
        if isinstance(paper, str):
            face = font(Size.BODY)
            painter.setFont(face)
            painter.setPen(self._tokens.colour("ink2"))
            room = QRectF(self.rect()).adjusted(24.0, 24.0, -24.0, -24.0)
            painter.drawText(room, Qt.TextFlag.TextWordWrap, paper)
            painter.end()
            return
        corner, px = self.laid(paper)
        sheet = QRectF(corner.x(), corner.y(), px * paper.plan.width, px * paper.plan.height)
        painter.fillRect(sheet.translated(2.0, 3.0), self._tokens.colour("hair", 0.45))
        painter.fillRect(sheet, LIGHT.colour("sheet"))
        painter.save()
        painter.setClipRect(QRectF(self.rect()))
        painter.translate(corner)
        paint_paper(painter, paper, px, font(Size.FINE), beside=self._tokens.colour("ink"))
        painter.restore()
        if paper.plan.leaving:
            words = f"off the paper: {', '.join(paper.plan.leaving)}"
            face = font(Size.NOTE, bold=True)
            text(painter, 12.0, self.height() - 12.0, words, face, self._tokens.colour("red"))
        painter.end()

    # Dragging

    def _grip(self, at: QPointF, paper: Paper) -> str | None:
        """What lies under the pointer: ``margin``, ``top`` or ``bottom`` of the figure."""
        corner, px = self.laid(paper)
        x, y = (at.x() - corner.x()) / px, (at.y() - corner.y()) / px
        plan, near = paper.plan, _REACH / px
        if plan.left - near <= x <= plan.left + plan.wide + near:
            for name, edge in (("top", plan.top), ("bottom", plan.top + plan.tall)):
                fits_tight = abs(edge - paper.margin) < near
                if abs(y - edge) < near and not fits_tight:
                    return name
        edges = (x, plan.width - x, y, plan.height - y)
        return "margin" if any(abs(edge - paper.margin) < near for edge in edges) else None

    def _tried(self, at: QPointF, paper: Paper) -> PlanNote:
        corner, px = self.laid(paper)
        x, y = (at.x() - corner.x()) / px, (at.y() - corner.y()) / px
        plan, note = paper.plan, self._study.head.plan_note
        if self._held == "margin":
            edge = min(x, plan.width - x, y, plan.height - y)
            most = 0.4 * min(plan.width, plan.height)
            return replace(note, margin=float(round(min(max(edge, _LEAST_MARGIN), most))))
        if plan.head is None:
            return note
        tall = 2.0 * abs(y - plan.height / 2.0)  # the figure stays in the middle
        head = plan.head * tall / plan.tall
        return replace(note, head_mm=max(_LEAST_HEAD, round(head, 1)))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        paper = self.paper()
        if not isinstance(paper, str):
            self._held = self._grip(event.position(), paper)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        paper = self.paper()
        if isinstance(paper, str):
            return
        held = self._held or self._grip(event.position(), paper)
        shape = Qt.CursorShape.SizeVerCursor if held else Qt.CursorShape.ArrowCursor
        self.setCursor(Qt.CursorShape.SizeAllCursor if held == "margin" else shape)
        if self._held:
            self._trial = self._tried(event.position(), paper)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        trial, self._trial, self._held = self._trial, None, None
        if trial is not None:
            self._study.head.note_plan(trial)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}
        by = steps.get(Qt.Key(event.key()))
        paper = self.paper()
        if by is None or isinstance(paper, str) or paper.plan.head is None:
            event.ignore()
            return
        note = self._study.head.plan_note
        head = max(_LEAST_HEAD, round(paper.plan.head + by / paper.plan.sized_heads, 1))
        self._study.head.note_plan(replace(note, head_mm=head))
