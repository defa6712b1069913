"""The site, the cladding, and the rules of proof."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import NotNegative, Part, Positive, Role, Terrain


class Site(Part):
    """What the place puts on the building. Pressures in kN/m² always, speed in m/s."""

    place: Annotated[str, Field(max_length=80)] = ""
    altitude: Annotated[float, Field(ge=-100, le=3000, allow_inf_nan=False)] = 200.0
    ground_snow: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.8
    wind_speed: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 24.0
    terrain: Terrain = "II"


class Cladding(Part):
    """Weight of sheeting in kN/m² of surface, with its purlins or rails where they are not members."""

    roof: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.25
    walls: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.20


class EffectiveLength(Part):
    """Factors on the system length for one role; None leaves the value the standard's rule gives for the role."""

    y: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None
    z: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None


class Rules(Part):
    """What is to be proven and against which limits."""

    standard: Literal["EN"] = "EN"
    gamma_G_unfavourable: Positive = 1.35
    gamma_G_favourable: Positive = 1.0
    gamma_Q: Positive = 1.5
    psi0_wind: NotNegative = 0.6
    psi0_snow: NotNegative | None = None
    gamma_M0: Positive = 1.0
    gamma_M1: Positive = 1.0
    rafter_deflection_ratio: Positive = 200.0
    eaves_sway_ratio: Positive = 150.0
    effective_lengths: dict[Role, EffectiveLength] = {}


class AnalysisOptions(Part):
    shear_deformation: bool = True
