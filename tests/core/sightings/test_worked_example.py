"""The worked example of docs/measurement.md, section 11: every number there by pencil and paper."""

from __future__ import annotations

import math

import pytest
from tests.core.sightings.sitters import picture, places

from bralto.core.examination.assessment import assess
from bralto.core.measures.readings import Reading
from bralto.core.page.page_plan import plan_sheet
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.sheet_extent import extent_of_sightings
from bralto.core.study.taken import Sighting, Sightings, sighting_of
from bralto.core.study.values import Scale, State, Study
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
A3, MARGIN = (297.0, 420.0), 20.0


def whole(many: int = 1) -> tuple[Sighting, ...]:
    spec = FRONT.measure("span.figure")
    assert spec is not None
    one = sighting_of(FRONT, spec, 7.5)
    assert one is not None
    return (one,) * many


def drawn(heads: float, sighted: tuple[Sighting, ...]) -> Reading:
    """A drawing so many of its own heads tall, marked with hardly any doubt."""
    marks = places("figure-front")
    crown, low = (
        marks["crown"],
        min(float(marks[key][1]) for key in ("heel_r", "heel_l", "toe_r", "toe_l")),
    )
    grown = heads / (float(crown[1]) - low)
    tall = {key: (at - crown) * [1.0, grown] + crown for key, at in marks.items()}
    tall["chin"] = marks["chin"]  # the head stays as it is
    study = Study("by hand", "figure-front", None, (State("first", picture(tall, 0.01)),),
                  scale=Scale("head"), sightings=Sightings(sighted))  # fmt: skip
    found = assess(study).reading("span.figure")
    assert found is not None
    return found


def test_the_sheet() -> None:
    """380 mm between the margins, 7.5 heads: 50.7 mm a head."""
    extent = extent_of_sightings(FRONT, Sightings(whole()))
    assert not isinstance(extent, NotMeasurable)
    plan = plan_sheet(extent, A3, MARGIN)
    assert plan.tall == pytest.approx(380.0, abs=0.1)
    assert plan.head == pytest.approx(380.0 / 7.5, abs=0.6)


@pytest.mark.parametrize(("heads", "verdict"), [(6.9, "under"), (7.2, "cannot tell")])
def test_the_verdict(heads: float, verdict: str) -> None:
    found = drawn(heads, whole())
    assert found.reference == pytest.approx(7.5, abs=0.01)
    assert found.error == pytest.approx(heads - 7.5, abs=0.02)
    assert 2.0 * (found.u or 0.0) == pytest.approx(0.45, abs=0.01)
    assert found.verdict == verdict


@pytest.mark.parametrize(("many", "doubt"), [(2, 0.45 / math.sqrt(2.0)), (4, 0.225)])
def test_sighting_again(many: int, doubt: float) -> None:
    assert 2.0 * (drawn(7.2, whole(many)).u or 0.0) == pytest.approx(doubt, abs=0.01)


def test_a_fourth_sighting_tells() -> None:
    assert drawn(7.2, whole(4)).verdict == "under"
