"""What is asked for next, and the pass that asks: every change of the prompt as a transition.

A transition takes the state and the ground it stands on and gives the next state, the very same
where nothing changes.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bralto.core.doubts.at_once import Question
from bralto.core.marking.placing import Step, next_step
from bralto.core.session.passes import (
    Progress,
    SessionPass,
    progress_of,
    worth_next,
)
from bralto.core.session.tapes import TapeOrder
from bralto.core.study.two_boards import Board
from bralto.core.views.model import REGIONS
from bralto.core.views.pass_keys import PassKey
from bralto.ui.session.repeating import Repeating, repeat
from bralto.ui.session.state import Asked, Ground, SessionState

__all__ = [
    "ask", "begin_repeats", "begin_session", "begin_with", "choose_region", "doubt", "end_repeats",
    "enter_pass", "go_on", "in_sight", "know_hand", "lay_tape", "lead", "other_board", "other_side",
    "question_of", "refresh", "region_in_sight", "region_progress", "repeatable", "skip",
    "toggle_alone", "toggle_boards", "toggle_hidden", "turn_pass", "undoubt",
]  # fmt: skip


def begin_session(ground: Ground, state_name: str) -> SessionState:
    """The bench as it is when a study is put on it: the short set first, then what is lacking."""
    view = ground.view
    begun = refresh(SessionState(view.passes[1].key, state_name), ground)
    if ground.from_life and ground.undrawn:
        return replace(begun, following=True, current_pass=PassKey.SIGHT)
    following = begun.step is not None and begun.step.short
    current = begun.current_pass
    if following:
        current = _pass_of_step(begun, ground) or current
    else:
        progress = progress_of(
            ground.passes, ground.seen.marks, ground.drawn.marks, {}, only=ground.only(begun)
        )
        lacking = worth_next(progress, current)
        current = lacking.key if lacking is not None and lacking.marks else current
    return refresh(replace(begun, following=following, current_pass=current), ground)


def refresh(state: SessionState, ground: Ground) -> SessionState:
    """Find the step anew, after marks, the pass or what was put off have changed."""
    regions = state.regions.look(lambda region: _lacks(state, ground, region))
    state = replace(state, regions=regions)
    step = state.asked or _next(state, ground)
    if state.following and (step is None or not step.short):
        state = replace(state, following=False)  # from here on each pass asks for its own
        step = state.asked or _next(state, ground)
    run = state.repeating
    if run is not None and run.asked is not None:
        step = Step(run.board, (run.asked,), short=True)
    doubted, asked = state.doubted, state.asked
    if doubted is not None and (
        asked is None or (asked.board, asked.key) != (doubted.board, doubted.question.key)
    ):
        state = replace(state, doubted=None)  # something else is asked for: it was left as it is
    wish = state.boards_asked
    if step is None and state.step is not None:
        wish = None  # the set is complete: ladder and list come back
    board = state.board if step is None else step.board
    return replace(state, step=step, board=board, boards_asked=wish)


def lead(state: SessionState, ground: Ground) -> SessionState:
    """Follow the prompt through the short set; afterwards the learner turns the passes."""
    state = refresh(state, ground)
    asked = _pass_of_step(state, ground)
    if asked is None or not state.following or asked == state.current_pass:
        return state
    return refresh(replace(state, current_pass=asked), ground)


def _next(state: SessionState, ground: Ground) -> Step | None:
    """What comes next by itself: through the short set, or within the pass."""
    return _within(state, ground, None if state.following else _marks_asked(state, ground))


def _within(state: SessionState, ground: Ground, keys: tuple[str, ...] | None) -> Step | None:
    if ground.imagined and ground.undrawn:
        return None  # from life, before there is a drawing: nothing to be marked
    first = ground.view.first_marks(state.order)
    seen, drawn = ground.seen.marks, ground.drawn.marks
    only = ground.only(state)
    return next_step(ground.view, seen, drawn, state.skipped, keys, only=only, first=first)


def _marks_asked(state: SessionState, ground: Ground) -> tuple[str, ...]:
    """The marks of the pass that is shown; of the likeness, those of one region at a time."""
    region = region_in_sight(state)
    return ground.view.region(region) if region else ground.pass_of(state.current_pass).marks


def _lacks(state: SessionState, ground: Ground, region: str) -> bool:
    """Whether marks of a region are still asked for."""
    keys = ground.view.region(region)
    return bool(keys) and _within(state, ground, keys) is not None


def _pass_of_step(state: SessionState, ground: Ground) -> str | None:
    mark = ground.view.landmark(state.step.key) if state.step else None
    return mark.step if mark else None


# What the learner asks for


def ask(state: SessionState, ground: Ground, board: Board, key: str) -> SessionState:
    """Prompt for that mark on that board, whatever comes next by itself; one that is there already
    is taken in hand."""
    short = any(key in keys for keys in ground.view.short)
    step = Step(board, (key,), short)
    selected = key if key in ground.picture(board).placed() else None
    skipped = state.skipped - {key}
    return refresh(replace(state, asked=step, skipped=skipped, selected=selected), ground)


def doubt(state: SessionState, ground: Ground, board: Board, question: Question) -> SessionState:
    """Ask about a mark that was just set, and for it again, until that is settled."""
    mark = ground.picture(board).marks[question.key]
    short = any(question.key in keys for keys in ground.view.short)
    asked = Step(board, (question.key,), short)
    return refresh(replace(state, doubted=Asked(board, question, mark), asked=asked), ground)


def undoubt(state: SessionState, ground: Ground) -> SessionState:
    """It is so, or it was settled: go on."""
    if state.doubted is None:
        return state
    return lead(replace(state, doubted=None, asked=None), ground)


def question_of(state: SessionState, ground: Ground) -> Asked | None:
    """What is asked about the mark that was set last, as long as it lies where it was set."""
    asked = state.doubted
    if asked is None or ground.picture(asked.board).marks.get(asked.question.key) != asked.mark:
        return None
    return asked


def skip(state: SessionState, ground: Ground) -> SessionState:
    """Put the prompted mark off; it is not asked for again in this session."""
    if state.step is None:
        return state
    skipped = state.skipped | set(state.step.keys)
    return refresh(replace(state, skipped=skipped, asked=None), ground)


def other_board(state: SessionState, ground: Ground) -> SessionState:
    """Prompt for the same mark on the other board."""
    if state.step is None or ground.imagined:
        return state
    other = state.step.board.other
    return refresh(replace(state, asked=replace(state.step, board=other)), ground)


def other_side(state: SessionState, ground: Ground) -> SessionState:
    """Prompt for the same mark on the model's other side."""
    step = state.step
    if step is None or step.key[-2:] not in {"_r", "_l"}:
        return state
    side = "l" if step.key.endswith("_r") else "r"
    return ask(state, ground, step.board, step.key[:-1] + side)


def toggle_hidden(state: SessionState, _ground: Ground) -> SessionState:
    """The next mark is hidden but placed (inferred), or seen again."""
    return replace(state, hidden_next=not state.hidden_next)


def toggle_alone(state: SessionState, ground: Ground) -> SessionState:
    """Mark the reference first and the drawing afterwards, or both by turns."""
    return refresh(replace(state, reference_first=not state.reference_first, asked=None), ground)


def toggle_boards(state: SessionState, _ground: Ground) -> SessionState:
    """Give the boards the window, or bring ladder and list back."""
    return replace(state, boards_asked=not state.boards_first)


def begin_with(state: SessionState, ground: Ground, order: str) -> SessionState:
    """Ask for the short set in another of the view's orders; "" is its own."""
    if order == state.order:
        return state
    return lead(replace(state, order=order, asked=None), ground)


# The pass


def enter_pass(state: SessionState, ground: Ground, key: str) -> SessionState:
    """Show another pass and ask for its marks alone."""
    return refresh(replace(state, following=False, asked=None, current_pass=key), ground)


def turn_pass(state: SessionState, ground: Ground, by: int) -> SessionState:
    """Go a pass on or back."""
    keys = [one.key for one in ground.passes]
    at = min(max(keys.index(state.current_pass) + by, 0), len(keys) - 1)
    return enter_pass(state, ground, keys[at])


def lay_tape(state: SessionState, ground: Ground, tape: TapeOrder) -> SessionState:
    """Another order of the passes; one that begins with the action shows it first of all, as long
    as nothing is marked and no sweep is drawn, or the sweep of a drawing is lacking that has no
    marks yet."""
    if tape == state.tape:
        return state
    bare = not ground.seen.marks and not ground.seen.curves
    fresh_drawing = not ground.undrawn and not ground.drawn.marks and not ground.drawn.curves
    fresh = not ground.imagined and (bare or (fresh_drawing and bool(ground.seen.curves)))
    if tape != TapeOrder.ACTION or not fresh:
        return replace(state, tape=tape)
    return refresh(replace(state, tape=tape, following=False, current_pass=PassKey.ACTION), ground)


def go_on(state: SessionState, ground: Ground) -> SessionState:
    """From a pass that asks for no marks: to the short set where it is lacking, else to what is
    worth doing next."""
    led = lead(replace(state, following=True, asked=None), ground)
    if led.following:
        return led
    progress = progress_of(
        ground.passes, ground.seen.marks, ground.drawn.marks, {}, only=ground.only(state)
    )
    following = worth_next([one for one in progress if one.of.marks], state.current_pass)
    return state if following is None else enter_pass(state, ground, following.key)


# The regions of a head


def choose_region(state: SessionState, ground: Ground, name: str) -> SessionState:
    """Look at a region, and ask for what it lacks, also for what was put off."""
    skipped = state.skipped - set(ground.view.region(name))
    state = replace(state, asked=None, skipped=skipped)
    regions = state.regions.choose(name, lambda region: _lacks(state, ground, region))
    return refresh(replace(state, regions=regions), ground)


def region_in_sight(state: SessionState) -> str:
    """The region that the boards show alone; "" in any pass but the likeness."""
    return state.regions.shown if state.current_pass == PassKey.LIKENESS else ""


def region_progress(state: SessionState, ground: Ground) -> tuple[Progress, ...]:
    """How far each region of a head is, in the order in which they are asked for."""
    named = tuple(
        SessionPass(one, one.capitalize(), "", marks)
        for one in REGIONS
        if (marks := ground.view.region(one))
    )
    seen, drawn = ground.seen.marks, ground.drawn.marks
    return progress_of(named, seen, drawn, {}, only=ground.only(state))


def in_sight(state: SessionState, ground: Ground, key: str) -> bool:
    """Whether a mark is shown: marks of likeness in their own pass alone, there one region."""
    if key in (state.pointed, state.selected):
        return True
    mark = ground.view.landmark(key)
    if state.current_pass != PassKey.LIKENESS or mark is None:
        return mark is None or mark.step != PassKey.LIKENESS
    return state.regions.shown in ("", mark.region)


# Placing the same marks again, blind


def repeatable(ground: Ground, board: Board) -> tuple[str, ...]:
    """The marks of the short set that a board has."""
    marks = ground.picture(board).placed()
    return tuple(key for keys in ground.view.short for key in keys if key in marks)


def begin_repeats(state: SessionState, ground: Ground, board: Board) -> SessionState:
    """Ask for marks of a board three times over, hidden, to learn the hand's own spread."""
    run: Repeating = repeat(board, repeatable(ground, board))
    return refresh(replace(state, repeating=run, selected=None), ground)


def know_hand(state: SessionState, _ground: Ground, hand: Mapping[str, float]) -> SessionState:
    """The learner's own spread counts from here on, for each kind of landmark."""
    return replace(state, hand=dict(hand))


def end_repeats(state: SessionState, ground: Ground) -> SessionState:
    """Leave it; nothing is changed by passes that were not finished."""
    return refresh(replace(state, repeating=None), ground)
