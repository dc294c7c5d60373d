"""Writes docs/demo.md: what the demo's learner was told to do wrong, and what the record finds.

.venv/bin/python tools/demo_truth.py
"""

from pathlib import Path

import numpy as np

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.traits.habit_words import habit_figure, range_words
from bralto.core.longitudinal.traits.trait_habits import found_habits
from bralto.core.tolerances import GRADES
from bralto.stand.evening_class import demo_orders, demo_study
from bralto.stand.half_year import half_year_orders

HEAD = """# The demo, with its truth

`bralto demo` makes forty studies by a simulated learner (`stand/half_year.py`,
`stand/evening_class.py`, `stand/demo_heads.py`): figures from the front and the back from March to
July, a pause while the net loft is closed in August, then an evening class of figures and heads
until November. What the learner was told to do wrong stands in each study file under
`known_faults`. Printed by `.venv/bin/python tools/demo_truth.py`: *told* is the mean of what the
learner was told, *found* what the record says of the same studies, with its interval. Three habits
run through both: heads big, poses stood straight, the whole wide; the last is overcome in July. In
the class the legs come out short besides.

| studies | habit | told | found |
|---|---|---|---|
"""


def told_of(habits: dict, key: str) -> float:
    """What a learner was told, as a trait has it."""
    parts = habits["parts"]
    if key == "head":
        return parts.get("head", 1.0) - 1.0
    if key == "legs":
        return np.mean([parts.get(f"leg_{side}", 1.0) for side in "rl"]) - 1.0
    if key == "width":
        return habits["width"] - 1.0
    return habits["straight"] - 1.0


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
        traits = [keep_of(measured(one)).traits for one in studies]
        found = {one.trait.key: one for one in found_habits("figure", traits, GRADES["developing"])}
        for key, words in ROWS:
            true = np.mean([told_of(one.extra["known_faults"], key) for one in studies])
            one = found[key]
            said = f"{habit_figure(one)} ({range_words(one)}), {one.state}"
            told = f"{100 * true:+.0f} %".replace("-", "−")
            lines.append(f"| {name}, {len(studies)} | {words} | {told} | {said} |")
    text = HEAD + "\n".join(lines) + "\n"
    print(text)
    (Path(__file__).parents[1] / "docs/demo.md").write_text(text, "utf-8")


if __name__ == "__main__":
    main()
