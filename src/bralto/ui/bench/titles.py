"""What stands over the bench's columns: their headings, and the edges of those drawn back."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from bralto.ui.bench.laid.edge import Edge
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.told.headings import ladder_title, write_headings
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.heading import Heading

__all__ = ["Titles"]

_INSETS = (0.0, 12.0, 0.0, 0.0)
"""The ladder's columns touch the boards, so its heading keeps off theirs."""


class Titles:
    """Headings over the reference, the middle, the drawing and the list; ``edges`` of the middle
    and of the list."""

    def __init__(self, work: PictureWork, tokens: Tokens, bench: QWidget) -> None:
        self._work = work
        self.headings = [Heading(tokens, bench, inset=inset) for inset in _INSETS]
        self.edges = (Edge(tokens, bench), Edge(tokens, bench))

    def write(self, *, linked: bool, eye_first: str) -> None:
        """Say what each column holds.

        Args:
            linked: whether the boards move together.
            eye_first: what the eye is asked before anything may be told, or "".
        """
        study, work = self._work.study, self._work
        menus = ["moving together" if linked else work.menu(board) for board in work.boards]
        write_headings(study, self.headings, menus, eye_first=eye_first)
        page, off = page_of(study.current_pass), len(study.corrections)
        self.edges[0].say(ladder_title(study) if page.ladder else page.heading, "")
        self.edges[1].say("Corrections", f"{off} so far" if off else "")
