"""Whether there is a display to open a window on: Qt ends the process where it finds none."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path

from bralto.core.errors import UserError

__all__ = ["X_SOCKETS", "check_display"]

X_SOCKETS = Path("/tmp/.X11-unix")
"""Where every X server has its socket, an X and its number."""

_OPEN_SOCKETS = Path("/proc/net/unix")


def check_display(environment: Mapping[str, str] = os.environ, sockets: Path = X_SOCKETS) -> None:
    """Look for the server that the environment names; of this machine's X servers among sockets.

    Raises:
        UserError: there is none, or it is gone.
    """
    platform = environment.get("QT_QPA_PLATFORM", "")
    if platform and not platform.startswith(("xcb", "wayland")):
        return  # one that wants no server
    x = environment.get("DISPLAY", "") if not platform.startswith("wayland") else ""
    wayland = _wayland(environment) if not platform.startswith("xcb") else ""
    if (x and _is_there(x, sockets)) or (wayland and Path(wayland).exists()):
        return
    if environment.get("WAYLAND_SOCKET") and not platform.startswith("xcb"):
        return  # a connection that is open already
    named = " and ".join(filter(None, (x, wayland)))
    raise UserError(
        (f"the display {named} is not there" if named else "there is no display here")
        + " to open the window on; the commands want none, `bralto --help` lists them"
    )


def _wayland(environment: Mapping[str, str]) -> str:
    """Path of the socket, or an empty one."""
    name = environment.get("WAYLAND_DISPLAY", "")
    return str(Path(environment.get("XDG_RUNTIME_DIR", "")) / name) if name else ""


def _is_there(display: str, sockets: Path) -> bool:
    """Whether an X server has its socket: as a file, or by a name alone."""
    number = display[1:].split(".")[0]
    if not (display.startswith(":") and number.isdigit()):
        return True  # across a network: Qt alone asks
    socket = sockets / f"X{number}"
    if socket.exists():
        return True
    try:
        return f"@{socket}\n" in _OPEN_SOCKETS.read_text(encoding="utf-8", errors="replace")
    except OSError:
        return True  # it cannot be told
