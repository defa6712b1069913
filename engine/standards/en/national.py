"""The list of what the Eurocodes leave to nations: where each value stands in a document, and what is recommended."""

from __future__ import annotations

from typing import Any, get_args

from pydantic.fields import FieldInfo

from engine.document import Document
from engine.document.base import Part
from engine.document.national import National
from engine.document.national_values import NationalValue

#: headings by group of `National`
GROUPS = {
    "basis": "Safety and combinations · EN 1990",
    "imposed": "Imposed loads · EN 1991-1-1",
    "snow": "Snow · EN 1991-1-3",
    "wind": "Wind · EN 1991-1-4",
    "imperfections": "Imperfections · EN 1993-1-1",
    "steel": "Steel · EN 1993-1-1",
}
#: values that have their place elsewhere in the document: path, group, symbol, words, clause
ELSEWHERE = (
    ("rules.strength_rule", "basis", "expressions", "of strength", "EN 1990 6.4.3.2(3)"),
    ("rules.gamma_G_unfavourable", "basis", "γ_G,sup", "permanent, unfavourable", "EN 1990 table A1.2(B)"),
    ("rules.gamma_G_favourable", "basis", "γ_G,inf", "permanent, favourable", "EN 1990 table A1.2(B)"),
    ("rules.xi", "basis", "ξ", "on permanent actions in (6.10b)", "EN 1990 table A1.2(B)"),
    ("rules.gamma_Q", "basis", "γ_Q", "variable actions", "EN 1990 table A1.2(B)"),
    ("rules.gamma_G_equ_unfavourable", "basis", "γ_G,sup EQU", "permanent, overturning", "EN 1990 table A1.2(A)"),
    ("rules.gamma_G_equ_favourable", "basis", "γ_G,inf EQU", "permanent, holding down", "EN 1990 table A1.2(A)"),
    ("snow.exposure", "snow", "C_e", "exposure", "5.2(7), table 5.1"),
    ("snow.thermal", "snow", "C_t", "heat through the roof", "5.2(8)"),
    ("wind.season", "wind", "c_season", "season", "4.2(2)P note 3"),
    ("wind.air_density", "wind", "ρ", "of air, kg/m³", "4.5(1) note 2"),
    ("wind.structural", "wind", "c_s c_d", "of the structure", "6.1, 6.2"),
    ("wind.correlation", "wind", "correlation", "use the lack of it", "7.2.2(3)"),
    ("analysis.second_order_below", "imperfections", "α_cr", "second order below it", "EN 1993-1-1 5.2.1(3)"),
    ("rules.gamma_M0", "steel", "γ_M0", "resistance of sections", "EN 1993-1-1 6.1(1)"),
    ("rules.gamma_M1", "steel", "γ_M1", "resistance of members to instability", "EN 1993-1-1 6.1(1)"),
    ("rules.gamma_M2", "steel", "γ_M2", "resistance of net sections in tension", "EN 1993-1-1 6.1(1)"),
)


def national_values() -> list[NationalValue]:
    """All of them, by group."""
    found = []
    for group in GROUPS:
        for path, where, symbol, words, clause in ELSEWHERE:
            if where == group:
                found.append(_value(path, group, symbol, words, clause))
        for name, field in _model(National.model_fields[group]).model_fields.items():
            words, _, clause = (field.description or "").partition(" · ")
            found.append(_value(f"national.{group}.{name}", group, field.title or name, words, clause))
    return found


def _value(path: str, group: str, symbol: str, words: str, clause: str) -> NationalValue:
    field = _field(path)
    options = get_args(field.annotation)
    choices = list(options) if options and all(isinstance(word, str) for word in options) else []
    return NationalValue(
        path=path,
        group=group,
        heading=GROUPS[group],
        symbol=symbol,
        words=words,
        clause=clause,
        recommended=field.default,
        choices=choices,
    )


def _field(path: str) -> FieldInfo:
    model: Any = Document
    *parts, last = path.split(".")
    for part in parts:
        model = _model(model.model_fields[part])
    return model.model_fields[last]  # type: ignore[no-any-return]


def _model(field: FieldInfo) -> type[Part]:
    return field.annotation  # type: ignore[return-value]
