"""What is planned for a sheet holds what the model shows: its outline, not its marks alone."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.arrays import Floats
from bralto.core.mannequin.setting import default_setting
from bralto.core.page.page_extent import Extent, extent_of_marks
from bralto.core.study.values import Picture
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key, view_seen
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.stage import PICTURE, PROPS, Stage


def outline(stage: Stage, px: Floats) -> Floats:
    """(n, 2) px of what is drawn of what stands there, without what it stands on."""
    mesh = stage.caster.mesh
    drawn = [row for row, name in enumerate(mesh.parts) if name not in PROPS]
    return px[np.unique(mesh.faces[np.isin(mesh.owner, drawn)])]


AROUND = (-90.0, -60.0, -30.0, 0.0, 30.0, 60.0, 90.0)
LOOKED_AT = [("head", around, hair) for around in AROUND for hair in (False, True)]
LOOKED_AT += [("hand", around, False) for around in AROUND[2:5]]


@pytest.mark.parametrize(("subject", "around", "hair"), LOOKED_AT)
def test_heads_and_hands_lie_between_the_sides_and_leave_little_of_them(
    subject: str, around: float, hair: bool
) -> None:
    """Looked at from all sides: at most 0.05 head is beyond, and 0.12 is left."""
    setting = default_setting(subject)
    camera = replace(setting.camera, around_deg=around)
    stage = Stage.of(replace(setting, camera=camera, hair=hair), COARSE)
    seen = stage.view(*PICTURE)
    view = view_named(view_seen(stage, seen))
    marks = answer_key(stage, seen, view).study_marks()
    found = extent_of_marks(view, Picture("", *PICTURE, marks))
    assert isinstance(found, Extent)
    assert found.head is not None
    plumb = marks[view.plumb].x
    across = outline(stage, seen.project(stage.caster.mesh.points.astype(float)))[:, 0] - plumb
    for left in (found.left + across.min(), found.right - across.max()):
        assert -0.05 < left / found.head < 0.12
