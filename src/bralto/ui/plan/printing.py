"""The planned sheet on paper, at true size, as PDF or on a printer."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QLineF, QMarginsF, QPointF, QSizeF
from PyQt6.QtGui import QPagedPaintDevice, QPageLayout, QPageSize, QPainter, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.errors import UserError
from bralto.core.words.lengths import INCH, in_force, length
from bralto.ui.pdf_file import DPI, write_page
from bralto.ui.plan.paper import CHECK_BAR_MM, Paper, paint_paper
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import print_font

__all__ = ["print_paper", "write_pdf"]

_CHECK_BAR_IN = 4.0
_TEXT_PT = 8.0


def _layout(paper: Paper) -> QPageLayout:
    plan = paper.plan
    exact, mm = QPageSize.SizeMatchPolicy.ExactMatch, QPageSize.Unit.Millimeter
    size = QPageSize(QSizeF(plan.width, plan.height), mm, "", exact)
    none = QMarginsF(0.0, 0.0, 0.0, 0.0)
    return QPageLayout(size, QPageLayout.Orientation.Portrait, none)


def _paint(device: QPagedPaintDevice, paper: Paper, px: float) -> bool:
    painter = QPainter()
    if not painter.begin(device):
        return False
    paint_paper(painter, paper, px, print_font(_TEXT_PT))
    # The bar lies on the bottom margin, where no figure is.
    y = px * (paper.plan.height - 0.5 * max(paper.margin, 8.0))
    bar = CHECK_BAR_MM if in_force() == "mm" else _CHECK_BAR_IN * INCH
    x = px * 0.5 * (paper.plan.width - bar)
    painter.setPen(QPen(LIGHT.colour("ink"), 0.3 * px))
    painter.drawLine(QLineF(x, y, x + px * bar, y))
    for end in (x, x + px * bar):
        painter.drawLine(QLineF(end, y - 1.5 * px, end, y + 1.5 * px))
    painter.drawText(QPointF(x, y - 2.0 * px), f"{length(bar)}: print without scaling")
    return painter.end()


def write_pdf(paper: Paper, path: Path) -> None:
    """One page of the paper's size.

    Raises:
        UserError: it cannot be written there.
    """
    write_page(path, "Sheet plan", _layout(paper), lambda at: _paint(at, paper, DPI / INCH))


def print_paper(paper: Paper, parent: QWidget) -> None:
    """Ask which printer, and print.

    Raises:
        UserError: there is no printer, or it does not answer.
    """
    from PyQt6.QtPrintSupport import QPrintDialog, QPrinter, QPrinterInfo

    if not QPrinterInfo.availablePrinterNames():
        raise UserError("No printer is set up on this machine: save the sheet as PDF instead.")
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setPageLayout(_layout(paper))
    printer.setFullPage(True)
    if QPrintDialog(printer, parent).exec() and not _paint(
        printer, paper, printer.resolution() / INCH
    ):
        raise UserError("The printer does not answer: save the sheet as PDF instead.")
