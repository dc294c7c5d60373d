"""The tour: each main view once, for the demo without a display and for the screenshots."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from PyQt6.QtWidgets import QWidget

from bralto.core.action.sweeps import WHOLE
from bralto.core.light.shadows_held import carried_with_marks
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.taken import Sightings
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Study
from bralto.core.views.pass_keys import PassKey
from bralto.stand.thumb import sighted_by_thumb
from bralto.store.instants import now_utc
from bralto.store.intake import add_study
from bralto.ui.bench.bench import Bench
from bralto.ui.house import House
from bralto.ui.model.draw_sheet import Looked
from bralto.ui.record.record_place import ACCURACY, DRAWN, TODAY
from bralto.ui.session import pointing, prompting

__all__ = ["Stop", "tour_of"]


_SIGHTED = 13
"""Sightings that are taken before the picture of them."""

_KEPT, _ASIDE = 0.66, 4.0
"""Share of a bend that is drawn, and px of the reference by which shadows are drawn aside."""


@dataclass(frozen=True, slots=True)
class Stop:
    """One picture: what is done before it, and once that has settled, and the widget that it is
    of."""

    name: str
    act: Callable[[], None]
    of: Callable[[], QWidget]
    then: Callable[[], None] = lambda: None


def tour_of(house: House) -> tuple[Stop, ...]:
    """The stops in order; each begins where the one before ends."""
    ids = [entry.id for entry in house.shelf_state.entries]
    photographed = next(e.id for e in house.shelf_state.entries if e.states > 1)

    def bench() -> Bench:
        assert house.bench is not None
        return house.bench

    def enter(key: str) -> None:
        bench().study.apply(prompting.enter_pass, key)

    def sheet_pass() -> None:
        house.open_study(ids[0])
        enter(PassKey.SHEET)

    def action() -> None:
        """The proposed sweep, and a learner's that keeps two thirds of its bend."""
        enter(PassKey.ACTION)
        bench().curves.take_proposed()
        study = bench().study
        found = study.examination.drawn.proposed
        if not isinstance(found, NotMeasurable):
            line = found[-1] - found[0]
            across = np.array([-line[1], line[0]]) / float(np.hypot(*line))
            off = (found - found[0]) @ across
            points = (found - (1.0 - _KEPT) * off[:, None] * across).tolist()
            study.pictures.set_curve(Board.DRAWING, WHOLE, tuple((x, y) for x, y in points))
        bench().light.find(bench().reference, quiet=True)  # it is there by the next stop

    def light() -> None:
        """The seen shadows, drawn a little aside and one left out."""
        study = bench().study
        seen, drawn = study.picture(Board.REFERENCE), study.picture(Board.DRAWING)
        by, rings = carried_with_marks(study.view, seen, drawn), []
        for ring in seen.shadows[:-1]:
            aside = np.array(ring) + np.array([_ASIDE, 0.0])
            places = by if isinstance(by, NotMeasurable) else by.to_image(aside)
            if not isinstance(places, NotMeasurable):
                rings.append(tuple((float(x), float(y)) for x, y in places))
        study.pictures.set_shadows(Board.DRAWING, tuple(rings))
        enter(PassKey.LIGHT)

    def plumb() -> None:
        """The box on the ground, its horizon through the breastbone."""
        enter(PassKey.PLUMB)
        study = bench().study
        at = study.picture(Board.REFERENCE).marks.get("sternum_end")
        if at is not None:
            study.head.note(replace(study.notes, horizon={"": (at.x, at.y)}))
        study.apply(pointing.toggle_box)

    def verdict() -> None:
        enter(PassKey.VERDICT)
        bench().study.apply(pointing.hold, bench().study.corrections[0])

    def marking() -> None:
        bench().study.apply(pointing.hold, None)
        enter(PassKey.HEIGHTS)
        bench().study.apply(prompting.ask, Board.REFERENCE, "navel")

    def sheet() -> None:
        bench().study.apply(prompting.refresh)
        house.open_study(photographed)
        house.arrivals.show_sheet(bench().study, Board.DRAWING)

    def head(view: str, key: str) -> None:
        if house.arrivals.slip is not None:
            house.arrivals.slip.reject()
        house.open_study(next(e.id for e in house.shelf_state.entries if e.row.view == view))
        enter(key)

    def sight() -> None:
        sitter = house.library.stored(ids[0])
        assert sitter is not None
        assert sitter.study.reference is not None
        view = view_of(sitter.study)
        grade = view.grade(sitter.study.grade)
        taken = sighted_by_thumb(view, sitter.study.reference, _SIGHTED, grade, order="heads")
        life = Study("Rope coiler, from life", view.key, None, sightings=Sightings(taken))
        house.open_study(add_study(house.library, life, None, None, now_utc()))

    def level() -> None:
        house.open_study(
            next(e.id for e in house.shelf_state.entries if e.row.view == "head-profile")
        )
        enter(PassKey.LIKENESS)
        tied = bench().study.tied
        front = next(e for e in tied.others() if e.view == "head-front")
        tied.level_with(front.id)
        bench().study.apply(prompting.choose_region, "outline")

    def model_head() -> None:
        house.window.go("Model")
        state = house.model.state
        state.choose_subject("head")
        state.choose_build("slender")
        state.show_head("hair", on=True)
        state.turn_stand(28.0)
        house.model.show_page("Figure")

    def looked_at(subject: str) -> None:
        """A study of what stands on the model stand, its reference marked already."""
        house.window.go("Model")
        state = house.model.state
        state.choose_subject(subject)
        house.model.keep((Looked(state.setting, 600.0, 0, False),))

    def slip() -> QWidget:
        assert house.arrivals.slip is not None
        return house.arrivals.slip

    def here() -> QWidget:
        return house.window

    def record(page: str) -> None:
        house.window.go("Record")
        house.record.show_page(page)

    return (
        Stop("shelf", lambda: None, here),
        Stop("bench-sheet", sheet_pass, here),
        Stop("bench-plumb", plumb, here),
        Stop("bench-heights", partial(enter, PassKey.HEIGHTS), here),
        Stop("bench-action", action, here),
        Stop("bench-light", light, here),
        Stop("bench-verdict", verdict, here),
        Stop("bench-marking", marking, here),
        Stop("sheet", sheet, slip),
        Stop("head-heights", partial(head, "head-front", PassKey.HEIGHTS), here),
        Stop("head-likeness", level, here),
        Stop("bench-sight", sight, here),
        Stop("model", lambda: house.window.go("Model"), here),
        Stop("model-head", model_head, here),
        Stop("model-drawn", partial(looked_at, "hand"), here),
        # Before the sheet is planned the eye is asked first.
        Stop("bench-guess", partial(looked_at, "chair"), here, partial(enter, PassKey.SHEET)),
        Stop("record", partial(record, ACCURACY), here),
        Stop("record-habits", partial(record, DRAWN), here),
        Stop("record-today", partial(record, TODAY), here),
    )
