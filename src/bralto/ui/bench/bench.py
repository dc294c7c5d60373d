"""The bench: two boards, the ladder between them, rails and fan below, what is off beside."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QVBoxLayout, QWidget

from bralto.core.assessment import short_set_of
from bralto.core.placing import BOARDS
from bralto.ui.bench.headings import tape_of, write_headings
from bralto.ui.bench.keymap import act_of
from bralto.ui.bench.ladder import TOP, Ladder
from bralto.ui.bench.middle import Middle
from bralto.ui.bench.moves import Moves
from bralto.ui.bench.off_list import FOLDED, UNFOLDED, OffList
from bralto.ui.bench.picture_work import PictureWork
from bralto.ui.bench.rail import Rail
from bralto.ui.bench.sighting import Sighting
from bralto.ui.bench.special_prompts import GUESSING, RESTING, special_prompt, usual_prompt
from bralto.ui.boards.flat import head_px
from bralto.ui.boards.ghost import Ghost
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.points import point_on_board
from bralto.ui.boards.preview import Preview
from bralto.ui.heading import Heading
from bralto.ui.prompt import Prompt
from bralto.ui.state.open_study import Change, OpenStudy
from bralto.ui.state.settings import Settings
from bralto.ui.tape import Segment
from bralto.ui.tasks import Tasks
from bralto.ui.theme.tokens import Tokens

__all__ = ["Bench"]

_MARGIN = 24
_LOWER = 132  # height of rails and fan, px
_WITH_RAILS = frozenset({"plumb", "widths"})
_FOLD_BELOW = 1100  # window width under which the list folds to a strip


class Bench(QWidget):
    """One study on the bench; a new one is made for each study that is opened."""

    prompt_changed = pyqtSignal()
    tape_changed = pyqtSignal()
    sheet_wanted = pyqtSignal(str)
    state_wanted = pyqtSignal()
    permission_wanted = pyqtSignal(str)
    rested = pyqtSignal()

    def __init__(
        self,
        study: OpenStudy,
        tasks: Tasks,
        settings: Settings,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self.study: OpenStudy = study
        self._settings = settings
        self._tokens = tokens
        self.linked = False
        self._busy_linking = False
        self.reference = PictureBoard(study, "reference", tokens, self)
        self.drawing = PictureBoard(study, "drawing", tokens, self)
        self.ladder = Ladder(study, (self.reference, self.drawing), tokens, self)
        self.rails = (
            Rail(study, self.reference, tokens, self),
            Rail(study, self.drawing, tokens, self),
        )
        self._aside = QWidget(self)
        self.moves = Moves(study, tokens, self._aside)
        self.off = OffList(study, tokens, self._aside)
        self.trouble = self.told = ""
        self.resting = False
        self.work: PictureWork = PictureWork(study, self.boards, tasks, self)
        self.sighting: Sighting = Sighting(self.boards, self)
        self.work.sighted.connect(self.sighting.hold_out)
        self.ghost: Ghost = Ghost(self.reference, self.drawing)
        self.reference.over = self.ghost.paint
        self.ghost.changed.connect(self.prompt_changed)
        self.preview: Preview = Preview(self.drawing, tasks)
        self.preview.changed.connect(self.prompt_changed)
        self.preview.trouble.connect(self._on_trouble)
        # The ladder's columns touch the boards, so its heading keeps off theirs.
        self.middle: Middle = Middle(study, self.work, settings, tokens, self)
        self._headings = [Heading(tokens, self, inset=inset) for inset in (0.0, 12.0, 0.0, 0.0)]
        self._lay_out()
        self._fitted = self._offered = False
        study.changed.connect(self._on_change)
        study.trouble.connect(self._on_trouble)
        study.told.connect(self.tell)
        for board, other in ((self.reference, self.drawing), (self.drawing, self.reference)):
            board.panned.connect(partial(self._follow_pan, other))
            board.zoomed.connect(partial(self._follow_zoom, board, other))
        work = self.work
        work.told.connect(self.tell)
        work.trouble.connect(self._on_trouble)
        work.looked.connect(self._write_headings)
        work.taken.connect(self.prompt_changed)
        work.straightened.connect(self.align)
        for wanted, pass_on in (
            (work.sheet_wanted, self.sheet_wanted),
            (work.state_wanted, self.state_wanted),
            (work.permission_wanted, self.permission_wanted),
        ):
            wanted.connect(pass_on)
        work.open_pictures()
        self._write_headings()
        self.middle.guessed.connect(self.toggle_guess)
        self._show_pass()

    def release(self) -> None:
        """Let go of the study, widget by widget, before the bench is thrown away."""
        self.study.changed.disconnect(self._on_change)
        self.study.trouble.disconnect(self._on_trouble)
        self.study.told.disconnect(self.tell)
        self.work.release()
        self.preview.release()
        parts: tuple[PictureBoard | Ladder | Rail | Middle | Moves | OffList, ...]
        parts = (*self.boards, self.ladder, *self.rails, self.middle, self.moves, self.off)
        for part in parts:
            part.release()

    @property
    def boards(self) -> tuple[PictureBoard, PictureBoard]:
        """Reference and drawing."""
        return self.reference, self.drawing

    # Layout

    def _lay_out(self) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(_MARGIN, 6, _MARGIN, 8)
        grid.setHorizontalSpacing(0)
        grid.setVerticalSpacing(6)
        grid.setColumnMinimumWidth(3, _MARGIN)
        for column, heading in zip((0, 1, 2, 4), self._headings, strict=True):
            grid.addWidget(heading, 0, column)
        wide = QSizePolicy.Policy.Ignored
        upper: tuple[QWidget, ...] = (self.reference, self.ladder, self.drawing)
        lower: tuple[QWidget, ...] = (self.rails[0], self.middle.below, self.rails[1])
        for column, (above, below) in enumerate(zip(upper, lower, strict=True)):
            above.setSizePolicy(wide, QSizePolicy.Policy.Expanding)
            below.setSizePolicy(wide, QSizePolicy.Policy.Fixed)
            below.setFixedHeight(_LOWER)
            grid.addWidget(above, 1, column)
            grid.addWidget(below, 2, column)
        stack = QVBoxLayout(self._aside)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(self.moves)
        stack.addWidget(self.off, 1)
        for column, span, whole in ((1, 1, self.middle.whole), (2, 3, self.middle.right)):
            whole.setSizePolicy(wide, wide)
            grid.addWidget(whole, 1, column, 2, span)
        grid.addWidget(self._aside, 1, 4, 2, 1)
        grid.setRowStretch(1, 1)
        grid.setColumnStretch(0, 1)
        grid.setColumnStretch(2, 1)
        self._grid = grid

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        assert event is not None
        self._arrange(event.size())

    def _arrange(self, size: QSize) -> None:
        """The ladder keeps 200 to 360 px, a narrow list folds, the boards share the rest."""
        folded = size.width() < _FOLD_BELOW
        self.off.folded = self.moves.folded = folded
        self._headings[3].setVisible(not folded and self._aside.isVisibleTo(self))
        aside = FOLDED if folded else UNFOLDED
        self._aside.setFixedWidth(aside)
        self.moves.arrange()
        ladder = round(min(max(0.31 * size.width(), 200), 360))
        self.ladder.setFixedWidth(ladder)
        self.middle.below.setFixedWidth(ladder)
        self.middle.whole.setFixedWidth(ladder)
        self._grid.setColumnMinimumWidth(1, ladder)
        self._grid.activate()
        if not self._fitted or not self._moved_by_hand:
            self.align()

    _moved_by_hand = False

    def _show_pass(self) -> None:
        """Each pass has its own instruments between the boards and on the right."""
        ladder, paper = self.middle.show_pass(self.study.current_pass)
        for part in (self.ladder, self.middle.below):
            part.setVisible(ladder)
        guessing = self.middle.guessing
        rails = (ladder or self.study.current_pass in _WITH_RAILS) and not guessing
        self.rails[0].setVisible(rails)
        self.rails[1].setVisible(rails)
        self.middle.whole.setVisible(not ladder)
        self.drawing.setVisible(not paper)
        self.middle.right.setVisible(paper)
        self._aside.setVisible(not paper and not guessing)
        self._headings[3].setVisible(self._aside.isVisibleTo(self) and not self.off.folded)
        for board in self.boards:
            board.plain = guessing
        self._grid.activate()

    # Looking

    def align(self) -> None:
        """Both pictures at one height: crown and sole level with the ladder, in reference heads.

        Where a board has no unit yet it shows its whole picture.
        """
        self._fitted, self._moved_by_hand = True, False
        for board in self.boards:
            board.viewport = board.viewport.fitted(board.size().toSizeF())
            picture = self.study.picture(board.board)
            head = head_px(self.study.assessment, picture, board.board)
            crown = point_on_board(board, self.study.view.edges[0])
            if head is not None and crown is not None and board.viewport.quarters == 0:
                zoom = self.ladder.px_per_head(self.reference.height()) / head
                image_crown = board.viewport.to_image(crown)
                middle = self._middle(board, zoom)
                board.viewport = board.viewport.aligned(image_crown, QPointF(middle, TOP), zoom)
            board.viewed.emit()
            board.update()
        self.ladder.update()

    def _middle(self, board: PictureBoard, zoom: float) -> float:
        """Where the crown goes so that the marks' extent is centred on the board, in board px."""
        keys = self.study.picture(board.board).placed()
        places = [place.x() for key in keys if (place := board.at(key)) is not None]
        crown = board.at(self.study.view.edges[0])
        assert crown is not None
        extent = (min(places) + max(places)) / 2.0
        return board.width() / 2.0 + (crown.x() - extent) * zoom / board.viewport.zoom

    def _follow_pan(self, other: PictureBoard, by: QPointF) -> None:
        self._moved_by_hand = True
        if self.linked:
            other.look(other.viewport.panned(by))

    def _follow_zoom(
        self, board: PictureBoard, other: PictureBoard, factor: float, about: QPointF
    ) -> None:
        self._moved_by_hand = True
        if self.linked:
            # The same place of the figure: where the other board has its own height of it.
            across = about.x() * other.width() / max(1, board.width())
            other.look(other.viewport.zoomed(factor, QPointF(across, about.y())))

    def rest(self) -> None:
        """Time to step back: said in the prompt line, until something is done."""
        self.resting = True
        self.prompt_changed.emit()

    def _has_rested(self) -> None:
        if self.resting:
            self.resting = False
            self.rested.emit()
            self.prompt_changed.emit()

    def mirror(self) -> None:
        """Both boards as in a mirror; the eye sees them fresh."""
        self._has_rested()
        for board in self.boards:
            board.look(board.viewport.mirror(board.width()))

    def upside_down(self) -> None:
        """Both boards on their heads: shapes instead of names."""
        self._has_rested()
        self.work.upside_down()

    def put_away(self) -> None:
        """Nothing over the pictures: no ghost, no lines, no stick."""
        self._has_rested()
        self.ghost.take(None)
        self.preview.put_away()
        self.sighting.put_away()

    def hovered_board(self) -> PictureBoard:
        """The board under the pointer, or else the one that the prompt is about."""
        return next((b for b in self.boards if b.hover is not None), self.active_board())

    def tell(self, words: str) -> None:
        """Say something in the prompt line until the next change."""
        self.told = words
        self.prompt_changed.emit()

    def toggle_guess(self) -> None:
        """Guess by eye before figures are shown, or show them."""
        self.middle.guess(not self.middle.guessing)
        self._show_pass()
        self.align()
        self._write_headings()
        self.prompt_changed.emit()
        if not self.middle.guessing:
            self.active_board().setFocus()

    def _guess_now(self) -> bool:
        """Once, when the reference has its short set and there are no figures of a drawing yet."""
        study = self.study
        if self._offered or not self._settings.guess_first or study.study.guesses:
            return False
        ready = isinstance(short_set_of(study.view, study.picture("reference").placed()), tuple)
        self._offered = ready and not study.picture("drawing").marks
        return self._offered

    def toggle_link(self) -> None:
        """Move both boards together, or each alone."""
        self.linked = not self.linked
        self._write_headings()

    def toggle_loupe(self) -> None:
        """The loupe at the mark being placed, on or off."""
        for board in self.boards:
            board.loupe_on = not board.loupe_on
            board.update()

    def active_board(self) -> PictureBoard:
        """The board that the prompt is about."""
        return self.boards[BOARDS.index(self.study.board)]

    # Prompt, tape, headings

    def prompt(self) -> Prompt:
        """What to do next."""
        if self.trouble:
            return Prompt(self.trouble, "", (), trouble=True)
        special = special_prompt(
            self.study, self.boards, self.told, "corrected" if self.preview.on else self.ghost.way
        )
        if self.middle.guessing:
            return GUESSING
        if self.resting:
            return RESTING
        return special or usual_prompt(self.study)

    def segments(self) -> tuple[Segment, ...]:
        """The passes for the tape."""
        return tape_of(self.study.progress())

    def _write_headings(self) -> None:
        link = "moving together" if self.linked else ""
        menus = [link or self.work.menu(board) for board in self.boards]
        write_headings(self.study, self._headings, menus, guessing=self.middle.guessing)

    def _on_change(self, change: Change) -> None:
        if change is not Change.POINTED:
            self.trouble = self.told = ""
            self._write_headings()
            self.tape_changed.emit()
        if change is Change.PICTURE:
            self.work.remake_looks()
        if change is Change.STUDY:
            self.work.open_pictures()
            for board in self.boards:
                board.relay()
        if change is Change.PASS:
            self.middle.guessing = False
            self._show_pass()
        if change in {Change.PASS, Change.STUDY, Change.PICTURE}:
            self.align()
        if change is Change.STEP and self._guess_now():
            self.toggle_guess()
        if change is Change.STEP and self.isVisible() and self.study.selected is None:
            board = self.active_board()
            if not any(b.hasFocus() and b.moving_mark for b in self.boards):
                board.setFocus(Qt.FocusReason.OtherFocusReason)
        self.prompt_changed.emit()

    def _on_trouble(self, message: str) -> None:
        self.trouble = message
        self.prompt_changed.emit()

    # Keys (those of the board itself are in `PictureBoard`)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        act = act_of(event)
        if act is None:
            event.ignore()
        else:
            act(self)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab asks for the other board; leaving the bench is Alt and a number, or the pointer."""
        if self.study.step is None:
            board = self.drawing if self.reference.hasFocus() else self.reference
            board.setFocus()
        else:
            self.study.other_board()
        return True
