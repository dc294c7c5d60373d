"""Shadow and sky: what is left out for speed is what has none."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import numpy as np
import pytest

from bralto.core.mannequin.light import Look, cone, key_light
from bralto.core.mannequin.setting import set_up
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.form.solids import solid_mesh
from bralto.stand.model.light.floor import Floor, behind
from bralto.stand.model.light.occlusion import light_and_sky, shared
from bralto.stand.model.light.seen import BACKDROP, GROUND, Owners, Seen, look_at, pixels_of
from bralto.stand.model.stage import Stage

SIZE = (150, 150)


@pytest.fixture(scope="module")
def stage() -> Stage:
    return Stage.of(set_up("reaching-aside"), COARSE)


def seen_of(stage: Stage) -> tuple[Seen, Floor]:
    """What the picture sees, and the ground that is not hidden."""
    view = stage.view(*SIZE)
    seen, floor = (
        look_at(stage.caster, view, pixels_of(*SIZE)),
        behind(view, 0, SIZE[0] * SIZE[1]).floor,
    )
    return seen, floor.only(~np.isin(floor.at, seen.at))


def owners(seen: Seen, floor: Floor) -> Owners:
    owner = np.full(seen.count, BACKDROP, np.int16)
    owner[floor.at], owner[seen.at] = GROUND, seen.owner
    return owner.reshape(SIZE)


@pytest.mark.parametrize(("aside", "above", "soft"), [(-40, 45, 6), (60, 15, 8), (170, 60, 0)])
def test_no_ground_in_shadow_is_left_out(stage: Stage, aside: int, above: int, soft: int) -> None:
    """Every point of the ground from which any part of the light is hidden is asked."""
    view = stage.view(*SIZE)
    px = pixels_of(*SIZE)
    seen, floor = seen_of(stage)
    way = key_light(Look(aside_deg=aside, above_deg=above), view)
    light, _ = light_and_sky(stage.caster, seen, floor, px, way, float(soft), 16 if soft else 0)
    ground = floor.at
    start = floor.points + np.array([0.0, 2e-3, 0.0])
    ways = cone(way, float(soft), 40) if soft else way[None]
    hidden = np.zeros(len(ground))
    for one in ways:
        hidden += stage.caster.blocked(start, np.broadcast_to(one, start.shape))
    # Well within the shadow: no sample of 16 finds the light whole there.
    deep = hidden >= 0.5 * len(ways)
    assert deep.sum() > 20
    assert (light[ground[deep]] < 1.0).all()
    clear = hidden == 0
    assert (light[ground[clear]] > 0.85).all()


def test_the_side_that_turns_away_has_no_light_and_the_sky_is_open_above(stage: Stage) -> None:
    view = stage.view(*SIZE)
    px = pixels_of(*SIZE)
    seen, floor = seen_of(stage)
    way = key_light(Look(aside_deg=-90.0, above_deg=20.0), view)
    light, sky = light_and_sky(stage.caster, seen, floor, px, way, 4.0, 2)
    wood = seen.at
    away = wood[seen.normals @ way.astype(np.float32) < -0.05]
    assert len(away) > 100
    assert (light[away] == 0.0).all()
    up, down = wood[seen.normals[:, 1] > 0.8], wood[seen.normals[:, 1] < -0.5]
    assert sky[up].mean() > 0.75
    assert sky[down].mean() > 0.2  # the ground is no part of the mesh: it darkens by the shading
    evened, _ = shared(light, sky, seen, owners(seen, floor))
    assert evened[wood].mean() == pytest.approx(light[wood].mean(), abs=0.02)
    # Two halves of the picture worked at side by side know of each other.
    with ThreadPoolExecutor(2) as pool:
        for one, other in zip(
            shared(light, sky, seen, owners(seen, floor), pool.map),
            shared(light, sky, seen, owners(seen, floor)),
            strict=True,
        ):
            assert (one == other).all()
    steps = [np.abs(np.diff(one.reshape(SIZE), axis=1)).mean() for one in (light, evened)]
    assert steps[1] < 0.9 * steps[0]


def test_without_a_shadow_there_is_nothing_to_even_out(stage: Stage) -> None:
    seen, floor = seen_of(stage)
    ones = np.ones(seen.count, np.float32)
    light, sky = shared(ones, ones, seen, owners(seen, floor))
    assert (light == 1.0).all()
    assert (sky == 1.0).all()


@pytest.mark.parametrize(
    ("subject", "volume"),
    [("box", 2.0 * 1.25 * 1.3), ("cylinder", np.pi * 0.75**2 * 2.1)],
)
def test_solids_are_closed_and_as_large_as_geometry_says(subject: str, volume: float) -> None:
    mesh = solid_mesh(subject, np.eye(3))
    a, b, c = (mesh.points[mesh.faces[:, k]].astype(float) for k in range(3))
    # The divergence theorem: closed and turned outward, the sum of cones is the volume.
    inside = np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0
    assert abs(inside) == pytest.approx(volume, rel=0.005)


def test_the_stand_turns_every_subject() -> None:
    for subject in ("box", "chair", "solids"):
        setting = set_up(subject)
        turned = replace(setting, pose=setting.pose.with_turns({"pelvis.turn": 118.0}))
        one, two = Stage.of(setting, COARSE).points, Stage.of(turned, COARSE).points
        assert two[:, 1] == pytest.approx(one[:, 1], abs=1e-5)
        assert np.hypot(two[:, 0], two[:, 2]) == pytest.approx(
            np.hypot(one[:, 0], one[:, 2]), abs=1e-4
        )
        assert not np.allclose(one, two, atol=0.05)
