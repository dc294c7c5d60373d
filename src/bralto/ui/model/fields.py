"""What the slip's pages are made of: a figure with its slider, dragged roughly, typed exactly."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSignalBlocker, Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QSlider, QWidget

from bralto.ui.widgets.figure_spin import FigureSpin
from bralto.ui.widgets.typed import share_undo

__all__ = ["Dial", "Dials", "plain_button"]

_STEPS = 1000


class Dial(QWidget):
    """One figure between two limits.

    Signals: ``moved`` while the slider is dragged, ``given`` once it is let go or typed.
    """

    moved = pyqtSignal(float)
    given = pyqtSignal(float)
    taken = pyqtSignal()

    def __init__(
        self, label: str, low: float, high: float, unit: str, digits: int, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.low, self.high = low, high
        self.label = QLabel(label, self)
        self.label.setWordWrap(True)
        self.spin = FigureSpin(self)
        share_undo(self.spin)
        self.spin.setDecimals(digits)
        self.spin.setRange(low, high)
        self.spin.setSuffix(unit)
        self.spin.setSingleStep(10.0**-digits if digits > 1 else 1.0)
        self.spin.setKeyboardTracking(False)
        self.spin.setAccessibleName(label)
        self.spin.setObjectName("small")
        self.spin.setFixedSize(96, 28)
        self.slider = QSlider(Qt.Orientation.Horizontal, self)
        self.slider.setRange(0, _STEPS)
        self.slider.setFixedHeight(18)
        self.slider.setAccessibleName(label)
        self.spin.valueChanged.connect(self.given)
        self.slider.sliderPressed.connect(self.taken)
        self.slider.sliderMoved.connect(lambda at: self.moved.emit(self._value(at)))
        self.slider.sliderReleased.connect(
            lambda: self.given.emit(self._value(self.slider.value()))
        )
        self.slider.actionTriggered.connect(self._by_key)

    def _value(self, at: int) -> float:
        return self.low + (self.high - self.low) * at / _STEPS

    def _by_key(self, action: int) -> None:
        if not self.slider.isSliderDown():
            self.given.emit(self._value(self.slider.sliderPosition()))

    def show_value(self, value: float) -> None:
        """Show a figure without telling of it."""
        blockers = QSignalBlocker(self.spin), QSignalBlocker(self.slider)
        self.spin.setValue(value)
        if not self.slider.isSliderDown():
            self.slider.setValue(round(_STEPS * (value - self.low) / (self.high - self.low)))
        del blockers


class Dials(QWidget):
    """Several of them under each other."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(10)
        self._grid.setVerticalSpacing(2)
        self._grid.setColumnStretch(0, 1)
        self.dials: dict[str, Dial] = {}

    def add(
        self,
        key: str,
        label: str,
        limits: tuple[float, float],
        unit: str,
        digits: int,
        *,
        taken: Callable[[], None],
        moved: Callable[[float], None],
        done: Callable[[float], None],
        tip: str = "",
    ) -> Dial:
        """One more; ``taken`` when its slider is pressed, ``done`` once a figure is set."""
        dial = Dial(label, *limits, unit, digits, self)
        dial.hide()  # its parts stand in the grid
        row = 2 * len(self.dials)
        self._grid.addWidget(dial.label, row, 0)
        self._grid.addWidget(dial.spin, row, 1)
        self._grid.addWidget(dial.slider, row + 1, 0, 1, 2)
        for part in (dial.label, dial.spin, dial.slider):
            part.setToolTip(tip)
        dial.taken.connect(taken)
        dial.moved.connect(moved)
        dial.given.connect(done)
        self.dials[key] = dial
        return dial

    def show_dial(self, key: str, on: bool) -> None:
        """Show one of them, or hide it."""
        dial = self.dials[key]
        for part in (dial.label, dial.spin, dial.slider):
            part.setVisible(on)

    def clear(self) -> None:
        """Take all of them away."""
        for dial in self.dials.values():
            for part in (dial.label, dial.spin, dial.slider, dial):
                self._grid.removeWidget(part)
                part.hide()  # it may be painted once more before it is gone
                part.deleteLater()
        self.dials = {}


def plain_button(words: str, tip: str, act: Callable[[], object], parent: QWidget) -> QPushButton:
    """A button with a tip, whose click takes no argument along."""
    button = QPushButton(words, parent)
    button.setToolTip(tip)
    button.clicked.connect(lambda: act())
    return button
