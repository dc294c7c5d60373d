"""Who draws: from one learner's library to another's, and one more learner."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.store.learners import COLOURS, Learner, add_learner, learners
from bralto.ui.room import fit_slip
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["LearnerSlip", "show_learners"]


def _bob(colour: str) -> QIcon:
    picture = QPixmap(32, 32)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colour))
    painter.drawEllipse(6, 6, 20, 20)
    painter.end()
    return QIcon(picture)


def show_learners(
    first: Path, root: Path, at: QPoint, go_to: Callable[[Path], None], parent: QWidget
) -> QMenu:
    """The menu of all learners; choosing one closes this library and opens theirs.

    Args:
        first: the first learner's library. root: the one that is open.
    """
    menu = QMenu(parent)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    for one in learners(first):
        action = menu.addAction(_bob(one.colour), one.name.replace("&", "&&"))
        assert action is not None
        action.setEnabled(one.root != root)
        action.triggered.connect(lambda _=False, one=one: go_to(one.root))
    if not menu.isEmpty():
        menu.addSeparator()
    more = menu.addAction("Another learner …")
    assert more is not None

    def ask() -> None:
        slip = LearnerSlip(first, parent)
        slip.accepted.connect(lambda: go_to(slip.made.root) if slip.made else None)
        slip.open()

    more.triggered.connect(ask)
    menu.popup(at)
    return menu


class LearnerSlip(QDialog):
    """A name and a colour. Accepted, ``made`` is the new learner."""

    def __init__(self, first: Path, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Another learner")
        self._first = first
        self.made: Learner | None = None
        heading = QLabel("Another learner", self)
        heading.setObjectName("panel")
        self.own = QLineEdit(self)
        self.own.setAccessibleName("Your own name")
        self.name = QLineEdit(self)
        self.name.setAccessibleName("Name of the other learner")
        for edit in (self.own, self.name):
            edit.setMaxLength(40)
        self.colour = choice_box("Colour", self)
        for name, colour in COLOURS.items():
            self.colour.addItem(_bob(colour), name, colour)
        note = QLabel(
            "Each learner has a library of their own: nothing of one is shown to another. Whoever "
            "uses this account of the machine can open the folders all the same.",
            self,
        )
        note.setObjectName("note")
        note.setWordWrap(True)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self.fault.hide()
        form = QFormLayout()
        if not learners(first):
            form.addRow("You are called", self.own)
        else:
            self.own.hide()
        form.addRow("The other", self.name)
        form.addRow("Colour", self.colour)
        self.begin = QPushButton("Begin", self)
        self.begin.setDefault(True)
        self.begin.clicked.connect(self._keep)
        leave = QPushButton("Not now", self)
        leave.clicked.connect(self.reject)
        row = QHBoxLayout()
        row.addWidget(leave)
        row.addStretch(1)
        row.addWidget(self.begin)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        column.addWidget(heading)
        column.addLayout(form)
        column.addWidget(note)
        column.addWidget(self.fault)
        column.addLayout(row)
        self.setMinimumWidth(420)
        fit_slip(self)

    def _keep(self) -> None:
        try:
            colour = str(self.colour.currentData())
            self.made = add_learner(self._first, self.own.text(), self.name.text(), colour)
        except UserError as error:
            self.fault.setText(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            self.fault.show()
            return
        self.accept()
