"""What sightings say of the body beside one drawing.

The figure that sightings imply is the most likely one of all, and what is known is made linear
about it. A drawing may show a limb where it points another way, and there the same sightings tell
something else of where it ends. So all that is known is made linear once more, about a body that
gives way to the drawing where the sightings leave it open. The drawing tells nothing of the body by
that, it only says about which one to reckon.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.laying_out import Laid
from bralto.core.fit.similarity import fit_similarity
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import Implied, view_asked
from bralto.core.sightings.figure.most_likely import (
    HEAD_ON_THE_WAY,
    Known,
    Prior,
    change_of,
    covariance,
    linear,
    settled,
)
from bralto.core.study.pairing import Pair
from bralto.core.views.model import View

__all__ = ["beside_drawing"]

_GIVES_WAY = 0.15
"""SD, heads, to which the body is drawn to the drawing's marks: well under the doubt of what was
not sighted, well over that of what was (chosen here; with half or twice of it as much is found)."""

_PLACED = 0.05
"""SD, heads, of where the drawing as a whole is laid on the body."""


@dataclass(frozen=True, slots=True, eq=False)
class _Page:
    """The drawing laid on the body: ``at`` (2k,) heads, of the rows ``rows`` of all marks."""

    at: Floats
    rows: Ints


def beside_drawing(view: View, implied: Implied, pair: Pair, laid: Laid) -> Laid:
    """The marks laid out with the body that sightings allow and that is nearest to the drawing.

    Args:
        implied: what the sightings imply by themselves; ``pair`` and ``laid``, its marks beside the
            drawing's.
    """
    page = _laid_on(implied, pair, laid)
    if page is None or not implied.items:
        return laid
    asked = view_asked(view, implied.items)
    drawn_to = _drawn_to(implied.prior, page)
    start = np.append(drawn_to.mean, math.log(implied.mm_per_head or 1.0))
    start, _ = settled(Known(asked, drawn_to), implied.items, start, about=True)
    step = linear(Known(asked, implied.prior, HEAD_ON_THE_WAY[-1]), implied.items, start)
    whole, away = covariance(step.matrix), change_of(step)[:-1]
    slopes = np.eye(len(whole))[page.rows]
    if pair.seen.unit == "mm":  # then how many mm a head are is in doubt too
        slopes[:, -1] = start[page.rows]
    seen = start[page.rows].reshape(-1, 2)
    return replace(
        laid,
        candidates=laid.candidates.bound(seen),
        seen=seen,
        drawn=laid.drawn - away[page.rows].reshape(-1, 2),
        implied=slopes @ whole @ slopes.T,
    )


def _laid_on(implied: Implied, pair: Pair, laid: Laid) -> _Page | None:
    """None where no body lies under the drawing."""
    row = {key: i for i, key in enumerate(implied.marks.keys)}
    at = [row[key] for key in pair.seen.keys[: pair.shared]]
    spread = np.einsum("nkk->n", implied.marks.cov[at]) / 2.0
    body = implied.marks.xy[at]
    fit = fit_similarity(body, laid.drawn, np.sqrt(spread + _GIVES_WAY**2))
    if isinstance(fit, NotMeasurable):
        return None
    scale, shift = fit.scale, fit.shift
    if laid.whole_scale:
        scale = 1.0
        shift = np.average(laid.drawn - body, axis=0, weights=fit.weights)
    rows = np.ravel([[2 * i, 2 * i + 1] for i in at]).astype(np.intp)
    return _Page(((laid.drawn - shift) / scale).ravel(), rows)


def _drawn_to(prior: Prior, page: _Page) -> Prior:
    """What is known before any sighting, drawn to the drawing as to one more."""
    along = np.tile(np.eye(2), (len(page.rows) // 2, 1))
    doubt = _GIVES_WAY**2 * np.eye(len(page.rows)) + _PLACED**2 * along @ along.T
    weight = np.linalg.inv(doubt)
    known = prior.root.T @ prior.root
    known[np.ix_(page.rows, page.rows)] += weight
    goal = np.zeros(len(prior.mean))
    goal[page.rows] = weight @ (page.at - prior.mean[page.rows])
    mean = prior.mean + np.linalg.solve(known, goal)
    root = np.asarray(np.linalg.cholesky(known).T, np.float64)
    return replace(prior, mean=mean, cov=np.asarray(np.linalg.inv(known), np.float64), root=root)
