"""`bralto demo`: the window on a fresh library of demo data."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

__all__ = ["demo"]


def demo(
    tour: Annotated[
        Path | None,
        typer.Option(help="show each place once, write a screenshot of each here, and end"),
    ] = None,
    keep: Annotated[
        Path | None, typer.Option(help="write the demo library here and keep it")
    ] = None,
    seed: Annotated[int, typer.Option(help="seed of the demo data", min=0)] = 1,
) -> None:
    """Open the window on a fresh library of demo data."""
    from bralto.app import run_tour, run_window
    from bralto.disk.display import check_display
    from bralto.disk.held_folder import HeldFolder
    from bralto.store.demo_library import fill_with_demo

    check_display()
    with HeldFolder("demo") as scratch:
        folder = keep or scratch / "library"
        fill_with_demo(folder, seed, half_year=True)
        status = run_tour(folder, tour) if tour is not None else run_window(folder)
    raise typer.Exit(status)
