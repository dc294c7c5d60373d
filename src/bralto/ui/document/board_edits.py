"""Edits of what lies on the two boards: marks, what is said of pictures, states of the drawing."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import TYPE_CHECKING

from bralto.core.carry import carry_by_fit, carry_by_sheet, confirmed, is_proposed
from bralto.core.doubts.at_once import ask_at_once
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import remedied_picture
from bralto.core.mark_worth import HIDDEN_TIMES
from bralto.core.placing import BOARDS, choose_side
from bralto.core.results import NotMeasurable
from bralto.core.snapped import snapped_to, unsnapped
from bralto.core.study import OUTLINE, Mark, Picture, Sheet, State
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.core.whereabouts import about_a_head
from bralto.ui.document.edits import Pair
from bralto.ui.session import pointing, prompting
from bralto.ui.session.state import InHand

if TYPE_CHECKING:
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["BoardEdits"]

Point = tuple[float, float]


class BoardEdits:
    """A part of `OpenStudy`: each edit is one gesture of it, and what cannot be is said there."""

    def __init__(self, study: OpenStudy, say: Callable[[str], None]) -> None:
        self._study, self._say = study, say

    def refusal(self, board: str) -> str:
        """Why nothing can be kept of a board, or ""."""
        study = self._study
        if board == "drawing":
            return "There is no drawing yet: photograph it first." if study.undrawn else ""
        if study.imagined and not study.session.against:
            stands = "What you sighted" if study.from_life else "A canon"
            return f"{stands} stands here: what is asked for are the marks of your drawing."
        return ""

    def _refused(self, board: str) -> bool:
        refusal = self.refusal(board)
        if refusal:
            self._say(refusal)
        return bool(refusal)

    def _name(self, board: str) -> str:
        session = self._study.session
        return session.against if board == "reference" else session.state_name

    def _pair(self) -> Pair:
        return self._study.session.state_name, self._study.session.against

    def _picture(self, board: str) -> Picture:
        """As it is kept, without a mark that is being dragged."""
        return self._study.ground(in_hand=False).picture(board)

    # Marks

    def place(self, board: str, x: float, y: float, spread: float) -> str | None:
        """Set the prompted mark; gives its key, or None where it could not be set."""
        with self._study.gesture():
            return self._place(board, x, y, spread)

    def _place(self, board: str, x: float, y: float, spread: float) -> str | None:
        study = self._study
        if study.session.doubted is not None and study.session.doubted.board != board:
            study.apply(prompting.undoubt)  # whoever goes on has answered
        step = study.session.step
        if step is None or step.board != board:
            return None
        if study.session.repeating is not None:
            return self._repeat(x, y)
        key = choose_side(study.view, step, self._picture(board), x)
        visibility, before = "seen", self._picture(board).marks.get(key)
        was = before is not None and before.visibility == "inferred" and not is_proposed(before)
        if study.session.hidden_next != was:  # asked for again it is as hidden as it was
            visibility, spread = "inferred", HIDDEN_TIMES * spread
        if not self.set_mark(board, key, Mark(x, y, visibility, spread)):
            return None
        study.session = replace(study.session, hidden_next=False, asked=None, doubted=None)
        study.apply(prompting.lead)
        against = study.ground().seen if board == "drawing" and not study.imagined else None
        question = ask_at_once(study.view, self._picture(board), key, against)
        if question is not None:
            study.apply(prompting.doubt, board, question)
        return key

    def leave_it(self, board: str, key: str, spread: float) -> None:
        """A mark that was asked for again was looked at and lies well: on to the next."""
        study, mark = self._study, self._picture(board).marks.get(key)
        with study.gesture():
            if mark is not None and spread < mark.spread and mark.visibility == "seen":
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
        marks = self._picture(asked.board).marks
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
        question, marks = asked.question, self._picture(asked.board).marks
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
        self, board: str, key: str, x: float, y: float, spread: float, *, nudge: bool = False
    ) -> bool:
        """Move a mark that is there; a drag is one edit, nudges merge."""
        if self._refused(board):
            return False
        with self._study.gesture():
            self.put_back()
            mark = self._picture(board).marks.get(key)
            if mark is None:  # it was taken back while it was in hand
                return False
            there = confirmed(mark) if is_proposed(mark) else mark
            moved = replace(unsnapped(there), x=x, y=y, spread=spread)
            return self.set_mark(board, key, moved, nudge=nudge)

    def snap(self, board: str, key: str, x: float, y: float, across_deg: float) -> bool:
        """Bring a mark that is there to a place on a line: it is known more closely across it."""
        if self._refused(board):
            return False
        with self._study.gesture():
            self.put_back()
            mark = self._picture(board).marks.get(key)
            if mark is None:
                return False
            there = confirmed(mark) if is_proposed(mark) else mark
            return self.set_mark(board, key, snapped_to(there, x, y, across_deg))

    def preview(self, board: str, key: str, x: float, y: float) -> None:
        """Show a mark where it is being dragged to; nothing is kept until the drag ends."""
        if self._refused(board):
            return
        mark = self._picture(board).marks.get(key)
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

    def set_mark(self, board: str, key: str, mark: Mark, *, nudge: bool = False) -> bool:
        """Set or move a mark; what cannot be is said."""
        if self._refused(board):
            return False
        picture, view = self._picture(board), self._study.view
        if not (0.0 <= mark.x <= picture.width and 0.0 <= mark.y <= picture.height):
            self._say("That is outside the picture.")
            return False
        for other, there in picture.marks.items():
            near = max(abs(there.x - mark.x), abs(there.y - mark.y)) < SAME_SPOT_PX
            if other != key and there.visibility != "absent" and near:
                self._say(
                    f"The {view.point_label(other)} is in that very spot already: "
                    f"show where the {view.point_label(key)} is."
                )
                return False
        with self._study.gesture():
            document = self._study.document
            document.set_marks(self._pair(), self._name(board), {key: mark}, nudge=nudge)
        return self._picture(board).marks.get(key) == mark  # not where it was refused

    def set_marks(self, board: str, marks: Mapping[str, Mark | None]) -> None:
        """Set or take away several marks as one edit."""
        if marks and not self._refused(board):
            with self._study.gesture():
                self._study.document.set_marks(self._pair(), self._name(board), marks)

    def remove(self, board: str, key: str) -> None:
        """Take a mark away."""
        if key in self._picture(board).marks:
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
        gone = dict.fromkeys(step.keys, Mark(0.0, 0.0, "absent", 0.0))
        boards = [
            board
            for board in BOARDS
            if not self.refusal(board) and not self._picture(board).marks.keys() & set(step.keys)
        ]
        if step.board not in boards:
            return False
        with study.gesture():
            marks = {self._name(board): gone for board in boards}
            study.document.set_several(self._pair(), marks, words="not in the picture")
            study.session = replace(study.session, asked=None, hidden_next=False)
            study.apply(prompting.lead)
        return self._picture(step.board).marks.get(step.key) == gone[step.key]

    def last_set(self, board: str) -> str | None:
        """The mark of a board that was set or moved last, if it is still there."""
        found = self._study.document.last_marks(self._name(board))
        return found[1] if found is not None and found[1] in self._picture(board).marks else None

    def back(self) -> None:
        """Prompt again for the mark that was set last."""
        found = self._study.document.last_marks()
        if found is not None:
            board = "reference" if found[0] == self._name("reference") else "drawing"
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
        drawing = self._picture("drawing")
        found = carry_by_fit(self._study.view, self._picture("reference"), drawing)
        if isinstance(found, NotMeasurable):
            self._say(f"Nothing can be carried over: {found.reason}.")
            return
        self.set_marks("drawing", {k: m for k, m in found.items() if k not in drawing.marks})

    def confirm_next(self, spread: float) -> None:
        """The carried mark that is asked about was looked at and is right where it lies."""
        proposal = self._study.now.asked_proposal
        if proposal is not None:
            board, key = proposal
            mark = confirmed(self._picture(board).marks[key])
            self.set_mark(board, key, replace(mark, spread=spread))

    # Placing the same marks again, blind

    def begin_repeats(self, board: str) -> None:
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
                    picture = self._picture(run.board)
                    self.set_marks(run.board, run.settled(picture.marks, found))
                    study.hand_found.emit(run.hand(about_a_head(study.view, picture)))
            study.apply(prompting.refresh)
        return key

    # Pictures

    def set_sheet(self, board: str, sheet: Sheet | None) -> None:
        """Say where the sheet of paper is in a picture, or that there is none."""
        before = self._picture(board)
        # Plumb is the sheet's own once there is one; a turn of the raw picture says nothing of it.
        same = (sheet is None) == (before.sheet is None)
        plumb = before.plumb_deg if same else 0.0
        self._edit(board, replace(before, sheet=sheet, plumb_deg=plumb), "sheet")

    def set_plumb(self, board: str, plumb_deg: float) -> None:
        """Turn a picture until what is truly vertical stands so."""
        self._edit(board, replace(self._picture(board), plumb_deg=plumb_deg), "plumb")

    def set_crop(self, board: str, crop: tuple[float, float, float, float] | None) -> None:
        """Look at a part of a picture alone (image px); marks outside it stay."""
        self._edit(board, replace(self._picture(board), crop=crop), "crop")

    def set_polygon(self, board: str, name: str, corners: tuple[Point, ...]) -> None:
        """Draw a shape on a board (image px), or take it away where there are no corners."""
        before = self._picture(board)
        kept = {key: shape for key, shape in before.polygons.items() if key != name}
        if corners:
            kept[name] = corners
        self._edit(board, replace(before, polygons=kept), f"shape {name}")

    def set_curve(self, board: str, name: str, points: tuple[Point, ...]) -> None:
        """Draw a curve on a board (image px), or take it away where there are no points."""
        before = self._picture(board)
        kept = {key: line for key, line in before.curves.items() if key != name}
        if points:
            kept[name] = points
        self._edit(board, replace(before, curves=kept), f"the {name}")

    def set_shadows(
        self,
        board: str,
        rings: tuple[tuple[Point, ...], ...],
        outline: tuple[Point, ...] | None = None,
    ) -> None:
        """Outline what is dark on a board (image px).

        Args:
            outline: of the figure itself, where it was found with them and none is drawn yet.
        """
        before = self._picture(board)
        shapes = dict(before.polygons)
        if outline is not None:
            shapes.setdefault(OUTLINE, outline)
        self._edit(board, replace(before, shadows=rings, polygons=shapes), "the shadows")

    def set_permission(self, board: str, permission: str | None) -> None:
        """Say where a picture comes from."""
        self._edit(board, replace(self._picture(board), permission=permission), "permission")

    def _edit(self, board: str, after: Picture, words: str) -> None:
        if not self._refused(board):
            with self._study.gesture():
                self._study.document.set_picture(self._pair(), self._name(board), after, words)

    # What settles a doubt

    def remedy(self, doubt: Doubt) -> bool:
        """Do what settles a doubt of the marks or of what is said of a picture, as one edit.

        Returns:
            Whether it was kept.
        """
        before = self._picture(doubt.board)
        after = remedied_picture(self._study.view, before, doubt)
        moved: dict[str, Mark | None] = {
            key: after.marks.get(key)
            for key in before.marks
            if after.marks.get(key) != before.marks[key]
        }
        if moved:
            self.set_marks(doubt.board, moved)
        else:
            self._edit(doubt.board, after, "remedy")
        return self._picture(doubt.board) == after

    def mirror(self, doubt: Doubt, media: str) -> bool:
        """Put a picture's mirror image in its place, with its marks, as one edit.

        Args:
            media: the mirror image in the media folder.

        Returns:
            Whether it was kept.
        """
        if self._refused(doubt.board):
            return False
        after = remedied_picture(self._study.view, self._picture(doubt.board), doubt)
        with self._study.gesture():
            self._study.document.exchange(self._pair(), self._name(doubt.board), after, media)
        return self._picture(doubt.board) == after

    # States of the drawing

    def add_state(self, new: State, media: str) -> str | None:
        """Keep a further state of the drawing, its marks carried over from the one before where
        both sheets are known; gives why they were not, or None.

        Raises:
            UserError: it was not kept.
        """
        marks = carry_by_sheet(self._picture("drawing"), new.picture)
        reason = marks.reason if isinstance(marks, NotMeasurable) else None
        if not isinstance(marks, NotMeasurable):
            new = replace(new, picture=replace(new.picture, marks=marks))
        with self._study.gesture():
            self._study.document.add_state(new, media)
        return reason
