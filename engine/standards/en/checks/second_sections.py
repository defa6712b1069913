"""A second figure for cross-sections and webs: by elastic stresses over the outline, and by what came before the present rules."""

from __future__ import annotations

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.shapes import outline_of
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.knees import of_member
from engine.standards.en.checks.knees_at import Knee
from engine.standards.en.checks.sections import section_values
from engine.standards.en.steel import reduction
from engine.structure.model import Floats
from engine.verification.checks import Second
from engine.verification.outcomes import Outcome

#: cuts through a section at which its shear stress is looked at
CUTS = 241
#: imperfection factor of curve c, by which webs buckled (ENV 1993-1-1 5.7.5)
CURVE_C = 0.49


def _piece(grounds: SteelGrounds, row: int) -> Section:
    """The section of an element, of a haunch or taper that of its piece."""
    made_of, members = int(grounds.steel_of[row]), grounds.combined.structure.members
    return members[made_of].section if made_of < len(members) else grounds.pieces[made_of - len(members)][1].section


def _yield(grounds: SteelGrounds, row: int) -> float:
    """f_y/γ_M0 of an element, Pa."""
    steel = grounds.element_steel.take(np.array([int(grounds.steel_of[row])]), 0)
    return float(steel.fy[0]) / grounds.document.rules.gamma_M0


def elastic(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The sum of elastic stresses (6.2.1(7), (6.42)): what 6.2.9 may not exceed in classes 1 to 3."""
    at = (outcome.row, outcome.station, outcome.combination)
    values = section_values(grounds, [outcome.row], [outcome.station], [outcome.combination])
    s = _piece(grounds, outcome.row)
    if float(np.ravel(values["cls"])[0]) > 3 or s.Wel_y <= 0 or s.Wel_z <= 0:
        return None
    N, My, Mz = (abs(float(getattr(grounds.peaks, name)[at])) for name in ("N", "My", "Mz"))
    found = (N / s.A + My / s.Wel_y + Mz / s.Wel_z) / _yield(grounds, outcome.row)
    return Second(
        "elastic stresses (6.42)", found, "elastic stresses leave the plastic reserve of classes 1 and 2 unused"
    )


def of_outline(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The largest elastic stress at any corner of the outline, in place of a sum of the largest of each force alone."""
    at = (outcome.row, outcome.station, outcome.combination)
    s = _piece(grounds, outcome.row)
    rings = outline_of(s)
    if not rings or s.turn:
        return None
    y, z = np.concatenate(rings).T
    N, My, Mz = (float(getattr(grounds.peaks, name)[at]) for name in ("N", "My", "Mz"))
    # M_y presses above (z upwards), M_z to the left of y, whichever way it acts the larger corner counts
    stress = max(float(np.abs(N / s.A + a * My * z / s.Iy + b * Mz * y / s.Iz).max()) for a in (1, -1) for b in (1, -1))
    return Second(
        "elastic stress at the corners of the outline",
        stress / _yield(grounds, outcome.row),
        "the rules add what is largest of each force, wherever it is in the section; shear is left out here",
    )


def sheared(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The largest elastic shear stress V S/(I t) over the outline, (6.20), beside f_y/√3; of a web that buckles, its critical stress."""
    values = evaluated(grounds, member, outcome).values
    s = _piece(grounds, outcome.row)
    along_z = values["u_Vz"] >= values["u_Vy"]
    if along_z and values.get("Vbw_Rd", np.inf) <= values["Vz_Rd"] * (1 + 1e-9):
        critical = 1 / values["lambda_w"] ** 2
        found = values["u_Vz"] * values["chi_w"] / min(critical, 1.0)
        return Second("τ_cr of the web alone", found, "what a web bears beyond its critical stress is left out")
    rings = outline_of(s)
    if not rings or s.turn:
        return None
    V, inertia = (abs(values["Vz"]), s.Iy) if along_z else (abs(values["Vy"]), s.Iz)
    tau = V / inertia * most_sheared(rings, 1 if along_z else 0)
    return Second(
        "V S/(I t) over the outline, (6.20)",
        float(tau * np.sqrt(3)) / _yield(grounds, outcome.row),
        "the elastic stress is largest at one place; the plastic area takes its mean",
    )


def most_sheared(rings: list[Floats], axis: int) -> float:
    """The largest S/t of an outline about its centroid, m²: S: first moment of what lies beyond a cut across the axis (0: y, 1: z), t: width of the
    cut."""
    places = np.concatenate([ring[:, axis] for ring in rings])
    low, high = float(places.min()), float(places.max())
    cuts = np.linspace(low, high, CUTS + 2)[1:-1]
    # beside each corner the width jumps
    near = np.concatenate([places - 1e-6, places + 1e-6])
    cuts = np.concatenate([cuts, near[(near > low + 1e-6) & (near < high - 1e-6)]])
    most = 0.0
    for cut in cuts.tolist():
        width = _width(rings, axis, cut)
        if width > 0:
            most = max(most, abs(sum(_beyond(ring, axis, cut) for ring in rings)) / width)
    return most


def _width(rings: list[Floats], axis: int, cut: float) -> float:
    """How much of a line across the axis lies in the outline."""
    crossed: list[float] = []
    for ring in rings:
        other = np.roll(ring, -1, axis=0)
        a, b = ring[:, axis] - cut, other[:, axis] - cut
        for k in np.flatnonzero(a * b < 0).tolist():
            share = a[k] / (a[k] - b[k])
            crossed.append(float(ring[k, 1 - axis] + share * (other[k, 1 - axis] - ring[k, 1 - axis])))
    crossed.sort()
    return sum(b - a for a, b in zip(crossed[::2], crossed[1::2], strict=False))


def _beyond(ring: Floats, axis: int, cut: float) -> float:
    """First moment about the centroid, along the axis, of what of a ring lies beyond a cut; of holes below 0 (they run the other way round)."""
    kept: list[Floats] = []
    for p, q in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        a, b = p[axis] - cut, q[axis] - cut
        if a >= 0:
            kept.append(p)
        if a * b < 0:
            kept.append(p + a / (a - b) * (q - p))
    if len(kept) < 3:
        return 0.0
    points = np.array(kept)
    after = np.roll(points, -1, axis=0)
    cross = points[:, 0] * after[:, 1] - after[:, 0] * points[:, 1]
    return float((cross * (points[:, axis] + after[:, axis])).sum() / 6)


def pulled_or_pressed(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """Tension by the area of the outline; compression by Rankine's sum of what yields and what buckles; angles in compression by one leg as a bar
    between pins (6.3.1), without what their gussets hold (BB.1.2)."""
    v = evaluated(grounds, member, outcome).values
    if v["u_t"] >= v["u_c"]:
        return _by_area(grounds, member, v)
    worst = max(v["lambda_y"], v["lambda_z"], v["lambda_TF"])
    if v["one_leg"]:
        chi = float(reduction(np.asarray(v["alpha_bar"]), np.asarray(worst))[1])
        why = "BB.1.2 counts that gussets hold the ends: λ_eff = 0.35 + 0.7 λ about v"
        return Second("a bar between pins, 6.3.1", v["N_Ed"] * v["gamma_M1"] / (chi * v["N_Rk"]), why)
    return rankine(v, worst)


def rankine(v: dict[str, float], slender: float) -> Second:
    """Buckling at a slenderness λ̄ by Rankine's sum of what yields and what buckles: χ = 1/(1 + λ̄²)."""
    return Second(
        "Rankine, 1/N = 1/N_Rk + 1/N_cr",
        v["N_Ed"] * v["gamma_M1"] * (1 + slender**2) / v["N_Rk"],
        "Rankine's sum takes no buckling curve: it lies below those for slight imperfections",
    )


def _by_area(grounds: SteelGrounds, member: int, v: dict[str, float]) -> Second | None:
    rings = outline_of(grounds.combined.structure.members[member].section)
    if not rings:
        return None
    area = 0.0
    for ring in rings:
        after = np.roll(ring, -1, axis=0)
        area += float((ring[:, 0] * after[:, 1] - after[:, 0] * ring[:, 1]).sum() / 2)
    found = v["N_Ed"] * v["gamma_M0"] / (area * v["fy"])
    return Second("stress over the area of the outline", found, "the printed area counts roots and tapers otherwise")


def crushed(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """A web under a concentrated force by ENV 1993-1-1: it crushes over s_s + s_y (5.7.3), and buckles as a strut of the width √(h² + s_s²) and the
    length 0.75 d (5.7.5), curve c."""
    v = evaluated(grounds, member, outcome).values
    s = grounds.combined.structure.members[member].section
    if s.shape != "I" or v["F"] <= 0:
        return None
    fy, ss, end = v["fy"], v["ss"], v["at_end"] > 0
    pressed = min((abs(v["N"]) / s.A + abs(v["My"]) / s.Wel_y) / fy, 1.0)
    spread = 2 * s.tf * np.sqrt(min(s.b, 25 * s.tf) / s.tw * (1 - pressed**2)) / (2 if end else 1)
    crushes = (ss + spread) * s.tw * fy
    wide = np.hypot(s.h, ss) / 2 + ss / 2 if end else np.hypot(s.h, ss)
    deep = s.h - 2 * s.tf - 2 * s.r
    slender = 0.75 * deep * np.sqrt(12) / s.tw / (np.pi * np.sqrt(v["E"] / fy))
    chi = float(reduction(np.asarray(CURVE_C), np.asarray(slender))[1])
    share = v["F"] * v["gamma_M1"] / min(crushes, chi * wide * s.tw * fy)
    return Second(
        "crushing and buckling as a strut, ENV 1993-1-1 5.7",
        float(max(share, (share + 0.8 * v["eta_1"]) / 1.4)),
        "the older rules spread the force by 45° and count the web as a strut held by its flanges",
    )


def sheared_panel(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """A panel by the jump of the member's own moment on its axis, and elastic shear stress of the web between the flanges (6.2.6(4))."""
    knee = of_member(grounds, member)[outcome.row]
    if grounds.combined.structure.members[member].checks.knees or knee.section.shape != "I":
        return None
    s, f, c = knee.section, grounds.analysed, outcome.combination
    across = sum(sign * float(f.Vz[e, at, c]) / 2 for e, at, sign in knee.sides)
    V = abs(_jump(grounds, knee, c) / min(beam.z for beam in knee.beams) + across)
    tau = float(grounds.steel.fy[member]) / np.sqrt(3) / grounds.document.rules.gamma_M0
    return Second(
        "the jump of its own moment on the axis, elastic shear",
        V / ((s.h - s.tf) * s.tw * tau),
        "the beams' shears enlarge the moment from the face to the axis; (6.7) counts the fillets and takes a tenth off",
    )


def _jump(grounds: SteelGrounds, knee: Knee, column: int) -> float:
    """By how much the moment of a member itself grows over a panel, Nm."""
    axes, My = grounds.combined.elements.axes, grounds.analysed.My
    first = knee.sides[0][0]
    found = 0.0
    for k, (e, station, _) in enumerate(knee.sides):
        behind = (knee.sides[0][1] == 0) == (k == 0)
        found += (1.0 if behind else -1.0) * float(axes[e][2] @ axes[first][2]) * float(My[e, station, column])
    return found
