"""A study that the simulated learner has drawn, with its pictures still in memory."""

from __future__ import annotations

from dataclasses import dataclass

from PIL import Image

from bralto.core.study.values import Study

__all__ = ["DemoStudy"]


@dataclass(frozen=True, slots=True)
class DemoStudy:
    """``study`` names its pictures by `file`; those that were not made yet are not among them."""

    study: Study
    pictures: dict[str, Image.Image]
