"""Writes where the marks of a head lie in space on the average, and how sitters differ (`make
places`): heads of the model with many faces, looked at from no side at all.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
from tools.typical_places import build_by_chance, principal, rounded, write

from bralto.core.heads.average_head import FOLDER
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.landmarks import Landmark3D, landmarks_of, viewed
from bralto.core.mannequin.body.sculpt import HAIR
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.setting import default_setting
from bralto.core.views.shipped_views import view_named

TARGET = Path(__file__).parents[1] / "src/bralto/core/heads" / FOLDER

MANY = 600
_WAYS = 9
"""As many as a face of the model has factors."""


def marks_of(view_key: str) -> tuple[Landmark3D, ...]:
    """The marks of a view that the head carries; the neck goes its own way."""
    keys = tuple(mark.key for mark in view_named(view_key).landmarks)
    found = landmarks_of(view_key, keys, "l")
    return tuple(one for one in found if one.part in {"head", HAIR})


def places(marks: tuple[Landmark3D, ...], build: Build) -> np.ndarray:
    """(n, 3) marks about the head's joint, heads."""
    head = bust(replace(default_setting("head"), build=build, hair=True))
    origin = head.world("head", np.zeros(3))
    return np.array([head.world(one.part, one.on_figure(head).at) - origin for one in marks])


def kept(view_key: str) -> dict[str, object]:
    """What is written of a view."""
    rng = np.random.default_rng(20261128)
    marks = marks_of(view_key)
    found = np.array([places(marks, build_by_chance(rng)).ravel() for _ in range(MANY)])
    mean, ways = principal(found, _WAYS)
    return {
        "marks": [one.key for one in marks],
        "hair": [one.key for one in marks if one.part == HAIR],
        "mean": rounded(mean),
        "ways": [rounded(row) for row in ways],
    }  # fmt: skip


if __name__ == "__main__":
    TARGET.mkdir(exist_ok=True)
    for one in viewed():
        if not one.startswith("head"):
            continue
        write(TARGET / f"{one}.json", kept(one))
