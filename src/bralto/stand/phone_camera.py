"""A simulated phone: a photo of a flat drawing on a table, with where its corners truly are.

Every pixel of the photo is traced back to the plane of the table and takes its colour from the
sheet or from the table, then come a shadow, uneven light, grain and JPEG: what makes a real photo
hard to put right, in known amounts.
"""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from PIL import Image

from bralto.core.arrays import Floats, Pixels
from bralto.stand.phone_aim import Aim, PhoneShot
from bralto.stand.tables import TABLES, table

__all__ = ["TABLES", "PhonePhoto", "photograph", "random_shot"]

_ROWS = 32
"""Rows of the photo that are made at a time."""

_PAPER = np.array([238, 236, 228], dtype=np.float32)
_SKIN = np.array([188, 140, 112], dtype=np.float32)


@dataclass(frozen=True, slots=True, eq=False)
class PhonePhoto:
    """A photo, RGB, and the truth about it."""

    image: Image.Image
    aim: Aim

    @property
    def corners(self) -> Floats:
        """See `Aim.corners`."""
        return self.aim.corners

    def to_photo(self, xy_mm: Floats) -> Floats:
        """See `Aim.to_photo`."""
        return self.aim.to_photo(xy_mm)


def random_shot(rng: np.random.Generator, size: tuple[int, int] = (1600, 1200)) -> PhoneShot:
    """A shot as a learner takes it: up to 45 degrees aslant, on any table, often in shadow."""
    return PhoneShot(
        size=size,
        slant_deg=float(rng.uniform(0.0, 45.0)),
        around_deg=float(rng.uniform(-60.0, 60.0)),
        roll_deg=float(rng.normal(0.0, 4.0)),
        fill=float(rng.uniform(0.6, 0.92)),
        bow=float(rng.uniform(-0.006, 0.004)),
        table=TABLES[int(rng.integers(len(TABLES)))],
        shadow=float(rng.choice([0.0, 0.25, 0.45])),
        uneven=float(rng.uniform(0.0, 0.4)),
        grain=float(rng.uniform(1.5, 5.0)),
        quality=int(rng.integers(78, 96)),
    )


def photograph(
    drawing: Image.Image, size_mm: tuple[float, float], shot: PhoneShot, seed: int
) -> PhonePhoto:
    """Photograph a flat drawing that fills a sheet.

    Args:
        drawing: RGB, the whole sheet.
        size_mm: the sheet's width and height.
    """
    rng = np.random.default_rng(seed)
    width, height = shot.size
    aim = Aim.at(size_mm, shot)
    x = np.arange(width, dtype=np.float32)[None] + np.float32(0.5)
    y = np.arange(height, dtype=np.float32)[:, None] + np.float32(0.5)
    near = aim.to_table(x[:, width // 2 : width // 2 + 2], y[height // 2 : height // 2 + 1])
    seen = _scene(drawing, size_mm, shot, _px_per_mm(*near), rng)
    lit = _light(shot, size_mm, rng)
    hand = _hand(shot.size, aim.camera, size_mm, rng) if shot.hand else None
    shown = np.empty((height, width, 3), np.uint8)
    # A few rows at a time: what is made on the way stays in the processor's own memory.
    for top in range(0, height, _ROWS):
        rows = slice(top, min(top + _ROWS, height))
        u, v = aim.to_table(x, y[rows])
        picture = seen(u, v)
        picture *= lit(u, v)[..., None]
        if hand is not None:
            picture += hand[rows] * (_SKIN - picture)
        picture += np.float32(shot.grain) * rng.standard_normal(picture.shape, np.float32)
        shown[rows] = np.clip(picture, 0, 255)
    image = Image.fromarray(shown)
    if shot.quality:
        encoded = io.BytesIO()
        image.save(encoded, "JPEG", quality=shot.quality)
        image = Image.open(encoded)
        image.load()
    return PhonePhoto(image, aim)


def _scene(
    drawing: Image.Image,
    size_mm: tuple[float, float],
    shot: PhoneShot,
    scale: float,
    rng: np.random.Generator,
) -> Callable[[Pixels, Pixels], Pixels]:
    """What gives (h, w, 3) colours of table, second sheet and sheet at places (h, w) of the table,
    mm, of a photo with ``scale`` px a mm."""
    top = table(shot.table, rng)
    w_mm, h_mm = size_mm
    beside = rng.uniform(8, 25, 2) * rng.choice([-1, 1], 2) if shot.second else None
    sheet: Pixels = np.asarray(drawing.convert("RGB"), dtype=np.uint8)
    if sheet.shape[1] / w_mm > 1.5 * scale:  # from far it is blurred first, or it would flicker
        small = max(2, round(w_mm * scale)), max(2, round(h_mm * scale))
        sheet = cv2.resize(sheet, small, interpolation=cv2.INTER_AREA)
    fine_x, fine_y = sheet.shape[1] / w_mm, sheet.shape[0] / h_mm

    def seen(u: Pixels, v: Pixels) -> Pixels:
        picture = top(u, v)
        if beside is not None:
            dx, dy = beside
            _shade_edge(picture, u - dx, v - dy, size_mm)
            lower = _cover(u - dx, v - dy, w_mm, h_mm, 0.4)
            picture += lower[..., None] * (_PAPER - picture)
        _shade_edge(picture, u, v, size_mm)
        colours = cv2.remap(
            sheet, u * fine_x - 0.5, v * fine_y - 0.5, cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        ).astype(np.float32)  # fmt: skip
        cover = _cover(u, v, w_mm, h_mm, 0.5 / scale)
        laid: Pixels = cv2.blendLinear(colours, picture, cover, 1.0 - cover)
        return laid

    return seen


def _px_per_mm(u: Pixels, v: Pixels) -> float:
    """Of two neighbouring pixels (1, 2) at such places, mm."""
    step = np.hypot(u[0, 1] - u[0, 0], v[0, 1] - v[0, 0])
    return float(1.0 / max(step, 1e-6))


def _cover(u: Pixels, v: Pixels, w_mm: float, h_mm: float, soft: float) -> Pixels:
    """How much of each pixel a sheet covers, its edge ``soft`` mm wide to each side."""
    inside = np.minimum(np.minimum(u, w_mm - u), np.minimum(v, h_mm - v))
    cover: Pixels = np.clip(0.5 + 0.5 * inside / soft, 0.0, 1.0).astype(np.float32)
    return cover


def _shade_edge(picture: Pixels, u: Pixels, v: Pixels, size_mm: tuple[float, float]) -> None:
    """The thin shadow that a sheet throws on what lies below it, to one side."""
    w_mm, h_mm = size_mm
    dx = np.maximum(np.maximum(-u, u - w_mm), 0.0)
    dy = np.maximum(np.maximum(-v, v - h_mm), 0.0)
    away = np.hypot(dx - 0.3, dy - 0.3)
    picture *= (1.0 - 0.30 * np.exp(-np.square(away / 1.2)))[..., None].astype(np.float32)


def _light(
    shot: PhoneShot, size_mm: tuple[float, float], rng: np.random.Generator
) -> Callable[[Pixels, Pixels], Pixels]:
    """What gives the share of the light at places of the table, mm: falling off to one side, and a
    soft-edged shadow."""
    w_mm, h_mm = size_mm
    angle, place = rng.uniform(0, 2 * math.pi), rng.uniform(0.2, 0.8)
    turned, soft = (
        (rng.uniform(0, 2 * math.pi), rng.uniform(0.01, 0.08)) if shot.shadow else (0.0, 1.0)
    )

    def lit(u: Pixels, v: Pixels) -> Pixels:
        along = (u / w_mm - 0.5) * math.cos(angle) + (v / h_mm - 0.5) * math.sin(angle)
        light = 1.0 - shot.uneven * np.clip(0.5 + along, 0.0, 1.0)
        if shot.shadow:
            line = (u / w_mm - place) * math.cos(turned) + (v / h_mm - place) * math.sin(turned)
            light *= 1.0 - shot.shadow / (1.0 + np.exp(-np.clip(line / soft, -30, 30)))
        return light.astype(np.float32)

    return lit


def _hand(
    size: tuple[int, int],
    camera: Floats,
    size_mm: tuple[float, float],
    rng: np.random.Generator,
) -> Pixels:
    """(h, w, 1) how much a hand covers that holds the sheet down at one edge: a rounded patch of
    skin, fingers inwards."""
    w_mm, h_mm = size_mm
    side, share = int(rng.integers(4)), rng.uniform(0.3, 0.7)
    edge = [(share * w_mm, 0.0), (w_mm, share * h_mm), (share * w_mm, h_mm), (0.0, share * h_mm)]
    inward = [(0, 1), (-1, 0), (0, -1), (1, 0)][side]
    x, y = edge[side]
    mask = np.zeros(size[::-1], dtype=np.uint8)

    def px(points: Floats) -> Pixels:
        lifted = np.column_stack([points, np.ones(len(points))]) @ camera.T
        return np.round(lifted[:, :2] / lifted[:, 2:]).astype(np.int32)

    turn = np.linspace(0, 2 * math.pi, 40)
    palm = np.column_stack([x + 42 * np.cos(turn), y + 42 * np.sin(turn)]) - 38 * np.array(inward)
    cv2.fillPoly(mask, [px(palm)], 255)
    for finger in range(4):
        off = (finger - 1.5) * 20.0
        base = np.array([x, y]) + off * np.array([inward[1], inward[0]])
        ends = px(np.array([base - 20 * np.array(inward), base + 34 * np.array(inward)]))
        wide = max(3, int(np.hypot(*(ends[1] - ends[0])) * 17 / 54))
        cv2.line(mask, ends[0].tolist(), ends[1].tolist(), 255, wide)
    soft: Pixels = cv2.GaussianBlur(mask, (0, 0), 1.2).astype(np.float32)[..., None] / 255.0
    return soft
