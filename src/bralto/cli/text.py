"""An assessment as plain text for a terminal: what is off first, then the whole."""

from __future__ import annotations

from bralto.core.assessment import Assessment
from bralto.core.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.wording import error_text, value_text

__all__ = ["assessment_text", "canon_text"]

_LABEL = 44


def assessment_text(assessment: Assessment) -> str:
    """What is off, worst first; what cannot be told; the whole drawing."""
    lines = [
        f"{assessment.title or 'Untitled study'}, state '{assessment.state}'",
        f"{assessment.view.key}, fitted by {assessment.school}, grade {assessment.grade}",
        "",
    ]
    found = assessment.corrections
    if isinstance(found, NotMeasurable):
        lines += [f"Corrections: none, {found.reason}.", ""]
    elif found:
        lines.append("Corrections, the greatest first:")
        lines += [f"  {number}. {one.text}" for number, one in enumerate(found, start=1)]
        lines.append("")
    else:
        lines += ["Corrections: none that stands out from what marks and hand leave open.", ""]
    off = assessment.off()
    lines.append(f"Off: {len(off)}" if off else "Nothing is off.")
    lines += [_line(reading) for reading in off]
    unsure = [r for r in assessment.readings if r.verdict == "cannot tell"]
    if unsure:
        lines += ["", "Cannot tell: " + ", ".join(r.spec.id for r in unsure)]
    measured = [r for r in assessment.readings if r.verdict != "not measured"]
    lines += ["", f"{len(measured)} of {len(assessment.readings)} measures have their marks."]
    lines += _whole(assessment)
    return "\n".join(lines)


def canon_text(canon: str, whose: str, readings: tuple[Reading, ...]) -> str:
    """More or less than an average, which nobody is."""
    lines = [f"The {whose} against the canon {canon}, an average and no verdict:"]
    words = {"over": "more", "under": "less", "within": "as the canon"}
    for one in readings:
        if one.verdict != "not measured":
            label = f"{one.spec.id}  {one.spec.label}"
            said = words.get(one.verdict, one.verdict)
            value, average = value_text(one, one.drawing), value_text(one, one.reference)
            lines.append(f"  {label:<{_LABEL}} {said:<13} {value}, canon {average}")
    return "\n".join(lines)


def _line(reading: Reading) -> str:
    label = f"{reading.spec.id}  {reading.spec.label}"
    seen, drawn = value_text(reading, reading.reference), value_text(reading, reading.drawing)
    note = f"  ({reading.note})" if reading.note else ""
    return f"  {label:<{_LABEL}} {error_text(reading):<22} seen {seen}, drawn {drawn}{note}"


def _whole(assessment: Assessment) -> list[str]:
    lines = []
    for name, miss in (("all marks", assessment.miss), ("short set", assessment.short_miss)):
        if isinstance(miss, NotMeasurable):
            lines.append(f"Typical miss, {name}: not known, {miss.reason}.")
        else:
            lines.append(
                f"Typical miss, {name}: {miss.value:.3f} heads ± {miss.u:.3f} "
                f"(mark limit {miss.limit:.3f}, {miss.marks} marks)."
            )
    affine = assessment.affine
    if isinstance(affine, NotMeasurable):
        lines.append(f"Width against height: not known, {affine.reason}.")
    else:
        lines.append(
            f"Too wide by {affine.too_wide_percent:+.1f} %, verticals lean "
            f"{affine.verticals_lean_deg:+.1f}°, levels tilt {affine.levels_tilt_deg:+.1f}°."
        )
    return lines
