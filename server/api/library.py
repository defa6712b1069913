"""What is the same for every project: catalogue, materials, national values, the climate of places; and the office's own sections."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from engine.catalogue.sections import section as catalogue_section
from engine.document.byhand import BuiltSection
from engine.document.national_values import NationalValue
from engine.document.presets import PRESETS, Preset
from engine.document.secondary import LoadTable
from engine.standards.family import national_values
from server.api.access import user_of
from server.people.models import Role
from server.people.roles import need_role
from server.projects import catalogue_schemas, climate, library, load_table_csv, office, schemas

router = Router()


@router.get("/catalogue", response=list[catalogue_schemas.FamilyOut])
def catalogue(request: HttpRequest) -> list[catalogue_schemas.FamilyOut]:
    return library.catalogue_out()


@router.get("/catalogue/outline", response={200: catalogue_schemas.OutlineOut, 422: schemas.Problem})
def outline(request: HttpRequest, name: str) -> catalogue_schemas.OutlineOut:
    """A section to scale, with its properties and its neighbours in mass."""
    return library.outline_out(catalogue_section(name, "name"))


@router.get("/office", response=list[BuiltSection])
def office_catalogue(request: HttpRequest) -> list[BuiltSection]:
    """The office's own sections."""
    return office.catalogue()


@router.post("/office", response={200: list[BuiltSection], 422: schemas.Problem})
def take_into_office(request: HttpRequest, body: catalogue_schemas.CsvFile) -> list[BuiltSection]:
    """Take in sections from a CSV file; all of them or none."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    office.take_in(office.read_csv(body.text))
    return office.catalogue()


@router.delete("/office", response=list[BuiltSection])
def drop_from_office(request: HttpRequest, name: str) -> list[BuiltSection]:
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    office.drop(name)
    return office.catalogue()


@router.post("/load-tables", response={200: list[LoadTable], 422: schemas.Problem})
def read_load_tables(request: HttpRequest, body: catalogue_schemas.CsvFile) -> list[LoadTable]:
    """What a CSV file says of purlins and rails, for a project to take; nothing is kept."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    return load_table_csv.read(body.text)


@router.get("/materials", response=list[catalogue_schemas.MaterialOut])
def materials(request: HttpRequest) -> list[catalogue_schemas.MaterialOut]:
    return library.materials_out()


@router.get("/national", response=list[NationalValue])
def national(request: HttpRequest) -> list[NationalValue]:
    return national_values()


@router.get("/limits", response=list[Preset])
def limits(request: HttpRequest) -> tuple[Preset, ...]:
    """Sets of limits of deflection by what hangs on the steel."""
    return PRESETS


@router.get("/climate", response={200: catalogue_schemas.ClimateOut, 422: schemas.Problem})
def site_climate(request: HttpRequest, place: str, altitude: float | None = None) -> catalogue_schemas.ClimateOut:
    """Site values of a place, asked of the climate service."""
    return climate.site_values(place, altitude)


@router.get("/climate/places", response=list[str])
def climate_places(request: HttpRequest, name: str = "") -> list[str]:
    """Places that the climate service knows by these letters."""
    return climate.place_names(name)
