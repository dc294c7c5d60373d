"""The pages of the model's slip that set up the whole: figure, light and eye, series."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import (
    QCheckBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from bralto.core.mannequin.body.builds import builds, ranges
from bralto.core.mannequin.setting import SUBJECTS
from bralto.core.words.phrases import how_many, minutes
from bralto.ui.model.fields import Dials, plain_button
from bralto.ui.model.model_state import ModelState
from bralto.ui.settings import Settings
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["FigurePage", "LightPage", "SeriesPage"]

_FIGURES = {
    "heads": ("heads in the height", "", 2),
    "leg": ("leg, share of the height", "", 3),
    "arm": ("arm, share of the height", "", 3),
    "shoulders": ("between the shoulder joints", "", 3),
    "hips": ("between the hip joints", "", 3),
    "girth": ("girth", " ×", 2),
    "height_m": ("height", " m", 2),
}


_FACE = {
    "face.forehead": "forehead", "face.middle": "brow to base of nose",
    "face.lower": "base of nose to chin", "face.width": "width of the head",
    "face.eyes_apart": "eyes apart", "face.nose_wide": "width of the nose",
    "face.nose_out": "nose stands out", "face.mouth_wide": "width of the mouth",
    "face.jaw": "width of the jaw",
}  # fmt: skip
"""What makes one head another; factors on the plain face."""

_SHOWN = {"hair": "with hair", "planes": "in flat planes"}
"""How the head alone can be shown."""


_ALONE = {"head": "head alone", "hand": "hand in plaster"}
"""Subjects that want more than their name."""


class FigurePage(QWidget):
    """What stands there, and its proportions."""

    def __init__(self, state: ModelState, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._state = state
        self.subject = choice_box("What stands there", self)
        for subject in SUBJECTS:
            self.subject.addItem(_ALONE.get(subject, subject), subject)
        self.build = choice_box("Proportions", self)
        for key, one in builds().items():
            self.build.addItem(one.title, key)
            self.build.setItemData(self.build.count() - 1, one.source, 3)  # tool tip
        self.build.addItem("Own proportions", "own")
        self.figures = Dials(self)
        for name, (label, unit, digits) in _FIGURES.items():
            self.figures.add(
                name, label, ranges()[name], unit, digits, taken=state.begin,
                moved=partial(state.set_figure, name), done=partial(self._done, name),
                tip="Within what was measured of grown people and children",
            )  # fmt: skip
        for name, label in _FACE.items():
            self.figures.add(
                name, label, ranges()[name], " ×", 2, taken=state.begin,
                moved=partial(state.set_figure, name), done=partial(self._done, name),
                tip="Against the plain face; the head stays one head high",
            )  # fmt: skip
        self.shown = {name: QCheckBox(words, self) for name, words in _SHOWN.items()}
        note = QLabel("Proportions are averages and a question, no ideal of a body.", self)
        note.setObjectName("note")
        note.setWordWrap(True)
        form = QFormLayout()
        form.setVerticalSpacing(6)
        form.addRow("Stands there", self.subject)
        form.addRow("Built", self.build)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(form)
        for name, box in self.shown.items():
            column.addWidget(box)
            box.clicked.connect(partial(state.show_head, name))
        column.addWidget(self.figures)
        column.addStretch(1)
        column.addWidget(note)
        self.subject.activated.connect(lambda _: state.choose_subject(self.subject.currentData()))
        self.build.activated.connect(lambda _: self._build())
        state.changed.connect(self.refresh)
        self.refresh()

    def _build(self) -> None:
        if self.build.currentData() in builds():
            self._state.choose_build(self.build.currentData())
        self.refresh()

    def _done(self, name: str, value: float) -> None:
        self._state.set_figure(name, value)
        if self._state.dragging:
            self._state.end(name)

    def refresh(self) -> None:
        """Show the proportions in force."""
        setting = self._state.setting
        blockers = QSignalBlocker(self.subject), QSignalBlocker(self.build)
        self.subject.setCurrentIndex(self.subject.findData(setting.subject))
        at = self.build.findData(setting.build.key)
        self.build.setCurrentIndex(at if at >= 0 else self.build.count() - 1)
        del blockers
        head = setting.subject == "head"
        self.figures.setEnabled(head or setting.subject == "figure")
        for name, value in setting.build.figures().items():
            self.figures.dials[name].show_value(value)
            self.figures.show_dial(name, (name in _FACE) == head)
        for name, box in self.shown.items():
            box.setVisible(head)
            box.setChecked(getattr(setting, name))


class LightPage(QWidget):
    """Light and eye by exact values, and what is drawn besides the figure."""

    def __init__(self, state: ModelState, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._state = state
        self.dials = Dials(self)
        for key, label, limits, unit, digits in (
            ("aside_deg", "light from your left (−) or right", (-180.0, 180.0), "°", 0),
            ("above_deg", "light above the horizon", (5.0, 90.0), "°", 0),
            ("soft_deg", "softness of the light", (0.0, 40.0), "°", 0),
        ):
            self._add(key, label, limits, unit, digits, self._look)
        for key, label, limits, unit, digits in (
            ("distance_m", "distance of the eye", (0.6, 30.0), " m", 1),
            ("eye_m", "height of the eye", (0.05, 4.0), " m", 2),
            ("tilt_deg", "tilt downward", (-40.0, 40.0), "°", 0),
        ):
            self._add(key, label, limits, unit, digits, self._camera)
        self.fit = QCheckBox("fit to the picture", self)
        self._add("focal_mm", "focal length", (8.0, 400.0), " mm", 0, self._camera)
        self.boxes = {
            "outlines": QCheckBox("outlines", self),
            "ring": QCheckBox("circle on the ground", self),
            "frame": QCheckBox("box about it", self),
        }
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.dials)
        for box in (self.fit, *self.boxes.values()):
            column.addWidget(box)
        column.addStretch(1)
        self.fit.clicked.connect(self._fit)
        for name, box in self.boxes.items():
            box.clicked.connect(partial(self._look, name))
        state.changed.connect(self.refresh)
        self.refresh()

    def _add(
        self, key: str, label: str, limits: tuple[float, float], unit: str, digits: int,
        act: Callable[[str, float], None],
    ) -> str:  # fmt: skip
        def done(value: float) -> None:
            act(key, value)
            if self._state.dragging:
                self._state.end(key)

        self.dials.add(
            key, label, limits, unit, digits,
            taken=self._state.begin, moved=partial(act, key), done=done,
        )  # fmt: skip
        return key

    def _look(self, key: str, value: float) -> None:
        self._state.set_look(replace(self._state.setting.look, **{key: value}))  # type: ignore[arg-type]

    def _camera(self, key: str, value: float) -> None:
        self._state.set_camera(replace(self._state.setting.camera, **{key: value}))

    def _fit(self, on: bool) -> None:
        focal = None if on else self.dials.dials["focal_mm"].spin.value()
        self._state.set_camera(replace(self._state.setting.camera, focal_mm=focal))

    def show_fitted(self, focal_mm: float) -> None:
        """The focal length that fits the figure to the picture, where that is wished."""
        if self._state.setting.camera.focal_mm is None:
            self.dials.dials["focal_mm"].show_value(focal_mm)

    def refresh(self) -> None:
        """Show light and eye as they are."""
        setting = self._state.setting
        for key, dial in self.dials.dials.items():
            value = getattr(setting.look, key, None)
            value = getattr(setting.camera, key, None) if value is None else value
            if value is not None:
                dial.show_value(value)
        fitted = setting.camera.focal_mm is None
        self.fit.setChecked(fitted)
        for part in (self.dials.dials["focal_mm"].spin, self.dials.dials["focal_mm"].slider):
            part.setEnabled(not fitted)
        for name, box in self.boxes.items():
            box.setChecked(getattr(setting.look, name))


class SeriesPage(QWidget):
    """Poses one after the other, each with its time; they stand on the tape."""

    def __init__(
        self, state: ModelState, settings: Settings, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._state = state
        self.words = QLabel(self)
        self.words.setWordWrap(True)
        self.bell = QCheckBox("a soft bell when its time is over", self)
        self.bell.setChecked(settings.bell)
        self.bell.toggled.connect(settings.set_bell)
        self.seconds = QSpinBox(self)
        self.seconds.setRange(5, 3600)
        self.seconds.setSingleStep(15)
        self.seconds.setSuffix(" s")
        self.seconds.setAccessibleName("Seconds this pose is shown")
        self.drop = plain_button("Take out", "Out of the series", state.drop_from_series, self)
        self.quick = plain_button(
            "An action drill", "Four poses of 30 s, three of 1 min, two of 2 min, one stroke each",
            state.throw_action_drill, self,
        )  # fmt: skip
        self.add = plain_button("Add this pose", "At the end", state.add_to_series, self)
        form = QFormLayout()
        form.addRow("This pose is shown", self.seconds)
        form.addRow(self.bell)
        buttons = QHBoxLayout()
        buttons.addWidget(self.add)
        buttons.addWidget(self.drop)
        buttons.addStretch(1)
        drill = QHBoxLayout()
        drill.addWidget(self.quick)
        drill.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.words)
        column.addLayout(form)
        column.addLayout(buttons)
        column.addLayout(drill)
        column.addStretch(1)
        self.seconds.valueChanged.connect(lambda value: state.set_seconds(float(value)))
        state.listed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the series as it is."""
        state = self._state
        held = state.current is not None
        self.seconds.setEnabled(held)
        self.drop.setEnabled(held)
        if not state.series:
            self.words.setText(
                "A series shows several poses, each for its time: short ones first, to warm up. "
                "Add the pose that stands there, change it, add again."
            )
            return
        whole = sum(one.seconds or 0.0 for one in state.series)
        poses = how_many(len(state.series), "pose")
        self.words.setText(f"{poses}, {minutes(whole)} in all. They stand on the tape above.")
        if state.current is not None:
            blocker = QSignalBlocker(self.seconds)
            self.seconds.setValue(round(state.series[state.current].seconds or 0.0))
            del blocker
