"""How dark a tone must be to count as shadow: a slider for either picture."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QSignalBlocker, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QSlider, QWidget

from bralto.core.study.two_boards import BOARDS, Board
from bralto.ui.bench.passes.light_rows import opens
from bralto.ui.document.open_study import OpenStudy

__all__ = ["LevelSliders"]

_WORDS = {Board.REFERENCE: "shadow, reference", Board.DRAWING: "shadow, drawing"}
_LOW, _HIGH = 2, 98  # % of white
_AFTER_MS = 250
"""After the last key: each look is a step of undo."""


class LevelSliders(QWidget):
    """Moved to the right, more counts as shadow; `wanted` says of which board, and below which
    tone (0 to 1)."""

    wanted = pyqtSignal(object, float)

    def __init__(self, study: OpenStudy, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._study = study
        self.sliders: dict[str, QSlider] = {}
        self._waits: dict[str, QTimer] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(6, 2, 10, 6)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(1, 1)
        for row, board in enumerate(BOARDS):
            slider = QSlider(Qt.Orientation.Horizontal, self)
            slider.setRange(_LOW, _HIGH)
            slider.setAccessibleName(f"How dark counts as {_WORDS[board]}")
            slider.setToolTip("to the right, more of it counts as shadow")
            wait = QTimer(self)
            wait.setSingleShot(True)
            wait.setInterval(_AFTER_MS)
            wait.timeout.connect(partial(self._want, board))
            slider.valueChanged.connect(partial(self._moved, board))
            slider.sliderReleased.connect(partial(self._want, board))
            self.sliders[board], self._waits[board] = slider, wait
            grid.addWidget(QLabel(_WORDS[board], self), row, 0)
            grid.addWidget(slider, row, 1)

    def show_levels(self) -> None:
        """Stand where shadows were looked for last."""
        study = self._study
        self.setVisible(bool(study.session.tones) and not opens(study))
        for board, slider in self.sliders.items():
            tone = study.session.tones.get(board)
            slider.setEnabled(tone is not None)
            if tone is not None and not slider.isSliderDown():
                with QSignalBlocker(slider):
                    slider.setValue(round(100.0 * tone[0]))

    def release(self) -> None:
        """Begin nothing more."""
        for wait in self._waits.values():
            wait.stop()

    def _moved(self, board: Board) -> None:
        if not self.sliders[board].isSliderDown():
            self._waits[board].start()

    def _want(self, board: Board) -> None:
        self._waits[board].stop()
        tone, level = self._study.session.tones.get(board), self.sliders[board].value()
        if tone is not None and level != round(100.0 * tone[0]):
            self.wanted.emit(board, level / 100.0)
