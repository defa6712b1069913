"""How the actions of a site came about, as values: what a family of standards derived on the way, for those who show it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from engine.derivation import Reason
from engine.document.base import Direction
from engine.structure.model import Floats, Panel

Pair = tuple[float, float]
#: coefficients of two sets that exclude each other, each for 10 m² and for 1 m²
Both = tuple[Pair, Pair]


@dataclass(frozen=True, kw_only=True)
class PeakPressure:
    """Steps of 4.2 to 4.5 at height z: speeds in m/s, heights and the roughness length z_0 in m, pressures in N/m², factors without unit.

    ground: where z_0 and z_min are from, in words; fundamental: v_b,0; speed: v_b; above: the height at which the profile is taken; mean: v_m(z); stated: which pressure the document gives
    in place of its formula.
    """

    terrain: str
    ground: str
    fundamental: float
    directional: float = 1.0
    season: float = 1.0
    probability: float = 1.0
    speed: float
    z: float
    displacement: float
    z_0: float
    z_min: float
    above: float
    terrain_factor: float
    roughness: float
    orography: float
    mean: float
    turbulence_factor: float
    turbulence: float
    exposure: float
    density: float
    basic: float
    peak: float
    stated: Literal["", "basic", "peak"] = ""

    @property
    def values(self) -> dict[str, float]:
        """Its steps by name, with what is stated."""
        found = {name: value for name, value in vars(self).items() if not isinstance(value, str)}
        return found | ({f"{self.stated}_stated": 1.0} if self.stated else {})

    @property
    def reason(self) -> Reason:
        """How the peak pressure comes about."""
        return Reason("velocity", self.values, {"ground": self.ground})


@dataclass(frozen=True)
class Box:
    """The building in plan and height: walls from x0 to x1 and y0 to y1, roof edges, ground and ridge, in metres. Zones are laid
    out from the lines of the steel; aside: how far its cladding reaches beyond them across the hall, which counts in b and d."""

    x0: float
    x1: float
    y0: float
    y1: float
    roof_x0: float
    roof_x1: float
    ground: float
    height: float
    aside: float = 0.0

    @property
    def width(self) -> float:
        """Across the hall."""
        return self.x1 - self.x0 + 2 * self.aside

    def across(self, direction: Direction) -> float:
        """b: dimension across the wind."""
        return self.y1 - self.y0 if direction in ("left", "right") else self.width

    def along(self, direction: Direction) -> float:
        """d: dimension along the wind."""
        return self.width if direction in ("left", "right") else self.y1 - self.y0

    def e(self, direction: Direction) -> float:
        """e = min(b, 2h)."""
        return min(self.across(direction), 2 * self.height)


@dataclass(frozen=True)
class Zone:
    """A zone on a panel: its polygon in space, its coefficients, and how they came about.

    face: which zones change sign together: "front" and "back" of the roof, "flat", "wall". height: z_e. factor: of a bay
    behind the first. source: table and what it was entered with; read: of both sets, which printed values they lie between. own: coefficients of
    both sets for a loaded area, and that area in m², in place of c_pe,10. below: of an overhang, the coefficient of the wall under it, which
    acts there in place of the pressure inside (7.2.1(3)).
    """

    panel: Panel
    letter: str
    points: Floats
    both: Both
    face: str
    height: float
    source: str
    factor: float = 1.0
    read: tuple[str, str] = ("", "")
    own: tuple[tuple[float, float], float] | None = None
    below: float | None = None


@dataclass(frozen=True)
class Wind:
    """Wind from one direction on a hall. inside: (c_pi, where it comes from). Of an open one neither is there: c_f acts on its roofs as
    wholes (7.3). panels: what it blows on."""

    direction: Direction
    box: Box
    zones: list[Zone]
    pressures: dict[float, PeakPressure]
    inside: list[tuple[float, str]]
    slenderness: float
    correlation: float
    structural: float
    panels: tuple[Panel, ...]

    def outside(self, zone: Zone, pick: int) -> tuple[float, str]:
        """Factor on the coefficient of a zone beside q_p(z_e): c_pe,10 of a set, or of its own loaded area, with the lack of correlation of windward and
        leeward walls (7.2.2(3)) and c_s c_d (5.3(3)), and how it is written. Neither acts on the pressure inside."""
        read = f", {zone.read[pick]}" if zone.read[pick] else ""
        c, of = (zone.both[pick][0], "") if zone.own is None else (zone.own[0][pick], f" of {zone.own[1]:.1f} m²")
        words = f"c_pe{of} {c:+.2f} ({zone.source}{read})"
        if zone.letter in "DE" and self.correlation != 1:
            c, words = c * self.correlation, f"{words} · {self.correlation:.2f} (7.2.2(3))"
        if self.structural != 1:
            c, words = c * self.structural, f"{words} · c_s c_d {self.structural:g}"
        return c, words

    @property
    def inner(self) -> float:
        """q_p(z_i) in N/m²: one for the whole building, at its height (7.2.9(7))."""
        return self.pressures[max(self.pressures)].peak

    def peak(self, zone: Zone) -> float:
        """q_p(z_e) of a zone in N/m²."""
        return self.pressures[zone.height].peak


@dataclass(frozen=True)
class LocalPressure:
    """The greatest pressure and suction on a purlin, rail or gable post, N/m². line: N/m of the member, by its spacing."""

    role: str
    panel: str
    zone: str
    area: float
    spacing: float
    most: float
    least: float


@dataclass(frozen=True)
class SnowShape:
    """Shape coefficients of snow: of the main roof as it falls, and the greatest of all arrangements."""

    undrifted: float
    greatest: float


@dataclass(frozen=True)
class Factors:
    """Combination factors of a case: the row of the table that it takes, (ψ0, ψ1, ψ2) as used and as recommended."""

    row: str
    used: tuple[float, float, float]
    recommended: tuple[float, float, float]


@dataclass(frozen=True)
class Idle:
    """Something that does not act, and why. nature: of the case that it would be; covered: whether it would act if it had to."""

    nature: str
    what: str
    why: str
    covered: bool = True
