"""The model as a learner draws it: edges and hatching in pencil on a sheet, marks with it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from PIL import Image, ImageDraw
from scipy.interpolate import BSpline, RectBivariateSpline

from bralto.core.arrays import Floats, Pixels
from bralto.core.mannequin.body.landmarks import landmarks_of
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.light import Look, key_light
from bralto.core.mannequin.posing.standing import stood
from bralto.core.views.model import View
from bralto.stand.model.answer import near_side
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import MIDDLE, Mesh
from bralto.stand.model.habits import Habits, Resized, lean_and_width, resized, straightened
from bralto.stand.model.light.seen import look_at
from bralto.stand.model.stage import Stage
from bralto.stand.pencil import on_paper, stroke

__all__ = ["Hand", "Lines", "Page", "PageDrawing", "drawn_by", "marks_by", "pencilled"]

_OVER = 2  # lines are found at twice the size
_CLOSE = 1e-7  # px: where a place on the sheet is known
_NOTHING = 1e3  # heads: how far off the bare sheet is
_HATCH = 0.045  # heads between two strokes


@dataclass(frozen=True, slots=True)
class Page:
    """The sheet: ``size_mm``, px a mm, and the share of its height that the figure takes."""

    size_mm: tuple[float, float] = (297.0, 420.0)
    px_mm: float = 2.0
    fill: float = 0.80

    @property
    def size(self) -> tuple[int, int]:
        """Width and height, px."""
        return round(self.size_mm[0] * self.px_mm), round(self.size_mm[1] * self.px_mm)


@dataclass(frozen=True, slots=True, eq=False)
class PageDrawing:
    """A drawing.

    Attributes:
        image: RGB picture of the flat sheet.
        marks: (2,) px by landmark, where the drawing truly has them.
        head_px: px of the drawing a head of the reference.
    """

    image: Image.Image
    marks: dict[str, Floats]
    head_px: float


@dataclass(frozen=True, slots=True, eq=False)
class Lines:
    """Where a learner sees a line: where a form falls back by so many heads, or where two
    neighbouring places face each other's way by less than this cosine; and lines that are drawn
    besides, (n, 2) px on the sheet."""

    falls_back: float = 0.05
    creases: float = 0.75
    drawn: tuple[Floats, ...] = ()


class Hand:
    """From the camera's picture to the sheet and back: placing, widths, lean, wandering."""

    def __init__(self, view: View3D, seen: Floats, habits: Habits, page: Page, seed: int) -> None:
        """``seen`` (n, 2) px: what the drawing must hold."""
        rng = np.random.default_rng(seed)
        self._size = width, height = page.size
        middle = 0.5 * (seen.min(axis=0) + seen.max(axis=0))
        shape = lean_and_width(habits)
        flat = (seen - middle) @ shape.T
        room = np.array([0.9 * width, page.fill * height])
        self.scale = float((room / (flat.max(axis=0) - flat.min(axis=0))).min())
        self._matrix = self.scale * shape
        off = rng.uniform(-0.02, 0.02, 2) * [width, height]
        self._shift = np.array([0.5 * width, 0.52 * height]) + off - self._matrix @ middle
        self.head_px = self.scale * view.focal / float(view.depth(np.zeros(3)))
        rows, columns = 7, 6
        grid = rng.normal(0.0, habits.wobble * self.head_px, (2, rows, columns))
        y, x = np.linspace(0.0, height, rows), np.linspace(0.0, width, columns)
        self._wander = [RectBivariateSpline(y, x, one) for one in grid]

    def to_sheet(self, px: Floats) -> Floats:
        """(n, 2) px of the sheet of (n, 2) px of the camera's picture."""
        flat = px @ self._matrix.T + self._shift
        at: Floats = flat
        for _ in range(12):  # the hand wanders slowly: each step is a tenth of the one before
            then = flat + np.stack([w.ev(at[:, 1], at[:, 0]) for w in self._wander], axis=-1)
            step, at = float(np.abs(then - at).max()), then
            if step < _CLOSE:
                break
        return at

    def to_camera(self, x: Floats, y: Floats) -> Floats:
        """(h * w, 2) px of the camera's picture that a grid of the sheet was drawn from.

        ``x`` (w,), ``y`` (h,): px of the sheet.
        """
        aside, down = (_on_grid(one, x, y) for one in self._wander)
        flat = x - self._shift[0] - aside, y[:, None] - self._shift[1] - down
        back = np.empty((len(y), len(x), 2))
        for i, way in enumerate(np.linalg.inv(self._matrix)):
            back[..., i] = way[0] * flat[0] + way[1] * flat[1]
        return back.reshape(-1, 2)


def _on_grid(spline: RectBivariateSpline, x: Floats, y: Floats) -> Floats:
    """(h, w) a spline's values, from those of its base along each axis: a fifth of the time that
    it takes by itself."""
    knots, weights = spline.get_knots(), spline.get_coeffs()
    high, wide = (
        BSpline.design_matrix(np.clip(at, own[0], own[-1]), own, 3)
        for at, own in zip((y, x), knots, strict=True)
    )
    found: Floats = high @ weights.reshape(high.shape[1], -1) @ wide.T.toarray()
    return found


def drawn_by(
    stage: Stage, view: View3D, marked: View, habits: Habits, page: Page, seed: int
) -> PageDrawing:
    """Draw what a camera sees of the model, as a learner with these habits would.

    Args:
        marked: the view whose landmarks the drawing has.
    """
    view, mesh, hand, outline, marks = _on_sheet(stage, view, marked, habits, page, seed)
    look = stage.setting.look
    image = pencilled(Caster(mesh), view, hand, outline, look, page, marks, seed)
    return PageDrawing(image, marks, hand.head_px)


def marks_by(
    stage: Stage, view: View3D, marked: View, habits: Habits, page: Page, seed: int
) -> dict[str, Floats]:
    """The marks of `drawn_by` alone, without the drawing: (2,) px by landmark."""
    return _on_sheet(stage, view, marked, habits, page, seed)[-1]


def _on_sheet(
    stage: Stage, view: View3D, marked: View, habits: Habits, page: Page, seed: int
) -> tuple[View3D, Mesh, Hand, Floats, dict[str, Floats]]:
    """What a learner looks at and draws, before the first line: the camera, the figure as they have
    it, the hand, (n, 2) px of the outline, and the marks."""
    setting = stage.setting
    if habits.eye_m:
        camera = replace(setting.camera, eye_m=max(0.05, setting.camera.eye_m + habits.eye_m))
        view = Stage.of(replace(setting, camera=camera), MIDDLE).view(view.width, view.height)
    pose = straightened(setting.build, setting.pose, habits)
    figure = resized(stood(setting.build, pose), habits, view)
    mesh = figure.mesh(MIDDLE)
    places = _places(figure, marked, view)
    outline = view.project(mesh.points[::5].astype(float))
    hand = Hand(view, outline, habits, page, seed)
    marks = dict(
        zip(places, hand.to_sheet(view.project(np.array(list(places.values())))), strict=True)
    )
    return view, mesh, hand, outline, marks


def _places(figure: Resized, marked: View, view: View3D) -> dict[str, Floats]:
    keys = tuple(one.key for one in marked.landmarks)
    named = landmarks_of(marked.key, keys, near_side(figure.figure, view))
    found = (one.on_figure(figure.figure) for one in named)
    return {one.key: figure.world(one.part, one.at) for one in found}


def pencilled(
    caster: Caster, view: View3D, hand: Hand, outline: Floats, look: Look, page: Page,
    marks: dict[str, Floats], seed: int, lines: Lines = Lines(),
) -> Image.Image:  # fmt: skip
    """The sheet with what a caster sees, drawn by a hand.

    Args:
        outline: (n, 2) px of the camera's picture that bound what is drawn.
        marks: px on the sheet, for the lines of construction.
    """
    rng = np.random.default_rng([seed, 1])
    width, height = page.size
    # Only what the figure covers is looked at; the rest of the sheet stays bare.
    covered, air = hand.to_sheet(outline), 0.15 * hand.head_px
    left, top = np.maximum(np.floor(covered.min(axis=0) - air), 0).astype(int)
    right, bottom = np.minimum(np.ceil(covered.max(axis=0) + air), page.size).astype(int)
    x = left + (np.arange((right - left) * _OVER) + 0.5) / _OVER
    y = top + (np.arange((bottom - top) * _OVER) + 0.5) / _OVER
    seen = look_at(caster, view, hand.to_camera(x, y).astype(np.float32))
    depth = seen.over(seen.depth, _NOTHING).reshape(len(y), len(x))
    normals = seen.over(seen.normals, 0.0).reshape(*depth.shape, 3)
    ink = _ink(depth, normals, key_light(look, view), hand, lines, rng)
    small = cv2.resize(ink, (right - left, bottom - top), interpolation=cv2.INTER_AREA)
    whole = np.zeros((height, width), np.float32)
    whole[top:bottom, left:right] = small
    layer = Image.fromarray((255.0 * (1.0 - whole)).astype(np.uint8))
    _construct(layer, marks, hand, rng)
    for line in lines.drawn:
        wobble = rng.normal(0.0, 0.003 * hand.head_px, (3, 2))
        stroke(ImageDraw.Draw(layer), line, 70, max(1.0, 0.012 * hand.head_px), wobble)
    return on_paper(layer, rng)


def _ink(
    depth: Pixels, normals: Pixels, way: Floats, hand: Hand, lines: Lines,
    rng: np.random.Generator,
) -> Pixels:  # fmt: skip
    """(h, w) how dark: lines, lines restated, hatching away from the light.

    Args:
        depth: (h, w) heads, `_NOTHING` where no form is. normals: (h, w, 3), zeros there.
    """
    wood = depth < _NOTHING
    weight = max(1.0, 0.015 * hand.head_px * _OVER)
    edges = _edges(depth, normals, wood, lines)
    line: Pixels = cv2.GaussianBlur(edges, (0, 0), 0.45 * weight) * (1.15 * weight)
    ink = np.clip(line, 0.0, 0.92)
    ink = np.maximum(ink, 0.45 * np.clip(_restated(line, hand, rng), 0.0, 1.0))
    dark: Pixels = np.maximum(ink, _hatching(normals, wood, way, hand, rng))
    return dark


def _edges(depth: Pixels, normals: Pixels, wood: Pixels, lines: Lines) -> Pixels:
    """(h, w) 1 where what is seen falls back, less where a form creases."""
    line = np.zeros(depth.shape, np.float32)
    for axis in (0, 1):
        here = (slice(None, -1), slice(None)) if axis == 0 else (slice(None), slice(None, -1))
        there = (slice(1, None), slice(None)) if axis == 0 else (slice(None), slice(1, None))
        jump = np.abs(depth[there] - depth[here]) > lines.falls_back
        both = wood[there] & wood[here]
        crease = both & (np.einsum("...i,...i", normals[there], normals[here]) < lines.creases)
        found = np.where(jump, np.float32(1.0), np.float32(0.6) * crease)
        np.maximum(line[here], found, out=line[here])
    return line


def _restated(line: Pixels, hand: Hand, rng: np.random.Generator) -> Pixels:
    """The lines a second time, a little beside the first."""
    height, width = line.shape
    coarse = rng.normal(0.0, 0.010 * hand.head_px * _OVER, (2, 14, 10)).astype(np.float32)
    dx, dy = (cv2.resize(one, (width, height), interpolation=cv2.INTER_CUBIC) for one in coarse)
    x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
    moved: Pixels = cv2.remap(line, x + dx, y + dy, cv2.INTER_LINEAR)
    return moved


def _hatching(
    normals: Pixels, wood: Pixels, way: Floats, hand: Hand, rng: np.random.Generator
) -> Pixels:
    """Parallel strokes where the form turns from the light."""
    height, width = wood.shape
    lit = normals @ way.astype(np.float32)
    turned = np.clip((0.42 - lit) / 0.6, 0.0, 1.0) * wood
    dark: Pixels = cv2.GaussianBlur(turned, (0, 0), 0.02 * hand.head_px * _OVER)
    x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
    gap = _HATCH * hand.head_px * _OVER
    sway = cv2.resize(
        rng.normal(0.0, 0.18, (16, 12)).astype(np.float32), (width, height),
        interpolation=cv2.INTER_CUBIC,
    )  # fmt: skip
    phase = (0.80 * x + 0.60 * y) / gap + sway
    strokes = np.clip(1.6 * np.cos(2.0 * np.pi * phase) - 0.6, 0.0, 1.0)
    shaded: Pixels = 0.55 * strokes * np.minimum(1.0, 1.6 * dark) * wood
    return shaded


def _construct(
    layer: Image.Image, marks: dict[str, Floats], hand: Hand, rng: np.random.Generator
) -> None:
    """Faint lines of the beginning: plumb, heads down it, the tilts of shoulders and hips."""
    draw, head = ImageDraw.Draw(layer), hand.head_px
    wobble = 0.004 * head
    top = marks.get("crown")
    foot = max((at for at in marks.values()), key=lambda at: float(at[1]))
    if top is None:
        return
    middle = float(marks.get("pit_of_neck", top)[0])
    ends = [np.array([[middle, top[1] - 0.25 * head], [middle, foot[1] + 0.15 * head]])]
    ends += [
        np.array([[middle - 0.5 * head, y], [middle + 0.5 * head, y]])
        for y in (float(top[1]), 0.5 * float(top[1] + foot[1]), float(foot[1]))
    ]
    for pair in ("shoulder", "hip_point", "knee"):
        if f"{pair}_r" in marks:
            a, b = marks[f"{pair}_r"], marks[f"{pair}_l"]
            ends.append(np.array([a + 0.25 * (a - b), b + 0.25 * (b - a)]))
    for two in ends:
        line = np.linspace(two[0], two[1], 24)
        stroke(draw, line, 200, max(1.0, 0.008 * head), rng.normal(0.0, wobble, (3, 2)))
