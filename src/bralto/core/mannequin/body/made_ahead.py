"""Arrays that set-up makes of the figure's forms, so that no start makes them again.

They lie beside the code's own bytecode, and count as long as what they were made from is the same;
without them they are made when they are needed, as they are on a machine that was not set up so.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property
from hashlib import sha256
from io import BytesIO
from pathlib import Path
from typing import Any
from zipfile import BadZipFile

import numpy as np
import numpy.typing as npt

__all__ = ["MadeAhead"]

_OF = "made of"

_Array = npt.NDArray[Any]


class MadeAhead:
    """Arrays by name in one file."""

    def __init__(self, source: str, name: str, also: Iterable[Path] = ()) -> None:
        """
        Args:
            source: `__file__` of the module that makes them. name: of the file beside its bytecode.
            also: what else they are made from.
        """
        code = Path(source)
        self._sources = (code, *also)
        self.file = code.parent / "__pycache__" / name

    @property
    def sources(self) -> tuple[Path, ...]:
        """What they are made from."""
        return self._sources

    def given(self, name: str) -> _Array | None:
        """One of them, not to be written to; None where it was not made, or of something else."""
        return self._arrays.get(name)

    @cached_property
    def _arrays(self) -> dict[str, _Array]:
        try:
            with self.file.open("rb") as opened, np.load(opened, allow_pickle=False) as held:
                if str(held[_OF]) != self._made_of():
                    return {}
                found = {name: held[name] for name in held.files if name != _OF}
        except (OSError, ValueError, KeyError, EOFError, BadZipFile):
            return {}
        for array in found.values():
            array.setflags(write=False)
        return found

    def _made_of(self) -> str:
        """Changes with whatever they are made from, and with NumPy."""
        told = sha256(np.__version__.encode())
        for source in self._sources:
            told.update(source.read_bytes())
        return told.hexdigest()

    def packed(self, arrays: dict[str, _Array]) -> bytes:
        """What `file` holds of them."""
        held = BytesIO()
        np.savez(held, allow_pickle=False, **{_OF: np.array(self._made_of())}, **arrays)
        return held.getvalue()
