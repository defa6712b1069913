"""Materials: structural steels with their strength by thickness, and elastic materials of mixed buildings."""

from __future__ import annotations

from dataclasses import dataclass
from math import nan, sqrt

from engine.errors import ModelError

#: EN 1993-1-1 3.2.6
E = 210e9
G = E / (2 * (1 + 0.3))
DENSITY = 7850.0
GRAVITY = 9.81

Strength = tuple[tuple[float, float], ...]

#: grade -> ((thickness up to, fy), ...) in metres and pascals, EN 1993-1-1 table 3.1: EN 10025-2 (S460, S420: EN 10025-3
#: N), EN 10210-1 and EN 10219-1 alike up to 40 mm
EUROPEAN: dict[str, Strength] = {
    "S235": ((0.040, 235e6), (0.080, 215e6)),
    "S275": ((0.040, 275e6), (0.080, 255e6)),
    "S355": ((0.040, 355e6), (0.080, 335e6)),
    "S420": ((0.040, 420e6), (0.080, 390e6)),
    "S450": ((0.040, 440e6), (0.080, 410e6)),
    "S460": ((0.040, 460e6), (0.080, 430e6)),
}
#: grade -> ((thickness up to, fu), ...), EN 1993-1-1 table 3.1 with AC:2009
EUROPEAN_ULTIMATE: dict[str, Strength] = {
    "S235": ((0.080, 360e6),),
    "S275": ((0.040, 430e6), (0.080, 410e6)),
    "S355": ((0.040, 490e6), (0.080, 470e6)),
    "S420": ((0.080, 520e6),),
    "S450": ((0.080, 550e6),),
    "S460": ((0.080, 540e6),),
}
#: continuously coated strip of EN 10346, at most this thick: fy and fu of EN 1993-1-3 table 3.1b
COIL = 0.003
_STRIP = {
    "S220GD": (220e6, 300e6),
    "S250GD": (250e6, 330e6),
    "S280GD": (280e6, 360e6),
    "S320GD": (320e6, 390e6),
    "S350GD": (350e6, 420e6),
}
COATED: dict[str, Strength] = {grade: ((COIL, fy),) for grade, (fy, _) in _STRIP.items()}
COATED_ULTIMATE: dict[str, Strength] = {grade: ((COIL, fu),) for grade, (_, fu) in _STRIP.items()}
#: ASTM grades by their metric values of minimum yield strength, to the greatest thickness of the standard for shapes
AMERICAN: dict[str, Strength] = {
    "A36": ((0.200, 250e6),),
    "A572 Gr 50": ((0.100, 345e6),),
    "A992": ((0.100, 345e6),),
    "A500 Gr B": ((0.016, 315e6),),
    "A500 Gr C": ((0.016, 345e6),),
    "A53 Gr B": ((0.050, 240e6),),
    "A913 Gr 65": ((0.127, 450e6),),
}
AMERICAN_ULTIMATE: dict[str, Strength] = {
    "A36": ((0.200, 400e6),),
    "A572 Gr 50": ((0.100, 450e6),),
    "A992": ((0.100, 450e6),),
    "A500 Gr B": ((0.016, 400e6),),
    "A500 Gr C": ((0.016, 425e6),),
    "A53 Gr B": ((0.050, 415e6),),
    "A913 Gr 65": ((0.127, 550e6),),
}
STRENGTH = EUROPEAN | COATED | AMERICAN
ULTIMATE = EUROPEAN_ULTIMATE | COATED_ULTIMATE | AMERICAN_ULTIMATE
#: name -> (E, G, density, expansion, source): mean values for analysis; they have no steel strength, so no steel check covers
#: them. Expansion of concrete by EN 1992-1-1 3.1.3(5); of timber along the grain a usual value, EN 1995-1-1 gives none
ELASTIC: dict[str, tuple[float, float, float, float, str]] = {
    **{
        name: (modulus * 1e9, modulus * 1e9 / 2.4, 2500.0, 10e-6, "EN 1992-1-1 table 3.1, ν = 0.2")
        for name, modulus in {
            "C12/15": 27,
            "C16/20": 29,
            "C20/25": 30,
            "C25/30": 31,
            "C30/37": 33,
            "C35/45": 34,
            "C40/50": 35,
            "C45/55": 36,
            "C50/60": 37,
        }.items()
    },
    "C16": (8.0e9, 0.50e9, 370.0, 5e-6, "EN 338, softwood"),
    "C18": (9.0e9, 0.56e9, 380.0, 5e-6, "EN 338, softwood"),
    "C24": (11.0e9, 0.69e9, 420.0, 5e-6, "EN 338, softwood"),
    "C30": (12.0e9, 0.75e9, 460.0, 5e-6, "EN 338, softwood"),
    "GL24h": (11.5e9, 0.65e9, 420.0, 5e-6, "EN 14080, glued laminated timber"),
    "GL28h": (12.6e9, 0.65e9, 460.0, 5e-6, "EN 14080, glued laminated timber"),
    "GL32h": (14.2e9, 0.65e9, 490.0, 5e-6, "EN 14080, glued laminated timber"),
    "deck": (E, G, 0.0, 12e-6, "stands in for a floor's deck, without weight"),
}


@dataclass(frozen=True)
class Material:
    """An elastic material in pascals and kg/m³. strength: fy by thickness, None when it has no steel strength here; ultimate: fu.
    expansion: α per kelvin (EN 1993-1-1 3.2.6 for steel).
    """

    name: str
    E: float
    G: float
    density: float
    strength: Strength | None
    expansion: float = 12e-6
    ultimate: Strength | None = None

    def fy(self, thickness: float) -> float:
        """fy in pascals for the nominal thickness in metres; NaN beyond its range, and without a strength."""
        return _by_thickness(self.strength, thickness)

    def fu(self, thickness: float) -> float:
        """fu in pascals, the same way."""
        return _by_thickness(self.ultimate, thickness)


def _by_thickness(strength: Strength | None, thickness: float) -> float:
    for limit, value in strength or ():
        if thickness <= limit + 1e-9:
            return value
    return nan


def material(name: str, place: str = "") -> Material:
    """The material of that name. Raises ModelError when there is none."""
    if name in STRENGTH:
        return Material(name, E, G, DENSITY, STRENGTH[name], ultimate=ULTIMATE[name])
    if name in ELASTIC:
        modulus, shear, density, expansion, _ = ELASTIC[name]
        return Material(name, modulus, shear, density, None, expansion)
    raise ModelError(f"There is no material “{name}”; known are {', '.join([*STRENGTH, *ELASTIC])}.", place)


def epsilon(fy: float) -> float:
    """ε = √(235 / fy), EN 1993-1-1 table 5.2; fy in pascals."""
    return sqrt(235e6 / fy)
