"""What a study of the model knows of its limbs: lengths in space, so foreshortening is no guess."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from bralto.core.discover.levels import Standpoint
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build, build_named
from bralto.core.mannequin.setting import DEFAULT_BUILD
from bralto.core.study.values import Study

__all__ = [
    "MODEL", "QUICK_S", "KnownLength", "camera_of", "is_quick", "known_lengths", "standpoint_of",
]  # fmt: skip

MODEL = "model"
"""Key of a study's extra data that holds what only the model knows."""


QUICK_S = 120.0
"""Seconds in which a pose can be caught and nothing of it measured (common practice, no source)."""


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


def camera_of(model: Mapping[str, Any]) -> tuple[Mapping[str, Any], Build]:
    """The camera of a study of the model as it is written down, and the figure's proportions.

    Raises:
        KeyError, TypeError, ValueError, UserError: the data are damaged.
    """
    setting = model["setting"]
    build = setting["build"]
    if isinstance(build, Mapping):
        return setting["camera"], build_named(DEFAULT_BUILD).with_figures(**build)
    return setting["camera"], build_named(build)


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
        places, (camera, build) = model["places"], camera_of(model)  # type: ignore[index, arg-type]
        crown, chin = (float(places[key][1]) for key in ("crown", "chin"))
        heads, level = (float(camera[name]) / build.head_m for name in ("distance_m", "eye_m"))
        eye = (crown - level) / (crown - chin)
        known = math.isfinite(heads) and math.isfinite(eye) and heads > 0.0 and crown > chin
        upright = float(camera.get("tilt_deg", 0.0)) == 0.0  # else no height is seen as it is
        return Standpoint(heads, eye if upright else None) if known else None
    except (
        KeyError, TypeError, ValueError, IndexError, ArithmeticError, AttributeError, UserError,
    ):  # fmt: skip
        return None
