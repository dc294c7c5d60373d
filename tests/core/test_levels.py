"""Front and profile tied by level lines: one head of the model, seen from both sides."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from bralto.cli.main import run
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.levels import USUAL, Standpoint, Tie, can_be_tied, depth_below, ties
from bralto.core.mannequin.body.landmarks import landmarks_of
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.camera import Camera, looking
from bralto.core.mannequin.known import MODEL, standpoint_of
from bralto.core.mannequin.setting import set_up
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.core.tolerances import GRADES_OF
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.exchange.study_file import write_study

AROUND = {"head-front": 0.0, "head-three-quarter": 45.0, "head-profile": 90.0}
GRADE = GRADES_OF["part"]["developing"]
SIZE = (900, 1200)


def seen(
    view: str,
    distance: float = 1.6,
    eye: float = 0.2,
    tilt: float = 0.0,
    build: str = "eight",
    lower: dict[str, float] | None = None,
    spread: float = 0.5,
) -> tuple[dict[str, Mark], Standpoint]:
    """The marks of the bust in a view, projected, and from where it is seen.

    ``lower``: by how much marks are set too low, heads; ``spread`` px, of a head of some 500.
    """
    start = set_up("head", build)
    pose = replace(start.pose, turns={"head.lean": tilt})
    setting = replace(start, pose=pose, hair=True, camera=Camera(distance, eye, AROUND[view]))
    figure, chosen = bust(setting), view_named(view)
    keys = tuple(mark.key for mark in chosen.landmarks)
    found = landmarks_of(view, keys, "l")
    places = np.array([figure.world(one.part, one.at) for one in found])
    px = looking(setting.camera, setting.build.head_m, places, *SIZE).project(places)
    row = {key: i for i, key in enumerate(keys)}
    head = float(np.linalg.norm(px[row["chin"]] - px[row["crown"]]))
    down = {key: head * by for key, by in (lower or {}).items()}
    marks = {
        key: Mark(float(px[i, 0]), float(px[i, 1]) + down.get(key, 0.0), spread=spread)
        for key, i in row.items()
    }
    crown, chin = (places[row[key]][1] for key in ("crown", "chin"))
    level = (crown - eye / setting.build.head_m) / (crown - chin)
    return marks, Standpoint(distance / setting.build.head_m, float(level))


def figure(view: str, marks: dict[str, Mark]) -> Figure:
    found = figure_of(view_named(view), Picture("", *SIZE, marks))
    assert isinstance(found, Figure)
    return found


def tied(
    one: tuple[str, tuple[dict[str, Mark], Standpoint]],
    other: tuple[str, tuple[dict[str, Mark], Standpoint]],
    *,
    known: bool,
) -> dict[str, Tie]:
    figures = [figure(view, marks) for view, (marks, _) in (one, other)]
    stood = (one[1][1], other[1][1]) if known else (USUAL, USUAL)
    found = ties(figures[0], figures[1], GRADE, stood)
    assert not isinstance(found, NotMeasurable)
    return {tie.key: tie for tie in found}


@pytest.mark.parametrize("other", ["head-profile", "head-three-quarter"])
@pytest.mark.parametrize(("distance", "eye"), [(1.6, 0.20), (1.6, 0.05), (2.5, 0.40), (6.0, 0.2)])
def test_one_head_is_level_with_itself_from_any_standpoint(
    other: str, distance: float, eye: float
) -> None:
    """What is known of the standpoint takes off what nearness does: a projection in space."""
    here, there = (seen(view, distance, eye) for view in ("head-front", other))
    found = tied(("head-front", here), (other, there), known=True)
    assert list(found) == ["hairline", "brow", "eye", "ear_top", "nose_base", "ear_base", "mouth"]
    for tie in found.values():
        assert abs(tie.error) < 0.02, tie
        assert tie.verdict in {"within", "cannot tell"}, tie
    # Without it nothing is called off where a camera stands as high as the face.
    if 0.1 < eye < 0.3:
        unknown = tied(("head-front", here), (other, there), known=False)
        assert {tie.verdict for tie in unknown.values()} <= {"within", "cannot tell"}
        assert max(abs(one.error) for one in unknown.values()) < 0.03


def test_what_is_set_too_low_in_one_view_is_named_by_as_much() -> None:
    front = seen("head-front")
    profile = seen("head-profile", lower={"ear_base": 0.08, "eye_outer": -0.06})
    found = tied(("head-profile", profile), ("head-front", front), known=True)
    true = tied(("head-profile", seen("head-profile")), ("head-front", front), known=True)
    assert found["ear_base"].verdict == "over"
    assert found["eye"].verdict == "under"
    for key, by in (("ear_base", 0.08), ("eye", -0.06), ("mouth", 0.0)):
        assert found[key].error - true[key].error == pytest.approx(by, abs=0.006), key
        # It is shown where it would be level.
        assert found[key].expected - true[key].expected == pytest.approx(0.0, abs=0.006), key
    assert {found[key].verdict for key in ("mouth", "nose_base", "brow")} == {"within"}
    # From the other side it reads the other way round.
    back = tied(("head-front", front), ("head-profile", profile), known=True)
    assert back["ear_base"].verdict == "under"
    assert back["ear_base"].error == pytest.approx(-found["ear_base"].error)


@pytest.mark.parametrize("tilt", [-16.0, 12.0])
def test_a_tilted_head_is_level_with_an_upright_one(tilt: float) -> None:
    """Depths are taken along the head itself (measurement, section 4)."""
    front, profile = seen("head-front", tilt=tilt), seen("head-profile")
    found = tied(("head-front", front), ("head-profile", profile), known=True)
    for key in ("brow", "eye", "nose_base", "mouth"):
        assert abs(found[key].error) < 0.02, found[key]


def test_heads_of_two_people_are_told_apart() -> None:
    front, profile = seen("head-front", build="child-4"), seen("head-profile", build="slender")
    found = tied(("head-front", front), ("head-profile", profile), known=True)
    assert found["nose_base"].verdict == "over"  # a child's lower third is short
    assert found["eye"].verdict == "over"


def test_the_doubt_of_a_depth_is_that_of_its_marks() -> None:
    """Against a thousand placings by chance: the same arithmetic done on each, no gradient."""
    marks, _ = seen("head-front", spread=2.0)
    at, u = depth_below(figure("head-front", marks), "nose_base")  # type: ignore[misc]
    rng = np.random.default_rng(1)
    tries = []
    for _ in range(400):
        moved = {
            key: replace(mark, x=mark.x + rng.normal(0, 2.0), y=mark.y + rng.normal(0, 2.0))
            for key, mark in marks.items()
        }
        tries.append(depth_below(figure("head-front", moved), "nose_base")[0])  # type: ignore[index]
    assert np.mean(tries) == pytest.approx(at, abs=3e-4)
    assert np.std(tries) == pytest.approx(u, rel=0.12)


def test_only_heads_from_different_sides_are_tied() -> None:
    heads = {view for view in view_keys() if view.startswith("head-")}
    for view in view_keys():
        for other in view_keys():
            expected = view != other and {view, other} <= heads
            assert can_be_tied(view, other) == expected
    front = figure("head-front", seen("head-front")[0])
    reason = ties(front, front, GRADE)
    assert isinstance(reason, NotMeasurable)
    few = {key: mark for key, mark in seen("head-profile")[0].items() if key in {"crown", "chin"}}
    reason = ties(front, figure("head-profile", few), GRADE)
    assert isinstance(reason, NotMeasurable)
    assert "no station" in reason.reason


HEAD_M = 1.78 / 8.0
"""Of the build of eight heads (builds.toml)."""


def study(view: str, low: dict[str, float] | None = None, *, model: bool = False) -> Study:
    marks, stood = seen(view, lower=low)
    drawn = Picture("b.png", *SIZE, seen(view)[0], permission="my own drawing")
    reference = Picture("a.png", *SIZE, marks, permission="my own")
    assert stood.eye is not None
    crown = stood.eye + 0.2 / HEAD_M
    known = {
        "setting": {"build": "eight", "camera": {"distance_m": 1.6, "eye_m": 0.2}},
        "places": {"crown": [0.0, crown, 0.0], "chin": [0.0, crown - 1.0, 0.3]},
    }
    extra: dict[str, object] = {MODEL: known} if model else {}
    return Study(view, view, reference, (State("first", drawn),), extra=extra)


def test_the_standpoint_of_the_model_is_read_and_what_is_damaged_is_not() -> None:
    known, true = standpoint_of(study("head-front", model=True)), seen("head-front")[1]
    assert known is not None
    assert known.heads == pytest.approx(1.6 / HEAD_M)
    assert known.eye == pytest.approx(true.eye)
    assert standpoint_of(study("head-front")) is None
    nobody = {"build": "no such", "camera": {}}
    nothing = {"build": {"heads": 0, "height_m": 1}, "camera": {}}
    far = {"build": "eight", "camera": {"distance_m": 10**400, "eye_m": "nan"}}
    flat = {"crown": [0, 1], "chin": [0, 0]}
    for broken in (
        7, {"setting": {}}, {"setting": far, "places": flat}, {"setting": nobody, "places": {}},
        {"setting": nothing, "places": []},
    ):  # fmt: skip
        assert standpoint_of(replace(study("head-front"), extra={MODEL: broken})) is None


def test_the_command_holds_two_studies_level(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    paths = [str(tmp_path / name) for name in ("front.json", "profile.json", "again.json")]
    write_study(study("head-front", model=True), Path(paths[0]))
    write_study(study("head-profile", {"ear_base": 0.09}, model=True), Path(paths[1]))
    write_study(study("head-front"), Path(paths[2]))
    with pytest.raises(SystemExit) as done:
        run(["level", paths[1], paths[0]])
    assert done.value.code == 0
    said = capsys.readouterr().out
    assert "base of the ear: +0.0" in said
    assert "lower than in the other" in said
    with pytest.raises(SystemExit):
        run(["level", paths[1], paths[0], "--format", "json"])
    found = json.loads(capsys.readouterr().out)
    assert {row["key"]: row["verdict"] for row in found["reference"]}["ear_base"] == "over"
    assert {row["verdict"] for row in found["drawing"]} <= {"within", "cannot tell"}
    with pytest.raises(SystemExit) as done:
        run(["level", paths[0], paths[2]])
    assert done.value.code == 2
    assert "from different sides" in capsys.readouterr().err
