"""Faults that a hand makes, put into a body by plain geometry on its own skeleton.

Each says by which moves it may be named, and where it stands in the order of work. They are the
faults that teachers name (common practice, no source); nothing here knows the limb tree.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from bench.bodies import Body, Places, posed_otherwise

Name = tuple[str, str | None]
Change = Callable[[Body, float], Places]

WHOLE, TALL, MASSES, GIRDLES, LIMBS, ENDS = range(6)
"""The order of work: whole; top and bottom; head, trunk, pelvis; girdles; limbs; the rest."""


@dataclass(frozen=True, eq=False)
class Kind:
    """One kind of fault.

    Attributes:
        title: what it is called in the table.
        change: from a body and a size to the faulty marks.
        sizes: least and largest; ``both_ways`` whether it may be negative too.
        names: moves that name it, any one of them.
        order: its place in the order of work.
        parts: what it touches; two faults of one drawing share none.
        pose: it is of the pose, and comes before what goes wrong with parts and the whole.
    """

    title: str
    change: Change
    sizes: tuple[float, float]
    names: frozenset[Name]
    order: int
    parts: frozenset[str]
    both_ways: bool = True
    pose: bool = False


def turned(at: np.ndarray, about: np.ndarray, degrees: float) -> np.ndarray:
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    out: np.ndarray = about + np.array([[c, -s], [s, c]]) @ (at - about)
    return out


def _with(body: Body, keys: Iterable[str], place: Callable[[np.ndarray], np.ndarray]) -> Places:
    return body.marks | {key: place(body.marks[key]) for key in keys}


def posed_by(turns: Mapping[str, float]) -> Change:
    """Joints turned on, by so many degrees each for one of the size."""
    return lambda body, by: posed_otherwise(body, {key: by * one for key, one in turns.items()})


def _middle(body: Body) -> np.ndarray:
    middle: np.ndarray = np.mean(list(body.marks.values()), axis=0)
    return middle


def width(body: Body, by: float) -> Places:
    return _with(body, body.keys, lambda at: at * [1.0 + by, 1.0])


def lean(body: Body, by: float) -> Places:
    slope = np.tan(np.radians(by))
    return _with(body, body.keys, lambda at: at + np.array([slope * at[1], 0.0]))


def whole_turned(body: Body, by: float) -> Places:
    middle = _middle(body)
    return _with(body, body.keys, lambda at: turned(at, middle, by))


def straightened(body: Body, by: float) -> Places:
    """That share of the leans of pelvis, trunk, shoulders and head is lost; limbs keep theirs."""
    at = body.joints
    foot, neck = 0.5 * (at["hip_r"] + at["hip_l"]), at["neck"]
    paired = "shoulder_r" in body.marks

    def back(line: np.ndarray, level: bool) -> float:
        """Degrees that a line is turned back."""
        from_level = float(np.degrees(np.arctan2(line[1], line[0])))
        turn = from_level if level else from_level - 90.0
        return -by * float((turn + 90.0) % 180.0 - 90.0)

    new_neck = turned(neck, foot, back(neck - foot, level=False))
    head = back(body.marks["crown"] - body.marks.get("nape", neck), level=False)
    hips = back(at["hip_l"] - at["hip_r"], level=True) if paired else 0.0
    shoulders = back(at["shoulder_l"] - at["shoulder_r"], level=True) if paired else 0.0
    out = dict(body.marks)
    limbs = body.below["hip_r"] | body.below["hip_l"]
    for key in set(body.marks) - limbs:
        place = body.marks[key]
        if key in body.below["neck"]:
            out[key] = new_neck + turned(place, neck, head) - neck
        elif key in body.below["clavicle_r"] | body.below["clavicle_l"]:
            joint = "shoulder_r" if key in body.below["clavicle_r"] else "shoulder_l"
            carried = new_neck + turned(at[joint], neck, shoulders) - neck - at[joint]
            own = key.startswith(("shoulder", "scapula_c"))
            out[key] = new_neck + turned(place, neck, shoulders) - neck if own else place + carried
        elif key in body.below["waist"]:
            out[key] = turned(place, foot, back(neck - foot, level=False))
        else:
            out[key] = turned(place, foot, hips)
    for joint in ("hip_r", "hip_l"):
        out |= {
            key: body.marks[key] + turned(at[joint], foot, hips) - at[joint]
            for key in body.below[joint]
        }
    return out


def grown(*joints: str) -> Change:
    """Each part, with all that hangs from it, about its joint."""

    def change(body: Body, by: float) -> Places:
        out = dict(body.marks)
        for joint in joints:
            root = body.joints[joint]
            out |= {k: root + (1.0 + by) * (out[k] - root) for k in body.below[joint]}
        return out

    return change


def longer(*pieces: tuple[str, str]) -> Change:
    """A piece from one joint to the next alone; what hangs from the next goes along."""

    def change(body: Body, by: float) -> Places:
        out = dict(body.marks)
        for start, end in pieces:
            foot, line = body.joints[start], body.joints[end] - body.joints[start]
            for key in body.below[start]:
                # A mark at the far joint lies on the piece itself.
                far = float((body.marks[key] - foot) @ line / (line @ line))
                share = 1.0 if key in body.below[end] else min(max(far, 0.0), 1.0)
                out[key] = out[key] + share * by * line
        return out

    return change


def turned_at(joint: str) -> Change:
    def change(body: Body, by: float) -> Places:
        root = body.joints[joint]
        return _with(body, body.below[joint], lambda at: turned(at, root, by))

    return change


def head_big(body: Body, by: float) -> Places:
    """About the chin, or the nape from behind: where the head meets the rest."""
    root = body.marks["nape" if "chin" not in body.marks else "chin"]
    keys = body.below["head"]
    return _with(body, keys, lambda at: root + (1.0 + by) * (at - root))


def head_turned(body: Body, by: float) -> Places:
    root = body.joints["neck"]
    return _with(body, body.below["head"], lambda at: turned(at, root, by))


def head_forward(body: Body, by: float) -> Places:
    return _with(body, body.below["head"], lambda at: at + np.array([by, 0.0]))


def upper_body_shifted(body: Body, by: float) -> Places:
    return _with(body, body.below["waist"], lambda at: at + np.array([by, 0.0]))


def legs_low(body: Body, by: float) -> Places:
    at_them = {k for k in body.marks if k.startswith(("crotch", "gluteal", "trochanter"))}
    keys = body.below["hip_r"] | body.below["hip_l"] | at_them
    return _with(body, keys, lambda at: at - [0.0, by])


def trunk_long(body: Body, by: float) -> Places:
    """Its marks along its own axis; head and arms are carried along, unchanged."""
    foot = 0.5 * (body.joints["hip_r"] + body.joints["hip_l"])
    axis = body.joints["neck"] - foot
    length = float(np.linalg.norm(axis))
    unit = axis / length
    whole = by * axis
    out = dict(body.marks)
    arms = body.below["shoulder_r"] | body.below["shoulder_l"]
    carried = body.below["neck"]
    if "shoulder_r" in body.marks:
        carried |= body.below["clavicle_r"] | body.below["clavicle_l"]
    for key in body.below["waist"]:
        at = body.marks["shoulder"] if key in arms - carried else body.marks[key]
        share = 1.0 if key in carried else float((at - foot) @ unit) / length
        out[key] = body.marks[key] + share * whole
    return out


def girdle(keys: tuple[str, ...], joints: tuple[str, str], tilt: bool) -> Change:
    """Shoulders or hips made wider or tilted; what hangs from them keeps its direction."""

    def change(body: Body, by: float) -> Places:
        ends = [body.joints[joint] for joint in joints]
        visible = [body.marks[key] for key in keys[:2] if key in body.marks]
        middle = np.mean(visible or ends, axis=0)

        def place(at: np.ndarray) -> np.ndarray:
            if tilt:
                return turned(at, middle, by)
            line = ends[1] - ends[0]
            out: np.ndarray = at + by * line * float((at - middle) @ line / (line @ line))
            return out

        out = dict(body.marks)
        for joint, end in zip(joints, ends, strict=True):
            by_end = place(end) - end
            out |= {k: body.marks[k] + by_end for k in body.below[joint]}
        return out | {k: place(body.marks[k]) for k in keys if k in body.marks}

    return change


def wild(key: str, degrees: float) -> Change:
    way = np.array([np.cos(np.radians(degrees)), np.sin(np.radians(degrees))])
    return lambda body, by: body.marks | {key: body.marks[key] + by * way}


def moved(keys: tuple[str, ...], way: tuple[float, float]) -> Change:
    """A feature of the face somewhere else."""
    return lambda body, by: _with(
        body, [k for k in keys if k in body.marks], lambda at: at + by * np.array(way)
    )


def grown_marks(
    keys: tuple[str, ...], root: str | None, across: np.ndarray | None = None
) -> Change:
    """Marks about one of them, or about their middle; with ``across`` (2,) along that unit way
    alone, as a tilted head is drawn too wide across itself."""

    def change(body: Body, by: float) -> Places:
        have = [k for k in keys if k in body.marks]
        about = _firm_middle(body, have) if root is None else body.marks[root]
        if across is None:
            return _with(body, have, lambda at: about + (1.0 + by) * (at - about))
        return _with(body, have, lambda at: at + by * float((at - about) @ across) * across)

    return change


def each(*changes: Change) -> Change:
    """Several at once, by one size."""

    def change(body: Body, by: float) -> Places:
        out = dict(body.marks)
        for one in changes:
            out |= {k: at for k, at in one(body, by).items() if np.any(at != body.marks[k])}
        return out

    return change


def sides(stem: str) -> tuple[str, str]:
    return (f"{stem}_r", f"{stem}_l")


def names(*pairs: Name) -> frozenset[Name]:
    return frozenset(pairs)


_OF_WHOLE = [
    Kind("width", width, (0.04, 0.10), names(("stretch", None)), WHOLE, frozenset({"whole"})),
    Kind("lean", lean, (2.0, 5.0), names(("lean", None)), WHOLE, frozenset({"lean"})),
    Kind("whole turned", whole_turned, (2.5, 5.0), names(("turn", None)), WHOLE,
         frozenset({"lean"})),
]  # fmt: skip

_STRAIGHT = Kind("pose straightened", straightened, (0.4, 0.65), names(("straighten", None)), WHOLE,
                 frozenset({"lean", "trunk", "head", "shoulders", "hips", "upper_body"}),
                 both_ways=False, pose=True)  # fmt: skip


def _pairs() -> list[Kind]:
    legs, arms = sides("hip"), sides("shoulder")
    thighs = tuple(zip(sides("hip"), sides("knee"), strict=True))
    uppers = tuple(zip(sides("shoulder"), sides("elbow"), strict=True))
    rows: list[tuple[str, Change, tuple[float, float], frozenset[Name], int]] = [
        ("both legs", grown(*legs), (0.05, 0.20), names(("scale", "legs")), LIMBS),
        ("both thighs", longer(*thighs), (0.08, 0.2), names(("lengthen", "thighs")), LIMBS),
        ("both shanks", grown(*sides("knee")), (0.08, 0.2),
         names(("scale", "shanks"), ("lengthen", "shanks")), LIMBS),
        ("both arms", grown(*arms), (0.06, 0.2), names(("scale", "arms")), LIMBS),
        ("both upper arms", longer(*uppers), (0.10, 0.25), names(("lengthen", "upper_arms")),
         LIMBS),
        ("both forearms", grown(*sides("elbow")), (0.10, 0.25),
         names(("scale", "forearms"), ("lengthen", "forearms")), LIMBS),
        ("both hands", grown(*sides("wrist")), (0.15, 0.35), names(("scale", "hands")), ENDS),
    ]  # fmt: skip
    out = []
    for title, change, sizes, said, order in rows:
        limb = "leg" if title.split()[1] in {"legs", "thighs", "shanks"} else "arm"
        out.append(Kind(title, change, sizes, said, order, frozenset({f"{limb}_r", f"{limb}_l"})))
    return out


def _single(side: str, end: str, start: str = "") -> list[Kind]:
    """Limbs of one side; ``start`` and ``end`` are how that side's parts are keyed in the view."""
    arm, forearm, leg = (f"{start}{limb}{end}" for limb in ("arm", "forearm", "leg"))
    rows: list[tuple[str, Change, tuple[float, float], frozenset[Name], int, str]] = [
        ("one arm", grown(f"shoulder_{side}"), (0.08, 0.2), names(("scale", arm)), LIMBS,
         "arm"),
        ("one leg", grown(f"hip_{side}"), (0.05, 0.15), names(("scale", leg)), LIMBS,
         "leg"),
        ("one forearm", grown(f"elbow_{side}"), (0.12, 0.3),
         names(("scale", forearm), ("lengthen", forearm)), LIMBS, "arm"),
        ("an elbow bent", turned_at(f"elbow_{side}"), (8.0, 20.0),
         names(("turn", forearm), ("swing", forearm)), LIMBS, "arm"),
        ("a leg swung", turned_at(f"hip_{side}"), (4.0, 12.0), names(("turn", leg)), LIMBS,
         "leg"),
    ]  # fmt: skip
    return [
        Kind(title, change, sizes, said, order, frozenset({f"{limb}_{side}"}))
        for title, change, sizes, said, order, limb in rows
    ]


def figure_kinds(body: Body, rng: np.random.Generator) -> list[Kind]:
    """What can go wrong with a figure in this view; sides and marks by chance."""
    paired = "shoulder_r" in body.marks
    side = "rl"[int(rng.integers(2))] if paired else "l"
    end = f"_{side}" if paired else ""
    out = [*_OF_WHOLE]
    out += [
        Kind("head big", head_big, (0.08, 0.2), names(("scale", "head")), MASSES,
             frozenset({"head"})),
        Kind("head turned", head_turned, (6.0, 14.0),
             names(("turn", "head"), ("turn", "neck"), ("swing", "neck")), MASSES,
             frozenset({"head"})),
        Kind("trunk long", trunk_long, (0.07, 0.18), names(("lengthen", "trunk")), MASSES,
             frozenset({"trunk"})),
        Kind("upper body shifted", upper_body_shifted, (0.12, 0.3), names(("shift", "upper_body")),
             MASSES, frozenset({"trunk", "upper_body"})),
        Kind("legs low", legs_low, (0.15, 0.35), names(("shift", "hip_joints")), MASSES,
             frozenset({"trunk", "leg_r", "leg_l"})),
    ]  # fmt: skip
    if paired:
        out.append(_STRAIGHT)  # from the side the flat pose has too few lines that lean
        # The first two are those by which the eye sees the girdle: it tilts about their middle.
        shoulder_marks = (*sides("shoulder"), *sides("scapula_corner"))
        hip_marks: tuple[str, ...] = (
            *sides("trochanter"), *sides("sacrum_dimple"), "sacrum_base", *sides("gluteal_fold"),
            "crotch",
        )  # fmt: skip
        if "hip_point_r" in body.marks:
            hip_marks = (*sides("hip_point"), *hip_marks)
        shoulders, hips = sides("shoulder"), sides("hip")
        out += _pairs()
        out += [
            Kind("shoulders wide", girdle(shoulder_marks, shoulders, tilt=False), (0.08, 0.2),
                 names(("widen", "shoulders")), GIRDLES, frozenset({"shoulders"})),
            Kind("shoulders tilted", girdle(shoulder_marks, shoulders, tilt=True), (4.0, 9.0),
                 names(("tilt", "shoulders")), GIRDLES, frozenset({"shoulders"})),
            Kind("hips tilted", girdle(hip_marks, hips, tilt=True), (4.0, 9.0),
                 names(("tilt", "pelvis")), GIRDLES, frozenset({"hips"})),
        ]  # fmt: skip
    else:
        out.append(
            # A neck that is turned forward says the same.
            Kind("head forward", head_forward, (0.12, 0.3),
                 names(("shift", "neck"), ("swing", "neck")), MASSES,
                 frozenset({"head"}))
        )  # fmt: skip
    out += _single(side, end)
    if "far_knee" in body.marks:
        far = _single("r", "", "far_")
        out += [replace(one, title=f"{one.title}, far side") for one in far]
    key = str(rng.choice(sorted(body.marks)))
    out.append(
        Kind("one mark", wild(key, float(rng.uniform(0.0, 360.0))), (0.2, 0.45),
             names(("shift", key)), ENDS, frozenset({"mark"}), both_ways=False)
    )  # fmt: skip
    return out


_EYES = ("eye_inner", "eye_outer", "eye_front", "pupil", "lid_upper", "lid_lower", "iris_inner",
         "iris_outer")  # fmt: skip
_EYE_BAND = (*_EYES, "brow", "brow_mid", "brow_start", "brow_end", "nose_root")
_LIPS = ("mouth", "mouth_mid", "mouth_corner", "bow_mid", "bow_peak", "lip_low", "lip_high",
         "lip_front")  # fmt: skip
_BELOW_BROW = ("nose_base", "nostril", "nose_tip", *_LIPS, "chin", "chin_front", "chin_fold", "jaw")
_EARS = ("ear_top", "ear_base", "ear_hole", "ear_root", "lobe_root")
_SIDES = ("face_edge", *_EARS, "cheek")
_MASK = (*_EYE_BAND, "nose_base", "nostril", "nose_tip", *_LIPS)
"""What goes wrong together, by the names of marks without their sides."""

_EDGES_OF_FORMS = ("lid_", "iris_", "brow_start", "brow_end", "bow_", "lip_")
"""Marks that do not count for where a middle is: there are many of them about the eyes."""


def _named(marks: Places, names: tuple[str, ...], sides: str = "rl") -> tuple[str, ...]:
    """Those of the marks that have one of the names, on these sides where they have a side."""
    found = []
    for key in marks:
        name = _bare(key)
        side = name[-1] if name[-2:] in {"_r", "_l"} else ""
        name = name[:-2] if side else name
        if name in names and (not side or side in sides):
            found.append(key)
    return tuple(found)


def _bare(key: str) -> str:
    """A mark's name without which side of a turned head it is on."""
    return key.removeprefix("near_").removeprefix("far_")


def _firm_middle(body: Body, keys: Iterable[str]) -> np.ndarray:
    """(2,) of some marks, as far as they are corners, centres and tips."""
    keys = tuple(keys)
    firm = [key for key in keys if not _bare(key).startswith(_EDGES_OF_FORMS)]
    middle: np.ndarray = np.mean([body.marks[key] for key in firm or keys], axis=0)
    return middle


def _first(marks: Places, *keys: str) -> str:
    return next(key for key in keys if key in marks)


def tilted(keys: tuple[str, ...]) -> Change:
    """Marks turned about their own middle."""

    def change(body: Body, by: float) -> Places:
        about = _firm_middle(body, keys)
        return body.marks | {key: turned(body.marks[key], about, by) for key in keys}

    return change


def head_kinds(body: Body, rng: np.random.Generator) -> list[Kind]:
    """What can go wrong with a head in this view."""
    marks = body.marks
    brow = "brow" if "brow" in marks else "brow_mid"
    # A head that is tilted by less than the tolerance of its tilt is not told.
    out = [*_OF_WHOLE[:1], *(replace(one, sizes=(3.5, 8.0)) for one in _OF_WHOLE[2:])]
    skull = _named(marks, ("crown", "hairline", "temple", "hair_top"))
    out += [
        Kind("skull flat", grown_marks(skull, brow), (0.10, 0.22), names(("scale", "cranium")),
             MASSES, frozenset({"cranium"})),
        Kind("face long", grown_marks(_named(marks, _BELOW_BROW), brow), (0.08, 0.18),
             names(("scale", "nose")), MASSES, frozenset({"face"})),
    ]  # fmt: skip
    for title, turn, sizes, by in (
        ("head turned in space", {"head.twist": 1.0}, (5.0, 14.0), "face"),
        ("chin raised", {"head.nod": -1.0}, (5.0, 12.0), "nod"),
        ("head tipped", {"head.lean": -1.0}, (6.0, 12.0), "tip"),
    ):
        out.append(
            Kind(title, posed_by(turn), sizes, names((by, None)), WHOLE,
                 frozenset({"whole", "width", "face", "eyes", "mouth", "nose", "ears", "cranium"}),
                 pose=True)
        )  # fmt: skip
    features, eyes = _named(marks, _MASK), _named(marks, _EYES)
    chin = _named(marks, ("chin", "chin_front", "chin_fold"))
    out += [
        Kind("features big", grown_marks(features, None), (0.10, 0.25), names(("scale", "mask")),
             MASSES, frozenset({"face", "eyes", "mouth", "cranium"})),
        Kind("features aside", moved(features, (1.0, 0.0)), (0.05, 0.12),
             names(("shift", "mask")), MASSES,
             frozenset({"face", "eyes", "mouth", "cranium", "width"})),
        Kind("eyes and brows high", moved(_named(marks, _EYE_BAND), (0.0, 1.0)), (0.04, 0.10),
             names(("shift", "eye_band")), ENDS, frozenset({"eyes", "cranium", "face"})),
        Kind("chin long", grown_marks(chin, _first(marks, "mouth", "mouth_mid")), (0.20, 0.50),
             names(("scale", "chin"), ("shift", "chin"), ("scale", "mouth")), MASSES,
             frozenset({"face"})),
        Kind("ears low", moved(_named(marks, _EARS), (0.0, -1.0)), (0.06, 0.15),
             names(("shift", "ears")), ENDS, frozenset({"ears", "width"})),
        Kind("eyes high", moved(eyes, (0.0, 1.0)), (0.04, 0.10),
             names(("shift", "eye" if "eye_front" in marks else "eyes")), ENDS,
             frozenset({"eyes"})),
    ]  # fmt: skip
    if "mouth_corner_r" in marks or "near_mouth_corner" in marks:
        corners = _named(marks, _LIPS)
        out.append(
            Kind("mouth tilted", tilted(corners), (8.0, 16.0), names(("tilt", "lips")), ENDS,
                 frozenset({"mouth"}))
        )  # fmt: skip
    if "eye_outer_r" in marks:
        wide = each(*(grown_marks(_named(marks, _EYES, s), None) for s in "rl"))
        ears = each(
            *(
                grown_marks(_named(marks, ("ear_base", "lobe_root"), s), f"ear_top_{s}")
                for s in "rl"
            )
        )
        sides_of_face = _named(marks, (*_SIDES, "jaw"))
        side = "rl"[int(rng.integers(2))]
        one = _named(marks, _EYES, side)
        # Along the line that they lie on: the head may be tilted.
        along = marks["eye_outer_l"] - marks["eye_outer_r"]
        along /= np.linalg.norm(along)
        x, y = along.tolist()
        ways = (("r", (-0.5 * x, -0.5 * y)), ("l", (0.5 * x, 0.5 * y)))
        apart = each(*(moved(_named(marks, _EYES, s), way) for s, way in ways))
        outline = _named(marks, (*_SIDES, "jaw", "temple", "hair_side", "neck", "neck_base"))
        out += [
            Kind("eyes apart", apart, (0.06, 0.12), names(("widen", "eyes")), ENDS,
                 frozenset({"eyes"})),
            Kind("one eye low", moved(one, (0.0, -1.0)), (0.04, 0.09),
                 names(("shift", f"eye_{side}")), ENDS, frozenset({"eyes"})),
            Kind("outline wide", grown_marks(outline, None, across=along), (0.10, 0.2),
                 names(("widen", "outline")), MASSES, frozenset({"width", "whole"})),
            Kind("nose wide", grown_marks(("nostril_r", "nostril_l"), None, across=along),
                 (0.25, 0.5), names(("widen", "nostrils")), ENDS, frozenset({"nose"})),
            Kind("mouth wide", grown_marks(_named(marks, _LIPS), None, across=along),
                 (0.15, 0.35), names(("widen", "lips")), ENDS, frozenset({"mouth"})),
            Kind("both eyes wide", wide, (0.25, 0.5), names(("scale", "eyes")), ENDS,
                 frozenset({"eyes"})),
            Kind("both ears long", ears, (0.2, 0.5), names(("scale", "ears")), ENDS,
                 frozenset({"ears"})),
            Kind("face wide", grown_marks(sides_of_face, None, across=along), (0.08, 0.2),
                 names(("widen", "face_sides")), MASSES, frozenset({"width", "whole"})),
        ]  # fmt: skip
    key = str(rng.choice(sorted(marks)))
    out.append(
        Kind("one mark", wild(key, float(rng.uniform(0.0, 360.0))), (0.05, 0.14),
             names(("shift", key)), ENDS, frozenset({"mark"}), both_ways=False)
    )  # fmt: skip
    return out
