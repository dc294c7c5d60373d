"""Head and neck alone, on a plinth."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bralto.core.mannequin.kinematics import Posed, posed
from bralto.core.mannequin.sculpt import HAIR
from bralto.core.mannequin.setting import Setting
from bralto.core.mannequin.standing import lowest

__all__ = ["PLINTH", "bust"]

PLINTH = 0.25
"""Height of the plinth under the neck, heads."""

_SUNK = 0.05
"""How far the neck reaches into it, heads."""


def bust(setting: Setting) -> Posed:
    """Head and neck as a setting has them, with the hair where it is worn; over the origin.

    Of the pose only what head and neck do is taken.
    """
    kept = {k: v for k, v in setting.pose.turns.items() if setting.takes(k)}
    pose = replace(setting.pose, turns=kept, prop="")
    found = posed(setting.build, pose, "head").only(("head", "neck"))
    if setting.hair:
        found = found.with_part(HAIR, "head")
    neck = found.places["neck"]
    up = PLINTH - _SUNK - lowest(found, ["neck"])
    return found.moved(np.array([-neck[0], up, -neck[2]]))
