"""What is chosen in the headings of the sighting room: how the model is placed, in which order
sightings are asked for."""

from __future__ import annotations

from bralto.core.sightings.orders import MOST_TELLING, orders_of
from bralto.core.sightings.stance import stance_said
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import answering
from bralto.ui.widgets.heading import Choice

__all__ = ["order_choice", "stance_choice"]


def order_choice(study: OpenStudy) -> Choice:
    """What tells most, or a school's order; the one in force is said."""
    options = [(MOST_TELLING, "What tells most: fewest sightings")]
    options += [(one.key, f"{one.title}: {one.says}") for one in orders_of(study.view)]
    titles = {MOST_TELLING: "what tells most"}
    titles |= {one.key: one.title.lower() for one in orders_of(study.view)}
    current = study.session.asking.order

    def choose(key: str) -> None:
        study.apply(answering.choose_order, key)

    return Choice(titles.get(current, current), tuple(options), current, choose)


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
