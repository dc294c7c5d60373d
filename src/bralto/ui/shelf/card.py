"""A study on the shelf: the pair of pictures at true relative size, name, day, typical miss."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QImageReader, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.store.media import MediaFolder
from bralto.store.summaries import Shown
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.viewport import Viewport
from bralto.ui.state.shelf_state import Entry
from bralto.ui.theme.paint import Align, elided, rounded, text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["CARD", "Card", "miss_words"]

CARD = QSize(302, 286)
_PICTURES = 206.0
_PAD = 12.0


def miss_words(entry: Entry) -> tuple[str, str]:
    """Typical miss and its uncertainty for a study, or why there is none."""
    if entry.summary is None:
        return "", entry.why
    tracked = entry.summary.tracked
    if isinstance(tracked, NotMeasurable):
        return "", "not all of the short set is marked"
    return f"{tracked.value:.2f}", f"± {COVERAGE * tracked.u:.2f} heads"


class Card(QStyledItemDelegate):
    """Paints entries; thumbnails are read once."""

    def __init__(self, media: MediaFolder, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._media, self._tokens = media, tokens
        self._thumbnails: dict[tuple[object, ...], QPixmap] = {}

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return CARD

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        entry: Entry = index.data(Qt.ItemDataRole.UserRole)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area = QRectF(option.rect).adjusted(0.0, 0.0, -10.0, -12.0)
        flag = QStyle.StateFlag
        lit = bool(option.state & (flag.State_MouseOver | flag.State_Selected))
        rounded(painter, area, self._tokens.colour("here" if lit else "slip"))
        if option.state & flag.State_Selected:
            painter.setPen(QPen(self._tokens.colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(area.adjusted(1, 1, -1, -1), 3.0, 3.0)
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
            return
        scales = [1.0] * len(shown)
        if seen is not None and drawn is not None:
            scales[1] = digest.ratio or drawn.height / seen.height
        lain = [_view(one) for one in shown]
        sizes = [
            (view.whole.width() / by, view.whole.height() / by)
            for view, by in zip(lain, scales, strict=True)
        ]
        room = area.width() - 2 * _PAD - 8.0
        scale = min(room / sum(w for w, _ in sizes), (_PICTURES - _PAD) / max(h for _, h in sizes))
        x = area.left() + (area.width() - 8.0 - scale * sum(w for w, _ in sizes)) / 2.0
        floor = area.top() + _PICTURES
        for one, view, (width, height) in zip(shown, lain, sizes, strict=True):
            box = QRectF(x, floor - scale * height, scale * width, scale * height)
            self._picture(painter, box, one.media, view)
            x += scale * width + 8.0

    def _no_pictures(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        """A study that cannot be read, or that has not been looked at yet."""
        face = font(Size.NOTE, italic=True)
        fault = bool(entry.row.fault)
        ink = self._tokens.colour("ochre" if fault else "ink2")
        lines = wrapped(f"This study {entry.why}.", face, area.width() - 4 * _PAD) if fault else []
        y = area.top() + _PICTURES / 2.0 - 10.0 * (min(len(lines), 5) - 1)
        for line in lines[:5]:
            text(painter, area.center().x(), y, line, face, ink, Align.AlignHCenter)
            y += 20.0

    def _picture(self, painter: QPainter, box: QRectF, name: str | None, view: Viewport) -> None:
        pixmap = self._thumbnail(name, box, painter, view) if name else QPixmap()
        painter.fillRect(box, self._tokens.colour("sheet"))
        if pixmap.isNull():
            face = font(Size.FINE, italic=True)
            ink = self._tokens.colour("ink2")
            text(
                painter,
                box.center().x(),
                box.center().y(),
                "no picture",
                face,
                ink,
                Align.AlignHCenter,
            )
        else:
            painter.drawPixmap(box, pixmap, QRectF(pixmap.rect()))
        painter.setPen(QPen(self._tokens.colour("hair", 0.5), 1.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)

    def _thumbnail(self, name: str, box: QRectF, painter: QPainter, view: Viewport) -> QPixmap:
        """The thumbnail at just the size it is shown in, its sheet seen straight on; made once."""
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        size = QSize(round(box.width() * ratio), round(box.height() * ratio))
        key = (name, size.width(), size.height(), view.flat, view.frame)
        if key not in self._thumbnails:
            reader = QImageReader(str(self._media.thumbnail(name)))
            if view.frame is None:
                reader.setScaledSize(size)
                self._thumbnails[key] = QPixmap.fromImage(reader.read())
            else:
                self._thumbnails[key] = _laid(reader.read(), view, size)
        return self._thumbnails[key]

    def _words(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        tokens = self._tokens
        left, right = area.left() + _PAD, area.right() - _PAD
        baseline = area.top() + _PICTURES + 26.0
        title = font(Size.TITLE, bold=True)
        shown = elided(entry.title, title, right - left)
        text(painter, left, baseline, shown, title, tokens.colour("ink"))
        note = font(Size.NOTE)
        figure, words = ("", "cannot be read") if entry.row.fault else miss_words(entry)
        day = f"{entry.when:%d %B}".lstrip("0") if entry.dated else ""
        if entry.tags:
            day = elided(f"{day} · {', '.join(entry.tags)}", note, 0.55 * (right - left))
        wide = text(painter, left, baseline + 24.0, day, note, tokens.colour("ink2"))
        room = right - left - wide - 16.0
        if not figure:
            shown = elided(words, note, room)
            text(
                painter,
                right,
                baseline + 24.0,
                shown,
                note,
                tokens.colour("ink2"),
                Align.AlignRight,
            )
            return
        ink = tokens.colour("ink2")
        used = text(painter, right, baseline + 24.0, words, note, ink, Align.AlignRight)
        bold = font(Size.PLACE, bold=True)
        at = QPointF(right - used - 6.0, baseline + 24.0)
        text(painter, at.x(), at.y(), figure, bold, tokens.colour("ink"), Align.AlignRight)


@lru_cache(maxsize=512)
def _view(shown: Shown) -> Viewport:
    return Viewport(shown.width, shown.height, shown.plumb_deg, flat=shown.flat, frame=shown.frame)


def _laid(small: QImage, view: Viewport, size: QSize) -> QPixmap:
    """A thumbnail laid as its picture is on the board."""
    pixmap = QPixmap(size)
    pixmap.fill(Qt.GlobalColor.white)
    if small.isNull() or size.isEmpty():
        return pixmap
    painter = QPainter(pixmap)
    paint_laid(painter, view.fitted(QSizeF(size)), small)
    painter.end()
    return pixmap
