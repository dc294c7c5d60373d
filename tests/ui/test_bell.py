"""The soft bell of timed poses: what it sounds like, and when it is rung."""

from __future__ import annotations

import io
import sys
import wave
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from pytestqt.qtbot import QtBot
from scipy.signal import find_peaks
from tests.ui.conftest import house

from bralto.ui.model.bell import Bell, bell_sound
from bralto.ui.settings import Settings
from bralto.ui.window import MainWindow


def test_the_sound_is_a_soft_tone_that_dies_away() -> None:
    with wave.open(io.BytesIO(bell_sound())) as file:
        assert (file.getnchannels(), file.getsampwidth()) == (1, 2)
        rate = file.getframerate()
        tone = np.frombuffer(file.readframes(file.getnframes()), "<i2") / 32768.0
    assert np.abs(tone).max() == pytest.approx(0.25, abs=0.01)
    assert abs(tone[0]) < 1e-3
    assert abs(tone[-1]) < 1e-3
    half = len(tone) // 2
    assert np.square(tone[half:]).sum() < 0.2 * np.square(tone[:half]).sum()
    spectrum = np.abs(np.fft.rfft(tone))
    peaks, _ = find_peaks(spectrum, height=0.03 * spectrum.max(), distance=100)
    pitches = peaks * rate / len(tone)
    # C5 is 523.25 Hz (ISO 16: A4 is 440 Hz; equal steps).
    assert pitches[0] == pytest.approx(440.0 * 2.0 ** (3 / 12), abs=2.0)


def test_where_no_sound_can_be_played_the_desktop_signals(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    rung = []
    monkeypatch.setattr("bralto.ui.model.bell.QApplication.beep", lambda: rung.append(1))
    monkeypatch.setitem(sys.modules, "PyQt6.QtMultimedia", None)
    bell = Bell()
    bell.ring()
    bell.ring()
    assert len(rung) == 2


@pytest.mark.usefixtures("quick_sheets")
@pytest.mark.parametrize("wished", [True, False])
def test_it_rings_once_when_the_time_of_a_pose_is_over_and_only_if_it_is_wished(
    open_window: Callable[[Path], MainWindow], tmp_path: Path, qtbot: QtBot,
    monkeypatch: pytest.MonkeyPatch, wished: bool,
) -> None:  # fmt: skip
    root = tmp_path / "library"
    window = open_window(root)
    window.go("Model")
    place = house(window).model
    assert not place.series.bell.isChecked()  # a class is quiet
    if wished:
        place.series.bell.click()
        assert Settings(root).bell
    rung = []
    monkeypatch.setattr(place.bell, "ring", lambda: rung.append(1))
    place.state.throw_series(2, 5.0)
    place.draw_this(full=False)
    sheet = place.sheet
    assert sheet is not None
    for shown in (1, 2):
        qtbot.waitUntil(lambda: sheet.in_sight, timeout=60_000)
        while sheet.left_s and sheet.in_sight:
            assert len(rung) == (shown - 1) * int(wished)
            sheet.tick()
        assert len(rung) == shown * int(wished)
