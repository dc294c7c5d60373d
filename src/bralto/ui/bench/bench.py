"""The bench: two boards, the ladder between them, rails and fan below, what is off beside."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Protocol

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QApplication, QWidget

from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.bench_prompt import BenchPrompt
from bralto.ui.bench.bench_wants import BenchWants
from bralto.ui.bench.by_settings import BySettings
from bralto.ui.bench.eye_first import EyeFirst
from bralto.ui.bench.focus_round import FocusRound
from bralto.ui.bench.following import Following, Standing, follow
from bralto.ui.bench.laid.bench_layout import BenchLayout
from bralto.ui.bench.laid.board_alignment import BoardAlignment
from bralto.ui.bench.laid.gliding import Gliding
from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.scales.ladder import Ladder
from bralto.ui.bench.scales.rail import Rail
from bralto.ui.bench.titles import Titles
from bralto.ui.bench.told.correction_list import Moves
from bralto.ui.bench.told.doubt_slips import Doubts
from bralto.ui.bench.told.find_card import FindCard
from bralto.ui.bench.told.headings import tape_of
from bralto.ui.bench.told.off_list import OffList
from bralto.ui.bench.told.saying import Saying
from bralto.ui.bench.told.screen_reader import speak
from bralto.ui.bench.work.asked_slips import AskedSlips
from bralto.ui.bench.work.corner_work import CornerWork
from bralto.ui.bench.work.curve_work import CurveWork
from bralto.ui.bench.work.doubt_work import DoubtWork
from bralto.ui.bench.work.light_work import LightWork
from bralto.ui.bench.work.mark_work import MarkWork
from bralto.ui.bench.work.order_work import OrderWork
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.bench.work.sighting import Sighting
from bralto.ui.boards.drawing_over import DrawingOver
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.preview import Preview
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import prompting
from bralto.ui.session.moment import Moment
from bralto.ui.settings import Settings
from bralto.ui.sight.sight_room import SightRoom
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.tape import Segment

__all__ = ["Bench"]

_BY_KEY = Qt.FocusReason.OtherFocusReason


class Released(Protocol):
    """What lets go of the study before the bench is thrown away."""

    def release(self) -> None:
        """Let go of it."""


class Bench(QWidget):
    """One study on the bench; a new one is made for each study that is opened."""

    prompt_changed = pyqtSignal()
    tape_changed = pyqtSignal()

    def __init__(
        self,
        study: OpenStudy,
        tasks: Tasks,
        settings: Settings,
        tokens: Tokens,
        act_of: Callable[[QKeyEvent], Callable[[Bench], None] | None],
        parent: QWidget | None = None,
    ) -> None:
        """``act_of``: what a key asks for (`keymap`), or None."""
        super().__init__(parent)
        self.setObjectName("ground")
        self.study: OpenStudy = study
        self._act_of = act_of
        self.wants: BenchWants = BenchWants(self)
        self.reference = PictureBoard(study, Board.REFERENCE, tokens, self)
        self.drawing = PictureBoard(study, Board.DRAWING, tokens, self)
        self.ladder = Ladder(study, (self.reference, self.drawing), tokens, self)
        self.rails = (
            Rail(study, self.reference, tokens, self),
            Rail(study, self.drawing, tokens, self),
        )
        self.doubts: Doubts = Doubts(study, self)
        self.doubt_work: DoubtWork = DoubtWork(study, self.doubts, self.wants, self)
        self.saying: Saying = Saying(study, self)
        self.saying.changed.connect(self.prompt_changed)
        self.moves = Moves(study, tokens, self)
        self.by_settings: BySettings = BySettings(study, settings, self)
        self.by_settings.begin()
        self.marks: MarkWork = MarkWork(study, settings, self)
        self.marks.told.connect(self.saying.tell)
        self.off = OffList(study, tokens, self)
        self.work: PictureWork = PictureWork(study, self.boards, tasks, self.wants, self)
        self.sighting: Sighting = Sighting(self.boards, self)
        self.work.sighted.connect(self.sighting.hold_out)
        self.sighting.steps_wanted.connect(partial(self.work.take_tool, name="steps"))
        self.drawing_over: DrawingOver = DrawingOver(self.reference, self.drawing)
        self.reference.over = self.drawing_over.paint
        self.drawing_over.changed.connect(self.prompt_changed)
        self.preview: Preview = Preview(self.drawing, tasks)
        self.preview.changed.connect(self.prompt_changed)
        self.preview.trouble.connect(self.saying.warn)
        self.curves: CurveWork = CurveWork(self.work, self)
        self.light: LightWork = LightWork(self.work, tasks, self)
        self.order: OrderWork = OrderWork(study, tasks, self)
        self.corners: CornerWork = CornerWork(study, tasks, self)
        self.column: MiddleColumn = MiddleColumn(
            study, self.work, self.curves, self.light, settings, tokens, self
        )
        self.find_card: FindCard = FindCard(study, self.boards, self.off, tokens, self)
        self.titles: Titles = Titles(self.work, tokens, self)
        for edge in self.titles.edges:
            edge.wanted.connect(lambda: study.apply(prompting.toggle_boards))
        self.layout_: BenchLayout = BenchLayout(
            self,
            self.titles.headings,
            (self.reference, self.ladder, self.drawing),
            self.rails,
            self.column,
            (self.doubts, self.moves, self.off),
            self.titles.edges,
            narrow_ladder=bool(study.view.axis),
        )
        self.room: SightRoom | None = None
        if study.study.sightings is not None:
            self.room = SightRoom(study, tasks, settings, tokens, self)
            self.room.sitter_wanted.connect(self.wants.sitter)
            self.layout_.add_room(self.room)
        self.alignment: BoardAlignment = BoardAlignment(self.boards, self.ladder)
        self.gliding: Gliding = Gliding(self.boards, settings, self)
        self.eye: EyeFirst = EyeFirst(study, settings, self.column, self)
        self.eye.asked.connect(self._on_eye_asked)
        self._prompt = BenchPrompt(
            study, self.boards, self.column, self.saying, self.doubt_work, self.drawing_over,
            self.preview,
        )  # fmt: skip
        lists = (self.moves.list, self.off.list)
        self.focus_round: FocusRound = FocusRound(study, self.boards, self.column, lists)
        self.slips: AskedSlips = AskedSlips(study, self)
        study.changed.connect(self._on_change)
        work = self.work
        work.told.connect(self.saying.tell)
        work.trouble.connect(self.saying.warn)
        self.doubt_work.told.connect(self.saying.tell)
        work.looked.connect(self.write_headings)
        work.taken.connect(self.prompt_changed)
        work.straightened.connect(self.align)
        work.own_point_wanted.connect(self.marks.name_point)
        work.open_pictures()
        self.write_headings()
        self.column.log_wanted.connect(self.slips.write_log)
        self.column.push_wanted.connect(self.slips.push)
        speak(study, self.boards, self.rails, self.ladder)
        self._stood = self._stands
        self.show_pass()

    def enter_pass(self, key: str) -> None:
        """Show a pass, as the tape asks for it."""
        self.study.apply(prompting.enter_pass, key)

    def release(self) -> None:
        """Let go of the study, widget by widget, before the bench is thrown away."""
        self.study.changed.disconnect(self._on_change)
        self.gliding.stop()
        parts: tuple[Released | None, ...] = (
            self.saying, self.marks, self.work, self.light, self.order, self.corners, self.preview,
            self.drawing_over, self.room, *self.boards, self.ladder, *self.rails, self.column,
            self.moves, self.off, self.find_card, self.doubts,
        )  # fmt: skip
        for part in parts:
            if part is not None:
                part.release()

    @property
    def boards(self) -> tuple[PictureBoard, PictureBoard]:
        """Reference and drawing."""
        return self.reference, self.drawing

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        assert event is not None
        self.layout_.arrange(event.size())
        if self.room is not None:
            self.room.setGeometry(self.rect())
        self.alignment.keep_aligned()
        if self.boards_first:
            self.gliding.go(at_once=True)
        self.find_card.lie()

    def show_pass(self) -> None:
        """Each pass has its own instruments between the boards and on the right."""
        study = self.study
        sole, first = study.now.ground.sole, tuple[Board, ...]()
        if self.boards_first:
            first = BOARDS if sole is None else (sole,)
        self.layout_.show_pass(study.current_pass, self.column, boards_first=first, lies=study.lies)
        for board in self.boards:
            board.plain = self.column.eye_first is not None
            board.overlay = page_of(self.study.current_pass).overlay
            board.overview = self.boards_first
        if self.study.current_pass == PassKey.VERDICT:
            self.order.look()

    @property
    def boards_first(self) -> bool:
        """Whether ladder and list are drawn back."""
        page = page_of(self.study.current_pass)
        return (
            self.study.session.boards_first
            and page.prompt is None
            and not page.paper
            and not page.room
            and self.column.eye_first is None
        )

    def align(self) -> None:
        """Both pictures at one height, see `BoardAlignment.align`."""
        self.gliding.forget()
        self.alignment.align()

    # What keys ask for (see also `looking`)

    def hovered_board(self) -> PictureBoard:
        """The board under the pointer, or else the one that the prompt is about."""
        return next((b for b in self.boards if b.hover is not None), self.active_board())

    def _on_eye_asked(self) -> None:
        self.show_pass()
        self.align()
        self.write_headings()
        self.prompt_changed.emit()
        asks = self.column.eye_first
        if asks is None:
            self.active_board().setFocus()
        else:
            asks.take_keys()

    @property
    def _in_room(self) -> bool:
        """Whether a pass is shown that has the whole bench to itself."""
        return self.room is not None and self.room.isVisibleTo(self)

    def take_keys(self) -> None:
        """The keys go where the pass is worked on."""
        if self.room is not None and self._in_room:
            self.room.board.setFocus()
        else:
            self.active_board().setFocus()

    def active_board(self) -> PictureBoard:
        """The board that the prompt is about."""
        return self.focus_round.active

    # Prompt, tape, headings

    def prompt(self) -> Prompt:
        """What to do next."""
        return self._prompt.now(in_room=self._in_room)

    def segments(self) -> tuple[Segment, ...]:
        """The passes for the tape."""
        return tape_of(self.study.now.progress(), [state.name for state in self.study.study.states])

    def write_headings(self) -> None:
        """What stands over the boards."""
        asks = self.column.eye_first
        self.titles.write(linked=self.alignment.linked, eye_first=asks.title if asks else "")

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.dragging:
            return  # titles, tape and prompt follow once the mark is let go
        gone_on = not after.pointing_only(before)
        if gone_on:
            if not after.listed_only(before):
                self.saying.go_on()
            if not page_of(after.session.current_pass).room:  # which covers them
                self.write_headings()
            self.tape_changed.emit()
        speak(self.study, self.boards, self.rails, self.ladder, figures=gone_on)
        self.work.follow(before, after)
        self.by_settings.keep_tape(before, after)
        if after.session.current_pass != before.session.current_pass:
            self.column.ask_eye(None)
        following = self._follow(before, after)
        self.eye.follow(gone_on=gone_on and not self._in_room, boards_first=self.boards_first)
        at_work = self.isVisible() and not self._in_room and self.column.eye_first is None
        in_hand = any(board.hasFocus() and board.moving_mark for board in self.boards)
        if following.takes_keys and at_work and not in_hand:
            self.active_board().setFocus(_BY_KEY)
        canon = after.session.canon
        if canon is not None and canon is not before.session.canon:
            self.saying.say(f"{canon.title}: {canon.note}.")
        self.prompt_changed.emit()

    def _follow(self, before: Moment, after: Moment) -> Following:
        """Arrange the bench and fit its pictures, as a change wants it."""
        stood, self._stood = self._stood, self._stands
        following = follow(before, after, stood, self._stood)
        if following.drawn_back and self.isAncestorOf(QApplication.focusWidget()):
            self.active_board().setFocus(_BY_KEY)  # what is hidden with the keys hands them on
        if following.arranged:
            self.show_pass()
        if following.turned and self._in_room:
            self.take_keys()
        if following.fitted:
            self.align()
        if self._stood.boards_first:
            self.gliding.follow(before, after)
        if self.find_card.on and following.asks_another:
            self.find_card.lie()
        return following

    @property
    def _stands(self) -> Standing:
        return Standing(self.boards_first, self.study.lies)

    # Keys (those of the board itself are in `PictureBoard`)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        act = self._act_of(event)
        if act is None:
            event.ignore()
        else:
            act(self)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab asks for the other board; on a slip it leads from field to field.

        Alt and a number, or the pointer, leave the bench.
        """
        if self.focus_round.is_on_slip():
            return super().focusNextPrevChild(forward)
        self.focus_round.other_board()
        return True
