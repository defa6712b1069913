"""The catalogue and the materials as the workbench shows them."""

from __future__ import annotations

from collections import defaultdict

from engine.catalogue.properties import Section
from engine.catalogue.sections import FAMILIES, catalogue, family_of
from engine.catalogue.shapes import outline_of
from engine.catalogue.steels import ELASTIC, STRENGTH
from server.projects import catalogue_schemas


def section_out(s: Section) -> catalogue_schemas.SectionOut:
    """A section with its properties."""
    return catalogue_schemas.SectionOut(
        name=s.name,
        family=s.family,
        h=s.h * 1e3,
        b=s.b * 1e3,
        tw=s.tw * 1e3,
        tf=s.tf * 1e3,
        mass=s.mass(),
        A=s.A * 1e4,
        Iy=s.Iy * 1e8,
        Iz=s.Iz * 1e8,
        It=s.It * 1e8,
        Iw=s.Iw * 1e12,
        Wel_y=s.Wel_y * 1e6,
        Wpl_y=s.Wpl_y * 1e6,
        Wel_z=s.Wel_z * 1e6,
        Wpl_z=s.Wpl_z * 1e6,
    )


def catalogue_out() -> list[catalogue_schemas.FamilyOut]:
    """The catalogue by family, in ascending mass."""
    families: dict[str, list[catalogue_schemas.SectionOut]] = defaultdict(list)
    for s in catalogue().values():
        families[s.family].append(section_out(s))
    return [
        catalogue_schemas.FamilyOut(name=family, standard=standard, what=what, sections=families[family])
        for family, (standard, what) in FAMILIES.items()
    ]


def outline_out(s: Section) -> catalogue_schemas.OutlineOut:
    """A section to scale with its neighbours: up to three lighter and three heavier of its family."""
    family = family_of(s.name) if s.name in catalogue() else [s]
    at = next(i for i, other in enumerate(family) if other.name == s.name)
    near = family[max(at - 3, 0) : at] + family[at + 1 : at + 4]
    return catalogue_schemas.OutlineOut(
        section=section_out(s),
        rings=[[(y * 1e3, z * 1e3) for y, z in ring.tolist()] for ring in outline_of(s)],
        neighbours=[section_out(other) for other in near],
    )


def materials_out() -> list[catalogue_schemas.MaterialOut]:
    """All materials, in words."""
    steels = [
        catalogue_schemas.MaterialOut(name=name, what=f"steel, fy = {strength[0][1] / 1e6:g} MPa")
        for name, strength in STRENGTH.items()
    ]
    return steels + [
        catalogue_schemas.MaterialOut(name=name, what=f"{what}: analysed, not checked")
        for name, (*_, what) in ELASTIC.items()
    ]
