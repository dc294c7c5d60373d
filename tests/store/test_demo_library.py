"""The demo's library: what was drawn before the evening class comes as marks, the newest whole."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.core.session.notes import notes_of
from bralto.stand import evening_class, half_year
from bralto.store import demo_library
from bralto.store.demo_library import fill_with_demo
from bralto.store.library import LATE, Library


def test_the_newest_have_their_pictures_and_the_others_an_order_for_them(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    orders = (("figure", 0), ("figure", 6))  # the second tries again what the first drew
    monkeypatch.setattr(evening_class, "demo_orders", lambda: orders)
    before = half_year.half_year_orders()[:2]
    monkeypatch.setattr(half_year, "half_year_orders", lambda: before)
    monkeypatch.setattr(demo_library, "AT_ONCE", 1)
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
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, processors: int
) -> None:
    """With one processor studies came by date and not pose by pose; with several, the process that
    asked for them waited."""
    orders = (("figure", 0), ("figure", 1), ("head", 0), ("figure", 6))
    monkeypatch.setattr(evening_class, "demo_orders", lambda: orders)
    monkeypatch.setattr("bralto.store.demo_library.os.cpu_count", lambda: processors)
    monkeypatch.setattr("bralto.store.demo_library.AT_ONCE", 0)
    monkeypatch.setattr(half_year, "half_year_orders", lambda: (("half year", 0),))
    fill_with_demo(tmp_path / "library", seed=3, half_year=True)
    with Library.open(tmp_path / "library") as library:
        made = sorted(library.studies(), key=lambda one: one.made)
    wanted = [("half year", 0), *orders]
    assert [
        (one.study.extra[LATE]["kind"], one.study.extra[LATE]["number"]) for one in made
    ] == wanted
    for one, (kind, number) in zip(made, wanted, strict=True):
        alone = evening_class.demo_study(kind, number, 3, pictures=False).study
        assert one.study.reference.marks == alone.reference.marks
        assert one.study.states[0].picture.marks == alone.states[0].picture.marks


def test_what_hears_no_breaking_off_is_drawn_to_its_end(tmp_path: Path) -> None:
    """Its helpers ended at the SIGINT that it did not hear."""
    script = tmp_path / "drawing.py"
    script.write_text(_DRAWING)
    with subprocess.Popen(
        [sys.executable, script, tmp_path / "library", "False"],
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, start_new_session=True,
    ) as drawing:  # fmt: skip
        assert drawing.stdout is not None
        assert drawing.stdout.readline() == b"drawing\n"
        os.killpg(drawing.pid, signal.SIGINT)
        _, err = drawing.communicate(timeout=120)
    assert (drawing.returncode, err) == (0, b"")
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 40


def _die(_: object) -> None:
    os._exit(1)


@pytest.mark.parametrize("when", ["_get_ready", "_all_drawn"])
def test_what_a_helper_that_is_killed_had_begun_is_drawn_here(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, when: str
) -> None:
    """For want of memory, say: the demo ended in a traceback."""
    monkeypatch.setattr(evening_class, "demo_orders", lambda: (("figure", 0), ("figure", 1)))
    monkeypatch.setattr(half_year, "half_year_orders", lambda: ())
    monkeypatch.setattr(demo_library, "AT_ONCE", 0)
    monkeypatch.setattr("bralto.store.demo_library.os.cpu_count", lambda: 2)
    plain = ProcessPoolExecutor.submit

    def submit(pool: ProcessPoolExecutor, work: Callable[..., object], *given: object):
        fatal = work.__name__ == when
        return plain(pool, _die if fatal else work, *(given or ("",) if fatal else given))

    monkeypatch.setattr(ProcessPoolExecutor, "submit", submit)
    fill_with_demo(tmp_path / "library", half_year=True)
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 2


def test_where_no_other_process_can_be_had_this_one_draws(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_: object, **__: object) -> None:
        raise OSError(38, "Function not implemented")

    monkeypatch.setattr(evening_class, "demo_orders", lambda: (("figure", 0), ("figure", 6)))
    monkeypatch.setattr(half_year, "half_year_orders", lambda: ())
    monkeypatch.setattr("bralto.store.demo_library.AT_ONCE", 0)
    monkeypatch.setattr("bralto.store.demo_library.ProcessPoolExecutor", refuse)
    fill_with_demo(tmp_path / "library", half_year=True)
    with Library.open(tmp_path / "library") as library:
        assert library.count() == 2


_DRAWING = """
import os, signal, sys
from pathlib import Path
from bralto.store import demo_library
draw = demo_library._all_drawn
def all_drawn(task):
    if __name__ == "__main__":
        print("drawing", flush=True)
    return draw(task)
if __name__ == "__main__":
    # What runs behind & in a script hears no SIGINT, and neither does what it starts.
    listens = sys.argv[2] == "True"
    signal.signal(signal.SIGINT, signal.default_int_handler if listens else signal.SIG_IGN)
    demo_library.os.cpu_count = lambda: 3
    demo_library._all_drawn = all_drawn
    demo_library.fill_with_demo(Path(sys.argv[1]), half_year=True)
"""


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGKILL])
def test_broken_off_or_killed_it_leaves_no_process_behind(tmp_path: Path, how: int) -> None:
    """Those that helped to draw stayed for ever where it was killed."""
    script = tmp_path / "drawing.py"
    script.write_text(_DRAWING)
    with subprocess.Popen(
        [sys.executable, script, tmp_path / "library", "True"],
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, start_new_session=True,
    ) as drawing:  # fmt: skip
        assert drawing.stdout is not None
        assert drawing.stdout.readline() == b"drawing\n"
        if how == signal.SIGINT:  # as a terminal does it: to all of them
            os.killpg(drawing.pid, how)
        else:
            drawing.send_signal(how)
        # Helpers have these open too: they are at their end once all processes are gone.
        drawing.communicate(timeout=60)
    assert drawing.returncode == -how


def test_what_is_no_folder_is_not_filled(tmp_path: Path) -> None:
    (tmp_path / "library").write_text("no folder")
    with pytest.raises(UserError):
        fill_with_demo(tmp_path / "library")
