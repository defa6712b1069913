"""How the values of the checks are written: symbols in LaTeX, and the units that they are shown in."""

from __future__ import annotations

from dataclasses import dataclass
from math import isinf, isnan


@dataclass(frozen=True)
class Symbol:
    """LaTeX of a value, the unit it is shown in and the factor from SI to it."""

    latex: str
    unit: str = ""
    factor: float = 1.0
    digits: int = 4

    @property
    def unit_latex(self) -> str:
        """The unit for LaTeX."""
        powers = {"²": "^2", "³": "^3", "⁴": "^4", "⁶": "^6"}
        text = self.unit.replace("·", r"\,")
        for sign, power in powers.items():
            text = text.replace(sign, power)
        return text

    def text(self, value: float) -> str:
        """The value in its unit, to its significant digits, never in powers of ten."""
        if isnan(value):
            return "–"
        if isinf(value):
            return "∞"
        shown = value * self.factor
        if shown == 0 or abs(shown) < 1e-9:
            return "0"
        whole = len(str(int(abs(shown)))) if abs(shown) >= 1 else 0
        return f"{shown:.{max(0, min(4, self.digits - whole))}f}"


def _force(latex: str) -> Symbol:
    return Symbol(latex, "kN", 1e-3)


def _moment(latex: str) -> Symbol:
    return Symbol(latex, "kNm", 1e-3)


def _length(latex: str) -> Symbol:
    return Symbol(latex, "m", 1.0)


def _mm(latex: str) -> Symbol:
    return Symbol(latex, "mm", 1e3)


def _modulus(latex: str) -> Symbol:
    return Symbol(latex, "cm³", 1e6)


def _second(latex: str) -> Symbol:
    return Symbol(latex, "cm⁴", 1e8)


def _area(latex: str) -> Symbol:
    return Symbol(latex, "cm²", 1e4)


def _stress(latex: str) -> Symbol:
    return Symbol(latex, "N/mm²", 1e-6, 3)


def _plain(latex: str) -> Symbol:
    return Symbol(latex)


SYMBOLS: dict[str, Symbol] = {
    "A": _area("A"),
    "Av_y": _area("A_{v,y}"),
    "Av_z": _area("A_{v,z}"),
    "Iy": _second("I_y"),
    "Iz": _second("I_z"),
    "It": _second("I_t"),
    "Iw": Symbol("I_w", "cm⁶", 1e12),
    "Wel_y": _modulus("W_{el,y}"),
    "Wel_z": _modulus("W_{el,z}"),
    "Wpl_y": _modulus("W_{pl,y}"),
    "Wpl_z": _modulus("W_{pl,z}"),
    "W_y": _modulus("W_y"),
    "W_z": _modulus("W_z"),
    "h": _mm("h"),
    "tf": _mm("t_f"),
    "tw": _mm("t_w"),
    "b": _mm("b"),
    "E": _stress("E"),
    "G": _stress("G"),
    "fy": _stress("f_y"),
    "gamma_M0": _plain(r"\gamma_{M0}"),
    "fu": _stress("f_u"),
    "k_y": _plain("k_y"),
    "k_z": _plain("k_z"),
    "u_NM": _plain("u_{NM}"),
    "F": _force("F_{Ed}"),
    "hw": _mm("h_w"),
    "ss": _mm("s_s"),
    "k_F": _plain("k_F"),
    "F_cr": _force("F_{cr}"),
    "m_1": _plain("m_1"),
    "m_2": _plain("m_2"),
    "l_e": _mm("l_e"),
    "l_y": _mm("l_y"),
    "lambda_F": _plain(r"\bar\lambda_F"),
    "chi_F": _plain(r"\chi_F"),
    "F_Rd": _force("F_{Rd}"),
    "eta_1": _plain(r"\eta_1"),
    "eta_2": _plain(r"\eta_2"),
    "rho_y": _plain(r"\rho_y"),
    "gamma_M2": _plain(r"\gamma_{M2}"),
    "d_0": _mm("d_0"),
    "t_holes": _mm("t"),
    "e_2": _mm("e_2"),
    "n_across": _plain("n"),
    "A_straight": _area("A_{0,1}"),
    "A_zigzag": _area("A_{0,2}"),
    "A_holes": _area(r"\max(A_{0,1},\,A_{0,2})"),
    "A_net": _area("A_{net}"),
    "beta_leg": _plain(r"\beta"),
    "N_u": _force("N_{u,Rd}"),
    "N_t": _force("N_{t,Ed}"),
    "gamma_M1": _plain(r"\gamma_{M1}"),
    "lambda_LT0": _plain(r"\bar\lambda_{LT,0}"),
    "beta": _plain(r"\beta"),
    "epsilon": _plain(r"\varepsilon"),
    "web": _plain("c/t_w"),
    "flange": _plain("c/t_f"),
    "alpha_web": _plain(r"\alpha"),
    "psi_web": _plain(r"\psi"),
    "web_2": _plain(r"(c/t_w)_{2}"),
    "web_3": _plain(r"(c/t_w)_{3}"),
    "flange_2": _plain(r"(c/t_f)_{2}"),
    "cls": Symbol(r"\text{class}", digits=1),
    "x": _length("x"),
    "N": _force("N_{Ed}"),
    "Vy": _force("V_{y,Ed}"),
    "Vz": _force("V_{z,Ed}"),
    "My": _moment("M_{y,Ed}"),
    "Mz": _moment("M_{z,Ed}"),
    "N_Ed": _force("N_{Ed}"),
    "N_Rd": _force("N_{Rd}"),
    "n": _plain("n"),
    "a": _plain("a"),
    "Vz_Rd": _force("V_{pl,z,Rd}"),
    "Vy_Rd": _force("V_{pl,y,Rd}"),
    "u_Vz": _plain(r"V_{z,Ed}/V_{pl,z,Rd}"),
    "u_Vy": _plain(r"V_{y,Ed}/V_{pl,y,Rd}"),
    "rho_z": _plain(r"\rho_z"),
    "My_V": _moment("M_{y,V,Rd}"),
    "Mz_V": _moment("M_{z,V,Rd}"),
    "My_N": _moment("M_{N,y,Rd}"),
    "Mz_N": _moment("M_{N,z,Rd}"),
    "exp_y": _plain(r"\alpha"),
    "exp_z": _plain(r"\beta"),
    "ry": _plain(r"M_{y,Ed}/M_{N,y,Rd}"),
    "rz": _plain(r"M_{z,Ed}/M_{N,z,Rd}"),
    "u": Symbol(r"\text{utilisation}", digits=3),
    "alpha_cr": Symbol(r"\alpha_{cr}", digits=3),
    "Lcr_y": _length("L_{cr,y}"),
    "Lcr_z": _length("L_{cr,z}"),
    "L_T": _length("L_T"),
    "a_T": _mm("a"),
    "L_LT": _length("L_{LT}"),
    "Ncr_y": _force("N_{cr,y}"),
    "Ncr_z": _force("N_{cr,z}"),
    "Ncr_T": _force("N_{cr,T}"),
    "i_s2": Symbol("i_s^2", "cm²", 1e4),
    "lambda_y": _plain(r"\bar\lambda_y"),
    "lambda_z": _plain(r"\bar\lambda_z"),
    "lambda_T": _plain(r"\bar\lambda_T"),
    "lambda_zT": _plain(r"\bar\lambda_z"),
    "alpha_y": _plain(r"\alpha_y"),
    "alpha_z": _plain(r"\alpha_z"),
    "alpha_LT": _plain(r"\alpha_{LT}"),
    "Phi_y": _plain(r"\Phi_y"),
    "Phi_z": _plain(r"\Phi_z"),
    "Phi_T": _plain(r"\Phi_T"),
    "Phi_LT": _plain(r"\Phi_{LT}"),
    "chi_y": _plain(r"\chi_y"),
    "chi_zf": _plain(r"\chi_{z}"),
    "chi_T": _plain(r"\chi_T"),
    "chi_z": _plain(r"\chi_{z}"),
    "chi_LT": _plain(r"\chi_{LT}"),
    "N_Rk": _force("N_{Rk}"),
    "My_Rk": _moment("M_{y,Rk}"),
    "Mz_Rk": _moment("M_{z,Rk}"),
    "Nb_y": _force("N_{b,y,Rd}"),
    "Nb_z": _force("N_{b,z,Rd}"),
    "u_Ny": _plain("n_y"),
    "u_Nz": _plain("n_z"),
    "C1": _plain("C_1"),
    "lift": _plain("c"),
    "N_z": _force("N_z"),
    "Mcr_0": _moment("M_{cr,0}"),
    "M_start": _moment(r"M_{start}"),
    "M_middle": _moment(r"M_{s}"),
    "M_end": _moment(r"M_{end}"),
    "Mcr": _moment("M_{cr}"),
    "lambda_LT": _plain(r"\bar\lambda_{LT}"),
    "Mb_Rd": _moment("M_{b,Rd}"),
    "u_LT": _plain("M_{y,Ed}/M_{b,Rd}"),
    "ratio_My": _plain("m_y"),
    "ratio_Mz": _plain("m_z"),
    "Cmy": _plain("C_{my}"),
    "Cmz": _plain("C_{mz}"),
    "CmLT": _plain("C_{mLT}"),
    "e_y": _plain("N_{Ed}/N_{cr,y}"),
    "e_z": _plain("N_{Ed}/N_{cr,z}"),
    "e_T": _plain("N_{Ed}/N_{cr,T}"),
    "mu_y": _plain(r"\mu_y"),
    "mu_z": _plain(r"\mu_z"),
    "w_y": _plain("w_y"),
    "w_z": _plain("w_z"),
    "n_pl": _plain("n_{pl}"),
    "lambda_most": _plain(r"\bar\lambda_{max}"),
    "lambda_0": _plain(r"\bar\lambda_0"),
    "lambda_0lim": _plain(r"\bar\lambda_{0,lim}"),
    "a_LT": _plain("a_{LT}"),
    "epsilon_y": _plain(r"\varepsilon_y"),
    "Cmy_0": _plain("C_{my,0}"),
    "b_LT": _plain("b_{LT}"),
    "c_LT": _plain("c_{LT}"),
    "d_LT": _plain("d_{LT}"),
    "e_LT": _plain("e_{LT}"),
    "C_yy": _plain("C_{yy}"),
    "C_yz": _plain("C_{yz}"),
    "C_zy": _plain("C_{zy}"),
    "C_zz": _plain("C_{zz}"),
    "f": _plain("f"),
    "k_c": _plain("k_c"),
    "kyy": _plain("k_{yy}"),
    "kyz": _plain("k_{yz}"),
    "kzy": _plain("k_{zy}"),
    "kzz": _plain("k_{zz}"),
    "u_661": Symbol(r"\text{(6.61)}", digits=3),
    "u_662": Symbol(r"\text{(6.62)}", digits=3),
    "w": _mm("w"),
    "limit": _mm(r"w_{max}"),
    "span": _length(r"\ell"),
    "ratio": Symbol("k", digits=3),
    "slender": _plain("(c/t)/(c/t)_{eff}"),
    "web_use": _plain(r"\max\,(c/t)/(c/t)_{3}"),
    "flange_3": _plain(r"(c/t_f)_{3}"),
    "Ncr_TF": _force("N_{cr,TF}"),
    "lambda_TF": _plain(r"\bar\lambda_{TF}"),
    "lambda_leg": _plain(r"\bar\lambda_{leg}"),
    "lambda_eff_v": _plain(r"\bar\lambda_{eff,v}"),
    "lambda_eff_leg": _plain(r"\bar\lambda_{eff,leg}"),
    "lambda_worst": _plain(r"\bar\lambda"),
    "alpha_bar": _plain(r"\alpha"),
    "Phi_bar": _plain(r"\Phi"),
    "chi_bar": _plain(r"\chi"),
    "Nb_Rd": _force("N_{b,Rd}"),
    "lambda_w": _plain(r"\bar\lambda_w"),
    "chi_w": _plain(r"\chi_w"),
    "Vbw_Rd": _force("V_{bw,Rd}"),
    "A_N": _area("A_{eff}"),
    "A_used": _area("A"),
    "M_used": _moment("M_{y,Ed}"),
    "u_T": _plain(r"\tau_{t,Ed}/(f_y/\sqrt3\,\gamma_{M0})"),
    "twisted": _plain(r"\sqrt{1-t^2}"),
    "N_least": _force("N_{Rk,min}"),
    "N_plane": _force("N_{Rk,y}"),
    "alpha_ult": _plain(r"\alpha_{ult,k}"),
    "alpha_op": _plain(r"\alpha_{cr,op}"),
    "lambda_op": _plain(r"\bar\lambda_{op}"),
    "alpha_op_z": _plain(r"\alpha"),
    "alpha_op_LT": _plain(r"\alpha_{LT}"),
    "Phi_op": _plain(r"\Phi"),
    "Phi_LTop": _plain(r"\Phi_{LT}"),
    "chi_flex": _plain(r"\chi"),
    "chi_LTop": _plain(r"\chi_{LT}"),
    "chi_op": _plain(r"\chi_{op}"),
    "n_y": _plain("n_y"),
    "use": _plain(r"1/\alpha_{ult,k}"),
    "use_section": _plain(r"(1/\alpha_{ult,k})_{section}"),
    "use_plane": _plain(r"(1/\alpha_{ult,k})_{plane}"),
    "u_op": _plain("u_{op}"),
    "m_z": _plain("m_z"),
    "k_zop": _plain("k_z"),
}
