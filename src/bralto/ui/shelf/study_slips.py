"""Small slips of the shelf: tags, and the last question before something goes for good."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QWidget,
)

from bralto.core.words.phrases import how_many
from bralto.ui.slips.name_slip import AskSlip

__all__ = ["EraseSlip", "TagSlip"]

_LONGEST_TAG = 40
_MOST_SHOWN = 24


class TagSlip(AskSlip):
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


class EraseSlip(AskSlip):
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
            f"{what}, {how_many(states, 'state')} of {'its' if one else 'their'} drawing, and "
            f"{how_many(pictures, 'picture')} that no other study has ({size / 1e6:.1f} MB). "
            "This cannot be undone.\n"
            "Backups of the last weeks still know names and marks, but have no pictures.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(420)
        self.body.addWidget(words)
