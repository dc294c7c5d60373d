"""Composition root of the window: makes the collaborators and hands them on."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication

from bralto.store.library import Library
from bralto.ui.state.settings import Settings
from bralto.ui.theme.tokens import DARK, LIGHT, Tokens
from bralto.ui.theme.type import Size, font, load_fonts
from bralto.ui.window import MainWindow, when_settled

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
    from bralto.ui.tour import tour_of  # the bench is slow to load

    application = make_application()
    shots.mkdir(parents=True, exist_ok=True)
    with Library.open(folder) as library:
        window = make_window(library, LIGHT)
        window.show()
        stops = list(tour_of(window))

        def go_on() -> None:
            if stops:
                stops[0].act()
                when_settled(window, shoot)
            else:
                application.quit()

        def shoot() -> None:
            stop = stops.pop(0)
            path = shots / f"{stop.name}.png"
            stop.of().grab().save(str(path))
            print(path)
            go_on()

        when_settled(window, go_on)
        status = application.exec()
        window.close()
    return status
