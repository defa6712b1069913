"""Cases, loads and combinations that a document states itself."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import Category, Factor, LiesOn, Name, Nature, NotNegative, Number, Part, Vector
from engine.document.references import CaseName, MemberName, NodeName, PanelName


class CaseInput(Part):
    """A case by hand. category: of an imposed one (EN 1990 table A1.1). excludes: cases that bear the same word never act
    together; generated snow bears “snow”, wind “wind”. together: cases that bear the same word are one action, and act at
    once with one factor."""

    name: Name
    nature: Nature = "other"
    self_weight: bool = False
    category: Category = ""
    excludes: Annotated[str, Field(max_length=40)] = ""
    together: Annotated[str, Field(max_length=40)] = ""


class NodeLoad(Part):
    case: CaseName
    node: NodeName
    force: Vector = (0.0, 0.0, 0.0)
    moment: Vector = (0.0, 0.0, 0.0)


class SettlementLoad(Part):
    """An imposed movement of a supported node in a case, metres along X, Y, Z."""

    case: CaseName
    node: NodeName
    movement: Vector


class MemberLoad(Part):
    """A load on one member, or on a run of members that follow one another end to end.

    kind "force" and "moment": a concentrated vector at distance `start`; "line": from `value` at `start` to `value_end`
    at `end` (default: the same value, the whole member). "temperature": over the whole member, in kelvin: `value` is the
    change of its mean, and the differences by which its faces at +y and at +z are warmer than those at −y and −z.
    ratio: start and end are shares of the length. axes: "global", "local", or "projected" (per metre of plan). run: the
    members that follow; start and end then count along all of them, from the free end of the first.
    """

    case: CaseName
    member: MemberName
    run: Annotated[list[MemberName], Field(max_length=200)] = []
    kind: Literal["line", "force", "moment", "temperature"] = "line"
    value: Vector
    value_end: Vector | None = None
    start: NotNegative = 0.0
    end: NotNegative | None = None
    ratio: bool = False
    axes: Literal["global", "local", "projected"] = "global"


class PanelLoad(Part):
    """A pressure on a panel, in force per square metre; on a slab also a load along a line, in force per metre, or at a point, in force.

    axes: "normal" pushes onto the panel from outside, "down" acts downwards per surface, "plan" downwards per plan
    projection. part: corners in the panel's own coordinates (across the span, along it), from its first corner; empty: all
    of it. Of a line its points one after another, of a point the one.
    """

    case: CaseName
    panel: PanelName
    kind: LiesOn = "area"
    pressure: Number
    axes: Literal["normal", "down", "plan"] = "normal"
    part: Annotated[list[tuple[Number, Number]], Field(max_length=40)] = []
    label: Annotated[str, Field(max_length=40)] = ""


class AreaLoad(Part):
    """A pressure on many panels at once, in force per square metre.

    on: the panels that are named, or all roofs, walls or floors that there are; level: of floors, those at that level alone. excluded:
    members that take none of it: their share goes to the carriers beside them. axes: as of a PanelLoad.
    """

    case: CaseName
    on: Literal["panels", "roofs", "walls", "floors"] = "panels"
    level: Annotated[str, Field(max_length=80)] = ""
    panels: Annotated[list[PanelName], Field(max_length=2000)] = []
    excluded: Annotated[list[MemberName], Field(max_length=2000)] = []
    pressure: Number
    axes: Literal["normal", "down", "plan"] = "down"
    label: Annotated[str, Field(max_length=40)] = ""


class CombinationInput(Part):
    name: Name
    factors: dict[CaseName, Factor]
    use: Literal["strength", "accidental", "uplift", "deflection", "variable", "frequent", "quasi-permanent"] = (
        "strength"
    )
