"""What a screen reader says of the bench: each part's state in words."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.study.two_boards import Board
from bralto.core.terms import Visibility
from bralto.core.words.phrases import how_many
from bralto.core.words.wording import doubt_text, excess_text, value_text
from bralto.ui.bench.scales.ladder import Ladder
from bralto.ui.bench.scales.rail import Rail
from bralto.ui.bench.scales.rungs import points_up, stations
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.document.open_study import OpenStudy

__all__ = ["board_words", "ladder_words", "mark_words", "rail_words", "speak"]


def board_words(study: OpenStudy, board: Board) -> str:
    """How many marks a board has, what is asked for there, and which mark is in hand."""
    picture = study.picture(board)
    total, placed = len(study.view.landmarks), picture.placed()
    said = [f"{len(placed)} of {total} marks"]
    if board == Board.DRAWING and study.undrawn:
        said = ["no drawing yet"]
    elif board == Board.DRAWING and study.session.state_name:
        said.append(f"state {study.session.state_name}")
    if picture.curves:
        said.append(f"drawn through it: {', '.join(picture.curves)}")
    if picture.shadows:
        said.append(f"{how_many(len(picture.shadows), 'outline')} of shadow")
    if study.step is not None and study.step.board == board:
        said.append(f"asked for: {study.view.point_label(study.step.key)}")
    if study.session.selected in placed:
        mark = picture.marks[study.session.selected or ""]
        label = study.view.point_label(study.session.selected or "")
        said.append(f"in hand: {label} at {mark.x:.0f}, {mark.y:.0f}")
    return "; ".join(said)


def mark_words(study: OpenStudy, board: Board) -> list[str]:
    """Every mark of a board in placing order: where it lies, image px, and whether it is hidden."""
    marks, said = study.picture(board).marks, []
    for key in study.view.placing:
        mark = marks.get(key)
        if mark is None or not study.now.in_sight(key):
            continue
        words = study.view.point_label(key)
        if mark.visibility == Visibility.ABSENT:
            said.append(f"{words}: not there")
            continue
        hidden = ", hidden" if mark.visibility == Visibility.INFERRED else ""
        said.append(f"{words}: {mark.x:.0f}, {mark.y:.0f}{hidden}")
    return said


def ladder_words(study: OpenStudy) -> list[str]:
    """Every rung: where it is seen, and the error of the drawing."""
    said, rungs = [], stations(study)
    way = -1.0 if points_up(study.view, rungs) else 1.0
    for one in rungs:
        if one.reference is None:
            continue
        words = f"{one.label}: seen {value_text(one.reading, way * one.reference)}"
        if one.reading.error is not None:
            error = f"{excess_text(one.reading)} ± {doubt_text(one.reading)}"
            alike = not set(error) & set("123456789")  # the crown, from which all is counted
            words += f", drawn {'alike' if alike else error}, {one.reading.verdict}"
        said.append(words)
    return said or ["no rung yet"]


def rail_words(study: OpenStudy, board: Board) -> list[str]:
    """How far from plumb each mark of a rail stands."""
    said = []
    for key in study.rails:
        reading = study.assessment.reading(f"offset.{key}")
        if reading is None:
            continue
        value = reading.drawing if board == Board.DRAWING else reading.reference
        if value is not None:
            label = study.view.point_label(key)
            words = f"{label}: {abs(value):.2f} to your {'right' if value > 0.0 else 'left'}"
            if board == Board.DRAWING and reading.error is not None:
                words += f", {reading.verdict}"
            said.append(words)
    return said or ["nothing to hang yet"]


def speak(
    study: OpenStudy,
    boards: Sequence[PictureBoard],
    rails: Sequence[Rail],
    ladder: Ladder,
    *,
    figures: bool = True,
) -> None:
    """Give every part of the bench its words; pointing at something changes no ``figures``."""
    for board in boards:
        board.setAccessibleDescription(board_words(study, board.board))
    if not figures:
        return
    for board, rail in zip(boards, rails, strict=True):
        board.heard.say(mark_words(study, board.board))
        rail.heard.say(rail_words(study, board.board))
    ladder.heard.say(ladder_words(study))
