"""Demo data into a library: the whole evening class, or the one worked example."""

from __future__ import annotations

import os
from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

from bralto.core.study import Study
from bralto.imaging.load import CleanPicture, encode
from bralto.stand.demo import DemoStudy, demo_orders, demo_study, worked_example
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library

__all__ = ["add_worked_example", "fill_with_demo"]


def fill_with_demo(root: Path, seed: int = 1) -> None:
    """Make a fresh library of demo data in an empty or missing folder, in several processes where
    there are several processors: what takes long is drawing."""
    many = min(_PROCESSES, os.cpu_count() or 1)
    orders = [(kind, number, seed) for kind, number in demo_orders()]
    with Library.open(root) as library:
        if many == 1:
            for study, encoded in map(_drawn, orders):
                _keep_demo(library, study, encoded, study.states[-1].taken or now_utc())
            return
        with ProcessPoolExecutor(many, mp_context=get_context("spawn")) as pool:
            for study, encoded in pool.map(_drawn, orders):
                _keep_demo(library, study, encoded, study.states[-1].taken or now_utc())


_PROCESSES = 4

Encoded = Mapping[str, CleanPicture]


def _drawn(order: tuple[str, int, int]) -> tuple[Study, Encoded]:
    return _encoded(demo_study(*order))


def _encoded(one: DemoStudy) -> tuple[Study, Encoded]:
    """A study with its pictures as files, by the name of their state."""
    named = one.study.pictures()
    return one.study, {name: encode(one.pictures[it.file]) for name, it in named.items()}


def add_worked_example(library: Library) -> str:
    """Add one finished demo study, made now; gives its id."""
    return _keep_demo(library, *_encoded(worked_example()), now_utc())


def _keep_demo(library: Library, study: Study, encoded: Encoded, made: str) -> str:
    with keeping(library) as keep:
        return library.add(study, {name: keep(one) for name, one in encoded.items()}, made)
