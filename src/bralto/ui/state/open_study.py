"""The study on the bench: what is asked for next, what is pointed at, which pass is shown."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject

from bralto.core.corrections.corrected import name_of
from bralto.core.corrections.intent import factor_of, measures_of
from bralto.core.corrections.wording import Correction
from bralto.core.placing import BOARDS, Step, choose_side, next_step
from bralto.core.repeats import PooledSpread
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import CHECKS, checked
from bralto.core.session.passes import (
    LIKENESS,
    Progress,
    SessionPass,
    progress_of,
    session_passes,
    worth_next,
)
from bralto.core.study import Mark
from bralto.core.views.model import REGIONS
from bralto.store.library import Library, StoredStudy
from bralto.ui.state.edits import MarksEdit
from bralto.ui.state.found_study import FoundStudy
from bralto.ui.state.kept_study import Change
from bralto.ui.state.regions import Regions
from bralto.ui.state.repeating import Repeating

__all__ = ["Change", "OpenStudy"]


class OpenStudy(FoundStudy):
    """State of the bench, without widgets."""

    def __init__(
        self, library: Library, stored: StoredStudy, parent: QObject | None = None
    ) -> None:
        super().__init__(library, stored, parent)
        self.board = BOARDS[0]
        self.pointed: str | None = None
        self.selected: str | None = None
        self.hidden_next = False
        self.held: Correction | None = None
        self.repeating: Repeating | None = None
        self.own_spread: PooledSpread | None = None
        self._regions = Regions()
        self._order = ""
        self._skipped: set[str] = set()
        self._spent = 0.0
        self._asked: Step | None = None
        self.step: Step | None = None
        self.passes = session_passes(self.view)
        self.following = True  # the prompt leads through the short set, whatever its pass
        self.reference_first = False
        self.current_pass = self.view.passes[1].key
        self._find_step()
        self.following = self.step is not None and self.step.short
        if self.following:
            self.current_pass = self._pass_of_step() or self.current_pass
        elif (lacking := self.worth_next()) is not None and lacking.marks:
            self.current_pass = lacking.key
        self._find_step()

    @property
    def short_set_done(self) -> bool:
        """Whether the prompt has gone past the short set."""
        return self.step is None or not self.step.short

    # Placing

    def place(self, board: str, x: float, y: float, spread: float) -> str | None:
        """Set the prompted mark; gives its key, or None where it could not be set."""
        step = self.step
        if step is None or step.board != board:
            return None
        if self.repeating is not None:
            return self._repeat(x, y)
        key = choose_side(self.view, step, self.picture(board), x)
        visibility = "inferred" if self.hidden_next else "seen"
        if not self.set_mark(board, key, Mark(x, y, visibility, spread)):
            return None
        self.hidden_next = False
        self._asked = None
        self._find_step()
        self._enter_pass_of_step()
        self.changed.emit(Change.STEP)
        return key

    def remove(self, board: str, key: str) -> None:
        """Take a mark away."""
        if key in self.picture(board).marks:
            self.set_marks(board, {key: None})
            self.select(None)

    @property
    def asked_proposal(self) -> tuple[str, str] | None:
        """Board and key of the carried mark that is to be looked at next."""
        waiting = self.proposals("drawing")
        return ("drawing", waiting[0]) if waiting else None

    def confirm_next(self, spread: float) -> None:
        """The carried mark that is asked about is right; go on to the next."""
        waiting = self.proposals("drawing")
        if waiting:
            self.confirm("drawing", waiting[0], spread)

    def choose_state(self, name: str) -> None:
        """Put another state on the board; where it lacks marks of the short set, lead to them."""
        other = name != self.state_name
        super().choose_state(name)
        if other and self.state_name == name:
            self.following, self._asked = True, None
            self._find_step()
            self._enter_pass_of_step()
            self.changed.emit(Change.STEP)

    def _measured(self, change: Change) -> None:
        self.held = None  # of a list that is no longer in force
        super()._measured(change)
        self._find_step()
        self.changed.emit(Change.STEP)

    # Placing the same marks again, blind

    def begin_repeats(self, board: str) -> None:
        """Ask for marks of a board three times over, hidden, to learn the hand's own spread."""
        marks = self.picture(board).placed()
        keys = [key for keys in self.view.short for key in keys if key in marks]
        if len(keys) < 2:
            self.trouble.emit("Set a few marks first: then they can be placed again, blind.")
            return
        self.repeating = Repeating(board, keys)
        self._find_step()
        self.select(None)
        self.changed.emit(Change.STEP)

    def end_repeats(self) -> None:
        """Leave it; nothing is changed by passes that were not finished."""
        self.repeating = None
        self._find_step()
        self.changed.emit(Change.STEP)

    def _repeat(self, x: float, y: float) -> str:
        run = self.repeating
        assert run is not None
        key = run.place(x, y)
        if run.asked is None:
            self.repeating = None
            found = run.spread()
            if isinstance(found, NotMeasurable):
                self.trouble.emit(found.reason)
            else:
                self.own_spread = found
                self.set_marks(run.board, run.settled(self.picture(run.board).marks, found))
        self._find_step()
        self.changed.emit(Change.STEP)
        return key

    # The prompt

    def _find_step(self) -> None:
        self._regions.look(self._lacks)
        step = self._asked or self._next_step()
        if self.following and (step is None or not step.short):
            self.following = False  # from here on each pass asks for its own
            step = self._asked or self._next_step()
        if self.repeating is not None and self.repeating.asked is not None:
            step = Step(self.repeating.board, (self.repeating.asked,), short=True)
        self.step = step
        if step is not None:
            self.board = step.board

    def _next_step(self) -> Step | None:
        """What comes next by itself: through the short set, or within the pass."""
        return self._next_within(None if self.following else self._asked_marks())

    def _next_within(self, keys: tuple[str, ...] | None) -> Step | None:
        seen, drawn = self.picture("reference").marks, self.picture("drawing").marks
        first = self.view.first_marks(self._order)
        return next_step(self.view, seen, drawn, self._skipped, keys, only=self.only, first=first)

    def begin_with(self, order: str) -> None:
        """Ask for the short set in another of the view's orders; "" is its own."""
        if order != self._order:
            self._order, self._asked = order, None
            self._find_step()
            self._enter_pass_of_step()
            self.changed.emit(Change.STEP)

    def _asked_marks(self) -> tuple[str, ...]:
        """The marks of the pass that is shown; of the likeness, those of one region at a time."""
        region = self.region_in_sight
        return self.view.region(region) if region else self.pass_of(self.current_pass).marks

    # The regions of a head

    def regions(self) -> tuple[Progress, ...]:
        """How far each region of a head is, in the order in which they are asked for."""
        seen, drawn = self.picture("reference").marks, self.picture("drawing").marks
        named = tuple(
            SessionPass(one, one.capitalize(), "", marks)
            for one in REGIONS
            if (marks := self.view.region(one))
        )
        return progress_of(named, seen, drawn, {}, only=self.only)

    def _lacks(self, region: str) -> bool:
        """Whether marks of a region are still asked for."""
        keys = self.view.region(region)
        return bool(keys) and self._next_within(keys) is not None

    @property
    def shown_region(self) -> str:
        """The region of a head that is looked at in the pass of the likeness; "" for all of it."""
        return self._regions.shown

    @property
    def region_in_sight(self) -> str:
        """The region that the boards show alone; "" in any pass but the likeness."""
        return self.shown_region if self.current_pass == LIKENESS else ""

    def in_sight(self, key: str) -> bool:
        """Whether a mark is shown: marks of likeness in their own pass alone, there one region."""
        if key in (self.pointed, self.selected):
            return True
        mark = self.view.landmark(key)
        if self.current_pass != LIKENESS or mark is None:
            return mark is None or mark.step != LIKENESS
        return self.shown_region in ("", mark.region)

    def choose_region(self, name: str) -> None:
        """Look at a region, and ask for what it lacks, also for what was put off."""
        self._asked = None
        self._skipped.difference_update(self.view.region(name))
        self._regions.choose(name, self._lacks)
        self._find_step()
        self.changed.emit(Change.STEP)

    def skip(self) -> None:
        """Put the prompted mark off; `next_step` will not ask for it again in this session."""
        if self.step is not None:
            self._skipped.update(self.step.keys)
            self._asked = None
            self._find_step()
            self.changed.emit(Change.STEP)

    def ask(self, board: str, key: str) -> None:
        """Prompt for that mark on that board, whatever comes next by itself."""
        short = any(key in keys for keys in self.view.short)
        self._skipped.discard(key)
        self._asked = Step(board, (key,), short)
        self._find_step()
        self.changed.emit(Change.STEP)

    def other_board(self) -> None:
        """Prompt for the same mark on the other board."""
        if self.step is not None and not self.imagined:
            other = BOARDS[1 - BOARDS.index(self.step.board)]
            self._asked = replace(self.step, board=other)
            self._find_step()
            self.changed.emit(Change.STEP)

    def other_side(self) -> None:
        """Prompt for the same mark on the model's other side."""
        step = self.step
        if step is None or step.key[-2:] not in {"_r", "_l"}:
            return
        self.ask(step.board, step.key[:-1] + ("l" if step.key.endswith("_r") else "r"))

    def back(self) -> None:
        """Prompt again for the mark that was set last."""
        index = self.undo_stack.index() - 1
        command = self.undo_stack.command(index) if index >= 0 else None
        if isinstance(command, MarksEdit):
            self.ask(command.board, command.key)

    def toggle_hidden(self) -> None:
        """The next mark is hidden but placed (inferred), or seen again."""
        self.hidden_next = not self.hidden_next
        self.changed.emit(Change.STEP)

    # Looking

    def point_at(self, key: str | None) -> None:
        """Light up a mark everywhere."""
        if key != self.pointed:
            self.pointed = key
            self.changed.emit(Change.POINTED)

    def hold(self, one: Correction | None) -> None:
        """Show on the drawing where a correction would bring its marks; None lets go."""
        if one is not self.held:
            self.held = one
            self.changed.emit(Change.POINTED)

    def greatest_first(self, on: bool) -> None:
        """List the corrections by what they take away, or in the order of work."""
        super().greatest_first(on)
        self.changed.emit(Change.STEP)

    def unfold(self, one: Correction | None) -> None:
        """List what follows from a correction instead of what is left over; None goes back."""
        if one is not self.unfolded:
            self.unfolded = one
            self.changed.emit(Change.POINTED)

    def is_put_right(self, one: Correction) -> bool:
        """Whether a correction is ticked on this state."""
        return self.notes.ticked(self.state_name, name_of(one))

    def put_right(self, one: Correction) -> None:
        """Tick a correction, or take the tick back; the next state of the drawing checks it."""
        self.note(self.notes.tick(self.state_name, name_of(one)))

    def mean_held(self) -> None:
        """The held correction was changed on purpose: it is none."""
        one = self.held
        if one is None:
            self.trouble.emit("Hold a correction first, by its number, then say that it is meant.")
            return
        measures = measures_of(self.view, one)
        reading = self.assessment.reading(measures[0]) if measures else None
        factor = factor_of(one, reading)
        if not measures or factor is None or factor <= 0.0:
            self.trouble.emit("Only a part's length, width or tilt can be meant otherwise.")
            return
        self.intend(measures, round(factor, 3))

    def select(self, key: str | None) -> None:
        """Take a mark in hand for nudging, or let go."""
        self.selected = key
        self.changed.emit(Change.POINTED)

    # The tape

    @property
    def alone(self) -> bool:
        """Whether marks are asked for on the reference alone."""
        return self.only == BOARDS[0]

    @property
    def only(self) -> str | None:
        """The one board on which marks are asked for, or None for both."""
        if self.imagined:
            return BOARDS[1]
        return BOARDS[0] if self.undrawn or self.reference_first else None

    def toggle_alone(self) -> None:
        """Mark the reference first and the drawing afterwards, or both by turns."""
        self.reference_first = not self.reference_first
        self._asked = None
        self._find_step()
        self.changed.emit(Change.STEP)

    def pass_of(self, key: str) -> SessionPass:
        """The pass of that key."""
        return next(one for one in self.passes if one.key == key)

    def progress(self) -> tuple[Progress, ...]:
        """How far each pass is."""
        seen, drawn = self.picture("reference"), self.picture("drawing")
        shapes = set(seen.polygons) | set(drawn.polygons)
        both = set(seen.polygons) & set(drawn.polygons)
        planned = self.notes.plan is not None if self.undrawn else drawn.sheet is not None
        others = {
            "sheet": (int(planned), 1),
            "shapes": (len(shapes if self.only else both), max(1, len(shapes))),
            "verdict": (len(checked(self.notes, self.state_name)), len(CHECKS)),
        }
        return progress_of(self.passes, seen.marks, drawn.marks, others, only=self.only)

    def worth_next(self) -> SessionPass | None:
        """The pass that is worth doing next."""
        return worth_next(self.progress(), self.current_pass)

    def enter_pass(self, key: str) -> None:
        """Show another pass and ask for its marks alone."""
        self.following = False
        self._asked = None
        self._show_pass(key)
        self._find_step()
        self.changed.emit(Change.STEP)

    def turn_pass(self, by: int) -> None:
        """Go a pass on or back."""
        keys = [one.key for one in self.passes]
        at = min(max(keys.index(self.current_pass) + by, 0), len(keys) - 1)
        self.enter_pass(keys[at])

    def spend(self, seconds: float) -> None:
        """Time that was worked in the pass that is shown; kept when it is left."""
        self._spent += seconds

    def keep_time(self) -> None:
        """Write down the time of this pass."""
        spent, self._spent = self._spent, 0.0
        if spent and not self.note(self.notes.spend(self.current_pass, spent)):
            self._spent = spent  # the next try may be kept

    def _show_pass(self, key: str) -> None:
        if key != self.current_pass:
            self.keep_time()
            self.current_pass = key
            self.changed.emit(Change.PASS)

    def _pass_of_step(self) -> str | None:
        mark = self.view.landmark(self.step.key) if self.step else None
        return mark.step if mark else None

    def _enter_pass_of_step(self) -> None:
        """Follow the prompt through the short set; afterwards the learner turns the passes."""
        asked = self._pass_of_step()
        if asked is not None and self.following:
            self._show_pass(asked)
