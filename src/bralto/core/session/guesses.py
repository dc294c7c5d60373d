"""Guess first: what the eye says before any figure is shown, and what it says of seeing and doing.

With the learner's guess g, the true value r and the drawn value d: g - r is the seeing error,
d - g the hand's (measurement, section 8). Their sum is the error of the drawing.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bralto.core.discover.figures import Figure
from bralto.core.discover.questions import ask
from bralto.core.examination.assessment import Assessment
from bralto.core.measures.kinds import fold_degrees
from bralto.core.measures.posture import STANDS, posture
from bralto.core.measures.view_kinds import UNITS
from bralto.core.study.values import Guess

__all__ = ["GUESSED", "Asked", "Compared", "Told", "questions", "seeing_and_doing", "told_right"]

GUESSED = "guess first"
"""Under which the answers to questions without a figure stand in the notes."""

_NUMBERS: tuple[tuple[str, str, float, float, float], ...] = (
    ("span.figure", "How many heads high is the whole figure?", 1.0, 12.0, 0.1),
    ("tilt.shoulders", "How far does the line of the shoulders tilt?", -45.0, 45.0, 1.0),
    ("tilt.hips", "How far does the line of the hips tilt?", -45.0, 45.0, 1.0),
    ("tilt.eyes", "How far does the eye line tilt?", -45.0, 45.0, 1.0),
    ("fraction.crotch_half", "How far down the whole is the crotch, in percent?", 0.0, 100.0, 1.0),
    ("fraction.eye_half", "How far down the head are the eyes, in percent?", 0.0, 100.0, 1.0),
    ("tilt.knuckles", "How far does the line of the knuckles tilt?", -90.0, 90.0, 1.0),
    ("span.width", "How wide is it, counted in quarters of its height?", 0.0, 12.0, 0.1),
)
"""Measure, question, least and largest answer, step. Percent of a fraction, degrees of a tilt."""

_ALONG = {
    "span.figure": "How many heads long is the figure from end to end?",
    "fraction.crotch_half": "How far from crown to sole is the crotch, in percent?",
}
"""How it is asked of a figure that does not stand."""

_MOST_CHOICES = 3


@dataclass(frozen=True, slots=True)
class Asked:
    """One question: with ``options`` to choose from, or else a number between ``low`` and ``high``.

    Attributes:
        key: measure id of a number, else the question's own words.
        unit: what the number is in, as it is written behind it.
        answer: which option is right; "" for a number.
    """

    key: str
    text: str
    options: tuple[str, ...] = ()
    answer: str = ""
    low: float = 0.0
    high: float = 0.0
    step: float = 1.0
    unit: str = ""

    @property
    def digits(self) -> int:
        """Behind the decimal point, as finely as it can be answered."""
        return 0 if self.step >= 1.0 else 1

    @property
    def factor(self) -> float:
        """What is shown a unit of the measure: percent of fractions."""
        return 100.0 if self.unit == " %" else 1.0


@dataclass(frozen=True, slots=True)
class Compared:
    """One guess against what is seen and drawn; all in what the question was asked in.

    Attributes:
        seeing: guess less seen. hand: drawn less guess, None where it is not drawn yet.
    """

    label: str
    unit: str
    digits: int
    guess: float
    seen: float
    drawn: float | None
    seeing: float
    hand: float | None


@dataclass(frozen=True, slots=True)
class Told:
    """A question without a figure: what was answered, and what is so."""

    text: str
    given: str
    answer: str


def questions(figure: Figure) -> tuple[Asked, ...]:
    """Practical questions on a reference, numbers and choices by turns, at most seven."""
    view, table = figure.view, figure.table
    units = {"degree": "°", "fraction": " %", "head": f" {view.unit}s"}
    stands = posture(view, figure.marks) == STANDS
    numbers = [
        Asked(
            key,
            text if stands else _ALONG.get(key, text),
            low=low,
            high=high,
            step=step,
            unit=units[UNITS[spec.kind]],
        )
        for key, text, low, high, step in _NUMBERS
        if (spec := view.measure(key)) is not None and table.ok[view.measure_rows[key]]
    ]
    choices = [
        Asked(one.text, one.text, one.options, one.answer) for one in ask(figure, _MOST_CHOICES)
    ]
    out: list[Asked] = []
    for i in range(max(len(numbers), len(choices))):
        out += numbers[i : i + 1] + choices[i : i + 1]
    return tuple(out)


def seeing_and_doing(
    assessment: Assessment, guesses: Sequence[Guess], asked: Sequence[Asked]
) -> tuple[Compared, ...]:
    """The latest guess of each measure against what is seen and what is drawn."""
    latest = {guess.measure: guess.value for guess in guesses}
    out = []
    for one in asked:
        reading = assessment.reading(one.key)
        if one.key not in latest or reading is None or reading.reference is None:
            continue
        tilt = one.unit == "°"
        guess, seen, drawn = latest[one.key], reading.reference, reading.drawing
        if tilt:  # lines without ends: what matters is which side is up, and how far
            seen = fold_degrees(seen)
            drawn = None if drawn is None else fold_degrees(drawn)
        f = one.factor
        seeing = f * (guess - seen)
        hand = None if drawn is None else f * (drawn - guess)
        if tilt:
            seeing, hand = fold_degrees(seeing), None if hand is None else fold_degrees(hand)
        out.append(
            Compared(
                reading.spec.label,
                one.unit,
                one.digits,
                f * guess,
                f * seen,
                None if drawn is None else f * drawn,
                seeing,
                hand,
            )
        )
    return tuple(out)


def told_right(given: Mapping[str, str], asked: Sequence[Asked]) -> tuple[Told, ...]:
    """The questions without a figure that were answered."""
    return tuple(
        Told(one.text, given[one.key], one.answer)
        for one in asked
        if one.options and one.key in given
    )
