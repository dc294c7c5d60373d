"""Several learners on one machine: libraries apart, and nothing of one in another's."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.errors import UserError
from bralto.store.learners import COLOURS, add_learner, last_root, learners, remember
from bralto.store.library import Library


@pytest.fixture
def first(tmp_path: Path) -> Path:
    return tmp_path / "bralto" / "library"


def test_a_single_learner_needs_no_list(first: Path) -> None:
    assert learners(first) == ()
    assert last_root(first) == first
    remember(first, first)
    assert not first.parent.exists()


def test_each_learner_has_a_library_of_their_own(first: Path) -> None:
    second = add_learner(first, "Runa", "Ole of the quay", COLOURS["moss"])
    assert [one.name for one in learners(first)] == ["Runa", "Ole of the quay"]
    assert second.root == first.parent / "learners" / "ole-of-the-quay" / "library"
    for root, title in ((first, "Runa's"), (second.root, "Ole's")):
        with Library.open(root) as library:
            study = study_of(figure_marks(), figure_marks())
            library.add(study, {}, "2026-05-02T18:20:00Z")
            library.rename(library.rows()[0].id, title)
    for root, title in ((first, "Runa's"), (second.root, "Ole's")):
        with Library.open(root, reading=True) as library:
            assert [row.title for row in library.rows()] == [title]
    whole = (first.parent / "learners.json").read_text("utf-8")
    assert "Runa's" not in whole
    assert (first.parent / "learners.json").stat().st_mode & 0o077 == 0
    assert second.root.parent.stat().st_mode & 0o077 == 0


def test_who_drew_last_is_who_it_begins_with(first: Path) -> None:
    second = add_learner(first, "Runa", "Ole", COLOURS["moss"])
    assert last_root(first) == second.root
    remember(first, first)
    assert last_root(first) == first
    remember(first, first.parent / "elsewhere")  # a demo: it is nobody's
    assert last_root(first) == first


@pytest.mark.parametrize("name", ["", "   ", "runa", "\x07"])
def test_a_name_must_be_one_and_another(first: Path, name: str) -> None:
    add_learner(first, "Runa", "Ole", COLOURS["moss"])
    with pytest.raises(UserError):
        add_learner(first, "", name, COLOURS["moss"])


def test_names_that_are_alike_get_folders_apart(first: Path) -> None:
    roots = {add_learner(first, "Runa", name, "#3F6B3A").root for name in ("Åse", "Øse", "日本")}
    assert len(roots) == 3
    assert all(root.parent.parent == first.parent / "learners" for root in roots)


@pytest.mark.parametrize("folder", ["../../etc", "a/b", "A", "."])
def test_a_list_that_another_hand_wrote_leads_nowhere_else(first: Path, folder: str) -> None:
    first.parent.mkdir(parents=True)
    rows = [{"name": "Runa", "colour": "no colour", "folder": ""},
            {"name": "X", "colour": "#123456", "folder": folder}, 7, {"name": 3}]  # fmt: skip
    (first.parent / "learners.json").write_text(json.dumps({"learners": rows, "last": folder}))
    (one,) = learners(first)
    assert (one.name, one.colour, one.root) == ("Runa", "#575047", first)
    assert last_root(first) == first
    (first.parent / "learners.json").write_text("[[[")
    assert learners(first) == ()
