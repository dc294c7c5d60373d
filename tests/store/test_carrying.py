"""Studies go out as files and come in from them, with their pictures, as if from a stranger."""

from __future__ import annotations

import json
import os
import zipfile
from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image
from tests.studies import figure_marks, study_of

from bralto.core.errors import UserError
from bralto.core.study.values import Picture, State, Study
from bralto.imaging.bare import bare_suffix
from bralto.imaging.load import clean_picture, take_over
from bralto.store.carrying import read_in, write_out
from bralto.store.intake import add_study_from_files, keeping
from bralto.store.library import Library

MADE = "2026-05-02T18:20:00Z"


@pytest.fixture
def study_id(library: Library, picture_files: tuple[Path, Path]) -> str:
    bare = Study("Bell: ringer / 2", "figure-front", Picture("", 1, 1, permission="my own"))
    return add_study_from_files(library, bare, *picture_files, MADE)


def test_a_bundle_has_what_the_format_says_and_comes_back_whole(
    library: Library, study_id: str, tmp_path: Path
) -> None:
    write_out(library, study_id, tmp_path / "a.bralto")
    with zipfile.ZipFile(tmp_path / "a.bralto") as archive:
        first = archive.infolist()[0]
        assert (first.filename, first.compress_type) == ("mimetype", zipfile.ZIP_STORED)
        assert archive.read("mimetype") == b"application/vnd.bralto.study+zip"
        names = archive.namelist()[1:]
        assert names == [
            "study.json", "media/reference.png", "media/state-1.jpg", "thumbnail.png"
        ]  # fmt: skip
        assert json.loads(archive.read("study.json"))["reference"]["file"] == "media/reference.png"
        archive.extract("thumbnail.png", tmp_path)
    with Image.open(tmp_path / "thumbnail.png") as small:
        assert small.format == "PNG"
    source = library.stored(study_id)
    with Library.open(tmp_path / "other") as other:
        back = other.stored(read_in(other, tmp_path / "a.bralto"))
        assert back.study == source.study
        assert back.media == source.media


def test_a_study_file_goes_out_with_its_pictures_beside_it(
    library: Library, study_id: str, tmp_path: Path
) -> None:
    write_out(library, study_id, tmp_path / "b.json")
    assert (tmp_path / "b-reference.png").exists()
    with Library.open(tmp_path / "other") as other:
        back = other.stored(read_in(other, tmp_path / "b.json"))
        assert set(back.media) == {"", "first"}
        assert back.study.reference.file == "b-reference.png"
    (tmp_path / "b-reference.png").unlink()
    with Library.open(tmp_path / "third") as third:
        back = third.stored(read_in(third, tmp_path / "b.json"))
        assert set(back.media) == {"first"}  # a picture that is not there is none


@pytest.mark.parametrize("name", ["/etc/hostname", "../secret.png", "media/../../secret.png", ""])
def test_a_study_file_takes_no_picture_from_elsewhere(
    library: Library, tmp_path: Path, name: str
) -> None:
    from bralto.exchange.study_file import write_study

    Image.new("RGB", (900, 900)).save(tmp_path / "secret.png")
    folder = tmp_path / "in"
    folder.mkdir()
    study = study_of(figure_marks(), {})
    picture = replace(study.reference, file=name)
    write_study(replace(study, reference=picture), folder / "study.json")
    assert library.stored(read_in(library, folder / "study.json")).media == {}


def test_a_picture_of_other_sides_is_left_out(library: Library, tmp_path: Path) -> None:
    """Its marks would lie elsewhere."""
    from bralto.exchange.study_file import write_study

    study = study_of(figure_marks(), {})
    Image.new("RGB", (320, 200)).save(tmp_path / "reference.png")
    picture = replace(study.reference, file="reference.png")
    write_study(replace(study, reference=picture), tmp_path / "study.json")
    assert library.stored(read_in(library, tmp_path / "study.json")).media == {}


def test_a_bundle_with_a_bad_picture_leaves_nothing_behind(
    library: Library, study_id: str, tmp_path: Path
) -> None:
    write_out(library, study_id, tmp_path / "a.bralto")
    with (
        zipfile.ZipFile(tmp_path / "a.bralto") as good,
        zipfile.ZipFile(tmp_path / "b.bralto", "w") as bad,
    ):
        for entry in good.infolist():
            content = b"no picture" if entry.filename.startswith("media/s") else good.read(entry)
            bad.writestr(entry, content)
    with Library.open(tmp_path / "other") as other:
        with pytest.raises(UserError, match="not a picture"):
            read_in(other, tmp_path / "b.bralto")
        assert other.rows() == []
        assert other.media.is_empty()


def test_what_is_not_in_the_library_cannot_be_written_out(
    library: Library, study_id: str, tmp_path: Path
) -> None:
    with pytest.raises(UserError, match="no such study"):
        write_out(library, "nothing", tmp_path / "a.bralto")
    with pytest.raises(UserError, match="cannot be written"):
        write_out(library, study_id, tmp_path / "nowhere/a.bralto")
    assert list(tmp_path.glob("**/.partial*")) == []


def test_a_picture_that_is_bare_is_kept_byte_for_byte_and_any_other_is_cleaned(
    tmp_path: Path, picture_files: tuple[Path, Path]
) -> None:
    for path in picture_files:
        clean = clean_picture(path)
        assert bare_suffix(clean.data) == clean.suffix
        assert take_over(clean.data, "it").data == clean.data
        for hidden in (clean.data + b"PK and a file behind it", clean.data[:-9]):
            assert bare_suffix(hidden) is None
    exif = Image.Exif()
    exif[0x010F] = "A Camera Maker"
    for name in ("a.jpg", "a.png"):
        Image.new("RGB", (60, 60)).save(tmp_path / name, exif=exif)
        data = (tmp_path / name).read_bytes()
        assert bare_suffix(data) is None
        assert b"A Camera Maker" not in take_over(data, name).data
    Image.new("RGB", (600, 600)).save(tmp_path / "steps.jpg", progressive=True)
    assert bare_suffix((tmp_path / "steps.jpg").read_bytes()) == ".jpg"  # more than one scan
    assert bare_suffix(b"GIF89a") is None


def test_a_damaged_copy_heals_when_the_same_photo_comes_in_again(
    library: Library, picture_files: tuple[Path, Path]
) -> None:
    clean = clean_picture(picture_files[0])
    name = library.media.put(clean)
    for path in (library.media.path(name), library.media.thumbnail(name)):
        path.write_bytes(b"")
    assert not library.media.is_sound(name)
    assert library.media.put(clean) == name
    assert library.media.is_sound(name)
    assert library.media.thumbnail(name).read_bytes() == clean.thumbnail


@pytest.mark.parametrize("refused_at", range(6))
def test_a_picture_that_the_disk_refuses_leaves_nothing_whichever_step_it_was(
    refused_at: int, library: Library, picture_files: tuple[Path, Path],
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    """Each write is an `os.fsync` here: of a folder, of the file, of the thumbnail."""
    plain, left = os.fsync, refused_at

    def refuse(handle: int) -> None:
        nonlocal left
        left -= 1
        if left < 0:
            raise OSError(28, "No space left on device")
        plain(handle)

    clean = clean_picture(picture_files[0])
    monkeypatch.setattr("os.fsync", refuse)
    try:
        library.media.put(clean)
    except UserError:
        assert [path for path in (library.root / "media").rglob("*") if path.is_file()] == []
    else:
        assert left >= 0


def test_a_refused_study_takes_its_pictures_out_again_but_not_anothers(
    library: Library, picture_files: tuple[Path, Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    clean = [clean_picture(path) for path in picture_files]
    with keeping(library) as keep:
        library.add(study_of({}, {}), {"": keep(clean[0])}, MADE)
    before = set(library.media.names())

    def refuse(*_: object) -> str:
        raise UserError("the disk is full")

    monkeypatch.setattr(Library, "add", refuse)
    bare = Study("", "figure-front", Picture("", 1, 1))
    with pytest.raises(UserError, match="full"):
        add_study_from_files(library, bare, *picture_files, MADE)
    assert set(library.media.names()) == before


def test_a_study_comes_in_with_the_day_of_its_drawing(library: Library, tmp_path: Path) -> None:
    from bralto.exchange.study_file import write_study

    study = study_of({}, {})
    taken = State("first", study.states[0].picture, "2025-03-04T10:00:00Z")
    write_study(replace(study, states=(taken,)), tmp_path / "a.json")
    assert library.rows([read_in(library, tmp_path / "a.json")])[0].made == "2025-03-04T10:00:00Z"
    odd = replace(taken, taken="next Friday")
    write_study(replace(study, states=(odd,)), tmp_path / "b.json")
    assert library.rows([read_in(library, tmp_path / "b.json")])[0].made[:2] == "20"
