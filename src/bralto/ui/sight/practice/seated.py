"""The side of the room where the sitter of practice is: who it is, and how far away."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from bralto.core.sightings.standing_off import head_px
from bralto.core.study.two_boards import Board
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.settings import Settings
from bralto.ui.sight.practice.sitter import Sitter
from bralto.ui.sight.practice.sitter_distance import SitterDistance
from bralto.ui.sight.true_size import px_per_mm
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.heading import Heading

__all__ = ["Seated"]


class Seated(QWidget):
    """The sitter stands as far away as was chosen, which the heading says."""

    card_wanted = pyqtSignal()
    """The learner wants to check how large a millimetre is on this screen."""

    def __init__(
        self, study: OpenStudy, settings: Settings, tokens: Tokens, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._settings = settings
        self.heading = Heading(tokens, self)
        picture, view = study.picture(Board.REFERENCE), study.sighted.view
        self.sitter = Sitter(study.media_path(Board.REFERENCE), picture, tokens, self)
        head = head_px(view, picture)
        self._distance = (
            None if head is None else SitterDistance(self.sitter, view.size, head, settings)
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.heading)
        column.addWidget(self.sitter, 1)
        self.sitter.resized.connect(self.stand_off)
        self.stand_off()

    def stand_off(self) -> None:
        """Show the sitter as far away as was chosen, and say how far that is."""
        if self._distance is None:
            self.heading.say("The sitter", "for practice", "")
            return
        px = px_per_mm(self._settings, self)
        self._distance.show(px)
        choice = self._distance.choice(px, self.card_wanted.emit, self.stand_off)
        self.heading.say("The sitter", self._distance.eye_said(), choice)
