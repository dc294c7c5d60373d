"""What stands on the model stand in the window: a series of settings, one of them held up."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build, build_named
from bralto.core.mannequin.body.pose import STAND, Pose, mirrored
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.poses import named_poses, pose_by_chance, pose_named
from bralto.core.mannequin.posing.reach import reached
from bralto.core.mannequin.posing.standing import stood
from bralto.core.mannequin.setting import Setting, default_setting

__all__ = ["ACTION_DRILL", "OWN", "ModelState"]

OWN = "Own pose"
"""Title of a pose once a joint of it was moved."""

ACTION_DRILL = ((4, 30.0), (3, 60.0), (2, 120.0))
"""How many quick poses, each for how many seconds (common practice, no source)."""

_SERIES_S = 120.0
"""How long a pose of a series is shown unless it is said otherwise, s."""


class ModelState(QObject):
    """Every change of the setting can be undone; what is dragged is one change.

    Signals: ``changed`` the setting, or what was typed is to be put back; ``edited`` just before,
    where it is another; ``listed`` the series; ``trouble`` one sentence.
    """

    changed = pyqtSignal()
    edited = pyqtSignal()
    listed = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.setting = default_setting()
        self.series: tuple[Setting, ...] = ()
        self.current: int | None = None
        self.hard = 2
        self._seed = 0
        self._before: Setting | None = None
        self.undo_stack = QUndoStack(self)

    # The setting

    def put(self, setting: Setting, what: str) -> None:
        """Show another setting; ``what`` was changed, in words."""
        try:
            setting = setting.checked()
        except UserError as error:
            self.trouble.emit(_sentence(error))
            self.changed.emit()  # what was typed is put back
            return
        before = self.setting
        if setting == before:
            return
        if self._before is not None:  # in the middle of a drag: kept once it is let go
            self._show(setting)
        else:
            self.undo_stack.push(_Edit(self, before, setting, what))

    def begin(self) -> None:
        """Something is dragged: until `end` nothing of it can be undone singly."""
        self._before = self._before or self.setting

    def end(self, what: str) -> None:
        """It is let go."""
        before, self._before = self._before, None
        if before is not None and before != self.setting:
            self.undo_stack.push(_Edit(self, before, self.setting, what))
        else:
            self.changed.emit()

    @property
    def pose_key(self) -> str:
        """Key of the named pose that stands there, or nothing."""
        if self.setting.subject != "figure":
            return ""
        title = self.setting.pose.title
        return next((k for k, one in named_poses().items() if one.title == title), "")

    @property
    def dragging(self) -> bool:
        """Whether something is being dragged."""
        return self._before is not None

    def show(self, setting: Setting) -> None:
        """For the undo stack: show a setting as it is."""
        self._show(setting)

    def _show(self, setting: Setting) -> None:
        self.setting = setting
        self.edited.emit()
        self.changed.emit()

    # What can be changed

    def choose_pose(self, key: str) -> None:
        """A pose from the shelf, fitted to the proportions in force."""
        fitted = pose_named(key).fitted(self.setting.build)
        start = default_setting()
        camera = self.setting.camera if self.setting.subject == "figure" else start.camera
        self.put(replace(self.setting, subject="figure", pose=fitted, camera=camera), "pose")

    def choose_subject(self, subject: str) -> None:
        """The figure, its head alone, or a solid; each with the camera that suits it."""
        if subject == self.setting.subject:
            return
        start = default_setting(subject)
        self.put(
            replace(self.setting, subject=subject, pose=start.pose, camera=start.camera), "subject"
        )

    def throw_dice(self) -> None:
        """A balanced pose by chance, of the difficulty in force."""
        self._seed += 1
        pose = pose_by_chance(self.setting.build, self.hard, self._seed)
        camera = self.setting.camera if self.setting.subject == "figure" else Camera()
        self.put(replace(self.setting, subject="figure", pose=pose, camera=camera), "chance")

    def throw_series(self, many: int, seconds: float) -> None:
        """So many poses by chance, of the difficulty in force, each shown as long."""
        self.take_series(self._by_chance(many, seconds))

    def throw_action_drill(self) -> None:
        """Quick poses by chance, of the difficulty in force, the shortest first: each is caught in
        one stroke."""
        drawn = (self._by_chance(many, seconds) for many, seconds in ACTION_DRILL)
        self.take_series(tuple(one for each in drawn for one in each))

    def _by_chance(self, many: int, seconds: float) -> tuple[Setting, ...]:
        poses = []
        for _ in range(many):
            self._seed += 1
            poses.append(pose_by_chance(self.setting.build, self.hard, self._seed))
        whole = replace(self.setting, subject="figure", camera=Camera(), seconds=seconds)
        return tuple(replace(whole, pose=pose) for pose in poses)

    def turn_joint(self, key: str, degrees: float) -> None:
        """One joint by its exact value."""
        title = self.setting.pose.title if key == STAND else OWN
        turns = {**self.setting.pose.turns, key: degrees}
        pose = replace(self.setting.pose, turns=turns, title=title)
        self.put(replace(self.setting, pose=pose), key)

    def turn_stand(self, by: float) -> None:
        """The turntable, by degrees."""
        turned = (self.setting.turn_deg + by + 180.0) % 360.0 - 180.0
        self.turn_joint(STAND, turned)

    def pull(self, grip: str, place: Floats) -> None:
        """A hand, foot, elbow, knee, the chest or the head towards a place (3,), world, heads."""
        setting = self.setting
        figure = bust(setting) if setting.subject == "head" else stood(setting.build, setting.pose)
        pose = reached(setting.build, setting.pose, grip, np.asarray(place), figure)
        self.put(replace(setting, pose=replace(pose, title=OWN)), grip)

    def mirror(self) -> None:
        """Left and right exchanged."""
        pose = replace(mirrored(self.setting.pose), title=OWN)
        self.put(replace(self.setting, pose=pose), "mirror")

    def set_build(self, build: Build) -> None:
        """Other proportions; the joints stay as they are turned."""
        self.put(replace(self.setting, build=build), "proportions")

    def choose_build(self, key: str) -> None:
        """Proportions by name."""
        self.set_build(build_named(key))

    def set_figure(self, name: str, value: float) -> None:
        """One figure of the proportions."""
        try:
            self.set_build(self.setting.build.with_figures(**{name: value}))
        except UserError as error:
            self.trouble.emit(_sentence(error))
            self.changed.emit()

    def show_head(self, name: str, on: bool) -> None:
        """The head alone with its ``hair``, or in flat ``planes``; or without."""
        self.put(replace(self.setting, **{name: on}), name)  # type: ignore[arg-type]

    def set_camera(self, camera: Camera) -> None:
        """Another place of the eye."""
        self.put(replace(self.setting, camera=camera), "camera")

    def set_look(self, look: Look) -> None:
        """Another light, or what is drawn besides."""
        self.put(replace(self.setting, look=look), "light")

    def stand_still(self) -> None:
        """Every joint straight, standing."""
        turn = {STAND: self.setting.turn_deg}
        self.put(replace(self.setting, pose=Pose(turn, OWN)), "straight")

    # The series

    def add_to_series(self) -> None:
        """Keep the setting at the end of the series."""
        seconds = self.series[-1].seconds if self.series else _SERIES_S
        self.series = (*self.series, replace(self.setting, seconds=seconds))
        self.current = len(self.series) - 1
        self.listed.emit()

    @property
    def held_up(self) -> int | None:
        """Which pose of the series stands there, unless something of it was changed since."""
        if self.current is None:
            return None
        same = replace(self.series[self.current], seconds=self.setting.seconds) == self.setting
        return self.current if same else None

    def take_series(self, settings: tuple[Setting, ...]) -> None:
        """Another series, its first pose held up; a single pose makes no series."""
        if not settings:
            return
        self.series = settings if len(settings) > 1 else ()
        self.current = 0 if self.series else None
        self.put(settings[0], "opened")
        self.listed.emit()

    def hold_up(self, number: int) -> None:
        """A pose of the series."""
        if 0 <= number < len(self.series):
            self.current = number
            self.put(self.series[number], "series")
            self.listed.emit()

    def set_seconds(self, seconds: float) -> None:
        """How long the pose that is held up is shown, s."""
        if self.current is None:
            return
        changed = list(self.series)
        changed[self.current] = replace(changed[self.current], seconds=seconds)
        self.series = tuple(changed)
        self.listed.emit()

    def drop_from_series(self) -> None:
        """Take the pose that is held up out of the series."""
        if self.current is None:
            return
        left = [one for i, one in enumerate(self.series) if i != self.current]
        self.series = tuple(left)
        self.current = min(self.current, len(left) - 1) if left else None
        self.listed.emit()


class _Edit(QUndoCommand):
    def __init__(self, state: ModelState, before: Setting, after: Setting, what: str) -> None:
        super().__init__(what)
        self._state, self._before, self._after = state, before, after

    def redo(self) -> None:
        self._state.show(self._after)

    def undo(self) -> None:
        self._state.show(self._before)


def _sentence(error: UserError) -> str:
    words = str(error)
    return words[:1].upper() + words[1:] + "."
