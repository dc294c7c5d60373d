"""The model alone, full size, with a clock: to draw from, or to see once and draw by heart."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QCloseEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import QWidget

from bralto.core.mannequin.setting import Setting
from bralto.core.words.phrases import how_many
from bralto.ui.model.drawn import Drawn, drawn_now, sized
from bralto.ui.running.tasks import Tasks
from bralto.ui.theme.paint import Align, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["DrawSheet", "Looked"]

_BAND = 54
_MOST_PX = 1600 * 1600

_REST_MS = 150
"""So long the window must keep its size before it is drawn anew for it."""


@dataclass(frozen=True, slots=True)
class Looked:
    """How a pose was drawn from: ``seconds`` of it in sight, ``looks`` at it after it was hidden.

    ``hidden`` is whether it was hidden for drawing from memory.
    """

    setting: Setting
    seconds: float
    looks: int
    hidden: bool


class DrawSheet(QWidget):
    """A window of its own.

    Signals: ``drawn`` with one `Looked` a pose that was reached, once the learner is done; ``over``
    when the time of a pose is;
    ``left`` where nothing is to be kept; ``said`` why a pose cannot be shown.
    """

    drawn = pyqtSignal(object)
    over = pyqtSignal()
    left = pyqtSignal()
    said = pyqtSignal(str)

    def __init__(
        self,
        settings: tuple[Setting, ...],
        shown_s: float | None,
        tasks: Tasks,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        """Show ``settings`` in turn; ``shown_s`` hides each after so many seconds."""
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle("Draw this")
        self.setAccessibleName("The model, to draw from")
        self.setMinimumSize(480, 480)
        self._settings, self._shown_s = settings, shown_s
        self._tasks, self._tokens = tasks, tokens
        self._at = self.asked = 0
        self.picture: Drawn | None = None
        self._done: list[Looked] = []
        self.spent = self.seen = 0.0
        self.looks = 0
        self.paused = False
        self.hidden = self._was_hidden = False
        self._peeking = self._kept_up = False
        self._ended = False
        self.clock = QTimer(self)
        self.clock.setInterval(1000)
        self.clock.timeout.connect(self.tick)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask)

    @property
    def setting(self) -> Setting:
        """The pose that is up."""
        return self._settings[self._at]

    @property
    def left_s(self) -> float | None:
        """Seconds that this pose is still shown, or None where it has no end."""
        limit = self.setting.seconds
        return None if limit is None else max(0.0, limit - self.spent)

    @property
    def in_sight(self) -> bool:
        """Whether the picture can be seen."""
        return self.picture is not None and (not self.hidden or self._peeking)

    def tick(self) -> None:
        """A second has passed."""
        if self.paused or self.picture is None:
            return
        self.spent += 1.0
        if self.in_sight:
            self.seen += 1.0
        over = self._shown_s is not None and self.seen >= self._shown_s
        if over and not (self._peeking or self._kept_up):
            self.hidden = self._was_hidden = True
        if self.left_s == 0.0:
            self.over.emit()
            self.go_on()
        self.update()

    def go_on(self) -> None:
        """The next pose of the series; after the last one it is done."""
        self._keep()
        if self._at + 1 < len(self._settings):
            self._at += 1
            self.spent = self.seen = 0.0
            self.looks, self.hidden, self._peeking = 0, False, False
            self._was_hidden = self._kept_up = False
            self.picture = None
            self._ask()
        else:
            self._finish()

    def finish(self) -> None:
        """The learner is done before the time is over."""
        self._keep()
        self._finish()

    def _keep(self) -> None:
        """What was never in sight was not drawn."""
        if self.picture is not None:
            self._done.append(Looked(self.setting, self.seen, self.looks, self._was_hidden))

    def _finish(self) -> None:
        if self._done:
            self._ended = True
            self._stop()
            self.drawn.emit(tuple(self._done))
        self.close()

    def peek(self, on: bool) -> None:
        """Look again, once it was hidden: every look is counted."""
        if on and self.hidden and not self._peeking:
            self.looks += 1
        self._peeking = on and self.hidden
        self.update()

    def toggle_hidden(self) -> None:
        """Hide it, or bring it back for good."""
        self.hidden, self._peeking = not self.hidden, False
        self._was_hidden, self._kept_up = True, not self.hidden
        self.update()

    # The picture

    def showEvent(self, event: object) -> None:
        self.clock.start()
        self._ask()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        if self.isVisible():
            self._rest.start()

    def _ask(self) -> None:
        ratio = self.devicePixelRatioF()
        width, height = int(self.width() * ratio), int((self.height() - _BAND) * ratio)
        size = sized(width, max(16, height), _MOST_PX)
        work = partial(drawn_now, self.setting, *size, finished=True)
        self.asked += 1
        self._tasks.run(work, partial(self._came, self.asked), partial(self._lost, self.asked))

    def _came(self, number: int, drawn: Drawn) -> None:
        if number == self.asked:
            self.picture = drawn
            self.update()

    def _lost(self, number: int, message: str) -> None:
        """A pose cannot be shown: what was drawn before it is kept."""
        if number == self.asked:
            self.said.emit(message)
            self._finish()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("ground"))
        area = QRectF(0, 0, self.width(), self.height() - _BAND)
        if self.in_sight:
            assert self.picture is not None
            painter.drawImage(_within(area, self.picture.image), self.picture.image)
        else:
            painter.fillRect(area, tokens.colour("sheet"))
            lead = "Hidden: draw what you remember" if self.hidden else "A moment"
            how = "Hold L to look again; every look is counted." if self.hidden else ""
            middle = area.center()
            big, ink = font(Size.PANEL, bold=True), tokens.colour("ink")
            text(painter, middle.x(), middle.y(), lead, big, ink, Align.AlignHCenter)
            note, ink2 = font(Size.PROMPT), tokens.colour("ink2")
            text(painter, middle.x(), middle.y() + 32.0, how, note, ink2, Align.AlignHCenter)
        self._band(painter)
        painter.end()

    def _band(self, painter: QPainter) -> None:
        tokens = self._tokens
        base = self.height() - 19.0
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        left = self.left_s
        clock = _clock_words(self.spent if left is None else left)
        face = font(Size.PANEL, bold=True)
        wide = text(painter, 24.0, base, clock, face, ink)
        words = "paused" if self.paused else "" if left is None else "left"
        if len(self._settings) > 1:
            words = f"{words}   pose {self._at + 1} of {len(self._settings)}".strip()
        if self.looks:
            words += f"   {how_many(self.looks, 'look')}"
        text(painter, 24.0 + wide + 12.0, base, words.strip(), font(Size.BODY), ink2)
        keys = "Space pause   H hide   L look   Enter done   Esc leave"
        if len(self._settings) > 1:
            keys = "N next   " + keys
        right = self.width() - 24.0
        text(painter, right, base, keys, font(Size.BODY), ink2, Align.AlignRight)

    # By hand

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Space:
            self.paused = not self.paused
        elif key == Qt.Key.Key_H:
            self.toggle_hidden()
        elif key == Qt.Key.Key_L and not event.isAutoRepeat():
            self.peek(True)
        elif key == Qt.Key.Key_N:
            self.go_on()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.finish()
        elif key == Qt.Key.Key_Escape:
            self.close()
        else:
            event.ignore()
        self.update()

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_L and not event.isAutoRepeat():
            self.peek(False)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self.peek(False)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if self.hidden:
            self.peek(True)

    def _stop(self) -> None:
        self.clock.stop()
        self._rest.stop()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self._stop()
        if not self._ended:
            self._ended = True
            self.left.emit()
        super().closeEvent(event)


def _within(area: QRectF, image: QImage) -> QRectF:
    """Where a picture of another shape goes until the next one is there: whole, in the middle."""
    size = QSizeF(image.size()).scaled(area.size(), Qt.AspectRatioMode.KeepAspectRatio)
    spot = QRectF(QPointF(0.0, 0.0), size)
    spot.moveCenter(area.center())
    return spot


def _clock_words(seconds: float) -> str:
    whole = int(seconds)
    return f"{whole // 60}:{whole % 60:02d}"
