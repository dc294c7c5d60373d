"""One page as a PDF file."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QPagedPaintDevice, QPageLayout, QPdfWriter

from bralto.core.errors import UserError
from bralto.disk.given import write_given
from bralto.ui.theme.type import FAMILY

__all__ = ["DPI", "write_page"]

DPI = 300


def write_page(
    path: Path, title: str, page: QPageLayout, paint: Callable[[QPagedPaintDevice], bool]
) -> None:
    """Write one page, whole or not at all: into memory first, for Qt tells nothing of a full disk.

    Args:
        paint: paints on a device of `DPI` dots an inch; whether it could.

    Raises:
        UserError: it cannot be written there.
    """
    made = QBuffer()
    made.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(made)
    writer.setResolution(DPI)
    writer.setTitle(title)
    writer.setCreator(f"Bralto, set in {FAMILY}")
    if not writer.setPageLayout(page) or not paint(writer):
        raise UserError(f"{path}: a page of that size cannot be made")
    write_given(path, made.data().data())
