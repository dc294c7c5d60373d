"""What is done about the sighting that is asked for: transitions of the session, from life."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bralto.core.sightings.next_question import Next
from bralto.ui.session.asking import Asking, Asks
from bralto.ui.session.state import Ground, SessionState

__all__ = [
    "answered", "ask_again", "ask_own", "choose_order", "choose_question", "know_arm", "put_off",
    "toggle_mm", "toggle_told",
]  # fmt: skip


def toggle_mm(state: SessionState, _ground: Ground) -> SessionState:
    """Take lengths as thumb marks on the pencil, or count them in heads again."""
    return _with(state, replace(state.asking, in_mm=not state.asking.in_mm, chosen=None))


def _with(state: SessionState, asking: Asking) -> SessionState:
    return state if asking == state.asking else replace(state, asking=asking)


def choose_order(state: SessionState, _ground: Ground, order: str) -> SessionState:
    """Ask in the order of another school."""
    return _with(state, replace(state.asking, order=order, chosen=None, own=None, again=None))


def choose_question(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """Ask another of those that are offered."""
    return _with(state, replace(state.asking, chosen=asks, own=None, again=None))


def ask_own(state: SessionState, _ground: Ground, one: Next) -> SessionState:
    """Ask what the learner would sight."""
    return _with(state, replace(state.asking, own=one, chosen=None, again=None))


def put_off(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """It cannot be sighted: it is not asked for again in this session."""
    asking = state.asking
    # A length that no thumb takes is no easier counted in heads.
    both = {asks, (*asks[:-1], False)}
    skipped = asking.skipped if asking.again == asks else asking.skipped | both
    return _with(state, replace(asking, skipped=skipped, chosen=None, own=None, again=None))


def ask_again(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """Sight something once more, without what was said before."""
    return _with(state, replace(state.asking, again=asks))


def know_arm(state: SessionState, _ground: Ground, arm: Mapping[str, float]) -> SessionState:
    """From here on sightings are worth what the learner's own arm is."""
    return _with(state, replace(state.asking, arm=arm))


def toggle_told(state: SessionState, _ground: Ground) -> SessionState:
    """Show how well it was sighted, or sight on without knowing."""
    return _with(state, replace(state.asking, told=not state.asking.told))


def answered(state: SessionState, _ground: Ground) -> SessionState:
    """Go on to the next."""
    return _with(state, replace(state.asking, chosen=None, own=None, again=None))
