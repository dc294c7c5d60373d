"""A pose: how far every joint is turned, in degrees, within what a body can do."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from bralto.core.errors import UserError
from bralto.core.mannequin.body.joints import turns

__all__ = ["PROPS", "STAND", "Pose", "mirrored"]

STAND = "pelvis.turn"
"""Key of the turntable's turn: all else of a pose is the figure's own."""

PROPS = ("", "box")
"""What a figure may rest on besides the ground: a box under the pelvis."""


@dataclass(frozen=True, slots=True)
class Pose:
    """Angles in degrees by `JOINT.NAME`; what is not named is 0, the figure standing at rest.

    Attributes:
        prop: one of `PROPS`.
    """

    turns: Mapping[str, float] = field(default_factory=dict)
    title: str = ""
    prop: str = ""

    def __post_init__(self) -> None:
        object.__setattr__(self, "turns", MappingProxyType(dict(self.turns)))

    def checked(self) -> Pose:
        """The pose itself, once every value is one that the joint can take.

        Raises:
            UserError: a joint is unknown, or turned further than a body can.
        """
        for key, value in self.turns.items():
            turn = turns().get(key)
            if turn is None:
                raise UserError(
                    f"the figure has no joint '{key}'; `bralto pose --joints` lists them"
                )
            if not math.isfinite(value) or not turn.low - 1e-6 <= value <= turn.high + 1e-6:
                raise UserError(
                    f"{key} is {value:g}°; "
                    f"a body can turn there from {turn.low:g}° to {turn.high:g}°"
                )
        if self.prop not in PROPS:
            raise UserError(f"there is nothing called '{self.prop}' to rest on; there is a box")
        return self

    def with_turns(self, values: Mapping[str, float]) -> Pose:
        """A copy with some joints turned otherwise, each held within its limits."""
        held = {k: min(max(v, turns()[k].low), turns()[k].high) for k, v in values.items()}
        return replace(self, turns={**self.turns, **held})

    def __getitem__(self, key: str) -> float:
        return self.turns.get(key, 0.0)


def mirrored(pose: Pose) -> Pose:
    """The pose as in a looking glass: left and right exchanged, leaning the other way."""
    values = {}
    for key, value in pose.turns.items():
        joint, name = key.split(".")
        if joint.endswith(("_r", "_l")):
            joint = joint[:-1] + ("l" if joint.endswith("_r") else "r")
            values[f"{joint}.{name}"] = value
        else:
            values[key] = -value if name in {"turn", "list", "lean", "twist"} else value
    return replace(pose, turns=values)
