"""Text files in: one sentence for what cannot be read."""

from __future__ import annotations

from pathlib import Path

from bralto.core.errors import UserError

__all__ = ["read_text"]


def read_text(path: Path, what: str, largest: int) -> str:
    """The UTF-8 text of a file.

    Args:
        what: what is wanted, such as "a study file", for messages.
        largest: bytes; a larger file is none of those.

    Raises:
        UserError: it cannot be read; one sentence with the file's name.
    """
    try:
        if path.stat().st_size > largest:
            raise UserError(f"{path}: larger than {largest // 1024} kB, so not {what}")
        return path.read_text("utf-8")
    except FileNotFoundError:
        raise UserError(f"{path}: there is no such file; give the path of {what}") from None
    except UnicodeDecodeError:
        raise UserError(f"{path}: not UTF-8 text; give the path of {what}") from None
    except OSError as error:
        raise UserError(f"{path}: cannot be read ({error.strerror})") from None
