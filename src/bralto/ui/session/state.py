"""What is looked at and asked for on the bench: nothing of it is kept in the library."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from bralto.core.canons.shipped_canons import Canon
from bralto.core.corrections.correction_words import Correction
from bralto.core.doubts.at_once import Question
from bralto.core.light.three_values import ThreeValues
from bralto.core.marking.placing import Step
from bralto.core.marking.repeats import PooledSpread
from bralto.core.measures.points import places_of
from bralto.core.results import NotMeasurable
from bralto.core.session.passes import SessionPass, session_passes
from bralto.core.session.tapes import TapeOrder
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Point
from bralto.core.views.model import View
from bralto.ui.session.asking import Asking
from bralto.ui.session.regions import Regions
from bralto.ui.session.repeating import Repeating

__all__ = ["BANDS", "Asked", "Ground", "InHand", "SessionState"]

Places = Mapping[str, tuple[float, float]]

BANDS = ("halves", "thirds", "both")
"""How a face is divided."""


@dataclass(frozen=True, slots=True)
class InHand:
    """A mark that is being dragged: where it is now; nothing of it is kept."""

    board: Board
    key: str
    mark: Mark


@dataclass(frozen=True, slots=True)
class Asked:
    """What is asked about a mark that was just set; it holds as long as the mark is the same."""

    board: Board
    question: Question
    mark: Mark


@dataclass(frozen=True, slots=True)
class SessionState:
    """One moment of a session; a transition makes the next.

    Attributes:
        current_pass: key of the pass that is shown.
        state_name: the state of the drawing on its board, "" where there is none.
        against: an earlier state in the reference's place, or "" for the reference itself.
        board: the board that is worked on; ``step``, what the prompt asks for there.
        asked: what was asked for by hand, before all that comes by itself.
        skipped: marks that were put off.
        following: the prompt leads through the short set, whatever its pass.
        reference_first: marks are asked for on the reference alone.
        order: name of the order in which the short set is asked for, "" for the view's own.
        straight: of the state that was blocked in its name, the share of its lines that is straight
            (0 to 1) and its standard uncertainty; None until they were looked at.
        tones: of each board of which shadows were found, the tone below which it is shadow (0 to 1)
            and where light and dark meet most sharply, image px.
        values: of each board that is looked at in three values, what was found, or why nothing.
        corners: of each picture that was looked at for them, by its name in the media folder, image
            px, the strongest first.
        insists: the light is looked at before the proportions hold.
        tape: what comes first on the tape, one of `core.session.tapes.TapeOrder`.
        trusted: marks that were chosen so far for the scale; None while none are chosen.
        doubted: what is asked about the mark that was set last.
        hidden_next: the next mark is hidden but placed.
        boards_asked: whether the boards take the window, as asked for by hand; None for by itself.
        hand: SD of the learner's own marks in this view, heads, by kind of landmark, as far as
            marks were placed again.
        repeating: a blind repetition that is under way; ``own_spread``, what the last one found.
        regions: of a head.
        pointed: the mark under the pointer; ``selected``, the one that keys nudge.
        in_hand: the one that is dragged.
        held: the correction whose moves are shown; ``unfolded``, whose consequences are listed.
        by_share: corrections are listed greatest first.
        boxed: the box on the ground in which the figure stands is shown.
        shape: the polygon or curve that is lit.
        forms_on: whether the big forms lie over both pictures; ``built``, how a head is built up
            of them, one of `heads.head_forms.HEAD_SCHOOLS`.
        asking: which sighting is asked for from life.
        canon: the average that is laid over; ``bands``, how a face is divided, one of `BANDS`.
    """

    current_pass: str
    state_name: str = ""
    against: str = ""
    board: Board = Board.REFERENCE
    step: Step | None = None
    asked: Step | None = None
    skipped: frozenset[str] = frozenset()
    following: bool = True
    reference_first: bool = False
    order: str = ""
    tones: Mapping[str, tuple[float, float, float]] = field(default_factory=dict)
    straight: tuple[str, float, float] | None = None
    values: Mapping[str, ThreeValues | NotMeasurable] = field(default_factory=dict)
    corners: Mapping[str, tuple[Point, ...]] = field(default_factory=dict)
    insists: bool = False
    boxed: bool = False
    tape: TapeOrder = TapeOrder.EDGES
    trusted: tuple[str, ...] | None = None
    doubted: Asked | None = None
    hidden_next: bool = False
    boards_asked: bool | None = None
    repeating: Repeating | None = None
    own_spread: PooledSpread | None = None
    hand: Mapping[str, float] = field(default_factory=dict)
    regions: Regions = field(default_factory=Regions)
    pointed: str | None = None
    selected: str | None = None
    in_hand: InHand | None = None
    held: Correction | None = None
    unfolded: Correction | None = None
    by_share: bool = False
    shape: str | None = None
    forms_on: bool = False
    built: str = "oval"
    canon: Canon | None = None
    asking: Asking = field(default_factory=Asking)
    bands: str = BANDS[0]

    @property
    def boards_first(self) -> bool:
        """Whether the boards take the window: while the short set is being marked, unless the
        learner wants it otherwise."""
        if self.boards_asked is not None:
            return self.boards_asked
        return self.step is not None and self.step.short

    def picture_name(self, board: Board) -> str:
        """Name of the state whose picture lies on a board; "" of the reference."""
        return self.against if board == Board.REFERENCE else self.state_name


@dataclass(frozen=True)
class Ground:
    """What of the study a transition may ask: the pictures on both boards, and what is lacking.

    Attributes:
        seen, drawn: on the reference's board and the drawing's; empty where there is none.
        imagined: what stands in the reference's place is no picture: a canon, or, where it is
            ``from_life``, what sightings imply. ``undrawn``, there is no drawing yet.
        practised: the reference is sighted for practice.
        tape: which `TapeOrder` is in force.
    """

    view: View
    seen: Picture
    drawn: Picture
    imagined: bool
    undrawn: bool
    from_life: bool = False
    practised: bool = False
    tape: TapeOrder = TapeOrder.EDGES

    @cached_property
    def shared(self) -> frozenset[str]:
        """Marks that have a place on both boards; of the reference while the drawing has none."""
        return self.seen.placed() & self.drawn.placed() if self.drawn.marks else self.seen.placed()

    @cached_property
    def places_seen(self) -> Places:
        """Where the view's points lie on the reference, image px."""
        return places_of(self.view, self.seen, self.shared)

    @cached_property
    def places_drawn(self) -> Places:
        """The same on the drawing."""
        return places_of(self.view, self.drawn, self.shared)

    @property
    def passes(self) -> tuple[SessionPass, ...]:
        """The tape."""
        sighted = "life" if self.from_life else "practice" if self.practised else ""
        return session_passes(self.view, sighted=sighted, tape=self.tape)

    def pass_of(self, key: str) -> SessionPass:
        """The pass of that key."""
        return next(one for one in self.passes if one.key == key)

    def picture(self, board: Board) -> Picture:
        """The picture on a board."""
        return self.seen if board == Board.REFERENCE else self.drawn

    @property
    def sole(self) -> Board | None:
        """The one board on which there is anything to mark, or None for both."""
        if self.imagined:
            return Board.DRAWING
        return Board.REFERENCE if self.undrawn else None

    def only(self, state: SessionState) -> Board | None:
        """The one board on which marks are asked for, or None for both."""
        return self.sole or (Board.REFERENCE if state.reference_first else None)
