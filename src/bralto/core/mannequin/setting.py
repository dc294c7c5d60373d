"""What stands on the model stand, how it is lit and from where it is looked at."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build, build_named
from bralto.core.mannequin.body.pose import STAND, Pose
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.poses import pose_named

__all__ = ["DEFAULT_BUILD", "SUBJECTS", "Setting", "default_setting", "set_up"]

SUBJECTS = ("figure", "head", "hand", "box", "cylinder", "egg", "chair", "solids")
"""What can stand there: the figure, its head alone, a cast of a hand, solids for practice in
measuring."""

DEFAULT_BUILD = "seven-and-a-half"

_OF_HEAD = ("neck", "head")

_CAMERAS = {
    "figure": Camera(),
    "head": Camera(distance_m=1.6, eye_m=0.20),
    "hand": Camera(distance_m=1.0, eye_m=0.14),
}
_FACING = frozenset({"head", "hand"})
"""What is first shown from the front; other things a little from the side."""
_OF_SOLIDS = Camera(distance_m=2.5, eye_m=0.9)


@dataclass(frozen=True, slots=True)
class Setting:
    """One view of the model stand, complete: the same setting gives the same picture.

    Attributes:
        subject: one of `SUBJECTS`; what is no figure takes only `pelvis.turn`, the turntable, from
            the pose, and the head what head and neck do.
        seconds: how long a series shows it, or None.
        hair: whether the head alone wears its hair. ``planes``: whether its forms are shown as flat
            planes, the big before the small.
    """

    subject: str = "figure"
    build: Build = field(default_factory=lambda: build_named(DEFAULT_BUILD))
    pose: Pose = field(default_factory=Pose)
    camera: Camera = field(default_factory=Camera)
    look: Look = field(default_factory=Look)
    seconds: float | None = None
    hair: bool = False
    planes: bool = False

    def takes(self, turn: str) -> bool:
        """Whether what stands there turns by that key (`JOINT.NAME`) of its pose."""
        own = self.subject == "head" and turn.split(".")[0] in _OF_HEAD
        return self.subject == "figure" or turn == STAND or own

    @property
    def title(self) -> str:
        """What it is called."""
        return self.pose.title or self.subject.capitalize()

    @property
    def turn_deg(self) -> float:
        """How far the stand is turned to the figure's left."""
        return self.pose[STAND]

    def checked(self) -> Setting:
        """The setting itself.

        Raises:
            UserError: something in it cannot be; the sentence says what.
        """
        if self.subject not in SUBJECTS:
            raise UserError(f"'{self.subject}' cannot stand there; {', '.join(SUBJECTS)} can")
        self.build.with_figures(**self.build.figures())
        self.pose.checked()
        self.camera.checked()
        self.look.checked()
        return self


def default_setting(subject: str = "figure") -> Setting:
    """A subject as the window first shows it."""
    if subject == "figure":
        pose = pose_named("weight-right").fitted(build_named(DEFAULT_BUILD))
    else:
        pose = Pose({STAND: 0.0 if subject in _FACING else 28.0})
    return Setting(subject, pose=pose, camera=_CAMERAS.get(subject, _OF_SOLIDS))


@lru_cache(maxsize=16)
def set_up(name: str, build: str = DEFAULT_BUILD) -> Setting:
    """A named pose, or a subject by its name, in a named build.

    Raises:
        UserError: there is no such pose or build.
    """
    chosen = build_named(build)
    if name in SUBJECTS:
        start = default_setting(name)
        return Setting(name, chosen, start.pose, start.camera, start.look)
    return Setting("figure", chosen, pose_named(name).fitted(chosen))
