"""What `bralto measure` and `bralto find` say in words, of drawings whose faults are known."""

from __future__ import annotations

import json
import os
import re
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest
from tests.cli.test_commands import BRALTO, typed
from tests.studies import figure_marks, study_of

from bralto.cli.printed.found import found_lines
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import write_study

VIEW = view_named("figure-front")
LEGS = ("knee", "ankle", "heel", "toe")


def short_legs() -> dict[str, Mark]:
    """A figure with all below its hips at 85 % of its length; marked to 0.015 head."""
    marks = figure_marks()
    hip = 0.5 * (marks["trochanter_r"].y + marks["trochanter_l"].y)
    return {
        key: replace(one, y=hip + 0.85 * (one.y - hip)) if key.startswith(LEGS) else one
        for key, one in marks.items()
    }


def test_a_fault_of_the_whole_that_follows_from_the_list_is_said_to_be_gone_with_it(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Of short legs *the whole is too wide* stood there as a further fault."""
    file = tmp_path / "short.json"
    write_study(study_of(figure_marks(), short_legs()), file)
    _, out, _ = typed(capsys, "measure", str(file))
    document = json.loads(typed(capsys, "measure", str(file), "--format", "json")[1])
    assert "both legs" in out
    wide = re.search(r"The whole is (\d+\.\d) ± \d\.\d % too wide", out)
    assert wide
    assert float(wide[1]) == pytest.approx(document["fit"]["too_wide_percent"], abs=0.05)
    (done,) = [line for line in out.splitlines() if line.startswith("With the corrections done")]
    left = re.search(r"(\d+\.\d) ± \d\.\d % too", done)
    assert float(wide[1]) > 3.0
    assert left is None or float(left[1]) < 1.0
    miss = re.search(r"miss (\d\.\d+) heads", done)
    assert miss
    assert float(miss[1]) < 0.2 * document["fit"]["typical_miss"]


def test_a_miss_is_printed_with_its_expanded_uncertainty(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """As everywhere (k = 2): one standard uncertainty stood there."""
    file = tmp_path / "short.json"
    write_study(study_of(figure_marks(), short_legs()), file)
    fit = json.loads(typed(capsys, "measure", str(file), "--format", "json")[1])["fit"]
    said = re.search(
        r"all marks: \d\.\d+ ± (\d\.\d+) heads", typed(capsys, "measure", str(file))[1]
    )
    assert said
    assert float(said[1]) == pytest.approx(2.0 * fit["typical_miss_u"], abs=6e-4)


def found(**more: object) -> dict[str, object]:
    """Of a study of which nothing is found."""
    nothing = {"reason": "no drawing"}
    lists = ("plumb", "level", "alignments", "fractions", "questions", "foreshortened", "forms")
    return {name: [] for name in lists} | {
        "balance": {"reference": nothing, "drawing": nothing}, "life": nothing,
        "known_lengths": {}, "cross_lines": {}, "head": {}, "likeness": nothing,
    } | more  # fmt: skip


def said_of(**more: object) -> str:
    return "\n".join(found_lines(found(**more), VIEW, answers=False))


@pytest.mark.parametrize(
    ("miss", "u", "words"),
    [
        (0.0, 0.0, "crown, chin: below each other"),
        (0.05, 0.0, "crown, chin: below each other within 0.05 head"),
        (0.05, 0.01, "crown, chin: below each other within 0.05 ± 0.02 head"),
        (0.0, 0.01, "crown, chin: below each other within 0.00 ± 0.02 head"),
        (0.02, 0.001, "crown, chin: below each other within 0.020 ± 0.002 head"),
    ],
)
def test_marks_that_are_known_exactly_have_no_nought_for_a_doubt(
    miss: float, u: float, words: str
) -> None:
    row = {"keys": ["crown", "chin"], "along": "plumb", "miss": miss, "u": u, "drawing_miss": None}
    assert f"  {words}" in said_of(alignments=[row]).splitlines()


@pytest.mark.parametrize(
    ("offset", "u", "words"),
    [
        (0.0, 0.0, "the weight falls on the middle of the feet; both legs bear it"),
        (-0.3, 0.0, "0.30 head to your left of the middle of the feet, outside them"),
        (0.05, 0.02, "0.05 ± 0.04 head to your right of the middle of the feet, inside them"),
    ],
)
def test_where_the_weight_falls(offset: float, u: float, words: str) -> None:
    inside = abs(offset) < 0.2
    row = {"offset": offset, "u": u, "inside": inside, "bearing": "both"}
    row |= {"centre": (offset, -3.0), "mass": 1.0}
    assert words in said_of(balance={"reference": row, "drawing": {"reason": "no drawing"}})


@pytest.mark.parametrize(
    ("length", "width", "axis", "words"),
    [
        (-0.15, -0.15, 0.2, "R thigh: 15 % smaller"),
        (0.08, 0.081, 2.4, "R thigh: 8 % larger, turned 2° counter-clockwise"),
        (-0.12, -0.09, -1.0, "R thigh: 12 % shorter, 9 % narrower, turned 1° clockwise"),
        (0.002, 0.07, 0.0, "R thigh: 7 % wider"),
        (-0.11, 0.0, 0.0, "R thigh: 11 % shorter"),
    ],
)
def test_a_form_that_differs_is_said_without_signs(
    length: float, width: float, axis: float, words: str
) -> None:
    row = {"name": "thigh_r", "length": length, "width": width, "axis": axis}
    assert f"  {words}" in said_of(forms=[row]).splitlines()
    assert said_of(forms=[row | {"length": 0.02, "width": 0.02}]) == said_of()


_NOUGHT = re.compile(r"± 0(\.0+)?(?![.\d])|[−-]0(\.0+)?(?![.\d])")
"""A doubt of nothing, and less than nothing."""


@pytest.mark.parametrize("words", [("head",), ("sitting",), ("head", "--turn", "40")])
def test_of_the_model_nothing_is_said_to_nought(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], words: tuple[str, ...]
) -> None:
    """Its marks are known exactly: *0.00 ± 0.00 head*, *(−10 % ± 0)*; and a brow that slants 23°
    but lies nearer the eye was *foreshortened, 101 % of its length*."""
    study = tmp_path / "model.json"
    drawn = typed(capsys, "pose", *words, str(study.with_suffix(".png")), "--size", "120x160")
    assert drawn[0] == 0
    out = "".join(typed(capsys, name, str(study))[1] for name in ("find", "plan"))
    assert "Simple parts:" in out
    assert not _NOUGHT.search(out)
    assert not re.search(r"Foreshortened: .*, (9[5-9]|1\d\d) % of its length", out)
    assert ("Balance" in out) == (words == ("sitting",))


@pytest.mark.parametrize("encoding", ["ascii", "latin-1"])
def test_a_terminal_without_unicode_is_told_what_it_can_show(tmp_path: Path, encoding: str) -> None:
    """Every text and JSON ended there in *something went wrong inside Bralto*, exit status 70."""
    study = tmp_path / "short.json"
    named = replace(study_of(figure_marks(), short_legs()), title="Søren, 船")
    write_study(named, study)
    own = {**os.environ, "PYTHONIOENCODING": encoding}
    said, document = (
        subprocess.run(
            [BRALTO, "measure", str(study), "--format", form], capture_output=True, check=True,
            env=own,
        ).stdout
        for form in ("text", "json")
    )  # fmt: skip
    text = said.decode(encoding)
    soren = "Søren" if encoding == "latin-1" else "S\\u00f8ren"
    assert text.startswith(f"{soren}, \\u8239, state 'first'\n")
    assert re.search(r"^  span\.figure  whole height +-0\.\d+ (\+-|±) 0\.\d+ head", text, re.M)
    assert json.loads(document.decode(encoding))["study"] == "Søren, 船"
