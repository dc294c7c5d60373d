"""How a model is placed before who draws it from life."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["Stance"]


class Stance(StrEnum):
    """How the model is placed before who draws it; a value is what a study's file says.

    One that stands or sits in a view from the side faces the viewer's left, one that lies has its
    head there, unless it is to the `right`.
    """

    STANDING = "standing"
    STANDING_RIGHT = "standing-right"
    SEATED = "seated"
    SEATED_RIGHT = "seated-right"
    LYING = "lying"
    LYING_RIGHT = "lying-right"

    @property
    def is_right(self) -> bool:
        """Whether it is the mirror image of how the typical places are kept."""
        return self.value.endswith("-right")

    @property
    def is_lying(self) -> bool:
        """Whether the body lies across the picture: heights tell little, lengths across much."""
        return self in {Stance.LYING, Stance.LYING_RIGHT}

    @property
    def facing_left(self) -> Stance:
        """The same with what is to the right turned to the left: as the places are kept."""
        return Stance(self.value.removesuffix("-right"))
