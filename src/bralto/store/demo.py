"""Demo data into a library: the whole evening class, or the one worked example."""

from __future__ import annotations

from pathlib import Path

from bralto.imaging.load import encode
from bralto.stand.demo import DemoStudy, demo_studies, worked_example
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library

__all__ = ["add_worked_example", "fill_with_demo"]


def fill_with_demo(root: Path, seed: int = 1) -> None:
    """Make a fresh library of demo data in an empty or missing folder."""
    with Library.open(root) as library:
        for one in demo_studies(seed):
            _keep_demo(library, one, one.study.states[-1].taken or now_utc())


def add_worked_example(library: Library) -> str:
    """Add one finished demo study, made now; gives its id."""
    return _keep_demo(library, worked_example(), now_utc())


def _keep_demo(library: Library, one: DemoStudy, made: str) -> str:
    pictures = {"": one.study.reference, **{s.name: s.picture for s in one.study.states}}
    with keeping(library) as keep:
        media = {
            name: keep(encode(one.pictures[value.file]))
            for name, value in pictures.items()
            if value is not None
        }
        return library.add(one.study, media, made)
