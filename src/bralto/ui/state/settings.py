"""What the learner has set, kept as a small JSON file beside the library."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

__all__ = ["Settings"]

_FILE = "settings.json"


class Settings:
    """Read once, written at every change; a damaged file counts as empty."""

    def __init__(self, root: Path) -> None:
        self._path = root / _FILE
        self._values: dict[str, Any] = {}
        try:
            found = json.loads(self._path.read_text("utf-8"))
        except (OSError, ValueError):
            return
        if isinstance(found, dict):
            self._values = found

    @property
    def drop_folder(self) -> Path | None:
        """The folder that is watched for new pictures, or None."""
        name = self._values.get("drop_folder")
        return Path(name) if isinstance(name, str) and name else None

    def set_drop_folder(self, folder: Path | None) -> None:
        """Watch another folder, or none."""
        self._values["drop_folder"] = "" if folder is None else str(folder)
        try:
            self._path.write_text(json.dumps(self._values, indent=1) + "\n", "utf-8")
        except OSError:
            return  # it is watched until Bralto is closed
