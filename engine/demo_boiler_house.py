"""The boiler house: a concrete slab on steel columns and beams, with a steel frame standing on it, all drawn by hand."""

from __future__ import annotations

from engine.document import Document
from engine.document.base import Direction, Slab
from engine.document.byhand import GridLineInput, LevelInput, MemberInput, NodeInput, PanelInput, SupportInput
from engine.document.rules import Site

ACROSS = {"A": 0.0, "B": 6.0, "C": 12.0}
ALONG = {"1": 0.0, "2": 5.0, "3": 10.0}
#: heights of the floor, the eaves and the ridge; how far the floor reaches beyond line A
FLOOR, EAVES, RIDGE, BEYOND = 4.0, 7.6, 8.4, 1.5


def boiler_house() -> Document:
    """A floor of 200 mm that cantilevers beyond its columns and leaves a place for the boiler, and the roof above it."""
    nodes, members = [], []
    for line, y in ALONG.items():
        for name, x in ACROSS.items():
            nodes += [
                NodeInput(name=f"foot {name}{line}", at=(x, y, 0.0)),
                NodeInput(name=f"{name}{line}", at=(x, y, FLOOR)),
            ]
            column = f"column {name}{line}"
            members.append(
                MemberInput(
                    name=column, start=f"foot {name}{line}", end=f"{name}{line}", section="HEB 220", role="column"
                )
            )
        for name in "AC":
            nodes.append(NodeInput(name=f"eaves {name}{line}", at=(ACROSS[name], y, EAVES)))
            members.append(
                MemberInput(
                    name=f"post {name}{line}",
                    start=f"{name}{line}",
                    end=f"eaves {name}{line}",
                    section="HEA 240",
                    role="column",
                )
            )
        nodes.append(NodeInput(name=f"ridge {line}", at=(ACROSS["B"], y, RIDGE)))
        nodes.append(NodeInput(name=f"tip {line}", at=(-BEYOND, y, FLOOR)))
        for name in "AC":
            members.append(
                MemberInput(
                    name=f"rafter {name}{line}",
                    start=f"eaves {name}{line}",
                    end=f"ridge {line}",
                    section="IPE 300",
                    role="rafter",
                    restraints_outer=[2.0, 4.0],
                    restraints_inner=[2.0, 4.0],
                )
            )
        for a, b in (("tip ", "A"), ("A", "B"), ("B", "C")):
            members.append(
                MemberInput(
                    name=f"beam {a.strip()}{b} {line}",
                    start=f"{a}{line}",
                    end=f"{b}{line}",
                    section="IPE 400",
                    role="main beam",
                )
            )
    for name in ("eaves A", "eaves C", "ridge "):
        for a, b in (("1", "2"), ("2", "3")):
            members.append(
                MemberInput(
                    name=f"strut {name.strip()} {a}{b}",
                    start=f"{name}{a}",
                    end=f"{name}{b}",
                    section="SHS 120x5",
                    role="strut",
                    behaviour="bar",
                )
            )
    for name in "AC":
        for low, high in (("1", "2"), ("2", "1")):
            members += [
                MemberInput(name=f"wall brace {name}{low}", start=f"{name}{low}", end=f"eaves {name}{high}", section="RD 24", role="wall bracing", behaviour="tension-only"),
                MemberInput(name=f"roof brace {name}{low}", start=f"eaves {name}{low}", end=f"ridge {high}", section="RD 20", role="roof bracing", behaviour="tension-only"),
            ]  # fmt: skip
    floor = PanelInput(
        name="floor",
        corners=[(-BEYOND, 0.0, FLOOR), (12.0, 0.0, FLOOR), (12.0, 10.0, FLOOR), (-BEYOND, 10.0, FLOOR)],
        openings=[[(7.5, 6.0, FLOOR), (10.0, 6.0, FLOOR), (10.0, 8.5, FLOOR), (7.5, 8.5, FLOOR)]],
        diaphragm="slab",
        slab=Slab(thickness=0.2, size=0.5, rise=0.3),
        permanent=1.2,
        imposed=5.0,
        category="E",
    )
    skin = []
    sides: tuple[tuple[str, Direction, Direction], ...] = (("A", "left", "right"), ("C", "right", "left"))
    for name, side, other in sides:
        x = ACROSS[name]
        eaves, ridge = [(x, y, EAVES) for y in (0.0, 10.0)], [(6.0, y, RIDGE) for y in (10.0, 0.0)]
        wall = [(x, 0.0, FLOOR), (x, 10.0, FLOOR), (x, 10.0, EAVES), (x, 0.0, EAVES)]
        skin += [
            PanelInput(name=f"roof {name}", kind="surface", corners=[*eaves, *ridge], carriers=[f"rafter {name}{n}" for n in "123"], permanent=0.35, snow=0.8, wind={side: -1.0, other: -0.5, "front": -0.7, "back": -0.7}),
            PanelInput(name=f"wall {name}", kind="surface", corners=list(wall), carriers=[f"post {name}{n}" for n in "123"], permanent=0.3, wind={side: 0.8, other: -0.5, "front": -0.8, "back": -0.8}),
        ]  # fmt: skip
    return Document(
        name="Sandmartin Sawmill · boiler house",
        grid=[GridLineInput(name=n, axis="X", at=x) for n, x in ACROSS.items()]
        + [GridLineInput(name=n, axis="Y", at=y) for n, y in ALONG.items()],
        levels=[LevelInput(name="floor", height=FLOOR)],
        nodes=nodes,
        members=members,
        supports=[
            SupportInput(node=f"foot {a}{b}", fixed=["x", "y", "z", "rx", "ry", "rz"]) for a in ACROSS for b in ALONG
        ],
        panels=[floor, *skin],
        site=Site(place="Ossel Ford (invented)", altitude=210.0, ground_snow=0.8, wind_speed=24.0, terrain="II"),
    )
