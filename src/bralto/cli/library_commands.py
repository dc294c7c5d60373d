"""`bralto library`: where the library lies, whether it is sound, its backups."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.printed.terminal import tell
from bralto.core.errors import UserError
from bralto.core.words.phrases import how_many

__all__ = ["library"]

library = typer.Typer(help="Where your library lies, whether it is sound, its backups.")


def _root() -> Path:
    from bralto.store.learners import current_library

    return current_library()


@library.command()
def where() -> None:
    """Say where the library lies, how large it is, and which backups there are."""
    from bralto.store.care.backups import backups

    root = _root()
    size = sum(path.stat().st_size for path in root.rglob("*") if path.is_file())
    tell(f"{root}  {size / 1e6:.1f} MB")
    for one in backups(root):
        tell(f"{one.path.name}  {one.words}  {one.size / 1e6:.1f} MB")


@library.command()
def check() -> None:
    """Read every page, every study and every picture; exit status 1 where one is not sound."""
    from bralto.store.checking import check as look_through
    from bralto.store.library import Library

    with Library.open(_root(), reading=True) as opened:
        faults = look_through(opened)
        count = opened.count()
    for fault in faults:
        tell(fault)
    if faults:
        raise typer.Exit(1)
    tell(f"{how_many(count, 'study')}, all sound")


@library.command()
def backup() -> None:
    """Make a backup of the studies now; pictures are never changed and not among it."""
    from bralto.store.care.backups import keep_backup

    made = keep_backup(_root(), datetime.now(UTC), asked=True)
    assert made is not None
    tell(f"{made.path}  {made.size / 1e6:.1f} MB")


@library.command()
def restore(
    name: Annotated[
        str | None, typer.Argument(help="file of a backup; else the newest sound one")
    ] = None,
) -> None:
    """Put a backup back; what is there now is kept as a backup of its own."""
    from bralto.store.care.backups import backups, newest_sound
    from bralto.store.care.backups import restore as put_back
    from bralto.store.lock import Lock

    root = _root()
    if not root.is_dir():
        raise UserError(f"{root}: there is no library")
    chosen = (
        newest_sound(root)
        if name is None
        else next((one for one in backups(root) if one.path.name == Path(name).name), None)
    )
    if chosen is None:
        which = "no sound backup" if name is None else f"no backup '{name}'"
        raise UserError(f"{root}: there is {which}; `bralto library where` lists them")
    lock = Lock.take(root, "`bralto library restore`")
    try:
        kept = put_back(root, chosen)
    finally:
        lock.let_go()
    tell(f"as it was on {chosen.words}")
    if kept is not None:
        tell(f"what was there: {kept}")
