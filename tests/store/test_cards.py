"""Pictures laid for their cards: written whole, and only a few of each."""

from __future__ import annotations

import os
from pathlib import Path

from bralto.store.media import MediaFolder

NAME = "ab/ab12.jpg"


def test_of_one_picture_the_latest_few_cards_stay_and_those_of_others_too(tmp_path: Path) -> None:
    media = MediaFolder(tmp_path)
    (tmp_path / "ab").mkdir()

    def write(path: Path) -> bool:
        return path.write_bytes(b"laid") == 4

    for number in range(20):
        path = media.card(NAME, f"{number}x{number}")
        media.put_card(path, write)
        os.utime(path, (number, number))
    media.put_card(media.card("ab/ab99.jpg", "1x1"), write)
    left = {path.name for path in (tmp_path / "ab").iterdir()}
    assert media.card(NAME, "19x19").name in left
    assert media.card("ab/ab99.jpg", "1x1").name in left
    assert media.card(NAME, "0x0").name not in left
    assert len(left) <= 8


def test_a_card_that_cannot_be_written_leaves_nothing_and_troubles_nobody(tmp_path: Path) -> None:
    media = MediaFolder(tmp_path)
    (tmp_path / "ab").mkdir()
    media.put_card(media.card(NAME, "1x1"), lambda _: False)
    media.put_card(media.card("zz/gone.jpg", "1x1"), lambda _: True)  # no such folder
    assert list((tmp_path / "ab").iterdir()) == []
