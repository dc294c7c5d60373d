"""The model's picture, made off the GUI thread: a quick one at once, the finished one at rest."""

from __future__ import annotations

import time
from dataclasses import dataclass
from functools import lru_cache, partial

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QImage

from bralto.core.mannequin.camera import View3D, nearness_note
from bralto.core.mannequin.setting import Setting
from bralto.stand.model.answer import AnswerKey, answer_key
from bralto.stand.model.form.mesh import COARSE, FINE
from bralto.stand.model.picture import preview, render
from bralto.stand.model.stage import Stage
from bralto.ui.running.tasks import Tasks

__all__ = ["Drawer", "Drawn", "Pace", "drawn_now", "sized", "small_picture"]

_QUICK_PX = (300 * 400, 240 * 320, 190 * 252, 150 * 200)
"""Px of the picture while something is moved: as many as the machine makes 25 times a second."""

_SLOW_MS, _FAST_MS = 40.0, 20.0
"""Pictures that come further apart than the one are made smaller, those that come closer than the
other larger: a size has some 0.6 of the px of the one before, so that the two do not alternate."""

_LATEST = 0.25
"""Share of the newest picture in the mean of how long they take."""

_MOST_PX = 1200 * 1400
"""Px of the finished picture at most; a larger board shows it enlarged."""

_REST_MS = 180
"""So long nothing must have moved before the finished picture is begun."""


@dataclass(frozen=True, slots=True, eq=False)
class Drawn:
    """A picture and what is known of it.

    Attributes:
        view: the camera; its px are those that were cast, of which a quick ``image`` has more.
        key: only where it is finished.
        note: a sentence where the camera is near.
    """

    setting: Setting
    image: QImage
    view: View3D
    stage: Stage
    finished: bool
    key: AnswerKey | None
    note: str


def drawn_now(
    setting: Setting,
    width: int,
    height: int,
    *,
    finished: bool,
    shown: tuple[int, int] | None = None,
    held: View3D | None = None,
    before: Stage | None = None,
) -> Drawn:
    """Make the picture, here and now.

    Args:
        shown: width and height of the image, px, where it is larger than what is cast.
        held: look as this view does; without it the figure is put in the picture's middle.
        before: what stood there last, as finely built; it is taken where it stands there still.

    Raises:
        UserError: the camera stands where it cannot.
    """
    stage = None if before is None else before.under(setting)
    if stage is None:
        stage = Stage.of(setting, FINE if finished else COARSE, before)
    view = stage.view(width, height) if held is None else held.at_size(width, height)
    made = render(stage, view) if finished else preview(stage, view)
    pixels = made.pixels if shown is None else made.enlarged(*shown)
    high, wide, _ = pixels.shape
    image = QImage(pixels.tobytes(), wide, high, 3 * wide, QImage.Format.Format_RGB888)
    key = answer_key(stage, view) if finished else None
    note = nearness_note(setting.camera, view, stage.points)
    return Drawn(setting, image.copy(), view, stage, finished, key, note)


@lru_cache(maxsize=128)
def small_picture(setting_key: str, width: int, height: int) -> QImage:
    """A named pose as a small picture, drawn at four times its size."""
    from bralto.core.mannequin.setting import set_up

    return drawn_now(set_up(setting_key), 2 * width, 2 * height, finished=False).image


def sized(width: int, height: int, most: int) -> tuple[int, int]:
    """Width and height, px, of the same shape with at most that many px."""
    k = min(1.0, (most / max(1, width * height)) ** 0.5)
    return max(16, round(k * width)), max(16, round(k * height))


class Pace:
    """How large the picture is made while something moves, by how far apart the last ones came."""

    def __init__(self) -> None:
        self._step, self._mean = 0, 0.5 * (_SLOW_MS + _FAST_MS)

    @property
    def px(self) -> int:
        """Px of the next picture at most."""
        return _QUICK_PX[self._step]

    def took(self, ms: float) -> None:
        """So many ms after a picture of that size was begun the next one could be."""
        # What is loaded for the first one is no measure of the next.
        self._mean += _LATEST * (min(ms, 1.5 * _SLOW_MS) - self._mean)
        way = int(self._mean > _SLOW_MS) - int(self._mean < _FAST_MS)
        step = min(max(self._step + way, 0), len(_QUICK_PX) - 1)
        if step != self._step:
            self._step, self._mean = step, 0.5 * (_SLOW_MS + _FAST_MS)


class Drawer(QObject):
    """Draws what is asked for last; what was asked for in between is skipped."""

    drawn = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, tasks: Tasks, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._tasks = tasks
        self._wanted: tuple[Setting, int, int, View3D | None] | None = None
        self._running = self._stopped = False
        self._number = 0
        self._pace, self._begun = Pace(), 0.0
        self._stages: dict[bool, Stage] = {}  # the last one for a finished picture, and for a quick
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._finish)

    def want(self, setting: Setting, width: int, height: int, held: View3D | None = None) -> None:
        """A quick picture as soon as may be, and the finished one once nothing moves.

        ``held`` keeps the camera where it is while something is dragged; nothing is finished then.
        """
        if self._stopped:
            return
        self._wanted = (setting, width, height, held)
        self._number += 1
        if held is None:
            self._rest.start()
        else:
            self._rest.stop()
        if not self._running:
            self._quick()

    @property
    def busy(self) -> bool:
        """Whether a quick picture is being made: another setting would have to wait for it."""
        return self._running

    @property
    def waiting(self) -> bool:
        """Whether a picture is made, or will be once nothing has moved for a while."""
        return self._running or self._rest.isActive()

    def stop(self) -> None:
        """Begin nothing more."""
        self._stopped = True
        self._rest.stop()
        self._wanted = None
        self._number += 1

    def _quick(self) -> None:
        assert self._wanted is not None
        setting, width, height, held = self._wanted
        size = sized(width, height, self._pace.px)
        self._running, self._begun = True, time.perf_counter()
        # Enlarged where it is made: a thread that paints a small picture large answers no one.
        shown, before = sized(width, height, _MOST_PX), self._stages.get(False)
        work = partial(
            drawn_now, setting, *size, finished=False, shown=shown, held=held, before=before
        )
        self._tasks.run(work, partial(self._came, self._number), partial(self._lost, self._number))

    def _finish(self) -> None:
        if self._running:
            self._rest.start()
            return
        assert self._wanted is not None
        setting, width, height, _ = self._wanted
        size = sized(width, height, _MOST_PX)
        before = self._stages.get(True)
        work = partial(drawn_now, setting, *size, finished=True, before=before)
        number = self._number
        self._tasks.run(work, partial(self._fine, number), partial(self._fault, number))

    def _came(self, number: int, drawn: Drawn) -> None:
        self._running, begun = False, self._begun
        self._stages[False] = drawn.stage
        if self._wanted is None:
            return
        self.drawn.emit(drawn)
        # Who sees the picture may have asked for the next one.
        if number != self._number and not self._running:
            self._quick()
        # So far apart are pictures that follow each other.
        self._pace.took(1e3 * (time.perf_counter() - begun))

    def _fine(self, number: int, drawn: Drawn) -> None:
        self._stages[True] = drawn.stage
        if number == self._number:
            self.drawn.emit(drawn)

    def _lost(self, number: int, message: str) -> None:
        self._running = False
        if number == self._number:
            self._rest.stop()
            self.failed.emit(message)
        elif self._wanted is not None:
            self._quick()

    def _fault(self, number: int, message: str) -> None:
        if number == self._number:
            self.failed.emit(message)
