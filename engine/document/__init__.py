"""The document: what the designer states. Lengths in metres, angles in degrees; forces as `units` says.

One typed schema serves the file format, the server and the generated TypeScript types. docs/format.md describes it.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator, model_validator

from engine.document.base import Name, Part, nul_within
from engine.document.byhand import (
    BuiltSection,
    CraneRails,
    GridLineInput,
    LevelInput,
    MaterialInput,
    MemberEdit,
    MemberInput,
    NamedSet,
    NamedView,
    NodeEdit,
    NodeInput,
    PanelEdit,
    PanelInput,
    SectionInput,
    SupportInput,
)
from engine.document.handover import DossierPlan
from engine.document.jigs import HallJig, Jig
from engine.document.loads import (
    AreaLoad,
    CaseInput,
    CombinationInput,
    MemberLoad,
    NodeLoad,
    PanelLoad,
    SettlementLoad,
)
from engine.document.national import National
from engine.document.rules import AnalysisOptions, Cladding, Rules, Site, SnowOptions, WindOptions
from engine.document.secondary import LoadTable
from engine.document.sizing import SizingPlan
from engine.document.upgrade import upgrade
from engine.errors import ModelError

FORMAT_VERSION = 5


class Document(Part):
    """A whole project: a hall, other jigs, what is set out by hand, and what is laid over the generated.

    edits, moved_nodes, panel_edits: kept beside the parameters and laid on again after each change of a jig.
    """

    format: Literal["lorica"] = "lorica"
    version: int = FORMAT_VERSION
    units: Literal["kN, m", "N, m"] = "kN, m"
    name: Name = "Untitled"
    hall: HallJig | None = None
    jigs: list[Jig] = []
    edits: list[MemberEdit] = []
    moved_nodes: list[NodeEdit] = []
    panel_edits: list[PanelEdit] = []
    grid: list[GridLineInput] = []
    levels: list[LevelInput] = []
    sets: list[NamedSet] = []
    crane_rails: list[CraneRails] = []
    views: list[NamedView] = []
    site: Site = Site()
    snow: SnowOptions = SnowOptions()
    wind: WindOptions = WindOptions()
    cladding: Cladding = Cladding()
    rules: Rules = Rules()
    national: National = National()
    analysis: AnalysisOptions = AnalysisOptions()
    dossier: DossierPlan = DossierPlan()
    sizing: SizingPlan = SizingPlan()
    materials: list[MaterialInput] = []
    sections: list[SectionInput] = []
    built_sections: list[BuiltSection] = []
    load_tables: Annotated[list[LoadTable], Field(max_length=50)] = []
    nodes: list[NodeInput] = []
    members: list[MemberInput] = []
    supports: list[SupportInput] = []
    panels: list[PanelInput] = []
    cases: list[CaseInput] = []
    node_loads: list[NodeLoad] = []
    member_loads: list[MemberLoad] = []
    panel_loads: list[PanelLoad] = []
    area_loads: list[AreaLoad] = []
    settlements: list[SettlementLoad] = []
    combinations: list[CombinationInput] = []

    @model_validator(mode="before")
    @classmethod
    def from_earlier(cls, data: Any) -> Any:
        """Read documents of earlier versions too."""
        return upgrade(data)

    @field_validator("version")
    @classmethod
    def known_version(cls, version: int) -> int:
        """Refuse documents written by a newer Lorica."""
        if not 1 <= version <= FORMAT_VERSION:
            raise ValueError(
                f"this document is of format version {version}; this Lorica reads up to version {FORMAT_VERSION}"
            )
        return version

    @property
    def generates(self) -> bool:
        """Whether actions are generated: those of what jigs and panels set out."""
        return bool(self.hall or self.jigs or self.panels)

    @property
    def counts_weight(self) -> bool:
        """Whether a case counts the self-weight of the members: a generated one, or one that is marked."""
        return self.generates or any(case.self_weight for case in self.cases)

    @property
    def force(self) -> float:
        """Newtons in the document's unit of force."""
        return 1000.0 if self.units == "kN, m" else 1.0


def read_document(data: Any) -> Document:
    """The document in parsed JSON. Raises ModelError naming the first field that is wrong and why."""
    place = nul_within(data)
    if place is not None:
        place = place.replace("\0", "")
        raise ModelError(f"{place or 'The document'}: holds a NUL character.", place)
    try:
        document = Document.model_validate(data)
    except ValidationError as error:
        raise _as_model_error(error, data) from None
    check_references(document)
    return document


def read_stored(data: Any) -> Document:
    """A document that was taken once. Raises ModelError with the reason where this build does not take it any more."""
    try:
        return Document.model_validate(data)
    except ValidationError as error:
        found = _as_model_error(error, data)
        raise ModelError(f"This build does not take the stored document: {found.message}", found.place) from None


def _place(loc: tuple[int | str, ...], data: Any) -> str:
    """The dotted place of an error in the data: without the kinds that tell which of several forms was tried."""
    # what cannot be brought to this format has no place within it
    parts, now = [], upgrade(data) if loc else data
    for i, part in enumerate(loc):
        last = i == len(loc) - 1
        if isinstance(now, dict) and (part in now or last):
            now = now.get(part)
        elif isinstance(now, list) and isinstance(part, int):
            now = now[part] if part < len(now) else None
        else:
            continue
        parts.append(str(part))
    return ".".join(parts)


def _as_model_error(error: ValidationError, data: Any) -> ModelError:
    first = error.errors()[0]
    place = _place(first["loc"], data)
    context = first.get("ctx", {})
    given = first.get("input")
    bounds = {
        "greater_than_equal": ("at least", "ge"),
        "less_than_equal": ("at most", "le"),
        "greater_than": ("greater than", "gt"),
    }
    if first["type"] in bounds:
        word, key = bounds[first["type"]]
        reason = f"must be {word} {context[key]:g}, not {given}"
    elif first["type"] == "finite_number":
        reason = f"must be a finite number, not {given}"
    elif first["type"].startswith(("float_", "int_")):
        reason = f"must be a number, not {given!r}"
    elif first["type"] == "extra_forbidden":
        reason = "is not a field of the format"
    elif first["type"] == "missing":
        reason = "is missing"
    elif first["type"] == "union_tag_invalid":
        reason = f"is of a kind that the format does not know, {context['tag']!r}"
    elif first["type"] == "union_tag_not_found":
        reason = "does not say of which kind it is"
    else:
        reason = first["msg"].removeprefix("Value error, ").replace("Input should be", "must be")
    return ModelError(f"{place or 'The document'}: {reason}.", place)


def _unique(items: list[Any], what: str, place: str) -> set[str]:
    names: set[str] = set()
    for index, item in enumerate(items):
        if item.name in names:
            raise ModelError(f"There are two {what} named “{item.name}”.", f"{place}.{index}.name")
        names.add(item.name)
    return names


def check_references(document: Document) -> None:
    """Raise ModelError when something the document states directly refers to nothing, or twice to one name.

    Nodes, members and cases of a hall have generated names: those references are checked when the hall is set out.
    """
    _unique(document.nodes, "nodes", "nodes")
    _unique(document.members, "members", "members")
    _unique(document.cases, "cases", "cases")
    _unique(document.combinations, "combinations", "combinations")
    _unique(document.materials, "materials", "materials")
    _unique(document.sections, "sections", "sections")
    _unique(document.built_sections, "built-up sections", "built_sections")
    _unique(document.load_tables, "tables", "load_tables")
    _unique(document.jigs, "jigs", "jigs")
    _unique(document.levels, "levels", "levels")
    _unique(document.grid, "grid lines", "grid")
    _unique(document.sets, "named sets", "sets")
    _unique(document.crane_rails, "pairs of crane rails", "crane_rails")
    _unique(document.panels, "panels", "panels")
    for i, edit in enumerate(document.panel_edits):
        if edit.panel in [other.panel for other in document.panel_edits[:i]]:
            raise ModelError(f"What panel “{edit.panel}” rests on is stated twice.", f"panel_edits.{i}.panel")
    _unique(document.views, "named views", "views")
