"""A study of the library in hand: every edit of it is an undo command and a transaction at once."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from bralto.core.carry import carry_by_fit, carry_by_sheet, confirmed, is_proposed
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import remedied_picture
from bralto.core.errors import UserError
from bralto.core.results import NotMeasurable
from bralto.core.study import Mark, Picture, Sheet, State, Study
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.ui.state.edits import MarksEdit, MirrorEdit, PictureEdit
from bralto.ui.state.study_value import Change, StudyValue

__all__ = ["Change", "KeptStudy"]

Point = tuple[float, float]


class KeptStudy(StudyValue):
    """What is kept of a study."""

    unkept = False
    """Whether edits are in memory alone, since the library's folder has gone."""

    def _keep(self, write: Callable[[int], int]) -> bool:
        """Write one transaction on the version that was read last; what is refused is said.

        Returns:
            Whether the edit holds. Where the library's folder is gone it holds in memory, until
            another place is chosen for it.
        """
        try:
            self._version = write(self._version)
        except UserError as error:
            if self._library.in_place or self._library.reading:
                self.trouble.emit(str(error))
                return False
            self.unkept = True
        return True

    # Marks

    def move(
        self, board: str, key: str, x: float, y: float, spread: float, *, nudge: bool = False
    ) -> bool:
        """Move a mark that is there; a drag is one edit, nudges merge."""
        if self._refused(board):
            return False
        held, self._in_hand = self._in_hand, None
        self._soon.stop()
        if held is not None:
            self._put(*held)  # for the undo command; what is kept next is measured
        mark = self.picture(board).marks[key]
        moved = replace(confirmed(mark) if is_proposed(mark) else mark, x=x, y=y, spread=spread)
        done = self.set_mark(board, key, moved, nudge=nudge)
        if not done and held is not None:
            self._show(*held)
        return done

    def preview(self, board: str, key: str, x: float, y: float) -> None:
        """Show a mark where it is being dragged to; nothing is kept until the drag ends."""
        if self._refused(board):
            return
        mark = self.picture(board).marks[key]
        if self._in_hand is None:
            self._in_hand = (board, key, mark)
        self._show(board, key, replace(mark, x=x, y=y))

    def put_back(self) -> None:
        """End a preview: the mark lies where it was before the drag."""
        if self._in_hand is not None:
            held, self._in_hand = self._in_hand, None
            self._show(*held)

    def _refused(self, board: str) -> bool:
        """Whether nothing can be kept of a board; why is said."""
        refusal = self._refusal(board)
        if refusal:
            self.trouble.emit(refusal)
        return bool(refusal)

    def set_mark(self, board: str, key: str, mark: Mark, *, nudge: bool = False) -> bool:
        """Set or move a mark by an undo command; what cannot be is said."""
        picture = self.picture(board)
        if self._refused(board):
            return False
        if not (0.0 <= mark.x <= picture.width and 0.0 <= mark.y <= picture.height):
            self.trouble.emit("That is outside the picture.")
            return False
        for other, there in picture.marks.items():
            near = max(abs(there.x - mark.x), abs(there.y - mark.y)) < SAME_SPOT_PX
            if other != key and there.visibility != "absent" and near:
                self.trouble.emit(
                    f"The {self.view.point_label(other)} is in that very spot already: "
                    f"show where the {self.view.point_label(key)} is."
                )
                return False
        self.undo_stack.push(MarksEdit(self, board, {key: mark}, nudge=nudge))
        return self.picture(board).marks.get(key) == mark  # not where it was refused

    def set_marks(self, board: str, marks: Mapping[str, Mark | None]) -> None:
        """Set or take away several marks as one edit."""
        if marks and not self._refused(board):
            self.undo_stack.push(MarksEdit(self, board, marks))

    def keep_marks(self, board: str, marks: Mapping[str, Mark | None]) -> bool:
        """One transaction, then the new value; for the undo commands alone."""
        row = self._row(board)
        if not self._keep(lambda at: self._library.put_marks(self.id, at, row, marks)):
            return False
        for key, mark in marks.items():
            self._put(board, key, mark)
        self._measured(Change.MARKS)
        return True

    def last_set(self, board: str) -> str | None:
        """The mark of a board that was set or moved last, if it is still there."""
        for i in range(self.undo_stack.index() - 1, -1, -1):
            command = self.undo_stack.command(i)
            if isinstance(command, MarksEdit) and command.board == board:
                return command.key if command.key in self.picture(board).marks else None
        return None

    # Marks carried here

    def proposals(self, board: str) -> tuple[str, ...]:
        """Marks that were carried to a board and have not been looked at, in placing order."""
        marks = self.picture(board).marks
        return tuple(k for k in self.view.placing if k in marks and is_proposed(marks[k]))

    def propose_from_reference(self) -> None:
        """Carry the marks that the drawing lacks through the best fit of the others."""
        if self.imagined:
            self.trouble.emit("A canon has no marks to carry over: nobody is the average.")
            return
        drawing = self.picture("drawing")
        found = carry_by_fit(self.view, self.picture("reference"), drawing)
        if isinstance(found, NotMeasurable):
            self.trouble.emit(f"Nothing can be carried over: {found.reason}.")
            return
        self.set_marks("drawing", {k: m for k, m in found.items() if k not in drawing.marks})

    def confirm(self, board: str, key: str, spread: float) -> None:
        """A carried mark was looked at and is right where it lies."""
        mark = self.picture(board).marks[key]
        self.set_mark(board, key, replace(confirmed(mark), spread=spread))

    # Pictures

    def set_sheet(self, board: str, sheet: Sheet | None) -> None:
        """Say where the sheet of paper is in a picture, or that there is none."""
        before = self.picture(board)
        # Plumb is the sheet's own once there is one; a turn of the raw picture says nothing of it.
        same = (sheet is None) == (before.sheet is None)
        plumb = before.plumb_deg if same else 0.0
        self._edit(board, replace(before, sheet=sheet, plumb_deg=plumb), "sheet")

    def set_plumb(self, board: str, plumb_deg: float) -> None:
        """Turn a picture until what is truly vertical stands so."""
        self._edit(board, replace(self.picture(board), plumb_deg=plumb_deg), "plumb")

    def set_crop(self, board: str, crop: tuple[float, float, float, float] | None) -> None:
        """Look at a part of a picture alone (image px); marks outside it stay."""
        self._edit(board, replace(self.picture(board), crop=crop), "crop")

    def remedy(self, doubt: Doubt) -> bool:
        """Do what settles a doubt of the marks or of what is said of a picture, as one edit.

        Returns:
            Whether it was kept.
        """
        before = self.picture(doubt.board)
        after = remedied_picture(self.view, before, doubt)
        moved: dict[str, Mark | None] = {
            key: after.marks.get(key)
            for key in before.marks
            if after.marks.get(key) != before.marks[key]
        }
        if moved:
            self.set_marks(doubt.board, moved)
        else:
            self._edit(doubt.board, after, "remedy")
        return self.picture(doubt.board) == after

    def mirror(self, doubt: Doubt, media: str) -> bool:
        """Put a picture's mirror image in its place, with its marks, as one edit.

        Args:
            media: the mirror image in the media folder.

        Returns:
            Whether it was kept.
        """
        if self._refused(doubt.board):
            return False
        after = remedied_picture(self.view, self.picture(doubt.board), doubt)
        self.undo_stack.push(MirrorEdit(self, doubt.board, after, media))
        return self.picture(doubt.board) == after

    def keep_exchanged(self, board: str, picture: Picture, media: str) -> bool:
        """One transaction, then the new value; for the undo commands alone."""
        row = self._row(board)

        def write(at: int) -> int:
            return self._library.exchange_picture(self.id, at, row, picture, media)

        if not self._keep(write):
            return False
        there = {**self._stored.media, self._picture_name(board): media}
        self._stored = self._stored._replace(media=there)
        self._replace_picture(board, picture)
        self._measured(Change.STUDY)
        return True

    def set_polygon(self, board: str, name: str, corners: tuple[Point, ...]) -> None:
        """Draw a shape on a board (image px), or take it away where there are no corners."""
        before = self.picture(board)
        kept = {key: shape for key, shape in before.polygons.items() if key != name}
        if corners:
            kept[name] = corners
        self._edit(board, replace(before, polygons=kept), f"shape {name}")

    def set_permission(self, board: str, permission: str | None) -> None:
        """Say where a picture comes from."""
        self._edit(board, replace(self.picture(board), permission=permission), "permission")

    def _edit(self, board: str, after: Picture, words: str) -> None:
        if self._refused(board):
            return
        if after != self.picture(board):
            self.undo_stack.push(PictureEdit(self, board, after, words))

    def keep_picture(self, board: str, picture: Picture) -> bool:
        """One transaction, then the new value; for the undo commands alone."""
        there, row = replace(picture, marks=self.picture(board).marks), self._row(board)
        if not self._keep(lambda at: self._library.put_picture(self.id, at, row, there)):
            return False
        self._replace_picture(board, there)
        self._measured(Change.PICTURE)
        return True

    # States of the drawing

    def choose_state(self, name: str) -> None:
        """Put another state of the drawing on the board."""
        if name != self.state_name and self.study.state(name) is not None:
            self.put_back()
            self.state_name = name
            if self.against == name:
                self.against = ""
            self.on_both = self._find_both()
            self._measured(Change.STUDY)

    def show_pair(self, state: str, against: str) -> None:
        """The two pictures that an edit was made on."""
        self.choose_state(state)
        self.compare_with(against)

    def compare_with(self, state: str) -> None:
        """Put an earlier state in the reference's place; "" puts the reference there again."""
        if state != self.against and state != self.state_name:
            self.put_back()
            self.against = state
            self.on_both = self._find_both()
            self._measured(Change.STUDY)

    def add_state(self, new: State, media: str) -> str | None:
        """Keep a further state of the drawing, its marks carried over from the one before where
        both sheets are known; gives why they were not, or None.

        Raises:
            UserError: it was not kept.
        """
        before = self.picture("drawing")
        marks = carry_by_sheet(before, new.picture)
        reason = marks.reason if isinstance(marks, NotMeasurable) else None
        if not isinstance(marks, NotMeasurable):
            new = replace(new, picture=replace(new.picture, marks=marks))
        self._stored = self._library.add_state(self.id, self._version, new, media)
        self._version = self._stored.version
        self.study = replace(self.study, states=(*self.study.states, new))
        self.choose_state(new.name)
        return reason

    # What is said of the study as a whole, see `StudyHead`

    def keep_head(self, changed: Study, change: Change = Change.STUDY) -> bool:
        """One transaction, then the new value, measured again unless only notes changed."""
        if not self._keep(lambda at: self._library.put_head(self.id, at, changed)):
            return False
        self.study = changed
        if change is Change.NOTES:
            self.changed.emit(change)
        else:
            self._measured(change)
        return True
