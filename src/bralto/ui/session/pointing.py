"""What is pointed at, held and laid over, as transitions of the session."""

from __future__ import annotations

from dataclasses import replace

from bralto.core.canons.shipped_canons import Canon, canons_of
from bralto.core.corrections.correction_words import Correction
from bralto.core.heads.head_forms import HEAD_SCHOOLS
from bralto.core.light.three_values import ThreeValues
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Point
from bralto.ui.session.state import Ground, SessionState

__all__ = [
    "begin_trust", "choose_shape", "divide_face", "end_trust", "greatest_first", "grown_canons",
    "hold", "insist", "lay_canon", "next_canon", "point_at", "see_corners", "see_lines",
    "see_tone", "see_values", "select",
    "toggle_box", "toggle_forms", "trust", "unfold",
]  # fmt: skip


def point_at(state: SessionState, _ground: Ground, key: str | None) -> SessionState:
    """Light up a mark everywhere."""
    return state if key == state.pointed else replace(state, pointed=key)


def select(state: SessionState, _ground: Ground, key: str | None) -> SessionState:
    """Take a mark in hand for nudging, or let go."""
    return state if key == state.selected else replace(state, selected=key)


def hold(state: SessionState, _ground: Ground, one: Correction | None) -> SessionState:
    """Show on the drawing where a correction would bring its marks; None lets go."""
    return state if one is state.held else replace(state, held=one)


def begin_trust(state: SessionState, _ground: Ground) -> SessionState:
    """Choose two marks whose distance is the scale."""
    return replace(state, trusted=(), selected=None)


def trust(state: SessionState, _ground: Ground, key: str) -> SessionState:
    """Choose one of them."""
    chosen = state.trusted or ()
    return state if key in chosen else replace(state, trusted=(*chosen, key))


def end_trust(state: SessionState, _ground: Ground) -> SessionState:
    """Choose no more."""
    return replace(state, trusted=None)


def unfold(state: SessionState, _ground: Ground, one: Correction | None) -> SessionState:
    """List what follows from a correction instead of what is left over; None goes back."""
    return state if one is state.unfolded else replace(state, unfolded=one)


def greatest_first(state: SessionState, _ground: Ground, on: bool) -> SessionState:
    """List the corrections by what they take away, or in the order of work."""
    return state if on == state.by_share else replace(state, by_share=on, unfolded=None)


def choose_shape(state: SessionState, _ground: Ground, name: str | None) -> SessionState:
    """Light up one shape on both boards."""
    return state if name == state.shape else replace(state, shape=name)


def see_tone(
    state: SessionState, _ground: Ground, board: Board, tone: tuple[float, float, float]
) -> SessionState:
    """Shadows of a board were found: below which tone, and where it is sharpest."""
    return replace(state, tones={**state.tones, board: tone})


def see_values(
    state: SessionState, _ground: Ground, board: Board, found: ThreeValues | NotMeasurable | None
) -> SessionState:
    """A board's figure in three values, or why it has none; None to look at it no more."""
    kept = {name: one for name, one in state.values.items() if name != board}
    return replace(state, values=kept if found is None else {**kept, board: found})


def see_corners(
    state: SessionState, _ground: Ground, media: str, found: tuple[Point, ...]
) -> SessionState:
    """The corners of a picture were found, by its name in the media folder."""
    return replace(state, corners={**state.corners, media: found})


def see_lines(
    state: SessionState, _ground: Ground, found: tuple[str, float, float]
) -> SessionState:
    """The lines of an early state were looked at: its name, the share that is straight, its u."""
    return replace(state, straight=found)


def insist(state: SessionState, _ground: Ground) -> SessionState:
    """Look at the light before the proportions hold."""
    return replace(state, insists=True)


def toggle_box(state: SessionState, _ground: Ground) -> SessionState:
    """The box on the ground in which the figure stands, or none."""
    return replace(state, boxed=not state.boxed)


def toggle_forms(state: SessionState, ground: Ground) -> SessionState:
    """The big forms over both pictures, or none; of a head as one school after the other has it."""
    schools = tuple(HEAD_SCHOOLS) if ground.view.axis else ()
    later = schools[schools.index(state.built) + 1 :] if schools else ()
    if state.forms_on and later:
        return replace(state, built=later[0])
    built = schools[0] if state.forms_on and schools else state.built
    return replace(state, forms_on=not state.forms_on, built=built)


def build_head(state: SessionState, _ground: Ground, school: str) -> SessionState:
    """The big forms of a head as a school builds it up, over both pictures."""
    return replace(state, forms_on=True, built=school)


def divide_face(state: SessionState, _ground: Ground, bands: str) -> SessionState:
    """Divide a face in halves, in thirds or in both."""
    return state if bands == state.bands else replace(state, bands=bands)


def lay_canon(state: SessionState, _ground: Ground, canon: Canon | None) -> SessionState:
    """Show the reference beside an average, before or after it is drawn; or beside none."""
    return state if canon is state.canon else replace(state, canon=canon)


def grown_canons(ground: Ground) -> tuple[Canon, ...]:
    """The averages of this view that have stations to lay over."""
    return tuple(one for one in canons_of(ground.view.key) if not one.apart)


def next_canon(state: SessionState, ground: Ground) -> SessionState:
    """The stations of the next canon, and none behind the last."""
    order: tuple[Canon | None, ...] = (None, *grown_canons(ground))
    at = order.index(state.canon) if state.canon in order else 0
    return lay_canon(state, ground, order[(at + 1) % len(order)])
