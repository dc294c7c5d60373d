"""The answer key: every landmark of the view in space and in the picture, seen or hidden."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.landmarks import Landmark3D, landmarks_of
from bralto.core.mannequin.body.mass import Weight, weigh
from bralto.core.mannequin.body.sculpt import CAST
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.known import KnownLength
from bralto.core.mannequin.posing.standing import seat
from bralto.core.study.values import Mark
from bralto.core.terms import Visibility
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.stage import Stage

__all__ = ["AnswerKey", "KeyMark", "answer_key", "near_side", "view_seen"]


@dataclass(frozen=True, slots=True, eq=False)
class KeyMark:
    """A landmark: ``place`` (3,) world, heads; ``px`` (2,) in the picture; ``part`` carries it."""

    key: str
    part: str
    place: Floats
    px: Floats
    seen: bool


@dataclass(frozen=True, slots=True, eq=False)
class AnswerKey:
    """What is known of a picture of the model.

    Attributes:
        lengths: by the id of the view's span.
        weight: how the figure stands; None for a head or a solid.
        absent: marks of the view on what does not stand there: hair that is not worn.
    """

    view: str
    marks: tuple[KeyMark, ...]
    lengths: dict[str, KnownLength]
    weight: Weight | None
    absent: tuple[str, ...] = ()

    def study_marks(self) -> dict[str, Mark]:
        """The marks as a study has them: known, so without spread; what is hidden is inferred.

        Of two marks in one spot the hidden one is left out.
        """
        out: dict[str, Mark] = {}
        for mark in sorted(self.marks, key=lambda one: not one.seen):
            x, y = (round(float(v), 3) for v in mark.px)
            taken = any(max(abs(x - m.x), abs(y - m.y)) < SAME_SPOT_PX for m in out.values())
            state = Visibility.SEEN if mark.seen else Visibility.INFERRED
            if taken:
                state = Visibility.ABSENT
            out[mark.key] = Mark(x, y, state, 0.0)
        lacking = {key: Mark(0.0, 0.0, Visibility.ABSENT, 0.0) for key in self.absent}
        return {mark.key: out[mark.key] for mark in self.marks} | lacking


def near_side(figure: Posed, view: View3D) -> str:
    """The model's side that is turned towards the eye, `r` or `l`: its chest's, its head's, or
    its hand's."""
    part = _front(figure)
    aside = figure.rotations[part] @ np.array([1.0, 0.0, 0.0])
    return "l" if float(aside @ (view.eye - figure.places[part])) > 0.0 else "r"


def _front(figure: Posed) -> str:
    return next(part for part in ("chest", "head", CAST) if part in figure.places)


def view_seen(stage: Stage, view: View3D) -> str:
    """Key of the view that the camera has of what stands there."""
    figure = stage.figure
    if figure is None:
        return "object"
    part = _front(figure)
    if part == CAST:
        return "hand"
    facing = figure.rotations[part] @ np.array([0.0, 0.0, 1.0])
    up = figure.rotations[part] @ np.array([0.0, 1.0, 0.0])
    to_eye = view.eye - figure.places[part]
    to_eye = to_eye - up * float(to_eye @ up)
    cosine = float(facing @ to_eye) / max(1e-9, float(np.linalg.norm(to_eye)))
    if part == "head":
        if cosine > math.cos(math.radians(22.5)):
            return "head-front"
        return "head-three-quarter" if cosine > math.cos(math.radians(67.5)) else "head-profile"
    if abs(cosine) < math.cos(math.radians(60.0)):
        return "figure-side"
    return "figure-front" if cosine > 0.0 else "figure-back"


def answer_key(stage: Stage, camera: View3D, view: View | None = None) -> AnswerKey:
    """Look every landmark of a view up on what stands there, and in the picture.

    Args:
        view: without it the one that the camera has (`view_seen`).

    Raises:
        UserError: the figure has no landmarks for that view.
    """
    view = view or view_named(view_seen(stage, camera))
    figure = stage.figure
    if figure is None:
        return AnswerKey(view.key, _extremes(stage, camera), {}, None)
    keys = tuple(one.key for one in view.landmarks)
    named = landmarks_of(view.key, keys, near_side(figure, camera))
    found = tuple(one.on_figure(figure) for one in named if one.part in figure.places)
    places = np.array([figure.world(one.part, one.at) for one in found])
    px = camera.project(places)
    seen = _seen(found, places, stage.caster, camera)
    marks = tuple(
        KeyMark(one.key, one.part, place, at, ok)
        for one, place, at, ok in zip(found, places, px, seen, strict=True)
    )
    weight = None
    if stage.setting.subject == "figure":
        box = seat(figure)
        weight = weigh(figure, None if box is None else float(box[1][1]))
    absent = tuple(one.key for one in named if one.part not in figure.places)
    return AnswerKey(view.key, marks, _lengths(view, marks, camera), weight, absent)


def _extremes(stage: Stage, camera: View3D) -> tuple[KeyMark, ...]:
    """The outermost points of a solid, as the view `object` has them."""
    px = camera.project(stage.points)
    part = stage.caster.mesh.parts[0]
    rows = {
        "top": int(px[:, 1].argmin()), "bottom": int(px[:, 1].argmax()),
        "left": int(px[:, 0].argmin()), "right": int(px[:, 0].argmax()),
    }  # fmt: skip
    return tuple(KeyMark(k, part, stage.points[i], px[i], True) for k, i in rows.items())


_BARE = 0.01
"""Heads of wood over a mark that are as good as none."""

_BESIDE = 0.06
"""Heads in the picture between a mark and where one sees past what lies over it, at most (chosen
here): so near it is on the outline for whoever looks for it."""

_AROUND = 16
"""Rays that ask so."""


def _seen(
    found: tuple[Landmark3D, ...], places: Floats, caster: Caster, camera: View3D
) -> list[bool]:
    """By a ray each: the first thing in its way is the mark's own surface, or nothing at all.

    A mark on the outline may be grazed past: nothing in the way is as good as seen. One that turns
    away behind its own outline is seen as far as that is beside it in the picture.
    """
    ways = places - camera.eye
    hits = caster.hits(np.broadcast_to(camera.eye, ways.shape), ways)
    mesh = caster.mesh
    out = []
    for one, way, face, share in zip(found, ways, hits.face, hits.away, strict=True):
        over = (1.0 - float(share)) * float(np.linalg.norm(way))  # heads of wood before it
        if face < 0 or over < _BARE:
            out.append(True)
            continue
        own = mesh.parts[mesh.owner[face]] in one.on
        near = bool(own and over < one.far)
        out.append(near and (one.inside or over < _BESIDE or _on_outline(camera, caster, way)))
    return out


def _on_outline(camera: View3D, caster: Caster, way: Floats) -> bool:
    """Whether rays beside a mark, ``way`` (3,) from the lens, pass what lies over it."""
    mark = camera.eye + way
    depth = float(camera.depth(mark))
    turn = np.linspace(0.0, 2.0 * np.pi, _AROUND, endpoint=False)
    ring = _BESIDE * camera.focal / depth * np.column_stack([np.cos(turn), np.sin(turn)])
    ways = camera.rays(camera.project(mark) + ring)
    hits = caster.hits(np.broadcast_to(camera.eye, ways.shape), ways)
    return bool(((hits.face < 0) | (hits.away > depth - _BESIDE)).any())


def _lengths(view: View, marks: tuple[KeyMark, ...], camera: View3D) -> dict[str, KnownLength]:
    by_key = {mark.key: mark for mark in marks}
    middle = float(camera.depth(np.zeros(3)))
    out = {}
    for measure in view.measures:
        if measure.kind != "span" or measure.along != "straight":
            continue
        a, b = (by_key.get(key) for key in measure.points[:2])
        if a is None or b is None:
            continue
        line = b.place - a.place
        full = float(np.linalg.norm(line))
        towards = -float(camera.rotation[2] @ line) / full
        out[measure.id] = KnownLength(
            full=full,
            apparent=float(np.linalg.norm(b.px - a.px)) * middle / camera.focal,
            slant=math.degrees(math.asin(min(1.0, max(-1.0, towards)))),
        )
    return out
