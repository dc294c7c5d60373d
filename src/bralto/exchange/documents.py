"""JSON documents in: what they say they are, and the first thing that is wrong with them."""

from __future__ import annotations

import json
import math
from collections.abc import Collection, Iterable
from typing import Any

from pydantic import ValidationError

from bralto.core.errors import UserError
from bralto.disk.nested import is_deep

__all__ = ["first_fault", "no_number", "of_format", "parse_json"]


def parse_json(text: str, where: str) -> Any:
    """The value of JSON text; ``where`` names it in messages.

    Raises:
        UserError: it is none.
    """
    try:
        found = json.loads(text)
    except json.JSONDecodeError as error:
        raise UserError(f"{where}: not valid JSON (line {error.lineno}: {error.msg})") from None
    except ValueError as error:  # a number of more digits than Python reads
        raise UserError(f"{where}: not valid JSON ({str(error).partition(';')[0]})") from None
    except RecursionError:  # how deep it comes to that is another with each Python
        raise UserError(f"{where}: not valid JSON (nested too deep)") from None
    if is_deep(found):
        raise UserError(f"{where}: not valid JSON (nested too deep)")
    return found


def no_number(data: Any, place: str = "") -> str | None:
    """Where a document has NaN or an infinity, which JSON does not know and Python reads."""
    if isinstance(data, float):
        return None if math.isfinite(data) else place
    parts: Iterable[tuple[object, Any]] = ()
    if isinstance(data, dict):
        parts = data.items()
    elif isinstance(data, list):
        parts = enumerate(data)
    found = (no_number(part, f"{place}.{key}".lstrip(".")) for key, part in parts)
    return next((one for one in found if one is not None), None)


def of_format(data: Any, where: str, name: str, version: int, what: str) -> dict[str, Any]:
    """The document itself, once it says that it is of that format, and of no newer version.

    Raises:
        UserError: it is another, or newer.
    """
    if not isinstance(data, dict) or data.get("format") != name:
        raise UserError(f'{where}: not a Bralto {what}; it must say "format": "{name}"')
    given = data.get("version")
    if isinstance(given, int) and given > version:
        raise UserError(
            f"{where}: written as version {given}, this Bralto reads up to {version}; update it"
        )
    return data


def first_fault(error: ValidationError, unsaid: Collection[str] = ()) -> str:
    """Place and fault of the first thing that a model refuses.

    Args:
        unsaid: parts of places that are of the model and not of the file.
    """
    fault = error.errors(include_url=False)[0]
    place = ".".join(str(part) for part in fault["loc"] if part not in unsaid) or "the file"
    message = fault["msg"].removeprefix("Value error, ")
    got = fault.get("input")
    shown = f" (got {got!r})" if isinstance(got, str | int | float) else ""
    return f"{place}: {message[:1].lower()}{message[1:]}{shown}"
