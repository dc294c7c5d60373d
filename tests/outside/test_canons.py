"""Figures built from published tables come out as their canon says."""

from __future__ import annotations

import numpy as np
import pytest
from tests.puppet import Pose
from tests.studies import figure_marks, study_of

from bralto.core.canons.compare import against_canon
from bralto.core.canons.shipped_canons import canon_named
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.body.skins import skin
from bralto.core.measures.points import picture_points
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

# Vitruvius, De architectura III.1, as fractions of the whole height (checks.md, section G).
VITRUVIUS = {"chin": 1 / 8, "nipple": 1 / 4}
# Drillis and Contini 1966, heights of standing landmarks over stature (via Winter; checks.md, G).
DRILLIS_CONTINI = {
    "chin": 0.870, "shoulder": 0.818, "nipple": 0.720, "elbow": 0.630, "hip_point": 0.530,
    "wrist": 0.485, "fingertip": 0.377, "knee": 0.285, "ankle": 0.039,
}  # fmt: skip


def upright(drops: dict[str, float], tall: float = 800.0) -> dict[str, Mark]:
    """Marks at fractions of the height below the crown; paired ones 40 px to each side."""
    marks = {"crown": Mark(300, 20), "heel_r": Mark(260, 20 + tall), "heel_l": Mark(340, 20 + tall)}
    for key, drop in drops.items():
        y = 20 + tall * drop
        if key == "chin":
            marks[key] = Mark(300, y)
        else:
            marks[f"{key}_r"], marks[f"{key}_l"] = Mark(260, y), Mark(340, y)
    return marks


def test_the_antique_text_gives_an_eight_head_figure() -> None:
    marks = upright(VITRUVIUS)
    found = assess(study_of(marks, marks))
    assert found.reading("span.figure").reference == pytest.approx(8.0)
    assert found.reading("height.nipples").reference == pytest.approx(2.0)
    assert found.reading("fraction.nipple_quarter").reference == pytest.approx(0.25)


def test_the_shipped_antique_canon_is_the_texts() -> None:
    """Head 1/8, hand 1/10, middle of the breast to crown 1/4 of the height, in heads."""
    canon = canon_named("antique-eight-heads").values("figure-front")
    assert canon["span.figure"].middle == 1 / (1 / 8)
    assert canon["height.nipples"].middle == (1 / 4) / (1 / 8)
    assert canon["span.hand_r"].middle == pytest.approx((1 / 10) / (1 / 8))
    foot = canon_named("antique-eight-heads").values("figure-side")["span.foot"]
    assert foot.middle == pytest.approx((1 / 6) / (1 / 8))


def test_the_shipped_handbook_canon_is_the_printed_table() -> None:
    """A figure built from the table is as the canon in every height; lengths as printed."""
    marks = upright({key: 1.0 - height for key, height in DRILLIS_CONTINI.items()})
    canon, view = canon_named("handbook-adult"), view_named("figure-front")
    found = against_canon(view, canon, Picture("", 999, 999, marks), GRADES["exacting"])
    heights = [
        r for r in found if r.spec.kind == "height" and r.spec.id in canon.values("figure-front")
    ]
    assert len(heights) == 18
    for reading in heights:
        assert reading.error == pytest.approx(0.0, abs=1e-3), reading.spec.id
    head = 1.0 - DRILLIS_CONTINI["chin"]
    for name, length in (
        ("upper_arm", 0.186), ("forearm", 0.146), ("hand", 0.108), ("shank", 0.246),
    ):  # fmt: skip
        assert canon.values("figure-front")[f"span.{name}_l"].middle * head == pytest.approx(
            length, abs=1e-4
        )


def test_the_antique_face_stands_in_three_equal_parts() -> None:
    """III.1: chin to nostrils, nostrils to brow, brow to hairline are a third of the face each."""
    thirds = {"crown": 0.0, "hairline": 0.2, "brow_mid": 7 / 15, "nose_base": 11 / 15, "chin": 1.0}
    marks = {key: Mark(200, 30 + 600 * share) for key, share in thirds.items()}
    found = assess(study_of(marks, marks, view="head-front"))
    assert found.reading("fraction.brow_third").reference == pytest.approx(1 / 3)
    assert found.reading("fraction.nose_third").reference == pytest.approx(2 / 3)


def test_the_handbook_figure_has_seven_and_two_thirds_heads() -> None:
    """1 / .130 = 7.69 heads (checks.md, G); each station is its own quotient of the table."""
    marks = upright({key: 1.0 - height for key, height in DRILLIS_CONTINI.items()})
    found = assess(study_of(marks, marks))
    head = 1.0 - DRILLIS_CONTINI["chin"]
    assert found.reading("span.figure").reference == pytest.approx(7.69, abs=0.005)
    for key in ("shoulder", "elbow", "wrist", "fingertip", "knee"):
        station = (1.0 - DRILLIS_CONTINI[key]) / head
        assert found.reading(f"height.{key}_r").reference == pytest.approx(station), key
    thigh = (DRILLIS_CONTINI["hip_point"] - DRILLIS_CONTINI["knee"]) / head
    assert found.reading("span.thigh_l").reference == pytest.approx(thigh)
    assert found.reading("span.thigh_l").reference * head == pytest.approx(0.245)  # as printed


def test_an_upright_figure_has_its_centre_of_mass_where_measured_bodies_have_it() -> None:
    """0.551 of the height for the woman, 0.569 to 0.592 for the men measured in the package
    `yeadon` 2.0.1 (arms down); a centre found from marks on the outline may be off by 0.02."""
    view = view_named("figure-front")
    found = picture_points(view, Picture("", 4000, 4000, figure_marks(Pose())))
    assert not isinstance(found, NotMeasurable)
    height = {key: found[1].xy[view.point_rows[key], 1] for key in ("crown", "sole")}
    centre = found[1].xy[view.point_rows["centre_of_mass"], 1]
    share = (centre - height["sole"]) / (height["crown"] - height["sole"])
    assert 0.531 <= share <= 0.612


def farkas_face() -> dict[str, Mark]:
    """A face of which every canon of Farkas et al. 1985 holds, by its definition (checks.md, G).

    v crown, tr hairline, n brow, en and ex corners of the eye, sn base of the nose, al wings, ch
    corners of the mouth, gn chin, zy edges of the face. Free are the unit and where the eye line
    lies, which v-en = en-gn says; tr-n = n-sn = sn-gn; en-en = ex-en = al-al; ch-ch = 1.5 al-al;
    al-al = zy-zy / 4.
    """
    v, gn, eye = 100.0, 900.0, 80.0
    tr = 240.0
    third = (gn - tr) / 3.0
    n, sn, en = tr + third, tr + 2.0 * third, 0.5 * (v + gn)
    middle = {"crown": v, "hairline": tr, "brow_mid": n, "nose_base": sn, "chin": gn}
    marks = {key: Mark(500.0, y) for key, y in middle.items()}
    halves = {
        "eye_inner": (0.5 * eye, en), "eye_outer": (1.5 * eye, en), "nostril": (0.5 * eye, sn),
        "mouth_corner": (0.75 * eye, sn + 0.33 * third), "face_edge": (2.0 * eye, en),
    }  # fmt: skip
    for key, (half, y) in halves.items():
        marks[f"{key}_r"], marks[f"{key}_l"] = Mark(500.0 - half, y), Mark(500.0 + half, y)
    return marks


def test_canons_of_the_face_hold_of_a_face_that_is_made_by_their_definitions() -> None:
    marks = farkas_face()
    found = assess(study_of(marks, marks, view="head-front"))
    asked = {
        "face-halves": ("fraction.eye_half",),
        "face-thirds": ("fraction.brow_third", "fraction.nose_third"),
        "five-eyes": ("ratio.between_eyes", "ratio.mouth_nose", "alignment.nostril_eye_r",
                      "alignment.nostril_eye_l"),
        "usual-face": ("ratio.nose_face",),
    }  # fmt: skip
    for canon, measures in asked.items():
        values = canon_named(canon).values("head-front")
        for key in measures:
            seen = found.reading(key).reference
            assert values[key].low - 1e-9 <= seen <= values[key].high + 1e-9, key


def test_a_face_of_five_eyes_is_wider_than_one_of_four_noses() -> None:
    """The trade's five eyes across and the nasofacial canon exclude each other where the nose is an
    eye wide: neither may call the other's nose off."""
    marks = farkas_face()
    found = assess(study_of(marks, marks, view="head-front"))
    assert found.reading("ratio.face_eyes").reference == pytest.approx(4.0)
    assert canon_named("five-eyes").values("head-front")["ratio.face_eyes"].middle == 5.0
    usual = canon_named("usual-face").values("head-front")["ratio.nose_face"]
    assert (usual.low, usual.high) == (1 / 5, 1 / 4)


def test_the_plaster_head_is_as_broad_as_measured_heads_are() -> None:
    """Breadth to length of the skull, above the ears: players of football 15.400 and 19.907 cm
    (`heplots` FootHead, 90 men), sons' heads 0.814 (`boot` frets); checks.md, D."""
    skull = skin("head")
    above = skull[np.abs(skull[:, 1] - 0.45) < 0.03]  # the ears end at 0.40
    breadth, length = np.ptp(above[:, 0]), np.ptp(above[:, 2])
    low, high = 15.400 / 19.907, 0.814
    assert 0.95 * low < breadth / length < 1.05 * high
