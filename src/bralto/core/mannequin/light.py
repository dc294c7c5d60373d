"""How the model is lit and shown: one key light, its softness, what stands on the ground."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.camera import View3D

__all__ = ["Look", "cone", "hemisphere", "key_light"]


@dataclass(frozen=True, slots=True)
class Look:
    """The light and what is drawn besides the figure.

    Attributes:
        aside_deg: where the key light comes from, seen from the camera: 0 from behind it, + from
            the viewer's right, 180 against it. It goes with the camera, so no view is dark.
        above_deg: its height over the horizon. ``soft_deg``: half the angle that it fills.
        outlines: edges drawn over the shading.
        ring: a circle on the ground about the figure's place; ``frame`` a box about the figure.
    """

    aside_deg: float = -40.0
    above_deg: float = 45.0
    soft_deg: float = 6.0
    outlines: bool = False
    ring: bool = True
    frame: bool = False

    def checked(self) -> Look:
        """The look itself.

        Raises:
            UserError: the light shines from where none can.
        """
        for name, value, low, high in (
            ("turn", self.aside_deg, -180.0, 180.0),
            ("height", self.above_deg, 5.0, 90.0),
            ("softness", self.soft_deg, 0.0, 40.0),
        ):
            if not math.isfinite(value) or not low <= value <= high:
                raise UserError(
                    f"the light's {name} is {value:g}°; it goes from {low:g} to {high:g}°"
                )
        return self


def key_light(look: Look, view: View3D) -> Floats:
    """(3,) unit way from the figure to the light, in the world."""
    right = view.rotation[0]
    back = -view.rotation[2] * np.array([1.0, 0.0, 1.0])
    back = back / float(np.linalg.norm(back))
    a, h = math.radians(look.aside_deg), math.radians(look.above_deg)
    flat = math.sin(a) * right + math.cos(a) * back
    way: Floats = math.cos(h) * flat + np.array([0.0, math.sin(h), 0.0])
    return way


def cone(way: Floats, soft_deg: float, count: int) -> Floats:
    """(count, 3) unit ways spread evenly over a disc about ``way`` of that half angle."""
    i = np.arange(count) + 0.5
    radius = math.tan(math.radians(soft_deg)) * np.sqrt(i / count)
    turn = math.pi * (3.0 - math.sqrt(5.0)) * i
    a, b = _across(way)
    ways = way + np.outer(radius * np.cos(turn), a) + np.outer(radius * np.sin(turn), b)
    spread: Floats = ways / np.linalg.norm(ways, axis=1, keepdims=True)
    return spread


def hemisphere(count: int) -> Floats:
    """(count, 3) unit ways about +z, as dense as their cosine: a share of an even sky each."""
    i = np.arange(count) + 0.5
    radius, turn = np.sqrt(i / count), math.pi * (3.0 - math.sqrt(5.0)) * i
    return np.column_stack(
        [radius * np.cos(turn), radius * np.sin(turn), np.sqrt(1.0 - np.square(radius))]
    )


def _across(way: Floats) -> tuple[Floats, Floats]:
    other = np.array([0.0, 1.0, 0.0]) if abs(way[1]) < 0.9 else np.array([1.0, 0.0, 0.0])
    a = np.cross(other, way)
    a = a / float(np.linalg.norm(a))
    return a, np.cross(way, a)
