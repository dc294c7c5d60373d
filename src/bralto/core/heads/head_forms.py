"""The big forms that a head is built up from, as three schools have them, put before the eye as the
head stands.

- *oval*: an egg from the chin to the back of the skull, its centre line, the eye line at the half.
- *ball*: a ball with its sides cut off by planes, the brow line about it, the jaw hung from it.
- *wedge*: a block of planes: front, sides, top and back.

All are common practice of the drawing room, no source. Sizes are those of the sitter as far as the
marks tell them, and of an average head where they do not.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.constructions import Form, convex_hull
from bralto.core.heads.average_head import average_head
from bralto.core.heads.head_in_space import HeadInSpace

__all__ = ["HEAD_SCHOOLS", "Block", "block_of", "head_forms", "planes_seen"]

HEAD_SCHOOLS = {
    "oval": "an oval",
    "ball": "ball and jaw, sides cut off",
    "wedge": "a wedge of planes",
}
"""Keys of the schools, with their words."""

_VIEWS = ("head-three-quarter", "head-profile", "head-front")
"""Where an average is looked up in that the head's own view does not have."""

_PLAIN_TAPER = 0.15
"""How much wider than its middle an oval is above, where few marks tell (chosen, no source)."""

_FINE = 36


@dataclass(frozen=True, slots=True)
class Block:
    """What the forms of a head are made from, in its own frame, heads; of paired marks x is the
    distance from the middle.

    Attributes:
        crown, hairline, brow, nose, chin, chin_front, back: (3,) places in the middle of the head.
        brow_end, temple, edge, jaw, mouth: (3,) places of its left half.
        wide: whether the picture itself tells the width of the face.
    """

    crown: Floats
    hairline: Floats
    brow: Floats
    nose: Floats
    chin: Floats
    chin_front: Floats
    back: Floats
    brow_end: Floats
    temple: Floats
    edge: Floats
    jaw: Floats
    mouth: Floats
    wide: bool


def block_of(head: HeadInSpace) -> Block:
    """The places of a head that its big forms are made from."""

    others = [one for view in _VIEWS if (one := average_head(view)) is not None]
    known = [(head.average.row, head.solid), *((one.row, one.mean) for one in others)]

    def place(*names: str) -> Floats:
        """By the first name that there is, of the sitter before the average."""
        found = [_own(row, places, name) for row, places in known for name in names]
        middle: Floats = next(one for one in found if len(one)).mean(axis=0)
        return middle

    def centre(*names: str) -> Floats:
        found = place(*names)
        found[0] = 0.0
        return found

    wide = len(_own(head.average.row, head.solid, "face_edge")) > 0
    return Block(
        centre("crown"), centre("hairline"), centre("brow_mid", "brow"), centre("nose_base"),
        centre("chin"), centre("chin_front"), centre("skull_back"), place("brow_end"),
        place("temple"), place("face_edge"), place("jaw_angle", "jaw"), place("mouth_corner"), wide,
    )  # fmt: skip


def _own(row: dict[str, int], places: Floats, name: str) -> Floats:
    """(m, 3) the places of a mark on both sides, as on the left one."""
    keys = [f"{a}{name}{b}" for a, b in _SIDES]
    found: Floats = places[[row[key] for key in keys if key in row]].copy()
    found[:, 0] = np.abs(found[:, 0])
    return found


_SIDES = (("", ""), ("near_", ""), ("far_", ""), ("", "_r"), ("", "_l"))


@lru_cache(maxsize=8)  # the planned sheet asks at every painting
def head_forms(head: HeadInSpace, school: str) -> tuple[Form, ...]:
    """The forms of a school, heads, sight frame; of what is turned away only what is seen; none
    where the marks lie as on no head."""
    block = block_of(head)
    return _SCHOOLS[school](head, block) if _is_head(block) else ()


def _is_head(block: Block) -> bool:
    """Whether crown, brow and chin lie in that order, and the face before the back of the head."""
    down = (block.crown[1] - block.brow[1], block.brow[1] - block.chin[1])
    sizes = (*down, block.brow[2] - block.back[2], block.edge[0], block.jaw[0])
    return min(float(one) for one in sizes) > _SMALLEST


_SMALLEST = 0.05
"""Heads; nothing of a head is smaller that its forms are made from."""


def _form(head: HeadInSpace, name: str, kind: str, outline: Floats) -> Form:
    """A form with its size along the head and across it."""
    tilted = head.tilt
    up = np.array([-math.sin(tilted), math.cos(tilted)])
    across = np.array([up[1], -up[0]])
    high, wide = outline @ up, outline @ across
    middle = 0.5 * ((high.min() + high.max()) * up + (wide.min() + wide.max()) * across)
    axis = 90.0 + math.degrees(tilted)
    axis = axis - 180.0 if axis > 90.0 else axis
    return Form(name, kind, outline, middle, axis, float(np.ptp(high)), float(np.ptp(wide)))


def _oval(head: HeadInSpace, block: Block) -> tuple[Form, ...]:
    egg = _Egg(block)
    grid = egg.at(*np.meshgrid(np.linspace(0.0, np.pi, _FINE), np.linspace(0.0, 2 * np.pi, _FINE)))
    outline = convex_hull(head.project(grid.reshape(-1, 3)))
    down = np.linspace(0.0, np.pi, _FINE)
    meridian = egg.at(down, np.zeros(_FINE))
    half = 0.5 * float(block.crown[1] + block.chin[1])
    return (
        _form(head, "oval", "oval", outline),
        *_lines(head, "centre line", meridian, egg.out(down, np.zeros(_FINE))),
        *_lines(head, "half", *egg.level(half)),
    )


class _Egg:
    """An oval as a solid: its long axis from the chin up and back through the middle of the skull,
    elliptical across, broader above than below."""

    def __init__(self, block: Block) -> None:
        middle = 0.5 * (block.brow + block.back)
        self.chin = block.chin
        way = middle - block.chin
        self.up = way / float(np.sqrt(way @ way))
        self.forward = np.array([0.0, -self.up[2], self.up[1]])
        self.deep = float((block.brow - middle) @ self.forward)
        # So long that its top reaches the crown: c + sqrt((l u)^2 + (d f)^2), c = chin + l u.
        rise, u, f = float(block.crown[1] - block.chin[1]), self.up[1], self.forward[1] * self.deep
        self.long = float((rise * rise - f * f) / (2.0 * rise * u))
        edges = np.array([block.edge, block.jaw])
        along = (edges - block.chin) @ self.up / self.long - 1.0
        cos = np.clip(along, -0.98, 0.98)
        sin = np.sqrt(1.0 - cos * cos)
        # Half widths are w sin t (1 + k cos t); k is drawn towards the usual where little tells.
        table = np.vstack([np.column_stack([sin, sin * cos]), [[-0.2 * _PLAIN_TAPER, 0.2]]])
        wide = np.append(edges[:, 0], 0.0)
        w, wk = np.linalg.lstsq(table, wide, rcond=None)[0]
        self.wide, self.taper = float(w), float(np.clip(wk / w, -0.5, 0.5))

    def at(self, down: Floats, around: Floats) -> Floats:
        """(..., 3) places, ``down`` from its top, ``around`` from front to left; radians."""
        cos, sin = np.cos(down)[..., None], np.sin(down)[..., None]
        broad = sin * (1.0 + self.taper * cos)
        front, aside = np.cos(around)[..., None], np.sin(around)[..., None]
        middle = self.chin + self.long * self.up
        found: Floats = (
            middle + self.long * cos * self.up + self.deep * sin * front * self.forward
            + self.wide * broad * aside * np.array([1.0, 0.0, 0.0])
        )  # fmt: skip
        return found

    def out(self, down: Floats, around: Floats) -> Floats:
        """(..., 3) ways out of its surface, as of the ellipsoid without taper."""
        scaled: Floats = (
            np.cos(down)[..., None] / self.long * self.up
            + (np.sin(down) * np.cos(around))[..., None] / self.deep * self.forward
            + (np.sin(down) * np.sin(around))[..., None] / self.wide * np.array([1.0, 0.0, 0.0])
        )
        return scaled

    def level(self, height: float) -> tuple[Floats, Floats]:
        """Where it is cut level at a height, over the front from side to side, and the ways out."""
        around = np.linspace(-0.5 * np.pi, 0.5 * np.pi, _FINE)
        down = np.linspace(0.0, np.pi, 4 * _FINE)
        cut = []
        for one in around:
            y = self.at(down, np.full_like(down, one))[:, 1]
            top = int(np.argmax(y))
            cut.append(float(np.interp(-height, -y[top:], down[top:])))
        return self.at(np.array(cut), around), self.out(np.array(cut), around)


def _ball(head: HeadInSpace, block: Block) -> tuple[Form, ...]:
    radius = float(block.crown[1] - block.brow[1])
    middle = block.brow - np.array([0.0, 0.0, radius])
    cut = _SIDE * radius
    if block.wide:
        cut = math.sqrt(max(radius * radius - float(block.edge[0]) ** 2, (0.3 * radius) ** 2))
    half = math.sqrt(radius * radius - cut * cut)
    turn = np.linspace(0.0, 2.0 * np.pi, _FINE, endpoint=False)
    down = np.linspace(0.0, np.pi, _FINE)
    grid = [np.sin(down)[:, None] * np.cos(turn), np.cos(down)[:, None] * np.ones(_FINE)]
    grid += [np.sin(down)[:, None] * np.sin(turn)]
    ball = np.clip(
        np.stack(grid, axis=-1) * radius, [-half, -radius, -radius], [half, radius, radius]
    )
    forms = [_form(head, "ball", "ball", convex_hull(head.project(ball.reshape(-1, 3) + middle)))]
    front = np.linspace(-0.5 * np.pi, 0.5 * np.pi, _FINE)
    rise, ahead, none = np.sin(front), np.cos(front), np.zeros(_FINE)
    brow = np.column_stack([rise, none, ahead])
    brow = brow[np.abs(brow[:, 0]) * radius <= half]  # as far as the cut sides
    for name, arc in (("centre line", np.column_stack([none, rise, ahead])), ("brow line", brow)):
        forms += _lines(head, name, middle + radius * arc, arc)
    for side in (1.0, -1.0):
        aside = np.array([side, 0.0, 0.0])
        if _shown(head, middle + half * aside, aside):
            ring = np.column_stack(
                [np.full(_FINE, side * half), cut * np.sin(turn), cut * np.cos(turn)]
            )
            forms.append(_form(head, "side plane", "plane", head.project(middle + ring)))
            cross = cut * np.array(
                [[0, 1.0, 0], [0, -1.0, 0], [0, 0, 0], [0, 0, 1.0], [0, 0, -1.0]]
            )
            forms.append(_drawn(head, "side's cross", middle + half * aside + cross))
        # The jaw hangs from the lowest place of the side, by the jaw's corner to the chin.
        corner = block.jaw * np.array([side, 1.0, 1.0])
        low = middle + np.array([side * half, -cut, 0.0])
        if _shown(head, corner, aside) or abs(float(head.rotation[2, 0])) < _EDGE_ON:
            forms.append(_drawn(head, "jaw", np.array([low, corner, block.chin])))
    forms.append(_drawn(head, "face line", np.array([block.brow, block.nose, block.chin])))
    return tuple(forms)


_SIDE = 2.0 / 3.0
"""Radius of the planes that cut off the sides of the ball, of the ball's own, where the width of
the face is not seen."""

_EDGE_ON = 0.35
"""A plane whose way out leaves the picture's plane by no more, as a sine, is seen from its edge."""


def _wedge(head: HeadInSpace, block: Block) -> tuple[Form, ...]:
    return tuple(
        _form(head, name, "plane", head.project(corners))
        for name, corners, out in _planes(block)
        if _shown(head, corners.mean(axis=0), out)
    )


def _planes(block: Block) -> list[tuple[str, Floats, Floats]]:
    """The planes of the wedge: names, (m, 3) corners, (3,) ways out."""
    back, wide = block.back, float(block.edge[0])
    forehead = np.array([0.8 * block.temple[0], block.hairline[1], block.hairline[2] - 0.04])
    brow = np.array([block.brow_end[0], block.brow[1], block.brow[2] - 0.04])
    low = np.array([0.8 * block.mouth[0], block.chin[1], block.chin_front[2] - 0.04])
    top = np.array([0.7 * wide, block.crown[1], block.crown[2]])
    rear = np.array([0.7 * wide, back[1], back[2]])
    nape = np.array([0.7 * wide, block.nose[1], 0.7 * back[2]])
    right = np.array([-1.0, 1.0, 1.0])
    side = np.array([brow, forehead, top, rear, nape, block.jaw, low])
    out = np.array([1.0, 0.0, 0.0])
    found = [("side plane", side, out), ("side plane", side * right, -out)]
    middle = np.array([0.0, block.brow[1], 0.5 * float(block.brow[2] + back[2])])
    for name, a, b in (
        ("front plane", brow, low), ("forehead plane", forehead, brow),
        ("top plane", top, forehead), ("back plane", rear, top), ("nape plane", nape, rear),
        ("under plane", low, block.jaw),
    ):  # fmt: skip
        corners = np.array([a, b, b * right, a * right])
        normal = np.cross(corners[1] - corners[0], corners[3] - corners[0])
        if float(normal @ (corners.mean(axis=0) - middle)) < 0.0:
            normal = -normal
        found.append((name, corners, normal))
    return found


def planes_seen(head: HeadInSpace) -> tuple[float, float]:
    """How wide the front of the face and the side of the head show at the brow, heads: what turns
    towards the eye shows more of itself."""
    block = block_of(head)
    corner, back = block.brow_end, block.back
    edge = np.array([corner, corner * np.array([-1.0, 1.0, 1.0])])
    flat = head.project(edge)
    front = float(np.hypot(*(flat[0] - flat[1])))
    near = edge[0] if head.rotation[2, 0] >= 0.0 else edge[1]
    rear = np.array([near[0], near[1], back[2]])
    side = float(np.hypot(*np.diff(head.project(np.array([near, rear])), axis=0)[0]))
    return front, side


_SCHOOLS: dict[str, Callable[[HeadInSpace, Block], tuple[Form, ...]]] = {
    "oval": _oval, "ball": _ball, "wedge": _wedge,
}  # fmt: skip


def _shown(head: HeadInSpace, at: Floats, out: Floats) -> bool:
    """Whether a plane is turned towards the eye."""
    eye = head.rotation[2] * head.away - at
    return float(eye @ out) > 0.0


def _drawn(head: HeadInSpace, name: str, places: Floats) -> Form:
    return _form(head, name, "line", head.project(places))


def _lines(head: HeadInSpace, name: str, places: Floats, out: Floats) -> list[Form]:
    """A line on a form, as far as it is seen."""
    eye = head.rotation[2] * head.away - places
    shown = np.einsum("nk,nk->n", eye, out) > 0.0
    return [_drawn(head, name, places[shown])] if int(shown.sum()) > 1 else []
