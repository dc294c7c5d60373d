"""What the bench does anew when the study goes on from one moment to the next."""

from __future__ import annotations

from dataclasses import dataclass

from bralto.ui.session import prompting
from bralto.ui.session.moment import Moment

__all__ = ["Following", "Standing", "follow"]


@dataclass(frozen=True, slots=True)
class Standing:
    """How the bench stands.

    Attributes:
        boards_first: ladder and list are drawn back.
        lies: the figure lies, and the boards one above the other.
    """

    boards_first: bool
    lies: bool


@dataclass(frozen=True, slots=True)
class Following:
    """What follows from a change.

    Attributes:
        turned: another pass is shown.
        drawn_back: ladder and list are drawn back, or have come again.
        arranged: the parts of the bench are arranged anew.
        fitted: both pictures are fitted to their boards.
        asks_another: it is asked for another mark, or in another pass.
        takes_keys: the keys go to the board that the prompt is about.
    """

    turned: bool
    drawn_back: bool
    arranged: bool
    fitted: bool
    asks_another: bool
    takes_keys: bool


def follow(before: Moment, after: Moment, stood: Standing, stands: Standing) -> Following:
    """What follows once the bench stands as it does now.

    Args:
        stood: how the bench stood before.
    """
    was, now = before.session, after.session
    turned = now.current_pass != was.current_pass
    drawn_back = stands.boards_first != stood.boards_first
    lain_down = stands.lies != stood.lies
    # Between two marks a picture is not fitted anew: what the hand aims at would move.
    another_pass = turned and not (stands.boards_first and not drawn_back)
    other_pictures = after.pictures_changed(before) or after.boards_changed(before)
    elsewhere = prompting.region_in_sight(now) != prompting.region_in_sight(was)
    counted_otherwise = after.study.scale is not before.study.scale
    another_step = now.step != was.step
    return Following(
        turned=turned,
        drawn_back=drawn_back,
        arranged=turned or drawn_back or lain_down,
        fitted=(
            another_pass or drawn_back or lain_down
            or other_pictures or elsewhere or counted_otherwise
        ),
        asks_another=turned or another_step,
        takes_keys=another_step
        or (now.selected is None and (turned or after.marks_changed(before))),
    )  # fmt: skip
