"""Files that a learner asks for: whole or not at all, also on a full disk."""

from __future__ import annotations

import errno
import os
import stat
from pathlib import Path

import pytest
from tests.full_disk import disk_full_after

from bralto.core.errors import UserError
from bralto.disk.given import write_given


def test_on_a_full_disk_what_stood_there_stays_and_nothing_is_left_beside_it(
    tmp_path: Path,
) -> None:
    """A pose that was kept was cut off by the next one."""
    path = tmp_path / "pose.json"
    write_given(path, b"first" * 10)
    with disk_full_after(40), pytest.raises(UserError, match=r"pose\.json: cannot be written"):
        write_given(path, b"second" * 100)
    assert path.read_bytes() == b"first" * 10
    assert list(tmp_path.iterdir()) == [path]


@pytest.mark.parametrize("number", [errno.EINVAL, errno.ENOTSUP, errno.ENOSYS])
def test_a_share_that_cannot_be_synced_has_the_file_all_the_same(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, number: int
) -> None:
    """It was written, and said to be not."""

    def cannot(_: int) -> None:
        raise OSError(number, os.strerror(number))

    monkeypatch.setattr(os, "fsync", cannot)
    write_given(tmp_path / "pose.json", b"{}")
    assert (tmp_path / "pose.json").read_bytes() == b"{}"
    number = errno.EIO  # a disk that fails is another matter
    with pytest.raises(UserError, match="Input/output error"):
        write_given(tmp_path / "other.json", b"{}")
    assert [one.name for one in tmp_path.iterdir()] == ["pose.json"]


def test_it_has_the_rights_that_the_learners_new_files_have(tmp_path: Path) -> None:
    before = os.umask(0o027)
    try:
        write_given(tmp_path / "plan.pdf", b"%PDF")
    finally:
        os.umask(before)
    assert stat.S_IMODE((tmp_path / "plan.pdf").stat().st_mode) == 0o640


def test_a_device_is_written_to_and_keeps_its_place(tmp_path: Path) -> None:
    """`--chart /dev/null` must not put a file in its place."""
    write_given(Path(os.devnull), b"nothing")
    assert stat.S_ISCHR(Path(os.devnull).stat().st_mode)
    with pytest.raises(UserError, match="Is a directory"):
        write_given(tmp_path, b"nothing")
