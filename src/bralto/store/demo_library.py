"""Demo data into a library: the whole evening class, or the one worked example."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor
from contextlib import ExitStack, suppress
from multiprocessing import get_context
from pathlib import Path

from bralto.core.study import Study
from bralto.imaging.load import CleanPicture, encode
from bralto.stand.evening_class import DemoStudy, demo_orders, demo_study, worked_example
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library

__all__ = ["add_worked_example", "fill_with_demo"]


def fill_with_demo(root: Path, seed: int = 1) -> None:
    """Make a fresh library of demo data in an empty or missing folder, in several processes where
    there are several processors: what takes long is drawing."""
    orders = [(kind, number, seed) for kind, number in demo_orders()]
    with Library.open(root) as library, ExitStack() as stack:
        drawn: Iterator[tuple[Study, Encoded]] = map(_drawn, orders)
        many = min(_PROCESSES, os.cpu_count() or 1)
        if many > 1:
            with suppress(OSError, NotImplementedError):  # where there can be only one process
                pool = ProcessPoolExecutor(many, mp_context=get_context("spawn"))
                drawn = stack.enter_context(pool).map(_drawn, orders)
        for study, encoded in drawn:
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
