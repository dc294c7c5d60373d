"""Where to look for the next mark: from the marks that are set and the view's typical places.

A place to look at, with its doubt; never a mark. On a drawing only the learner's own reference says
where to look, carried over by the fit: typical places would pull the hand towards an average.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.measures.units import own_head_px
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.values import Picture
from bralto.core.views.model import View
from bralto.core.views.stances import Stance
from bralto.core.views.typical import Typical, stances_of, typical_of

__all__ = ["FEWEST", "Whereabouts", "about_a_head", "carried", "expected", "lying"]

FEWEST = 2
"""Marks that must be set before anything is expected."""

_DRAWN = {"figure": 0.3, "portion": 0.2, "part": 0.1}
"""Standard deviation of a mark of a drawing about where the reference's is carried to, heads, by
what the view shows: twice the typical miss of a beginner's drawing (chosen here, no source)."""

_BEYOND = {"figure": 0.06, "portion": 0.04, "part": 0.03}
"""Standard deviation of a body about all that the model can be, heads, by what the view shows
(chosen here, no source): no model is the world."""

_BESIDE = {"figure": 0.03, "portion": 0.02, "part": 0.015}
"""Standard deviation of a mark that is set about the body's own place, heads, by what the view
shows, so that marks side by side do not pull far ones along (chosen here, no source)."""

_FREEDOM = 8.0
"""Degrees of freedom of the scatter of shapes, as Student's t has them: how ready a body is taken
to be an odd one (chosen here, no source)."""

_OUTSIDE = 1.1
"""Outermost marks of what fills its picture, a head, a leg, against its edges (chosen here, no
source)."""

_AIRY, _SMALLEST = 1.2, 6.0
"""How much higher than its figure a picture usually is, and what part of the picture the figure
takes at least."""

_ROUNDS = 3

_USUAL = {Stance.STANDING: 0.85, Stance.SEATED: 0.1, Stance.LYING: 0.025}
"""How often a picture shows a model that is placed so, where it is not said (chosen here, no
source)."""


@dataclass(frozen=True, slots=True, eq=False)
class Whereabouts:
    """Where a mark is to be looked for.

    Attributes:
        x, y: image px.
        cov: (2, 2) array of its doubt, image px squared.
        head_px: a head in this picture, image px, as far as it can be told yet.
    """

    x: float
    y: float
    cov: Floats
    head_px: float

    @property
    def reach(self) -> float:
        """Standard deviation along the longer axis of the doubt, image px."""
        return float(np.sqrt(np.linalg.eigvalsh(self.cov)[-1]))

    def away(self, x: float, y: float) -> float:
        """How far a place (image px) is from it, in standard deviations (Mahalanobis)."""
        off = np.array([x - self.x, y - self.y])
        return float(np.sqrt(off @ np.linalg.solve(self.cov, off)))


def expected(view: View, picture: Picture, key: str) -> Whereabouts | NotMeasurable:
    """Where a mark of a picture is expected, from the other marks and typical places.

    Scale, turn and place are unknown with a flat prior and the shape scatters about the typical
    one: universal kriging (Cressie 1993, Statistics for Spatial Data, 3.4), as Student's t does, so
    that a body whose marks are odd may be as odd in the next (Shah, Wilson and Ghahramani 2014,
    Student-t processes, AISTATS); of a model that stands, sits or lies, each by how likely it makes
    the marks that are set.
    """
    kinds = _kinds(view)
    if not kinds or key not in kinds[0][0].row:
        return NotMeasurable(f"nothing is known of where the marks of '{view.key}' usually lie")
    others = picture.placed() - {key}
    known = [k for k in kinds[0][0].keys if k in others]
    if len(known) < FEWEST:
        return NotMeasurable("where to look is told from two marks on")
    places = np.array([(picture.marks[k].x, picture.marks[k].y) for k in known])
    if np.ptp(places, axis=0).max() <= 0.0:
        return NotMeasurable("the marks lie in one spot")
    marks = tuple(known), places.tobytes(), _BESIDE[view.size]
    fitted = [_fitted(typical, *marks) for typical, _ in kinds]
    found = [one.looked_for(key) for one in fitted]
    likely = np.array([one.chance for one in fitted]) + np.log([usual for _, usual in kinds])
    shares = np.exp(likely - likely.max())
    shares /= shares.sum()
    at: Floats = sum(share * one[0] for share, one in zip(shares, found, strict=True))
    cov: Floats = sum(
        share * (one[1] + np.outer(one[0] - at, one[0] - at))
        for share, one in zip(shares, found, strict=True)
    )
    head = float(shares @ [one.head_px for one in fitted])
    cov = cov + np.eye(2) * (_BEYOND[view.size] * head) ** 2
    return Whereabouts(float(at[0]), float(at[1]), cov, head)


@lru_cache(maxsize=64)
def _kinds(view: View) -> tuple[tuple[Typical, float], ...]:
    """Typical places, and how often a picture has them: as the model is said to be placed, else of
    one that stands, sits or lies, whichever way it faces; none of a view of which nothing is
    known."""
    stances = stances_of(view)
    if view.stance is not Stance.STANDING:
        stances = tuple(one for one in stances if one is view.stance)
    found = [(typical_of(view.key, one, said=True), _USUAL[one.facing_left]) for one in stances]
    return tuple((typical, usual) for typical, usual in found if typical is not None)


@dataclass(frozen=True, slots=True, eq=False)
class _Fitted:
    """Typical places laid on the marks of a picture.

    Attributes:
        at: rows of the marks' coordinates among those of ``typical``, (2n,).
        beta: (4,) scale and turn, and shift, image px a head; ``turn``, (2, 2), of them the first.
        design, rest: (2n, 4) and (2n,) arrays, heads of the picture: how the marks go with
            ``beta``, and how far they lie from where that puts them.
        weight: (2n, 2n) inverse of the scatter of the marks; ``normal`` (4, 4), covariance of
            ``beta``.
        odd: by what the scatter is wider than that of a typical body (Student's t).
        chance: log-likelihood of the marks.
    """

    typical: Typical
    at: Ints
    beta: Floats
    turn: Floats
    design: Floats
    rest: Floats
    weight: Floats
    normal: Floats
    odd: float
    chance: float

    @property
    def head_px(self) -> float:
        """A head of the picture, image px."""
        return float(np.hypot(self.beta[0], self.beta[1]))

    def looked_for(self, key: str) -> tuple[Floats, Floats]:
        """Place (2,) of another mark, image px, and its covariance (2, 2)."""
        row, cov = self.typical.row[key], self.typical.cov
        new = np.array([2 * row, 2 * row + 1])
        trend, across = _trend(self.typical.mean[[row]]), cov[np.ix_(new, self.at)]
        gain = across @ self.weight
        left = np.linalg.inv(self.turn) @ trend - gain @ self.design
        doubt = cov[np.ix_(new, new)] - gain @ across.T + left @ self.normal @ left.T
        place = trend @ self.beta + self.turn @ (gain @ self.rest)
        return place, self.turn @ doubt @ self.turn.T * self.odd


@lru_cache(maxsize=16)
def _fitted(typical: Typical, known: tuple[str, ...], marks: bytes, beside: float) -> _Fitted:
    """Lay typical places on known marks; kept, as both sides of a pair are looked for by the same.

    Args:
        marks: (n, 2) array, image px. beside: see `_BESIDE`.
    """
    places = np.frombuffer(marks).reshape(-1, 2)
    rows = [typical.row[k] for k in known]
    at = np.ravel([[2 * r, 2 * r + 1] for r in rows])
    own = typical.cov[np.ix_(at, at)] + beside**2 * np.eye(len(at))
    weight = np.asarray(np.linalg.inv(own), np.float64)
    trend = _trend(typical.mean[rows])
    beta = np.asarray(np.linalg.lstsq(trend, places.ravel(), rcond=None)[0], np.float64)
    for _ in range(_ROUNDS):  # the scatter turns and grows with the picture: back to heads
        turn = np.array([[beta[0], -beta[1]], [beta[1], beta[0]]])
        back = np.linalg.inv(turn)
        design = (back @ trend.reshape(-1, 2, 4)).reshape(-1, 4)
        observed = (places @ back.T).ravel()
        normal = np.asarray(np.linalg.inv(design.T @ weight @ design), np.float64)
        beta = np.asarray(normal @ (design.T @ (weight @ observed)), np.float64)
    rest = observed - design @ beta
    squares, free = float(rest @ weight @ rest), len(at) - len(beta)
    volume = float(np.linalg.slogdet(own)[1] - np.linalg.slogdet(normal)[1])
    volume += len(at) * math.log(turn[0, 0] ** 2 + turn[1, 0] ** 2)
    chance = -0.5 * (_FREEDOM + free) * math.log1p(squares / _FREEDOM) - 0.5 * volume
    odd = (_FREEDOM + squares) / (_FREEDOM + free)
    return _Fitted(typical, at, beta, turn, design, rest, weight, normal, odd, chance)


def _trend(mean: Floats) -> Floats:
    """(2 n, 4): what scale, turn and shift do to typical places (n, 2)."""
    out = np.zeros((2 * len(mean), 4))
    out[0::2, 0], out[0::2, 1], out[0::2, 2] = mean[:, 0], -mean[:, 1], 1.0
    out[1::2, 0], out[1::2, 1], out[1::2, 3] = mean[:, 1], mean[:, 0], 1.0
    return out


def carried(
    view: View, reference: Picture, drawing: Picture, key: str
) -> Whereabouts | NotMeasurable:
    """Where to look for a mark of the drawing: where the best fit of the marks that both pictures
    have carries the reference's; with a doubt as wide as drawings are off."""
    if key not in reference.placed():
        return NotMeasurable("the reference has no such mark")
    bare = replace(drawing, marks={k: mark for k, mark in drawing.marks.items() if k != key})
    pair = pair_marks(view, reference, bare, in_mm=False)
    if not isinstance(pair, Pair):
        return pair[1]
    if pair.shared < FEWEST:
        return NotMeasurable("where to look is told from two marks on")
    fit = pair.best_fit()
    if isinstance(fit, NotMeasurable):
        return fit
    row = pair.seen.keys.index(key)
    places = image_points(drawing, (fit.scale * pair.seen.xy[row] + fit.shift)[None], in_mm=False)
    if isinstance(places, NotMeasurable):
        return places
    head = fit.scale * about_a_head(view, reference)
    left = float(np.square(fit.residuals).sum()) / max(1, pair.shared - FEWEST)
    sd = max(float(np.sqrt(left)), _DRAWN[view.size] * head)
    return Whereabouts(float(places[0][0]), float(places[0][1]), np.eye(2) * sd**2, head)


def lying(view: View, picture: Picture, key: str) -> Whereabouts:
    """Where a mark is looked at that is set already: where it lies."""
    mark, head = picture.marks[key], about_a_head(view, picture)
    return Whereabouts(mark.x, mark.y, np.eye(2) * (_BEYOND[view.size] * head) ** 2, head)


def about_a_head(view: View, picture: Picture) -> float:
    """A head in a picture, image px, as far as it can be told: from crown and chin, else from the
    extent of the marks, else from the picture's height."""
    placed = picture.placed()
    if all(key in placed for key in view.head):
        return own_head_px(view, picture)
    places = np.array([(picture.marks[key].x, picture.marks[key].y) for key in placed])
    extent = float(np.ptp(places, axis=0).max()) if len(places) > 1 else 0.0
    usual = view.tall * (1.0 if view.size == "figure" else _OUTSIDE)
    if extent < picture.height / _SMALLEST:
        return picture.height / (_AIRY * usual)
    return extent / usual
