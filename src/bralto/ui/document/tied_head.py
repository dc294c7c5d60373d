"""The same head from another side: which study shows it, and what is level with it."""

from __future__ import annotations

from dataclasses import replace

from bralto.core.discover.levels import Tie, can_be_tied
from bralto.core.errors import UserError
from bralto.core.mannequin.tied import tied
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Study
from bralto.store.library import Library
from bralto.store.summaries import ShelfRow
from bralto.ui.document.worked_on import WorkedOn

__all__ = ["TiedHead"]

Ties = tuple[Tie, ...] | NotMeasurable

_LOOKED_AT = 400
"""Newest studies among which another view of a head is looked for."""


class TiedHead:
    """A part of `OpenStudy`. Reads other studies of the library; what it has read is kept until
    `forget`."""

    def __init__(self, study: WorkedOn, library: Library) -> None:
        self._study, self._library = study, library
        self._others: dict[str, tuple[ShelfRow, ...]] = {}
        self._studies: dict[str, Study | None] = {}
        self._ties: dict[str, tuple[tuple[object, ...], Ties]] = {}

    def forget(self) -> None:
        """Read anew when asked next: other studies may have changed."""
        self._others, self._studies, self._ties = {}, {}, {}

    def others(self) -> tuple[ShelfRow, ...]:
        """Studies that show a head from another side than this one, those of a like title first,
        then the newest."""
        own = self._study.study
        if own.view not in self._others:
            rows = [
                row
                for row in self._library.rows(newest=_LOOKED_AT)
                if not row.fault and can_be_tied(own.view, row.view)
            ]
            start = own.title.split(",")[0].strip().casefold()
            rows.sort(key=lambda row: not (start and row.title.casefold().startswith(start)))
            self._others[own.view] = tuple(rows)
        return self._others[own.view]

    @property
    def level_study(self) -> Study | None:
        """The study that shows the same head from another side, where one was chosen."""
        chosen = self._study.notes.level_with
        return self._found(chosen) if chosen else None

    def level_with(self, study_id: str) -> None:
        """Hold this head level with that of another study; "" lets go."""
        self.forget()
        self._study.head.note(replace(self._study.notes, level_with=study_id))

    def ties(self, board: Board) -> Ties:
        """What of a board's head is level with the same picture of the other study."""
        own, study_id = self._study.study, self._study.notes.level_with
        # Asked for at every painting: the last answer is kept as long as figure and grade are the
        # same.
        figure = self._study.examination.side(board).figure
        asked = (figure, study_id, own.grade)
        kept = self._ties.get(board)
        if kept is None or kept[0][0] is not figure or kept[0][1:] != asked[1:]:
            other = self._found(study_id)
            found: Ties = NotMeasurable("the study of the other side is gone")
            if other is not None:
                found = tied(own, figure, other, board)
            kept = self._ties[board] = (asked, found)
        return kept[1]

    def _found(self, study_id: str) -> Study | None:
        """The study of that id where it is there and can be read."""
        if study_id not in self._studies:
            try:
                self._studies[study_id] = self._library.find(study_id)
            except UserError:
                self._studies[study_id] = None
        return self._studies[study_id]
