"""What `bralto find` tells of the action and of light and shadow."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from bralto.core.action.action_facts import (
    kept_within,
    kept_words,
    limb_facts,
    mass_facts,
    sweep_facts,
)
from bralto.core.action.ground import StandingGround
from bralto.core.action.ground_facts import ground_facts, ground_words
from bralto.core.action.ribs_on_pelvis import Masses
from bralto.core.action.sweep_pairs import Sweep, SweepPair
from bralto.core.errors import UserError
from bralto.core.examination.examine import Examination, GroundPair, examine
from bralto.core.light.light_facts import light_facts
from bralto.core.light.shadows_held import LightReading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import notes_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import State, Study
from bralto.core.words.fact import Fact

__all__ = ["beside_marks", "beside_marks_lines", "examined"]


def examined(study: Study, state: State | None) -> Examination | None:
    """All that is known of a drawing; None where there is none to hold against the reference, or
    where what is lacking is said by what needs it."""
    if state is None:
        return None
    try:
        return examine(study, state)
    except UserError:
        return None


def beside_marks(found: Examination | None) -> dict[str, Any]:
    """The action and the light as JSON data."""
    if found is None:
        return {}
    return {
        "action": _action(found),
        "light": _light(found.both.light),
        "pushes": dict(found.pushes),
        "ground": _ground(found),
    }


def _reason(found: NotMeasurable) -> dict[str, Any]:
    return {"reason": found.reason}


def _action(found: Examination) -> dict[str, Any]:
    masses = {Board.REFERENCE: found.meant.masses, Board.DRAWING: found.drawn.masses}
    return {
        "sweeps": [_sweep(pair) for pair in found.sweeps],
        "masses": {
            whose: asdict(one) if isinstance(one, Masses) else _reason(one)
            for whose, one in masses.items()
        },
        "facts": [
            {"of": of, **asdict(fact)}
            for of, facts in _facts(found)
            for fact in facts
        ],
    }  # fmt: skip


def _facts(found: Examination) -> list[tuple[str, tuple[Fact, ...]]]:
    """The figures under their titles."""
    told = [(pair.name, sweep_facts(pair, found.grade)) for pair in found.sweeps]
    masses = mass_facts(found.meant.masses, found.drawn.masses, found.grade)
    told.append(("ribcage and pelvis", masses))
    told += limb_facts(found.seen.runs, found.drawn.runs, found.grade)
    return told


def _sweep(pair: SweepPair) -> dict[str, Any]:
    kept = pair.kept
    return {
        "name": pair.name,
        "kept": _reason(kept)
        if isinstance(kept, NotMeasurable)
        else {"share": kept.share, "low": kept.low, "high": kept.high, "meant": kept.meant},
        **{
            whose: {"counted": one.counted, **asdict(one.bend)}
            if isinstance(one, Sweep)
            else _reason(one)
            for whose, one in ((Board.REFERENCE, pair.seen), (Board.DRAWING, pair.drawn))
        },
    }


def _ground(found: Examination) -> dict[str, Any]:
    grounds = zip(BOARDS, _grounds(found), strict=True)
    return {
        whose: _reason(one)
        if isinstance(one, NotMeasurable)
        else {
            "eye": asdict(one.eye),
            "feet": {side: asdict(foot) for side, foot in one.feet.items()},
            "across": asdict(one.across),
            "in_depth": asdict(one.apart),
            "one_ground": one.one_ground,
        }
        for whose, one in grounds
    }


def _grounds(found: Examination) -> GroundPair:
    named = notes_of(found.study).horizon
    return found.grounds(named.get(""), named.get(found.state.name))


def _light(found: LightReading | NotMeasurable) -> dict[str, Any]:
    if isinstance(found, NotMeasurable):
        return _reason(found)
    farthest = found.edge_farthest
    return {
        "seen_share": found.seen_share,
        "drawn_share": found.drawn_share,
        "overlap": asdict(found.overlap),
        "edge": None if found.edge is None else asdict(found.edge),
        "edge_farthest": None if farthest is None else asdict(farthest[0]),
        "corners": {
            "reference": found.seen_corners,
            "drawing": found.drawn_corners,
            "reference_big": found.big_corners,
        },
        **{
            name: [{"area": one.area, "centre": one.centre.tolist()} for one in patches]
            for name, patches in (
                ("beyond", found.beyond), ("short", found.short),
                ("lost", found.lost), ("invented", found.invented),
            )
        },
    }  # fmt: skip


def beside_marks_lines(found: Examination | None) -> list[str]:
    """The same in words: only what was drawn, or outlined."""
    if found is None:
        return []
    lines = [
        f"{pair.name.capitalize()}: {kept_words(pair).lower()}, {kept_within(pair)}."
        for pair in found.sweeps
        if not isinstance(pair.kept, NotMeasurable)
    ]
    for title, facts in _facts(found):
        lines += [_line(title, fact) for fact in facts if fact.seen and fact.drawn]
    grounds = _grounds(found)
    facts = ground_facts(*grounds, found.grade)
    lines += [_line("ground", fact) for fact in facts if fact.seen and fact.drawn]
    for whose, one in zip(("seen", "drawn"), grounds, strict=True):
        if isinstance(one, StandingGround):
            words = " ".join(part for part in ground_words(one)[:2] if part)
            lines.append(f"Ground, {whose}: {words}.")
    if isinstance(found.both.light, LightReading):
        lines += [_line("light", fact) for fact in light_facts(found.both.light, found.grade)]
        many = len(found.both.light.lost), len(found.both.light.invented)
        lines.append(f"Light: {many[0]} shapes of shadow lost, {many[1]} invented.")
    return lines


def _line(title: str, fact: Fact) -> str:
    told = [f"seen {fact.seen}"] * bool(fact.seen) + [f"drawn {fact.drawn}"] * bool(fact.drawn)
    verdict = "" if fact.verdict == Verdict.NOT_MEASURED else f" ({fact.verdict})"
    return f"{title.capitalize()}, {fact.label}: {', '.join(told)}{verdict}."
