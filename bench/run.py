"""Benchmarks (`make bench`): prints a table and writes it to bench/README.md.

The machine is noisy, so medians and 95th percentiles of many repeats are printed, with ratios where
a peer exists; nothing here is a test.
"""

from __future__ import annotations

import platform
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.study import Picture, State, Study

HERE = Path(__file__).parent


def times(work: Callable[[], object], repeats: int) -> list[float]:
    """Milliseconds of each repeat, after three that do not count."""
    for _ in range(3):
        work()
    out = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        out.append(1e3 * (time.perf_counter() - start))
    return out


def p95(values: list[float]) -> float:
    return float(np.percentile(values, 95))


def shown(values: list[float]) -> str:
    """The least is what the code needs; the rest is also the machine's other work."""
    return f"{statistics.median(values):.1f} ms (least {min(values):.1f}, p95 {p95(values):.1f})"


def core_rows() -> list[tuple[str, str, str]]:
    """Measuring and assessing a figure marked in full."""
    from bralto.core.assessment import assess
    from bralto.core.measures.points import point_table
    from bralto.core.measures.table import measure_tables
    from bralto.core.measures.units import reference_head, unit_of_drawing
    from bralto.core.pairing import Pair, pair_marks
    from bralto.core.readings import read_measures
    from bralto.core.tolerances import GRADES
    from bralto.core.views.library import view_named
    from bralto.stand.demo import demo_studies, worked_example
    from peers import with_package

    study = worked_example().study
    view = view_named(study.view)
    state = study.states[0]

    def measure() -> None:
        pair = pair_marks(view, study.reference, state.picture)
        assert isinstance(pair, Pair)
        seen, drawn, common = pair.seen, pair.drawn, pair.common
        reference, drawing = point_table(view, seen, common), point_table(view, drawn, common)
        head = reference_head(view, reference)
        fit = pair.best_fit()
        unit = unit_of_drawing(view, study.scale, head, reference, drawing, fit, in_mm=False)
        read_measures(
            view, *measure_tables(view, [reference, drawing]), seen.cov,
            drawn.cov, head, unit, GRADES["developing"], {},
        )  # fmt: skip

    pair = pair_marks(view, study.reference, state.picture)
    assert isinstance(pair, Pair)
    points = [point_table(view, one, pair.common) for one in (pair.seen, pair.drawn)]
    head = reference_head(view, points[0])
    unit = unit_of_drawing(view, study.scale, head, *points, pair.best_fit(), in_mm=False)

    def doubts() -> None:
        """Values, gradients, uncertainties and verdicts from points that are there."""
        tables = measure_tables(view, points)
        read_measures(
            view, *tables, pair.seen.cov, pair.drawn.cov, head, unit, GRADES["developing"], {}
        )

    marks, measures = len(view.landmarks), len(view.measures)
    found = times(measure, 300)
    whole = times(lambda: assess(study), 300)
    moves = times(lambda: assess(study, corrections=True), 100)
    found_moves = assess(study, corrections=True).corrections
    listed = 0 if isinstance(found_moves, NotMeasurable) else len(found_moves)
    big_head = one_fault(study)
    simple = times(lambda: assess(big_head, corrections=True), 100)
    plain = replace(study, reference=_flat(study.reference), states=(_drawn_flat(state),))
    peer = times(lambda: with_package(plain, view), 20)
    own = times(doubts, 100)
    course = [one.study for one in demo_studies()]
    begun = time.perf_counter()
    for number in range(1000):
        assess(course[number % len(course)], corrections=True)
    thousand = time.perf_counter() - begun
    return [
        (
            "the same uncertainties through the package `uncertainties`",
            f"{min(peer):.0f} ms at least, {min(peer) / min(own):.0f}x ours ({min(own):.1f} ms, "
            "verdicts included)",
            "at least 50x",
        ),
        ("measure 1,000 studies again, with their corrections", f"{thousand:.1f} s", "20 s"),
        (
            f"measure a figure: {marks} marks, {measures} measures, best fit, u, verdicts",
            shown(found),
            "3 ms (set for 40 marks)",
        ),
        (
            "assess it: the same, affine reading, parts, typical and short-set miss",
            shown(whole),
            "-",
        ),
        (
            "assess a drawing with one fault, with the search for its corrections",
            shown(simple),
            "15 ms (40 marks, 120 measures)",
        ),
        (
            f"assess the worked example so, in which {listed} moves are found",
            shown(moves),
            "15 ms (40 marks, 120 measures)",
        ),
    ]


def one_fault(study: Study) -> Study:
    """The same study with a drawing that is the reference but for a head 12 % too big."""
    assert study.reference is not None
    marks = dict(study.reference.marks)
    crown, chin = marks["crown"], marks["chin"]
    marks["crown"] = replace(
        crown, x=chin.x + 1.12 * (crown.x - chin.x), y=chin.y + 1.12 * (crown.y - chin.y)
    )
    drawn = replace(study.reference, marks=marks)
    return replace(study, states=(replace(study.states[0], picture=drawn),))


def _flat(picture: Picture) -> Picture:
    """Without its sheet, for a peer that knows none."""
    return replace(picture, sheet=None)


def _drawn_flat(state: State) -> State:
    return replace(state, picture=_flat(state.picture))


def flatten_row(path: Path) -> tuple[str, str, str]:
    """A photo of a sheet warped straight on, beside the library's bare call."""
    import cv2
    from PIL import Image

    from bralto.core.study import Sheet
    from bralto.imaging.flatten import flatten

    with Image.open(path) as image:
        picture = np.asarray(image)
    height, width = picture.shape[:2]
    corners = ((0.1 * width, 0.12 * height), (0.93 * width, 0.08 * height),
               (0.97 * width, 0.95 * height), (0.05 * width, 0.9 * height))  # fmt: skip
    sheet, scale = Sheet(corners, (297.0, 420.0)), 12.0
    size = (round(297 * scale), round(420 * scale))
    ends = np.array([[0, 0], [size[0], 0], size, [0, size[1]]], dtype=np.float32)
    matrix = cv2.getPerspectiveTransform(np.array(corners, dtype=np.float32), ends)
    bare = times(lambda: cv2.warpPerspective(picture, matrix, size), 9)
    ours = times(lambda: flatten(picture, sheet, scale), 9)
    ratio = statistics.median(ours) / statistics.median(bare)
    return (
        f"flatten a 24-megapixel photo to {size[0]} x {size[1]} px",
        f"{statistics.median(ours):.0f} ms, {ratio:.2f}x bare cv2.warpPerspective",
        "1.3x",
    )


def window_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """Opening and dragging with two 24-megapixel photographs."""
    from PIL import Image
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest

    from bralto.app import make_application, make_window
    from bralto.core.study import Picture, Study
    from bralto.store.intake import add_study_from_files
    from bralto.store.library import Library
    from bralto.ui.boards.picture_board import PictureBoard
    from bralto.ui.boards.pyramid import load_preview, load_pyramid

    rng = np.random.default_rng(1)
    noise = rng.integers(60, 220, (1000, 750, 3), dtype=np.uint8)
    photo = Image.fromarray(noise).resize((4242, 5656), Image.Resampling.BICUBIC)
    paths = [scratch / "a.jpg", scratch / "b.jpg"]
    for path in paths:
        photo.save(path, quality=90)
    application = make_application()
    rows = []
    with Library.open(scratch / "library") as library:
        made = "2026-01-01T10:00:00Z"
        bare = Study("24 megapixels", "figure-front", Picture("", 1, 1))
        study_id = add_study_from_files(library, bare, *paths, made)
        window = make_window(library)
        window.resize(1280, 800)
        window.show()
        stored = library.stored(study_id)
        assert stored is not None
        media = [library.media.path(name) for name in stored.media.values()]

        def bare_decode(path: Path) -> None:
            with Image.open(path) as image:
                image.load()

        def both(decode: Callable[[Path], object]) -> Callable[[], object]:
            return lambda: list(pool.map(decode, media))

        # Two at a time, as the bench opens them.
        with ThreadPoolExecutor(2) as pool:
            bare_time = statistics.median(times(both(bare_decode), 5))
            ours = statistics.median(times(both(load_pyramid), 5))
            first = statistics.median(times(both(load_preview), 5))
        rows.append(
            (
                "two 24-megapixel JPEG ready for a first usable paint (1,400 px)",
                f"{first:.0f} ms, {first / bare_time:.2f}x bare Pillow ({bare_time:.0f} ms)",
                "1.5x",
            )
        )
        rows.append(flatten_row(media[0]))
        rows.append(
            (
                "decode two 24-megapixel JPEG with their smaller sizes, off the GUI thread",
                f"{ours:.0f} ms, {ours / bare_time:.2f}x bare Pillow ({bare_time:.0f} ms)",
                "1.5x",
            )
        )
        window.open_study(study_id)
        while window.busy:
            QTest.qWait(10)
        assert window.bench is not None
        study = window.bench.study
        for number, mark in enumerate(study.view.landmarks):
            x, y = 700 + 97 * (number % 29), 300 + 5000 * number / 29
            study.ask("reference", mark.key)
            study.place("reference", x, y, 3.0)
            study.ask("drawing", mark.key)
            study.place("drawing", 4242 - 0.9 * x, 0.93 * y + 70, 3.0)
        study.enter_pass("heights")
        board: PictureBoard = window.bench.drawing
        start = board.at("navel")
        assert start is not None
        QTest.mousePress(board, Qt.MouseButton.LeftButton, pos=start.toPoint())
        drags = []
        for step in range(150):
            at = start.toPoint() + QPoint(8 + step % 40, step % 25)
            begun = time.perf_counter()
            QTest.mouseMove(board, at)
            application.processEvents()  # the paint that the move asked for
            drags.append(1e3 * (time.perf_counter() - begun))
        QTest.mouseRelease(board, Qt.MouseButton.LeftButton, pos=start.toPoint())
        rows.append(
            (
                f"drag a mark: input to painted, {len(study.view.landmarks)} marks a board, "
                "two 24-megapixel pictures, 1280x800",
                shown(drags),
                "p95 16 ms",
            )
        )
        window.close()
    held = memory(scratch / "library")
    rows.append(("memory with two 24-megapixel pictures open", held, "600 MB"))
    return rows


_HOLD = """
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from bralto.app import make_application, make_window
from bralto.store.library import Library
app = make_application()
window = make_window(Library.open(Path(sys.argv[1]))); window.show()
window.open_study(window.shelf_state.entries[0].stored.id)
while window.busy: QTest.qWait(10)
QTest.qWait(100)
status = dict(l.split(":", 1) for l in open("/proc/self/status") if l.startswith("Vm"))
now, peak = (int(status[key].split()[0]) // 1024 for key in ("VmRSS", "VmHWM"))
print(f"{now} MB (peak while opening {peak})")
"""


def memory(library: Path) -> str:
    """Resident memory of a process of its own that has the study open."""
    done = subprocess.run(
        [sys.executable, "-c", _HOLD, library], capture_output=True, text=True, check=True
    )
    return done.stdout.strip()


_UNTIL_PAINTED = """
from PyQt6.QtCore import QEvent, QObject, QTimer
class Painted(QObject):
    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Paint:
            QTimer.singleShot(0, app.quit)  # painted, and back in the event loop for input
        return False
painted = Painted()
watched.installEventFilter(painted)
window.show()
app.exec()
import os; os._exit(0)  # leaving is not part of starting
"""
_BARE = """
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
window = watched = QMainWindow(); window.resize(1280, 800)
"""
_OURS = """
import sys
from pathlib import Path
from bralto.app import make_application, make_window
from bralto.store.library import Library
app = make_application()
window = make_window(Library.open(Path(sys.argv[1])))
watched = window.shelf.list.viewport()
"""


def start_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """Whole processes: interpreter, imports, window shown and painted."""
    from bralto.store.demo import fill_with_demo

    begun = time.perf_counter()
    fill_with_demo(scratch / "demo")
    demo = time.perf_counter() - begun

    def run(code: str) -> Callable[[], object]:
        return lambda: subprocess.run([sys.executable, "-c", code, scratch / "demo"], check=True)

    def start(code: str) -> Callable[[], object]:
        return run(code + _UNTIL_PAINTED)

    bare = times(start(_BARE), 9)
    ours = times(start(_OURS), 9)
    ratio = statistics.median(ours) / statistics.median(bare)
    nothing = statistics.median(times(run("pass"), 9))
    alchemy = statistics.median(times(run("import sqlalchemy"), 9)) - nothing
    return [
        (
            "start to usable window on the demo library (15 studies)",
            f"{statistics.median(ours):.0f} ms, {ratio:.1f}x a bare PyQt6 window "
            f"({statistics.median(bare):.0f} ms); {alchemy:.0f} ms of it import SQLAlchemy",
            "2x",
        ),
        ("make the demo library: 15 studies, 30 pictures", f"{demo:.1f} s", "10 s"),
    ]


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        rows = core_rows() + start_rows(Path(folder)) + window_rows(Path(folder))
    lines = ["| what | measured | budget |", "|---|---|---|"]
    lines += [f"| {what} | {found} | {budget} |" for what, found, budget in rows]
    table = "\n".join(lines)
    print(table)
    head = (
        "# Benchmarks\n\nPrinted by `make bench`; medians, on "
        f"{platform.machine()}, Python {platform.python_version()}, Qt offscreen.\n\n"
    )
    (HERE / "README.md").write_text(head + table + "\n", "utf-8")


if __name__ == "__main__":
    main()
