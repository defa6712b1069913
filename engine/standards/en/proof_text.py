"""How the checks are written out: formulas as LaTeX with <names> of values, clauses, words."""

from __future__ import annotations

from engine.derivation import Line, Values
from engine.standards.en.proof_built_up import CHORD, LACING
from engine.standards.en.proof_stability import (
    ANNEX_A,
    ANNEX_B,
    FLEXURAL,
    LATERAL,
    by_annex_a,
    by_annex_b,
    class_4,
    full,
    i_section,
    only,
    slender,
)
from engine.standards.en.proof_stiffeners import STIFFENER
from engine.standards.en.proof_text_more import (
    AS_ONE_PLATE,
    AXIAL,
    GENERAL,
    HAUNCHED,
    HELD,
    KNEE,
    NET,
    SINGLE,
    STAYS,
    SUM,
    WEB,
)
from engine.standards.en.proof_torsion import TORSION, TWIST

#: where each criterion is written
CLAUSES = {
    "section": "EN 1993-1-1 6.2.9",
    "net": "EN 1993-1-1 6.2.3(2)",
    "web": "EN 1993-1-5 6, 7.2",
    "knee": "EN 1993-1-8 6.2.6.1",
    "stiffener": "EN 1993-1-5 9",
    "shear": "EN 1993-1-1 6.2.6",
    "flexural": "EN 1993-1-1 6.3.1",
    "lateral": "EN 1993-1-1 6.3.2",
    "interaction": "EN 1993-1-1 6.3.3",
    "sum": "EN 1993-1-1 6.2.1(7), 6.2.6",
    "single": "EN 1993-1-1 6.3.1, 6.3.2.2",
    "torsion": "EN 1993-1-1 6.2.7",
    "twist": "EN 1993-6 A.2",
    "general": "EN 1993-1-1 6.3.4",
    "chord": "EN 1993-1-1 6.4",
    "lacing": "EN 1993-1-1 6.4.2.2, 6.4.3.2",
    "held": "EN 1993-1-1 6.3.4",
    "stays": "EN 1993-1-1 6.3.5.2(3)",
    "axial": "EN 1993-1-1 6.2.3, 6.3.1",
    "slenderness": "limit of the rules",
    "critical": "EN 1993-1-1 5.2.1",
    "deflection": "EN 1990 A1.4",
    "sway": "EN 1990 A1.4",
    "apart": "EN 1990 A1.4",
    "variable": "EN 1990 A1.4",
    "imposed": "EN 1990 A1.4",
    "lasting": "EN 1990 A1.4",
    "rail_sway": "EN 1993-6 table 7.1(b)",
    "rail_beside": "EN 1993-6 table 7.1(c)",
    "rail_spread": "EN 1993-6 table 7.1(e)",
    "rail_level": "EN 1993-6 table 7.2(b)",
    "frequency": "EN 1990 A1.4.4",
    "floor": "EN 1990 A1.4.4",
}


def _by_axial_force(v: Values) -> bool:
    """Whether the section is checked by moment resistances that the axial force reduces."""
    return not v["linear"]


def _haunched(v: Values) -> bool:
    return v["kind"] == 4


def _no_haunch(v: Values) -> bool:
    return v["kind"] != 4


def _moved(words: str, clause: str = "EN 1990 A1.4.3") -> list[Line]:
    """A movement against its limit."""
    return [
        Line("w", "", clause, words),
        Line("limit", r"\dfrac{<span>}{<ratio>}", clause, "limit set in the rules or with the member", _by_ratio),
        Line("limit", "", clause, "limit in millimetres set in the rules or with the member", _absolute),
        Line("u", r"\dfrac{<w>}{<limit>}", "", "at most 1"),
    ]


def _absolute(v: Values) -> bool:
    return bool(v["absolute"])


def _by_ratio(v: Values) -> bool:
    return not v["absolute"]


_CLASS = [
    Line("fy", "", "table 3.1", "yield strength for the thickness"),
    Line("epsilon", r"\sqrt{235\,\mathrm{N/mm^2}/<fy>}", "table 5.2"),
    Line("flange", "", "table 5.2", "slenderness of the compressed flange or wall"),
    Line("web", "", "table 5.2", "slenderness of the web", i_section),
    Line("alpha_web", "", "table 5.2", "part of the web in compression with N_Ed", i_section),
    Line("web_2", "", "table 5.2", "limit of class 2 for the web", i_section),
    Line("cls", "", "5.5.2", "worse of flange and web"),
]


def _buckles_in_shear(v: Values) -> bool:
    return "Vbw_Rd" in v


def _in_panels(v: Values) -> bool:
    return _buckles_in_shear(v) and v["panel"] > 0 and not _haunched(v)


def _at_supports(v: Values) -> bool:
    return _buckles_in_shear(v) and v["panel"] == 0 and not _haunched(v)


def _rigid(v: Values) -> bool:
    return _buckles_in_shear(v) and v["rigid_ends"] > 0 and not _haunched(v)


def _not_rigid(v: Values) -> bool:
    return _buckles_in_shear(v) and (v["rigid_ends"] == 0 or _haunched(v))


def _as_one_plate(v: Values) -> bool:
    return _buckles_in_shear(v) and _haunched(v)


#: the resistance along z
_SHEAR = [
    Line("Vz_Rd", r"\dfrac{<Av_z>\,<fy>}{\sqrt3\,<gamma_M0>}", "(6.18)", "", lambda v: not _buckles_in_shear(v)),
    Line("lambda_w", "", "EN 1993-1-5 (5.5)", "h_w/(86.4 t ε), stiffeners at the supports alone", _at_supports),
    Line("lambda_w", "", "EN 1993-1-5 (5.5), 2.5", AS_ONE_PLATE, _as_one_plate),
    Line("panel", "", "", "distance of transverse stiffeners", _in_panels),
    Line("k_tau", "", "EN 1993-1-5 (A.5)", "5.34 + 4 (h_w/a)², 4 + 5.34 (h_w/a)² where a < h_w", _in_panels),
    Line("lambda_w", "", "EN 1993-1-5 (5.6)", "h_w/(37.4 t ε √k_τ)", _in_panels),
    Line("chi_w", "", "EN 1993-1-5 table 5.1", "end posts that are not rigid", _not_rigid),
    Line("chi_w", "", "EN 1993-1-5 table 5.1", "rigid end posts", _rigid),
    Line("Vbw_Rd", "", "EN 1993-1-5 (5.2)", "the web's share", _buckles_in_shear),
    Line(
        "Vz_Rd",
        r"\min\left(\dfrac{<Av_z>\,<fy>}{\sqrt3\,<gamma_M0>},\ <Vbw_Rd>\right)",
        "(6.18), EN 1993-1-5 5.2",
        "",
        _buckles_in_shear,
    ),
]

_SECTION = [
    *_CLASS,
    Line("x", "", "", "distance from the member's start"),
    Line("N", "", "", "tension positive"),
    Line("Vz"),
    Line("My"),
    Line("Mz"),
    Line("A_N", "", "EN 1993-1-5 4.4", "effective area of class 4 in compression alone", slender),
    Line("W_y", "", "EN 1993-1-5 4.4", "effective modulus of class 4 in bending alone", class_4),
    Line("N_Rd", r"\dfrac{<A>\,<fy>}{<gamma_M0>}", "(6.6), (6.10)", "", full),
    Line("N_Rd", r"\dfrac{<A_N>\,<fy>}{<gamma_M0>}", "(6.6), (6.11)", "", slender),
    Line("n", r"\dfrac{|<N>|}{<N_Rd>}", "6.2.9.1(5)"),
    *_SHEAR,
    Line("u_Vz", r"\dfrac{|<Vz>|}{<Vz_Rd>}", "(6.17)", "above 0.5 the shear reduces the moment resistance"),
    Line("rho_z", r"\left(2\cdot <u_Vz>-1\right)^2", "6.2.8(3)", "", lambda v: v["rho_z"] > 0 and v["kind"] != 2),
    Line("rho_z", "", "6.2.8(3)", "by both shears together", lambda v: v["rho_z"] > 0 and v["kind"] == 2),
    Line("My_V", "", "(6.30)", "with the shear present", lambda v: v["rho_z"] > 0),
    Line("My_V", r"\dfrac{<W_y>\,<fy>}{<gamma_M0>}", "(6.13), (6.14)", "", lambda v: v["rho_z"] == 0),
    Line("Mz_V", r"\dfrac{<W_z>\,<fy>}{<gamma_M0>}", "(6.13), (6.14)", "", lambda v: v["rho_y"] == 0),
    Line(
        "a",
        "",
        "6.2.9.1(5)",
        "part of the web, (A − 2 b t_f)/A ≤ 0.5",
        lambda v: not v["linear"] and v["My_N"] < v["My_V"] and v["kind"] != 2,
    ),
    Line(
        "My_N",
        r"\dfrac{<My_V>(1-<n>)}{1-0.5\cdot<a>}",
        "(6.36), (6.39)",
        "reduced by the axial force",
        lambda v: not v["linear"] and v["My_N"] < v["My_V"] and v["kind"] != 2,
    ),
    Line(
        "My_N",
        r"<My_V>\left(1-<n>^{1.7}\right)",
        "6.2.9.1(5)",
        "reduced by the axial force",
        lambda v: not v["linear"] and v["kind"] == 2,
    ),
    Line(
        "My_N",
        r"<My_V>",
        "(6.33), (6.34)",
        "the axial force is small enough to need no reduction",
        lambda v: not v["linear"] and v["My_N"] == v["My_V"] and v["kind"] != 2,
    ),
    Line("Mz_N", "", "(6.35), (6.37), (6.38), (6.40)", "reduced by the axial force", _by_axial_force),
    Line("ry", r"\dfrac{|<My>|}{<My_N>}", "(6.31)", "", _by_axial_force),
    Line("rz", r"\dfrac{|<Mz>|}{<Mz_N>}", "(6.31)", "", _by_axial_force),
    Line("exp_y", "", "6.2.9.1(6)", "", _by_axial_force),
    Line("exp_z", "", "6.2.9.1(6)", "", _by_axial_force),
    Line(
        "u",
        r"\max\left(<n>,\ <ry>,\ <rz>,\ (<ry>)^{<exp_y>}+(<rz>)^{<exp_z>}\right)",
        "(6.31), (6.41)",
        "at most 1",
        lambda v: not v["linear"] and bool(v["biaxial"]),
    ),
    Line(
        "u",
        r"\max\left(<n>,\ <ry>,\ <rz>\right)",
        "(6.31)",
        "at most 1",
        lambda v: not v["linear"] and not v["biaxial"],
    ),
    Line(
        "u",
        r"<n>+\dfrac{|<My>|}{<My_V>}+\dfrac{|<Mz>|}{<Mz_V>}",
        "(6.42), (6.43)",
        "at most 1",
        lambda v: bool(v["linear"]) and v["cls"] > 2,
    ),
    Line(
        "u",
        r"<n>+\dfrac{|<My>|}{<My_V>}+\dfrac{|<Mz>|}{<Mz_V>}",
        "(6.2)",
        "beyond the axial resistance no moment is left to (6.31); at most 1",
        lambda v: bool(v["linear"]) and v["cls"] <= 2,
    ),
]


LINES: dict[str, list[Line]] = {
    "axial": AXIAL,
    "net": NET,
    "web": WEB,
    "knee": KNEE,
    "stiffener": STIFFENER,
    "held": HELD,
    "stays": STAYS,
    "sum": SUM,
    "single": SINGLE,
    "section": [
        *only(_haunched, HAUNCHED),
        *only(_no_haunch, _SECTION),
    ],
    "torsion": [*_CLASS, *TORSION],
    "twist": [*_CLASS, *FLEXURAL, *LATERAL, *TWIST],
    "general": GENERAL,
    "chord": CHORD,
    "lacing": LACING,
    "shear": [
        Line("fy", "", "table 3.1"),
        Line("x", "", "", "distance from the member's start"),
        Line("Vz"),
        *_SHEAR,
        Line("u_Vz", r"\dfrac{|<Vz>|}{<Vz_Rd>}", "(6.17)"),
        Line("Vy"),
        Line("Vy_Rd", r"\dfrac{<Av_y>\,<fy>}{\sqrt3\,<gamma_M0>}", "(6.18), 6.2.6(3)"),
        Line("u_Vy", r"\dfrac{|<Vy>|}{<Vy_Rd>}", "(6.17)"),
        Line("u", r"\max(<u_Vz>,\ <u_Vy>)", "(6.17)", "at most 1", lambda v: v["kind"] != 2),
        Line("u", r"\sqrt{<u_Vz>^2+<u_Vy>^2}", "(6.17)", "both shears together; at most 1", lambda v: v["kind"] == 2),
    ],
    "flexural": [*_CLASS, *FLEXURAL, Line("u", r"\max(<u_Ny>,\ <u_Nz>)", "(6.46)", "at most 1")],
    "lateral": [*_CLASS, *LATERAL, Line("u", r"\dfrac{<My>}{<Mb_Rd>}", "(6.54)", "at most 1")],
    "interaction": [
        *_CLASS,
        *FLEXURAL,
        *LATERAL,
        Line("ratio_My", r"\dfrac{<My>}{<Mb_Rd>}", "6.3.3"),
        Line("Mz"),
        Line("Mz_Rk", r"<W_z>\,<fy>", "table 6.7"),
        Line("ratio_Mz", r"\dfrac{<Mz>}{<Mz_Rk>/<gamma_M1>}", "6.3.3"),
        *only(by_annex_b, ANNEX_B),
        *only(by_annex_a, ANNEX_A),
        Line("u_661", r"<u_Ny>+<kyy>\cdot <ratio_My>+<kyz>\cdot <ratio_Mz>", "(6.61)"),
        Line("u_662", r"<u_Nz>+<kzy>\cdot <ratio_My>+<kzz>\cdot <ratio_Mz>", "(6.62)"),
        Line("u", r"\max(<u_661>,\ <u_662>)", "(6.61), (6.62)", "at most 1"),
    ],
    "deflection": [
        Line(
            "camber",
            "",
            "EN 1990 A1.4.3",
            "rise in its middle before it is loaded, as a parabola",
            lambda v: v["camber"] > 0,
        ),
        *_moved("movement off the line between the supports, less its camber"),
    ],
    "slenderness": [
        Line("Lcr_y", "", "", "effective length about y"),
        Line("i_y"),
        Line("slender_y", r"\dfrac{<Lcr_y>}{<i_y>}", "6.3.1.3"),
        Line("Lcr_z", "", "", "effective length about z"),
        Line("i_z"),
        Line("slender_z", r"\dfrac{<Lcr_z>}{<i_z>}", "6.3.1.3"),
        Line("lambda_limit", "", "", "limit set in the rules or with the member"),
        Line("u", r"\dfrac{\max(<slender_y>,\ <slender_z>)}{<lambda_limit>}", "", "at most 1"),
    ],
    "critical": [
        Line("alpha_cr", "", "EN 1993-1-1 5.2.1(3)", "critical factor: what the loads may grow by"),
        Line("u", r"\dfrac{1}{<alpha_cr>}", "", "below 1: it buckles"),
    ],
    "variable": _moved("movement under variable actions alone"),
    "rail_sway": _moved("movement of the rail across, beside the foot, by cranes", "EN 1993-6 table 7.1(b)"),
    "rail_beside": _moved("what the rail moves across beside the next frame", "EN 1993-6 table 7.1(c)"),
    "rail_spread": _moved("change of the distance of the rails", "EN 1993-6 table 7.1(e)"),
    "rail_level": _moved("what one rail moves below the other", "EN 1993-6 table 7.2(b)"),
    "imposed": _moved("movement under imposed loads alone"),
    "lasting": _moved("movement under quasi-permanent actions, less its camber"),
    "frequency": [
        Line("w", "", "", "bent by its mass between the supports, quasi-permanent"),
        Line("f_own", r"\dfrac{17.75}{\sqrt{<w>}}", "EN 1990 A1.4.4", "its mass spread along it; w in mm"),
        Line("f_least", "", "EN 1990 A1.4.4", "limit set in the rules"),
        Line("u", r"\left(\dfrac{<f_least>}{<f_own>}\right)^2", "", "at most 1"),
    ],
    "floor": [
        Line("w_own", "", "", "bent by its mass between its supports, quasi-permanent"),
        Line("w_supports", "", "", "what these move downwards there"),
        Line(
            "f_own",
            r"\dfrac{1}{\sqrt{\dfrac{<w_own>}{17.75^2}+\dfrac{<w_supports>}{15.76^2}}}",
            "EN 1990 A1.4.4",
            "with what it rests on (Dunkerley); w in mm",
        ),
        Line("f_least", "", "EN 1990 A1.4.4", "limit set in the rules"),
        Line("u", r"\left(\dfrac{<f_least>}{<f_own>}\right)^2", "", "at most 1"),
    ],
    "apart": [
        Line("w", "", "EN 1990 A1.4.3", "what the heads of neighbouring frames move apart, across"),
        Line(
            "limit",
            r"\dfrac{<span>}{<ratio>}",
            "EN 1990 A1.4.3",
            "distance of the frames over the limit set in the rules",
        ),
        Line("u", r"\dfrac{<w>}{<limit>}", "", "at most 1"),
    ],
    "sway": _moved("horizontal movement of the head"),
}
