"""How long was worked in each pass."""

from __future__ import annotations

from bralto.ui.document.worked_on import WorkedOn

__all__ = ["WorkedTime"]


class WorkedTime:
    """A part of `OpenStudy`: time is kept when a pass is left, and when the study is."""

    def __init__(self, study: WorkedOn) -> None:
        self._study = study
        self._spent = 0.0

    def spend(self, seconds: float) -> None:
        """Time that was worked in the pass that is shown."""
        self._spent += seconds

    def keep(self) -> None:
        """Write down the time of the pass that is shown."""
        study = self._study
        spent, self._spent = self._spent, 0.0
        if spent and not study.head.note(study.notes.spend(study.now.session.current_pass, spent)):
            self._spent = spent  # the next try may be kept

    def keep_of_pass(self) -> None:
        """Write it down where another pass is shown by now."""
        if self._study.session.current_pass != self._study.now.session.current_pass:
            self.keep()
