"""How loads and factors of combinations came about, for the screen."""

from __future__ import annotations

from pydantic import BaseModel

from engine.chain import Chain
from engine.derivation import Derivation
from engine.errors import ModelError
from engine.standards.family import family


class StepOut(BaseModel):
    """One line: symbol, formula and the formula with numbers in LaTeX; value with its unit."""

    symbol: str
    formula: str
    numbers: str
    value: str
    clause: str
    words: str


class DerivationOut(BaseModel):
    """How one number came about, in its last line; leads: false where each line is a number of its own."""

    title: str
    clause: str
    steps: list[StepOut]
    assumptions: list[str]
    leads: bool


def derivation_out(found: Derivation) -> DerivationOut:
    """A derivation for the screen."""
    return DerivationOut(
        title=found.title,
        clause=found.clause,
        steps=[StepOut(**vars(step)) for step in found.steps],
        assumptions=list(found.assumptions),
        leads=found.leads,
    )


def of_wind(chain: Chain, direction: str) -> list[Derivation]:
    """The peak pressures of the wind from a direction, the highest first. Raises ModelError where none blows."""
    winds = family(chain.document).winds(chain.document, chain.structure)
    found = next((w for w in winds if w.direction == direction), None)
    if found is None:
        raise ModelError(f"There is no wind from “{direction}” here.", "direction")
    own = [p.reason for _, p in sorted(found.pressures.items(), reverse=True)]
    return [family(chain.document).load_derivation(reason) for reason in own]


def of_zone(chain: Chain, panel: str, direction: str, letter: str) -> list[Derivation]:
    """The wind on a zone of a panel. Raises ModelError for one that is not there."""
    standard = family(chain.document)
    for wind in standard.winds(chain.document, chain.structure):
        for zone in wind.zones:
            if (wind.direction, zone.panel.name, zone.letter) == (direction, panel, letter):
                return standard.zone_derivations(wind, zone)
    raise ModelError(f"There is no zone {letter} of wind from “{direction}” on “{panel}”.", "zone")


def of_pressure(chain: Chain, panel: str, number: int) -> list[Derivation]:
    """A pressure on a panel by its number among those that act there; none of one that is stated. Raises ModelError for one that is
    not there."""
    own = [load for load in chain.loading.surfaces if load.panel == panel]
    if not 0 <= number < len(own):
        raise ModelError(f"There is no pressure {number} on “{panel}”.", "number")
    reason = own[number].reason
    return [family(chain.document).load_derivation(reason)] if reason else []


def of_case(chain: Chain, symbol: str) -> list[Derivation]:
    """The pressures of a case, alike ones once. Raises ModelError for one that is not there."""
    number = next((i for i, c in enumerate(chain.loading.cases) if c.symbol == symbol), None)
    if number is None:
        raise ModelError(f"There is no case “{symbol}”.", "case")
    return family(chain.document).case_derivations(chain.loading, number)


def of_combination(chain: Chain, name: str) -> list[Derivation]:
    """The factors of a combination. Raises ModelError for one that is not there."""
    found = next((c for c in chain.combinations if c.name == name), None)
    if found is None:
        raise ModelError(f"There is no combination “{name}”.", "combination")
    return [family(chain.document).factor_derivation(chain.document, chain.loading, found)]


def of_secondary(chain: Chain, role: str) -> list[Derivation]:
    """What purlins or rails of a role bear, each way; none of what a table states. Raises ModelError where there are none."""
    found = next((s for s in chain.verification.secondary if s.role == role), None)
    if found is None:
        raise ModelError(f"There are no members beside the model of the role “{role}”.", "secondary")
    return [how.derivation for how in found.how]


class Asked(BaseModel):
    """What is to be derived: what purlins or rails of a role bear; a combination; a case; a zone of wind on a panel, or the pressure of that
    number on it; the wind from a direction."""

    direction: str = ""
    panel: str = ""
    zone: str = ""
    number: int = 0
    case: str = ""
    combination: str = ""
    secondary: str = ""


def derived(chain: Chain, asked: Asked) -> list[DerivationOut]:
    """What is asked for. Raises ModelError for what is not there."""
    if asked.secondary:
        found = of_secondary(chain, asked.secondary)
    elif asked.combination:
        found = of_combination(chain, asked.combination)
    elif asked.case:
        found = of_case(chain, asked.case)
    elif asked.panel and asked.zone:
        found = of_zone(chain, asked.panel, asked.direction, asked.zone)
    elif asked.panel:
        found = of_pressure(chain, asked.panel, asked.number)
    else:
        found = of_wind(chain, asked.direction)
    return [derivation_out(one) for one in found]
