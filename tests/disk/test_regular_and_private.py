"""Files are opened and written with care."""

from __future__ import annotations

import os
import socket
import stat
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.disk.private import (
    close_to_others,
    make_private_folder,
    write_private,
)
from bralto.disk.regular import open_regular, read_bytes, read_text
from bralto.disk.reports import Reports


def test_only_regular_files_are_opened_and_each_other_kind_is_named(tmp_path: Path) -> None:
    """None of them is waited for: opening a pipe would, and a device may have no end."""
    os.mkfifo(tmp_path / "pipe")
    made = socket.socket(socket.AF_UNIX)
    made.bind(str(tmp_path / "socket"))
    kinds = {"pipe": "a pipe", "socket": "cannot be read", "nothing": "no such file"}
    for name, said in kinds.items():
        with pytest.raises(UserError, match=said):
            open_regular(tmp_path / name, "a study file", 100)
    made.close()
    with pytest.raises(UserError, match="a folder, not a file"):
        read_text(tmp_path, "a study file", 100)
    for device in ("/dev/zero", "/dev/null"):
        with pytest.raises(UserError, match="a device, not a file"):
            read_bytes(Path(device), "a study file", 100)
    with pytest.raises(UserError, match="no file can have that name"):
        read_text(Path("a\0b"), "a study file", 100)


def test_a_file_that_is_too_large_is_refused_before_it_is_read(tmp_path: Path) -> None:
    path = tmp_path / "film"
    with path.open("wb") as file:
        file.truncate(5 * 1024**3)  # a hole: it takes no room
    with pytest.raises(UserError, match="larger than 2 MB, so not a study file"):
        read_bytes(path, "a study file", 2 * 1024**2)
    path.write_text("ä")
    assert read_text(path, "a study file", 2) == "ä"
    path.write_bytes(b"\xff\xfe")
    with pytest.raises(UserError, match="not UTF-8"):
        read_text(path, "a study file", 100)


def test_a_private_file_is_written_whole_or_not_at_all(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "kept"
    write_private(path, b"before")
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    monkeypatch.setattr("os.fsync", lambda _: (_ for _ in ()).throw(OSError(28, "full")))
    with pytest.raises(OSError, match="full"):
        write_private(path, b"after")
    assert path.read_bytes() == b"before"
    assert list(tmp_path.iterdir()) == [path]  # the room is wanted


def test_a_folder_is_closed_to_others_whatever_it_was(tmp_path: Path) -> None:
    folder = tmp_path / "open"
    folder.mkdir(mode=0o755)
    make_private_folder(folder)
    make_private_folder(tmp_path / "a/b", parents=True)
    for one in (folder, tmp_path / "a/b"):
        assert stat.S_IMODE(one.stat().st_mode) == 0o700
    close_to_others(tmp_path / "nothing")


def test_a_report_has_places_in_the_program_and_no_words_of_the_learners(tmp_path: Path) -> None:
    reports = Reports(tmp_path / "state")
    assert reports.text() == ""

    def fails(title: str) -> None:
        try:
            open(tmp_path / f"{title}.png")  # noqa: SIM115, PTH123 - it is not there
        except OSError as error:
            raise ValueError(f"no picture for {title}") from error

    with pytest.raises(ValueError, match="no picture") as met:
        fails("Lamp trimmer")
    assert reports.keep(met.value, "in a test")
    text = reports.text()
    assert "builtins.ValueError" in text
    assert "builtins.FileNotFoundError (2)" in text
    assert ", fails" in text
    assert "Lamp" not in text
    assert str(tmp_path) not in text
    assert stat.S_IMODE((tmp_path / "state/faults.txt").stat().st_mode) == 0o600
    for _ in range(40):
        reports.keep(met.value, "again")
    assert reports.text().count("again") == 19  # a run that fails on and on fills no disk
    (tmp_path / "state/faults.txt").write_text("x" * 300_000)
    Reports(tmp_path / "state").keep(met.value, "later")
    assert (tmp_path / "state/faults.txt").stat().st_size < 10_000
    reports.delete()
    assert reports.text() == ""


def test_reports_that_cannot_be_written_trouble_nobody(tmp_path: Path) -> None:
    (tmp_path / "file").touch()
    reports = Reports(tmp_path / "file/state")
    assert not reports.keep(ValueError("x"), "in a test")
    assert reports.text() == ""
    reports.delete()
