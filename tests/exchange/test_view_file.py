"""A learner's view from a file."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.exchange.view_file import read_own_view

ARM = (resources.files("bralto.core.views") / "data/arm.toml").read_text("utf-8")


def test_a_file_that_is_not_there_or_no_text_is_refused(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="no such file"):
        read_own_view(tmp_path / "none.toml")
    bad = tmp_path / "bad.toml"
    bad.write_bytes(b"\xff\xfe")
    with pytest.raises(UserError, match="not UTF-8"):
        read_own_view(bad)
    good = tmp_path / "good.toml"
    good.write_text(ARM.replace('key = "arm"', 'key = "mine"', 1), "utf-8")
    assert read_own_view(good).title == "Arm"
