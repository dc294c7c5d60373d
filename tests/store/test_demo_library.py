"""The demo's library: what was drawn before the evening class comes as marks, the newest whole."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.core.session.notes import notes_of
from bralto.stand import evening_class, half_year
from bralto.store import demo_library
from bralto.store.demo_library import fill_with_demo
from bralto.store.library import LATE, Library

Order = tuple[str, int]


class Classes:
    """Evening classes of fewer studies than the demo's."""

    def __init__(self, patch: pytest.MonkeyPatch) -> None:
        self._patch = patch

    def of(self, evenings: tuple[Order, ...], before: tuple[Order, ...] = (), at_once: int = 0):
        """These, oldest first; of the newest ``at_once`` the pictures are made too."""
        self._patch.setattr(evening_class, "demo_orders", lambda: evenings)
        self._patch.setattr(half_year, "half_year_orders", lambda: before)
        self._patch.setattr(demo_library, "AT_ONCE", at_once)


@pytest.fixture
def classes(monkeypatch: pytest.MonkeyPatch) -> Classes:
    return Classes(monkeypatch)


def test_the_newest_have_their_pictures_and_the_others_an_order_for_them(
    tmp_path: Path, classes: Classes
) -> None:
    # The second of the figures tries again what the first drew.
    classes.of((("figure", 0), ("figure", 6)), half_year.half_year_orders()[:2], at_once=1)
    fill_with_demo(tmp_path / "library", seed=3, half_year=True)
    with Library.open(tmp_path / "library") as library:
        stored = {one.id: one for one in library.studies()}
        newest, *others = sorted(stored.values(), key=lambda one: one.made, reverse=True)
        assert (len(others), set(library.awaiting_media())) == (3, {one.id for one in others})
        assert set(newest.media) == {"", newest.study.states[0].name}
        assert notes_of(newest.study).again_of in stored
        assert (
            newest.study.title.split(",")[0]
            == (stored[notes_of(newest.study).again_of].study.title.split(",")[0])
        )
        asked = [one.study.extra[LATE] for one in others]
        assert {(one["kind"], one["number"], one["seed"]) for one in asked} == {
            ("half year", 0, 3), ("half year", 1, 3), ("figure", 0, 3),
        }  # fmt: skip


@pytest.mark.parametrize("processors", [1, 2, 16])
def test_however_many_processes_draw_it_is_the_same_class(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, classes: Classes, processors: int
) -> None:
    """With one processor studies came by date and not pose by pose; with several, the process that
    asked for them waited."""
    orders = (("figure", 0), ("figure", 1), ("head", 0), ("figure", 6))
    classes.of(orders, (("half year", 0),))
    monkeypatch.setattr("bralto.store.demo_library.os.cpu_count", lambda: processors)
    fill_with_demo(tmp_path / "library", seed=3, half_year=True)
    with Library.open(tmp_path / "library") as library:
        made = sorted(library.studies(), key=lambda one: one.made)
    wanted = [("half year", 0), *orders]
    asked = [one.study.extra[LATE] for one in made]
    assert [(one["kind"], one["number"]) for one in asked] == wanted
    for one, (kind, number) in zip(made, wanted, strict=True):
        alone = evening_class.demo_study(kind, number, 3, pictures=False).study
        assert one.study.reference.marks == alone.reference.marks
        assert one.study.states[0].picture.marks == alone.states[0].picture.marks


def _die(*_: object) -> None:
    os._exit(1)


@pytest.mark.parametrize("killed", [0, 1], ids=["getting ready", "drawing"])
def test_what_a_helper_that_is_killed_had_begun_is_drawn_here(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, classes: Classes, killed: int
) -> None:
    """For want of memory, say: the demo ended in a traceback."""
    classes.of((("figure", 0), ("figure", 1)))
    monkeypatch.setattr("bralto.store.demo_library.os.cpu_count", lambda: 2)
    plain, asked = ProcessPoolExecutor.submit, list[Callable[..., object]]()

    def submit(pool: ProcessPoolExecutor, work: Callable[..., object], *given: object):
        asked.append(work)
        return plain(pool, _die if len(asked) - 1 == killed else work, *given)

    monkeypatch.setattr(ProcessPoolExecutor, "submit", submit)
    fill_with_demo(tmp_path / "library", half_year=True)
    assert len(asked) == 2
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 2


def test_where_no_other_process_can_be_had_this_one_draws(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, classes: Classes
) -> None:
    def refuse(*_: object, **__: object) -> None:
        raise OSError(38, "Function not implemented")

    classes.of((("figure", 0), ("figure", 6)))
    monkeypatch.setattr("bralto.store.demo_library.ProcessPoolExecutor", refuse)
    fill_with_demo(tmp_path / "library", half_year=True)
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 2


_DRAWING = """
import os, signal, sys
from pathlib import Path
from bralto.stand import evening_class
from bralto.store import demo_library
if __name__ == "__main__":
    # What runs behind & in a script hears no SIGINT, and neither does what it starts.
    listens = sys.argv[2] == "True"
    signal.signal(signal.SIGINT, signal.default_int_handler if listens else signal.SIG_IGN)
    os.cpu_count = lambda: 3
    draw = evening_class.demo_study
    def demo_study(*order, **how):
        print("drawing", flush=True)
        return draw(*order, **how)
    evening_class.demo_study = demo_study
    demo_library.fill_with_demo(Path(sys.argv[1]), half_year=True)
"""


@contextmanager
def _drawing(folder: Path, *, listens: bool) -> Iterator[subprocess.Popen[bytes]]:
    """A process, with helpers, that has begun to draw the demo into a folder's library; at the end
    all of them are gone."""
    script = folder / "drawing.py"
    script.write_text(_DRAWING)
    with subprocess.Popen(
        [sys.executable, script, folder / "library", str(listens)],
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, start_new_session=True,
    ) as drawing:  # fmt: skip
        assert drawing.stdout is not None
        assert drawing.stdout.readline() == b"drawing\n"
        yield drawing
        # Helpers have these open too: they are at their end once all processes are gone.
        _, err = drawing.communicate(timeout=120)
    assert drawing.returncode or not err


def test_broken_off_by_hand_it_leaves_no_process_behind(tmp_path: Path) -> None:
    with _drawing(tmp_path, listens=True) as drawing:
        os.killpg(drawing.pid, signal.SIGINT)  # as a terminal does it: to all of them
    assert drawing.returncode == -signal.SIGINT


def test_killed_it_leaves_no_process_behind(tmp_path: Path) -> None:
    """Those that helped to draw stayed for ever."""
    with _drawing(tmp_path, listens=True) as drawing:
        drawing.kill()
    assert drawing.returncode == -signal.SIGKILL


def test_what_hears_no_breaking_off_is_drawn_to_its_end(tmp_path: Path) -> None:
    """Its helpers ended at the SIGINT that it did not hear."""
    with _drawing(tmp_path, listens=False) as drawing:
        os.killpg(drawing.pid, signal.SIGINT)
    assert drawing.returncode == 0
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 40


def test_what_is_no_folder_is_not_filled(tmp_path: Path) -> None:
    (tmp_path / "library").write_text("no folder")
    with pytest.raises(UserError):
        fill_with_demo(tmp_path / "library")
