"""The passes of a session: what each asks for, what is done, what is worth doing next."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache

from bralto.core.measures.masses import FEET
from bralto.core.session.tapes import TapeOrder
from bralto.core.study.two_boards import Board
from bralto.core.views.model import View
from bralto.core.views.pass_keys import PassKey

__all__ = [
    "ENOUGH_SIGHTINGS",
    "Progress",
    "SessionPass",
    "progress_of",
    "session_passes",
    "worth_next",
]


ENOUGH_SIGHTINGS = 20
"""Sightings after which a figure is known well enough to be drawn from (weighed by
`make sightings`)."""


_ACTION_ORDER = (PassKey.EDGES, PassKey.TILTS, PassKey.HEIGHTS, PassKey.WIDTHS)
"""The view's own passes where the action comes first."""


@dataclass(frozen=True, slots=True)
class SessionPass:
    """One pass.

    Attributes:
        marks: the landmarks that it asks for, in placing order.
        asked: whether it counts towards what is worth doing; the others are offers.
    """

    key: str
    title: str
    hint: str
    marks: tuple[str, ...] = ()
    asked: bool = True


@dataclass(frozen=True, slots=True)
class Progress:
    """How far one pass is: ``done`` of ``total`` things."""

    of: SessionPass
    done: int
    total: int

    @property
    def complete(self) -> bool:
        """Whether nothing in it is left."""
        return self.done >= self.total


@lru_cache(maxsize=64)
def session_passes(
    view: View, *, sighted: str = "", tape: TapeOrder = TapeOrder.EDGES
) -> tuple[SessionPass, ...]:
    """The tape: the sheet, the view's own passes with plumb after the first, the action, shapes,
    light, the verdict; or, action first, that with plumb and weight before all others.

    Plumb asks for no mark of its own but looks at those that its lines hang from and stand on; the
    pass of the likeness, which is an offer, for all that have a region.

    Args:
        sighted: sighting comes before all, from ``life``, or as an offer, for ``practice``.
        tape: one of `TapeOrder`.
    """
    marks = [one for key in view.placing if (one := view.landmark(key))]
    own = [
        SessionPass(
            one.key,
            one.title,
            one.hint,
            tuple(
                m.key
                for m in marks
                if m.step == one.key or (m.region and one.key == PassKey.LIKENESS)
            ),
            asked=not one.offer,
        )
        for one in view.passes
    ]
    feet = tuple(key for key in view.placing if key in FEET and key.startswith("heel"))
    first = tape == TapeOrder.ACTION
    plumb = SessionPass(
        PassKey.PLUMB,
        "Plumb, weight" if first else "Plumb",
        "what stands below what, and where the weight falls",
        (view.plumb, *feet),
    )
    action = SessionPass(
        PassKey.ACTION, "Action", "the sweep of the pose, before any part of it", asked=first
    )
    if first:
        order: dict[str, int] = {key: at for at, key in enumerate(_ACTION_ORDER)}
        own.sort(key=lambda one: order.get(one.key, len(order)))
        body = (action, plumb, *own)
    else:
        body = (*own[:1], plumb, *own[1:], action)
    hint = "what the pencil tells, before a line is drawn"
    sight = SessionPass(PassKey.SIGHT, "Sight", hint, asked=sighted == "life")
    return (
        *((sight,) if sighted else ()),
        SessionPass(PassKey.SHEET, "Sheet", "place the figure before a line is drawn", asked=False),
        *body,
        SessionPass(
            PassKey.SHAPES, "Shapes", "the gaps and the big masses, not the names", asked=False
        ),
        SessionPass(
            PassKey.LIGHT, "Light", "light and shadow as two shapes, once it holds", asked=False
        ),
        SessionPass(PassKey.VERDICT, "Verdict", "the few things to put right, then the next sheet"),
    )


def progress_of(
    passes: Sequence[SessionPass],
    on_reference: Collection[str],
    on_drawing: Collection[str],
    others: dict[str, tuple[int, int]],
    *,
    only: Board | None = None,
) -> tuple[Progress, ...]:
    """How far each pass is.

    Args:
        on_reference, on_drawing: marks decided there, absent ones too.
        others: (done, total) of the passes that ask for no marks, by key.
        only: count one board alone.
    """
    seen, drawn = set(on_reference), set(on_drawing)
    have = seen & drawn if only is None else seen if only == Board.REFERENCE else drawn
    return tuple(
        Progress(one, sum(key in have for key in one.marks), len(one.marks))
        if one.marks
        else Progress(one, *others.get(one.key, (0, 0)))
        for one in passes
    )


def worth_next(progress: Sequence[Progress], current: str) -> SessionPass | None:
    """The first pass that is not done, big before small; the verdict once all are.

    Sheet and shapes are offers: they are never what is worth doing, and never in the way.
    """
    asked = [one for one in progress if one.of.asked and one.of.key != current]
    return next((one.of for one in asked if not one.complete), None)
