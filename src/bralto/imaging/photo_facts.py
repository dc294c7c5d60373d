"""What a photo says of itself that is of use: when it was taken and through which lens.

Where it was taken and with whose camera is not read, and never kept.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from PIL import Image

__all__ = ["Facts", "facts_of"]

# Tags of EXIF 2.32, 4.6.5 and 4.6.6.
_TAKEN, _OFFSET, _FOCAL = 0x9003, 0x9011, 0xA405
_DETAILS = 0x8769

_INSTANT = re.compile(r"(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)")
_ZONE = re.compile(r"[+-]\d\d:\d\d|Z")


@dataclass(frozen=True, slots=True)
class Facts:
    """Attributes:
    taken: ISO 8601, with its zone where the photo says it; None where it says nothing.
    focal_35mm: focal length as for a picture 36 mm long, mm, or None.
    """

    taken: str | None = None
    focal_35mm: float | None = None


def facts_of(image: Image.Image) -> Facts:
    """Read them from a picture's EXIF; what is not as it should be counts as not said."""
    try:
        exif = image.getexif()
        if not exif and "exif" in image.info:
            exif = Image.Exif()
            exif.load(image.info["exif"])
        details = exif.get_ifd(_DETAILS)
        return Facts(_instant(details.get(_TAKEN), details.get(_OFFSET)), _focal(details))
    except Exception:
        return Facts()


def _instant(taken: object, offset: object) -> str | None:
    found = _INSTANT.fullmatch(str(taken).strip("\0 "))
    if found is None:
        return None
    year, month, day, hour, minute, second = found.groups()
    if not (int(year) > 1900 and 1 <= int(month) <= 12 and 1 <= int(day) <= 31):
        return None
    zone = str(offset).strip("\0 ")
    zone = zone if _ZONE.fullmatch(zone) else ""
    return f"{year}-{month}-{day}T{hour}:{minute}:{second}{zone}"


def _focal(details: dict[int, object]) -> float | None:
    focal = float(str(details.get(_FOCAL, 0)))
    return focal if 4.0 <= focal <= 2000.0 else None
