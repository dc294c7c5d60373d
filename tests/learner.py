"""Known faults put into the flat puppet (`stand.model.habits` has a learner for the figure).

The faults are those that teachers name first (common practice, no source): the head too big, the
legs too short, the tilts straightened, the whole too wide; and a hand that misses a little.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace

import numpy as np

from bralto.core.arrays import Floats
from tests.puppet import Pose, landmarks, scale_part

__all__ = ["Faults", "draw_body"]


@dataclass(frozen=True, slots=True)
class Faults:
    """What a learner does to a pose.

    Attributes:
        parts: factor by which each part comes out (`puppet.PARTS_BELOW`).
        tilts: share of every tilt that is drawn; below 1 the pose is straightened.
        width: factor on all widths.
        miss: SD of the hand's miss at each mark, in heads.
    """

    parts: Mapping[str, float] = field(default_factory=dict)
    tilts: float = 1.0
    width: float = 1.0
    miss: float = 0.0

    def document(self) -> dict[str, object]:
        """The faults as plain data, to stand in a study file."""
        return asdict(self)


def draw_body(pose: Pose, faults: Faults, seed: int) -> dict[str, Floats]:
    """The body as the learner draws it, in heads of the reference."""
    rng = np.random.default_rng(seed)
    straight = replace(
        pose,
        hips=pose.hips * faults.tilts,
        shoulders=pose.shoulders * faults.tilts,
        head=pose.head * faults.tilts,
        lean=pose.lean * faults.tilts,
    )
    body = landmarks(straight)
    for part, factor in faults.parts.items():
        body = scale_part(body, part, factor)
    stretch = np.array([faults.width, 1.0])
    return {key: stretch * xy + rng.normal(0.0, faults.miss, 2) for key, xy in body.items()}
