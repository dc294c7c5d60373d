"""Keeps labels apart: the least moves that leave a gap between neighbours. No Qt."""

from __future__ import annotations

from collections.abc import Sequence

__all__ = ["spread_out"]


def spread_out(
    wanted: Sequence[float], gap: float, low: float = float("-inf"), high: float = float("inf")
) -> list[float]:
    """Places as near as possible to those wanted (least squares), at least ``gap`` apart.

    Isotonic regression by pooling of neighbours that collide (Barlow et al. 1972), after taking
    the gaps out; then clamped to the range where it fits. Order of equal wishes is kept.
    """
    order = sorted(range(len(wanted)), key=lambda i: wanted[i])
    pools: list[list[float]] = []  # [sum of wishes without gaps, count]
    for rank, i in enumerate(order):
        pools.append([wanted[i] - rank * gap, 1.0])
        while len(pools) > 1 and pools[-2][0] / pools[-2][1] > pools[-1][0] / pools[-1][1]:
            total, count = pools.pop()
            pools[-1][0] += total
            pools[-1][1] += count
    flat = [total / count for total, count in pools for _ in range(int(count))]
    last = high - (len(flat) - 1) * gap
    places = [0.0] * len(wanted)
    for rank, i in enumerate(order):
        # Where all cannot fit, the top of the range wins and the rest keeps its gaps.
        places[i] = max(min(flat[rank], last), low) + rank * gap
    return places
