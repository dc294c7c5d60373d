"""Brings a database to the schema of this version, and refuses a newer one by name."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import Connection, Engine, inspect, text

from bralto.core.errors import UserError

__all__ = ["HEAD", "bring_up_to_date"]

HEAD = "0002"
"""Revision of the newest migration. Stands here so that a database that is up to date opens
without loading Alembic; a test holds it against the migrations."""

_KNOWN = ("0001", "0002")


def bring_up_to_date(engine: Engine, where: Path) -> None:
    """Create or migrate the tables in one transaction.

    Raises:
        UserError: the library was written by a newer Bralto.
    """
    with engine.connect() as connection:
        found = _revision(connection)
    if found == HEAD:
        return
    if found is not None and found not in _KNOWN:
        raise UserError(
            f"{where}: this library was written by a newer Bralto (schema {found}); update Bralto"
        )
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def _revision(connection: Connection) -> str | None:
    if not inspect(connection).has_table("alembic_version"):
        return None
    return connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
