"""The record's charts as files: every study is on them, at its place."""

from __future__ import annotations

import io
from pathlib import Path
from xml.etree import ElementTree

import numpy as np
import pytest
from PIL import Image
from tests.core.test_selection import START, counted

from bralto.core.errors import UserError
from bralto.core.longitudinal.course import courses
from bralto.exchange.record_chart import record_png, record_svg, write_chart

SVG = "{http://www.w3.org/2000/svg}"


def test_the_svg_has_a_dot_a_study_and_words() -> None:
    found = courses([counted(i) for i in range(9)])
    root = ElementTree.fromstring(record_svg(found, "Nine & one <title>"))
    dots = [(float(one.get("cx")), float(one.get("cy"))) for one in root.iter(f"{SVG}circle")]
    assert len(dots) == 18  # typical miss and tilts
    x = [at for at, _ in dots[:9]]
    assert np.diff(x) == pytest.approx([np.diff(x)[0]] * 8, abs=0.02)  # a study a day
    assert dots[0][1] < dots[8][1]  # lower is closer, and y runs down
    words = [one.text for one in root.iter(f"{SVG}text")]
    assert {"Nine & one <title>", "Typical miss", "Tilts", "3.0 degrees"} <= set(words)
    assert root.find(f"{SVG}title").text == "Nine & one <title>"


def test_the_png_shows_the_same() -> None:
    found = courses([counted(i) for i in range(9)])
    image = np.asarray(Image.open(io.BytesIO(record_png(found, "x"))).convert("L"), dtype=int)
    root = ElementTree.fromstring(record_svg(found, "x"))
    for one in root.iter(f"{SVG}circle"):
        x, y = round(2 * float(one.get("cx"))), round(2 * float(one.get("cy")))
        assert image[y - 2 : y + 3, x - 2 : x + 3].max() < 80


def test_a_record_without_studies_says_so(tmp_path: Path) -> None:
    assert "nothing measured yet" in record_svg(courses([]), "none")
    write_chart(tmp_path / "one.PNG", courses([counted(0)]), "one study")
    assert (tmp_path / "one.PNG").read_bytes().startswith(b"\x89PNG")
    assert START.year == 2026
    with pytest.raises(UserError, match=r"\.svg or \.png"):
        write_chart(tmp_path / "x.pdf", courses([]), "none")
    with pytest.raises(UserError, match="cannot be written"):
        write_chart(tmp_path / "nowhere" / "x.svg", courses([]), "none")
