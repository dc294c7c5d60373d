"""`bralto demo --tour` shows each place once and ends, as `make demo` does without a display."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from PIL import Image

# What fills the demo's library has its own tests; here it is the one that is drawn already.
DEMO = """
import shutil, sys
from bralto.store import demo_library
drawn = sys.argv.pop(1)
demo_library.fill_with_demo = lambda root, seed, half_year: shutil.copytree(drawn, root)
from bralto.cli.main import run
run(sys.argv[1:])
"""


def test_the_tour_writes_a_picture_of_each_place_and_ends(
    demo_folder: Path, tmp_path: Path
) -> None:
    done = subprocess.run(
        [sys.executable, "-c", DEMO, demo_folder, "demo", "--tour", tmp_path / "shots"],
        capture_output=True, text=True, timeout=400, check=False,
        env=os.environ | {"QT_QPA_PLATFORM": "offscreen", "XDG_DATA_HOME": str(tmp_path / "data")},
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    # The offscreen platform says this of every dialog; nothing else may be said.
    assert done.stderr.replace("This plugin does not support propagateSizeHints()\n", "") == ""
    named = [Path(line) for line in done.stdout.splitlines()]
    assert {path.stem for path in named} >= {"shelf", "bench-heights", "record", "record-habits"}
    for path in named:
        with Image.open(path) as shot:
            assert shot.size == ((1080, 720) if path.stem == "sheet" else (1280, 800))
            assert len(shot.convert("L").getcolors()) > 50  # something was painted
    assert not (tmp_path / "data").exists()  # the learner's own library is not touched
