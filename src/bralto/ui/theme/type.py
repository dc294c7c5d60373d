"""The typeface and its sizes: Alegreya Sans (SIL OFL 1.1), lining figures of one width."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from PyQt6.QtGui import QFont, QFontDatabase

__all__ = ["FAMILY", "Size", "font", "load_fonts", "plain_font", "print_font"]

FAMILY = "Alegreya Sans"
_FILE, _FACES = "AlegreyaSans", ("Regular", "Bold", "ExtraBold", "Italic")
_FIGURES = ("tnum", "lnum")


class Size:
    """Sizes in logical px at 100 %, one for each role of text."""

    HEADLINE = 46
    SKILL = 32
    PANEL = 24
    BOARD = 20
    PROMPT = 19
    PLACE = 18
    TITLE = 17
    BODY = 16
    NOTE = 15
    FINE = 14


def load_fonts() -> None:
    """Make the shipped faces known to Qt; once a process is enough, more does no harm."""
    for face in _FACES[:3]:
        _load(face)


@cache
def _load(face: str) -> None:
    QFontDatabase.addApplicationFont(str(Path(__file__).parent / "fonts" / f"{_FILE}-{face}.ttf"))


@cache
def font(
    size: int,
    *,
    bold: bool = False,
    heavy: bool = False,
    italic: bool = False,
    fractions: bool = False,
) -> QFont:
    """The face at a size, with tabular lining figures and no hinting.

    ``fractions`` sets 1/2 as one sign. Shared between callers: take it as it is.
    """
    if italic:
        _load(_FACES[3])  # when it is first wanted: the shelf is painted without
    face = QFont(f"{FAMILY} ExtraBold" if heavy else FAMILY)
    face.setPixelSize(size)
    face.setBold(bold and not heavy)
    face.setItalic(italic)
    face.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    _set(face, ("frac",) if fractions else _FIGURES)
    return face


def print_font(points: float) -> QFont:
    """The face on paper, where a size is in points."""
    face = QFont(FAMILY)
    face.setPointSizeF(points)
    _set(face, _FIGURES)
    return face


def plain_font(points: float) -> QFont:
    """The face on paper as its text can be copied and searched: a PDF loses the letters of
    ligatures and of figures that are set otherwise."""
    face = QFont(FAMILY)
    face.setPointSizeF(points)
    for feature in ("liga", "dlig", "clig", "calt"):
        tag = QFont.Tag.fromString(feature)
        if tag is not None:
            face.setFeature(tag, 0)
    return face


def _set(face: QFont, features: tuple[str, ...]) -> None:
    for feature in features:
        tag = QFont.Tag.fromString(feature)
        if tag is not None:
            face.setFeature(tag, 1)
