"""Which states of the drawing lie on the boards."""

from __future__ import annotations

from dataclasses import replace

from bralto.ui.document.worked_on import WorkedOn
from bralto.ui.session import prompting

__all__ = ["ShownStates"]


class ShownStates:
    """A part of `OpenStudy`: each choice is one gesture of it."""

    def __init__(self, study: WorkedOn) -> None:
        self._study = study

    def choose(self, name: str) -> None:
        """Put another state on the board; where it lacks marks of the short set, lead to them."""
        study = self._study
        if name != study.session.state_name and study.study.state(name) is not None:
            with study.gesture():
                self.show(name, study.session.against)

    def compare_with(self, state: str) -> None:
        """Put an earlier state in the reference's place; "" puts the reference there again."""
        study = self._study
        if state != study.session.state_name:
            with study.gesture():
                self.show(study.session.state_name, state)

    def show(self, state: str, against: str) -> None:
        """Put these on the boards, within a gesture."""
        study = self._study
        before = study.session
        if (state, against) == (before.state_name, before.against):
            return
        against = "" if against == state else against
        study.session = replace(
            before, state_name=state, against=against, in_hand=None, tones={}, values={}
        )
        if state != before.state_name:
            study.session = replace(study.session, following=True, asked=None)
            study.session = prompting.lead(study.session, study.ground())
