"""The pipeline: document → structure → loading → combinations → response → verdicts, each stage with a fingerprint.

A fingerprint is a hash of exactly the inputs of its stage: equal fingerprints, equal results.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from time import perf_counter
from typing import Any

from engine.actions.cases import Loading
from engine.actions.combinations import Combination
from engine.analysis.bows import Bow
from engine.analysis.combined import Combined, combine_results
from engine.analysis.solve import assemble
from engine.analysis.system import Response
from engine.document import Document
from engine.expand import expand
from engine.load import bows, combinations, foreseen, load
from engine.progress import Progress, quiet
from engine.standards.family import family
from engine.structure.model import Structure
from engine.verification.verify import Verification, verify

#: raised whenever a stage's results change for equal inputs
ENGINE_VERSION = "34"
STAGES = ("structure", "loading", "combinations", "response", "verification")

_INPUTS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    # stage -> (parts of the document, stages before it)
    "structure": (
        (
            "units",
            "hall",
            "jigs",
            "edits",
            "moved_nodes",
            "panel_edits",
            "grid",
            "levels",
            "materials",
            "sections",
            "built_sections",
            "nodes",
            "members",
            "supports",
            "panels",
            "analysis.plane",
            "analysis.bears_at",
        ),
        (),
    ),
    "loading": (
        (
            "units",
            "site",
            "snow",
            "wind",
            "cladding",
            "cases",
            "node_loads",
            "member_loads",
            "panel_loads",
            "area_loads",
            "settlements",
            "rules.imperfections",
            "national.imposed",
            "national.snow",
            "national.wind",
            "national.imperfections",
        ),
        ("structure",),
    ),
    "combinations": (("combinations", "rules.combining", "national.basis", "site.altitude"), ("loading",)),
    "response": (("analysis",), ("structure", "loading", "combinations")),
    "verification": (("rules", "national.steel", "load_tables", "crane_rails"), ("response",)),
}
_COMBINING = (
    "gamma_G_unfavourable",
    "gamma_G_favourable",
    "gamma_Q",
    "psi",
    "strength_rule",
    "xi",
    "gamma_G_equ_unfavourable",
    "gamma_G_equ_favourable",
    "imperfections",
    "standard",
)


def fingerprints(document: Document) -> dict[str, str]:
    """A short hash for every stage."""
    data = document.model_dump(mode="json")
    data["rules.combining"] = {key: data["rules"][key] for key in _COMBINING}
    data["rules.imperfections"] = data["rules"]["imperfections"]
    data |= {f"national.{group}": values for group, values in data["national"].items()}
    data |= {f"analysis.{key}": data["analysis"][key] for key in ("plane", "bears_at")}
    data["site.altitude"] = data["site"]["altitude"]
    found: dict[str, str] = {}
    for stage, (parts, before) in _INPUTS.items():
        inputs: dict[str, Any] = {part: data[part] for part in parts}
        inputs["before"] = [found[name] for name in before]
        inputs["engine"] = ENGINE_VERSION
        text = json.dumps(inputs, sort_keys=True)
        found[stage] = hashlib.sha256(text.encode()).hexdigest()[:16]
    return found


@dataclass(frozen=True)
class Loaded:
    """The stages before the response. seconds: time taken by each; left: about how many combinations are yet to be made, where
    they are left to the response."""

    structure: Structure
    loading: Loading
    combinations: list[Combination]
    bows: tuple[Bow, ...]
    seconds: dict[str, float]
    left: int = 0

    def count(self) -> int:
        """How many combinations there are, or about how many there will be."""
        return self.left or len(self.combinations)


@dataclass(frozen=True)
class Forces:
    """The stages up to the response. seconds: time taken by each."""

    document: Document
    structure: Structure
    loading: Loading
    combinations: list[Combination]
    combined: Combined
    seconds: dict[str, float]

    @property
    def response(self) -> Response:
        """The linear response to every case."""
        return self.combined.response


@dataclass(frozen=True)
class Chain(Forces):
    """All stages of one document, computed."""

    fingerprints: dict[str, str]
    verification: Verification

    def tonnage(self) -> float:
        """Mass of all members in kg."""
        return sum(self.structure.mass(m) for m in self.structure.members)


@contextmanager
def _timed(seconds: dict[str, float], name: str, progress: Progress) -> Iterator[None]:
    progress(name, 0, 0)
    start = perf_counter()
    yield
    seconds[name] = perf_counter() - start


def prepare(document: Document, progress: Progress = quiet, most: int | None = None) -> Loaded:
    """Set the document out, load and combine it: all that can be refused before anything is solved. most: combinations beyond which
    they are counted alone, and left to the response. Raises ModelError."""
    seconds: dict[str, float] = {}
    with _timed(seconds, "structure", progress):
        structure = expand(document)
    with _timed(seconds, "loading", progress):
        loading = load(document, structure)
    count = foreseen(document, loading)
    left = count if most is not None and count > most else 0
    with _timed(seconds, "combinations", progress):
        combined = [] if left else combinations(document, loading)
    return Loaded(structure, loading, combined, bows(document, structure), seconds, left)


def respond(document: Document, progress: Progress = quiet, loaded: Loaded | None = None) -> Forces:
    """Run the chain as far as the response, from what was prepared of the same document, if it was. `progress` is told of
    each stage; it may raise to stop the work. Raises ModelError for a document that cannot be computed."""
    found = loaded or prepare(document, progress)
    seconds, every = dict(found.seconds), found.combinations
    if found.left:
        with _timed(seconds, "combinations", progress):
            every = combinations(document, found.loading)
    with _timed(seconds, "response", progress):
        system = assemble(found.structure, found.loading, document.analysis.shear_deformation, found.bows)
        results = combine_results(
            system,
            every,
            document.analysis.order,
            document.analysis.second_order_below,
            progress=lambda done, of: progress("response", done, of),
        )
    return Forces(document, found.structure, found.loading, every, results, seconds)


def run(
    document: Document, progress: Progress = quiet, before: Forces | None = None, loaded: Loaded | None = None
) -> Chain:
    """Run the whole chain. before: the stages up to the response of a document with the same fingerprint of the response,
    which are taken over; loaded: what was prepared of this document. Raises ModelError for a document that cannot be computed."""
    if before is None:
        forces = respond(document, progress, loaded)
    else:
        forces = Forces(
            document,
            before.structure,
            before.loading,
            before.combinations,
            before.combined,
            dict.fromkeys(STAGES[:-1], 0.0),
        )
    with _timed(forces.seconds, "verification", progress):
        verification = verify(
            document,
            forces.combined,
            forces.combinations,
            family(document).checks,
            tuple(family(document).secondary(document, forces.structure, forces.loading)),
            progress=lambda done, of: progress("verification", done, of),
        )
    return Chain(**vars(forces), fingerprints=fingerprints(document), verification=verification)
