"""How figures are said."""

from __future__ import annotations

import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.examination.assessment import assess
from bralto.core.study.values import Mark
from bralto.core.words.phrases import plain, signed, spread, with_doubt
from bralto.core.words.wording import error_text, excess_text, simple_ratio, value_text


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


def test_a_ratio_is_said_with_the_nearest_of_small_whole_numbers() -> None:
    """Denominators up to 8 (measurement, section 4), and the larger number too."""
    said = {0.66: "2 : 3", 1.52: "3 : 2", 0.5: "1 : 2", 1.0: "1 : 1", 0.37: "3 : 8", 4.9: "5 : 1"}
    assert {value: simple_ratio(value) for value in said} == said
    seen = figure_marks()
    drawn = moved(seen, 3.0, (5, 5))
    elbow, wrist = drawn["elbow_r"], drawn["wrist_r"]
    drawn["wrist_r"] = Mark(1.5 * wrist.x - 0.5 * elbow.x, 1.5 * wrist.y - 0.5 * elbow.y)
    reading = assess(study_of(seen, drawn)).reading("ratio.upper_arm_forearm_r")
    assert reading.error == pytest.approx(1 / 1.5 - 1)  # the forearm half as long again
    assert (reading.verdict, reading.percent) == ("under", pytest.approx(-100 / 3))
    assert excess_text(reading) == "33.3 % less"
    assert value_text(reading, 0.82) == "0.82 : 1, about 5 : 6"


def test_an_uncertainty_never_reads_as_nought() -> None:
    assert spread(0.043, 2) == "0.04"
    assert spread(0.0043, 2) == "0.004"
    assert spread(0.00043, 2) == "0.0004"
    assert spread(0.0000043, 2) == "0.0001"  # no less than one of the last that is told
    assert spread(0.0, 2) == "0.00"


def test_a_figure_without_its_plus_keeps_its_minus_and_has_no_minus_nought() -> None:
    said = [plain(value, 1) for value in (-0.04, 0.04, -0.05001, 2.0, -12.34)]
    assert said == ["0.0", "0.0", "−0.1", "2.0", "−12.3"]
    reading = assess(study_of(figure_marks(), figure_marks())).reading("height.crotch")
    assert value_text(reading, -0.001) == "0.00 heads"


def test_a_figure_is_given_as_far_as_its_uncertainty() -> None:
    """To the same decimal (JCGM 100:2008, 7.2.6): *0.03 ± 0.002* left the figure's last digit
    open."""
    assert with_doubt(0.0342, 0.0021, 2) == "0.034 ± 0.002"
    assert with_doubt(0.0342, 0.021, 2) == "0.03 ± 0.02"
    assert with_doubt(-0.0342, 0.0021, 2, sign=True) == "−0.034 ± 0.002"
    assert with_doubt(1.5, 0.3, 0, sign=True) == "+1.5 ± 0.3"
    assert with_doubt(0.0203, 0.0004, 2) == "0.0203 ± 0.0004"  # it read 0.020 ± 0.000
    assert with_doubt(0.5, 0.0, 2) == "0.50 ± 0.00"
    fine = {key: Mark(one.x, one.y, spread=0.02) for key, one in figure_marks().items()}
    drawn = fine | {"crotch": Mark(fine["crotch"].x, fine["crotch"].y + 25.0, spread=0.02)}
    reading = assess(study_of(fine, drawn)).reading("height.crotch")
    assert error_text(reading) == f"+0.250 ± {2 * reading.u:.3f} head"
    assert excess_text(reading) == "0.250 head lower"
    assert error_text(reading, uncertainty=False) == "+0.25 head"
