"""A study of the model: its picture as the reference, the answer key as its marks."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bralto.core.figure.known import MODEL
from bralto.core.study import Picture, Study
from bralto.stand.model.answer import AnswerKey

__all__ = ["RENDERED", "model_study"]

RENDERED = "rendered here"
"""The permission of the model's pictures (`study.PERMISSIONS`)."""


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
    return Study(title, key.view, reference, extra={MODEL: known})
