"""A study from life on the record: told apart from others, weighed by its doubt."""

from __future__ import annotations

import numpy as np
from tests.core.sightings.sitters import picture, places, sighted
from tests.core.sightings.test_implied import LENGTHS, USUAL

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.study_facts import facts_of
from bralto.core.results import NotMeasurable
from bralto.core.sightings.taken import Sightings
from bralto.core.study.values import State, Study


def test_it_counts_as_from_life_with_its_own_doubt() -> None:
    seen, rng = places("figure-front"), np.random.default_rng(2)
    drawn = State("first", picture(seen, 1.5))
    items = sighted("figure-front", seen, *USUAL, *LENGTHS, rng=rng)
    life = Study("x", "figure-front", None, (drawn,), sightings=Sightings(items))
    photo = Study("x", "figure-front", picture(seen, 1.5), (drawn,))
    assert facts_of(life).source == "life"
    assert facts_of(photo).source == "photo"
    # Beside a picture sightings are practice: the study stays one of a photo.
    practised = Study("x", "figure-front", picture(seen, 1.5), (drawn,), sightings=Sightings(items))
    assert facts_of(practised).source == "photo"
    by_life, by_photo = (keep_of(measured(one), ()).summary for one in (life, photo))
    assert not isinstance(by_life.tracked, NotMeasurable)
    assert not isinstance(by_photo.tracked, NotMeasurable)
    assert by_life.tracked.u > 3.0 * by_photo.tracked.u
    assert by_life.tracked.limit > 3.0 * by_photo.tracked.limit
    # The same drawing and sitter: what they say differs by no more than the doubt.
    away = abs(by_life.tracked.value - by_photo.tracked.value)
    assert away < 3.0 * by_life.tracked.limit


def test_a_few_sightings_are_no_typical_miss() -> None:
    """With one sighting nearly all marks are only usual: how far a drawing lies from those is how
    far it lies from an average, and no figure of it is given. With a few the mark limit says how
    little it is worth."""
    seen = places("figure-front")
    drawn = State("first", picture(seen, 1.5))
    few = sighted("figure-front", seen, "span.shoulders", "span.figure", "tilt.shoulders")
    one = Study("x", "figure-front", None, (drawn,), sightings=Sightings(few[:1]))
    assert isinstance(keep_of(measured(one), ()).summary.tracked, NotMeasurable)
    three = Study("x", "figure-front", None, (drawn,), sightings=Sightings(few))
    tracked = keep_of(measured(three), ()).summary.tracked
    assert isinstance(tracked, NotMeasurable) or tracked.limit > 0.2
    more = sighted("figure-front", seen, *USUAL, *LENGTHS)
    told = measured(Study("x", "figure-front", None, (drawn,), sightings=Sightings(more)))
    miss = told.assessment.miss
    assert not isinstance(miss, NotMeasurable)
    assert 6 <= miss.marks < 31  # those of which the sightings tell something
