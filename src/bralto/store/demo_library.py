"""Demo data into a library: the whole evening class, or the one worked example."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import ExitStack, suppress
from dataclasses import replace
from multiprocessing import get_context
from pathlib import Path

from bralto.core.session.notes import notes_of, with_notes
from bralto.core.study.values import Study
from bralto.imaging.load import CleanPicture, encode
from bralto.stand.demo_study import DemoStudy
from bralto.stand.evening_class import demo_orders, demo_study, pose_of, worked_example
from bralto.stand.half_year import half_year_orders
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import LATE, Library

__all__ = ["AT_ONCE", "add_worked_example", "draw_late", "fill_with_demo"]


def fill_with_demo(root: Path, seed: int = 1, *, half_year: bool = False) -> None:
    """Make a fresh library of demo data in an empty or missing folder, in several processes where
    there are several processors: what takes long is drawing.

    Args:
        half_year: with what was drawn before the evening class. Only the newest studies have their
            pictures then; the others' are made when they are first seen (`draw_late`).
    """
    orders = [(kind, number, seed, True) for kind, number in demo_orders()]
    if half_year:
        newest = len(orders) - AT_ONCE
        orders = [(*order[:3], place >= newest) for place, order in enumerate(orders)]
        orders = [(kind, number, seed, False) for kind, number in half_year_orders()] + orders
    first_tries: dict[str, str] = {}
    with Library.open(root) as library, ExitStack() as stack:
        drawn: Iterator[tuple[Study, Encoded]] = map(_drawn, orders)
        many = min(_PROCESSES, os.cpu_count() or 1)
        if many > 1:
            with suppress(OSError, NotImplementedError):  # where there can be only one process
                pool = ProcessPoolExecutor(many, mp_context=get_context("spawn"))
                drawn = _begun(stack.enter_context(pool), orders)
        for (kind, *_), (study, encoded) in zip(orders, drawn, strict=True):
            again = first_tries.get(study.title.split(",")[0], "") if kind == "figure" else ""
            if again:
                study = with_notes(study, replace(notes_of(study), again_of=again))
            made = study.states[-1].taken or now_utc()
            study_id = _keep_demo(library, study, encoded, made)
            if kind == "figure" and not again:
                first_tries[study.title.split(",")[0]] = study_id


def _begun(pool: ProcessPoolExecutor, orders: Sequence[_Order]) -> Iterator[_Made]:
    """Every order begun; gives what is made of them in turn."""
    # What takes longest is begun first, the rest pose by pose.
    tasks: dict[object, list[_Order]] = {order: [order] for order in orders if order[3]}
    for order in orders:
        if not order[3]:
            tasks.setdefault(pose_of(*order[:2]), []).append(order)
    begun: dict[_Order, tuple[Future[list[_Made]], int]] = {}
    for task in tasks.values():
        made = pool.submit(_all_drawn, task)
        begun |= {order: (made, place) for place, order in enumerate(task)}
    return (begun[order][0].result()[begun[order][1]] for order in orders)


def _all_drawn(orders: Sequence[_Order]) -> list[_Made]:
    return [_drawn(order) for order in orders]


def draw_late(library: Library, study_id: str) -> bool:
    """Make the pictures of a study that has none yet, as its own order says, and keep them; gives
    whether it had such an order.

    Raises:
        UserError: the study cannot be read, or the library cannot be written.
    """
    stored = library.stored(study_id)
    order = None if stored is None else stored.study.extra.get(LATE)
    if stored is None or not isinstance(order, Mapping):
        return False
    try:
        kind, number, seed = str(order["kind"]), int(order["number"]), int(order["seed"])
        _, encoded = _encoded(demo_study(kind, number, seed))
    except (KeyError, TypeError, ValueError, IndexError):
        return False  # another hand wrote it
    lacking = {name: one for name, one in encoded.items() if name not in stored.media}
    with keeping(library) as keep:
        library.put_media(study_id, {name: keep(one) for name, one in lacking.items()})
    return True


AT_ONCE = 2
"""Studies, the newest, whose pictures are made at once."""

_PROCESSES = 4

Encoded = Mapping[str, CleanPicture]


_Order = tuple[str, int, int, bool]
_Made = tuple[Study, Encoded]


def _drawn(order: _Order) -> _Made:
    kind, number, seed, pictures = order
    study, encoded = _encoded(demo_study(kind, number, seed, pictures=pictures))
    if not encoded:
        late = {"kind": kind, "number": number, "seed": seed}
        study = replace(study, extra={**study.extra, LATE: late})
    return study, encoded


def _encoded(one: DemoStudy) -> _Made:
    """A study with its pictures as files, by the name of their state."""
    named = one.study.pictures()
    made = {name: it.file for name, it in named.items() if it.file in one.pictures}
    return one.study, {name: encode(one.pictures[file]) for name, file in made.items()}


def add_worked_example(library: Library) -> str:
    """Add one finished demo study, made now; gives its id."""
    return _keep_demo(library, *_encoded(worked_example()), now_utc())


def _keep_demo(library: Library, study: Study, encoded: Encoded, made: str) -> str:
    with keeping(library) as keep:
        return library.add(study, {name: keep(one) for name, one in encoded.items()}, made)
