"""A turntable: what only turns is sorted once, and looks as if it had been sorted anew."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.setting import Setting, default_setting
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.picture import preview, render
from bralto.stand.model.stage import Stage


def turned(setting: Setting, degrees: float) -> Setting:
    return replace(setting, pose=setting.pose.with_turns({STAND: degrees}))


@pytest.fixture
def built(monkeypatch: pytest.MonkeyPatch) -> list[Caster]:
    """Every caster whose mesh was sorted."""
    found: list[Caster] = []
    plain = Caster.__init__

    def counted(self: Caster, mesh: object) -> None:
        found.append(self)
        plain(self, mesh)

    monkeypatch.setattr(Caster, "__init__", counted)
    return found


@pytest.mark.parametrize("subject", ["head", "figure"])
@pytest.mark.parametrize("draw", [preview, render])
def test_a_turned_stand_looks_as_if_it_were_sorted_anew(
    subject: str, draw: object, built: list[Caster]
) -> None:
    first = Stage.of(turned(default_setting(subject), 20.0), COARSE)
    last = first
    for degrees in (35.0, -140.0):
        setting = turned(default_setting(subject), degrees)
        count = len(built)
        last = Stage.of(setting, COARSE, last)
        assert len(built) == count  # not even where it had been turned before
        anew = Stage.of(setting, COARSE)
        here, there = (draw(one, one.view(120, 160)) for one in (last, anew))
        # Rays are turned in singles: a pixel of a rim may see another part, no more.
        assert np.mean(here.owner != there.owner) < 0.002
        apart = np.abs(here.pixels.astype(int) - there.pixels.astype(int)).max(axis=2)
        assert np.mean(apart > 3) < 0.004
        assert np.mean(first.caster.mesh.points != last.caster.mesh.points) > 0.5


def test_what_moves_otherwise_is_sorted_anew(built: list[Caster]) -> None:
    setting = default_setting("figure")
    first = Stage.of(setting, COARSE)
    bent = replace(setting, pose=setting.pose.with_turns({"elbow_r.bend": 70.0}))
    count = len(built)
    found = Stage.of(bent, COARSE, first)
    assert len(built) == count + 1
    assert found.caster.turned(first.caster.mesh) is None
    # Another thing altogether, or the same in finer cells, is not taken for it either.
    assert first.caster.turned(Stage.of(default_setting("head"), COARSE).caster.mesh) is None
