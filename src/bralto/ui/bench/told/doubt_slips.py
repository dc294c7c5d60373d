"""What must be looked at before any correction: doubts on slips, each with a button."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFrame, QLabel, QPushButton, QVBoxLayout, QWidget

from bralto.core.doubts.doubt import Doubt
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session.moment import Moment

__all__ = ["Doubts"]

_GAP, _INSET = 6, 12
_MOST = 2
"""Slips at once: what is settled first often settles the rest."""


class Doubts(QWidget):
    """Hidden while the marks can be true."""

    wanted = pyqtSignal(object)

    def __init__(self, study: OpenStudy, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("Look at this first")
        self._study = study
        self._shown: tuple[Doubt, ...] = ()
        self.folded = False
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, _GAP)
        self._column.setSpacing(_GAP)
        self.hide()
        study.changed.connect(self._on_change)
        self._list()

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    @property
    def buttons(self) -> list[QPushButton]:
        """One a slip."""
        return self.findChildren(QPushButton)

    def arrange(self) -> None:
        """Shown where there is a doubt and room for words."""
        self.setVisible(bool(self._shown) and not self.folded)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.listed is not before.listed:
            self._list()

    def _list(self) -> None:
        found = self._study.now.advice.doubts[:_MOST]
        if found == self._shown:
            return
        self._shown = found
        while (item := self._column.takeAt(0)) is not None:
            old = item.widget()
            if old is not None:
                old.hide()
                old.deleteLater()
        for doubt in found:
            self._column.addWidget(self._slip(doubt))
        self.setAccessibleDescription("; ".join(one.words for one in found))
        self.arrange()

    def _slip(self, doubt: Doubt) -> QWidget:
        slip = QFrame(self)
        slip.setObjectName("doubt")
        words = QLabel(doubt.words, slip)
        words.setWordWrap(True)
        column = QVBoxLayout(slip)
        column.setContentsMargins(_INSET, 10, _INSET, _INSET)
        column.setSpacing(8)
        column.addWidget(words)
        button = QPushButton(doubt.button, slip)
        button.clicked.connect(lambda: self.wanted.emit(doubt))
        column.addWidget(button)
        return slip
