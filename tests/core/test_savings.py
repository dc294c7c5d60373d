"""Savings beside a list that is fitted, against fitting anew with NumPy's least squares."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from tests.studies import figure_marks, moved

from bralto.core.corrections.fitting import LAST_ROUNDS, Fit, pose_problem, refit
from bralto.core.corrections.moves import moves_for
from bralto.core.corrections.savings import Search, search_among
from bralto.core.views.library import view_named

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


def fitted(seed: int) -> tuple[Search, list[int], Fit]:
    p = np.array([[SEEN[k].x, -SEEN[k].y] for k in KEYS]) / 100.0
    candidates = moves_for(VIEW, KEYS)
    problem = pose_problem(p, drawn(seed), np.full(len(p), 0.02), 0.05, whole_scale=False)
    search = search_among(candidates, problem)
    names = [f"{move.kind} {move.part}" for move in candidates.moves]
    chosen = sorted(names.index(one) for one in CHOSEN if one in names)
    assert len(chosen) >= 3
    moves = [candidates.moves[i] for i in chosen]
    start = [np.zeros(move.size) for move in moves]
    return search, chosen, refit(problem, moves, start, rounds=LAST_ROUNDS)


def left_over(design: np.ndarray, target: np.ndarray) -> np.ndarray:
    """What least squares leave of a target."""
    return target - design @ np.linalg.lstsq(design, target, rcond=None)[0]


@pytest.mark.parametrize("seed", range(3))
def test_the_best_pair_is_the_best_of_all_pairs(seed: int) -> None:
    search, _, _ = fitted(seed)
    nothing = search.nothing
    single = [i for i, move in enumerate(search.moves) if move.size == 1]
    squares = {}
    for rows in combinations(single, 2):
        design = np.column_stack([nothing.design, search.columns[:, search.first[list(rows)]]])
        if np.linalg.cond(design / np.linalg.norm(design, axis=0)) < 200.0:
            squares[rows] = float(np.square(left_over(design, nothing.residual)).sum())
    found = search.pair(nothing)
    assert found is not None
    best = min(squares, key=lambda rows: squares[rows])
    assert squares[found] == pytest.approx(squares[best], rel=1e-6)
    # Beside a fit that leaves nothing, no pair is worth its cost.
    assert search.pair(replace(nothing, residual=0.01 * nothing.residual)) is None


@pytest.mark.parametrize("seed", range(3))
def test_what_is_free_beside_a_fit_is_what_least_squares_leave(seed: int) -> None:
    search, _, fit = fitted(seed)
    free = search.free(fit)
    left = left_over(fit.design, search.columns)
    assert free.left == pytest.approx((left * left).sum(axis=0), abs=1e-8)
    assert free.along == pytest.approx(search.columns.T @ fit.residual)
    double = search.double
    crossed = (left[:, double] * left[:, double + 1]).sum(axis=0)
    assert free.crossed == pytest.approx(crossed, abs=1e-8)


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize("many", [1, 2])
def test_taking_moves_away_is_read_off_without_fitting_anew(seed: int, many: int) -> None:
    """Against the linear problem with those columns left out."""
    search, chosen, fit = fitted(seed)
    dropping = search.dropping(chosen, fit)
    for rows in combinations(chosen, many):
        free = dropping.without(list(rows), search.double)
        gone = [column for row in rows for column in dropping.columns[row]]
        kept = np.delete(fit.design, gone, axis=1)
        # The drawing as the linear approximation sees it: what is fitted, and what is left.
        target = fit.residual + fit.design @ dropping.parameters
        residual = left_over(kept, target)
        assert dropping.residual(fit, list(rows)) == pytest.approx(residual, abs=1e-7)
        assert free.squares == pytest.approx(residual @ residual, rel=1e-7)
        assert free.along == pytest.approx(search.columns.T @ residual, abs=1e-6)
        columns = left_over(kept, search.columns)
        assert free.left == pytest.approx((columns * columns).sum(axis=0), abs=1e-6)


def test_a_move_saves_what_its_columns_take_from_the_residual() -> None:
    search, _, fit = fitted(0)
    savings = search.savings(search.free(fit))
    for row, (first, size) in enumerate(zip(search.first, search.sizes, strict=True)):
        columns = search.columns[:, first : first + size]
        more = np.column_stack([fit.design, columns])
        now = left_over(more, fit.residual)
        saved = float(fit.residual @ fit.residual - now @ now)
        if savings[row] > 0.0:  # a move that cannot be told from the others saves nothing
            assert savings[row] == pytest.approx(saved, rel=1e-5, abs=1e-6)


def test_a_list_is_fitted_once_whatever_leads_to_it() -> None:
    search, chosen, fit = fitted(1)
    one, two = chosen[:2]
    bare = refit(search.problem, [], [])
    first = search.refit(*search.refit([], bare, one), two)
    second = search.refit(*search.refit([], bare, two), one)
    assert first[0] == second[0] == sorted([one, two])
    assert first[1] is second[1]
    assert search.without(chosen, fit, chosen[2:])[1] is first[1]


def test_marks_that_have_nothing_to_do_with_each_other_do_not_run_away() -> None:
    rng = np.random.default_rng(3)
    p, q = rng.normal(0.0, 2.0, (2, len(KEYS), 2))
    problem = pose_problem(p, q, np.full(len(p), 0.02), 0.05, whole_scale=False)
    candidates = moves_for(VIEW, KEYS)
    moves = [candidates.moves[i] for i in range(0, len(candidates.moves), 9)]
    fit = refit(problem, moves, [np.zeros(move.size) for move in moves], rounds=LAST_ROUNDS)
    assert all(np.abs(theta).max() <= 10.0 for theta in fit.parameters)
    assert np.isfinite(fit.residual).all()
