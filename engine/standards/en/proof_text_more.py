"""How the checks of haunched and tapered members and of bars are written out."""

from __future__ import annotations

from engine.derivation import Line, Values

#: how the web of a haunch buckles under shear, in words
AS_ONE_PLATE = "h_w/(86.4 t ε) at the deepest place, as one plate of its thinner part; stiffeners at the supports alone"


def _buckles(v: Values) -> bool:
    return "Vbw_Rd" in v


#: a cross-section with a haunch, by stresses
HAUNCHED = [
    Line("fy", "", "table 3.1", "yield strength for the thickest plate"),
    Line("x", "", "", "distance from the member's start"),
    Line("flange", "", "table 5.2", "the most slender flange"),
    Line("flange_3", r"14\sqrt{235\,\mathrm{N/mm^2}/<fy>}", "table 5.2", "limit of class 3"),
    Line("web_use", "", "table 5.2", "webs under their stresses, over the limit of class 3"),
    Line("N", "", "", "about the centroid of the whole; tension positive"),
    Line("Vz"),
    Line("My"),
    Line("Mz"),
    Line("A_used", "", "6.2.9.2", "of the whole section", lambda v: not v["slender"]),
    Line("A_used", "", "EN 1993-1-5 7.1", "of the flanges alone: a web is of class 4", lambda v: bool(v["slender"])),
    Line("M_used", "", "", "with N_Ed times the way between both centroids", lambda v: bool(v["slender"])),
    Line("u_T", "", "6.2.7", "St Venant torsion"),
    Line("twisted", r"\sqrt{1-<u_T>^2}", "(6.1)", "what torsion leaves of the strength"),
    Line("N_Rd", r"\dfrac{<A_used>\,<fy>}{<gamma_M0>}\cdot <twisted>", "(6.6), (6.10)"),
    Line("n", r"\dfrac{|<N>|}{<N_Rd>}", "6.2.9.2"),
    Line("lambda_w", "", "EN 1993-1-5 (5.5), 2.5", AS_ONE_PLATE, _buckles),
    Line("chi_w", "", "EN 1993-1-5 table 5.1", "end posts that are not rigid", _buckles),
    Line("Vbw_Rd", "", "EN 1993-1-5 (5.2)", "the web's share", _buckles),
    Line("u_Vz", "", "(6.17)", "above 0.5 the shear reduces the moment resistance"),
    Line("rho_z", r"\left(2\cdot <u_Vz>-1\right)^2", "6.2.8(3)", "", lambda v: v["rho_z"] > 0),
    Line("My_V", r"\dfrac{<W_y>\,<fy>}{<gamma_M0>}\cdot <twisted>", "(6.14)", "", lambda v: v["rho_z"] == 0),
    Line("My_V", "", "6.2.8(3)", "with the shear present, on the whole section", lambda v: v["rho_z"] > 0),
    Line("Mz_V", r"\dfrac{<W_z>\,<fy>}{<gamma_M0>}\cdot <twisted>", "(6.14)", "", lambda v: v["rho_y"] == 0),
    Line("u", r"<n>+\dfrac{<M_used>}{<My_V>}+\dfrac{|<Mz>|}{<Mz_V>}", "(6.42), (6.2)", "at most 1"),
]

GENERAL = [
    Line("x", "", "", "where the section is used most, from the member's start"),
    Line("N", "", "", "tension positive"),
    Line("My", "", "", "about the centroid of the section there"),
    Line("N_Rk", "", "6.3.4(2)", "of the section there"),
    Line(
        "My_Rk",
        "",
        "6.3.4(2)",
        "plastic in class 1 and 2, else elastic; by the flanges alone where a web is of class 4",
    ),
    Line("Lcr_y", "", "", "effective length in the plane"),
    Line("Ncr_y", "", "6.3.1.2", "of the least section"),
    Line("N_least", "", "", "of the least section"),
    Line("lambda_y", r"\sqrt{\dfrac{<N_least>}{<Ncr_y>}}", "6.3.1.2"),
    Line("chi_y", "", "(6.49)", "in the plane; curve b at least"),
    Line("N_plane", "", "6.3.1.1", "no more than of the least section"),
    Line("n_y", r"\dfrac{<N_Ed>\cdot <gamma_M1>}{<chi_y>\,<N_plane>}", "(6.46)"),
    Line("Cmy", "", "table B.3", "of the whole member"),
    Line("kyy", "", "table B.1"),
    Line("use_section", r"\dfrac{|<N>|}{<N_Rk>}+\dfrac{|<My>|}{<My_Rk>}", "6.3.4(2)", "the section by itself"),
    Line(
        "use_plane",
        r"\dfrac{<N_Ed>}{<chi_y>\,<N_plane>}+<kyy>\dfrac{|<My>|}{<My_Rk>}",
        "6.3.4(2), (6.61)",
        "with buckling in the plane",
    ),
    Line("alpha_ult", r"\dfrac{1}{\max(<use_section>,\ <use_plane>)}", "6.3.4(2)"),
    Line("alpha_op", "", "6.3.4(3)", "buckling sideways as an eigenvalue, with the flanges where they are"),
    Line("lambda_op", r"\sqrt{\dfrac{<alpha_ult>}{<alpha_op>}}", "(6.64)"),
    Line("alpha_op_z", "", "table 6.2", "about z, as a welded section: curve c or d"),
    Line("alpha_op_LT", "", "table 6.4", "as a welded section: c up to h/b = 2, else d"),
    Line("Phi_op", r"0.5\left[1+<alpha_op_z>(<lambda_op>-0.2)+<lambda_op>^2\right]", "6.3.1.2, table 6.2"),
    Line("chi_flex", r"\dfrac{1}{<Phi_op>+\sqrt{<Phi_op>^2-<lambda_op>^2}}\le 1", "(6.49)"),
    Line("Phi_LTop", r"0.5\left[1+<alpha_op_LT>(<lambda_op>-0.2)+<lambda_op>^2\right]", "6.3.2.2, table 6.4"),
    Line("chi_LTop", r"\dfrac{1}{<Phi_LTop>+\sqrt{<Phi_LTop>^2-<lambda_op>^2}}\le 1", "(6.56)"),
    Line("chi_op", r"\min(<chi_flex>,\ <chi_LTop>)", "6.3.4(4)a"),
    Line("u_op", r"\dfrac{<gamma_M1>}{<chi_op>\,<alpha_ult>}", "(6.63)"),
    Line("m_z", "", "", "largest weak-axis moment over its resistance", lambda v: v["m_z"] > 0),
    Line(
        "k_zop",
        r"\dfrac{1}{1-1/<alpha_op>}",
        "Timoshenko and Gere 1.11",
        "as what is bent sideways grows",
        lambda v: v["m_z"] > 0,
    ),
    Line("u", r"<u_op>+<k_zop>\cdot <m_z>", "", "at most 1", lambda v: v["m_z"] > 0),
    Line("u", r"<u_op>", "(6.63)", "at most 1", lambda v: v["m_z"] <= 0),
]


def _pulled(v: Values) -> bool:
    return v["u_t"] > v["u_c"]


def _pressed(v: Values) -> bool:
    return not _pulled(v)


def _one_leg(v: Values) -> bool:
    return v["one_leg"] > 0 and _pressed(v)


def _bent_z(v: Values) -> bool:
    return v["Mz"] != 0


def _at_end(v: Values) -> bool:
    return bool(v["at_end"])


def _inside(v: Values) -> bool:
    return not v["at_end"]


WEB = [
    Line("fy", "", "table 3.1"),
    Line("x", "", "", "distance from the member's start"),
    Line("F", "", "", "the jump of the shear there, either way"),
    Line("hw", r"<h>-2\cdot <tf>", "EN 1993-1-5 figure 5.1"),
    Line("ss", "", "EN 1993-1-5 6.3", "stiff bearing length, at most h_w"),
    Line("k_F", "", "EN 1993-1-5 figure 6.1 (a)", "no stiffeners beside it", _inside),
    Line(
        "k_F", r"\min\left(2+6\cdot \dfrac{<ss>}{<hw>},\ 6\right)", "EN 1993-1-5 figure 6.1 (c)", "at an end", _at_end
    ),
    Line("F_cr", r"0.9\cdot <k_F>\cdot <E>\cdot \dfrac{<tw>^3}{<hw>}", "EN 1993-1-5 (6.5)"),
    Line("m_1", r"\dfrac{<b>}{<tw>}", "EN 1993-1-5 (6.8)"),
    Line("m_2", r"0.02\cdot \left(\dfrac{<hw>}{<tf>}\right)^2", "EN 1993-1-5 (6.9)", "", lambda v: v["m_2"] > 0),
    Line("m_2", "", "EN 1993-1-5 (6.9)", "the slenderness is at most 0.5", lambda v: v["m_2"] == 0),
    Line("l_e", "", "EN 1993-1-5 (6.13)", "at most the bearing length", _at_end),
    Line("l_y", r"<ss>+2\cdot <tf>\left(1+\sqrt{<m_1>+<m_2>}\right)", "EN 1993-1-5 (6.10)", "", _inside),
    Line("l_y", "", "EN 1993-1-5 (6.10), (6.11), (6.12)", "the least of them", _at_end),
    Line("lambda_F", r"\sqrt{\dfrac{<l_y>\,<tw>\,<fy>}{<F_cr>}}", "EN 1993-1-5 (6.4)"),
    Line("chi_F", r"\min\left(\dfrac{0.5}{<lambda_F>},\ 1\right)", "EN 1993-1-5 (6.3)"),
    Line("F_Rd", r"\dfrac{<fy>\cdot <chi_F>\cdot <l_y>\cdot <tw>}{<gamma_M1>}", "EN 1993-1-5 (6.1), (6.2)"),
    Line("eta_2", r"\dfrac{<F>}{<F_Rd>}", "EN 1993-1-5 (6.14)"),
    Line("N"),
    Line("My"),
    Line("eta_1", "", "EN 1993-1-5 (4.14)", "elastic, of the effective section"),
    Line(
        "u",
        r"\max\left(<eta_2>,\ \dfrac{<eta_2>+0.8\cdot <eta_1>}{1.4}\right)",
        "EN 1993-1-5 (6.14), (7.2)",
        "at most 1",
    ),
]
SUM = [
    Line("fy", "", "table 3.1"),
    Line("web", "", "table 5.2", "as in uniform compression: safe side", lambda v: not v["solid"]),
    Line("flange", "", "table 5.2", "slenderness of the outstand", lambda v: not v["solid"]),
    Line("cls", "", "5.5.2", "worse of flange and web", lambda v: not v["solid"]),
    Line("cls", "", "5.5.2", "solid", lambda v: bool(v["solid"])),
    Line("x", "", "", "from the member's start"),
    Line("N", "", "", "tension positive"),
    Line("My", "", ""),
    Line("Mz", "", "", "", _bent_z),
    Line("N_Rd", r"\dfrac{<A>\,<fy>}{<gamma_M0>}", "(6.6), (6.10)"),
    Line("n", r"\dfrac{|<N>|}{<N_Rd>}", "6.2.4"),
    Line("Vz_Rd", r"\dfrac{<Av_z>\,<fy>}{\sqrt{3}\cdot <gamma_M0>}", "(6.18)"),
    Line("u_Vz", "", "(6.17)", "above 0.5 it reduces the moment resistance"),
    Line("u_Vy", "", "(6.17)", "", lambda v: v["u_Vy"] > 0),
    Line("rho_z", r"\left(2\cdot <u_Vz>-1\right)^2", "6.2.8(3)", "", lambda v: v["rho_z"] > 0),
    Line("rho_y", r"\left(2\cdot <u_Vy>-1\right)^2", "6.2.8(3)", "", lambda v: v["rho_y"] > 0),
    Line("W_y", "", "6.2.5(2)", "plastic in class 1 and 2, else elastic"),
    Line("My_V", r"\dfrac{<W_y>\,<fy>}{<gamma_M0>}", "(6.13), (6.14)", "", lambda v: v["rho_z"] == 0),
    Line("My_V", r"(1-<rho_z>)\cdot\dfrac{<W_y>\,<fy>}{<gamma_M0>}", "6.2.8(3)", "", lambda v: v["rho_z"] > 0),
    Line("W_z", "", "6.2.5(2)", "elastic, at the tips", lambda v: _bent_z(v) and not v["solid"]),
    Line("W_z", "", "6.2.5(2)", "plastic", lambda v: _bent_z(v) and bool(v["solid"])),
    Line("Mz_V", r"\dfrac{<W_z>\,<fy>}{<gamma_M0>}", "(6.14)", "", lambda v: _bent_z(v) and v["rho_y"] == 0),
    Line(
        "Mz_V",
        r"(1-<rho_y>)\cdot\dfrac{<W_z>\,<fy>}{<gamma_M0>}",
        "6.2.8(3)",
        "",
        lambda v: _bent_z(v) and v["rho_y"] > 0,
    ),
    Line("u_NM", r"<n>+\dfrac{|<My>|}{<My_V>}", "(6.2)", "", lambda v: v["Mz"] == 0 and v["My"] != 0),
    Line("u_NM", r"<n>", "(6.2)", "", lambda v: v["Mz"] == 0 and v["My"] == 0),
    Line("u_NM", r"<n>+\dfrac{|<My>|}{<My_V>}+\dfrac{|<Mz>|}{<Mz_V>}", "(6.2)", "", _bent_z),
    Line("u", r"\max(<u_NM>,\ <u_Vz>)", "6.2.1(7), (6.17)", "at most 1", lambda v: v["u_Vy"] == 0),
    Line("u", r"\max(<u_NM>,\ <u_Vz>,\ <u_Vy>)", "6.2.1(7), (6.17)", "at most 1", lambda v: v["u_Vy"] > 0),
]


def _prone(v: Values) -> bool:
    return bool(v["prone"])


def _even(v: Values) -> bool:
    return _prone(v) and v["skew"] == 0


def _uneven(v: Values) -> bool:
    return _prone(v) and v["skew"] != 0


SINGLE = [
    Line("fy", "", "table 3.1"),
    Line("N", "", "", "tension positive; tension counts as none"),
    Line("N_Rk", r"<A>\,<fy>", "6.3.1.1"),
    Line("Lcr_y", "", "", "effective length about y"),
    Line("Ncr_y", "", "6.3.1.2", "about y, no more than what the buckling of the whole leaves"),
    Line("lambda_y", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_y>}}", "6.3.1.2"),
    Line("Lcr_z", "", "", "effective length about z"),
    Line("Ncr_z", "", "6.3.1.2", "about z"),
    Line("lambda_z", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_z>}}", "6.3.1.2"),
    Line("Ncr_T", "", "6.3.1.4", "torsional, about the shear centre"),
    Line("Ncr_TF", "", "6.3.1.4", "the lowest of bending about y with torsion"),
    Line("lambda_TF", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_TF>}}", "6.3.1.4"),
    Line("lambda_worst", r"\max(<lambda_y>,\ <lambda_z>,\ <lambda_TF>)", "6.3.1"),
    Line("alpha_bar", "", "table 6.2", "curve c"),
    Line("Phi_bar", r"0.5\left[1+<alpha_bar>(<lambda_worst>-0.2)+<lambda_worst>^2\right]", "6.3.1.2"),
    Line("chi_bar", r"\dfrac{1}{<Phi_bar>+\sqrt{<Phi_bar>^2-<lambda_worst>^2}}\le 1", "(6.49)"),
    Line("Nb_Rd", r"\dfrac{<chi_bar>\,<N_Rk>}{<gamma_M1>}", "(6.47)"),
    Line("My", "", "", "largest that counts in the segment"),
    Line("cls", "", "5.5.2", "the web as in uniform compression: safe side", lambda v: not v["solid"]),
    Line("W_y", "", "6.3.2.1(3)", "plastic in class 1 and 2, else elastic"),
    Line("My_Rk", r"<W_y>\,<fy>", "6.3.2.1(3)"),
    Line("L_LT", "", "", "between restraints of the compressed flange", _prone),
    Line("Mcr_0", "", "6.3.2.2(2)", "of a uniform moment", _prone),
    Line("C1", "", "Trahair 7.2", "shape of the moment diagram between the restraints", _even),
    Line("skew", "", "Trahair 5.5", "of the side that is compressed, less loads beyond the shear centre", _uneven),
    Line("lift", "", "Timoshenko and Gere 6.4", "loads above the shear centre", lambda v: _even(v) and v["lift"] > 0),
    Line("Mcr", "", "6.3.2.2(2)", "elastic critical moment", _even),
    Line("N_z", "", "", "of the segment, about z", _uneven),
    Line(
        "Mcr", r"<N_z>\,<skew>+\sqrt{(<N_z>\,<skew>)^2+<Mcr_0>^2}", "6.3.2.2(2)", "as under a uniform moment", _uneven
    ),
    Line("lambda_LT", r"\sqrt{\dfrac{<My_Rk>}{<Mcr>}}", "6.3.2.2(1)", "", _prone),
    Line("alpha_LT", "", "table 6.4", "curve d", _prone),
    Line("Phi_LT", r"0.5\left[1+<alpha_LT>(<lambda_LT>-0.2)+<lambda_LT>^2\right]", "6.3.2.2(1)", "", _prone),
    Line("chi_LT", r"\dfrac{1}{<Phi_LT>+\sqrt{<Phi_LT>^2-<lambda_LT>^2}}\le 1", "(6.56)", "", _prone),
    Line("chi_LT", "", "6.3.2.1(2)", "it does not buckle sideways", lambda v: not _prone(v)),
    Line("Mb_Rd", r"\dfrac{<chi_LT>\,<My_Rk>}{<gamma_M1>}", "(6.55)"),
    Line("k_y", r"\dfrac{1}{1-<N_Ed>/<Ncr_y>}", "Timoshenko and Gere 1.11"),
    Line("Mz", "", "", "largest in the segment", _bent_z),
    Line("W_z", "", "6.2.5(2)", "elastic, at the tips", lambda v: _bent_z(v) and not v["solid"]),
    Line("W_z", "", "6.2.5(2)", "plastic", lambda v: _bent_z(v) and bool(v["solid"])),
    Line("Mz_Rk", r"<W_z>\,<fy>", "6.3.3(4)", "", _bent_z),
    Line("k_z", r"\dfrac{1}{1-<N_Ed>/<Ncr_z>}", "Timoshenko and Gere 1.11", "", _bent_z),
    Line(
        "u",
        r"\dfrac{<N_Ed>}{<Nb_Rd>}+<k_y>\dfrac{<My>}{<Mb_Rd>}",
        "6.3.1.1, 6.3.2.1",
        "at most 1",
        lambda v: not _bent_z(v),
    ),
    Line(
        "u",
        r"\dfrac{<N_Ed>}{<Nb_Rd>}+<k_y>\dfrac{<My>}{<Mb_Rd>}+<k_z>\dfrac{<Mz>\cdot <gamma_M1>}{<Mz_Rk>}",
        "6.3.1.1, 6.3.2.1",
        "at most 1",
        _bent_z,
    ),
]


def _whole_section(v: Values) -> bool:
    return v["rows"] == 0


NET = [
    Line("fu", "", "table 3.1", "tensile strength for the thickness"),
    Line("A_straight", r"<n_across>\,<d_0>\,<t_holes>", "6.2.2.2(3)", "holes in a straight section"),
    Line("A_zigzag", "", "(6.3)", "along the staggered line", lambda v: v["A_zigzag"] > 0),
    Line("A_net", r"<A>-<A_holes>", "6.2.2.2", "the larger of both counts"),
    Line("N_u", r"\dfrac{0.9\cdot <A_net>\,<fu>}{<gamma_M2>}", "(6.7)", "", _whole_section),
    Line("beta_leg", "", "EN 1993-1-8 table 3.8", "by one leg, by p_1/d_0", lambda v: v["rows"] > 1),
    Line(
        "N_u",
        r"\dfrac{<beta_leg>\,<A_net>\,<fu>}{<gamma_M2>}",
        "EN 1993-1-8 (3.12), (3.13)",
        "",
        lambda v: v["rows"] > 1,
    ),
    Line(
        "N_u",
        r"\dfrac{2\cdot (<e_2>-0.5\cdot <d_0>)\,<t_holes>\,<fu>}{<gamma_M2>}",
        "EN 1993-1-8 (3.11)",
        "one bolt in one leg",
        lambda v: v["rows"] == 1,
    ),
    Line("N_t", "", "", "largest tension"),
    Line("u", r"\dfrac{<N_t>}{<N_u>}", "(6.5)", "at most 1"),
]
AXIAL = [
    Line("fy", "", "table 3.1"),
    Line("N", "", "", "tension positive"),
    Line("N_Rk", r"<A>\,<fy>", "6.2.3, 6.3.1.1"),
    Line("N_Rd", r"\dfrac{<N_Rk>}{<gamma_M0>}", "(6.6)", "", _pulled),
    Line("slender", "", "EN 1993-1-5 4.4", "the worst part over what leaves all of the area effective", _pressed),
    Line("Lcr_y", "", "", "effective length about y", _pressed),
    Line("Ncr_y", "", "6.3.1.2", "about the strong axis", _pressed),
    Line("lambda_y", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_y>}}", "6.3.1.2", "", _pressed),
    Line("Lcr_z", "", "", "effective length about z", _pressed),
    Line("Ncr_z", "", "6.3.1.2", "about the weak axis", _pressed),
    Line("lambda_z", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_z>}}", "6.3.1.2", "", _pressed),
    Line("Ncr_T", "", "6.3.1.4", "torsional", _pressed),
    Line("Ncr_TF", "", "6.3.1.4", "the lowest of bending and torsion together", _pressed),
    Line("lambda_TF", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_TF>}}", "6.3.1.4", "", _pressed),
    Line("lambda_eff_v", r"0.35+0.7\cdot<lambda_z>", "BB.1.2", "one leg connected, two bolts or a weld", _one_leg),
    Line("lambda_leg", "", "6.3.1.2", "about the axis along a leg", _one_leg),
    Line("lambda_eff_leg", r"0.50+0.7\cdot<lambda_leg>", "BB.1.2", "", _one_leg),
    Line("lambda_worst", "", "", "the slenderness that counts", _pressed),
    Line("alpha_bar", "", "table 6.2", "", _pressed),
    Line("Phi_bar", r"0.5\left[1+<alpha_bar>(<lambda_worst>-0.2)+<lambda_worst>^2\right]", "6.3.1.2", "", _pressed),
    Line("chi_bar", r"\dfrac{1}{<Phi_bar>+\sqrt{<Phi_bar>^2-<lambda_worst>^2}}\le 1", "(6.49)", "", _pressed),
    Line("Nb_Rd", r"\dfrac{<chi_bar>\,<N_Rk>}{<gamma_M1>}", "(6.47)", "", _pressed),
    Line("u", r"\dfrac{|<N>|}{<N_Rd>}", "(6.5)", "at most 1", _pulled),
    Line("u", r"\dfrac{|<N>|}{<Nb_Rd>}", "(6.46)", "at most 1", _pressed),
]


def _plated(v: Values) -> bool:
    return v["plated"] > 0


#: panels of webs at rigid joints
KNEE = [
    Line("fy", "", "table 3.1"),
    Line("x", "", "", "distance from the member's start"),
    Line("M_knee", "", "EN 1993-1-8 5.3", "what is joined there, at the faces, taken together"),
    Line("z_b", "", "EN 1993-1-8 6.2.7.1", "distance of the middles of its flanges", lambda v: v["beams"] == 1),
    Line("F_b", r"\dfrac{<M_knee>}{<z_b>}", "EN 1993-1-8 5.3(3)", "forces in its flanges", lambda v: v["beams"] == 1),
    Line("F_b", "", "EN 1993-1-8 5.3(3)", "forces in their flanges, each by its own M/z", lambda v: v["beams"] != 1),
    Line("V_c", "", "EN 1993-1-8 figure 5.6", "half the sum of the member's shears on both sides"),
    Line("V_wp", r"|<F_b>-<V_c>|", "EN 1993-1-8 (5.3)"),
    Line("A_vc", "", "6.2.6(3)", "", lambda v: not _plated(v)),
    Line("A_vc", "", "EN 1993-1-8 6.2.6.1(6)", "with one supplementary plate as thick as the web", _plated),
    Line("V_wp_Rd", r"\dfrac{0.9\cdot <fy>\cdot <A_vc>}{\sqrt{3}\cdot <gamma_M0>}", "EN 1993-1-8 (6.7)"),
    Line("u", r"\dfrac{<V_wp>}{<V_wp_Rd>}", "EN 1993-1-8 5.3", "at most 1"),
]


def _by_segments(v: Values) -> bool:
    return v["alpha_need"] < v["alpha_whole"]


#: stays: as stiff as they need to be, and what they ask of what they lead to
HELD = [
    Line("N_f", "", "", "largest compression in the stayed flange at a stay"),
    Line("C_stay", "", "", "of what one stay leads to, where it is least: 2 E I/L to each side"),
    Line("alpha_whole", "", "(6.63)", "at which the whole member passes, without its segments"),
    Line("alpha_seg", "", "", "at which the first of its segments buckles by itself", _by_segments),
    Line("alpha_need", r"\min(<alpha_whole>,\ <alpha_seg>)", "6.3.4(3)", "", _by_segments),
    Line("alpha_need", "<alpha_whole>", "6.3.4(3)", "", lambda v: not _by_segments(v)),
    Line("C_need", "", "6.3.4(3)", "with which it does not buckle sooner, as an eigenvalue"),
    Line("u", r"\dfrac{<C_need>}{<C_stay>}", "6.3.4(3)", "at most 1"),
]
STAYS = [
    Line("x", "", "", "distance from the member's start"),
    Line("N_f", r"\dfrac{|M_y|}{<d_f>}-N\,\dfrac{A_f}{A}", "6.3.5.2(3)B", "compression in the stayed flange there"),
    Line("F_stay", r"0.025\cdot <N_f>", "6.3.5.2(3)B", "sideways, at that flange"),
    Line("d_f", "", "", "between the flanges"),
    Line("part", "", "", "of its moment that falls to this side, by stiffness"),
    Line("M_stay", r"<F_stay>\cdot <d_f>\cdot <part>", "6.3.5.2(3)B", "at the stay"),
    Line("M_own", "", "", "what the member that it leads to bears there besides"),
    Line("M_side", "", "6.2.5, EN 1993-1-3 6.1.4", "what that bears"),
    Line("u", r"\dfrac{<M_own>+<M_stay>}{<M_side>}", "(6.12)", "at most 1"),
]
