"""One root for every error that Bralto raises itself, split by whose fault it is."""

from __future__ import annotations

__all__ = ["BROKEN_OFF", "BraltoError", "BugError", "UserError"]

BROKEN_OFF = 130
"""Exit status after Ctrl+C, as shells have it: 128 and the number of the signal."""


class BraltoError(Exception):
    """Root of all errors raised on purpose."""


class UserError(BraltoError):
    """Something the user can mend: one sentence that says what is wrong, where, and what to do."""


class BugError(BraltoError):
    """Something only a developer can mend; belongs in a crash report."""
