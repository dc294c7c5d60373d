"""What is taken hold of on the model's picture: joints, the lamp, the eye's level."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen

from bralto.core.mannequin.camera import Camera, View3D
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.setting import Setting
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = [
    "eye_at_height",
    "eye_spot",
    "eye_words",
    "lamp_at",
    "lamp_spot",
    "lamp_words",
    "paint_eye",
    "paint_grip",
    "paint_lamp",
]

_AIR = 26.0
_LOWEST = 5.0  # degrees over the horizon
_FALL = 0.24  # share of the board's height from the zenith down to the horizon


def lamp_spot(look: Look, size: QSize) -> QPointF:
    """Where the lamp hangs on a board: its turn across, its height down from the zenith."""
    half = size.width() / 2.0 - _AIR
    down = (90.0 - look.above_deg) / (90.0 - _LOWEST)
    return QPointF(
        size.width() / 2.0 + half * look.aside_deg / 180.0,
        _AIR + down * (_FALL * size.height() - _AIR),
    )


def lamp_at(look: Look, at: QPointF, size: QSize) -> Look:
    """The light with its lamp hung at a place of the board."""
    half = size.width() / 2.0 - _AIR
    aside = 180.0 * (at.x() - size.width() / 2.0) / half
    down = (at.y() - _AIR) / (_FALL * size.height() - _AIR)
    above = 90.0 - (90.0 - _LOWEST) * down
    return replace(
        look,
        aside_deg=round(min(max(aside, -180.0), 180.0)),
        above_deg=round(min(max(above, _LOWEST), 90.0)),
    )


def eye_spot(view: View3D) -> float:
    """Height of the horizon in the picture, px: what is as high as the eye, far away."""
    ahead = view.rotation[2] * np.array([1.0, 0.0, 1.0])
    far = view.eye + 1e4 * ahead / float(np.linalg.norm(ahead))
    return float(view.project(far)[1])


def eye_at_height(setting: Setting, view: View3D, up_px: float) -> float:
    """Height of the eye, m, once its level is dragged up by so many px at the stand's distance."""
    heads = up_px * float(view.depth(np.zeros(3))) / view.focal
    eye = setting.camera.eye_m + heads * setting.build.head_m
    return round(min(max(eye, 0.05), 4.0), 3)


def lamp_words(look: Look) -> str:
    """From where the light comes."""
    side = "from your right" if look.aside_deg > 0 else "from your left"
    return f"light {abs(look.aside_deg):.0f}° {side}, {look.above_deg:.0f}° high"


def eye_words(camera: Camera) -> str:
    """From where the eye looks."""
    return f"eye {camera.eye_m:.2f} m high, {camera.distance_m:.1f} m away"


def paint_grip(painter: QPainter, at: QPointF, label: str, tokens: Tokens, lit: bool) -> None:
    """A joint that can be pulled: an open ring, its name where it is pointed at."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(tokens.colour("veil", 0.9), 4.0 if lit else 3.0))
    painter.drawEllipse(at, 7.0, 7.0)
    painter.setPen(QPen(tokens.colour("ink", 1.0 if lit else 0.75), 2.2 if lit else 1.4))
    painter.drawEllipse(at, 7.0, 7.0)
    if label:
        _label(painter, at + QPointF(13.0, 5.0), label, tokens)


def paint_lamp(painter: QPainter, at: QPointF, look: Look, tokens: Tokens, lit: bool) -> None:
    """A hanging lamp; hollow where it hangs behind the figure."""
    ink = tokens.colour("ink", 1.0 if lit else 0.75)
    painter.setPen(QPen(tokens.colour("veil", 0.9), 4.0))
    painter.drawLine(QPointF(at.x(), 0.0), at - QPointF(0.0, 9.0))
    painter.setPen(QPen(ink, 1.2))
    painter.drawLine(QPointF(at.x(), 0.0), at - QPointF(0.0, 9.0))
    shade = QPainterPath(at + QPointF(-5.0, -9.0))
    for x, y in ((5.0, -9.0), (12.0, 4.0), (-12.0, 4.0)):
        shade.lineTo(at + QPointF(x, y))
    shade.closeSubpath()
    painter.setPen(QPen(ink, 1.8))
    behind = abs(look.aside_deg) > 90.0
    painter.setBrush(tokens.colour("veil") if behind else ink)
    painter.drawPath(shade)
    painter.setBrush(tokens.colour("veil"))
    painter.drawChord(QRectF(at.x() - 6.0, at.y() - 1.0, 12.0, 11.0), 180 * 16, 180 * 16)
    if lit:
        words = lamp_words(look)
        shift = -190.0 if look.aside_deg > 60.0 else 16.0
        _label(painter, at + QPointF(shift, 22.0), words, tokens)


def paint_eye(
    painter: QPainter, at: QPointF, width: int, camera: Camera, tokens: Tokens, lit: bool
) -> None:
    """The level of the eye across the picture, and an eye to drag it by."""
    ink = tokens.colour("ink", 1.0 if lit else 0.7)
    line = QPen(tokens.colour("ink", 0.55 if lit else 0.25), 1.0)
    line.setDashPattern([2.0, 5.0])
    painter.setPen(line)
    painter.drawLine(at + QPointF(18.0, 0.0), QPointF(width, at.y()))
    lid = QPainterPath(at + QPointF(-13.0, 0.0))
    lid.quadTo(at + QPointF(0.0, -13.0), at + QPointF(13.0, 0.0))
    lid.quadTo(at + QPointF(0.0, 13.0), at + QPointF(-13.0, 0.0))
    painter.setPen(QPen(ink, 1.8))
    painter.setBrush(tokens.colour("veil", 0.9))
    painter.drawPath(lid)
    painter.setBrush(ink)
    painter.drawEllipse(at, 3.6, 3.6)
    if lit:
        words = eye_words(camera)
        above = at.y() > 40.0  # else there is no room over it
        _label(painter, at + QPointF(20.0, -8.0 if above else 20.0), words, tokens)


def _label(painter: QPainter, at: QPointF, words: str, tokens: Tokens) -> None:
    face = font(Size.NOTE, bold=True)
    halo_text(painter, at, words, face, tokens.colour("ink"), tokens.colour("veil"))
