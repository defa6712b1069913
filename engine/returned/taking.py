"""Differences taken, as operations by hand; and what they do to the verdict on the building, solved."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from engine.chain import run
from engine.document import Document
from engine.document.base import Haunch
from engine.document.byhand import Offset, Releases, SectionInput
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, Draw, MemberChange, Move, Operation, Rejoin, RemoveMembers, Resize
from engine.errors import ModelError
from engine.progress import Progress, quiet
from engine.report.standing import Effect, effect_of
from engine.returned.model import Difference, ReturnedModel


def operations(taken: Sequence[Difference]) -> list[Operation]:
    """What takes some differences; those that change alike are done at once, so that a jig changes as a whole."""
    found: list[Operation] = []
    sections: dict[str, list[str]] = defaultdict(list)
    grades: dict[str, list[str]] = defaultdict(list)
    steps: dict[tuple[float, float, float], list[str]] = defaultdict(list)
    for d in taken:
        if d.kind == "section":
            sections[str(d.value)].extend(d.members)
        elif d.kind == "grade":
            grades[str(d.value)].extend(d.members)
        elif d.kind == "moved":
            steps[d.step].append(d.node)
        elif d.kind == "turned":
            found.append(ChangeMembers(members=list(d.members), change=MemberChange(roll=float(d.value))))
    found += [Resize(members=names, section=section) for section, names in sections.items()]
    found += [ChangeMembers(members=names, change=MemberChange(material=grade)) for grade, names in grades.items()]
    found += [Move(nodes=nodes, step=step) for step, nodes in steps.items()]
    for d in taken:
        if d.offset is not None:
            # what it is aligned by is part of its offset as it stands
            offset = MemberChange(offset=Offset(y=d.offset[0], z=d.offset[1]), align="centre")
            found.append(ChangeMembers(members=list(d.members), change=offset))
    found += [Rejoin(member=d.members[0], start=d.start, end=d.end) for d in taken if d.kind == "placed"]
    found += _haunched([d for d in taken if d.kind == "haunch"])
    removed = [name for d in taken if d.kind == "removed" for name in d.members]
    if removed:
        found.append(RemoveMembers(members=removed))
    return found + [_drawn(d) for d in taken if d.kind == "added"]


def _haunched(taken: Sequence[Difference]) -> list[Operation]:
    """Members with other haunches; what is taken at both ends of one goes together."""
    both: dict[str, list[Haunch | None]] = {}
    for d in taken:
        both.setdefault(d.members[0], list(d.haunches))[d.end_number] = d.haunches[d.end_number]
    found: list[Operation] = []
    for name, (start, end) in both.items():
        change = MemberChange(haunch_start=start, haunch_end=end)
        if start is None or end is None:
            change = change.model_copy(update={"prismatic": True})
        found.append(ChangeMembers(members=[name], change=change))
    return found


def own_sections(document: Document, taken: Sequence[Difference], model: ReturnedModel) -> list[SectionInput]:
    """Sections of the file that are taken with the differences and are not there yet."""
    wanted = {str(d.value) for d in taken if d.kind == "section"} | {d.added.section for d in taken if d.added}
    there = {s.name for s in document.sections}
    return [s for s in model.sections if s.name in wanted and s.name not in there]


def take(document: Document, taken: Sequence[Difference], model: ReturnedModel) -> Document:
    """The document with some differences taken. Raises ModelError naming what cannot be."""
    own = own_sections(document, taken, model)
    there = {s.name for s in document.built_sections}
    built = {d.built.name: d.built for d in taken if d.built and d.built.name not in there}
    if own or built:
        sections = {
            "sections": [*document.sections, *own],
            "built_sections": [*document.built_sections, *built.values()],
        }
        document = document.model_copy(update=sections)
    for operation in operations(taken):
        document = operate(document, operation)
    return document


def _drawn(d: Difference) -> Draw:
    """A member that was added: hinged at both ends, since nothing is known of its joints."""
    came = d.added
    assert came is not None and d.start is not None and d.end is not None
    hinged = Releases(start=["ry", "rz"], end=["ry", "rz"])
    return Draw(
        points=[d.start, d.end],
        section=came.section,
        material=came.material or "S355",
        role=came.role,  # type: ignore[arg-type]
        roll=came.roll,
        releases=hinged,
    )


def effect(document: Document, progress: Progress = quiet) -> Effect:
    """The verdict on a document, by the same chain as everything else."""
    try:
        chain = run(document, progress=progress)
    except ModelError as error:
        return Effect(problem=error.message)
    return effect_of(chain)
