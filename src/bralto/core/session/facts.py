"""What a pass shows beside the ladder: a few figures of both pictures, side by side."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from bralto.core.canons.compare import completed
from bralto.core.canons.shipped_canons import Average, Canon
from bralto.core.discover.envelope import Envelope, envelope_of
from bralto.core.discover.figures import Figure
from bralto.core.examination.assessment import Assessment
from bralto.core.measures.kinds import fold_degrees
from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict import tolerance_of, verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.views.laid_down import FROM_LEVEL
from bralto.core.views.model import MeasureSpec, View
from bralto.core.views.pass_keys import PassKey
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import plain, signed, with_doubt
from bralto.core.words.wording import simple_ratio

__all__ = ["canon_facts", "edge_facts", "facts_of", "reading_facts"]


def facts_of(
    assessment: Assessment,
    step: str,
    seen: Figure | NotMeasurable,
    drawn: Figure | NotMeasurable,
) -> tuple[Fact, ...]:
    """The facts of one pass, worst first where there is an error."""
    if step == PassKey.EDGES:
        return edge_facts(assessment, seen, drawn)
    return reading_facts(assessment, step)


def edge_facts(
    assessment: Assessment, seen: Figure | NotMeasurable, drawn: Figure | NotMeasurable
) -> tuple[Fact, ...]:
    """Width : height as a simple fraction, heads in the whole, and which marks are outermost."""
    if isinstance(seen, NotMeasurable):
        return ()
    view = assessment.view
    one = envelope_of(seen)
    other = None if isinstance(drawn, NotMeasurable) else envelope_of(drawn)
    if one is None:
        return ()

    def outermost(box: Envelope | None, edge: str) -> str:
        return view.point_label(box.marks[edge]) if box else ""

    facts = [_width_height(assessment, one, other)]
    count = f"{view.unit}s in the height"
    facts.append(Fact(count, _count(view, one), _count(view, other) if other else ""))
    for edge, words in (("left", "outermost, left"), ("right", "outermost, right")):
        marks = [box.marks[edge] for box in (one, other) if box]
        same = other is not None and one.marks[edge] == other.marks[edge]
        facts.append(
            Fact(
                words,
                outermost(one, edge),
                outermost(other, edge),
                Verdict.WITHIN if same else Verdict.NOT_MEASURED,
                points=tuple(dict.fromkeys(marks)),
            )
        )
    return tuple(facts)


def _count(view: View, box: Envelope) -> str:
    """How many heads; with its doubt where an average stands for the head itself."""
    doubt = COVERAGE * view.heads_scatter * box.height
    return with_doubt(box.height, doubt, 1) if doubt else f"{box.height:.1f}"


def _width_height(assessment: Assessment, one: Envelope, other: Envelope | None) -> Fact:
    points = (one.marks["left"], one.marks["right"])
    if other is None:
        return Fact("width : height", simple_ratio(one.ratio), points=points)
    if one.ratio <= 0.0:  # every mark on one plumb line
        return Fact("width : height", "no width", points=points)
    error = other.ratio / one.ratio - 1.0
    u = (1.0 + error) * math.hypot(one.u / one.ratio, other.u / max(other.ratio, 1e-9))
    allowed = tolerance_of("ratio", assessment.view.grade(assessment.grade))
    verdict = verdict_on(error, u, allowed)
    drawn = f"{simple_ratio(other.ratio)}, {signed(100.0 * error, 0)} %"
    return Fact("width : height", simple_ratio(one.ratio), drawn, verdict, error > 0.0, points)


def reading_facts(assessment: Assessment, step: str) -> tuple[Fact, ...]:
    """Fractions and proportions of a pass; of the widths also the spans and left against right, of
    the tilts the axes of the limbs and the angles between lines, of the likeness all; of a figure
    that lies also how far all lies from the level and from the plumb line, for there is no ladder
    then."""
    offers = {one.key for one in assessment.view.passes if one.offer}
    chosen = [
        r
        for r in assessment.readings
        if r.spec.step == step
        if _shown(r.spec, step, offered=step in offers) or _placed_lying(assessment.view, r.spec)
        if r.reference is not None and (r.spec.telling or r.spec.id.startswith("ratio.sides"))
    ]
    chosen.sort(key=lambda r: (not r.verdict.off, -r.severity))
    return tuple(_fact(one) for one in chosen)


def _shown(spec: MeasureSpec, step: str, *, offered: bool) -> bool:
    """Whether a pass shows a measure of its own among its facts; ``offered``, it is an offer, and
    the ladder has none of it."""
    if offered:
        return spec.kind not in {"height", "offset"}
    if step == PassKey.TILTS:
        return spec.kind in {"tilt", "angle"} and spec.skill in {"tilts", "angles"}
    if spec.kind == "span":
        return step == PassKey.WIDTHS and spec.skill == "widths"
    return spec.kind in {"fraction", "ratio"} and spec.skill in {"widths", "fractions", "lengths"}


def _placed_lying(view: View, spec: MeasureSpec) -> bool:
    """Whether a measure says how far a mark of a figure that lies is from the level or the plumb
    line, but for the mark on both."""
    return view.lies and spec.kind in {"height", "offset"} and view.plumb != spec.points[1]


def canon_facts(
    view: View, canon: Canon, readings: Sequence[Reading], step: str
) -> tuple[Fact, ...]:
    """What of a pass a picture and an average both have, the least usual first; ``seen`` is the
    average's, from and to, ``drawn`` the picture's.

    Args:
        readings: the picture against the canon (`canons.compare.against_canon`).
    """
    averages = completed(view, canon)
    chosen = [r for r in readings if r.spec.step == step and r.error is not None and r.u]
    chosen.sort(key=lambda r: (not r.verdict.off, -r.severity))
    return tuple(_against_average(one, averages[one.spec.id]) for one in chosen)


def _against_average(one: Reading, average: Average) -> Fact:
    fact = _fact(one)
    nearest = one.reference or 0.0
    if not average.low <= nearest <= average.high:  # of a figure that faces the other way
        average = average.mirrored()
    ends = [_figure(one, value) for value in (average.low, average.high)]
    return fact if ends[0] == ends[1] else replace(fact, seen=f"{ends[0]} to {ends[1]}")


def _fact(one: Reading) -> Fact:
    height = one.spec.kind == "height"
    return Fact(
        one.spec.label.removesuffix(FROM_LEVEL) if height else one.spec.label,
        _figure(one, one.reference),
        _figure(one, one.drawing, beside=one.reference),
        one.verdict,
        one.more,
        one.spec.points,
        down=height,
    )


def _figure(one: Reading, value: float | None, beside: float | None = None) -> str:
    """A value as a pass shows it; the direction of a line without ends so that it can be held
    against another ``beside`` it: −92° beside −88°, not 88°."""
    if value is None:
        return ""
    if one.spec.kind == "fraction":
        return f"{plain(100.0 * value, 0)} %"
    if one.spec.label.endswith(FROM_LEVEL):
        return f"{abs(value):.2f} {'below' if value > 0.0 else 'above'}"
    if one.unit == "degree":
        # A line has no ends, and a joint's bend no side.
        # That of a head is said from plumb.
        turned = value + 90.0 if one.spec.against_plumb else value
        shown = value
        if one.spec.kind == "tilt":
            by = 0.0 if beside is None else fold_degrees(value - beside)
            shown = fold_degrees(turned - by) + by
        shown = abs(shown) if one.spec.kind == "angle" and abs(shown) > 90.0 else shown
        return f"{plain(shown, 0)}°"
    return plain(value, 2)
