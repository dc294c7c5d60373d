"""A soft bell for timed poses, so that nobody has to watch the clock."""

from __future__ import annotations

import io
import wave

import numpy as np
from PyQt6.QtCore import QUrl
from PyQt6.QtWidgets import QApplication

from bralto.core.errors import UserError
from bralto.ui.arrivals.passing import PassingFolder

__all__ = ["Bell", "bell_sound"]

_RATE = 44_100
_SECONDS = 1.6
_PARTIALS = ((523.25, 1.0, 0.55), (1046.5, 0.35, 0.35), (1570.0, 0.16, 0.2), (2180.0, 0.06, 0.12))
"""Of a small bowl: pitch, Hz (C5 and above), share, and the time in which it falls to a third, s;
chosen here."""

_LOUD = 0.25
"""Of full scale: heard in a quiet room, and no start."""

_SWELL_S = 0.012


def bell_sound() -> bytes:
    """A WAV file (16 bits, one channel), as it would lie on disk."""
    t = np.arange(int(_RATE * _SECONDS)) / _RATE
    tone = sum(
        share * np.exp(-t / falls) * np.sin(2.0 * np.pi * pitch * t)
        for pitch, share, falls in _PARTIALS
    )
    ends = np.minimum(1.0, np.minimum(t / _SWELL_S, (t[-1] - t) / 0.2))  # no click at either end
    tone = np.asarray(tone) * ends
    level = _LOUD * 32767.0 * tone / float(np.abs(tone).max())
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(_RATE)
        file.writeframes(level.astype("<i2").tobytes())
    return out.getvalue()


class Bell:
    """Rings where the desktop can play a sound, else by the desktop's own signal."""

    def __init__(self) -> None:
        self._folder = PassingFolder()
        self._effect: object = None
        self._ready = False

    def ring(self) -> None:
        """Once, without waiting for its end."""
        if not self._ready:
            self._ready = True
            self._make()
        if self._effect is None:
            QApplication.beep()
        else:
            self._effect.play()  # type: ignore[attr-defined]

    def _make(self) -> None:
        try:  # it wants the desktop's sound server, which not every machine has
            from PyQt6.QtMultimedia import QMediaDevices, QSoundEffect
        except ImportError:
            return
        if QMediaDevices.defaultAudioOutput().isNull():
            return
        try:
            path = self._folder.path() / "bell.wav"
            path.write_bytes(bell_sound())
        except (UserError, OSError):
            return
        effect = QSoundEffect()
        effect.setSource(QUrl.fromLocalFile(str(path)))
        self._effect = effect
