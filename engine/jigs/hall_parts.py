"""The hall while it is being set out: parameters, cross-section, and the nodes and members found so far."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.jigs import Gable, HallJig
from engine.jigs.parts import Materials, Parts
from engine.jigs.profile import Profile, Slope
from engine.structure.model import HINGE, Floats


@dataclass
class Hall:
    """The hall being set out: its parameters, its cross-section, and the nodes found so far."""

    jig: HallJig
    parts: Parts
    materials: Materials
    profile: Profile
    y: Floats
    grade: Material
    sections: dict[str, Section] = field(default_factory=dict)

    def section(self, key: str) -> Section:
        """The section of a role."""
        if key not in self.sections:
            self.sections[key] = self.materials.section(getattr(self.jig.sections, key), f"hall.sections.{key}")
        return self.sections[key]

    def member(self, name: str, role: str, start: str, end: str, key: str, **more: Any) -> None:
        """Set a member of the hall with the section of a role."""
        self.parts.member(name, role, start, end, self.section(key), self.grade, jig="hall", slot=key, **more)

    def posted(self, frame: int) -> Gable | None:
        """The gable at a frame when it stands on posts."""
        gable = self.jig.front if frame == 1 else self.jig.back if frame == self.jig.frames else None
        return gable if gable and gable.kind == "posts" else None

    def trussed(self, frame: int) -> bool:
        """Whether a frame has trusses in place of rafters."""
        return self.jig.truss is not None and not self.posted(frame)

    def frames(self) -> range:
        """Numbers of the frames."""
        return range(1, self.jig.frames + 1)

    def widths(self) -> Floats:
        """Width of cladding that each frame carries: half a bay on each side."""
        half = np.array(self.jig.spacings) / 2
        widths: Floats = np.concatenate([half, [0.0]]) + np.concatenate([[0.0], half])
        return widths

    def eaves(self, frame: int, column: str) -> str:
        """Node at the top of a column."""
        return f"frame-{frame}/eaves-{column}"

    def on_slope(self, frame: int, slope: Slope, distance: float, mark: str) -> str:
        """A node on a slope; its ends are the nodes that stand there already."""
        if distance < 1e-6:
            return self.eaves(frame, slope.column_start)
        if distance > slope.length - 1e-6:
            return self.eaves(frame, slope.column_end) if slope.column_end else f"frame-{frame}/ridge-{slope.bay}"
        x, z = slope.at(distance)
        return self.parts.node(f"frame-{frame}/{mark}", (x, float(self.y[frame - 1]), z))


def between_frames(hall: Hall, bay: int, name: str, role: str, start: str, end: str, key: str) -> None:
    along = (0.0, hall.jig.spacings[bay - 1])
    hall.member(name, role, start, end, key, release_start=HINGE, release_end=HINGE, outer=along, inner=along)
