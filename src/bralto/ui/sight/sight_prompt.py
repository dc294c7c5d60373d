"""What the prompt line says in the pass in which a figure is sighted from life."""

from __future__ import annotations

from bralto.core.sightings.stance import stance_said
from bralto.core.views.typical import stances_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt

__all__ = ["sight_prompt"]


def sight_prompt(study: OpenStudy) -> Prompt:
    """What to do in this pass."""
    found = study.now.questions
    if not found:
        return Prompt("This order is done:", "go on to the sheet, or take another order",
                      (("Ctrl+→", "the sheet"),))  # fmt: skip
    practice = not study.from_life
    again = study.session.asking.again is not None
    lead = "Sight it once more:" if again else "One eye closed, arm stiff:"
    how = "as if for the first time" if again else "step back to the same place for each"
    last = ("K", "how you sight") if practice else ("R", "sight it twice")
    pencil = ("M", "heads" if study.session.asking.in_mm else "thumb marks")
    own = ("D", "distances") if study.session.asking.in_mm else ("O", "of your own")
    if not practice and not study.sighted.kept.items and len(stances_of(study.view)) > 1:
        own = "P", f"the model {stance_said(study.view, study.view.stance)}"
        how = "first say how the model is placed"
    keys = [("Enter", "that is it"), ("N", "another"), own, last, pencil]
    if practice:
        keys.insert(2, ("X", "next sitter"))
    return Prompt(lead, how, tuple(keys))
