"""The pose straightened, told twice: by the bend of the sweep, and by the leans between marks.

Either may be known without the other; where both are, each stands beside the other. They may differ
truly: the sweep runs on through the legs, which may bend as seen under a straightened trunk.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from bralto.core.action.sweep_pairs import SweepPair
from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.correction_words import Correction
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import plain

__all__ = ["bend_beside", "leans_beside"]


def bend_beside(one: Correction, sweeps: Callable[[], Iterable[SweepPair]]) -> str:
    """What the sweep of the whole says beside a correction of straightened leans; "" of any other,
    or where no sweep tells a share.

    Args:
        sweeps: what holds the sweeps of both pictures together, asked of such a correction alone.
    """
    if one.move != "straighten":
        return ""
    kept = next((pair.kept for pair in sweeps() if pair.name == WHOLE), None)
    if kept is None or isinstance(kept, NotMeasurable):
        return ""
    share, apart = 1.0 - one.amount / 100.0, COVERAGE * one.u / 100.0
    reach = kept.high - kept.share
    same = abs(kept.share - share) <= math.hypot(reach, apart)
    how = "The sweep says the same" if same else "The sweep from head to foot says"
    bend, low, high = (plain(100.0 * end, 0) for end in (kept.share, kept.low, kept.high))
    return f"{how}: {bend} % of its bend kept, {low} to {high}"


def leans_beside(corrections: Iterable[Correction]) -> str:
    """What the marks say beside the bend that was kept; "" where no lean is told straightened."""
    one = next((one for one in corrections if one.move == "straighten"), None)
    if one is None:
        return ""
    return f"{100.0 - one.amount:.0f} % of the leans between marks, {one.doubt}"
