"""Writes the picture of the worked example that the empty shelf shows, in both themes."""

from __future__ import annotations

import os
import tempfile
import time
from io import BytesIO
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PIL import Image
from PyQt6.QtCore import QBuffer, QIODevice

from bralto.app import make_application, make_house
from bralto.store.demo_library import add_worked_example
from bralto.store.library import Library
from bralto.ui.session import prompting
from bralto.ui.theme.tokens import DARK, LIGHT

TARGET = Path(__file__).parents[1] / "src/bralto/ui/shelf/pictures"
_COLOURS = 160

if __name__ == "__main__":
    application = make_application()
    TARGET.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as scratch:
        library = Library.open(Path(scratch) / "library")
        study = add_worked_example(library)
        for tokens in (LIGHT, DARK):
            house = make_house(library, tokens)
            house.window.resize(1180, 800)
            house.window.show()
            house.open_study(study)
            assert house.bench is not None
            house.bench.study.apply(prompting.enter_pass, "heights")
            house.bench.study.advice.search_now()
            end = time.monotonic() + 2.0
            while time.monotonic() < end or house.busy:
                application.processEvents()
            buffer = QBuffer()
            buffer.open(QIODevice.OpenModeFlag.WriteOnly)
            house.bench.grab().save(buffer, "PNG")
            image = Image.open(BytesIO(bytes(buffer.data().data()))).convert("RGB")
            path = TARGET / f"worked-example-{tokens.name}.png"
            image.quantize(_COLOURS, dither=Image.Dither.NONE).save(path, optimize=True)
            print(path.name, image.size, path.stat().st_size)
            house.window.close()
