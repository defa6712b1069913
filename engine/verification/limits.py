"""Limits of movement by member or by its role: length over movement, millimetres, or both, of which what allows less holds; and what
keeps one."""

from __future__ import annotations

from dataclasses import dataclass

from engine.document import Document
from engine.document.rules import RoleLimits
from engine.structure.model import Ints, Member

#: ways in which heads drift: wherever to, or along one axis of the section
DRIFTS = ("drift", "drift y", "drift z")


@dataclass(frozen=True)
class Limit:
    """ratio: length over movement at least, 0: none; most: movement at most, m, 0: none. False where there is neither."""

    ratio: float = 0.0
    most: float = 0.0

    def __bool__(self) -> bool:
        return self.ratio > 0 or self.most > 0

    def over(self, length: float) -> float:
        """Length over the movement that is allowed."""
        return max(self.ratio, length / self.most if self.most else 0.0)

    def absolute(self, length: float) -> bool:
        """Whether it is the millimetres that allow less."""
        return self.most > 0 and self.over(length) > self.ratio


@dataclass(frozen=True)
class Stretch:
    """What keeps one limit, length / ratio. criterion: "deflection", "sway", "apart", "variable", "imposed", "lasting", those of crane rails,
    "frequency" (a limit on what the quasi-permanent combinations bend it by) or "floor" (with what it rests on). way: "down", "swing" (down, and with its supports, for
    "floor"), "aside" (level, square to it), "across"
    (local z), "across y", "drift" (or "drift y", "drift z" of the section), or "apart" (what two nodes move apart, `towards` a unit vector; `at`: by row
    the end, 0 or −1, at which that is shown). rows: (k,) elements along it; start, end: nodes of the line from which it is measured, the same twice for a cantilever;
    members: those it is made of. words: what it is. camber: how far it was made to rise in its middle, m. absolute: the limit
    is one in millimetres, of which the ratio follows."""

    criterion: str
    way: str
    rows: Ints
    start: int
    end: int
    length: float
    ratio: float
    members: tuple[int, ...]
    words: str
    camber: float = 0.0
    absolute: bool = False
    towards: tuple[float, float, float] = (0.0, 0.0, 0.0)
    at: tuple[int, ...] = ()

    @property
    def drifts(self) -> bool:
        """Whether it is how far a head moves beside a foot."""
        return self.way in DRIFTS


def total(document: Document, m: Member) -> Limit:
    """Under the characteristic combinations."""
    own = m.checks.deflection
    ratio = document.rules.deflection_ratio(m.role) if own is None else own
    return _limit(ratio, m.checks.deflection_mm, _of_role(document, m).total_mm)


def variable(document: Document, m: Member) -> Limit:
    """Under variable actions alone."""
    own, stated = m.checks.deflection_variable, document.rules.deflections_variable.get(m.role)  # type: ignore[call-overload]
    return _limit(stated if own is None else own, m.checks.variable_mm, _of_role(document, m).variable_mm)


def imposed(document: Document, m: Member) -> Limit:
    """Under imposed loads alone."""
    own, of_role = m.checks.deflection_imposed, _of_role(document, m)
    return _limit(of_role.imposed if own is None else own, m.checks.imposed_mm, of_role.imposed_mm)


def lasting(document: Document, m: Member) -> Limit:
    """Under the quasi-permanent combinations."""
    own, of_role = m.checks.deflection_lasting, _of_role(document, m)
    return _limit(of_role.lasting if own is None else own, m.checks.lasting_mm, of_role.lasting_mm)


def _limit(ratio: float | None, own: float | None, of_role: float | None) -> Limit:
    """Millimetres of the member itself stand in place of those of its role."""
    most = of_role if own is None else own
    return Limit(ratio or 0.0, (most or 0.0) / 1000)


def _of_role(document: Document, m: Member) -> RoleLimits:
    return document.rules.limits.get(m.role) or RoleLimits()  # type: ignore[call-overload]
