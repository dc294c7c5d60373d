"""PyQt's enumerations, made by the standard library's own short way.

PyQt makes all enumerations of a class when the first of them is named: of `Qt` itself 88 with a
thousand members, through `enum`'s functional form. That form looks for what can be wrong with names
written by hand, and takes a fifth of a start. `enum._simple_enum`, by which the standard library
makes its own (`http.HTTPStatus`, `re.RegexFlag`), does without and gives the same classes; a test
compares all of them.
"""

from __future__ import annotations

import enum
import sys
from typing import Any

__all__ = ["make_quickly"]


def make_quickly() -> None:
    """From now on make PyQt's enumerations the short way; call it before PyQt is loaded.

    All others are made as before, and so are PyQt's where this Python has no such way.
    """
    simple = getattr(enum, "_simple_enum", None)
    plain = vars(enum.EnumType).get("_create_")  # what the functional form calls
    if simple is None or plain is None:
        return

    def create(base: enum.EnumType, name: str, names: Any, **how: Any) -> Any:
        module, qualname = how.get("module"), how.get("qualname")
        if module is None:  # as the functional form finds it, which looks two calls up
            how["module"] = sys._getframe(2).f_globals.get("__name__")
        pyqts = isinstance(module, str) and module.startswith("PyQt6.")
        if not (pyqts and qualname and isinstance(names, dict)):
            return plain(base, name, names, **how)
        made = simple(base)(type(name, (), {"__module__": module, **names}))
        made.__qualname__, made.__doc__ = qualname, None
        return made

    setattr(enum.EnumType, "_create_", create)  # noqa: B010
