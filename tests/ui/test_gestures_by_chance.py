"""Gestures by chance: each is one change at most, after which nothing contradicts anything else."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from bralto.core.action.sweeps import WHOLE
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.store.library import Library
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment
from bralto.ui.session.shown import examined, ground_of

Act = Callable[[], object]


def acts(study: OpenStudy, dice: random.Random) -> list[Act]:
    """What a hand could do now."""
    board = dice.choice([Board.REFERENCE, Board.DRAWING])
    picture = study.picture(board)
    placed = sorted(picture.placed())
    x, y = dice.uniform(-20.0, picture.width + 20.0), dice.uniform(-20.0, picture.height + 20.0)
    key = dice.choice([mark.key for mark in study.view.landmarks])
    held = dice.choice(placed or [key])
    edits, pictures, head = study.edits, study.pictures, study.head
    measure = dice.choice(study.view.measures).id
    states = states_of(study)
    own = [one.key for one in study.study.anchors] or ["none"]
    sweep = tuple((x + dice.uniform(-30.0, 30.0), y + 60.0 * i) for i in range(dice.randint(5, 9)))
    horizon = dice.choice([{}, {study.session.picture_name(board): (x, y)}])
    found: list[Act] = [
        lambda: edits.place(study.session.board, x, y, 2.0),
        lambda: edits.remove(board, key),
        lambda: edits.put_back(),
        lambda: pictures.set_plumb(board, dice.uniform(-4.0, 4.0)),
        lambda: pictures.set_crop(board, dice.choice([None, (5.0, 5.0, 100.0, 100.0)])),
        lambda: pictures.set_polygon(board, "gap", dice.choice([(), ((1, 1), (50, 2), (30, 40))])),
        lambda: pictures.set_curve(board, WHOLE, dice.choice([(), sweep])),
        lambda: pictures.set_shadows(board, dice.choice([(), (((x, y), (x + 9, y), (x, y + 9)),)])),
        lambda: head.note(replace(study.notes, horizon=horizon)),
        lambda: study.apply(pointing.toggle_box),
        lambda: edits.begin_repeats(board),
        lambda: edits.back(),
        lambda: edits.propose_from_reference(),
        lambda: edits.confirm_next(1.0),
        lambda: edits.settle_question(),
        lambda: edits.not_there(),
        lambda: edits.other_of_two(),
        lambda: edits.leave_it(board, key, 1.0),
        lambda: study.own.add(board, dice.choice([None, (x, y)]), 2.0, dice.choice(["", "knot"])),
        lambda: study.own.forget(dice.choice(own)),
        lambda: study.own.rename(dice.choice(own), "x"),
        study.undo_stack.undo, study.undo_stack.redo,
        lambda: study.states.compare_with(dice.choice(["", *states])),
        lambda: head.set_school(dice.choice(study.now.schools)),
        lambda: head.set_grade(dice.choice(["learning", "developing", "exacting"])),
        lambda: head.intend((measure,), dice.choice([None, 1.1])),
        lambda: head.guess(measure, 1.0),
        lambda: study.time.spend(3.0),
        lambda: study.apply(prompting.enter_pass, dice.choice(study.now.ground.passes).key),
        lambda: study.apply(prompting.turn_pass, dice.choice([-1, 1])),
        lambda: study.apply(prompting.ask, board, key),
        lambda: study.apply(pointing.point_at, dice.choice([None, key])),
        lambda: study.apply(pointing.select, dice.choice([None, key])),
        lambda: study.apply(pointing.hold, dice.choice([None, *study.corrections])),
        lambda: study.apply(pointing.greatest_first, dice.random() < 0.5),
    ]  # fmt: skip
    transitions = (
        prompting.skip, prompting.other_board, prompting.other_side, prompting.toggle_alone,
        prompting.end_repeats, prompting.toggle_hidden, pointing.next_canon, prompting.undoubt,
        prompting.toggle_boards, pointing.begin_trust, pointing.end_trust,
    )  # fmt: skip
    found += [partial(study.apply, one) for one in transitions]
    if placed:
        found += 3 * [lambda: edits.preview(board, held, x, y)]
        found += 2 * [lambda: edits.move(board, held, x, y, 2.0, nudge=dice.random() < 0.3)]
    if states:
        found.append(lambda: study.states.choose(dice.choice(states)))
    return found


def states_of(study: OpenStudy) -> list[str]:
    return [state.name for state in study.study.states]


@pytest.mark.parametrize("seed", [1, 2])
def test_whatever_the_hand_does_the_moment_after_is_consistent(
    demo_copy: Path, qtbot: QtBot, seed: int
) -> None:
    dice, tasks = random.Random(seed), Tasks()
    with Library.open(demo_copy) as library:
        for study_id in dice.sample([row.id for row in library.rows()], 3):
            stored = library.stored(study_id)
            assert stored is not None
            study = OpenStudy(library, stored, tasks)
            told: list[tuple[Moment, Moment]] = []
            study.changed.connect(lambda before, after, told=told: told.append((before, after)))
            for number in range(120):
                told.clear()
                dice.choice(acts(study, dice))()
                assert len(told) <= 1
                now = study.now
                assert now.session == study.session
                ground = ground_of(study.view, study.study, study.session, None)
                assert (ground.seen, ground.drawn) == (now.ground.seen, now.ground.drawn)
                if now.dragging:
                    continue
                assert now.examination.drawn.picture == ground.drawn
                assert prompting.refresh(study.session, now.ground).step == study.session.step
                if number % 10 == 0:
                    anew = examined(study.study, study.session, ground).assessment
                    errors = [one.error for one in anew.readings]
                    assert errors == [one.error for one in now.examination.assessment.readings]
                    study.advice.search_now()
                    assert not study.busy
                    # What is worked out when it is first asked for has figures, or a reason.
                    for found in study.grounds:
                        assert isinstance(found, NotMeasurable) or np.isfinite(found.box).all()
                    measured = [name for name, _ in study.examination.order.states]
                    assert measured == [name for name in states_of(study) if name in measured]
                    for pair in study.examination.sweeps:
                        assert (
                            isinstance(pair.kept, NotMeasurable) or pair.kept.low <= pair.kept.high
                        )
            study.edits.put_back()
            again = library.stored(study_id)
            assert again is not None
            assert again.study == study.study  # what was told is what is kept
            study.release()
        qtbot.waitUntil(lambda: not tasks.busy)
    tasks.close()
