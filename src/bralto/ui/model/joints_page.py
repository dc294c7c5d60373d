"""The page of the model's slip for its joints by exact values, and for the pose as a whole."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import QHBoxLayout, QSpinBox, QVBoxLayout, QWidget

from bralto.core.mannequin.body.joints import Joint, joints
from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.posing.poses import HARDEST
from bralto.core.words.phrases import plain
from bralto.ui.model.fields import Dials, plain_button
from bralto.ui.model.model_state import ModelState
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["JointsPage"]

_JOINTS = {
    "pelvis": "pelvis and stand", "waist": "waist", "chest": "chest", "neck": "neck",
    "head": "head", "clavicle": "collar bone", "shoulder": "shoulder", "elbow": "elbow",
    "wrist": "wrist", "fingers": "fingers", "hip": "hip", "knee": "knee", "ankle": "ankle",
    "toes": "toes",
}  # fmt: skip
_OF_GRIP = {"hand": "shoulder", "elbow": "shoulder", "knee": "hip", "foot": "hip"}


def joint_label(joint: Joint) -> str:
    """A joint in words; left and right are the model's own."""
    base, _, side = joint.key.rpartition("_")
    return f"{side.upper()} {_JOINTS[base]}" if base else _JOINTS[joint.key]


class JointsPage(QWidget):
    """One joint's turns by exact values, and what is done to the whole pose."""

    def __init__(self, state: ModelState, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._state = state
        self.joint = choice_box("Joint", self)
        self.turns = Dials(self)
        self._subject = ""
        self.hard = QSpinBox(self)
        self.hard.setRange(1, HARDEST)
        self.hard.setPrefix("difficulty ")
        self.hard.setAccessibleName("Difficulty of a pose by chance")
        self.hard.setValue(state.hard)
        chance = QHBoxLayout()
        dice = plain_button("By chance", "A balanced pose by chance", state.throw_dice, self)
        chance.addWidget(dice)
        chance.addWidget(self.hard)
        chance.addStretch(1)
        whole = QHBoxLayout()
        self.whole = (
            plain_button("Mirror", "Left and right exchanged", state.mirror, self),
            plain_button("Straighten", "Every joint straight", state.stand_still, self),
            dice,
        )
        for button in self.whole[:2]:
            whole.addWidget(button)
        whole.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.joint)
        column.addWidget(self.turns)
        column.addStretch(1)
        column.addLayout(whole)
        column.addLayout(chance)
        self.joint.currentIndexChanged.connect(lambda _: self._fill())
        self.hard.valueChanged.connect(self._set_hard)
        state.changed.connect(self.refresh)
        self.refresh()

    def _set_hard(self, value: int) -> None:
        self._state.hard = value

    def choose(self, grip: str) -> None:
        """The joint that what was taken hold of turns."""
        name, _, side = grip.rpartition("_")
        joint = f"{_OF_GRIP[name]}_{side}" if name in _OF_GRIP else grip
        self.joint.setCurrentIndex(max(0, self.joint.findData(joint)))

    def _offer(self) -> None:
        """The joints of what stands there; every subject turns with the stand."""
        self._subject = subject = self._state.setting.subject
        kept = self.joint.currentData()
        blocker = QSignalBlocker(self.joint)
        self.joint.clear()
        for one in sorted(joints(), key=lambda j: list(_JOINTS).index(j.key.split("_")[0])):
            taken = [turn for turn in one.turns if self._state.setting.takes(turn.key)]
            if taken:
                stand_alone = [turn.key for turn in taken] == [STAND]
                self.joint.addItem("stand" if stand_alone else joint_label(one), one.key)
        self.joint.setCurrentIndex(max(0, self.joint.findData(kept)))
        del blocker
        for button in self.whole:
            button.setEnabled(subject in {"figure", "head"})
        self._fill()

    def _fill(self) -> None:
        self.turns.clear()
        key = self.joint.currentData()
        joint = next(one for one in joints() if one.key == key)
        for turn in joint.turns:
            if not self._state.setting.takes(turn.key):
                continue
            act = partial(self._state.turn_joint, turn.key)
            tip = f"{plain(turn.low, 0)}° to {plain(turn.high, 0)}°; {turn.source}"
            self.turns.add(
                turn.key, turn.label, (turn.low, turn.high), "°", 1,
                taken=self._state.begin, moved=act, done=partial(self._done, turn.key), tip=tip,
            )  # fmt: skip
        self.refresh()

    def _done(self, key: str, value: float) -> None:
        self._state.turn_joint(key, value)
        if self._state.dragging:
            self._state.end(key)

    def refresh(self) -> None:
        """Show the joint as it is turned now."""
        if self._state.setting.subject != self._subject:
            self._offer()
        for key, dial in self.turns.dials.items():
            dial.show_value(self._state.setting.pose[key])
