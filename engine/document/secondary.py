"""Tables of what purlins and rails bear, by span, as their maker or the office states them."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from engine.document.base import Name, Part

Resistance = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]


class SpanRow(Part):
    """What a profile bears over a span, in kN/m at right angles to the sheeting, design values. spans: in line, 1, 2, or 3 for three and
    more; down: pressed onto the supports, up: lifted off them; service: characteristic load that its limit of deflection allows, 0: not
    stated."""

    span: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)]
    spans: Annotated[int, Field(ge=1, le=3)] = 1
    down: Resistance
    up: Resistance
    service: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0


class LoadTable(Part):
    """A profile with what it bears. source: where its values come from; held: how it must be held for them, in words; stiffness: E I in kNm²
    against bending at right angles to the sheeting, and moment: the design value in kNm that it bears at a stay, 0: not stated."""

    name: Name
    source: Annotated[str, Field(max_length=200)] = ""
    held: Annotated[str, Field(max_length=200)] = ""
    stiffness: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    moment: Annotated[float, Field(ge=0, le=1e4, allow_inf_nan=False)] = 0.0
    rows: Annotated[list[SpanRow], Field(min_length=1, max_length=200)]
