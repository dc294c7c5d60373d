"""A simulated phone: a photo of a flat drawing on a table, with where its corners truly are.

A pinhole with radial distortion looks at the plane of the table. Every pixel of the photo is traced
back to that plane and takes its colour from the sheet or from the table, then come a shadow, uneven
light, grain and JPEG: what makes a real photo hard to put right, in known amounts.
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
from bralto.stand.tables import TABLES, table

__all__ = ["TABLES", "Aim", "PhonePhoto", "PhoneShot", "photograph", "random_shot"]

_ROWS = 32
"""Rows of the photo that are made at a time."""

_PAPER = np.array([238, 236, 228], dtype=np.float32)
_SKIN = np.array([188, 140, 112], dtype=np.float32)


@dataclass(frozen=True, slots=True)
class PhoneShot:
    """How a photo is taken.

    Attributes:
        size: of the photo, px.
        slant_deg: angle between the line of sight and the sheet's normal.
        around_deg: from which side of the sheet one looks, 0 from below its lower edge.
        roll_deg: turn of the phone about its line of sight.
        fill: how much of the photo the sheet takes, along the tighter side.
        wide: focal length by the photo's longer side; 0.72 is a phone's main camera (26 mm of a
            small picture's 36).
        bow: radial distortion at the photo's corner; negative is barrel.
        curl: mm by which the middle of the lower edge curls up; its corners lie flat.
        curled: share of the sheet's height, from the lower edge up, over which it does.
        table: one of `TABLES`.
        shadow: how much of the light an object beside the phone takes, 0 to 1.
        uneven: how much darker the far side of the table is, 0 to 1.
        hand: a hand lies over one edge.
        second: another sheet sticks out from below.
        grain: noise, levels of 255.
        quality: of JPEG; 0 leaves the picture as it is.
    """

    size: tuple[int, int] = (1600, 1200)
    slant_deg: float = 0.0
    around_deg: float = 0.0
    roll_deg: float = 0.0
    fill: float = 0.8
    wide: float = 0.72
    bow: float = 0.0
    curl: float = 0.0
    curled: float = 0.25
    table: str = "wood"
    shadow: float = 0.0
    uneven: float = 0.0
    hand: bool = False
    second: bool = False
    grain: float = 3.0
    quality: int = 90


@dataclass(frozen=True, slots=True, eq=False)
class Aim:
    """A phone held over a sheet: where what lies on the sheet comes in the photo.

    Attributes:
        camera: (3, 3) array, sheet mm to image px of a lens without distortion.
        middle, reach: of the lens, see `to_photo`, px.
        size_mm, shot: of which sheet, and how it is taken.
    """

    camera: Floats
    middle: tuple[float, float]
    reach: float
    size_mm: tuple[float, float]
    shot: PhoneShot

    @staticmethod
    def at(size_mm: tuple[float, float], shot: PhoneShot) -> Aim:
        """At a sheet of that width and height."""
        width, height = shot.size
        middle, reach = (width / 2.0, height / 2.0), math.hypot(width, height) / 2.0
        return Aim(_camera(size_mm, shot), middle, reach, size_mm, shot)

    @property
    def corners(self) -> Floats:
        """(4, 2) the sheet's corners from the top-left clockwise, image px."""
        w_mm, h_mm = self.size_mm
        return self.to_photo(np.array([[0.0, 0.0], [w_mm, 0.0], [w_mm, h_mm], [0.0, h_mm]]))

    def to_photo(self, xy_mm: Floats) -> Floats:
        """Where points of the sheet (n, 2), mm from its top-left corner, lie in the photo, px."""
        u, v = np.asarray(xy_mm, np.float64).T
        if self.shot.curl:
            for _ in range(60):  # where what is drawn at v has been lifted from
                v = xy_mm[:, 1] - _lifted(u, v, self.size_mm, self.shot)
        lifted = np.column_stack([u, v, np.ones(len(xy_mm))]) @ self.camera.T
        straight = (lifted[:, :2] / lifted[:, 2:] - self.middle) / self.reach
        bent = straight.copy()
        for _ in range(20):  # straight = bent (1 + bow |bent|^2), solved for bent
            bent = straight / (1.0 + self.shot.bow * np.sum(bent * bent, axis=1, keepdims=True))
        place: Floats = bent * self.reach + np.array(self.middle)
        return place

    def px_a_mm(self, xy_mm: Floats) -> Floats:
        """(n,) px a mm about points of the sheet (n, 2), mm; the sheet may lie aslant."""
        steps = [self.to_photo(xy_mm + step) - self.to_photo(xy_mm) for step in np.eye(2)]
        scale: Floats = np.sqrt(0.5 * np.square(steps).sum(axis=(0, 2)))
        return scale


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
    camera, middle, reach = aim.camera, aim.middle, aim.reach
    back = np.linalg.inv(camera).astype(np.float32)

    def traced(x: Pixels, y: Pixels) -> tuple[Pixels, Pixels]:
        """Where on the table pixels lie, mm."""
        bent_x, bent_y = (x - middle[0]) / reach, (y - middle[1]) / reach
        stretch = 1.0 + shot.bow * (bent_x * bent_x + bent_y * bent_y)
        px, py = bent_x * stretch * reach + middle[0], bent_y * stretch * reach + middle[1]
        w = back[2, 0] * px + back[2, 1] * py + back[2, 2]
        u = (back[0, 0] * px + back[0, 1] * py + back[0, 2]) / w
        v = (back[1, 0] * px + back[1, 1] * py + back[1, 2]) / w
        return u, (v + _lifted(u, v, size_mm, shot) if shot.curl else v)

    x = np.arange(width, dtype=np.float32)[None] + np.float32(0.5)
    y = np.arange(height, dtype=np.float32)[:, None] + np.float32(0.5)
    near = traced(x[:, width // 2 : width // 2 + 2], y[height // 2 : height // 2 + 1])
    seen = _scene(drawing, size_mm, shot, _px_per_mm(*near), rng)
    lit = _light(shot, size_mm, rng)
    hand = _hand(shot.size, camera, size_mm, rng) if shot.hand else None
    shown = np.empty((height, width, 3), np.uint8)
    # A few rows at a time: what is made on the way stays in the processor's own memory.
    for top in range(0, height, _ROWS):
        rows = slice(top, min(top + _ROWS, height))
        u, v = traced(x, y[rows])
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


def _lifted(u: Pixels, v: Pixels, size_mm: tuple[float, float], shot: PhoneShot) -> Pixels:
    """By how much more than flat the paper reaches down at places of the sheet's plane, mm."""
    wide, high = size_mm
    up = np.sin(np.pi * np.clip(u / wide, 0.0, 1.0))
    raised: Pixels = up * np.clip((v / high - 1.0) / shot.curled + 1.0, 0.0, 1.5)
    return shot.curl * raised


def _camera(size_mm: tuple[float, float], shot: PhoneShot) -> Floats:
    """(3, 3) map from sheet mm to px: the camera looks at the sheet's middle from a distance at
    which the sheet fills the photo."""
    width, height = shot.size
    slant, around, roll = (
        math.radians(v) for v in (shot.slant_deg, shot.around_deg, shot.roll_deg)
    )
    # y runs down the sheet; the eye stands over it, towards its lower edge where around is 0.
    eye = np.array(
        [math.sin(slant) * math.sin(around), math.sin(slant) * math.cos(around), -math.cos(slant)]
    )
    forward = -eye
    right = np.cross(np.array([0.0, 1.0, 0.0]), forward)
    right /= np.linalg.norm(right)
    down = np.cross(forward, right)
    turn = np.array([[math.cos(roll), math.sin(roll)], [-math.sin(roll), math.cos(roll)]])
    across = np.vstack([turn @ np.array([right, down]), forward])
    focal = shot.wide * max(width, height)
    inner = np.array([[focal, 0.0, width / 2.0], [0.0, focal, height / 2.0], [0.0, 0.0, 1.0]])
    w_mm, h_mm = size_mm
    centre = np.array([w_mm / 2.0, h_mm / 2.0, 0.0])
    ends = np.array([[0.0, 0.0, 0.0], [w_mm, 0.0, 0.0], [w_mm, h_mm, 0.0], [0.0, h_mm, 0.0]])

    def project(distance: float) -> tuple[Floats, Floats]:
        origin = centre + distance * eye
        plane = np.column_stack([across[:, 0], across[:, 1], -across @ origin])
        seen = (ends - origin) @ across.T @ inner.T
        return inner @ plane, seen[:, :2] / seen[:, 2:]

    near, far = 0.2 * max(size_mm), 50.0 * max(size_mm)
    for _ in range(60):
        distance = math.sqrt(near * far)
        _, places = project(distance)
        extent = np.abs(places - [width / 2.0, height / 2.0]).max(axis=0)
        inside = np.all(2.0 * extent <= shot.fill * np.array([width, height]))
        # Nearer than its own half the sheet would lie behind the eye in part.
        near, far = (
            (near, distance) if inside and distance > max(size_mm) * 0.6 else (distance, far)
        )
    return project(far)[0]


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
