"""What a study of the model knows of its limbs: lengths in space, so foreshortening is no guess."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from bralto.core.study import Study

__all__ = ["MODEL", "KnownLength", "known_lengths"]

MODEL = "model"
"""Key of a study's extra data that holds what only the model knows."""


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
