"""An assessment as plain text for a terminal: what is off first, then the whole."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from bralto.core.canons.compare import averages_beside
from bralto.core.canons.shipped_canons import Average
from bralto.core.corrections.causes import UNIT
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import Assessment
from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import between, how_many, with_doubt
from bralto.core.words.wording import error_text, unit_words, value_text, whole_words

__all__ = ["assessment_text", "canon_text"]

_LABEL = 44

_NAMED = 8
"""Measures that are named where the rest is counted."""


def assessment_text(
    assessment: Assessment,
    beside: Callable[[Correction], str],
    once_corrected: Assessment | None = None,
) -> str:
    """What is doubted; corrections; what is off, worst first; the whole drawing.

    Args:
        beside: what else says the same as a correction, or "".
        once_corrected: of the drawing with its list done, where there is one.
    """
    lines = [
        f"{assessment.title or 'Untitled study'}, state '{assessment.state}'",
        f"{assessment.view.key}, fitted by {assessment.school}, grade {assessment.grade}",
        "",
    ]
    lines += _doubts(assessment)
    lines += _corrections(assessment, beside)
    lines += _off(assessment)
    unsure = [r for r in assessment.readings if r.verdict == Verdict.CANNOT_TELL]
    if unsure:
        named = ", ".join(r.spec.label for r in unsure[:_NAMED])
        more = f" and {len(unsure) - _NAMED} more" if len(unsure) > _NAMED else ""
        lines += ["", f"Cannot be told from these marks: {named}{more}."]
    measured = [r for r in assessment.readings if r.verdict != Verdict.NOT_MEASURED]
    lines += ["", f"{len(measured)} of {len(assessment.readings)} measures have their marks."]
    lines += _whole(assessment)
    if once_corrected is not None:
        lines += _done(once_corrected)
    return "\n".join(lines)


def _doubts(assessment: Assessment) -> list[str]:
    """What must be looked at before any correction is believed."""
    if not assessment.doubts:
        return []
    said = [f"  {one.words} {one.button}." for one in assessment.doubts]
    return ["Look at this first:", *said, ""]


def _corrections(assessment: Assessment, beside: Callable[[Correction], str]) -> list[str]:
    found = assessment.corrections
    if isinstance(found, NotMeasurable):
        return [f"Corrections: none, {found.reason}.", ""]
    if any(one.of_the_whole for one in assessment.doubts):
        return ["Corrections: none before that is settled.", ""]
    causes = assessment.causes
    if not found:
        lines = ["Corrections: none that stands out from what marks and hand leave open."]
        if causes is not None and causes.unit_percent is not None:
            many = len(assessment.following(UNIT))
            lines.append(unit_words(causes.unit_percent, many, assessment.view.unit))
        return [*lines, ""]
    lines = ["Corrections, in the order of work:"]
    for number, one in enumerate(found, start=1):
        most = " It takes away most." if one.greatest and len(found) > 1 else ""
        lines.append(f"  {number}. {one.text}.{most}")
        if also := beside(one):
            lines.append(f"     {also}.")
        if follow := len(assessment.following(number)):
            said = (
                "1 figure that is off follows" if follow == 1 else f"{follow} that are off follow"
            )
            lines.append(f"     {said} from it.")
    return [*lines, ""]


def _off(assessment: Assessment) -> list[str]:
    """What is off: what follows from a correction is counted, what is left over is told."""
    off = assessment.off()
    if not off:
        return ["Nothing is off."]
    lines = [f"Off: {len(off)}"]
    beside = averages_beside(assessment.view) if assessment.canon else None
    for reading in off:
        follows = assessment.cause(reading)
        cause = f"  <- {follows}" if isinstance(follows, int) else ""
        schools = None if beside is None else beside.get(reading.spec.id, {})
        lines.append(_line(reading, schools) + cause)
    return lines


def canon_text(canon: str, whose: str, readings: tuple[Reading, ...]) -> str:
    """More or less than an average, which nobody is."""
    lines = [f"The {whose} against the canon {canon}, an average and no verdict:"]
    words = {Verdict.OVER: "more", Verdict.UNDER: "less", Verdict.WITHIN: "as the canon"}
    for one in readings:
        if one.verdict != Verdict.NOT_MEASURED:
            label = f"{one.spec.id}  {one.spec.label}"
            said = words.get(one.verdict, one.verdict)
            value, average = value_text(one, one.drawing), value_text(one, one.reference)
            lines.append(f"  {label:<{_LABEL}} {said:<13} {value}, canon {average}")
    return "\n".join(lines)


def _line(reading: Reading, beside: Mapping[str, Average] | None = None) -> str:
    """One error; ``beside``, what each school says of it, where no picture stands for what is
    usual."""
    label = f"{reading.spec.id}  {reading.spec.label}"
    seen, drawn = value_text(reading, reading.reference), value_text(reading, reading.drawing)
    note = f"  ({reading.note})" if reading.note else ""
    of = f"seen {seen}"
    if beside is not None:
        schools = (f"{key} {between(one.low, one.high)}" for key, one in beside.items())
        of = f"usual {seen} [{'; '.join(schools)}]"
    return f"  {label:<{_LABEL}} {error_text(reading):<22} {of}, drawn {drawn}{note}"


def _whole(assessment: Assessment) -> list[str]:
    lines, unit = [], f"{assessment.view.unit}s"
    for name, miss in (("all marks", assessment.miss), ("short set", assessment.short_miss)):
        if isinstance(miss, NotMeasurable):
            lines.append(f"Typical miss, {name}: not known, {miss.reason}.")
        else:
            lines.append(
                f"Typical miss, {name}: {with_doubt(miss.value, COVERAGE * miss.u, 3)} {unit} "
                f"(mark limit {miss.limit:.3f}, {how_many(miss.marks, 'mark')})."
            )
    affine = assessment.affine
    if isinstance(affine, NotMeasurable):
        lines.append(f"Width against height: not known, {affine.reason}.")
    else:
        lines.append(f"The whole is {whole_words(affine)}.")
    return lines


def _done(corrected: Assessment) -> list[str]:
    """What is left of the whole's miss and shape, so that no fault is looked for that follows from
    the list."""
    miss, affine = corrected.miss, corrected.affine
    if isinstance(miss, NotMeasurable) or isinstance(affine, NotMeasurable):
        return []
    return [
        f"With the corrections done: typical miss {miss.value:.3f} {corrected.view.unit}s, "
        f"the whole {whole_words(affine)}."
    ]
