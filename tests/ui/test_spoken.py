"""What a screen reader is told: the names and descriptions that Qt hands on to it.

PyQt6 has no QAccessible, so these are read from the widgets and not from the bridge.
"""

from __future__ import annotations

import re

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QListView,
    QWidget,
)
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house

from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.session import pointing, prompting
from bralto.ui.widgets.row_list import Row, Tick
from bralto.ui.window import MainWindow


def spoken(widget: QWidget) -> tuple[str, str]:
    """Name and description; a button's name is its text."""
    name = widget.accessibleName()
    if not name and isinstance(widget, QAbstractButton):
        name = widget.text()
    return name, widget.accessibleDescription()


def test_both_boards_say_their_marks_what_is_asked_and_what_is_in_hand(
    window: MainWindow, bench: Bench
) -> None:
    study = bench.study
    name, words = spoken(bench.drawing)
    assert name == "Your drawing"
    total = len(study.view.landmarks)
    assert words.startswith(f"{total} of {total} marks; state {study.session.state_name}")
    study.edits.remove(Board.DRAWING, "navel")
    study.apply(prompting.enter_pass, "heights")
    assert spoken(bench.drawing)[1].startswith(f"{total - 1} of {total} marks")
    assert spoken(bench.drawing)[1].endswith("asked for: navel")
    study.apply(pointing.select, "chin")
    at = study.picture(Board.REFERENCE).marks["chin"]
    assert f"in hand: chin at {at.x:.0f}, {at.y:.0f}" in spoken(bench.reference)[1]
    assert spoken(window.prompt_line)[0].startswith("Mark the navel") or spoken(window.prompt_line)[
        0
    ].startswith("To look closer, mark the navel")


def test_every_figure_that_is_painted_is_spoken_too(window: MainWindow, bench: Bench) -> None:
    study = bench.study
    study.apply(prompting.enter_pass, "heights")
    rungs = bench.ladder.heard.rows
    knees = study.assessment.reading("height.knees")
    error = f"{abs(knees.error):.2f} head higher ± {2.0 * knees.u:.2f}"
    assert f"knees: seen {knees.reference:.2f} heads, drawn {error}, under" in rungs
    assert "crown: seen 0.00 heads, drawn alike, within" in rungs  # all is counted from it
    rail = bench.rails[1].heard.rows
    wrist = study.assessment.reading("offset.wrist_r")
    assert any(one.startswith(f"R wrist: {abs(wrist.drawing):.2f} to your left") for one in rail)
    for part, name, first in (
        (bench.off, "What is off", bench.off.rows()[0].spec.label),
        (bench.moves, "Corrections", study.corrections[0].text),
    ):
        assert spoken(part.list)[0] == name
        row = part.list.model().index(0, 0)
        assert row.data(Qt.ItemDataRole.AccessibleTextRole).startswith(first)
    assert any("hips: seen" in one for one in bench.column.fan.heard.rows)
    assert "Heights 7/7, here" in window.tape.heard.rows
    assert window.strip.heard.rows[:2] == ["Shelf, Alt+1", "Bench, Alt+2, here"]
    marks = bench.drawing.heard.rows
    assert len(marks) == len(study.view.landmarks)
    at = study.picture(Board.DRAWING).marks["chin"]
    assert f"chin: {at.x:.0f}, {at.y:.0f}, hidden" in marks  # as the demo places it
    assert spoken(window.strip)[0] == f"Bench, {study.study.title}"


def test_a_row_reads_as_one_sentence() -> None:
    """*Not yet, 2 corrections would ... shade., open*; *Did you step back?, or look in the
    mirror*."""
    asked = Row("", "Did you step back?", right=("",), detail="or look in the mirror: fresh eyes")
    assert asked.spoken == "Did you step back? or look in the mirror: fresh eyes"
    told = Row("", "Not yet", "2 corrections would move it.", glyph=Tick.OPEN)
    assert told.spoken == "Not yet, 2 corrections would move it, open"
    figures = Row("", "R thigh", right=("0.9", "1.1"), glyph=Verdict.UNDER)
    assert figures.spoken == "R thigh, 0.9, 1.1, under"


def test_what_follows_from_a_correction_is_a_sentence_of_its_own(bench: Bench) -> None:
    row = bench.moves.list.model().index(0, 0)
    said = row.data(Qt.ItemDataRole.AccessibleTextRole)
    assert re.search(r"\. And \d+ figures? with it$", said)


def test_every_field_and_button_of_every_pass_has_a_name(bench: Bench) -> None:
    for one in bench.study.now.ground.passes:
        bench.study.apply(prompting.enter_pass, one.key)
        kinds = (QAbstractButton, QAbstractSpinBox, QComboBox)
        fields = [w for kind in kinds for w in bench.findChildren(kind) if w.isVisible()]
        for field in fields:
            assert spoken(field)[0], field
        for part in bench.findChildren(QListView):
            if part.isVisible() and part.focusPolicy():
                assert spoken(part)[0]


def test_corrections_and_errors_are_gone_through_by_keys(bench: Bench, qtbot: QtBot) -> None:
    """F6 leads to the lists; arrows hold or point, Enter ticks or shows the pass."""
    study, seen = bench.study, []
    bench.active_board().setFocus()
    for _ in range(4):
        seen.append(QApplication.focusWidget())
        qtbot.keyClick(seen[-1], Qt.Key.Key_F6)
    assert bench.moves.list in seen
    assert bench.off.list in seen
    bench.moves.list.setFocus()
    assert study.session.held is study.corrections[0]
    qtbot.keyClick(bench.moves.list, Qt.Key.Key_Down)
    assert study.session.held is study.corrections[1]
    qtbot.keyClick(bench.moves.list, Qt.Key.Key_Return)
    assert study.intentions.is_put_right(study.corrections[1])
    bench.off.list.setFocus()
    assert study.session.held is None
    qtbot.keyClick(bench.off.list, Qt.Key.Key_Down)
    row = bench.off.rows()[1]
    assert study.session.pointed == row.spec.points[1]
    qtbot.keyClick(bench.off.list, Qt.Key.Key_Return)
    assert study.current_pass == row.spec.step
    qtbot.keyClick(bench.off.list, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert study.current_pass != row.spec.step  # other keys stay those of the bench


def test_where_the_keys_go_is_seen(bench: Bench) -> None:
    pictures = []
    for part in (bench.reference, bench.drawing):
        part.setFocus()
        pictures.append([board.grab().toImage() for board in bench.boards])
    assert pictures[0][0] != pictures[1][0]
    assert pictures[0][1] != pictures[1][1]
    for part in (bench.moves.list, bench.off.list):
        bare = part.grab().toImage()
        part.setFocus()
        assert part.grab().toImage() != bare


def test_the_record_is_gone_through_study_by_study(window: MainWindow, qtbot: QtBot) -> None:
    window.go("Record")
    record = house(window).record
    record.show_page("Log")
    studies = record.page("Log").studies
    qtbot.waitUntil(studies.hasFocus)
    counted = house(window).shelf_state.counted
    model = studies.model()
    assert model.rowCount() == len(counted)
    said = [model.index(row, 0).data(Qt.ItemDataRole.AccessibleTextRole) for row in range(3)]
    assert all(one.title in words for one, words in zip(counted, said, strict=False))
    qtbot.keyClick(studies, Qt.Key.Key_End)
    last = studies.area(len(counted) - 1)
    assert studies.viewport().rect().contains(last.toRect())
    qtbot.keyClick(studies, Qt.Key.Key_Return)
    assert window.place == "Bench"
    assert house(window).bench.study.id == counted[-1].id
