"""Benchmarks of the window: opening and dragging with two 24-megapixel photographs."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
from PIL import Image
from PyQt6.QtCore import QPoint, QPointF
from PyQt6.QtWidgets import QApplication

from bench import gestures
from bench.timing import p95, shown, times
from bralto.app import make_house
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Anchor, Picture, Study
from bralto.core.views.shipped_views import view_named
from bralto.store.intake import add_study_from_files
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.keys import looking
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pyramid import load_preview, load_pyramid
from bralto.ui.session import pointing, prompting

__all__ = ["window_rows"]


def dragged(board: PictureBoard, application: QApplication) -> tuple[list[float], list[float]]:
    """ms from each move of a mark in hand to its paint, and until all figures have followed."""
    start = board.at("navel")
    assert start is not None
    gestures.press(board, start.toPoint())
    painted, followed = [], []
    for step in range(150):
        at = start.toPoint() + QPoint(8 + step % 40, step % 25)
        before = board.study.assessment
        begun = time.perf_counter()
        gestures.move(board, at)  # paints the mark before it comes back
        painted.append(1e3 * (time.perf_counter() - begun))
        while board.study.assessment is before:
            application.processEvents()
        gestures.wait(8)  # the paints that it asked for
        followed.append(1e3 * (time.perf_counter() - begun))
    gestures.release(board, start.toPoint())
    return painted, followed


def moved_over(board: PictureBoard, application: QApplication) -> list[float]:
    """ms a frame while the pointer moves over a board."""
    found = []
    for step in range(150):
        begun = time.perf_counter()
        gestures.move(board, QPoint(20 + step, 200 + step % 50))
        board.update()
        application.processEvents()
        found.append(1e3 * (time.perf_counter() - begun))
    return found


def overlay(bench: Bench) -> None:
    """Everything that can lie over both pictures at once."""
    study, sighting = bench.study, bench.sighting
    sighting.toggle("plumb")
    sighting.toggle("level")
    marks = study.picture(Board.REFERENCE).marks
    places = [QPointF(marks[key].x, marks[key].y) for key in ("crown", "chin", "navel", "knee_r")]
    sighting.hold_out(bench.reference, "stick", *places[:2])
    sighting.hold_out(bench.reference, "second stick", *places[2:])
    sighting.hold_out(bench.reference, "dividers", *places[:2])
    sighting.hold_out(bench.reference, "steps", *places[1:3])
    for board in bench.boards:
        board.tools.take(None)
    for _ in range(3):
        sighting.divide()
    study.apply(pointing.toggle_forms)
    study.apply(pointing.next_canon)


def window_rows(
    scratch: Path, application: QApplication, memory: Callable[[Path], str]
) -> list[tuple[str, str, str]]:
    """Opening and dragging with two 24-megapixel photographs."""
    rng = np.random.default_rng(1)
    noise = rng.integers(60, 220, (1000, 750, 3), dtype=np.uint8)
    photo = Image.fromarray(noise).resize((4242, 5656), Image.Resampling.BICUBIC)
    paths = [scratch / "a.jpg", scratch / "b.jpg"]
    for path in paths:
        photo.save(path, quality=90)
    rows = []
    with Library.open(scratch / "library") as library:
        made = "2026-01-01T10:00:00Z"
        lacking = 40 - len(view_named("figure-front").landmarks)
        own = tuple(Anchor(f"place_{i}", f"place {i}") for i in range(lacking))
        bare = Study("24 megapixels", "figure-front", Picture("", 1, 1), anchors=own)
        study_id = add_study_from_files(library, bare, paths[0], paths[1], made)
        house = make_house(library)
        window = house.window
        window.resize(1280, 800)
        window.show()
        stored = library.stored(study_id)
        assert stored is not None
        media = [library.media.path(name) for name in stored.media.values()]

        def bare_decode(path: Path) -> None:
            with Image.open(path) as image:
                image.load()

        def both(decode: Callable[[Path], object]) -> Callable[[], object]:
            return lambda: list(pool.map(decode, media))

        # Two at a time, as the bench opens them.
        with ThreadPoolExecutor(2) as pool:
            bare_time = statistics.median(times(both(bare_decode), 5))
            ours = statistics.median(times(both(load_pyramid), 5))
            first = statistics.median(times(both(load_preview), 5))
        rows.append(
            (
                "two 24-megapixel JPEG ready for a first usable paint (1,400 px)",
                f"{first:.0f} ms, {first / bare_time:.2f}x bare Pillow ({bare_time:.0f} ms)",
                "1.5x",
            )
        )
        rows.append(
            (
                "decode two 24-megapixel JPEG with their smaller sizes, off the GUI thread",
                f"{ours:.0f} ms, {ours / bare_time:.2f}x bare Pillow ({bare_time:.0f} ms)",
                "1.5x",
            )
        )
        house.open_study(study_id)
        while house.busy:
            gestures.wait(10)
        assert house.bench is not None
        study = house.bench.study
        for number, mark in enumerate(study.view.landmarks):
            x, y = 700 + 67 * (number % 40), 300 + 5000 * number / 40
            study.apply(prompting.ask, Board.REFERENCE, mark.key)
            study.edits.place(Board.REFERENCE, x, y, 3.0)
            study.apply(prompting.ask, Board.DRAWING, mark.key)
            study.edits.place(Board.DRAWING, 4242 - 0.9 * x, 0.93 * y + 70, 3.0)
        study.apply(prompting.enter_pass, "heights")
        marks = len(study.view.landmarks)
        where = f"{marks} marks a board, two 24-megapixel pictures, 1280x800"
        drags, follow = dragged(house.bench.drawing, application)
        rows.append((f"drag a mark: input to painted, {where}", shown(drags), "p95 16 ms"))
        rows.append(("until ladder, rails and verdicts have followed it", shown(follow), "-"))
        overlay(house.bench)
        drags, follow = dragged(house.bench.drawing, application)
        what = f"drag a mark with every overlay on: input to painted, {where}"
        rows.append((what, shown(drags), "p95 16 ms"))
        rows.append(("until ladder, rails and verdicts have followed it", shown(follow), "-"))
        worst: dict[str, list[float]] = {}
        for one in study.now.ground.passes:
            if one.marks or one.key == "verdict":
                study.apply(prompting.enter_pass, one.key)
                worst[one.key] = dragged(house.bench.drawing, application)[0]
        slowest = max(worst, key=lambda key: p95(worst[key]))
        what = f"the slowest pass for it, with every overlay on: {slowest}"
        rows.append((what, shown(worst[slowest]), "p95 16 ms"))
        study.apply(prompting.enter_pass, "heights")
        looking.put_away(house.bench)
        study.apply(pointing.toggle_forms)
        for way in ("ghost", "wipe"):
            house.bench.drawing_over.take(way)
            frames = moved_over(house.bench.reference, application)
            house.bench.drawing_over.take(None)
            rate = 1e3 / statistics.median(frames)
            words = f"{shown(frames)}: {rate:.0f} frames a second"
            rows.append((f"{way} of the drawing over the reference, a frame", words, "60 a second"))
        window.close()
    held = memory(scratch / "library")
    rows.append(("memory with two 24-megapixel pictures open", held, "600 MB"))
    return rows
