"""`bralto record` and `bralto habits` as a user types them."""

from __future__ import annotations

import csv
import io
import json
from datetime import date, datetime
from pathlib import Path

import pytest
import vobject
from tests.cli.test_commands import loads_none_of, typed

_DAYS = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday"
_MONTHS = "January February March April May June July August September October November December"


@pytest.fixture
def demo(demo_folder: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("BRALTO_LIBRARY", str(demo_folder))
    return demo_folder


@pytest.mark.usefixtures("demo")
def test_the_record_is_printed_with_unit_interval_and_number(
    capsys: pytest.CaptureFixture[str],
) -> None:
    status, out, err = typed(capsys, "record")
    assert (status, err) == (0, "")
    assert "15 studies on record: subject figure, kind observed, school head" in out
    assert "closer over ten studies" in out
    _, out, _ = typed(capsys, "record", "--format", "json")
    found = json.loads(out)
    miss = next(one for one in found["skills"] if one["skill"] == "miss")
    assert (miss["unit"], len(miss["points"])) == ("head", 15)
    assert {"study", "title", "made", "value", "u", "mark_limit"} == set(miss["points"][0])
    assert miss["trend"]["n"] == 15
    _, out, _ = typed(capsys, "record", "--format", "csv")
    rows = list(csv.DictReader(io.StringIO(out)))
    assert len({row["study"] for row in rows}) == 15
    assert all(float(row["u"]) >= 0.0 for row in rows)
    assert {row["skill"] for row in rows} >= {"miss", "heights", "widths", "tilts", "plumb"}


@pytest.mark.usefixtures("demo")
def test_habits_are_printed_heads_first(capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = typed(capsys, "habits")
    assert status == 0
    assert "You make heads big" in out
    assert "first: hold the head" in out
    _, out, _ = typed(capsys, "habits", "--format", "json")
    found = json.loads(out)
    head = found["habits"][0]
    assert (head["trait"], head["state"], head["unit"], head["n"]) == ("head", "habit", "ratio", 15)
    assert head["low"] < head["value"] < head["high"]
    _, out, _ = typed(capsys, "habits", "--format", "csv", "--where", "subject=head")
    rows = list(csv.DictReader(io.StringIO(out)))
    assert {row["trait"] for row in rows} >= {"eyes", "skull"}


@pytest.mark.usefixtures("demo")
def test_what_is_left_of_nothing_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    for where, words in (
        ("subject=hand", "no study is left; there is figure, head"),
        ("colour=red", "write ASPECT=VALUE"),
        ("subject", "write ASPECT=VALUE"),
    ):
        status, out, err = typed(capsys, "record", "--where", where)
        assert (status, out) == (2, "")
        assert words in err
        assert err.count("\n") == 1


def test_without_a_library_it_says_so(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("BRALTO_LIBRARY", str(tmp_path / "none"))
    status, _, err = typed(capsys, "habits")
    assert status == 2
    assert "there is no library yet" in err
    assert not (tmp_path / "none").exists()


@pytest.mark.usefixtures("demo")
def test_the_record_needs_no_window_and_no_heavy_statistics() -> None:
    loads_none_of({"PyQt6", "cv2", "PIL", "scipy.stats", "statsmodels"}, "record")
    loads_none_of({"PyQt6", "cv2", "PIL", "scipy.stats", "statsmodels"}, "habits")


@pytest.mark.usefixtures("demo")
def test_what_to_practise_today_is_printed_and_adds_up(capsys: pytest.CaptureFixture[str]) -> None:
    before = datetime.now().astimezone().date()
    status, out, err = typed(capsys, "today")
    _, said, _ = typed(capsys, "today", "--format", "json")
    _, table, _ = typed(capsys, "today", "--format", "csv")
    assert (status, err) == (0, "")
    found = json.loads(said)
    day = date.fromisoformat(found["day"])
    if day != before:
        pytest.skip("midnight came between")
    # No nought before the day, as everywhere else.
    named, month = _DAYS.split()[day.weekday()], _MONTHS.split()[day.month - 1]
    begin = f"{named}, {day.day} {month} {day.year}: {found['minutes']} minutes. "
    assert out.startswith(begin)
    items = found["items"]
    assert sum(one["minutes"] for one in items) == found["minutes"]
    assert not any(one["done"] for one in items)
    assert [one["item"] for one in csv.DictReader(io.StringIO(table))] == [
        one["item"] for one in items
    ]
    for one in items:
        assert f"[ ] {one['minutes']:>3} min  {one['title']}: {one['detail']}" in out
    # Loose lines first, then quick poses; what is drawn at length comes last.
    assert [one["item"] for one in items][:2] == ["warm-up", "quick"]
    assert items[-1]["minutes"] == max(one["minutes"] for one in items)


@pytest.mark.usefixtures("demo")
def test_the_plan_is_written_as_a_calendar_that_others_read(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    """Read back by the package `vobject`, an implementation of RFC 5545 of its own."""
    path = tmp_path / "plan.ics"
    status, out, _ = typed(capsys, "today", "--calendar", str(path))
    assert (status, out) == (0, "")
    assert vobject.readOne(path.read_text("utf-8")).name == "VCALENDAR"
    status, _, err = typed(capsys, "today", "--calendar", str(tmp_path / "none" / "plan.ics"))
    assert status == 2
    assert "cannot be written (No such file or directory)" in err
    assert err.count("\n") == 1
