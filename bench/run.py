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
from pathlib import Path

import numpy as np

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


def core_rows() -> list[tuple[str, str, str]]:
    """Measuring and assessing a figure marked in full."""
    from bralto.core import assessment as module
    from bralto.core.assessment import assess
    from bralto.core.frames import SightMarks
    from bralto.core.measures.points import point_table
    from bralto.core.measures.table import measure_table
    from bralto.core.measures.units import reference_head, unit_of_drawing
    from bralto.core.readings import read_measures
    from bralto.core.tolerances import GRADES
    from bralto.core.views.library import view_named
    from bralto.stand.demo import worked_example

    study = worked_example().study
    view = view_named(study.view)
    state = study.states[0]

    def measure() -> None:
        seen, drawn = module._ordered_marks(view, study.reference, state.picture)
        assert isinstance(seen, SightMarks)
        assert isinstance(drawn, SightMarks)
        common = frozenset(seen.keys) & frozenset(drawn.keys)
        reference, drawing = point_table(view, seen, common), point_table(view, drawn, common)
        head = reference_head(view, reference)
        fit = module._fit(seen, drawn, len(common))
        unit = unit_of_drawing(view, "head", reference, drawing, fit)
        read_measures(
            view, measure_table(view, reference), measure_table(view, drawing), seen.cov,
            drawn.cov, head, unit, GRADES["developing"], {},
        )  # fmt: skip

    marks, measures = len(view.landmarks), len(view.measures)
    found = times(measure, 300)
    whole = times(lambda: assess(study), 300)
    return [
        (
            f"measure a figure: {marks} marks, {measures} measures, best fit, u, verdicts",
            f"{statistics.median(found):.1f} ms (p95 {p95(found):.1f})",
            "3 ms (set for 40 marks)",
        ),
        (
            "assess it: the same, affine reading, parts, typical and short-set miss",
            f"{statistics.median(whole):.1f} ms (p95 {p95(whole):.1f})",
            "15 ms (with corrections, later)",
        ),
    ]


def window_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """Opening and dragging with two 24-megapixel photographs."""
    from PIL import Image
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest

    from bralto.app import make_application, make_window
    from bralto.core.study import Picture, Study
    from bralto.imaging.pyramid import load_pyramid
    from bralto.store.intake import add_study_from_files
    from bralto.store.library import Library
    from bralto.ui.boards.picture_board import PictureBoard

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
        media = [library.media.path(name) for name in library.stored(study_id).media.values()]  # type: ignore[union-attr]

        def bare_decode() -> None:
            for path in media:
                with Image.open(path) as image:
                    image.load()

        bare_time = statistics.median(times(bare_decode, 3))
        ours = statistics.median(times(lambda: [load_pyramid(p) for p in media], 3))
        rows.append(
            (
                "decode two 24-megapixel JPEG with their smaller sizes, off the GUI thread",
                f"{ours:.0f} ms, {ours / bare_time:.2f}x bare Pillow ({bare_time:.0f} ms)",
                "1.5x",
            )
        )
        window.open_study(study_id)
        while window.tasks.busy:
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
                f"{statistics.median(drags):.1f} ms (p95 {p95(drags):.1f})",
                "p95 16 ms",
            )
        )
        window.close()
    status = Path("/proc/self/status").read_text("ascii")
    peak = next(line for line in status.splitlines() if line.startswith("VmHWM"))
    rows.append(("peak memory of this benchmark", f"{int(peak.split()[1]) // 1024} MB", "600 MB"))
    return rows


_BARE = """
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
window = QMainWindow(); window.resize(1280, 800); window.show()
app.processEvents()
"""
_OURS = """
import sys
from pathlib import Path
from bralto.app import make_application, make_window
from bralto.store.library import Library
app = make_application()
library = Library.open(Path(sys.argv[1]))
window = make_window(library); window.show()
app.processEvents()
"""


def start_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """Whole processes: interpreter, imports, window shown and painted."""
    from bralto.store.intake import fill_with_demo

    begun = time.perf_counter()
    fill_with_demo(scratch / "demo")
    demo = time.perf_counter() - begun

    def start(code: str) -> Callable[[], object]:
        return lambda: subprocess.run([sys.executable, "-c", code, scratch / "demo"], check=True)

    bare = times(start(_BARE), 9)
    ours = times(start(_OURS), 9)
    ratio = statistics.median(ours) / statistics.median(bare)
    return [
        (
            "start to usable window on the demo library (15 studies)",
            f"{statistics.median(ours):.0f} ms, {ratio:.1f}x a bare PyQt6 window "
            f"({statistics.median(bare):.0f} ms)",
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
