"""How well sheets are found in simulated photos (`make sheets`); writes bench/SHEETS.md."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from scipy.stats import chi2

from bench.certain import certain
from bralto.core.study.curled import FLAT
from bralto.core.study.frames import sheet_homography, sight_points, warp
from bralto.core.study.values import Picture, Sheet
from bralto.core.tolerances import DEFAULT_SPREAD_PX
from bralto.imaging.find_sheet import find_sheet, to_the_edges
from bralto.imaging.outcome import FoundSheet
from bralto.stand.evening_class import worked_example
from bralto.stand.phone_aim import PhoneShot
from bralto.stand.phone_camera import photograph, random_shot

HERE = Path(__file__).parent
SIZE = (297.0, 420.0)
PHOTOS, EXTRA = 200, 60
LOUPE, BOARD = 4.0, 660.0  # the slip's magnification, and the height of its photo on screen, px


def worst_mm(corners: np.ndarray, truth: np.ndarray) -> float:
    """Largest distance of a corner from where it truly is, mm on the sheet."""
    a, b, c, d = ((float(x), float(y)) for x, y in truth)
    there, _ = warp(certain(sheet_homography(Sheet((a, b, c, d), SIZE))), corners)
    ends = np.array([[0, 0], [SIZE[0], 0], SIZE, [0, SIZE[1]]], dtype=float)
    return float(np.hypot(*(there - ends).T).max())


def run(
    name: str, first: int, count: int, change: Callable[[PhoneShot], PhoneShot]
) -> tuple[str, list[tuple[float, float]]]:
    """One row of the table, and by how much hand-set corners miss on the same photos."""
    example = worked_example()
    drawing = example.pictures[example.study.states[0].picture.file]
    misses, took, by_hand = [], [], []
    for number in range(first, first + count):
        rng = np.random.default_rng(number)
        shot = change(random_shot(rng))
        photo = photograph(drawing, SIZE, shot, number)
        picture = np.asarray(photo.image)
        begun = time.perf_counter()
        found = find_sheet(picture)
        took.append(1e3 * (time.perf_counter() - begun))
        miss = worst_mm(found.corners, photo.corners) if isinstance(found, FoundSheet) else np.inf
        misses.append(miss)
        hand = DEFAULT_SPREAD_PX / LOUPE * max(picture.shape) / BOARD
        shown = photo.corners + rng.normal(0, hand, (4, 2))
        drawn = to_the_edges(picture, shown)
        after = drawn.corners if isinstance(drawn, FoundSheet) else shown
        by_hand.append((worst_mm(shown, photo.corners), worst_mm(after, photo.corners)))
    within = 100.0 * np.mean(np.array(misses) <= 1.0)
    wrong = sum(1.0 < miss < np.inf for miss in misses)
    none = sum(miss == np.inf for miss in misses)
    row = (
        f"| {name} | {count} | {within:.1f} % | {statistics.median(misses):.2f} mm | {none} | "
        f"{wrong} | {statistics.median(took):.0f} ms |"
    )
    return row, by_hand


def straightened(first: int, count: int, curled: float) -> str:
    """How far marks all over a sheet lie from where they were drawn, where the lower edge curls up
    by 6 mm over a share of its height: as if it lay flat, and straightened by its edges."""
    example = worked_example()
    drawing = example.pictures[example.study.states[0].picture.file]
    x, y = np.meshgrid(np.linspace(0.1, 0.9, 9) * SIZE[0], np.linspace(0.08, 0.96, 12) * SIZE[1])
    drawn = np.column_stack([x.ravel(), y.ravel()])
    flat: list[np.ndarray] = []
    straight: list[np.ndarray] = []
    found_ones, held = 0, []
    for number in range(first, first + count):
        shot = replace(random_shot(np.random.default_rng(number)), curl=6.0, curled=curled)
        photo = photograph(drawing, SIZE, shot, number)
        found = find_sheet(np.asarray(photo.image))
        if not isinstance(found, FoundSheet) or worst_mm(found.corners, photo.corners) > 1.0:
            continue
        found_ones += 1
        picture, px = Picture("photo.jpg", *photo.image.size), photo.to_photo(drawn)
        bends_found, spread = found.plane()
        a, b, c, d = found.corners.tolist()
        sheet = Sheet((tuple(a), tuple(b), tuple(c), tuple(d)), SIZE, spread)
        for bends, into in ((FLAT, flat), (bends_found, straight)):
            bent = replace(picture, sheet=replace(sheet, bends=bends))
            seen = certain(sight_points(bent, px, np.zeros(len(px))))
            off = seen.xy * (1.0, -1.0) - drawn
            into.append(np.hypot(*off.T))
        far = np.einsum("ni,nij,nj->n", off, np.linalg.inv(seen.cov), off)
        held.append(far < chi2.ppf(0.95, 2))
    before, after = (np.sqrt(np.mean(np.square(one))) for one in (flat, straight))
    worst = [np.percentile(one, 95) for one in (flat, straight)]
    return (
        f"| {100 * curled:.0f} % | {found_ones} | {before:.2f} mm | {after:.2f} mm | "
        f"{worst[0]:.2f} mm | {worst[1]:.2f} mm | {100 * np.mean(held):.0f} % |"
    )


def main() -> None:
    """Print and write the table."""
    plain, by_hand = run("as a learner takes them", 10_000, PHOTOS, lambda shot: shot)
    shown, drawn = np.array(by_hand).T
    rows = [
        plain,
        run("with a hand over an edge", 20_000, EXTRA, lambda s: replace(s, hand=True))[0],
        run("with a second sheet below", 40_000, EXTRA, lambda s: replace(s, second=True))[0],
        run(
            "with a lower edge that curls up by 6 mm", 50_000, EXTRA, lambda s: replace(s, curl=6.0)
        )[0],
    ]
    text = "\n".join(
        [
            "# Sheets found in simulated photos",
            "",
            "Printed by `make sheets`. Photos of 1600 x 1200 px of an A3 sheet, up to 45 degrees",
            "aslant, on wood, cloth, a white table or a cluttered desk, with shadows, uneven",
            "light, a slightly bent lens, grain and JPEG. A photo counts where all four corners",
            "lie within 1 mm of where they truly are.",
            "",
            "| photos | number | within 1 mm | median miss | none said | wrong | time |",
            "|---|---|---|---|---|---|---|",
            *rows,
            "",
            "Marks all over such sheets (108 each, clicked without error), as if they lay flat",
            "and straightened by their edges: typical miss (root mean square), 95th percentile,",
            "and how many lie within the 95 % region that is told. By the height over which it",
            "curls.",
            "",
            "| over | sheets | as flat | straightened | 95 %, as flat | straightened | within |",
            "|---|---|---|---|---|---|---|",
            *(straightened(50_000, EXTRA, curled) for curled in (0.15, 0.25, 0.5, 1.0)),
            "",
            f"Corners set by hand under the loupe on the same {PHOTOS} photos (SD"
            f" {DEFAULT_SPREAD_PX} screen px under {LOUPE:g} times): the worst of four misses by"
            f" {np.median(shown):.2f} mm (median), {np.percentile(shown, 95):.2f} mm (95th"
            " percentile) as they are clicked, and by"
            f" {np.median(drawn):.2f} mm, {np.percentile(drawn, 95):.2f} mm once Bralto has drawn"
            " them to the edges that meet there.",
        ]
    )
    (HERE / "SHEETS.md").write_text(text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
