"""Advice on what was examined lately, kept: a study is opened again, a step is undone, another
state or grade is put back."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from dataclasses import replace
from threading import Lock

from bralto.core.examination.advice import Advice
from bralto.core.mannequin.known import MODEL
from bralto.core.study.values import Picture, State, Study
from bralto.core.words.lengths import in_force

__all__ = ["KeptAdvice", "advised_by", "measured_by"]


def measured_by(study: Study) -> tuple[object, ...]:
    """What of the study as a whole the figures of every state depend on, beside its pictures."""
    return (
        study.scale, study.grade, study.canon, study.intents, study.anchors,
        study.sightings if study.from_life else None,
    )  # fmt: skip


def advised_by(study: Study, state: State) -> Hashable:
    """All that advice on a state of a drawing depends on, and how its lengths are said: neither
    titles, notes, nor other states."""
    told = (
        study.view, _picture(study.reference), _picture(state.picture), *measured_by(study),
        study.extra.get(MODEL), in_force(),
    )  # fmt: skip
    return study.own_view, repr(told)  # mappings have no hash; floats are written to the last digit


def _picture(picture: Picture | None) -> object:
    """The same in whatever order its marks were set."""
    if picture is None:
        return None
    return replace(picture, marks={}), sorted(picture.marks.items())


class KeptAdvice:
    """The last few, by what they depend on. Threads may share it."""

    def __init__(self, most: int) -> None:
        self._most, self._lock = most, Lock()
        self._kept: OrderedDict[Hashable, Advice] = OrderedDict()

    def find(self, key: Hashable) -> Advice | None:
        """The advice that was kept, or None."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
            return self._kept.get(key)

    def keep(self, key: Hashable, advice: Advice) -> None:
        """Keep one more; the one that was not asked for the longest goes."""
        with self._lock:
            self._kept[key] = advice
            self._kept.move_to_end(key)
            if len(self._kept) > self._most:
                self._kept.popitem(last=False)
