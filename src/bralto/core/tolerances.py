"""Every tolerance and statistical constant of the core, once, with unit and source."""

from __future__ import annotations

from bralto.core.quick_tuples import NamedTuple

__all__ = [
    "CHI_SQUARED_MEDIAN",
    "COVERAGE",
    "DEFAULT_SPREAD_PX",
    "FARTHEST_PX",
    "GRADES",
    "GRADES_OF",
    "HUBER",
    "RAYLEIGH_MEDIAN",
    "SAME_SPOT_PX",
    "Grade",
]

COVERAGE = 2.0
"""Coverage factor k of an expanded uncertainty, about 95 % (JCGM 100:2008, 6.3.3)."""

HUBER = 1.345
"""Huber's tuning constant: 95 % efficiency for normal errors (Huber 1981, Robust Statistics)."""

CHI_SQUARED_MEDIAN = 0.45493642311957283
"""Median of chi-squared with 1 degree of freedom: of a squared normal error in its own units."""

RAYLEIGH_MEDIAN = 1.1774100225154747
"""Median of |r| / sigma for a circular normal error in the plane: sqrt(2 ln 2)."""

DEFAULT_SPREAD_PX = 1.5
"""Standard deviation of placing a mark, in screen px, where nothing better is known
(common practice, no source). A study file that gives no spread means this many picture px."""

FARTHEST_PX = 1e6
"""No mark lies further than this from its picture's corner: sums of squares stay exact."""

SAME_SPOT_PX = 1e-6
"""Two marks nearer than this (picture px) are one spot: a slip of the hand, not a landmark."""


class Grade(NamedTuple):
    """A learner's grade: how large an error may be before it is named.

    Attributes:
        head: tolerance of lengths, in heads.
        degrees: tolerance of angles, in degrees.
        percent: tolerance of fractions and ratios, in percent.
    """

    name: str
    head: float
    degrees: float
    percent: float


# Common practice, no source: a tenth, a twentieth and a fortieth of a head.
GRADES: dict[str, Grade] = {
    "learning": Grade("learning", 0.10, 5.0, 5.0),
    "developing": Grade("developing", 0.05, 3.0, 3.0),
    "exacting": Grade("exacting", 0.025, 1.5, 1.5),
}
"""Of a whole figure."""

GRADES_OF: dict[str, dict[str, Grade]] = {
    "figure": GRADES,
    "portion": {
        name: GRADES[name]._replace(head=head)
        for name, head in (("learning", 0.06), ("developing", 0.03), ("exacting", 0.015))
    },
    "part": {
        name: GRADES[name]._replace(head=head)
        for name, head in (("learning", 0.03), ("developing", 0.015), ("exacting", 0.008))
    },
}
"""By how much of a body a view shows: of a head or a hand a third in heads, since 0.05 head is 0.4
of an eye; of what is some heads long, a leg, an arm or a torso, in between. Of what is drawn 250 mm
long *developing* so allows 1.7 mm of a figure, 1.9 to 3 of a leg, an arm, a torso, 3.8 of a head,
4.9 of a hand. Angles and percents alike (chosen here, no source)."""
