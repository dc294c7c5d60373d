"""One writer a library: a lock that the system lets go when its holder dies, and who holds it."""

from __future__ import annotations

import errno
import fcntl
import json
import os
from pathlib import Path
from typing import Self

from bralto.core.quick_tuples import NamedTuple
from bralto.store.failures import Failure, LibraryError, failure, of_system

__all__ = ["Holder", "InUseError", "Lock"]

_FILE = "library.lock"


class Holder(NamedTuple):
    """Who holds a library."""

    pid: int
    host: str
    what: str

    @property
    def words(self) -> str:
        """For a sentence."""
        here = self.host == os.uname().nodename
        return f"{self.what} (process {self.pid}{'' if here else f' on {self.host}'})"


class InUseError(LibraryError):
    """Another window or command holds the library; its address is `Lock.address`."""

    def __init__(self, root: Path, holder: Holder | None, address: str) -> None:
        who = holder.words if holder is not None else "another program"
        super().__init__(Failure.IN_USE, str(failure(Failure.IN_USE, root, who)))
        self.holder, self.address = holder, address


class Lock:
    """Held from `take` until `let_go`, or until the process ends, however it ends (flock(2))."""

    def __init__(self, handle: int, address: str) -> None:
        self._handle: int | None = handle
        self.address = address

    @classmethod
    def take(cls, root: Path, what: str) -> Self:
        """Take a folder's lock; a dead holder's is free.

        Args:
            what: who takes it, in words, such as ``a Bralto window``.

        Raises:
            InUseError: somebody else has it.
            LibraryError: the folder cannot be written to.
        """
        path = root / _FILE
        try:
            handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
        except OSError as error:
            raise of_system(error, root) from None
        try:
            address = _address(handle)
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                raise InUseError(root, _read(handle), address) from None
            except OSError as error:
                # Some network folders know no locks: there the versions of the studies guard alone.
                if error.errno not in {errno.ENOLCK, errno.EOPNOTSUPP, errno.EINVAL}:
                    raise of_system(error, root) from None
            said = {"pid": os.getpid(), "host": os.uname().nodename, "what": what}
            try:
                os.ftruncate(handle, 0)
                os.pwrite(handle, json.dumps(said).encode(), 0)
            except OSError:
                pass  # a full disk: held all the same, by a nameless holder
        except BaseException:
            os.close(handle)
            raise
        return cls(handle, address)

    def let_go(self) -> None:
        """Free it."""
        if self._handle is not None:
            os.close(self._handle)
            self._handle = None


def _address(handle: int) -> str:
    """Where the holder's window listens: an abstract socket (unix(7)) named after the lock file."""
    found = os.fstat(handle)
    return f"\0bralto-{os.getuid()}-{found.st_dev:x}-{found.st_ino:x}"


def _read(handle: int) -> Holder | None:
    try:
        said = json.loads(os.pread(handle, 4096, 0))
        return Holder(int(said["pid"]), str(said["host"])[:80], str(said["what"])[:80])
    except (ValueError, KeyError, TypeError, OSError, RecursionError):
        return None
