"""The demo's library: what was drawn before the evening class comes as marks, the newest whole."""

from __future__ import annotations

from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.core.session.notes import notes_of
from bralto.stand.half_year import half_year_orders
from bralto.store import demo_library
from bralto.store.demo_library import fill_with_demo
from bralto.store.library import LATE, Library


def test_the_newest_have_their_pictures_and_the_others_an_order_for_them(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    orders = (("figure", 0), ("figure", 6))  # the second tries again what the first drew
    monkeypatch.setattr(demo_library, "demo_orders", lambda: orders)
    monkeypatch.setattr(demo_library, "half_year_orders", lambda: half_year_orders()[:2])
    monkeypatch.setattr(demo_library, "AT_ONCE", 1)
    fill_with_demo(tmp_path / "library", seed=3, half_year=True)
    with Library.open(tmp_path / "library") as library:
        stored = {one.id: one for one in library.studies()}
        newest, *others = sorted(stored.values(), key=lambda one: one.made, reverse=True)
        assert (len(others), set(library.awaiting_media())) == (3, {one.id for one in others})
        assert set(newest.media) == {"", newest.study.states[0].name}
        assert notes_of(newest.study).again_of in stored
        assert (
            newest.study.title.split(",")[0]
            == (stored[notes_of(newest.study).again_of].study.title.split(",")[0])
        )
        asked = [one.study.extra[LATE] for one in others]
        assert {(one["kind"], one["number"], one["seed"]) for one in asked} == {
            ("half year", 0, 3), ("half year", 1, 3), ("figure", 0, 3),
        }  # fmt: skip


def test_what_is_no_folder_is_not_filled(tmp_path: Path) -> None:
    (tmp_path / "library").write_text("no folder")
    with pytest.raises(UserError):
        fill_with_demo(tmp_path / "library")
