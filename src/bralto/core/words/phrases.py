"""Figures, days and reasons as bits of text; `wording`, which knows readings, loads NumPy."""

from __future__ import annotations

from datetime import date, datetime

__all__ = [
    "MONTHS", "between", "day_words", "decimals_beside", "figure_and_doubt", "how_many", "local",
    "minutes", "month_words", "part_of", "plain", "sentence", "short_day_words", "signed", "spread",
    "time_spent", "weekday", "with_doubt",
]  # fmt: skip


def sentence(reason: str) -> str:
    """A reason as a sentence of its own."""
    return f"{reason[:1].upper()}{reason[1:]}."


def between(low: float, high: float) -> str:
    """'2.5 to 3', or the one number that both are."""
    first, last = (f"{value:.3g}".replace("-", "−") for value in (low, high))
    return first if first == last else f"{first} to {last}"


def how_many(number: int, one: str) -> str:
    """'1 mark', '3 marks', '3 studies'."""
    if number == 1:
        return f"1 {one}"
    ends_in_ies = one.endswith("y") and one[-2:-1] not in "aeiou"
    return f"{number} {one[:-1]}ies" if ends_in_ies else f"{number} {one}s"


def part_of(number: int, whole: int, one: str) -> str:
    """'2 of 3 marks'; '1 mark' where there is but one."""
    of = "" if number == whole == 1 else f"{number} of "
    return of + how_many(whole, one)


def minutes(seconds: float) -> str:
    """'4 min', never less than one."""
    return f"{max(1, round(seconds / 60.0))} min"


def time_spent(seconds: float, before: str) -> str:
    """', 4 min' with what stands before it; nothing of less than half a minute, which is no work
    at all."""
    return f"{before}{minutes(seconds)}" if seconds >= _LEAST_S else ""


_LEAST_S = 30.0


_FINER = 2
"""Decimals more at most."""


def decimals_beside(doubt: float, digits: int) -> int:
    """Decimals of a figure and of the doubt beside it: some more than ``digits`` where the doubt
    would round to nought, for a figure is given as far as its uncertainty (JCGM 100:2008, 7.2.6).
    """
    if doubt <= 0.0:
        return digits
    more = (one for one in range(_FINER) if f"{doubt:.{digits + one}f}".strip("0."))
    return digits + next(more, _FINER)


def spread(value: float, digits: int) -> str:
    """An uncertainty, above 0: with digits more where it would round to nought, and never less
    than one of the last."""
    return _not_nought(value, decimals_beside(value, digits))


def _not_nought(doubt: float, decimals: int) -> str:
    least = 10.0**-decimals if doubt > 0.0 else 0.0
    return f"{max(doubt, least):.{decimals}f}"


def figure_and_doubt(
    value: float, doubt: float, digits: int, *, sign: bool = False
) -> tuple[str, str]:
    """'0.34' and '± 0.05', or '0.340' and '± 0.002': both to the same decimal; ``sign``, with its
    plus."""
    both = decimals_beside(doubt, digits)
    return (signed if sign else plain)(value, both), f"± {_not_nought(doubt, both)}"


def with_doubt(value: float, doubt: float, digits: int, *, sign: bool = False) -> str:
    """'0.34 ± 0.05': `figure_and_doubt` in one."""
    return " ".join(figure_and_doubt(value, doubt, digits, sign=sign))


def signed(value: float, digits: int) -> str:
    """A number with its sign; nothing rounds to minus nought."""
    text = f"{value:+.{digits}f}"
    if not text.strip("+-0."):
        return text[1:]
    return text.replace("-", "−")


def plain(value: float, digits: int) -> str:
    """A number without a plus; nothing rounds to minus nought."""
    return signed(value, digits).removeprefix("+")


def local(when: datetime) -> datetime:
    """An instant on the clock of this machine: a day is the learner's own."""
    return when.astimezone()


MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September",
          "October", "November", "December")  # fmt: skip
"""Not those of the machine's language, in which the rest of a sentence is not: Qt puts that in
force for all that Python formats."""

_WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


def day_words(when: datetime) -> str:
    """*7 October 2026*."""
    return f"{short_day_words(when)} {local(when).year}"


def short_day_words(when: datetime) -> str:
    """*7 October*."""
    here = local(when)
    return f"{here.day} {MONTHS[here.month - 1]}"


def month_words(year: int, month: int) -> str:
    """*October 2026*."""
    return f"{MONTHS[month - 1]} {year}"


def weekday(day: date) -> str:
    """*Wednesday*."""
    return _WEEKDAYS[day.weekday()]
