"""What a screen reader is told, over the very bus that it listens to (AT-SPI 2, D-Bus).

The application runs as its users start it, on an X server of its own (Xvfb); keys are sent by the
registry as if they were typed. Where the machine lacks one of the programs there is no reader.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from jeepney import DBusAddress, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection

__all__ = ["KEYS", "Heard", "ScreenReader", "missing"]

_LAUNCHERS = ("/usr/libexec/at-spi-bus-launcher", "/usr/lib/at-spi2-core/at-spi-bus-launcher")
_ACCESSIBLE = "org.a11y.atspi.Accessible"
_REGISTRY = "org.a11y.atspi.Registry"
_ROOT = (_REGISTRY, "/org/a11y/atspi/accessible/root")
_KEYBOARD = (_REGISTRY, "/org/a11y/atspi/registry/deviceeventcontroller")
_KEYSYM, _LOCK, _UNLOCK = 3, 5, 6
_FOCUSABLE, _FOCUSED, _SHOWING = 11, 12, 25
_LABELLED_BY = 2
"""Numbers of the protocol (at-spi2-core, atspi-constants.h)."""

KEYS = {"Down": 0xFF54, "Return": 0xFF0D, "Left": 0xFF51, "Right": 0xFF53,
        "Tab": 0xFF09, "Escape": 0xFF1B}  # fmt: skip
"""X11 keysyms (keysymdef.h)."""

_MODIFIERS = {"Control": 4, "Alt": 8}
"""X11 masks of what is held (X.h: ControlMask, Mod1Mask)."""

_WAIT_S = 60.0


def missing() -> str:
    """Which program this needs that the machine lacks, or ""."""
    for name in ("Xvfb", "dbus-daemon"):
        if shutil.which(name) is None:
            return name
    return "" if _launcher() else "at-spi-bus-launcher"


def _launcher() -> str | None:
    return next((path for path in _LAUNCHERS if Path(path).exists()), None)


@dataclass(frozen=True)
class Heard:
    """One thing that can be read: where it is on the bus, its role, name and description."""

    at: tuple[str, str]
    role: str
    name: str
    description: str
    focusable: bool
    focused: bool
    labelled: bool
    under: str
    """Name of the list, or else of what else with a name, that holds it."""


class ScreenReader:
    """The application on a library, and the bus it speaks on; `close` ends all of it."""

    def __init__(self, library: Path) -> None:
        self._running: list[subprocess.Popen[bytes]] = []
        self._run = tempfile.mkdtemp()  # a short path: sockets have 107 characters at most
        self._bus: DBusConnection | None = None
        self._window = ("", "")
        try:
            self._begin(library)
        except BaseException:
            self.close()
            raise

    def _begin(self, library: Path) -> None:
        run = self._run
        env = dict(os.environ, XDG_RUNTIME_DIR=run, XDG_CACHE_HOME=run)
        env.pop("WAYLAND_DISPLAY", None)
        read, write = os.pipe()
        self._start(["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24"], env, write)
        os.close(write)
        env["DISPLAY"] = f":{_line(read)}"
        read, write = os.pipe()
        self._start(["dbus-daemon", "--session", f"--print-address={write}"], env, write)
        os.close(write)
        env["DBUS_SESSION_BUS_ADDRESS"] = _line(read)
        launcher = _launcher()
        assert launcher is not None
        self._start([launcher, "--launch-immediately"], env)
        session = open_dbus_connection(env["DBUS_SESSION_BUS_ADDRESS"])
        bus = DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus")
        address = until(lambda: _asked(session, bus, "GetAddress"))[0]
        session.close()
        self._bus = open_dbus_connection(address)
        env |= {"QT_QPA_PLATFORM": "xcb", "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1"}
        bralto = [sys.executable, "-c", "from bralto.start import run; run()"]
        start = [*bralto, "--library", str(library)]
        self._start(start, env)
        self._window = until(lambda: self._children(_ROOT))[0]
        until(self.heard)
        # No window manager gives it the keys; a second start brings the first one to the front.
        subprocess.run(start, env=env, timeout=_WAIT_S, check=True)
        until(lambda: any(one.focused for one in self.heard()))

    def _start(self, words: Sequence[str], env: dict[str, str], *keep: int) -> None:
        quiet = subprocess.DEVNULL
        self._running.append(
            subprocess.Popen(words, env=env, pass_fds=keep, stdout=quiet, stderr=quiet)
        )

    def close(self) -> None:
        """End the application, then what it spoke on."""
        if self._bus is not None:
            self._bus.close()
        for one in reversed(self._running):
            one.terminate()
            one.wait(30)
        shutil.rmtree(self._run, ignore_errors=True)

    # What is there

    def _call(self, at: tuple[str, str], face: str, name: str, *given: Any) -> tuple[Any, ...]:
        signature, *body = given or ("",)
        where = DBusAddress(at[1], at[0], face)
        message = new_method_call(where, name, signature or None, tuple(body))
        assert self._bus is not None
        reply = self._bus.send_and_get_reply(message, timeout=_WAIT_S)
        if reply.header.message_type.name == "error":
            raise LookupError(str(reply.body))
        return tuple(reply.body)

    def _children(self, at: tuple[str, str]) -> list[tuple[str, str]]:
        return list(self._call(at, _ACCESSIBLE, "GetChildren")[0])

    def _said(self, at: tuple[str, str], name: str) -> str:
        face = "org.freedesktop.DBus.Properties"
        return str(self._call(at, face, "Get", "ss", _ACCESSIBLE, name)[0][1])

    def heard(self) -> list[Heard]:
        """All that is shown now, in the order in which it is read."""
        while True:
            try:
                return list(self._walk(self._window, ""))
            except LookupError:
                time.sleep(0.1)  # something went while it was read

    def _walk(self, at: tuple[str, str], under: str) -> Iterator[Heard]:
        low, high = self._call(at, _ACCESSIBLE, "GetState")[0]
        states = low | high << 32
        role = self._call(at, _ACCESSIBLE, "GetRoleName")[0]
        if not states >> _SHOWING & 1 and role not in {"application", "list item"}:
            return  # of a list that is shown every row can be gone to
        name, description = self._said(at, "Name"), self._said(at, "Description")
        focusable = bool(states >> _FOCUSABLE & 1)
        relations = self._call(at, _ACCESSIBLE, "GetRelationSet")[0] if focusable else ()
        labelled = any(kind == _LABELLED_BY for kind, _ in relations)
        yield Heard(at, role, name, description, focusable, bool(states >> _FOCUSED & 1), labelled,
                    under)  # fmt: skip
        inner = name if name and role not in {"frame", "application"} else under
        for child in self._children(at):
            yield from self._walk(child, inner)

    def rows(self, name: str) -> list[str]:
        """The rows of each list of that name, one after the other."""
        return [one.name for one in self.heard() if one.role == "list item" and one.under == name]

    # What is done

    def press(self, *keys: str) -> None:
        """Keys, the last one struck while the others are held."""
        *held, last = keys
        mask = sum(_MODIFIERS[key] for key in held)
        if mask:
            self._strike(mask, _LOCK)
        self._strike(KEYS.get(last) or ord(last), _KEYSYM)
        if mask:
            self._strike(mask, _UNLOCK)

    def _strike(self, which: int, how: int) -> None:
        face = "org.a11y.atspi.DeviceEventController"
        self._call(_KEYBOARD, face, "GenerateKeyboardEvent", "isu", which, "", how)


def until(found: Callable[[], Any]) -> Any:
    """What is found, as soon as it is something."""
    ends = time.monotonic() + _WAIT_S
    while time.monotonic() < ends:
        try:
            value = found()
        except (LookupError, OSError):
            value = None
        if value:
            return value
        time.sleep(0.1)
    raise TimeoutError("nothing came")


def _line(read: int) -> str:
    with os.fdopen(read) as pipe:
        return pipe.readline().strip()


def _asked(bus: DBusConnection, where: DBusAddress, name: str) -> tuple[Any, ...] | None:
    reply = bus.send_and_get_reply(new_method_call(where, name))
    return tuple(reply.body) if reply.header.message_type.name == "method_return" else None
