"""Times of the chain's stages on fixed models, as ratios to the factorisation and solves they cannot avoid."""

from __future__ import annotations

from collections.abc import Callable
from time import perf_counter

import numpy as np
from scipy.sparse import csc_array

from engine.analysis.combined import combine_results
from engine.analysis.elements import condense, local_stiffness
from engine.analysis.factors import Factors, sparse_lu
from engine.analysis.solve import assemble, global_stiffness
from engine.chain import STAGES, Chain, run
from engine.demo import drying_hall
from engine.document import Document
from engine.document.base import Haunch
from engine.document.jigs import Gable, HallJig, Purlins, RoofBay
from engine.document.rules import Inside
from engine.expand import expand
from engine.load import combinations, load
from engine.memory import settle
from engine.structure.audit import audit


def reference_models() -> dict[str, Document]:
    """The demo hall, and halls of 20 and 60 frames."""
    demo = drying_hall()
    assert demo.hall is not None
    models = {"drying hall, 8 frames": demo}
    for frames in (20, 60):
        hall = demo.hall.model_copy(update={"spacings": [6.0] * (frames - 1)})
        models[f"hall of {frames} frames"] = demo.model_copy(update={"hall": hall})
    return models


def floor_seconds(chain: Chain, repeats: int = 5) -> float:
    """Best time of one bare sparse factorisation with the solves for all cases."""
    structure, elements = chain.structure, chain.response.elements
    k, _ = condense(local_stiffness(elements), elements)
    K = global_stiffness(elements, k, structure.fixed.size)
    free = np.flatnonzero(~structure.fixed.ravel() & (K.diagonal() > 0))
    Kff = csc_array(K[free][:, free])
    force = np.ones((len(free), len(chain.loading.cases)))
    return best(lambda: sparse_lu(Kff).solve(force), repeats)


def best(work: Callable[[], object], repeats: int) -> float:
    """Shortest of several runs, in seconds."""
    times = []
    for _ in range(repeats):
        start = perf_counter()
        work()
        times.append(perf_counter() - start)
    return min(times)


def large_hall() -> Document:
    """A hall of some 5,000 members: two bays, 70 frames, purlins and rails as members."""
    rows = Purlins(modelled=True, spacing=1.0)
    return Document(hall=HallJig(bays=[RoofBay(), RoofBay()], spacings=[6.0] * 69, purlins=rows, rails=rows))


def portal_hall(frames: int, bays: int) -> Document:
    """Haunched frames of 24 m with bracing and gable posts, one internal pressure."""
    haunch = Haunch(length=2.4, depth=0.30)
    hall = HallJig(
        bays=[RoofBay() for _ in range(bays)],
        spacings=[6.0] * (frames - 1),
        eaves_haunch=haunch,
        front=Gable(kind="posts"),
        back=Gable(kind="posts"),
    )
    hall.sections.gable_posts = "HEA 200"
    document = Document(hall=hall)
    document.wind.inside = Inside(kind="own", values=[0.2])
    return document


def response_line(name: str, document: Document, strength: int, service: int, repeats: int) -> str:
    """Time of structure to response in second order, beside SuperLU's factorisation and as many block solves as it made; and
    the share of its own solves, which are quicker."""
    structure = expand(document)
    loading = load(document, structure)
    every = combinations(document, loading)
    chosen = [c for c in every if c.use == "strength"][:strength] + [c for c in every if c.use == "deflection"][
        :service
    ]
    found = combine_results(assemble(structure, loading), chosen, "second")
    assert found.states is not None
    system, active = found.response.system, found.response.system.active
    K, right = csc_array(system.K[active][:, active]), np.ones((len(active), int(found.second.sum())))
    library = sparse_lu(K)
    own = Factors(library)
    # in turns, so that a processor that is slow for a while is slow for both
    times = [
        (
            best(lambda: combine_results(assemble(structure, loading), chosen, "second"), 1),
            best(lambda: sparse_lu(K), 1),
            best(lambda: library.solve(right), 2),
            best(lambda: own.solve(right), 2),
        )
        for _ in range(repeats)
    ]
    seconds, once, each, quick = (min(column) for column in zip(*times, strict=True))
    solves = found.states.solves
    floor = once + solves * each
    return (
        f"{name}: {len(active)} freedoms, {len(chosen)} combinations, {right.shape[1]} in second order, "
        f"{solves} block solves: {seconds * 1e3:.0f} ms, {seconds / floor:.1f} × floor ({floor * 1e3:.0f} ms); "
        f"a block solve takes {quick * 1e3:.1f} ms, SuperLU's own {each * 1e3:.1f} ms"
    )


def bench(repeats: int = 3) -> str:
    """A table of seconds and ratios for every model and stage."""
    settle()
    document = large_hall()
    members = len(expand(document).members)
    seconds = best(lambda: audit(expand(document)), 2 * repeats)
    lines = [f"hall of {members} members: an edit is set out and audited in {seconds * 1e3:.0f} ms"]
    lines.append(response_line("response, hall A (10 frames)", portal_hall(10, 1), 60, 30, 4 * repeats))
    lines.append(response_line("response, hall B (60 frames of two bays)", portal_hall(60, 2), 120, 30, 2))
    for name, document in reference_models().items():
        chains = [run(document) for _ in range(repeats)]
        floor = floor_seconds(chains[0])
        freedoms = int((~chains[0].structure.fixed).sum())
        lines.append(
            f"{name}: {freedoms} freedoms, {len(chains[0].loading.cases)} cases, "
            f"{len(chains[0].combinations)} combinations; floor (factorise + solve) {floor * 1e3:.1f} ms"
        )
        total = 0.0
        for stage in STAGES:
            seconds = min(chain.seconds[stage] for chain in chains)
            total += seconds
            lines.append(f"  {stage:<13}{seconds * 1e3:>9.1f} ms {seconds / floor:>8.1f} × floor")
        lines.append(f"  {'whole chain':<13}{total * 1e3:>9.1f} ms {total / floor:>8.1f} × floor")
    return "\n".join(lines)
