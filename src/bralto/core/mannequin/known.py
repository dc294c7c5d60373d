"""What a study of the model knows of its limbs: lengths in space, so foreshortening is no guess."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.levels import Standpoint
from bralto.core.errors import UserError
from bralto.core.mannequin.builds import build_named
from bralto.core.study import Study

__all__ = [
    "MODEL", "QUICK_S", "InSpace", "KnownLength", "heads_in_picture", "is_quick",
    "known_lengths", "stand_of", "standpoint_of",
]  # fmt: skip

MODEL = "model"
"""Key of a study's extra data that holds what only the model knows."""


QUICK_S = 120.0
"""Seconds in which a pose can be caught and nothing of it measured (common practice, no source)."""


class InSpace(NamedTuple):
    """A landmark of the model as the eye has it: ``x`` to its right and ``y`` up from the ground
    on the upright picture plane through the stand's middle, heads of the model; ``nearer``, how
    many times as large as there all is that lies where it does."""

    x: float
    y: float
    nearer: float


@dataclass(frozen=True, slots=True)
class KnownLength:
    """A span known in space.

    Attributes:
        full: heads; ``apparent`` as it appears at the stand's distance, heads.
        slant: degrees out of the picture plane, + towards the eye.
    """

    full: float
    apparent: float
    slant: float

    @property
    def ratio(self) -> float:
        """Apparent to full: above 1 where the span is nearer than the stand's middle."""
        return self.apparent / self.full


def known_lengths(study: Study) -> dict[str, KnownLength]:
    """Spans by id; none where the reference is no model, or its data are damaged."""
    model = study.extra.get(MODEL)
    lengths = model.get("lengths") if isinstance(model, Mapping) else None
    if not isinstance(lengths, Mapping):
        return {}
    found = {}
    for key, one in lengths.items():
        try:
            values = [float(one[name]) for name in ("full", "apparent", "slant_deg")]
        except (KeyError, TypeError, ValueError):
            continue
        if values[0] > 0.0:
            found[str(key)] = KnownLength(*values)
    return found


def stand_of(study: Study) -> dict[str, InSpace]:
    """Where every landmark of the model lies before the eye; empty where the reference is no model,
    its camera is tilted (no height is seen as it is then), or its data are damaged."""
    try:
        model = study.extra[MODEL]
        camera, head_m = _camera(model)
        if float(camera.get("tilt_deg", 0.0)) != 0.0:
            return {}
        way, eye = math.radians(float(camera["around_deg"])), float(camera["eye_m"]) / head_m
        far, c, s = float(camera["distance_m"]) / head_m, math.cos(way), math.sin(way)
        found = {}
        for key, at in model["places"].items():  # type: ignore[index]
            x, y, z = (float(value) for value in at)
            nearer = far / (far - s * x - c * z)
            one = InSpace((c * x - s * z) * nearer, eye + (y - eye) * nearer, nearer)
            if not all(map(math.isfinite, one)) or nearer <= 0.0:
                return {}
            found[str(key)] = one
        return found
    except (
        KeyError,
        TypeError,
        ValueError,
        IndexError,
        ArithmeticError,
        AttributeError,
        UserError,
    ):
        return {}


def heads_in_picture(stand: Mapping[str, InSpace], keys: Sequence[str], heads: Floats) -> float:
    """How many heads of a picture are as long in it as one of the model: its own may be
    foreshortened, as of one who looks up, so all marks tell.

    Args:
        keys, heads: marks of the picture, and their (n, 2) places in its heads; those that
            ``stand`` has count.
    """
    rows = [row for row, key in enumerate(keys) if key in stand]
    places = np.array([(stand[keys[row]].x, stand[keys[row]].y) for row in rows]).reshape(-1, 2)
    extent = float(np.ptp(places, axis=0).max()) if len(rows) > 1 else 0.0
    return float(np.ptp(heads[rows], axis=0).max()) / extent if extent > 0.0 else 1.0


def _camera(model: object) -> tuple[Mapping[str, Any], float]:
    """The camera of a study of the model as it is written down, and a head's height, m."""
    setting = model["setting"]  # type: ignore[index]
    build = setting["build"]
    if isinstance(build, Mapping):
        return setting["camera"], float(build["height_m"]) / float(build["heads"])
    return setting["camera"], build_named(build).head_m


def is_quick(study: Study) -> bool:
    """Whether it is a pose of the model that was shown for two minutes at most."""
    model = study.extra.get(MODEL)
    setting = model.get("setting") if isinstance(model, Mapping) else None
    seconds = setting.get("seconds") if isinstance(setting, Mapping) else None
    if isinstance(seconds, bool) or not isinstance(seconds, int | float):
        return False
    return 0.0 < seconds <= QUICK_S


def standpoint_of(study: Study) -> Standpoint | None:
    """From where the model's head was seen; None where the reference is no head of the model, or
    its data are damaged."""
    model = study.extra.get(MODEL)
    try:
        places, (camera, head_m) = model["places"], _camera(model)  # type: ignore[index]
        crown, chin = (float(places[key][1]) for key in ("crown", "chin"))
        heads, level = (float(camera[name]) / head_m for name in ("distance_m", "eye_m"))
        eye = (crown - level) / (crown - chin)
        known = math.isfinite(heads) and math.isfinite(eye) and heads > 0.0 and crown > chin
        upright = float(camera.get("tilt_deg", 0.0)) == 0.0  # else no height is seen as it is
        return Standpoint(heads, eye if upright else None) if known else None
    except (
        KeyError, TypeError, ValueError, IndexError, ArithmeticError, AttributeError, UserError,
    ):  # fmt: skip
        return None
