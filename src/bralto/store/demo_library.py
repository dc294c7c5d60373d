"""Demo data into a library: the whole evening class, or the one worked example."""

from __future__ import annotations

import os
import signal
import threading
from collections.abc import Mapping, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import ExitStack, suppress
from dataclasses import replace
from multiprocessing import get_context, parent_process
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import TYPE_CHECKING

from bralto.store.instants import now_utc
from bralto.store.library import LATE, Library

if TYPE_CHECKING:  # what draws takes a second to load: other processes are begun before
    from bralto.core.study.values import Study
    from bralto.imaging.load import CleanPicture
    from bralto.stand.demo_study import DemoStudy

    _Encoded = Mapping[str, CleanPicture]
    _Made = tuple[Study, _Encoded]

__all__ = ["AT_ONCE", "add_worked_example", "draw_late", "fill_with_demo"]

AT_ONCE = 1
"""Studies, the newest, whose pictures are made at once: the shelf is there sooner without."""

_PROCESSES = 4

_Order = tuple[str, int, int, bool]
"""Kind, number and seed of a demo study, and whether its pictures are made at once."""


def fill_with_demo(root: Path, seed: int = 1, *, half_year: bool = False) -> None:
    """Make a fresh library of demo data in an empty or missing folder, in several processes where
    there are several processors: what takes long is drawing.

    Args:
        half_year: with what was drawn before the evening class. Only the newest (`AT_ONCE`) have
            their pictures then; the others' are made when they are first seen (`draw_late`).
    """
    with Library.open(root) as library, ExitStack() as stack:
        helpers = _helpers(stack)
        from bralto.core.session.notes import notes_of, with_notes

        made = _all_made(_orders(seed, half_year=half_year), helpers)
        first_tries: dict[str, str] = {}
        for (kind, *_), (study, encoded) in made:
            again = first_tries.get(study.title.split(",")[0], "") if kind == "figure" else ""
            if again:
                study = with_notes(study, replace(notes_of(study), again_of=again))
            taken = study.states[-1].taken or now_utc()
            study_id = _keep_demo(library, study, encoded, taken)
            if kind == "figure" and not again:
                first_tries[study.title.split(",")[0]] = study_id


def _orders(seed: int, *, half_year: bool) -> list[_Order]:
    """What is to be made, oldest first."""
    from bralto.stand.evening_class import demo_orders
    from bralto.stand.half_year import half_year_orders

    orders = [(kind, number, seed, True) for kind, number in demo_orders()]
    if half_year:
        newest = len(orders) - AT_ONCE
        orders = [(*order[:3], place >= newest) for place, order in enumerate(orders)]
        orders = [(kind, number, seed, False) for kind, number in half_year_orders()] + orders
    return orders


def _helpers(stack: ExitStack) -> ProcessPoolExecutor | None:
    """Other processes, which begin to load what they need; None where this is to be the only
    one."""
    many = min(_PROCESSES, os.cpu_count() or 1) - 1
    if not many:
        return None
    try:
        pool = ProcessPoolExecutor(many, get_context("spawn"), initializer=_help)
        stack.callback(pool.shutdown, cancel_futures=True)
        for _ in range(many):
            pool.submit(_get_ready)
    except (OSError, NotImplementedError):
        return None
    return pool


def _help() -> None:
    """Of another process: broken off by hand it ends at once, unless it was told not to listen (as
    behind & in a script), and in any case with the one that it helps, which cannot tell it to
    where it is killed."""
    if signal.getsignal(signal.SIGINT) is not signal.SIG_IGN:
        signal.signal(signal.SIGINT, signal.SIG_DFL)

    def end_with(helped: BaseProcess) -> None:
        helped.join()
        os._exit(1)

    helped = parent_process()
    assert helped is not None
    threading.Thread(target=end_with, args=(helped,), daemon=True).start()


def _get_ready() -> None:
    """Load what drawing needs, while the process that asks for drawings does so too."""
    import bralto.stand.evening_class  # noqa: F401


def _all_made(
    orders: Sequence[_Order], helpers: ProcessPoolExecutor | None
) -> list[tuple[_Order, _Made]]:
    """Every order with what is made of it, in turn; this process takes part."""
    from bralto.stand.evening_class import pose_of

    # What takes longest is begun first, the rest pose by pose.
    tasks: dict[object, list[_Order]] = {order: [order] for order in orders if order[3]}
    for order in orders:
        if not order[3]:
            tasks.setdefault(pose_of(*order[:2]), []).append(order)
    first, *rest = tasks.values()
    others = [(task, _begun(helpers, task)) for task in rest]
    made = dict(zip(first, _all_drawn(first), strict=True))
    for task, future in reversed(others):  # the helpers begin with the first
        if future is None or future.cancel():
            made |= zip(task, _all_drawn(task), strict=True)
    for task, future in others:
        if future is not None and not future.cancelled():
            made |= zip(task, _result(future, task), strict=True)
    if helpers is not None:
        helpers.shutdown(wait=False)  # they end while what was made is kept
    return [(order, made[order]) for order in orders]


def _begun(
    helpers: ProcessPoolExecutor | None, task: Sequence[_Order]
) -> Future[list[_Made]] | None:
    with suppress(BrokenProcessPool):  # one of them was killed: there was no memory for it
        return None if helpers is None else helpers.submit(_all_drawn, task)
    return None


def _result(future: Future[list[_Made]], task: Sequence[_Order]) -> list[_Made]:
    try:
        return future.result()
    except BrokenProcessPool:
        return _all_drawn(task)


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
    from bralto.stand.evening_class import demo_study
    from bralto.store.intake import keeping

    try:
        kind, number, seed = str(order["kind"]), int(order["number"]), int(order["seed"])
        _, encoded = _encoded(demo_study(kind, number, seed))
    except (KeyError, TypeError, ValueError, IndexError):
        return False  # another hand wrote it
    lacking = {name: one for name, one in encoded.items() if name not in stored.media}
    with keeping(library) as keep:
        library.put_media(study_id, {name: keep(one) for name, one in lacking.items()})
    return True


def _drawn(order: _Order) -> _Made:
    from bralto.stand.evening_class import demo_study

    kind, number, seed, pictures = order
    study, encoded = _encoded(demo_study(kind, number, seed, pictures=pictures))
    if not encoded:
        late = {"kind": kind, "number": number, "seed": seed}
        study = replace(study, extra={**study.extra, LATE: late})
    return study, encoded


def _encoded(one: DemoStudy) -> _Made:
    """A study with its pictures as files, by the name of their state."""
    from bralto.imaging.load import encode

    named = one.study.pictures()
    made = {name: it.file for name, it in named.items() if it.file in one.pictures}
    return one.study, {name: encode(one.pictures[file]) for name, file in made.items()}


def add_worked_example(library: Library) -> str:
    """Add one finished demo study, made now; gives its id."""
    from bralto.stand.evening_class import worked_example

    return _keep_demo(library, *_encoded(worked_example()), now_utc())


def _keep_demo(library: Library, study: Study, encoded: _Encoded, made: str) -> str:
    from bralto.store.intake import keeping

    with keeping(library) as keep:
        return library.add(study, {name: keep(one) for name, one in encoded.items()}, made)
