"""In which order sightings are asked for, as a choice in a heading."""

from __future__ import annotations

from bralto.core.sightings.orders import MOST_TELLING, orders_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import answering
from bralto.ui.widgets.heading import Choice

__all__ = ["order_choice"]


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
