"""How the checks of transverse stiffeners are written out: EN 1993-1-5 9."""

from __future__ import annotations

from engine.derivation import Line, Values


def _end(v: Values) -> bool:
    return v["end"] > 0


def _inner(v: Values) -> bool:
    return not _end(v)


def _pressed(v: Values) -> bool:
    return v["pressed"] > 0


def _in_panels(v: Values) -> bool:
    return v["panel"] > 0 and _inner(v)


def _beside_compression(v: Values) -> bool:
    return v["sigma_m"] > 0


def _post(v: Values) -> bool:
    return v["A_post"] > 0


def _short(v: Values) -> bool:
    """Whether panels are shorter than √2 h_w."""
    return _in_panels(v) and v["hw"] > v["panel"] / 2**0.5


STIFFENER = [
    Line("x", "", "", "distance from the member's start"),
    Line("b_s", "", "", "width of each of its two plates"),
    Line("t_s", "", "", "their thickness"),
    Line("hw", r"<h>-2\cdot <tf>", "EN 1993-1-5 figure 5.1"),
    Line("fy", "", "table 3.1", "of the member"),
    Line("fy_s", "", "table 3.1", "the weaker of the web and the plates"),
    Line("strip", "", "EN 1993-1-5 9.1(2)", "of the web, 15 ε t_w to each side, no more than there is"),
    Line("A_st", r"2\cdot <b_s>\cdot <t_s>+\left(<strip>+<t_s>\right)<tw>", "EN 1993-1-5 9.1(2)"),
    Line("I_st", r"\dfrac{<t_s>\left(2\cdot <b_s>+<tw>\right)^3+<strip>\cdot <tw>^3}{12}", "EN 1993-1-5 9.1(2)"),
    Line("F", "", "EN 1993-1-5 9.4", "what presses on it", _pressed),
    Line("panel", "", "", "distance of transverse stiffeners", _in_panels),
    Line("lambda_w", "", "EN 1993-1-5 (5.5)", "h_w/(86.4 t ε)", lambda v: _inner(v) and v["panel"] == 0),
    Line("lambda_w", "", "EN 1993-1-5 (5.6)", "h_w/(37.4 t ε √k_τ)", _in_panels),
    Line("V_s", "", "EN 1993-1-5 9.3.3(3)", "0.5 h_w inside the panels beside it, the largest", _inner),
    Line(
        "N_ST",
        r"\max\left(<V_s>-\dfrac{<fy>\cdot <hw>\cdot <tw>}{\sqrt{3}\cdot <gamma_M1>\cdot <lambda_w>^2},\ 0\right)",
        "EN 1993-1-5 9.3.3(3)",
        "",
        _inner,
    ),
    Line("N_s", r"<F>+<N_ST>", "EN 1993-1-5 9.1(3)", "", lambda v: _inner(v) and _pressed(v)),
    Line("N_s", r"<F>", "EN 1993-1-5 9.1(3)", "", _end),
    Line("N_s", r"<N_ST>", "EN 1993-1-5 9.1(3)", "", lambda v: _inner(v) and not _pressed(v)),
    Line("N_cr_s", r"\dfrac{\pi^2\,<E>\,<I_st>}{<hw>^2}", "EN 1993-1-5 9.4(2)"),
    Line("lambda_s", r"\sqrt{\dfrac{<A_st>\,<fy_s>}{<N_cr_s>}}", "6.3.1.2"),
    Line("chi_s", "", "(6.49)", "curve c, EN 1993-1-5 9.4(2)"),
    Line("N_b_s", r"\dfrac{<chi_s>\,<A_st>\,<fy_s>}{<gamma_M1>}", "(6.47)"),
    Line("u_N", r"\dfrac{<N_s>}{<N_b_s>}", "EN 1993-1-5 9.4(2)"),
    Line("u_tor", r"\dfrac{5.3\cdot <fy_s>}{<E>}\cdot \left(\dfrac{<b_s>}{<t_s>}\right)^2", "EN 1993-1-5 (9.3)"),
    Line("I_min", r"1.5\cdot \dfrac{<hw>^3\cdot <tw>^3}{<panel>^2}", "EN 1993-1-5 (9.6)", "", _short),
    Line("I_min", r"0.75\cdot <hw>\cdot <tw>^3", "EN 1993-1-5 (9.6)", "", lambda v: _in_panels(v) and not _short(v)),
    Line("u_I", r"\dfrac{<I_min>}{<I_st>}", "EN 1993-1-5 (9.6)", "", _in_panels),
    Line("N_web", "", "EN 1993-1-5 9.2.1(5)", "compression of the web beside it", _beside_compression),
    Line(
        "sigma_m",
        r"\dfrac{<N_web>}{<hw>}\cdot \dfrac{2}{<panel>}",
        "EN 1993-1-5 9.2.1(5)",
        "σ_cr,c/σ_cr,p = 1: safe side",
        _beside_compression,
    ),
    Line("Delta_N", r"\dfrac{<sigma_m>\cdot <hw>^2}{\pi^2}", "EN 1993-1-5 9.2.1(6)", "", _beside_compression),
    Line("w_0", r"\dfrac{\min\left(<panel>,\ <hw>\right)}{300}", "EN 1993-1-5 9.2.1(2)", "", _beside_compression),
    Line(
        "w",
        r"<w_0>\cdot \dfrac{<N_s>+<Delta_N>}{<N_cr_s>-<N_s>-<Delta_N>}",
        "EN 1993-1-5 9.2.1(4)",
        "beyond w_0",
        _beside_compression,
    ),
    Line("u_w", r"\dfrac{300\cdot <w>}{<hw>}", "EN 1993-1-5 9.2.1(4)", "", _beside_compression),
    Line(
        "sigma_s",
        r"\dfrac{<N_s>}{<A_st>}+\dfrac{\left(<N_s>+<Delta_N>\right)\left(<w_0>+<w>\right)\left(<b_s>+<tw>/2\right)}{<I_st>}",
        "EN 1993-1-5 9.2.1(4)",
        "second order",
        _beside_compression,
    ),
    Line("u_s", r"\dfrac{<sigma_s>\cdot <gamma_M1>}{<fy_s>}", "EN 1993-1-5 9.2.1(4)", "", _beside_compression),
    Line("e_post", "", "EN 1993-1-5 9.3.1", "distance of the two pairs of the end post", _post),
    Line("A_post", r"\dfrac{4\cdot <hw>\cdot <tw>^2}{<e_post>}", "EN 1993-1-5 9.3.1(3)", "of each pair", _post),
    Line(
        "u_post",
        r"\max\left(\dfrac{<A_post>}{2\cdot <b_s>\cdot <t_s>},\ \dfrac{0.1\cdot <hw>}{<e_post>}\right)",
        "EN 1993-1-5 9.3.1(3)",
        "",
        _post,
    ),
    Line("u", "", "EN 1993-1-5 9", "the largest of them, at most 1"),
]
