"""What the models of files share: they keep what they do not know, and bound what they do."""

from __future__ import annotations

from typing import Annotated

from pydantic import ConfigDict, Field, FiniteFloat

from bralto.core.tolerances import FARTHEST_PX

__all__ = ["OPEN", "Coordinate", "Point", "Positive", "Words"]

_WORDS = 300

Words = Annotated[str, Field(max_length=_WORDS)]
Coordinate = Annotated[FiniteFloat, Field(ge=-FARTHEST_PX, le=FARTHEST_PX)]
Positive = Annotated[FiniteFloat, Field(gt=0, le=FARTHEST_PX)]
Point = tuple[Coordinate, Coordinate]

OPEN = ConfigDict(extra="allow", allow_inf_nan=False)
"""Of a model that keeps keys it does not know, so that a round trip loses nothing."""
