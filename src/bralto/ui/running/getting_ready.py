"""What the other places need, got ready while the learner looks at the shelf.

The shelf itself needs neither NumPy nor the bench nor the model: they are loaded once it stands,
off the GUI thread.
"""

from __future__ import annotations

import sys
from importlib import import_module
from typing import TYPE_CHECKING

from bralto.store.library import Library

if TYPE_CHECKING:
    from bralto.core.examination.examine import Examination

__all__ = ["finish_classes", "load_bench", "load_others", "look_ahead"]

_BENCH = ("bralto.ui.document.open_study", "bralto.ui.bench.keys.keymap")
_OTHERS = (
    "bralto.ui.record.record_place",
    "bralto.ui.record.accuracy.accuracy_page",
    "bralto.ui.model.model_place",
)


def load_bench() -> None:
    """Load what puts a study on the bench."""
    for module in _BENCH:
        import_module(module)


def finish_classes() -> None:
    """Have PyQt make what belongs to the classes that are used here, as far as it is loaded: their
    enumerations and methods, which it makes when a class is first asked for anything.

    On the GUI thread: of two threads that ask a class first each would make them.
    """
    ours = [module for name, module in list(sys.modules.items()) if name.startswith("bralto.ui")]
    for found in {one for module in ours for one in list(vars(module).values()) if _is_of_qt(one)}:
        getattr(found, "", None)


def _is_of_qt(found: object) -> bool:
    return isinstance(found, type) and found.__module__.startswith("PyQt6.")


def look_ahead(library: Library, study_id: str) -> Examination | None:
    """Examine a study that will probably be opened, and find its corrections, which are kept.

    Gives the figures of its latest state, or None where there are none.
    """
    from bralto.core.canons.shipped_canons import canons_of
    from bralto.core.examination.examine import examine

    try:
        stored = library.stored(study_id)
        if stored is None or not stored.study.states:
            return None
        found = examine(stored.study)
        found.advise()
        canons_of(stored.study.view)
        for side in (found.seen, found.drawn):
            _ = side.lies  # and so its shape, which all boards ask for
        return found
    except Exception:
        return None  # what is wrong with it, or with Bralto, is said when it is opened


def load_others() -> None:
    """Load the record, the model stand, and the figure as it first stands there."""
    for module in _OTHERS:
        import_module(module)
    from bralto.core.mannequin.setting import default_setting

    default_setting()  # what its skin is made of is kept
