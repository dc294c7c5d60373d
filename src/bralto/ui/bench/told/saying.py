"""What the bench says in the prompt line besides asking for the next mark: what was done, what went
wrong, that it is time to step back. It stands until the learner goes on."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.ui.bench.told.special_prompts import resting_prompt
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt

__all__ = ["Saying"]


class Saying(QObject):
    """The words of one bench."""

    changed = pyqtSignal()
    rested = pyqtSignal()
    """The learner has stepped back."""

    def __init__(self, study: OpenStudy, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._study = study
        self.trouble = self.told = ""
        self.undoes = self.resting = False
        self._rests = 0
        study.trouble.connect(self.warn)
        study.told.connect(self.say)

    def release(self) -> None:
        """Let go of the study."""
        self._study.trouble.disconnect(self.warn)
        self._study.told.disconnect(self.say)

    def tell(self, words: str) -> None:
        """Say what was done, which can be undone."""
        self.told, self.undoes = words, True
        self.changed.emit()

    def say(self, words: str) -> None:
        """Say something that cannot be undone."""
        self.told, self.undoes = words, False
        self.changed.emit()

    def warn(self, message: str) -> None:
        """Say what went wrong, before all else."""
        self.trouble = message
        self.changed.emit()

    def rest(self) -> None:
        """Time to step back: said until something is done."""
        self.resting = True
        self._rests += 1
        self.changed.emit()

    def has_rested(self) -> None:
        """Something was done that one steps back for."""
        if self.resting:
            self.resting = False
            self.rested.emit()
            self.changed.emit()

    def go_on(self) -> None:
        """The learner goes on: nothing of it stands any more. The clock in the strip keeps saying
        that it is time to rest."""
        self.trouble = self.told = ""
        self.resting = False

    @property
    def in_trouble(self) -> Prompt | None:
        """What went wrong, as a prompt."""
        return Prompt(self.trouble, "", (), trouble=True) if self.trouble else None

    @property
    def done(self) -> Prompt | None:
        """What was done, as a prompt."""
        undo = (("Ctrl+Z", "undo"),) if self.undoes else ()
        return Prompt(self.told, "", undo) if self.told else None

    @property
    def rests(self) -> Prompt | None:
        """Time to step back, as a prompt."""
        return resting_prompt(self._rests) if self.resting else None
