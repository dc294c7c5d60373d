"""The traits of a study as the JSON that is kept beside it; the record alone reads it."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from typing import Any

from bralto.core.longitudinal.traits.joint_fit import Amount
from bralto.core.longitudinal.traits.study_traits import SeenDrawn, StudyTraits
from bralto.core.results import NotMeasurable

__all__ = ["read_traits_document", "traits_document"]

_DIGITS = 5
"""Significant digits: a tenth of a thousandth of any figure."""


def traits_document(traits: StudyTraits | NotMeasurable) -> str:
    """Traits as JSON; where there are none, why."""
    if isinstance(traits, NotMeasurable):
        return json.dumps({"none": traits.reason})
    body = {
        "sizes": {key: _short((one.value, one.u)) for key, one in traits.sizes.items()},
        "values": {key: _short((one.value, one.u)) for key, one in traits.values.items()},
        "pairs": {
            key: [_short((one.seen, one.drawn, one.u_seen, one.u_drawn)) for one in there]
            for key, there in traits.pairs.items()
        },
        "misses": {key: _short(away) for key, away in traits.misses.items()},
    }
    return json.dumps(body, separators=(",", ":"))


def read_traits_document(document: str) -> StudyTraits | None:
    """The traits of a document, or None where it is none."""
    try:
        body = json.loads(document)
        return StudyTraits(
            _amounts(body["sizes"]),
            _amounts(body["values"]),
            {
                str(key): tuple(SeenDrawn(*_numbers(one, 4)) for one in there)
                for key, there in body["pairs"].items()
            },
            {str(key): _pair(away) for key, away in body["misses"].items()},
        )
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return None


def _short(values: Sequence[float]) -> list[float]:
    return [float(f"{one:.{_DIGITS}g}") for one in values]


def _amounts(kept: Mapping[str, Any]) -> dict[str, Amount]:
    return {str(key): Amount(*_numbers(one, 2)) for key, one in kept.items()}


def _numbers(kept: Any, many: int) -> list[float]:
    found = [float(one) for one in kept]
    if len(found) != many or not all(map(math.isfinite, found)):
        raise ValueError("no such numbers")
    return found


def _pair(kept: Any) -> tuple[float, float]:
    x, y = _numbers(kept, 2)
    return x, y
