"""The ground under a figure, against a pinhole that is written down here once more."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from bralto.core.action.bend import Doubted
from bralto.core.action.eye_level import EyeLevel, eye_level, shows_ground
from bralto.core.action.ground import StandingGround, ground_of
from bralto.core.action.ground_facts import ground_facts, ground_words
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.levels import Standpoint
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.in_depth import in_depth
from bralto.core.mannequin.known import standpoint_of
from bralto.core.mannequin.posing.poses import pose_named
from bralto.core.mannequin.setting import Setting
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, Point
from bralto.core.tolerances import COVERAGE, GRADES
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.exchange.pose_file import setting_document
from bralto.stand.model.answer import answer_key
from bralto.stand.model.model_study import model_study
from bralto.stand.model.stage import Stage

EYE, AWAY = 6.0, 24.0
KNOWN = EyeLevel(Doubted(EYE, 0.0), Doubted(AWAY, 0.0), "model")
TOE_UP = 0.05
"""A toe's mark lies so high above the ground, heads (measured on the model)."""

Place = tuple[float, float, float]
Feet = dict[str, tuple[Place, Place]]
FLAT: Feet = {
    "r": ((-0.5, 0.0, 0.4), (-0.7, 0.0, -0.6)),
    "l": ((0.4, 0.0, 0.6), (0.8, 0.0, -0.4)),
}


def seen(place: Place) -> Point:
    """Heads across, above the ground and beyond the figure's middle, as image px: a pinhole EYE
    heads above the ground and AWAY from the middle, with an upright plane (textbook)."""
    across, up, beyond = place
    nearer = AWAY / (AWAY + beyond)
    return (500.0 + 100.0 * across * nearer, 700.0 - 100.0 * (up - EYE) * nearer)


def standing(feet: Feet) -> Picture:
    """A figure of 7.5 heads on these feet, heel and toe, its body over their middle."""
    places: dict[str, Place] = {
        "crown": (0.0, 7.5, 0.0), "chin": (0.0, 6.5, 0.0), "pit_of_neck": (0.0, 6.2, 0.0),
        "crotch": (0.0, 3.7, 0.0), "hip_point_r": (-0.4, 4.2, 0.0), "hip_point_l": (0.4, 4.2, 0.0),
        "knee_r": (-0.3, 2.0, 0.0), "knee_l": (0.3, 2.0, 0.0),
    }  # fmt: skip
    for side, (heel, toe) in feet.items():
        places[f"heel_{side}"] = heel
        places[f"toe_{side}"] = (toe[0], toe[1] + TOE_UP, toe[2])
    marks = {key: Mark(*seen(at), spread=0.5) for key, at in places.items()}
    return Picture("a.png", 1000, 1500, marks)


def figure(picture: Picture) -> Figure:
    found = figure_of(view_named("figure-front"), picture)
    assert isinstance(found, Figure)
    return found


def on_ground(feet: Feet) -> StandingGround:
    found = ground_of(figure(standing(feet)), KNOWN)
    assert isinstance(found, StandingGround)
    return found


def test_two_feet_are_laid_where_they_stand() -> None:
    found = on_ground(FLAT)
    for side in ("r", "l"):
        assert found.feet[side].length.value == pytest.approx(
            ((FLAT[side][1][0] - FLAT[side][0][0]) ** 2 + 1.0) ** 0.5, abs=0.02
        )
        assert found.feet[side].across == pytest.approx(FLAT[side][1][0], abs=0.02)
        assert found.feet[side].beyond == pytest.approx(FLAT[side][1][2], abs=0.04)
    assert found.across.value == pytest.approx(1.5, abs=0.02)
    assert found.apart.value == pytest.approx(0.2, abs=0.02)
    assert found.one_ground
    assert ground_words(found) == ("both feet lie on one ground", "", True)


def test_by_pencil_and_paper() -> None:
    # v = 0 and -0.24: 24 and 6 x 24 : 6.24 = 23.08 heads away; -0.50: 22.15 (docs/measurement.md).
    nearest = AWAY * EYE / (EYE + 0.24) - AWAY
    too_low = AWAY * EYE / (EYE + 0.50) - AWAY
    assert (-nearest, -too_low) == pytest.approx((0.92, 1.85), abs=0.005)
    both: Feet = {
        "r": ((-0.5, 0.0, -0.5 * nearest), (-0.5, 0.0, 0.5 * nearest)),
        "l": ((0.5, 0.0, -0.5 * nearest), (0.5, 0.0, too_low - 0.5 * nearest)),
    }
    found = on_ground(both)
    assert found.feet["r"].length.value == pytest.approx(0.92, abs=0.03)
    assert found.feet["l"].length.value == pytest.approx(1.85, abs=0.06)
    assert (found.feet["r"].lies, found.feet["l"].lies) == ("flat", "lifted")
    assert ground_words(found) == ("the L heel is lifted", "or the toe lies too low", False)


def test_a_foot_drawn_lower_than_its_ground_is_off_in_depth() -> None:
    lower: Feet = {**FLAT, "l": ((0.4, -0.12, 0.6), (0.8, -0.12, -0.4))}
    facts = ground_facts(on_ground(FLAT), on_ground(lower), GRADES["developing"])
    told = {fact.label: fact for fact in facts}
    # 0.12 head lower is 0.12 x 24 : 6 = 0.48 head nearer, the tolerance 0.05 x 24 : 6 = 0.20.
    drawn = float(told["toes apart, in depth"].drawn.replace("−", "-"))
    assert drawn == pytest.approx(0.2 - 0.48, abs=0.015)
    assert told["toes apart, in depth"].verdict in {"over", "under"}
    assert told["toes apart, across"].verdict == "within"


@pytest.mark.parametrize("height", [3.0, 6.0, 8.0])
def test_a_named_height_of_the_eye_is_taken_wherever_on_it_one_clicks(height: float) -> None:
    picture = standing(FLAT)
    for x in (20.0, 900.0):
        click = (x, seen((0.0, 0.0, 0.0))[1] - 100.0 * height)
        eye = eye_level(figure(picture), picture, click)
        assert isinstance(eye, EyeLevel)
        assert (eye.told_by, eye.height.value) == ("named", pytest.approx(height, abs=0.03))
    found = ground_of(figure(picture), eye)
    assert isinstance(found, StandingGround)
    assert (found.horizon - found.under[1]) == pytest.approx(height, abs=0.03)


def test_the_feet_tell_how_steeply_one_looks_down() -> None:
    picture = standing(FLAT)
    eye = eye_level(figure(picture), picture)
    assert isinstance(eye, EyeLevel)
    assert eye.told_by == "feet"
    slope = eye.height.value / eye.distance.value
    assert slope == pytest.approx(EYE / AWAY, rel=0.12)  # these feet are 1.02 and 1.08 heads long
    lens = Picture("a.png", 1000, 1500, picture.marks, focal_35mm=36.0 * AWAY * 100.0 / 1500.0)
    near = eye_level(figure(lens), lens)
    assert isinstance(near, EyeLevel)
    assert near.distance.value == pytest.approx(AWAY, rel=0.01)
    assert near.height.u < 0.6 * eye.height.u


@pytest.mark.parametrize(
    ("feet", "reason"),
    [
        ({"r": FLAT["r"], "l": ((0.4, 0.45, 0.8), (0.6, 0.0, -0.1))}, "a heel is lifted"),
        ({"r": ((-0.8, 0.0, 0.0), (-1.9, 0.0, 0.0)), "l": ((0.2, 0.0, 0.3), (-0.95, 0.0, 0.3))},
         "from the side"),
    ],
)  # fmt: skip
def test_feet_that_do_not_tell_the_height_of_the_eye_say_so(feet: Feet, reason: str) -> None:
    picture = standing(feet)
    found = eye_level(figure(picture), picture)
    assert isinstance(found, NotMeasurable)
    assert reason in found.reason


def test_the_ground_is_offered_only_where_a_view_has_both_feet() -> None:
    told = {key: shows_ground(view_named(key)) for key in view_keys()}
    assert [key for key, shown in told.items() if shown] == ["figure-front"]


def test_from_below_the_feet_nothing_is_told() -> None:
    picture = standing(FLAT)
    low = (400.0, seen((0.0, 0.2, 0.0))[1])
    assert isinstance(eye_level(figure(picture), picture, low), NotMeasurable)
    flat = ground_of(figure(picture), EyeLevel(Doubted(0.05, 0.0), Doubted(AWAY, 0.0), "named"))
    assert isinstance(flat, NotMeasurable)


def test_the_box_stands_on_the_ground_and_runs_to_the_horizon() -> None:
    found = on_ground(FLAT)
    near_left, near_right, far_right, far_left = found.box[:4]
    assert near_left[1] == pytest.approx(near_right[1])
    assert far_left[1] > near_left[1]
    # The two sides of the ground meet at the height of the eye, straight before the figure.
    run = (found.horizon - near_left[1]) / (far_left[1] - near_left[1])
    left, right = (
        near_left + run * (far_left - near_left),
        near_right + run * (far_right - near_right),
    )
    assert left == pytest.approx(right, abs=1e-9)


@pytest.mark.parametrize(
    ("pose_key", "around", "eye_m"),
    [
        ("pointing", 0.0, 1.5), ("pointing", 30.0, 1.1), ("pointing", -40.0, 1.8),
        ("looking-up", 0.0, 1.5),  # its head is less than half as high in the picture
    ],
)  # fmt: skip
def test_the_models_feet_are_found_where_they_stand(
    pose_key: str, around: float, eye_m: float
) -> None:
    build = Setting().build
    pose = pose_named(pose_key).fitted(build)
    setting = Setting(pose=pose, camera=Camera(4.0, eye_m, around))
    stage = Stage.of(setting)
    key = answer_key(stage, stage.view(800, 1200))
    study = model_study("", key, "a.png", (800, 1200), setting_document(setting))
    picture = study.reference
    assert picture is not None
    known = standpoint_of(study)
    assert isinstance(known, Standpoint)
    shape = figure_of(view_named(study.view), picture)
    assert isinstance(shape, Figure)
    eye = eye_level(shape, picture, None, known, in_depth(study).marks)
    assert isinstance(eye, EyeLevel)
    found = ground_of(shape, eye)
    assert isinstance(found, StandingGround)
    places = {mark.key: mark.place for mark in key.marks}
    way = math.radians(around)
    right, ahead = (math.cos(way), -math.sin(way)), (-math.sin(way), -math.cos(way))
    step = [float(places["toe_l"][i] - places["toe_r"][i]) for i in (0, 2)]
    head = float(eye.height.value) / (eye_m / build.head_m)  # the picture's head against the true
    across, deep = ((a * step[0] + b * step[1]) * head for a, b in (right, ahead))
    assert found.across.value == pytest.approx(across, abs=0.06 * head)
    assert found.apart.value == pytest.approx(deep, abs=0.10 * head)
    assert found.one_ground is (True if pose_key == "pointing" else None)


@pytest.mark.parametrize("tilt_deg", [-8.0, 0.0, 8.0, 14.0])
def test_a_camera_that_looks_down_or_up_is_within_the_doubt_of_what_is_told(
    tilt_deg: float,
) -> None:
    """A photo says how far away its eye is by the lens at most, never how it was tilted."""
    build = Setting().build
    pose = pose_named("rope-pull").fitted(build)
    stage = Stage.of(Setting(pose=pose, camera=Camera(3.0, 1.6, 0.0, tilt_deg)))
    camera = stage.view(800, 1200)
    key = answer_key(stage, camera, view_named("figure-front"))
    picture = Picture("a.png", 800, 1200, key.study_marks())
    shape = figure(picture)
    high, away = (m / build.head_m for m in (1.6, 3.0))
    far = camera.project(np.array([0.0, high, -1e4]))  # at the height of the eye, at its distance
    eye = eye_level(shape, picture, (float(far[0]), float(far[1])), Standpoint(away, None))
    assert isinstance(eye, EyeLevel)
    found = ground_of(shape, eye)
    assert isinstance(found, StandingGround)
    places = {mark.key: mark.place for mark in key.marks}
    deep = -float(places["toe_l"][2] - places["toe_r"][2])
    assert abs(deep) > 1.0
    assert abs(found.apart.value - deep) < COVERAGE * found.apart.u
    # By hand: below a horizon that is known a place v under it is K / v - H tan(tilt) away, so
    # depths between two places come out short by the share of H tan(tilt) in the distance.
    short = 1.0 + high * math.tan(math.radians(tilt_deg)) / away
    assert deep / found.apart.value == pytest.approx(short, rel=0.09)


def test_what_the_feet_of_the_reference_tell_holds_for_the_drawing_too() -> None:
    picture = standing(FLAT)
    eye = eye_level(figure(picture), picture)
    assert isinstance(eye, EyeLevel)
    assert eye.together
    found = ground_of(figure(picture), replace(eye, told_by="reference"))
    assert isinstance(found, StandingGround)
    assert found.one_ground  # though the height itself is known to a third only
    assert found.apart.u < 0.1


def test_a_child_is_not_told_that_its_feet_are_too_flat_nor_do_they_tell_the_eye() -> None:
    small: Feet = {
        side: tuple((0.55 * x, 0.0, 0.55 * z) for x, _, z in foot) for side, foot in FLAT.items()
    }  # type: ignore[misc]
    grown = standing(small)
    child = replace(
        grown, marks={k: replace(m, y=m.y + 250.0) if k in ("crown", "chin", "pit_of_neck") else m
                      for k, m in grown.marks.items()},
    )  # fmt: skip
    assert isinstance(eye_level(figure(child), child), NotMeasurable)
    for picture, lies in ((grown, "steep"), (child, "")):
        found = ground_of(figure(picture), KNOWN)
        assert isinstance(found, StandingGround)
        assert {foot.lies for foot in found.feet.values()} == {lies}
