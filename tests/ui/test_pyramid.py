"""Pictures at halving sizes, read from the media folder."""

from __future__ import annotations

from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtGui import QColor

from bralto.core.errors import UserError
from bralto.ui.boards.pyramid import load_pyramid


def test_a_pyramid_halves_down_to_a_small_picture(tmp_path: Path) -> None:
    image = Image.new("RGB", (2000, 1200), (20, 20, 200))
    image.paste((200, 20, 20), (0, 0, 2000, 600))
    image.save(tmp_path / "a.png")
    levels = load_pyramid(tmp_path / "a.png")
    assert [(one.width(), one.height()) for one in levels] == [
        (2000, 1200), (1000, 600), (500, 300),
    ]  # fmt: skip
    assert levels[-1].pixelColor(250, 50) == QColor(200, 20, 20)
    assert levels[-1].pixelColor(250, 250) == QColor(20, 20, 200)


def test_a_missing_or_damaged_picture_is_said(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="is gone"):
        load_pyramid(tmp_path / "none.jpg")
    (tmp_path / "a.jpg").write_bytes(b"nothing")
    with pytest.raises(UserError, match="is damaged"):
        load_pyramid(tmp_path / "a.jpg")
