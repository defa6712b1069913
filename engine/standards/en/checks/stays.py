"""Stays: whether what they lead to is as stiff as members need that count as held against twist there, and bears what they bring (EN 1993-1-1
6.3.5.2, 6.3.4). They hold a member as far as it then buckles no sooner than it needs to as a whole, or than its segments do that are verified one by one."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace

import numpy as np

from engine.standards.en.checks.general import Alike, alike
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sprung import Sprung
from engine.standards.en.checks.stays_to import SAME, UNKNOWN, UNPROVEN, Side, Stay
from engine.standards.en.stays import SHARE
from engine.structure.model import Floats, Ints
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: what stays are taken to lead to where it is asked what they need, Nm per radian
UNIT = 1e6
#: the flange that stays hold, by which one loads push: what they push bears purlins; either, where nothing says it
STAYED = {1: (-1,), -1: (1,), 0: (-1, 1)}


class Stays:
    """The stays of members alike, by the flange that they may hold."""

    def __init__(
        self, grounds: SteelGrounds, own: Alike, columns: list[int] | None = None, stays: list[Stay] | None = None
    ) -> None:
        flanges = STAYED[int(grounds.facing[own.members[0]])]
        self.own, self.each = own, [Sprung(grounds, own, flange, columns, stays) for flange in flanges]
        self.stays = self.each[0].stays

    def largest(self) -> tuple[Floats, Ints]:
        """(m,) the largest share of each member that is needed, and its combination."""
        found = [sprung.largest() for sprung in self.each]
        share, at = (np.array([one[k] for one in found]) for k in (0, 1))
        k, m = share.argmax(axis=0), np.arange(share.shape[1])
        return share[k, m], at[k, m]

    def reached(self) -> tuple[Floats, Floats, Ints]:
        """Of one member, (c,) the factor that it needs, the share of what there is that gives it, and which of the flanges that is."""
        every = np.arange(self.each[0].within.count)
        factors, share = (
            np.array(values) for values in zip(*(sprung.needs(every) for sprung in self.each), strict=True)
        )
        share = np.where([sprung.pressed()[0] > 0 for sprung in self.each], share, 0.0)
        k = share.argmax(axis=0)
        return factors[k, every], share[k, every], k

    def borne(self) -> tuple[list[tuple[Stay, Side]], dict[str, Floats]]:
        """As of each flange, one after the other."""
        found = [sprung.borne() for sprung in self.each]
        names = found[0][1]
        return [part for parts, _ in found for part in parts], {
            n: np.concatenate([v[n] for _, v in found]) for n in names
        }


def _whole(grounds: SteelGrounds, members: list[int] | None = None) -> list[Alike]:
    """Members with stays of which it is known what they lead to, in groups that are alike in that too."""
    known = [i for i in grounds.stays if grounds.stays[i][0]] if members is None else members
    found = []
    for own in alike(grounds, known, lambda s, i: [(0.0, s.length(s.members[i]))]):
        by: dict[object, list[int]] = defaultdict(list)
        for k, i in enumerate(own.members.tolist()):
            stays = grounds.stays[i][0]
            by[tuple((s.x, s.what, tuple(_like(grounds, side) for side in s.sides)) for s in stays)].append(k)
        found += [replace(own, members=own.members[same], elements=own.elements[same]) for same in by.values()]
    return found


def _like(grounds: SteelGrounds, side: Side) -> tuple[object, ...]:
    """What must be alike of what stays lead to."""
    made_of = grounds.combined.structure.members[side.member[0]].material.name if side.member else ""
    return round(side.rotation, 3), side.about, made_of


def stays(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes of each member with stays of which it is known what they lead to, and to what the verdicts of others leave out."""
    groups = _whole(grounds)

    def of(own: Alike) -> tuple[list[Outcome], bool]:
        """The outcomes of members alike, one after the other, and whether nothing is known of what some of their stays lead to bears."""
        sprung = Stays(grounds, own)
        said = [
            Outcome("held", u, c, sprung.stays[0].x, int(i))
            for i, u, c in zip(own.members, *(values.tolist() for values in sprung.largest()), strict=True)
        ]
        parts, v = sprung.borne()
        for k in range(len(own.members) if parts else 0):
            row, c = (int(n) for n in np.unravel_index(int(v["u_stays"][:, k].argmax()), v["u_stays"][:, k].shape))
            said.append(Outcome("stays", float(v["u_stays"][row, k, c]), c, parts[row][0].x, row))
        return said, len(parts) < len(sprung.each) * sum(len(stay.sides) for stay in sprung.stays)

    for own, (said, open_) in zip(groups, map(of, groups), strict=True):
        for k, outcome in enumerate(said):
            found.outcomes[int(own.members[k % len(own.members)])].append(outcome)
        for i in own.members.tolist() if open_ else ():
            found.left_out[i].append(UNPROVEN)
    for i, (_, others) in grounds.stays.items():
        found.left_out[i] += [UNKNOWN] if others else []
    return []


def _one(grounds: SteelGrounds, member: int, columns: list[int] | None = None) -> Stays | None:
    """One member with its stays; None without any of which it is known what they lead to."""
    return Stays(grounds, _whole(grounds, [member])[0], columns) if is_stayed(grounds, member) else None


def is_stayed(grounds: SteelGrounds, member: int) -> bool:
    """Whether a member has stays of which it is known what they lead to."""
    return bool(grounds.stays.get(member, ([], []))[0])


def stays_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The stays of a member in every combination; governing: their stiffness in the one that governs it alone."""
    sprung = _one(grounds, member)
    if sprung is None:
        return []
    share = np.full((1, len(grounds.strength)), np.nan)
    if governing:
        most, at = sprung.largest()
        share[0, at[0]] = most[0]
    else:
        share[0] = sprung.reached()[1]
    found = [most_of("held", grounds.strength, share, [(member, -1, sprung.stays[0].x)])]
    parts, v = sprung.borne()
    if parts:
        places = [(k, -1, stay.x) for k, (stay, _) in enumerate(parts)]
        found.append(most_of("stays", grounds.strength, v["u_stays"][:, 0], places))
    return found


def held_values(grounds: SteelGrounds, member: int, column: int) -> dict[str, float]:
    """Every value of the stiffness of a member's stays in one combination, for its proof."""
    sprung = _one(grounds, member, [column])
    assert sprung is not None
    factors, share, k = sprung.reached()
    of = sprung.each[int(k[0])]
    rotation = min(stay.rotation for stay in sprung.stays)
    v = {"alpha_whole": float(of.whole[0]), "alpha_need": float(factors[0]), "C_stay": rotation}
    v["alpha_seg"] = float(of.segments(np.arange(1), of.whole[:1])[0]) if factors[0] < of.whole[0] else np.nan
    return v | {"C_need": float(share[0]) * rotation, "N_f": float(of.forces().max()), "u": float(share[0])}


def stay_values(grounds: SteelGrounds, member: int, row: int, column: int) -> tuple[dict[str, float], Stay]:
    """Every value of the strength of what one stay of a member leads to in one combination, by its row, and the stay."""
    sprung = _one(grounds, member, [column])
    assert sprung is not None
    parts, v = sprung.borne()
    values = {name: float(of[row].ravel()[0]) for name, of in v.items()}
    return values | {"u": values["u_stays"], "x": parts[row][0].x}, parts[row][0]


def asked_of_stays(grounds: SteelGrounds, member: int) -> tuple[float, float, float] | None:
    """What a member asks of each of its stays: C_θ in Nm per radian and a force in N at its flange; and the least C_θ that there is, NaN where
    it is not known of any. None without stays."""
    m, (known, others) = grounds.combined.structure.members[member], grounds.stays.get(member, ([], []))
    both = [x for x in others if all(np.abs(np.array(places) - x).min() < SAME for places in (m.outer, m.inner))]
    if not known and not both:
        return None
    alike_ = [Stay(x, (Side(UNIT),), "") for x in sorted((*(stay.x for stay in known), *both))]
    sprung = Stays(grounds, _whole(grounds, [member])[0], stays=alike_)
    there = min((stay.rotation for stay in known), default=np.nan)
    return UNIT * float(sprung.largest()[0][0]), SHARE * max(float(one.forces().max()) for one in sprung.each), there


def stays_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what members need of their stays, and what these ask of what they lead to."""
    for i in (i for i in grounds.stays if is_stayed(grounds, i)):
        for reached in stays_reached(grounds, i):
            most[i] = np.fmax(most[i], reached.utilisation)
