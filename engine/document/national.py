"""What the Eurocodes leave to nations and is no field elsewhere: each with its symbol, its clause and its recommended value.

The fields' titles are their symbols, the descriptions say what they are and where they stand. docs/standards.md says which
choices are not offered.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import Part

Source = Annotated[str, Field(max_length=200)]


def _number(symbol: str, words: str, least: float, most: float) -> object:
    return Field(title=symbol, description=words, ge=least, le=most, allow_inf_nan=False)


class BasisValues(Part):
    """EN 1990. Partial factors of single actions: None takes that of all variable ones."""

    importance: Annotated[
        float, _number("K_FI", "on unfavourable actions, by the class of reliability · EN 1990 table B3", 0.5, 2)
    ] = 1.0
    gamma_imposed: Annotated[
        float | None, _number("γ_Q imposed", "of imposed load · EN 1990 table A1.2(B)", 0.5, 3)
    ] = None
    gamma_snow: Annotated[float | None, _number("γ_Q snow", "of snow · EN 1990 table A1.2(B)", 0.5, 3)] = None
    gamma_wind: Annotated[float | None, _number("γ_Q wind", "of wind · EN 1990 table A1.2(B)", 0.5, 3)] = None
    gamma_temperature: Annotated[
        float | None, _number("γ_Q temperature", "of temperature · EN 1990 table A1.2(B)", 0.5, 3)
    ] = None
    gamma_crane: Annotated[float | None, _number("γ_Q crane", "of cranes · EN 1991-3 table A.1", 0.5, 3)] = None
    permanents: Annotated[
        Literal["one source", "separate"],
        Field(
            title="permanent cases",
            description="all unfavourable or all favourable, or each by itself · EN 1990 table A1.2(B) note 3",
        ),
    ] = "one source"
    accidental_lead: Annotated[
        Literal["ψ1", "ψ2"],
        Field(title="ψ in accidents", description="of the leading variable action · EN 1990 6.4.3.3(3)"),
    ] = "ψ1"
    snow_altitude: Annotated[
        float,
        _number("A of ψ", "altitude in m above which snow takes its other row of ψ · EN 1990 table A1.1", 0, 5000),
    ] = 1000.0


class ImposedValues(Part):
    """EN 1991-1-1: concentrated loads by category of use; of traffic the upper values."""

    concentrated_A: Annotated[
        float, _number("Q_k A", "concentrated load in kN, floors, balconies and stairs · table 6.2", 0, 200)
    ] = 2.0
    concentrated_B: Annotated[float, _number("Q_k B", "concentrated load in kN, offices · table 6.2", 0, 200)] = 4.5
    concentrated_C: Annotated[
        float,
        _number("Q_k C", "concentrated load in kN, where people gather; C4 7, C5 4.5 · table 6.2", 0, 200),
    ] = 4.0
    concentrated_D: Annotated[float, _number("Q_k D", "concentrated load in kN, shops; D2 7 · table 6.2", 0, 200)] = 4.0
    concentrated_E: Annotated[float, _number("Q_k E", "concentrated load in kN, storage · table 6.4", 0, 200)] = 7.0
    concentrated_F: Annotated[
        float,
        _number("Q_k F", "concentrated load in kN, traffic, an axle of vehicles up to 30 kN · table 6.8", 0, 200),
    ] = 20.0
    concentrated_G: Annotated[
        float,
        _number(
            "Q_k G",
            "concentrated load in kN, traffic, an axle of vehicles up to 160 kN · table 6.8",
            0,
            200,
        ),
    ] = 90.0
    concentrated_H: Annotated[
        float, _number("Q_k H", "concentrated load in kN, roofs, for maintenance · table 6.10", 0, 200)
    ] = 1.0


class SnowValues(Part):
    """EN 1991-1-3."""

    flat: Annotated[float, _number("μ1(0°)", "on flat roofs and up to 30° · 5.3.2 table 5.2", 0.1, 2)] = 0.8
    exposure_drifted: Annotated[
        float | None,
        _number("C_e drifted", "exposure in drifted arrangements; as the others if not stated · 5.2(7)", 0.5, 1.5),
    ] = None
    drift_least: Annotated[float, _number("μ_w least", "of drifts against taller buildings · 5.3.6(1)", 0, 4)] = 0.8
    drift_most: Annotated[float, _number("μ_w most", "of drifts against taller buildings · 5.3.6(1)", 0.8, 10)] = 4.0
    length_least: Annotated[float, _number("l_s least", "length of drifts in m · 5.3.6(1), 6.2(2)", 0, 20)] = 5.0
    length_most: Annotated[float, _number("l_s most", "length of drifts in m · 5.3.6(1), 6.2(2)", 5, 100)] = 15.0
    sliding: Annotated[
        float, _number("α sliding", "pitch in degrees above which snow slides onto lower roofs · 5.3.6(1)", 0, 60)
    ] = 15.0
    obstruction_least: Annotated[float, _number("μ2 least", "of drifts at obstructions · 6.2(2)", 0, 2)] = 0.8
    obstruction_most: Annotated[float, _number("μ2 most", "of drifts at obstructions · 6.2(2)", 0.8, 10)] = 2.0
    curved_most: Annotated[float, _number("μ3 most", "of cylindrical roofs · 5.3.5(1), figure 5.5", 0.8, 5)] = 2.0
    drift_weight: Annotated[float, _number("γ drifted", "weight of drifted snow in kN/m³ · 5.3.6(1), 6.2(2)", 1, 6)] = (
        2.0
    )
    edge_weight: Annotated[float, _number("γ edge", "weight of snow over eaves in kN/m³ · 6.3(2)", 1, 6)] = 3.0
    edge_share: Annotated[
        float | None, _number("k edge", "of snow over eaves; 3/d, at most d γ, if not stated · 6.3(2) (6.4)", 0, 20)
    ] = None
    edge_altitude: Annotated[
        float, _number("A edge", "altitude in m from which snow hangs over eaves · 6.3(1)", 0, 5000)
    ] = 800.0


class WindValues(Part):
    """EN 1991-1-4."""

    basic_pressure: Annotated[
        float | None, _number("q_b", "basic velocity pressure in kN/m², in place of that of the speed · 4.5(1)", 0, 5)
    ] = None
    peak_pressure: Annotated[
        float | None,
        _number("q_p", "peak velocity pressure in kN/m² at every height, from every direction · 4.5(1)", 0, 10),
    ] = None
    roughness: Annotated[
        float | None,
        _number("z_0", "roughness length in m of the site's terrain, in place of table 4.1's · 4.3.2(1)", 0.0005, 5),
    ] = None
    least_height: Annotated[
        float | None, _number("z_min", "in m, of the site's terrain, in place of table 4.1's · 4.3.2(1)", 0.5, 50)
    ] = None
    turbulence: Annotated[float, _number("k_I", "turbulence factor · 4.4(1)", 0.5, 2)] = 1.0
    shape: Annotated[float, _number("K", "shape in c_prob · 4.2(2)P note 5", 0.01, 1)] = 0.2
    exponent: Annotated[float, _number("n", "exponent of c_prob · 4.2(2)P note 5", 0.1, 2)] = 0.5
    correlation: Annotated[
        float, _number("0.85", "lack of correlation of windward and leeward sides of low buildings · 7.2.2(3)", 0.5, 1)
    ] = 0.85
    area_rule: Annotated[
        Literal["logarithmic", "c_pe,1 below 10 m²", "c_pe,10"],
        Field(title="c_pe of 1 to 10 m²", description="between the two values of the tables · 7.2.1(1), figure 7.2"),
    ] = "logarithmic"
    wall_heights: Annotated[
        Literal["figure 7.4", "h"],
        Field(title="z_e of windward walls", description="in strips, or the building's height for all · 7.2.2(1)"),
    ] = "figure 7.4"
    friction_smooth: Annotated[float, _number("c_fr smooth", "of steel, smooth concrete · 7.5, table 7.10", 0, 0.2)] = (
        0.01
    )
    friction_rough: Annotated[
        float, _number("c_fr rough", "of rough concrete, tar boards · 7.5, table 7.10", 0, 0.2)
    ] = 0.02
    friction_very_rough: Annotated[
        float, _number("c_fr very rough", "of ripples, ribs, folds · 7.5, table 7.10", 0, 0.2)
    ] = 0.04


class ImperfectionValues(Part):
    """EN 1993-1-1 5.3.2(3), as what length over them is."""

    sway: Annotated[float, _number("1/φ_0", "basic sway · EN 1993-1-1 5.3.2(3)a", 100, 1000)] = 200.0
    bow_a0: Annotated[float, _number("L/e_0, curve a0", "bow, elastic · EN 1993-1-1 table 5.1", 100, 2000)] = 350.0
    bow_a: Annotated[float, _number("L/e_0, curve a", "bow, elastic · EN 1993-1-1 table 5.1", 100, 2000)] = 300.0
    bow_b: Annotated[float, _number("L/e_0, curve b", "bow, elastic · EN 1993-1-1 table 5.1", 100, 2000)] = 250.0
    bow_c: Annotated[float, _number("L/e_0, curve c", "bow, elastic · EN 1993-1-1 table 5.1", 100, 2000)] = 200.0
    bow_d: Annotated[float, _number("L/e_0, curve d", "bow, elastic · EN 1993-1-1 table 5.1", 100, 2000)] = 150.0


class SteelValues(Part):
    """EN 1993-1-1."""

    lateral: Annotated[
        Literal["6.3.2.3", "6.3.2.2"],
        Field(
            title="χ_LT",
            description="of rolled and equivalent welded sections (table 6.5), or of all sections (table 6.4), the safe side · "
            "EN 1993-1-1 6.3.2.2, 6.3.2.3",
        ),
    ] = "6.3.2.3"
    lambda_LT0: Annotated[
        float,
        _number("λ̄_LT,0", "plateau of lateral-torsional buckling, rolled sections · EN 1993-1-1 6.3.2.3(1)", 0, 0.4),
    ] = 0.4
    beta: Annotated[
        float, _number("β", "of lateral-torsional buckling, rolled sections · EN 1993-1-1 6.3.2.3(1)", 0.75, 1)
    ] = 0.75
    eta: Annotated[
        float, _number("η", "of the shear area of I sections · EN 1993-1-1 6.2.6(3), EN 1993-1-5 5.1", 1, 1.2)
    ] = 1.0
    modification: Annotated[
        Literal["1", "(6.58)"],
        Field(
            title="f",
            description="of lateral-torsional buckling for the shape of the moments, k_c = 1/√C_1; 1 is the safe side · "
            "EN 1993-1-1 6.3.2.3(2)",
        ),
    ] = "1"
    flange: Annotated[
        float, _number("k_fl", "of the quick estimate by the compressed flange · EN 1993-1-1 6.3.2.4(2)", 1, 1.3)
    ] = 1.1
    interaction: Annotated[
        Literal["annex A", "annex B"],
        Field(title="k_ij", description="method of the interaction factors · EN 1993-1-1 6.3.3(5)"),
    ] = "annex B"


class National(Part):
    """National values, with those that the standards recommend. source: where those that differ come from; sources: of single ones,
    by their path in the document with / for its dots."""

    basis: BasisValues = BasisValues()
    imposed: ImposedValues = ImposedValues()
    snow: SnowValues = SnowValues()
    wind: WindValues = WindValues()
    imperfections: ImperfectionValues = ImperfectionValues()
    steel: SteelValues = SteelValues()
    source: Source = ""
    sources: dict[Annotated[str, Field(max_length=80, pattern=r"^[A-Za-z0-9_/]+$")], Source] = {}
