"""Values are given to SQL in their order or by name, never by number.

The standard library's documentation of `sqlite3`, under *How to use placeholders to bind values*,
and "Deprecated since version 3.12": numbers with a sequence are refused from Python 3.14 on.
"""

from __future__ import annotations

import re
from pathlib import Path

SOURCE = Path(__file__).parents[2] / "src" / "bralto"


def test_no_value_is_given_by_number() -> None:
    files = [*SOURCE.rglob("*.py"), *SOURCE.rglob("*.sql")]
    assert len(files) > 300
    numbered = [
        path.name for path in files if re.search(r"= ?\?\d|\(\?\d|, \?\d", path.read_text())
    ]
    assert numbered == []
