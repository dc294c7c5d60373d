"""What the learner's settings say of a study on the bench, and what of it they keep."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from bralto.core.mannequin.known import is_quick
from bralto.core.session.tapes import TapeOrder
from bralto.core.views.pass_keys import PassKey
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment
from bralto.ui.settings import Settings

__all__ = ["BySettings"]


class BySettings(QObject):
    """Of one study on the bench; deaf to what is set once that is gone."""

    def __init__(self, study: OpenStudy, settings: Settings, parent: QObject) -> None:
        super().__init__(parent)
        self._study, self._settings = study, settings

    def begin(self) -> None:
        """As a study begins that is put on the bench."""
        self.order_corrections(self._settings.greatest_first)
        self.order_marks(self._settings.head_order)
        if is_quick(self._study.study):  # there was time for one stroke, and for no measure
            self._study.apply(prompting.lay_tape, TapeOrder.ACTION)
            self._study.apply(prompting.enter_pass, PassKey.ACTION)
        else:
            self.begin_figures()

    def order_corrections(self, greatest_first: bool) -> None:
        """List them by what they take away, or in the order of work."""
        self._study.apply(pointing.greatest_first, greatest_first)

    def order_marks(self, order: str) -> None:
        """Ask for the short set in another of the view's orders."""
        self._study.apply(prompting.begin_with, order)

    def begin_figures(self) -> None:
        """What a figure begins with is another: so does this one, if it is one."""
        self._study.apply(prompting.lay_tape, self._settings.tape(self._study.view.key))

    def keep_tape(self, before: Moment, after: Moment) -> None:
        """A tape that was laid otherwise on the bench is how the next study begins."""
        tape, key = after.session.tape, after.ground.view.key
        if tape != before.session.tape and tape != self._settings.tape(key):
            self._settings.set_tape(key, tape)
