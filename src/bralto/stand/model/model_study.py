"""A study of the model: its picture as the reference, the answer key as its marks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from PIL import Image

from bralto.core.action.sweeps import WHOLE
from bralto.core.examination.sides import Side
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.setting import Setting
from bralto.core.results import NotMeasurable
from bralto.core.study.values import RENDERED, Picture, Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import AnswerKey, answer_key
from bralto.stand.model.picture import render
from bralto.stand.model.stage import Stage

__all__ = ["Modelled", "model_study", "modelled"]


@dataclass(frozen=True, slots=True, eq=False)
class Modelled:
    """A study of the model with the picture that its reference names, and what both come from."""

    study: Study
    image: Image.Image
    key: AnswerKey
    stage: Stage
    view: View3D


def modelled(
    setting: Setting, document: Mapping[str, Any], file: str, size: tuple[int, int] | None = None
) -> Modelled:
    """Set the model up, draw it, and make a study of it.

    Args:
        document: the setting as plain data (`exchange.pose_file`).
        file: name of the picture, ``size`` its width and height, px; None as suits what stands
            there (`Stage.picture_size`).

    Raises:
        UserError: the camera stands where it cannot.
    """
    stage = Stage.of(setting)
    size = size or stage.picture_size()
    view = stage.view(*size)
    key = answer_key(stage, view)
    study = model_study(setting.title, key, file, size, document)
    return Modelled(study, render(stage, view).image, key, stage, view)


def _sweep(picture: Picture, view: str) -> tuple[tuple[float, float], ...]:
    """The sweep of the pose as its marks have it, known as they are; () where they make none."""
    side = Side(view_named(view), picture, GRADES["developing"])
    found = side.proposed
    if isinstance(found, NotMeasurable):
        return ()
    return tuple((round(float(x), 2), round(float(y), 2)) for x, y in found)


def model_study(
    title: str, key: AnswerKey, file: str, size: tuple[int, int], setting: Mapping[str, Any]
) -> Study:
    """A study to draw from: no state yet.

    Args:
        file: name of the picture, ``size`` its width and height, px.
        setting: what stood there, as plain data (`exchange.pose_file`), so that it can come again.
    """
    weight = key.weight
    known: dict[str, Any] = {
        "setting": dict(setting),
        "places": {m.key: [round(float(v), 5) for v in m.place] for m in key.marks},
        "lengths": {
            k: {"full": one.full, "apparent": one.apparent, "slant_deg": one.slant}
            for k, one in key.lengths.items()
        },
    }
    if weight is not None:
        known["centre_of_mass"] = [round(float(v), 5) for v in weight.centre]
        known["on_its_feet"] = weight.inside
    reference = Picture(file, *size, key.study_marks(), permission=RENDERED)
    sweep = _sweep(reference, key.view)
    if sweep:
        reference = replace(reference, curves={WHOLE: sweep})
    return Study(title, key.view, reference, extra={MODEL: known})
