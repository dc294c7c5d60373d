"""Sitters that differ: a face bends the head's form and its landmarks, and nothing folds."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import build_named, builds, ranges
from bralto.core.mannequin.body.face import FACE_RANGE, PLAIN, Face
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.body.sculpt import (
    HAIR,
    Form,
    Sculpt,
    distance,
    distance_on,
    normals_on,
    sculpts,
)
from bralto.core.mannequin.body.skins import skin
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.setting import set_up

LOW, HIGH = FACE_RANGE
EXTREMES = [
    Face(**{name: end}) for name in PLAIN.figures() for end in FACE_RANGE
] + [Face(lower=LOW, forehead=HIGH, width=HIGH, jaw=LOW), Face(middle=HIGH, eyes_apart=HIGH,
     nose_wide=HIGH, nose_out=HIGH, mouth_wide=HIGH)]  # fmt: skip


def place(key: str, face: Face = PLAIN) -> np.ndarray:
    """(3,) of a landmark of the head in a face, in the head's frame."""
    return face.bent(landmark_named("head-front", key, "l").at)


def test_the_plain_face_bends_nothing() -> None:
    points = skin("head")
    assert PLAIN.bent(points) is points
    assert np.abs(replace(PLAIN, jaw=1.0 + 1e-9).bent(points) - points).max() < 1e-6


@pytest.mark.parametrize("face", EXTREMES)
def test_crown_and_chin_stay_one_head_apart(face: Face) -> None:
    plain = place("crown") - place("chin")
    assert (place("crown", face) - place("chin", face))[1] == pytest.approx(plain[1], abs=0.006)


@pytest.mark.parametrize("factor", [0.85, 1.15])
def test_each_factor_is_what_it_says(factor: float) -> None:
    """Distances of landmarks, by plain arithmetic."""

    def across(key: str, face: Face = PLAIN) -> float:
        return float(np.ptp([place(f"{key}_{side}", face)[0] for side in "rl"]))

    for name, key in (
        ("eyes_apart", "pupil"), ("nose_wide", "nostril"), ("mouth_wide", "mouth_corner"),
        ("width", "face_edge"), ("jaw", "jaw"),
    ):  # fmt: skip
        face = Face(**{name: factor})
        assert across(key, face) / across(key) == pytest.approx(factor, abs=0.03), name
        if name != "width":  # what it does not speak of stays where it was
            assert across("face_edge", face) == pytest.approx(across("face_edge"), rel=0.02), name
    levels = [place(key, Face(lower=factor))[1] for key in ("chin", "nose_base", "brow_mid")]
    plain = [place(key)[1] for key in ("chin", "nose_base", "brow_mid")]
    lower, middle = np.diff(levels) / np.diff(plain)
    assert lower / middle == pytest.approx(factor, abs=0.01)
    out = [place("nose_tip", Face(nose_out=one))[2] - place("nose_base")[2] for one in (1, factor)]
    assert (out[1] > out[0]) == (factor > 1.0)


@pytest.mark.parametrize("face", EXTREMES)
def test_no_face_folds(face: Face) -> None:
    """The volume of a small box keeps its sign everywhere in and about the head."""
    x, y, z = np.meshgrid(np.linspace(-0.4, 0.4, 33), np.linspace(-0.3, 0.85, 47),
                          np.linspace(-0.5, 0.5, 41), indexing="ij")  # fmt: skip
    points = np.stack([x, y, z], axis=-1)
    step = 1e-5
    slopes = np.stack(
        [(face.bent(points + step * e) - face.bent(points - step * e)) / (2 * step)
         for e in np.eye(3)], axis=-1,
    )  # fmt: skip
    assert np.linalg.det(slopes).min() > 0.05


@pytest.mark.parametrize("face", [Face(width=1.2, jaw=0.8), Face(eyes_apart=1.2, lower=0.8)])
def test_light_falls_on_the_bent_form(face: Face) -> None:
    """Ways out of the bent surface are square to steps along it."""
    points = skin("head")
    normals = normals_on(sculpts()["head"], points)
    turned = face.turned(points, normals)
    assert np.linalg.norm(turned, axis=1) == pytest.approx(1.0)
    rng = np.random.default_rng(5)
    along = np.cross(normals, rng.normal(size=normals.shape))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    step = 1e-5
    moved = (face.bent(points + step * along) - face.bent(points - step * along)) / (2 * step)
    moved /= np.linalg.norm(moved, axis=1, keepdims=True)
    # Across the middle of the face its two halves meet in an edge.
    aside = np.abs(points[:, 0]) > 1e-3
    assert np.abs(np.einsum("ij,ij->i", turned, moved))[aside].max() < 2e-3


def test_builds_have_faces_of_their_own_within_the_sliders() -> None:
    faces = {key: build.face for key, build in builds().items()}
    assert len(set(faces.values())) >= 6
    assert faces["seven-and-a-half"] == PLAIN
    for build in builds().values():
        build.with_figures(**build.figures())  # raises where one is out of its range
    # A child's lower third is short, and its eyes stand low in the head (common practice).
    child, grown = (place("pupil_l", faces[key])[1] for key in ("child-4", "seven-and-a-half"))
    assert child < grown - 0.03


def test_a_face_is_set_by_its_name_and_kept_within_its_range() -> None:
    build = build_named("broad").with_figures(**{"face.lower": 1.1})
    assert build.face == replace(build_named("broad").face, lower=1.1)
    assert set(build.figures()) == set(ranges())
    with pytest.raises(UserError, match=r"face.jaw 2 lies outside"):
        build.with_figures(**{"face.jaw": 2.0})
    with pytest.raises(UserError, match="none of"):
        build.with_figures(**{"face.charm": 1.0})


def test_hair_is_worn_by_the_head_alone_and_moves_with_it() -> None:
    setting = set_up("head")
    bare, worn = bust(setting), bust(replace(setting, hair=True))
    assert HAIR not in bare.places
    assert worn.places[HAIR] == pytest.approx(worn.places["head"])
    top = landmark_named("head-front", "hair_top", "l")
    crown = landmark_named("head-front", "crown", "l")
    above = worn.world(HAIR, top.at)[1] - worn.world("head", crown.at)[1]
    assert 0.01 < above < 0.08


# The forms


def form(**more: object) -> Form:
    one = {
        "a": np.array([0.1, 0.2, -0.1]), "b": None, "ra": 0.0, "rb": 0.0,
        "radii": np.array([0.3, 0.2, 0.1]), "flat": np.ones(3), "cut": False, "blend": 0.1,
    }  # fmt: skip
    return Form(**(one | more))  # type: ignore[arg-type]


def test_a_turned_egg_is_the_egg_of_turned_places() -> None:
    c, s = np.cos(0.7), np.sin(0.7)
    turned = np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])
    points = np.random.default_rng(2).uniform(-0.6, 0.6, (500, 3))
    plain = Sculpt("", (form(),), 0.1, None)
    other = Sculpt("", (form(turned=turned),), 0.1, None)
    a = form().a
    assert distance(other, a + points @ turned.T) == pytest.approx(distance(plain, a + points))


def test_half_an_egg_lies_on_one_side_of_its_middle() -> None:
    half = np.array([0.0, 1.0, 0.0])
    sculpt = Sculpt("", (form(half=half),), 0.1, None)
    points = np.random.default_rng(3).uniform(-0.6, 0.6, (4000, 3))
    inside = distance(sculpt, points) < 0.0
    assert inside.any()
    assert points[inside][:, 1].min() > form().a[1] - 1e-9
    whole = distance(Sculpt("", (form(),), 0.1, None), points) < 0.0
    well_above = points[:, 1] > form().a[1] + 0.03
    assert (inside == whole)[well_above].mean() > 0.995  # but for the rounded edge


@pytest.mark.parametrize("part", ["head", "neck", "chest", "foot_l", HAIR])
def test_distances_on_a_grid_are_those_of_its_places_near_the_surface(part: str) -> None:
    sculpt, near = sculpts()[part], 0.04
    around = skin(part)
    axes = tuple(np.linspace(around[:, i].min() - 0.1, around[:, i].max() + 0.1, 40 + i)
                 for i in range(3))  # fmt: skip
    found = distance_on(sculpt, axes, near)
    true = distance(sculpt, np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1))
    close = np.abs(true) < 0.5 * near
    # An egg's distance is a bound, so that a far one may count a little: far below a cell.
    assert found[close] == pytest.approx(true[close], abs=1e-3)
    assert ((found < 0.0) == (true < 0.0)).all()


def test_ways_out_of_a_ball_point_away_from_its_middle() -> None:
    ball = Sculpt("", (form(radii=np.full(3, 0.3)),), 0.1, None)
    ways = np.random.default_rng(4).normal(size=(200, 3))
    ways /= np.linalg.norm(ways, axis=1, keepdims=True)
    assert normals_on(ball, form().a + 0.3 * ways) == pytest.approx(ways, abs=3e-4)
