"""What a person starts: `bralto` until the shelf is painted, and what is done with many studies.

Each start is a process of its own on the way that the command takes (`bralto.start.run`), timed
from outside until the shelf has been painted once and the window is back in its event loop. It is
held against a window with one label, and against the floor: an empty list with a delegate, which is
the least that a shelf in this toolkit can be.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QApplication

from bench import gestures
from bench.looked_at import look_at
from bench.many import many_studies
from bralto.app import make_house
from bralto.store.library import Library

__all__ = ["first_rows", "many_rows", "start_rows"]

MANY = 5000
_ROUNDS = 11

_UNTIL_PAINTED = """
import os
from PyQt6.QtCore import QEvent, QObject, QTimer
class Painted(QObject):
    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Paint:
            QTimer.singleShot(0, lambda: os._exit(0))  # leaving is not part of starting
        return False
painted = Painted()
"""
_LABEL = (
    _UNTIL_PAINTED
    + """
from PyQt6.QtWidgets import QApplication, QLabel
app = QApplication([])
window = QLabel("one label")
window.resize(1280, 800)
window.installEventFilter(painted)
window.show()
app.exec()
"""
)
_FLOOR = (
    _UNTIL_PAINTED
    + """
from PyQt6.QtCore import QAbstractListModel, QModelIndex, QSize, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QApplication, QListView, QMainWindow, QStyledItemDelegate
class Nothing(QAbstractListModel):
    def rowCount(self, parent=QModelIndex()):
        return 0
    def data(self, index, role=Qt.ItemDataRole.DisplayRole):
        return None
class Delegate(QStyledItemDelegate):
    def sizeHint(self, option, index):
        return QSize(302, 286)
    def paint(self, painter, option, index):
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
app = QApplication([])
window = QMainWindow()
window.resize(1280, 800)
list = QListView()
list.setViewMode(QListView.ViewMode.IconMode)
list.setModel(Nothing(list))
list.setItemDelegate(Delegate(list))
window.setCentralWidget(list)
list.viewport().installEventFilter(painted)
window.show()
app.exec()
"""
)
_OURS = """
import sys
sys.argv = ["bralto", "--library", sys.argv[1]]
from bralto.ui.running import quick_enumerations
before = quick_enumerations.make_quickly
def make_quickly():
    # PyQt is loaded as the program has it: after this, and before all else.
    before()
    from PyQt6.QtWidgets import QApplication
    plain = QApplication.exec
    def run(*_):
        # Only now: what watches must load nothing before the program does.
        exec(UNTIL, globals())
        shelf = next(w for w in QApplication.allWidgets() if w.objectName() == "studies")
        shelf.viewport().installEventFilter(painted)
        return plain()
    QApplication.exec = staticmethod(run)
quick_enumerations.make_quickly = make_quickly
from bralto.start import run as start
start()
""".replace("UNTIL", repr(_UNTIL_PAINTED))


_FIRST = """
import os, sys, time
place, _, until = sys.argv[2].partition(" ")
sys.argv = ["bralto", "--library", sys.argv[1]]
from PyQt6.QtWidgets import QApplication
def run(*_):
    from bralto.ui.house import House
    house = next(
        one for top in QApplication.topLevelWidgets() for one in top.children()
        if isinstance(one, House)
    )
    looked_at = time.perf_counter() + 3.0
    while time.perf_counter() < looked_at:
        QApplication.processEvents()
        time.sleep(0.001)
    newest = house.shelf_state.entries[0].id
    begun = time.perf_counter()
    house.window.go(place) if place else house.open_study(newest)
    QApplication.processEvents()
    while until and not ((drawn := house.window.at(place).board.drawn) and drawn.finished):
        QApplication.processEvents()
        time.sleep(0.001)
    print(1e3 * (time.perf_counter() - begun), flush=True)
    os._exit(0)
QApplication.exec = staticmethod(run)
from bralto.start import run as start
start()
"""
_FIRSTS = {
    "the newest study onto the bench": ("", "100 ms"),
    "to the model": ("Model", "100 ms"),
    "to the model, until its picture is finished": ("Model finished", "-"),
    "to the record": ("Record", "100 ms"),
}


def first_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """What is done first after a start, until it is painted; the library is measured, and the shelf
    was looked at before."""
    env = {**os.environ, "XDG_STATE_HOME": str(scratch / "state")}
    rows = []
    for what, (place, budget) in _FIRSTS.items():
        took = []
        for _ in range(5):
            done = subprocess.run(
                [sys.executable, "-c", _FIRST, str(scratch / "demo"), place],
                check=True, capture_output=True, text=True, env=env,
            )  # fmt: skip
            took.append(float(done.stdout))
        found = f"{statistics.median(took):.0f} ms (least {min(took):.0f})"
        rows.append((f"first after a start, 3 s later: {what}", found, budget))
    return rows


def start_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """Whole processes, in turn; the shelf with a few studies and with thousands."""
    from bralto.store.demo_library import fill_with_demo

    begun = time.perf_counter()
    fill_with_demo(scratch / "shown", half_year=True)
    demo = time.perf_counter() - begun
    fill_with_demo(scratch / "demo")
    many_studies(scratch / "demo", scratch / "many", MANY)
    starts: dict[str, tuple[str, ...]] = {
        "label": (_LABEL,),
        "floor": (_FLOOR,),
        "few": (_OURS, str(scratch / "demo")),
        "many": (_OURS, str(scratch / "many")),
    }
    look_at(scratch / "demo")
    look_at(scratch / "many")
    took: dict[str, list[float]] = {name: [] for name in starts}
    env = {**os.environ, "XDG_STATE_HOME": str(scratch / "state")}
    for _ in range(_ROUNDS):
        for name, code in starts.items():
            begun = time.perf_counter()
            subprocess.run([sys.executable, "-c", *code], check=True, env=env)
            took[name].append(1e3 * (time.perf_counter() - begun))
    label, floor, few, many = (statistics.median(took[name]) for name in starts)
    return [
        (
            "`bralto` to a usable shelf, 19 studies",
            f"{few:.0f} ms (least {min(took['few']):.0f}): {few / label:.2f}x a window with one "
            f"label ({label:.0f} ms), {few / floor:.2f}x the floor ({floor:.0f} ms)",
            "2.2x; 1.3x",
        ),
        (
            f"the same with {MANY:,} studies",
            f"{many:.0f} ms (least {min(took['many']):.0f}), {many / few:.2f}x that with 15",
            "1.2x",
        ),
        ("make the demo library: 40 studies, the newest with its pictures", f"{demo:.1f} s", "6 s"),
        (
            f"file of the library with {MANY:,} studies",
            f"{(scratch / 'many' / 'library.sqlite3').stat().st_size / 1e6:.0f} MB",
            "-",
        ),
    ]


_BETWEEN_MS = 500
"""Between two gestures, as of a quick hand (chosen here); the background goes on meanwhile."""


def many_rows(scratch: Path, application: QApplication) -> list[tuple[str, str, str]]:
    """Gestures in a window with thousands of studies, each until it is painted."""

    def timed(act: Callable[[], object]) -> float:
        gestures.wait(_BETWEEN_MS)
        return painted(act)

    def painted(act: Callable[[], object]) -> float:
        begun = time.perf_counter()
        act()
        application.processEvents()
        return 1e3 * (time.perf_counter() - begun)

    with Library.open(scratch / "many") as library:
        house = make_house(library)
        window = house.window
        window.resize(1280, 800)
        window.show()
        while house.busy:
            gestures.wait(10)
        record = timed(lambda: window.go("Record"))
        chart, state = house.record.accuracy.charts["miss"], house.record.state
        begun = time.perf_counter()
        while house.busy:
            gestures.wait(2)
        habits = 1e3 * (time.perf_counter() - begun)
        filters = {
            "views": timed(lambda: state.count_only("view", "figure-front")),
            "all views": timed(lambda: state.count_only("view", "")),
            "heads": timed(lambda: state.count_only("subject", "head")),
            "figures": timed(lambda: state.count_only("subject", "figure")),
        }
        while house.busy:
            gestures.wait(10)
        places = [QPoint(x, 60) for x in range(80, 600, 9)]
        hover = [painted(partial(gestures.move, chart, at)) for at in places]
        shelf, bar = house.shelf, house.shelf.list.verticalScrollBar()
        assert bar is not None

        def bin_one() -> None:
            shelf.list.setCurrentIndex(shelf.entries.index(0, 0))
            house.acts.remove()

        timed(lambda: window.go("Shelf"))
        bin_one()  # loads what is loaded once
        window.undo()
        took = {
            "to the record": timed(lambda: window.go("Record")),
            "to the shelf": timed(lambda: window.go("Shelf")),
            "find": timed(lambda: shelf.finder.setText("oar")),
            "find no more": timed(lambda: shelf.finder.setText("")),
            "scroll half way": timed(lambda: bar.setValue(bar.maximum() // 2)),
            "select all": timed(shelf.list.selectAll),
            "into the bin": timed(bin_one),
            "undo": timed(window.undo),
            "hide": timed(lambda: house.shelf_state.hide(shelf.selected()[:1], True)),
        }
        window.close()
    slowest = max(took, key=took.__getitem__)
    return [
        (f"Record for the first time, {MANY:,} studies", f"{record:.0f} ms", "400 ms"),
        ("habits of the last 20 of them, after that", f"{habits:.0f} ms", "-"),
        (
            f"the slowest of {len(filters)} filters: {max(filters, key=filters.__getitem__)}",
            f"{max(filters.values()):.0f} ms",
            "150 ms",
        ),
        (
            "point at its dots",
            f"{statistics.median(hover):.1f} ms (worst {max(hover):.1f})",
            "16 ms",
        ),
        (
            f"the slowest of {len(took)} gestures with {MANY:,} studies: {slowest}",
            f"{took[slowest]:.0f} ms",
            "100 ms",
        ),
    ]
