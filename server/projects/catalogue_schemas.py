"""What the API tells of sections, materials and climates."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field


class SectionOut(BaseModel):
    """Dimensions in mm, mass in kg/m, properties in cm and its powers."""

    name: str
    family: str
    h: float
    b: float
    tw: float
    tf: float
    mass: float
    A: float
    Iy: float
    Iz: float
    It: float
    Iw: float
    Wel_y: float
    Wpl_y: float
    Wel_z: float
    Wpl_z: float


class FamilyOut(BaseModel):
    name: str
    standard: str
    what: str
    sections: list[SectionOut]


class OutlineOut(BaseModel):
    """A section to scale: rings of points in mm, and its neighbours in mass order."""

    section: SectionOut
    rings: list[list[tuple[float, float]]]
    neighbours: list[SectionOut]


class CsvFile(BaseModel):
    """The text of a CSV file."""

    text: Annotated[str, Field(max_length=1_000_000)]


class MaterialOut(BaseModel):
    name: str
    what: str


class ClimateOut(BaseModel):
    """What the climate service knows of a place: kN/m², m/s, m."""

    place: str
    region: str
    x_km: float
    y_km: float
    altitude: float
    ground_snow: float
    wind_speed: float
    terrain: str
    source: str
