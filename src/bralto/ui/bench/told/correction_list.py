"""The corrections: the few moves that explain the drawing, in the order of work, on slips.

In a narrow window the slips fold to their numbers and signs; the prompt has the words of the one
that is pointed at. In a low one they are scrolled through.
"""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.action.bend_and_leans import bend_beside
from bralto.core.action.sweep_pairs import SweepPair
from bralto.core.corrections.correction_words import Correction
from bralto.core.words.phrases import how_many
from bralto.ui.bench.told.glyphs import draw_glyph
from bralto.ui.bench.told.off_list import SLIP, UNFOLDED
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import Align, check, rounded, text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["ON_SLIPS", "Moves"]

_GAP = 6.0
_LINE = 19.0
_FOOT = 36.0  # the title of the list below
_FOLDED_FOOT = 20.0
_MORE = 18.0  # how many are below, where not all have room
_LEFT = 38.0
_RIGHT = 12.0
ON_SLIPS = 3
"""Corrections on slips; the rest stands in the figures of `bralto measure`."""


class _Card(NamedTuple):
    """One correction where it lies: what to do, by what to check it (and with what alone it
    holds), what follows from it, what the sweep says of the same."""

    area: QRectF
    one: Correction
    words: list[str]
    check: list[str]
    follow: str
    beside: str

    @property
    def spoken(self) -> str:
        """All of it, for who hears the list, folded or not."""
        follow = self.follow[:1].upper() + self.follow[1:]
        return ". ".join(filter(None, (self.one.text, self.beside, follow)))

    @property
    def foot(self) -> QRectF:
        """Where it says what follows."""
        return QRectF(
            self.area.left(), self.area.bottom() - 10.0 - _LINE, self.area.width(), _LINE + 4.0
        )


def _following(many: int) -> str:
    return "" if not many else f"and {how_many(many, 'figure')} with it"


class Moves(QWidget):
    """Hidden while there is nothing to correct; pointing at one shows what it does."""

    def __init__(self, study: OpenStudy, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._study, self._tokens = study, tokens
        self._cards: list[_Card] = []
        self.folded = False
        self._wanted, self._wide = 0, -1
        self.list = SlipList("Corrections", self._slip, tokens, self, gap=_GAP)
        self.list.scrolled.connect(self.update)  # how many are below
        self.list.pointed.connect(self._point)
        self.list.taken.connect(self._take)
        study.changed.connect(self._on_change)
        self._list()

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def shown(self) -> tuple[Correction, ...]:
        """The moves on slips."""
        return self._study.corrections[:ON_SLIPS]

    def slip_of(self, one: Correction) -> QRectF:
        """Where the slip of a correction lies; nowhere where it has none."""
        return next((card.area for card in self._cards if card.one is one), QRectF())

    def foot_of(self, one: Correction) -> QRectF:
        """Where a slip says what follows from its correction; nowhere where nothing does."""
        found = next((card for card in self._cards if card.one is one and card.follow), None)
        return QRectF() if found is None or self.folded else found.foot

    def _on_change(self, before: Moment, after: Moment) -> None:
        was, now = before.session, after.session
        if after.listed is not before.listed or now.by_share != was.by_share:
            self._list()
        elif after.noted(before) or (now.held, now.unfolded, now.pointed) != (
            was.held, was.unfolded, was.pointed,
        ):  # fmt: skip
            self._repaint()

    def _list(self) -> None:
        self.arrange()
        self._repaint()

    def _sweeps(self) -> tuple[SweepPair, ...]:
        return self._study.examination.sweeps

    def _repaint(self) -> None:
        self.list.repaint_slips()
        self.update()

    def arrange(self) -> None:
        """Lay the slips out for the width there is, and ask for the height that they want, or at
        least for that of one."""
        face, top = font(Size.BODY, bold=True), 0.0
        wide = self._wide = self.width()
        self._cards = []
        for one in self.shown():
            room = self.width() - _LEFT - _RIGHT
            follow = _following(len(self._study.now.consequences(one)))
            beside = bend_beside(one, self._sweeps)
            if self.folded:
                area = QRectF(0.0, top, self.width(), SLIP)
                self._cards.append(_Card(area, one, [], [], follow, beside))
                top += SLIP + _GAP
                continue
            words = wrapped(one.words, face, room)
            said = [f"Check: {one.check_words}"] if one.check else []
            said += [one.together_words] if one.together_words else []
            said += [beside] if beside else []
            check = [line for part in said for line in wrapped(part, font(Size.NOTE), room)]
            high = 20.0 + _LINE * (len(words) + 1 + len(check) + bool(follow))
            area = QRectF(0.0, top, self.width(), high)
            self._cards.append(_Card(area, one, words, check, follow, beside))
            top += high + _GAP
        self.list.say(
            [card.spoken for card in self._cards],
            [card.area.height() for card in self._cards],
        )
        self.setVisible(bool(self._cards))
        if self._wide != wide:
            return  # shown, it has got another width, for which all this is done
        self._wanted, least = 0, 0.0
        if self._cards:
            self._wanted = round(top + self._foot)
            least = self._cards[0].area.height() + _GAP + self._foot + _MORE
        self.setMaximumHeight(self._wanted)
        self.setMinimumHeight(min(self._wanted, round(least)))
        self.updateGeometry()
        self._fit()

    def sizeHint(self) -> QSize:
        return QSize(UNFOLDED, self._wanted)

    @property
    def _foot(self) -> float:
        """px below the slips, where all of them have room."""
        if self.folded:
            return _FOLDED_FOOT if self._more else 0.0
        return _FOOT

    @property
    def _short(self) -> bool:
        """Whether there is too little room for all slips."""
        return self.height() < self._wanted

    def _fit(self) -> None:
        """The slips have the room that there is."""
        foot = self._foot + (_MORE if self._short else 0.0)
        self.list.setGeometry(0, 0, self.width(), round(self.height() - foot))
        self.update()

    @property
    def _more(self) -> int:
        """Corrections that have no slip."""
        return len(self._study.corrections) - len(self._cards)

    def resizeEvent(self, event: object) -> None:
        if self.width() != self._wide:
            self.arrange()
        else:
            self._fit()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        below = self.list.below() if self._short else 0
        if self.folded:
            self._say_more(painter, below + self._more)
        else:
            self._say_below(painter, below)
            self._title_below(painter)
        painter.end()

    def _say_below(self, painter: QPainter, below: int) -> None:
        if below:
            y, ink = self.list.geometry().bottom() + 15.0, self._tokens.colour("ink2")
            text(painter, 0.0, y, f"{below} more below", font(Size.NOTE), ink)

    def _say_more(self, painter: QPainter, more: int) -> None:
        if more > 0:
            x, y, ink = self.width() / 2.0, self.height() - 6.0, self._tokens.colour("ink2")
            text(painter, x, y, f"+{more}", font(Size.NOTE), ink, Align.AlignHCenter)

    def _title_below(self, painter: QPainter) -> None:
        """Over the list that follows."""
        tokens, base = self._tokens, self.height() - 12.0
        title = font(Size.TITLE, bold=True)
        unfolded = self._study.session.unfolded
        rows = self._study.now.advice.left_over()
        below = "What is left over" if rows else "Nothing is left over"
        if unfolded in self._study.corrections:
            below = f"With {self._study.corrections.index(unfolded) + 1}"
            rows = self._study.now.consequences(unfolded)
        wide = text(painter, 0.0, base, below, title, tokens.colour("ink"))
        if len(rows) > 1:
            ink2 = tokens.colour("ink2")
            text(painter, wide + 10.0, base, "worst first", font(Size.NOTE), ink2)

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        number, card = row + 1, self._cards[row]
        before = sum(other.one.share for other in self._cards[:row])
        one, words, tokens = card.one, card.words, self._tokens
        mark = self._mark_of(one)
        lit = one is self._study.session.held or (
            mark is not None and mark == self._study.session.pointed
        )
        rounded(painter, area, tokens.colour("here" if lit else "slip"))
        heavy, ink = font(Size.BOARD, bold=True), tokens.colour("ink")
        y = area.top() + 24.0
        sign = area.center().x() if self.folded else 20.0
        ticked = self._study.intentions.is_put_right(one)
        if ticked:
            check(painter, QPointF(sign, y - 4.0), ink)
        else:
            text(painter, sign, y + 2.0, str(number), heavy, ink, Align.AlignHCenter)
        draw_glyph(painter, QPointF(sign, y + 19.0), one, ink)
        if self.folded:
            return
        face = font(Size.BODY, bold=True)
        for line in words:
            text(painter, _LEFT, y, line, face, tokens.colour("ink2" if ticked else "ink"))
            y += _LINE
        most = one.greatest and len(self._study.corrections) > 1
        said = f"{one.doubt} · takes {'most:' if most else 'away'} {100.0 * one.share:.0f} %"
        small = font(Size.NOTE)
        for line in (said, *card.check):
            text(painter, _LEFT, y, line, small, tokens.colour("ink2"))
            y += _LINE
        if card.follow:
            on = one is self._study.session.unfolded
            role = "ink" if on else "ink2"
            text(painter, _LEFT, y, card.follow, font(Size.NOTE, bold=True), tokens.colour(role))
        # A waterfall: each bar begins where the greater ones end, and all of them add up.
        reach, y = self.width() - _LEFT - _RIGHT, area.bottom() - 5.0
        painter.setPen(QPen(tokens.colour("hair", 0.5), 1.0))
        painter.drawLine(QPointF(_LEFT, y), QPointF(_LEFT + reach, y))
        bar = QRectF(_LEFT + reach * before, y - 1.5, reach * one.share, 3.0)
        painter.fillRect(bar, tokens.colour("ink"))

    def _mark_of(self, one: Correction) -> str | None:
        """The mark that stands for a move: its own, or the first of the limb that it moves."""
        view = self._study.view
        if one.part is None or view.landmark(one.part) is not None:
            return one.part
        return next((limb.marks[0] for limb in view.limbs if limb.key == one.part), None)

    def _point(self, row: int) -> None:
        found = self._cards[row].one if 0 <= row < len(self._cards) else None
        self._study.apply(pointing.hold, found)
        self.list.setToolTip("" if found is None else f"{found.text}\nClick once it is put right.")

    def _take(self, row: int, at: QPointF) -> None:
        """A click ticks a correction as put right; on its foot it lists what follows from it."""
        card = self._cards[row]
        on_foot = card.foot.contains(at + card.area.topLeft())
        if card.follow and on_foot and not self.folded:
            same = card.one is self._study.session.unfolded
            self._study.apply(pointing.unfold, None if same else card.one)
        else:
            self._study.intentions.put_right(card.one)
