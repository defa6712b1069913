"""The cases that a hall's site puts on it, and floors on themselves: weights, imposed loads, snow, wind."""

from __future__ import annotations

from collections.abc import Callable

from engine.actions.cases import Case, Loading
from engine.actions.panels import DOWN, press
from engine.actions.weights import add_self_weight
from engine.catalogue.steels import GRAVITY
from engine.document import Document
from engine.document.floors import FloorJig
from engine.standards.en.roofs import parapet
from engine.standards.en.snow_cases import add_snow
from engine.standards.en.wind_cases import add_wind
from engine.structure.model import HINGE, Structure

WIND = (
    "Wind: the reference height of leeward and side walls is the ridge height (7.2.2(1) note), on the safe side. Roofs "
    "with several ridges by 7.2.7 and figure 7.10 c, d: the first slope by 7.2.4, behind it troughs with pitches below 0, "
    "unreduced in the first, 0.8 in the second, 0.6 in further ones; zones F, G and J in the first alone.",
    "Wind: frames carry c_pe,10, with purlins or rails that are members what these bear by their own area; local pressures of purlins, rails and gable posts are listed beside.",
)
LEAN_TO = "Wind on a lean-to: its roof as a single pitch of its own (7.2.4), zone H alone in the hall's lee; its wall as the hall's."
PARAPET = (
    "Wind on parapets by 7.4.1 and table 7.9, to windward and in the lee without shelter (7.4.2): forces and couples at the heads of "
    "columns and posts. They stand on the long walls, on the gables of flat roofs alone; their weight is not counted."
)
SNOW = ("Snow: even over the length of the hall but for stated obstructions; drifts at its ends are not covered.",)
IMPERFECTIONS = (
    "Imperfections: the sway of 5.3.2(3) as horizontal forces with the vertical ones of each case, along X and Y with both "
    "signs, where horizontal loads are below 15 % of the vertical ones. Bow imperfections are in the buckling curves."
)
TRUSS_ROOFS = (
    "Roofs on trusses that are not the roof of the building bear their weight, imposed load and snow; wind on them is not generated: "
    "state it as a case of your own. The roof of the building is that of one truss jig alone, not curved, with its slopes along X."
)
FLOORS = "Beams of floors are {}. Imposed loads of several storeys act in full in columns (α_n of EN 1991-1-1 6.3.1.2(11) is not taken)."
HINGED = "hinged on the axes of their columns: moments from connections beside the axis are not counted"
RIGID = (
    "joined rigidly on the axes of their columns: that the joints bear it and do not give (EN 1993-1-8) is not verified"
)
WALLS_ALONE = "The walls of {} have no roof over them that wind is known for: wind on them is not generated."
OPEN = (
    "Without walls the wind acts on the roof alone (7.3){}: none is generated on columns, beams and bracing themselves, nor on what "
    "stands below the roof. State it as a case of your own."
)
NO_GABLES = "What stands between the walls and a roof on trusses (their depth, the gables) has no cladding: its wind is not generated."
OPEN_GABLE = (
    "The gable {} has no posts in the model: its wind is taken to span upright on posts that are not modelled, half to the "
    "ground and half to the rafters; those posts and the weight of its cladding go straight to the ground."
)
HELD = (
    "Critical factors and second order: purlins, rails and stays that are no members of the model keep what they hold on the "
    "straight line between the ends of its member; turning about a held flange is checked of the member (6.3)."
)
TENSION_ONLY = (
    "Members for tension or compression only, and supports that push one way only, find their own state in each combination; "
    "the balance of single cases is drawn up with all of them acting."
)
NO_WEIGHT = "Self-weight is in no case: mark one of yours as bearing it, or count it another way."
TWICE = "Self-weight is counted more than once, in {}; it belongs to one case."
NO_PANELS = "Of what no hall jig sets out, only floors have panels; state other loads as cases of your own."


def simplifications(document: Document, structure: Structure) -> list[str]:
    """What is simplified for this document."""
    hall, envelope = document.hall, structure.envelope
    roofs = [panel for panel in structure.panels if panel.kind == "roof"]
    walls = [panel for panel in structure.panels if panel.kind == "wall"]
    found: list[str] = []
    if hall:
        for side, gable in (("front", hall.front), ("back", hall.back)):
            if gable.kind != "posts" and not hall.open_sides:
                found.append(OPEN_GABLE.format(side))
        found += WIND
        if hall.lean_to_left or hall.lean_to_right:
            found.append(LEAN_TO)
        if parapet(document):
            found.append(PARAPET)
        found += SNOW
    elif envelope and any(panel.place != "truss" for panel in roofs):
        found += WIND[:1] if walls else ()
        if walls and any(panel.pitch > 0 for panel in roofs):
            found.append(NO_GABLES)
        found += SNOW
    elif envelope and walls:
        found.append(WALLS_ALONE.format(envelope.of))
    elif document.jigs:
        found.append(NO_PANELS)
    else:
        counted = [case.name for case in document.cases if case.self_weight]
        if structure.members and not document.counts_weight:
            found.append(NO_WEIGHT)
        if len(counted) > 1:
            found.append(TWICE.format(" and ".join(f"“{name}”" for name in counted)))
    if envelope and envelope.open and roofs:
        found.append(OPEN.format("" if hall else f", with the blockage φ = {envelope.blockage:g} below it"))
    floors = {"none": HINGED, "main beams": f"hinged, or {RIGID}", "all": RIGID}
    for frames in sorted({jig.frames for jig in document.jigs if isinstance(jig, FloorJig)}):
        found.append(FLOORS.format(floors[frames]))
    if any(panel.place == "truss" for panel in structure.panels):
        found.append(TRUSS_ROOFS)
    if document.rules.imperfections and structure.members:
        found.append(IMPERFECTIONS)
    if any(len(m.outer) > 2 or len(m.inner) > 2 for m in structure.members):
        found.append(HELD)
    one_sided = any(m.behaviour in ("tension-only", "compression-only") for m in structure.members)
    if one_sided or structure.one_way.any():
        found.append(TENSION_ONLY)
    return found


def _weighing(structure: Structure) -> str:
    """What weighs beside steel, in words; none where nothing does."""
    masses = structure.masses()
    words = ", ".join(f"{what} {mass * GRAVITY / 1000:.1f} kN" for what, mass in masses.items())
    return "" if masses.keys() <= {"steel"} else f"of {words}"


def _clad(structure: Structure) -> str:
    """What the weight of the cladding holds: purlins and rails that are members weigh by themselves."""
    own = {m.role for m in structure.members} & {"purlin", "side rail"}
    besides = [word for role, word in (("purlin", "purlins"), ("side rail", "rails")) if role not in own]
    return " with ".join(["sheeting", *([" and ".join(besides)] if besides else [])])


def add_hall_cases(loading: Loading, structure: Structure, document: Document) -> None:
    """Add self-weight, cladding, floors, imposed loads, snow and wind of what the jigs set out."""
    cladding = document.cladding
    add_self_weight(loading, structure, Case("Self-weight of steel", "G1", "permanent", note=_weighing(structure)))
    surfaces = [panel for panel in structure.panels if panel.kind in ("roof", "wall")]
    if surfaces:
        case = loading.add_case(Case("Cladding", "G2", "permanent", note=_clad(structure)))
        for panel in (p for p in surfaces if p.grounded is None):
            weight = (cladding.roof if panel.kind == "roof" else cladding.walls) * 1000
            press(loading, case, panel, DOWN, weight, why="weight of the cladding")
    floors = [panel for panel in structure.panels if panel.kind == "floor"]
    if floors:
        case = loading.add_case(Case("Floors", f"G{len(loading.cases) + 1}", "permanent", note="deck and finishes"))
        for panel in floors:
            press(loading, case, panel, DOWN, panel.permanent, why="deck and finishes")
        _imposed(loading, structure)
    roofs = [panel for panel in surfaces if panel.kind == "roof"]
    if roofs and cladding.roof_imposed:
        number = 1 + sum(case.nature == "imposed" for case in loading.cases)
        note = "maintenance alone, not with snow or wind (EN 1991-1-1 3.3.2(1)); on the plan"
        case = loading.add_case(Case("Imposed on the roof", f"Q{number}", "imposed", "roof", note, "H"))
        for panel in roofs:
            plan = float(panel.outside[2])
            press(loading, case, panel, DOWN, cladding.roof_imposed * 1000 * plan, why="category H, table 6.10")
    add_snow(loading, structure, document)
    add_wind(loading, structure, document)


#: what is added to the name of a case, words, and which fields (floor, row, column) are loaded
PATTERNS: tuple[tuple[str, str, Callable[[tuple[str, int, int]], bool]], ...] = (
    ("", "all fields loaded", lambda _: True),
    (", chess-board, the first loaded", "fields in a chess-board, the first loaded", lambda f: (f[1] + f[2]) % 2 == 0),
    (
        ", chess-board, the second loaded",
        "fields in a chess-board, the second loaded",
        lambda f: (f[1] + f[2]) % 2 == 1,
    ),
)


def _imposed(loading: Loading, structure: Structure) -> None:
    """Imposed load of the floors, by jig and category: all fields, and chess-board patterns where there are several."""
    floors = [panel for panel in structure.panels if panel.kind == "floor" and panel.imposed]
    by_category: dict[str, list[int]] = {}
    for i, panel in enumerate(floors):
        by_category.setdefault(panel.category or "B", []).append(i)
    number = 0
    for category, chosen in by_category.items():
        # a panel drawn by hand is a field of its own
        field_of = {i: floors[i].deck or (floors[i].name, 0, 0) for i in chosen}
        fields = set(field_of.values())
        # beams hinged at both ends have their greatest forces when all fields are loaded
        if all(m.release_start >= HINGE and m.release_end >= HINGE for m in structure.members if m.role == "main beam"):
            fields = set()
        for short, words, takes in PATTERNS if len(fields) > 1 else PATTERNS[:1]:
            number += 1
            name = "Imposed on floors" + (f", category {category}" if len(by_category) > 1 else "") + short
            case = loading.add_case(Case(name, f"Q{number}", "imposed", f"imposed {category}", words, category))
            for i in chosen:
                if takes(field_of[i]):
                    press(loading, case, floors[i], DOWN, floors[i].imposed, why=f"category {category}, table 6.2")
