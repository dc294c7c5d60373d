"""Savings beside a list that is fitted, against fitting anew with NumPy's least squares."""

from __future__ import annotations

from itertools import combinations, pairwise

import numpy as np
import pytest
from tests.studies import figure_marks, moved

from bralto.core.corrections.candidates.composing import Lists
from bralto.core.corrections.candidates.moves import Move
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    Fit,
    Problem,
    hand_of,
    pose_problem,
    refit,
    refit_lists,
)
from bralto.core.corrections.savings import Savings, savings_among
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-front")
SEEN = figure_marks()
KEYS = tuple(key for key in VIEW.placing if key in SEEN)
CHOSEN = ("scale head", "shift navel", "tilt shoulders", "lengthen leg_r")


def drawn(seed: int) -> np.ndarray:
    """The same figure with a big head, a wild navel and a hand that scatters."""
    rng = np.random.default_rng(seed)
    marks = moved(SEEN, 1.0, (0.0, 0.0))
    xy = np.array([[marks[k].x, -marks[k].y] for k in KEYS]) / 100.0
    chin = xy[KEYS.index("chin")]
    crown = KEYS.index("crown")
    xy[crown] = chin + 1.2 * (xy[crown] - chin)
    xy[KEYS.index("navel")] += [0.2, -0.15]
    return xy + rng.normal(0.0, 0.015, xy.shape)


def fitted(seed: int) -> tuple[Savings, list[int], Fit, Problem]:
    p = np.array([[SEEN[k].x, -SEEN[k].y] for k in KEYS]) / 100.0
    candidates = moves_for(VIEW, KEYS).bound(p)
    problem = pose_problem(p, drawn(seed), np.full(len(p), 0.02), 0.05, whole_scale=False)
    names = [f"{move.kind} {move.part}" for move in candidates.moves]
    chosen = sorted(names.index(one) for one in CHOSEN)
    moves = [candidates.moves[i] for i in chosen]
    start = [np.zeros(move.size) for move in moves]
    fit = refit(problem, moves, start, rounds=LAST_ROUNDS)
    return savings_among(candidates, problem), chosen, fit, problem


def left_over(design: np.ndarray, target: np.ndarray) -> np.ndarray:
    """What least squares leave of a target."""
    return target - design @ np.linalg.lstsq(design, target, rcond=None)[0]


@pytest.mark.parametrize("seed", range(3))
def test_what_two_moves_save_together_is_what_least_squares_say(seed: int) -> None:
    savings, _, _, problem = fitted(seed)
    nothing = refit(problem, [], [])
    both = savings.of_pairs(nothing)
    told = 0
    for (a, one), (b, other) in combinations(enumerate(savings.single), 2):
        columns = savings.columns[:, savings.first[[one, other]]]
        design = np.column_stack([nothing.design, columns])
        if np.linalg.cond(design / np.linalg.norm(design, axis=0)) < 100.0:
            left = left_over(design, nothing.residual)
            assert both[a, b] == pytest.approx(nothing.squares - float(left @ left), rel=1e-6)
            told += 1
    assert told > 500


@pytest.mark.parametrize("seed", range(3))
def test_a_list_that_starts_at_rest_is_the_same_by_slopes_that_are_known(seed: int) -> None:
    """Of two moves that can be told apart, one round and several."""
    _, _, _, problem = fitted(seed)
    candidates = moves_for(VIEW, KEYS).bound(problem.p)
    slopes, rows = candidates.tangents(problem.p), np.cumsum([0, *candidates.sizes])
    dice = np.random.default_rng(seed)
    told = 0
    for _ in range(60):
        a, b = sorted(dice.choice(len(candidates.moves), 2, replace=False).tolist())
        moves = [candidates.moves[a], candidates.moves[b]]
        start = [np.zeros(move.size) for move in moves]
        known = np.concatenate([slopes[rows[i] : rows[i + 1]] for i in (a, b)])
        for rounds in (1, LAST_ROUNDS):
            plain = refit(problem, moves, start, rounds=rounds)
            if np.linalg.cond(plain.design / np.linalg.norm(plain.design, axis=0)) > 100.0:
                break
            at = np.zeros((1, len(known)))
            quick = refit_lists(problem, [moves], at, rounds, at_rest=known[None]).one(0)
            told += 1
            assert quick.residual == pytest.approx(plain.residual, abs=1e-9)
            assert np.concatenate(quick.parameters) == pytest.approx(
                np.concatenate(plain.parameters), abs=1e-9
            )
    assert told > 100  # 116 to 118 of 120


def lists_by_chance(seed: int, many: int) -> tuple[Problem, list[list[Move]], np.ndarray]:
    """Lists of one to five moves of every kind, with parameters."""
    _, _, _, problem = fitted(seed)
    candidates, dice = moves_for(VIEW, KEYS).bound(problem.p), np.random.default_rng(seed)
    lists = [
        [candidates.moves[i] for i in sorted(dice.choice(len(candidates.moves), n, replace=False))]
        for n in dice.integers(1, 6, many)
    ]
    most = max(sum(move.size for move in moves) for moves in lists)
    theta = dice.normal(0.0, 0.2, (many, most))
    for row, moves in zip(theta, lists, strict=True):
        row[sum(move.size for move in moves) :] = 0.0
    return problem, lists, theta


@pytest.mark.parametrize("seed", range(3))
def test_lists_composed_side_by_side_are_those_composed_alone_as_matrices(seed: int) -> None:
    """Against the definition of a move with 2 x 2 matrices: X + C X (A - 1)^T, one step after the
    other; the derivatives against differences."""
    problem, lists, theta = lists_by_chance(seed, 40)

    def alone(moves: list[Move], by: np.ndarray) -> np.ndarray:
        places, at = problem.p.copy(), 0
        for move in moves:
            own = by[at : at + move.size]
            at += move.size
            if move.ways is not None:
                places += move.carried[:, None] * (own @ move.ways)
            for step in move.steps if move.ways is None else ():
                places = places + step.along @ places @ step.change(float(own[0])).T
        return places

    places, slopes = Lists(lists, len(problem.p)).at(theta, problem.p)
    kinds = {move.kind for moves in lists for move in moves}
    assert {"shift", "straighten", "turn", "lengthen", "stretch"} <= kinds
    h = 1e-6
    for moves, by, found, by_each in zip(lists, theta, places, slopes, strict=True):
        assert found == pytest.approx(alone(moves, by), abs=1e-12)
        own = sum(move.size for move in moves)
        for at, step in enumerate(h * np.eye(len(by))):
            moved = (alone(moves, by + step) - alone(moves, by - step)) / (2.0 * h)
            assert by_each[at] == pytest.approx(moved if at < own else 0.0, abs=1e-7)


@pytest.mark.parametrize("seed", range(3))
def test_lists_fitted_side_by_side_are_those_fitted_alone(seed: int) -> None:
    problem, lists, theta = lists_by_chance(seed, 25)
    ridges = np.where(theta == 0.0, 0.0, 3.0)
    together = refit_lists(problem, lists, theta, 2, ridges=ridges)
    for row, moves in enumerate(lists):
        ends = np.cumsum([0, *(move.size for move in moves)])
        start = [theta[row, a:b] for a, b in pairwise(ends)]
        one = refit(problem, moves, start, 2, ridges[row, : ends[-1]])
        other = together.one(row)
        assert other.scale == pytest.approx(one.scale, rel=1e-9)
        assert other.design == pytest.approx(one.design, rel=1e-6, abs=1e-7)
        assert other.residual == pytest.approx(one.residual, rel=1e-6, abs=1e-7)
        assert other.worst == pytest.approx(one.worst, rel=1e-6)
        for a, b in zip(one.parameters, other.parameters, strict=True):
            assert b == pytest.approx(a, rel=1e-6, abs=1e-9)
        assert not together.theta[row, ends[-1] :].any()


@pytest.mark.parametrize("seed", range(3))
def test_a_move_saves_what_its_columns_take_from_the_residual(seed: int) -> None:
    savings, chosen, fit, _ = fitted(seed)
    saved = savings.of([fit])[0]
    for row, (first, size) in enumerate(zip(savings.first, savings.sizes, strict=True)):
        more = np.column_stack([fit.design, savings.columns[:, first : first + size]])
        now = left_over(more, fit.residual)
        if saved[row] > 0.0:  # a move that cannot be told from the others saves nothing
            wanted = float(fit.residual @ fit.residual - now @ now)
            assert saved[row] == pytest.approx(wanted, rel=1e-5, abs=1e-6)
    assert saved[chosen] == pytest.approx(0.0, abs=1e-3 * fit.squares)


def test_what_is_held_saves_what_least_squares_with_its_own_row_say() -> None:
    """A parameter that is held to 0 with SD s is an observation of 0 / s more (ridge regression as
    augmented least squares; Hoerl and Kennard 1970, Technometrics 12, 55)."""
    free, _, fit, problem = fitted(1)
    sd = 0.1 + 0.1 * np.arange(free.columns.shape[1]) / free.columns.shape[1]
    candidates = moves_for(VIEW, KEYS).bound(problem.p)
    held = savings_among(candidates, problem, sd**-2.0)
    saved = held.of([fit])[0]
    for row, (first, size) in enumerate(zip(held.first, held.sizes, strict=True)):
        more = held.columns[:, first : first + size]
        rows = np.zeros((size, fit.design.shape[1] + size))
        rows[:, -size:] = np.diag(1.0 / sd[first : first + size])
        design = np.vstack([np.column_stack([fit.design, more]), rows])
        target = np.append(fit.residual, np.zeros(size))
        now = left_over(design, target)
        if saved[row] > 0.0:
            wanted = float(target @ target - now @ now)
            assert saved[row] == pytest.approx(wanted, rel=1e-5, abs=1e-6)
    told = free.of([fit])[0] > 0.0
    assert np.all(saved[told] <= free.of([fit])[0][told])


def test_marks_that_have_nothing_to_do_with_each_other_do_not_run_away() -> None:
    rng = np.random.default_rng(3)
    p, q = rng.normal(0.0, 2.0, (2, len(KEYS), 2))
    problem = pose_problem(p, q, np.full(len(p), 0.02), 0.05, whole_scale=False)
    candidates = moves_for(VIEW, KEYS).bound(p)
    moves = [candidates.moves[i] for i in range(0, len(candidates.moves), 9)]
    fit = refit(problem, moves, [np.zeros(move.size) for move in moves], rounds=LAST_ROUNDS)
    assert all(np.abs(theta).max() <= 10.0 for theta in fit.parameters)
    assert np.isfinite(fit.residual).all()


def test_the_scatter_of_a_hand_is_found_beside_a_wild_mark() -> None:
    """29 marks of a hand of 0.03 head placed to 0.01, one of them half a head off."""
    rng = np.random.default_rng(5)
    p = np.array([[SEEN[k].x, -SEEN[k].y] for k in KEYS]) / 100.0
    found = []
    for _ in range(40):
        q = p + rng.normal(0.0, np.hypot(0.03, 0.01), p.shape)
        q[3] += [0.5, 0.0]
        problem = pose_problem(p, q, np.full(len(p), 0.01), 0.05, whole_scale=True)
        found.append(hand_of(problem, refit(problem, [], [])))
    assert np.sqrt(np.mean(np.square(found))) == pytest.approx(0.03, rel=0.2)
