"""What the record keeps of a study, and how figures are said."""

from __future__ import annotations

import numpy as np
import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.assessment import assess
from bralto.core.record import SKILLS, summarise
from bralto.core.study import Mark
from bralto.core.wording import error_text, excess_text, signed, value_text


def test_a_skill_is_the_median_error_with_its_middle_eighty_percent() -> None:
    seen = figure_marks()
    drawn = moved(seen, 2.0, (0, 0))
    drawn["shoulder_r"] = Mark(100.0, 700.0)
    found = assess(study_of(seen, drawn))
    summary = summarise(found)
    assert {figure.skill for figure in summary.skills} == set(SKILLS)
    tilts = summary.skill("tilts")
    sizes = [abs(r.error) for r in found.readings if r.spec.kind == "tilt"]
    assert tilts.median == pytest.approx(np.median(sizes))
    assert (tilts.low, tilts.high) == pytest.approx(tuple(np.percentile(sizes, (10, 90))))
    assert tilts.unit == "degree"


def test_figures_are_never_without_unit_sign_and_uncertainty() -> None:
    seen = figure_marks()
    drawn = moved(seen, 1.0, (0, 0))
    drawn["crotch"] = Mark(drawn["crotch"].x, drawn["crotch"].y + 25.0)
    reading = assess(study_of(seen, drawn)).reading("height.crotch")
    assert error_text(reading) == f"+0.25 ± {2 * reading.u:.2f} head"
    assert excess_text(reading) == "0.25 head lower"
    assert value_text(reading, None) == "not marked"
    tilt = assess(study_of(seen, drawn)).reading("tilt.shoulders")
    assert value_text(tilt, tilt.reference).startswith("−")  # a true minus sign
    assert signed(-0.0001, 2) == "0.00"
