"""Composition root of the window: makes the collaborators and hands them on."""

from __future__ import annotations

import gc
import os
import sys
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication

from bralto.core.errors import UserError
from bralto.core.words.lengths import say_in
from bralto.disk.display import check_display
from bralto.disk.reports import Reports
from bralto.store.care.places import library_folder
from bralto.store.failures import LibraryError
from bralto.store.learners import current_library, remember
from bralto.store.library import Library
from bralto.store.lock import InUseError
from bralto.ui.house import House
from bralto.ui.running.faults import Faults
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import DARK, LIGHT, Tokens
from bralto.ui.theme.type import Size, font, load_fonts
from bralto.ui.window import MainWindow

__all__ = ["make_application", "make_house", "run_tour", "run_window"]

_PATIENCE_S = 3.0
"""How long a start waits for who holds the library."""

_LATER_MS = 120
"""After the start: the shelf has been painted."""

_READY_MS = 400
"""After the start: no one has found a study to open yet."""

_HOUSEKEEPING_MS = 4000
"""After the start: the shelf is there, and what has changed is being measured."""


def make_application(percent: int = 100) -> QApplication:
    """The one QApplication, with the shipped faces; everything drawn at ``percent`` of its size.

    Qt takes the size from the environment, once, before there is an application.
    """
    running = QApplication.instance()
    if isinstance(running, QApplication):
        application = running
    else:
        if percent != 100:
            os.environ.setdefault("QT_SCALE_FACTOR", f"{percent / 100.0:g}")
        QGuiApplication.setApplicationName("bralto")
        QGuiApplication.setApplicationDisplayName("Bralto")
        QGuiApplication.setDesktopFileName("bralto")
        application = QApplication(sys.argv[:1])
    load_fonts()
    application.setFont(font(Size.BODY))
    return application


def theme() -> Tokens:
    """The theme of the desktop."""
    hints = QGuiApplication.styleHints()
    dark = hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark
    return DARK if dark else LIGHT


def make_house(library: Library, tokens: Tokens | None = None, *, later_ms: int = 0) -> House:
    """The window over a library, in the theme given or else that of the desktop, and all that
    works in it."""
    settings, tokens = Settings(library.root), tokens or theme()
    say_in(settings.lengths)
    window = MainWindow(tokens, minutes=settings.step_back_min)
    return House(window, library, settings, tokens, Faults(Reports()), later_ms=later_ms)


def run_window(folder: Path | None = None) -> int:
    """Open the window on a library and stay until it is closed; gives the exit status."""
    try:
        check_display()
    except UserError as error:
        print(f"bralto: {error}", file=sys.stderr)
        return 2
    root: Path | None = (folder or current_library()).absolute()
    application: QApplication | None = None
    status = 0
    while root is not None:
        library: Library | None = None
        trouble: LibraryError | None = None
        try:
            library = _open_or_ring(root)
            if library is None:
                return 0
        except LibraryError as error:
            trouble = error
        if application is None:
            # Held until the end: faces and shaped words that are kept die with it.
            application = make_application(Settings(root).text_scale)
        if library is None:
            assert trouble is not None
            print(f"bralto: {trouble}", file=sys.stderr)
            library = _ask(root, trouble)
        if library is None:
            return 2
        remember(library_folder().absolute(), library.root)
        with library:
            status, root = _stay(application, library)
    return status


def _open_or_ring(root: Path) -> Library | None:
    """The library, or None where its window is there already and has come up.

    Who holds it may be starting just now, or be a command that ends soon.

    Raises:
        LibraryError: it cannot be had.
    """
    until = time.monotonic() + _PATIENCE_S
    while True:
        try:
            return Library.open(root, what="a Bralto window")
        except InUseError as error:
            from bralto.ui.running.doorbell import ring

            if ring(error.address):
                return None
            if time.monotonic() > until:
                raise
            time.sleep(0.1)


def _ask(root: Path, trouble: LibraryError) -> Library | None:
    """What to do without this library: another one, it again, or None to leave."""
    from bralto.ui.library.no_library import ask  # few starts need it

    return ask(root, trouble, theme())


def _stay(application: QApplication, library: Library) -> tuple[int, Path | None]:
    """The window on one library; gives the exit status, and the library to go on with or None."""
    try:
        house = make_house(library, later_ms=_LATER_MS)
    except LibraryError as error:  # not even a list of its studies can be read
        library.close()
        found = _ask(library.root, error)
        if found is None:
            return 2, None
        found.close()
        return 0, found.root
    window, care = house.window, house.care
    house.faults.install()
    for after_ms, act in (
        (_LATER_MS, _collect_again),
        (_LATER_MS, partial(_close_when_asked, application, window)),
        (_LATER_MS, care.listen),
        (_LATER_MS, care.look_at_reports),
        (_READY_MS, house.get_ready),
        (_HOUSEKEEPING_MS, care.keep_house),
    ):
        QTimer.singleShot(after_ms, act)
    window.show()
    status = application.exec()
    going_to = care.going_to
    window.deleteLater()
    return status, going_to


def _close_when_asked(application: QApplication, window: MainWindow) -> None:
    """As by hand, whatever lies over it."""
    from bralto.ui.running.ending import Ending  # the shelf is painted without

    ending = Ending(window)
    window.closing.connect(ending.stop)
    ending.asked.connect(lambda: application.quit() if window.close() else None)
    ending.listen()


def _collect_again() -> None:
    """See `bralto.start`."""
    gc.freeze()
    gc.enable()


def run_tour(folder: Path, shots: Path) -> int:
    """Show each place once, write a PNG of each to a folder, say where, and end."""
    from bralto.ui.tour import tour_of  # the bench is slow to load

    application = make_application()
    shots.mkdir(parents=True, exist_ok=True)
    with Library.open(folder) as library:
        house = make_house(library, LIGHT)
        house.window.show()
        stops = list(tour_of(house))

        def go_on() -> None:
            if stops:
                stops[0].act()
                _when_settled(house, then)
            else:
                application.quit()

        def then() -> None:
            stops[0].then()
            _when_settled(house, shoot)

        def shoot() -> None:
            stop = stops.pop(0)
            path = shots / f"{stop.name}.png"
            stop.of().grab().save(str(path))
            print(path)
            go_on()

        _when_settled(house, go_on)
        status = application.exec()
        house.window.close()
    return status


def _when_settled(house: House, act: Callable[[], object], delay_ms: int = 40) -> None:
    """Call ``act`` once nothing is loading and the window has been painted."""

    def look() -> None:
        if house.busy:
            QTimer.singleShot(delay_ms, look)
        else:
            QTimer.singleShot(delay_ms, act)

    QTimer.singleShot(delay_ms, look)
