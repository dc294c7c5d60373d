"""A simulated hand marks studies through the real window: how long, how finely, how truly.

`make marking` prints the tables and writes them to bench/MARKING.md; a number of studies prints
only. Bodies by chance, drawn with faults by chance; pictures are bare paper: the hand knows where
each landmark is and the window does not.
"""

from __future__ import annotations

import math
import os
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path

from bench import gestures
from bralto.core.study.two_boards import BOARDS, Board

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "qt.qpa.*=false")

import numpy as np
from PIL import Image
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication

from bench.certain import certain
from bench.tables import table
from bralto.app import make_application, make_house
from bralto.core.marking.mark_worth import told_from
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, State, Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.house import House
from bralto.ui.session import prompting
from bralto.ui.theme.tokens import LIGHT

HERE = Path(__file__).parent
WINDOW = (1280, 800)
SIZE = (900, 1200)

FLOOR_PX = 0.7
"""SD of a hand that sets a pointer as finely as it can, screen px."""

EYE_PX = 1.33
"""SD of judging a place, px of what is seen; under the loupe of what that shows."""

FIND_S, PRESS_S = 0.9, 0.1
"""From the end of a movement of the board to the start of the hand's: reading, finding; a click
(chosen here, no source)."""

KEY_S = 0.6
"""Reading a label and pressing a key (chosen here, no source)."""

FITTS_A_S, FITTS_B_S = 0.1, 0.2
"""Time of an aimed movement, a + b log2(D / W + 1) (MacKenzie 1992, Human-Computer Interaction 7,
91); about 5 bits a second for a mouse (ISO 9241-411; both from memory)."""

PULL = 0.02
"""Share of the way to the middle of a board by which a hand may be pulled there."""

Truth = dict[Board, dict[str, np.ndarray]]
"""By board where each landmark truly is, image px."""

VIEWS = {"figure-front": "a standing figure", "head-front": "a head"}


@dataclass
class Marked:
    """What came of one study."""

    seconds: float = 0.0
    clicks: int = 0
    set_: int = 0
    lost: int = 0
    taken: int = 0
    moved: int = 0
    fitted: int = 0
    limit: float = math.nan
    told: float = math.nan
    errors: list[float] = field(default_factory=list)
    pulled: list[float] = field(default_factory=list)


def studies(view_key: str, seed: int) -> Iterator[tuple[Study, Truth]]:
    """A study without marks and where they are, image px, one after the other."""
    from tools.typical_places import places, settings

    view, rng = view_named(view_key), np.random.default_rng(seed)
    source = settings(view_key, rng)
    keys = [mark.key for mark in view.landmarks]
    while True:
        flat = places(view_key, next(source)) * [1.0, -1.0]
        drawn = flat * [float(rng.normal(1.0, 0.06)), 1.0]
        hand = 0.05 if view.size == "figure" else 0.02
        drawn = drawn + rng.normal(0.0, hand, drawn.shape)
        head = [i for i, key in enumerate(keys) if key in view.head]
        drawn[head[0]] += (drawn[head[0]] - drawn[head[1]]) * float(rng.normal(0.06, 0.06))
        truth = {}
        for board, xy in ((Board.REFERENCE, flat), (Board.DRAWING, drawn)):
            extent = np.ptp(xy, axis=0)
            grown = float(min(0.8 * SIZE[0] / extent[0], 0.8 * SIZE[1] / extent[1]))
            grown *= float(rng.uniform(0.75, 1.0))
            middle = (xy.max(axis=0) + xy.min(axis=0)) / 2.0
            off = rng.uniform(-0.06, 0.06, 2) * SIZE
            px = (xy - middle) * grown * [1.0, -1.0] + np.array(SIZE) / 2.0 + off
            truth[board] = dict(zip(keys, px, strict=True))
        pictures = {board: Picture(f"{board}.png", *SIZE) for board in truth}
        study = Study(
            "By chance",
            view_key,
            pictures[Board.REFERENCE],
            (State("first", pictures[Board.DRAWING]),),
        )
        yield study, truth


@cache
def application_once() -> QApplication:
    """The application, which there is one of."""
    return make_application()


def over(board: PictureBoard, at: QPointF) -> None:
    """The pointer moves to a place of a board."""
    none, free = Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier
    moved = QMouseEvent(QEvent.Type.MouseMove, at, board.mapToGlobal(at), none, none, free)
    QApplication.sendEvent(board, moved)


class Hand:
    """A pointer in the window, its time and its scatter."""

    def __init__(self, rng: np.random.Generator, pull: float) -> None:
        self.rng, self.pull = rng, pull
        self.at = np.zeros(2)

    def aim(self, bench: Bench, board: PictureBoard, there: np.ndarray, out: Marked) -> QPoint:
        """Move to a place of a board; gives where the pointer came to rest, board px."""
        corner = board.mapTo(bench, QPoint(0, 0))
        goal = there + np.array([corner.x(), corner.y()])
        width = 4.133 * FLOOR_PX  # 96 % of the hits of an effective target (ISO 9241-411)
        away = float(np.hypot(*(goal - self.at)))
        out.seconds += FITTS_A_S + FITTS_B_S * math.log2(away / width + 1.0)
        middle = np.array([board.width() / 2.0, board.height() / 2.0])
        near = there + self.pull * (middle - there)
        over(board, QPointF(*near))
        loupe = 3.5 if board.loupe_on else 1.0
        sd = math.hypot(FLOOR_PX, EYE_PX / loupe)
        rest = np.rint(near + self.rng.normal(0.0, sd, 2))
        self.at = rest + np.array([corner.x(), corner.y()])
        return QPoint(int(rest[0]), int(rest[1]))


def at_rest(house: House, application: QApplication) -> None:
    """Wait until pictures are there and nothing moves."""
    bench = house.bench
    assert bench is not None
    for _ in range(4000):
        application.processEvents()
        gliding = getattr(bench, "gliding", None)
        if not house.busy and not (gliding is not None and gliding.under_way):
            return
        time.sleep(0.002)


def mark(house: House, application: QApplication, truth: Truth, hand: Hand) -> Marked:
    """Both short sets, as the prompt asks for them."""
    out, bench = Marked(), house.bench
    assert bench is not None
    study = bench.study
    for _ in range(200):
        at_rest(house, application)
        step = study.step
        if step is None or not step.short:
            break
        board = bench.active_board()
        key = _meant(step.keys, truth[step.board])
        place = truth[step.board][key]
        before = board.viewport
        seen = board.viewport.to_board(*place)
        if not board.rect().contains(seen.toPoint()):
            out.lost += 1
            out.seconds += 1.0
            board.fit()
            before, seen = board.viewport, board.viewport.to_board(*place)
        out.seconds += FIND_S
        goal = np.array([seen.x(), seen.y()])
        pos = hand.aim(bench, board, goal, out)
        application.processEvents()
        out.moved += board.viewport != before
        looks = {one.board: one.viewport for one in bench.boards}
        others = {k: m for k, m in study.picture(step.board).marks.items() if k != key}
        gestures.click(board, pos)
        out.seconds += PRESS_S
        out.clicks += 1
        marks = study.picture(step.board).marks
        if key not in marks and study.session.selected in step.keys:
            gestures.key(board, Qt.Key.Key_O)  # the label says the other side
            out.seconds += KEY_S
            marks = study.picture(step.board).marks
        if key not in marks:
            out.taken += 1
            study.apply(prompting.skip)
            continue
        out.taken += any(marks.get(k) != m for k, m in others.items())
        question = getattr(study.now, "question", None)
        if question is not None:
            gestures.key(board, Qt.Key.Key_Escape)
            out.seconds += 1.0
        if getattr(bench, "gliding", None) is not None and bench.gliding.under_way:
            out.seconds += 0.18
        at_rest(house, application)
        after = study.step
        for one in bench.boards:  # what nobody asks about next stays where it was
            going_on = after is not None and after.short and one.board != after.board
            out.fitted += going_on and one.viewport != looks[one.board]
    for side in BOARDS:
        _held_against(study.view, study.picture(side), truth, side, out)
    miss = study.assessment.short_miss
    if not isinstance(miss, NotMeasurable):
        out.limit = miss.limit
    out.told = told_from(study.assessment.told()) or math.nan
    return out


def _meant(keys: Sequence[str], truth: dict[str, np.ndarray]) -> str:
    """Of heels the lower one."""
    return max(keys, key=lambda key: float(truth[key][1])) if len(keys) > 1 else keys[0]


def _held_against(view: View, picture: Picture, truth: Truth, side: Board, out: Marked) -> None:
    """How far the marks are from where they are, heads; and, on the drawing, by how much they are
    drawn to where the reference's would be carried."""
    there = truth[side]
    head = float(np.hypot(*(there[view.head[0]] - there[view.head[1]]))) / view.heads
    keys = [key for key in picture.placed() if key in there]
    off = {key: np.array([picture.marks[key].x, picture.marks[key].y]) - there[key] for key in keys}
    out.set_ += len(keys)
    out.errors += [float(np.hypot(*one)) / head / math.sqrt(2.0) for one in off.values()]
    if side is not Board.DRAWING:
        return
    one, two = (np.array([truth[board][key] for key in keys]) for board in (Board.REFERENCE, side))
    p, q = one - one.mean(axis=0), two - two.mean(axis=0)
    scale = float((p * q).sum() / (p * p).sum())
    for key, away in zip(keys, scale * p - q, strict=True):
        far = float(np.hypot(*away))
        if far > 0.02 * head:
            out.pulled.append(float(off[key] @ away) / far / head)


def run(view: str, number: int, *, ladder: bool, pull: float, seed: int = 5) -> list[Marked]:
    """Mark so many studies; with ``ladder`` it and the list stay in sight, as before."""
    application = application_once()
    found = []
    with tempfile.TemporaryDirectory() as folder:
        root = Path(folder) / "library"
        library = Library.open(root)
        paper = Path(folder) / "paper.png"
        Image.new("RGB", SIZE, (236, 230, 216)).save(paper)
        media = {}
        for name in ("", "first"):
            media[name] = f"{'a' if name == '' else 'b'}.png"
            (root / "media").mkdir(exist_ok=True)
            (root / "media" / media[name]).write_bytes(paper.read_bytes())
        house = make_house(library, LIGHT)
        house.window.resize(*WINDOW)
        house.window.show()
        source = studies(view, seed)
        hand = Hand(np.random.default_rng(seed), pull)
        for _ in range(number):
            study, truth = next(source)
            study_id = library.add(study, media, "2026-11-28T10:00:00Z")
            house.open_study(study_id)
            if ladder:
                certain(house.bench).study.apply(prompting.toggle_boards)
            found.append(mark(house, application, truth, hand))
            QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)  # benches before
        at_rest(house, application)
        house.window.close()
        house.window.deleteLater()
        application.processEvents()
        library.close()
    return found


def row(name: str, found: Sequence[Marked]) -> tuple[str, ...]:
    def median(values: Sequence[float]) -> float:
        return float(np.nanmedian(values))

    errors = [e for one in found for e in one.errors]
    pulled = [e for one in found for e in one.pulled]
    doubt = float(np.std(pulled)) / math.sqrt(len(pulled))
    return (
        name,
        f"{median([one.seconds for one in found]):.0f} s",
        f"{median([one.clicks for one in found]):.0f} for {median([o.set_ for o in found]):.0f}",
        f"{median([one.limit for one in found]):.4f}",
        f"{median([one.told for one in found]):.3f}",
        f"{math.sqrt(float(np.mean(np.square(errors)))):.4f}",
        f"{float(np.mean(pulled)):+.4f} ± {2 * doubt:.4f}",
        str(sum(one.taken for one in found)),
        str(sum(one.moved + one.fitted for one in found)),
        str(sum(one.lost for one in found)),
    )


HEADER = (
    "", "both short sets", "clicks for marks", "mark limit, heads", "told from, heads",
    "a mark off by (SD), heads", "drawn to the carried place, heads", "taken for another",
    "moved under the hand, fitted anew", "place not on the board",
)  # fmt: skip


def report(number: int) -> str:
    parts = []
    for view, title in VIEWS.items():
        rows: list[Sequence[str]] = [HEADER]
        for name, ladder, pull in (
            ("ladder and list in sight (F3)", True, 0.0),
            ("boards first", False, 0.0),
            (f"boards first, a hand pulled by {100 * PULL:.0f} %", False, PULL),
        ):
            rows.append(row(name, run(view, number, ladder=ladder, pull=pull)))
        parts.append(f"## {title.capitalize()}, {number} studies\n\n{table(rows)}")
    return "\n\n".join(parts)


HEAD = """# A hand that marks studies

Printed by `{command}`: a simulated hand in the real window at 1280x800 sets both short sets as the
prompt asks. Its pointer scatters by {floor} px of the screen, its eye judges to {eye} px of what it
sees, board or loupe; {find} s to find a place, then an aimed movement by Fitts' law. It knows where
each landmark is; the pictures are bare paper. The bodies are new ones, by the same script by which
the typical places were made: real ones may be found less surely. *Mark limit*: the typical miss
that marking alone would give. *Told from*: the error from which on half of the heights and widths
can be told. *Drawn to the carried place*: mean of the marks' errors on the drawing along the way
to where the best fit would put them, with 95 %; a hand that is *pulled* ends so much of the way
nearer to the middle of the board.

"""


def main() -> None:
    counts = [int(word) for word in sys.argv[1:] if word.isdigit()]
    printed = report(counts[0] if counts else 100)
    print(printed)
    if not counts:
        head = HEAD.format(command="make marking", floor=FLOOR_PX, eye=EYE_PX, find=FIND_S)
        (HERE / "MARKING.md").write_text(head + printed + "\n", "utf-8")


if __name__ == "__main__":
    main()
