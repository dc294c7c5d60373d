"""Find the sheet of paper in a photo: its four corners to a fraction of a pixel, and how sure.

Straight edges are gathered at a small size; every four of them that make a sheet-like quadrilateral
are scored by how much of each side is really there, up to its corners; the best is then fitted at
full size, each side as a slightly bent curve, since lenses bend and paper curls.
"""

from __future__ import annotations

from itertools import combinations

import cv2
import numpy as np

from bralto.core.arrays import Bools, Floats, Pixels
from bralto.core.results import NotMeasurable
from bralto.imaging.edges import EdgeMap, curled_side, fit_side
from bralto.imaging.outcome import FoundSheet

__all__ = ["find_sheet", "to_the_edges"]

_WORK = 900
"""Longer side at which edges are gathered, px."""

_LINES = 26
"""Longest straight edges that are tried four by four."""

_SMALLEST, _LARGEST = 0.06, 0.98
"""Share of the picture that a sheet may take."""

_ENOUGH = 0.80
"""Score of a quadrilateral below which nothing is said to be found. On 40 simulated photos true
sheets came to 0.91 to 0.96; strangers among the edges of six of scikit-image's sample pictures to
0.58 to 0.71. A printed page that fills its picture can pass for a sheet of paper (0.82, 0.89)."""

_BORDER = 0.01
"""A side this near to the picture's own border (share of the longer side) is none of a sheet."""

_REACH = 0.005
"""How far to each side of a rough edge the fine one is looked for, share of the longer side."""


def find_sheet(picture: Pixels) -> FoundSheet | NotMeasurable:
    """Find the sheet in a photo, or say that it must be marked by hand.

    Args:
        picture: (h, w, 3) uint8, RGB.
    """
    height, width = picture.shape[:2]
    scale = min(1.0, _WORK / max(height, width))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    small = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    edges = EdgeMap(small)
    quads = np.concatenate([_quadrilaterals(_lines(small), size), _bright_shapes(small)])
    if not len(quads):
        return NotMeasurable("no sheet stands out in this picture; show its four corners")
    rough, score = _best(edges, quads)
    if score < _ENOUGH:
        return NotMeasurable("no sheet stands out clearly in this picture; show its four corners")
    return to_the_edges(picture, rough / scale)


# Straight edges


def _lines(small: Pixels) -> Floats:
    """(k, 3) lines a x + b y = c with unit normals, those with the most edge on them first.

    Segments come from the line segment detector, on the light and on what is paper-white; those on
    one line are put together.
    """
    finder = cv2.createLineSegmentDetector(cv2.LSD_REFINE_STD)
    white = small.min(axis=2)
    found = []
    for channel in (cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), white):
        for soft in (0.0, 2.5):
            image = cv2.GaussianBlur(channel, (0, 0), soft) if soft else channel
            segments = finder.detect(image)[0]
            if segments is not None:
                found.append(segments.reshape(-1, 4))
    if not found:
        return np.zeros((0, 3))
    segments = np.concatenate(found).astype(np.float64)
    length = np.hypot(segments[:, 2] - segments[:, 0], segments[:, 3] - segments[:, 1])
    keep = length > 0.02 * max(small.shape)
    return _merged(segments[keep], length[keep])


def _merged(segments: Floats, length: Floats) -> Floats:
    order = np.argsort(-length)
    segments, length = segments[order], length[order]
    a, b = segments[:, :2], segments[:, 2:]
    normal = np.column_stack([a[:, 1] - b[:, 1], b[:, 0] - a[:, 0]]) / length[:, None]
    offset = np.sum(normal * a, axis=1)
    free = np.ones(len(segments), dtype=bool)
    found = []
    for i in range(len(segments)):
        if not free[i]:
            continue
        # Both ends of another segment near this line: a piece of the same edge.
        near = np.maximum(np.abs(a @ normal[i] - offset[i]), np.abs(b @ normal[i] - offset[i]))
        same = free & (near < 3.0) & (np.abs(normal @ normal[i]) > 0.99)
        free &= ~same
        points = np.vstack([a[same], b[same]])
        weight = np.concatenate([length[same], length[same]])
        middle = weight @ points / weight.sum()
        spread = (points - middle) * np.sqrt(weight)[:, None]
        across = np.linalg.svd(spread, full_matrices=False)[2][-1]
        found.append((float(length[same].sum()), *across, float(across @ middle)))
        if len(found) >= 4 * _LINES:
            break
    found.sort(reverse=True)
    return np.array([line[1:] for line in found[:_LINES]]).reshape(-1, 3)


def _quadrilaterals(lines: Floats, size: tuple[int, int]) -> Floats:
    """(q, 4, 2) convex quadrilaterals, clockwise from the top-left, made of four of the lines."""
    width, height = size
    across = [
        (i, j)
        for i, j in combinations(range(len(lines)), 2)
        if abs(lines[i, :2] @ lines[j, :2]) > 0.5  # two sides that may face each other
    ]
    if not across:
        return np.zeros((0, 4, 2))
    pairs = np.array(across)
    one, two = np.triu_indices(len(pairs), 1)
    chosen = np.column_stack([pairs[one], pairs[two]])
    distinct = np.all(pairs[one][:, :, None] != pairs[two][:, None, :], axis=(1, 2))
    facing = np.abs(np.sum(lines[chosen[:, 0], :2] * lines[chosen[:, 2], :2], axis=1)) < 0.9
    chosen = chosen[distinct & facing]
    if not len(chosen):
        return np.zeros((0, 4, 2))
    a, b, c, d = (lines[chosen[:, k]] for k in range(4))
    corners = np.stack([_crossing(a, c), _crossing(c, b), _crossing(b, d), _crossing(d, a)], axis=1)
    margin = 0.04 * max(size)
    inside = np.isfinite(corners).all(axis=(1, 2))
    corners = np.where(np.isfinite(corners), corners, 0.0)
    inside &= (corners >= -margin).all(axis=(1, 2))
    inside &= (corners[..., 0] <= width + margin).all(axis=1)
    inside &= (corners[..., 1] <= height + margin).all(axis=1)
    corners = corners[inside]
    edge = np.roll(corners, -1, axis=1) - corners
    after = np.roll(edge, -1, axis=1)
    turn = edge[..., 0] * after[..., 1] - edge[..., 1] * after[..., 0]
    convex = np.all(turn > 0, axis=1) | np.all(turn < 0, axis=1)
    sharp = np.abs(turn) / np.maximum(
        np.linalg.norm(edge, axis=2) * np.linalg.norm(after, axis=2), 1e-9
    )
    share = _areas(corners) / (width * height)
    keep = convex & np.all(sharp > 0.5, axis=1) & (share > _SMALLEST) & (share < _LARGEST)
    keep &= ~_on_border(corners, size)
    return np.array([clockwise(quad) for quad in corners[keep]]).reshape(-1, 4, 2)


def _areas(quads: Floats) -> Floats:
    """(q,) areas (the shoelace formula)."""
    following = np.roll(quads, -1, axis=1)
    cross = quads[..., 0] * following[..., 1] - following[..., 0] * quads[..., 1]
    areas: Floats = 0.5 * np.abs(cross.sum(axis=1))
    return areas


def _on_border(quads: Floats, size: tuple[int, int]) -> Bools:
    """(q,) array: quadrilaterals with a side along the picture's own border."""
    near = _BORDER * max(size)
    following = np.roll(quads, -1, axis=1)
    on = np.zeros(len(quads), dtype=np.bool_)
    for axis, far in enumerate(size):
        for place in (0.0, float(far)):
            one = np.abs(quads[..., axis] - place) < near
            on |= np.any(one & (np.abs(following[..., axis] - place) < near), axis=1)
    return on


def _crossing(one: Floats, two: Floats) -> Floats:
    """(k, 2) crossings of lines (k, 3); not finite where they run alike."""
    determinant = one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        x = (one[:, 2] * two[:, 1] - one[:, 1] * two[:, 2]) / determinant
        y = (one[:, 0] * two[:, 2] - one[:, 2] * two[:, 0]) / determinant
    return np.column_stack([x, y])


def clockwise(quad: Floats) -> Floats:
    """Four corners as seen clockwise from the one nearest to the picture's top-left corner."""
    middle = quad.mean(axis=0)
    angle = np.arctan2(quad[:, 1] - middle[1], quad[:, 0] - middle[0])
    ordered = quad[np.argsort(angle)]
    return np.roll(ordered, -int(np.argmin(ordered.sum(axis=1))), axis=0)


def _bright_shapes(small: Pixels) -> Floats:
    """(q, 4, 2) four-sided outlines of what is as white as paper, where the light allows it."""
    white = cv2.GaussianBlur(small.min(axis=2), (0, 0), 1.5)
    even = cv2.divide(white, _broad(white), scale=140.0)
    found = []
    for channel in (white, even):
        threshold = cv2.threshold(channel, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)[0]
        for level in (0.85, 1.0, 1.15):
            mask = (channel > level * threshold).astype(np.uint8)
            mask = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
            outlines = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)[0]
            for outline in sorted(outlines, key=cv2.contourArea, reverse=True)[:3]:
                hull = cv2.convexHull(outline)
                if cv2.contourArea(hull) < _SMALLEST * mask.size:
                    continue
                for fine in (0.01, 0.02, 0.03, 0.05):
                    corners = cv2.approxPolyDP(hull, fine * cv2.arcLength(hull, True), True)
                    if len(corners) == 4:
                        found.append(clockwise(corners.reshape(4, 2).astype(np.float64) + 0.5))
                        break
    quads = np.array(found).reshape(-1, 4, 2)
    return quads[~_on_border(quads, (small.shape[1], small.shape[0]))]


def _broad(channel: Pixels) -> Pixels:
    """The light of the room: blurred over a sixth of the picture, at a tenth of its size."""
    height, width = channel.shape
    small = cv2.resize(channel, (max(1, width // 10), max(1, height // 10)))
    soft = cv2.GaussianBlur(small, (0, 0), max(1.0, max(small.shape) / 6.0))
    broad: Pixels = cv2.resize(soft, (width, height), interpolation=cv2.INTER_LINEAR)
    return broad


# Which of them


def _best(edges: EdgeMap, quads: Floats) -> tuple[Floats, float]:
    """The quadrilateral whose sides are most of all there, up to their corners."""
    there = edges.along(quads)  # (q, 4, s)
    ends = max(1, there.shape[2] // 30)
    sides = there.mean(axis=2)
    tips = np.concatenate([there[:, :, :ends].mean(axis=2), there[:, :, -ends:].mean(axis=2)], 1)
    tips = np.sort(tips, axis=1)[:, :4].mean(axis=1)  # a hand may cover the rest
    share = _areas(quads) / (edges.width * edges.height)
    # A sheet ends at its corners; two sheets that lie askew make corners that are not there.
    score = 0.30 * sides.mean(axis=1) + 0.10 * sides.min(axis=1) + 0.50 * tips
    score = score + 0.10 * np.sqrt(share)
    best = int(np.argmax(score))
    return quads[best], float(score[best])


def to_the_edges(picture: Pixels, rough: Floats) -> FoundSheet | NotMeasurable:
    """Corners where the fine curves of neighbouring sides cross, near where they are thought to be.

    Args:
        picture: (h, w, 3) uint8, RGB.
        rough: (4, 2) array, corners to about half a percent of the picture's longer side.
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    reach = max(4.0, _REACH * max(grey.shape))
    sides = [fit_side(grey, rough[i], rough[(i + 1) % 4], reach) for i in range(4)]
    # Once more from the better place, nearer by.
    corners = np.array([sides[i - 1].crossing(sides[i]) for i in range(4)])
    if not np.isfinite(corners).all():
        return NotMeasurable("the sheet's edges could not be followed; show its four corners")
    fine = max(3.0, 0.35 * reach)
    sides = [fit_side(grey, corners[i], corners[(i + 1) % 4], fine) for i in range(4)]
    sides = [curled_side(grey, corners[i], corners[(i + 1) % 4], sides[i]) for i in range(4)]
    corners = np.array([sides[i - 1].crossing(sides[i]) for i in range(4)])
    if not np.isfinite(corners).all():
        return NotMeasurable("the sheet's edges could not be followed; show its four corners")
    spread = float(np.sqrt(np.mean([side.scatter**2 for side in sides])))
    return FoundSheet(
        corners=corners,
        spread=max(0.3, spread),
        bows=np.array([side.bow for side in sides]),
        seen=np.array([side.seen for side in sides]),
        bends=tuple(side.bend(corners[i], corners[(i + 1) % 4]) for i, side in enumerate(sides)),
    )
