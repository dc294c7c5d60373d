"""The skeleton as data: joints, what hangs from them, how far each turns and who says so."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["SIDES", "Joint", "Turn", "data_file", "data_path", "joints", "turns"]

SIDES = ("r", "l")
"""The model's own right and left."""

_MIRROR = np.array([-1.0, 1.0, 1.0])


@dataclass(frozen=True, slots=True, eq=False)
class Turn:
    """One way in which a joint turns.

    Attributes:
        key: `JOINT.NAME`, as it stands in a pose.
        label: what a greater value does, in words.
        axis: (3,) unit array in the parent's part, right-hand rule.
        twist: whether it turns about the part's own length, after the swing.
        low, high: limits, degrees; ``source`` says whose.
    """

    key: str
    label: str
    axis: Floats
    twist: bool
    low: float
    high: float
    source: str


@dataclass(frozen=True, slots=True, eq=False)
class Joint:
    """A joint and the part that hangs from it.

    Attributes:
        key: with `_r` or `_l` where it is paired; ``part`` is the key of what hangs from it.
        parent: key of the joint whose part it lies in, None for the pelvis.
        at: (3,) array, heads, in the parent's part at 7 1/2 heads, before any proportions.
    """

    key: str
    part: str
    parent: str | None
    at: Floats
    turns: tuple[Turn, ...]


def data_file(name: str) -> dict[str, Any]:
    """A TOML file of this package."""
    return tomllib.loads(data_path(name).read_text(encoding="utf-8"))


def data_path(name: str) -> Path:
    """Where it lies."""
    return Path(__file__).parents[1] / "data" / name


@lru_cache(maxsize=1)
def joints() -> tuple[Joint, ...]:
    """All joints, each after the one it hangs from."""
    found: list[Joint] = []
    for entry in data_file("joints.toml")["joint"]:
        sides = SIDES if entry.get("paired") else (None,)
        found += [_joint(entry, side) for side in sides]
    place = {joint.key: i for i, joint in enumerate(found)}
    depth: dict[str | None, int] = {None: -1}
    for joint in found:  # a parent stands before its children in the file
        depth[joint.key] = depth[joint.parent] + 1
    return tuple(sorted(found, key=lambda j: (depth[j.key], place[j.key])))


@lru_cache(maxsize=1)
def turns() -> dict[str, Turn]:
    """Every way to turn by its key, in the order of the joints."""
    return {turn.key: turn for joint in joints() for turn in joint.turns}


def _joint(entry: dict[str, Any], side: str | None) -> Joint:
    end = f"_{side}" if side else ""
    at = np.array(entry["at"], dtype=float)
    parent = entry.get("parent")
    return Joint(
        key=entry["key"] + end,
        part=entry.get("part", entry["key"]) + end,
        parent=parent and parent.replace("_*", end),
        at=at * _MIRROR if side == "r" else at,
        turns=tuple(_turn(entry["key"] + end, one, side) for one in entry["turn"]),
    )


def _turn(joint: str, entry: dict[str, Any], side: str | None) -> Turn:
    axis = np.array(entry["axis"], dtype=float)
    # A mirrored rotation keeps its axis's part across the mirror and turns the others round.
    axis = axis * -_MIRROR if side == "r" else axis
    low, high = entry["range"]
    twist = bool(entry.get("twist", False))
    return Turn(f"{joint}.{entry['name']}", entry["label"], axis, twist, low, high, entry["source"])
