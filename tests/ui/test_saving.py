"""Files that are asked for from the window: their endings, and what lies there already."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot
from tests.full_disk import disk_full_after
from tests.ui.conftest import Opener, house, settle

from bralto.core.errors import UserError
from bralto.store.demo_library import add_worked_example
from bralto.store.library import Library
from bralto.ui.record.month_print import write_month
from bralto.ui.saving import file_to_save, free


@pytest.mark.parametrize(
    ("typed", "written"),
    [
        ("study.bralto", "study.bralto"),
        ("study.BRALTO", "study.BRALTO"),
        ("study", "study.bralto"),
        ("study 1.2", "study 1.2.bralto"),  # it became study 1.bralto, over what was there
        ("there", "there 2.bralto"),  # there.bralto lies there, and nobody was asked about it
        ("there.bralto", "there.bralto"),  # the dialog asked
    ],
)
def test_an_ending_is_added_and_nothing_is_written_over_unasked(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, typed: str, written: str
) -> None:
    (tmp_path / "there.bralto").touch()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / typed), ""))
    kinds = "Bundle of a study (*.bralto)"
    assert file_to_save(None, "Write the study out", "x.bralto", kinds) == tmp_path / written
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    assert file_to_save(None, "Write the study out", "x.bralto", kinds) is None


def test_several_kinds_keep_their_own_endings(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    kinds = "Charts (*.svg *.png)"
    for typed, written in (("a.png", "a.png"), ("a", "a.svg"), ("a.pdf", "a.pdf.svg")):
        path = str(tmp_path / typed)
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, path=path: (path, ""))
        assert file_to_save(None, "The record", "record.svg", kinds) == tmp_path / written


def test_a_free_name_is_numbered(tmp_path: Path) -> None:
    (tmp_path / "a.json").touch()
    assert free(tmp_path / "b.json") == tmp_path / "b.json"
    assert free(tmp_path / "a.json") == tmp_path / "a 2.json"
    assert free(tmp_path / "a.json", [tmp_path / "a 2.json"]) == tmp_path / "a 3.json"


def test_a_study_is_written_under_the_whole_name_that_was_typed(
    open_window: Opener, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot
) -> None:
    with Library.open(tmp_path / "library") as library:
        add_worked_example(library)
    other = tmp_path / "evening 1.bralto"
    other.write_bytes(b"another study")
    window = open_window(tmp_path / "library")
    settle(qtbot, window)
    shelf = house(window).shelf
    shelf.list.setCurrentIndex(shelf.entries.index(0, 0))
    name = str(tmp_path / "evening 1.2")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (name, ""))
    house(window).acts.write_out()
    settle(qtbot, window)
    assert other.read_bytes() == b"another study"
    assert (tmp_path / "evening 1.2.bralto").stat().st_size > 1000


@pytest.mark.usefixtures("qtbot")
def test_a_page_on_a_full_disk_is_said_and_leaves_what_was_there(tmp_path: Path) -> None:
    """Qt says nothing of it: the month was *written*, 800 bytes of a PDF, and the old one gone."""
    path = tmp_path / "2026-12.pdf"
    write_month(path, 2026, 12, ())
    whole = path.read_bytes()
    assert whole.startswith(b"%PDF")
    assert len(whole) > 2000
    with disk_full_after(800), pytest.raises(UserError, match="cannot be written"):
        write_month(path, 2026, 12, ())
    assert path.read_bytes() == whole
    assert list(tmp_path.iterdir()) == [path]
