"""The demo course, made once; only the last of its studies is drawn."""

from __future__ import annotations

import pytest

from bralto.stand.evening_class import demo_orders, demo_study


@pytest.fixture(scope="session")
def course() -> list:
    """All demo studies, oldest first; the last one with its pictures."""
    orders = demo_orders()
    return [demo_study(*one, seed=1, pictures=one == orders[-1]) for one in orders]
