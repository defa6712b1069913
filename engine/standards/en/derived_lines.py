"""How wind and snow are written out: formulas as LaTeX with <names> of values, clauses, words. Values are in SI, angles in degrees."""

from __future__ import annotations

from collections.abc import Callable

from engine.derivation import Line, Symbol, Values, there


def _pressure(latex: str) -> Symbol:
    return Symbol(latex, "kN/m²", 1e-3)


def _length(latex: str) -> Symbol:
    return Symbol(latex, "m")


def _speed(latex: str) -> Symbol:
    return Symbol(latex, "m/s")


def _plain(latex: str) -> Symbol:
    return Symbol(latex)


def _angle(latex: str) -> Symbol:
    return Symbol(latex, "°", digits=3)


SYMBOLS: dict[str, Symbol] = {
    "fundamental": _speed("v_{b,0}"),
    "directional": _plain("c_{dir}"),
    "season": _plain("c_{season}"),
    "probability": _plain("c_{prob}"),
    "speed": _speed("v_b"),
    "z": _length("z_e"),
    "displacement": _length("h_{dis}"),
    "z_0": _length("z_0"),
    "z_min": _length("z_{min}"),
    "above": _length("z"),
    "terrain_factor": _plain("k_r"),
    "roughness": _plain("c_r(z)"),
    "orography": _plain("c_o(z)"),
    "mean": _speed("v_m(z)"),
    "turbulence_factor": _plain("k_I"),
    "turbulence": _plain("I_v(z)"),
    "exposure": _plain("c_e(z)"),
    "density": Symbol(r"\rho", "kg/m³"),
    "basic": _pressure("q_b"),
    "peak": _pressure("q_p(z_e)"),
    "b": _length("b"),
    "h": _length("h"),
    "e": _length("e"),
    "loaded_area": Symbol("A", "m²"),
    "c_pe": _plain("c_{pe}"),
    "correlation": _plain("k_{corr}"),
    "structural": _plain("c_s c_d"),
    "w_e": _pressure("w_e"),
    "z_i": _length("z_i"),
    "inner": _pressure("q_p(z_i)"),
    "c_pi": _plain("c_{pi}"),
    "w_i": _pressure("w_i"),
    "net": _pressure("w"),
    "c_below": _plain("c_{pe,wall}"),
    "w_overhang": _pressure("w"),
    "c_net": _plain("c_{p,net}"),
    "w_net": _pressure("w"),
    "c_f": _plain("c_f"),
    "bay_factor": _plain(r"\psi_{mc}"),
    "w_canopy": _pressure("w"),
    "w_half": _pressure("w"),
    "reach": _length("x_{fr}"),
    "c_fr": _plain("c_{fr}"),
    "w_fr": _pressure("w_{fr}"),
    "cover": _plain("A_{cl}/A"),
    "covered": _pressure("w_{steel}"),
    "alpha": _angle(r"\alpha"),
    "flat": _plain(r"\mu_1(0^\circ)"),
    "mu1": _plain(r"\mu_1"),
    "half": _plain("k"),
    "alpha_1": _angle(r"\alpha_1"),
    "alpha_2": _angle(r"\alpha_2"),
    "alpha_mean": _angle(r"\bar\alpha"),
    "mu2": _plain(r"\mu_2"),
    "b_1": _length("b_1"),
    "b_2": _length("b_2"),
    "h_step": _length("h"),
    "gamma_snow": Symbol(r"\gamma", "kN/m³", 1e-3),
    "least_w": _plain(r"\mu_{w,min}"),
    "most_w": _plain(r"\mu_{w,max}"),
    "blown": _plain(r"\mu_{w,b}"),
    "held_w": _plain(r"\mu_{w,h}"),
    "held_at": _plain(r"\mu_{2,h}"),
    "mu1_above": _plain(r"\mu_{1,above}"),
    "slope_above": _length("b_{above}"),
    "mu_w": _plain(r"\mu_w"),
    "mu_s": _plain(r"\mu_s"),
    "least_at": _plain(r"\mu_{2,min}"),
    "most_at": _plain(r"\mu_{2,max}"),
    "mu2_at": _plain(r"\mu_2"),
    "l_least": _length("l_{s,min}"),
    "l_most": _length("l_{s,max}"),
    "l_s": _length("l_s"),
    "rise": _length("h"),
    "across": _length("b"),
    "mu3_most": _plain(r"\mu_{3,max}"),
    "mu3": _plain(r"\mu_3"),
    "mu": _plain(r"\mu"),
    "mu_other": _plain(r"\mu_{min}"),
    "s_k": _pressure("s_k"),
    "C_e": _plain("C_e"),
    "C_t": _plain("C_t"),
    "C_esl": _plain("C_{esl}"),
    "s": _pressure("s"),
    "flatness": _plain(r"\cos\alpha"),
    "p": _pressure("p"),
}


def _formula(v: Values) -> bool:
    """Whether the peak pressure follows from a speed."""
    return "peak_stated" not in v


def _all(*rules: Callable[[Values], bool]) -> Callable[[Values], bool]:
    return lambda v: all(rule(v) for rule in rules)


def _not_one(name: str) -> Callable[[Values], bool]:
    return lambda v: name in v and v[name] != 1


_SPEED = _all(_formula, lambda v: "basic_stated" not in v)
_DISPLACED = _all(_formula, lambda v: v["displacement"] > 0)
_RARE = _all(_formula, _not_one("probability"))

#: from the basic wind velocity to the peak velocity pressure at a height
VELOCITY = (
    Line("fundamental", "", "4.2(1)P", "fundamental value of the basic wind velocity", _formula),
    Line("directional", "", "4.2(2)P note 2", "by direction", _formula),
    Line("season", "", "4.2(2)P note 3", "by season", _formula),
    Line("probability", "", "(4.2)", "another return period than 50 years", _RARE),
    Line(
        "speed",
        r"<directional>\,<season>\,<fundamental>",
        "(4.1)",
        "basic wind velocity",
        _all(_formula, lambda v: v["probability"] == 1),
    ),
    Line(
        "speed",
        r"<probability>\,<directional>\,<season>\,<fundamental>",
        "(4.1), (4.2)",
        "basic wind velocity",
        _all(_formula, _not_one("probability")),
    ),
    Line("z", "", "figure 7.4", "reference height above the ground"),
    Line("displacement", "", "A.5", "buildings around displace the profile", _DISPLACED),
    Line("z_0", "", "4.3.2(1)", "{ground}", _formula),
    Line("z_min", "", "4.3.2(1)", "{ground}", _formula),
    Line(
        "above",
        r"\max(<z>,\ <z_min>)",
        "(4.4)",
        "height in the profile",
        _all(_formula, lambda v: v["displacement"] == 0),
    ),
    Line("above", r"\max(<z>-<displacement>,\ <z_min>)", "(4.4), A.5", "height in the profile", _DISPLACED),
    Line("terrain_factor", r"0.19\left(\dfrac{<z_0>}{0.05\,\mathrm{m}}\right)^{0.07}", "(4.5)", "", _formula),
    Line("roughness", r"<terrain_factor>\,\ln\dfrac{<above>}{<z_0>}", "(4.4)", "", _formula),
    Line("orography", "", "4.3.3, A.3", "", _formula),
    Line("mean", r"<roughness>\,<orography>\,<speed>", "(4.3)", "mean wind velocity", _formula),
    Line("turbulence_factor", "", "4.4(1)", "", _formula),
    Line("turbulence", r"\dfrac{<turbulence_factor>}{<orography>\,\ln(<above>/<z_0>)}", "(4.7)", "", _formula),
    Line("exposure", r"(1+7\,<turbulence>)\,<roughness>^2\,<orography>^2", "(4.8), (4.9)", "", _formula),
    Line("density", "", "4.5(1)", "of air", _SPEED),
    Line("basic", r"\dfrac{<density>\,<speed>^2}{2}", "(4.10)", "basic velocity pressure", _SPEED),
    Line("basic", "", "4.5(1)", "basic velocity pressure, stated", _all(_formula, there("basic_stated"))),
    Line("peak", r"<exposure>\,<basic>", "(4.8)", "peak velocity pressure", _formula),
    Line("peak", "", "4.5(1)", "peak velocity pressure, stated", there("peak_stated")),
)

_TOGETHER = there("correlation")


def _alone(v: Values) -> bool:
    return "w_e" in v and "correlation" not in v


def _inside_elsewhere(v: Values) -> bool:
    return "inner" in v and "w_i" in v


def _inside_here(v: Values) -> bool:
    return "inner" not in v and "w_i" in v


#: how far the zones of walls and roofs reach
EXTENT = (
    Line("b", "", "figure 7.6", "across the wind", there("b")),
    Line("h", "", "", "of the building", there("h")),
    Line("e", r"\min(<b>,\ 2\,<h>)", "figure 7.6", "extent of the zones", there("e")),
)
#: from there to the pressure on a surface
SURFACE = (
    Line("loaded_area", "", "7.2.1(1)", "loaded area, by figure 7.2", there("loaded_area")),
    Line("c_pe", "", "", "zone {zone}, {source}", there("c_pe")),
    Line("correlation", "", "7.2.2(3)", "lack of correlation of windward and leeward sides", _TOGETHER),
    Line("structural", "", "6.2(1)", "structural factor", there("structural")),
    Line("w_e", r"<structural>\,<peak>\,<c_pe>", "(5.1), (5.5)", "outside", _alone),
    Line("w_e", r"<structural>\,<correlation>\,<peak>\,<c_pe>", "(5.1), (5.5)", "outside", _TOGETHER),
    Line("z_i", "", "7.2.9(7)", "", there("z_i")),
    Line("inner", "", "(4.8)", "at the height for the pressure inside", there("inner")),
    Line("c_pi", "", "7.2.9", "{inside}", there("c_pi")),
    Line("w_i", r"<inner>\,<c_pi>", "(5.2)", "inside", _inside_elsewhere),
    Line("w_i", r"<peak>\,<c_pi>", "(5.2)", "inside", _inside_here),
    Line("net", r"<w_e>-<w_i>", "5.2(3)", "net, positive onto the surface", there("net")),
    Line("c_below", "", "7.2.1(3)", "of the wall below, under the overhang", there("c_below")),
    Line("w_overhang", r"<w_e>-<peak>\,<c_below>", "7.2.1(3)", "net, positive onto the surface", there("w_overhang")),
    Line("c_net", "", "", "stated", there("c_net")),
    Line("w_net", r"<structural>\,<peak>\,<c_net>", "(5.1)", "net, positive onto the surface", there("w_net")),
    Line("c_f", "", "7.3", "overall, {source}", there("c_f")),
    Line("bay_factor", "", "table 7.8", "of the bay", there("bay_factor")),
    Line(
        "w_canopy",
        r"<structural>\,<peak>\,<c_f>",
        "7.3",
        "positive onto the surface",
        lambda v: "w_canopy" in v and "bay_factor" not in v,
    ),
    Line("w_canopy", r"<bay_factor>\,<structural>\,<peak>\,<c_f>", "7.3", "positive onto the surface", there("w_canopy", "bay_factor")),
    Line(
        "w_half",
        r"2\,<structural>\,<peak>\,<c_f>",
        "7.3(6)",
        "all of it on the windward half",
        lambda v: "w_half" in v and "bay_factor" not in v,
    ),
    Line("w_half", r"2\,<bay_factor>\,<structural>\,<peak>\,<c_f>", "7.3(6)", "all of it on the windward half", there("w_half", "bay_factor")),
    Line("reach", "", "7.5(3)", "friction begins behind the windward edge", there("reach")),
    Line("c_fr", "", "7.5", "{source}", there("c_fr")),
    Line("w_fr", r"<c_fr>\,<peak>", "(5.7)", "along the surface", there("w_fr")),
    Line("cover", "", "", "cladding over the area between the lines of the steel", there("cover")),
)  # fmt: skip


WIND = (*VELOCITY, *EXTENT, *SURFACE)


def _is(name: str, of: Callable[[Values], float], *needs: str) -> Callable[[Values], bool]:
    """Of lines whose formula holds at the place: elsewhere μ lies between two values."""
    return lambda v: all(need in v for need in needs) and abs(v[name] - of(v)) < 1e-9


_DRIFT = there("mu_w", "mu_s")
_PLAIN = _is("mu", lambda v: v["mu1"], "mu1")
_HALF = _is("mu", lambda v: v["half"] * v["mu1"], "mu1", "half")
_VALLEY = _is("mu", lambda v: v["mu2"], "mu2")
_TALLER = _is("mu", lambda v: v["mu_w"] + v["mu_s"], "mu_w", "mu_s")
_AT = _is("mu", lambda v: v["mu2_at"], "mu2_at")
_CURVED = _is("mu", lambda v: v["mu3"], "mu3")


def _between(v: Values) -> bool:
    return not any(rule(v) for rule in (_PLAIN, _HALF, _VALLEY, _TALLER, _AT, _CURVED))


def _pitched(low: float, high: float) -> Callable[[Values], bool]:
    return lambda v: "mu1" in v and low < v["alpha"] <= high and not ("held" in v and v["mu1"] == v["flat"])


#: from the snow on the ground to that on a roof
SNOW = (
    Line("alpha", "", "", "pitch", there("alpha")),
    Line("mu1", r"<flat>", "table 5.2", "up to 30°", _pitched(-1, 30)),
    Line("mu1", r"<flat>\,\dfrac{60^\circ-<alpha>}{30^\circ}", "table 5.2", "between 30° and 60°", _pitched(30, 60)),
    Line("mu1", "", "table 5.2", "beyond 60°", _pitched(60, 180)),
    Line("mu1", r"<flat>", "5.3.2(2), 5.3.3(2)", "at least: snow is kept from sliding", lambda v: "held" in v and v["mu1"] == v["flat"]),
    Line("alpha_1", "", "", "of the slope on one side of the valley", there("alpha_1")),
    Line("alpha_2", "", "", "on the other", there("alpha_2")),
    Line("alpha_mean", r"\dfrac{1}{2}\,(<alpha_1>+<alpha_2>)", "figure 5.4", "", there("alpha_mean")),
    Line("mu2", r"<flat>+0.8\,\dfrac{<alpha_mean>}{30^\circ}", "table 5.2", "up to 30°", lambda v: "mu2" in v and v["alpha_mean"] <= 30),
    Line("mu2", r"<flat>+0.8", "table 5.2", "beyond 30°", lambda v: "mu2" in v and v["alpha_mean"] > 30),
    Line("b_1", "", "figure 5.7", "of the taller building", there("b_1")),
    Line("b_2", "", "figure 5.7", "of the lower roof", there("b_2")),
    Line("h_step", "", "", "of the step", there("h_step")),
    Line("gamma_snow", "", "5.3.6(1), 6.2(2)", "of drifted snow", there("gamma_snow")),
    Line("least_w", "", "5.3.6(1)", "", _DRIFT),
    Line("most_w", "", "5.3.6(1)", "", _DRIFT),
    Line("blown", r"\dfrac{<b_1>+<b_2>}{2\,<h_step>}", "(5.8)", "by the widths", _DRIFT),
    Line("held_w", r"\dfrac{<gamma_snow>\,<h_step>}{<s_k>}", "(5.8)", "what the step holds", _DRIFT),
    Line("mu_w", r"\min(\max(<blown>,\ <least_w>),\ \max(\min(<held_w>,\ <most_w>),\ <least_w>))", "(5.8), 5.3.6(1)", "blown there", _DRIFT),
    Line("l_s", r"\min(\max(2\,<h_step>,\ <l_least>),\ <l_most>)", "(5.9), (6.2)", "length of the drift", there("l_s")),
    Line("mu1_above", "", "table 5.2", "of the slope above", there("mu1_above")),
    Line("slope_above", "", "", "its width in plan", there("slope_above")),
    Line("mu_s", r"\dfrac{<mu1_above>\,<slope_above>}{<l_s>}", "5.3.6(1)", "half of that slope's snow as a triangle", there("slope_above")),
    Line("mu_s", "", "5.3.6(1)", "none slides down", lambda v: "mu_s" in v and "slope_above" not in v),
    Line("least_at", "", "6.2(2)", "", there("mu2_at")),
    Line("most_at", "", "6.2(2)", "", there("mu2_at")),
    Line("held_at", r"\dfrac{<gamma_snow>\,<h_step>}{<s_k>}", "(6.1)", "", there("mu2_at")),
    Line("mu2_at", r"\min(\max(<held_at>,\ <least_at>),\ <most_at>)", "(6.1)", "at the obstruction", there("mu2_at")),
    Line("rise", "", "figure 5.6", "of the arch", there("rise")),
    Line("across", "", "figure 5.6", "", there("across")),
    Line("mu3", r"\min\left(0.2+10\,\dfrac{<rise>}{<across>},\ <mu3_most>\right)", "(5.4), (5.5)", "", there("mu3")),
    Line("half", "", "figure 5.3", "drifted off this slope", there("half")),
    Line("mu", r"<mu1>", "", "on this roof", lambda v: _PLAIN(v) and "half" not in v),
    Line("mu", r"<half>\,<mu1>", "figure 5.3", "on this roof", _HALF),
    Line("mu", r"<mu2>", "figure 5.4", "in the valley", _VALLEY),
    Line("mu", r"<mu_w>+<mu_s>", "(5.7)", "at the wall, linear from there", _TALLER),
    Line("mu", r"<mu2_at>", "(6.1)", "at it, linear from there", lambda v: _AT(v) and "mu_w" not in v),
    Line("mu", r"<mu3>", "figure 5.6", "at its greatest", _CURVED),
    Line("mu", "", "5.3", "the greatest on this stretch", _between),
    Line("mu_other", "", "5.3", "the least on it, linear between", there("mu_other")),
    Line("s_k", "", "4.1", "on the ground"),
    Line("C_e", "", "5.2(7)", "exposure"),
    Line("C_t", "", "5.2(8)", "heat through the roof"),
    Line("C_esl", "", "4.3", "exceptional", there("C_esl")),
    Line("s", r"<mu>\,<C_e>\,<C_t>\,<s_k>", "(5.1)", "on the plan", lambda v: "C_esl" not in v),
    Line("s", r"<mu>\,<C_e>\,<C_t>\,<C_esl>\,<s_k>", "(5.2), (4.1)", "on the plan", there("C_esl")),
    Line("flatness", "", "", "of the roof's slope"),
    Line("p", r"<s>\,<flatness>", "", "on the surface", ),
    Line("cover", "", "", "cladding over the area between the lines of the steel", there("cover")),
)  # fmt: skip

#: by kind of reason its title, clause and lines
KINDS: dict[str, tuple[str, str, tuple[Line, ...]]] = {
    "velocity": ("Peak velocity pressure", "EN 1991-1-4 4", VELOCITY),
    "wind": ("Wind on a surface", "EN 1991-1-4 4, 5, 7", WIND),
    "extent": ("Extent of the zones", "EN 1991-1-4 7.2", EXTENT),
    "surface": ("Wind on a surface", "EN 1991-1-4 5, 7", SURFACE),
    "snow": ("Snow on a roof", "EN 1991-1-3 5", SNOW),
}
