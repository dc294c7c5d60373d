"""Named tuples whose classes are made quickly, for what is loaded before the window is painted.

`typing.NamedTuple` writes a constructor for each class and has Python compile it: the 17 classes of
a start are a seventeenth of its instructions. Those made here have one constructor together; they
are read as fast, and made nearly so where all values are given in order: by name, or where some are
left out, a tuple takes a microsecond longer.
"""

from __future__ import annotations

import collections
from collections.abc import Collection, Iterable
from operator import itemgetter
from typing import TYPE_CHECKING, Any, Self

__all__ = ["NamedTuple"]

if TYPE_CHECKING:
    from typing import NamedTuple  # a type checker knows how its fields are read


def _field_in_python(at: int, doc: str | None) -> property:
    return property(itemgetter(at), doc=doc)


_new = tuple.__new__
_field = getattr(collections, "_tuplegetter", _field_in_python)  # as `namedtuple` has it


class _Named(tuple):  # type: ignore[type-arg]
    """What all named tuples have: the methods of `collections.namedtuple`."""

    __slots__ = ()
    _fields: tuple[str, ...] = ()
    _field_defaults: dict[str, Any] = {}  # noqa: RUF012

    def __new__(cls, *values: Any, **named: Any) -> Self:
        if named or len(values) != len(cls._fields):
            return _new(cls, cls._completed(values, named))
        return _new(cls, values)

    @classmethod
    def _completed(cls, values: tuple[Any, ...], named: dict[str, Any]) -> Collection[Any]:
        """A value for each field: those in order, then those by name, then what it is by itself."""
        whole = list(values)
        for field in cls._fields[len(whole) :]:
            if field in named:
                whole.append(named.pop(field))
            elif field in cls._field_defaults:
                whole.append(cls._field_defaults[field])
            else:
                raise TypeError(f"{cls.__name__} is missing {field!r}")
        if named:
            raise TypeError(f"{cls.__name__} has no place for {next(iter(named))!r}")
        return cls._counted(whole)

    @classmethod
    def _counted(cls, whole: Collection[Any]) -> Collection[Any]:
        if len(whole) != len(cls._fields):
            raise TypeError(f"{cls.__name__} takes {len(cls._fields)} values, not {len(whole)}")
        return whole

    @classmethod
    def _make(cls, values: Iterable[Any]) -> Self:
        return _new(cls, cls._counted(tuple(values)))

    def _replace(self, **named: Any) -> Self:
        whole = self._make(map(named.pop, self._fields, self))
        if named:
            raise ValueError(f"{type(self).__name__} has no field {next(iter(named))!r}")
        return whole

    def _asdict(self) -> dict[str, Any]:
        return dict(zip(self._fields, self, strict=True))

    def __repr__(self) -> str:
        told = (f"{field}={it!r}" for field, it in zip(self._fields, self, strict=True))
        return f"{type(self).__name__}({', '.join(told)})"

    def __getnewargs__(self) -> tuple[Any, ...]:
        return tuple(self)


class _Maker(type):
    """Makes of a class that annotates fields a tuple of them."""

    def __new__(cls, name: str, bases: tuple[type, ...], body: dict[str, Any]) -> type:
        if not bases:
            return super().__new__(cls, name, bases, body)
        fields = tuple(body.get("__annotations__", ()))
        body["_field_defaults"] = {field: body[field] for field in fields if field in body}
        body["_fields"] = body["__match_args__"] = fields
        body["__slots__"] = ()
        for at, field in enumerate(fields):
            body[field] = _field(at, None)
        return type(name, (_Named,), body)


if not TYPE_CHECKING:

    class NamedTuple(metaclass=_Maker):
        """A base: who derives from it becomes a tuple of the fields that are annotated."""
