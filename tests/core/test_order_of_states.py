"""What the states of a drawing tell of its order: edges that settle, since when what is off is."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.examination.order_of_states import (
    Settled,
    early_state,
    order_of,
    settled_edges,
    since,
)
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import order_findings
from bralto.core.study.stages import stage_at
from bralto.core.study.values import Mark, Picture, Sheet, State, Study
from bralto.core.tolerances import GRADES

DEVELOPING = GRADES["developing"]
SHEET = Sheet(((0.0, 0.0), (1000.0, 0.0), (1000.0, 1400.0), (0.0, 1400.0)), (300.0, 420.0), 0.5)
"""3.33 px a mm."""

LAST = moved(figure_marks(spread=0.5), 1.0, (100.0, 100.0))


def of_states(*states: tuple[str, dict[str, Mark]], sheet: Sheet | None = SHEET) -> Study:
    study = study_of(figure_marks(), LAST)
    pictures = [(name, Picture(f"{name}.png", 1000, 1400, marks, 0.0, sheet))
                for name, marks in states]  # fmt: skip
    return replace(study, states=tuple(State(name, picture) for name, picture in pictures))


def outermost() -> dict[str, str]:
    return {
        "top": min(LAST, key=lambda key: LAST[key].y),
        "bottom": max(LAST, key=lambda key: LAST[key].y),
        "left": min(LAST, key=lambda key: LAST[key].x),
        "right": max(LAST, key=lambda key: LAST[key].x),
    }


def off_at(*edges: str, by: float = 40.0) -> dict[str, Mark]:
    """The last state's marks with some edges further out; 40 px are 0.4 head."""
    marks = dict(LAST)
    for edge in edges:
        key = outermost()[edge]
        away = {"top": (0.0, -by), "bottom": (0.0, by), "left": (-by, 0.0), "right": (by, 0.0)}
        mark, (x, y) = marks[key], away[edge]
        marks[key] = replace(mark, x=mark.x + x, y=mark.y + y)
    return marks


def test_an_edge_stands_since_the_state_from_which_on_it_moves_no_more() -> None:
    study = of_states(
        ("action", off_at("top", "left", "right")), ("block-in", off_at("top")), ("end", LAST)
    )
    found = settled_edges(study, DEVELOPING)
    assert isinstance(found, Settled)
    assert found.at == {"top": 2, "bottom": 0, "left": 1, "right": 1}
    assert (found.sides, found.top, found.sides_first) == ("block-in", "end", True)
    other = settled_edges(of_states(("block-in", off_at("right")), ("end", LAST)), DEVELOPING)
    assert isinstance(other, Settled)
    assert not other.sides_first


def test_an_edge_that_comes_back_has_not_stood() -> None:
    study = of_states(
        ("action", LAST), ("block-in", off_at("left")), ("before shading", LAST), ("end", LAST)
    )
    found = settled_edges(study, DEVELOPING)
    assert isinstance(found, Settled)
    assert found.at["left"] == 2  # where it stood at first does not count


def test_less_than_a_tolerance_is_no_move() -> None:
    # A head is 100 px; 'developing' allows 0.05 of it.
    found = settled_edges(of_states(("block-in", off_at("top", by=4.0)), ("end", LAST)), DEVELOPING)
    assert isinstance(found, Settled)
    assert found.at["top"] == 0


@pytest.mark.parametrize(
    "study",
    [
        of_states(("block-in", LAST), ("end", LAST), sheet=None),
        of_states(("end", LAST)),
        of_states(("block-in", {"crown": LAST["crown"]}), ("end", LAST)),
    ],
)
def test_without_two_sheets_and_marks_nothing_is_told(study: Study) -> None:
    assert isinstance(settled_edges(study, DEVELOPING), NotMeasurable)


def test_it_is_told_since_when_a_measure_is_off() -> None:
    def with_knees(by: float) -> dict[str, Mark]:
        return {
            key: replace(mark, y=mark.y + by) if key.startswith("knee") else mark
            for key, mark in LAST.items()
        }

    study = of_states(
        ("action", with_knees(0.0)), ("block-in", with_knees(40.0)), ("end", with_knees(42.0))
    )
    order = order_of(study, DEVELOPING)
    off = order.states[-1][1].off()
    knees = next(one for one in off if one.spec.id == "height.knees")
    assert since(knees.spec.id, order.states) == "block-in"
    words = [one.words for one in order_findings(order, [knees], None)]
    assert any("off since 'block-in'" in one for one in words)
    # The other way about is another error.
    back = of_states(("block-in", with_knees(-40.0)), ("end", with_knees(40.0)))
    assert since("height.knees", order_of(back, DEVELOPING).states) == "end"
    assert since("height.crown", order.states) == ""


def test_edges_that_stood_in_the_first_photo_tell_no_order() -> None:
    still = order_of(of_states(("block-in", LAST), ("end", LAST)), DEVELOPING)
    assert isinstance(still.settled, Settled)
    assert not order_findings(still, [], None)
    moved_on = order_of(of_states(("block-in", off_at("left")), ("end", LAST)), DEVELOPING)
    (told,) = order_findings(moved_on, [], None)
    assert (told.words, told.good) == ("The top before the sides", False)
    assert told.detail == "sides stand since 'end', the top since 'block-in'"


def test_straight_lines_are_told_of_the_last_early_stage() -> None:
    study = of_states(("action", LAST), ("block-in", LAST), ("end", LAST))
    state = early_state(study)
    assert state is not None
    assert state.name == "block-in"
    for name in ("evening", "action"):  # an action is a curve, and may be
        assert early_state(of_states((name, LAST))) is None
    order = order_of(study, DEVELOPING)
    told = {
        share: order_findings(order, [], ("block-in", share, 0.05))[0] for share in (0.8, 0.55, 0.2)
    }
    assert [told[share].good for share in (0.8, 0.55, 0.2)] == [True, None, False]
    assert told[0.8].words == "Straight lines early: 80 % of 'block-in'"


def test_a_photo_is_proposed_where_its_stage_has_come_and_is_not_past() -> None:
    assert stage_at("edges", ["first"]) == "block-in"
    assert stage_at("tilts", ["block-in"]) == "straight lines"
    assert stage_at("edges", ["straight lines"]) == ""  # it is past
    assert stage_at("verdict", ["first", "end"]) == ""
    assert stage_at("widths", ["first"]) == ""
