"""Light and shadow of a simulated learner: how well known shifts, losses and inventions are found.

`make light` prints the table and writes it to bench/LIGHT.md; with a number of pairs it only
prints. The model is set up by chance and lit by chance; what is dark on it is told by scikit-image
on the true silhouette, the drawing's terminator is moved by a known distance, a shape is left out
or made up, and all is hatched on unevenly lit paper. What the product finds starts from the
picture, the drawing and marks that scatter.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import cv2
import numpy as np
from scipy.ndimage import distance_transform_edt, gaussian_filter, label
from skimage.filters import threshold_otsu

from bench.tables import table
from bralto.core.arrays import Bools, Pixels
from bralto.core.discover.figures import figure_of
from bralto.core.examination.examine import examine
from bralto.core.light.shadows_held import LightReading, Patch
from bralto.core.light.where import figure_area, figure_forms
from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.poses import pose_by_chance
from bralto.core.mannequin.setting import Setting, default_setting
from bralto.core.results import NotMeasurable
from bralto.core.study.values import OUTLINE, Mark, Picture, State, Study
from bralto.core.tolerances import COVERAGE
from bralto.core.views.shipped_views import view_named
from bralto.imaging.tones.shadows import find_shadows
from bralto.stand.model.answer import answer_key
from bralto.stand.model.picture import render
from bralto.stand.model.stage import Stage

HERE = Path(__file__).parent
SIZE = (480, 640)
SCALE, SHIFT = 1.7, (60.0, 40.0)
"""From the picture to the sheet, px."""
SHEET = (950, 1200)
HAND = 0.012
"""SD of marks and of the drawn outline, heads."""
NUMBER = 50
_BIG = 0.06
"""Heads squared of a shape that may be left out or made up."""


@dataclass(frozen=True)
class Outcome:
    """What of one pair was found; None where there was nothing of it to find."""

    told: bool
    edge: float | None = None
    edge_u: float = 0.0
    shift: float = 0.0
    share: float = 0.0
    lost: bool | None = None
    invented: bool | None = None
    false: int = 0
    overlap: float = 0.0
    true_overlap: float = 0.0


def _dark(pixels: Pixels, figure: Bools) -> Bools:
    """What is dark on the true silhouette, by scikit-image."""
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2LAB)[..., 0].astype(np.float64)
    sigma, within = 0.008 * max(SIZE), figure.astype(np.float64)
    soft = gaussian_filter(grey * within, sigma) / np.maximum(gaussian_filter(within, sigma), 1e-6)
    dark: Bools = (soft < threshold_otsu(soft[figure])) & figure  # type: ignore[no-untyped-call]
    return dark


def _shifted(dark: Bools, figure: Bools, px: float) -> Bools:
    """Dark that reaches so many px further into the light of the figure; its outline stays."""
    lit = figure & ~dark
    moved: Bools = figure & (distance_transform_edt(~dark) < px)
    if px <= 0.0:
        moved = dark & (distance_transform_edt(~lit) > -px)
    return moved


def _drawing(dark: Bools, figure: Bools, head: float, rng: np.random.Generator) -> Pixels:
    """Hatched paper, its light uneven."""
    width, height = SHEET
    to = np.array([[SCALE, 0.0, SHIFT[0]], [0.0, SCALE, SHIFT[1]]])
    tone = cv2.warpAffine(dark.astype(np.float32), to, SHEET)
    rim = cv2.warpAffine(figure.astype(np.uint8) * 255, to, SHEET)
    y, x = np.mgrid[0:height, 0:width].astype(np.float64)
    gap = 0.055 * head * SCALE
    sway = cv2.resize(rng.normal(0.0, 0.2, (12, 10)), SHEET, interpolation=cv2.INTER_CUBIC)
    strokes = 0.5 + 0.5 * np.cos(2.0 * np.pi * ((0.8 * x + 0.6 * y) / gap + sway))
    ink = tone * (0.22 + 0.5 * strokes)
    edges, _ = cv2.findContours(rim, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    line = np.zeros((height, width), np.uint8)
    cv2.drawContours(line, edges, -1, 255, 2, cv2.LINE_AA)
    ink = np.maximum(ink, 0.75 * line / 255.0)
    light = 1.0 - 0.22 * x / width - 0.08 * (y / height) ** 2
    grain = rng.normal(0.0, 0.012, ink.shape)
    paper = np.clip((0.95 * (1.0 - ink) + grain) * light, 0.0, 1.0)
    return np.repeat((255.0 * paper).astype(np.uint8)[..., None], 3, axis=2)


def pair(seed: int) -> Outcome:
    """One pair, made and read."""
    rng = np.random.default_rng([20, seed])
    base = default_setting()
    pose = pose_by_chance(base.build, int(rng.integers(1, 3)), seed)
    pose = pose.with_turns({STAND: float(rng.uniform(-25.0, 25.0))})
    look = Look(
        aside_deg=float(rng.choice([-1, 1]) * rng.uniform(35.0, 95.0)),
        above_deg=float(rng.uniform(25.0, 55.0)), ring=False,
    )  # fmt: skip
    setting = Setting("figure", base.build, pose, base.camera, look)
    stage = Stage.of(setting)
    camera = stage.view(*SIZE)
    view = view_named("figure-front")
    key = answer_key(stage, camera, view)
    made = render(stage, camera)
    figure = made.owner >= 0
    marks = {k: replace(m, spread=1.0) for k, m in key.study_marks().items()}
    seen = Picture("seen.png", *SIZE, marks)
    measured = figure_of(view, seen)
    if isinstance(measured, NotMeasurable):
        return Outcome(told=False)
    head = measured.head.value

    # What the learner draws.
    dark = _dark(made.pixels, figure)
    shift = float(rng.choice([-1, 1]) * rng.uniform(0.0, 0.14))
    drawn = _shifted(dark, figure, shift * head)
    lost = invented = None
    parts, many = label(dark)
    sizes = [(np.count_nonzero(parts == i) / head**2, i) for i in range(1, many + 1)]
    big = [i for size, i in sizes if size > _BIG]
    if len(big) > 1 and rng.random() < 0.7:
        gone = parts == int(rng.choice(big))
        reach = distance_transform_edt(~gone) < 0.16 * head
        drawn &= ~(reach & ~_shifted(dark & ~gone, figure, max(shift, 0.0) * head))
        lost = gone & ~drawn
    free = distance_transform_edt(figure & ~_shifted(dark, figure, 0.2 * head))
    if free.max() > 0.17 * head and rng.random() < 0.7:
        y, x = np.unravel_index(int(np.argmax(free)), free.shape)
        spot = np.zeros(dark.shape, np.uint8)
        radius = round(min(0.9 * float(free.max()), 0.3 * head))
        cv2.circle(spot, (int(x), int(y)), radius, 1, -1)
        invented = (spot > 0) & ~drawn
        drawn |= invented
    sheet = _drawing(drawn, figure, head, rng)

    def on_sheet(mark: Mark) -> Mark:
        x, y = rng.normal(0.0, HAND * head * SCALE, 2)
        return replace(mark, x=SCALE * mark.x + SHIFT[0] + x, y=SCALE * mark.y + SHIFT[1] + y)

    seen = replace(
        seen,
        marks={k: _slipped(m, HAND * head, rng) for k, m in marks.items()},
    )
    drawing = Picture("drawn.png", *SHEET, {k: on_sheet(m) for k, m in marks.items()})
    study = Study("", view.key, seen, (State("first", drawing),))
    found = _found(study, made.pixels, sheet)
    if isinstance(found, NotMeasurable):
        return Outcome(told=False)
    reading, covered = found
    told_short, told_beyond = (
        covered((*ones, *others), dark.shape)
        for ones, others in (
            (reading.lost, reading.short), (reading.invented, reading.beyond),
        )
    )  # fmt: skip
    got = [
        None if truth is None else bool((told & truth).sum() >= 0.6 * truth.sum())
        for truth, told in ((lost, told_short), (invented, told_beyond))
    ]
    false = sum(
        not (truth is not None and (covered((patch,), dark.shape) & truth).any())
        for truth, patches in ((lost, reading.lost), (invented, reading.invented))
        for patch in patches
    )
    both, either = (dark & drawn).sum(), (dark | drawn).sum()
    edge = None if reading.edge is None else reading.edge.value
    u = 0.0 if reading.edge is None else reading.edge.u
    truth = float(drawn.sum()) / float(figure.sum())
    return Outcome(
        True, edge, u, shift, reading.drawn_share - truth, got[0], got[1], false,
        reading.overlap.value, float(both / either),
    )  # fmt: skip


def _slipped(mark: Mark, sd: float, rng: np.random.Generator) -> Mark:
    x, y = rng.normal(0.0, sd, 2)
    return replace(mark, x=mark.x + x, y=mark.y + y)


def _found(study: Study, picture: Pixels, sheet: Pixels):  # type: ignore[no-untyped-def]
    """What the product makes of both, and where its patches lie, px of the picture."""
    found = examine(study)
    out = []
    for side, pixels, paper in ((found.seen, picture, False), (found.drawn, sheet, True)):
        figure = side.figure
        if isinstance(figure, NotMeasurable):
            return figure
        area = figure_area(side.picture, figure)
        if isinstance(area, NotMeasurable):
            return area
        forms = figure_forms(side.picture, figure, side.forms)
        told = find_shadows(pixels, area, forms, paper=paper)
        if isinstance(told, NotMeasurable):
            return told
        shapes = {} if told.outline is None else {OUTLINE: tuple(map(tuple, told.outline.tolist()))}
        rings = tuple(tuple(map(tuple, ring.tolist())) for ring in told.rings)
        out.append(replace(side.picture, shadows=rings, polygons=shapes))
    study = replace(study, reference=out[0], states=(State("first", out[1]),))
    reading = examine(study).both.light
    if isinstance(reading, NotMeasurable):
        return reading

    def covered(patches: Sequence[Patch], shape: tuple[int, int]) -> Bools:
        """Which px of the picture patches cover: the sheet is not turned, so they go back."""
        out = np.zeros(shape, np.uint8)
        for patch in patches:
            rings = [
                np.round((ring * [1.0, -1.0] - SHIFT) / SCALE).astype(np.int32)
                for ring in patch.rings
            ]
            cv2.fillPoly(out, rings, 1)
        return out > 0

    assert isinstance(reading, LightReading)
    return reading, covered


def report(found: list[Outcome]) -> str:
    """The table in words."""
    told = [one for one in found if one.told]
    edges = [one for one in told if one.edge is not None]
    off = np.array([one.edge - one.shift for one in edges])  # type: ignore[operator]
    held = np.array([abs(o) <= COVERAGE * one.edge_u for o, one in zip(off, edges, strict=True)])
    shares = np.array([one.share for one in told])
    laps = np.array([one.overlap - one.true_overlap for one in told])

    def share(values: list[bool | None]) -> str:
        known = [one for one in values if one is not None]
        return f"{100.0 * np.mean(known):.0f} % of {len(known)}" if known else "-"

    rows = [
        ["pairs told of", f"{len(told)} of {len(found)}"],
        ["terminator's shift within its doubt (goal 90 %)", f"{100.0 * held.mean():.0f} %"],
        ["its error, mean and SD, head", f"{off.mean():+.3f}, {off.std():.3f}"],
        ["its doubt (2 u), head", f"{np.mean([2 * one.edge_u for one in edges]):.3f}"],
        ["drawn share of dark, error, mean and SD, % of the figure",
         f"{100 * shares.mean():+.1f}, {100 * shares.std():.1f}"],
        ["overlap, error, mean and SD, %", f"{100 * laps.mean():+.1f}, {100 * laps.std():.1f}"],
        ["shapes left out, shown where they were (goal 90 %)", share([one.lost for one in told])],
        ["shapes made up, shown where they are (goal 90 %)", share([one.invented for one in told])],
        ["told lost or invented that were not, a pair",
         f"{np.mean([one.false for one in told]):.2f}"],
    ]  # fmt: skip
    return table([["", "found"], *rows])


HEAD = """# Light and shadow

Printed by `make light`: the model by chance, lit by chance, and a simulated shaded drawing of it
whose terminator is moved by up to 0.14 head, with a shape left out or made up; what is dark is told
by scikit-image on the true silhouette, marks scatter by {hand} head.

"""


def main() -> None:
    """Print the table, and write it where all pairs were made."""
    number = int(sys.argv[1]) if len(sys.argv) > 1 else NUMBER
    with ProcessPoolExecutor(max_workers=os.cpu_count()) as pool:
        found = list(pool.map(pair, range(1, number + 1)))
    text = report(found)
    if number >= NUMBER:
        (HERE / "LIGHT.md").write_text(HEAD.format(hand=HAND) + text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
