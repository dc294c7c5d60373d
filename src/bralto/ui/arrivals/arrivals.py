"""What becomes of a picture that comes in while the window is open."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from bralto.core.doubts.doubt import Doubt
from bralto.core.errors import UserError
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, Sheet, State
from bralto.imaging.load import CleanPicture, clean_picture, mirrored_picture
from bralto.store.instants import now_utc
from bralto.store.intake import keeping, picture_of
from bralto.store.library import Library
from bralto.ui.arrivals.dropping import Loose
from bralto.ui.arrivals.passing import PassingFolder
from bralto.ui.arrivals.watch import FolderWatch
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.sheet.sheet_slip import SheetSlip
from bralto.ui.theme.tokens import Tokens

__all__ = ["Arrivals"]


class Arrivals(QObject):
    """Offers new pictures for the open study, and leads a further state of its drawing in."""

    begun = pyqtSignal(list)
    said = pyqtSignal(str)
    told = pyqtSignal(str)
    watched = pyqtSignal(object)

    def __init__(
        self,
        library: Library,
        tasks: Tasks,
        tokens: Tokens,
        window: QWidget,
        open_study: Callable[[], OpenStudy | None],
        settings: Settings,
        watch: FolderWatch,
    ) -> None:
        super().__init__(window)
        self._library, self._tasks, self._tokens = library, tasks, tokens
        self._window, self._open_study = window, open_study
        self.settings = settings
        self.watch = watch
        self.slip: SheetSlip | None = None
        self._waiting: list[Path] = []
        self._offering = False
        self._loose = Loose()
        self._passing = PassingFolder()

    def take(self, files: list[Path]) -> None:
        """Files that were dropped, chosen or saved in the watched folder."""
        study = self._open_study()
        if study is None:
            self._begin(files)
            return
        self._waiting += files
        self._offer_next(study)

    def _begin(self, files: list[Path]) -> None:
        """The first two make a study; what is left is offered as later states of its drawing."""
        self._waiting = files[2:]
        self.begun.emit(files[:2])

    def go_on(self, study: OpenStudy) -> None:
        """A study was begun: offer what came with its pictures."""
        if self.slip is None:  # else once that is closed
            self._offer_next(study)

    def forget(self) -> None:
        """No study was begun: what came with its pictures is left."""
        self._waiting.clear()

    def _has_left(self, study: OpenStudy) -> bool:
        """Whether it is on the bench no more, which is said: nothing comes to it from here."""
        if study.released:
            title = study.study.title or "Untitled study"
            self.said.emit(
                f"“{title}” has left the bench and is as it was: open it to do that again."
            )
        return study.released

    def _offer_next(self, study: OpenStudy) -> None:
        """Several that come at once are offered one after another."""
        still = self._open_study() if study.released else study
        if self._offering or not self._waiting or still is None:
            return
        path = self._waiting.pop(0)
        self._offering = True
        from bralto.ui.arrivals.offer import Offer

        offer = Offer(path, still.study, self._tasks, self._window)
        offer.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def decide() -> None:
            self._offering = False
            if offer.choice == "study":
                self._begin([offer.path, *self._waiting])
            else:
                self.add_state(still, offer.path, offer.name.text().strip())

        def leave() -> None:
            self._offering = False
            self._offer_next(still)

        offer.accepted.connect(decide)
        offer.rejected.connect(leave)
        offer.open()

    def paste(self) -> None:
        """The picture or the files on the clipboard."""
        try:
            self.take(self._loose.pasted())
        except UserError as error:
            self.said.emit(str(error))

    def set_drop_folder(self, folder: Path | None) -> None:
        """Watch another folder for pictures, or none."""
        if self.watch.watch(folder):
            self.settings.set_drop_folder(folder)
            self.watched.emit(folder)
        else:
            self.said.emit(f"{folder} cannot be watched; choose another folder.")

    # A further state

    def add_state(self, study: OpenStudy, path: Path, name: str) -> None:
        """Copy the picture in, look for its sheet, and keep it as a state."""

        def refuse(message: str) -> None:
            self._offer_next(study)  # the others are none the worse
            self.said.emit(message)

        try:
            work = partial(_opened, path, self._passing.path())
        except UserError as error:
            refuse(str(error))
            return
        self._tasks.run(work, partial(self._look, study, name, path), refuse)

    def _look(
        self, study: OpenStudy, name: str, source: Path, opened: tuple[CleanPicture, Path]
    ) -> None:
        """The sheet in a new photo. It is kept when that is decided, and not before: what is left
        out leaves nothing behind."""
        clean, copy = opened
        if self._has_left(study):
            copy.unlink(missing_ok=True)
            self._offer_next(study)
            return
        picture = picture_of(source, clean, "my own")
        before = study.picture(Board.DRAWING).sheet
        usual = None if before is None else before.size_mm

        def keep(sheet: Sheet | None, put_off: bool) -> None:
            state = State(name, replace(picture, sheet=sheet), clean.facts.taken or now_utc())
            try:
                with keeping(self._library) as put:
                    reason = study.pictures.add_state(state, put(clean))
            except UserError as error:
                self.said.emit(str(error))
                return
            if put_off:
                self.told.emit(f"“{name}” is kept without its sheet, which can be shown any time.")
            elif reason is not None:
                self.said.emit(f"Its marks were not carried over: {reason}.")

        self._open_slip(study, picture, copy, keep, usual, new=name)

    def mirror(self, study: OpenStudy, doubt: Doubt) -> None:
        """Put a picture's mirror image in its place, with its marks."""
        path = study.media_path(doubt.board)
        if path is None:
            return

        def keep(clean: CleanPicture) -> None:
            if self._has_left(study):
                return
            if study.media_path(doubt.board) != path or doubt not in study.now.advice.doubts:
                return  # another state lies there by now, or the marks are others
            try:
                with keeping(self._library) as put:
                    kept = study.pictures.mirror(doubt, put(clean))
            except UserError as error:
                self.said.emit(str(error))
                return
            if kept:
                self.told.emit(f"{doubt.button}: done.")

        self._tasks.run(partial(mirrored_picture, Path(path)), keep, self.said.emit)

    def show_sheet(self, study: OpenStudy, board: Board) -> None:
        """The sheet in a picture that is on the bench."""
        path = study.media_path(board)
        if path is None:
            self.said.emit("This study came without its picture.")
            return
        self._open_slip(
            study,
            study.picture(board),
            Path(path),
            lambda sheet, put_off: None if put_off else study.pictures.set_sheet(board, sheet),
        )

    def _open_slip(
        self,
        study: OpenStudy,
        picture: Picture,
        path: Path,
        keep: Callable[[Sheet | None, bool], None],
        usual: tuple[float, float] | None = None,
        new: str = "",
    ) -> None:
        """The slip over the window; ``keep`` is called with the sheet that was decided on, or with
        True where that was put off. ``new`` names a state that is not kept yet."""
        last = (() if usual is None else (usual,)) + self.settings.papers
        slip = SheetSlip(
            picture, path, study.grade, self._tasks, self._tokens, self._window,
            usual=last, head_mm=study.now.drawing_head_mm, new=new,
        )  # fmt: skip
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.slip = slip

        def close(result: int) -> None:
            self.slip = None
            if result == SheetSlip.LEFT_OUT:
                self.told.emit(f"The photo for “{new}” was left out; nothing of it is kept.")
            elif not self._has_left(study):
                if result and slip.sheet is not None:
                    self.settings.note_paper(slip.sheet.size_mm)
                keep(slip.sheet, not result)
            if new:
                path.unlink(missing_ok=True)
            self._offer_next(study)

        slip.finished.connect(close)
        slip.open()


def _opened(path: Path, folder: Path) -> tuple[CleanPicture, Path]:
    """Off the GUI thread: a picture that was opened and cleaned, and where a copy of it lies until
    it is decided what becomes of it."""
    clean = clean_picture(path)
    handle, name = tempfile.mkstemp(suffix=clean.suffix, dir=folder)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(clean.data)
    except OSError as error:
        Path(name).unlink(missing_ok=True)
        raise UserError(f"{path.name}: no room to look at it ({error.strerror})") from None
    return clean, Path(name)
