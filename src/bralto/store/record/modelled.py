"""A study of the model into the library: its picture and its answer key, as one study."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from random import randrange

from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.setting import Setting
from bralto.core.mannequin.sitter_by_chance import sitter_by_chance
from bralto.core.session.notes import Notes, with_notes
from bralto.core.sightings.how_sighted import for_practice
from bralto.exchange.pose_file import setting_document
from bralto.imaging.load import encode
from bralto.stand.model.model_study import modelled
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library
from bralto.store.record.tries import drawn_before

__all__ = ["add_model_study", "add_sitter"]


def add_model_study(
    library: Library, setting: Setting, notes: Mapping[str, object], *, practice: bool = False
) -> str:
    """Draw the model, keep a study of it, made now; gives its id.

    Args:
        notes: how it was drawn from, kept beside what the model knows.
        practice: whether it is to be sighted for practice; that is no further try at a pose.

    Raises:
        UserError: the camera stands where it cannot.
    """
    document = setting_document(setting)
    made = modelled(setting, document, "model.jpg")
    extra = made.study.extra
    known = extra[MODEL]
    assert isinstance(known, Mapping)
    whole = replace(made.study, extra={**extra, MODEL: {**known, **notes}})
    if practice:
        whole = for_practice(whole)
    elif first := drawn_before(library, setting.title, document):
        whole = with_notes(whole, Notes(again_of=first))
    with keeping(library) as keep:
        return library.add(whole, {"": keep(encode(made.image))}, now_utc())


def add_sitter(library: Library, setting: Setting | None = None) -> str:
    """A sitter to be sighted for practice, one by chance where none is given; gives the study's id.

    Raises:
        UserError: see `add_model_study`.
    """
    seated = setting or sitter_by_chance(randrange(2**31))
    return add_model_study(library, seated, {}, practice=True)
