"""How long a figure is looked for: where a sighting is wrong, and where nothing suits anything."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
from tests.core.sightings.sitters import by_chance, implied, posed
from tests.core.sightings.test_any_sightings import wild

from bralto.core.sightings.figure import implied as implying
from bralto.core.sightings.figure import most_likely
from bralto.core.sightings.figure.known_before import Effort, Known, Prior, prior_of, usable
from bralto.core.sightings.stance import likelier_stance
from bralto.core.study.anchored import placed
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance

FRONT = view_named("figure-front")
SEATED = placed(FRONT, Stance.SEATED)

_OFTEN = 150
"""Times that a figure may be reckoned where 14 were sighted of one that sits."""


@pytest.fixture
def reckoned(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """One entry each time that all which is known is made linear about some marks."""
    times: list[int] = []
    really: Callable[[Known, np.ndarray], most_likely.Step] = most_likely.linear

    def counted(known: Known, at: np.ndarray) -> most_likely.Step:
        times.append(1)
        return really(known, at)

    for module in (most_likely, implying):
        monkeypatch.setattr(module, "linear", counted)
    return times


def turned_about(items: tuple[Sighting, ...]) -> tuple[Sighting, ...]:
    """The first tilt read off the wrong way."""
    row = next(i for i, one in enumerate(items) if one.sort is Sort.TILT)
    wrong = replace(items[row], value=-items[row].value)
    return (*items[:row], wrong, *items[row + 1 :])


def test_a_tilt_the_wrong_way_is_no_reason_to_look_for_every_limb_elsewhere(
    reckoned: list[int],
) -> None:
    """It took 738 reckonings: both ends of the line that is tilted fell together on the way, and
    from there no shorter step led on."""
    implied(SEATED, turned_about(by_chance(SEATED, posed("kneeling"), 14, 0)))
    assert len(reckoned) < _OFTEN


def test_what_is_sound_is_found_soon(reckoned: list[int]) -> None:
    """It took 662, and the figure suited the sightings half as well again."""
    found = implied(SEATED, by_chance(SEATED, posed("kneeling"), 14, 5))
    assert len(reckoned) < _OFTEN
    away = found.residuals / np.array([one.u for one in found.items])
    assert np.sqrt(np.mean(away**2)) < 0.18


@pytest.mark.parametrize("seed", range(4))
def test_of_one_that_kneels_no_sound_list_suits_one_that_lies(seed: int) -> None:
    items = by_chance(SEATED, posed("kneeling"), 14, seed)
    assert likelier_stance(SEATED, items) is None  # of the third it was asked


@pytest.mark.parametrize("many", [40, 200])
def test_nonsense_is_not_looked_into_for_ever(many: int, reckoned: list[int]) -> None:
    """A file may hold 200 sightings of which none was taken of anybody: that took 35 seconds."""
    view = placed(FRONT, Stance.LYING)
    rng = np.random.default_rng(many)
    found = implied(view, tuple(wild(view, rng) for _ in range(many)))
    assert np.isfinite(found.marks.xy).all()
    assert len(reckoned) * many < 40_000


@pytest.mark.parametrize(
    ("view", "pose", "seed"),
    [
        (FRONT, "at-rest", 0),
        (FRONT, "at-rest", 1),
        (SEATED, "kneeling", 0),
        (SEATED, "kneeling", 1),
    ],
)
def test_a_row_for_each_sighting_and_one_for_each_mark_settle_at_the_same_marks(
    view: View, pose: str, seed: int
) -> None:
    """Few sightings are solved by a matrix as large as they are many (Tarantola 2005, Inverse
    Problem Theory, 3.4: both forms are one); where it ends, least squares over all rows, typical
    places and all, move nothing on either."""
    items = by_chance(view, posed(pose), 14, seed)
    prior = prior_of(view)
    assert isinstance(prior, Prior)
    known, _, scale = usable(view, prior, items, Effort())
    assert known.asked.are_few
    start = np.append(prior.mean, scale)
    at, step = most_likely.settled(known, start)
    assert np.abs(at - start).max() > 0.5
    assert np.abs(most_likely.change_of(step)).max() < 1e-3
    many = tuple(replace(one, u=2.0 * one.u) for one in items) * 4  # as sure, four times
    often, _, _ = usable(view, prior, many, Effort())
    assert not often.asked.are_few
    again, _ = most_likely.settled(often, start)
    assert again == pytest.approx(at, abs=1e-3)
