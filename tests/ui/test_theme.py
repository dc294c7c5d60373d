"""Both themes read; the faces ship with the package."""

from __future__ import annotations

import pytest
from PyQt6.QtGui import QFontInfo

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


def test_contrast_is_that_of_the_standard() -> None:
    """Black on white is 21 : 1; #777777 on white is the well-known 4.48 (from memory)."""
    assert contrast("#000000", "#FFFFFF") == pytest.approx(21.0)
    assert contrast("#777777", "#FFFFFF") == pytest.approx(4.48, abs=0.005)


@pytest.mark.usefixtures("qapp")
def test_the_shipped_face_is_used() -> None:
    assert QFontInfo(font(Size.BODY)).family() == FAMILY
    assert QFontInfo(font(Size.HEADLINE, heavy=True)).family().startswith(FAMILY)
