"""What the library survives (`make survive`): kills, full disks, damage, hostile files.

Prints a table and writes it to bench/SURVIVAL.md. Every round is a process of its own, so that a
kill is a kill, a traceback is seen and a hang is ended after a time. `--short` does a few rounds of
each in half a minute, as the tests do; exit status 1 where anything was lost, dead, hung or raised.
"""

from __future__ import annotations

import argparse
import platform
import shutil
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from bench.survival import files, kills, rooms
from bench.survival.rounds import Tally

HERE = Path(__file__).parent

SCENES: dict[str, Callable[[Path, float], Tally]] = {
    "kill -9 while marks are set": kills.editing,
    "kill -9 while studies are read in": kills.importing,
    "kill at every step of a first start": kills.creation,
    "kill at every step of an upgrade, with its backup": kills.migration,
    "kill at every step of a restore": kills.restoring,
    "a disk that fills up at every write of an evening": rooms.full_disk,
    "names of folders": rooms.names,
    "three starts at once": rooms.three_starts,
    "a window and a command on one study": rooms.two_hands,
    "a clock set back, and forward": rooms.clocks,
    "a database whose pages are zeroed or scribbled on": rooms.damaged_pages,
    "mutated study files": files.studies,
    "mutated views": files.views,
    "mutated poses": files.poses,
    "mutated bundles": files.bundles,
    "mutated settings": files.settings,
    "pictures: mutated, cut, bombs": files.pictures,
    "pipes, devices, folders, too large": files.no_files,
}


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--short", action="store_true", help="a few rounds of each")
    parser.add_argument("--only", help="scenes whose name has this")
    asked = parser.parse_args()
    share = 0.004 if asked.short else 1.0
    chosen = {n: scene for n, scene in SCENES.items() if not asked.only or asked.only in n}
    rows, bad = [], 0
    # Two at a time: a scene waits for its processes, and each of these is one.
    with ThreadPoolExecutor(2) as pool:
        running = [(n, pool.submit(_play, scene, share)) for n, scene in chosen.items()]
        for name, result in running:
            tally, took = result.result()
            bad += tally.bad
            rows.append((name, tally, took))
            print(tally.line(name, took), flush=True)
            for what in tally.notes[:5]:
                print(f"    {what}", flush=True)
    if not asked.short and not asked.only:
        _write(rows)
    rounds = sum(tally.rounds for _, tally, _ in rows)
    print(f"{rounds} rounds, {bad} of them bad")
    return 1 if bad else 0


def _play(scene: Callable[[Path, float], Tally], share: float) -> tuple[Tally, float]:
    scratch = Path(tempfile.mkdtemp(prefix="bralto-survive-"))
    begun = time.monotonic()
    try:
        tally = scene(scratch, share)
    finally:
        shutil.rmtree(scratch, ignore_errors=True)
    return tally, time.monotonic() - begun


def _write(rows: list[tuple[str, Tally, float]]) -> None:
    lines = [
        "# What the library survives\n",
        f"Printed by `make survive`, on {platform.machine()}, Python {platform.python_version()}. "
        "Lost: gestures that were reported as kept and are not there. Dead: libraries that do not "
        "open, or open without studies that were in them. Hung: at work over 5 s, or 20 without an "
        "end. Memory: the largest of any round.\n",
        "| what | rounds | lost | dead | tracebacks | hung | memory | time |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for name, tally, took in rows:
        memory = f"{tally.peak_mb} MB" if tally.peak_mb else "-"
        lines.append(
            f"| {name} | {tally.rounds} | {tally.lost} | {tally.dead} | {tally.raised} | "
            f"{tally.hung} | {memory} | {took:.0f} s |"
        )
    notes = [f"- {name}: {note}" for name, tally, _ in rows for note in tally.said]
    (HERE / "SURVIVAL.md").write_text("\n".join([*lines, "", *notes]).rstrip() + "\n", "utf-8")


if __name__ == "__main__":
    sys.exit(main())
