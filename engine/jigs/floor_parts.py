"""What the parts of a floor jig share: where columns stand, and what each storey is made of."""

from __future__ import annotations

from dataclasses import dataclass

from engine.catalogue.properties import Section
from engine.jigs.parts import Parts, Point
from engine.structure.model import HINGE, Floats

#: a member with a hinge at each end
HINGED = {"release_start": HINGE, "release_end": HINGE}


@dataclass(frozen=True)
class Plan:
    """Where columns stand: at each of us (along the main beams) and vs (along the joists), metres. over_x: main beams run along X.
    whole: corners in X and Y, ((x0, x1), (y0, y1))."""

    us: Floats
    vs: Floats
    over_x: bool

    def at(self, u: float, v: float, z: float) -> Point:
        """A place in space."""
        return (float(u), float(v), z) if self.over_x else (float(v), float(u), z)

    def axis(self, name: str) -> Floats:
        """The columns' places along X or Y."""
        return self.us if (name == "X") == self.over_x else self.vs

    def mark(self, along_x: int, along_y: int) -> str:
        """The part of a node's name that says which column of each axis it belongs to."""
        i, j = (along_x, along_y) if self.over_x else (along_y, along_x)
        return f"{i + 1}-{j + 1}"


@dataclass(frozen=True)
class Stage:
    """One storey: the first part of its names and of those of the storey that it stands on ("": the ground), its deck's level and that of the columns' feet below it, sections with the jig's
    slot that they come from ("": its own), and its loads in kN/m²; bare: it has columns on its outer lettered lines and
    nothing on them."""

    prefix: str
    on: str
    level: float
    below: float
    beams: tuple[Section, str]
    joists: tuple[Section, str]
    columns: tuple[Section, str]
    permanent: float
    imposed: float
    category: str
    roof: bool
    bare: bool


def corner(parts: Parts, plan: Plan, stage: Stage, i: int, j: int) -> str:
    """The node of a column's head: column i along the main beams, j along the joists."""
    return parts.node(f"{stage.prefix}/{i + 1}-{j + 1}", plan.at(plan.us[i], plan.vs[j], stage.level))
