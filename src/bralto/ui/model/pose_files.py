"""Poses in files: a pose or a series that is kept, and shown again."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from bralto.core.errors import UserError
from bralto.exchange.pose_file import read_settings, write_settings
from bralto.ui.model.model_state import ModelState
from bralto.ui.saving import file_to_save

__all__ = ["PoseFiles"]

_KINDS = "Poses (*.json)"


class PoseFiles(QObject):
    """Signals: ``said`` what is wrong with a file, ``told`` what was done."""

    said = pyqtSignal(str)
    told = pyqtSignal(str)

    def __init__(self, state: ModelState, over: QWidget) -> None:
        """``over``: what a file is asked for over."""
        super().__init__(over)
        self._state, self._over = state, over

    def open(self) -> None:
        """Ask for a pose file and show what is in it."""
        name, _ = QFileDialog.getOpenFileName(self._over, "A pose, or a series", "", _KINDS)
        if name:
            self.read(Path(name))

    def read(self, path: Path) -> None:
        """Show the poses of a file."""
        try:
            self._state.take_series(read_settings(path))
        except UserError as error:
            self.said.emit(str(error))

    def save(self) -> None:
        """Ask where, and write the series, or the pose where there is none."""
        path = file_to_save(self._over, "Keep the pose", "pose.json", _KINDS)
        if path is not None:
            self.write(path)

    def write(self, path: Path) -> None:
        """Write the series, or the pose where there is none."""
        try:
            write_settings(self._state.series or (self._state.setting,), path)
        except UserError as error:
            self.said.emit(str(error))
            return
        self.told.emit(f"{path.name} is written.")
