"""What a learner is told of a drawing: what is doubted first, then corrections and their causes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from bralto.core.corrections.causes import Causes
from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.intent import without_intended
from bralto.core.corrections.laying_out import Laid, lay_out
from bralto.core.corrections.listing import Listing, list_corrections
from bralto.core.discover.figures import figure_of
from bralto.core.discover.levels import Standpoint
from bralto.core.doubts.all_doubts import find_doubts
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.keystone import flattened
from bralto.core.doubts.listed import doubts_of_list
from bralto.core.fit.similarity import Similarity
from bralto.core.heads.head_in_space import HeadInSpace
from bralto.core.heads.heads_held import head_of
from bralto.core.mannequin.in_depth import InDepth
from bralto.core.measures.readings import Reading
from bralto.core.measures.units import Length
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import Implied
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Intent, Picture, Scale
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["Advice", "Advised", "advise"]

_NO_SAY = frozenset({"exchanged-pair", "exchanged-limb", "wild-mark"})
"""Kinds of doubts whose marks have no say in the corrections."""

_KEYSTONE_COSTS = 24.0
"""What the two terms of a keystone and having thought of it cost (-2 log likelihood)."""


@dataclass(frozen=True)
class Advised:
    """What advice is given on: a drawing that is measured.

    Attributes:
        pictures: reference and drawing; ``pair``, their marks in the sight frames.
        fit: of all shared marks; ``head``, of the reference.
        readings: of every measure of the view; ``intents``, which of them are meant otherwise.
        stand: of the model, where its landmarks lie before the eye (`mannequin.in_depth`).
        implied: what sightings imply of the body beside the drawing, where it stands in the
            reference's place.
        stood: from where a head was seen, where that is known.
    """

    view: View
    pictures: tuple[Picture, Picture]
    pair: Pair
    scale: Scale
    fit: Similarity | NotMeasurable
    head: Length | NotMeasurable
    grade: Grade
    readings: Sequence[Reading]
    intents: Sequence[Intent]
    implied: Implied | None = None
    stand: InDepth = InDepth()  # noqa: RUF009 - frozen
    stood: Standpoint | None = None

    @cached_property
    def solid(self) -> HeadInSpace | None:
        """How the head that was seen stands in space; None where that is not known."""
        if not self.view.axis:
            return None
        found = head_of(figure_of(self.view, self.pictures[0]), self.stood)
        return None if isinstance(found, NotMeasurable) else found

    def laid_out(
        self,
        pair: Pair,
        fit: Similarity | NotMeasurable,
        stand: InDepth = InDepth(),  # noqa: B008 - frozen
    ) -> Laid | NotMeasurable:
        """Both pictures ready for a search; a figure that sightings imply, as it is beside the
        drawing.

        Args:
            pair: the marks that have a say, and their best fit; stand: see `lay_out`.
        """
        away = None
        if self.implied is not None:
            away = self.implied.away_of(pair.seen.keys[: pair.shared])
        return lay_out(self.view, pair, fit, self.head, self.scale, stand, self.solid, away)


@dataclass(frozen=True, slots=True)
class Advice:
    """``corrections`` in the order of work, or why there are none; ``causes`` is None without."""

    doubts: tuple[Doubt, ...]
    corrections: tuple[Correction, ...] | NotMeasurable
    causes: Causes | None = None


def advise(on: Advised) -> Advice:
    """Doubt the marks, then correct the drawing.

    Where the whole picture is in doubt nothing is corrected; single marks that are in doubt have no
    say.
    """
    doubts = () if on.implied is not None else find_doubts(on.view, *on.pictures, on.pair)
    if any(one.of_the_whole for one in doubts):
        return Advice(doubts, ())
    listed = _listed(on, doubts)
    if any(one.kind == "keystone" for one in doubts):
        plain = tuple(one for one in doubts if one.kind != "keystone")
        other = _listed(on, plain)
        if not _explains(listed, other):
            listed, doubts = other, plain
    if isinstance(listed, NotMeasurable):
        return Advice(doubts, listed)
    doubts += doubts_of_list(on.view, on.pictures[1], listed.corrections)
    kept = without_intended(on.view, listed.corrections, on.intents, on.readings, on.grade)
    return Advice(doubts, kept, listed.causes.of(listed.corrections, kept))


def _listed(on: Advised, doubts: Sequence[Doubt]) -> Listing | NotMeasurable:
    """The corrections of the marks that are not in doubt, as a sheet laid flat would show them."""
    pair = on.pair
    suspect = {key for one in doubts if one.kind in _NO_SAY for key in one.marks}
    if suspect:
        pair = pair.only(tuple(key for key in pair.seen.keys[: pair.shared] if key not in suspect))
    if any(one.kind == "keystone" for one in doubts):
        pair = pair.shared_only()
        flat = flattened(pair.seen.xy, pair.drawn.xy)
        pair = replace(pair, drawn=replace(pair.drawn, xy=flat))
    meant = {intent.measure: intent.factor for intent in on.intents}
    fit = on.fit if pair is on.pair else pair.best_fit()
    laid = on.laid_out(pair, fit, on.stand)
    if isinstance(laid, NotMeasurable):
        return laid
    return list_corrections(on.view, pair, laid, on.head, on.scale, on.grade, on.readings, meant)


def _explains(flat: Listing | NotMeasurable, other: Listing | NotMeasurable) -> bool:
    """Whether a keystone explains a drawing better than corrections alone."""
    if isinstance(flat, NotMeasurable) or isinstance(other, NotMeasurable):
        return False
    return flat.score + _KEYSTONE_COSTS < other.score
