"""How a drawing came about, on the real bench: straight lines of the block-in, since when."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image
from pytestqt.qtbot import QtBot
from tests.imaging.test_straightness import HIGH, WIDE, drawing
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.values import Picture, State
from bralto.imaging.load import clean_picture
from bralto.store.intake import add_state
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting


@pytest.fixture
def staged(open_window: Opener, demo_copy: Path, tmp_path: Path, qtbot: QtBot) -> Bench:
    """A study whose drawing has a block-in of straight lines, and an end with an edge moved."""
    pixels, _ = drawing(22, 8, 3)
    file = tmp_path / "block-in.png"
    Image.fromarray(pixels).save(file)
    with Library.open(demo_copy) as library:
        stored = library.studies()[0]
        state = stored.study.state()
        assert state is not None
        block_in = State("block-in", Picture("block-in.png", WIDE, HIGH))
        first = add_state(library, stored.id, stored.version, block_in, clean_picture(file))
        end = State("end", replace(state.picture, file="end.png", width=WIDE, height=HIGH))
        add_state(library, stored.id, first.version, end, clean_picture(file))
    window = open_window(demo_copy)
    house(window).open_study(stored.id)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    return bench


def test_the_lines_of_the_block_in_are_looked_at_when_the_verdict_is_gone_to(
    staged: Bench, qtbot: QtBot
) -> None:
    bench = staged
    assert bench.study.session.straight is None  # not before it is wanted
    bench.study.apply(prompting.enter_pass, "verdict")
    qtbot.waitUntil(lambda: bench.study.session.straight is not None, timeout=60_000)
    name, share, _ = bench.study.session.straight or ("", 0.0, 0.0)
    assert name == "block-in"
    assert share == pytest.approx(22 / 30, abs=0.12)
    rows = {row.label: row for row in bench.column.list_of("verdict").rows}
    told = next(label for label in rows if label.startswith("Straight lines early: "))
    assert told.endswith("of 'block-in'")
    assert rows[told].glyph == "yes"
    assert "How it came about" in rows


def test_it_is_said_since_when_what_is_off_is_off(staged: Bench) -> None:
    bench = staged
    bench.study.apply(prompting.enter_pass, "verdict")
    rows = [row.label for row in bench.column.list_of("verdict").rows]
    since = [label for label in rows if ": off since '" in label]
    assert 1 <= len(since) <= 3
    # The end has the marks of the state before the block-in, which itself has none.
    assert all(label.endswith("'evening'") or label.endswith("'end'") for label in since)


def proposed(bench: Bench) -> tuple[list[str], list[str]]:
    """Passes where a photo is proposed, and the prompt's own words of it."""
    passes = [segment.key for segment in bench.segments() if segment.due]
    return passes, [words for key, words in bench.prompt().keys if key == "Drop"]


def test_the_tape_proposes_a_photo_of_the_stage_that_has_come(bench: Bench) -> None:
    passes = ["edges", "tilts", "action", "light", "verdict"]
    bench.study.apply(prompting.enter_pass, "edges")
    assert proposed(bench) == (passes, ["a photo: block-in"])
    bench.study.apply(prompting.enter_pass, "widths")
    assert proposed(bench) == (passes, [])


def test_of_a_stage_that_is_past_no_photo_is_proposed(staged: Bench) -> None:
    staged.study.apply(prompting.enter_pass, "edges")
    assert proposed(staged) == ([], [])
