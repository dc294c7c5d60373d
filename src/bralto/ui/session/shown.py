"""Which pictures lie on the boards, and what is known of them."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from bralto.core.canons.figure import canon_picture
from bralto.core.canons.shipped_canons import canon_named
from bralto.core.errors import UserError
from bralto.core.examination.examine import Examination, examine
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.stand_in import implied_picture
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, State, Study
from bralto.core.views.model import View
from bralto.ui.session.state import Ground, SessionState

__all__ = ["examined", "ground_of"]


@lru_cache(maxsize=8)
def _blank(width: int, height: int) -> Picture:
    """The drawing that is not there yet; the same object each time, since pictures are compared by
    identity."""
    return Picture("", width, height)


def ground_of(view: View, study: Study, session: SessionState, kept: Ground | None) -> Ground:
    """The pictures on both boards, with a mark in hand where it is now.

    Args:
        kept: what lay there before; given back, and its pictures with it, as far as it is the same.
    """
    seen = study.reference
    against = study.state(session.against) if session.against else None
    if against is not None:
        seen = against.picture
    if seen is None and study.from_life:
        seen = _sighted(view, study)
    if seen is None:
        seen = canon_picture(view, canon_named(str(study.canon)))
    state = study.state(session.state_name) if session.state_name else None
    drawn = _blank(seen.width, seen.height) if state is None else state.picture
    held = session.in_hand
    if held is not None and held.board == Board.REFERENCE:
        seen = seen.with_mark(held.key, held.mark)
    elif held is not None:
        drawn = drawn.with_mark(held.key, held.mark)
    if kept is not None:
        seen = kept.seen if _same(kept.seen, seen) else seen
        drawn = kept.drawn if _same(kept.drawn, drawn) else drawn
        sighted = study.reference is not None and study.sightings is not None
        if (
            view is kept.view
            and seen is kept.seen
            and drawn is kept.drawn
            and sighted == kept.practised
            and session.tape == kept.tape
        ):
            return kept
    return Ground(
        view, seen, drawn, study.reference is None, not study.states, from_life=study.from_life,
        practised=study.reference is not None and study.sightings is not None, tape=session.tape,
    )  # fmt: skip


def _sighted(view: View, study: Study) -> Picture:
    """The figure that sightings imply."""
    assert study.sightings is not None
    implied = imply(view, study.sightings.items)
    if isinstance(implied, NotMeasurable):
        raise UserError(implied.reason)
    return implied_picture(implied)


def _same(one: Picture, other: Picture) -> bool:
    return one is other or one == other


def examined(
    study: Study, session: SessionState, ground: Ground, before: Examination | None = None
) -> Examination:
    """All that is known of what lies on the boards, see `core.examination.examine`."""
    kept = study.state(session.state_name) if session.state_name else None
    state = State(session.state_name, ground.drawn)
    if kept is not None:
        state = replace(kept, picture=ground.drawn)
    reference = None if study.reference is None and not session.against else ground.seen
    shown = replace(study.unpushed() if session.against else study, reference=reference)
    return examine(shown, state, reference=ground.seen, before=before)
