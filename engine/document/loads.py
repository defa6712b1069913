"""Cases, loads and combinations that a document states itself."""

from __future__ import annotations

from typing import Literal

from engine.document.base import Name, Nature, NotNegative, Number, Part, Vector


class CaseInput(Part):
    name: Name
    nature: Nature = "other"
    self_weight: bool = False


class NodeLoad(Part):
    case: Name
    node: Name
    force: Vector = (0.0, 0.0, 0.0)
    moment: Vector = (0.0, 0.0, 0.0)


class MemberLoad(Part):
    """A load on one member.

    kind "force" and "moment": a concentrated vector at distance `start`; "line": from `value` at `start` to `value_end`
    at `end` (default: the same value, the whole member). axes: "global", "local", or "projected" (per metre of plan).
    """

    case: Name
    member: Name
    kind: Literal["line", "force", "moment"] = "line"
    value: Vector
    value_end: Vector | None = None
    start: NotNegative = 0.0
    end: NotNegative | None = None
    axes: Literal["global", "local", "projected"] = "global"


class CombinationInput(Part):
    name: Name
    factors: dict[Name, Number]
    use: Literal["strength", "deflection"] = "strength"
