"""What the bench does anew, asked without a window."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from bralto.core.views.pass_keys import PassKey
from bralto.store.library import Library
from bralto.ui.bench.following import Following, Standing, follow
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment

AS_EVER = Standing(boards_first=False, lies=False)
NEAR = Standing(boards_first=True, lies=False)


@pytest.fixture
def study(demo_copy: Path, qtbot: QtBot) -> Iterator[OpenStudy]:
    """The newest demo study."""
    tasks = Tasks()
    with Library.open(demo_copy) as library:
        stored = library.stored(library.rows()[0].id)
        assert stored is not None
        opened = OpenStudy(library, stored, tasks)
        qtbot.waitUntil(lambda: not opened.busy, timeout=60_000)
        yield opened
        opened.release()
        tasks.close()


def went_on(study: OpenStudy, transition, *args: object) -> tuple[Moment, Moment]:
    """The moments before and after a transition."""
    before = study.now
    study.apply(transition, *args)
    assert study.now is not before
    return before, study.now


def test_pointing_at_something_leaves_the_bench_as_it_is(study: OpenStudy) -> None:
    moments = went_on(study, pointing.point_at, "navel")
    assert follow(*moments, AS_EVER, AS_EVER) == Following(*[False] * 6)


def test_another_pass_is_arranged_and_fitted_but_not_while_marks_are_set(study: OpenStudy) -> None:
    moments = went_on(study, prompting.enter_pass, PassKey.WIDTHS)
    following = follow(*moments, AS_EVER, AS_EVER)
    assert (following.turned, following.arranged, following.fitted) == (True, True, True)
    near = follow(*moments, NEAR, NEAR)
    assert (near.turned, near.arranged, near.fitted) == (True, True, False)


def test_boards_that_come_first_or_a_figure_that_lies_down_lay_the_bench_anew(
    study: OpenStudy,
) -> None:
    moments = went_on(study, pointing.point_at, "navel")
    for stood, stands in ((AS_EVER, NEAR), (NEAR, AS_EVER)):
        following = follow(*moments, stood, stands)
        assert (following.drawn_back, following.arranged, following.fitted) == (True, True, True)
    lying = follow(*moments, AS_EVER, Standing(boards_first=False, lies=True))
    assert (lying.drawn_back, lying.arranged, lying.fitted) == (False, True, True)


def test_the_next_question_takes_the_keys(study: OpenStudy) -> None:
    board = study.session.board
    moments = went_on(study, prompting.ask, board, "navel")
    following = follow(*moments, AS_EVER, AS_EVER)
    assert (following.asks_another, following.takes_keys) == (True, True)
    assert not following.turned
