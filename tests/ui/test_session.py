"""What is asked for and looked at, as transitions of frozen values: no window, and no Qt."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import replace

import pytest

from bralto.core.marking.placing import Step
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named
from bralto.ui.session import pointing, prompting
from bralto.ui.session.repeating import PASSES, repeat
from bralto.ui.session.state import Ground, SessionState

VIEW = view_named("figure-front")


def ground(seen: str = "", drawn: str = "", **changes: bool) -> Ground:
    """Pictures with those marks, somewhere."""

    def picture(keys: str) -> Picture:
        marks = {key: Mark(10.0 + i, 10.0 * i) for i, key in enumerate(keys.split())}
        return Picture("a.png", 400, 800, marks)

    found = Ground(VIEW, picture(seen), picture(drawn), imagined=False, undrawn=False)
    return replace(found, **changes)


def asked(state: SessionState) -> tuple[str, str] | None:
    return None if state.step is None else (state.step.board, state.step.key)


def test_the_session_knows_no_qt() -> None:
    code = (
        "import sys, bralto.ui.session.moment, bralto.ui.session.pointing; "
        "sys.exit(any(name.startswith('PyQt') for name in sys.modules))"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_the_short_set_is_led_through_board_by_board() -> None:
    state = prompting.begin_session(ground(), "first")
    assert (asked(state), state.following) == ((Board.REFERENCE, "crown"), True)
    state = prompting.lead(state, ground("crown"))
    assert (asked(state), state.board) == ((Board.DRAWING, "crown"), Board.DRAWING)


def test_a_mark_that_is_put_off_is_not_asked_for_until_it_is_named() -> None:
    on = ground()
    state = prompting.skip(prompting.begin_session(on, "first"), on)
    assert asked(state) != (Board.REFERENCE, "crown")
    assert "crown" in state.skipped
    state = prompting.ask(state, on, Board.DRAWING, "crown")
    assert (asked(state), "crown" in state.skipped) == ((Board.DRAWING, "crown"), False)


def test_other_board_and_other_side_ask_for_the_same_there() -> None:
    on = ground()
    state = prompting.ask(prompting.begin_session(on, "first"), on, Board.REFERENCE, "wrist_r")
    assert prompting.other_side(state, on).step == Step(Board.REFERENCE, ("wrist_l",), True)
    assert asked(prompting.other_board(state, on)) == (Board.DRAWING, "wrist_r")
    alone = replace(on, imagined=True)
    assert prompting.other_board(state, alone) is state  # a canon has no marks of its own


def test_passes_are_turned_within_the_tape() -> None:
    on = ground()
    state = prompting.begin_session(on, "first")
    first = prompting.turn_pass(state, on, -99)
    assert first.current_pass == on.passes[0].key
    assert prompting.turn_pass(first, on, -1).current_pass == on.passes[0].key
    assert prompting.turn_pass(first, on, 99).current_pass == on.passes[-1].key
    assert not prompting.enter_pass(state, on, "tilts").following


@pytest.mark.parametrize(
    ("undrawn", "imagined", "board"), [(True, False, Board.REFERENCE), (False, True, Board.DRAWING)]
)
def test_one_board_alone_is_asked_where_the_other_has_nothing(
    undrawn: bool, imagined: bool, board: str
) -> None:
    on = replace(ground("crown chin"), undrawn=undrawn, imagined=imagined)
    state = prompting.begin_session(on, "")
    assert state.step is not None
    assert (state.step.board, on.only(state)) == (board, board)


def test_nothing_new_is_the_very_same_state() -> None:
    on = ground()
    state = prompting.begin_session(on, "first")
    assert pointing.point_at(state, on, state.pointed) is state
    assert pointing.select(state, on, None) is state
    assert pointing.hold(state, on, None) is state
    assert pointing.choose_shape(state, on, None) is state
    assert prompting.begin_with(state, on, "") is state


def test_canons_turn_round_to_none() -> None:
    on = ground()
    state = prompting.begin_session(on, "first")
    shown = []
    for _ in range(len(pointing.grown_canons(on)) + 1):
        state = pointing.next_canon(state, on)
        shown.append(state.canon)
    assert (tuple(shown[:-1]), shown[-1]) == (pointing.grown_canons(on), None)


def test_a_blind_repetition_asks_for_every_mark_in_another_order_each_time() -> None:
    run = repeat(Board.DRAWING, ["a", "b", "c", "d"])
    rounds = [run.order[i : i + 4] for i in range(0, len(run.order), 4)]
    assert [sorted(one) for one in rounds] == [["a", "b", "c", "d"]] * PASSES
    assert len(set(rounds)) > 1
    while run.asked is not None:
        run = run.with_placing(1.0, 2.0)
    assert run.left == 0
