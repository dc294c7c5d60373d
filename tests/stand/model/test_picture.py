"""The model's picture and its answer key: what is projected is what the rays see."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np
import pytest

from bralto.core.errors import UserError
from bralto.core.mannequin.body.kinematics import rotation
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.body.sculpt import distance, sculpts
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.mannequin.posing.standing import stood
from bralto.core.mannequin.setting import Setting, default_setting, set_up
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key, near_side, view_seen
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import COARSE, FINE, box_mesh, figure_mesh
from bralto.stand.model.light.floor import behind
from bralto.stand.model.light.seen import BACKDROP, GROUND, look_at, pixels_of
from bralto.stand.model.light.shade import Paint, shade
from bralto.stand.model.model_study import model_study
from bralto.stand.model.picture import Rendered, preview, render
from bralto.stand.model.stage import PROPS, Stage

MIDDLE = 0.050
"""Cells of the test's figure, heads: between the preview's and the picture's."""


@pytest.fixture(scope="module")
def standing() -> Stage:
    return Stage.of(set_up("weight-right"), MIDDLE)


BESIDE = np.array([[0, 0], [1.5, 0], [-1.5, 0], [0, 1.5], [0, -1.5]])
"""Px of a picture 600 px high: a mark on the outline may fall beside it by a hair."""


@cache
def _stage(key: str, cell: float) -> Stage:
    """A pose as it stands, to be walked round."""
    return Stage.of(set_up(key), cell)


def _seen_from(key: str, around: float, cell: float) -> Stage:
    there = _stage(key, cell)
    stage = there.under(replace(there.setting, camera=Camera(around_deg=around)))
    assert stage is not None
    return stage


@pytest.mark.parametrize("around", [0.0, 90.0, 180.0, -130.0])
def test_rays_through_seen_landmarks_meet_the_right_part(around):
    total = beside = 0
    for key in named_poses():
        stage = _seen_from(key, around, MIDDLE)
        view = stage.view(450, 600)
        answer = answer_key(stage, view)
        near = near_side(stage.figure, view)
        parts = stage.caster.mesh.parts
        marks = [mark for mark in answer.marks if mark.seen]
        px = np.concatenate([mark.px + BESIDE for mark in marks]).astype(np.float32)
        rays = look_at(stage.caster, view, px)
        whose, which = np.divmod(rays.at, len(BESIDE))
        for i, mark in enumerate(marks):
            met = {parts[row] for row in rays.owner[whose == i]}
            own = met & set(landmark_named(answer.view, mark.key, near).on)
            if not own and mark.key.startswith("far_") and 0 not in which[whose == i]:
                beside += 1  # on its outline, and what lies about it is the near limb's
                continue
            assert own, (key, mark.key)
            total += 1
    assert total > 450
    assert beside <= 2


def test_a_ray_through_a_seen_surface_mark_meets_the_surface_there(standing):
    view = standing.view(900, 1200)
    key = answer_key(standing, view)
    away, depths = [], []
    for mark in key.marks:
        one = landmark_named(key.view, mark.key, "l")
        if not mark.seen or one.far > 0.1:
            continue
        way = view.rays(mark.px)[None]
        hits = standing.caster.hits(view.eye[None], way)
        there = view.eye + float(hits.away[0]) * way[0]
        away.append(float(np.linalg.norm(there - mark.place)))
        depths.append(one.far)
    assert len(away) >= 8
    assert np.median(away) < 0.004  # heads
    # On the outline a ray grazes the form before it comes to the mark.
    assert (np.array(away) < np.array(depths) + 0.06).all()


def test_hidden_marks_are_hidden_and_come_to_light_from_the_other_side(standing):
    front = standing.view(450, 600)
    back = replace(standing.setting, camera=Camera(around_deg=180.0))
    other = Stage.of(back, MIDDLE)
    view = view_named("figure-front")
    seen = {m.key: m.seen for m in answer_key(standing, front, view).marks}
    behind = {m.key: m.seen for m in answer_key(other, other.view(450, 600), view).marks}
    for key in ("pit_of_neck", "navel", "sternum_end", "nipple_r", "nipple_l"):
        assert seen[key]
        assert not behind[key]


@pytest.mark.parametrize("around", [0.0, 60.0, 150.0, -90.0])
def test_no_mark_of_the_surface_is_seen_through_the_wood(around):
    """In the picture itself, by its depth: beside such a mark one sees past what lies over it."""
    size = (300, 400)
    asked = through = 0
    for pose in named_poses():
        stage = _seen_from(pose, around, COARSE)
        view = stage.view(*size)
        depth = look_at(stage.caster, view, pixels_of(*size))
        depths = depth.over(view.depth(depth.points).astype(np.float32), np.inf).reshape(size[::-1])
        answer = answer_key(stage, view)
        near = near_side(stage.figure, view)
        for mark in answer.marks:
            if not mark.seen or landmark_named(answer.view, mark.key, near).inside:
                continue
            own = float(view.depth(mark.place))
            reach = 0.08 * view.focal / own + 1.0  # and a pixel
            x, y = mark.px
            rows = slice(max(int(y - reach), 0), int(y + reach) + 1)
            columns = slice(max(int(x - reach), 0), int(x + reach) + 1)
            assert float(depths[rows, columns].max()) > own - 0.08, (pose, mark.key)
            asked += 1
            column, row = int(min(x, size[0] - 1)), int(min(y, size[1] - 1))
            through += bool(depths[row, column] < own - 0.08)
    assert asked > 300
    assert through > 10  # such as a crown on the outline of a head that looks up


def test_a_hand_in_front_of_the_chest_hides_it():
    pose = Pose({"shoulder_r.forward": 60, "elbow_r.bend": 100, "shoulder_r.twist": -60})
    stage = Stage.of(Setting(pose=pose), MIDDLE)
    key = answer_key(stage, stage.view(450, 600), view_named("figure-front"))
    seen = {mark.key: mark.seen for mark in key.marks}
    assert seen["wrist_r"]
    assert not (seen["sternum_end"] and seen["nipple_r"] and seen["nipple_l"])


def test_which_view_the_camera_has():
    for turn, title in ((0, "front"), (85, "side"), (-85, "side"), (170, "back")):
        stage = Stage.of(Setting(pose=Pose({"pelvis.turn": turn})), COARSE)
        assert view_seen(stage, stage.view(300, 400)) == f"figure-{title}"
    for turn, title in ((0, "front"), (45, "three-quarter"), (88, "profile")):
        setting = replace(default_setting("head"), pose=Pose({"pelvis.turn": turn}))
        stage = Stage.of(setting, COARSE)
        view = stage.view(300, 400)
        assert view_seen(stage, view) == f"head-{title}"
        key = answer_key(stage, view)
        assert key.weight is None
        if turn == 45:  # it has turned to its left, your right: its right side is near
            assert near_side(stage.figure, view) == "r"


def test_lengths_are_known_in_space_and_foreshorten_with_the_cosine():
    far = Camera(distance_m=45.0)
    for slant in (0.0, 30.0, 60.0):
        pose = Pose({"shoulder_l.forward": slant})
        stage = Stage.of(Setting(pose=pose, camera=far), COARSE)
        one = answer_key(stage, stage.view(900, 1200)).lengths["span.forearm_l"]
        assert one.full == pytest.approx(1.08, abs=0.02)
        assert one.slant == pytest.approx(slant, abs=1.0)
        assert one.ratio == pytest.approx(np.cos(np.radians(slant)), abs=0.03)


def test_a_study_of_the_model_has_its_marks_and_its_secrets(standing):
    view = standing.view(900, 1200)
    key = answer_key(standing, view)
    study = model_study("Test", key, "model.png", (900, 1200), {"subject": "figure"})
    assert study.view == "figure-front"
    assert study.reference.permission == "rendered here"
    assert {m.spread for m in study.reference.marks.values()} == {0.0}
    by_key = {mark.key: mark for mark in key.marks}
    for name, mark in study.reference.marks.items():
        assert (mark.x, mark.y) == pytest.approx(tuple(by_key[name].px), abs=1e-3)
        assert mark.visibility == ("seen" if by_key[name].seen else "inferred")
    model = study.extra["model"]
    assert model["setting"] == {"subject": "figure"}
    assert model["on_its_feet"] is True
    assert set(model["places"]) == set(by_key)


def test_of_two_marks_in_one_spot_the_hidden_one_is_left_out(standing):
    key = answer_key(standing, standing.view(900, 1200))
    first, second = key.marks[0], key.marks[1]
    twin = replace(second, px=first.px.copy(), seen=False)
    marks = replace(key, marks=(replace(first, seen=True), twin)).study_marks()
    assert marks[second.key].visibility == "absent"
    assert marks[first.key].visibility == "seen"


# The picture


def test_the_picture_shows_figure_ground_and_wall(standing):
    view = standing.view(225, 300)
    for made in (preview(standing, view), render(standing, view)):
        assert made.pixels.shape == (300, 225, 3)
        assert {GROUND, BACKDROP} <= set(np.unique(made.owner))
        share = float((made.owner >= 0).mean())
        assert 0.08 < share < 0.35
        wood = made.pixels[made.owner >= 0].astype(float)
        wall = made.pixels[made.owner == BACKDROP].astype(float)
        assert (wood[:, 0] - wood[:, 2]).mean() > 40  # warm
        assert wall.mean() > 200
        assert made.image.size == (225, 300)


def test_the_figure_throws_its_shadow_away_from_the_light(standing):
    sides = []
    for aside in (-60.0, 60.0):
        setting = replace(standing.setting, look=Look(aside_deg=aside, ring=False))
        stage = replace(standing, setting=setting)
        made = preview(stage, stage.view(300, 300))
        ground = made.owner == GROUND
        dark = ground & (made.pixels.mean(axis=2) < 170)
        sides.append(float(np.nonzero(dark)[1].mean()))
    assert sides[0] > 150 > sides[1]


def test_a_softer_light_has_a_softer_shadow(standing):
    spreads = []
    for soft in (0.5, 25.0):
        setting = replace(standing.setting, look=Look(soft_deg=soft, ring=False))
        stage = replace(standing, setting=setting)
        made = render(stage, stage.view(300, 300))
        tone = made.pixels.mean(axis=2)[made.owner == GROUND]
        low = np.percentile(tone, 1)
        spreads.append(float(((tone > low + 8) & (tone < np.percentile(tone, 60) - 8)).mean()))
    assert spreads[1] > 1.3 * spreads[0]


def test_edges_are_smooth_in_the_finished_picture_alone(standing):
    view = standing.view(225, 300)
    quick, fine = preview(standing, view), render(standing, view)
    # Along the outline against the wall: colours between wood and wall are there once smoothed.
    column = slice(60, 165)
    rows = slice(40, 90)
    between = [
        np.unique(made.pixels[rows, column].reshape(-1, 3), axis=0).shape[0]
        for made in (quick, fine)
    ]
    assert between[1] > between[0]


def test_outlines_ring_and_frame_are_drawn_on_wish(standing):
    plain = Look(ring=False)
    view = standing.view(225, 300)
    base = preview(replace(standing, setting=replace(standing.setting, look=plain)), view).pixels
    for change in ({"outlines": True}, {"ring": True}, {"frame": True}):
        setting = replace(standing.setting, look=replace(plain, **change))
        made = preview(replace(standing, setting=setting), view).pixels
        changed = (made.astype(int) - base).sum(axis=2)
        assert 20 < (changed < -20).sum() < 6000, change


@pytest.mark.parametrize("subject", ["head", "hand", "box", "cylinder", "egg", "chair", "solids"])
def test_other_subjects_are_whole_and_fill_the_picture(subject):
    stage = Stage.of(default_setting(subject), COARSE)
    view = stage.view(240, 300)
    made = preview(stage, view)
    wood = np.isin(made.owner, [i for i, p in enumerate(made.parts) if p not in PROPS])
    assert 0.04 < wood.mean() < 0.75
    key = answer_key(stage, view)
    if subject in {"head", "hand"}:
        return
    y, x = np.nonzero(made.owner >= 0)
    marks = {mark.key: mark.px for mark in key.marks}
    assert set(marks) == {"top", "bottom", "left", "right"}
    assert marks["top"][1] == pytest.approx(y.min(), abs=1.5)
    assert marks["bottom"][1] == pytest.approx(y.max(), abs=1.5)
    assert marks["left"][0] == pytest.approx(x.min(), abs=1.5)
    assert marks["right"][0] == pytest.approx(x.max(), abs=1.5)


def test_the_cast_of_a_hand_knows_every_mark_of_its_view() -> None:
    """Its back to the front: all seen, the knuckle at half of it, the thumb's tip level with the
    knuckles, the little finger's with the last joint of its neighbour (common practice, no source);
    turned about, the palm side hides the knuckles."""
    setting = default_setting("hand")
    stage = Stage.of(setting, COARSE)
    key = answer_key(stage, stage.view(600, 800))
    assert key.view == "hand"
    assert {mark.key for mark in key.marks} == {one.key for one in view_named("hand").landmarks}
    assert all(mark.seen for mark in key.marks)
    up = {mark.key: float(mark.place[1]) for mark in key.marks}
    whole = up["middle_tip"] - up["wrist"]
    assert whole == pytest.approx(view_named("hand").heads, abs=0.01)
    for name, share in (("middle_knuckle", 0.53), ("thumb_tip", 0.55), ("little_tip", 0.77)):
        assert (up[name] - up["wrist"]) / whole == pytest.approx(share, abs=0.04), name
    across = {mark.key: float(mark.place[0]) for mark in key.marks}
    wrist = across["wrist_little"] - across["wrist_thumb"]
    knuckles = across["little_knuckle"] - across["index_knuckle"]
    assert 0.9 < wrist / knuckles < 1.15  # between the middles of the outer knuckles
    away = replace(setting, pose=setting.pose.with_turns({"pelvis.turn": 180.0}))
    behind_it = Stage.of(away, COARSE)
    seen = {m.key: m.seen for m in answer_key(behind_it, behind_it.view(600, 800)).marks}
    assert not any(seen[name] for name in seen if name.endswith("_knuckle") and "thumb" not in name)
    assert seen["middle_tip"]


def test_meshes_lie_on_the_forms_they_are_made_of(standing):
    mesh = figure_mesh(standing.figure, MIDDLE)
    for row, part in enumerate(mesh.parts):
        rows = np.unique(mesh.faces[mesh.owner == row])
        d = distance(sculpts()[part], mesh.rest[rows].astype(float))
        assert np.abs(d).max() < 0.02, part
    assert np.linalg.norm(mesh.normals, axis=1) == pytest.approx(1.0, abs=1e-5)
    # Faces turn the way their normals point.
    a, b, c = (mesh.points[mesh.faces[:, k]] for k in range(3))
    facing = np.einsum("ij,ij->i", np.cross(b - a, c - a), mesh.normals[mesh.faces[:, 0]])
    assert (facing > 0).mean() > 0.99


def test_the_finest_head_is_closed():
    stage = Stage.of(replace(default_setting("head"), hair=True))
    mesh = stage.caster.mesh
    for part in ("head", "neck", "hair"):
        faces = mesh.faces[mesh.owner == mesh.parts.index(part)]
        edges = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]))
        _, counts = np.unique(edges, axis=0, return_counts=True)
        assert (counts == 2).all(), part


@pytest.mark.parametrize(("cell", "most", "off"), [(FINE, 60_000, 0.04), (COARSE, 6_000, 0.15)])
def test_merging_flat_triangles_leaves_every_part_closed_and_as_large(cell, most, off):
    mesh = figure_mesh(stood(default_setting().build, Pose()), cell)
    assert len(mesh.faces) < most
    for row, part in enumerate(mesh.parts):
        faces = mesh.faces[mesh.owner == row]
        edges = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]))
        _, counts = np.unique(edges, axis=0, return_counts=True)
        assert (counts == 2).all(), part
        # The divergence theorem, against a count of small boxes that lie within the form.
        a, b, c = (mesh.rest[faces[:, k]].astype(float) for k in range(3))
        volume = abs(np.einsum("ij,ij->i", a, np.cross(b, c)).sum()) / 6.0
        low, high = (end(mesh.rest[faces], axis=(0, 1)) for end in (np.min, np.max))
        low, high = low - 0.03, high + 0.03
        axes = [low[k] + (high[k] - low[k]) * (np.arange(50) + 0.5) / 50 for k in range(3)]
        boxes = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1)
        inside = (distance(sculpts()[part], boxes) < 0.0).mean() * np.prod(high - low)
        assert volume == pytest.approx(inside, rel=off), part


def test_a_box_is_hit_where_geometry_says():
    turned = rotation(np.array([0.0, 0.4, 0.0]))
    caster = Caster(box_mesh(np.array([-1, 0, -1.0]), np.array([1, 2, 1.0]), turned, "box"))
    away = caster.hits(
        np.array([[0.0, 5.0, 0.0], [9.0, 9.0, 9.0]]), np.array([[0, -1, 0], [0, 1, 0]])
    )
    assert float(away.away[0]) == pytest.approx(3.0, abs=1e-5)
    assert away.face[1] == -1
    assert list(
        caster.blocked(np.array([[0, 5.0, 0], [0, 5.0, 0]]), np.array([[0, -1, 0], [1, 0, 0]]))
    ) == [
        True,
        False,
    ]


def test_ground_is_seen_at_height_0_and_fades_into_the_wall(standing):
    view = standing.view(60, 80)
    back = behind(view, 0, 60 * 80)
    floor = back.floor
    assert (back.owner[floor.at] == GROUND).all()
    assert (floor.points[:, 1] == 0.0).all()
    seen = view.project(floor.points.astype(float))
    assert seen == pytest.approx(pixels_of(60, 80)[floor.at], abs=0.02)
    assert view.depth(floor.points.astype(float)) == pytest.approx(floor.depth, rel=1e-4)
    # By rows upward it comes nearer to the wall's tone, and meets it at the horizon.
    tone = back.pixels(None).reshape(80, 60, 3)[:, 30, 0].astype(int)
    assert (np.diff(tone) <= 0).all()
    assert tone[-1] < tone[0]
    horizon = int((back.owner.reshape(80, 60)[:, 30] == GROUND).argmax())
    assert abs(tone[horizon] - tone[horizon - 1]) <= 2


def test_a_camera_inside_the_figure_is_refused_in_one_sentence(standing):
    setting = replace(standing.setting, camera=Camera(distance_m=0.3, eye_m=0.9))
    pose = Pose({"pelvis.tip": 60.0}, "bowed")
    with pytest.raises(UserError, match="step back") as caught:
        Stage.of(replace(setting, pose=pose), COARSE).view(300, 400)
    assert "\n" not in str(caught.value)


@pytest.mark.parametrize("worn", [True, False])
def test_hair_that_is_worn_has_its_marks_and_hair_that_is_not_is_absent(worn):
    stage = Stage.of(replace(default_setting("head"), hair=worn), COARSE)
    marks = answer_key(stage, stage.view(300, 400), view_named("head-front")).study_marks()
    hair = {"hair_top", "hair_side_r", "hair_side_l"}
    assert set(marks) == {mark.key for mark in view_named("head-front").landmarks}
    assert {key for key in hair if marks[key].visibility == "absent"} == (set() if worn else hair)
    assert marks["lid_upper_r"].visibility == "seen"
    if worn:
        assert marks["hair_top"].y < marks["crown"].y
        assert marks["hair_side_r"].x < marks["temple_r"].x


def test_lids_iris_and_lips_are_formed_where_their_marks_are():
    """In light from above: each edge has a dark side and a light one within a few px."""
    setting = default_setting("head")
    look = replace(setting.look, aside_deg=0.0, above_deg=45.0, soft_deg=0.0)
    stage = Stage.of(replace(setting, look=look))
    view = stage.view(600, 800)
    grey = render(stage, view).image.convert("L")
    marks = {m.key: m.px for m in answer_key(stage, view, view_named("head-front")).marks}

    def spread(key, up=7):
        x, y = (round(float(v)) for v in marks[key])
        return np.ptp([grey.getpixel((x, y + i)) for i in range(-up, up + 1)])

    formed = ("lid_upper_r", "lid_lower_l", "mouth_mid", "bow_mid", "lip_low")
    assert min(spread(key) for key in formed) > 35
    assert spread("iris_inner_r") > 20
    assert spread("hairline") < 15  # where nothing is formed


def test_the_head_is_a_cast_and_the_figure_of_wood():
    def colour(subject):
        stage = Stage.of(default_setting(subject), COARSE)
        made = preview(stage, stage.view(200, 260))
        head = made.parts.index("head")
        return made.pixels[made.owner == head].astype(float).mean(axis=0)

    cast, wood = colour("head"), colour("figure")
    assert np.ptp(cast) < 0.15 * cast.mean()  # nearly grey
    assert np.ptp(wood) > 0.4 * wood.mean()


def test_a_head_in_planes_has_few_and_is_the_same_on_both_sides():
    setting = replace(default_setting("head"), planes=True, hair=True)
    mesh = Stage.of(setting, COARSE).caster.mesh
    smooth = Stage.of(replace(setting, planes=False), COARSE).caster.mesh
    of_head = np.unique(mesh.faces[mesh.owner == mesh.parts.index("head")])
    assert len(of_head) < 0.5 * (smooth.owner == smooth.parts.index("head")).sum()
    # Each plane has one way out.
    faces = mesh.faces[mesh.owner == mesh.parts.index("head")]
    assert np.abs(np.ptp(mesh.normals[faces], axis=1)).max() < 1e-6
    rest = mesh.rest[of_head]

    def places(points):
        return {tuple(row) for row in np.round(1e4 * points).astype(int)}

    assert places(rest) == places(rest * np.array([-1.0, 1.0, 1.0], np.float32))
    # As large as it was, seen from the front.
    low, high = rest.min(axis=0), rest.max(axis=0)
    assert high[1] - low[1] == pytest.approx(1.0, abs=0.03)
    assert high[0] - low[0] == pytest.approx(np.ptp(smooth.rest[:, 0]), abs=0.2)


def test_enlarged_a_picture_is_blended_evenly() -> None:
    """Between the middles of two pixels tone runs on straight (bilinear, by hand): 0 and 200 at
    four times the width are 0, 0, 25, 75, 125, 175, 200, 200."""
    pixels = np.zeros((1, 2, 3), np.uint8)
    pixels[0, 1] = 200
    rendered = Rendered(pixels, np.zeros((1, 2), np.int16), ("head",))
    larger = rendered.enlarged(8, 3)
    assert larger.shape == (3, 8, 3)
    assert larger[1, :, 0] == pytest.approx([0, 0, 25, 75, 125, 175, 200, 200], abs=1)


def test_a_highlight_lies_where_the_way_between_lens_and_light_meets_the_surface() -> None:
    """Blinn (1977), SIGGRAPH 11: the cosine between the normal and the half way, to a power."""
    stage = Stage.of(default_setting("head"), COARSE)
    view = stage.view(60, 80)
    seen = look_at(stage.caster, view, pixels_of(60, 80))
    way = np.array([0.48, 0.64, 0.6])
    full, parts = np.ones(len(seen.at), np.float32), stage.caster.mesh.parts

    def made(gloss: float) -> np.ndarray:
        return shade(
            seen, full, full, way, view.eye, [Paint((0.5, 0.5, 0.5), gloss=gloss)] * len(parts)
        )

    shine = (made(0.2) - made(0.0))[:, 0]
    to_lens = view.eye - seen.points
    to_lens /= np.linalg.norm(to_lens, axis=1)[:, None]
    half = (to_lens + way) / np.linalg.norm(to_lens + way, axis=1)[:, None]
    cosine = np.sum(half * seen.normals, axis=1)
    lit = seen.normals @ way > 1e-4
    assert shine[lit] == pytest.approx(0.2 * np.maximum(cosine[lit], 0.0) ** 24, abs=3e-4)
    assert shine[lit].max() > 0.15
    assert np.all(shine[seen.normals @ way < -1e-4] == 0.0)


@pytest.mark.parametrize(("pose", "wide"), [("at-rest", False), ("lying-back", True)])
def test_what_is_wider_than_high_is_drawn_in_a_wide_picture(pose: str, wide: bool) -> None:
    """And so it is larger than it would be in the other format."""
    stage = Stage.of(set_up(pose), COARSE)
    size = stage.picture_size()
    assert (size[0] > size[1]) == wide
    reach = [np.ptp(stage.view(*one).project(stage.points), axis=0) for one in (size, size[::-1])]
    assert reach[0].max() > 1.2 * reach[1].max()
