"""Small documents for tests, in newton and metre, and readers of the published values."""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from engine.actions.cases import Loading
from engine.analysis.solve import assemble, solve_linear
from engine.analysis.system import Response
from engine.chain import Chain, run
from engine.document import Document, read_document
from engine.document.jigs import HallJig, HallSections, Purlins, RoofBay
from engine.document.rules import Rules, Site
from engine.expand import expand
from engine.load import load
from engine.result import result
from engine.structure.model import Structure

PUBLISHED = Path(__file__).parent / "published"
E, I = 210e9, 8.356e-05  # noqa: E741


def published(name: str) -> Any:
    """A file of published values."""
    return json.loads((PUBLISHED / name).read_text())


def beam(length: float = 6.0, nodes: int = 2, **more: Any) -> dict[str, Any]:
    """A straight beam along X with a stiff, shear-rigid section; supports and loads come with `more`."""
    names = [f"n{i}" for i in range(nodes)]
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": E / 2.6}],
        "sections": [{"name": "s", "A": 1.0, "Iy": I, "Iz": I, "It": I}],
        "nodes": [{"name": n, "at": [length * i / (nodes - 1), 0, 0]} for i, n in enumerate(names)],
        "members": [
            {"name": f"b{i}", "start": a, "end": b, "section": "s", "material": "m"}
            for i, (a, b) in enumerate(zip(names[:-1], names[1:], strict=True))
        ],
        "cases": [{"name": "P"}],
        **more,
    }


def textbook(data: dict[str, Any]) -> dict[str, Any]:
    """A document whose cases count as they are: each alone as a combination, unless it states others, without imperfections."""
    found = {"rules": {"imperfections": False}, **data}
    if not found.get("combinations"):
        found["combinations"] = [{"name": f"{c['name']} alone", "factors": {c["name"]: 1.0}} for c in data["cases"]]
    return found


@dataclass(frozen=True)
class ByCase:
    """What a document bears and its linear response to each case, without any combination."""

    document: Document
    structure: Structure
    loading: Loading
    response: Response


def by_case(document: Document) -> ByCase:
    """A document set out, loaded and solved case by case."""
    structure = expand(document)
    loading = load(document, structure)
    system = assemble(structure, loading, document.analysis.shear_deformation)
    return ByCase(document, structure, loading, solve_linear(system))


FIXED = ["x", "y", "z", "rx", "ry", "rz"]
PINNED = ["x", "y", "z", "rx", "rz"]
ROLLER = ["y", "z", "rx", "rz"]


def solved(data: dict[str, Any]) -> tuple[Chain, dict[str, Any]]:
    """The chain of a document and its first state as the result file gives it."""
    chain = run(read_document(textbook(data)))
    states = result(chain)["states"]
    return chain, next(iter(states.values()))


def hall(**parameters: Any) -> Document:
    """A hall with some parameters."""
    return read_document({"version": 1, "hall": parameters})


def failing_hall() -> Document:
    """A shed that fails in three ways: rafters sideways without stays, the eaves in sway, braces in buckling."""
    return Document(
        name="Failing shed",
        hall=HallJig(
            bays=[RoofBay(span=20.0, pitch=8.0)],
            eaves_height=7.0,
            spacings=[6.5] * 5,
            bases="pinned",
            purlins=Purlins(spacing=1.6, stay_every=0),
            sections=HallSections(
                columns="HEA 340",
                rafters="IPE 450",
                eaves_beams="SHS 100x5",
                ridge_beam="SHS 120x5",
                bracing="CHS 88.9x4",
            ),
        ),
        site=Site(place="Nowhere", altitude=480.0, ground_snow=1.2, wind_speed=25.0, terrain="II"),
        rules=Rules(),
    )
