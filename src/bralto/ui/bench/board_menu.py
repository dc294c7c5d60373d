"""The menu over a board: its state, its sheet, how it stands, how it is looked at."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from bralto.core.canons.shipped_canons import canon_named, canons_of
from bralto.core.study.two_boards import Board
from bralto.core.views.typical import is_known
from bralto.imaging.tones.looks import LOOKS
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing
from bralto.ui.sight.heading_choices import order_choice
from bralto.ui.widgets.heading import Choice

__all__ = ["board_menu"]

_STATE, _LOOK, _AGAINST, _CANON = "state:", "look:", "against:", "canon:"


def _act(acts: Mapping[str, Callable[[], None]]) -> Callable[[str], None]:
    return lambda key: acts[key]()


def board_menu(
    study: OpenStudy, board: Board, look: str, acts: Mapping[str, Callable[[], None]],
    show_look: Callable[[str], None],
) -> Choice:  # fmt: skip
    """What can be done with the picture on a board.

    Args:
        look: the look in force.
        acts: what each of the other entries does, by its key.
        show_look: takes the name of a look.
    """
    picture, drawing = study.picture(board), board == Board.DRAWING
    options: list[tuple[str, str]] = []
    current = {_LOOK + look}
    if drawing:
        options += [(_STATE + s.name, f"State: {s.name}") for s in study.study.states]
        options += [("new_state", "Next state from a photo …"), ("", "")]
        current.add(_STATE + study.session.state_name)
    elif len(study.study.states) > 1:
        others = [s.name for s in study.study.states if s.name != study.session.state_name]
        options.append((_AGAINST, "The reference"))
        options += [(_AGAINST + name, f"Compare with state: {name}") for name in others]
        options.append(("", ""))
        current.add(_AGAINST + study.session.against)
    if not drawing and study.from_life:
        return order_choice(study)
    if not drawing and study.imagined:
        canons = tuple((one.key, one.title) for one in canons_of(study.view.key))
        return Choice("canon", canons, str(study.study.canon), study.head.set_canon)
    if drawing and study.undrawn:
        return Choice("none yet", (("new_state", "A photo of your drawing …"),), "", _act(acts))
    options += [
        ("sheet", "Sheet of paper in the photo …"),
        ("plumb", "Stand upright by a vertical line …"),
        ("level", "Stand upright by a level line …"),
        ("crop", "Look at a part of it …"),
    ]
    if picture.crop is not None:
        options.append(("whole", "The whole picture again"))
    options += [("", "")]
    options += [(_LOOK + name, name[:1].upper() + name[1:]) for name in LOOKS]
    options += [("", "")]
    averages = canons_of(study.view.key)
    if not drawing and averages:
        options.append((_CANON, "Beside no average"))
        options += [(_CANON + one.key, f"Beside: {one.title}") for one in averages]
        options.append(("", ""))
        current.add(_CANON + (study.session.canon.key if study.session.canon else ""))
    if drawing:
        options.append(("carry", "Carry lacking marks over from the reference"))
    plain = not study.session.against and study.study.sightings is None
    if not drawing and plain and is_known(study.view.key):  # else there is nothing to ask about
        options.append(("practise", "Sight it for practice"))
    options.append(("own", "A point of your own …"))
    options.append(("repeat", "Place the short set again, blind …"))
    options.append(("permission", "Where the picture comes from …"))

    def take(key: str) -> None:
        if key.startswith(_STATE):
            study.states.choose(key.removeprefix(_STATE))
        elif key.startswith(_AGAINST):
            study.states.compare_with(key.removeprefix(_AGAINST))
        elif key.startswith(_CANON):
            named = key.removeprefix(_CANON)
            study.apply(pointing.lay_canon, canon_named(named) if named else None)
        elif key.startswith(_LOOK):
            show_look(key.removeprefix(_LOOK))
        else:
            acts[key]()

    words = study.session.state_name if drawing else study.session.against or "picture"
    if look != LOOKS[0]:
        words = look
    return Choice(words, tuple(options), frozenset(current), take)
