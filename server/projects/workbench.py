"""From a computed chain to what the workbench shows. Units of the screen: kN, kNm, m, mm."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import Any

import numpy as np

from engine.actions.cases import LineLoad
from engine.analysis.diagrams import deflections, diagrams
from engine.balance import balances
from engine.catalogue.sections import FAMILIES, catalogue
from engine.chain import Chain
from engine.document import Document
from engine.jigs.hall import hall_height, purlin_positions, slope_length, stay_positions
from engine.result import combination_of
from engine.sizing.size import ROLES, deflection_worst
from engine.standards.en import snow
from engine.standards.en.hall_actions import SIMPLIFICATIONS, hall_wind
from engine.structure.model import FREEDOMS, Floats, Member
from engine.verification.proof import Proof
from engine.verification.verify import CRITERIA, Verdict, section_values, stability_values
from server.projects import schemas

ROLE_WORDS = {
    "column": ("Column", "Columns"),
    "rafter": ("Rafter", "Rafters"),
    "eaves beam": ("Eaves beam", "Eaves beams"),
    "ridge beam": ("Ridge beam", "Ridge beam"),
    "roof bracing": ("Roof brace", "Roof bracing"),
    "wall bracing": ("Wall brace", "Wall bracing"),
    "member": ("Member", "Members"),
}


def label(member: Member) -> str:
    """A member's name as said on site: “Rafter 4-L”, “Wall brace 1-R up”."""
    if "/" not in member.name or member.role == "member":
        return member.name
    place, rest = member.name.split("/", 1)
    number = place.split("-")[-1]
    words = rest.split("-")
    side = "-L" if "left" in words else "-R" if "right" in words else ""
    extra = " ".join(w for w in words if w.isdigit() or w in ("up", "down"))
    return f"{ROLE_WORDS[member.role][0]} {number}{side} {extra}".strip()


def _kilo(values: Floats) -> tuple[float, float, float]:
    x, y, z = (values / 1000).tolist()
    return (x, y, z)


def member_out(chain: Chain, verdict: Verdict) -> schemas.MemberOut:
    """A member with its verdict."""
    structure = chain.structure
    m = structure.members[verdict.member]
    checks = []
    for o in sorted(verdict.outcomes, key=lambda o: -o.utilisation):
        combination = combination_of(chain, o.criterion, o.combination)
        words, clause = CRITERIA[o.criterion]
        checks.append(
            schemas.CheckOut(
                criterion=o.criterion,
                words=words,
                clause=clause,
                utilisation=o.utilisation,
                combination=combination.name,
                formula=combination.formula,
                position=o.position,
            )
        )
    governing = checks[0] if checks else None
    return schemas.MemberOut(
        name=m.name,
        label=label(m),
        role=m.role,
        frame=m.frame,
        line=list(m.nodes),
        section=m.section.name,
        size=(m.section.h or 0.1, m.section.b or 0.1),
        length=structure.length(m),
        mass=structure.mass(m),
        status=verdict.status,
        not_covered=list(verdict.not_covered),
        utilisation=governing.utilisation if governing else None,
        governs=governing.words if governing else "",
        combination=governing.combination if governing else "",
        checks=checks,
    )


def _roles(members: list[schemas.MemberOut]) -> list[schemas.RoleOut]:
    keys = {kind: key for key, kinds in ROLES.items() for kind in kinds}
    found = []
    for role, (_, words) in ROLE_WORDS.items():
        own = [m for m in members if m.role == role]
        if not own:
            continue
        sections = sorted({m.section for m in own})
        states = {m.status for m in own}
        found.append(
            schemas.RoleOut(
                role=role,
                label=words,
                key=keys.get(role, ""),
                section=sections[0] if len(sections) == 1 else f"{len(sections)} sections",
                count=len(own),
                worst=max((m.utilisation for m in own if m.utilisation is not None), default=None),
                status=next(s for s in ("fails", "not covered", "passes") if s in states),
                mass=sum(m.mass for m in own),
            )
        )
    return found


def _reactions(chain: Chain) -> Iterator[schemas.ReactionOut]:
    structure = chain.structure
    strength = chain.verification.strength
    if not strength:
        return
    factors = np.array([chain.combinations[i].factors for i in strength])
    names = [chain.combinations[i].name for i in strength]
    for node in np.flatnonzero((structure.fixed | (structure.springs != 0)).any(axis=1)):
        held = [i for i in range(6) if structure.fixed[node, i] or structure.springs[node, i]]
        values = chain.response.reaction[node, held] @ factors.T / 1000
        high, low = values.argmax(axis=1), values.argmin(axis=1)
        yield schemas.ReactionOut(
            node=structure.nodes[node],
            directions=[FREEDOMS[i] for i in held],
            most=values.max(axis=1).tolist(),
            most_in=[names[i] for i in high],
            least=values.min(axis=1).tolist(),
            least_in=[names[i] for i in low],
        )


def _lengths(chain: Chain) -> Iterator[schemas.LengthsOut]:
    seen = set()
    for m, lengths in zip(chain.structure.members, chain.verification.segments.lengths, strict=True):
        if m.role in seen:
            continue
        seen.add(m.role)
        chosen = chain.document.rules.effective_lengths.get(m.role)  # type: ignore[call-overload]
        yield schemas.LengthsOut(
            role=m.role,
            label=ROLE_WORDS[m.role][1],
            length=chain.structure.length(m),
            y=lengths.y,
            z=lengths.z,
            lateral=lengths.torsion,
            why_y=lengths.why_y,
            why_z=lengths.why_z,
            set_y=chosen.y if chosen else None,
            set_z=chosen.z if chosen else None,
        )


def hall_facts(document: Document) -> dict[str, Any]:
    """What follows from the hall's parameters and the site alone: dimensions, wind and snow numbers."""
    hall, site = document.hall, document.site
    if hall is None:
        return {}
    w = hall_wind(hall, site)
    mu = float(snow.mu1(hall.pitch))
    return {
        "hall": schemas.HallOut(
            ridge_height=hall_height(hall),
            slope_length=slope_length(hall),
            length=(hall.frames - 1) * hall.spacing,
            purlins=list(purlin_positions(hall)),
            stays=list(stay_positions(hall)),
        ),
        "wind": schemas.WindOut(
            basic=w.pressure.basic / 1000,
            exposure=w.pressure.exposure,
            peak=w.pressure.peak / 1000,
            height=w.height,
            e=w.e,
            strip=w.strip,
            walls=w.walls,
            roof=w.roof,
        ),
        "snow": schemas.SnowOut(
            mu=mu, undrifted=snow.roof_snow(site.ground_snow, mu), drifted=snow.roof_snow(site.ground_snow, 0.5 * mu)
        ),
        "simplifications": list(SIMPLIFICATIONS),
    }


def chain_out(chain: Chain, revision: int) -> schemas.ChainOut:
    """Everything of a chain but diagrams and proofs."""
    structure, loading = chain.structure, chain.loading
    members = [member_out(chain, v) for v in chain.verification.verdicts]
    states = {m.status for m in members}
    return schemas.ChainOut(
        revision=revision,
        fingerprints=chain.fingerprints,
        seconds=chain.seconds,
        nodes=[(x, y, z) for x, y, z in structure.xyz.tolist()],
        node_names=list(structure.nodes),
        supports=[int(i) for i in np.flatnonzero(structure.fixed.any(axis=1))],
        members=members,
        roles=_roles(members),
        cases=[
            schemas.CaseOut(
                symbol=case.symbol,
                name=case.name,
                nature=case.nature,
                note=case.note,
                expected=_kilo(b.expected),
                applied=_kilo(b.applied),
                reacted=_kilo(b.reacted),
                off=b.off,
                holds=b.holds,
            )
            for case, b in zip(loading.cases, balances(loading, chain.response), strict=True)
        ],
        combinations=[schemas.CombinationOut(name=c.name, use=c.use, formula=c.formula) for c in chain.combinations],
        reactions=list(_reactions(chain)),
        lengths=list(_lengths(chain)),
        tonnage=chain.tonnage() / 1000,
        residual=chain.response.residual,
        worst=chain.verification.worst if members else None,
        status=next(s for s in ("fails", "not covered", "passes") if s in states),
        deflection_worst=deflection_worst(chain) if chain.document.hall else None,
        **hall_facts(chain.document),
    )


def _factors(chain: Chain, state: str) -> tuple[Floats, str, str]:
    """(factors over cases, kind, formula) of a case by symbol or a combination by name."""
    for i, case in enumerate(chain.loading.cases):
        if state in (case.symbol, case.name):
            return np.eye(len(chain.loading.cases))[i], "case", case.name
    for c in chain.combinations:
        if c.name == state:
            return c.factors, "combination", c.formula
    raise KeyError(state)


def diagram_out(chain: Chain, revision: int, frame: int, state: str) -> schemas.DiagramOut:
    """Diagrams of a frame's members (all members for frame 0). Raises KeyError for an unknown state."""
    structure, response = chain.structure, chain.response
    strength = [chain.combinations[i].factors for i in chain.verification.strength]
    envelope = state == "envelope"
    factors, kind, formula = (
        (np.array(strength), "envelope", "least and greatest over all strength combinations")
        if envelope
        else (lambda f: (f[0][None], f[1], f[2]))(_factors(chain, state))
    )
    members = [i for i, m in enumerate(structure.members) if frame == 0 or m.frame == frame]
    found = diagrams(response).combined(factors)
    moved = deflections(response) @ factors.T
    along = station_utilisation(chain, members)
    first = np.searchsorted(response.elements.member, np.arange(len(structure.members) + 1))
    runs = []
    for i in members:
        e = slice(first[i], first[i + 1])
        x = response.elements.positions(found.x)[e].ravel()
        axes = response.elements.axes[first[i]]
        start = structure.xyz[structure.members[i].nodes[0]]

        def values(name: str, most: bool = True) -> list[float]:
            array = getattr(found, name)[e].reshape(len(x), -1)  # noqa: B023
            chosen: Floats = array.max(axis=1) if most else array.min(axis=1)
            shown: list[float] = (chosen / 1000).tolist()
            return shown

        runs.append(
            schemas.RunOut(
                member=structure.members[i].name,
                axis_z=tuple(axes[2].tolist()),
                points=[(a, b, c) for a, b, c in (start + x[:, None] * axes[0]).tolist()],
                x=x.tolist(),
                N=values("N"),
                Vz=values("Vz"),
                My=values("My"),
                least_N=values("N", most=False),
                least_Vz=values("Vz", most=False),
                least_My=values("My", most=False),
                displacement=[]
                if envelope
                else [(a, b, c) for a, b, c in (moved[e, :, :, 0].reshape(-1, 3) * 1000).tolist()],
                utilisation=along[i].tolist(),
            )
        )
    return schemas.DiagramOut(
        revision=revision,
        state=state,
        kind=kind,
        formula=formula,
        runs=runs,
        loads=[] if envelope else _loads(chain, factors[0], members),
    )


def station_utilisation(chain: Chain, members: list[int]) -> dict[int, Floats]:
    """Largest utilisation of section and stability checks at each station of the members, over all combinations."""
    response, verification = chain.response, chain.verification
    first = np.searchsorted(response.elements.member, np.arange(len(chain.structure.members) + 1))
    found: dict[int, Floats] = {}
    if not verification.strength:
        return {i: np.zeros((first[i + 1] - first[i]) * verification.forces.x.shape[1]) for i in members}
    e = [int(j) for j in np.flatnonzero(np.isin(response.elements.member, members))]
    v = section_values(chain.document, response, verification.peaks, verification.steel, e, slice(None), slice(None))
    section = np.nan_to_num(np.maximum(np.maximum(v["u_NM"], v["u_Vz"]), v["u_Vy"]).max(axis=2))
    s = verification.segments
    rows = [int(r) for r in np.flatnonzero(np.isin(s.member, members))]
    v = stability_values(chain.document, s, verification.steel, rows, slice(None))
    stability = np.nan_to_num(np.maximum(v["u_661"], v["u_662"]).max(axis=1))
    for i in members:
        own = [k for k, j in enumerate(e) if first[i] <= j < first[i + 1]]
        x = (
            response.elements.offset[first[i] : first[i + 1], None] + verification.forces.x[first[i] : first[i + 1]]
        ).ravel()
        values = section[own].ravel()
        for k, r in enumerate(rows):
            if s.member[r] == i:
                inside = (x >= s.start[r] - 1e-6) & (x <= s.end[r] + 1e-6)
                values = np.where(inside, np.maximum(values, stability[k]), values)
        found[i] = values
    return found


def _loads(chain: Chain, factors: Floats, members: list[int]) -> list[schemas.LoadOut]:
    """The sum of the line loads on each member, in pieces over which it runs linearly."""
    structure = chain.structure
    names = {structure.members[i].name for i in members}
    own: dict[str, list[LineLoad]] = defaultdict(list)
    for load in chain.loading.lines:
        if factors[load.case] != 0 and load.member in names:
            own[load.member].append(load)
    found = []
    for name, loads in own.items():
        member = structure.member(name)
        a, b = structure.xyz[member.nodes[0]], structure.xyz[member.nodes[-1]]
        along = (b - a) / structure.length(member)
        cuts = sorted({round(x, 9) for load in loads for x in (load.start, load.end)})
        for start, end in zip(cuts[:-1], cuts[1:], strict=True):
            ends = np.zeros((2, 3))
            for load in loads:
                if load.start <= start + 1e-9 and load.end >= end - 1e-9:
                    slope = (load.last - load.first) / (load.end - load.start)
                    ends += factors[load.case] * (load.first + np.outer([start - load.start, end - load.start], slope))
            found.append(
                schemas.LoadOut(
                    member=name,
                    start=tuple((a + along * start).tolist()),
                    end=tuple((a + along * end).tolist()),
                    first=_kilo(ends[0]),
                    last=_kilo(ends[1]),
                )
            )
    return found


def ribbon_out(chain: Chain, member: int) -> schemas.RibbonOut:
    """The restraint ribbon of a member in its governing strength combination."""
    structure, verification = chain.structure, chain.verification
    m = structure.members[member]
    verdict = verification.verdicts[member]
    strong = [o for o in verdict.outcomes if o.criterion not in ("deflection", "sway")]
    worst = max(strong, key=lambda o: o.utilisation, default=None)
    c = worst.combination if worst else 0
    first = np.searchsorted(chain.response.elements.member, np.arange(len(structure.members) + 1))
    e = slice(first[member], first[member + 1])
    s = verification.segments
    rows = [int(r) for r in np.flatnonzero(s.member == member)]
    spans: dict[int, list[schemas.SpanOut]] = {1: [], -1: []}
    if verification.strength:
        v = stability_values(chain.document, s, verification.steel, rows, slice(None))
        for k, r in enumerate(rows):
            u = float(np.nan_to_num(v["u_LT"][k]).max()) if m.section.shape == "I" else 0.0
            spans[int(s.flange[r])].append(schemas.SpanOut(start=float(s.start[r]), end=float(s.end[r]), utilisation=u))
    lengths = s.lengths[member]
    values = [
        (
            "L_{cr,y}",
            f"{lengths.y:.2f} m",
            f"Effective length for buckling about the strong axis: {lengths.why_y} (6.3.1.3)",
        ),
        (
            "L_{cr,z}",
            f"{lengths.z:.2f} m",
            f"Effective length for buckling about the weak axis: {lengths.why_z} (6.3.1.3)",
        ),
    ]
    if m.section.shape == "I":
        values.append(
            ("L_T", f"{lengths.torsion:.2f} m", "Largest spacing of torsional restraints: stays and ends (BB.3.3.1)")
        )
        lateral = next((o for o in strong if o.criterion == "lateral"), None)
        if lateral:
            v = stability_values(chain.document, s, verification.steel, [lateral.row], [lateral.combination])
            values.append(
                (
                    "M_{cr}",
                    f"{float(v['Mcr'][0, 0]) / 1000:.0f} kNm",
                    "Elastic critical moment of the governing segment (6.3.2.2)",
                )
            )
            values.append(
                (r"\chi_{LT}", f"{float(v['chi_LT'][0, 0]):.2f}", "Reduction for lateral-torsional buckling (6.57)")
            )
    forces = verification.forces
    return schemas.RibbonOut(
        member=m.name,
        length=structure.length(m),
        combination=chain.combinations[verification.strength[c]].name if verification.strength else "",
        outer=list(m.outer),
        inner=list(m.inner),
        x=(chain.response.elements.offset[e, None] + forces.x[e]).ravel().tolist(),
        My=(forces.My[e, :, c].ravel() / 1000).tolist() if verification.strength else [],
        outer_spans=spans[1],
        inner_spans=spans[-1],
        values=values,
    )


def proof_out(proof: Proof, revision: int, member: str) -> schemas.ProofOut:
    """A proof for the screen."""
    return schemas.ProofOut(
        revision=revision,
        member=member,
        title=proof.title,
        clause=proof.clause,
        combination=proof.combination,
        formula=proof.formula,
        utilisation=proof.utilisation,
        steps=[schemas.StepOut(**vars(step)) for step in proof.steps],
        assumptions=list(proof.assumptions),
    )


def catalogue_out() -> list[schemas.FamilyOut]:
    """The catalogue by family, in ascending mass."""
    return [
        schemas.FamilyOut(
            name=family,
            standard=standard,
            what=what,
            sections=[
                schemas.SectionOut(
                    name=s.name,
                    family=family,
                    h=s.h * 1e3,
                    b=s.b * 1e3,
                    tw=s.tw * 1e3,
                    tf=s.tf * 1e3,
                    mass=s.mass(),
                    Iy=s.Iy * 1e8,
                    Iz=s.Iz * 1e8,
                )
                for s in catalogue().values()
                if s.family == family
            ],
        )
        for family, (standard, what) in FAMILIES.items()
    ]
