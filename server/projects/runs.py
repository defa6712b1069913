"""Runs that compute chains: asked for by edits and by whoever looks, waited for, and where they are when they have ended."""

from __future__ import annotations

import time
from collections.abc import Callable

from django.conf import settings
from django.db import transaction

from engine.chain import Chain, Loaded, run
from engine.document import Document, read_stored
from engine.errors import ModelError
from server.projects import builds, cards, news, queue, results
from server.projects.models import Project, Revision, Run
from server.projects.screen import screen

#: seconds between two looks at a run that is waited for
LOOK = 0.02


class Pending(Exception):
    """The numbers are not there yet; `run` makes them, or (None) it has just shown them and still stores them."""

    def __init__(self, run: Run | None) -> None:
        super().__init__("still being computed")
        self.run = run


class Overtaken(Exception):
    """An edit came before the numbers of what stood before it: who waited for them looks at what stands now."""


def ask(
    project: Project, revision: Revision, document: Document, force: bool = False, loaded: Loaded | None = None
) -> Run | None:
    """See to it that a revision's result is computed: the run that does, or the last one where it is not computed again
    (cancelled, failed); None where the result is there, or the project is paused. force: also when paused or cancelled.
    loaded: what was prepared of the document, which the worker need not do again."""
    key = results.key_of(document)
    if results.is_stored(key):
        if revision.pk == project.head_id and project.card.get("revision") != revision.number:
            cards.show(project.pk, revision.pk, results.card_of(key))
        return None
    found = project.runs.filter(key=key).defer("loaded").first()
    if found is not None and found.state in Run.ACTIVE:
        return queue.revived(found)
    if found is not None and found.state in (Run.State.CANCELLED, Run.State.FAILED) and not force:
        return found
    if project.paused and not force:
        return None
    with transaction.atomic():
        made, new = Run.objects.get_or_create(
            project=project,
            key=key,
            state__in=Run.ACTIVE,
            defaults={
                "revision": revision,
                "head": revision.pk == project.head_id,
                "state": Run.State.WAITING,
                "build": builds.own(),
                "loaded": results.sealed(loaded) if loaded and settings.WORKERS else None,
            },
        )
        if new and settings.WORKERS:
            queue.send(made, _weight(loaded))
    if not settings.WORKERS:
        queue.perform(made.pk, compute)
        made.refresh_from_db(fields=queue.SHOWN)
    return made


def _weight(loaded: Loaded | None) -> float:
    return len(loaded.structure.members) * loaded.count() if loaded else 0.0


def supersede(project: Project) -> None:
    """End the runs of what stood before."""
    before = Run.objects.filter(project=project, head=True, kind=Run.Kind.CHAIN).exclude(revision=project.head)
    queue.finish(before, Run.State.SUPERSEDED)


def cancel(project: Project) -> None:
    """Stop what is being computed for a project."""
    queue.cancel(project, Run.Kind.CHAIN)


def chain_now(project: Project, revision: Revision) -> Chain:
    """The chain of a revision that is there. Raises Pending when it is not there yet, having seen to it that it comes; ModelError for
    one that cannot be computed."""
    document = read_stored(revision.content)
    key = results.key_of(document)
    found = results.chain_by(key)
    if found is None:
        state = ask(project, revision, document, force=_may_ask(project, key))
        # it may have been computed here, or stored meanwhile
        found = results.chain_by(key)
    if isinstance(found, ModelError):
        raise found
    if found is not None:
        return found
    if state is None and results.is_stored(key):
        last = Run.objects.filter(key=key, state=Run.State.DONE).defer("loaded").first()
        if last is None or not queue.held(last.pk):
            # its worker died between showing and storing; or it has just been stored
            results.drop(key)
        raise Pending(last)
    if state is not None and state.state == Run.State.FAILED:
        raise ModelError(state.message, "")
    raise Pending(state)


def _may_ask(project: Project, key: str) -> bool:
    """Whether it takes a request to have it computed; what failed is not tried again by looking."""
    last = project.runs.filter(key=key).values_list("state", flat=True).first()
    return last != Run.State.FAILED


def too_long(revision: Revision) -> ModelError:
    """What is said when the numbers are waited for too long."""
    return ModelError(f"The numbers of revision {revision.number} are still being computed.", "")


def stopped(revision: Revision) -> ModelError:
    """What is said when they will not come."""
    return ModelError(f"The computation of revision {revision.number} was stopped.", "")


def chain_of(project: Project, revision: Revision, patience: float = 60.0) -> Chain:
    """The chain of a revision, computed if it is not there; waits in this thread. Raises ModelError for one that cannot be computed,
    or is not yet."""
    end = time.monotonic() + patience
    while True:
        try:
            return chain_now(project, revision)
        except Pending as pending:
            state = pending.run
        if time.monotonic() > end:
            raise too_long(revision)
        time.sleep(LOOK)
        while state is not None and state.state in Run.ACTIVE and time.monotonic() < end:
            time.sleep(LOOK)
            state.refresh_from_db(fields=["state"])
        if state is not None and state.state == Run.State.CANCELLED:
            raise stopped(revision)


def compute(found: Run) -> None:
    """Compute the chain of a run and store what it gives."""
    document = read_stored(found.revision.content)
    tell = queue.teller(found.pk)
    loaded = results.opened(bytes(found.loaded)) if found.loaded else None
    chain = _computed(document, tell, loaded)
    text, card = screen(document, chain), cards.card_of(document, chain)
    seconds = chain.seconds if isinstance(chain, Chain) else {}
    tell("storing", 0, 0)
    queue.persistently(lambda: results.show(document, chain, text, card))
    queue.persistently(lambda: cards.show(found.project_id, found.revision_id, card))
    queue.persistently(lambda: queue.end(found.pk, Run.State.DONE, seconds=seconds))
    # diagrams are asked for after the page has shown the verdicts: it need not wait for this
    queue.persistently(lambda: results.store(document, chain))
    news.tell(found.pk)


def _computed(document: Document, tell: Callable[[str, int, int], None], loaded: Loaded | None) -> Chain | ModelError:
    try:
        return run(document, tell, results.forces_like(document), loaded)
    except ModelError as error:
        return error
