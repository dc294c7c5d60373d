"""One root for every error that Bralto raises itself, split by whose fault it is."""

from __future__ import annotations

__all__ = ["BraltoError", "BugError", "UserError"]


class BraltoError(Exception):
    """Root of all errors raised on purpose."""


class UserError(BraltoError):
    """Something the user can mend: one sentence that says what is wrong, where, and what to do."""


class BugError(BraltoError):
    """Something only a developer can mend; belongs in a crash report."""
