"""Transverse stiffeners and end posts of webs whose plates are stated (EN 1993-1-5 9)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from engine.catalogue.steels import E as STEEL
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.webs import SHOWN, WEBBED, Side, beyond, jump, pressed
from engine.standards.en.steel import shear_factor
from engine.standards.en.stiffeners import Values, stiffener_check
from engine.structure.model import Floats, Member
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: places nearer to each other than this are one, m
SAME = 5e-3
UNSTATED = (
    "its transverse stiffeners and end posts themselves are not checked: their plates are not stated (EN 1993-1-5 9)"
)
UNEVEN = "its transverse stiffeners themselves are not checked, as it has a haunch or taper (EN 1993-1-5 9)"
NO_POST = "how far apart the two stiffeners of its rigid end posts stand is not stated: they are not checked (EN 1993-1-5 9.3.1)"


@dataclass(frozen=True)
class Stiffener:
    """A stiffener of a member. x: m from the start; end: an end post; what: presses on it, in words, "" where nothing does; sides: over which the shear
    jumps by that; before, behind: where the next ones stand, m."""

    x: float
    end: bool
    what: str
    sides: tuple[Side, ...]
    before: float
    behind: float


def is_stiffened(grounds: SteelGrounds, member: int) -> bool:
    """Whether a member has stiffeners whose plates are stated, which are checked."""
    m = grounds.combined.structure.members[member]
    return m.checks.plates is not None and _stated(m) and _even(grounds, member)


def _stated(m: Member) -> bool:
    own = m.checks
    return not m.bar and m.section.shape in WEBBED and bool(own.panel or own.rigid_ends or own.stiffened)


def _even(grounds: SteelGrounds, member: int) -> bool:
    """Whether it is one section all along."""
    rows = grounds.combined.elements.rows(member)
    return bool((grounds.steel_of[rows] == member).all()) and bool(np.isfinite(grounds.steel.fy[member]))


def stiffeners_of(grounds: SteelGrounds, member: int) -> list[Stiffener]:
    """All stiffeners of a member, from its start: every panel's length, at its ends, and where something presses on it."""
    m = grounds.combined.structure.members[member]
    own, length = m.checks, grounds.combined.structure.length(m)
    at = _in_panels(grounds, member, length) if own.panel or own.rigid_ends else []
    for p in pressed(grounds, member):
        near = [k for k, one in enumerate(at) if abs(one[0] - p.x) < SAME]
        if p.through or not (near or own.stiffened):
            continue
        at = [one for k, one in enumerate(at) if k not in near] + [(p.x, p.end, p.what, p.sides)]
    at.sort(key=lambda one: one[0])
    x = [0.0, *(one[0] for one in at), length]
    return [Stiffener(*one, x[k], x[k + 2]) for k, one in enumerate(at)]


#: x, whether it is an end post, what presses, and the sides of that place
_Place = tuple[float, bool, str, tuple[Side, ...]]


def _in_panels(grounds: SteelGrounds, member: int, length: float) -> list[_Place]:
    """The stiffeners at the ends of a member and between its panels."""
    m = grounds.combined.structure.members[member]
    rows, last = grounds.combined.elements.rows(member), grounds.analysed.x.shape[1] - 1
    at: list[_Place] = []
    for x, node, e, s in ((0.0, m.nodes[0], rows[0], 0), (length, m.nodes[-1], rows[-1], last)):
        # where it goes on in another member on its line it has no end post
        ends = beyond(grounds, member, node, last) is None
        at.append((x, True, "the shear at its end", ((int(e), s, 1.0),)) if ends else (x, False, "", ()))
    panel = m.checks.panel or length
    steps = panel * np.arange(1, int(np.ceil((length - SAME) / panel)))
    return at + [(x, False, "", ()) for x in steps.tolist()]


def stiffener_values(grounds: SteelGrounds, member: int, columns: list[int] | slice = slice(None)) -> Values:
    """`stiffener_check` of the stiffeners of a member, (stiffeners, combinations)."""
    m, every = grounds.combined.structure.members[member], stiffeners_of(grounds, member)
    p, plates = grounds.steel.take(np.array([member]), 0), m.checks.plates
    assert plates is not None
    hw, tw, fy_web = m.section.h - 2 * m.section.tf, m.section.tw, float(p.fy[0])
    panel = m.checks.panel or np.inf
    epsilon = np.sqrt(235e6 / fy_web * m.material.E / STEEL)
    slender = hw / (86.4 * tw * epsilon)
    if np.isfinite(panel):
        slender = hw / (37.4 * tw * epsilon * np.sqrt(float(shear_factor(p)[0])))
    x, V, N_web = _along(grounds, member)
    F = [jump(grounds, one.sides) if one.sides else np.zeros(V.shape[1]) for one in every]
    shear = [_most_between(x, V, one, hw / 2) for one in every]
    pressing = [_most_between(x, N_web, one, 0.0) for one in every]
    beside = [_beside(one) for one in every]
    fy = min(fy_web, m.material.fy(plates.thickness / 1000))
    return {"lambda_w": np.asarray(slender), "a": np.asarray(m.checks.panel or 0.0), "fy_s": np.asarray(fy)} | stiffener_check(
        width=plates.width / 1000,
        thickness=plates.thickness / 1000,
        hw=hw,
        tw=tw,
        E=m.material.E,
        fy=fy,
        fy_web=fy_web,
        lambda_w=float(slender),
        panel=panel,
        post=plates.post / 1000 if m.checks.rigid_ends else 0.0,
        beside=np.array(beside),
        ends=np.array([one.end for one in every])[:, None],
        F=np.array(F)[:, columns],
        V=np.array(shear)[:, columns],
        N_web=np.array(pressing)[:, columns],
        gamma_M1=grounds.document.rules.gamma_M1,
    )  # fmt: skip


def _beside(one: Stiffener) -> tuple[float, float]:
    """How much web there is for a stiffener before and behind it, m; beyond an end that is no end post as much as on its other side."""
    before, behind = (one.x - one.before) / 2, (one.behind - one.x) / 2
    return (before, behind) if one.end else (before or behind, behind or before)


def _along(grounds: SteelGrounds, member: int) -> tuple[Floats, Floats, Floats]:
    """Along a member: (k,) places, m, (k, c) shear in the web, and what of N and M_y presses its web, elastic, N."""
    elements, f, m = grounds.combined.elements, grounds.analysed, grounds.combined.structure.members[member]
    rows, s = elements.rows(member), m.section
    x = elements.positions(f.x, rows).ravel()
    hw = s.h - 2 * s.tf
    V, even, bent = (values[rows].reshape(len(x), -1) for values in (f.Vz, f.N / s.A, f.My / s.Iy * hw / 2))
    worst, other = even - np.abs(bent), even + np.abs(bent)
    # a triangle where the other edge is pulled, else a trapezium
    with np.errstate(divide="ignore", invalid="ignore"):
        triangle = np.where(worst < 0, worst**2 / (other - worst), 0.0) / 2
    N_web = np.where(other > 0, triangle, -(worst + other) / 2) * hw * s.tw
    return x, V, np.maximum(N_web, 0.0)


def _most_between(x: Floats, values: Floats, one: Stiffener, inside: float) -> Floats:
    """(c,) the largest magnitude in the panels beside a stiffener, from a distance inside their far edges on."""
    low, high = min(one.before + inside, one.x), max(one.behind - inside, one.x)
    between = np.abs(values[(x > low) & (x < high)]).max(axis=0, initial=0.0)
    return np.asarray(np.maximum(between, np.maximum(_at(x, values, low, "right"), _at(x, values, high, "left"))))


def _at(x: Floats, values: Floats, place: float, side: Literal["left", "right"]) -> Floats:
    """(c,) the magnitude at a place, of two that are there the one towards the middle."""
    k = int(np.clip(np.searchsorted(x, place, side), 1, len(x) - 1))
    step = x[k] - x[k - 1]
    share = (place - x[k - 1]) / step if step > 0 else 0.0
    return np.asarray(np.abs(values[k - 1] + np.clip(share, 0.0, 1.0) * (values[k] - values[k - 1])))


def stiffeners(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes of each member with stiffeners whose plates are stated, and to what the verdicts of others leave out."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if not _stated(m) or m.material.strength is None:
            continue
        if m.checks.plates is None or not _even(grounds, i):
            stand = m.checks.panel or m.checks.rigid_ends or pressed(grounds, i)
            found.left_out[i] += ([UNSTATED] if m.checks.plates is None else [UNEVEN]) if stand else []
            continue
        if m.checks.rigid_ends and not m.checks.plates.post:
            found.left_out[i].append(NO_POST)
        every = stiffeners_of(grounds, i)
        if not every:
            continue
        u = stiffener_values(grounds, i)["u_stiffener"]
        row, c = (int(k) for k in np.unravel_index(int(u.argmax()), u.shape))
        found.outcomes[i].append(Outcome("stiffener", float(u[row, c]), c, every[row].x, row))
        held.append(_shown(i, every, u.max(axis=1)))
    return held


def _shown(member: int, every: list[Stiffener], u: Floats) -> Held:
    at = np.array([one.x for one in every])
    return Held(np.full(len(at), member), at - SHOWN, at + SHOWN, u)


def stiffeners_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The stiffeners of a member in every combination."""
    every = stiffeners_of(grounds, member)
    if not every:
        return []
    u = stiffener_values(grounds, member)["u_stiffener"]
    return [most_of("stiffener", grounds.strength, u, [(k, -1, one.x) for k, one in enumerate(every)])]


def stiffeners_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what stiffeners reach."""
    for i in range(len(most)):
        if is_stiffened(grounds, i) and stiffeners_of(grounds, i):
            most[i] = np.maximum(most[i], stiffener_values(grounds, i)["u_stiffener"].max(axis=0))


def stiffeners_in(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What stiffeners reach in one combination for strength."""
    return [
        _shown(i, every, stiffener_values(grounds, i, [column])["u_stiffener"][:, 0])
        for i in range(len(grounds.combined.structure.members))
        if is_stiffened(grounds, i) and (every := stiffeners_of(grounds, i))
    ]
