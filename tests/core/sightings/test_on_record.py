"""A study from life on the record: told apart from others, weighed by its doubt."""

from __future__ import annotations

import numpy as np
import pytest
from bench.bodies import bodies
from bench.faults import figure_kinds
from tests.core.sightings.sitters import picture, places, sighted
from tests.core.sightings.test_implied import LENGTHS, USUAL

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.study_facts import facts_of
from bralto.core.longitudinal.traits.joint_fit import Amount
from bralto.core.results import NotMeasurable
from bralto.core.study.taken import Sighting, Sightings
from bralto.core.study.values import Picture, State, Study


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


FEW = ("height.crotch", "height.sole", "span.shoulders", "span.thigh_l", "tilt.shoulders",
       "span.upper_arm_r")  # fmt: skip


def traits_of(items: tuple[Sighting, ...], drawn: Picture) -> dict[str, Amount]:
    study = Study("x", "figure-front", None, (State("first", drawn),), sightings=Sightings(items))
    found = keep_of(measured(study), ()).traits
    assert not isinstance(found, NotMeasurable)
    return dict(found.sizes) | dict(found.values)


def test_what_bodies_usually_are_makes_no_trait_of_a_learner() -> None:
    """A model with long shanks that was drawn as it is: where they were not sighted, who draws it
    does not *draw shanks long*. Of clean drawings one trait in twenty is beyond two standard
    uncertainties at most (one in ten was, the figure that is implied being taken for the model)."""
    rng, told, beyond = np.random.default_rng(4), 0, 0
    for number in range(6):
        seen = places("figure-front", number)
        items = sighted("figure-front", seen, *FEW, rng=rng)
        for one in traits_of(items, picture(seen, 1.5, rng, 2.0)).values():
            told += 1
            beyond += abs(one.value) > 2.0 * one.u
    assert told > 60
    assert beyond <= 0.05 * told


def test_a_trait_that_was_sighted_is_told_as_from_a_picture() -> None:
    """An arm 20 % too long, its bones sighted well: as surely as the pencil has it."""
    body, rng = bodies("figure-front")[0], np.random.default_rng(6)
    kind = next(one for one in figure_kinds(body, rng) if one.title == "one arm")
    seen, drawn = dict(body.marks), picture(kind.change(body, 0.2), 1.5)
    items = sighted("figure-front", seen, *USUAL, *LENGTHS)
    by_sight = traits_of(items, drawn)["sides.arm"]
    pictured = Study("x", "figure-front", picture(seen, 1.5), (State("first", drawn),))
    kept = keep_of(measured(pictured), ()).traits
    assert not isinstance(kept, NotMeasurable)
    by_picture = kept.values["sides.arm"]
    assert abs(by_picture.value) == pytest.approx(np.log(1.2), abs=0.03)
    assert by_sight.value == pytest.approx(by_picture.value, abs=2.0 * by_sight.u)
    assert by_picture.u < by_sight.u < 0.5 * np.log(1.2)
