"""What the columns of a table may be: nodes, members, supports, sections, cases, loads, combinations, grid lines and levels."""

from __future__ import annotations

import re
from dataclasses import dataclass

#: quantity -> unit -> what one is in metres, kilonewtons and degrees; the first is that of a heading without a unit
UNITS = {
    "length": {"m": 1.0, "mm": 1e-3, "cm": 1e-2, "in": 0.0254, "ft": 0.3048},
    "angle": {"°": 1.0, "deg": 1.0, "rad": 57.29577951308232},
    "force": {"kN": 1.0, "N": 1e-3, "MN": 1e3},
    "moment": {"kNm": 1.0, "Nm": 1e-3, "kNcm": 1e-2, "MNm": 1e3},
    "load": {"kN/m": 1.0, "kN": 1.0, "kNm": 1.0, "N/m": 1e-3, "N": 1e-3, "Nm": 1e-3, "N/mm": 1.0},
    "area": {"cm2": 1e-4, "mm2": 1e-6, "m2": 1.0},
    "inertia": {"cm4": 1e-8, "mm4": 1e-12, "m4": 1.0},
    "warping": {"cm6": 1e-12, "mm6": 1e-18, "m6": 1.0},
    "factor": {"": 1.0, "-": 1.0},
}
_PLAIN = str.maketrans("²³⁴⁶·", "2346.")


@dataclass(frozen=True)
class Field:
    """key: in the document; names: what headings call it, in small letters. quantity: "" for words."""

    key: str
    words: str
    names: tuple[str, ...]
    quantity: str = ""
    needed: bool = False


@dataclass(frozen=True)
class Kind:
    """names: words in the names of sheets."""

    words: str
    names: tuple[str, ...]
    fields: tuple[Field, ...]

    @property
    def called(self) -> tuple[str, str]:
        """What one of them and what several are called."""
        many = self.words.lower()
        one, _, on = many.partition(" on ")
        return " on ".join([one[:-1], on]) if on else one[:-1], many

    @property
    def needed(self) -> list[Field]:
        return [f for f in self.fields if f.needed]


def _vector(keys: str, words: str, marks: tuple[str, ...], quantity: str) -> tuple[Field, ...]:
    """Three fields along X, Y and Z. marks: what stands before or after the letter in headings, “{}” for it."""
    return tuple(
        Field(keys.format(axis), words.format(axis.upper()), tuple(m.format(axis) for m in marks), quantity)
        for axis in "xyz"
    )


#: what the axes are called besides
AXES: dict[str, tuple[str, ...]] = {"x": (), "y": (), "z": ("height", "level", "elevation")}
NODES = Kind(
    "Nodes",
    ("node", "point", "joint"),
    (
        Field("name", "Name", ("name", "node", "id", "no", "nr", "number", "label", "point", "joint"), needed=True),
        *(
            Field(axis, axis.upper(), (axis, f"coordinate {axis}", *more), "length", True)
            for axis, more in AXES.items()
        ),
    ),
)
MEMBERS = Kind(
    "Members",
    ("member", "beam", "bar", "element", "column"),
    (
        Field("name", "Name", ("name", "member", "bar", "beam", "element", "id", "no", "nr", "number", "label")),
        Field(
            "start", "Node at its start", ("start", "start node", "node i", "from", "from node", "node 1", "i", "begin")
        ),
        Field("end", "Node at its end", ("end", "end node", "node j", "to", "to node", "node 2", "j")),
        *_vector("start {}", "{} at its start", ("{}1", "{} start", "start {}", "{}i"), "length"),
        *_vector("end {}", "{} at its end", ("{}2", "{} end", "end {}", "{}j"), "length"),
        Field("section", "Section", ("section", "profile", "cross-section", "cross section", "size"), needed=True),
        Field("material", "Grade", ("grade", "material", "steel")),
        Field("role", "Role", ("role", "type", "use", "kind")),
        Field("behaviour", "Joined", ("joined", "behaviour", "behavior")),
        Field("roll", "Turned by", ("roll", "turned", "turned by", "rotation", "angle"), "angle"),
        Field("group", "Group", ("group",)),
        Field("released start", "Released at its start", ("release start", "hinge start", "release i")),
        Field("released end", "Released at its end", ("release end", "hinge end", "release j")),
    ),
)
SUPPORTS = Kind(
    "Supports",
    ("support", "base", "restraint", "foot", "feet"),
    (
        Field("node", "Node", ("node", "name", "point", "joint"), needed=True),
        Field("fixed", "Holds", ("fixed", "holds", "support", "kind", "type", "fixity")),
        *(
            Field(f"fixed {k}", f"Holds {k}", (k, f"u{k}" if len(k) == 1 else k.replace("r", "φ"), f"fixed {k}"))
            for k in ("x", "y", "z", "rx", "ry", "rz")
        ),
    ),
)
SECTIONS = Kind(
    "Sections",
    ("section", "profile"),
    (
        Field("name", "Name", ("name", "section", "profile"), needed=True),
        Field("A", "A", ("a", "area"), "area", True),
        Field("Iy", "I_y", ("iy", "i_y", "iyy"), "inertia", True),
        Field("Iz", "I_z", ("iz", "i_z", "izz"), "inertia", True),
        Field("It", "I_t", ("it", "i_t", "j", "ix"), "inertia", True),
        Field("Iw", "I_w", ("iw", "i_w", "cw"), "warping"),
    ),
)
CASES = Kind(
    "Cases",
    ("case",),
    (
        Field("name", "Name", ("name", "case", "load case", "id"), needed=True),
        Field("nature", "Nature", ("nature", "type", "kind", "action"), needed=True),
        Field("category", "Category", ("category",)),
    ),
)
MEMBER_LOADS = Kind(
    "Loads on members",
    ("member load", "loads on members", "line load", "beam load"),
    (
        Field("case", "Case", ("case", "load case"), needed=True),
        Field("member", "Member", ("member", "bar", "beam", "element", "name"), needed=True),
        Field("kind", "Line, force or moment", ("kind", "type")),
        *_vector("value {}", "Along {}", ("{}", "q{}", "f{}", "p{}", "along {}"), "load"),
        *_vector("value_end {}", "Along {} at its end", ("{}2", "q{}2", "along {} at its end", "end {}"), "load"),
        Field("start", "From", ("from", "start", "at", "a"), "length"),
        Field("end", "To", ("to", "end", "b"), "length"),
        Field("axes", "Axes", ("axes", "system")),
    ),
)
NODE_LOADS = Kind(
    "Loads on nodes",
    ("node load", "nodal load", "loads on nodes", "point load"),
    (
        Field("case", "Case", ("case", "load case"), needed=True),
        Field("node", "Node", ("node", "point", "joint", "name"), needed=True),
        *_vector("force {}", "Force along {}", ("f{}", "{}", "force {}", "p{}", "force along {}"), "force"),
        *_vector("moment {}", "Moment about {}", ("m{}", "moment {}", "moment about {}"), "moment"),
    ),
)
#: other columns of it are cases by their names
COMBINATIONS = Kind(
    "Combinations",
    ("combination",),
    (
        Field("name", "Name", ("name", "combination", "id"), needed=True),
        Field("use", "For", ("use", "for", "kind", "type", "limit state")),
    ),
)
GRID = Kind(
    "Grid lines",
    ("grid",),
    (
        Field("name", "Name", ("name", "grid", "line"), needed=True),
        Field("axis", "Axis", ("axis", "direction"), needed=True),
        Field("at", "At", ("at", "place", "position", "coordinate"), "length", True),
    ),
)
LEVELS = Kind(
    "Levels",
    ("level", "storey"),
    (
        Field("name", "Name", ("name", "level", "storey"), needed=True),
        Field("height", "Height", ("height", "z", "elevation", "level"), "length", True),
    ),
)
#: in the order in which they are made
KINDS = {
    "sections": SECTIONS,
    "nodes": NODES,
    "members": MEMBERS,
    "supports": SUPPORTS,
    "cases": CASES,
    "member_loads": MEMBER_LOADS,
    "node_loads": NODE_LOADS,
    "combinations": COMBINATIONS,
    "grid": GRID,
    "levels": LEVELS,
}


def plain(heading: str) -> str:
    """A heading as it is compared: small letters, one space."""
    return re.sub(r"[\s_.:]+", " ", heading.lower()).strip()


def unit_in(unit: str, quantity: str) -> float | None:
    """What one of a unit is, None for a unit that is not one of the quantity."""
    known = UNITS[quantity]
    if not unit:
        return next(iter(known.values()))
    own = unit.translate(_PLAIN).replace("^", "").replace("*", "").replace(" ", "")
    return next((factor for name, factor in known.items() if name.lower() == own.lower()), None)


def field_of(kind: Kind, heading: str) -> Field | None:
    """The field that a heading names: by its words in the page, else by what others call it."""
    own = plain(heading)
    bare = re.sub(r" (name|no|nr|number|id|coordinate)$", "", own)
    return next((f for f in kind.fields if own in (plain(f.words), plain(f.key))), None) or next(
        (f for f in kind.fields if {own, bare} & {plain(n) for n in f.names}), None
    )
