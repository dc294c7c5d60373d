"""The limbs of a view, and the order in which a drawing is worked on."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["WORK", "Limb"]

WORK = ("whole", "mass", "girdle", "limb", "end", "feature")
"""The order of work: the whole, the big masses, girdles, limbs, hands and feet, features (common
practice, no source)."""


@dataclass(frozen=True, slots=True)
class Limb:
    """A part with all that hangs from it, as a teacher would have it moved.

    Attributes:
        key: id; a limb's own key is also the ``part`` of a correction.
        label: the part with what hangs from it.
        own: the part alone; the same word where nothing hangs from it.
        parent: the limb it hangs from, or None.
        root: the marks that its joint is made of.
        weights: of those marks in the joint; they sum to 1.
        instead: marks whose middle stands for the joint where one of those is missing, or ().
        marks: its own marks, without those of what hangs from it; the first ends its length.
        span: the two marks whose distance is its width, or () where it has a length instead.
        girdle: turns and widens while what hangs from it keeps its direction.
        rigid: it may be drawn too large or turned as one with all that hangs from it.
        turns: it may be turned by itself; a forehead or a chin is not.
        sized: it may be drawn too large as one; of an upper body that would say the head is small.
        slides: it may stand too far aside on what it hangs from.
        work: where it comes in the order of work, one of `WORK`.
        alone: key of the part alone where it has one of its own, or ''.
        turns_as: key of what turns about its joint with it, or '': a head about the neck.
        pair: key of both sides of it and what they are called, or (); ``own_pair``, of the part
            alone; ``group``, of it and others side by side: the fingers.
        socket: key of the joints by which it and its other side hang, where these may be set too
            high or low, or ''; ``socket_marks`` lie at them.
        apart: of a girdle, what stands too far apart where it is too wide, or ''.
        grows: what it is that is too large: ``longer`` or ``larger``.
    """

    key: str
    label: str
    own: str
    parent: str | None
    root: tuple[str, ...]
    weights: tuple[float, ...]
    marks: tuple[str, ...]
    span: tuple[str, ...] = ()
    girdle: bool = False
    rigid: bool = True
    turns: bool = True
    sized: bool = True
    slides: bool = False
    work: str = "limb"
    alone: str = ""
    turns_as: str = ""
    pair: tuple[str, ...] = ()
    own_pair: tuple[str, ...] = ()
    group: tuple[str, ...] = ()
    socket: str = ""
    socket_marks: tuple[str, ...] = ()
    apart: str = ""
    grows: str = "longer"
    instead: tuple[str, ...] = ()

    @property
    def parts(self) -> tuple[str, ...]:
        """What corrections of it may be about: itself, the part alone, or it with its like."""
        named = (self.key, self.alone, *self.pair[:1], *self.own_pair[:1], *self.group[:1])
        return tuple(one for one in named if one)
