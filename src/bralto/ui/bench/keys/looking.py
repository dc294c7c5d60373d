"""How the boards of a bench are looked at: turned, mirrored, tied to each other, bare."""

from __future__ import annotations

from bralto.ui.bench.bench import Bench
from bralto.ui.session import pointing, prompting

__all__ = [
    "mirror", "next_canon", "put_away", "toggle_boards", "toggle_link", "toggle_loupe",
    "turn_boards", "upside_down",
]  # fmt: skip


def mirror(bench: Bench) -> None:
    """Both boards as in a mirror; the eye sees them fresh."""
    bench.saying.has_rested()
    bench.alignment.mirror()


def upside_down(bench: Bench) -> None:
    """Both boards on their heads: shapes instead of names."""
    bench.saying.has_rested()
    bench.work.upside_down()


def turn_boards(bench: Bench) -> None:
    """One board alone with the middle at its side, then the other, then both."""
    bench.layout_.turn_boards()
    bench.show_pass()
    bench.align()


def toggle_boards(bench: Bench) -> None:
    """Give the boards the window, or bring ladder and list back."""
    bench.study.apply(prompting.toggle_boards)


def toggle_link(bench: Bench) -> None:
    """Move both boards together, or each alone."""
    bench.alignment.linked = not bench.alignment.linked
    bench.write_headings()


def toggle_loupe(bench: Bench) -> None:
    """The loupe at the mark being placed, on or off."""
    for board in bench.boards:
        board.loupe_on = not board.loupe_on
        board.update()


def next_canon(bench: Bench) -> None:
    """The stations of the next average over both pictures, and none behind the last."""
    bench.study.apply(pointing.next_canon)
    if not pointing.grown_canons(bench.study.now.ground):
        bench.study.trouble.emit("No canon speaks of this view.")


def put_away(bench: Bench) -> None:
    """Nothing over the pictures and nothing held: no ghost, no lines, no stick."""
    bench.study.apply(pointing.hold, None)
    bench.saying.has_rested()
    bench.drawing_over.take(None)
    bench.preview.put_away()
    bench.sighting.put_away()
