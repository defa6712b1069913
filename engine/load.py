"""From the document and its structure to the loading: generated cases, then what is stated directly."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import Case, LineLoad, Loading, PointLoad, Settlement, Warming
from engine.actions.combinations import Combination, formula
from engine.actions.panels import DOWN, spread
from engine.actions.stated_panels import lay, load_narrow, press_panel
from engine.actions.weights import add_self_weight, add_settlement
from engine.analysis.bows import Bow
from engine.document import Document
from engine.document.loads import MemberLoad, SettlementLoad
from engine.errors import ModelError
from engine.standards.family import family
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Structure

#: a place this far beyond an end is the end, as its length is read off, m
READ_OFF = 5e-3


def load(document: Document, structure: Structure) -> Loading:
    """All cases with their loads. Raises ModelError naming the load that refers to nothing or lies off its member."""
    loading = Loading()
    if document.generates:
        family(document).add_actions(loading, structure, document)
    nodes = {name: i for i, name in enumerate(structure.nodes)}
    nodes |= {name: nodes[other] for name, other in structure.aliases.items()}
    if structure.settlement.any():
        for i, support in enumerate(document.supports):
            if support.node in nodes:
                node = nodes[support.node]
                _check_held(structure, node, structure.settlement[node], support.node, f"supports.{i}.settlement")
        add_settlement(loading, structure)
    generated = {case.symbol: case.name for case in loading.cases}
    for k, case in enumerate(document.cases):
        if case.name in generated:
            raise ModelError(
                f"Case “{case.name}” is named like “{generated[case.name]}”, which is generated and known by that symbol: give it another name.",
                f"cases.{k}.name",
            )
        given = Case(case.name, case.name, case.nature, case.excludes, category=case.category, together=case.together)
        if case.self_weight:
            if document.generates:
                raise ModelError(
                    f"Case “{case.name}” would count self-weight twice: what the jigs set out has its own case for it.",
                    "cases",
                )
            add_self_weight(loading, structure, given)
        else:
            loading.add_case(given)
    numbers = {case.name: i for i, case in enumerate(loading.cases)}
    if len(numbers) < len(loading.cases):
        raise ModelError("A stated case bears the name of a generated one.", "cases")
    force = document.force
    for i, item in enumerate(document.node_loads):
        place = f"node_loads.{i}"
        if item.case not in numbers:
            raise ModelError(f"A load refers to case “{item.case}”, which does not exist.", f"{place}.case")
        if item.node not in nodes:
            raise ModelError(f"A load refers to node “{item.node}”, which does not exist.", f"{place}.node")
        vector = np.array(item.force) * force
        loading.points.append(
            PointLoad(numbers[item.case], vector, np.array(item.moment) * force, node=nodes[item.node])
        )
        loading.expected[numbers[item.case]] = loading.expected[numbers[item.case]] + vector
    for i, line in enumerate(document.member_loads):
        if line.case not in numbers:
            raise ModelError(f"A load refers to case “{line.case}”, which does not exist.", f"member_loads.{i}.case")
        for name in (line.member, *line.run):
            if name not in structure.index:
                raise ModelError(f"A load refers to member “{name}”, which does not exist.", f"member_loads.{i}.member")
        if line.run and line.kind != "temperature":
            _run_load(loading, structure, line, numbers[line.case], force, f"member_loads.{i}")
        else:
            for name in (line.member, *line.run):
                one = line.model_copy(update={"member": name, "run": []})
                _member_load(loading, structure, one, numbers[line.case], force, f"member_loads.{i}")
    for i, move in enumerate(document.settlements):
        _settlement(loading, structure, move, numbers, nodes, f"settlements.{i}")
    panels = {panel.name: panel for panel in structure.panels}
    for i, area in enumerate(document.panel_loads):
        place = f"panel_loads.{i}"
        if area.case not in numbers:
            raise ModelError(f"A load refers to case “{area.case}”, which does not exist.", f"{place}.case")
        if area.panel not in panels:
            raise ModelError(f"A load refers to panel “{area.panel}”, which does not exist.", f"{place}.panel")
        put = press_panel if area.kind == "area" else load_narrow
        put(loading, panels[area.panel], area, numbers[area.case], force, place)
    for i, wide in enumerate(document.area_loads):
        lay(loading, structure, wide, numbers, force, f"area_loads.{i}")
    loading.spread = spread(structure, loading)
    family(document).finish(loading, structure, document)
    known: dict[str, str] = {}
    for made in loading.cases:
        if made.symbol in known:
            raise ModelError(
                f"Two cases are known by “{made.symbol}”: “{known[made.symbol]}” and “{made.name}”, of which one is generated: give the stated "
                "one another name.",
                "cases",
            )
        known[made.symbol] = made.name
    return loading


def _settlement(
    loading: Loading,
    structure: Structure,
    move: SettlementLoad,
    numbers: dict[str, int],
    nodes: dict[str, int],
    place: str,
) -> None:
    if move.case not in numbers:
        raise ModelError(f"A settlement refers to case “{move.case}”, which does not exist.", f"{place}.case")
    if move.node not in nodes:
        raise ModelError(f"A settlement refers to node “{move.node}”, which does not exist.", f"{place}.node")
    node, movement = nodes[move.node], np.array(move.movement)
    _check_held(structure, node, movement, move.node, place)
    loading.settlements.append(Settlement(numbers[move.case], node, movement))


def _check_held(structure: Structure, node: int, movement: Floats, name: str, place: str) -> None:
    """Refuse to move a support in a direction that it does not hold rigidly."""
    turn = float(structure.turn[node])
    c, s = np.cos(turn), np.sin(turn)
    own = np.array([[c, s, 0], [-s, c, 0], [0, 0, 1]]) @ movement
    for axis, value in enumerate(own):
        if abs(value) > 1e-12 and not structure.fixed[node, axis]:
            way = f"its own {'xyz'[axis]}" if turn and axis < 2 else "XYZ"[axis]
            words = "held by a spring" if structure.springs[node, axis] else "free"
            raise ModelError(
                f"Node “{name}” is {words} along {way}: only a support that holds it rigidly can be moved.", place
            )


def _run_load(loading: Loading, structure: Structure, item: MemberLoad, case: int, force: float, place: str) -> None:
    """A load over a run: each member takes its part, whichever way it points."""
    names = [item.member, *item.run]
    members = [structure.member(name) for name in names]
    if len(set(names)) < len(names):
        raise ModelError("A run of members passes through one of them twice.", place)
    if item.axes == "local":
        raise ModelError(
            "A load over a run of members acts in global axes: they may point either way.", f"{place}.axes"
        )
    shared = set(members[0].nodes[:: len(members[0].nodes) - 1]) & set(members[1].nodes)
    at = members[0].nodes[0] if members[0].nodes[-1] in shared else members[0].nodes[-1]
    lengths, forward = [], []
    for m in members:
        if at not in (m.nodes[0], m.nodes[-1]):
            raise ModelError(f"“{m.name}” does not follow on the end of the run of members before it.", place)
        forward.append(m.nodes[0] == at)
        at = m.nodes[-1] if forward[-1] else m.nodes[0]
        lengths.append(structure.length(m))
    total = sum(lengths)
    scale = total if item.ratio else 1.0
    start, end = item.start * scale, total if item.end is None else item.end * scale
    if max(start, end) > total + READ_OFF:
        raise ModelError(f"A load reaches {max(start, end):g} m, beyond the run's length {total:.3f} m.", place)
    start, end = min(start, total), min(end, total)
    if item.kind == "line" and end <= start:
        raise ModelError(f"A line load on a run of members ends at {end:g} m, not after its start.", place)
    first, last = np.array(item.value), np.array(item.value_end or item.value)
    before = 0.0
    for m, length, ahead in zip(members, lengths, forward, strict=True):
        a, b = max(start - before, 0.0), min(end - before, length)
        if item.kind == "line" and b > a + 1e-9:
            value = [first + (last - first) * (before + x - start) / (end - start) for x in (a, b)]
            places = (a, b) if ahead else (length - b, length - a)
            ordered = value if ahead else value[::-1]
            update = {"value": tuple(ordered[0]), "value_end": tuple(ordered[1]), "start": places[0], "end": places[1]}
        elif item.kind != "line" and (0.0 <= start - before < length or (m is members[-1] and start >= before)):
            reach = min(start - before, length)
            update = {"start": reach if ahead else length - reach, "end": None}
        else:
            before += length
            continue
        update |= {"member": m.name, "run": [], "ratio": False}
        _member_load(loading, structure, item.model_copy(update=update), case, force, place)
        before += length


def _member_load(loading: Loading, structure: Structure, item: MemberLoad, case: int, force: float, place: str) -> None:
    member = structure.member(item.member)
    length = structure.length(member)
    if item.kind == "temperature":
        loading.warmings.append(_warming(structure, item, case, place))
        return
    scale = length if item.ratio else 1.0
    start, end = item.start * scale, length if item.end is None else item.end * scale
    if max(start, end) > length + READ_OFF:
        raise ModelError(
            f"A load on “{item.member}” reaches {max(start, end):g} m, beyond the member's length {length:.3f} m.",
            place,
        )
    start, end = min(start, length), min(end, length)
    ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
    axes = local_axes(ends[None, 0], ends[None, 1], np.array([member.roll]))[0]
    along = axes[0]

    def to_global(vector: tuple[float, float, float]) -> Floats:
        value = np.array(vector) * force
        if item.axes == "local":
            return np.asarray(axes.T @ value)
        if item.axes == "projected":
            return np.asarray(value * np.sqrt(np.clip(1 - along**2, 0.0, 1.0)))
        return value

    first = to_global(item.value)
    if item.kind == "line":
        if end <= start:
            raise ModelError(f"A line load on “{item.member}” ends at {end:g} m, not after its start.", place)
        last = to_global(item.value_end) if item.value_end is not None else first
        loading.lines.append(LineLoad(case, item.member, start, end, first, last))
        total = (first + last) / 2 * (end - start)
    elif item.kind == "force":
        loading.points.append(PointLoad(case, first, np.zeros(3), item.member, start))
        total = first
    else:
        loading.points.append(PointLoad(case, np.zeros(3), first, item.member, start))
        total = np.zeros(3)
    loading.expected[case] = loading.expected[case] + total


def _warming(structure: Structure, item: MemberLoad, case: int, place: str) -> Warming:
    """A face that is warmer grows: the member curls away from it."""
    member = structure.member(item.member)
    if item.start or item.end is not None or item.value_end is not None or item.ratio:
        raise ModelError(
            f"The temperature of “{item.member}” is that of the whole member: it has no start, end or second value.",
            place,
        )
    mean, across, up = item.value
    section, expansion = member.section, member.material.expansion
    depths = {"y": section.b, "z": section.h}
    if (across or up) and (section.shape == "given" or member.pieces):
        raise ModelError(
            f"“{item.member}” has no one depth over which a difference of temperature acts: its section is "
            f"{'known by its stiffness alone' if section.shape == 'given' else 'haunched or tapered'}.",
            f"{place}.value",
        )
    curvature = [-expansion * warmer / depths[axis] if warmer else 0.0 for axis, warmer in (("y", across), ("z", up))]
    return Warming(case, item.member, expansion * mean, (curvature[0], curvature[1]))


def _combines(document: Document) -> bool:
    return document.generates or not document.combinations


def foreseen(document: Document, loading: Loading) -> int:
    """About how many combinations there will be, from above. Raises ModelError for more than may be made."""
    stated = len(document.combinations)
    return stated + family(document).foresee(loading.cases, document.national.basis) if _combines(document) else stated


def combinations(document: Document, loading: Loading) -> list[Combination]:
    """Generated combinations, of what the jigs and panels set out and wherever none are stated, then the stated ones; those for
    strength also with the sway imperfections of their cases, unless they state these themselves.

    A stated combination of a hall's cases that names one which is no longer there is kept as “lost”, with nothing in it.
    Raises ModelError for a factor on a case that does not exist, and for a combination without any.
    """
    found: list[Combination] = []
    standard = family(document)
    # along the ways in which the structure leans
    resultants = loading.borne @ np.vstack([loading.lean_along, DOWN]).T * [1, 1, -1]
    if _combines(document):
        found = standard.combine(
            loading.cases, document.rules, document.site, document.national.basis, loading.leans, resultants
        )
    numbers = {case.name: i for i, case in enumerate(loading.cases)}
    taken = {combination.name for combination in found}
    for i, item in enumerate(document.combinations):
        if item.name in taken:
            raise ModelError(
                f"“{item.name}” is the name of a generated combination: give the stated one another name.",
                f"combinations.{i}.name",
            )
        factors = np.zeros(len(loading.cases))
        lost = [name for name in item.factors if name not in numbers]
        if lost and document.generates:
            # generated cases come and go with the jigs; what is said of them is kept until they are back
            words = "lost: " + ", ".join(f"“{name}”" for name in lost)
            found.append(Combination(item.name, "lost", words, factors, "stated", own=True))
            continue
        for name, factor in item.factors.items():
            if name not in numbers:
                raise ModelError(
                    f"Combination “{item.name}” refers to case “{name}”, which does not exist.",
                    f"combinations.{i}.factors",
                )
            factors[numbers[name]] = factor
        if not factors.any():
            raise ModelError(f"Combination “{item.name}” is empty.", f"combinations.{i}.factors")
        found.append(Combination(item.name, item.use, formula(loading.cases, factors), factors, "stated", own=True))
        stated = any(factors[case] for both in loading.leans.values() for case in both if case >= 0)
        if item.use in ("strength", "accidental") and not stated:
            for row in standard.leaning(factors, loading.leans, resultants):
                words = formula(loading.cases, row)
                found.append(Combination(f"{item.name} {words.rpartition(' + ')[2]}", item.use, words, row, "stated"))
    return found


def bows(document: Document, structure: Structure) -> tuple[Bow, ...]:
    """The bow imperfections that are asked for, of the members that are there: those of others wait until they are back.
    Raises ModelError for a member that cannot bow."""
    found = []
    for i, given in enumerate(document.analysis.bows):
        place = f"analysis.bows.{i}"
        if given.member not in structure.index:
            continue
        member = structure.member(given.member)
        if member.behaviour != "beam":
            raise ModelError(
                f"“{given.member}” is a {member.behaviour}: it does not bend. Make it a beam to give it a bow.", place
            )
        if given.about == "z" and max(len(member.outer), len(member.inner)) > 2:
            raise ModelError(f"“{given.member}” is held sideways between its ends: it has no bow about z.", place)
        ratio = given.ratio or family(document).bow_ratio(member, given.about, document.national.imperfections)
        sense = {"as it bends": 0, "+": 1, "-": -1}[given.sense]
        found.append(
            Bow(structure.index[given.member], "zy".index(given.about), structure.length(member) / ratio, sense)
        )
    return tuple(found)
