"""Writes one PNG of each main view from demo data (`make shots`)."""

import sys
import tempfile
from pathlib import Path

from bralto.app import run_tour
from bralto.store.demo_library import fill_with_demo

if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as scratch:
        fill_with_demo(Path(scratch) / "library", half_year=True)
        sys.exit(run_tour(Path(scratch) / "library", Path(sys.argv[1])))
