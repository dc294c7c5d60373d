"""A study on the shelf: the pair of pictures at true relative size, name, day, typical miss."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from pathlib import Path
from zlib import crc32

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QCursor, QImage, QPainter, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QAbstractItemView, QStyledItemDelegate, QStyleOptionViewItem

from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import figure_and_doubt, short_day_words
from bralto.store.first_screen import Laid
from bralto.store.media import MediaFolder
from bralto.store.summaries import Shown
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.theme.paint import Align, elided, rounded, text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["CARD", "Card", "miss_words"]

_Key = tuple[Shown, int, int]
"""What is shown, and how many px wide and high."""

_FIRST = 24
"""Cards that a shelf shows first on a large screen."""

_PIXELS = QImage.Format.Format_RGB32

CARD = QSize(302, 286)
_PICTURES = 206.0
_PAD = 12.0
_BETWEEN = 8.0
_SKETCH = 0.86
"""Share of its sheet that a figure from life takes."""

_MOST_LAID = 400
"""Pictures that stay in memory: those of some twenty screens; at 175 % about 150 MB."""


def _blank(wide: int, high: int) -> tuple[QImage, memoryview]:
    """A picture of any pixels, and these to be written."""
    image = QImage(wide, high, _PIXELS)
    bits = image.bits()
    if bits is None:
        raise ValueError("there is no room for a picture as large")
    bits.setsize(image.sizeInBytes())
    return image, memoryview(bits)  # type: ignore[arg-type]


def miss_words(entry: Entry) -> tuple[str, str]:
    """Typical miss and its uncertainty for a study, or why there is none."""
    if entry.summary is None:
        return "", entry.why
    tracked = entry.summary.tracked
    if isinstance(tracked, NotMeasurable):
        return "", entry.why or "not all of the short set is marked"
    figure, doubt = figure_and_doubt(tracked.value, COVERAGE * tracked.u, 2)
    return figure, f"{doubt} {entry.summary.unit}s"


class Card(QStyledItemDelegate):
    """Paints entries. A picture is laid for its card once: what was laid is kept beside it."""

    def __init__(
        self,
        media: MediaFolder,
        keep: Callable[[Path, QImage], None],
        expects: Callable[[str], bool],
        tokens: Tokens,
        view: QAbstractItemView,
    ) -> None:
        """``keep`` writes what was laid to a path; ``expects`` tells whether the pictures of a
        study, by its id, are on their way."""
        super().__init__(view)
        self._media, self._keep, self._expects = media, keep, expects
        self._tokens, self._view = tokens, view
        self._laid: dict[_Key, QPixmap] = {}
        self._first = media.first_screen.read(_blank)
        self._painted: dict[int, list[_Key]] = {}
        self._now: list[_Key] = []

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return CARD

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        entry: Entry = index.data(Qt.ItemDataRole.UserRole)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(option.rect).adjusted(0.0, 0.0, -10.0, -12.0)
        # Asked of the view: the option's state would make PyQt build all enumerations of QStyle.
        selection, viewport = self._view.selectionModel(), self._view.viewport()
        assert selection is not None
        assert viewport is not None
        selected = selection.isSelected(index)
        under = viewport.underMouse() and option.rect.contains(
            viewport.mapFromGlobal(QCursor.pos())
        )
        rounded(painter, area, self._tokens.colour("here" if selected or under else "slip"))
        if selected:
            painter.setPen(QPen(self._tokens.colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(area.adjusted(1, 1, -1, -1), 3.0, 3.0)
        self._now = []
        if index.row() < _FIRST:
            self._painted[index.row()] = self._now
        self._pair(painter, area, entry)
        self._words(painter, area, entry)
        painter.restore()

    def _pair(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        """Both pictures on one floor, scaled so that one head of each is equally long."""
        digest = entry.digest
        if digest is None or entry.row.fault:
            self._no_pictures(painter, area, entry)
            return
        seen, drawn = digest.reference, digest.drawing
        shown = [one for one in (seen, drawn) if one is not None]
        if not shown:
            self._sketch(painter, area, digest.sketch)
            return
        scales = [1.0] * len(shown)
        if seen is not None and drawn is not None:
            scales[1] = digest.ratio or drawn.height / seen.height
        sizes = []
        for one, by in zip(shown, scales, strict=True):
            wide, high = one.frame[2:] if one.frame else (one.width, one.height)
            sizes.append((wide / by, high / by))
        room = area.width() - 2 * _PAD - _BETWEEN
        scale = min(room / sum(w for w, _ in sizes), (_PICTURES - _PAD) / max(h for _, h in sizes))
        lacking = "being drawn …" if self._expects(entry.id) else "no picture"
        x = area.left() + (area.width() - _BETWEEN - scale * sum(w for w, _ in sizes)) / 2.0
        floor = round(area.top() + _PICTURES)
        for one, (width, height) in zip(shown, sizes, strict=True):
            wide, high = max(1, round(scale * width)), max(1, round(scale * height))
            self._picture(painter, QRectF(round(x), floor - high, wide, high), one, lacking)
            x += scale * width + _BETWEEN

    def _sketch(
        self, painter: QPainter, area: QRectF, strokes: Sequence[Sequence[tuple[float, float]]]
    ) -> None:
        """What was sighted of a figure, in its drawing's place; a sheet where that is nothing."""
        high = _PICTURES - _PAD
        sheet = QRectF(0.0, 0.0, high / math.sqrt(2.0), high)  # the sides of a sheet of paper
        sheet.moveCenter(QPointF(area.center().x(), area.top() + _PAD + high / 2.0))
        painter.fillRect(sheet, self._tokens.colour("sheet"))
        if not strokes:
            return
        wide, low = (max(place[i] for stroke in strokes for place in stroke) for i in (0, 1))
        scale = min(_SKETCH * high, _SKETCH * sheet.width() / max(wide, 0.01))
        left = sheet.center().x() - scale * wide / 2.0
        top = sheet.center().y() - scale * low / 2.0
        painter.setPen(QPen(self._tokens.colour("ink2"), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for stroke in strokes:
            places = [QPointF(left + scale * x, top + scale * y) for x, y in stroke]
            if len(places) == 1:
                painter.drawEllipse(places[0], 1.0, 1.0)
            else:
                painter.drawPolyline(QPolygonF(places))

    def _no_pictures(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        """A study that cannot be read, or that has not been looked at yet."""
        if not entry.row.fault:
            return
        face, ink = font(Size.NOTE, italic=True), self._tokens.colour("ochre")
        words = f"This study cannot be read: {entry.row.fault}."
        lines = wrapped(words, face, area.width() - 4 * _PAD)[:7]
        y = area.top() + _PICTURES / 2.0 - 10.0 * (len(lines) - 1)
        for line in lines:
            text(painter, area.center().x(), y, line, face, ink, Align.AlignHCenter)
            y += 20.0

    def _picture(self, painter: QPainter, box: QRectF, shown: Shown, lacking: str) -> None:
        pixmap = self._pixmap(painter, box, shown)
        painter.fillRect(box, self._tokens.colour("sheet"))
        if pixmap.isNull():
            face, ink = font(Size.FINE, italic=True), self._tokens.colour("ink2")
            at = box.center()
            text(painter, at.x(), at.y(), lacking, face, ink, Align.AlignHCenter)
        else:
            painter.drawPixmap(box.topLeft(), pixmap)
        painter.setPen(QPen(self._tokens.colour("hair", 0.5), 1.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)

    def _pixmap(self, painter: QPainter, box: QRectF, shown: Shown) -> QPixmap:
        """The picture at just the size it is shown in, its sheet seen straight on."""
        if shown.media is None:
            return QPixmap()
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        key = (shown, round(box.width() * ratio), round(box.height() * ratio))
        self._now.append(key)
        found = self._laid.pop(key, None)
        if found is None:
            found = self._find(*key)
            found.setDevicePixelRatio(ratio)
        self._laid[key] = found  # the one that was shown last stands last
        if len(self._laid) > _MOST_LAID:
            del self._laid[next(iter(self._laid))]
        return found

    def _file(self, shown: Shown, wide: int, high: int) -> Path:
        """Where a picture lies as it was laid: its name says what it shows, and how."""
        assert shown.media is not None
        way = crc32(repr((shown.flat, shown.frame)).encode())
        return self._media.card(shown.media, f"{wide}x{high}-{way:08x}")

    def _find(self, shown: Shown, wide: int, high: int) -> QPixmap:
        """As it was laid once, or laid now."""
        assert shown.media is not None
        path = self._file(shown, wide, high)
        first = self._first.pop(path.name, None)
        if first is not None:
            # Decoders of files are looked for at the first one, and cost more than all of these.
            return QPixmap.fromImage(first)
        kept = QPixmap(str(path))
        if not kept.isNull():
            return kept
        from bralto.ui.shelf.card_picture import (
            lay_for_card,  # only where something was not laid yet
        )

        image = lay_for_card(str(self._media.thumbnail(shown.media)), shown, QSize(wide, high))
        if not image.isNull():
            self._keep(path, image)
        return QPixmap.fromImage(image)

    def keep_first_screen(self) -> None:
        """Leave what the first cards show for the next start, where any of it was painted."""
        keys = [key for row in sorted(self._painted) for key in self._painted[row]]
        cards: list[Laid] = []
        for key in dict.fromkeys(keys):
            pixmap, media = self._laid.get(key), key[0].media
            if pixmap is None or pixmap.isNull() or media is None:
                continue
            if not self._media.path(media).exists():
                continue  # deleted for good meanwhile
            image = pixmap.toImage().convertToFormat(_PIXELS)
            bits = image.constBits()
            assert bits is not None
            name, size = self._file(*key).name, image.sizeInBytes()
            cards.append((name, image.width(), image.height(), bits.asstring(size)))
        if cards:
            self._media.first_screen.keep(cards)

    def _words(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        tokens = self._tokens
        left, right = area.left() + _PAD, area.right() - _PAD
        baseline = area.top() + _PICTURES + 26.0
        title = font(Size.TITLE, bold=True)
        shown = elided(entry.title, title, right - left)
        text(painter, left, baseline, shown, title, tokens.colour("ink"))
        note, ink2 = font(Size.NOTE), tokens.colour("ink2")
        figure, words = ("", "cannot be read") if entry.row.fault else miss_words(entry)
        day = short_day_words(entry.when) if entry.dated else ""
        if entry.tags:
            day = elided(f"{day} · {', '.join(entry.tags)}", note, 0.55 * (right - left))
        baseline += 24.0
        wide = text(painter, left, baseline, day, note, ink2)
        if not figure:
            shown = elided(words, note, right - left - wide - 16.0)
            text(painter, right, baseline, shown, note, ink2, Align.AlignRight)
            return
        used = text(painter, right, baseline, words, note, ink2, Align.AlignRight)
        bold = font(Size.PLACE, bold=True)
        at = QPointF(right - used - 6.0, baseline)
        text(painter, at.x(), at.y(), figure, bold, tokens.colour("ink"), Align.AlignRight)
