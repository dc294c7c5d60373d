"""`bralto` alone opens the window; Qt is imported only then."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from bralto.core.errors import UserError

__all__ = ["open_window"]


def open_window(
    context: typer.Context,
    library: Annotated[
        str | None,
        typer.Option(metavar="<path>", help="folder of the library, in place of your own"),
    ] = None,
) -> None:
    """Open the window on your library."""
    if library == "":  # an unset variable, and not the folder that one stands in
        raise UserError("--library wants a folder")
    folder = None if library is None else Path(library)
    if context.invoked_subcommand is not None:
        if folder is not None:
            from bralto.store.care.places import name_library

            name_library(folder)
        return
    from bralto.app import run_window

    raise typer.Exit(run_window(folder))
