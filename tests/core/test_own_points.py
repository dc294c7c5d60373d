"""Points that learners name themselves: of a thing they are all that is known of it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.examination.assessment import Assessment, assess
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.values import Anchor, Mark, Study
from bralto.core.views.shipped_views import view_named

ENDS = {
    "top": (520.0, 70.0), "bottom": (330.0, 1130.0), "left": (130.0, 545.0),
    "right": (770.0, 540.0),
}  # fmt: skip
OWN = {
    "seat_l": (170.0, 720.0), "seat_r": (700.0, 735.0), "back": (300.0, 90.0),
    "foot": (690.0, 1090.0),
}  # fmt: skip
ANCHORS = tuple(Anchor(key, key.replace("_", " ")) for key in OWN)
QUARTER = (1130.0 - 70.0) / 4.0


def chair(**drawn: tuple[float, float]) -> Study:
    def marks(places: dict[str, tuple[float, float]]) -> dict[str, Mark]:
        return {key: Mark(x, y, "seen", 1.0) for key, (x, y) in places.items()}

    seen = ENDS | OWN
    study = study_of(marks(seen), marks(seen | drawn), view="object", school="envelope")
    return replace(study, anchors=ANCHORS)


def measured(study: Study) -> Assessment:
    return assess(study, corrections=True)


def test_what_is_off_of_a_chair_is_told_of_its_own_points() -> None:
    """Both corners of the seat 60 px too low, of a chair 1,060 px high: *Nothing is off* was said,
    and a typical miss of 0.00, beside two corrections of 0.23 head."""
    low = {key: (OWN[key][0], OWN[key][1] + 60.0) for key in ("seat_l", "seat_r")}
    found = measured(chair(**low))
    off = {one.spec.id: one.error for one in found.off()}
    assert off == {
        "height.seat_l": pytest.approx(60.0 / QUARTER),
        "height.seat_r": pytest.approx(60.0 / QUARTER),
    }
    assert not isinstance(found.short_miss, NotMeasurable)
    assert not isinstance(found.miss, NotMeasurable)
    assert found.short_miss.value == found.miss.value
    assert not isinstance(found.corrections, NotMeasurable)
    assert {(one.move, one.part, one.unit) for one in found.corrections} == {
        ("shift", "seat_l", "quarter"), ("shift", "seat_r", "quarter"),
    }  # fmt: skip
    assert all("0.23 quarter up" in one.text for one in found.corrections)
    assert all(one.spec.counted == "quarter" for one in found.readings)


def test_own_points_of_a_thing_stand_on_the_ladder_and_the_rails() -> None:
    view, plain = view_of(chair()), view_named("object")
    assert view.stations == (*plain.stations, *OWN)
    assert view.rails == (*plain.rails, *OWN)
    assert view.short == (*plain.short, *((key,) for key in OWN))


def test_own_points_of_a_figure_are_told_of_and_stay_beside_it() -> None:
    """Its stations and its short set are those that practitioners agree on."""
    marks = figure_marks() | {"key": Mark(1200.0, 1500.0)}
    study = replace(
        study_of(marks, marks | {"key": Mark(1200.0, 1900.0)}), anchors=(Anchor("key", "the key"),)
    )
    view, plain = view_of(study), view_named("figure-front")
    assert (view.stations, view.rails, view.short) == (plain.stations, plain.rails, plain.short)
    assert "height.key" in {one.spec.id for one in measured(study).off()}
