"""Times of the chain's stages on fixed models, as ratios to the factorisation and solves they cannot avoid."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
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
from engine.sizing.candidates import candidates_of
from engine.sizing.foresight import foresee
from engine.sizing.groups import groups_of
from engine.sizing.size import size
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


def large_hall(frames: int = 70, bays: int = 2) -> Document:
    """A hall of some 5,000 members, purlins and rails among them."""
    rows = Purlins(modelled=True, spacing=1.0)
    spans = [RoofBay() for _ in range(bays)]
    return Document(hall=HallJig(bays=spans, spacings=[6.0] * (frames - 1), purlins=rows, rails=rows))


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


@dataclass(frozen=True)
class Timed:
    """Seconds of structure to response, of SuperLU's factorisation with as many block solves as it made, and of one block
    solve, by SuperLU and by `Factors`, which is quicker."""

    freedoms: int
    elements: int
    combinations: int
    second: int
    solves: int
    seconds: float
    floor: float
    library: float
    own: float


def timed_response(document: Document, strength: int, service: int, repeats: int) -> Timed:
    """Structure to response in second order, in turns with its floor, so that a processor that is slow for a while is slow
    for both."""
    structure = expand(document)
    loading = load(document, structure)
    every = combinations(document, loading)
    chosen = [c for c in every if c.use == "strength"][:strength]
    chosen += [c for c in every if c.use == "deflection"][:service]
    found = combine_results(assemble(structure, loading), chosen, "second")
    assert found.states is not None
    system, second, solves = found.response.system, int(found.second.sum()), found.states.solves
    K, right = system.Kff, np.ones((len(system.active), second))
    library = sparse_lu(K)
    own = Factors(library)
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
    return Timed(
        len(system.active),
        len(system.elements),
        len(chosen),
        second,
        solves,
        seconds,
        once + solves * each,
        each,
        quick,
    )


def response_line(name: str, document: Document, strength: int, service: int, repeats: int) -> str:
    """The time of a response beside its floor."""
    t = timed_response(document, strength, service, repeats)
    return (
        f"{name}: {t.freedoms} freedoms, {t.combinations} combinations, {t.second} in second order, "
        f"{t.solves} block solves: {t.seconds * 1e3:.0f} ms, {t.seconds / t.floor:.1f} × floor ({t.floor * 1e3:.0f} ms); "
        f"a block solve takes {t.own * 1e3:.1f} ms, SuperLU's own {t.library * 1e3:.1f} ms"
    )


def growth_lines() -> list[str]:
    """Time of the response as halls grow: of two bays, then with purlins and rails as members, the last of three bays."""
    halls = [portal_hall(frames, 2) for frames in (5, 16, 56, 114)] + [large_hall(86, 2), large_hall(119, 3)]
    lines = [f"growth: {'freedoms':>8} {'elements':>9} {'response':>9} {'floor':>9}  ratio"]
    for document in halls:
        t = timed_response(document, 12, 6, 1)
        lines.append(
            f"        {t.freedoms:>8} {t.elements:>9} {t.seconds:>7.2f} s {t.floor:>7.2f} s {t.seconds / t.floor:>6.1f}"
        )
    return lines


def sizing_line(words: str, document: Document) -> str:
    """What a whole sizing takes, beside one chain of the document; and what a foresight alone does."""
    once = best(lambda: run(document), 2)
    chain = run(document)
    groups = groups_of(document, chain.structure)
    candidates = [candidates_of(document, chain.structure, g) for g in groups]
    foreseen = best(lambda: foresee(chain, groups, candidates), 2)
    start = perf_counter()
    found = size(document)
    took = perf_counter() - start
    return (
        f"{words}: {len(groups)} groups, {sum(len(c.choices) for c in candidates)} candidates, {found.analyses[0]} analyses in full"
        f" and {found.analyses[1]} under what governs: {took:.2f} s, {took / once:.1f} × one chain ({once:.2f} s);"
        f" candidates foreseen in {foreseen:.2f} s; {found.before[0] / 1e3:.2f} → {found.after[0] / 1e3:.2f} t"
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
    lines += growth_lines()
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
    lines.append(sizing_line("sizing, a hall of 8 frames as it is begun", Document(hall=HallJig())))
    lines.append(sizing_line("sizing, drying hall", drying_hall()))
    return "\n".join(lines)
