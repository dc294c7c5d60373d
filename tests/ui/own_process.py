"""A window in a process of its own, started as a person starts it, with something done in it."""

from __future__ import annotations

from textwrap import dedent, indent

__all__ = ["window_at_work"]

_SCRIPT = """
import os, sys, time
sys.argv = ["bralto", "--library", sys.argv[1]]
from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QDialog
plain = QApplication.exec
def run(*_):
    from bralto.ui.house import House
    house = next(
        one for top in QApplication.topLevelWidgets() for one in top.children()
        if isinstance(one, House)
    )
    def work():
WORK
    QTimer.singleShot(1000, work)
    return plain()
QApplication.exec = staticmethod(run)
from bralto.start import run as start
start()
"""


def window_at_work(work: str) -> str:
    """A script that takes a library's path; ``work`` is done with the window's ``house`` a second
    after its start."""
    return _SCRIPT.replace("WORK", indent(dedent(work).strip("\n"), " " * 8))
