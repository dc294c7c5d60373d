"""A drawing of the model whose trunk is twisted less than was seen: one cause, known in space."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np
import pytest

from bralto.core.arrays import Floats
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.body.kinematics import rotation
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.in_depth import in_depth
from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.exchange.pose_file import setting_document
from bralto.stand.model.answer import answer_key
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.model_study import model_study
from bralto.stand.model.stage import Stage

SIZE = (900, 1200)
HAND = 0.004
LEGS = ("crotch", "hip_point", "trochanter", "knee", "ankle", "heel", "toe")
HEAD = ("crown", "chin")


@lru_cache(maxsize=8)
def seen(pose: str, tilt_deg: float = 0.0) -> tuple[Study, View3D, Setting]:
    setting = set_up(pose)
    setting = replace(setting, camera=replace(setting.camera, tilt_deg=tilt_deg))
    stage = Stage.of(setting, COARSE)
    view = stage.view(*SIZE)
    key = answer_key(stage, view)
    return model_study("", key, "a.png", SIZE, setting_document(setting)), view, setting


def drawn(study: Study, view: View3D, places: dict[str, Floats], hand: float = HAND) -> Study:
    """The study with a drawing that shows those places as the camera does, by such a hand."""
    assert study.reference is not None
    head = view.focal / float(view.depth(np.zeros(3)))
    rng = np.random.default_rng(11)
    marks = {}
    for key in sorted(study.reference.placed()):
        x, y = view.project(places[key]) + rng.normal(0.0, hand * head, 2)
        marks[key] = Mark(float(x), float(y), "seen", 0.5)
    return replace(study, states=(State("first", Picture("b.png", *SIZE, marks)),))


def untwisted(study: Study, setting: Setting, lost: float) -> dict[str, Floats]:
    """Where the marks lie with that share of the twist lost, without the model's joints: what
    stands on the ribcage is turned back about the line from the middle of the hips to the pit of
    the neck, the navel by what the loins have of it, and the head about that on to its crown."""
    places = {key: np.array(at) for key, at in study.extra[MODEL]["places"].items()}  # type: ignore[index]
    pose = setting.pose
    loins, ribs = pose["waist.twist"], pose["waist.twist"] + pose["chest.twist"]
    neck = pose["neck.twist"] + pose["head.twist"]
    hips = 0.5 * (places["trochanter_r"] + places["trochanter_l"])
    pit, crown = places["pit_of_neck"], places["crown"]

    def turned(at: Floats, degrees: float, start: Floats, end: Floats) -> Floats:
        line = (end - start) / np.linalg.norm(end - start)
        back: Floats = start + rotation(np.radians(-lost * degrees) * line) @ (at - start)
        return back

    out = {}
    for key, at in places.items():
        if key.startswith(LEGS):
            out[key] = at
        elif key.startswith("navel"):
            out[key] = turned(at, loins, hips, pit)
        else:
            own = turned(at, neck, pit, crown) if key.startswith(HEAD) else at
            out[key] = turned(own, ribs, hips, pit)
    return out


def listed(study: Study) -> tuple[Correction, ...]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return found


@pytest.mark.parametrize("pose", ["walking", "lunging", "pointing", "drawing-a-bow"])
@pytest.mark.parametrize("lost", [0.5, 0.8, -0.6])
def test_a_twist_that_is_lost_is_named_and_by_how_much(pose: str, lost: float) -> None:
    study, view, setting = seen(pose)
    found = listed(drawn(study, view, untwisted(study, setting, lost)))
    (one,) = (one for one in found if one.move == "twist")
    assert one.greatest
    assert one.amount == pytest.approx(100.0 * lost, abs=14.0)
    assert len(found) <= 3  # the joints of the model turn otherwise than one line


def test_what_is_drawn_as_it_is_twisted_gets_no_move() -> None:
    for pose in ("walking", "throwing"):
        study, view, setting = seen(pose)
        assert listed(drawn(study, view, untwisted(study, setting, 0.0))) == ()


def test_where_nothing_is_twisted_or_nothing_is_known_there_is_no_such_move() -> None:
    study, *_ = seen("kneeling")
    keys = tuple(study.reference.placed()) if study.reference else ()
    heads = np.random.default_rng(1).normal(size=(len(keys), 2))
    assert [one.kind for one in in_depth(study).moved(keys, heads)] == ["eye"]
    aslant, *_ = seen("walking", 8.0)
    assert in_depth(aslant).moved(keys, heads) == ()
    twisted, *_ = seen("walking")
    keys = tuple(twisted.reference.placed()) if twisted.reference else ()
    heads = np.random.default_rng(1).normal(size=(len(keys), 2))
    kinds = [one.kind for one in in_depth(twisted).moved(keys, heads)]
    assert kinds == ["eye", "twist", "twist"]  # with the arms along, or as they were seen
    model = twisted.extra[MODEL]
    for turns in ({"chest.twist": "x"}, {"chest.twist": 400.0}, {"spine.twist": 5.0}, []):
        bad = {**model, "setting": {**model["setting"], "turns": turns}}  # type: ignore[dict-item, index]
        found = in_depth(replace(twisted, extra={MODEL: bad})).moved(keys, heads)
        assert [one.kind for one in found] == ["eye"]
    rest = {key: at for key, at in model["places"].items() if key != "crown"}  # type: ignore[index, union-attr]
    found = in_depth(
        replace(twisted, extra={MODEL: {**model, "places": rest}})
    ).moved(  # type: ignore[dict-item]
        tuple(key for key in keys if key in rest), heads[: len(set(keys) & set(rest))]
    )
    assert [one.kind for one in found] == ["eye"]


def test_it_is_said_in_words_with_what_goes_with_it() -> None:
    study, view, setting = seen("walking")
    found = assess(drawn(study, view, untwisted(study, setting, 0.6)), corrections=True)
    assert not isinstance(found.corrections, NotMeasurable)
    one = found.corrections[0]
    assert one.words.startswith("Twist ribcage and head further against the pelvis: ")
    assert one.words.endswith(" % of what is seen is drawn")
    assert one.unit == "percent"
    assert found.causes is not None
    assert sum(row == 1 for row in found.causes.follows_from) > 0.6 * len(found.off())
