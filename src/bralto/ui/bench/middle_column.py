"""What stands between the boards in each pass: beside the ladder, or in its place."""

from __future__ import annotations

from functools import cached_property, partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from bralto.core.session.gate import next_answer
from bralto.core.study.two_boards import Board
from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.eye.guess_slip import GuessSlip
from bralto.ui.bench.eye.judging_slip import JudgingSlip
from bralto.ui.bench.passes.action_rows import CURVES, PUSH_NEW, PUSH_OFF, TAKE
from bralto.ui.bench.passes.fan import TiltFan
from bralto.ui.bench.passes.level_sliders import LevelSliders
from bralto.ui.bench.passes.likeness_rows import LEVEL, PUSH, REGION
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.passes.pass_rows import ANSWER, LINE, LOGGED, MEANT, NEW_SHAPE, SHAPE
from bralto.ui.bench.work.curve_work import CurveWork
from bralto.ui.bench.work.ground_work import GroundWork
from bralto.ui.bench.work.light_work import LightWork
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.plan.plan_board import PlanBoard
from bralto.ui.plan.plan_slip import PlanSlip
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.row_list import Row, Rows

__all__ = ["MiddleColumn"]

_INSET = 12
_FAN = 190


class MiddleColumn(QWidget):
    """Owns the slips; the bench lays out `below` (the ladder), `whole` (in its place) and `right`
    (in place of the drawing). Itself it is never shown. Slips that many studies never ask for are
    made when they are."""

    figures_wanted = pyqtSignal()
    log_wanted = pyqtSignal()
    push_wanted = pyqtSignal()

    def __init__(
        self,
        study: OpenStudy,
        work: PictureWork,
        curves: CurveWork,
        light: LightWork,
        settings: Settings,
        tokens: Tokens,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.hide()
        self.eye_first: GuessSlip | JudgingSlip | None = None
        """What asks the eye, in place of all figures."""
        self._study, self._work = study, work
        self._curves, self._light = curves, light
        self._settings, self._tokens = settings, tokens
        self._ground = GroundWork(work, self)
        self.fan = TiltFan(study, tokens)
        self.levels = LevelSliders(study)
        self.levels.wanted.connect(light.find_below)
        self.below = Rows(tokens, "Figures of this pass", parent, inset=_INSET)
        keys = [one.key for one in study.now.ground.passes]
        self._lists = {
            key: Rows(tokens, page_of(key).named) if page_of(key).named else self.below
            for key in keys
            if page_of(key).rows is not None
        }
        self.right = PlanBoard(study, tokens, parent)
        self.whole = QStackedWidget(parent)
        self._pages: dict[str, QWidget] = {}
        for key in keys:
            if not page_of(key).paper:
                self._pages[key] = self._page(key)
        for page in dict.fromkeys(self._pages.values()):
            if page is not self.below:
                self.whole.addWidget(page)
        self.whole.setContentsMargins(_INSET, 0, _INSET, 0)  # off the boards, as the ladder's names
        for rows in dict.fromkeys(self._lists.values()):
            rows.pointed.connect(partial(self._point, rows))
            rows.chosen.connect(self._choose)
        study.changed.connect(self._on_change)

    def _page(self, key: str) -> QWidget:
        """What stands in the ladder's place in a pass, or `below` where the ladder stands."""
        page = page_of(key)
        above: QWidget | None = None
        if page.fan:
            self.fan.setFixedHeight(_FAN)
            above = self.fan
        elif page.levels:
            above = self.levels
        if above is None:
            return self._lists.get(key, self.below)
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        column.addWidget(above)
        column.addWidget(self._lists[key], 1)
        return whole

    @cached_property
    def plan(self) -> PlanSlip:
        """How the sheet is planned."""
        slip = PlanSlip(self._study, self._tokens)
        self.whole.addWidget(slip)
        return slip

    @cached_property
    def guesses(self) -> GuessSlip:
        """Asks the eye about the reference."""
        slip = GuessSlip(self._study, self._settings, self._tokens)
        slip.done.connect(self.figures_wanted)
        self.whole.addWidget(slip)
        return slip

    @cached_property
    def judging(self) -> JudgingSlip:
        """Asks the eye about the drawing."""
        slip = JudgingSlip(self._study, self._settings)
        slip.done.connect(self.figures_wanted)
        self.whole.addWidget(slip)
        return slip

    def list_of(self, key: str) -> Rows:
        """The list of a pass."""
        return self._lists[key]

    def release(self) -> None:
        """Let go of the study."""
        self.ask_eye(None)
        self._study.changed.disconnect(self._on_change)
        for part in (self.fan, self.levels, self.right):
            part.release()
        if "plan" in vars(self):
            self.plan.release()

    def show_pass(self, key: str) -> tuple[bool, bool]:
        """Put up what a pass shows; gives whether the ladder stays, and whether the planned sheet
        lies in the drawing's place."""
        if self.eye_first is not None:
            self.whole.setCurrentWidget(self.eye_first)
            return False, False
        page = page_of(key)
        if not page.ladder and not page.room:
            self.whole.setCurrentWidget(self.plan if page.paper else self._pages[key])
        self._fill()
        return page.ladder, page.paper

    def first_field(self) -> QWidget | None:
        """Where the keys go in this pass, or None where there is nothing to choose."""
        key = self._study.current_pass
        if page_of(key).paper:
            return self.right
        rows = self._lists.get(key)
        return rows if rows is not None and rows.can_be_chosen else None

    def ask_eye(self, slip: GuessSlip | JudgingSlip | None) -> None:
        """Ask the eye first, in place of all figures; or, with None, show them again."""
        left = self.eye_first
        self.eye_first = slip if slip is not None and slip.begin() else None
        if isinstance(left, JudgingSlip) and self.eye_first is not left:
            left.keep()

    def _fill(self) -> None:
        page = page_of(self._study.current_pass)
        if page.rows is None:
            return
        if page.levels:
            self.levels.show_levels()
        made, columns = page.rows(self._study), page.columns
        if self._study.imagined:
            stands = "sighted" if self._study.from_life else "usual"
            columns = tuple(stands if one == "seen" else one for one in columns)
        headed = bool(made) and made[0].title and bool(made[0].right)
        self._lists[self._study.current_pass].say(made, () if headed else columns)

    def _on_change(self, before: Moment, after: Moment) -> None:
        was, now = before.session, after.session
        if now.pointed != was.pointed:
            for rows in self._lists.values():
                if rows.isVisible():
                    rows.light(now.pointed)
        if after.dragging:
            return  # lists follow once the mark is let go; ladder and rails follow the hand
        found = after.examination is not before.examination or after.listed is not before.listed
        filled = (
            found
            or after.noted(before)
            or now.tones != was.tones
            or now.insists != was.insists
            or now.straight != was.straight
            or now.values != was.values
        )
        if (
            filled
            or now.boxed != was.boxed
            or now.regions != was.regions
            or now.skipped != was.skipped
        ):
            self._fill()

    def _point(self, rows: Rows, row: Row | None) -> None:
        if rows is self._lists.get(PassKey.ACTION):
            about = row is not None and row.key.startswith(CURVES)
            names = row.key.removeprefix(CURVES).split("|") if row is not None and about else []
            self._study.apply(pointing.choose_shape, names[0] if len(names) == 1 else None)
        elif rows is self._lists.get(PassKey.SHAPES):
            name = row.key.removeprefix(SHAPE) if row and row.key.startswith(SHAPE) else None
            self._study.apply(pointing.choose_shape, name)
        elif rows is not self._lists.get(PassKey.VERDICT):
            self._study.apply(pointing.point_at, row.points[-1] if row and row.points else None)

    def _choose(self, key: str) -> None:
        study = self._study
        if self._light.chose(key) or self._ground.chose(key):
            return
        if key.startswith(LINE):
            study.head.choose_line(tuple(key.removeprefix(LINE).split(",")))
        elif key.startswith(ANSWER):
            question = key.removeprefix(ANSWER)
            given = study.notes.answers.get(study.session.state_name, {}).get(question)
            answer = next_answer(given)
            study.head.note(study.notes.answer(study.session.state_name, question, answer))
        elif key == LOGGED:
            self.log_wanted.emit()
        elif key.startswith(MEANT):
            study.head.intend((key.removeprefix(MEANT),), None)
        elif key.startswith(REGION):
            study.apply(prompting.choose_region, key.removeprefix(REGION))
        elif key == PUSH:
            study.intentions.push_further()
        elif key.startswith(LEVEL):
            study.tied.level_with(key.removeprefix(LEVEL))
        elif key.startswith(CURVES):
            self._curves.begin(tuple(key.removeprefix(CURVES).split("|")))
        elif key == PUSH_NEW:
            self.push_wanted.emit()
        elif key.startswith(PUSH_OFF):
            study.head.push(key.removeprefix(PUSH_OFF), None)
        elif key == TAKE:
            self._curves.take_proposed()
        elif key.startswith(NEW_SHAPE):
            self.new_shape(key.removeprefix(NEW_SHAPE))
        elif key.startswith(SHAPE):
            self._work.begin_shape(key.removeprefix(SHAPE))

    def new_shape(self, name: str = "") -> None:
        """Begin a shape; without a name it gets the next number."""
        pictures = (self._study.picture(Board.REFERENCE), self._study.picture(Board.DRAWING))
        taken = {known for picture in pictures for known in picture.polygons}
        number = 1
        while not name or name in taken:
            name, number = f"shape {number}", number + 1
        self._work.begin_shape(name)
