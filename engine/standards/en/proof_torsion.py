"""How the checks of members in torsion are written out."""

from __future__ import annotations

from engine.derivation import Line, Values
from engine.standards.en.proof_stability import i_section
from engine.standards.en.torsion import NEARLY


def _hollow(v: Values) -> bool:
    return not i_section(v)


def _open_below_one(v: Values) -> bool:
    return v["grown"] < 1 - NEARLY


#: after those of the class of the section
TORSION = [
    Line("x", "", "", "distance from the member's start"),
    Line("N", "", "", "tension positive"),
    Line("Vz"),
    Line("Vy"),
    Line("My"),
    Line("Mz"),
    Line("T", "", "", "torque, as the analysis finds it"),
    Line("k_t", r"\sqrt{\dfrac{<G>\,<It>}{<E>\,<Iw>}}", "6.2.7(4)", "over 1/k warping dies away", i_section),
    Line("T_t", "", "6.2.7(1)", "St Venant's part of it, the largest for ends that warp or not", i_section),
    Line("B", "", "6.2.7(4)", "bimoment from E I_w θ″ − G I_t θ = −T, θ the rate of twist", i_section),
    Line("twist", "", "", "of the member from its start", i_section),
    Line("T_t", "", "6.2.7(8)", "closed: St Venant's alone", _hollow),
    Line("Wt", "", "", "St Venant's modulus: I_t over the thickest part; 2 A_m t of hollow sections"),
    Line("tau_t", r"\dfrac{|<T_t>|}{<Wt>}", "6.2.7(4)"),
    Line("u_T", r"\dfrac{\sqrt3\,<tau_t>}{<fy>/<gamma_M0>}", "6.2.7"),
    Line("left", r"\sqrt{1-<u_T>^2}", "(6.1)", "what torsion leaves of the strength for N and M"),
    Line("sheared", r"\sqrt{1-<u_T>/1.25}", "(6.26)", "what it leaves of the resistance to shear", i_section),
    Line("sheared", r"1-<u_T>", "(6.28)", "what it leaves of the resistance to shear", _hollow),
    Line("u_V", "", "(6.17)", "shear by itself"),
    Line(
        "u_VT",
        r"\dfrac{1}{2}\cdot\left(\dfrac{<u_T>}{1.25}+\sqrt{\left(\dfrac{<u_T>}{1.25}\right)^2+4\cdot <u_V>^2}\right)",
        "(6.25), (6.26)",
        "shear with torsion, as a share of what both may grow to",
        i_section,
    ),
    Line("u_VT", r"<u_V>+<u_T>", "(6.25), (6.28)", "shear with torsion", _hollow),
    Line("h_s", "", "", "between the middles of the flanges", i_section),
    Line("Mz_B", r"\dfrac{2\cdot <B>}{<h_s>}", "6.2.7(6)", "the bimoment bends each flange by B/h_s", i_section),
    Line("Mz_T", r"|<Mz>|+<Mz_B>", "6.2.7(6)", "both flanges as the worse one", i_section),
    Line("n", "", "6.2.9.1(5)", "under the strength that is left"),
    Line("ry", "", "(6.31)", "under the strength that is left", lambda v: not v["linear"]),
    Line("rz", "", "(6.31)", "under the strength that is left", lambda v: not v["linear"]),
    Line("u_NM", "", "6.2.9", "N + M under the strength that is left"),
    Line("u_MT", r"\sqrt{(<left>\cdot <u_NM>)^2+<u_T>^2}", "(6.1)", "as a share of what all may grow to"),
    Line("u", r"\max(<u_VT>,\ <u_MT>)", "6.2.7", "at most 1"),
]

#: after those of the class, of flexural and of lateral buckling
TWIST = [
    Line("u_63", "", "6.3.1 to 6.3.3", "the largest of buckling without torsion"),
    Line("T_t", "", "6.2.7(8)", "the largest along the member", _hollow),
    Line("u_T", "", "6.2.7", "its shear stress over the yield stress in shear", _hollow),
    Line("u", r"\sqrt{<u_63>^2+<u_T>^2}", "(6.1)", "with the strength that torsion leaves; at most 1", _hollow),
    Line("B", "", "6.2.7(4)", "the largest bimoment in the segment", i_section),
    Line("h_s", "", "", "between the middles of the flanges", i_section),
    Line(
        "W_w", r"\dfrac{<tf>\,<b>^2\,<h_s>}{6}", "EN 1993-6 A.2", "I_w over the largest sectorial coordinate", i_section
    ),
    Line("B_Rd", r"\dfrac{<W_w>\,<fy>}{<gamma_M1>}", "EN 1993-6 A.2", "elastic", i_section),
    Line("b_B", r"\dfrac{<B>}{<B_Rd>}", "EN 1993-6 A.2", "", i_section),
    Line("k_w", r"0.7-0.2\cdot <b_B>", "EN 1993-6 A.2", "", i_section),
    Line("k_zw", "", "EN 1993-6 A.2", "1 − M_z,Ed/M_z,Rd", i_section),
    Line("grown", "", "", "M_y,Ed/M_cr + N_Ed/N_cr, of z or torsion", i_section),
    Line(
        "k_alpha",
        r"\dfrac{1}{1-<grown>}",
        "EN 1993-6 A.2",
        "how the twist grows",
        lambda v: i_section(v) and _open_below_one(v),
    ),
    Line(
        "u",
        r"<u_63>+<k_w>\cdot <k_zw>\cdot <k_alpha>\cdot <b_B>",
        "EN 1993-6 (A.1)",
        "at most 1",
        lambda v: i_section(v) and _open_below_one(v),
    ),
    Line("u", "", "EN 1993-6 (A.1)", "it buckles", lambda v: i_section(v) and not _open_below_one(v)),
]
