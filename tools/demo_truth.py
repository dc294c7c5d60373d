"""Writes docs/demo.md: what the demo's learner was told to do wrong, and what the record finds.

.venv/bin/python -m tools.demo_truth
"""

from pathlib import Path
from typing import Any

import numpy as np

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.traits.habit_words import habit_figure, range_words
from bralto.core.longitudinal.traits.trait_habits import found_habits
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Study
from bralto.core.tolerances import GRADES
from bralto.core.words.phrases import signed
from bralto.stand.evening_class import demo_orders, demo_study
from bralto.stand.half_year import half_year_orders

HEAD = """# The demo, with its truth

`bralto demo` makes forty studies by a simulated learner (`stand/half_year.py`,
`stand/evening_class.py`, `stand/demo_heads.py`): figures from the front and the back from March to
July, a pause while the net loft is closed in August, then an evening class of figures and heads
until November. What the learner was told to do wrong stands in each study file under
`known_faults`. Printed by `.venv/bin/python -m tools.demo_truth`: *told* is the mean of what the
learner was told, *found* what the record says of the same studies, with its interval. Three habits
run through both: heads big, poses stood straight, the whole wide; the last is overcome in July. In
the class the legs come out short besides.

| studies | habit | told | found |
|---|---|---|---|
"""


def told_of(study: Study, key: str) -> float:
    """What the learner of a demo study was told, as a trait has it."""
    habits: Any = study.extra["known_faults"]
    parts: dict[str, float] = habits["parts"]
    if key == "head":
        factor = parts.get("head", 1.0)
    elif key == "legs":
        factor = (parts.get("leg_r", 1.0) + parts.get("leg_l", 1.0)) / 2.0
    else:
        factor = habits["width" if key == "width" else "straight"]
    return float(factor) - 1.0


ROWS = (
    ("head", "heads big"), ("counter_tilt", "shoulders against hips straightened"),
    ("width", "the whole wide"), ("legs", "legs short"),
)  # fmt: skip


def main() -> None:
    """Both halves, and the first against the last weeks of the first."""
    early = [demo_study(*order, pictures=False).study for order in half_year_orders()]
    late = [
        demo_study(*order, pictures=False).study for order in demo_orders() if order[0] == "figure"
    ]
    groups = (("March to May", early[:11]), ("May to July", early[11:]),
              ("evening class", late))  # fmt: skip
    lines = []
    for name, studies in groups:
        every = [keep_of(measured(one)).traits for one in studies]
        traits = [one for one in every if not isinstance(one, NotMeasurable)]
        found = {one.trait.key: one for one in found_habits("figure", traits, GRADES["developing"])}
        for key, words in ROWS:
            true = float(np.mean([told_of(one, key) for one in studies]))
            one = found[key]
            said = f"{habit_figure(one)} ({range_words(one)}), {one.state}"
            told = f"{signed(100 * true, 0)} %"
            lines.append(f"| {name}, {len(studies)} | {words} | {told} | {said} |")
    text = HEAD + "\n".join(lines) + "\n"
    print(text)
    (Path(__file__).parents[1] / "docs/demo.md").write_text(text, "utf-8")


if __name__ == "__main__":
    main()
