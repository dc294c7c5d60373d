"""Boards, verdicts, passes and a study's own terms are spelled once, where they are enumerated."""

from __future__ import annotations

import ast
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple, get_args

import pytest

import bralto
from bralto.core.corrections.candidates.moves import MoveKind
from bralto.core.doubts.doubt import DoubtKind
from bralto.core.measures.kinds import FORMULAS
from bralto.core.measures.verdict_names import Verdict
from bralto.core.measures.view_kinds import UNITS
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.terms import Visibility
from bralto.core.views.model import ALONG, MeasureKind

ROOT = Path(bralto.__file__).parent
KEYS = ("cli", "exchange", "store")
"""Where the same words are keys of files."""


class Spelled(NamedTuple):
    """A node of some module that may spell words.

    Attributes:
        within: what the node is; ``words``, those that stand right in it, ``inside``, of a
            comparison all that something is held against.
        left: of a comparison what is held against them.
    """

    module: str
    line: int
    within: type
    words: frozenset[str]
    inside: frozenset[str]
    left: ast.expr | None


_WITHIN = (ast.Compare, ast.Call, ast.IfExp, ast.Tuple, ast.Return)


def _words(nodes: Iterable[ast.AST]) -> frozenset[str]:
    found = (one.value for one in nodes if isinstance(one, ast.Constant))
    return frozenset(value for value in found if isinstance(value, str))


@lru_cache(maxsize=1)
def all_spelled() -> tuple[Spelled, ...]:
    """Read once: each of some 650 modules is one tree of many nodes."""
    found = []
    for path in sorted(ROOT.rglob("*.py")):
        name = path.relative_to(ROOT).as_posix()
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if not isinstance(node, _WITHIN):
                continue
            right = _words(ast.iter_child_nodes(node))
            inside, left = frozenset[str](), None
            if isinstance(node, ast.Compare):
                inside = _words(n for other in node.comparators for n in ast.walk(other))
                left = node.left
            one = Spelled(name, node.lineno, type(node), right, inside, left)
            found.append(one)
    return tuple(found)


def spelled(words: set[str], within: tuple[type, ...]) -> set[str]:
    """Modules that spell one of the words as it stands, in such a node."""
    return {one.module for one in all_spelled() if one.within in within and words & one.words}


def test_boards_are_named_by_their_enumeration() -> None:
    found = spelled({*BOARDS}, (ast.Compare, ast.Call, ast.IfExp, ast.Tuple, ast.Return))
    # Where a proposal came from, and who told the height of the eye: other lists of words.
    assert {one for one in found if not one.startswith(KEYS)} == {"core/marking/carry.py"}


@pytest.mark.parametrize(
    "words",
    [{*Verdict}, {*Visibility} - {"seen"}],  # the title of a column as well
)
def test_what_is_compared_is_a_member(words: set[str]) -> None:
    """A word that is mistyped in a comparison is never equal, and nobody is told."""
    found = spelled(words, (ast.Compare,))
    assert {one for one in found if not one.startswith(KEYS)} == set()


KINDS = {"spec": MeasureKind, "measure": MeasureKind, "move": MoveKind, "doubt": DoubtKind}
"""What is asked for its kind, by the name it goes by, and what that may be."""


def _asked(node: ast.expr | None) -> str:
    """'spec' for ``one.spec.kind``; "" where it is not of those."""
    if not isinstance(node, ast.Attribute) or node.attr != "kind":
        return ""
    whose = node.value
    name = whose.attr if isinstance(whose, ast.Attribute) else getattr(whose, "id", "")
    return name if name in KINDS else ""


def test_a_kind_is_held_against_kinds_that_are() -> None:
    """mypy refuses a mistyped word after ``==``, but not one of a set after ``in``."""
    held = [(one, asked) for one in all_spelled() if (asked := _asked(one.left))]
    wrong = [one for one, asked in held if one.inside - {*get_args(KINDS[asked])}]
    assert wrong == []
    assert sum(len(one.inside) for one, _ in held) > 40


def test_every_kind_has_its_unit() -> None:
    assert {*UNITS} == {*get_args(MeasureKind)}
    assert {kind for kind, _ in FORMULAS} == {*get_args(MeasureKind)}
    assert {along for _, along in FORMULAS} == {*ALONG}


def _shown(node: ast.expr | None) -> bool:
    return isinstance(node, ast.Attribute) and node.attr == "current_pass"


def test_a_pass_that_is_asked_for_is_a_member() -> None:
    """Skills are called like some passes; what is compared with the pass that is shown is none."""
    wrong = [one for one in all_spelled() if _shown(one.left) and any(one.words)]
    assert wrong == []


def test_a_board_knows_the_one_beside_it() -> None:
    assert [board.other for board in BOARDS] == [Board.DRAWING, Board.REFERENCE]
    assert [verdict for verdict in Verdict if verdict.off] == [Verdict.OVER, Verdict.UNDER]
