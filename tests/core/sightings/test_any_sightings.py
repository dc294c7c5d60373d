"""Whatever stands in a file as sightings: a figure or a reason, never NaN or a stray exception."""

from __future__ import annotations

import numpy as np
import pytest
from tests.core.sightings.sitters import picture, places, wild

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
from bralto.core.study.taken import Sightings
from bralto.core.study.values import State, Study
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of


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
