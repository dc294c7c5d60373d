"""The demo course, made once: nineteen studies take a while to draw."""

from __future__ import annotations

import pytest

from bralto.stand.evening_class import demo_studies


@pytest.fixture(scope="session")
def course() -> list:
    """All demo studies, oldest first."""
    return list(demo_studies(seed=1))
