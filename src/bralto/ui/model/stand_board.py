"""The large picture of the model: joints pulled on it, light and eye moved by handles on it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.posing.reach import GRIPS, OF_HEAD
from bralto.ui.model.drawn import Drawer, Drawn
from bralto.ui.model.handles import (
    eye_at_height,
    eye_spot,
    eye_words,
    lamp_at,
    lamp_spot,
    lamp_words,
    paint_eye,
    paint_grip,
    paint_lamp,
)
from bralto.ui.model.model_state import ModelState
from bralto.ui.theme.paint import halo_text, text
from bralto.ui.theme.tokens import LIGHT, Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["StandBoard"]

_REACH = 14.0
_TURN = 0.5  # degrees of the turntable a px
_STEPS = {Qt.Key.Key_Left: -5.0, Qt.Key.Key_Right: 5.0}
_RAISE = {Qt.Key.Key_Up: 0.1, Qt.Key.Key_Down: -0.1}
_NEARER = {Qt.Key.Key_Plus: 1.0 / 1.1, Qt.Key.Key_Equal: 1.0 / 1.1, Qt.Key.Key_Minus: 1.1}


class StandBoard(QWidget):
    """Watches `ModelState`; ``shown`` says that another picture is up."""

    shown = pyqtSignal()
    gripped = pyqtSignal(str)

    def __init__(
        self, state: ModelState, drawer: Drawer, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.state, self.drawer, self._tokens = state, drawer, tokens
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("The model")
        self.setMinimumSize(240, 300)
        self.heard = Heard(self, "What can be pulled")
        self.drawn: Drawn | None = None
        self.fault = ""
        self._over: str | None = None  # handle under the pointer
        self._held: str | None = None  # handle that is dragged
        self._held_view: View3D | None = None
        self._depth = 0.0
        self._at = QPointF()
        self._to: QPointF | None = None  # where a drag has come to, not followed yet
        state.changed.connect(self._ask)
        drawer.drawn.connect(self._came)
        drawer.failed.connect(self._failed)

    # The picture

    def _ask(self) -> None:
        if self.isVisible():
            size = self._px_size()
            self.drawer.want(self.state.setting, size.width(), size.height(), self._held_view)

    def _px_size(self) -> QSize:
        return (self.size().toSizeF() * self.devicePixelRatioF()).toSize()

    def _came(self, drawn: Drawn) -> None:
        self.drawn, self.fault = drawn, ""
        self._say()
        self.update()
        self.shown.emit()
        self._follow()

    def _failed(self, message: str) -> None:
        self.fault = message[:1].upper() + message[1:] + "."
        self.update()
        self.shown.emit()
        self._follow()

    def showEvent(self, event: object) -> None:
        self._ask()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._ask()

    def _say(self) -> None:
        setting = self.state.setting
        camera = setting.camera
        words = f"{setting.title}, turned {setting.turn_deg:.0f} degrees"
        words += f"; seen from {camera.distance_m:.1f} m at {camera.eye_m:.2f} m"
        self.setAccessibleDescription(words)
        if self.drawn is not None and self.drawn.finished:
            self.heard.say(self._rows(self.drawn))

    def _rows(self, drawn: Drawn) -> list[str]:
        """Every ring and where it is, the lamp and the eye."""
        width, height = max(1, self.width()), max(1, self.height())
        rows = [
            f"{GRIPS[name].label}: {100.0 * at.x() / width:.0f} % across, "
            f"{100.0 * at.y() / height:.0f} % down"
            for name, at in self.grips().items()
        ]
        setting = drawn.setting
        return [*rows, lamp_words(setting.look), eye_words(setting.camera)]

    def _scale(self) -> float:
        """Board px a px of the picture."""
        assert self.drawn is not None
        return self.height() / self.drawn.view.height

    def _board(self, px: np.ndarray) -> QPointF:
        k = self._scale()
        return QPointF(k * float(px[0]), k * float(px[1]))

    def grips(self) -> dict[str, QPointF]:
        """Where what can be pulled is on the board."""
        figure = None if self.drawn is None else self.drawn.stage.figure
        if self.drawn is None or figure is None:
            return {}
        head = self.drawn.stage.setting.subject == "head"
        names = OF_HEAD if head else tuple(name for name in GRIPS if name not in OF_HEAD[1:])
        names = tuple(name for name in names if GRIPS[name].part in figure.places)
        places = {name: figure.world(GRIPS[name].part, GRIPS[name].at) for name in names}
        return {name: self._board(self.drawn.view.project(at)) for name, at in places.items()}

    def handles(self) -> dict[str, QPointF]:
        """Where lamp and eye are on the board."""
        if self.drawn is None:
            return {}
        eye = eye_spot(self.drawn.view)
        return {
            "lamp": lamp_spot(self.state.setting.look, self.size()),
            "eye": QPointF(26.0, min(max(self._scale() * eye, 20.0), self.height() - 20.0)),
        }

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), self._tokens.colour("slip"))
        if self.drawn is not None:
            painter.drawImage(QRectF(self.rect()), self.drawn.image)
            if self.underMouse() or self.hasFocus():
                self._handles(painter)
        if self.fault or self.drawn is None:
            self._words(painter, self.fault or "The model is being set up")
        if self.hasFocus():
            painter.setPen(QPen(self._tokens.colour("ink"), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(1, 1, -1, -1))
        painter.end()

    def _words(self, painter: QPainter, words: str) -> None:
        at, face = QPointF(24.0, self.height() - 28.0), font(Size.PROMPT, bold=True)
        if self.drawn is None:
            # On the bare board no halo is wanted: its letters took a fifth of the first visit.
            text(painter, at.x(), at.y(), words, face, self._tokens.colour("ink"))
        else:
            halo_text(painter, at, words, face, LIGHT.colour("ink"), LIGHT.colour("veil"))

    def _handles(self, painter: QPainter) -> None:
        # The picture is light in either theme, and so are the colours drawn on it. What is held
        # is looked at, not what else could be.
        for name, at in self.grips().items():
            lit = name in {self._over, self._held}
            if self._held in (None, name):
                paint_grip(painter, at, GRIPS[name].label if lit else "", LIGHT, lit)
        spots = self.handles()
        look, camera = self.state.setting.look, self.state.setting.camera
        lit = "lamp" in {self._over, self._held}
        paint_lamp(painter, spots["lamp"], look, LIGHT, lit)
        lit = "eye" in {self._over, self._held}
        paint_eye(painter, spots["eye"], self.width(), camera, LIGHT, lit)

    # By hand

    def _under(self, at: QPointF) -> str | None:
        near = [
            (float(np.hypot(spot.x() - at.x(), spot.y() - at.y())), name)
            for name, spot in {**self.grips(), **self.handles()}.items()
        ]
        near = [one for one in near if one[0] < _REACH]
        return min(near)[1] if near else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        if event.button() != Qt.MouseButton.LeftButton or self.drawn is None:
            return
        self._at = event.position()
        self._held = self._under(self._at) or "stand"
        self.state.begin()
        if self._held in GRIPS:
            self.gripped.emit(self._held)
            self._held_view = self.drawn.view
            figure = self.drawn.stage.figure
            assert figure is not None
            grip = GRIPS[self._held]
            self._depth = float(self.drawn.view.depth(figure.world(grip.part, grip.at)))
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        if self._held is None:
            over = self._under(at)
            if over != self._over:
                self._over = over
                self.setCursor(
                    Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor
                )
                self.update()
            return
        self._to = at
        if not self.drawer.busy:
            self._follow()

    def _follow(self) -> None:
        """Take a drag to where it has come: once a picture, however often the pointer moves."""
        at, self._to = self._to, None
        if self._held is not None and at is not None:
            self._drag(at)
            self._at = at

    def _drag(self, at: QPointF) -> None:
        state, setting = self.state, self.state.setting
        if self._held in GRIPS:
            assert self._held_view is not None
            k = self.height() / self._held_view.height
            ray = self._held_view.rays(np.array([at.x() / k, at.y() / k]))
            state.pull(self._held, self._held_view.eye + self._depth * ray)
        elif self._held == "lamp":
            state.set_look(lamp_at(setting.look, at, self.size()))
        elif self._held == "eye" and self.drawn is not None:
            up = (self._at.y() - at.y()) / self._scale()
            eye = eye_at_height(setting, self.drawn.view, up)
            state.set_camera(replace(setting.camera, eye_m=eye))
        elif self._held == "stand":
            state.turn_stand(_TURN * (at.x() - self._at.x()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held is None:
            return
        self._follow()
        what, self._held, self._held_view = self._held, None, None
        self.state.end(what)
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self._come_nearer(1.0 / 1.1 if event.angleDelta().y() > 0 else 1.1)
        event.accept()

    def _come_nearer(self, factor: float) -> None:
        camera = self.state.setting.camera
        away = min(max(camera.distance_m * factor, 0.6), 30.0)
        self.state.set_camera(replace(camera, distance_m=round(away, 2)))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        camera = self.state.setting.camera
        if key in _STEPS:
            self.state.turn_stand(_STEPS[key])
        elif key in _RAISE:
            eye = min(max(camera.eye_m + _RAISE[key], 0.1), 4.0)
            self.state.set_camera(replace(camera, eye_m=round(eye, 2)))
        elif key in _NEARER:
            self._come_nearer(_NEARER[key])
        else:
            event.ignore()

    def leaveEvent(self, event: object) -> None:
        self._over = None
        self.update()

    def enterEvent(self, event: object) -> None:
        self.update()

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()
