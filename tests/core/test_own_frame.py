"""A head is measured along its centre line: tilted it is the same head, but for its tilt."""

from __future__ import annotations

import numpy as np
import pytest
from bench.bodies import bodies
from tests.studies import moved, study_of

from bralto.core.examination.assessment import Assessment, assess
from bralto.core.measures.own_frame import own_frames
from bralto.core.measures.points import point_table
from bralto.core.measures.table import measure_table
from bralto.core.study.frames import SightMarks
from bralto.core.study.values import Mark
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

HEADS = ["head-front", "head-profile", "head-three-quarter"]


def head_of(view: str, number: int = 0) -> dict[str, Mark]:
    body = bodies(view)[number]
    return {k: Mark(900 + 400 * x, 900 - 400 * y, spread=1.0) for k, (x, y) in body.marks.items()}


def held(view: str, seen: dict[str, Mark], drawn: dict[str, Mark], **more: str) -> Assessment:
    return assess(study_of(seen, drawn, view=view, **more))


@pytest.mark.parametrize("view", HEADS)
@pytest.mark.parametrize("degrees", [-25.0, -8.0, 13.0, 25.0])
@pytest.mark.parametrize("school", ["head", "envelope"])
def test_the_same_head_tilted_differs_in_its_tilt_alone(
    view: str, degrees: float, school: str
) -> None:
    """Marks turned on the sheet by as many degrees: plain geometry."""
    seen = head_of(view)
    upright = held(view, seen, seen, school=school)
    tilted = held(view, seen, moved(seen, 1.3, (40.0, 80.0), clockwise=degrees), school=school)
    tilts = {spec.id for spec in view_named(view).measures if spec.against_plumb}
    assert tilts
    for one, other in zip(upright.readings, tilted.readings, strict=True):
        if one.error is None:
            continue
        if one.spec.id in tilts:
            assert other.error == pytest.approx(-degrees, abs=1e-6)
            continue
        assert other.error == pytest.approx(0.0, abs=1e-9), one.spec.id
        # Placed within as many px of a larger drawing.
        assert other.u <= one.u * (1.0 + 1e-9) + 1e-12, one.spec.id


@pytest.mark.parametrize("view", HEADS)
def test_what_the_centre_line_doubts_is_in_every_gradient(view: str) -> None:
    """Central differences through the fit of the line itself (Huber's weights held)."""
    chosen = view_named(view)
    keys = tuple(mark.key for mark in chosen.landmarks)
    rng = np.random.default_rng(3)
    xy = np.array([bodies(view)[3].marks[key] for key in keys]) * 100.0
    xy += rng.normal(0.0, 0.05, xy.shape)

    def values(at: np.ndarray) -> np.ndarray:
        return table_of(chosen, keys, at).values

    gradients = table_of(chosen, keys, xy).gradients
    step = 1e-4
    for mark in range(len(keys)):
        for axis in range(2):
            ahead, behind = xy.copy(), xy.copy()
            ahead[mark, axis] += step
            behind[mark, axis] -= step
            slope = (values(ahead) - values(behind)) / (2 * step)
            assert gradients[:, mark, axis] == pytest.approx(slope, abs=2e-3), keys[mark]


def table_of(view: View, keys: tuple[str, ...], xy: np.ndarray):
    marks = SightMarks(keys, xy, np.zeros((len(keys), 2, 2)), "px")
    return measure_table(view, point_table(view, marks, frozenset(keys)))


def test_a_wild_mark_hardly_turns_the_centre_line() -> None:
    """The nose 0.1 head aside: least squares would turn the line by 3 degrees."""
    view = view_named("head-front")
    keys = view.axis
    xy = np.array([[0.0, -y] for y in (0.0, 15.0, 38.0, 70.0, 80.0, 100.0)])
    bent = xy.copy()
    bent[keys.index("mouth_mid"), 0] += 10.0
    for at, most in ((xy, 1e-9), (bent, 1.5)):
        marks = SightMarks(keys, at, np.zeros((len(keys), 2, 2)), "px")
        (frame,) = own_frames(view, [point_table(view, marks, frozenset(keys))])
        assert abs(np.degrees(frame.radians)) <= most


def test_without_both_ends_of_the_line_plumb_is_taken() -> None:
    view = view_named("head-front")
    seen = head_of("head-front")
    for lacking in (["chin"], ["crown", "hairline"]):
        kept = {key: mark for key, mark in seen.items() if key not in lacking}
        keys = tuple(kept)
        xy = np.array([[m.x, -m.y] for m in kept.values()])
        marks = SightMarks(keys, xy, np.zeros((len(keys), 2, 2)), "px")
        assert own_frames(view, [point_table(view, marks, frozenset(keys))]) is None


def test_an_upright_profile_stands_upright() -> None:
    """The forehead lies back: of a head that is held level the face line is 4 degrees from plumb
    and what is measured along it is as along plumb, within 2 degrees."""
    view = view_named("head-profile")
    body = bodies("head-profile")[0]
    for mirror in (1.0, -1.0):
        xy = np.array([body.marks[key] for key in body.keys]) * [mirror, 1.0]
        marks = SightMarks(body.keys, xy, np.zeros((len(xy), 2, 2)), "px")
        (frame,) = own_frames(view, [point_table(view, marks, frozenset(body.keys))])
        assert abs(np.degrees(frame.radians)) < 2.0
