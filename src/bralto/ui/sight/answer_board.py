"""The answer to a sighting: a staff to be stepped along, a stick to be turned, or three answers.

Nothing that is expected is shown: each begins where it would for any figure. One hand holds a
pencil, so that every answer is given by single keys, by dragging, or by a tap.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.kinds import wrap_degrees
from bralto.core.sightings.own_arm import taken_by
from bralto.core.sightings.sighting_words import heads_said
from bralto.core.study.taken import PENCIL_MM, Sighting, Sort
from bralto.core.views.model import View
from bralto.ui.theme.paint import Align, rounded, text, triangle
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["AnswerBoard"]

_KEYS = Qt.Key
_ANSWERS = ((1.0, "Yes", "Y"), (0.0, "Alike", "A"), (-1.0, "No", "O"))
_PARTS = (0.0, 0.25, 1 / 3, 0.5, 2 / 3, 0.75)
_MARGIN, _TIP = 28.0, 16.0


@dataclass(frozen=True, slots=True)
class _Scale:
    """A staff's ends, what a key steps, and where it stands before it is touched."""

    low: float
    high: float
    step: float
    start: float
    unit: float = 1.0


def _scale_of(view: View, one: Sighting) -> _Scale:
    figure = view.size == "figure"
    if one.in_mm:
        return _Scale(0.0, PENCIL_MM, 0.5, 20.0, 10.0)
    if one.sort is Sort.FRACTION:
        return _Scale(0.0, 1.0, 0.02, 0.5, 0.25)
    if one.sort in {Sort.PLUMB, Sort.LEVEL}:
        if view.lies and one.sort is Sort.PLUMB:  # its length lies beside the line
            return _Scale(-8.0, 8.0, 0.05, 0.0)
        return _Scale(-4.0, 4.0, 0.05, 0.0) if figure else _Scale(-0.8, 0.8, 0.01, 0.0, 0.2)
    if one.of:
        return _Scale(0.0, 4.0, 0.05, 1.0)
    return _Scale(0.0, 9.0, 0.1, 1.0) if figure else _Scale(0.0, 1.6, 0.02, 0.5, 0.2)


class AnswerBoard(QWidget):
    """Emits `changed` whenever the answer is another, and `taken` when it is meant."""

    changed = pyqtSignal()
    taken = pyqtSignal()

    def __init__(self, view: View, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Your sighting")
        self.setMinimumHeight(120)
        self.view, self._tokens = view, tokens
        self.px_per_mm = 4.0
        self.arm: Mapping[str, float] = {}
        """The learner's own (`core.sightings.own_arm.known_arm`)."""
        self.asked: Sighting | None = None
        self._value: float | None = None

    def ask(self, one: Sighting | None) -> None:
        """Another question; what was answered is gone."""
        self.asked, self._value = one, None
        tips = {Sort.TILT: "Drag the stick, or turn it by the arrow keys"}
        self.setToolTip(tips.get(one.sort, "Tap, drag, or use the keys") if one else "")
        self.update()

    @property
    def answer(self) -> Sighting | None:
        """What is answered so far, with its doubt; None before anything was touched."""
        if self.asked is None or self._value is None:
            return None
        made = replace(self.asked, value=self._value, said="", taken=None)
        return taken_by(self.view, made, self.arm)

    def show_answer(self, one: Sighting) -> None:
        """What was typed."""
        self._value = one.value
        self.changed.emit()
        self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        one = self.asked
        if one is not None:
            if one.sort.is_answer:
                self._three(painter)
            elif one.sort is Sort.TILT:
                self._stick(painter, one)
            elif one.in_mm:
                self._pencil(painter)
            else:
                self._staff(painter, one)
        painter.end()

    def _boxes(self) -> list[tuple[QRectF, float, str, str]]:
        wide = (self.width() - 2 * 14.0 - 2.0) / 3.0
        top, high = 8.0, min(96.0, self.height() - 16.0)
        return [
            (QRectF(1.0 + i * (wide + 14.0), top, wide, high), value, words, key)
            for i, (value, words, key) in enumerate(_ANSWERS)
        ]

    def _three(self, painter: QPainter) -> None:
        tokens = self._tokens
        for box, value, words, key in self._boxes():
            lit = self._value == value
            rounded(painter, box, tokens.colour("ink" if lit else "here"))
            painter.setPen(QPen(tokens.colour("ink2"), 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box, 3.0, 3.0)
            ink = tokens.colour("sheet" if lit else "ink")
            text(painter, box.center().x(), box.center().y() + 6.0, words,
                 font(Size.SKILL, bold=True), ink, Align.AlignHCenter)  # fmt: skip
            text(painter, box.center().x(), box.bottom() - 10.0, key, font(Size.NOTE), ink,
                 Align.AlignHCenter)  # fmt: skip

    def _middle(self) -> tuple[QPointF, float]:
        return (
            QPointF(self.width() / 2.0, self.height() / 2.0),
            max(40.0, min(0.34 * self.width(), 0.5 * self.height() - 26.0)),
        )

    def _stick(self, painter: QPainter, one: Sighting) -> None:
        """The pencil held beside the body; its two ends are named, plumb and level dotted."""
        tokens = self._tokens
        middle, reach = self._middle()
        painter.setPen(QPen(tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine))
        painter.drawLine(middle - QPointF(reach + 20.0, 0.0), middle + QPointF(reach + 20.0, 0.0))
        painter.drawLine(middle - QPointF(0.0, reach + 20.0), middle + QPointF(0.0, reach + 20.0))
        value = self._value if self._value is not None else self._level_or_plumb(one)
        turn = math.radians(value)
        way = QPointF(math.cos(turn), -math.sin(turn))
        ink = tokens.colour("ink" if self._value is not None else "hair")
        painter.setPen(QPen(ink, 5.0, cap=Qt.PenCapStyle.RoundCap))
        painter.drawLine(middle - reach * way, middle + reach * way)
        face = font(Size.TITLE, bold=True)
        for sign, key in ((-1.0, one.points[0]), (1.0, one.points[1])):
            end = middle + sign * reach * way
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(ink)
            painter.drawEllipse(end, 8.0, 8.0)
            out = end + sign * 18.0 * way
            align = Align.AlignRight if out.x() < end.x() - 4.0 else Align.AlignLeft
            if abs(out.x() - end.x()) <= 4.0:
                align, out = Align.AlignLeft, end + QPointF(14.0, 0.0)
            text(painter, out.x(), out.y() + 6.0, self.view.point_label(key), face,
                 tokens.colour("ink"), align)  # fmt: skip

    def _level_or_plumb(self, one: Sighting) -> float:
        """Where the stick begins: level for a line across, hanging for one that runs down."""
        first, last = one.points
        if first.endswith("_r") and last.endswith("_l"):
            return 180.0 if self.view.seen_from == "back" else 0.0
        return -90.0

    def _pencil(self, painter: QPainter) -> None:
        """A pencil at true size, its point at the left: the real one is laid beside it."""
        tokens, line, px = self._tokens, self.height() / 2.0, self.px_per_mm
        long = min(PENCIL_MM, (self.width() - 2.0 * _TIP) / px)
        wide = 3.5 * px
        body = QRectF(_TIP + 6.0 * px, line - wide, (long - 6.0) * px, 2.0 * wide)
        painter.setPen(QPen(tokens.colour("ink"), 1.4))
        painter.setBrush(tokens.colour("here"))
        painter.drawRect(body)
        tip = QPolygonF([QPointF(_TIP, line), body.topLeft(), body.bottomLeft()])
        painter.drawPolygon(tip)
        face = font(Size.FINE)
        for mm in range(0, int(long) + 1, 5):
            x = _TIP + mm * px
            tall = 12.0 if mm % 10 == 0 else 7.0
            painter.setPen(QPen(tokens.colour("ink2"), 1.0))
            painter.drawLine(QPointF(x, line + wide + 4.0), QPointF(x, line + wide + 4.0 + tall))
            if mm % 20 == 0:
                text(painter, x, line + wide + 32.0, f"{mm}", face, tokens.colour("ink2"),
                     Align.AlignHCenter)  # fmt: skip
        if self._value is not None:
            x = _TIP + self._value * px
            painter.setPen(QPen(tokens.colour("ink"), 2.4))
            painter.drawLine(QPointF(x, line - wide - 8.0), QPointF(x, line + wide + 2.0))
            triangle(painter, QPointF(x, line - wide - 16.0), "down", tokens.colour("ink"), 10.0)

    def _bar(self) -> QRectF:
        return QRectF(_MARGIN, self.height() / 2.0 - 14.0, self.width() - 2 * _MARGIN, 18.0)

    def _x(self, scale: _Scale, value: float) -> float:
        bar = self._bar()
        share = (value - scale.low) / (scale.high - scale.low)
        return bar.left() + min(max(share, 0.0), 1.0) * bar.width()

    def _staff(self, painter: QPainter, one: Sighting) -> None:
        tokens, bar, scale = self._tokens, self._bar(), _scale_of(self.view, one)
        line = bar.center().y()
        painter.setPen(QPen(tokens.colour("ink"), 1.6))
        painter.drawLine(QPointF(bar.left(), line), QPointF(bar.right(), line))
        many = round((scale.high - scale.low) / scale.unit)
        face = font(Size.TITLE)
        for i in range(many + 1):
            value = scale.low + i * scale.unit
            x = self._x(scale, value)
            painter.setPen(QPen(tokens.colour("ink"), 1.6))
            painter.drawLine(QPointF(x, line - 14.0), QPointF(x, line))
            said = f"{abs(value):g}" if scale.unit >= 0.2 else ""
            if one.sort is Sort.FRACTION:
                said = heads_said(value)
            text(painter, x, line + 24.0, said, face, tokens.colour("ink2"), Align.AlignHCenter)
            if i < many:
                painter.setPen(QPen(tokens.colour("hair"), 1.0))
                for j in range(1, 4):
                    at = self._x(scale, value + j * scale.unit / 4.0)
                    painter.drawLine(QPointF(at, line - 7.0), QPointF(at, line))
        if one.sort in {Sort.PLUMB, Sort.LEVEL}:
            names = ("left", "right") if one.sort is Sort.PLUMB else ("above", "below")
            note = font(Size.NOTE)
            text(painter, bar.left(), line - 22.0, names[0], note, tokens.colour("ink2"))
            text(painter, bar.right(), line - 22.0, names[1], note, tokens.colour("ink2"),
                 Align.AlignRight)  # fmt: skip
        if self._value is not None:
            below = QPointF(self._x(scale, self._value), line + 36.0)
            triangle(painter, below, "up", tokens.colour("ink"), 11.0)

    # The hand

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._take_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._take_at(event.position())

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self._step(1 if event.angleDelta().y() > 0 else -1)

    def _take_at(self, at: QPointF) -> None:
        one = self.asked
        if one is None:
            return
        if one.sort.is_answer:
            for box, value, _, _ in self._boxes():
                if box.contains(at):
                    self._put(value)
            return
        if one.sort is Sort.TILT:
            middle, _ = self._middle()
            away = at - middle
            if away.manhattanLength() > 8.0:
                turn = math.degrees(math.atan2(-away.y(), away.x()))
                # Whichever end is nearer to the hand is taken.
                now = self._value if self._value is not None else self._level_or_plumb(one)
                if abs(wrap_degrees(turn - now)) > 90.0:
                    turn += 180.0
                self._put(round(wrap_degrees(turn)))
            return
        if one.in_mm:
            self._put(0.5 * round(2.0 * (at.x() - _TIP) / self.px_per_mm))
            return
        scale, bar = _scale_of(self.view, one), self._bar()
        share = (at.x() - bar.left()) / bar.width()
        value = scale.low + share * (scale.high - scale.low)
        self._put(scale.step * round(value / scale.step))

    def _put(self, value: float) -> None:
        one = self.asked
        assert one is not None
        if one.sort is Sort.TILT:
            value = float(wrap_degrees(value))
        elif not one.sort.is_answer:
            scale = _scale_of(self.view, one)
            low = scale.step if one.sort is Sort.LENGTH else scale.low
            value = min(max(value, low), scale.high)
        self._value = value
        self.changed.emit()
        self.update()

    def _step(self, by: float) -> None:
        """So many steps of a key; the first touch only takes hold."""
        one = self.asked
        if one is None or one.sort.is_answer:
            return
        if one.sort is Sort.TILT:
            now = self._value if self._value is not None else self._level_or_plumb(one)
            self._put(now + by)
            return
        scale = _scale_of(self.view, one)
        now = self._value if self._value is not None else scale.start
        self._put(round(now + by * scale.step, 6))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        one, key = self.asked, Qt.Key(event.key())
        if one is None or not self._key(one, key, event):
            event.ignore()

    def _key(self, one: Sighting, key: Qt.Key, event: QKeyEvent) -> bool:
        if event.modifiers() & (
            Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
        ):
            return False
        if one.sort.is_answer:
            found = {_KEYS.Key_Y: 1.0, _KEYS.Key_A: 0.0, _KEYS.Key_O: -1.0}.get(key)
            if found is None:
                return False
            self._put(found)
            return True
        far = 5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        steps = {_KEYS.Key_Left: -far, _KEYS.Key_Right: far}
        if one.sort is Sort.TILT:  # right turns the stick clockwise, as the hand would
            steps = {_KEYS.Key_Left: far, _KEYS.Key_Right: -far}
            steps |= {_KEYS.Key_Up: 15.0, _KEYS.Key_Down: -15.0}
        if key in steps:
            self._step(steps[key])
            return True
        if one.sort is Sort.LENGTH and not one.in_mm and _KEYS.Key_0 <= key <= _KEYS.Key_9:
            self._put(float(key - _KEYS.Key_0))
            return True
        if key == _KEYS.Key_Slash and not one.in_mm and one.sort in {Sort.LENGTH, Sort.FRACTION}:
            now = self._value or 0.0
            whole = math.floor(now + 1e-9)
            more = next((p for p in _PARTS if p > now - whole + 0.01), 0.0)
            self._put(whole + more)
            return True
        return False
