"""Benchmarks (`make bench`): prints a table and writes it to bench/README.md.

The machine is noisy, so medians and 95th percentiles of many repeats are printed, with ratios where
a peer exists; nothing here is a test.
"""

from __future__ import annotations

import platform
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from bench.certain import certain
from bench.from_life import sight_rows
from bench.model import model_rows
from bench.stand import stand_rows
from bench.start import first_rows, many_rows, start_rows
from bench.timing import shown, times
from bench.window import window_rows
from bralto.app import make_application
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, State, Study

if TYPE_CHECKING:
    from bralto.core.measures.table import MeasureTable
    from bralto.core.measures.units import Length, Unit

HERE = Path(__file__).parent


def core_rows() -> list[tuple[str, str, str]]:
    """Measuring and assessing a figure marked in full."""
    from bench.peers import with_package
    from bralto.core.examination.assessment import assess
    from bralto.core.measures.points import point_table
    from bralto.core.measures.readings import read_measures
    from bralto.core.measures.table import measure_tables
    from bralto.core.measures.units import reference_head, unit_of_drawing
    from bralto.core.study.pairing import Pair, pair_marks
    from bralto.core.tolerances import GRADES
    from bralto.core.views.shipped_views import view_named
    from bralto.stand.evening_class import demo_studies, worked_example

    study = worked_example().study
    view, state, reference = view_named(study.view), study.states[0], certain(study.reference)

    def measure() -> None:
        pair = pair_marks(view, reference, state.picture)
        assert isinstance(pair, Pair)
        common = pair.common
        seen, drawn = point_table(view, pair.seen, common), point_table(view, pair.drawn, common)
        head, fit = reference_head(view, seen), pair.best_fit()
        unit = unit_of_drawing(view, study.scale, head, seen, drawn, fit, in_mm=False)
        read(pair, head, unit, measure_tables(view, [seen, drawn]))

    def read(
        pair: Pair,
        head: Length | NotMeasurable,
        unit: Unit | NotMeasurable,
        tables: Sequence[MeasureTable],
    ) -> None:
        """Values, uncertainties and verdicts."""
        covs = pair.seen.cov, pair.drawn.cov
        read_measures(view, tables[0], tables[1], *covs, head, unit, GRADES["developing"], {})

    pair = pair_marks(view, reference, state.picture)
    assert isinstance(pair, Pair)
    seen, drawn = (point_table(view, one, pair.common) for one in (pair.seen, pair.drawn))
    head = reference_head(view, seen)
    fit = pair.best_fit()
    unit = unit_of_drawing(view, study.scale, head, seen, drawn, fit, in_mm=False)

    def doubts() -> None:
        """Values, gradients, uncertainties and verdicts from points that are there."""
        read(pair, head, unit, measure_tables(view, [seen, drawn]))

    marks, measures = len(view.landmarks), len(view.measures)
    found = times(measure, 300)
    whole = times(lambda: assess(study), 300)
    moves = times(lambda: assess(study, corrections=True), 100)
    found_moves = assess(study, corrections=True).corrections
    listed = 0 if isinstance(found_moves, NotMeasurable) else len(found_moves)
    big_head = one_fault(study)
    simple = times(lambda: assess(big_head, corrections=True), 100)
    plain = replace(study, reference=_flat(reference), states=(_drawn_flat(state),))
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


_HOLD = """
import sys
from pathlib import Path
from typing import TYPE_CHECKING
from PyQt6.QtTest import QTest
from bralto.app import make_application, make_house
from bralto.store.library import Library
app = make_application()
house = make_house(Library.open(Path(sys.argv[1]))); window = house.window; window.show()
house.open_study(house.shelf_state.entries[0].id)
while house.busy: QTest.qWait(10)
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


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        application = make_application()
        rows = (
            start_rows(Path(folder))
            + first_rows(Path(folder))
            + many_rows(Path(folder), application)
        )
        rows += core_rows() + model_rows() + stand_rows(Path(folder))
        rows += window_rows(Path(folder), application, memory)
        rows += sight_rows(Path(folder), application)
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
