"""Shares of three values held against each other."""

from __future__ import annotations

from bralto.core.light.three_values import ThreeValues, value_facts
from bralto.core.tolerances import GRADES

SEEN = ThreeValues((0.30, 0.30, 0.40), (), ())


def test_a_share_that_is_surely_another_is_off_and_a_near_one_is_within() -> None:
    drawn = ThreeValues((0.31, 0.09, 0.60), (), ())
    facts = {one.label: one for one in value_facts(SEEN, drawn, GRADES["developing"])}
    assert [facts[name].verdict for name in ("dark", "half-tone", "light")] == [
        "within", "under", "over",
    ]  # fmt: skip
    assert (facts["half-tone"].seen, facts["half-tone"].drawn) == ("30 %", "9 %")


def test_one_picture_alone_has_no_verdict() -> None:
    for fact in value_facts(SEEN, None, GRADES["developing"]):
        assert fact.drawn == ""
        assert fact.verdict == "not measured"
