"""Whatever stands in a file as sightings: a figure or a reason, never NaN or a stray exception."""

from __future__ import annotations

import numpy as np
import pytest
from tests.core.sightings.sitters import picture, places

from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.sightings.contradictions import contradictions
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.sheet_extent import extent_of_sightings
from bralto.core.sightings.held import held_against
from bralto.core.sightings.next_question import next_questions
from bralto.core.sightings.stance import likelier_stance
from bralto.core.sightings.told_skills import told_so_far
from bralto.core.study.anchored import placed
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.values import State, Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of

VALUES = (0.0, 1.0, -1.0, 1e-9, 100.0, -100.0, 3.3, 7.5, 90.0, 180.0, -180.0, 0.5)
DOUBTS = (0.0, 1e-9, 1e-3, 0.05, 2.0, 1e6)
_ENDS = {Sort.FRACTION: 3, Sort.HIGHER: 1, Sort.LEFT: 1}


def wild(view: View, rng: np.random.Generator) -> Sighting:
    """A sighting of any points, with any value and doubt that a file may have."""
    points, sort = list(view.point_rows), list(Sort)[int(rng.integers(len(Sort)))]

    def some(many: int) -> tuple[str, ...]:
        return tuple(map(str, rng.choice(points, many, replace=False)))

    of: tuple[str, ...] = ()
    if sort is Sort.LONGER or (sort is Sort.LENGTH and rng.random() < 0.3):
        of = some(2)
    elif sort.is_answer:
        of = some(1)
    value = float(rng.integers(-1, 2)) if sort.is_answer else float(rng.choice(VALUES))
    if sort is Sort.LENGTH:
        value = abs(value) or 1.0
    along = "level"
    if sort in {Sort.LENGTH, Sort.FRACTION, Sort.LONGER}:
        along = str(rng.choice(["straight", "plumb", "level"]))
    in_mm = sort is Sort.LENGTH and not of and rng.random() < 0.3
    return Sighting(sort, some(_ENDS.get(sort, 2)), value, float(rng.choice(DOUBTS)), of, along,
                    in_mm=in_mm)  # fmt: skip


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize("view_key", ["figure-front", "figure-side", "head-front", "hand"])
def test_any_sightings_give_figures_or_reasons(view_key: str, seed: int) -> None:
    stances = stances_of(view_named(view_key)) or (Stance.STANDING,)
    view = placed(view_named(view_key), stances[seed % len(stances)])
    rng = np.random.default_rng(seed)
    items = tuple(wild(view, rng) for _ in range(int(rng.integers(0, 25))))
    found = imply(view, items)
    if isinstance(found, NotMeasurable):
        assert view_key == "hand"
        return
    assert np.isfinite(found.marks.xy).all()
    assert np.isfinite(found.cov).all()
    assert (np.diag(found.cov) >= 0.0).all()
    grade = view.grade("developing")
    for told in told_so_far(view, found, grade):
        assert told.u is None or np.isfinite(told.u)
    assert all(row < len(items) for one in contradictions(view, items) for row in one.rows)
    assert not isinstance(next_questions(view, items, grade), NotMeasurable)
    extent_of_sightings(view, Sightings(items, stance=view.stance))
    assert likelier_stance(view, items) in {None, *stances}
    if view_key == "figure-front":
        drawn = State("first", picture(places(view_key), 1.5))
        sightings = Sightings(items, stance=view.stance)
        study = Study("wild", view_key, None, (drawn,), sightings=sightings)
        for reading in assess(study, corrections=True).readings:
            assert reading.error is None or np.isfinite(reading.error)
        held_against(view, Sightings(items), drawn.picture, grade)
