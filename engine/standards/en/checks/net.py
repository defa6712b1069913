"""Members with holes at their ends: the net section in tension."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.net import HolesAt, Values, net_check
from engine.structure.model import Member
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: what is said of a member whose holes are not known
UNKNOWN = "net section not checked: no holes are stated"
#: and of an angle whose holes are stated, but not how it is connected
BOTH_LEGS = "its holes count as those of an angle connected by both legs: no bolts along one leg are stated"


def holes_of(member: Member) -> HolesAt | None:
    """The holes of a member in metres, through its flange or leg (I sections, angles, tees), its own thickness
    (flats) or its web where none is stated."""
    given, s = member.checks.holes, member.section
    if given is None:
        return None
    flange = s.shape in ("I", "angle", "double angle", "tee")
    part = min(s.h, s.b) if s.shape == "flat" else s.tf if flange else s.tw or s.tf
    return HolesAt(
        d0=given.d0 / 1e3,
        thickness=given.thickness / 1e3 if given.thickness else part,
        across=given.across,
        zigzag=given.zigzag,
        s=given.s / 1e3,
        p=given.p / 1e3,
        rows=given.rows if s.shape == "angle" else 0,
        p1=given.p1 / 1e3,
        e2=given.e2 / 1e3,
    )


def area_of(member: Member) -> float:
    """The area that the holes are taken off: of an unequal angle by one leg that of an equal one of its shorter leg, which 3.10.3(2) of
    EN 1993-1-8 asks for where that leg is connected (safe side where it is the longer)."""
    s = member.section
    if s.shape == "angle" and member.checks.holes and member.checks.holes.rows:
        return s.A - abs(s.h - s.b) * s.tf
    return s.A


def net_values(grounds: SteelGrounds, member: int, columns: list[int] | slice = slice(None)) -> Values:
    """`net_check` of a member with holes, by its largest tension in each combination."""
    m = grounds.combined.structure.members[member]
    holes = holes_of(m)
    assert holes is not None
    most, _ = grounds.extremes(member, columns)
    return net_check(most, area_of(m), holes, m.material.fu(holes.thickness), grounds.document.rules.gamma_M2)


def net(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each member with holes."""
    structure = grounds.combined.structure
    for i, m in enumerate(structure.members):
        if m.checks.holes is None:
            continue
        v = net_values(grounds, i)
        if np.isnan(v["fu"]):
            found.reasons[i].append("the material has no tensile strength for its net section")
        elif np.isnan(v["u_net"]).any():
            found.reasons[i].append("its holes leave nothing of the net section, or lie beyond its edge")
        else:
            c = int(np.argmax(v["u_net"]))
            found.outcomes[i].append(Outcome("net", float(v["u_net"][c]), c, 0.0, i))
    return []


def net_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """A member with holes in every combination for strength; nothing for others."""
    if grounds.combined.structure.members[member].checks.holes is None:
        return []
    return [most_of("net", grounds.strength, net_values(grounds, member)["u_net"][None], [(member, -1, 0.0)])]
