"""The studies of the shelf as Qt's list model: cards to show, files to drag out."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QAbstractListModel, QMimeData, QModelIndex, Qt, QUrl
from PyQt6.QtWidgets import QWidget

from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState

__all__ = ["Entries"]


class Entries(QAbstractListModel):
    """Watches `ShelfState`."""

    def __init__(
        self, state: ShelfState, bundles: Callable[[list[Entry]], list[str]], parent: QWidget
    ) -> None:
        """``bundles`` writes studies out to files of their own, for dragging, and names these."""
        super().__init__(parent)
        self._state, self._bundles = state, bundles
        self._shown = state.entries
        state.changed.connect(self._on_change)
        state.measured.connect(self._on_change)

    def _on_change(self) -> None:
        """What is selected and how far one has scrolled stay while the same studies are shown."""
        before, now = self._shown, self._state.entries
        if len(before) == len(now) and all(a.id == b.id for a, b in zip(before, now, strict=True)):
            self._shown = now
            if now:
                self.dataChanged.emit(self.index(0, 0), self.index(len(now) - 1, 0))
            return
        self.beginResetModel()
        self._shown = now
        self.endResetModel()

    def entry(self, index: QModelIndex) -> Entry:
        """The study of a row."""
        return self._shown[index.row()]

    def row_of(self, study_id: str) -> int:
        """Its row, or -1 where it is not shown."""
        return next((i for i, entry in enumerate(self._shown) if entry.id == study_id), -1)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own
        return 0 if parent.isValid() else len(self._shown)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        entry = self._shown[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return entry
        text = {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole}
        if role == Qt.ItemDataRole.ToolTipRole and entry.row.fault:
            return f"{entry.title}: {entry.why}"
        return entry.title if role in text else None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        flag = Qt.ItemFlag
        return flag.ItemIsEnabled | flag.ItemIsSelectable | flag.ItemIsDragEnabled

    def mimeData(self, indexes: list[QModelIndex]) -> QMimeData | None:  # type: ignore[override]
        files = self._bundles([self.entry(index) for index in indexes])
        if not files:
            return None
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(name) for name in files])
        return data
