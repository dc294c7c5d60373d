"""The command `bralto`: straight to the window where nothing else is asked for."""

from __future__ import annotations

import gc
import os
import sys
from pathlib import Path

from bralto.core.errors import BROKEN_OFF

__all__ = ["run"]


def run() -> None:
    """Entry point; broken off by Ctrl+C before anything else listens to it, it says nothing."""
    try:
        _run()
    except KeyboardInterrupt:
        sys.exit(BROKEN_OFF)


def _run() -> None:
    """The window does without the command line's parser, which takes as long to load as the whole
    shelf; what is not plainly a window goes through it."""
    # Matrices here are of some hundred rows: more threads wait for each other longer than they
    # work, and take the processors from the window.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    asked, folder = sys.argv[1:], None
    if len(asked) == 2 and asked[0] == "--library":
        folder = Path(asked[1])
    elif len(asked) == 1 and asked[0].startswith("--library="):
        folder = Path(asked[0].partition("=")[2])
    if asked and (folder is None or not folder.name):
        from bralto.cli.main import run as run_command

        run_command()
        return
    # What is loaded now stays: looking through it again and again is for nothing. The window
    # turns the collector on again once it stands.
    gc.disable()
    from bralto.ui.running.quick_enumerations import make_quickly

    make_quickly()
    from bralto.app import run_window

    status = run_window(folder)
    from bralto.cli.printed.terminal import leave  # not before the window is closed

    leave(status)
