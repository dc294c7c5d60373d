"""What is kept of a measured study, and that it is measured again when the science changes."""

from __future__ import annotations

import pickle
from pathlib import Path

import pytest

from bralto.core.examination.assessment import measured
from bralto.core.examination.summary import SCIENCE, MissFigure, SkillFigure, Summary
from bralto.core.longitudinal.kept import keep_of
from bralto.core.results import NotMeasurable
from bralto.exchange.study_file import read_study
from bralto.store.summaries import Digest, Shown, digest_document, read_digest

DATA = Path(__file__).parents[1] / "data"

# Printed by `keep_of` of the pencil-and-paper studies when this version of the science was made.
KEPT = {
    1: {
        "pencil-figure": (0.1119, 0.0057, [0.2727, 0.1613, 2.2026, 0.0273]),
        "pencil-head": (0.0276, 0.0013, [0.05, 0.0125, 0.0, 0.0]),
    },
    2: {
        "pencil-figure": (0.1119, 0.0057, [0.2727, 0.1613, 2.2026, 0.0273]),
        "pencil-head": (0.0276, 0.0013, [0.05, 0.0125, 0.0, 0.0]),
    },
    3: {  # heads of backs and profiles; of a view from the front nothing
        "pencil-figure": (0.1119, 0.0057, [0.2727, 0.1613, 2.2026, 0.0273]),
        "pencil-head": (0.0276, 0.0013, [0.05, 0.0125, 0.0, 0.0]),
    },
    4: {  # skills once the whole is put right; halves and thirds besides
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0274, 0.0168, 0.0, 0.0084, 0.0572, 0.0778]),
    },
    12: {  # from life skills and traits with the doubt of what was sighted; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    13: {  # from life limbs of some that sit or lie; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    14: {  # how one sights by family, where that was practised; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    17: {  # from life figures of some that sit or lie, found sooner; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    18: {  # lists of corrections of studies from life, by the trade's odds; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    19: {  # figures that sightings imply, by places of those that stand; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    20: {  # of things the figures are quarters of their height, and say so; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    21: {  # legs, arms and torsos are held to twice as much in heads; of figures and heads nothing
        # is changed
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    16: {  # heads that were sighted from life; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    15: {  # figures of sightings that do not agree; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    11: {  # from life a model may sit, lie, face the other way; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    10: {  # how sure a bend is that was kept; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    9: {  # figures that lie: heights from a level line, all else along them; of others nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    8: {  # turned heads are no faults of parts; an object's quarter is upright; of figures nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0238, 0.0258, 0.0, 0.014, 0.062, 0.0806]),
    },
    7: {  # how far heads are turned, seen and drawn, of those turned away; of skills nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0274, 0.0168, 0.0, 0.0084, 0.0572, 0.0778]),
    },
    6: {  # the bend that was kept, where its sweeps were drawn; of marks nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0274, 0.0168, 0.0, 0.0084, 0.0572, 0.0778]),
    },
    5: {  # cropped figures have a typical miss; of whole ones nothing
        "pencil-figure": (0.1119, 0.0057, [0.0397, 0.1113, 3.638, 0.0507, 0.0211]),
        "pencil-head": (0.0276, 0.0013, [0.0274, 0.0168, 0.0, 0.0084, 0.0572, 0.0778]),
    },
}


@pytest.mark.parametrize("name", ["pencil-figure", "pencil-head"])
def test_other_figures_of_the_same_marks_want_another_version_of_the_science(name: str) -> None:
    """If this fails because the measuring was mended, raise `SCIENCE` and add a line to `KEPT`:
    the shelves of learners then show figures of one science, and not of two."""
    found = keep_of(measured(read_study(DATA / f"{name}.json"))).summary
    value, u, values = KEPT[SCIENCE][name]
    assert found.miss.value == pytest.approx(value, abs=6e-5)
    assert found.miss.u == pytest.approx(u, abs=6e-5)
    assert [one.value for one in found.skills] == pytest.approx(values, abs=6e-5)


def digest(**other: object) -> Digest:
    summary = Summary(
        MissFigure(0.1, 0.01, 0.02, 14),
        NotMeasurable("fewer than 2 marks"),
        (SkillFigure("tilts", "degree", 2.0, 0.5, 0.3, 7),),
    )
    shown = Shown("ab/x.jpg", 300, 400, 1.5, tuple(map(float, range(9))), (0.0, 1.0, 2.0, 3.0))
    made = Digest(summary, "", 0.8, shown, shown._replace(media=None, flat=None, frame=None), 61.5)
    return made._replace(**other)


@pytest.mark.parametrize(
    "one",
    [
        digest(),
        digest(ratio=None, reference=None),
        digest(summary=None, why="there is no reference", drawing=None),
        digest(summary=digest().summary._replace(unit="quarter")),
    ],
)
def test_a_digest_comes_back_as_it_went_in(one: Digest) -> None:
    assert read_digest(digest_document(one)) == one


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("", ""),
        ("0.1,0.01", "NaN,0.01"),
        ("2.0,0.5", "Infinity,0.5"),
        ("2.0,0.5", '"two",0.5'),
        ("300,400", "0,400"),
        ("300,400", '300,"wide"'),
        ("61.5", "1e999"),
        ('"why"', '"because"'),
        ("[[", "[" * 4000 + "[["),
    ],
)
def test_a_digest_that_is_none_is_measured_again(old: str, new: str) -> None:
    document = digest_document(digest())
    assert read_digest(document.replace(old, new, 1) if old else "{}") is None


def test_a_reason_is_falsy_frozen_and_no_list_of_figures() -> None:
    missing = NotMeasurable("no chin")
    assert not missing
    assert missing == NotMeasurable("no chin") != NotMeasurable("no crown")
    assert hash(missing) == hash(NotMeasurable("no chin"))
    assert pickle.loads(pickle.dumps(missing)) == missing
    assert repr(missing) == "NotMeasurable('no chin')"
    with pytest.raises(AttributeError, match="does not change"):
        missing.reason = "another"
    with pytest.raises(TypeError):
        list(missing)  # type: ignore[call-overload]
