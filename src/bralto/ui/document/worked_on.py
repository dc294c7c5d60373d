"""What the edits of a study need of it: `OpenStudy`, as the parts that it is made of know it."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import AbstractContextManager
from typing import Concatenate, ParamSpec, Protocol

from bralto.core.examination.assessment import Assessment
from bralto.core.examination.examine import Examination
from bralto.core.session.notes import Notes
from bralto.core.study.values import Study
from bralto.core.views.model import View
from bralto.ui.document.study_document import StudyDocument
from bralto.ui.document.study_head import StudyHead
from bralto.ui.session.moment import Moment
from bralto.ui.session.state import Ground, SessionState

__all__ = ["WorkedOn"]

P = ParamSpec("P")


class WorkedOn(Protocol):
    """The study that is open: what is kept of it, what is looked at, what is known of it."""

    document: StudyDocument
    head: StudyHead
    session: SessionState
    now: Moment

    @property
    def study(self) -> Study:
        """As it is kept."""

    @property
    def view(self) -> View:
        """Landmarks, measures and passes."""

    @property
    def notes(self) -> Notes:
        """What was noted on the bench."""

    @property
    def examination(self) -> Examination:
        """All figures of what lies on the boards."""

    @property
    def assessment(self) -> Assessment:
        """Measures and typical miss."""

    @property
    def imagined(self) -> bool:
        """Whether what stands in the reference's place is no picture."""

    @property
    def from_life(self) -> bool:
        """Whether what was sighted stands in the reference's place."""

    @property
    def undrawn(self) -> bool:
        """Whether there is a reference alone."""

    def ground(self, *, in_hand: bool = True) -> Ground:
        """The pictures on both boards, with or without a mark in hand."""

    def gesture(self) -> AbstractContextManager[None]:
        """What is done within is one change, told once at its end."""

    def apply(
        self,
        transition: Callable[Concatenate[SessionState, Ground, P], SessionState],
        *args: P.args,
        **kwargs: P.kwargs,
    ) -> None:
        """Go on by a transition of `ui.session`."""
