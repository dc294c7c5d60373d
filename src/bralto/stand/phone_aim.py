"""Where a phone that photographs a sheet is held, and where in its photo what lies on the sheet is:
a pinhole with radial distortion over the plane of the table."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Pixels

__all__ = ["Aim", "PhoneShot"]


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

    def to_table(self, x: Pixels, y: Pixels) -> tuple[Pixels, Pixels]:
        """Where on the table, mm from the sheet's top-left corner, places of the photo lie, px; the
        way back of `to_photo`."""
        (across, down), reach, back = self.middle, self.reach, self._back
        bent_x, bent_y = (x - across) / reach, (y - down) / reach
        stretch = 1.0 + self.shot.bow * (bent_x * bent_x + bent_y * bent_y)
        px, py = bent_x * stretch * reach + across, bent_y * stretch * reach + down
        w = back[2, 0] * px + back[2, 1] * py + back[2, 2]
        u = (back[0, 0] * px + back[0, 1] * py + back[0, 2]) / w
        v = (back[1, 0] * px + back[1, 1] * py + back[1, 2]) / w
        return u, (v + _lifted(u, v, self.size_mm, self.shot) if self.shot.curl else v)

    @property
    def _back(self) -> Pixels:
        """(3, 3) image px to sheet mm."""
        back: Pixels = np.linalg.inv(self.camera).astype(np.float32)
        return back

    def px_a_mm(self, xy_mm: Floats) -> Floats:
        """(n,) px a mm about points of the sheet (n, 2), mm; the sheet may lie aslant."""
        steps = [self.to_photo(xy_mm + step) - self.to_photo(xy_mm) for step in np.eye(2)]
        scale: Floats = np.sqrt(0.5 * np.square(steps).sum(axis=(0, 2)))
        return scale


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
