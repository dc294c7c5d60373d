"""Both themes read; the faces ship with the package."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QFontInfo, QImage, QPainter
from PyQt6.QtWidgets import QApplication, QCheckBox
from pytestqt.qtbot import QtBot

from bralto.ui.theme.paint import halo_text, text_width, wrapped
from bralto.ui.theme.style import style_sheet
from bralto.ui.theme.tokens import DARK, LIGHT, Tokens, contrast
from bralto.ui.theme.type import FAMILY, Size, font


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=lambda t: t.name)
@pytest.mark.parametrize("surface", ["ground", "slip", "tape", "sheet", "here"])
@pytest.mark.parametrize("role", ["ink", "ink2", "red", "blue", "ochre"])
def test_every_text_reads_on_every_surface(tokens: Tokens, surface: str, role: str) -> None:
    """WCAG 2.2, 1.4.3: 4.5 : 1 for text."""
    assert contrast(getattr(tokens, role), getattr(tokens, surface)) >= 4.5


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=lambda t: t.name)
def test_ticks_and_lines_are_seen(tokens: Tokens) -> None:
    """WCAG 2.2, 1.4.11: 3 : 1 for what is no text."""
    assert contrast(tokens.hair, tokens.ground) >= 3.0


_LACKING = {
    "no red cones": [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216],
                     [-0.003882, -0.048116, 1.051998]],
    "no green cones": [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413],
                       [-0.011820, 0.042940, 0.968881]],
    "no blue cones": [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602],
                      [0.004733, 0.691367, 0.303900]],
}  # fmt: skip
"""What dichromats see, of linear RGB: Machado, Oliveira and Fernandes 2009 (IEEE TVCG 15, 1291),
severity 1.0; the figures from memory. Their rows add up to 1: grey stays grey."""


def seen_without(code: str, matrix: list[list[float]]) -> np.ndarray:
    """sRGB 0 to 1 of a colour as a dichromat sees it (IEC 61966-2-1 for the curve)."""
    srgb = np.array([int(code[i : i + 2], 16) / 255.0 for i in (1, 3, 5)])
    linear = np.where(srgb <= 0.04045, srgb / 12.92, ((srgb + 0.055) / 1.055) ** 2.4)
    seen = np.clip(np.array(matrix) @ linear, 0.0, 1.0)
    return np.where(seen <= 0.0031308, 12.92 * seen, 1.055 * seen ** (1.0 / 2.4) - 0.055)


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=lambda t: t.name)
@pytest.mark.parametrize("lacking", _LACKING)
@pytest.mark.parametrize("pair", [("red", "ochre"), ("red", "blue"), ("blue", "ochre")])
def test_more_less_and_cannot_tell_are_told_apart_by_every_eye(
    tokens: Tokens, lacking: str, pair: tuple[str, str]
) -> None:
    """Delta E of CIE 2000 by scikit-image; above 15 two colours beside each other are plainly two
    (common practice, no source)."""
    from skimage.color import deltaE_ciede2000, rgb2lab

    matrix = _LACKING[lacking]
    assert np.allclose(np.sum(matrix, axis=1), 1.0, atol=1e-5)
    one, other = (rgb2lab(seen_without(getattr(tokens, role), matrix)[None, None]) for role in pair)
    assert float(deltaE_ciede2000(one, other)[0, 0]) >= 15.0


def test_contrast_is_that_of_the_standard() -> None:
    """Black on white is 21 : 1; #777777 on white is the well-known 4.48 (from memory)."""
    assert contrast("#000000", "#FFFFFF") == pytest.approx(21.0)
    assert contrast("#777777", "#FFFFFF") == pytest.approx(4.48, abs=0.005)


@pytest.mark.usefixtures("qapp")
def test_the_shipped_face_is_used() -> None:
    assert QFontInfo(font(Size.BODY)).family() == FAMILY
    assert QFontInfo(font(Size.HEADLINE, heavy=True)).family().startswith(FAMILY)


@pytest.mark.parametrize("words", ["light 23° from your left, 41° high", "0.08 head", "Oo ÄÖ 88"])
def test_a_halo_goes_all_round_the_letters_without_a_gap(words: str) -> None:
    """Black letters in a white band on red: beside black there is never red."""
    face = font(Size.NOTE, bold=True)
    image = QImage(round(text_width(words, face)) + 40, 60, QImage.Format.Format_RGB32)
    image.fill(QColor(200, 0, 0))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    halo_text(painter, QPointF(20.0, 36.0), words, face, QColor(0, 0, 0), QColor(255, 255, 255))
    painter.end()
    bits = image.constBits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    pixels = np.frombuffer(bits, np.uint8).reshape(image.height(), image.width(), 4)[..., :3]
    blue, red = pixels[..., 0].astype(int), pixels[..., 2].astype(int)
    black, bare = (red < 60) & (blue < 60), (red > 150) & (blue < 60)
    assert black.sum() > 50
    for dx in (-1, 0, 1):
        for dy in (-1, 0, 1):
            beside = np.roll(np.roll(bare, dy, axis=0), dx, axis=1)
            assert not (black & beside).any()
    # The band is as wide on the left of the first letter as on the right of the last.
    columns = np.nonzero((~bare).any(axis=0))[0]
    letters = np.nonzero(black.any(axis=0))[0]
    assert letters[0] - columns[0] == pytest.approx(columns[-1] - letters[-1], abs=1)


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=["light", "dark"])
def test_a_tick_is_seen_in_its_box(qtbot: QtBot, tokens: Tokens) -> None:
    """Whatever the desktop's own colours are: 3 to 1 (WCAG 2.1, 1.4.11)."""
    box = QCheckBox("on", None)
    box.setStyleSheet(style_sheet(tokens))
    qtbot.addWidget(box)
    box.show()
    colours = {}
    for on in (False, True):
        box.setChecked(on)
        image = box.grab().toImage()
        middle = image.height() // 2
        colours[on] = {
            image.pixelColor(x, y).name()
            for x in range(3, 13)
            for y in range(middle - 5, middle + 5)
        }
    (ground,) = colours[False]
    assert max(contrast(ground, ink) for ink in colours[True]) >= 3.0
    assert max(contrast(ground, ink) for ink in colours[False]) < 1.1


def test_a_figure_keeps_its_unit_on_its_line(qapp: QApplication) -> None:  # noqa: ARG001
    """*Make the L forearm with the hand 4* stood above *mm shorter*."""
    face = font(Size.TITLE, bold=True)
    words = "Make the L forearm with the hand 4 mm shorter (± 0.05 head): it lies in 12 %, in all"
    for width in range(60, 400, 5):
        lines = wrapped(words, face, float(width))
        assert " ".join(lines) == words
        assert not [line for line in lines if line.split()[0].rstrip(",:)") in {"mm", "head", "%"}]
        assert not [line for line in lines if line.endswith("±")]
    assert wrapped("in all", face, 1.0) == ["in", "all"]
