"""The model's picture: cast, lit, shaded, its edges smoothed."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from bralto.core.arrays import Pixels
from bralto.core.figure.camera import View3D
from bralto.core.figure.light import key_light
from bralto.stand.model.mesh import Singles
from bralto.stand.model.occlusion import light_and_sky, shared
from bralto.stand.model.seen import Seen, look_at, pixels_of, together
from bralto.stand.model.shade import shade
from bralto.stand.model.stage import NO_WOOD, Stage

__all__ = ["Rendered", "preview", "render"]

_RAYS = 2
_BANDS = 2
"""Stretches of the picture that are cast at the same time."""

_EDGE = np.array([[0.25, 0.1], [-0.1, 0.25], [-0.25, -0.1], [0.1, -0.25]], np.float32)
"""Where in a pixel of an edge rays go: a turned square."""


@dataclass(frozen=True, slots=True, eq=False)
class Rendered:
    """A picture and what its pixels see.

    Attributes:
        pixels: (h, w, 3) uint8. ``owner`` (h, w): row of ``parts``, or `seen.GROUND`, `BACKDROP`.
    """

    pixels: Pixels
    owner: npt.NDArray[np.int16]
    parts: tuple[str, ...]

    @property
    def image(self) -> Image.Image:
        """As a Pillow picture."""
        return Image.fromarray(self.pixels)


def preview(stage: Stage, view: View3D) -> Rendered:
    """The picture while something is moved: one hard shadow, no smoothing."""
    return _picture(stage, view, rays=0)


def render(stage: Stage, view: View3D) -> Rendered:
    """The finished picture."""
    return _picture(stage, view, rays=_RAYS)


def _picture(stage: Stage, view: View3D, rays: int) -> Rendered:
    look = stage.setting.look
    size = (view.width, view.height)
    way = key_light(look, view)
    caster, mesh = stage.caster, stage.caster.mesh
    boxes = tuple(i for i, name in enumerate(mesh.parts) if name in NO_WOOD)
    ring = stage.ring if look.ring else None
    # A small picture would lose more between two threads than it wins.
    bands = np.array_split(pixels_of(*size), _BANDS if rays else 1)

    def cast(px: Singles) -> tuple[Seen, Singles, Singles]:
        some = look_at(caster, view, px)
        return some, *light_and_sky(caster, some, px, way, look.soft_deg, rays)

    def coloured(some: Seen, its_light: Singles, its_sky: Singles) -> Singles:
        return shade(some, its_light, its_sky, way, view.eye, boxes, ring)

    # Rays and arithmetic leave the interpreter alone: two threads use two processors.
    with ThreadPoolExecutor(_BANDS) as pool:
        parts = list(pool.map(cast, bands))
        seen = together([part[0] for part in parts])
        light, sky = (np.concatenate([part[k] for part in parts]) for k in (1, 2))
        if rays:
            light, sky = shared(light, sky, seen, size)
        cuts = np.cumsum([len(band) for band in bands])[:-1]
        rows = zip(
            (part[0] for part in parts), np.split(light, cuts), np.split(sky, cuts), strict=True
        )
        colours = np.concatenate(list(pool.map(lambda one: coloured(*one), rows)))
        owner = seen.owner.reshape(view.height, view.width)
        if rays:
            at = np.nonzero(_edges(owner).ravel())[0]

            def beside(off: Singles) -> Singles:
                some = look_at(caster, view, pixels_of(*size)[at] + off)
                near = _alike(owner, at, some.owner)
                return coloured(some, light[near], sky[near])

            colours[at] = sum(pool.map(beside, _EDGE)) / np.float32(len(_EDGE))
    picture = colours.reshape(view.height, view.width, 3)
    if look.outlines:
        picture = picture * (1.0 - 0.8 * _outlines(seen, owner))[..., None]
    steps = np.clip(picture * np.float32(len(_SRGB) - 1), 0, len(_SRGB) - 1)
    pixels = _SRGB[steps.astype(np.int16)]
    if look.frame:
        pixels = _framed(pixels, stage, view)
    return Rendered(pixels, owner, mesh.parts)


def _edges(owner: npt.NDArray[np.int16]) -> npt.NDArray[np.bool_]:
    """(h, w) pixels with a neighbour that sees something else."""
    edge = np.zeros(owner.shape, bool)
    across, down = owner[:, 1:] != owner[:, :-1], owner[1:] != owner[:-1]
    edge[:, 1:] |= across
    edge[:, :-1] |= across
    edge[1:] |= down
    edge[:-1] |= down
    return edge


def _alike(
    owner: npt.NDArray[np.int16], at: npt.NDArray[np.intp], wanted: npt.NDArray[np.int16]
) -> npt.NDArray[np.intp]:
    """(n,) pixels next to ``at`` that see the same as a ray beside it: their light is taken."""
    height, width = owner.shape
    y, x = np.divmod(at, width)
    near = at.copy()
    for dx, dy in ((0, 1), (0, -1), (1, 0), (-1, 0), (0, 0)):  # the pixel itself has the last word
        there = np.clip(y + dy, 0, height - 1) * width + np.clip(x + dx, 0, width - 1)
        near = np.where(owner.ravel()[there] == wanted, there, near)
    return near


def _outlines(seen: Seen, owner: npt.NDArray[np.int16]) -> Singles:
    """(h, w) how much of a line is where parts meet, fall back or crease."""
    height, width = owner.shape
    depth = np.where(np.isfinite(seen.depth), seen.depth, 1e3).reshape(height, width)
    normals = seen.normals.reshape(height, width, 3)
    line = np.zeros((height, width), np.float32)
    for here, there in (
        ((slice(None), slice(1, None)), (slice(None), slice(None, -1))),
        ((slice(1, None), slice(None)), (slice(None, -1), slice(None))),
    ):
        wood = (owner[here] >= 0) | (owner[there] >= 0)
        jump = np.abs(depth[here] - depth[there]) > 0.06
        crease = np.einsum("...i,...i", normals[here], normals[there]) < 0.72
        found = wood & (jump | crease)
        line[here] = np.maximum(line[here], found)
        line[there] = np.maximum(line[there], 0.6 * found)
    return line


def _srgb(steps: int) -> Pixels:
    """(steps,) uint8: linear light in even steps as sRGB (IEC 61966-2-1)."""
    linear = np.linspace(0.0, 1.0, steps)
    curved = np.where(
        linear <= 0.0031308, 12.92 * linear, 1.055 * np.power(linear, 1 / 2.4) - 0.055
    )
    return (255.0 * curved + 0.5).astype(np.uint8)


_SRGB = _srgb(8192)


def _framed(pixels: Pixels, stage: Stage, view: View3D) -> Pixels:
    """A box about the figure in perspective, its edges on the ground and above it."""
    points = stage.points
    low, high = points.min(axis=0), points.max(axis=0)
    corners = np.array([[(low, high)[i][0], (0.0, high[1])[j], (low, high)[k][2]]
                        for i in (0, 1) for j in (0, 1) for k in (0, 1)])  # fmt: skip
    px = view.project(corners)
    image = Image.fromarray(pixels)
    draw = ImageDraw.Draw(image)
    for a in range(8):
        for bit in (1, 2, 4):
            if not a & bit and np.isfinite(px[[a, a | bit]]).all():
                ends = [(float(x), float(y)) for x, y in px[[a, a | bit]]]
                draw.line(ends, fill=(112, 104, 94), width=max(1, round(view.height / 900)))
    return np.asarray(image)
