"""How far away the sitter of practice stands, and how that is chosen."""

from __future__ import annotations

from collections.abc import Callable

from bralto.core.sightings.standing_off import (
    DISTANCES_M,
    EYE_MM,
    EYES_MM,
    away_m,
    head_mm_at,
)
from bralto.ui.settings import Settings
from bralto.ui.sight.practice.sitter import Sitter
from bralto.ui.widgets.heading import Choice

__all__ = ["SitterDistance"]

_NEAR, _CARD, _AWAY, _EYE = "near", "card", "away ", "eye "


class SitterDistance:
    """The sitter is shown as large as a person is who stands so far away."""

    def __init__(self, sitter: Sitter, size: str, head_px: float, settings: Settings) -> None:
        """
        Args:
            size: of the view (`View.size`): a head is seen from nearer by than a figure.
            head_px: height of the sitter's head, px of the picture.
        """
        self._sitter, self._size, self._head_px = sitter, size, head_px
        self._settings = settings

    def show(self, px_per_mm: float) -> None:
        """Show the sitter as far away as was chosen.

        Args:
            px_per_mm: px of the window a millimetre of the screen.
        """
        metres = self._settings.sitter_m.get(self._size)
        wanted = None
        if metres is not None:
            wanted = self._head_px / (head_mm_at(metres, self._eye_mm) * px_per_mm)
        self._sitter.show_at(wanted)

    def eye_said(self) -> str:
        """From where it is looked at."""
        return f"for an eye {self._eye_mm / 10.0:g} cm from the screen"

    def choice(
        self, px_per_mm: float, check: Callable[[], None], use: Callable[[], None]
    ) -> Choice:
        """Where the sitter stands, and the learner's eye.

        Args:
            check: asks how large a mm is on this screen.
            use: called after another choice.
        """
        settings, nearest = self._settings, self._nearest(px_per_mm)
        further = [one for one in DISTANCES_M[self._size] if one > nearest]
        options = [(_NEAR, f"As near as there is room: {nearest:.1f} m")]
        options += [(f"{_AWAY}{one:g}", f"{one:g} m away") for one in further]
        options.append(("", ""))
        options += [(f"{_EYE}{one:g}", f"My eye is {one / 10.0:g} cm from the screen")
                    for one in EYES_MM]  # fmt: skip
        options += [("", ""), (_CARD, "Lay a bank card on the screen …")]
        metres = settings.sitter_m.get(self._size)
        stands = f"{_AWAY}{metres:g}" if metres in further else _NEAR

        def take(key: str) -> None:
            if key == _CARD:
                check()
                return
            if key.startswith(_EYE):
                settings.set_eye_mm(float(key.removeprefix(_EYE)))
            else:
                away = None if key == _NEAR else float(key.removeprefix(_AWAY))
                settings.set_sitter_m(self._size, away)
            use()

        # Until a card has told how large a mm is here, the desktop may be wrong about it.
        about = "" if settings.px_per_mm is not None else "about "
        words = f"{about}{round(max(nearest, metres or 0.0), 1):g} m away"
        current = frozenset({stands, f"{_EYE}{self._eye_mm:g}"})
        return Choice(words, tuple(options), current, take)

    @property
    def _eye_mm(self) -> float:
        return self._settings.eye_mm or EYE_MM

    def _nearest(self, px_per_mm: float) -> float:
        """How far away, m, a sitter stands who is as large as there is room."""
        return away_m(self._head_px / self._sitter.nearest / px_per_mm, self._eye_mm)
