"""The figures of the planned sheet: paper, margins, head in mm, and where each station comes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.measures.verdict_names import Verdict
from bralto.core.page.page_plan import PAPERS, SheetPlan, divider_words, paper_size
from bralto.core.page.photo import HEAD_M
from bralto.core.views.model import HEAD
from bralto.core.words.lengths import bare_length, length, short_unit, size
from bralto.core.words.phrases import sentence
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.plan.paper import Paper
from bralto.ui.saving import file_to_save
from bralto.ui.session.moment import Moment
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.choice_box import choice_box
from bralto.ui.widgets.length_spin import LengthSpin
from bralto.ui.widgets.row_list import Row, Rows
from bralto.ui.widgets.typed import share_undo

__all__ = ["PlanSlip"]

_LIES: tuple[tuple[str, bool | None], ...] = (
    ("as gives more room", None),
    ("upright", False),
    ("lying", True),
)
_NARROW = 240
"""Width below which the fields stand under their names, px: beside them words would be cut off."""


class PlanSlip(QWidget):
    """Takes the ladder's place in the sheet's pass."""

    def __init__(self, study: OpenStudy, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._study = study
        self.paper = choice_box("Paper", self)
        self.paper.setEditable(True)
        self.paper.addItems(list(PAPERS))
        self.paper.setToolTip("A named paper, or its size as 300x400 (mm), 30x40cm, 12x16in")
        self.lies = choice_box("How the paper lies", self)
        for words, value in _LIES:
            self.lies.addItem(words, value)
        self.margin = self._spin("Margins", 0.0, 200.0, "Air on all four sides")
        sized = study.view.sized_by.capitalize()
        self._sized_heads = study.view.sized_heads
        self.head = self._spin(
            sized, 0.0, 400.0 * max(1.0, self._sized_heads),
            f"A {study.view.sized_by} wanted; the least is the largest that fits",
        )  # fmt: skip
        self.head.setSpecialValueText("the largest that fits")
        self.beside = self._spin(
            "Picture beside you", 0.0, 2000.0,
            "How high the whole picture stands beside your sheet, printed or on a screen: "
            "it sets the proportional dividers",
        )  # fmt: skip
        self.beside.setSpecialValueText("not said")
        self.save = QPushButton("Save as PDF …", self)
        self.save.setToolTip("At true size, with a bar to check the print by")
        self.print = QPushButton("Print …", self)
        self.rows = Rows(tokens, "Stations on the sheet", self)
        form = self._form = QFormLayout()
        form.setHorizontalSpacing(12)
        form.setVerticalSpacing(6)
        fields = (self.paper, self.lies, self.margin, self.head, self.beside)
        labels = ("Paper", "Lies", "Margins", sized, "Picture")
        for label, field in zip(labels, fields, strict=True):
            form.addRow(label, field)
        buttons = QHBoxLayout()
        buttons.addWidget(self.save)
        buttons.addWidget(self.print)
        buttons.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 4, 14, 0)
        column.addLayout(form)
        column.addWidget(self.rows, 1)
        column.addLayout(buttons)
        line = self.paper.lineEdit()
        assert line is not None
        line.editingFinished.connect(self._take)
        self.paper.activated.connect(lambda _: self._take())
        self.lies.activated.connect(lambda _: self._take())
        self.margin.valueChanged.connect(lambda _: self._take())
        self.head.valueChanged.connect(lambda _: self._take())
        self.beside.valueChanged.connect(lambda _: self._take())
        self.save.clicked.connect(self.save_pdf)
        self.print.clicked.connect(self._print)
        study.changed.connect(self._on_change)
        self._show()

    def _spin(self, name: str, low: float, high: float, tip: str) -> LengthSpin:
        spin = LengthSpin(self)
        share_undo(spin)
        spin.setAccessibleName(name)
        spin.setToolTip(tip)
        spin.setDecimals(0 if name == "Margins" else 1)
        spin.setRange(low, high)
        spin.setKeyboardTracking(False)
        return spin

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if self.isVisible() and not after.pointing_only(before):
            self._show()

    def resizeEvent(self, event: object) -> None:
        wrap = QFormLayout.RowWrapPolicy
        narrow = self.width() < _NARROW
        self._form.setRowWrapPolicy(wrap.WrapAllRows if narrow else wrap.DontWrapRows)

    def showEvent(self, event: object) -> None:
        self._show()

    def _take(self) -> None:
        """What was put in; a size that is none is said in the prompt and put back."""
        try:
            paper_size(self.paper.currentText())
        except UserError as error:
            self._study.trouble.emit(sentence(str(error)))
            self._show()
            return
        note = self._study.head.plan_note
        wanted = self.head.value()
        self._study.head.note_plan(
            replace(
                note,
                paper=self.paper.currentText().strip(),
                margin=self.margin.value(),
                head_mm=wanted / self._sized_heads if wanted > 0.0 else None,
                landscape=self.lies.currentData(),
                print_mm=self.beside.value() or None,
            )
        )

    def _show(self) -> None:
        note = self._study.head.plan_note
        fields = (self.paper, self.lies, self.margin, self.head, self.beside)
        blockers = [QSignalBlocker(field) for field in fields]
        self.paper.setCurrentText(note.paper)
        self.lies.setCurrentIndex(max(0, self.lies.findData(note.landscape)))
        self.margin.setValue(note.margin)
        self.head.setValue(self._sized_heads * (note.head_mm or 0.0))
        self.beside.setValue(note.print_mm or 0.0)
        del blockers
        paper = Paper.planned(self._study, note)
        for button in (self.save, self.print):
            button.setEnabled(not isinstance(paper, str))
        if isinstance(paper, str):
            self.rows.say((Row("", "No plan yet", paper),))
        else:
            self.rows.say(plan_rows(paper.plan, in_heads=self._study.view.unit == HEAD))

    # On paper

    def _paper(self) -> Paper | None:
        found = Paper.planned(self._study, self._study.head.plan_note)
        return None if isinstance(found, str) else found

    def save_pdf(self) -> None:
        """Ask where, and write the sheet at true size."""
        path = file_to_save(self, "The sheet as PDF", "sheet.pdf", "PDF (*.pdf)")
        paper = self._paper()
        if path is not None and paper is not None:
            from bralto.ui.plan.printing import write_pdf  # slow to load

            self._say(lambda: write_pdf(paper, path), f"Saved at true size: {path}")

    def _print(self) -> None:
        paper = self._paper()
        if paper is not None:
            from bralto.ui.plan.printing import print_paper

            self._say(lambda: print_paper(paper, self), "")

    def _say(self, act: Callable[[], object], done: str) -> None:
        try:
            act()
        except UserError as error:
            self._study.trouble.emit(str(error))
        else:
            if done:
                self._study.told.emit(done)


def plan_rows(plan: SheetPlan, *, in_heads: bool = True) -> tuple[Row, ...]:
    """A plan's figures: sizes first, then the stations from the top edge. ``in_heads``, whether it
    is a body's, which can be larger than life."""
    lies = "lying" if plan.width > plan.height else "upright"
    rows = [Row("", "The figure", f"{size(plan.width, plan.height)}, {lies}", title=True)]
    if plan.size is not None:
        largest = "" if plan.largest is None else f"most {length(plan.largest, 1)}"
        large = in_heads and plan.head is not None and plan.head > 1000.0 * HEAD_M
        note = "larger than life: many stay a little below it" if large else ""
        rows.append(Row("", plan.sized_by, note, right=(length(plan.size, 1), largest)))
    rows.append(Row("", "whole, high and wide", right=(size(plan.tall, plan.wide),)))
    rows.append(Row("", "dividers", right=(divider_words(plan),)))
    if not plan.fits:
        rows.append(
            Row("", "Too large for these margins", glyph=Verdict.OVER, way="up", role="red")
        )
    if plan.leaving:
        words = ", ".join(plan.leaving)
        rows.append(Row("", f"Off the paper: {words}", glyph=Verdict.OVER, way="down", role="red"))
    rows.append(Row("", "Stations", f"{short_unit()} from top, and from plumb", title=True))
    for one in plan.stations:
        across = ""
        if one.across is not None:
            side = "right" if one.across > 0.0 else "left"
            off = abs(one.across)
            across = f"{bare_length(off)} {side}" if off >= 0.5 else "on it"
        rows.append(Row("", one.label, right=(across, bare_length(one.down))))
    return tuple(rows)
