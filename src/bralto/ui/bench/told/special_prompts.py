"""What the prompt line says besides asking for the next mark."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.action.curve import FEWEST_POINTS, MOST_POINTS
from bralto.core.study.stages import stage_at
from bralto.core.study.two_boards import Board
from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.boards.hands.tools import SWEEP, TOOLS
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt

__all__ = ["resting_prompt", "special_prompt", "usual_prompt"]

_RESTS = (
    "then look at it in the mirror, or upside down",
    "did you look as long at the model as at the paper?",
    "a photo of this stage tells later where an error came in",
)
"""What to do, and what to ask oneself, by turns: with a photo beside the paper nobody counts looks
(common practice, no source)."""


def resting_prompt(rests: int) -> Prompt:
    """Time to step back, for the ``rests``-th time of this study on the bench."""
    keys = (("M", "mirror"), ("U", "upside down"), ("Esc", "go on"))
    return Prompt("Step back and look away for a moment:", _RESTS[(rests - 1) % len(_RESTS)], keys)


_OVER = {
    "ghost": ("Your drawing over the reference:", "as a veil"),
    "blink": ("Drawing and reference by turns:", "what jumps is off"),
    "corrected": ("Your drawing as it would look corrected:", "move the pointer to wipe it"),
    "outline": ("Where the outlines differ:", "draw the whole outline for a closer look"),
    "wipe": ("Your drawing to the right of the pointer:", "move it over the reference"),
}


def special_prompt(
    study: OpenStudy,
    boards: Sequence[PictureBoard],
    just_done: Prompt | None,
    over: str | None = None,
    how_over: str = "",
) -> Prompt | None:
    """A tool in hand, something to be told, blind passes, carried marks, the drawing laid over the
    reference; None for the usual.

    ``just_done`` says what was done.
    """
    for board in boards:
        if board.tool is not None:
            return _tool_prompt(board)
    run = study.session.repeating
    if run is not None and run.asked is not None:
        mark = study.view.landmark(run.asked)
        label = mark.label if mark else run.asked
        how = f"without looking where it was; {run.left} to go"
        return Prompt(f"Again: the {label} on the {run.board},", how, (("Esc", "leave it"),))
    trusted = study.session.trusted
    if trusted is not None:
        lead = "Click a mark that you trust:"
        if trusted:
            lead = f"The {study.view.point_label(trusted[0])}, and a second one:"
        how = "their distance is taken as the scale of both pictures"
        return Prompt(lead, how, (("Click", "choose"), ("Esc", "leave it")))
    doubted = study.now.question
    if doubted is not None:
        settle = ("Enter", doubted.question.button)
        answers = (settle, ("Click", "set it again"), ("Esc", "it is so"))
        return Prompt(doubted.question.words, "is that so?", answers)
    if just_done is not None:
        return just_done
    if over is not None:
        lead, how = _OVER[over]
        if over == "corrected":
            return Prompt(lead, how, (("C", "as drawn"), ("Esc", "all off")))
        fitted = f"{how_over or how}, fitted by {study.study.scale.school}"
        more = {"blink": ("[ ]", "slower, faster"), "ghost": ("[ ]", "thinner, thicker")}.get(over)
        ways = (("Space", "veil"), ("B", "blink"), ("W", "wipe"), ("Y", "outlines"))
        return Prompt(lead, fitted, (more, *ways[:3]) if more else ways)
    if study.session.held is not None:
        done = "not yet" if study.intentions.is_put_right(study.session.held) else "put right"
        held = (("Enter", done), ("I", "meant so"), ("C", "see it corrected"))
        return Prompt(f"{study.session.held.words}:", study.session.held.doubt, held)
    asked = study.now.asked_proposal
    if asked is not None:
        left = len(study.now.proposals(Board.DRAWING))
        label = study.view.point_label(asked[1])
        how = f"drag it, or leave it; {left} carried over"
        keys = (("Enter", "right where it is"), ("Drag", "mend"))
        return Prompt(f"Is the {label} there on the drawing?", how, keys)
    return None


def _tool_prompt(board: PictureBoard) -> Prompt:
    tool = board.tool
    assert tool is not None
    lead, how = TOOLS[tool.name]
    if not tool.keeps:
        return Prompt(lead, how, (("Drag", "draw"), ("Esc", "leave it")))
    where = board.board
    if tool.name == SWEEP:
        lead = f"Go along the {tool.about} on the {where}, point by point:"
        keys = (("Click", "point"), ("Enter", "done"), ("Backspace", "back"), ("Esc", "leave it"))
        how = f"{FEWEST_POINTS} to {MOST_POINTS} points, {how}"
        return Prompt(lead, how, keys)
    lead = f"Go round the {tool.about} on the {where}, corner by corner:"
    keys = (("Click", "corner"), ("Enter", "close it"), ("Backspace", "back"), ("Esc", "leave it"))
    return Prompt(lead, "straight lines, big turns only", keys)


def usual_prompt(study: OpenStudy) -> Prompt:
    """The next mark of the pass, or what is worth doing once it has them all."""
    step, alone = study.step, study.now.alone
    prompt = page_of(study.current_pass).prompt
    if prompt is not None:
        return prompt if isinstance(prompt, Prompt) else prompt(study)
    if step is None:
        return _done(study)
    mark = study.view.landmark(step.key)
    assert mark is not None
    where = step.board
    if len(step.keys) > 1:
        what, how = f"{mark.short.removeprefix('R ')} that stands lower", mark.how
    else:
        what, how = mark.label, mark.how
    if study.session.hidden_next:
        how = "hidden: set it where you believe it is"
    lead = f"Mark the {what} on the {where}:"
    if not step.short:
        lead = f"To look closer, mark the {what} on the {where}:"
    if step.short and (limit := study.now.told_from) is not None:
        how = f"{how} · told from {limit:.2f} {study.view.unit} on"
    if step.key == study.session.selected:
        last = ("Arrows", "nudge it")
        if any(step.key in keys and len(keys) > 1 for keys in study.view.short):
            last = ("O", "it is the other side's")
        ways = (("Enter", "it lies well"), ("Click", "set it again"), last)
        return Prompt(f"From near: is the {what} of the {where} there?", how, ways)
    if study.own.is_own(step.key):
        ways = (("Click", "set"), ("Ctrl+P", "name it"), ("N", "skip"))
        return Prompt(f"Mark {what} on the {where}, too:", "the same place as there", ways)
    other = ("F", "drawing too") if alone else ("Tab", "other board")
    keys = (("Click", "set"), other, ("N", "skip"), ("H", "hidden"))
    if step.short:
        keys = (keys[0], *keys[2:], ("Del", "not in it"))
    single = study.undrawn or study.imagined
    return Prompt(lead, how, tuple(key for key in keys if key != other or not single))


def _done(study: OpenStudy) -> Prompt:
    """A pass that has all its marks."""
    title = study.now.ground.pass_of(study.current_pass).title
    following = study.now.worth_next()
    keys = [("Enter", "go on"), ("0", "fit"), ("M", "mirror")]
    due = stage_at(study.current_pass, [state.name for state in study.study.states])
    if due and not study.undrawn:
        keys.insert(1, ("Drop", f"a photo: {due}"))  # it tells later where an error came in
    if study.current_pass == PassKey.WIDTHS and study.now.corners.seen:
        how = "squares are corners that both pictures have"
        return Prompt(
            "Measure by more of it:", how, (("Ctrl+Click", "a point of your own"), keys[0])
        )
    if study.undrawn and following is not None and following.key != PassKey.SHEET:
        return Prompt("Draw it, then photograph it:", "drop the photo here", tuple(keys[1:]))
    if following is None:
        if study.notes.log:
            return Prompt("All is done:", "draw it again, or another", tuple(keys[1:]))
        ask = ("Ctrl+J", "write it down")
        return Prompt("All is done:", "what went well, what next?", (ask, *keys[1:]))
    hanging = study.now.worth_again
    if hanging and not study.undrawn:
        one = hanging[0]
        label = study.view.point_label(one.key)
        how = f"{one.verdicts} verdicts hang on the {label} of the {one.board}"
        again = ("Backspace", "set it again, near")
        return Prompt(f"{title}: all its marks are set;", how, (keys[0], again, *keys[1:2]))
    if following.key == PassKey.VERDICT:
        return Prompt("All marks are set:", "see what is off, then step back and look", tuple(keys))
    lead = f"{title}: all its marks are set."
    return Prompt(lead, f"Worth doing next: {following.title}, {following.hint}", tuple(keys))
