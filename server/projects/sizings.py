"""Sizings by workers: the rounds are kept as they are found, for whoever looks, also after a reload or in another page."""

from __future__ import annotations

import hashlib
import math
from dataclasses import replace
from typing import Any

from django.conf import settings
from django.db import transaction

from engine.catalogue.properties import Section
from engine.document import Document, read_stored
from engine.dossier.sized import ToldCandidate, ToldGroup, ToldRound, ToldSizing
from engine.errors import ModelError
from engine.expand import expand, materials_of
from engine.jigs.haunches import deepest
from engine.sizing.candidates import Candidates
from engine.sizing.groups import Group, groups_of
from engine.sizing.haunches import haunches_of, offered
from engine.sizing.quantities import split_words
from engine.sizing.size import size
from engine.sizing.sized import Candidate, Round, Sized, Sizing
from engine.sizing.splits import may_split
from engine.structure.model import Structure
from engine.verification.outcomes import CRITERIA
from server.projects import queue, results
from server.projects import sizing_schemas as told
from server.projects.models import Project, Revision, Run
from server.projects.schemas import Problem


def proposed(revision: Revision) -> told.GroupsOut:
    """The groups of a revision with what each may have. What the plan of one group says wrongly is told, and the groups stay, so that it can
    be mended."""
    document = read_stored(revision.content)
    wrong: list[ModelError] = []
    found = []
    try:
        structure = expand(document)
        groups = groups_of(document, structure)
        for g in groups:
            try:
                may = offered(document, structure, g)
            except ModelError as error:
                wrong.append(error)
                g, may = replace(g, kept=error.message.rstrip(".")), []
            whole = [i for other in groups if other.of == g.of for i in other.members]
            found.append(_proposed(document, structure, g, may, whole))
        if not wrong:
            haunches_of(structure, groups)
    except ModelError as error:
        wrong.append(error)
    problem = Problem(message=wrong[0].message, place=wrong[0].place) if wrong else None
    return told.GroupsOut(revision=revision.number, groups=found, problem=problem)


def _proposed(
    document: Document, structure: Structure, g: Group, may: list[Candidates], whole: list[int]
) -> told.GroupOut:
    """A group with what it may have; whole: the members of the one that it was split from."""
    members = [structure.members[i] for i in g.members]
    deep, own = deepest(members), {one.name for one in document.sizing.own}
    every = sorted((mass, choice.section) for of in may for mass, choice in zip(of.mass, of.choices, strict=True))
    return told.GroupOut(
        name=g.name,
        of=g.of,
        splits=[] if g.name in own else _splits(structure, g.of, whole),
        haunch=(deep.length, deep.depth) if deep else None,
        members=[m.name for m in members],
        now=g.now,
        drawn=_profile(materials_of(document).section(g.now.section)),
        mixed=g.mixed,
        kept=g.kept,
        own=g.name in own,
        candidates=len(every),
        lightest=every[0][1] if every else g.now.section,
        heaviest=every[-1][1] if every else g.now.section,
        families=list(dict.fromkeys(s.family for of in may for s in of.sections)),
        mass=sum(structure.mass(m) for m in members),
    )


def _splits(structure: Structure, name: str, members: list[int]) -> list[told.SplitOut]:
    return [told.SplitOut(by=by, words=split_words(name, by)) for by in may_split(structure, members)]


def ask(project: Project, revision: Revision) -> Run:
    """Have a revision sized: the run that does, one that is under way if there is one. Raises ModelError where nothing may be chosen."""
    document = read_stored(revision.content)
    structure = expand(document)
    groups = groups_of(document, structure)
    choice = [of for g in groups for of in offered(document, structure, g)]
    if not any(len(c.choices) > 1 for c in choice) and not haunches_of(structure, groups):
        raise ModelError("There is nothing to choose: every group keeps what it has.", "sizing.groups")
    plan = document.sizing.model_dump_json()
    key = hashlib.sha256(f"sizing {results.key_of(document)} {plan}".encode()).hexdigest()
    with transaction.atomic():
        made, new = queue.begun(project, revision, Run.Kind.SIZING, key)
        if new:
            # the project's last sizing is the one that is looked at
            project.runs.filter(kind=Run.Kind.SIZING).exclude(pk=made.pk).exclude(state__in=Run.ACTIVE).delete()
            if settings.WORKERS:
                queue.send(made)
    if not settings.WORKERS:
        queue.perform(made.pk, compute)
        made.refresh_from_db(fields=queue.SHOWN)
    return queue.revived(made)


def last(project: Project) -> Run | None:
    """The project's last sizing."""
    found = project.runs.filter(kind=Run.Kind.SIZING).select_related("revision", "project__head").first()
    return queue.revived(found) if found else None


def out(run: Run | None) -> told.SizingState:
    """How a sizing stands."""
    if run is None:
        return told.SizingState(state="none")
    head = run.project.head
    stands = head is None or head.pk == run.revision_id or _alike(run.revision, head)
    return told.SizingState(
        state=run.state,
        revision=run.revision.number,
        stands=stands,
        attempts=run.attempts,
        message=run.message,
        **run.answer,
    )


def _alike(one: Revision, other: Revision) -> bool:
    """Whether two revisions differ in nothing that is computed."""
    try:
        return results.key_of(read_stored(one.content)) == results.key_of(read_stored(other.content))
    except ModelError:
        return False


def compute(found: Run) -> None:
    """Size the revision of a run, noting each round."""
    document = read_stored(found.revision.content)
    rounds: list[dict[str, object]] = []
    tell = queue.teller(found.pk)

    def progress(new: Round) -> None:
        worst = {name: _known(value) for name, value in new.worst.items()}
        shown = told.RoundOut(**{**vars(new), "worst": worst, "tonnage": new.tonnage / 1000})
        rounds.append(shown.model_dump())
        queue.note(found.pk, answer={"rounds": rounds})

    try:
        sized = size(document, progress, tell)
    except ModelError as error:
        problem = {"message": error.message, "place": error.place}
        queue.persistently(lambda: queue.end(found.pk, Run.State.FAILED, answer={"rounds": rounds, "problem": problem}))
        return
    answer = {"rounds": rounds, "sizing": ended(document, sized).model_dump()}
    queue.persistently(lambda: queue.end(found.pk, Run.State.DONE, answer=answer))


def ended(document: Document, sized: Sizing) -> told.SizingOut:
    """The end of a sizing, for the page."""
    return told.SizingOut(
        groups=[_group(document, g) for g in sized.groups],
        passes=sized.passes,
        obstacles=list(sized.obstacles),
        before=_totals(sized.before),
        after=_totals(sized.after),
        full=sized.analyses[0],
        few=sized.analyses[1],
    )


def _totals(values: tuple[float, float, float]) -> told.TotalsOut:
    return told.TotalsOut(tonnage=values[0] / 1000, cost=values[1], carbon=values[2] / 1000)


def _group(document: Document, g: Sized) -> told.SizedOut:
    values = vars(g) | {
        "members": list(g.members),
        "drawn": _profile(materials_of(document).section(g.after.section)),
        "criterion": CRITERIA[g.criterion] if g.criterion else "",
        "worst_before": _known(g.worst_before),
        "worst_after": _known(g.worst_after),
        "shelf": [_candidate(document, c) for c in g.shelf],
    }
    return told.SizedOut(**values)


def _profile(s: Section) -> told.ProfileOut:
    return told.ProfileOut(shape=s.shape, h=s.h * 1e3, b=s.b * 1e3, tw=s.tw * 1e3, tf=s.tf * 1e3)


def _candidate(document: Document, c: Candidate) -> told.CandidateOut:
    materials = materials_of(document)
    s = materials.section(c.choice.section)
    most = document.sizing.slenderness
    reached: dict[str, Any] = {name: _known(getattr(c, name)) for name in ("section", "stability", "service", "others")}
    return told.CandidateOut(
        choice=c.choice,
        **vars(_profile(s)),
        by_metre=s.A * materials.material(c.choice.grade).density,
        mass=c.mass,
        cost=c.cost,
        slender=c.slenderness / most if most and c.slenderness else None,
        open=math.isinf(c.section) or math.isinf(c.stability),
        solved=c.solved,
        fits=c.fits,
        **reached,
    )


def _known(value: float) -> float | None:
    return value if math.isfinite(value) and value < 1e6 else None


def ended_last(project: Project) -> int | None:
    """The number of the last sizing that has ended well; None without one."""
    ended = project.runs.filter(kind=Run.Kind.SIZING, state=Run.State.DONE)
    return ended.values_list("pk", flat=True).first()


def for_dossier(project: Project, number: int | None) -> ToldSizing | None:
    """A sizing of a project, by its number, as the dossier tells it."""
    run = project.runs.filter(pk=number).select_related("revision").first() if number else None
    if run is None or not run.answer.get("sizing"):
        return None
    found = told.SizingOut.model_validate(run.answer["sizing"])
    rounds = [told.RoundOut.model_validate(one) for one in run.answer.get("rounds", [])]
    return ToldSizing(
        revision=run.revision.number,
        objective=read_stored(run.revision.content).sizing.objective,
        passes=found.passes,
        obstacles=tuple(found.obstacles),
        totals=(
            (found.before.tonnage, found.before.cost, found.before.carbon),
            (found.after.tonnage, found.after.cost, found.after.carbon),
        ),
        rounds=tuple(_round(r) for r in rounds),
        groups=tuple(_told_group(g) for g in found.groups),
    )


def _round(r: told.RoundOut) -> ToldRound:
    known = [value for value in r.worst.values() if value is not None]
    worst = max(known, default=None) if len(known) == len(r.worst) else None
    return ToldRound(r.number, r.step, r.why, r.few, worst, r.passes, r.tonnage, r.cost)


def _told_group(g: told.SizedOut) -> ToldGroup:
    return ToldGroup(
        name=g.name,
        members=tuple(g.members),
        before=(g.before.words, g.before.grade),
        after=(g.after.words, g.after.grade),
        mass=(g.mass_before, g.mass_after),
        worst=(g.worst_before, g.worst_after),
        criterion=g.criterion,
        kept=g.kept,
        shelf=tuple(
            ToldCandidate(
                f"{c.choice.section} {c.choice.grade}",
                c.mass,
                None
                if c.open
                else max((u for u in (c.section, c.stability, c.service) if u is not None), default=None),
                c.fits,
            )
            for c in g.shelf
        ),
    )
