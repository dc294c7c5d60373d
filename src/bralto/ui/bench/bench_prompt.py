"""What the prompt line says while a study is on the bench."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.bench.told.saying import Saying
from bralto.ui.bench.told.special_prompts import special_prompt, usual_prompt
from bralto.ui.bench.work.doubt_work import DoubtWork
from bralto.ui.boards.drawing_over import DrawingOver
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.preview import Preview
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.sight.sight_prompt import sight_prompt

__all__ = ["BenchPrompt"]


class BenchPrompt:
    """Out of what is in force: trouble first, then what the hand is at, then what comes next."""

    def __init__(
        self,
        study: OpenStudy,
        boards: Sequence[PictureBoard],
        column: MiddleColumn,
        saying: Saying,
        doubts: DoubtWork,
        over: DrawingOver,
        preview: Preview,
    ) -> None:
        self._study, self._boards, self._column = study, boards, column
        self._saying, self._doubts, self._over, self._preview = saying, doubts, over, preview

    def now(self, *, in_room: bool) -> Prompt:
        """What to do next.

        Args:
            in_room: a pass is shown that has the whole bench to itself.
        """
        study, saying = self._study, self._saying
        if saying.in_trouble:
            return saying.in_trouble
        if in_room:
            return saying.done or sight_prompt(study)
        if self._column.eye_first is not None:
            return self._column.eye_first.prompt
        if saying.rests:
            return saying.rests
        over = "corrected" if self._preview.on else self._over.way
        special = special_prompt(study, self._boards, saying.done, over, self._over.said)
        doubt = self._doubts.asked
        if special is None and doubt is not None:
            return Prompt(doubt.words, "", (("Enter", doubt.button),))
        return special or usual_prompt(study)
