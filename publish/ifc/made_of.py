"""What members of an IFC file are made of: sections and grades of the catalogue that their profiles and materials stand for."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from typing import Any

from engine.catalogue.sections import catalogue
from engine.catalogue.steels import STRENGTH
from engine.errors import ModelError
from publish.ifc.profiles import ALIKE, properties_of, size_of


class MadeOf:
    """own: sections of the document by their properties alone; alike: what is said of the matches, with how often. unique: a name that no
    section bears yet."""

    def __init__(self, scale: float, unique: Callable[[str], str], alike: Counter[str]) -> None:
        self.scale, self.unique, self.alike = scale, unique, alike
        self.own: dict[str, dict[str, Any]] = {}
        self.sections: dict[str, tuple[str, str]] = {}

    def material(self, grade: str) -> str:
        """The grade of that name, else S355, said so."""
        for known in STRENGTH:
            if known.lower() == grade.strip().lower():
                return known
        self.alike[f"The material “{grade or 'none'}” is taken for S355"] += 1
        return "S355"

    def section(self, profile: Any) -> str:
        """The catalogue's section of that name or of those dimensions; else one by its properties, which is analysed, not verified."""
        if profile is None:
            raise ModelError("A member has no profile.")
        name = profile.ProfileName or ""
        if name in catalogue() or re.fullmatch(r"(RD|FL|RECT) \d[\dx.]*", name):
            return name
        if name not in self.sections:
            self.sections[name] = self.matched(profile, name)
        section, words = self.sections[name]
        self.alike[words] += 1
        return section

    def matched(self, profile: Any, name: str) -> tuple[str, str]:
        """What stands for a profile that no section bears the name of, and what is said of it."""
        size = size_of(profile, self.scale)
        for s in catalogue().values() if size else ():
            mine = (s.h, s.b, s.tw, s.tf)
            if size and s.shape == size[0] and all(abs(a - b) < ALIKE for a, b in zip(mine, size[1:], strict=True)):
                return s.name, f"The profile “{name or 'without name'}” is taken for {s.name} by its dimensions"
        properties = properties_of(profile, self.scale)
        if properties is None:
            raise ModelError(
                f"The profile “{name or profile.is_a()}” is of a kind that is not read ({profile.is_a()})."
            )
        own = self.unique(name or f"profile {len(self.own) + 1}")
        self.own[own] = {"name": own, **properties}
        return (
            own,
            f"The profile “{own}” is no section of the catalogue: it is known by area and second moments alone, and is not verified",
        )
