"""Whether an encoded picture has pixels and nothing else: no metadata, no other file behind it."""

from __future__ import annotations

__all__ = ["bare_suffix"]

# Marker segments of ISO/IEC 10918-1, table B.1 that decoding wants, and JFIF's APP0.
_JPEG = frozenset({0xC0, 0xC1, 0xC2, 0xC4, 0xDB, 0xDD, 0xE0})
_SOS, _EOI = 0xDA, 0xD9

# Chunks of PNG (W3C, third edition, 5.6) that decoding wants.
_PNG = frozenset({b"IHDR", b"PLTE", b"IDAT", b"IEND"})
_PNG_START = b"\x89PNG\r\n\x1a\n"


def bare_suffix(data: bytes) -> str | None:
    """`.jpg` or `.png` for a bare picture of that kind, None for any other."""
    if data[:2] == b"\xff\xd8":
        return ".jpg" if _bare_jpeg(data) else None
    if data[:8] == _PNG_START:
        return ".png" if _bare_png(data) else None
    return None


def _bare_jpeg(data: bytes) -> bool:
    at = 2
    while at + 4 <= len(data) and data[at] == 0xFF:
        marker = data[at + 1]
        length = int.from_bytes(data[at + 2 : at + 4])
        if marker == _SOS:
            at += 2 + length
            # Within a scan FF is followed by 00 or a restart marker (B.1.1.5, B.2.1).
            while (at := data.find(b"\xff", at)) != -1 and at + 1 < len(data):
                code = data[at + 1]
                if code == 0x00 or 0xD0 <= code <= 0xD7:
                    at += 2
                elif code == _EOI:
                    return at + 2 == len(data)
                else:
                    break  # a further scan's tables
            if at == -1:
                return False
            continue
        if marker not in _JPEG or (marker == 0xE0 and data[at + 4 : at + 9] != b"JFIF\0"):
            return False
        at += 2 + length
    return False


def _bare_png(data: bytes) -> bool:
    at = 8
    while at + 12 <= len(data):
        length, kind = int.from_bytes(data[at : at + 4]), data[at + 4 : at + 8]
        if kind not in _PNG:
            return False
        at += 12 + length
        if kind == b"IEND":
            return at == len(data)
    return False
