"""What the pass of the likeness says: regions, the person, the same head from another side."""

from __future__ import annotations

from bralto.core.discover.levels import Tie
from bralto.core.discover.likeness import likeness_words
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.session.facts import reading_facts
from bralto.core.study.two_boards import Board
from bralto.core.tolerances import COVERAGE
from bralto.core.views.shipped_views import view_named
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import figure_and_doubt, sentence, signed
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import prompting
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.row_list import Row, Tick

__all__ = ["LEVEL", "PUSH", "REGION", "fact_row", "likeness_rows", "person_rows", "told_row"]

REGION, LEVEL, PUSH = "region:", "level:", "push:"
"""What the keys of rows begin with."""

_MOST_OTHERS = 5


def likeness_rows(study: OpenStudy) -> tuple[Row, ...]:
    """The regions of a head with what is marked of each, the figures of these marks, and what
    makes this person."""
    rows = [Row("", "Go on with", "one region at a time", title=True)]
    shown = study.session.regions.shown
    for one in prompting.region_progress(study.session, study.now.ground):
        count = f"{one.done} of {one.total}"
        name = one.of.key
        glyph = Tick.DONE if one.complete else None
        rows.append(Row(REGION + name, one.of.title, "", (count,), glyph, held=name == shown))
    marks = set(study.view.region(shown) or study.view.placing)
    facts = [
        fact_row(one)
        for one in reading_facts(study.assessment, study.current_pass)
        if marks & set(one.points)
    ]
    if facts:
        columns = ("drawn", "usual" if study.imagined and not study.from_life else "seen")
        rows += [Row("", shown.capitalize() or "All of it", right=columns, title=True), *facts]
    person, level = (*person_rows(study), *_push_rows(study)), _level_rows(study)
    tied = study.tied.level_study is not None
    return (*rows, *level, *person) if tied else (*rows, *person, *level)


def told_row(words: str, detail: str, good: bool | None) -> Row:
    """Something that holds, does not, or cannot be told (None)."""
    glyph = {True: Tick.DONE, False: Tick.OPEN, None: None}[good]
    return Row("", words, detail, glyph=glyph)


_WAYS = (("left", "right"), ("up", "down"))
"""Which way a row's triangle points, for less and for more."""


def fact_row(one: Fact) -> Row:
    """One line of figures, drawn and seen."""
    return Row(
        "",
        one.label,
        right=(one.drawn, one.seen),
        glyph=None if one.verdict == Verdict.NOT_MEASURED else one.verdict,
        way=_WAYS[one.down][one.more],
        role=LIGHT.verdict(one.verdict),
        points=one.points,
    )


def person_rows(study: OpenStudy) -> list[Row]:
    """What makes this person: how the sitter departs from the average, and what became of it."""
    found = study.examination.both.person
    if isinstance(found, NotMeasurable):
        return []
    title = Row("", "What makes this person", right=("seen", "average"), title=True)
    rows = [title]
    for one in found.departures[:_MOST_TOLD]:
        spec = study.view.measure(one.measure)
        points = () if spec is None else spec.points
        glyph = _BECAME.get(one.kept)
        detail = one.kept and f"{one.kept}: drawn {one.drawn:.2f}"
        rows.append(
            Row(
                "", one.words, detail, (f"{one.seen:.2f}", f"{one.average:.2f}"), glyph,
                "right" if one.kept == "overdone" else "left", LIGHT.verdict(glyph), points=points,
            )
        )  # fmt: skip
    if len(rows) == 1:
        rows.append(Row("", "Near the average in all that was asked"))
    if not isinstance(found.slope, NotMeasurable) and len(rows) > 2:
        rows.append(Row("", "All together", likeness_words(found.slope)))
    return rows


_MOST_TOLD = 5

_BECAME = {
    "kept": Verdict.WITHIN,
    "flattened": Verdict.UNDER,
    "turned round": Verdict.UNDER,
    "overdone": Verdict.OVER,
    "cannot tell": Verdict.CANNOT_TELL,
}
"""The verdict whose colour and shape say what became of a departure."""


def _push_rows(study: OpenStudy) -> list[Row]:
    """What departs may be taken further on purpose; errors are then taken against that."""
    found = study.examination.both.person
    if isinstance(found, NotMeasurable) or not found.departures:
        return []
    push = study.examination.both.push
    detail = "as seen; click to mean more of it, as in a caricature"
    if abs(push - 1.0) > 1e-6:
        detail = "meant so: the drawing is held against that"
    return [Row(PUSH, "Push what departs", detail, (f"× {push:.2f}",), held=push > 1.0 + 1e-6)]


def _level_rows(study: OpenStudy) -> list[Row]:
    """The same head from another side, its stations held level with this one's; or which studies
    could be that."""
    other = study.tied.level_study
    if other is None:
        rows = [Row("", "From another side", "the same head, held level", title=True)]
        others = study.tied.others()[:_MOST_OTHERS]
        rows += [Row(LEVEL + one.id, one.title, _side(one.view)) for one in others]
        if len(rows) == 1:
            rows.append(Row("", "None yet", "draw it in profile too, then both are held level"))
        return rows
    seen, drawn = study.tied.ties(Board.REFERENCE), study.tied.ties(Board.DRAWING)
    rows = [Row("", f"Level with it {_side(other.view)}", right=("drawn", "seen"), title=True)]
    of_seen, of_drawn = (
        {} if isinstance(found, NotMeasurable) else {one.key: one for one in found}
        for found in (seen, drawn)
    )
    down = {one.key: one.there for one in (*of_drawn.values(), *of_seen.values())}
    for key in sorted(down, key=down.__getitem__):
        rows.append(_level_row(of_seen.get(key), of_drawn.get(key)))
    if len(rows) == 1 and isinstance(seen, NotMeasurable):
        rows.append(Row("", "Cannot be told yet", sentence(seen.reason)))
    rows.append(Row(LEVEL, other.title, "click: not this head, let it go", held=True))
    return rows


def _side(view: str) -> str:
    """From where a view shows a head, in words."""
    return view_named(view).title.partition(", ")[2]


def _level_row(seen: Tie | None, drawn: Tie | None) -> Row:
    one = drawn or seen
    assert one is not None
    figures = ["" if tie is None else signed(tie.error, 2) for tie in (drawn, seen)]
    way = "lower" if one.error > 0.0 else "higher"
    off = one.verdict.off
    by, doubt = figure_and_doubt(abs(one.error), COVERAGE * one.u, 2)
    detail = f"{by} head {way} here {doubt}" if off else ""
    return Row(
        "", one.label, detail, (figures[0], figures[1]), one.verdict,
        "down" if one.error > 0.0 else "up", LIGHT.verdict(one.verdict), points=(one.points[0],),
    )  # fmt: skip
