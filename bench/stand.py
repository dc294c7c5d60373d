"""The model in the real window: pictures a second while something is dragged on it.

As a program it prints the rows as JSON: a process of its own, as the window is.
"""

from __future__ import annotations

import json
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication, QWidget

from bench import gestures
from bralto.app import make_application, make_house
from bralto.store.library import Library
from bralto.ui.model.model_place import ModelPlace

__all__ = ["stand_rows"]

SECONDS = 4.0
MOVES_S = 0.008
"""Between two moves of the pointer: 125 a second, as a common mouse sends them."""


def sent(board: QWidget, kind: QEvent.Type, at: QPointF) -> None:
    """The pointer on a board, its left button down."""
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    moved, up = kind == QEvent.Type.MouseMove, kind == QEvent.Type.MouseButtonRelease
    event = QMouseEvent(
        kind, at, board.mapToGlobal(at), none if moved else left, none if up else left,
        Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    QApplication.sendEvent(board, event)


def rested(place: ModelPlace) -> None:
    """Wait for the finished picture and those on the shelf."""
    drawn = None
    while drawn is None or not drawn.finished or place.busy or not place.shelf.grid.complete:
        gestures.wait(50)
        drawn = place.board.drawn


def dragged(
    place: ModelPlace, application: QApplication, start: QPointF, by: tuple[float, float]
) -> tuple[float, float]:
    """Pictures a second, and the longest time in which no event was taken, ms."""
    board = place.board
    came: list[float] = []

    def count(_: object) -> None:
        came.append(time.perf_counter())

    board.drawer.drawn.connect(count)
    sent(board, QEvent.Type.MouseButtonPress, start)
    begun = last = time.perf_counter()
    longest = 0.0
    while (share := (last - begun) / SECONDS) < 1.0:
        sent(board, QEvent.Type.MouseMove, start + share * QPointF(*by))
        application.processEvents()
        now = time.perf_counter()
        longest, last = max(longest, now - last), now
        time.sleep(max(0.0, MOVES_S - (now - last)))
    rate = len(came) / SECONDS
    board.drawer.drawn.disconnect(count)
    sent(board, QEvent.Type.MouseButtonRelease, start + QPointF(*by))
    rested(place)
    return rate, 1e3 * longest


def measured(scratch: Path) -> list[tuple[str, str, str]]:
    """A hand pulled, the stand turned, lamp and eye moved, in a window of 1280x800."""
    application = make_application()
    with Library.open(scratch / "model") as library:
        house = make_house(library)
        window = house.window
        window.resize(1280, 800)
        window.show()
        window.go("Model")
        place = house.model
        rested(place)
        board = place.board
        rows = []

        def beside() -> QPointF:
            return QPointF(40.0, board.height() - 40.0)

        pulls: list[tuple[str, int, Callable[[], QPointF], tuple[float, float]]] = [
            ("a hand pulled", 15, lambda: board.grips()["hand_l"], (90.0, -160.0)),
            ("the stand turned", 15, beside, (200.0, 0.0)),
            ("the lamp moved", 15, lambda: board.handles()["lamp"], (120.0, 40.0)),
            ("the eye raised", 15, lambda: board.handles()["eye"], (0.0, 100.0)),
            ("the plaster head turned", 25, beside, (200.0, 0.0)),
        ]
        for what, budget, start, by in pulls:
            if "head" in what:
                place.state.choose_subject("head")
                rested(place)
            rate, longest = dragged(place, application, start(), by)
            drawn = f"{rate:.1f} pictures a second; GUI thread gone for {longest:.0f} ms at most"
            rows.append((f"model in the window at 1280x800, {what}", drawn, f"{budget} a second"))
        window.close()
    return rows


def stand_rows(scratch: Path) -> list[tuple[str, str, str]]:
    """The same, measured in a process that has done nothing else."""
    done = subprocess.run(
        [sys.executable, "-m", "bench.stand", scratch], capture_output=True, text=True, check=True,
        cwd=Path(__file__).parents[1],
    )  # fmt: skip
    return [(what, found, budget) for what, found, budget in json.loads(done.stdout)]


if __name__ == "__main__":
    print(json.dumps(measured(Path(sys.argv[1]))))
