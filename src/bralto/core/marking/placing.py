"""What to mark next: the short set first, in the practitioners' order, board by board."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture
from bralto.core.views.model import View

__all__ = ["Step", "choose_side", "next_step"]


@dataclass(frozen=True, slots=True)
class Step:
    """One prompt: mark any one of ``keys`` on a board; ``short`` while the short set lasts."""

    board: Board
    keys: tuple[str, ...]
    short: bool

    @property
    def key(self) -> str:
        """The landmark that the prompt is about (the first where any one will do)."""
        return self.keys[0]


def next_step(
    view: View,
    on_reference: Collection[str],
    on_drawing: Collection[str],
    skipped: Collection[str] = (),
    within: Collection[str] | None = None,
    *,
    only: Board | None = None,
    first: Sequence[str] = (),
) -> Step | None:
    """The next prompt, or None when every landmark is decided or skipped.

    A mark that one board has is asked for on the other before anything new begins.

    Args:
        on_reference, on_drawing: marks decided there, absent ones too.
        skipped: landmarks that the learner put off.
        within: ask for these alone, those of one pass.
        only: ask on that board alone, before there is a drawing or where there is no reference.
        first: marks of the short set that come before all others (`View.first_marks`).
    """
    rank = {key: i for i, key in enumerate(dict.fromkeys((*first, *view.placing)))}
    entries = [(keys, True) for keys in sorted(view.short, key=lambda keys: rank[keys[0]])]
    short = {key for keys in view.short for key in keys}
    entries += [((key,), False) for key in view.placing if key not in short]
    # The other one of a pair of alternatives belongs to the long set.
    entries += [((key,), False) for keys in view.short if len(keys) > 1 for key in keys]
    for keys, in_short in entries:
        if any(key in skipped for key in keys):
            continue
        if within is not None and not any(key in within for key in keys):
            continue
        seen = next((key for key in keys if key in on_reference), None)
        drawn = next((key for key in keys if key in on_drawing), None)
        if only is not None:
            if (seen if only == Board.REFERENCE else drawn) is None:
                return Step(only, keys, in_short)
            continue
        if seen is None and drawn is None:
            return Step(Board.REFERENCE, keys, in_short)
        if seen is not None and seen not in on_drawing:
            return Step(Board.DRAWING, (seen,), in_short)
        if drawn is not None and drawn not in on_reference:
            return Step(Board.REFERENCE, (drawn,), in_short)
    return None


def choose_side(view: View, step: Step, picture: Picture, x: float) -> str:
    """Which of a step's alternatives a click at ``x`` (image px) means.

    In a front view the model's right is on the viewer's left of the crown, in a back view on the
    viewer's right.
    """
    middle: Mark | None = picture.marks.get(view.edges[0])
    if len(step.keys) == 1 or middle is None:
        return step.key
    wanted = "_r" if (x < middle.x) == (view.seen_from == "front") else "_l"
    return next((key for key in step.keys if key.endswith(wanted)), step.key)
