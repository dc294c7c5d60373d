"""What is done about marks besides setting them: again, the other side, not there, own points."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from bralto.core.marking.repeats import PooledSpread, together
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import prompting
from bralto.ui.settings import Settings

__all__ = ["MarkWork"]


class MarkWork(QObject):
    """Works on the study; what was done goes out as a signal. It keeps the learner's own hand."""

    told = pyqtSignal(str)

    def __init__(self, study: OpenStudy, settings: Settings, window: QWidget) -> None:
        super().__init__(window)
        self._study, self._settings, self._window = study, settings, window
        study.hand_found.connect(self._keep_hand)
        self._know_hand()

    def release(self) -> None:
        """Let go of the study."""
        self._study.hand_found.disconnect(self._keep_hand)

    def _know_hand(self) -> None:
        hand = self._settings.hand(self._study.view.key)
        known = {kind: spread for kind, (spread, _) in hand.items()}
        self._study.apply(prompting.know_hand, known)

    def _keep_hand(self, found: Mapping[str, PooledSpread]) -> None:
        """Marks were placed again, blind: from here on marks of this view are worth what that tells
        together with what was known."""
        view = self._study.view.key
        self._settings.set_hand(view, together(self._settings.hand(view), found))
        self._know_hand()

    @property
    def asks(self) -> bool:
        """Whether the prompt of this pass is about marks."""
        return page_of(self._study.current_pass).prompt is None

    def again(self) -> None:
        """Back to the mark that was set last; once all are set, to the one on which most hangs."""
        hanging = self._study.now.worth_again
        if self._study.step is None and hanging and self.asks:
            self._study.apply(prompting.ask, hanging[0].board, hanging[0].key)
        else:
            self._study.edits.back()

    def other_side(self) -> None:
        """The mark in hand is the other side's, or the other side's is asked for."""
        if not self._study.edits.other_of_two():
            self._study.apply(prompting.other_side)

    def not_there(self) -> None:
        """The mark that is asked for is not in the picture; only where the prompt asks for it."""
        step = self._study.step
        if step is None or not self.asks:
            return
        label = self._study.view.point_label(step.key)
        if self._study.edits.not_there():
            self.told.emit(f"The {label} is not in the picture.")

    def name_point(self) -> None:
        """Name a point of one's own: the one in hand or asked for, else a new one on the board
        that the prompt is about."""
        from bralto.ui.slips.name_slip import NameSlip

        study, step = self._study, self._study.step
        board = study.session.board
        keys = (study.session.selected, study.session.pointed, step.key if step else None)
        key = next((one for one in keys if one is not None and study.own.is_own(one)), None)
        slip = NameSlip(
            "A point of your own", "Name it so" if key else "Mark it",
            study.own.label(key) if key else "", self._window,
            about="The corner of a shadow, a knot in the drapery, the end of a staff.",
        )  # fmt: skip

        def name() -> None:
            if key is not None:
                study.own.rename(key, slip.name.text())
            else:
                study.own.add(board, name=slip.name.text())

        slip.accepted.connect(name)
        slip.open()
