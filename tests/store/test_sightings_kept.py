"""Sightings in the library: kept as they are, and a damaged row named."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from tests.exchange.test_sightings import ALL, document

from bralto.core.mannequin.setting import set_up
from bralto.core.session.notes import notes_of
from bralto.exchange.pose_file import setting_document
from bralto.exchange.study_file import parse_study
from bralto.stand.model.model_study import modelled
from bralto.store.carrying import read_in, write_out
from bralto.store.instants import now_utc
from bralto.store.intake import add_study
from bralto.store.library import Library
from bralto.store.record import modelled as store_modelled
from bralto.store.record.modelled import add_model_study, add_sitter
from bralto.store.record.tries import try_again
from bralto.store.sqlite.reading import UnreadableStudyError


@pytest.mark.parametrize("stance", ["standing", "seated", "lying-right"])
def test_they_come_back_as_they_went_in(tmp_path: Path, stance: str) -> None:
    more = {"eye_mm": 600, "plane_mm": 1200, "room": "attic", "stance": stance}
    study = parse_study(document(*ALL, **more), "x")
    with Library.open(tmp_path / "library") as library:
        study_id = add_study(library, study, None, None, now_utc())
    with Library.open(tmp_path / "library") as library:
        stored = library.stored(study_id)
        assert stored is not None
        assert stored.study == study
        for name in ("out.bralto", "out.json"):
            write_out(library, study_id, tmp_path / name)
            copy = library.stored(read_in(library, tmp_path / name))
            assert copy is not None
            assert copy.study.sightings == study.sightings


def test_what_was_kept_before_models_could_be_placed_stands(tmp_path: Path) -> None:
    study = parse_study(document(*ALL[:2]), "x")
    with Library.open(tmp_path / "library") as library:
        study_id = add_study(library, study, None, None, now_utc())
    with closing(sqlite3.connect(tmp_path / "library" / "library.sqlite3")) as base, base:
        row = base.execute("SELECT extra FROM study WHERE id = ?", (study_id,)).fetchone()
        extra = json.loads(row[0])
        del extra["sightings"]["stance"]
        base.execute("UPDATE study SET extra = ? WHERE id = ?", (json.dumps(extra), study_id))
    with Library.open(tmp_path / "library") as library:
        stored = library.stored(study_id)
        assert stored is not None
        assert stored.study == study


@pytest.mark.parametrize("broken", ["shorter", "sort", "number", "along", "stance"])
def test_a_damaged_row_is_named_and_the_others_stay(tmp_path: Path, broken: str) -> None:
    study = parse_study(document(*ALL[:2]), "x")
    with Library.open(tmp_path / "library") as library:
        study_id = add_study(library, study, None, None, now_utc())
        sound = add_study(library, study, None, None, now_utc())
    with closing(sqlite3.connect(tmp_path / "library" / "library.sqlite3")) as base, base:
        row = base.execute("SELECT extra FROM study WHERE id = ?", (study_id,)).fetchone()
        extra = json.loads(row[0])
        first = extra["sightings"]["items"][0]
        if broken == "shorter":
            first.pop()
        elif broken == "stance":
            extra["sightings"]["stance"] = "hunch"
        else:
            first[{"sort": 0, "number": 2, "along": 5}[broken]] = "hunch"
        base.execute("UPDATE study SET extra = ? WHERE id = ?", (json.dumps(extra), study_id))
    with Library.open(tmp_path / "library") as library:
        with pytest.raises(UnreadableStudyError):
            library.stored(study_id)
        assert library.stored(sound) is not None


def test_the_same_pose_again_keeps_what_was_sighted(tmp_path: Path) -> None:
    study = parse_study(document(*ALL[:5]), "x")
    with Library.open(tmp_path / "library") as library:
        first = add_study(library, study, None, None, now_utc())
        again = library.stored(try_again(library, first, now_utc()))
        assert again is not None
        assert again.study.sightings == study.sightings
        assert again.study.states == ()
        assert notes_of(again.study).again_of == first


def test_a_sitter_who_comes_again_is_no_further_try(
    library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The same pose drawn again is; of one that is sighted for practice nothing is drawn."""
    kneeling = set_up("kneeling")
    once = modelled(kneeling, setting_document(kneeling), "model.jpg")
    monkeypatch.setattr(store_modelled, "modelled", lambda *_: once)
    ids = [add_sitter(library, kneeling), add_sitter(library, kneeling)]
    ids += [add_model_study(library, kneeling, {}), add_model_study(library, kneeling, {})]
    studies = [library.find(one) for one in ids]
    again = [notes_of(one).again_of for one in studies if one is not None]
    assert again == ["", "", "", ids[2]]
    practised = [one.sightings is not None for one in studies if one is not None]
    assert practised == [True, True, False, False]
