"""No module stands on itself by way of others, not even where one is only named for its type."""

from __future__ import annotations

from graphlib import CycleError, TopologicalSorter

import grimp
import pytest


def circle_of(imports: dict[str, set[str]]) -> list[str]:
    """Modules that import each other round in a circle; none where there is no such."""
    try:
        TopologicalSorter(imports).prepare()
    except CycleError as error:
        found: list[str] = error.args[1]
        return found
    return []


def test_a_circle_is_found() -> None:
    assert circle_of({"a": {"b"}, "b": {"c"}, "c": {"a"}}) != []
    assert circle_of({"a": {"b", "c"}, "b": {"c"}, "c": set()}) == []


@pytest.mark.parametrize("package", ["bralto", "bench"])
def test_imports_run_in_no_circle(package: str) -> None:
    graph = grimp.build_graph(package)  # with what is imported for types alone
    imports = {one: graph.find_modules_directly_imported_by(one) for one in graph.modules}
    assert circle_of(imports) == []
