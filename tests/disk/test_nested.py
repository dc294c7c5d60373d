"""Documents that are nested deeper than anything that walks through them may call itself."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from bralto.disk.nested import is_deep
from bralto.ui.settings import Settings


def nested(levels: int) -> str:
    return "[" * levels + "]" * levels


@pytest.mark.parametrize(("levels", "deep"), [(1, False), (100, False), (101, True), (900, True)])
def test_more_than_a_hundred_levels_are_deep(levels: int, deep: bool) -> None:
    assert is_deep(json.loads(nested(levels))) is deep
    tables = json.loads('{"a":' * (levels - 1) + "{}" + "}" * (levels - 1))
    assert is_deep(tables) is deep


@pytest.mark.parametrize("plain", [None, 3, "[[[[", {}, [], {"a": [1, {"b": []}]}])
def test_what_is_flat_is_not(plain: object) -> None:
    assert not is_deep(plain)


def test_settings_that_could_not_be_written_again_count_as_none(tmp_path: Path) -> None:
    """What writes them calls itself for each level."""
    kept = tmp_path / "settings.json"
    kept.write_text(f'{{"step_back_min": 30, "own": {nested(700)}}}')
    found = Settings(tmp_path)
    assert found.step_back_min != 30
    found.set_step_back_min(9)
    assert found.refused == ""
    assert Settings(tmp_path).step_back_min == 9
