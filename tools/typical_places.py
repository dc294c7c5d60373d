"""Writes where the marks of each view usually lie, from the model by chance (`make places`).

Bodies of many proportions in balanced poses by chance and in the named ones, those among them that
stand, others that sit or lie, heads with many faces, each seen about as its view sees it; what is
kept is their mean and how they scatter together. One that lies has its head to the left.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
from scipy.cluster.vq import kmeans2

from bralto.core.mannequin.body.builds import Build, builds, ranges
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.landmarks import landmarks_of, viewed
from bralto.core.mannequin.body.pose import STAND, Pose
from bralto.core.mannequin.body.sculpt import HAIR
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.camera import Camera, looking
from bralto.core.mannequin.posing.poses import named_poses, pose_by_chance
from bralto.core.mannequin.posing.resting_poses import lying_by_chance, seated_by_chance
from bralto.core.mannequin.posing.standing import stood
from bralto.core.mannequin.setting import Setting, default_setting
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.core.views.typical import FOLDER, other_side

TARGET = Path(__file__).parents[1] / "src/bralto/core/views" / FOLDER

MANY = 1500
_WAYS = 24
_NAMED = 0.3
_HARDEST = 4
_SIZE = (900, 1200)
TURNED = {
    "figure-front": (0.0, 40.0), "figure-back": (180.0, 40.0), "figure-side": (90.0, 30.0),
    "head-front": (0.0, 20.0), "head-three-quarter": (45.0, 20.0), "head-profile": (88.0, 14.0),
}  # fmt: skip
"""About which way the model is turned in a view, and how far to either side of that, degrees."""


def build_by_chance(rng: np.random.Generator) -> Build:
    """An adult of some proportions: about half of each range, about a named build."""
    known = [one for one in builds().values() if one.heads >= 7.0]
    base = known[int(rng.integers(len(known)))]
    figures = {}
    for name, (low, high) in ranges().items():
        share = 0.25 if not name.startswith("face.") else 0.15
        value = base.figures()[name] + share * (high - low) * float(rng.normal()) / 2.0
        figures[name] = min(max(value, low), high)
    return base.with_figures(**figures)


def head_by_chance(pose: Pose, rng: np.random.Generator) -> Pose:
    """The same with its head leaning, nodding and bent."""
    turns = {
        "neck.lean": float(rng.normal(0.0, 4.0)), "head.lean": float(rng.normal(0.0, 5.0)),
        "head.nod": float(rng.normal(0.0, 6.0)), "neck.bend": float(rng.normal(0.0, 4.0)),
    }  # fmt: skip
    return replace(pose, turns=dict(pose.turns) | turns)


def settings(view: str, rng: np.random.Generator, *, standing: bool = False) -> Iterator[Setting]:
    """What is seen there, one after the other; where ``standing``, none that kneels, sits or lies,
    nor one whose head does not show."""
    every = _settings(view, rng)
    return (one for one in every if _stands(one) and _head_shows(view, one)) if standing else every


_HIGH, _SEEN = 0.7, 0.5
"""Share of its height at rest to which the crotch of one that stands comes at least, and of its
length to which a head shows: in one that is more foreshortened nobody would count."""


def _stands(setting: Setting) -> bool:
    at_rest = replace(setting, pose=named_poses()["at-rest"].fitted(setting.build))
    low, high = (_in_space("figure-front", ("crotch",), one)[0, 1] for one in (setting, at_rest))
    return bool(low >= _HIGH * high)


def _head_shows(view: str, setting: Setting) -> bool:
    """By the marks in whose distance the view counts."""
    ends = _in_space(view, view_named(view).head, setting)
    eye = looking(setting.camera, setting.build.head_m, ends, *_SIZE).eye
    head, away = ends[0] - ends[1], ends.mean(axis=0) - eye
    along = float(head @ away) / float(np.linalg.norm(head) * np.linalg.norm(away))
    return along**2 <= 1.0 - _SEEN**2


def _in_space(view: str, keys: Sequence[str], setting: Setting) -> np.ndarray:
    """(k, 3) array: marks of a view on a figure on the ground, heads, the second upwards."""
    figure = stood(setting.build, setting.pose).with_part(HAIR, "head")
    found = [mark.on_figure(figure) for mark in landmarks_of(view, tuple(keys), "l")]
    return np.array([figure.world(mark.part, mark.at) for mark in found])


def _settings(view: str, rng: np.random.Generator) -> Iterator[Setting]:
    about, either_way = TURNED[view]
    named = tuple(named_poses().values())
    while True:
        build = build_by_chance(rng)
        turn = about + either_way * float(rng.uniform(-1.0, 1.0))
        if view.startswith("head"):
            base = default_setting("head")
            pose = head_by_chance(base.pose, rng)
            eye = max(0.03, 0.20 + float(rng.normal(0.0, 0.06)))
            camera = Camera(float(rng.uniform(1.3, 3.0)), eye, turn)
            yield replace(base, build=build, pose=pose, camera=camera)
            continue
        if rng.random() < _NAMED:
            pose = named[int(rng.integers(len(named)))].fitted(build)
            if pose.turns.get(STAND) and view != "figure-back":
                pose = replace(pose, turns=dict(pose.turns) | {STAND: 0.0})
        else:
            hard = int(rng.integers(1, _HARDEST + 1))
            pose = pose_by_chance(build, hard, int(rng.integers(1 << 30)))
            pose = replace(pose, turns=dict(pose.turns) | {STAND: 0.0})
        away = float(rng.uniform(2.5, 7.0))
        yield Setting(
            build=build, pose=pose, camera=Camera(away, float(rng.uniform(1.0, 1.7)), turn)
        )


def resting(view: str, stance: Stance, rng: np.random.Generator) -> Iterator[Setting]:
    """Figures that sit or lie, one after the other, and whose heads show."""
    return (one for one in _resting(view, stance, rng) if _head_shows(view, one))


def _resting(view: str, stance: Stance, rng: np.random.Generator) -> Iterator[Setting]:
    about, lies = TURNED[view][0], stance.is_lying
    while True:
        build = build_by_chance(rng)
        pose = lying_by_chance(build, rng) if lies else seated_by_chance(build, rng)
        turns = dict(pose.turns)
        if not lies:  # as those that stand, by the way that the body faces
            turns[STAND] = 0.0
        elif view == "figure-side":  # its length is what is seen
            turns[STAND] = float(rng.choice([0.0, 180.0]))
        away, high = float(rng.uniform(2.5, 7.0)), float(rng.uniform(0.6 if lies else 1.0, 1.7))
        turn = about + (_LYING_TURNED if lies else _SEATED_TURNED) * float(rng.uniform(-1.0, 1.0))
        yield Setting(build=build, pose=replace(pose, turns=turns), camera=Camera(away, high, turn))


_LYING_TURNED, _SEATED_TURNED = 30.0, 50.0
"""How far to either side one walks round a figure that lies or sits, degrees."""

_STARTS = 8
"""Figures from which the search for one that is sighted begins: how a model is placed leaves them
more different than any one of them could stand for."""


def places(view_key: str, setting: Setting) -> np.ndarray:
    """(n, 2) marks of a view, heads, y down, about their middle."""
    view = view_named(view_key)
    if setting.subject == "head":
        figure: Posed = bust(setting).with_part(HAIR, "head")
    else:
        figure = stood(setting.build, setting.pose).with_part(HAIR, "head")
    keys = tuple(mark.key for mark in view.landmarks)
    found = [one.on_figure(figure) for one in landmarks_of(view_key, keys, "l")]
    world = np.array([figure.world(one.part, one.at) for one in found])
    px = looking(setting.camera, setting.build.head_m, world, *_SIZE).project(world)
    crown, chin = (keys.index(key) for key in view.head)
    head = float(np.linalg.norm(px[crown] - px[chin])) / view.heads
    return np.asarray((px - px.mean(axis=0)) / head)


def kept(view_key: str, stance: Stance | None = None) -> dict[str, object]:
    """What is written of a view, and of how the model is placed where that is said."""
    rng = np.random.default_rng(20261128)
    if stance is None or stance is Stance.STANDING:
        source = settings(view_key, rng, standing=stance is not None)
    else:
        source = resting(view_key, stance, rng)
    every = (places(view_key, next(source)) for _ in range(MANY))
    found = np.array(
        [(head_left(view_key, one) if stance is Stance.LYING else one).ravel() for one in every]
    )
    mean, scaled = principal(found, _WAYS)
    rest = np.sqrt(np.maximum(found.var(axis=0, ddof=1) - np.square(scaled).sum(axis=0), 0.0))
    keys = [mark.key for mark in view_named(view_key).landmarks]
    out: dict[str, object] = {
        "view": view_key, "marks": keys, "mean": rounded(mean),
        "ways": [rounded(row) for row in scaled], "rest": rounded(np.maximum(rest, 0.005)),
    }  # fmt: skip
    if stance is not None:
        middles = kmeans2(found, _STARTS, minit="++", seed=1)[0]
        out["starts"] = [rounded(row) for row in middles]
    return out


def head_left(view_key: str, marks: np.ndarray) -> np.ndarray:
    """The places as they are where the crown lies left of the middle, else their mirror image."""
    keys = tuple(mark.key for mark in view_named(view_key).landmarks)
    if marks[keys.index("crown"), 0] <= 0.0:
        return marks
    return np.asarray(marks[[keys.index(other_side(key)) for key in keys]] * [-1.0, 1.0])


def principal(found: np.ndarray, many: int) -> tuple[np.ndarray, np.ndarray]:
    """The mean of (n, d) rows and their (many, d) principal ways, each one standard deviation."""
    mean = found.mean(axis=0)
    _, sizes, ways = np.linalg.svd(found - mean, full_matrices=False)
    return mean, (sizes[:many, None] / np.sqrt(len(found) - 1.0)) * ways[:many]


def rounded(row: np.ndarray) -> list[float]:
    """As it is written, without -0."""
    return [round(float(value), 4) + 0.0 for value in row]


def write(path: Path, written: dict[str, object]) -> None:
    """As JSON, a line a key and a line a way."""
    rows = {"ways", "starts"}
    lines = [f" {json.dumps(k)}: {json.dumps(v)}" for k, v in written.items() if k not in rows]
    for key in sorted(rows & written.keys(), reverse=True):
        listed = ",\n  ".join(json.dumps(row) for row in written[key])  # type: ignore[attr-defined]
        lines.append(f' "{key}": [\n  {listed}]')
    path.write_text("{\n" + ",\n".join(lines) + "\n}\n", "utf-8")
    print(path.name, path.stat().st_size)


if __name__ == "__main__":
    TARGET.mkdir(exist_ok=True)
    for one in viewed():
        write(TARGET / f"{one}.json", kept(one))
        if one.startswith("figure"):
            for placed in (Stance.STANDING, Stance.SEATED, Stance.LYING):
                write(TARGET / f"{one}-{placed}.json", kept(one, placed))
