"""Whether there is a display: servers of this machine by their sockets, others are left to Qt."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.disk.display import check_display


@pytest.fixture
def sockets(tmp_path: Path) -> Path:
    """A folder for X servers' sockets, with that of server 3."""
    (tmp_path / "X3").touch()
    return tmp_path


@pytest.fixture
def nameless(sockets: Path) -> Iterator[None]:
    """X server 5 listens by a name alone, without a file (man 7 unix, "abstract")."""
    with socket.socket(socket.AF_UNIX) as server:
        server.bind(f"\0{sockets}/X5")
        server.listen()
        yield


@pytest.mark.usefixtures("nameless")
@pytest.mark.parametrize(
    "named",
    [
        {"DISPLAY": ":3"},
        {"DISPLAY": ":3.0", "QT_QPA_PLATFORM": "xcb"},
        {"DISPLAY": ":5"},
        {"DISPLAY": "localhost:10.0"},  # through a tunnel
        {"QT_QPA_PLATFORM": "offscreen"},
        {"QT_QPA_PLATFORM": "vnc:port=5901"},
        {"WAYLAND_DISPLAY": "X3"},
        {"WAYLAND_DISPLAY": "gone", "DISPLAY": ":3"},
        {"WAYLAND_SOCKET": "7"},
    ],
)
def test_a_server_that_is_there_is_enough(named: dict[str, str], sockets: Path) -> None:
    check_display({"XDG_RUNTIME_DIR": str(sockets), **named}, sockets)


@pytest.mark.parametrize(
    ("named", "said"),
    [
        ({}, "there is no display here"),
        ({"DISPLAY": ""}, "there is no display here"),
        ({"DISPLAY": ":4"}, "the display :4 is not there"),
        ({"DISPLAY": ":4.1", "QT_QPA_PLATFORM": "xcb"}, "the display :4.1 is not there"),
        ({"QT_QPA_PLATFORM": "xcb", "WAYLAND_DISPLAY": "X3"}, "there is no display here"),
        ({"QT_QPA_PLATFORM": "wayland", "DISPLAY": ":3"}, "there is no display here"),
        ({"QT_QPA_PLATFORM": "xcb", "WAYLAND_SOCKET": "7"}, "there is no display here"),
        ({"WAYLAND_DISPLAY": "gone"}, "gone is not there"),
    ],
)
def test_without_one_it_is_said_which_was_looked_for(
    named: dict[str, str], said: str, sockets: Path
) -> None:
    with pytest.raises(UserError, match=said):
        check_display({"XDG_RUNTIME_DIR": str(sockets), **named}, sockets)
