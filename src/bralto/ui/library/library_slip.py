"""Where the library lies and how large it is, its backups, and a look through all of it."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.words.phrases import how_many, sentence
from bralto.store.care.backups import Backup, backups, keep_backup
from bralto.store.library import Library
from bralto.ui.room import fit_slip
from bralto.ui.running.tasks import Tasks

__all__ = ["LibrarySlip"]

_KINDS = {
    "daily": "of the day",
    "weekly": "of the week",
    "before": "before an update of Bralto",
    "asked": "asked for",
    "replaced": "what a restored one replaced",
}


class LibrarySlip(QDialog):
    """Emits `reopen` once a backup was put back: the window opens the library anew."""

    reopen = pyqtSignal(Path)

    def __init__(self, library: Library, tasks: Tasks, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Library and backups")
        self._library, self._tasks = library, tasks
        title = QLabel("Library and backups", self)
        title.setObjectName("panel")
        where = QLabel(f"It lies in {library.root}, and on this machine only.", self)
        where.setWordWrap(True)
        where.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.status = QLabel("", self)
        self.status.setObjectName("note")
        self.status.setWordWrap(True)
        self.list = QListWidget(self)
        self.list.setAccessibleName("Backups, newest first")
        self.list.setMinimumSize(520, 190)
        self.list.itemSelectionChanged.connect(self._on_select)
        self.look = QPushButton("Look through it", self)
        self.look.setToolTip("Reads every page, every study and every picture")
        self.look.clicked.connect(self._look_through)
        self.make = QPushButton("Make a backup now", self)
        self.make.clicked.connect(self._make)
        self.put_back = QPushButton("Put this one back …", self)
        self.put_back.clicked.connect(self._ask_to_restore)
        self.done_ = QPushButton("Done", self)
        self.done_.setDefault(True)
        self.done_.clicked.connect(self.accept)
        row = QHBoxLayout()
        for part in (self.look, self.make, self.put_back):
            row.addWidget(part)
        row.addStretch(1)
        row.addWidget(self.done_)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(12)
        column.addWidget(title)
        column.addWidget(where)
        column.addWidget(self.list, 1)
        column.addWidget(self.status)
        column.addLayout(row)
        self._sure: Backup | None = None
        self._show()
        fit_slip(self)

    def _show(self) -> None:
        self.list.clear()
        found = backups(self._library.root)
        for one in found:
            item = QListWidgetItem(f"{one.words}, {_KINDS[one.kind]}, {one.size / 1e6:.1f} MB")
            item.setData(Qt.ItemDataRole.UserRole, one)
            self.list.addItem(item)
        total = sum(one.size for one in found) / 1e6
        there = f"{how_many(len(found), 'backup')} of the studies, {total:.1f} MB in all."
        self.status.setText(
            f"{there if found else 'No backup of the studies yet; the first makes itself.'} "
            "Pictures are not among them: they are never changed, only added. One a day is kept "
            "for a week, one a week for four."
        )
        self._on_select()

    def _on_select(self) -> None:
        self._sure = None
        self.put_back.setText("Put this one back …")
        self.put_back.setEnabled(bool(self.list.selectedItems()))

    def _run(self, busy: str, work: object, done: object) -> None:
        self.status.setText(busy)
        self._tasks.run(work, done, self._refuse)  # type: ignore[arg-type]

    def _refuse(self, message: str) -> None:
        self._show()
        self.status.setText(sentence(message))

    def _make(self) -> None:
        from datetime import UTC, datetime

        root = self._library.root
        self._run(
            "Making a backup …",
            partial(keep_backup, root, datetime.now(UTC), asked=True),
            self._on_made,
        )

    def _on_made(self, _: object) -> None:
        self._show()

    def _look_through(self) -> None:
        from bralto.store.checking import check

        self._run("Looking through all of it …", partial(check, self._library), self._on_checked)

    def _on_checked(self, faults: list[str]) -> None:
        if not faults:
            self.status.setText("Every page, every study and every picture is sound.")
            return
        more = f" (and {len(faults) - 4} more)" if len(faults) > 4 else ""
        self.status.setText("\n".join(sentence(one) for one in faults[:4]) + more)

    def _ask_to_restore(self) -> None:
        """A second press is asked for: the studies of after the backup leave the shelf."""
        (item,) = self.list.selectedItems()
        chosen: Backup = item.data(Qt.ItemDataRole.UserRole)
        if self._sure != chosen:
            self._sure = chosen
            self.put_back.setText("Put it back now")
            self.status.setText(
                f"All studies will be as they were on {chosen.words}. What is there now is kept "
                "as a backup of its own. Bralto opens anew then."
            )
            return
        try:
            self._library.restore(chosen)
        except UserError as error:
            self._refuse(str(error))
            return
        self.accept()
        self.reopen.emit(self._library.root)
