"""What each key does on the bench; those of a board itself are in `PictureBoard`."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

from bralto.core.action.sweeps import WHOLE
from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.keys import looking
from bralto.ui.session import pointing, prompting

__all__ = ["KEYS", "act_of"]


def act_of(event: QKeyEvent) -> Callable[[Bench], None] | None:
    """What a key asks for, or None."""
    return KEYS.get((Qt.Key(event.key()), _plain(event)))


def _plain(event: QKeyEvent) -> bool:
    """Whether no Ctrl or Alt is held; Shift makes plus and minus on many keyboards."""
    return not event.modifiers() & (
        Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
    )


def _hold(bench: Bench, number: int) -> None:
    """Hold a correction by its number, or let it go."""
    listed = bench.study.corrections
    one = listed[number] if number < len(listed) else None
    bench.study.apply(pointing.hold, None if one is bench.study.session.held else one)


def _confirm(bench: Bench) -> None:
    """What the prompt doubts is settled; else the held correction is put right; else the carried
    mark that is asked about lies where it should; else on to what is worth doing."""
    if bench.study.edits.settle_question():
        return
    doubt = bench.doubt_work.asked
    if doubt is not None:
        bench.doubt_work.settle(doubt)
        return
    if bench.study.session.held is not None:
        bench.study.intentions.put_right(bench.study.session.held)
        return
    if bench.study.now.asked_proposal is not None:
        bench.study.edits.confirm_next(bench.drawing.spread())
        return
    if bench.study.current_pass == PassKey.ACTION:
        bench.curves.confirm()
        return
    if bench.study.current_pass == PassKey.LIGHT and bench.light.find_next():
        return
    following = bench.study.now.worth_next()
    if bench.study.step is None and following is not None:
        bench.study.apply(prompting.enter_pass, following.key)


def _dividers(bench: Bench) -> None:
    """A new shape in the pass of shapes, the sweep in that of the action; else a length taken and
    stepped along anything."""
    if bench.study.current_pass == PassKey.SHAPES:
        bench.column.new_shape()
    elif bench.study.current_pass == PassKey.LIGHT:
        bench.light.outline_shadow()
    elif bench.study.current_pass == PassKey.ACTION:
        bench.curves.begin((WHOLE,))
    else:
        bench.work.take_tool(bench.hovered_board(), "dividers")


def _less(bench: Bench, by: int) -> None:
    """A thinner veil or a slower change over the reference; in the light, less that counts as
    shadow on the board that has the keys."""
    if bench.study.current_pass == PassKey.LIGHT and bench.drawing_over.way is None:
        bench.light.shift_level(by)
    else:
        bench.drawing_over.turn_down(by)


KEYS: dict[tuple[Qt.Key, bool], Callable[[Bench], None]] = {
    (Qt.Key.Key_0, True): lambda bench: bench.align(),
    (Qt.Key.Key_M, True): looking.mirror,
    (Qt.Key.Key_T, True): looking.toggle_link,
    (Qt.Key.Key_Space, True): lambda bench: bench.drawing_over.take("ghost"),
    (Qt.Key.Key_B, True): lambda bench: bench.drawing_over.take("blink"),
    (Qt.Key.Key_W, True): lambda bench: bench.drawing_over.take("wipe"),
    (Qt.Key.Key_Escape, True): looking.put_away,
    (Qt.Key.Key_P, True): lambda bench: bench.sighting.toggle("plumb"),
    (Qt.Key.Key_L, True): lambda bench: bench.sighting.toggle("level"),
    (Qt.Key.Key_A, True): lambda bench: bench.work.take_tool(bench.hovered_board(), "stick"),
    (Qt.Key.Key_C, True): lambda bench: bench.preview.toggle(),
    (Qt.Key.Key_I, True): lambda bench: bench.study.intentions.mean_held(),
    (Qt.Key.Key_D, True): _dividers,
    (Qt.Key.Key_G, True): lambda bench: bench.eye.toggle(),
    (Qt.Key.Key_F, True): lambda bench: bench.study.apply(prompting.toggle_alone),
    (Qt.Key.Key_J, True): lambda bench: bench.work.take_tool(
        bench.hovered_board(), "second stick" if bench.sighting.stick else "stick"
    ),
    (Qt.Key.Key_X, True): lambda bench: bench.sighting.divide(),
    (Qt.Key.Key_K, True): lambda bench: bench.study.apply(pointing.toggle_forms),
    (Qt.Key.Key_Y, True): lambda bench: bench.drawing_over.take("outline"),
    (Qt.Key.Key_BracketLeft, True): partial(_less, by=-1),
    (Qt.Key.Key_BracketRight, True): partial(_less, by=1),
    (Qt.Key.Key_Question, True): lambda bench: bench.find_card.toggle(),
    (Qt.Key.Key_F6, True): lambda bench: bench.focus_round.turn(),
    (Qt.Key.Key_F2, True): looking.turn_boards,
    (Qt.Key.Key_F3, True): looking.toggle_boards,
    (Qt.Key.Key_S, True): lambda bench: bench.work.snap(),
    (Qt.Key.Key_Q, True): lambda bench: bench.work.turn_looks(("squint",)),
    (Qt.Key.Key_V, True): lambda bench: bench.work.turn_looks(("two values", "three values")),
    (Qt.Key.Key_E, True): lambda bench: bench.work.turn_looks(("even light",)),
    (Qt.Key.Key_R, True): lambda bench: bench.work.quarter(),
    (Qt.Key.Key_U, True): looking.upside_down,
    (Qt.Key.Key_Z, True): looking.toggle_loupe,
    (Qt.Key.Key_N, True): lambda bench: bench.study.apply(prompting.skip),
    (Qt.Key.Key_H, True): lambda bench: bench.study.apply(prompting.toggle_hidden),
    (Qt.Key.Key_O, True): lambda bench: bench.marks.other_side(),
    (Qt.Key.Key_Delete, True): lambda bench: bench.marks.not_there(),
    (Qt.Key.Key_Return, True): _confirm,
    (Qt.Key.Key_Enter, True): _confirm,
    (Qt.Key.Key_Backspace, True): lambda bench: bench.marks.again(),
    (Qt.Key.Key_Plus, True): lambda bench: bench.active_board().zoom(1.25),
    (Qt.Key.Key_Equal, True): lambda bench: bench.active_board().zoom(1.25),
    (Qt.Key.Key_Minus, True): lambda bench: bench.active_board().zoom(0.8),
    (Qt.Key.Key_P, False): lambda bench: bench.marks.name_point(),
    (Qt.Key.Key_J, False): lambda bench: bench.slips.write_log(),
    (Qt.Key.Key_K, False): looking.next_canon,
    (Qt.Key.Key_Left, False): lambda bench: bench.study.apply(prompting.turn_pass, -1),
    (Qt.Key.Key_Right, False): lambda bench: bench.study.apply(prompting.turn_pass, 1),
    **{
        (key, True): partial(_hold, number=number)
        for number, key in enumerate(
            (
                Qt.Key.Key_1,
                Qt.Key.Key_2,
                Qt.Key.Key_3,
                Qt.Key.Key_4,
                Qt.Key.Key_5,
                Qt.Key.Key_6,
                Qt.Key.Key_7,
                Qt.Key.Key_8,
                Qt.Key.Key_9,
            )
        )
    },
}
