"""The bench with views other than the standing figure from the front, and with anchors."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.studies import study_of
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Anchor, Mark, Scale, Sheet, Study
from bralto.core.views.pass_keys import PassKey
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting


def study_in(view: str, seed: int = 3) -> Study:
    """A study of a view with all its marks, the drawing a little off."""
    rng = np.random.default_rng(seed)
    seen = {m.key: Mark(*rng.uniform(300, 3700, 2)) for m in view_named(view).landmarks}
    drawn = {k: Mark(m.x + rng.normal(0, 40), m.y + rng.normal(0, 40)) for k, m in seen.items()}
    return study_of(seen, drawn, view=view, school=view_named(view).school)


def on_the_bench(open_window: Opener, folder: Path, study: Study, qtbot: QtBot) -> Bench:
    with Library.open(folder) as library:
        kept = library.add(study, {}, "2026-11-01T10:00:00Z")
    window = open_window(folder)
    house(window).open_study(kept)
    settle(qtbot, window)
    assert house(window).bench is not None
    return house(window).bench


@pytest.mark.parametrize("view", view_keys())
def test_every_view_is_painted_in_every_pass_without_a_word_from_qt(
    view: str, open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    bench = on_the_bench(open_window, tmp_path, study_in(view), qtbot)
    for one in bench.study.view.passes:
        bench.study.apply(prompting.enter_pass, one.key)
        bench.grab()
    assert bench.study.step is None  # every landmark is decided
    assert len(bench.study.assessment.readings) == len(bench.study.view.measures)


def test_from_behind_the_fan_shows_the_lines_that_run_to_the_left(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    """The model's right to left is the viewer's right to left there: near 180 degrees."""
    seen = {
        "crown": Mark(2000, 300), "nape": Mark(2000, 800),
        "shoulder_r": Mark(2600, 1000), "shoulder_l": Mark(1400, 1100),
    }  # fmt: skip
    drawn = seen | {"shoulder_l": Mark(1400, 1000)}
    bench = on_the_bench(open_window, tmp_path, study_of(seen, drawn, view="figure-back"), qtbot)
    (reading,) = bench.column.fan.shown()
    assert reading.spec.id == "tilt.shoulders"
    assert abs(reading.reference) > 170.0
    assert reading.verdict == "under"  # flatter than seen
    bench.column.fan.grab()


def test_an_anchor_is_asked_for_and_measured_like_any_landmark(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    study = replace(study_in("object"), anchors=(Anchor("spout", "spout of the jug"),))
    bench = on_the_bench(open_window, tmp_path, study, qtbot)
    assert bench.study.step.key == "spout"
    assert "spout of the jug on the reference" in bench.prompt().lead
    assert bench.study.edits.place(Board.REFERENCE, 900.0, 800.0, 2.0) == "spout"
    assert bench.study.step.board == Board.DRAWING
    bench.study.edits.place(Board.DRAWING, 905.0, 900.0, 2.0)
    assert bench.study.assessment.reading("height.spout").error is not None
    assert bench.study.step is None


def test_only_schools_that_can_be_measured_are_offered(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    study = study_in("figure-front")
    plain = on_the_bench(open_window, tmp_path / "plain", study, qtbot)
    assert plain.study.now.schools == ("head", "envelope", "best-fit")
    sheet = Sheet(((0, 0), (4000, 0), (4000, 4000), (0, 4000)), (400.0, 400.0))
    state = study.states[0]
    full = replace(
        study,
        scale=Scale("anchors", ("crown", "crotch")),
        reference=replace(study.reference, sheet=sheet),
        states=(replace(state, picture=replace(state.picture, sheet=sheet)),),
    )
    other = on_the_bench(open_window, tmp_path / "full", full, qtbot)
    assert other.study.now.schools == ("head", "envelope", "best-fit", "anchors", "sight-size")
    other.study.head.set_school("sight-size")
    assert other.study.study.scale == Scale("sight-size", ("crown", "crotch"))
    unit = other.study.assessment.unit
    assert unit.drawing == pytest.approx(unit.reference)  # mm for mm
    other.study.head.set_school("anchors")
    trusted = other.study.assessment
    seen, drawn = (
        np.hypot(*(np.array([p.marks["crown"].x, p.marks["crown"].y])
                   - [p.marks["crotch"].x, p.marks["crotch"].y]))
        for p in (other.study.picture(Board.REFERENCE), other.study.picture(Board.DRAWING))
    )  # fmt: skip
    assert trusted.unit.drawing / trusted.unit.reference == pytest.approx(drawn / seen)


def test_the_sheet_of_a_hand_is_planned_by_the_hand(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    """It asked for a head, and said that of the hand on A3 is 453 mm."""
    bench = on_the_bench(open_window, tmp_path, study_in("hand"), qtbot)
    bench.study.apply(prompting.enter_pass, PassKey.SHEET)
    slip = bench.column.plan
    slip.head.setValue(180.0)
    note = bench.study.head.plan_note
    assert note.head_mm == pytest.approx(180.0 / 0.77)
    rows = {row.label: row for row in slip.rows.rows}
    assert rows["hand"].right[0] == "180.0 mm"
    assert rows["dividers"].right == ("180.0 mm for the hand",)
    assert (slip.head.accessibleName(), rows["hand"].detail.split(":")[0]) == (
        "Hand", "larger than life",
    )  # fmt: skip
    slip.head.setValue(150.0)
    assert next(row for row in slip.rows.rows if row.label == "hand").detail == ""
    qtbot.keyClick(bench.column.right, Qt.Key.Key_Up)
    assert slip.head.value() == pytest.approx(151.0, abs=0.1)


def test_no_chair_is_larger_than_life(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    bench = on_the_bench(open_window, tmp_path, study_in("object"), qtbot)
    bench.study.apply(prompting.enter_pass, PassKey.SHEET)
    bench.study.head.note_plan(replace(bench.study.head.plan_note, paper="2500x2500"))
    rows = {row.label: row for row in bench.column.plan.rows.rows}
    assert float(rows["height"].right[0].split()[0]) > 4 * 225
    assert rows["height"].detail == ""
