"""A setting made ready to be looked at: what stands there as a mesh, its outermost points."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.joints import SIDES
from bralto.core.mannequin.body.kinematics import Posed, about_plumb
from bralto.core.mannequin.bust import PLINTHS, bust, cast
from bralto.core.mannequin.camera import View3D, looking
from bralto.core.mannequin.posing.standing import seat, stood
from bralto.core.mannequin.setting import Setting
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import COARSE, FINE, Mesh, box_mesh, figure_mesh, joined, planed
from bralto.stand.model.form.solids import solid_mesh

__all__ = ["BUST_CELLS", "PICTURE", "PROPS", "Stage"]

PICTURE = (900, 1200)
"""Width and height upright, px, of a picture of the model that a study is made of."""

BOX, FOOT = "box to sit on", "plinth"
PROPS = (BOX, FOOT)
"""Parts that are no part of what is drawn."""

BUST_CELLS = 0.5
"""How much smaller the cells of a cast are: it is seen from nearer."""

_STANDS = ("subject", "build", "pose", "hair", "planes")
"""What of a setting the mesh hangs on."""


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
    def of(setting: Setting, cell: float = FINE, before: Stage | None = None) -> Stage:
        """Build what a setting names, with cells of that size, heads; what stood there before with
        such cells spares time where it was only turned."""
        turned = about_plumb(setting.turn_deg)
        if setting.subject == "figure":
            figure = stood(setting.build, setting.pose)
            extra = _prop(figure, turned)
        elif setting.subject in PLINTHS:
            figure = bust(setting) if setting.subject == "head" else cast(setting)
            extra = [_plinth(setting.subject, turned)]
            cell *= BUST_CELLS
        else:
            mesh = solid_mesh(setting.subject, turned)
            points = mesh.points.astype(float)
            return Stage(setting, None, _cast(mesh, before), points, 0.5 + _reach(points))
        # What the picture must hold does not hang on how finely it is drawn.
        outer = [figure_mesh(figure, COARSE), *extra]
        points = np.vstack([mesh.points for mesh in outer]).astype(float)
        if setting.subject == "head" and setting.planes:
            body = planed(figure)
        else:
            body = outer[0] if cell == COARSE else figure_mesh(figure, cell)
        mesh = joined([body, *extra])
        return Stage(setting, figure, _cast(mesh, before), points, _ring(figure, points))

    def under(self, setting: Setting) -> Stage | None:
        """The same in another light, seen from elsewhere; None where another thing stands there."""
        here = self.setting
        if any(getattr(setting, name) != getattr(here, name) for name in _STANDS):
            return None
        return replace(self, setting=setting)

    def picture_size(self) -> tuple[int, int]:
        """Width and height of such a picture, px: lying where what stands there is wider than high
        from where the camera stands.

        Raises:
            UserError: see `view`.
        """
        across, down = np.ptp(self.view(*PICTURE).project(self.points), axis=0)
        return PICTURE[::-1] if across > down else PICTURE

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


def _cast(mesh: Mesh, before: Stage | None) -> Caster:
    turned = None if before is None else before.caster.turned(mesh)
    return Caster(mesh) if turned is None else turned


def _inside(caster: Caster, eye: Floats) -> bool:
    """Whether a point is walled in: six rays out of it all meet something."""
    ways = np.vstack([np.eye(3), -np.eye(3)])
    return bool(caster.blocked(np.broadcast_to(eye, ways.shape), ways).all())


def _prop(figure: Posed, turned: Floats) -> list[Mesh]:
    box = seat(figure)
    return [] if box is None else [box_mesh(*box, turned, BOX)]


def _plinth(subject: str, turned: Floats) -> Mesh:
    half, height = PLINTHS[subject]
    low, high = np.array([-half, 0.0, -half]), np.array([half, height, half])
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
