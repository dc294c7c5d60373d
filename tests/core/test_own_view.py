"""A learner's own view is checked, and the line of what is wrong is named."""

from __future__ import annotations

import re
from importlib import resources

import pytest

from bralto.core.errors import UserError
from bralto.core.measures.own_view import parse_own_view
from bralto.core.measures.points import picture_points
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_keys


def shipped(key: str) -> str:
    return (resources.files("bralto.core.views") / f"data/{key}.toml").read_text("utf-8")


ARM = shipped("arm").replace('key = "arm"', 'key = "my-arm"', 1)


@pytest.mark.parametrize("key", view_keys())
def test_the_shipped_views_pass_the_same_check_under_another_key(key: str) -> None:
    view = parse_own_view(shipped(key).replace(f'key = "{key}"', 'key = "mine"', 1), "mine.toml")
    assert view.key == "mine"


@pytest.mark.parametrize(
    ("old", "new", "said"),
    [
        ('school = "envelope"', "school = [", "not valid TOML"),
        ('school = "envelope"', "school = 3", "'school' must be a text"),
        ('seen_from = "side"', 'seen_from = "above"', "front, back or side"),
        ('key = "my-arm"', 'key = "leg"', "the key 'leg' is a shipped view's"),
        ('to = "fingertip"', 'to = "nail"', "there is no point 'nail'"),
        ('root = ["elbow"]', 'root = ["hinge"]', "there is no point 'hinge'"),
        ('parent = "forearm"', 'parent = "fore"', "'fore' must stand above it"),
        ('id = "span.hand"', 'id = "girth.hand"', "measure 'girth.hand' along straight is none"),
        ('key = "knuckle"', 'key = "the knuckle"', "'the knuckle' is no key"),
        ('step = "heights"', 'step = "hights"', "there is no pass 'hights'"),
        ('how = "the middle of the joint"\n', "", "a landmark elbow lacks 'how'"),
        ('rails = ["upper_out"', 'rails = ["upper_put"', "there is no point 'upper_put'"),
        ('step = "heights"', "step = -1", "'step' of landmark elbow must be a text"),
        ('root = ["elbow"]', "root = []", "must be a list of texts"),
        ('school = "envelope"', 'school = "eye"', "'school' must be one of"),
        ("beyond = 0.05", "beyond = -1", "'beyond' must be a number, 0 or above"),
        ('sized_by = "arm"', "sized_by = 3", "'sized_by' must be a text"),
        ('how = "the middle of the joint"', "how = 3", "'how' of landmark elbow must be a text"),
    ],
)
def test_a_fault_is_named_with_its_line(old: str, new: str, said: str) -> None:
    assert old in ARM
    text = ARM.replace(old, new, 1)
    with pytest.raises(UserError) as refused:
        parse_own_view(text, "mine.toml")
    message = str(refused.value)
    assert said in message
    assert "\n" not in message
    line = re.search(r"line (\d+)", message)
    assert line is not None
    shown = text.splitlines()[int(line[1]) - 1]
    # The line itself, or where the thing that lacks something begins.
    assert any(word in shown for word in re.findall(r"[\w.-]+", new or "elbow")) or "[" in new


def test_a_view_is_planned_by_its_unit_or_by_what_it_says() -> None:
    """Of one whose unit has a name of its own no head is told."""
    view = parse_own_view(ARM, "mine.toml")
    assert (view.sized_by, view.sized_heads) == ("arm", 3.2)
    needle = ARM.replace('sized_by = "arm"', 'unit = "needle"')
    view = parse_own_view(needle, "mine.toml")
    assert (view.sized_by, view.sized_heads) == ("needle", 1.0)


def test_a_unit_is_counted_straight_or_along_plumb() -> None:
    """Top and bottom of a leaning jug 3 apart across and 4 down: a quarter of its height is 1, of
    their distance 1.25."""
    text = shipped("object").replace('key = "object"', 'key = "jug"', 1)
    marks = {"top": Mark(0.0, 0.0), "bottom": Mark(300.0, 400.0)}
    picture = Picture("a.png", 900, 900, marks)
    for along, quarter in (("plumb", 100.0), ("straight", 125.0)):
        other = text.replace('unit_along = "plumb"', f'unit_along = "{along}"')
        view = parse_own_view(other, "jug.toml")
        found = picture_points(view, picture, fewest=2)
        assert not isinstance(found, NotMeasurable)
        head = reference_head(view, found[1])
        assert isinstance(head, Length)
        assert head.value == pytest.approx(quarter)
    with pytest.raises(UserError, match="straight or plumb"):
        parse_own_view(text.replace('unit_along = "plumb"', 'unit_along = "up"'), "jug.toml")
