"""How the checks of built-up members are written out."""

from __future__ import annotations

from engine.derivation import Line, Values


def _laced(v: Values) -> bool:
    return v["laced"] > 0


def _battened(v: Values) -> bool:
    return v["laced"] == 0


#: forces of chords and joints, common to both criteria
_FORCES = [
    Line("fy", "", "table 3.1", "of the chords"),
    Line("h0", "", "", "between the centroids of the chords"),
    Line("a_panel", "", "", "distance of the joints along a chord"),
    Line("A_ch", "", "", "of one chord"),
    Line("mu", "", "table 6.8", "by the slenderness L/i_0", _battened),
    Line("I_eff", r"0.5\cdot <h0>^2\,<A_ch>", "(6.72)", "", _laced),
    Line("I_eff", "", "(6.74)", "0.5 h_0² A_ch + 2 μ I_ch", _battened),
    Line("S_v", "", "figure 6.9", "stiffness of the lacing in shear", _laced),
    Line("S_v", "", "(6.73)", "stiffness of chords and battens in shear", _battened),
    Line("Lcr_y", "", "", "effective length across the chords"),
    Line("Ncr_y", "", "6.4.1(6)", "of both chords together"),
    Line("e_0", r"\dfrac{<Lcr_y>}{500}", "6.4.1(1)", "bow"),
    Line("N_Ed", "", "", "the largest compression along it"),
    Line("M_I", "", "", "the largest moment across the chords, without the bow"),
    Line("M_Ed", r"\dfrac{<N_Ed>\,<e_0>+<M_I>}{1-<N_Ed>/<Ncr_y>-<N_Ed>/<S_v>}", "6.4.1(6)"),
    Line("V_I", "", "", "the largest shear of loads"),
    Line("V_bow", r"\dfrac{\pi\,<M_Ed>}{<Lcr_y>}", "(6.70)"),
    Line("V_Ed", "", "6.4.1(7)", "with the shear of loads: no less than that and what the bow grows by"),
]

CHORD = [
    *_FORCES,
    Line("N_ch", r"0.5\cdot <N_Ed>+\dfrac{<M_Ed>\,<h0>\,<A_ch>}{2\cdot <I_eff>}", "(6.69)"),
    Line("Ncr_ch", "", "6.4.2.1(2)", "of a chord between joints, about its weak axis"),
    Line("lambda_ch", r"\sqrt{\dfrac{<A_ch>\,<fy>}{<Ncr_ch>}}", "6.3.1.2"),
    Line("chi_ch", "", "(6.49)"),
    Line("Nb_ch", r"\dfrac{<chi_ch>\,<A_ch>\,<fy>}{<gamma_M1>}", "(6.47)"),
    Line("n_ch", r"\dfrac{<N_ch>}{<Nb_ch>}", "(6.71)"),
    Line("M_ch", r"\dfrac{<V_Ed>\,<a_panel>}{4}", "figure 6.11", "of each chord at a batten", _battened),
    Line("m_ch", "", "6.4.3.1", "over the elastic resistance, grown by 1/(1 − N_ch/N_cr,ch)", _battened),
    Line("Lcr_z", "", "", "effective length along both chords' strong axis"),
    Line("Ncr_z", "", "6.3.1.2"),
    Line("chi_z", "", "(6.49)"),
    Line("n_z", "", "(6.46)", "both chords as one about z"),
    Line("m_z", "", "", "moment about z over its elastic resistance, grown by 1/(1 − N_Ed/N_cr,z)"),
    Line("n_t", "", "6.2.3", "a chord in tension: half of the pull and M_y/h_0"),
    Line("v_y", "", "(6.17)", "shear along y over that of both webs"),
    Line(
        "u",
        r"\sqrt{\max\left(<n_ch>+<m_ch>+<m_z>,\ <n_z>+<m_z>,\ <n_t>+<m_z>\right)^2+<v_y>^2}",
        "6.4.3.1",
        "at most 1",
        _battened,
    ),
    Line(
        "u",
        r"\sqrt{\max\left(<n_ch>+<m_z>,\ <n_z>+<m_z>,\ <n_t>+<m_z>\right)^2+<v_y>^2}",
        "6.4.2.1",
        "at most 1",
        _laced,
    ),
]

LACING = [
    *_FORCES,
    Line("d", "", "", "length of a diagonal", _laced),
    Line("N_d", "", "6.4.2.2", "of one diagonal, by the planes and their arrangement", _laced),
    Line("Nb_d", "", "6.3.1, BB.1.2", "between the chords; crossing ones hold each other", _laced),
    Line("u", "", "6.4.2.2", "diagonals and posts, pressed or pulled; at most 1", _laced),
    Line("V_b", "", "figure 6.11", "V_Ed a/(n h_0) of one batten", _battened),
    Line("M_b", r"\dfrac{<V_b>\,<h0>}{2}", "figure 6.11", "at its ends", _battened),
    Line("m_b", "", "6.2.5", "over its elastic resistance", _battened),
    Line("s_b", "", "6.2.6(4)", "its largest shear stress over that at yield", _battened),
    Line("u", r"\sqrt{<m_b>^2+<s_b>^2}", "6.2.1(5)", "at most 1", _battened),
]
