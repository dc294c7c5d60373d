"""How the model is placed, as a choice in a heading."""

from __future__ import annotations

from bralto.core.sightings.stance import stance_said
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.widgets.heading import Choice

__all__ = ["stance_choice"]


def stance_choice(study: OpenStudy) -> Choice | str:
    """The stances that the view knows; nothing to choose where it knows one alone."""
    view, current = study.view, study.view.stance
    known = stances_of(view)
    if len(known) < 2:
        return ""
    options = tuple((str(one), f"The model {stance_said(view, one)}") for one in known)

    def choose(key: str) -> None:
        study.sighted.place(Stance(key))

    words = stance_said(view, current).replace(" or kneels", "")
    return Choice(words, options, str(current), choose)
