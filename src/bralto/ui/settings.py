"""What the learner has set, kept as a small JSON file beside the library."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from bralto.core.errors import UserError
from bralto.core.session.tapes import TAPES, TapeOrder, usual_tape
from bralto.core.words.lengths import WAYS
from bralto.disk.nested import is_deep
from bralto.disk.private import write_private
from bralto.disk.regular import read_text

__all__ = ["FIGURES_BEGIN", "HEAD_ORDERS", "SCALES", "STEP_BACK_MIN", "Settings"]

SCALES = (100, 115, 130, 150, 175)
"""Sizes of the interface's text, percent."""

STEP_BACK_MIN = 7
"""Minutes of work after which to step back from the drawing and rest eyes and wrist
(common practice, no source)."""

HEAD_ORDERS = {"": "top and bottom", "outline": "the outline", "eye": "one eye"}
"""Orders of the views of a head (`View.orders`) in words; "" is the view's own."""

FIGURES_BEGIN = {TapeOrder.EDGES: "its edges", TapeOrder.ACTION: "its action"}
"""What may come first on the tape of a figure in words."""

_FILE = "settings.json"
_LARGEST = 64 * 1024
_MOST_DEGREES = 1_000_000
_LAST_PAPERS = 4
_PX_PER_MM, _EYE_MM, _SITTER_M = (0.5, 100.0), (100.0, 10_000.0), (0.1, 100.0)


def _number_within(value: object, bounds: tuple[float, float]) -> float | None:
    """A kept number, or None where it is none or beyond what can be meant."""
    if not isinstance(value, int | float) or isinstance(value, bool):
        return None
    return float(value) if bounds[0] < value < bounds[1] else None


class Settings:
    """Read once, written at every change; a damaged file counts as empty."""

    def __init__(self, root: Path) -> None:
        self._path = root / _FILE
        self._values: dict[str, Any] = {}
        self.refused = ""
        """Why the last change could not be kept beyond this run, or ""."""
        try:
            if not self._path.exists():
                return
            found = json.loads(read_text(self._path, "the settings", _LARGEST))
        except (UserError, OSError, ValueError, RecursionError):
            return
        if isinstance(found, dict) and not is_deep(found):
            self._values = found

    @property
    def drop_folder(self) -> Path | None:
        """The folder that is watched for new pictures, or None."""
        name = self._values.get("drop_folder")
        return Path(name) if isinstance(name, str) and name else None

    def set_drop_folder(self, folder: Path | None) -> None:
        """Watch another folder, or none."""
        self._keep("drop_folder", "" if folder is None else str(folder))

    @property
    def guess_first(self) -> bool:
        """Whether the eye is asked before a drawing is measured."""
        return self._values.get("guess_first") is not False

    def set_guess_first(self, on: bool) -> None:
        """Ask by itself, or only when it is wished."""
        self._keep("guess_first", on)

    @property
    def greatest_first(self) -> bool:
        """Whether corrections stand by what they take away, not in the order of work."""
        return self._values.get("greatest_first") is True

    def set_greatest_first(self, on: bool) -> None:
        """The greatest first, or the whole before the part."""
        self._keep("greatest_first", on)

    @property
    def head_order(self) -> str:
        """Where a head is begun: one of `HEAD_ORDERS`."""
        value = self._values.get("head_order")
        return value if isinstance(value, str) and value in HEAD_ORDERS else ""

    def set_head_order(self, order: str) -> None:
        """Begin heads elsewhere."""
        self._keep("head_order", order)

    def tape(self, view: str) -> TapeOrder:
        """What comes first on the tape of a view: what was chosen there last, or
        what the learner begins figures with."""
        kept = self._values.get("tapes")
        of_views = kept if isinstance(kept, dict) else {}
        usual = usual_tape(view, self.figures_begin)
        value = of_views.get(view)
        return TapeOrder(value) if isinstance(value, str) and value in TAPES else usual

    def set_tape(self, view: str, tape: TapeOrder) -> None:
        """Another order of the passes in a view."""
        kept = self._values.get("tapes")
        self._keep("tapes", {**(kept if isinstance(kept, dict) else {}), view: tape})

    @property
    def figures_begin(self) -> TapeOrder:
        """What a figure begins with."""
        value = self._values.get("figures_begin")
        if isinstance(value, str) and value in TAPES:
            return TapeOrder(value)
        return TapeOrder.EDGES

    def set_figures_begin(self, tape: TapeOrder) -> None:
        """Begin all figures so; what was chosen in single views of them is forgotten."""
        kept = self._values.get("tapes")
        of_views = kept if isinstance(kept, dict) else {}
        rest = {view: t for view, t in of_views.items() if not str(view).startswith("figure")}
        self._values["tapes"] = rest
        self._keep("figures_begin", tape)

    def hand(self, view: str) -> dict[str, tuple[float, int]]:
        """The learner's own spread in a view, heads, and its degrees of freedom, by kind of
        landmark."""
        kept = self._values.get("hand")
        of_view = kept.get(view) if isinstance(kept, dict) else None
        out = {}
        for kind, figures in of_view.items() if isinstance(of_view, dict) else ():
            try:
                spread, degrees = float(figures[0]), int(figures[1])
            except (TypeError, ValueError, IndexError, KeyError, OverflowError):
                continue
            if 0.0 < spread < 1.0 and 0 < degrees < _MOST_DEGREES:
                out[str(kind)] = (spread, degrees)
        return out

    def set_hand(self, view: str, hand: Mapping[str, tuple[float, int]]) -> None:
        """Marks of a view were placed again."""
        kept = self._values.get("hand")
        views = dict(kept) if isinstance(kept, dict) else {}
        views[view] = {
            kind: [round(spread, 6), degrees] for kind, (spread, degrees) in hand.items()
        }
        self._keep("hand", views)

    @property
    def arm(self) -> dict[str, tuple[float, int]]:
        """How far the learner's sightings scatter (`core.sightings.own_arm.Arm`)."""
        kept = self._values.get("arm")
        out = {}
        for family, figures in kept.items() if isinstance(kept, dict) else ():
            try:
                factor, degrees = float(figures[0]), int(figures[1])
            except (TypeError, ValueError, IndexError, KeyError, OverflowError):
                continue
            if 0.0 < factor < 100.0 and 0 < degrees < _MOST_DEGREES:
                out[str(family)] = (factor, degrees)
        return out

    def set_arm(self, arm: Mapping[str, tuple[float, int]]) -> None:
        """Something was sighted twice."""
        kept = {family: [round(factor, 6), many] for family, (factor, many) in arm.items()}
        self._keep("arm", kept)

    @property
    def px_per_mm(self) -> float | None:
        """px of a window that a millimetre has on this screen, as it was checked with a card."""
        return _number_within(self._values.get("px_per_mm"), _PX_PER_MM)

    def set_px_per_mm(self, px: float) -> None:
        """A card was laid on the screen."""
        self._keep("px_per_mm", round(px, 4))

    @property
    def eye_mm(self) -> float | None:
        """How far from the screen the learner's eye is, mm, where that was said."""
        return _number_within(self._values.get("eye_mm"), _EYE_MM)

    def set_eye_mm(self, mm: float) -> None:
        """The eye is elsewhere."""
        self._keep("eye_mm", mm)

    @property
    def sitter_m(self) -> dict[str, float]:
        """How far away a sitter stands for practice, m, by `View.size`; one that is not in it
        stands as near as there is room."""
        kept = self._values.get("sitter_m")
        of_sizes = kept if isinstance(kept, dict) else {}
        read = {str(size): _number_within(one, _SITTER_M) for size, one in of_sizes.items()}
        return {size: metres for size, metres in read.items() if metres is not None}

    def set_sitter_m(self, size: str, metres: float | None) -> None:
        """A sitter stands elsewhere; with None as near as there is room."""
        rest = {key: value for key, value in self.sitter_m.items() if key != size}
        self._keep("sitter_m", rest if metres is None else {**rest, size: metres})

    @property
    def glides(self) -> bool:
        """Whether boards glide to the next mark, where the desktop lets things move."""
        return self._values.get("glides") is not False

    def set_glides(self, on: bool) -> None:
        """Glide there, or be there at once."""
        self._keep("glides", on)

    @property
    def bell(self) -> bool:
        """Whether a soft bell rings when the time of a pose is over."""
        return self._values.get("bell") is True

    def set_bell(self, on: bool) -> None:
        """Ring, or be silent."""
        self._keep("bell", on)

    @property
    def lengths(self) -> str:
        """How lengths are said: one of `core.words.lengths.WAYS`."""
        value = self._values.get("lengths")
        return value if isinstance(value, str) and value in WAYS else "mm"

    def set_lengths(self, way: str) -> None:
        """Say lengths in another way, from the next start on."""
        self._keep("lengths", way)

    @property
    def papers(self) -> tuple[tuple[float, float], ...]:
        """Sizes of the sheets that were kept last, mm, the shorter side first, the last one
        first."""
        kept = self._values.get("papers")
        out = []
        for one in kept if isinstance(kept, list) else ():
            try:
                short, long = float(one[0]), float(one[1])
            except (TypeError, ValueError, IndexError, KeyError, OverflowError):
                continue
            if 0.0 < short <= long < 1e4:
                out.append((short, long))
        return tuple(out[:_LAST_PAPERS])

    def note_paper(self, size_mm: tuple[float, float]) -> None:
        """A sheet of that size was kept."""
        size = (min(size_mm), max(size_mm))
        rest = [one for one in self.papers if one != size]
        self._keep("papers", [list(one) for one in (size, *rest)][:_LAST_PAPERS])

    @property
    def text_scale(self) -> int:
        """Size of the interface's text, percent; one of `SCALES`."""
        value = self._values.get("text_scale")
        return value if isinstance(value, int) and value in SCALES else SCALES[0]

    def set_text_scale(self, percent: int) -> None:
        """Another size of text, from the next start on."""
        self._keep("text_scale", percent)

    @property
    def step_back_min(self) -> int:
        """Minutes of work after which to step back; 0 for never."""
        value = self._values.get("step_back_min")
        return value if isinstance(value, int) and 0 <= value <= 60 else STEP_BACK_MIN

    def set_step_back_min(self, minutes: int) -> None:
        """Another time of work between two looks from afar."""
        self._keep("step_back_min", minutes)

    def _keep(self, name: str, value: object) -> None:
        self._values[name] = value
        try:
            write_private(self._path, json.dumps(self._values, indent=1).encode() + b"\n")
        except OSError as error:
            why = error.strerror
            self.refused = f"It holds until Bralto is closed: it could not be kept ({why})."
        else:
            self.refused = ""
