"""A study and the record gone through by what a screen reader hears, over AT-SPI under Xvfb.

What is heard is held against the study itself, read from its library before the window opens.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from tests.screen_reader import Heard, ScreenReader, missing, until

from bralto.core.examination.assessment import assess
from bralto.core.study.anchored import view_of
from bralto.core.study.values import Study
from bralto.store.library import Library

pytestmark = pytest.mark.skipif(bool(missing()), reason=f"this machine has no {missing()}")


@pytest.fixture
def newest(demo_copy: Path) -> Study:
    """The study that the shelf shows first, with what it was left at."""
    with Library.open(demo_copy) as library:
        (first,) = library.rows(newest=1)
        stored = library.stored(first.id)
        assert stored is not None
        return stored.study


@pytest.fixture
def reader(demo_copy: Path) -> Iterator[ScreenReader]:
    reader = ScreenReader(demo_copy)
    yield reader
    reader.close()


def unnamed(heard: list[Heard]) -> list[Heard]:
    """What can be gone to by keys and says nothing of what it is."""
    return [
        one
        for one in heard
        if one.focusable
        and not (one.name and (one.role != "combo box" or one.labelled or one.description))
        # The field within a spin box is no stop of its own: the box has the name.
        and not (one.role == "text" and one.under)
    ]


def test_a_study_and_the_record_are_gone_through_row_by_row(
    newest: Study, reader: ScreenReader
) -> None:
    assert until(lambda: reader.rows("Studies"))[0] == newest.title
    reader.press("Return")
    until(lambda: "Bench, Alt+2, here" in reader.rows("Places"))
    # Both boards' marks, each with its place.
    view, state = view_of(newest), newest.states[-1]
    assert newest.reference is not None
    marks = [
        f"{view.point_label(key)}: {mark.x:.0f}, {mark.y:.0f}"
        for picture in (newest.reference, state.picture)
        for key, mark in picture.marks.items()
    ]
    heard = [row.removesuffix(", hidden") for row in until(lambda: reader.rows("Marks"))]
    assert sorted(heard) == sorted(marks)
    # What is to be put right, in the words of the figures.
    said = assess(newest, corrections=True)
    moves = until(lambda: reader.rows("Corrections"))
    assert len(moves) == len(said.corrections)
    for one, row in zip(said.corrections, moves, strict=True):
        assert row.startswith(one.text.split(":")[0])
    # Pass by pass, each says its rows and is the one that is here.
    passes = [row.removesuffix(", here").rstrip("0123456789/ ") for row in reader.rows("Tape")]
    assert (passes[0], passes[-1], len(passes)) == ("Sheet", "Verdict", 10)
    here = next(i for i, row in enumerate(reader.rows("Tape")) if row.endswith(", here"))
    way = [*range(here - 1, -1, -1), *range(1, len(passes))]  # back to the first, then through all
    for before, number in zip([here, *way], way, strict=False):
        reader.press("Control", "Left" if number < before else "Right")
        until(lambda n=number: reader.rows("Tape")[n].endswith(", here"))
        everything = reader.heard()
        assert unnamed(everything) == []
        rows = {one.under for one in everything if one.role == "list item"}
        assert rows - {"Places", "Tape", "Marks", "Corrections", "What is off"}, passes[number]


def test_the_record_is_heard_study_by_study(reader: ScreenReader) -> None:
    until(lambda: reader.rows("Studies"))
    reader.press("Alt", "4")
    # Studies come as they are measured, to every chart alike.
    until(lambda: len(reader.rows("Typical miss")) == len(reader.rows("Heights")) > 0)
    rows = reader.rows("Heights")
    assert all(" heads" in row and " ± " in row for row in rows)
    assert until(lambda: reader.rows("Habits"))[0].startswith("You make heads big: +")
    assert unnamed(reader.heard()) == []


def test_the_poses_of_the_model_are_heard(reader: ScreenReader) -> None:
    until(lambda: reader.rows("Studies"))
    reader.press("Alt", "3")
    poses = until(lambda: reader.rows("Poses"))
    assert len(poses) >= 30
    assert sum(", stands there," in row for row in poses) == 1
    rings = until(lambda: reader.rows("What can be pulled"))
    assert any(row.startswith("L hand: ") and row.endswith(" % down") for row in rings)
    assert any(row.startswith("light ") for row in rings)
    assert any(row.startswith("eye ") for row in rings)
    assert unnamed(reader.heard()) == []
