"""What the other places need, got ready while the learner looks at the shelf.

The shelf itself needs neither NumPy nor the bench nor the model: they are loaded once it stands,
off the GUI thread.
"""

from __future__ import annotations

from importlib import import_module

from bralto.store.library import Library

__all__ = ["load_bench", "load_others", "look_ahead"]

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


def look_ahead(library: Library, study_id: str) -> None:
    """Examine a study that will probably be opened, and find its corrections, which are kept."""
    from bralto.core.canons.shipped_canons import canons_of
    from bralto.core.examination.examine import examine

    try:
        stored = library.stored(study_id)
        if stored is not None and stored.study.states:
            examine(stored.study).advise()
            canons_of(stored.study.view)
    except Exception:
        return  # what is wrong with it, or with Bralto, is said when it is opened


def load_others() -> None:
    """Load the record, the model stand, and the figure as it first stands there."""
    for module in _OTHERS:
        import_module(module)
    from bralto.core.mannequin.setting import default_setting

    default_setting()  # what its skin is made of is kept
