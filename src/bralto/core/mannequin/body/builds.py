"""Proportions of the figure: named builds, sliders within measured ranges, scales of the parts."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.face import FACE_RANGE, PLAIN, Face
from bralto.core.mannequin.body.joints import SIDES, data_file, joints

__all__ = ["Build", "build_named", "builds", "ranges"]

_LIMBS = ("upper_arm", "forearm", "hand", "fingers", "thigh", "shank", "foot", "toes")


@dataclass(frozen=True, slots=True)
class Build:
    """The proportions of one figure, as shares of its height.

    Attributes:
        heads: heads in the whole height.
        leg: hip joint above the floor; ``arm`` shoulder joint to fingertip.
        shoulders, hips: between the joints of both sides.
        girth: thickness of trunk and limbs against the middling build, 1 = as that.
        height_m: stature, m.
        face: how the face departs from the plain one.
    """

    key: str
    title: str
    heads: float
    leg: float
    arm: float
    shoulders: float
    hips: float
    girth: float
    height_m: float
    source: str = ""
    face: Face = PLAIN

    @property
    def head_m(self) -> float:
        """Height of the head, m."""
        return self.height_m / self.heads

    def with_figures(self, **figures: float) -> Build:
        """A copy with some figures changed, each within its range.

        Raises:
            UserError: a figure is unknown or beyond the measured range.
        """
        for name, value in figures.items():
            if name not in ranges():
                raise UserError(f"proportions: '{name}' is none of {', '.join(ranges())}")
            low, high = ranges()[name]
            if not low <= value <= high:
                raise UserError(
                    f"proportions: {name} {value:g} lies outside its {low:g} to {high:g}"
                )
        own = {"key": "own", "title": "Own proportions", "source": "set by hand"}
        of_face = {k.removeprefix(_FACE): v for k, v in figures.items() if k.startswith(_FACE)}
        of_body = {k: v for k, v in figures.items() if not k.startswith(_FACE)}
        face = replace(self.face, **of_face)
        changed: Build = replace(self, **own, **of_body, face=face)  # type: ignore[arg-type]
        return changed

    def figures(self) -> dict[str, float]:
        """The figures that can be changed, by name; those of the face begin with ``face.``."""
        of_face = {_FACE + name: value for name, value in self.face.figures().items()}
        return {name: float(getattr(self, name)) for name in _body_ranges()} | of_face

    @lru_cache(maxsize=16)  # noqa: B019 - builds are few, small values
    def scales(self) -> dict[str, Floats]:
        """How much every part is stretched against the base build: (3,) array by part.

        Lengths in heads. The head alone is 1; leg and arm keep their inner proportions; what is
        left of the height between hip joint and chin is the trunk.
        """
        made = _written()
        leg = self.leg * self.heads / made["leg"]
        arm = self.arm * self.heads / made["arm"]
        # The trunk ends at the head's joint; the chin, a part of the head, hangs below it.
        above = self.heads - (made["heads"] - made["trunk"] - made["leg"])
        trunk = (above - self.leg * self.heads) / made["trunk"]
        wide = self.shoulders * self.heads / made["shoulders"]
        hips = self.hips * self.heads / made["hips"]
        thick = self.girth * self.heads / made["heads"]
        deep = np.sqrt(thick * wide)
        out = {
            "head": np.ones(3),
            "neck": np.array([np.sqrt(thick), trunk, np.sqrt(thick)]),
            "chest": np.array([wide, trunk, deep]),
            "waist": np.array([np.sqrt(hips * thick), trunk, deep]),
            "pelvis": np.array([hips, trunk, np.sqrt(hips * thick)]),
        }
        for s in SIDES:
            out[f"clavicle_{s}"] = np.array([wide, wide, deep])
            for part in _LIMBS:
                length = leg if part in {"thigh", "shank", "foot", "toes"} else arm
                out[f"{part}_{s}"] = np.array([thick, length, thick])
            for part in ("foot", "toes"):
                out[f"{part}_{s}"] = np.array([thick, leg, leg])
        return out


_FACE = "face."
"""What the names of a face's figures begin with."""

_FINGERS = 0.38
"""Length of the fingers beyond their joint in sculpt.toml, heads."""


@lru_cache(maxsize=1)
def _written() -> dict[str, float]:
    """The lengths in which joints and forms are written down, heads."""
    at = {joint.key: joint.at for joint in joints()}
    down = ("elbow_l", "wrist_l", "fingers_l")
    return {
        "heads": 7.5,
        "leg": float(at["pelvis"][1]),
        "trunk": float(sum(at[key][1] for key in ("waist", "chest", "neck", "head"))),
        "arm": _FINGERS - float(sum(at[key][1] for key in down)),
        "shoulders": 2.0 * float(at["clavicle_l"][0] + at["shoulder_l"][0]),
        "hips": 2.0 * float(at["hip_l"][0]),
    }


@lru_cache(maxsize=1)
def ranges() -> dict[str, tuple[float, float]]:
    """The sliders' ranges by name, those of the body first."""
    return _body_ranges() | {_FACE + name: FACE_RANGE for name in PLAIN.figures()}


@lru_cache(maxsize=1)
def _body_ranges() -> dict[str, tuple[float, float]]:
    return {name: (low, high) for name, (low, high) in data_file("builds.toml")["range"].items()}


@lru_cache(maxsize=1)
def builds() -> dict[str, Build]:
    """All named builds by key."""
    known = {field.name for field in fields(Build)}
    found = {}
    for entry in data_file("builds.toml")["build"]:
        assert set(entry) <= known, entry
        face = Face(**entry.pop("face", {}))
        found[entry["key"]] = Build(**entry, face=face)
    return found


def build_named(key: str) -> Build:
    """The build of that key.

    Raises:
        UserError: there is none.
    """
    try:
        return builds()[key]
    except KeyError:
        raise UserError(f"there is no build '{key}'; there are {', '.join(builds())}") from None
