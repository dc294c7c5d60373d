"""A look through a whole library: every page, every study, every picture."""

from __future__ import annotations

from bralto.core.errors import UserError
from bralto.store.library import Library

__all__ = ["check"]


def check(library: Library) -> list[str]:
    """What is wrong, in sentences without a final stop; nothing where all is sound."""
    faults = library.page_faults()
    try:
        rows = library.rows()
    except UserError as error:
        return [*faults, str(error)]
    for row in rows:
        name = f"the study '{row.title[:60]}' ({row.id})"
        if row.fault:
            faults.append(f"{name} cannot be read: {row.fault}")
            continue
        try:
            stored = library.stored(row.id)
        except UserError as error:
            faults.append(str(error))
            continue
        for which, media in sorted(stored.media.items()) if stored else ():
            of = f"of '{which}'" if which else "of the reference"
            if not library.media.path(media).exists():
                faults.append(f"{name}: the picture {of} is gone")
            elif not library.media.is_sound(media):
                faults.append(
                    f"{name}: the picture {of} is damaged; take the same photo in again to mend it"
                )
    return faults
