"""What is asked of a computed chain, by name: found in the web process where that is quick, by a worker where it is not."""

from __future__ import annotations

import hashlib
import json
from base64 import b64encode
from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import transaction
from pydantic import TypeAdapter

from engine.chain import Chain
from engine.document import read_stored
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.every_end import end_forces
from engine.dossier.values import Dossier
from engine.editing.operations import Operation
from engine.errors import ModelError
from engine.progress import quiet
from engine.result import result
from publish.dxf.axes import axes
from publish.ifc.out import ifc
from publish.tables.model import model_workbook
from publish.tables.separated import separated
from publish.webpage import webpage
from publish.word.document import word
from server.projects import (
    comparison,
    derivations,
    envelopes,
    one_member,
    pictures,
    queue,
    response,
    results,
    runs,
    single,
    sizings,
    slabs,
    studies,
    surfaces,
    surroundings,
    verdict_schemas,
    workbench,
)
from server.projects.models import Project, Result, Revision, Run

#: bytes of a stored chain above which a worker looks at it: some 200 MB in memory
LARGE = 25_000_000
Look = Callable[..., Any]
OPERATIONS: TypeAdapter[list[Operation]] = TypeAdapter(list[Operation])


def _known(
    chain: Chain, state: str, look: Callable[[], Any], what: str = "case or combination", place: str = "state"
) -> Any:
    try:
        return look()
    except KeyError:
        raise ModelError(f"There is no {what} “{state}”.", place) from None


def _proof(chain: Chain, number: int, member: str, criterion: str, combination: str) -> verdict_schemas.ProofOut:
    return one_member.proof_out(single.proof_of(chain, member, criterion, combination), number, member)


def _otherwise(chain: Chain, number: int, asked: dict[str, Any]) -> single.OtherwiseOut:
    return single.otherwise_out(chain, number, single.OtherwiseIn.model_validate(asked))


def _tried(chain: Chain, number: int, member: str, operations: list[dict[str, Any]]) -> single.TriedOut:
    return single.tried_out(chain, number, member, OPERATIONS.validate_python(operations))


def _dossier(write: Callable[[Dossier, dict[str, bytes]], bytes]) -> Look:
    """The dossier as planned, written as a file, which is told as text."""

    def look(
        chain: Chain,
        number: int,
        plan: dict[str, Any],
        name: str,
        made: str,
        project: str,
        sized: int | None,
        studied: list[int],
    ) -> str:
        own, of = DossierPlan.model_validate(plan), Project.objects.get(pk=UUID(project))
        searches = sizings.for_dossier(of, sized), studies.for_dossier(of, chain.document, studied)
        dossier = compose(chain, own, name, f"Revision {number}", made, quiet, *searches)
        return b64encode(write(dossier, pictures.of(of, own))).decode()

    return look


#: name → what it finds in a chain and the number of its revision, with arguments of its own
LOOKS: dict[str, Look] = {
    "result": lambda c, n: result(c) | {"revision": n},
    "ifc": lambda c, n, name, project, results=False: ifc(
        c, name, UUID(project), f"revision {n}", c if results else None
    ).decode(),
    "axes": lambda c, n: axes(c.structure).decode(),
    "tables": lambda c, n: b64encode(model_workbook(c)).decode(),
    "joints": lambda c, n: separated(end_forces(c)),
    "webpage": _dossier(webpage),
    "word": _dossier(word),
    "beside": lambda c, n, project, before: comparison.beside(c, n, project, before),
    "marks": lambda c, n: workbench.marks_out(c),
    "diagrams": lambda c, n, plane, state, alone: _known(
        c, state, lambda: response.diagram_out(c, n, plane, state, alone)
    ),
    "modes": lambda c, n, combination: _known(
        c, combination, lambda: response.modes_out(c, combination), "combination", "combination"
    ),
    "states": lambda c, n: response.states_out(c),
    "extremes": lambda c, n: envelopes.extremes_out(c),
    "sways": lambda c, n: envelopes.sways_out(c),
    "decks": lambda c, n: envelopes.decks_out(c),
    "slab": lambda c, n, name, state: _known(
        c, f"{name} in {state}", lambda: slabs.slab_out(c, n, name, state), "slab in a state", "name"
    ),
    "slabs": lambda c, n: slabs.slabs_out(c),
    "lateral": lambda c, n, member, state: _known(
        c, state, lambda: response.lateral_out(c, state, single.index_of(c, member))
    ),
    "ribbon": lambda c, n, member: one_member.ribbon_out(c, single.index_of(c, member)),
    "site": lambda c, n: surroundings.site_out(c, n),
    "panel": lambda c, n, name: surfaces.panel_out(c, name),
    "loads": lambda c, n, member, case: surfaces.traced(c, member, case),
    "proof": _proof,
    "derivations": lambda c, n, **asked: derivations.derived(c, derivations.Asked(**asked)),
    "secondary_sections": lambda c, n, role: workbench.secondary_sections_out(c, role),
    "why": lambda c, n, member: single.why_out(c, n, member),
    "tried": _tried,
    "otherwise": _otherwise,
    "lengths": lambda c, n, member: single.lengths_out(c, n, member),
}
#: those that take long: eigenproblems, a file of every load
LONG = ("modes", "ifc", "tables", "joints", "webpage", "word", "beside")
#: those that make a file: of the revision that was asked for, whatever edit comes meanwhile
FILES = ("result", "ifc", "axes", "tables", "joints", "webpage", "word")


def by_worker(name: str, document_key: str) -> bool:
    """Whether a worker looks, not the web process."""
    if not settings.WORKERS:
        return False
    size = Result.objects.filter(key=document_key).values_list("size", flat=True).first() or 0
    return name in LONG or size > LARGE


def ask(project: Project, revision: Revision, name: str, arguments: dict[str, Any]) -> Run:
    """Have a worker look; what it found before is found again while it is remembered."""
    document_key = results.key_of(read_stored(revision.content))
    text = json.dumps([document_key, name, arguments], sort_keys=True)
    key = hashlib.sha256(text.encode()).hexdigest()
    # what failed is remembered too: looking again does not try it again
    found = project.runs.filter(key=key).exclude(state__in=(Run.State.CANCELLED, Run.State.SUPERSEDED)).first()
    if found is not None:
        return queue.revived(found)
    with transaction.atomic():
        answer = {"name": name, "arguments": arguments}
        made, new = queue.begun(project, revision, Run.Kind.LOOK, key, answer=answer)
        if new:
            queue.send(made)
    return made


def compute(found: Run) -> None:
    """Look, and note what was found."""
    name, arguments = found.answer["name"], found.answer["arguments"]
    try:
        chain = runs.chain_of(found.project, found.revision, patience=5.0)
        seen = LOOKS[name](chain, found.revision.number, **arguments)
        answer: dict[str, Any] = {"found": TypeAdapter(Any).dump_python(seen, mode="json")}
    except ModelError as error:
        answer = {"problem": {"message": error.message, "place": error.place}}
    queue.persistently(lambda: queue.end(found.pk, Run.State.DONE, answer=answer))


def outcome(run: Run) -> Any:
    """What a worker found. Raises ModelError for what it could not."""
    if run.state == Run.State.FAILED:
        raise ModelError(run.message, "")
    problem = run.answer.get("problem")
    if problem:
        raise ModelError(problem["message"], problem["place"])
    return run.answer["found"]
