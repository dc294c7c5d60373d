"""PyQt's enumerations, made by two shorter ways than its own.

PyQt makes all enumerations of a class when the first of them is named: of `Qt` itself 91 with
twelve hundred members, through `enum`'s functional form. That form looks for what can be wrong with
names written by hand, and takes a fifth of a start. `enum._simple_enum`, by which the standard
library makes its own (`http.HTTPStatus`, `re.RegexFlag`), does without and takes half as long.

What that makes without members serves as a template here, one for each base: a class is a copy
of it, and its members are put in directly, which takes less than half of that again. What has to
stand in a class is a matter of this Python's `enum`, so it is done with 3.11 alone; a test compares
all classes of PyQt's with those of the functional form.
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
    templates = _Templates(simple) if sys.version_info[:2] == (3, 11) else None

    def create(base: enum.EnumType, class_name: str, names: Any, **how: Any) -> Any:
        module, qualname = how.get("module"), how.get("qualname")
        if module is None:  # as the functional form finds it, which looks two calls up
            how["module"] = sys._getframe(2).f_globals.get("__name__")
        pyqts = isinstance(module, str) and module.startswith("PyQt6.")
        if not (pyqts and qualname and isinstance(names, dict)):
            return plain(base, class_name, names, **how)
        told = {"__module__": module, "__qualname__": qualname, "__doc__": None}
        if templates is not None and templates.serves(base):
            return templates.filled(base, class_name, told, names)
        made = simple(base)(type(class_name, (), {"__module__": module, **names}))
        made.__qualname__, made.__doc__ = qualname, None
        return made

    setattr(enum.EnumType, "_create_", create)  # noqa: B010


class _Templates:
    """Classes without members, by base, and classes made from them; of Python 3.11."""

    def __init__(self, simple: Any) -> None:
        self._simple = simple
        self._made: dict[enum.EnumType, dict[str, Any]] = {}

    def _of(self, base: enum.EnumType) -> dict[str, Any]:
        """What stands in a class of this base, whatever its members are."""
        if base not in self._made:
            empty = self._simple(base)(type("Empty", (), {}))
            own = ("__dict__", "__weakref__")
            self._made[base] = {key: it for key, it in vars(empty).items() if key not in own}
        return self._made[base]

    def serves(self, base: Any) -> bool:
        """Whether `filled` knows what has to stand in a class of this base: flags of 3.11.2, which
        Debian 12 has, keep no mask of their single bits, and their other masks are others."""
        return not issubclass(base, enum.Flag) or "_singles_mask_" in self._of(base)

    def filled(
        self, base: Any, name: str, told: dict[str, Any], names: dict[str, int]
    ) -> enum.EnumType:
        """The enumeration of these members.

        Args:
            told: what is known of the class besides: its module, and the like.
            names: each member's value by its name; two names of one value are one member.
        """
        listed: list[str] = []
        members: dict[str, Any] = {}
        by_value: dict[int, Any] = {}
        kept = {
            "_member_names_": listed,
            "_member_map_": members,
            "_value2member_map_": by_value,
            "_unhashable_values_": [],
        }
        made: Any = type.__new__(enum.EnumType, name, (base,), {**self._of(base), **told, **kept})
        put = type.__setattr__  # past the look whether a member would be written over
        as_number = base._member_type_ is int
        flags = issubclass(base, enum.Flag)
        single = several = 0
        for key, value in names.items():
            member = by_value.get(value)
            if member is None:
                member = int.__new__(made, value) if as_number else object.__new__(made)
                member._value_, member._name_ = value, key
                member.__objclass__, member._sort_order_ = made, len(listed)
                by_value[value] = member
                if not flags:
                    listed.append(key)
                elif value and not value & (value - 1):  # one bit; what has several is an alias
                    listed.append(key)
                    single |= value
                else:
                    several |= value
            members[key] = member
            put(made, key, member)
        if flags:
            put(made, "_flag_mask_", single | several)
            put(made, "_singles_mask_", single)
            put(made, "_all_bits_", 2 ** (single | several).bit_length() - 1)
            bits = [members[key]._value_ for key in listed]
            if bits != sorted(bits):
                put(made, "_iter_member_", made._iter_member_by_def_)
        return made  # type: ignore[no-any-return]
