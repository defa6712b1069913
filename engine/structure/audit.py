"""The audit of a structure: snags, each with what, where, why it matters, and a mend where one is safe."""

from __future__ import annotations

from collections import defaultdict

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from engine.structure.audit_bracing import held_by_nothing, loose_joints, unbraced
from engine.structure.join import distinct, in_mid_air, sample
from engine.structure.model import Member, Panel, Structure
from engine.structure.runs import in_pieces
from engine.structure.snags import NEAR, Snag, placed
from engine.structure.words import label

#: crossings: lines nearer than this touch
TOUCH = 2e-3
#: spacing of the sample points by which crossings are looked for
STEP = 2.0


def audit(structure: Structure) -> list[Snag]:
    """All snags, faults first."""
    found = [
        *_near_nodes(structure),
        *_duplicates(structure),
        *_crossings(structure),
        *_unsupported(structure),
        *_mid_air(structure),
        *_loose_nodes(structure),
        *_leaning_feet(structure),
        *loose_joints(structure),
        *unbraced(structure),
        *_in_pieces(structure),
        *_panels(structure),
    ]
    order = ("fault", "doubt", "note")
    return sorted(found, key=lambda snag: order.index(snag.weight))


def _near_nodes(structure: Structure) -> list[Snag]:
    if len(structure.xyz) < 2:
        return []
    pairs = cKDTree(structure.xyz).query_pairs(NEAR, output_type="ndarray")
    if not len(pairs):
        return []
    segments = structure.segments
    joined = {(min(a, b), max(a, b)) for a, b in segments.tolist()}
    found = []
    for a, b in pairs.tolist():
        one, other = structure.nodes[a], structure.nodes[b]
        if (min(a, b), max(a, b)) in joined or "#" in one or "#" in other:
            continue
        gap = float(np.linalg.norm(structure.xyz[a] - structure.xyz[b])) * 1000
        free = "/" not in one or "/" not in other
        found.append(
            Snag(
                "near nodes",
                "doubt",
                f"Nodes “{one}” and “{other}” are {gap:.0f} mm apart",
                "They nearly meet but are not one node, so the members at them do not hold each other.",
                (),
                (one, other),
                placed(structure.xyz[a]),
                "merge" if free else "",
            )
        )
    return found


def _duplicates(structure: Structure) -> list[Snag]:
    """Members without length, and members that lie on one another between two nodes."""
    segments, owner = structure.segments, structure.owner
    found = []
    for k in np.flatnonzero(segments[:, 0] == segments[:, 1]).tolist():
        m, node = structure.members[owner[k]], int(segments[k, 0])
        found.append(
            Snag(
                "no length",
                "fault",
                f"“{m.name}” has no length",
                "Both its ends lie in one node; it cannot be analysed.",
                (m.name,),
                (structure.nodes[node],),
                placed(structure.xyz[node]),
                "drop" if not m.jig else "",
            )
        )
    pairs = np.sort(segments, axis=1)
    key = pairs[:, 0] * len(structure.nodes) + pairs[:, 1]
    order = np.argsort(key, kind="stable")
    same = np.flatnonzero((key[order][1:] == key[order][:-1]) & (pairs[order][1:, 0] != pairs[order][1:, 1]))
    said: set[tuple[int, int]] = set()
    for k in same.tolist():
        one, other = sorted((int(owner[order[k]]), int(owner[order[k + 1]])))
        if (one, other) in said or one == other:
            continue
        said.add((one, other))
        first, second = structure.members[one], structure.members[other]
        loose = second if not second.jig else first
        whole = {first.nodes[0], first.nodes[-1]} == {second.nodes[0], second.nodes[-1]}
        a, b = pairs[order[k]]
        found.append(
            Snag(
                "duplicate",
                "doubt",
                f"“{second.name}” lies on “{first.name}”",
                "Two members between the same nodes share the force; weight and stiffness count twice.",
                (loose.name, (first if loose is second else second).name),
                (),
                placed((structure.xyz[a] + structure.xyz[b]) / 2),
                "drop" if whole and not loose.jig else "",
            )
        )
    return found


def _crossings(structure: Structure) -> list[Snag]:
    """Beams whose lines cross, or end on one another's side, without a common node."""
    ends = structure.ends
    beams = ~structure.bars & (ends[:, 0] != ends[:, 1])
    index = np.flatnonzero(beams)
    if len(index) < 2:
        return []
    a, b = structure.xyz[ends[index, 0]], structure.xyz[ends[index, 1]]
    length = np.linalg.norm(b - a, axis=1)
    points, owner, half = sample(a, b, STEP)
    reach = max(STEP, 2 * half) * 1.001
    # points stand at most that apart, so where two lines cross some of theirs are within it of each other; of the most
    # frequent direction (purlins, say) no two can cross
    heading = np.round((b - a) / length[:, None] * 1e6).astype(np.int64)
    heading *= np.where(heading[:, [0]] < 0, -1, 1)
    step = 2_000_003
    key = (heading[:, 0] * step + heading[:, 1]) * step + heading[:, 2]
    _, kind, frequency = np.unique(key, return_inverse=True, return_counts=True)
    parallel = (kind == np.argmax(frequency))[owner]
    others, alike = np.flatnonzero(~parallel), np.flatnonzero(parallel)
    tree = cKDTree(points[others])
    near = others[tree.query_pairs(reach, output_type="ndarray")].reshape(-1, 2)
    mixed = tree.sparse_distance_matrix(cKDTree(points[alike]), reach, output_type="ndarray")
    near = np.concatenate([near, np.stack([others[mixed["i"]], alike[mixed["j"]]], axis=1)])
    pairs = owner[near]
    pairs = pairs[pairs[:, 0] != pairs[:, 1]]
    if not len(pairs):
        return []
    i, j = np.divmod(distinct(pairs.min(axis=1) * len(index) + pairs.max(axis=1)), len(index))
    u, v, w = (b - a)[i], (b - a)[j], a[i] - a[j]
    uu, vv, uv = (u * u).sum(1), (v * v).sum(1), (u * v).sum(1)
    uw, vw = (u * w).sum(1), (v * w).sum(1)
    det = uu * vv - uv**2
    skew = det > 1e-9 * uu * vv
    safe = np.where(skew, det, 1.0)
    s, t = (uv * vw - vv * uw) / safe, (uu * vw - uv * uw) / safe
    gap = np.linalg.norm(w + s[:, None] * u - t[:, None] * v, axis=1)
    over_s, over_t = TOUCH / np.sqrt(uu), TOUCH / np.sqrt(vv)
    hit = skew & (gap < TOUCH) & (s > -over_s) & (s < 1 + over_s) & (t > -over_t) & (t < 1 + over_t)
    # most of those that meet share a node at the end of one
    meet = np.flatnonzero(hit)
    count = len(structure.nodes)
    own = distinct(np.concatenate([structure.owner * count + structure.segments[:, k] for k in (0, 1)]))
    for one, other in ((i, j), (j, i)):
        for end in (0, 1):
            key = index[one[meet]] * count + ends[index[other[meet]], end]
            meet = meet[own[np.minimum(np.searchsorted(own, key), len(own) - 1)] != key]
    found = []
    for k in meet.tolist():
        one, other = structure.members[index[i[k]]], structure.members[index[j[k]]]
        if set(one.nodes) & set(other.nodes):
            continue
        found.append(
            Snag(
                "crossing",
                "doubt",
                f"“{one.name}” and “{other.name}” cross without joining",
                "They pass through each other: neither carries the other. Join them where they cross, or move one.",
                (one.name, other.name),
                (),
                placed(a[i[k]] + s[k] * u[k]),
                "cut",
            )
        )
    return found


def _unsupported(structure: Structure) -> list[Snag]:
    if not structure.members:
        return []
    held = structure.fixed.any(axis=1) | (structure.springs != 0).any(axis=1)
    if not held.any():
        first = structure.members[0]
        at = structure.xyz[first.nodes[0]]
        why = "Nothing holds the structure, so it cannot be analysed. Select its feet and support them."
        return [Snag("no supports", "fault", "There are no supports", why, (), (), placed(at))]
    segments = structure.segments
    count = len(structure.nodes)
    joined = [np.stack([slab.joined[:-1], slab.joined[1:]], axis=1) for slab in structure.slabs]
    links = np.concatenate([segments, *joined])
    graph = coo_array((np.ones(len(links)), (links[:, 0], links[:, 1])), shape=(count, count))
    _, part = connected_components(graph, directed=False)
    standing = np.zeros(part.max() + 1, dtype=bool)
    standing[part[held]] = True
    loose: dict[int, list[Member]] = defaultdict(list)
    for m in structure.members:
        if not standing[part[m.nodes[0]]]:
            loose[int(part[m.nodes[0]])].append(m)
    return [
        Snag(
            "not connected",
            "fault",
            f"“{group[0].name}”" + (f" and {len(group) - 1} more" if len(group) > 1 else "") + " hang in the air",
            "No way leads from these members to a support: they would fall.",
            tuple(m.name for m in group),
            (),
            placed(structure.xyz[list(group[0].nodes)].mean(axis=0)),
        )
        for group in loose.values()
    ]


def _mid_air(structure: Structure) -> list[Snag]:
    """Supports above the lowest one that stand on steel: what they take never reaches the ground."""
    held = np.flatnonzero(structure.fixed[:, 2] | (structure.springs[:, 2] != 0))
    if not len(held):
        return []
    on_slabs = frozenset(node for slab in structure.slabs for node in slab.joined)
    steel = in_mid_air(structure.members, structure.xyz, held)
    found = [(node, "fault", "steel", "It takes its load") for node in steel]
    for node in in_mid_air(structure.members, structure.xyz, held, on_slabs):
        # what stands there may be a wall that is not in the model
        if node not in steel:
            found.append((node, "doubt", "a slab", "If nothing else is below, it takes its load"))
    return [
        Snag(
            "in mid-air",
            weight,
            f"The support at “{structure.nodes[node]}” stands on {what}, "
            f"{structure.xyz[node, 2] - structure.xyz[held, 2].min():.2f} m above the lowest",
            f"{why} out of the structure: what stands below never bears it. Remove the support.",
            tuple(m.name for m in structure.members if node in m.nodes)[:6],
            (structure.nodes[node],),
            placed(structure.xyz[node]),
        )
        for node, weight, what, why in found
    ]


def _in_pieces(structure: Structure) -> list[Snag]:
    """Members that are one piece of steel drawn in parts."""
    found = []
    for run in in_pieces(structure):
        members = [structure.members[i] for i in run]
        by_hand = not any(m.jig for m in members)
        found.append(
            Snag(
                "in pieces",
                "note",
                f"{label(members[0])} and {len(run) - 1} more on its line are one piece of steel",
                "Nothing holds the nodes between them. Each is verified on the safe side, as if under a uniform moment, and some of what "
                "is checked of a whole member is not covered: as one member they are verified as what they are.",
                tuple(m.name for m in members),
                (),
                placed(structure.xyz[members[0].nodes[-1]]),
                "join" if by_hand else "",
            )
        )
    return found


def _loose_nodes(structure: Structure) -> list[Snag]:
    """Nodes that no member meets."""
    met = np.zeros(len(structure.nodes), dtype=bool)
    met[structure.segments.ravel()] = True
    for membrane in structure.membranes:
        met[list(membrane.nodes)] = True
    for slab in structure.slabs:
        met[slab.nodes[slab.nodes >= 0]] = True
    corners = {n for floor in structure.diaphragms for n in floor}
    return [
        Snag(
            "loose node",
            "note",
            f"No member meets node “{structure.nodes[node]}”",
            "It takes no part in the analysis, and no load may act on it.",
            (),
            (structure.nodes[node],),
            placed(structure.xyz[node]),
        )
        for node in np.flatnonzero(~met).tolist()
        if node not in corners
    ]


def _leaning_feet(structure: Structure) -> list[Snag]:
    """Columns that nothing but their clamped feet holds along X or Y: cantilevers that way."""
    found = []
    for axis, name in ((0, "X"), (1, "Y")):
        own = held_by_nothing(structure, axis, feet_hold=False) - held_by_nothing(structure, axis, feet_hold=True)
        if own:
            first = min(own)
            found.append(
                Snag(
                    "cantilevers",
                    "doubt",
                    f"{len(own)} column{'s stand' if len(own) > 1 else ' stands'} along {name} by clamped feet alone: “{first}”"
                    + (" …" if len(own) > 1 else ""),
                    f"Without bracing along {name} they are cantilevers: their effective length is twice their height, and the "
                    "bases bear all of the wind that way.",
                    tuple(sorted(own)),
                    (),
                    placed(structure.xyz[list(structure.member(first).nodes)].mean(axis=0)),
                )
            )
    return found


def _panels(structure: Structure) -> list[Snag]:
    return [
        Snag(
            "no carrier",
            "fault",
            f"Nothing carries the panel “{p.name}”",
            "Its weight, snow and wind would be lost. Put back the members that carried it, or drop the panel.",
            (),
            (),
            placed(p.corners.mean(axis=0)),
        )
        for p in structure.panels
        if not p.carriers and p.plate is None
    ] + [
        Snag(
            "one edge",
            "fault",
            f"The panel “{p.name}” rests on one edge",
            "What it bears lies beside that edge: it would tip over, and its moment reaches nothing. Carry it on both sides.",
            tuple(p.carriers[:4]),
            (),
            placed(p.corners.mean(axis=0)),
        )
        for p in structure.panels
        if p.carriers
        and p.plate is None
        and p.grounded is None
        and p.place != "overhang"
        and _on_one_line(structure, p)
    ]


def _on_one_line(structure: Structure, panel: Panel) -> bool:
    """Whether all carriers of a panel lie in one line, off its middle."""
    own = [structure.members[structure.index[name]] for name in panel.carriers if name in structure.index]
    points = np.array([structure.xyz[n] for m in own for n in (m.nodes[0], m.nodes[-1])])
    if not len(points):
        return False
    flat = panel.flat(points)
    spread = np.linalg.svd(flat - flat.mean(axis=0), compute_uv=False)
    if spread[-1] > 0.05:
        return False
    along = flat[1] - flat[0]
    across = np.array([-along[1], along[0]]) / max(float(np.linalg.norm(along)), 1e-9)
    sides = (panel.flat(panel.corners) - flat[0]) @ across
    return bool(min(sides) > -0.05 or max(sides) < 0.05)
