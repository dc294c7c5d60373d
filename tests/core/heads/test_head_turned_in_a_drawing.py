"""A head that is drawn turned, raised or tipped otherwise than it was seen is one cause."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path

import numpy as np
import pytest
from tests.cli.test_commands import typed
from tests.core.heads.busts import SIZE, bust_marks, short_set

from bralto.core.corrections.candidates.composing import compose
from bralto.core.corrections.candidates.moves import Candidates
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.examination.examine import examine
from bralto.core.results import NotMeasurable
from bralto.core.session.head_facts import head_facts
from bralto.core.study.two_boards import BOARDS
from bralto.core.study.values import Mark, Picture, Scale, State, Study
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import write_study

SITTER = {"width": 0.95, "middle": 1.06, "nose_out": 0.92, "mouth_wide": 1.08}


def study_of(view: str, seen: Mapping[str, Mark], drawn: Mapping[str, Mark]) -> Study:
    return Study(
        title="", view=view, reference=Picture("a.png", *SIZE, dict(seen)),
        states=(State("first", Picture("b.png", *SIZE, dict(drawn))),),
        scale=Scale(view_named(view).school), grade="developing",
    )  # fmt: skip


def head_drawn(view: str, around: float, turns: Mapping[str, float], seed: int = 3) -> Study:
    """By a hand of 0.003 head, from a sitter of our own."""
    rng = np.random.default_rng(seed)
    seen = bust_marks(view, around, face=SITTER, hand=0.7, rng=rng)
    drawn = bust_marks(view, around, turns, face=SITTER, hand=1.5, rng=rng)
    return study_of(view, seen, drawn)


def listed(study: Study) -> tuple[Correction, ...]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return found


@pytest.mark.parametrize(
    ("view", "around"),
    [("head-front", 5.0), ("head-three-quarter", 44.0), ("head-profile", 90.0)],
)
@pytest.mark.parametrize(
    ("joint", "by", "kind", "amount"),
    [
        ("head.twist", 8.0, "face", -8.0), ("head.twist", -12.0, "face", 12.0),
        ("head.nod", 8.0, "nod", 8.0), ("head.nod", -6.0, "nod", -6.0),
        ("head.lean", 8.0, "tip", 8.0),
    ],
)  # fmt: skip
def test_it_is_named_first_and_alone(
    view: str, around: float, joint: str, by: float, kind: str, amount: float
) -> None:
    first, *rest = listed(head_drawn(view, around, {joint: by}))
    assert (first.move, first.part) == (kind, None)
    assert first.amount == pytest.approx(amount, abs=max(1.0, 3.0 * first.u))
    # The neck's outline is another one where a jaw has turned over it.
    assert [one for one in rest if one.part is None] == []
    assert all("neck" in str(one.part) or "nape" in str(one.part) for one in rest)


def test_it_is_said_in_words_with_what_to_do_and_what_to_check() -> None:
    one = listed(head_drawn("head-three-quarter", 44.0, {"head.twist": 9.0}))[0]
    assert one.words.startswith("Turn the face 9° more to your left")
    assert one.check is not None
    one = listed(head_drawn("head-front", 0.0, {"head.nod": -8.0}))[0]
    assert one.words.startswith("Drop the chin 8°")
    assert "the back of the head goes up" in one.words
    one = listed(head_drawn("head-front", 0.0, {"head.lean": -8.0}))[0]
    assert one.words == "Tip the head 8° more towards its left shoulder"


def test_nothing_is_left_over_once_it_is_put_right() -> None:
    found = assess(head_drawn("head-three-quarter", 44.0, {"head.twist": -9.0}), corrections=True)
    assert len(found.off()) > 8
    assert found.causes is not None
    follows = [row for row in found.causes.follows_from if row == 1]
    assert len(follows) > 0.7 * len(found.off())


@pytest.mark.parametrize("view", ["head-front", "head-three-quarter", "head-profile"])
def test_a_head_drawn_as_it_was_seen_is_not_turned(view: str) -> None:
    around = {"head-front": 0.0, "head-three-quarter": 44.0, "head-profile": 90.0}[view]
    for seed in range(4):
        moves = {one.move for one in listed(head_drawn(view, around, {}, seed))}
        assert not moves & {"face", "nod", "tip"}


def test_other_faults_of_a_head_stay_what_they_are() -> None:
    view, rng = "head-front", np.random.default_rng(6)
    seen = bust_marks(view, 0.0, face=SITTER, hand=0.7, rng=rng)
    eyes = ("eye", "pupil", "lid", "iris", "brow")
    high = {
        key: Mark(one.x, one.y - (38.0 if key.startswith(eyes) else 0.0), "seen", 0.7)
        for key, one in seen.items()
    }
    (one,) = listed(study_of(view, seen, high))
    assert (one.move, one.part) == ("shift", "eye_band")
    narrow = {
        key: Mark(450.0 + 0.9 * (one.x - 450.0), one.y, "seen", 0.7) for key, one in seen.items()
    }
    (one,) = listed(study_of(view, seen, narrow))
    assert (one.move, one.part) == ("stretch", None)


def test_the_pass_says_what_the_list_says_and_doubts_the_rest() -> None:
    study = head_drawn("head-three-quarter", 44.0, {"head.twist": 9.0})
    found = examine(study)
    kinds = {one.move for one in found.corrections}
    turned, raised, planes = head_facts(found.both.heads, found.grade, kinds)
    assert turned.seen == "44° left"
    assert turned.drawn in {"34° left", "35° left", "36° left"}
    assert (turned.verdict, turned.more) == ("under", False)
    assert raised.verdict == "within"
    # Who turns towards the eye shows more of the front.
    a, b = (int(x) for x in planes.seen.split(" : "))
    c, d = (int(x) for x in planes.drawn.split(" : "))
    assert c / d > a / b
    doubted = head_facts(found.both.heads, found.grade, ())[0]
    assert doubted.verdict == "cannot tell"
    only = examine(
        Study(**{**vars_of(study), "states": (State("first", Picture("b.png", *SIZE, {})),)})
    )
    assert head_facts(only.both.heads, only.grade, ())[0].drawn == ""


def vars_of(study: Study) -> dict[str, object]:
    return {name: getattr(study, name) for name in ("title", "view", "reference", "scale", "grade")}


def test_the_short_set_is_enough() -> None:
    view = "head-three-quarter"
    study = head_drawn(view, 44.0, {"head.twist": 10.0})
    keys = short_set(view)
    assert study.reference is not None
    short = study_of(
        view, {key: study.reference.marks[key] for key in keys},
        {key: study.states[0].picture.marks[key] for key in keys},
    )  # fmt: skip
    first = listed(short)[0]
    assert first.move == "face"
    assert first.amount == pytest.approx(-10.0, abs=3.0)


def test_what_is_known_in_space_composes_with_its_slopes() -> None:
    rng = np.random.default_rng(1)
    start, field = rng.normal(size=(5, 2)), rng.normal(size=(2, 5, 2))
    (move,) = Candidates(()).with_depth([("nod", "face", field)]).moves
    by = 0.3
    moved, slopes = compose([move], [np.array([by])], start)
    assert moved == pytest.approx(start + by * field[0] + by * by * field[1])
    ends = [compose([move], [np.array([by + h])], start)[0] for h in (1e-6, -1e-6)]
    assert slopes[0] == pytest.approx((ends[0] - ends[1]) / 2e-6, abs=1e-8)
    assert Candidates((move,)).tangents(start)[0] == pytest.approx(field[0])


def test_the_command_says_how_either_head_stands(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "head.json"
    write_study(head_drawn("head-three-quarter", 44.0, {"head.twist": 9.0}), path)
    _, said, _ = typed(capsys, "find", str(path))
    _, told, _ = typed(capsys, "find", str(path), "--format", "json")
    assert "Head, reference: turned to your left 44°" in said
    assert "chin level ± " in said  # not dropped by 0°
    assert " 0° ±" not in said
    assert "(± against the reference)" in said
    found = json.loads(told)["head"]
    turned = [found[whose]["turned"]["degrees"] for whose in BOARDS]
    assert turned == [pytest.approx(-44.0, abs=2.5), pytest.approx(-35.0, abs=2.5)]
    assert 0.0 < found["drawing"]["turned"]["u"] < found["reference"]["turned"]["u"]
