"""Corrections on the bench: ticked, meant, previewed, and checked on the next state."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle
from tests.ui.written import written_on

from bralto.core.corrections.corrected import move_label, name_of
from bralto.core.examination.assessment import Assessment
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Intent
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.told import correction_list, headings
from bralto.ui.bench.told.glyphs import draw_glyph
from bralto.ui.session import pointing, prompting
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    """A demo study whose drawing was photographed twice."""
    window = open_window(demo_copy)
    photographed = next(e for e in house(window).shelf_state.entries if e.states > 1)
    house(window).open_study(photographed.id)
    settle(qtbot, window)
    return window


@pytest.fixture
def bench(window: MainWindow) -> Bench:
    assert house(window).bench is not None
    house(window).bench.study.states.choose("evening")
    house(window).bench.study.apply(prompting.enter_pass, "verdict")
    assert house(window).bench.study.corrections
    return house(window).bench


def kept(window: MainWindow):
    return house(window).library.stored(house(window).bench.study.id).study


def test_a_correction_is_ticked_by_a_click_or_by_number_and_enter(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    mark = bench.study.picture(Board.DRAWING).marks["navel"]
    head = bench.study.assessment.unit.drawing_px
    bench.study.edits.move(Board.DRAWING, "navel", mark.x + 0.3 * head, mark.y, 1.0)
    bench.study.advice.search_now()
    first, second, *_ = bench.study.corrections
    area = bench.moves.slip_of(first)
    QTest.mouseMove(bench.moves.list.viewport(), area.center().toPoint())
    qtbot.mouseClick(bench.moves.list.viewport(), LEFT, pos=area.center().toPoint())
    assert bench.study.intentions.is_put_right(first)
    assert kept(window).extra["bench"]["put_right"]["evening"] == [name_of(first)]
    bench.study.apply(pointing.hold, None)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_2)
    assert bench.study.session.held is second
    assert "put right" in [word for _, word in window.prompt_line.prompt.keys]
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Return)
    assert bench.study.intentions.is_put_right(second)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Return)
    assert not bench.study.intentions.is_put_right(second)


def test_how_many_are_shown_of_all_stands_over_the_list(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    """*1 more move · worst first* stood behind *What is left over*, where nothing was left over."""
    for module in (headings, correction_list):
        monkeypatch.setattr(module, "ON_SLIPS", 1)
    mark = bench.study.picture(Board.DRAWING).marks["navel"]
    head = bench.study.assessment.unit.drawing_px
    bench.study.edits.move(Board.DRAWING, "navel", mark.x + 0.3 * head, mark.y, 1.0)
    bench.study.advice.search_now()
    bench.moves.arrange()
    bench.write_headings()
    many = len(bench.study.corrections)
    assert many > 1
    over = bench.titles.headings[3].accessibleName()
    assert over == f"Corrections 1 of {many}, the whole first"
    said = [words for words, _ in written_on(bench.moves, monkeypatch)]
    assert "What is left over" in said
    several = len(bench.study.now.advice.left_over()) > 1
    assert ("worst first" in said) == several
    assert not any("more move" in words for words in said)
    monkeypatch.setattr(Assessment, "left_over", lambda _: ())
    assert "worst first" not in [words for words, _ in written_on(bench.moves, monkeypatch)]


def test_the_next_state_says_what_of_it_is_still_off(bench: Bench) -> None:
    study = bench.study
    open_now = study.corrections[0]
    study.states.choose("block-in")
    gone = "scale:hand_l"
    study.head.note(study.notes.tick("block-in", name_of(open_now)).tick("block-in", gone))
    study.states.choose("evening")
    study.apply(prompting.enter_pass, "verdict")
    rows = {row.label: row for row in bench.column.list_of("verdict").rows}
    assert "Put right since 'block-in'" in rows
    still = rows[move_label(study.view, name_of(open_now))]
    assert still.glyph == "no"
    assert still.detail.startswith("still: ")
    assert rows[move_label(study.view, gone)].glyph == "yes"


def test_what_is_meant_is_no_correction_until_it_is_not_meant_any_more(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    study = bench.study
    sized = next(i for i, one in enumerate(study.corrections) if one.factor is not None)
    one = study.corrections[sized]
    qtbot.keyClick(bench.drawing, Qt.Key.Key_I)
    assert window.prompt_line.prompt.trouble  # none is held
    study.apply(pointing.hold, one)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_I)
    (intent,) = kept(window).intents
    assert intent == Intent(intent.measure, pytest.approx(one.factor, abs=0.001))
    settle(qtbot, window)
    assert name_of(one) not in {name_of(other) for other in study.corrections}
    gate = bench.column.list_of("verdict")
    row = next(i for i, row in enumerate(gate.rows) if row.key == f"meant:{intent.measure}")
    gate.list.scrollTo(gate.list.model().index(row, 0))
    qtbot.mouseClick(gate.list.viewport(), LEFT, pos=gate.list.area(row).center().toPoint())
    assert kept(window).intents == ()
    settle(qtbot, window)
    assert name_of(one) in {name_of(other) for other in study.corrections}


def test_the_corrected_drawing_is_shown_wiped_and_taken_off(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    board = bench.drawing
    board.hover = None
    board.quiet = True
    board.update()
    before = board.grab().toImage()
    board.quiet = False
    qtbot.keyClick(board, Qt.Key.Key_C)
    qtbot.waitUntil(lambda: bench.preview.image is not None, timeout=60_000)
    settle(qtbot, window)
    board.hover = None
    board.update()
    whole = board.grab().toImage()
    assert whole != before
    assert "corrected" in window.prompt_line.prompt.lead
    # Left of the pointer the drawing is as it was.
    QTest.mouseMove(board, QPoint(board.width() // 2, 200))
    board.hover = QPointF(board.width() / 2.0, 200.0)
    wiped = board.grab().toImage()

    def part(image: QImage) -> QImage:
        ratio = image.devicePixelRatio()
        return image.copy(
            0, round(40 * ratio), round((board.width() // 2 - 90) * ratio), round(400 * ratio)
        )

    assert part(wiped) == part(before)
    assert part(whole) != part(before)
    study = bench.study
    key = next(iter(study.picture(Board.DRAWING).placed()))
    mark = study.picture(Board.DRAWING).marks[key]
    study.edits.move(Board.DRAWING, key, mark.x + 3.0, mark.y, mark.spread)
    assert not bench.preview.on  # it would show what is not true any more
    assert not board.quiet


def test_without_corrections_the_preview_says_so(window: MainWindow, bench: Bench) -> None:
    marks = bench.study.picture(Board.DRAWING).marks
    bench.study.edits.set_marks(Board.DRAWING, dict.fromkeys(marks))
    bench.study.advice.search_now()
    assert bench.study.corrections == ()
    bench.preview.toggle()
    assert not bench.preview.on
    assert window.prompt_line.prompt.trouble


def test_every_kind_of_move_has_a_sign_of_its_own(bench: Bench) -> None:
    one = bench.study.corrections[0]
    pictures = set()
    for move, amount in (
        ("scale", 1.0), ("scale", -1.0), ("widen", 1.0), ("widen", -1.0), ("turn", 1.0),
        ("turn", -1.0), ("shift", 1.0),
    ):  # fmt: skip
        image = QImage(24, 24, QImage.Format.Format_ARGB32)
        image.fill(0)
        painter = QPainter(image)
        shown = replace(one, move=move, amount=amount, across=0.3, up=0.1)
        draw_glyph(painter, QPointF(12.0, 12.0), shown, LIGHT.colour("ink"))
        painter.end()
        bits = image.constBits()
        bits.setsize(image.sizeInBytes())
        pictures.add(bytes(bits))
    assert len(pictures) == 7


@pytest.mark.parametrize(("wide", "high"), [(1366, 690), (1366, 640), (1120, 640), (1280, 800)])
def test_in_a_low_window_they_are_scrolled_through_and_the_typical_miss_is_whole(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch,
    wide: int, high: int,
) -> None:  # fmt: skip
    """Three long ones left the figures below no room: *Typical miss* was cut through."""
    window = open_window(demo_copy)
    window.resize(wide, high)
    found = house(window)
    entry = next(one for one in found.shelf_state.entries if one.title.endswith("head, second try"))
    found.open_study(entry.id)
    settle(qtbot, window)
    bench = found.bench
    assert bench is not None
    assert len(bench.moves.shown()) == 3
    below = written_on(bench.off, monkeypatch)
    assert "Typical miss" in [words for words, _ in below]
    assert all(bench.off.rect().toRectF().contains(place) for _, place in below)
    assert bench.moves.geometry().bottom() < bench.off.geometry().top()
    slips = bench.moves.list
    said = [words for words, _ in written_on(bench.moves, monkeypatch)]
    assert [words for words in said if "more below" in words] == (
        [f"{slips.below()} more below"] if slips.below() else []
    )
    assert (slips.below() > 0) == (high < 690)
    slips.setFocus(Qt.FocusReason.TabFocusReason)
    for _ in range(2):
        qtbot.keyClick(slips, Qt.Key.Key_Down)
    assert slips.currentIndex().row() == 2
    assert slips.below() == 0
