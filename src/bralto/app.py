"""Composition root of the window: makes the collaborators and hands them on."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication, QWidget

from bralto.store.library import Library
from bralto.ui.state.settings import Settings
from bralto.ui.theme.tokens import DARK, LIGHT, Tokens
from bralto.ui.theme.type import Size, font, load_fonts
from bralto.ui.window import PLACES, MainWindow, when_settled

__all__ = ["make_application", "make_window", "run_tour", "run_window"]


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


def make_window(library: Library, tokens: Tokens | None = None) -> MainWindow:
    """The window over a library, in the theme given or else that of the desktop."""
    if tokens is None:
        hints = QGuiApplication.styleHints()
        dark = hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark
        tokens = DARK if dark else LIGHT
    return MainWindow(library, tokens)


def run_window(folder: Path) -> int:
    """Open the window on a library and stay until it is closed; gives the exit status."""
    application = make_application(Settings(folder).text_scale)
    with Library.open(folder) as library:
        window = make_window(library)
        window.show()
        return application.exec()


def run_tour(folder: Path, shots: Path) -> int:
    """Show each place once, write a PNG of each to a folder, say where, and end."""
    application = make_application()
    shots.mkdir(parents=True, exist_ok=True)
    with Library.open(folder) as library:
        window = make_window(library, LIGHT)
        window.show()
        newest = window.shelf_state.entries[0].stored.id

        def shoot(
            name: str, then: Callable[[], None], what: Callable[[], QWidget] = lambda: window
        ) -> Callable[[], None]:
            def act() -> None:
                path = shots / f"{name}.png"
                what().grab().save(str(path))
                print(path)
                then()
                when_settled(window, following.pop(0) if following else application.quit)

            return act

        def bench_pass(key: str) -> Callable[[], None]:
            def enter() -> None:
                assert window.bench is not None
                window.bench.study.enter_pass(key)

            return enter

        def open_bench() -> None:
            window.open_study(newest)
            bench_pass("heights")()

        def slip() -> QWidget:
            assert window.arrivals.slip is not None
            return window.arrivals.slip

        def open_sheet() -> None:
            photographed = next(
                e for e in window.shelf_state.entries if len(e.stored.study.states) > 1
            )
            window.open_study(photographed.stored.id)
            assert window.bench is not None
            window.arrivals.show_sheet(window.bench.study, "drawing")

        def close_sheet() -> None:
            window.arrivals.slip.reject() if window.arrivals.slip else None
            assert window.bench is not None
            window.bench.study.enter_pass("edges")
            window.bench.work.turn_looks(("two values",))

        following = [
            shoot("bench-heights", bench_pass("widths")),
            shoot("bench-widths", bench_pass("tilts")),
            shoot("bench-tilts", lambda: window.go(PLACES[2])),
            shoot("record", open_sheet),
            shoot("sheet", close_sheet, slip),
            shoot("bench-values", lambda: None),
        ]
        when_settled(window, shoot("shelf", open_bench))
        status = application.exec()
        window.close()
    return status
