"""What is known of the picture that stands there, in a few lines."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.mannequin.setting import Setting
from bralto.core.views.shipped_views import view_named
from bralto.core.words.phrases import how_many
from bralto.stand.model.answer import AnswerKey
from bralto.ui.model.drawn import Drawn
from bralto.ui.theme.paint import text, text_width, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Facts", "facts_of"]

_ROOM = 132  # px that the facts of most pictures take


def facts_of(drawn: Drawn) -> tuple[tuple[str, str], ...]:
    """Pairs of a name and words; the near camera's note comes last, with an empty name."""
    rows: list[tuple[str, str]] = []
    key, setting = drawn.key, drawn.setting
    if key is not None:
        rows.append(("Seen", view_named(key.view).title.lower()))
        hidden = sum(not mark.seen for mark in key.marks)
        known = how_many(len(key.marks), "landmark")
        known += f", {hidden} of them hidden" if hidden else ""
        rows.append(("Known", known))
        rows += _weight(key)
        rows += _shortest(key, setting)
    if drawn.note:
        rows.append(("", drawn.note))
    return tuple(rows)


def _weight(key: AnswerKey) -> list[tuple[str, str]]:
    weight = key.weight
    if weight is None:
        return []
    if not len(weight.support):
        return [("Weight", "it touches nothing")]
    away = f"{abs(weight.margin):.1f} head"
    if weight.inside:
        return [("Weight", f"within its base by {away}")]
    return [("Weight", f"{away} beside its base: it would fall")]


def _shortest(key: AnswerKey, setting: Setting) -> list[tuple[str, str]]:
    """The limb that is foreshortened most, as far as it is."""
    view = view_named(key.view)
    limbs = {k: one for k, one in key.lengths.items() if k[-2:] in {"_r", "_l"}}
    limbs = {k: one for k, one in limbs.items() if not k.startswith(("span.foot", "span.hand"))}
    if not limbs or setting.subject != "figure":
        return []
    name, one = min(limbs.items(), key=lambda pair: pair[1].ratio)
    label = view.measures[view.measure_rows[name]].label
    way = "towards you" if one.slant > 0 else "away"
    return [("Shortest", f"{label}, to {100 * one.ratio:.0f} %, {way}")]


class Facts(QWidget):
    """A few lines of what is known of the picture."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self.rows: tuple[tuple[str, str], ...] = ()
        self.setFixedHeight(_ROOM)
        self.setAccessibleName("What is known of it")

    def say(self, rows: tuple[tuple[str, str], ...]) -> None:
        """Other facts."""
        self.rows = rows
        self.setAccessibleDescription("; ".join(f"{name} {words}" for name, words in rows))
        self.setFixedHeight(max(_ROOM, round(self._lines()[-1][0] + 8.0) if rows else 0))
        self.update()

    def _lines(self) -> list[tuple[float, float, str, bool]]:
        """Baseline, left edge, words of each line, and whether it is a name."""
        name_face, face = font(Size.NOTE, bold=True), font(Size.NOTE)
        left = max((text_width(name, name_face) for name, _ in self.rows), default=0.0) + 10.0
        y, out = 20.0, []
        for name, words in self.rows:
            x = left if name else 0.0
            if name:
                out.append((y, 0.0, name, True))
            for line in wrapped(words, face, self.width() - x):
                out.append((y, x, line, False))
                y += 18.0
            y += 2.0
        return out

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        painter.fillRect(QRectF(0, 0, self.width(), 1.0), tokens.colour("hair"))
        for y, x, words, name in self._lines():
            face = font(Size.NOTE, bold=name)
            text(painter, x, y, words, face, tokens.colour("ink" if name else "ink2"))
        painter.end()
