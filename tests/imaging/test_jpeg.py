"""JPEG by libjpeg-turbo: the very pixels that Pillow and Qt give, and no word of damage lost."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtGui import QImageReader

from bralto.core.errors import UserError
from bralto.imaging.jpeg import decode_jpeg, jpeg_size
from bralto.ui.boards.pyramid import load_pyramid


def photo(width: int = 301, height: int = 203) -> Image.Image:
    """Colours that run and turn, with odd sides."""
    y, x = np.mgrid[0:height, 0:width]
    bands = [128 + 120 * np.sin(x / 17.0), 128 + 120 * np.cos(y / 11.0), (x + y) % 256]
    return Image.fromarray(np.stack(bands, axis=-1).astype(np.uint8))


def written(image: Image.Image, **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", **options)
    return out.getvalue()


@pytest.mark.parametrize(
    "options",
    [{"quality": 92}, {"quality": 70, "subsampling": 2}, {"quality": 90, "progressive": True}],
)
def test_the_pixels_are_those_of_pillow(options: dict[str, object]) -> None:
    data = written(photo(), **options)
    assert jpeg_size(data) == (301, 203)
    pixels = np.zeros((203, 301, 4), np.uint8)
    assert decode_jpeg(data, pixels)
    with Image.open(io.BytesIO(data)) as image:
        assert np.array_equal(pixels[..., 2::-1], np.asarray(image.convert("RGB")))
    assert (pixels[..., 3] == 255).all()


def test_a_grey_photo_is_decoded_too() -> None:
    data = written(photo().convert("L"))
    pixels = np.zeros((203, 301, 4), np.uint8)
    assert decode_jpeg(data, pixels)
    assert np.array_equal(pixels[..., 0], pixels[..., 2])


def test_the_pyramid_begins_with_what_qt_reads(tmp_path: Path) -> None:
    path = tmp_path / "a.jpg"
    path.write_bytes(written(photo(1300, 900), quality=92))
    levels = load_pyramid(path)
    assert [one.width() for one in levels] == [1300, 650, 325]
    whole = QImageReader(str(path)).read().convertToFormat(levels[0].format())
    assert levels[0] == whole


@pytest.mark.qt_log_ignore("JPEG", "Corrupt")
def test_what_is_no_jpeg_or_damaged_is_said(tmp_path: Path) -> None:
    assert jpeg_size(b"no picture") is None
    assert jpeg_size(b"") is None
    data = written(photo())
    pixels = np.zeros((203, 301, 4), np.uint8)
    assert not decode_jpeg(data[:40], pixels)
    path = tmp_path / "a.jpg"
    path.write_bytes(data[:60])
    with pytest.raises(UserError, match="damaged"):
        load_pyramid(path)
    path.unlink()
    with pytest.raises(UserError, match="gone"):
        load_pyramid(path)


def test_a_png_is_read_as_before(tmp_path: Path) -> None:
    path = tmp_path / "a.png"
    photo().save(path)
    assert load_pyramid(path)[0].size().width() == 301
