"""How what cold-formed purlins bear is written out: symbols, formulas and clauses of EN 1993-1-3. Values are in SI."""

from __future__ import annotations

from engine.derivation import Line, Symbol, Values, there

_SIZES = {
    "h": "h", "b_p": "b_p", "c_p": "c_p", "h_p": "h_w", "t": "t", "b_e1": "b_{e1}", "b_e2": "b_{e2}", "c_eff": "c_{eff}", "b_1": "b_1", "h_c": "h_c",
    "z_c": "z_c", "z_t": "z_t", "a": "a", "b_mod": "b_{mod}", "e": "e", "i_fz": "i_{fz}", "l_fz": "l_{fz}", "w": "w",
}  # fmt: skip
_PLAIN = {
    "lambda_b": r"\bar\lambda_{p,b}", "lambda_c": r"\bar\lambda_{p,c}", "k_c": r"k_{\sigma,c}", "lambda_d": r"\bar\lambda_d", "chi_d": r"\chi_d",
    "psi": r"\psi", "k_w": r"k_{\sigma,w}", "lambda_w": r"\bar\lambda_{p,h}", "rho_w": r"\rho_h", "lambda_v": r"\bar\lambda_w", "k_h0": "k_{h0}",
    "k_h": "k_h", "R": "R", "lambda_fz": r"\bar\lambda_{fz}", "chi": r"\chi_{LT}", "gamma_M0": r"\gamma_{M0}", "gamma_M1": r"\gamma_{M1}",
    "ratio": "L/w",
}  # fmt: skip
SYMBOLS: dict[str, Symbol] = {
    **{key: Symbol(latex, "mm", 1e3) for key, latex in _SIZES.items()},
    **{key: Symbol(latex) for key, latex in _PLAIN.items()},
    "L": Symbol("L", "m"),
    "E": Symbol("E", "N/mm²", 1e-6),
    "f_yb": Symbol("f_{yb}", "N/mm²", 1e-6),
    "f_bv": Symbol("f_{bv}", "N/mm²", 1e-6),
    "sigma_crs": Symbol(r"\sigma_{cr,s}", "N/mm²", 1e-6),
    "sigma_gr": Symbol(r"\sigma_{gr}", "N/mm²", 1e-6),
    "K_1": Symbol("K_1", "N/mm²", 1e-6),
    "K": Symbol("K", "N/mm²", 1e-6),
    "C_D": Symbol("C_D", "kNm/m", 1e-3),
    "A_s": Symbol("A_s", "mm²", 1e6),
    "I_s": Symbol("I_s", "mm⁴", 1e12),
    "I_eff": Symbol("I_{eff}", "cm⁴", 1e8),
    "I_gross": Symbol("I_y", "cm⁴", 1e8),
    "I_fic": Symbol("I_{fic}", "cm⁴", 1e8),
    "I_fz": Symbol("I_{fz}", "cm⁴", 1e8),
    "W_eff": Symbol("W_{eff,y}", "cm³", 1e6),
    "W_gross": Symbol("W_y", "cm³", 1e6),
    "W_fz": Symbol("W_{fz}", "cm³", 1e6),
    "m": Symbol("M_y/q", "m²"),
    "m_z": Symbol("M_{fz}/q", "m²"),
    "v": Symbol("V/q", "m"),
    "d": Symbol("w E I/q", "m⁴"),
    "V_b": Symbol("V_{b,Rk}", "kN", 1e-3),
    "q": Symbol("q_{Rd}", "kN/m", 1e-3),
}


def _zed(v: Values) -> bool:
    return "e" not in v


def _held_bed(v: Values) -> bool:
    return v["K"] > 0


_SECTION = (
    Line("t", "", "3.2.4", "of the core"),
    Line("f_yb"),
    Line("lambda_b", r"\frac{<b_p>/<t>}{28.4\,\sqrt{235/f_{yb}}\,\sqrt{4}}", "EN 1993-1-5 4.4(2)", "flange in compression"),
    Line("b_e1", r"\tfrac{1}{2}\,\rho\,<b_p>", "5.5.3.2(4)", "beside the web"),
    Line("k_c", "", "5.5.3.2(5)", "lip"),
    Line("lambda_c", r"\frac{<c_p>/<t>}{28.4\,\sqrt{235/f_{yb}}\,\sqrt{<k_c>}}", "EN 1993-1-5 4.4(2)"),
    Line("b_1", "", "5.5.3.1(5)", "from the web to the middle of the edge stiffener, as first estimated"),
    Line("K_1", r"\frac{<E>\,<t>^3}{4\,(1-0.3^2)}\,\frac{1}{<b_1>^2\,<h_p>+<b_1>^3}", "(5.10b)", "spring of the edge stiffener, k_f = 0"),
    Line("b_e2", "", "5.5.3.2(3)", r"at the lip, with χ_d f_yb"),
    Line("c_eff", "", "5.5.3.2(3)"),
    Line("A_s", r"<t>\,(<b_e2>+<c_eff>)", "(5.14)"),
    Line("I_s"),
    Line("sigma_crs", r"\frac{2\,\sqrt{<K_1>\,<E>\,<I_s>}}{<A_s>}", "(5.15)"),
    Line("lambda_d", r"\sqrt{<f_yb>/<sigma_crs>}", "(5.12d)"),
    Line("chi_d", "", "(5.12)", "distortional buckling"),
    Line("h_c", "", "", "depth of the centroid below the compressed flange, web whole"),
    Line("psi", r"1-<h_p>/<h_c>"),
    Line("k_w", "", "EN 1993-1-5 table 4.1"),
    Line("lambda_w", r"\frac{<h_p>/<t>}{28.4\,\sqrt{235/f_{yb}}\,\sqrt{<k_w>}}", "EN 1993-1-5 4.4(2)", "web"),
    Line("rho_w", "", "EN 1993-1-5 (4.2)"),
    Line("z_c", "", "", "of the effective section, to the compressed flange"),
    Line("I_eff"),
    Line("W_eff", r"<I_eff>/\max(<z_c>,\,<z_t>)"),
)  # fmt: skip
_MOMENT = Line("m", "", "", "elastic, over the spans in line, of 1 N/m all along: the largest")
_SHEAR = (
    Line("lambda_v", r"0.346\,\frac{<h_p>}{<t>}\,\sqrt{<f_yb>/<E>}", "(6.10a)"),
    Line("f_bv", "", "table 6.1", "no stiffeners at the supports"),
    Line("V_b", r"<h_p>\,<t>\,<f_bv>", "(6.8)"),
)
LINES: dict[str, tuple[Line, ...]] = {
    "held": (*_SECTION, _MOMENT, Line("q", r"\frac{<W_eff>\,<f_yb>/<gamma_M0>}{<m>}", "6.1.4")),
    "shear": (Line("t", "", "3.2.4", "of the core"), *_SHEAR, Line("v"), Line("q", r"\frac{<V_b>/<gamma_M0>}{<v>}", "6.1.5")),
    "both": (
        *_SECTION,
        *_SHEAR,
        Line("m", "", "", "over the support, elastic, of 1 N/m all along"),
        Line("v", "", "", "beside it"),
        Line("q", r"\frac{2\,B-A}{B^2},\ A=\frac{<m>\,<gamma_M0>}{<W_eff>\,<f_yb>},\ B=\frac{2\cdot <v>\,<gamma_M0>}{<V_b>}", "(6.27)", "with M_f,Rd = 0"),
    ),
    "free": (
        *_SECTION,
        Line("k_h0", r"\frac{<h_p>\,<t>\,(<b_p>^2+2\,<c_p>\,<b_p>-2\,<c_p>^2\,<b_p>/<h_p>)}{4\cdot <I_gross>}", "figure 10.3", "", _zed),
        Line("e", "", "figure 10.3", "of the shear centre beside the web", there("e")),
        Line("k_h0", r"<e>/<h_p>", "figure 10.3", "", there("e")),
        Line("a", "", "", "from the web to the fastener"),
        Line("k_h", "", "figure 10.3", "with a/h, share of the load that pushes the free flange sideways"),
        Line("I_fz", "", "10.1.4.1(2)", "flange, lip and a fifth of the web"),
        Line("C_D", "", "10.1.5.2", "of the sheeting with its fasteners, as stated"),
        Line("b_mod", "", "10.1.5.1(4)", "", _held_bed),
        Line("K", r"\left[\frac{4\,(1-0.3^2)\,<h>^2\,(<h_p>+<b_mod>)}{<E>\,<t>^3}+\frac{<h>^2}{<C_D>}\right]^{-1}", "(10.14)", "", _held_bed),
        Line("R", r"\frac{K\,L_a^4}{\pi^4\,E\,I_{fz}}", "(10.5)"),
        Line("l_fz", "", "10.1.4.2(2)", "of the free flange on its elastic bed, its force as the moment runs: from its critical force itself"),
        Line("lambda_fz", r"\frac{<l_fz>/<i_fz>}{\pi\,\sqrt{<E>/<f_yb>}}", "(10.8)"),
        Line("chi", "", "10.1.4.2(1)", "EN 1993-1-1 6.3.2.3, curve b, plateau 0.4, β = 0.75"),
        Line("m", "", "", "where the free flange asks most, of 1 N/m all along"),
        Line("m_z", "", "10.1.4.1", "there, of k_h on the free flange on its bed"),
        Line("q", r"\frac{<f_yb>/<gamma_M1>}{\frac{<m>}{<chi>\,<W_eff>}+\frac{<m_z>}{<W_fz>}}", "(10.7)"),
    ),
    "deflection": (
        *_SECTION,
        Line("I_gross"),
        Line("W_gross"),
        _MOMENT,
        Line("sigma_gr", "", "7.1(3)", "at the limit"),
        Line("I_fic", r"<I_gross>-\frac{<sigma_gr>}{<f_yb>}\,(<I_gross>-<I_eff>)", "7.1(3)"),
        Line("w", r"\frac{<L>}{<ratio>}"),
        Line("d", "", "", "elastic, of 1 N/m all along"),
        Line("q", r"\frac{<w>\,<E>\,<I_fic>}{<d>}"),
    ),
}  # fmt: skip
