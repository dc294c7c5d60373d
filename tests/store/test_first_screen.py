"""The cards that a shelf showed first: a cache that is right or not there."""

from __future__ import annotations

import os
from pathlib import Path

import numpy as np
import pytest

from bralto.store.first_screen import FirstScreen
from bralto.store.media import MediaFolder

PIXELS = bytes(range(4 * 2 * 3))
Kept = tuple[int, int, bytearray]


def blank(wide: int, high: int) -> tuple[Kept, memoryview]:
    pixels = bytearray(4 * wide * high)
    return (wide, high, pixels), memoryview(pixels)


def read(screen: FirstScreen) -> dict[str, Kept]:
    return screen.read(blank)


@pytest.fixture
def kept(tmp_path: Path) -> Path:
    path = tmp_path / "first-screen"
    FirstScreen(path).keep([("a.jpg", 2, 3, PIXELS), ("b.jpg", 1, 1, b"\x01\x02\x03\x00")])
    return path


def test_what_was_kept_is_read_back_for_the_learner_alone(kept: Path) -> None:
    found = read(FirstScreen(kept))
    assert {name: (w, h, bytes(px)) for name, (w, h, px) in found.items()} == {
        "a.jpg": (2, 3, PIXELS), "b.jpg": (1, 1, b"\x01\x02\x03\x00"),
    }  # fmt: skip
    assert kept.stat().st_mode & 0o777 == 0o600


def test_whatever_is_done_to_the_file_it_is_whole_or_counts_as_not_there(kept: Path) -> None:
    whole = kept.read_bytes()
    rng = np.random.default_rng(7)
    for _ in range(400):
        data = bytearray(whole)
        way = rng.integers(4)
        if way == 0:
            del data[int(rng.integers(len(data))) :]
        elif way == 1:
            data += rng.bytes(int(rng.integers(1, 50)))
        elif way == 2:
            data[int(rng.integers(60))] = int(rng.integers(256))
        else:
            at = int(rng.integers(60))
            data[at:at] = rng.bytes(3)
        kept.write_bytes(data)
        for wide, high, pixels in read(FirstScreen(kept)).values():
            assert len(pixels) == 4 * wide * high
    for odd in (
        b"",
        b"\n",
        b"[]\n",
        b"{}\n",
        b"[[1,2]]\n",
        b'[["a",-1,-4]]\n1234',
        b"[" * 9999 + b"\n",
    ):
        kept.write_bytes(odd)
        assert read(FirstScreen(kept)) == {}
    kept.unlink()
    assert read(FirstScreen(kept)) == {}
    os.mkfifo(kept)
    assert read(FirstScreen(kept)) == {}


def test_what_is_kept_already_is_not_written_again(kept: Path) -> None:
    """Most windows are closed with the shelf as it was."""
    before = kept.stat()
    FirstScreen(kept).keep([("a.jpg", 2, 3, PIXELS), ("b.jpg", 1, 1, b"\x01\x02\x03\x00")])
    assert kept.stat().st_ino == before.st_ino
    assert kept.stat().st_mtime_ns == before.st_mtime_ns
    FirstScreen(kept).keep([("a.jpg", 2, 3, PIXELS), ("b.jpg", 1, 1, b"\x01\x02\x04\x00")])
    assert kept.stat().st_ino != before.st_ino
    assert bytes(read(FirstScreen(kept))["b.jpg"][2]) == b"\x01\x02\x04\x00"
    FirstScreen(kept).keep([("a.jpg", 2, 3, PIXELS)])
    assert list(read(FirstScreen(kept))) == ["a.jpg"]


def test_a_folder_that_is_gone_does_not_come_back_for_it(tmp_path: Path) -> None:
    FirstScreen(tmp_path / "gone" / "first-screen").keep([("a.jpg", 1, 1, b"1234")])
    assert not (tmp_path / "gone").exists()


def test_more_than_a_screen_holds_is_not_kept(tmp_path: Path) -> None:
    screen = FirstScreen(tmp_path / "first-screen")
    screen.keep([(f"{i}.jpg", 1000, 1000, bytes(4_000_000)) for i in range(5)])
    assert len(read(screen)) == 3  # 12 million bytes
    (tmp_path / "first-screen").write_bytes(bytes(25_000_000))
    assert read(screen) == {}


def test_a_picture_that_is_deleted_for_good_is_not_kept_here_either(tmp_path: Path) -> None:
    media = MediaFolder(tmp_path)
    media.first_screen.keep([("a.jpg", 1, 1, b"1234")])
    media.remove(())
    assert read(media.first_screen)
    media.remove(("aa/aa.png",))
    assert read(media.first_screen) == {}
