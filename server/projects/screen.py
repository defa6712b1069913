"""What the workbench shows of a revision: of its computed chain, of one that broke, of one that is not computed yet."""

from __future__ import annotations

from engine.chain import Chain, fingerprints
from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.load import combinations, load
from engine.structure.model import Structure
from server.projects import schemas
from server.projects.models import Run
from server.projects.workbench import bare_chain, chain_out


def screen(document: Document, found: Chain | ModelError) -> bytes:
    """A chain as JSON, all but the number of its revision; when it could not be computed, the reason and what is known
    without it."""
    if isinstance(found, Chain):
        shown = chain_out(found, 0)
    else:
        stage, structure = _broken_stage(document)
        shown = schemas.ChainOut(
            revision=0,
            problem=schemas.Problem(message=found.message, place=found.place),
            broken_stage=stage,
            fingerprints=fingerprints(document),
            status="broken",
            **bare_chain(document, structure),
        )
    return shown.model_dump_json(exclude={"revision"}).encode()


def _broken_stage(document: Document) -> tuple[str, Structure | None]:
    try:
        structure = expand(document)
    except ModelError:
        return "structure", None
    try:
        loading = load(document, structure)
    except ModelError:
        return "loading", structure
    try:
        # thousands of them are left to the run
        combinations(document, loading)
    except ModelError:
        return "combinations", structure
    return "response", structure


def bare_out(document: Document, revision: int) -> schemas.ChainOut:
    """What stands, with the fingerprint of that stage alone."""
    known = {"structure": fingerprints(document)["structure"]}
    return schemas.ChainOut(
        revision=revision, fingerprints=known, status="bare", **bare_chain(document, expand(document))
    )


def running_out(run: Run | None, revision: int) -> schemas.RunningOut:
    """How the run of a revision stands; none: its project is paused, or it is done."""
    if run is None:
        return schemas.RunningOut(revision=revision, state="paused")
    return schemas.RunningOut(
        revision=revision,
        state=run.state,
        stage=run.stage,
        done=run.done,
        of=run.of,
        attempts=run.attempts,
        message=run.message,
    )
