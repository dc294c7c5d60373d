"""A sitter by chance, for who practises to sight: another body each time, in another pose."""

from __future__ import annotations

import numpy as np

from bralto.core.mannequin.body.builds import build_named
from bralto.core.mannequin.posing.poses import named_poses, pose_by_chance
from bralto.core.mannequin.setting import Setting, set_up

__all__ = ["sitter_by_chance"]

_BUILDS = ("seven-and-a-half", "eight", "antique", "broad", "slender")
"""Grown people, of 7.3 to 8 heads."""

_HARDEST = 4
"""Of poses, so that most of what is asked for is in sight."""


def sitter_by_chance(seed: int) -> Setting:
    """The same for the same seed: one of two stands as chance has it, the others are named poses,
    also of those who sit, kneel or lie."""
    rng = np.random.default_rng([seed, 19])
    build = _BUILDS[int(rng.integers(len(_BUILDS)))]
    if rng.random() < 0.5:
        hard = int(rng.integers(1, _HARDEST + 1))
        chosen = build_named(build)
        return Setting("figure", chosen, pose_by_chance(chosen, hard, int(rng.integers(2**31))))
    named = [one.key for one in named_poses().values() if one.hard <= _HARDEST]
    return set_up(named[int(rng.integers(len(named)))], build)
