"""`bralto` alone opens the window; Qt is imported only then."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

__all__ = ["open_window"]


def open_window(
    context: typer.Context,
    library: Annotated[
        Path | None, typer.Option(help="folder of the library, in place of your own")
    ] = None,
) -> None:
    """Open the window on your library."""
    if context.invoked_subcommand is not None:
        if library is not None:
            from bralto.store.care.places import name_library

            name_library(library)
        return
    from bralto.app import run_window

    raise typer.Exit(run_window(library))
