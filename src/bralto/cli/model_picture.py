"""`bralto pose NAME OUT.png`: a picture of the model, and a study that knows its landmarks."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.printed.terminal import tell
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import build_named, builds
from bralto.core.mannequin.body.joints import turns
from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.camera import Camera, nearness_note
from bralto.core.mannequin.posing.poses import HARDEST, named_poses, pose_by_chance
from bralto.core.mannequin.setting import DEFAULT_BUILD, SUBJECTS, Setting, set_up
from bralto.core.words.phrases import how_many
from bralto.disk.given import write_given
from bralto.disk.writable import check_writable
from bralto.exchange.pose_file import read_settings, setting_document, write_settings
from bralto.exchange.study_file import write_study

__all__ = ["pose", "posed_by"]

_LARGEST = 6000


def pose(
    name: Annotated[
        str | None, typer.Argument(help="a pose, 'chance', a subject, or a pose file")
    ] = None,
    out: Annotated[Path | None, typer.Argument(help="the picture, OUT.png")] = None,
    list_: Annotated[bool, typer.Option("--list", help="the poses, one name a line")] = False,
    joints: Annotated[bool, typer.Option("--joints", help="the joints and their limits")] = False,
    build: Annotated[str, typer.Option(help=", ".join(builds()))] = DEFAULT_BUILD,
    hard: Annotated[int, typer.Option(help=f"1 to {HARDEST}, of a pose by chance")] = 2,
    seed: Annotated[int, typer.Option(help="of a pose by chance", min=0)] = 1,
    turn: Annotated[float | None, typer.Option(help="turntable, degrees")] = None,
    distance: Annotated[float | None, typer.Option(help="of the camera, m")] = None,
    eye: Annotated[float | None, typer.Option(help="height of the eye, m")] = None,
    tilt: Annotated[float | None, typer.Option(help="of the camera, degrees")] = None,
    focal: Annotated[float | None, typer.Option(help="focal length, mm; else it fits")] = None,
    light: Annotated[float | None, typer.Option(help="where the light is, degrees")] = None,
    outlines: Annotated[bool, typer.Option(help="edges drawn over the shading")] = False,
    frame: Annotated[bool, typer.Option(help="a box about it in perspective")] = False,
    hair: Annotated[bool, typer.Option("--hair", help="on the head alone")] = False,
    planes: Annotated[bool, typer.Option("--planes", help="the head alone in flat planes")] = False,
    size: Annotated[str, typer.Option(help="of the picture, px; else as suits it")] = "",
    save: Annotated[Path | None, typer.Option(help="keep the pose in this file too")] = None,
) -> None:
    """Draw the model in a pose, and write the study that knows where every landmark is."""
    if list_:
        print("\n".join(named_poses()))
        return
    if joints:
        for one in turns().values():
            print(f"{one.key:<20} {one.low:7.0f} to {one.high:4.0f}°  {one.label}")
        return
    if name is None or (out is None and save is None):
        raise UserError(
            "give a pose and the picture to write; `bralto pose --list` shows the poses"
        )
    if out is not None and out.suffix.lower() != ".png":
        raise UserError(f"{out}: the picture is a .png; the study goes beside it as .json")
    setting = posed_by(name, build, hard, seed)
    given = {"distance_m": distance, "eye_m": eye, "tilt_deg": tilt, "focal_mm": focal}
    camera: Camera = replace(setting.camera, **{k: v for k, v in given.items() if v is not None})
    look = replace(setting.look, outlines=outlines, frame=frame)
    if light is not None:
        look = replace(look, aside_deg=light)
    figure = setting.pose
    if turn is not None:
        figure = replace(figure, turns={**figure.turns, STAND: (turn + 180.0) % 360.0 - 180.0})
    if (hair or planes) and setting.subject != "head":
        raise UserError("--hair and --planes are of the head alone: `bralto pose head OUT.png`")
    worn, flat = setting.hair or hair, setting.planes or planes
    setting = replace(
        setting, camera=camera, look=look, pose=figure, hair=worn, planes=flat
    ).checked()
    beside = None if out is None else out.with_suffix(".json").resolve()
    if save is not None and save.resolve() == beside:
        raise UserError(f"{save}: the study of the picture goes there; keep the pose elsewhere")
    if save is not None:
        write_settings((setting,), save)
    if out is not None:
        _draw(setting, out, _size(size) if size else None)


def posed_by(name: str, build: str, hard: int, seed: int) -> Setting:
    """The setting of a name that was typed: of a pose, `chance`, a subject, or a file's first."""
    if name == "chance":
        chosen = build_named(build)
        return Setting(build=chosen, pose=pose_by_chance(chosen, hard, seed))
    if name.endswith(".json"):
        return read_settings(Path(name))[0]
    if name not in named_poses() and name not in SUBJECTS:
        raise UserError(
            f"there is no pose '{name}'; `bralto pose --list` shows them; "
            f"or a subject: {', '.join(SUBJECTS)}"
        )
    return set_up(name, build)


def _size(words: str) -> tuple[int, int]:
    try:
        width, height = (int(part) for part in words.lower().split("x"))
    except ValueError:
        raise UserError(f"--size: '{words}' is not WIDTHxHEIGHT in px") from None
    if not (64 <= width <= _LARGEST and 64 <= height <= _LARGEST):
        raise UserError(f"--size: {words} is not between 64 and {_LARGEST} px a side")
    return width, height


def _draw(setting: Setting, out: Path, size: tuple[int, int] | None) -> None:
    check_writable(out, out.with_suffix(".json"))
    # The ray caster and scikit-image take half a second to load.
    from bralto.imaging.png import png_of
    from bralto.stand.model.model_study import modelled

    made = modelled(setting, setting_document(setting), out.name, size)
    write_given(out, png_of(made.image))
    write_study(made.study, out.with_suffix(".json"))
    marks = made.key.marks
    hidden = sum(not mark.seen for mark in marks)
    known = f"{how_many(len(marks), 'landmark')}, {hidden} of them hidden"
    tell(f"{setting.title}: {known}; {made.key.view}")
    note = nearness_note(setting.camera, made.view, made.stage.points)
    if note:
        tell(note)
