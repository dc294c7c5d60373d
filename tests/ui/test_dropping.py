"""What is dropped or pasted without a file of its own: a picture out of another program, a link."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QClipboard, QColor, QDragEnterEvent, QDropEvent, QImage
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.errors import UserError
from bralto.store.library import Library
from bralto.ui.arrivals.dropping import Loose
from bralto.ui.arrivals.offer import Offer
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow

LINK = "https://example.org/figure.jpg"


def image(colour: str) -> QImage:
    found = QImage(300, 400, QImage.Format.Format_RGB32)
    found.fill(QColor(colour))
    return found


def carrying(what: QImage | str | Path) -> QMimeData:
    data = QMimeData()
    if isinstance(what, QImage):
        data.setImageData(what)
    else:
        data.setUrls([QUrl(what) if isinstance(what, str) else QUrl.fromLocalFile(str(what))])
    return data


def drop(on: QWidget, data: QMimeData) -> bool:
    """Whether it may be dropped there; it is, if it may."""
    copy, left, plain = (
        Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    enters = QDragEnterEvent(QPointF(20, 20).toPoint(), copy, data, left, plain)
    enters.ignore()
    on.dragEnterEvent(enters)
    if enters.isAccepted():
        falls = QDropEvent(QPointF(20, 20), copy, data, left, plain, QEvent.Type.Drop)
        on.dropEvent(falls)
    return enters.isAccepted()


@pytest.fixture
def clipboard(qapp: QApplication) -> Iterator[QClipboard]:
    board = qapp.clipboard()
    assert board is not None
    yield board
    board.clear()


@pytest.fixture
def slip(qtbot: QtBot, tmp_path: Path) -> Iterator[NewStudy]:
    with Library.open(tmp_path / "library") as library:
        made = NewStudy(library, [], Tasks())
        qtbot.addWidget(made)
        made.show()
        qtbot.waitExposed(made)
        yield made


def colour_of(file: Path) -> str:
    return QImage(str(file)).pixelColor(5, 5).name()


def test_each_picture_has_a_file_of_its_own_for_as_long_as_it_is_wanted(
    clipboard: QClipboard,
) -> None:
    loose, files = Loose(), []
    for colour in ("red", "blue"):
        clipboard.setImage(image(colour))
        files += loose.pasted()
    assert [colour_of(one) for one in files] == ["#ff0000", "#0000ff"]
    assert [one.name for one in files] == ["Pasted picture.png", "Pasted picture 2.png"]
    assert files[0].parent.stat().st_mode & 0o077 == 0  # a picture of a person is nobody else's
    del loose
    assert not files[0].parent.exists()


def test_without_a_place_for_temporary_files_nothing_is_written_elsewhere(
    clipboard: QClipboard, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    here = tmp_path / "here"
    here.mkdir()
    monkeypatch.chdir(here)
    clipboard.setImage(image("red"))
    loose = Loose()
    with monkeypatch.context() as without:
        without.setenv("TMPDIR", str(tmp_path / "gone"))
        with pytest.raises(UserError, match="no place for temporary files"):
            loose.pasted()
    assert not list(here.iterdir())
    assert [colour_of(one) for one in loose.pasted()] == ["#ff0000"]  # there is a place again


@pytest.mark.parametrize("words", ["", "a figure"])
def test_without_a_picture_on_the_clipboard_it_says_so(words: str, clipboard: QClipboard) -> None:
    clipboard.clear() if not words else clipboard.setText(words)
    with pytest.raises(UserError, match="no picture on the clipboard"):
        Loose().pasted()


def test_a_picture_out_of_another_program_is_offered_like_a_file(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    assert drop(window, carrying(image("red")))
    qtbot.waitUntil(lambda: any(one.isVisible() for one in window.findChildren(Offer)))
    (offer,) = (one for one in window.findChildren(Offer) if one.isVisible())
    assert offer.path.name == "Pasted picture.png"
    offer.reject()


def test_a_link_is_no_picture_and_what_to_do_is_said(open_window: Opener, demo_copy: Path) -> None:
    window: MainWindow = open_window(demo_copy)
    assert drop(window, carrying(LINK))
    said = window.prompt_line.prompt
    assert said.trouble
    assert said.lead.startswith("That is a link and not the picture itself.")
    assert not [one for one in window.findChildren(NewStudy) if one.isVisible()]
    words = QMimeData()
    words.setText("a figure")
    assert not drop(window, words)


def test_on_the_slip_pictures_are_pasted_one_after_the_other(
    slip: NewStudy, clipboard: QClipboard, qtbot: QtBot
) -> None:
    slots = (slip.reference, slip.drawing)
    for slot, colour in zip(slots, ("red", "blue"), strict=True):
        clipboard.setImage(image(colour))
        qtbot.keyClick(slip, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
        qtbot.waitUntil(lambda slot=slot: slot.taken is not None)
    assert [colour_of(slot.path) for slot in slots] == ["#ff0000", "#0000ff"]
    assert drop(slip.drawing, carrying(image("lime")))
    qtbot.waitUntil(lambda: colour_of(slip.drawing.path) == "#00ff00")


def test_a_link_on_a_slot_is_refused_there_and_leaves_what_it_has(
    slip: NewStudy, clipboard: QClipboard, qtbot: QtBot
) -> None:
    clipboard.setImage(image("red"))
    slip.paste()
    qtbot.waitUntil(lambda: slip.reference.taken is not None)
    assert drop(slip.reference, carrying(LINK))
    assert slip.reference.fault.text().startswith("That is a link")
    assert slip.reference.taken is not None
