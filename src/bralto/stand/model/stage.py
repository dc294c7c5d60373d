"""A setting made ready to be looked at: what stands there as a mesh, its outermost points."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.figure.camera import View3D, looking
from bralto.core.figure.joints import SIDES
from bralto.core.figure.kinematics import Posed, about_plumb, posed
from bralto.core.figure.setting import Setting
from bralto.core.figure.standing import lowest, seat, stood
from bralto.stand.model.caster import Caster
from bralto.stand.model.mesh import COARSE, FINE, Mesh, box_mesh, figure_mesh, joined
from bralto.stand.model.solids import solid_mesh

__all__ = ["NO_WOOD", "Stage"]

BOX, FOOT = "box to sit on", "foot of the head"
NO_WOOD = (BOX, FOOT)
"""Parts that are no part of what is drawn."""

_BUST = ("head", "neck")
_BUST_CELLS = 0.5
"""How much smaller the cells of a head on its own are: it is seen from nearer."""

_PLINTH = 0.25  # heads, under the neck


@dataclass(frozen=True, slots=True, eq=False)
class Stage:
    """What stands there.

    Attributes:
        figure: its parts, or None for a solid.
        points: (n, 3) outermost points, heads: what a picture must hold.
        ring: radius of the circle on the ground about it, heads.
    """

    setting: Setting
    figure: Posed | None
    caster: Caster
    points: Floats
    ring: float

    @staticmethod
    def of(setting: Setting, cell: float = FINE) -> Stage:
        """Build what a setting names, with cells of that size, heads."""
        turned = about_plumb(setting.turn_deg)
        if setting.subject == "figure":
            figure = stood(setting.build, setting.pose)
            extra = _prop(figure, turned)
        elif setting.subject == "head":
            figure = _bust(setting)
            extra = [_plinth(turned)]
            cell = max(_BUST_CELLS * cell, FINE)
        else:
            mesh = solid_mesh(setting.subject, turned)
            points = mesh.points.astype(float)
            return Stage(setting, None, Caster(mesh), points, 0.5 + _reach(points))
        # What the picture must hold does not hang on how finely it is drawn.
        outer = [figure_mesh(figure, COARSE), *extra]
        points = np.vstack([mesh.points for mesh in outer]).astype(float)
        mesh = joined([outer[0] if cell == COARSE else figure_mesh(figure, cell), *extra])
        return Stage(setting, figure, Caster(mesh), points, _ring(figure, points))

    def under(self, setting: Setting) -> Stage | None:
        """The same in another light, seen from elsewhere; None where another thing stands there."""
        here = self.setting
        same = (setting.subject, setting.build, setting.pose)
        if same != (here.subject, here.build, here.pose):
            return None
        return replace(self, setting=setting)

    def view(self, width: int, height: int) -> View3D:
        """What the setting's camera sees.

        Raises:
            UserError: the camera stands inside or behind what it should show.
        """
        view = looking(self.setting.camera, self.setting.build.head_m, self.points, width, height)
        if _inside(self.caster, view.eye):
            raise UserError(
                f"the camera stands at {self.setting.camera.distance_m:g} m, inside what it should "
                "show; step back"
            )
        return view


def _inside(caster: Caster, eye: Floats) -> bool:
    """Whether a point is walled in: six rays out of it all meet something."""
    ways = np.vstack([np.eye(3), -np.eye(3)])
    return bool(caster.blocked(np.broadcast_to(eye, ways.shape), ways).all())


def _prop(figure: Posed, turned: Floats) -> list[Mesh]:
    box = seat(figure)
    return [] if box is None else [box_mesh(*box, turned, BOX)]


def _bust(setting: Setting) -> Posed:
    """Head and neck alone, on the table."""
    kept = {k: v for k, v in setting.pose.turns.items() if setting.takes(k)}
    pose = replace(setting.pose, turns=kept, prop="")
    whole = posed(setting.build, pose)
    bust = whole.only(_BUST)
    neck = bust.places["neck"]
    return bust.moved(np.array([-neck[0], _PLINTH - lowest(bust, ["neck"]) - 0.02, -neck[2]]))


def _plinth(turned: Floats) -> Mesh:
    low, high = np.array([-0.42, 0.0, -0.42]), np.array([0.42, _PLINTH, 0.42])
    return box_mesh(low, high, turned, FOOT)


def _reach(points: Floats) -> float:
    return float(np.hypot(points[:, 0], points[:, 2]).max())


def _ring(figure: Posed, points: Floats) -> float:
    """A little beyond the feet; about all of what lies or sits."""
    if "toes_r" not in figure.places:
        return 0.5 + _reach(points)
    feet = max(float(np.hypot(at[0], at[2])) for at in (figure.places[f"toes_{s}"] for s in SIDES))
    upright = float(points[:, 1].max()) > 0.55 * figure.build.heads
    return max(1.2, 0.55 + feet) if upright else 0.4 + _reach(points)
