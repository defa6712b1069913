"""Times of a dossier, as ratios to the chain that it tells of."""

from __future__ import annotations

from resource import RUSAGE_SELF, getrusage
from time import perf_counter

from engine.bench import bench
from engine.chain import run
from engine.demo import drying_hall
from engine.document.handover import DossierPlan
from engine.dossier.compose import TITLES, compose
from publish.typeset import typeset


def whole_bench() -> str:
    """The bench of the engine, then a line for a dossier at the normal level and one in full with every member."""
    return "\n".join([bench(), *dossier_lines()])


def dossier_lines() -> list[str]:
    """The drying hall's dossier at two levels."""
    start = perf_counter()
    chain = run(drying_hall())
    seconds = perf_counter() - start
    everything = {"every_member": True, "chapters": {key: {"level": "full"} for key in TITLES}}
    lines = []
    for name, plan in (("normal", DossierPlan()), ("full, every member", DossierPlan.model_validate(everything))):
        start = perf_counter()
        dossier = compose(chain, plan)
        told = perf_counter() - start
        pages = typeset(dossier)
        set_in_type = perf_counter() - start - told
        lines.append(
            f"dossier, {name}: {pages.count} pages; told in {told * 1e3:.0f} ms, set in type in {set_in_type * 1e3:.0f} ms: "
            f"{(told + set_in_type) / seconds:.1f} × the chain ({seconds * 1e3:.0f} ms); at most {getrusage(RUSAGE_SELF).ru_maxrss / 1024:.0f} MB with the chain, "
            f"{pages.memory:.0f} MB beside it where type is set"
        )
    return lines
