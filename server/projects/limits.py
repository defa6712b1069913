"""Limits of the roles that are there, and what crane rails keep, as the workbench shows them."""

from __future__ import annotations

from engine.chain import Chain
from engine.document import Document
from engine.document.rules import DEFLECTIONS
from engine.structure.model import Structure
from engine.structure.words import ROLE_WORDS
from engine.verification.rails import laid_out
from server.projects import structure_schemas, verdict_schemas


def crane_rails(document: Document, structure: Structure) -> list[structure_schemas.RailsOut]:
    """Where crane rails lie."""
    return [
        structure_schemas.RailsOut(
            name=rails.stated.name,
            lines=[[p.node for p in line] for line in rails.lines],
            pairs=[(a.node, b.node) for a, b in rails.pairs],
            across=rails.across,
            said=list(rails.said),
        )
        for rails in laid_out(document, structure)
    ]


def total(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """Of the roles that are there, without those that have fields of their own."""
    present = {m.role for m in chain.structure.members if m.behaviour == "beam"}
    stated: dict[str, float | None] = {str(role): ratio for role, ratio in chain.document.rules.deflections.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=ROLE_WORDS[role][1], stated=stated.get(role), usual=usual)
        for role, usual in DEFLECTIONS.items()
        if role in present
    ]


def variable(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """Under variable actions alone, of the roles that are there and deflect."""
    rules = chain.document.rules
    present = {m.role for m in chain.structure.members if m.behaviour == "beam" and rules.deflects(m.role)}
    stated: dict[str, float | None] = {str(role): ratio for role, ratio in rules.deflections_variable.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=words[1], stated=stated.get(role), usual=0.0)
        for role, words in ROLE_WORDS.items()
        if role in present
    ]


def frequency(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """Natural frequencies at least, of the roles that are there and bend between supports."""
    rules = chain.document.rules
    present = {
        m.role for m in chain.structure.members if m.behaviour == "beam" and m.role not in ("column", "gable post")
    }
    stated: dict[str, float | None] = {str(role): least for role, least in rules.frequencies.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=words[1], stated=stated.get(role), usual=0.0)
        for role, words in ROLE_WORDS.items()
        if role in present
    ]


def slenderness(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """L_cr/i at most of the roles that are there."""
    present = {m.role for m in chain.structure.members if m.behaviour != "rigid link"}
    stated: dict[str, float | None] = {str(role): most for role, most in chain.document.rules.slenderness.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=words[1], stated=stated.get(role), usual=0.0)
        for role, words in ROLE_WORDS.items()
        if role in present
    ]
