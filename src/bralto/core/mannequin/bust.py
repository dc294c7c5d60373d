"""Head and neck alone, or the cast of a hand, on a plinth."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bralto.core.mannequin.body.kinematics import Posed, about_plumb, posed
from bralto.core.mannequin.body.sculpt import CAST, HAIR, sculpts
from bralto.core.mannequin.posing.standing import lowest
from bralto.core.mannequin.setting import Setting

__all__ = ["PLINTHS", "bust", "cast"]

PLINTHS = {"head": (0.42, 0.25), "hand": (0.22, 0.12)}
"""Of what stands on a plinth, half its width and its height, heads."""

_SUNK = 0.05
"""How far neck or wrist reaches into it, heads."""


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
    up = PLINTHS["head"][1] - _SUNK - lowest(found, ["neck"])
    return found.moved(np.array([-neck[0], up, -neck[2]]))


def cast(setting: Setting) -> Posed:
    """The cast of a hand; of a setting only the turntable bears on it."""
    floor = sculpts()[CAST].floor
    assert floor is not None
    place = np.array([0.0, PLINTHS["hand"][1] - _SUNK - floor, 0.0])
    turned = {CAST: about_plumb(setting.turn_deg)}
    return Posed(setting.build, setting.pose, turned, {CAST: place}, {CAST: np.ones(3)})
