"""Lengths in mm and in inches; by hand, an inch is 25.4 mm (1959)."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from bralto.core.words.lengths import WAYS, bare_length, in_force, length, mm_of, say_in, size


@pytest.fixture(autouse=True)
def _mm_afterwards() -> Iterator[None]:
    yield
    say_in("mm")


@pytest.mark.parametrize(
    ("mm", "said"),
    [(0.0, "0 in"), (25.4, "1 in"), (3.175, "1/8 in"), (1.5875, "1/16 in"), (215.9, "8 1/2 in"),
     (6.0, "1/4 in"), (0.5, "under 1/16 in"), (-3.175, "−1/8 in"), (24.9, "1 in"),
     (14.2875, "9/16 in")],
)  # fmt: skip
def test_sixteenths_as_on_a_ruler(mm: float, said: str) -> None:
    say_in("sixteenths")
    assert length(mm) == said


def test_decimals_are_as_fine_as_the_mm_they_stand_for() -> None:
    assert (length(6.4), length(6.44, 1), length(-0.3, 1)) == ("6 mm", "6.4 mm", "−0.3 mm")
    assert (length(-0.3), length(-0.04, 1)) == ("0 mm", "0.0 mm")
    say_in("in")
    assert (length(6.4), length(6.4, 1)) == ("0.25 in", "0.252 in")
    assert size(215.9, 279.4) == "8.50 × 11.00 in"


def test_what_is_typed_is_understood_and_nonsense_is_not() -> None:
    assert (mm_of("12.5"), mm_of("12,5 mm"), mm_of("x"), mm_of("")) == (12.5, 12.5, None, None)
    assert mm_of("−0.3 mm") == -0.3
    for way in WAYS:  # a unit that is typed holds in each: *8 in* was 8 mm, *200 mm* 200 inches
        say_in(way)
        for typed, mm in (("8 in", 203.2), ('8 1/2"', 215.9), ("3 inches", 76.2), ("30cm", 300.0),
                          ("200 mm", 200.0), ("12,5 CM", 125.0)):  # fmt: skip
            assert mm_of(typed) == pytest.approx(mm), (way, typed)
        for typed in ("in", "8 ft", "8 in 3", "cm 8", "1/0 cm"):
            assert mm_of(typed) is None, typed
    for way in ("in", "sixteenths"):
        say_in(way)
        assert mm_of("8 1/2") == pytest.approx(215.9)
        assert mm_of("0.25 in") == pytest.approx(6.35)
        assert mm_of("1/0") is None
        assert mm_of("9e999") is None


@pytest.mark.parametrize("way", WAYS)
def test_what_is_said_is_what_is_typed_within_half_a_step(way: str) -> None:
    say_in(way)
    step = {"mm": 0.05, "in": 0.0127, "sixteenths": 25.4 / 32}[way]
    for i in range(2, 400):
        mm = 1.37 * i
        assert mm_of(bare_length(mm, 1)) == pytest.approx(mm, abs=step + 1e-9)


def test_an_unknown_way_is_mm() -> None:
    say_in("furlongs")
    assert in_force() == "mm"
