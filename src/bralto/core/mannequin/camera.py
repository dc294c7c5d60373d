"""The camera before the model stand: where it looks from, and where points fall in the picture.

A pinhole (Hartley and Zisserman 2004, 6.1). The picture plane stays upright unless the camera is
tilted, and the picture is shifted over it so that the figure is in its middle, as with the rising
front of a view camera: verticals stay vertical.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError

__all__ = ["FILM_MM", "Camera", "View3D", "looking", "nearness", "nearness_note"]

FILM_MM = (24.0, 36.0)
"""Width and height of a small picture held upright, mm (ISO 1007)."""

_AIR = 0.06
"""Share of the picture's height and width left free at each side when the figure is fitted."""


@dataclass(frozen=True, slots=True)
class Camera:
    """How the model is looked at.

    Attributes:
        distance_m: from the lens to the plumb line through the stand's middle, m.
        eye_m: height of the lens above the ground, m.
        around_deg: how far the camera has walked round to the figure's left; 0 is in front.
        tilt_deg: downward tilt of the picture plane; 0 keeps verticals vertical.
        focal_mm: focal length as for a small picture; None fits the figure to the picture.
    """

    distance_m: float = 5.0
    eye_m: float = 1.5
    around_deg: float = 0.0
    tilt_deg: float = 0.0
    focal_mm: float | None = None

    def checked(self) -> Camera:
        """The camera itself.

        Raises:
            UserError: it stands or looks where no camera can.
        """
        limits = (
            ("distance", self.distance_m, 0.3, 50.0, " m"),
            ("eye height", self.eye_m, 0.02, 10.0, " m"),
            ("turn", self.around_deg, -360.0, 360.0, "°"),
            ("tilt", self.tilt_deg, -60.0, 60.0, "°"),
            ("focal length", 50.0 if self.focal_mm is None else self.focal_mm, 8.0, 1200.0, " mm"),
        )
        for name, value, low, high, unit in limits:
            if not math.isfinite(value) or not low <= value <= high:
                raise UserError(
                    f"the camera's {name} is {value:g}{unit}; "
                    f"it goes from {low:g} to {high:g}{unit}"
                )
        return self


@dataclass(frozen=True, slots=True, eq=False)
class View3D:
    """A camera that looks at one figure, with the picture it takes.

    Attributes:
        eye: (3,) place of the lens, heads.
        rotation: (3, 3), rows are the camera's right, down and forward in the world.
        focal: px; ``centre`` (2,) px where the ray straight ahead meets the picture.
        width, height: of the picture, px.
    """

    eye: Floats
    rotation: Floats
    focal: float
    centre: Floats
    width: int
    height: int

    def project(self, points: Floats) -> Floats:
        """(..., 2) image px of (..., 3) points, heads; NaN for what lies behind the lens."""
        seen = (points - self.eye) @ self.rotation.T
        depth = np.where(seen[..., 2:] > 1e-6, seen[..., 2:], np.nan)
        px: Floats = self.centre + self.focal * seen[..., :2] / depth
        return px

    def depth(self, points: Floats) -> Floats:
        """(...) distance of (..., 3) points from the lens, along the way it looks, heads."""
        ahead: Floats = (points - self.eye) @ self.rotation[2]
        return ahead

    def rays(self, px: Floats) -> Floats:
        """(..., 3) ways in the world of the rays through (..., 2) image px, depth 1."""
        across, fall, ahead = self.axes
        ways: Floats = px[..., :1] * across + px[..., 1:] * fall + ahead
        return ways

    @property
    def axes(self) -> Floats:
        """(3, 3): the way of the ray through px (x, y) is x times the first row, y times the
        second, and the third."""
        right, down, ahead = self.rotation
        across, fall = right / self.focal, down / self.focal
        return np.array([across, fall, ahead - self.centre[0] * across - self.centre[1] * fall])

    def at_size(self, width: int, height: int) -> View3D:
        """The same view as a picture of another size, the figure as high in it."""
        k = height / self.height
        middle = np.array([0.5 * (width - k * self.width), 0.0])
        return replace(
            self, focal=k * self.focal, centre=k * self.centre + middle, width=width, height=height
        )


def looking(camera: Camera, head_m: float, points: Floats, width: int, height: int) -> View3D:
    """Point a camera at what it is to show.

    Args:
        head_m: height of the figure's head, m: the world is in heads.
        points: (n, 3) what is to be seen, heads; their middle is put into the picture's.

    Raises:
        UserError: the camera stands inside or behind what it should show.
    """
    camera = camera.checked()
    way = math.radians(camera.around_deg)
    eye = np.array([math.sin(way), 0.0, math.cos(way)]) * camera.distance_m / head_m
    eye[1] = camera.eye_m / head_m
    forward = np.array([-math.sin(way), 0.0, -math.cos(way)])
    right = np.array([math.cos(way), 0.0, -math.sin(way)])
    down = np.array([0.0, -1.0, 0.0])
    c, s = math.cos(math.radians(camera.tilt_deg)), math.sin(math.radians(camera.tilt_deg))
    turned = np.array([right, c * down - s * forward, c * forward + s * down])
    view = View3D(eye, turned, 1.0, np.zeros(2), width, height)
    depth = view.depth(points)
    if float(depth.min()) < 0.25:
        raise UserError(
            f"the camera stands at {camera.distance_m:g} m, inside what it should show "
            "or behind part of it; step back"
        )
    seen = view.project(points)
    low, high = seen.min(axis=0), seen.max(axis=0)
    room = np.array([width, height]) * (1.0 - 2.0 * _AIR)
    focal = float((room / np.maximum(high - low, 1e-9)).min())
    if camera.focal_mm is not None:
        focal = camera.focal_mm / FILM_MM[1] * height
    centre = 0.5 * np.array([width, height]) - focal * 0.5 * (low + high)
    return replace(view, focal=focal, centre=centre)


_NOTABLE = 0.12
"""Share by which what is near outgrows what is far before it is worth a word."""


def nearness(view: View3D, points: Floats) -> float:
    """How much larger the nearest of (n, 3) points comes out than the farthest, as a share."""
    depth = view.depth(points)
    return float(depth.max() / depth.min()) - 1.0


def nearness_note(camera: Camera, view: View3D, points: Floats) -> str:
    """A sentence where the camera is so near that it foreshortens; else nothing."""
    share = nearness(view, points)
    if share < _NOTABLE:
        return ""
    return (
        f"From {camera.distance_m:.1f} m what is nearest comes out {100 * share:.0f} % larger "
        "than what is farthest."
    )
