"""A chain and its plan to a dossier: chapters in their order, each at its level."""

from __future__ import annotations

from collections.abc import Callable
from typing import get_args

from engine.chain import ENGINE_VERSION, Chain
from engine.document.handover import Chapter, ChapterPlan, DossierPlan, PlacedPicture, SectionNote
from engine.document.naming import free_name
from engine.dossier.actions import actions, combining
from engine.dossier.basis import basis, cover, open_matters
from engine.dossier.behaviour import analysis, response
from engine.dossier.building import building, quantities
from engine.dossier.joints import joints
from engine.dossier.meeting import joint_anchor, ranked_joints
from engine.dossier.sized import ToldSizing, sizing
from engine.dossier.studied import ToldStudy, studied
from engine.dossier.tables import placed_table
from engine.dossier.values import Block, Dossier, Heading, Paragraph, Pictured, Standing, Told
from engine.dossier.verified import restraints, verification
from engine.dossier.views import placed
from engine.progress import Progress, quiet

TITLES: dict[Chapter, str] = {
    "basis": "Basis of design",
    "building": "The building",
    "actions": "Actions",
    "combinations": "Combinations",
    "analysis": "Analysis",
    "response": "Response",
    "verification": "Verification",
    "restraints": "Lengths and restraints",
    "joints": "Joints",
    "quantities": "Material",
    "sizing": "Sizing",
    "open": "Open and not covered",
}
#: what cannot be left out: nobody is to read a dossier without what it does not speak for
FIXED: tuple[Chapter, ...] = ("open",)
_TELLERS: dict[Chapter, Callable[[Chain, Told], None]] = {
    "basis": basis,
    "building": building,
    "actions": actions,
    "combinations": combining,
    "analysis": analysis,
    "response": response,
    "restraints": restraints,
    "joints": joints,
    "quantities": quantities,
    "open": open_matters,
}


def counted(members: int) -> str:
    """A number of members in words."""
    return f"{members} member{'s' * (members != 1)}"


def ordered(plan: DossierPlan) -> list[tuple[float, Chapter, ChapterPlan]]:
    """All chapters with their places and plans, in the order in which they stand."""
    found = []
    for number, key in enumerate(get_args(Chapter), 1):
        own = plan.chapters.get(key, ChapterPlan())
        if key in FIXED and own.left_out:
            own = own.model_copy(update={"left_out": False})
        found.append((own.place if own.place is not None else float(number), number, key, own))
    return [(place, key, own) for place, _, key, own in sorted(found, key=lambda row: row[:2])]


def compose(
    chain: Chain,
    plan: DossierPlan,
    title: str = "",
    revision: str = "",
    made: str = "",
    progress: Progress = quiet,
    sized: ToldSizing | None = None,
    study: ToldStudy | None = None,
) -> Dossier:
    """The dossier of a chain as planned. title: of the document by default; revision, made: in words, said on every page; sized, study: how its
    sections were found, and what other set-outs there were: a chapter of its own where there is any.
    `progress` is told of each chapter; it may raise to stop the work."""
    rows = ordered(plan)
    chapters, left_out = [], []
    for number, (_, key, own) in enumerate(rows):
        if own.left_out:
            left_out.append(TITLES[key])
            continue
        if key == "sizing" and sized is None and study is None:
            continue
        progress(TITLES[key], number, len(rows))
        told = Told(key, TITLES[key], own.level)
        told.add(*_own(own.remark, own.pictures))
        told.add(*(placed(chain, view) for view in own.views))
        told.add(*(block for table in own.tables for block in placed_table(chain, table)))
        if key == "verification":
            verification(chain, told, plan, lambda done, of: progress("Proofs", done, of))
        elif key == "sizing":
            if sized is not None:
                sizing(chain, told, sized)
            if study is not None:
                studied(told, study)
        else:
            _TELLERS[key](chain, told)
        chapters.append(told)
    _note(chapters, _placed_notes(chain, chapters, plan.notes))
    verdict, standing = _verdict(chain)
    return Dossier(
        title=title or chain.document.name,
        place=chain.document.site.place,
        revision=revision,
        made=made,
        paper=plan.paper,
        verdict=verdict,
        standing=standing,
        cover=cover(plan, chain, ENGINE_VERSION),
        chapters=tuple(chapters),
        left_out=tuple(left_out),
    )


def _own(remark: str, pictures: list[PlacedPicture]) -> list[Block]:
    """What the designer adds, as it stands below a heading."""
    words: list[Block] = [Paragraph(remark.strip(), "remark")] if remark.strip() else []
    return [*words, *(Pictured(p.name, p.caption.strip(), p.width) for p in pictures)]


def _placed_notes(chain: Chain, chapters: list[Told], notes: list[SectionNote]) -> list[SectionNote]:
    """Notes by the names that their sections have now: members and nodes are called otherwise once they are released, and a kind of joints bears
    the name of the first of them. What has no section now keeps its name."""
    anchors = {b.anchor for told in chapters for b in told.blocks if isinstance(b, Heading)}
    if all(note.name in anchors for note in notes):
        return notes
    known = {free_name(anchor): anchor for anchor in anchors}
    for _, alike in ranked_joints(chain.structure):
        for joint in alike:
            known.setdefault(free_name(joint_anchor(chain.structure, [joint])), joint_anchor(chain.structure, alike))
    return [
        note if note.name in anchors else note.model_copy(update={"name": known.get(free_name(note.name), note.name)})
        for note in notes
    ]


def _note(chapters: list[Told], notes: list[SectionNote]) -> None:
    """Put notes below the headings of their sections; those whose section is not told, at the end of what is open."""
    waiting: dict[str, list[SectionNote]] = {}
    for note in notes:
        if note.remark.strip() or note.pictures:
            waiting.setdefault(note.name, []).append(note)
    for told in chapters:
        with_notes: list[Block] = []
        for block in told.blocks:
            with_notes.append(block)
            for note in waiting.pop(block.anchor, ()) if isinstance(block, Heading) else ():
                with_notes += _own(note.remark, note.pictures)
        told.blocks[:] = with_notes
    if not waiting:
        return
    last = next(told for told in chapters if told.key in FIXED)
    last.add(
        Heading("Remarks whose section is not told here", "open.notes"),
        Paragraph("Their section is gone, left out, or told at a fuller level alone.", "missing"),
    )
    for note in (note for notes in waiting.values() for note in notes):
        last.add(*_own(f"{note.title or note.name}: {note.remark.strip() or 'pictures'}", note.pictures))


def _verdict(chain: Chain) -> tuple[str, Standing]:
    """What the cover says of the building: what fails first, then what is not verified, then what a verdict leaves out."""
    whole = chain.verification.whole
    if whole.failing:
        return f"{counted(whole.failing)} fail{'s' * (whole.failing == 1)}", "fails"
    if whole.not_covered:
        return f"{counted(whole.not_covered)} {'is' if whole.not_covered == 1 else 'are'} not verified", "open"
    if not whole.passes:
        return "nothing is verified", "open"
    if whole.left_out:
        return "every member passes; what is left out is told under what is open", "open"
    return "every member passes", "passes"
