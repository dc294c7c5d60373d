"""Edits of the marks on the two boards."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from bralto.core.doubts.at_once import ask_at_once
from bralto.core.marking.carry import carry_by_fit, confirmed, is_proposed
from bralto.core.marking.mark_worth import HIDDEN_TIMES
from bralto.core.marking.placing import choose_side
from bralto.core.marking.repeats import PooledSpread
from bralto.core.marking.whereabouts import about_a_head
from bralto.core.results import NotMeasurable
from bralto.core.study.snapped import snapped_to, unsnapped
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Mark, Picture
from bralto.core.terms import Visibility
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.ui.document.edits import Pair
from bralto.ui.document.worked_on import WorkedOn
from bralto.ui.session import pointing, prompting
from bralto.ui.session.state import InHand

__all__ = ["BoardEdits"]

Point = tuple[float, float]


class BoardEdits:
    """A part of `OpenStudy`: each edit is one gesture of it, and what cannot be is said there."""

    def __init__(
        self,
        study: WorkedOn,
        say: Callable[[str], None],
        hand_found: Callable[[Mapping[str, PooledSpread]], None],
    ) -> None:
        """``hand_found`` is told of the learner's own spread, where it was measured."""
        self._study, self._say, self._hand_found = study, say, hand_found

    def refusal(self, board: Board) -> str:
        """Why nothing can be kept of a board, or ""."""
        study = self._study
        if board == Board.DRAWING:
            return "There is no drawing yet: photograph it first." if study.undrawn else ""
        if study.imagined and not study.session.against:
            stands = "What you sighted" if study.from_life else "A canon"
            return f"{stands} stands here: what is asked for are the marks of your drawing."
        return ""

    def refused(self, board: Board) -> bool:
        """Whether nothing can be kept of a board; why is said."""
        refusal = self.refusal(board)
        if refusal:
            self._say(refusal)
        return bool(refusal)

    def name_of(self, board: Board) -> str:
        """The state whose picture lies on a board, "" of the reference."""
        return self._study.session.picture_name(board)

    def pair(self) -> Pair:
        """The states on both boards, as edits name them."""
        return self._study.session.state_name, self._study.session.against

    def kept(self, board: Board) -> Picture:
        """A board's picture as it is kept, without a mark that is being dragged."""
        return self._study.ground(in_hand=False).picture(board)

    # Marks

    def place(self, board: Board, x: float, y: float, spread: float) -> str | None:
        """Set the prompted mark; gives its key, or None where it could not be set."""
        with self._study.gesture():
            return self._place(board, x, y, spread)

    def _place(self, board: Board, x: float, y: float, spread: float) -> str | None:
        study = self._study
        if study.session.doubted is not None and study.session.doubted.board != board:
            study.apply(prompting.undoubt)  # whoever goes on has answered
        step = study.session.step
        if step is None or step.board != board:
            return None
        if study.session.repeating is not None:
            return self._repeat(x, y)
        key = choose_side(study.view, step, self.kept(board), x)
        visibility, before = Visibility.SEEN, self.kept(board).marks.get(key)
        was = (
            before is not None
            and before.visibility == Visibility.INFERRED
            and not is_proposed(before)
        )
        if study.session.hidden_next != was:  # asked for again it is as hidden as it was
            visibility, spread = Visibility.INFERRED, HIDDEN_TIMES * spread
        if not self.set_mark(board, key, Mark(x, y, visibility, spread)):
            return None
        study.session = replace(study.session, hidden_next=False, asked=None, doubted=None)
        study.apply(prompting.lead)
        against = study.ground().seen if board == Board.DRAWING and not study.imagined else None
        question = ask_at_once(study.view, self.kept(board), key, against)
        if question is not None:
            study.apply(prompting.doubt, board, question)
        return key

    def leave_it(self, board: Board, key: str, spread: float) -> None:
        """A mark that was asked for again was looked at and lies well: on to the next."""
        study, mark = self._study, self.kept(board).marks.get(key)
        with study.gesture():
            if mark is not None and spread < mark.spread and mark.visibility == Visibility.SEEN:
                self.set_mark(board, key, replace(mark, spread=spread), nudge=True)
            study.session = replace(study.session, asked=None, selected=None)
            study.apply(prompting.lead)

    def other_of_two(self) -> bool:
        """A mark that is asked for again, of two of which either would do, is the other side's.

        Returns:
            Whether it was.
        """
        study, asked = self._study, self._study.session.asked
        if asked is None or study.session.selected != asked.key:
            return False
        either = next((keys for keys in study.view.short if asked.key in keys), ())
        other = next((key for key in either if key != asked.key), None)
        marks = self.kept(asked.board).marks
        if other is None or other in marks or asked.key not in marks:
            return False
        with study.gesture():
            self.set_marks(asked.board, {other: marks[asked.key], asked.key: None})
            study.apply(prompting.ask, asked.board, other)
        return True

    def settle_question(self) -> bool:
        """Do what settles the question about the mark that was set last, as one edit.

        Returns:
            Whether there was one.
        """
        study = self._study
        asked = prompting.question_of(study.session, study.ground())
        if asked is None:
            return False
        question, marks = asked.question, self.kept(asked.board).marks
        with study.gesture():
            if question.remedy == "exchange":
                there = marks.get(question.other)
                self.set_marks(asked.board, {question.other: asked.mark, question.key: there})
                study.apply(prompting.undoubt)
            else:
                self.set_marks(asked.board, {question.key: None})
                study.apply(prompting.undoubt)
                study.apply(prompting.ask, asked.board, question.key)
        return True

    def move(
        self, board: Board, key: str, x: float, y: float, spread: float, *, nudge: bool = False
    ) -> bool:
        """Move a mark that is there; a drag is one edit, nudges merge."""
        if self.refused(board):
            return False
        with self._study.gesture():
            self.put_back()
            mark = self.kept(board).marks.get(key)
            if mark is None:  # it was taken back while it was in hand
                return False
            there = confirmed(mark) if is_proposed(mark) else mark
            moved = replace(unsnapped(there), x=x, y=y, spread=spread)
            return self.set_mark(board, key, moved, nudge=nudge)

    def snap(self, board: Board, key: str, x: float, y: float, across_deg: float) -> bool:
        """Bring a mark that is there to a place on a line: it is known more closely across it."""
        if self.refused(board):
            return False
        with self._study.gesture():
            self.put_back()
            mark = self.kept(board).marks.get(key)
            if mark is None:
                return False
            there = confirmed(mark) if is_proposed(mark) else mark
            return self.set_mark(board, key, snapped_to(there, x, y, across_deg))

    def preview(self, board: Board, key: str, x: float, y: float) -> None:
        """Show a mark where it is being dragged to; nothing is kept until the drag ends."""
        if self.refused(board):
            return
        mark = self.kept(board).marks.get(key)
        if mark is None:
            return
        with self._study.gesture():
            in_hand = InHand(board, key, replace(unsnapped(mark), x=x, y=y))
            self._study.session = replace(self._study.session, in_hand=in_hand, pointed=key)

    def put_back(self) -> None:
        """End a preview: the mark lies where it was before the drag."""
        if self._study.session.in_hand is not None:
            with self._study.gesture():
                self._study.session = replace(self._study.session, in_hand=None)

    def set_mark(self, board: Board, key: str, mark: Mark, *, nudge: bool = False) -> bool:
        """Set or move a mark; what cannot be is said."""
        if self.refused(board):
            return False
        picture, view = self.kept(board), self._study.view
        if not (0.0 <= mark.x <= picture.width and 0.0 <= mark.y <= picture.height):
            self._say("That is outside the picture.")
            return False
        for other, there in picture.marks.items():
            near = max(abs(there.x - mark.x), abs(there.y - mark.y)) < SAME_SPOT_PX
            if other != key and there.visibility != Visibility.ABSENT and near:
                self._say(
                    f"The {view.point_label(other)} is in that very spot already: "
                    f"show where the {view.point_label(key)} is."
                )
                return False
        with self._study.gesture():
            document = self._study.document
            document.set_marks(self.pair(), self.name_of(board), {key: mark}, nudge=nudge)
        return self.kept(board).marks.get(key) == mark  # not where it was refused

    def set_marks(self, board: Board, marks: Mapping[str, Mark | None]) -> None:
        """Set or take away several marks as one edit."""
        if marks and not self.refused(board):
            with self._study.gesture():
                self._study.document.set_marks(self.pair(), self.name_of(board), marks)

    def remove(self, board: Board, key: str) -> None:
        """Take a mark away."""
        if key in self.kept(board).marks:
            with self._study.gesture():
                self.set_marks(board, {key: None})
                self._study.apply(pointing.select, None)

    def not_there(self) -> bool:
        """The mark that is asked for is not in the picture: on this board, and on the other one
        where nothing was set, since it cannot be compared; one edit.

        Returns:
            Whether one was asked for and is absent now.
        """
        study, step = self._study, self._study.session.step
        if step is None or study.session.repeating is not None:
            return False
        gone = dict.fromkeys(step.keys, Mark(0.0, 0.0, Visibility.ABSENT, 0.0))
        boards = [
            board
            for board in BOARDS
            if not self.refusal(board) and not self.kept(board).marks.keys() & set(step.keys)
        ]
        if step.board not in boards:
            return False
        with study.gesture():
            marks = {self.name_of(board): gone for board in boards}
            study.document.set_several(self.pair(), marks, words="not in the picture")
            study.session = replace(study.session, asked=None, hidden_next=False)
            study.apply(prompting.lead)
        return self.kept(step.board).marks.get(step.key) == gone[step.key]

    def last_set(self, board: Board) -> str | None:
        """The mark of a board that was set or moved last, if it is still there."""
        found = self._study.document.last_marks(self.name_of(board))
        return found[1] if found is not None and found[1] in self.kept(board).marks else None

    def back(self) -> None:
        """Prompt again for the mark that was set last."""
        found = self._study.document.last_marks()
        if found is not None:
            board = Board.REFERENCE if found[0] == self.name_of(Board.REFERENCE) else Board.DRAWING
            self._study.apply(prompting.ask, board, found[1])

    # Marks carried here

    def propose_from_reference(self) -> None:
        """Carry the marks that the drawing lacks through the best fit of the others."""
        if self._study.imagined:
            if self._study.from_life:
                self._say("What was sighted has no marks to carry over: they would pull the hand.")
            else:
                self._say("A canon has no marks to carry over: nobody is the average.")
            return
        drawing = self.kept(Board.DRAWING)
        found = carry_by_fit(self._study.view, self.kept(Board.REFERENCE), drawing)
        if isinstance(found, NotMeasurable):
            self._say(f"Nothing can be carried over: {found.reason}.")
            return
        self.set_marks(Board.DRAWING, {k: m for k, m in found.items() if k not in drawing.marks})

    def confirm_next(self, spread: float) -> None:
        """The carried mark that is asked about was looked at and is right where it lies."""
        proposal = self._study.now.asked_proposal
        if proposal is not None:
            board, key = proposal
            mark = confirmed(self.kept(board).marks[key])
            self.set_mark(board, key, replace(mark, spread=spread))

    # Placing the same marks again, blind

    def begin_repeats(self, board: Board) -> None:
        """Ask for marks of a board three times over, hidden, to learn the hand's own spread."""
        if len(prompting.repeatable(self._study.ground(), board)) < 2:
            self._say("Set a few marks first: then they can be placed again, blind.")
            return
        self._study.apply(prompting.begin_repeats, board)

    def _repeat(self, x: float, y: float) -> str:
        study, run = self._study, self._study.session.repeating
        assert run is not None
        assert run.asked is not None
        key, run = run.asked, run.with_placing(x, y)
        with study.gesture():
            if run.asked is not None:
                study.session = replace(study.session, repeating=run)
            else:
                study.session = replace(study.session, repeating=None)
                found = run.spread()
                if isinstance(found, NotMeasurable):
                    self._say(found.reason)
                else:
                    study.session = replace(study.session, own_spread=found)
                    picture = self.kept(run.board)
                    self.set_marks(run.board, run.settled(picture.marks, found))
                    self._hand_found(run.hand(about_a_head(study.view, picture)))
            study.apply(prompting.refresh)
        return key
