"""Slips that the learner asks for on the bench: what is meant otherwise, and the log."""

from __future__ import annotations

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from bralto.core.study.two_boards import Board
from bralto.ui.document.open_study import OpenStudy

__all__ = ["AskedSlips"]


class AskedSlips(QObject):
    """Opens them over the bench, and keeps what was written on them."""

    def __init__(self, study: OpenStudy, bench: QWidget) -> None:
        super().__init__(bench)
        self._study, self._bench = study, bench

    def write_log(self) -> None:
        """What went well, what next: a slip to write it on."""
        from bralto.ui.slips.log_slip import LogSlip

        study = self._study
        slip = LogSlip(study.study.title or "Untitled study", study.notes, self._bench)
        slip.accepted.connect(lambda: study.head.note(slip.noted()))
        slip.open()

    def push(self) -> None:
        """What is meant otherwise than it is seen: a slip to choose it on."""
        from bralto.ui.bench.passes.push_slip import PushSlip

        study = self._study
        placed = study.picture(Board.REFERENCE).placed()
        keys = tuple(key for key in study.view.placing if key in placed)
        slip = PushSlip(study.view, keys, study.examination.pushes, self._bench)
        slip.accepted.connect(lambda: study.head.push(slip.name, slip.factor))
        slip.open()
