"""What is done with studies on the shelf: named, tagged, hidden, put away, written out, read in."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QFileDialog, QMenu, QWidget

from bralto.core.errors import UserError
from bralto.core.words.phrases import how_many
from bralto.store.instants import BIN_DAYS, now_utc
from bralto.store.library import Library
from bralto.store.sqlite.database import FOR_READING
from bralto.ui.arrivals.passing import PassingFolder
from bralto.ui.running.tasks import Tasks
from bralto.ui.saving import file_to_save, free
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState

if TYPE_CHECKING:
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["Acts"]

_LONGEST_NAME = 160
"""Bytes of a file's name, of the 255 that most disks know; an ending and a number come to it."""

STUDIES = "Studies (*.bralto *.json);;All files (*)"


class Acts(QObject):
    """Each act is about what is selected; ``said`` tells what became of it."""

    said = pyqtSignal(str)
    refused = pyqtSignal(str)
    leaving = pyqtSignal(list)
    """Ids of studies that are about to go into the bin or for good."""
    arrived = pyqtSignal(list)
    """Ids of studies that were read in."""
    library_wanted = pyqtSignal()
    begun = pyqtSignal(str)
    """Id of a study that was just begun and wants to be drawn."""

    def __init__(
        self,
        library: Library,
        state: ShelfState,
        tasks: Tasks,
        on_bench: Callable[[], OpenStudy | None],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._library, self._state, self._tasks = library, state, tasks
        self._on_bench, self._window = on_bench, window
        self.selected: Callable[[], list[Entry]] = list
        self._dragged = PassingFolder()

    def keep_card(self, path: Path, image: QImage) -> None:
        """Keep a picture as it was laid for its card, off the GUI thread."""
        if not self._library.reading:
            write = partial(_save_card, image)
            work = partial(self._library.media.put_card, path, write)
            self._tasks.run(work, lambda _: None, lambda _: None)

    # The menu

    def menu(self, parent: QWidget, look_at: Callable[[str], None]) -> QMenu:
        """What can be done now."""
        menu = QMenu(parent)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        chosen, state = self.selected(), self._state

        def add(words: str, keys: str, act: Callable[[], object], on: bool = True) -> None:
            action = menu.addAction(f"{words}\t{keys}" if keys else words)
            assert action is not None
            action.setEnabled(on)
            action.triggered.connect(lambda _=False: act())

        some, writes = bool(chosen), not self._library.reading
        of = f"{len(chosen)} studies" if len(chosen) > 1 else ""
        if state.show == "bin":
            add(f"Take {of} out again".replace("  ", " "), "", self.take_out, some and writes)
            add("Delete for good …", "Del", self.remove, some and writes)
            add("Empty the bin …", "", self.empty_bin, bool(state.entries) and writes)
        else:
            add("Rename …", "F2", self.rename, len(chosen) == 1 and writes)
            add("Tags …", "Ctrl+T", self.tag, some and writes)
            add("Try again", "Ctrl+R", self.try_again, len(chosen) == 1 and writes)
            add("Duplicate", "Ctrl+D", self.duplicate, some and writes)
            hidden = state.show == "hidden"
            add("Show again" if hidden else "Hide", "Ctrl+H", self.hide, some and writes)
            add("Put into the bin", "Del", self.remove, some and writes)
            menu.addSeparator()
            add("Write out …", "Ctrl+E", self.write_out, some)
            add("Bring in …", "Ctrl+O", self.bring_in, writes)
        menu.addSeparator()
        for show, words in (("shelf", "The shelf"), ("hidden", "Hidden studies"), ("bin", "Bin")):
            if show != state.show:
                add(f"{words} ({state.count(show)})", "", partial(look_at, show))
        menu.addSeparator()
        add("Library and backups …", "", self.library_wanted.emit)
        return menu

    def _may_write(self) -> bool:
        if self._library.reading:
            self.refused.emit(f"{FOR_READING[0].upper()}{FOR_READING[1:]}.")
        return not self._library.reading

    # Names, tags, hidden

    def rename(self) -> None:
        """Another name for the one that is selected."""
        chosen = self.selected()
        if len(chosen) != 1 or not self._may_write():
            return
        from bralto.ui.slips.name_slip import NameSlip

        (entry,) = chosen
        slip = NameSlip("Rename the study", "Rename", entry.row.title, self._window)
        slip.accepted.connect(lambda: self._rename(entry, slip.name.text().strip()))
        slip.open()

    def _rename(self, entry: Entry, title: str) -> None:
        open_study = self._on_bench()
        if open_study is not None and open_study.id == entry.id:
            open_study.head.set_title(title)  # the bench keeps the study's version
            self._state.refresh()
        else:
            self._state.rename(entry, title)

    def tag(self) -> None:
        """Tags for all that are selected."""
        chosen = self.selected()
        if not chosen or not self._may_write():
            return
        from bralto.ui.shelf.study_slips import TagSlip

        known = sorted({tag for entry in self._state.everything for tag in entry.tags})
        slip = TagSlip([set(entry.tags) for entry in chosen], known, self._window)
        slip.accepted.connect(lambda: self._state.tag(chosen, *slip.changes()))
        slip.open()

    def hide(self) -> None:
        """Leave them out of the shelf, or show them again."""
        chosen, hide = self.selected(), self._state.show != "hidden"
        if chosen and self._state.show != "bin" and self._may_write():
            what = "out of sight; Studies › Hidden studies has them" if hide else "back again"
            if self._state.hide(chosen, hide):
                self.said.emit(f"{_studies(chosen)} {what}. Ctrl+Z undoes it.")

    def duplicate(self) -> None:
        """A copy of each, made now."""
        if self._state.show == "bin" or not self._may_write():
            return
        for entry in reversed(self.selected()):
            try:
                self._library.duplicate(entry.id, f"{entry.title}, copy", now_utc())
            except UserError as error:
                self.refused.emit(str(error))
        self._state.refresh()

    def try_again(self) -> None:
        """The pose of the one that is selected once more, on a new sheet."""
        chosen = self.selected()
        if self._state.show != "bin" and len(chosen) == 1:
            self.begin_again(chosen[0].id)

    def begin_again(self, study: str) -> None:
        """A new try of the same pose, on the bench."""
        if not self._may_write():
            return
        from bralto.store.record.tries import try_again

        try:
            study_id = try_again(self._library, study, now_utc())
        except UserError as error:
            self.refused.emit(str(error))
            return
        self._state.refresh()
        self.begun.emit(study_id)

    # The bin

    def remove(self) -> None:
        """Into the bin; out of the bin for good."""
        chosen = self.selected()
        if not chosen or not self._may_write():
            return
        if self._state.show == "bin":
            self._ask_to_erase(chosen)
            return
        self.leaving.emit([entry.id for entry in chosen])
        if self._state.bin(chosen, now_utc()):
            self.said.emit(
                f"{_studies(chosen)} in the bin for {BIN_DAYS} days. Ctrl+Z takes it back."
            )

    def take_out(self) -> None:
        """Out of the bin, onto the shelf."""
        chosen = self.selected()
        if chosen and self._may_write() and self._state.bin(chosen, None):
            self.said.emit(f"{_studies(chosen)} back on the shelf.")

    def empty_bin(self) -> None:
        """Everything that lies in the bin, for good."""
        if self._may_write():
            self._ask_to_erase(list(self._state.entries))

    def _ask_to_erase(self, chosen: list[Entry]) -> None:
        from bralto.ui.shelf.study_slips import EraseSlip

        own = self._library.pictures_of_alone([entry.id for entry in chosen])
        states = sum(entry.states for entry in chosen)
        titles = [entry.title for entry in chosen]
        size = self._library.media.size(own)
        slip = EraseSlip(titles, states, len(own), size, self._window)
        slip.accepted.connect(partial(self._erase, chosen))
        slip.open()

    def _erase(self, chosen: list[Entry]) -> None:
        try:
            pictures, size = self._state.erase(chosen)
        except UserError as error:
            self.refused.emit(str(error))
            return
        self.said.emit(
            f"{_studies(chosen)} deleted for good, with {how_many(pictures, 'picture')} "
            f"({size / 1e6:.1f} MB)."
        )

    # Files

    def write_out(self) -> None:
        """Each as a bundle that another Bralto can read in."""
        chosen = self.selected()
        if not chosen or self._state.show == "bin":
            return
        if len(chosen) == 1:
            name = f"{_file_name(chosen[0].title)}.bralto"
            kinds = "Bundle of a study (*.bralto)"
            path = file_to_save(self._window, "Write the study out", name, kinds)
            targets = [] if path is None else [path]
        else:
            folder = QFileDialog.getExistingDirectory(
                self._window, f"A folder for {len(chosen)} studies"
            )
            targets = _targets(Path(folder), chosen) if folder else []
        if targets:
            self.write_to(chosen, targets)

    def write_to(self, chosen: list[Entry], targets: list[Path]) -> None:
        """Write studies out, off the GUI thread."""
        ids = [entry.id for entry in chosen]
        self._tasks.run(
            partial(_write, self._library, ids, targets),
            lambda _: self.said.emit(f"{_studies(chosen)} written to {targets[0].parent}."),
            self.refused.emit,
        )

    def bundles(self, chosen: list[Entry]) -> list[str]:
        """Write studies to files of their own, to be dragged out of the window."""
        try:
            targets = _targets(self._dragged.path(), chosen)
            _write(self._library, [entry.id for entry in chosen], targets)
        except UserError as error:
            self.refused.emit(str(error))
            return []
        return [str(path) for path in targets]

    def bring_in(self) -> None:
        """Choose bundles and study files to read in."""
        if self._may_write():
            names, _ = QFileDialog.getOpenFileNames(
                self._window, "Studies to bring in", "", STUDIES
            )
            self.read_in([Path(name) for name in names])

    def read_in(self, files: list[Path]) -> None:
        """Read bundles and study files in, off the GUI thread; a bad one is said, the rest come."""
        if files and self._may_write():
            self.said.emit(f"Reading {files[0].name} …")
            self._tasks.run(
                partial(_read_in, self._library, files), self._on_read, self.refused.emit
            )

    def _on_read(self, found: tuple[list[str], list[str]]) -> None:
        ids, faults = found
        self._state.refresh()
        if ids:
            self.arrived.emit(ids)
        if faults:
            more = f" ({len(faults) - 1} more could not be read)" if len(faults) > 1 else ""
            self.refused.emit(faults[0] + more)
        else:
            self.said.emit(f"{how_many(len(ids), 'study')} brought in.")


def _studies(chosen: list[Entry]) -> str:
    return f"“{chosen[0].title}” is" if len(chosen) == 1 else f"{len(chosen)} studies are"


def _file_name(title: str) -> str:
    """A title as a file's name: no separators, no leading dot, not too long for any disk."""
    clean = "".join(c if c.isprintable() and c not in '/\\:*?"<>|' else " " for c in title)
    name = " ".join(clean.split()).lstrip(".").encode()[:_LONGEST_NAME]
    return name.decode("utf-8", "ignore").strip() or "study"


def _targets(folder: Path, chosen: list[Entry]) -> list[Path]:
    """A file for each study; two of one name are numbered, and nothing there is written over."""
    out: list[Path] = []
    for entry in chosen:
        out.append(free(folder / f"{_file_name(entry.title)}.bralto", out))
    return out


def _save_card(image: QImage, path: Path) -> bool:
    return image.save(str(path), "JPG", 90)


def _write(library: Library, ids: list[str], targets: list[Path]) -> None:
    from bralto.store.carrying import write_out  # the study file's models are slow to load

    for study_id, path in zip(ids, targets, strict=True):
        write_out(library, study_id, path)


def _read_in(library: Library, files: list[Path]) -> tuple[list[str], list[str]]:
    from bralto.store.carrying import read_in

    ids, faults = [], []
    for path in files:
        try:
            ids.append(read_in(library, path))
        except UserError as error:
            faults.append(str(error))
    return ids, faults
