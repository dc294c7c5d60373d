"""A bundle is read as if a stranger had sent it."""

from __future__ import annotations

import stat
import zipfile
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.exchange.bundle import MIMETYPE, read_bundle

STUDY = (Path(__file__).parents[1] / "data/pencil-figure.json").read_text("utf-8")


def packed(path: Path, entries: list[tuple[str | zipfile.ZipInfo, bytes | str]]) -> Path:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in entries:
            archive.writestr(name, data)
    return path


def test_a_bundle_gives_its_study(tmp_path: Path) -> None:
    path = packed(tmp_path / "a.bralto", [("mimetype", MIMETYPE), ("study.json", STUDY)])
    assert read_bundle(path).title == "Pencil and paper, a figure"


def link(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name)
    entry.external_attr = (stat.S_IFLNK | 0o777) << 16
    return entry


@pytest.mark.parametrize(
    ("entries", "said"),
    [
        ([("study.json", STUDY)], "first file must be its mimetype"),
        ([("mimetype", "text/plain"), ("study.json", STUDY)], "first file must be its mimetype"),
        ([("mimetype", MIMETYPE)], "no study.json"),
        ([("mimetype", MIMETYPE), ("../evil", "x"), ("study.json", STUDY)], "forbidden name"),
        ([("mimetype", MIMETYPE), ("/etc/evil", "x"), ("study.json", STUDY)], "forbidden name"),
        ([("mimetype", MIMETYPE), (link("media/a"), "/etc"), ("study.json", STUDY)], "a link"),
        ([("mimetype", MIMETYPE), ("study.json", b" " * (17 * 2**20))], "larger than it may"),
        ([("mimetype", b"\0" * 10**7), ("study.json", STUDY)], "first file must be its mimetype"),
        ([("mimetype", MIMETYPE), *((f"media/{i}", "") for i in range(600))], "more than"),
    ],
)
def test_hostile_bundles_are_refused(tmp_path: Path, entries: list, said: str) -> None:
    with pytest.raises(UserError, match=said):
        read_bundle(packed(tmp_path / "a.bralto", entries))


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04 and nothing", b"plain text"])
def test_what_is_no_zip_is_refused(tmp_path: Path, data: bytes) -> None:
    path = tmp_path / "a.bralto"
    path.write_bytes(data)
    with pytest.raises(UserError, match="not a Bralto bundle"):
        read_bundle(path)
    with pytest.raises(UserError, match="no such file"):
        read_bundle(tmp_path / "b.bralto")


def test_a_damaged_entry_is_refused(tmp_path: Path) -> None:
    path = packed(tmp_path / "a.bralto", [("mimetype", MIMETYPE), ("study.json", STUDY)])
    data = bytearray(path.read_bytes())
    at = data.index(b"study.json") + 40
    data[at : at + 30] = bytes(30)
    path.write_bytes(bytes(data))
    with pytest.raises(UserError):
        read_bundle(path)
