"""A study on the shelf: the pair of pictures at true relative size, name, day, typical miss."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QImageReader, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.store.media import MediaFolder
from bralto.ui.boards.flat import lay, paint_laid
from bralto.ui.boards.viewport import Viewport
from bralto.ui.state.shelf_state import Entry
from bralto.ui.theme.paint import Align, elided, rounded, text
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
        study = entry.stored.study
        shown, scales = [], []
        if study.reference is not None:
            shown.append(("", study.reference))
            scales.append(1.0)
        if study.states:
            drawn = study.states[-1]
            own = drawn.picture.height / study.reference.height if study.reference else 1.0
            shown.append((drawn.name, drawn.picture))
            scales.append((entry.ratio if study.reference else None) or own)
        if not shown:
            return
        lain = [lay(picture) for _, picture in shown]
        sizes = [
            (view.whole.width() / by, view.whole.height() / by)
            for view, by in zip(lain, scales, strict=True)
        ]
        room = area.width() - 2 * _PAD - 8.0
        scale = min(room / sum(w for w, _ in sizes), (_PICTURES - _PAD) / max(h for _, h in sizes))
        x = area.left() + (area.width() - 8.0 - scale * sum(w for w, _ in sizes)) / 2.0
        floor = area.top() + _PICTURES
        for (name, _), view, (width, height) in zip(shown, lain, sizes, strict=True):
            box = QRectF(x, floor - scale * height, scale * width, scale * height)
            self._picture(painter, box, entry.stored.media.get(name), view)
            x += scale * width + 8.0

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
        day = f"{entry.when:%d %B}".lstrip("0")
        wide = text(painter, left, baseline + 24.0, day, note, tokens.colour("ink2"))
        figure, words = miss_words(entry)
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
