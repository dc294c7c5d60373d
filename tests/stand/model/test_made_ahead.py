"""What set-up makes of the figure's forms: the same as is made without it, and never of others."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from bralto.core.mannequin.body.made_ahead import MadeAhead
from bralto.core.mannequin.body.skins import SKINS, skin, traced
from bralto.stand.demo_heads import CELL
from bralto.stand.model.form.mesh import COARSE, FINE, MESHES, MIDDLE, meshed, named, part_mesh
from bralto.stand.model.stage import BUST_CELLS

POINTS = {"foot": np.arange(6.0).reshape(2, 3), "hand": np.ones((1, 3))}


@pytest.fixture
def source(tmp_path: Path) -> Path:
    """Of a module that makes something."""
    found = tmp_path / "maker.py"
    found.write_text("one = 1\n")
    return found


def keep(ahead: MadeAhead) -> None:
    ahead.file.parent.mkdir(exist_ok=True)
    ahead.file.write_bytes(ahead.packed(POINTS))


@pytest.mark.parametrize("part", ["foot_l", "head", "chest"])
def test_a_skin_from_set_up_is_what_would_be_made_now(part: str) -> None:
    ahead = SKINS.given(part)
    assert ahead is not None  # `make test` sets up
    assert np.array_equal(ahead, traced(part))
    assert np.array_equal(skin(part), ahead)


@pytest.mark.parametrize(
    ("part", "cell"),
    [
        ("hand_l", FINE), ("waist", MIDDLE), ("foot_l", COARSE), ("neck", BUST_CELLS * FINE),
        ("head", BUST_CELLS * CELL), ("cast", BUST_CELLS * COARSE),
    ],
)  # fmt: skip
def test_a_mesh_from_set_up_is_what_would_be_made_now(part: str, cell: float) -> None:
    given, made = part_mesh(part, cell), meshed(part, cell)
    assert all(MESHES.given(name) is not None for name in named(part, cell))
    assert np.array_equal(given.points, made.points)
    assert np.array_equal(given.normals, made.normals)
    assert np.array_equal(given.faces, made.faces)
    assert given.faces.dtype == made.faces.dtype


def test_what_was_kept_is_given_and_cannot_be_written_to(source: Path) -> None:
    keep(MadeAhead(str(source), "points.npz"))
    ahead = MadeAhead(str(source), "points.npz")
    found = ahead.given("foot")
    assert found is not None
    assert np.array_equal(found, POINTS["foot"])
    with pytest.raises(ValueError, match="read-only"):
        found[0] = 0.0
    assert ahead.given("head") is None


def test_of_another_source_nothing_is_given(source: Path, tmp_path: Path) -> None:
    forms = tmp_path / "forms.toml"
    forms.write_text("radius = 1\n")
    for changed in (source, forms):
        keep(MadeAhead(str(source), "points.npz", [forms]))
        assert MadeAhead(str(source), "points.npz", [forms]).given("foot") is not None
        changed.write_text(changed.read_text() + "# more\n")
        assert MadeAhead(str(source), "points.npz", [forms]).given("foot") is None


@pytest.mark.parametrize("damage", ["missing", "empty", "cut", "zeros inside", "no archive"])
def test_without_a_sound_file_nothing_is_given(source: Path, damage: str) -> None:
    ahead = MadeAhead(str(source), "points.npz")
    keep(ahead)
    whole = ahead.file.read_bytes()
    middle = whole.index(b"foot.npy") + 150  # within its values
    after = {
        "empty": b"",
        "cut": whole[: len(whole) // 2],
        "zeros inside": whole[:middle] + bytes(8) + whole[middle + 8 :],
        "no archive": b"radius = 1\n",
    }
    if damage == "missing":
        ahead.file.unlink()
    else:
        ahead.file.write_bytes(after[damage])
    assert MadeAhead(str(source), "points.npz").given("foot") is None
