"""What members of an IFC file are made of: sections and grades of the catalogue that their profiles and materials stand for."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from typing import Any

from engine.catalogue.sections import catalogue
from engine.catalogue.sections import section as section_named
from engine.catalogue.steels import STRENGTH
from engine.errors import ModelError
from publish.ifc.profiles import ALIKE, plates_of, properties_of, size_of
from publish.taken import FileChoice, FileOption, Settled, counted

#: what stands for a profile that is known by its properties alone
AS_IT_IS = "as it is"
#: a flange up to which a welded section buckles by no higher curve than a rolled one of the same sizes, mm (EN 1993-1-1 table 6.2)
THICKEST = 100.0
#: a name and the sizes of plates: what profiles are told apart by
Shape = tuple[str, tuple[Any, ...]]


class MadeOf:
    """own: sections of the document by their properties alone, built: by their plates, in mm; alike: what is said of the matches, with how often. unique: a name that no
    section bears yet; settled: what stands for a profile or a material where that was chosen."""

    def __init__(
        self, scale: float, unique: Callable[[str], str], alike: Counter[str], settled: Settled | None = None
    ) -> None:
        self.scale, self.unique, self.alike = scale, unique, alike
        self.settled = settled or {}
        self.own: dict[str, dict[str, Any]] = {}
        self.built: dict[str, dict[str, Any]] = {}
        self.sections: dict[Shape, tuple[str, str]] = {}
        self.counts: Counter[tuple[str, str]] = Counter()
        self.grades: dict[str, str] = {}

    def material(self, grade: str) -> str:
        """The grade that was chosen, else that of its name, else S355, said so."""
        name = grade.strip()
        known = next((own for own in STRENGTH if own.lower() == name.lower()), None)
        chosen = self.settled.get((_of("Material", name), "material"))
        if chosen is not None and chosen not in STRENGTH:
            raise ModelError(f"Material {name}: there is no grade “{chosen}”.")
        self.counts["material", name] += 1
        if chosen is None and known is None:
            self.alike[f"The material “{name or 'none'}” is taken for S355"] += 1
        self.grades[name] = chosen or known or "S355"
        return self.grades[name]

    def section(self, profile: Any) -> str:
        """The section that was chosen, else the catalogue's of that name or of those dimensions; else one by its properties, which is
        analysed, not verified."""
        if profile is None:
            raise ModelError("A member has no profile.")
        name = profile.ProfileName or ""
        plates = plates_of(profile, self.scale)
        # several profiles may bear one name
        shape = (name, tuple(plates.values()) if plates else ())
        if shape not in self.sections:
            chosen = self.settled.get((_of("Profile", name), "section"))
            if chosen is not None and chosen != AS_IT_IS:
                self.sections[shape] = section_named(chosen).name, ""
            elif name in catalogue() or re.fullmatch(r"(RD|FL|RECT|WI) \d[\dx.]*", name):
                self.sections[shape] = name, self.other_size(profile, name)
            else:
                self.sections[shape] = self.matched(profile, name, plates)
        section, words = self.sections[shape]
        self.counts["section", name] += 1
        if words:
            self.alike[words] += 1
        return section

    def other_size(self, profile: Any, name: str) -> str:
        """What is said of a profile that bears the name of a section and has other dimensions."""
        size = size_of(profile, self.scale)
        s = section_named(name)
        if size is None or all(abs(a - b) < ALIKE for a, b in zip((s.h, s.b, s.tw, s.tf), size[1:], strict=True)):
            return ""
        mine = " × ".join(f"{1000 * v:g}" for v in size[1:])
        return (
            f"The profile “{name}” is drawn as {mine} mm, which the section of that name is not; the section is taken"
        )

    def choices(self) -> list[FileChoice]:
        """What stands for each profile and each material, to be settled."""
        words = {True: "by its properties, not verified", False: "as welded of its plates"}
        grades = tuple(FileOption(grade, grade) for grade in STRENGTH)
        found = []
        for name, section in {name: section for (name, _), (section, _) in self.sections.items()}.items():
            own = section in self.own or section in self.built
            as_it_is = (FileOption(AS_IT_IS, words[section in self.own]),)
            aside = counted(self.counts["section", name], "member")
            value, options = (AS_IT_IS, as_it_is) if own else (section, ())
            found.append(FileChoice(_of("Profile", name), "section", "Section", value, options, "section", aside))
        for name, grade in self.grades.items():
            aside = counted(self.counts["material", name], "member")
            found.append(FileChoice(_of("Material", name), "material", "Grade", grade, grades, aside=aside))
        return found

    def matched(self, profile: Any, name: str, plates: dict[str, Any] | None) -> tuple[str, str]:
        """What stands for a profile that no section bears the name of, and what is said of it."""
        size = size_of(profile, self.scale)
        for s in catalogue().values() if size else ():
            mine = (s.h, s.b, s.tw, s.tf)
            if size and s.shape == size[0] and all(abs(a - b) < ALIKE for a, b in zip(mine, size[1:], strict=True)):
                return s.name, f"The profile “{name or 'without name'}” is taken for {s.name} by its dimensions"
        if plates is not None and max(plates["tf"], plates.get("tf2", 0.0)) <= THICKEST:
            built = self.unique(name or f"section {len(self.built) + 1}")
            self.built[built] = {"name": built, **plates}
            return built, f"The profile “{built}” is no section of the catalogue: it is taken as welded of its plates"
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


def _of(kind: str, name: str) -> str:
    """What a profile or a material is called where it is settled."""
    return f"{kind} {name or 'without name'}"[:300]
