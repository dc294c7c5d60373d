"""The model's picture: cast, lit, shaded, its edges smoothed."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from PIL import Image, ImageDraw

from bralto.core.arrays import Bools, Floats, Ints, Pixels
from bralto.core.mannequin.bust import PLINTHS
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.light import key_light
from bralto.stand.model.form.mesh import Singles
from bralto.stand.model.light.floor import (
    UP,
    WALL,
    Behind,
    Floor,
    behind,
    floor_colours,
    floor_under,
)
from bralto.stand.model.light.occlusion import Mapped, light_and_sky, shared
from bralto.stand.model.light.seen import (
    BACKDROP,
    GROUND,
    Owners,
    Seen,
    look_at,
    pixels_of,
    together,
)
from bralto.stand.model.light.shade import BOX, PLASTER, WOOD, Paint, as_linear, as_srgb, shade
from bralto.stand.model.stage import PROPS, Stage

__all__ = ["Rendered", "preview", "render"]

_RAYS = 2
_BANDS = 2
"""Stretches of the picture that are worked at at the same time."""

_EDGE = np.array([[0.25, 0.1], [-0.1, 0.25], [-0.25, -0.1], [0.1, -0.25]], np.float32)
"""Where in a pixel of an edge rays go: a turned square."""


@dataclass(frozen=True, slots=True, eq=False)
class Rendered:
    """A picture and what its pixels see.

    Attributes:
        pixels: (h, w, 3) uint8. ``owner`` (h, w): row of ``parts``, or `seen.GROUND`, `BACKDROP`.
    """

    pixels: Pixels
    owner: Owners
    parts: tuple[str, ...]

    @property
    def image(self) -> Image.Image:
        """As a Pillow picture."""
        return Image.fromarray(self.pixels)

    def enlarged(self, width: int, height: int) -> Pixels:
        """(height, width, 3) uint8: the pixels as a larger picture, evenly blended."""
        import cv2  # a fifth of a second to load

        larger = cv2.resize(self.pixels, (width, height), interpolation=cv2.INTER_LINEAR)
        return np.asarray(larger, dtype=np.uint8)


def preview(stage: Stage, view: View3D) -> Rendered:
    """The picture while something is moved: one hard shadow, no smoothing."""
    return _drawn(stage, view, rays=0)


def render(stage: Stage, view: View3D) -> Rendered:
    """The finished picture."""
    return _drawn(stage, view, rays=_RAYS)


def _drawn(stage: Stage, view: View3D, rays: int) -> Rendered:
    # Rays and arithmetic leave the interpreter alone: two threads use two processors.
    with ThreadPoolExecutor(_BANDS) as pool:
        return _picture(_Scene.of(stage, view), rays, pool.map)


@dataclass(frozen=True, slots=True, eq=False)
class _Scene:
    """What is looked at, from where, in what light."""

    stage: Stage
    view: View3D
    way: Floats
    paints: tuple[Paint, ...]
    ring: float | None

    @staticmethod
    def of(stage: Stage, view: View3D) -> _Scene:
        look, parts = stage.setting.look, stage.caster.mesh.parts
        of_it = PLASTER if stage.setting.subject in PLINTHS else WOOD
        paints = tuple(BOX if name in PROPS else of_it for name in parts)
        return _Scene(stage, view, key_light(look, view), paints, stage.ring if look.ring else None)

    def wood(self, seen: Seen, light: Singles, sky: Singles) -> Singles:
        """(k, 3) linear colours of what is seen; ``light``, ``sky`` (n,) of all rays."""
        at = seen.at
        return shade(seen, light[at], sky[at], self.way, self.view.eye, self.paints)

    def all(self, seen: Seen, floor: Floor, light: Singles, sky: Singles) -> Singles:
        """(n, 3) linear colours of rays, with the ground and the wall."""
        colours = np.broadcast_to(WALL, (seen.count, 3)).copy()
        colours[floor.at] = floor_colours(floor, light[floor.at], sky[floor.at], self.ring)
        colours[seen.at] = self.wood(seen, light, sky)
        return colours


@dataclass(frozen=True, slots=True, eq=False)
class _Band:
    """A stretch of n pixels of the picture, row after row.

    Attributes:
        back: what it would show without the figure; ``seen`` what it shows of it.
        owner, light, sky: (n,) by pixel.
    """

    back: Behind
    seen: Seen
    owner: Owners
    light: Singles
    sky: Singles

    @staticmethod
    def cast(scene: _Scene, ends: tuple[int, int], rays: int) -> _Band:
        view, caster = scene.view, scene.stage.caster
        px, back = pixels_of(view.width, view.height)[slice(*ends)], behind(view, *ends)
        seen = look_at(caster, view, px)
        owner = back.owner.copy()
        owner[seen.at] = seen.owner
        bare = back.floor.only(owner[back.floor.at] == GROUND)
        soft = scene.stage.setting.look.soft_deg
        lit = light_and_sky(caster, seen, bare, px, scene.way, soft, rays)
        return _Band(back, seen, owner, *lit)

    @property
    def depth(self) -> Singles:
        """(n,) along the camera's way, heads; far away for the wall."""
        depth = np.full(len(self.owner), 1e3, np.float32)
        depth[self.back.floor.at] = self.back.floor.depth
        depth[self.seen.at] = self.seen.depth
        return depth

    def painted(self, scene: _Scene) -> Pixels:
        """(n, 3) uint8."""
        pixels = self.back.pixels(scene.ring)
        floor = self.back.floor
        dim = np.minimum(self.light, self.sky)[floor.at] < 1.0
        floor = floor.only(dim & (self.owner[floor.at] == GROUND))
        light, sky = self.light[floor.at], self.sky[floor.at]
        pixels[floor.at] = as_srgb(floor_colours(floor, light, sky, scene.ring))
        pixels[self.seen.at] = as_srgb(scene.wood(self.seen, self.light, self.sky))
        return pixels


def _picture(scene: _Scene, rays: int, run: Mapped) -> Rendered:
    view, stage = scene.view, scene.stage
    shape = (view.height, view.width)
    cuts = np.linspace(0, view.height * view.width, _BANDS + 1).astype(int).tolist()
    bands = list(run(lambda ends: _Band.cast(scene, ends, rays), pairwise(cuts)))
    owner = np.concatenate([band.owner for band in bands]).reshape(shape)
    if rays:
        bands = _evened(bands, owner, run)
    pixels = np.concatenate(list(run(lambda band: band.painted(scene), bands)))
    if rays:
        at = np.nonzero(_edges(owner).ravel())[0]
        pixels[at] = as_srgb(_smooth(scene, bands, owner, at, run))
    if stage.setting.look.outlines:
        line = _outlines(bands, owner).ravel()
        at = np.nonzero(line)[0]
        pixels[at] = as_srgb(as_linear(pixels[at]) * (1.0 - 0.8 * line[at])[:, None])
    pixels = pixels.reshape(*shape, 3)
    if stage.setting.look.frame:
        pixels = _framed(pixels, stage, view)
    return Rendered(pixels, owner, stage.caster.mesh.parts)


def _evened(bands: Sequence[_Band], owner: Owners, run: Mapped) -> list[_Band]:
    """The bands with light and sky shared between neighbours."""
    light, sky = (np.concatenate([getattr(b, name) for b in bands]) for name in ("light", "sky"))
    light, sky = shared(light, sky, together([band.seen for band in bands]), owner, run)
    cuts = np.cumsum([len(band.owner) for band in bands])[:-1]
    parts = zip(bands, np.split(light, cuts), np.split(sky, cuts), strict=True)
    return [replace(band, light=its_light, sky=its_sky) for band, its_light, its_sky in parts]


def _smooth(scene: _Scene, bands: Sequence[_Band], owner: Owners, at: Ints, run: Mapped) -> Singles:
    """(n, 3) linear colours of edges, the rows ``at`` of the picture, from a few rays each."""
    view = scene.view
    px = pixels_of(view.width, view.height)[at]
    light, sky = (np.concatenate([getattr(b, name) for b in bands]) for name in ("light", "sky"))

    def beside(off: Singles) -> Singles:
        seen, floor = look_at(scene.stage.caster, view, px + off), floor_under(view, px + off)
        own = np.full(len(at), BACKDROP, dtype=np.int16)
        own[floor.at], own[seen.at] = GROUND, seen.owner
        near = _alike(owner, at, own)
        return scene.all(seen, floor, light[near], sky[near])

    mean: Singles = np.mean(list(run(beside, _EDGE)), axis=0)
    return mean


def _edges(owner: Owners) -> Bools:
    """(h, w) pixels with a neighbour that sees something else."""
    edge = np.zeros(owner.shape, bool)
    across, down = owner[:, 1:] != owner[:, :-1], owner[1:] != owner[:-1]
    edge[:, 1:] |= across
    edge[:, :-1] |= across
    edge[1:] |= down
    edge[:-1] |= down
    return edge


def _alike(owner: Owners, at: Ints, wanted: Owners) -> Ints:
    """(n,) pixels next to ``at`` that see the same as a ray beside it: their light is taken."""
    height, width = owner.shape
    y, x = np.divmod(at, width)
    near = at.copy()
    for dx, dy in ((0, 1), (0, -1), (1, 0), (-1, 0), (0, 0)):  # the pixel itself has the last word
        there = np.clip(y + dy, 0, height - 1) * width + np.clip(x + dx, 0, width - 1)
        near = np.where(owner.ravel()[there] == wanted, there, near)
    return near


def _outlines(bands: Sequence[_Band], owner: Owners) -> Singles:
    """(h, w) how much of a line is where parts meet, fall back or crease."""
    depth = np.concatenate([band.depth for band in bands]).reshape(owner.shape)
    normals = np.concatenate([band.seen.over(band.seen.normals, UP) for band in bands])
    normals = normals.reshape(*owner.shape, 3)
    line = np.zeros(owner.shape, np.float32)
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
