"""The document: what the designer states. Lengths in metres, angles in degrees; forces as `units` says.

One typed schema serves the file format, the server and the generated TypeScript types. docs/format.md describes it.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator

from engine.errors import ModelError

FORMAT_VERSION = 1

Name = Annotated[str, Field(min_length=1, max_length=80)]
Number = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Vector = tuple[Number, Number, Number]
Grade = Literal["S235", "S275", "S355", "S460"]
Role = Literal["column", "rafter", "eaves beam", "ridge beam", "roof bracing", "wall bracing", "member"]
Terrain = Literal["0", "I", "II", "III", "IV"]
Nature = Literal["permanent", "imposed", "snow", "wind", "other"]


class Part(BaseModel):
    """Base of everything in a document: unknown fields are refused, not dropped."""

    model_config = ConfigDict(extra="forbid")


class HallSections(Part):
    """One section per role of the hall."""

    columns: Name = "HEA 300"
    rafters: Name = "IPE 360"
    eaves_beams: Name = "SHS 120x5"
    ridge_beam: Name = "SHS 120x5"
    bracing: Name = "CHS 88.9x4"


class HallJig(Part):
    """Parameters of a duopitch portal-frame hall, measured to the grid (the system lines of the steel)."""

    kind: Literal["hall"] = "hall"
    span: Annotated[float, Field(ge=4, le=80, allow_inf_nan=False)] = 24.0
    eaves_height: Annotated[float, Field(ge=2, le=30, allow_inf_nan=False)] = 6.0
    pitch: Annotated[float, Field(ge=5, le=45, allow_inf_nan=False)] = 10.0
    frames: Annotated[int, Field(ge=2, le=60)] = 8
    spacing: Annotated[float, Field(ge=1, le=15, allow_inf_nan=False)] = 6.0
    bases: Literal["pinned", "fixed"] = "pinned"
    purlin_spacing: Annotated[float, Field(ge=0.5, le=6, allow_inf_nan=False)] = 1.5
    stay_every: Annotated[int, Field(ge=0, le=20)] = 2
    grade: Grade = "S355"
    sections: HallSections = HallSections()


class Site(Part):
    """What the place puts on the building. Pressures in kN/m² always, speed in m/s."""

    place: Annotated[str, Field(max_length=80)] = ""
    altitude: Annotated[float, Field(ge=-100, le=3000, allow_inf_nan=False)] = 200.0
    ground_snow: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.8
    wind_speed: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 24.0
    terrain: Terrain = "II"


class Cladding(Part):
    """Weight of sheeting with its purlins or rails, in kN/m² of surface."""

    roof: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.25
    walls: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.20


class NodeInput(Part):
    name: Name
    at: Vector


class MaterialInput(Part):
    """An elastic material stated by the document, in its units."""

    name: Name
    E: Positive
    G: Positive | None = None
    density: NotNegative = 0.0


class SectionInput(Part):
    """A section stated by its properties, in m², m⁴. Without shear areas it is rigid in shear."""

    name: Name
    A: Positive
    Iy: Positive
    Iz: Positive
    It: Positive
    Avy: Positive | None = None
    Avz: Positive | None = None


class Releases(Part):
    """Ends that carry no moment: local rotations released at start and end."""

    start: list[Literal["x", "y", "z"]] = []
    end: list[Literal["x", "y", "z"]] = []


class MemberInput(Part):
    name: Name
    start: Name
    end: Name
    section: Name
    material: Name = "S355"
    roll: Number = 0.0
    behaviour: Literal["beam", "bar"] = "beam"
    releases: Releases = Releases()
    role: Role = "member"


Freedom = Literal["x", "y", "z", "rx", "ry", "rz"]


class SupportInput(Part):
    """Directions held rigidly, and springs (force per metre, moment per radian, in the document's units)."""

    node: Name
    fixed: list[Freedom] = []
    springs: dict[Freedom, Positive] = {}


class CaseInput(Part):
    name: Name
    nature: Nature = "other"
    self_weight: bool = False


class NodeLoad(Part):
    case: Name
    node: Name
    force: Vector = (0.0, 0.0, 0.0)
    moment: Vector = (0.0, 0.0, 0.0)


class MemberLoad(Part):
    """A load on one member.

    kind "force" and "moment": a concentrated vector at distance `start`; "line": from `value` at `start` to `value_end`
    at `end` (default: the same value, the whole member). axes: "global", "local", or "projected" (per metre of plan).
    """

    case: Name
    member: Name
    kind: Literal["line", "force", "moment"] = "line"
    value: Vector
    value_end: Vector | None = None
    start: NotNegative = 0.0
    end: NotNegative | None = None
    axes: Literal["global", "local", "projected"] = "global"


class CombinationInput(Part):
    name: Name
    factors: dict[Name, Number]
    use: Literal["strength", "deflection"] = "strength"


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


class Document(Part):
    """A whole project. A hall, or nodes and members stated directly, or both."""

    format: Literal["lorica"] = "lorica"
    version: int = FORMAT_VERSION
    units: Literal["kN, m", "N, m"] = "kN, m"
    name: Name = "Untitled"
    hall: HallJig | None = None
    site: Site = Site()
    cladding: Cladding = Cladding()
    rules: Rules = Rules()
    analysis: AnalysisOptions = AnalysisOptions()
    materials: list[MaterialInput] = []
    sections: list[SectionInput] = []
    nodes: list[NodeInput] = []
    members: list[MemberInput] = []
    supports: list[SupportInput] = []
    cases: list[CaseInput] = []
    node_loads: list[NodeLoad] = []
    member_loads: list[MemberLoad] = []
    combinations: list[CombinationInput] = []

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
    def force(self) -> float:
        """Newtons in the document's unit of force."""
        return 1000.0 if self.units == "kN, m" else 1.0


def read_document(data: Any) -> Document:
    """The document in parsed JSON. Raises ModelError naming the first field that is wrong and why."""
    try:
        document = Document.model_validate(data)
    except ValidationError as error:
        raise _as_model_error(error) from None
    check_references(document)
    return document


def _as_model_error(error: ValidationError) -> ModelError:
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"])
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
    else:
        reason = first["msg"].removeprefix("Value error, ")
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
