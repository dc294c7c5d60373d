"""Small slips of the shelf: a name, tags, and the last question before something goes for good."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.ui.room import fit_slip

__all__ = ["EraseSlip", "NameSlip", "TagSlip"]

_LONGEST_TITLE, _LONGEST_TAG = 300, 40
_MOST_SHOWN = 24


class _Slip(QDialog):
    """A title, what is asked, two buttons."""

    def __init__(self, title: str, accept: str, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(title)
        heading = QLabel(title, self)
        heading.setObjectName("panel")
        self.keep = QPushButton(accept, self)
        self.keep.setDefault(True)
        self.keep.clicked.connect(self.accept)
        self.leave = QPushButton("Not now", self)
        self.leave.clicked.connect(self.reject)
        self.body = QVBoxLayout()
        self.body.setSpacing(10)
        row = QHBoxLayout()
        row.addWidget(self.leave)
        row.addStretch(1)
        row.addWidget(self.keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        column.addWidget(heading)
        column.addLayout(self.body)
        column.addLayout(row)
        self._fitted = False

    def showEvent(self, event: QShowEvent | None) -> None:
        if not self._fitted:
            self._fitted = True
            fit_slip(self)  # what is asked is there by now
        super().showEvent(event)


class NameSlip(_Slip):
    """Accepted, ``name`` has the new one."""

    def __init__(self, title: str, parent: QWidget | None = None) -> None:
        super().__init__("Rename the study", "Rename", parent)
        self.name = QLineEdit(title, self)
        self.name.setMaxLength(_LONGEST_TITLE)
        self.name.setAccessibleName("Name of the study")
        self.name.setMinimumWidth(380)
        self.name.selectAll()
        self.body.addWidget(self.name)


class TagSlip(_Slip):
    """Tags that are there are ticked; one that only some of the studies have is half ticked and
    stays as it is until it is pressed."""

    def __init__(
        self, tags: list[set[str]], known: list[str], parent: QWidget | None = None
    ) -> None:
        super().__init__("Tags", "Keep", parent)
        self.boxes: dict[str, QCheckBox] = {}
        self._tags = tags
        grid = QGridLayout()
        state = Qt.CheckState
        used = set().union(*tags)
        shown = sorted(used) + [name for name in known if name not in used]
        for number, name in enumerate(shown[: max(_MOST_SHOWN, len(used))]):
            box = QCheckBox(name.replace("&", "&&"), self)
            having = sum(name in one for one in tags)
            box.setTristate(0 < having < len(tags))
            half = state.PartiallyChecked if having else state.Unchecked
            box.setCheckState(state.Checked if having == len(tags) else half)
            self.boxes[name] = box
            grid.addWidget(box, number // 3, number % 3)
        self.new = QLineEdit(self)
        self.new.setPlaceholderText("new tags, with commas between them")
        self.new.setAccessibleName("New tags")
        self.new.setMinimumWidth(380)
        self.body.addLayout(grid)
        self.body.addWidget(self.new)
        self.new.setFocus()

    def changes(self) -> tuple[set[str], set[str]]:
        """Tags to add to all of the studies, and to take away from all."""
        state = Qt.CheckState
        words = (" ".join(one.split())[:_LONGEST_TAG] for one in self.new.text().split(","))
        add = {word for word in words if word.isprintable() and word}
        add |= {name for name, box in self.boxes.items() if box.checkState() == state.Checked}
        off = {name for name, box in self.boxes.items() if box.checkState() == state.Unchecked}
        return add, off - add


class EraseSlip(_Slip):
    """Says what goes before it goes."""

    def __init__(
        self,
        titles: list[str],
        states: int,
        pictures: int,
        size: int,
        parent: QWidget | None = None,
    ) -> None:
        """``pictures`` that no other study has, and their ``size`` in bytes."""
        super().__init__("Delete for good", "Delete for good", parent)
        self.keep.setDefault(False)
        self.leave.setDefault(True)
        one = len(titles) == 1
        what = f"“{titles[0]}” goes with its marks" if one else f"{len(titles)} studies go"
        words = QLabel(
            f"{what}, {_counted(states, 'state')} of {'its' if one else 'their'} drawing, and "
            f"{_counted(pictures, 'picture')} that no other study has ({size / 1e6:.1f} MB). "
            "This cannot be undone.\n"
            "Backups of the last weeks still know names and marks, but have no pictures.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(420)
        self.body.addWidget(words)


def _counted(number: int, what: str) -> str:
    return f"{number} {what}" if number == 1 else f"{number} {what}s"
