"""`bralto import` and `bralto export`: studies into the library and out of it as files."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.printed.terminal import tell
from bralto.core.errors import UserError

__all__ = ["export_study", "import_studies"]

_ENDINGS = (".bralto", ".json")


def import_studies(
    files: Annotated[
        list[Path], typer.Argument(help="bundles (*.bralto) and study files (*.json)")
    ],
) -> None:
    """Take studies into your library, their pictures with them."""
    from bralto.store.carrying import read_in
    from bralto.store.learners import current_library
    from bralto.store.library import Library

    faults = []
    with Library.open(current_library(), what="`bralto import`") as library:
        for path in files:
            try:
                study_id = read_in(library, path)
            except UserError as error:
                faults.append(str(error))
            else:
                tell(f"{study_id}  {path.name}")
    if faults:
        more = f" (and {len(faults) - 1} more could not be read)" if len(faults) > 1 else ""
        raise UserError(faults[0] + more)


def export_study(
    study: Annotated[str, typer.Argument(help="id of a study in your library")],
    out: Annotated[Path, typer.Argument(help="OUT.bralto, or OUT.json with its pictures beside")],
) -> None:
    """Write a study out, as a bundle or as a study file with its pictures."""
    if out.suffix not in _ENDINGS:
        raise UserError(f"{out}: give a name that ends in {' or '.join(_ENDINGS)}")
    from bralto.cli.own_library import open_library
    from bralto.store.carrying import write_out

    with open_library() as library:
        write_out(library, study, out)
    tell(out)
