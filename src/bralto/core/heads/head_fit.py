"""A head of known marks put before the eye so that they fall on those of a picture.

A pinhole at a stated distance; damped least squares (Levenberg 1944, Marquardt 1963) with a normal
prior on the ways in which heads differ, and Huber's weights.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.tolerances import HUBER

__all__ = ["POSE", "HeadFit", "rotations"]

_ROUNDS = 40
_ENOUGH = 1e-5
_LARGEST = 4.0
"""Log of the size of a head against its picture's: beyond, nothing is seen of it."""
POSE = 6
"""Parameters of where a head is and how it stands; those of its ways come after."""


def rotations(angles: Floats) -> tuple[Floats, Floats]:
    """The rotation of the head before the eye, and (3, 3, 3) its derivatives by the angles: turned
    to the left of the picture, the chin raised, tipped to the sitter's right; radians."""
    (ca, cp, cr), (sa, sp, sr) = np.cos(angles), np.sin(angles)
    turn = np.array([[ca, 0.0, -sa], [0.0, 1.0, 0.0], [sa, 0.0, ca]])
    d_turn = np.array([[-sa, 0.0, -ca], [0.0, 0.0, 0.0], [ca, 0.0, -sa]])
    lift = np.array([[1.0, 0.0, 0.0], [0.0, cp, sp], [0.0, -sp, cp]])
    d_lift = np.array([[0.0, 0.0, 0.0], [0.0, -sp, cp], [0.0, -cp, -sp]])
    lean = np.array([[cr, -sr, 0.0], [sr, cr, 0.0], [0.0, 0.0, 1.0]])
    d_lean = np.array([[-sr, -cr, 0.0], [cr, -sr, 0.0], [0.0, 0.0, 0.0]])
    slopes = np.array([d_turn @ lift @ lean, turn @ d_lift @ lean, turn @ lift @ d_lean])
    return turn @ lift @ lean, slopes


@dataclass(frozen=True, eq=False)
class HeadFit:
    """Marks and the head that is to fall on them.

    Attributes:
        mean: (n, 3); ``ways`` (k, n, 3), of which each is unlikely to be beyond a few.
        marks: (n, 2) heads, y up; ``sd`` (n,) of each.
    """

    mean: Floats
    ways: Floats
    marks: Floats
    sd: Floats
    away: float

    def start(self, turned: float) -> Floats:
        """Where to begin: turned by so many radians, as large as its own head."""
        theta = np.zeros(POSE + len(self.ways))
        theta[0] = turned
        theta[4:POSE] = (self.marks - self.seen(theta)[0]).mean(axis=0)
        return theta

    def off(self, theta: Floats) -> float:
        """Sum of the squared distances, heads."""
        away = self.seen(theta)[0] - self.marks
        return float(np.sum(away * away))

    def seen(self, theta: Floats) -> tuple[Floats, Floats]:
        """(n, 2) where the marks fall and (n, 3) the solid that they are of, by turned, raised,
        tipped, log of the size, across, up, and the ways."""
        solid = self.mean + np.tensordot(theta[POSE:], self.ways, 1)
        turned = solid @ rotations(theta[:3])[0].T
        near = math.exp(float(theta[3])) / (1.0 - turned[:, 2] / self.away)
        return turned[:, :2] * near[:, None] + theta[4:POSE], solid

    def slopes(self, theta: Floats) -> Floats:
        """(n, 2, p) derivatives of where the marks fall."""
        solid = self.mean + np.tensordot(theta[POSE:], self.ways, 1)
        rotation, by_angle = rotations(theta[:3])
        turned = solid @ rotation.T
        depth = self.away - turned[:, 2]
        near = math.exp(float(theta[3])) * self.away / depth
        moved = np.concatenate([solid @ by_angle.transpose(0, 2, 1), self.ways @ rotation.T])
        flat = near[:, None] * (moved[..., :2] + turned[:, :2] * (moved[..., 2] / depth)[..., None])
        out = np.zeros((len(solid), 2, len(theta)))
        out[:, :, :3] = flat[:3].transpose(1, 2, 0)
        out[:, :, 3] = near[:, None] * turned[:, :2]
        out[:, 0, 4] = out[:, 1, 5] = 1.0
        out[:, :, POSE:] = flat[3:].transpose(1, 2, 0)
        return out

    def solved(self, theta: Floats) -> tuple[Floats, Floats, float] | None:
        """Parameters, their covariance and what is left over (half of the squares, Huber's), from
        where it is begun; None where the marks tell less than that."""
        damping, cost = 1e-3, self._cost(theta)
        try:
            for _ in range(_ROUNDS):
                normal, slope = self._normal(theta)
                while True:
                    step = -np.linalg.solve(normal + damping * np.diag(np.diagonal(normal)), slope)
                    there = self._cost(theta + step)
                    if there <= cost or damping > 1e8:
                        break
                    damping *= 5.0
                damping = max(damping / 5.0, 1e-10)
                if not there <= cost:
                    break
                theta, gain, cost = theta + step, cost - there, there
                if gain <= _ENOUGH * (1.0 + cost):
                    break
            normal, _ = self._normal(theta)
            cov: Floats = np.asarray(np.linalg.inv(normal), np.float64)
        except np.linalg.LinAlgError:
            return None
        return (theta, cov, cost) if np.all(np.isfinite(cov)) else None

    def _off(self, theta: Floats) -> tuple[Floats, Floats]:
        """(n, 2) what is left over in SDs, and (n,) Huber's weights."""
        off = (self.seen(theta)[0] - self.marks) / self.sd[:, None]
        size = np.hypot(off[:, 0], off[:, 1])
        return off, np.minimum(1.0, HUBER * math.sqrt(2.0) / np.maximum(size, 1e-12))

    def _cost(self, theta: Floats) -> float:
        if not abs(float(theta[3])) < _LARGEST:
            return math.inf
        off, _ = self._off(theta)
        size, bend = np.hypot(off[:, 0], off[:, 1]), HUBER * math.sqrt(2.0)
        each = np.where(size <= bend, 0.5 * size * size, bend * (size - 0.5 * bend))
        return float(each.sum()) + 0.5 * float(theta[POSE:] @ theta[POSE:])

    def _normal(self, theta: Floats) -> tuple[Floats, Floats]:
        off, weights = self._off(theta)
        slopes = self.slopes(theta) / self.sd[:, None, None]
        heavy = slopes * weights[:, None, None]
        normal = np.einsum("nip,niq->pq", heavy, slopes)
        slope = np.einsum("nip,ni->p", heavy, off)
        rows = np.arange(POSE, len(theta))
        normal[rows, rows] += 1.0
        slope[rows] += theta[rows]
        return normal, slope
