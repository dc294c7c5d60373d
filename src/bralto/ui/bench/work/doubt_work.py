"""What settles a doubt of the marks, and which one the prompt line asks about."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import REMEDIED
from bralto.ui.bench.bench_wants import BenchWants
from bralto.ui.bench.told.doubt_slips import Doubts
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import prompting

__all__ = ["DoubtWork"]


class DoubtWork(QObject):
    """Works on one study, beside the slips that show its doubts."""

    told = pyqtSignal(str)

    def __init__(
        self, study: OpenStudy, slips: Doubts, wants: BenchWants, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._study, self._slips, self._wants = study, slips, wants
        slips.wanted.connect(self.settle)

    @property
    def asked(self) -> Doubt | None:
        """What the prompt line asks where there is no room for slips: only what surely is wrong,
        and once no mark is asked for, so that `Enter` still goes on."""
        if not self._slips.folded or self._study.step is not None:
            return None
        found = self._study.now.advice.doubts
        return next((one for one in found if one.of_the_whole or one.remedy == "exchange"), None)

    def settle(self, doubt: Doubt) -> None:
        """Do what settles a doubt; or look at what it is about."""
        study = self._study
        if doubt.remedy == "mirror" and study.media_path(doubt.board) is not None:
            self._wants.mirrored.emit(doubt)
        elif doubt.remedy in REMEDIED:
            study.advice.search_now()  # the marks may be others than those that were doubted
            if doubt in study.now.advice.doubts and study.pictures.remedy(doubt):
                study.advice.search_now()
                self.told.emit(f"{doubt.button}: done.")
        elif doubt.remedy == "flatten":
            self._wants.sheet.emit(doubt.board)
        elif doubt.marks:
            study.apply(prompting.ask, doubt.board, doubt.marks[0])
        else:
            self._wants.state.emit()
