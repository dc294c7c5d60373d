"""A library as it is after the first look at its shelf: studies measured, cards laid.

`python -m bench.looked_at FOLDER` leaves it so, from a process that has no window.
"""

from __future__ import annotations

import sys
from pathlib import Path

from bench import gestures
from bralto.app import make_application, make_house
from bralto.store.library import Library

__all__ = ["look_at"]


def look_at(folder: Path) -> None:
    """Open the window on a library until nothing is left to do, and close it; wants an
    application."""
    with Library.open(folder) as library:
        house = make_house(library)
        window = house.window
        window.show()
        while house.busy:
            gestures.wait(20)
        gestures.wait(200)
        while house.busy:
            gestures.wait(20)
        window.close()
        window.deleteLater()


if __name__ == "__main__":
    application = make_application()  # held until the end
    look_at(Path(sys.argv[1]))
