"""Poses of the model as open JSON: one or a series, each with its proportions, light and camera."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat, ValidationError

from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build, build_named, builds
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.setting import Setting
from bralto.disk.given import write_given
from bralto.disk.regular import read_text
from bralto.exchange.documents import first_fault, of_format, parse_json

__all__ = [
    "parse_settings",
    "read_settings",
    "setting_document",
    "settings_document",
    "write_settings",
]

FORMAT, VERSION = "bralto-pose", 1

_LARGEST = 4 * 1024 * 1024
_MOST = 200


class _Closed(BaseModel):
    """A table whose every key is known: a misspelt joint must not be lost."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class CameraModel(_Closed):
    """`camera.Camera`."""

    distance_m: FiniteFloat = Camera().distance_m
    eye_m: FiniteFloat = Camera().eye_m
    around_deg: FiniteFloat = 0.0
    tilt_deg: FiniteFloat = 0.0
    focal_mm: FiniteFloat | None = None


class LookModel(_Closed):
    """`light.Look`."""

    aside_deg: FiniteFloat = Look().aside_deg
    above_deg: FiniteFloat = Look().above_deg
    soft_deg: FiniteFloat = Look().soft_deg
    outlines: bool = False
    ring: bool = True
    frame: bool = False


class SettingModel(_Closed):
    """`setting.Setting`: proportions by name, or as figures."""

    title: Annotated[str, Field(max_length=200)] = ""
    subject: str = "figure"
    build: str | dict[str, FiniteFloat] = "seven-and-a-half"
    turns: dict[str, FiniteFloat] = {}
    prop: str = ""
    camera: CameraModel = CameraModel()
    light: LookModel = LookModel()
    seconds: Annotated[FiniteFloat, Field(gt=0, le=6 * 3600)] | None = None
    hair: bool = False
    planes: bool = False


class PoseFileModel(_Closed):
    """The whole file."""

    format: Literal["bralto-pose"]
    version: Annotated[int, Field(ge=1)]
    poses: Annotated[list[SettingModel], Field(min_length=1, max_length=_MOST)]


def read_settings(path: Path) -> tuple[Setting, ...]:
    """The poses of a file, in order.

    Raises:
        UserError: it cannot be read, is no pose file, or holds what no body can do.
    """
    return parse_settings(read_text(path, "a pose file", _LARGEST), str(path))


def parse_settings(text: str, where: str) -> tuple[Setting, ...]:
    """Poses from JSON text, also from a study of the model; ``where`` names it in messages."""
    found = _of_a_study(parse_json(text, where))
    document = of_format(found, where, FORMAT, VERSION, "pose")
    try:
        model = PoseFileModel.model_validate(document)
    except ValidationError as error:
        raise UserError(f"{where}: {first_fault(error)}") from None
    try:
        return tuple(_setting(one).checked() for one in model.poses)
    except UserError as error:
        raise UserError(f"{where}: {error}") from None


def _of_a_study(document: Any) -> Any:
    """The pose that a study of the model was drawn from, as a pose file; anything else as it is."""
    if isinstance(document, dict) and isinstance(document.get("model"), dict):
        return {"format": FORMAT, "version": VERSION, "poses": [document["model"].get("setting")]}
    return document


def _setting(model: SettingModel) -> Setting:
    return Setting(
        subject=model.subject,
        build=_build(model.build),
        pose=Pose(model.turns, model.title, model.prop),
        camera=Camera(**model.camera.model_dump()),
        look=Look(**model.light.model_dump()),
        seconds=model.seconds,
        hair=model.hair,
        planes=model.planes,
    )


def _build(given: str | dict[str, float]) -> Build:
    if isinstance(given, str):
        return build_named(given)
    return build_named("seven-and-a-half").with_figures(**given)


def setting_document(setting: Setting) -> dict[str, Any]:
    """One pose as plain data."""
    build = setting.build
    model = SettingModel(
        title=setting.pose.title,
        subject=setting.subject,
        build=build.key if builds().get(build.key) == build else build.figures(),
        turns=dict(setting.pose.turns),
        prop=setting.pose.prop,
        camera=CameraModel(**{k: getattr(setting.camera, k) for k in CameraModel.model_fields}),
        light=LookModel(**{k: getattr(setting.look, k) for k in LookModel.model_fields}),
        seconds=setting.seconds,
        hair=setting.hair,
        planes=setting.planes,
    )
    return model.model_dump()


def settings_document(settings: tuple[Setting, ...]) -> dict[str, Any]:
    """A pose file as plain data."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "poses": [setting_document(setting) for setting in settings],
    }


def write_settings(settings: tuple[Setting, ...], path: Path) -> None:
    """Write a pose file whole or not at all.

    Raises:
        UserError: it cannot be written there.
    """
    text = json.dumps(settings_document(settings), ensure_ascii=False, indent=1) + "\n"
    write_given(path, text.encode("utf-8"))
