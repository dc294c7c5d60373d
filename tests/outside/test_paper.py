"""Paper sizes against Qt's own table of ISO 216 and ANSI sizes (`QPageSize`)."""

from __future__ import annotations

import pytest
from PyQt6.QtGui import QPageSize

from bralto.core.errors import UserError
from bralto.core.page.page_plan import PAPERS, paper_size

# checks.md, section G: ISO 216 allows 1.5 mm up to 150 mm and 2 mm up to 600 mm; Qt rounds less.
IDS = {
    "A5": QPageSize.PageSizeId.A5, "A4": QPageSize.PageSizeId.A4, "A3": QPageSize.PageSizeId.A3,
    "A2": QPageSize.PageSizeId.A2, "Letter": QPageSize.PageSizeId.Letter,
    "Tabloid": QPageSize.PageSizeId.Tabloid, "A1": QPageSize.PageSizeId.A1,
    "B4": QPageSize.PageSizeId.B4, "B3": QPageSize.PageSizeId.B3,
}  # fmt: skip


@pytest.mark.parametrize("name", list(IDS))
def test_papers_are_those_of_the_standards(name: str) -> None:
    size = QPageSize.size(IDS[name], QPageSize.Unit.Millimeter)
    assert sorted(paper_size(name.lower())) == pytest.approx(
        sorted((size.width(), size.height())), abs=0.5
    )


def test_iso_sheets_are_the_root_of_two_and_halve_into_each_other() -> None:
    """ISO 216: height : width = sqrt 2, and each size is the next larger one cut in half."""
    for larger, smaller in (("A2", "A3"), ("A3", "A4"), ("A4", "A5")):
        big, small = PAPERS[larger], PAPERS[smaller]
        assert big[1] / big[0] == pytest.approx(2**0.5, abs=0.006)
        assert small[1] == pytest.approx(big[0], abs=0.5)
        assert small[0] == pytest.approx(big[1] / 2, abs=0.5)


@pytest.mark.parametrize("name", [one for one in PAPERS if one not in IDS])
def test_pads_are_as_large_as_they_are_called(name: str) -> None:
    """As sold (common practice, no source); an inch is 25.4 mm (1959)."""
    wide, high, unit = name.replace("x", " ").split()
    mm = {"in": 25.4, "cm": 10.0}[unit]
    assert PAPERS[name] == pytest.approx((float(wide) * mm, float(high) * mm))
    assert paper_size(name.replace(" ", "").upper()) == PAPERS[name]


def test_a_paper_of_ones_own_lies_upright_and_nonsense_is_refused() -> None:
    assert paper_size("400 x 300 mm") == (300.0, 400.0)
    assert paper_size("12x16in") == pytest.approx((304.8, 406.4))
    assert paper_size("35 × 25 cm") == (250.0, 350.0)
    for bad in ("B9", "0x300", "9999x9999", "x", "-3x4"):
        with pytest.raises(UserError, match=r"paper"):
            paper_size(bad)
