"""What the learner can set: size of text, the step-back clock, guessing first."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QLabel,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from bralto.core.session.tapes import TapeOrder
from bralto.core.words.lengths import WAYS
from bralto.disk.reports import Reports
from bralto.ui.room import fit_slip
from bralto.ui.settings import FIGURES_BEGIN, HEAD_ORDERS, SCALES, Settings
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["SettingsSlip"]


class SettingsSlip(QDialog):
    """Everything is kept at once; nothing has to be confirmed."""

    minutes_changed = pyqtSignal(int)
    order_changed = pyqtSignal(bool)
    head_order_changed = pyqtSignal(str)
    tape_changed = pyqtSignal()
    learner_wanted = pyqtSignal()
    """One more learner on this machine, or to go to another's library."""

    def __init__(self, settings: Settings, reports: Reports, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Settings")
        self._settings, self._reports = settings, reports
        self.size_of_text = choice_box("Size of text and signs", self)
        for percent in SCALES:
            self.size_of_text.addItem(f"{percent} %", percent)
        self.size_of_text.setCurrentIndex(self.size_of_text.findData(settings.text_scale))
        self.lengths = choice_box("How lengths are said", self)
        for way, words in WAYS.items():
            self.lengths.addItem(words, way)
        self.lengths.setCurrentIndex(self.lengths.findData(settings.lengths))
        self.minutes = QSpinBox(self)
        self.minutes.setAccessibleName("Minutes until you are asked to step back")
        self.minutes.setRange(0, 60)
        self.minutes.setSuffix(" min")
        self.minutes.setSpecialValueText("never")
        self.minutes.setValue(settings.step_back_min)
        self.guess = QCheckBox("before a new drawing is measured, and before its figures", self)
        self.guess.setChecked(settings.guess_first)
        self.greatest = QCheckBox("the greatest first, not in the order of work", self)
        self.greatest.setChecked(settings.greatest_first)
        self.glides = QCheckBox("glide to the next mark, and are not there at once", self)
        self.glides.setChecked(settings.glides)
        self.heads = choice_box("What a head begins with", self)
        for order, words in HEAD_ORDERS.items():
            self.heads.addItem(words, order)
        self.heads.setCurrentIndex(self.heads.findData(settings.head_order))
        self.figures = choice_box("What a figure begins with", self)
        for tape, words in FIGURES_BEGIN.items():
            self.figures.addItem(words, tape.value)
        self.figures.setCurrentIndex(self.figures.findData(settings.figures_begin.value))
        self.note = QLabel("Size and lengths hold from the next start of Bralto on.", self)
        self.note.setObjectName("note")
        close = QPushButton("Done", self)
        close.setDefault(True)
        close.clicked.connect(self.accept)
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(12)
        form.addRow("Size of text and signs", self.size_of_text)
        form.addRow("Lengths", self.lengths)
        form.addRow("", self.note)
        form.addRow("Step back every", self.minutes)
        form.addRow("Guess first", self.guess)
        form.addRow("Corrections", self.greatest)
        form.addRow("Boards", self.glides)
        form.addRow("A figure begins with", self.figures)
        form.addRow("A head begins with", self.heads)
        self.learner = QPushButton("Who draws …", self)
        self.learner.clicked.connect(self.accept)
        self.learner.clicked.connect(self.learner_wanted)
        form.addRow("Several learners", self.learner)
        if reports.text():
            self.report = QPushButton("Read the report …", self)
            self.report.clicked.connect(self._read_report)
            form.addRow("Something went wrong", self.report)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self.fault.hide()
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(16)
        column.addLayout(form)
        column.addWidget(self.fault)
        column.addWidget(close)
        self.size_of_text.activated.connect(self._set_size)
        self.lengths.activated.connect(self._set_lengths)
        self.minutes.valueChanged.connect(self._set_minutes)
        self.guess.toggled.connect(self._set_guess)
        self.greatest.toggled.connect(self._set_greatest)
        self.glides.toggled.connect(self._set_glides)
        self.figures.activated.connect(self._set_figures)
        self.heads.activated.connect(self._set_heads)
        fit_slip(self)

    def _set_size(self) -> None:
        self._settings.set_text_scale(int(self.size_of_text.currentData()))
        self._say_refused()

    def _set_lengths(self) -> None:
        self._settings.set_lengths(str(self.lengths.currentData()))
        self._say_refused()

    def _set_guess(self, on: bool) -> None:
        self._settings.set_guess_first(on)
        self._say_refused()

    def _set_greatest(self, on: bool) -> None:
        self._settings.set_greatest_first(on)
        self._say_refused()
        self.order_changed.emit(on)

    def _set_glides(self, on: bool) -> None:
        self._settings.set_glides(on)
        self._say_refused()

    def _set_figures(self) -> None:
        tape = TapeOrder(self.figures.currentData())
        self._settings.set_figures_begin(tape)
        self._say_refused()
        self.tape_changed.emit()

    def _set_heads(self) -> None:
        order = str(self.heads.currentData())
        self._settings.set_head_order(order)
        self._say_refused()
        self.head_order_changed.emit(order)

    def _say_refused(self) -> None:
        self.fault.setText(self._settings.refused)
        self.fault.setVisible(bool(self._settings.refused))

    def _read_report(self) -> None:
        from bralto.ui.slips.report_slip import ReportSlip

        slip = ReportSlip(self._reports, self)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.deleted.connect(lambda: self.report.setEnabled(False))
        slip.open()

    def _set_minutes(self, minutes: int) -> None:
        self._settings.set_step_back_min(minutes)
        self._say_refused()
        self.minutes_changed.emit(minutes)
