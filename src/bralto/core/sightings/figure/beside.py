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
from bralto.core.fit.similarity import Similarity, fit_similarity
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import Implied, implied_about
from bralto.core.sightings.figure.known_before import Known, Prior, head_of, view_asked
from bralto.core.sightings.figure.most_likely import ABOUT, settled
from bralto.core.study.pairing import Pair
from bralto.core.views.model import View

__all__ = ["beside_drawing"]

_GIVES_WAY = {"figure": 0.15, "part": 0.05}
"""SD, heads, to which a body and a head are drawn to the drawing's marks: well under the doubt of
what was not sighted, well over that of what was (chosen here; of figures as much is found with half
or twice of it)."""

_PLACED = 0.3
"""Share of that SD to which the drawing as a whole is laid on the body."""


@dataclass(frozen=True, slots=True, eq=False)
class _Page:
    """The drawing laid on the body: ``at`` (2k,) heads, of the rows ``rows`` of all marks, and the
    SD ``sd`` to which the body is drawn to them."""

    at: Floats
    rows: Ints
    sd: float


def beside_drawing(view: View, implied: Implied, pair: Pair, *, size: float | None) -> Implied:
    """The body that sightings allow and that is nearest to a drawing, with all that is known made
    linear about it; the figure that is implied where no body lies under the drawing.

    Args:
        implied: what the sightings imply by themselves; ``pair``, its marks beside the drawing's.
        size: drawing units a head, where the school holds them; else None.
    """
    page = _laid_on(implied, pair, size, _GIVES_WAY[view.size])
    if page is None or not implied.items:
        return implied
    asked = view_asked(view, implied.items)
    drawn_to = _drawn_to(implied.prior, page)
    start = np.append(drawn_to.mean, math.log(implied.mm_per_head or 1.0))
    body, _ = settled(Known(asked, drawn_to, implied.items), start, least=ABOUT)
    known = Known(asked, implied.prior, implied.items)
    body[:-1] /= head_of(view, known.points(body[:-1]))[0]
    return implied_about(known, implied, body)


def _rows(implied: Implied, pair: Pair) -> Ints:
    """Of the pair's shared marks, x and y side by side."""
    row = {key: i for i, key in enumerate(implied.marks.keys)}
    at = [row[key] for key in pair.seen.keys[: pair.shared]]
    return np.ravel([[2 * i, 2 * i + 1] for i in at]).astype(np.intp)


def _laid_on(implied: Implied, pair: Pair, size: float | None, sd: float) -> _Page | None:
    """None where no body lies under the drawing."""
    rows, drawn = _rows(implied, pair), pair.drawn.xy[: pair.shared]
    body = implied.marks.xy.ravel()[rows].reshape(-1, 2)
    spread = np.diag(implied.cov)[rows].reshape(-1, 2).mean(axis=1)
    fit: Similarity | NotMeasurable
    fit = fit_similarity(body, drawn, np.sqrt(spread + sd**2))
    if isinstance(fit, NotMeasurable):
        return None
    scale, shift = fit.scale, fit.shift
    if size is not None:
        scale, shift = size, np.average(drawn - size * body, axis=0, weights=fit.weights)
    return _Page(((drawn - shift) / scale).ravel(), rows, sd)


def _drawn_to(prior: Prior, page: _Page) -> Prior:
    """What is known before any sighting, drawn to the drawing as to one more."""
    along = np.tile(np.eye(2), (len(page.rows) // 2, 1))
    doubt = np.eye(len(page.rows)) + _PLACED**2 * along @ along.T
    weight = np.linalg.inv(page.sd**2 * doubt)
    known = prior.root.T @ prior.root
    known[np.ix_(page.rows, page.rows)] += weight
    goal = np.zeros(len(prior.mean))
    goal[page.rows] = weight @ (page.at - prior.mean[page.rows])
    cov = np.asarray(np.linalg.inv(known), np.float64)
    root = np.asarray(np.linalg.cholesky(known).T, np.float64)
    return replace(prior, mean=prior.mean + cov @ goal, cov=cov, root=root)
