"""How the checks of stability are written out: flexural and lateral-torsional buckling, annexes A and B."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from engine.derivation import Line, Values
from engine.standards.en.interaction import NEARLY


def by_annex_b(v: Values) -> bool:
    return "C_yy" not in v


def by_annex_a(v: Values) -> bool:
    return "C_yy" in v


def _plastic(v: Values) -> bool:
    return v["cls"] <= 2


def _elastic(v: Values) -> bool:
    return v["cls"] > 2


def slender(v: Values) -> bool:
    """Whether the area in compression is an effective one, of class 4."""
    return v["A_N"] != v["A"]


def full(v: Values) -> bool:
    return not slender(v)


def class_4(v: Values) -> bool:
    return v["cls"] == 4


def i_section(v: Values) -> bool:
    return v["kind"] == 0


def _modified(v: Values) -> bool:
    return i_section(v) and "k_c" in v


def only(where: Callable[[Values], bool], lines: list[Line]) -> list[Line]:
    """The lines, in proofs where that holds too."""

    def both(line: Line) -> Callable[[Values], bool]:
        return lambda v: where(v) and line.when(v)

    return [replace(line, when=both(line)) for line in lines]


def _shares(axis: str) -> list[Line]:
    """N_Ed over N_cr about an axis; from 1 on flexural buckling fails by itself, and it counts as just below."""
    share, critical = f"e_{axis}", f"Ncr_{axis}"
    return [
        Line(share, rf"\dfrac{{<N_Ed>}}{{<{critical}>}}", "table A.1", "", lambda v: v["N_Ed"] < NEARLY * v[critical]),
        Line(
            share,
            "",
            "table A.1",
            "just below 1: beyond it flexural buckling fails by itself",
            lambda v: v["N_Ed"] >= NEARLY * v[critical],
        ),
    ]


ANNEX_B = [
    Line("Cmy", "", "table B.3"),
    Line("Cmz", "", "table B.3", "safe side"),
    Line("M_start", "", "", "moments of the segment, with their sign", i_section),
    Line("M_middle", "", "", "", i_section),
    Line("M_end", "", "", "", i_section),
    Line("CmLT", "", "table B.3", "from M_s and the larger end moment, distributed load; at least 0.4", i_section),
    Line(
        "kyy",
        r"<Cmy>\left(1+(<lambda_y>-0.2)<u_Ny>\right)\le <Cmy>(1+0.8\,<u_Ny>)",
        "table B.1",
        "",
        _plastic,
    ),
    Line(
        "kyy",
        r"<Cmy>\left(1+0.6\,<lambda_y>\,<u_Ny>\right)\le <Cmy>(1+0.6\,<u_Ny>)",
        "table B.1",
        "",
        _elastic,
    ),
    Line("lambda_zT", r"\max(<lambda_z>,\ <lambda_T>)", "6.3.1.4", "for annex B", i_section),
    Line(
        "kzz",
        r"1+(2\cdot<lambda_zT>-0.6)<u_Nz>\le 1+1.4\cdot<u_Nz>",
        "table B.1",
        "C_mz = 1",
        lambda v: i_section(v) and v["cls"] <= 2,
    ),
    Line(
        "kzz",
        r"1+(<lambda_zT>-0.2)<u_Nz>\le 1+0.8\cdot<u_Nz>",
        "table B.1",
        "C_mz = 1",
        lambda v: not i_section(v) and v["cls"] <= 2,
    ),
    Line(
        "kzz",
        r"1+0.6\cdot<lambda_zT>\,<u_Nz>\le 1+0.6\cdot<u_Nz>",
        "table B.1",
        "C_mz = 1",
        _elastic,
    ),
    Line("kyz", r"0.6\cdot<kzz>", "table B.1", "", _plastic),
    Line("kyz", r"<kzz>", "table B.1", "", _elastic),
    Line(
        "kzy",
        r"1-\dfrac{0.1\cdot<lambda_zT>\,<u_Nz>}{<CmLT>-0.25}\ge 1-\dfrac{0.1\cdot<u_Nz>}{<CmLT>-0.25}",
        "table B.2",
        "susceptible to torsion",
        lambda v: i_section(v) and v["cls"] <= 2 and v["lambda_zT"] >= 0.4,
    ),
    Line(
        "kzy",
        r"0.6+<lambda_zT>\le 1-\dfrac{0.1\cdot<lambda_zT>\,<u_Nz>}{<CmLT>-0.25}",
        "table B.2",
        "susceptible to torsion",
        lambda v: i_section(v) and v["cls"] <= 2 and v["lambda_zT"] < 0.4,
    ),
    Line(
        "kzy",
        r"1-\dfrac{0.05\cdot<lambda_zT>\,<u_Nz>}{<CmLT>-0.25}\ge 1-\dfrac{0.05\cdot<u_Nz>}{<CmLT>-0.25}",
        "table B.2",
        "susceptible to torsion",
        lambda v: i_section(v) and v["cls"] > 2,
    ),
    Line("kzy", r"0.6\cdot<kyy>", "table B.1", "not susceptible", lambda v: not i_section(v) and v["cls"] <= 2),
    Line("kzy", r"0.8\cdot<kyy>", "table B.1", "not susceptible", lambda v: not i_section(v) and v["cls"] > 2),
]


ANNEX_A = [
    *_shares("y"),
    *_shares("z"),
    *only(i_section, _shares("T")),
    Line("mu_y", r"\dfrac{1-<e_y>}{1-<chi_y>\cdot<e_y>}", "table A.1"),
    Line("mu_z", r"\dfrac{1-<e_z>}{1-<chi_z>\cdot<e_z>}", "table A.1"),
    Line("w_y", r"\dfrac{<Wpl_y>}{<Wel_y>}\le 1.5", "table A.1"),
    Line("w_z", r"\dfrac{<Wpl_z>}{<Wel_z>}\le 1.5", "table A.1"),
    Line("n_pl", r"\dfrac{<N_Ed>}{<N_Rk>/<gamma_M1>}", "table A.1"),
    Line("lambda_most", r"\max(<lambda_y>,\ <lambda_z>)", "table A.1", "with that of torsional buckling"),
    Line("a_LT", r"1-\dfrac{<It>}{<Iy>}\ge 0", "table A.1"),
    Line("lambda_0", r"\sqrt{\dfrac{<My_Rk>}{<Mcr_0>}}", "table A.1", "under a uniform moment", i_section),
    Line("lambda_0", "", "table A.1", "hollow sections do not buckle laterally", lambda v: not i_section(v)),
    Line(
        "lambda_0lim",
        r"0.2\sqrt{<C1>}\,\sqrt[4]{(1-<e_z>)(1-<e_T>)}",
        "table A.1",
        "twist counts above it",
        i_section,
    ),
    Line("epsilon_y", r"\dfrac{<My>}{<N_Ed>}\cdot\dfrac{<A>}{<Wel_y>}", "table A.1", "", lambda v: v["N_Ed"] > 0),
    Line("Cmy_0", "", "table A.2", "from the shape of the member's moments and its deflection"),
    Line("Cmz", r"1+0.36(1-0.33)\cdot<e_z>", "table A.2", "as of a uniform moment: safe side"),
    Line(
        "Cmy",
        r"<Cmy_0>+(1-<Cmy_0>)\dfrac{\sqrt{<epsilon_y>}\,<a_LT>}{1+\sqrt{<epsilon_y>}\,<a_LT>}",
        "table A.1",
        "",
        lambda v: v["lambda_0"] > v["lambda_0lim"] and v["N_Ed"] > 0,
    ),
    Line("Cmy", "", "table A.1", "", lambda v: v["lambda_0"] > v["lambda_0lim"] and v["N_Ed"] == 0),
    Line("Cmy", r"<Cmy_0>", "table A.1", "", lambda v: v["lambda_0"] <= v["lambda_0lim"]),
    Line(
        "CmLT",
        r"(<Cmy>)^2\dfrac{<a_LT>}{\sqrt{(1-<e_z>)(1-<e_T>)}}\ge 1",
        "table A.1",
        "",
        lambda v: v["lambda_0"] > v["lambda_0lim"],
    ),
    Line("CmLT", "", "table A.1", "no twist counts", lambda v: v["lambda_0"] <= v["lambda_0lim"]),
    *only(
        _plastic,
        [
            Line("b_LT", r"0.5\,<a_LT>\,<lambda_0>^2\,<ratio_My>\,<ratio_Mz>", "table A.1"),
            Line(
                "c_LT",
                r"\dfrac{10\cdot<a_LT>\,<lambda_0>^2}{5+<lambda_z>^4}\cdot\dfrac{<ratio_My>}{<Cmy>}",
                "table A.1",
            ),
            Line(
                "d_LT",
                r"\dfrac{2\cdot<a_LT>\,<lambda_0>}{0.1+<lambda_z>^4}\cdot\dfrac{<ratio_My>}{<Cmy>}\cdot\dfrac{<ratio_Mz>}{<Cmz>}",
                "table A.1",
            ),
            Line(
                "e_LT",
                r"\dfrac{1.7\cdot<a_LT>\,<lambda_0>}{0.1+<lambda_z>^4}\cdot\dfrac{<ratio_My>}{<Cmy>}",
                "table A.1",
            ),
            Line(
                "C_yy",
                r"1+(<w_y>-1)\left[\left(2-\dfrac{1.6\cdot<Cmy>^2}{<w_y>}(<lambda_most>+<lambda_most>^2)\right)<n_pl>-<b_LT>\right]"
                r"\ge\dfrac{<Wel_y>}{<Wpl_y>}",
                "table A.1",
            ),
            Line(
                "C_yz",
                r"1+(<w_z>-1)\left[\left(2-\dfrac{14\cdot<Cmz>^2\,<lambda_most>^2}{<w_z>^5}\right)<n_pl>-<c_LT>\right]"
                r"\ge 0.6\sqrt{\dfrac{<w_z>}{<w_y>}}\cdot\dfrac{<Wel_z>}{<Wpl_z>}",
                "table A.1",
            ),
            Line(
                "C_zy",
                r"1+(<w_y>-1)\left[\left(2-\dfrac{14\cdot<Cmy>^2\,<lambda_most>^2}{<w_y>^5}\right)<n_pl>-<d_LT>\right]"
                r"\ge 0.6\sqrt{\dfrac{<w_y>}{<w_z>}}\cdot\dfrac{<Wel_y>}{<Wpl_y>}",
                "table A.1",
            ),
            Line(
                "C_zz",
                r"1+(<w_z>-1)\left[2-\dfrac{1.6\cdot<Cmz>^2}{<w_z>}(<lambda_most>+<lambda_most>^2)-<e_LT>\right]<n_pl>"
                r"\ge\dfrac{<Wel_z>}{<Wpl_z>}",
                "table A.1",
            ),
            Line("kyy", r"\dfrac{<Cmy>\,<CmLT>\,<mu_y>}{(1-<e_y>)\cdot<C_yy>}", "table A.1"),
            Line(
                "kyz", r"\dfrac{<Cmz>\,<mu_y>}{(1-<e_z>)\cdot<C_yz>}\cdot 0.6\sqrt{\dfrac{<w_z>}{<w_y>}}", "table A.1"
            ),
            Line(
                "kzy",
                r"\dfrac{<Cmy>\,<CmLT>\,<mu_z>}{(1-<e_y>)\cdot<C_zy>}\cdot 0.6\sqrt{\dfrac{<w_y>}{<w_z>}}",
                "table A.1",
            ),
            Line("kzz", r"\dfrac{<Cmz>\,<mu_z>}{(1-<e_z>)\cdot<C_zz>}", "table A.1"),
        ],
    ),
    *only(
        _elastic,
        [
            Line("kyy", r"\dfrac{<Cmy>\,<CmLT>\,<mu_y>}{1-<e_y>}", "table A.1"),
            Line("kyz", r"\dfrac{<Cmz>\,<mu_y>}{1-<e_z>}", "table A.1"),
            Line("kzy", r"\dfrac{<Cmy>\,<CmLT>\,<mu_z>}{1-<e_y>}", "table A.1"),
            Line("kzz", r"\dfrac{<Cmz>\,<mu_z>}{1-<e_z>}", "table A.1"),
        ],
    ),
]


FLEXURAL = [
    Line("N_Ed", "", "", "largest compression in the segment"),
    Line("A_N", "", "EN 1993-1-5 4.4", "effective area of class 4 in compression alone", slender),
    Line("N_Rk", r"<A>\,<fy>", "6.3.3", "", full),
    Line("N_Rk", r"<A_N>\,<fy>", "6.3.3", "", slender),
    Line("Lcr_y", "", "", "effective length about y"),
    Line("Ncr_y", r"\dfrac{\pi^2 <E>\,<Iy>}{(<Lcr_y>)^2}", "6.3.1.2", "", lambda v: not v["as_whole_y"]),
    Line(
        "Ncr_y",
        "",
        "5.2.2(8)",
        "as it buckles as part of the whole: α_cr times its force",
        lambda v: bool(v["as_whole_y"]),
    ),
    Line("lambda_y", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_y>}}", "6.3.1.2"),
    Line("Phi_y", r"0.5\left[1+<alpha_y>(<lambda_y>-0.2)+<lambda_y>^2\right]", "6.3.1.2, table 6.2"),
    Line("chi_y", r"\dfrac{1}{<Phi_y>+\sqrt{<Phi_y>^2-<lambda_y>^2}}\le 1", "(6.49)"),
    Line("Lcr_z", "", "", "effective length about z"),
    Line("Ncr_z", r"\dfrac{\pi^2 <E>\,<Iz>}{(<Lcr_z>)^2}", "6.3.1.2", "", lambda v: not v["as_whole_z"]),
    Line(
        "Ncr_z",
        "",
        "5.2.2(8)",
        "as it buckles as part of the whole: α_cr times its force",
        lambda v: bool(v["as_whole_z"]),
    ),
    Line("lambda_z", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_z>}}", "6.3.1.2"),
    Line("Phi_z", r"0.5\left[1+<alpha_z>(<lambda_z>-0.2)+<lambda_z>^2\right]", "6.3.1.2, table 6.2"),
    Line("chi_zf", r"\dfrac{1}{<Phi_z>+\sqrt{<Phi_z>^2-<lambda_z>^2}}\le 1", "(6.49)"),
    Line("L_T", "", "", "spacing of torsional restraints", i_section),
    Line("a_T", "", "BB.3.3.1", "distance of the held flange from the shear centre", i_section),
    Line("i_s2", r"\dfrac{<Iy>+<Iz>}{<A>}+(<a_T>)^2", "BB.3.3.1", "", i_section),
    Line(
        "Ncr_T",
        r"\dfrac{1}{<i_s2>}\left(\dfrac{\pi^2<E>(<Iz>(<a_T>)^2+<Iw>)}{(<L_T>)^2}+<G>\,<It>\right)",
        "BB.3.3.1",
        "torsional buckling",
        i_section,
    ),
    Line("lambda_T", r"\sqrt{\dfrac{<N_Rk>}{<Ncr_T>}}", "6.3.1.4", "", i_section),
    Line("Phi_T", r"0.5\left[1+<alpha_z>(<lambda_T>-0.2)+<lambda_T>^2\right]", "6.3.1.4(3)", "", i_section),
    Line("chi_T", r"\dfrac{1}{<Phi_T>+\sqrt{<Phi_T>^2-<lambda_T>^2}}\le 1", "(6.49)", "", i_section),
    Line("chi_z", r"\min(<chi_zf>,\,<chi_T>)", "6.3.1.4", "out of plane", i_section),
    Line("Nb_y", r"\dfrac{<chi_y>\,<N_Rk>}{<gamma_M1>}", "(6.47)"),
    Line("Nb_z", r"\dfrac{<chi_z>\,<N_Rk>}{<gamma_M1>}", "(6.47)"),
    Line("u_Ny", r"\dfrac{<N_Ed>}{<Nb_y>}", "(6.46)"),
    Line("u_Nz", r"\dfrac{<N_Ed>}{<Nb_z>}", "(6.46)"),
]


LATERAL = [
    Line("My", "", "", "largest moment that counts in this segment"),
    Line("W_y", "", "EN 1993-1-5 4.4", "effective modulus of class 4 in bending alone", class_4),
    Line("My_Rk", r"<W_y>\,<fy>", "table 6.7"),
    Line("L_LT", "", "", "between restraints of the compressed flange", i_section),
    Line("N_z", r"\dfrac{\pi^2<E>\,<Iz>}{(<L_LT>)^2}", "6.3.2.2(2)", "", i_section),
    Line(
        "Mcr_0",
        r"<N_z>\sqrt{\dfrac{<Iw>}{<Iz>}+\dfrac{<G>\,<It>}{<N_z>}}",
        "6.3.2.2(2)",
        "critical moment when it is uniform",
        i_section,
    ),
    Line("C1", "", "Trahair 7.2", "shape of the moment diagram between the restraints", i_section),
    Line(
        "lift", "", "Timoshenko and Gere 6.4", "loads above the shear centre", lambda v: i_section(v) and v["lift"] > 0
    ),
    Line("Mcr", r"<C1>\,<Mcr_0>", "6.3.2.2(2)", "elastic critical moment", lambda v: i_section(v) and v["lift"] <= 0),
    Line(
        "Mcr",
        r"\dfrac{(<C1>)^2}{2}\left(\sqrt{\left(<lift>\,<N_z>\dfrac{<h>}{2}\right)^2+\dfrac{4(<Mcr_0>)^2}{(<C1>)^2}}"
        r"-<lift>\,<N_z>\dfrac{<h>}{2}\right)",
        "6.3.2.2(2)",
        "elastic critical moment, loads at the upper flange",
        lambda v: i_section(v) and v["lift"] > 0,
    ),
    Line("lambda_LT", r"\sqrt{\dfrac{<My_Rk>}{<Mcr>}}", "6.3.2.2(1)", "", i_section),
    Line(
        "Phi_LT",
        r"0.5\left[1+<alpha_LT>(<lambda_LT>-<lambda_LT0>)+<beta>\,<lambda_LT>^2\right]",
        "6.3.2.3, table 6.5",
        "",
        lambda v: i_section(v) and not v["every"],
    ),
    Line(
        "Phi_LT",
        r"0.5\left[1+<alpha_LT>(<lambda_LT>-<lambda_LT0>)+<lambda_LT>^2\right]",
        "6.3.2.2, table 6.4",
        "as any section",
        lambda v: i_section(v) and bool(v["every"]),
    ),
    Line("k_c", r"\dfrac{1}{\sqrt{<C1>}}", "6.3.2.3(2), table 6.6", "", _modified),
    Line("f", r"1-0.5(1-<k_c>)\left[1-2(<lambda_LT>-0.8)^2\right]\le 1", "6.3.2.3(2)", "", _modified),
    Line(
        "chi_LT",
        r"\dfrac{1}{<f>\left(<Phi_LT>+\sqrt{<Phi_LT>^2-<beta>\,<lambda_LT>^2}\right)}\le\min(1,\ 1/<lambda_LT>^2)",
        "(6.57), (6.58)",
        "1 up to λ̄_LT,0",
        _modified,
    ),
    Line(
        "chi_LT",
        r"\dfrac{1}{<Phi_LT>+\sqrt{<Phi_LT>^2-<beta>\,<lambda_LT>^2}}\le\min(1,\ 1/<lambda_LT>^2)",
        "(6.57)",
        "1 up to λ̄_LT,0",
        lambda v: i_section(v) and not _modified(v) and not v["every"],
    ),
    Line(
        "chi_LT",
        r"\dfrac{1}{<Phi_LT>+\sqrt{<Phi_LT>^2-<lambda_LT>^2}}\le 1",
        "(6.56)",
        "1 up to λ̄ = 0.2",
        lambda v: i_section(v) and bool(v["every"]),
    ),
    Line("chi_LT", "", "6.3.2.1(2)", "hollow sections do not buckle laterally", lambda v: not i_section(v)),
    Line("Mb_Rd", r"\dfrac{<chi_LT>\,<My_Rk>}{<gamma_M1>}", "(6.55)"),
]
