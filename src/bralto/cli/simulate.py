"""`bralto simulate STUDY --learner NAME OUT`: a drawing of the model with known faults."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import numpy as np
import typer

from bralto.cli.printed.terminal import tell
from bralto.core.errors import UserError
from bralto.disk.given import write_given
from bralto.disk.writable import check_writable
from bralto.exchange.pose_file import read_settings, setting_document
from bralto.exchange.study_file import write_study

__all__ = ["simulate"]

_PHOTO = (1200, 1600)
"""Of a phone's photo, px."""


def simulate(
    study: Annotated[
        Path, typer.Argument(help="a study of the model (`bralto pose`), or a pose file")
    ],
    out: Annotated[Path, typer.Argument(help="the drawing, OUT.png; the study goes beside it")],
    learner: Annotated[
        str, typer.Option(help="whose habits, of the figure or of heads")
    ] = "beginner",
    seed: Annotated[int, typer.Option(help="of the hand", min=0)] = 1,
    photo: Annotated[
        bool, typer.Option("--photo", help="photographed on a table, not scanned")
    ] = False,
) -> None:
    """Let a simulated learner draw the model: a drawing whose faults are known."""
    if out.suffix.lower() != ".png":
        raise UserError(f"{out}: the drawing is a .png; the study goes beside it as .json")
    if study.resolve() == out.with_suffix(".json").resolve():
        raise UserError(f"{out}: its study would take the place of {study}; name it otherwise")
    if study.suffix.lower() != ".json":
        raise UserError(f"{study}: give a study of the model, as `bralto pose` writes it")
    setting = read_settings(study)[0]
    # The ray caster and OpenCV take a second to load.
    from bralto.imaging.png import png_of
    from bralto.stand.model.example import learner_named, simulated
    from bralto.stand.phone_camera import random_shot

    habits = learner_named(learner, setting.subject)
    files = (f"{out.stem}-model.png", out.name)
    shot = random_shot(np.random.default_rng([seed, 3]), _PHOTO) if photo else None
    check_writable(out.with_suffix(".json"), *(out.parent / name for name in files))
    document = setting_document(setting)
    made = simulated(setting, document, habits, seed=seed, files=files, shot=shot)
    for name, picture in made.pictures.items():
        write_given(out.parent / name, png_of(picture))
    write_study(made.study, out.with_suffix(".json"))
    said = ""
    if shot is not None:
        said = f", photographed on a table ({shot.table}), {shot.slant_deg:.0f}° aslant"
    tell(f"{setting.title}, drawn by '{learner}'{said}: {out}, {files[0]}, {out.stem}.json")
