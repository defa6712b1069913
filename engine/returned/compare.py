"""What differs between a model that was sent and the one that came back, and what of it still differs from the one that stands."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np

from engine.document.byhand import BuiltSection
from engine.errors import ModelError
from engine.returned.axes import AGREE, FIT, NEAR, moved_nodes, sent_axes
from engine.returned.made import haunches, made_of, plated
from engine.returned.model import Comparison, Difference, ReturnedMember, ReturnedModel
from engine.returned.pieces import Cut, put_together
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure
from engine.structure.words import label

#: steel that is shorter is a part of a joint, metres
LEAST = 0.4
#: a file without this many members, and more than this share of them, bears a part of the model
MANY, PART = 10, 0.2
#: gives the name of the member whose identity that is, None where it is nobody's
Named = Callable[[str], str | None]


def compare(model: ReturnedModel, named: Named, sent: Structure, stands: Structure) -> Comparison:
    """The differences that came, of what was sent, as they are from what stands. What differs for changes made here alone is none of them;
    what is the same here by now is counted. Raises ModelError for a model of which no member is known."""
    theirs = differences(model, named, sent)
    if sent is stands:
        return theirs
    now = differences(model, named, stands)
    before = {d.key: d for d in theirs.differences}
    found = [
        replace(d, meanwhile="" if before[d.key].was == d.was else before[d.key].was)
        for d in now.differences
        if d.key in before
    ]
    still = {d.key for d in found}
    lost = [d for d in theirs.differences if d.key not in still and any(n not in stands.index for n in d.members)]
    axes = sent_axes(stands)[0]
    gone = [d for d in lost if d.kind not in ("removed", "moved") and not _lies(axes, d)]
    there = {*stands.nodes, *stands.aliases}
    gone += [d for d in theirs.differences if d.kind == "moved" and d.key not in still and d.node not in there]
    found += [replace(d, takes=False, shared="", now=f"{d.now}; what it is of is gone here since") for d in gone]
    now.differences = found
    now.already = len(theirs.differences) - len(found)
    return now


def _lies(axes: Floats, d: Difference) -> bool:
    """Whether a member stands here where a difference puts it, within what joints take."""
    if d.kind != "placed":
        return False
    off = [np.linalg.norm(axes[:, way] - np.array(d.lines[0]), axis=2).max(axis=1) for way in ([0, 1], [1, 0])]
    return bool(np.minimum(*off).min(initial=np.inf) <= FIT)


def differences(model: ReturnedModel, named: Named, structure: Structure) -> Comparison:
    """All differences of a model from a structure."""
    members: dict[int, ReturnedMember] = {}
    others = []
    for member in model.members:
        name = named(member.identity)
        if name in structure.index:
            members[structure.index[name]] = member
        elif name is None:
            others.append(member)
    if not members:
        raise ModelError(
            "No member of the file bears an identity of this project's: it is no model that was sent from here. It can be imported instead."
        )
    axes, aside = sent_axes(structure)
    came, turned_round = _as_sent(axes, members)
    cut = put_together(axes, members, others, came)
    moved = moved_nodes(structure, axes, cut.came, cut.known)
    away = {end for _, ends in moved.values() for end in ends}
    steps = {node: step for node, (step, _) in moved.items() if step.any()}
    unread = {named(identity) for identity in model.unread}
    found = Comparison()
    told = found.differences
    missing: list[int] = []
    plates = {one.name: one for one in model.built}
    bears = any(m.haunches for m in model.members)
    for node, step in steps.items():
        told.append(_moved(structure, node, step, cut))
    for i in sorted({member for member, _ in away}):
        told.append(_placed(structure, i, [e for e in (0, 1) if (i, e) in away], cut.came[i] - aside[i], steps))
    unturned = {i for i, _ in away} | {i for node in steps for i in structure.meeting[node]} | turned_round
    for i, m in enumerate(structure.members):
        if i in members:
            pieces = {members[i].section, *(cut.split[i][1] if i in cut.split else ())}
            told.extend(made_of(structure, i, members[i], plates, len(pieces) == 1, i not in unturned))
            if bears and i not in cut.split:
                told.extend(haunches(structure, i, members[i], i in turned_round))
        if i in cut.split:
            told.append(_split(structure, i, *cut.split[i]))
        elif i in cut.joined:
            whole = label(structure.members[cut.joined[i]])
            told.append(
                Difference(
                    f"joined:{m.name}",
                    "joined",
                    label(m),
                    "its own piece",
                    f"one piece with {whole}",
                    "",
                    (m.name,),
                    takes=False,
                )
            )
        elif not cut.known[i] and m.name not in unread and m.behaviour != "rigid link" and m.role != "deck":
            missing.append(i)
    told.extend(_missing(structure, missing, axes))
    long = [o for o in cut.rest if np.linalg.norm(np.subtract(o.end, o.start)) >= LEAST]
    told.extend(_added(structure, other, plates) for other in long)
    found.short = len(cut.rest) - len(long)
    found.fitted, found.farthest = _fitted(
        axes, cut, away | {(i, e) for node in steps for i in structure.meeting[node] for e in (0, 1)}
    )
    return found


def _as_sent(axes: Floats, members: Mapping[int, ReturnedMember]) -> tuple[Floats, set[int]]:
    """(members, 2, 3): axes as they came, from the end that was sent as the start; and those that came the other way round."""
    came, turned = axes.copy(), set()
    for i, member in members.items():
        own = np.array([member.start, member.end])
        if np.linalg.norm(own[::-1] - axes[i]) < np.linalg.norm(own - axes[i]):
            own = own[::-1]
            turned.add(i)
        came[i] = own
    return came, turned


def _pairs(axis: Floats) -> tuple[tuple[tuple[float, float, float], tuple[float, float, float]], ...]:
    start, end = (_at(p) for p in axis)
    return ((start, end),)


def _at(place: Floats) -> tuple[float, float, float]:
    x, y, z = (round(float(v), 4) for v in place)
    return x, y, z


def in_words(step: Floats) -> str:
    """A step as said on site, in millimetres: “150 mm lower”, “by (20, 0, −5) mm”."""
    x, y, z = (round(float(v) * 1000) for v in step)
    if not x and not y:
        return f"{abs(z)} mm {'lower' if z < 0 else 'higher'}"
    words = [f"{axis} {value:+d} mm".replace("-", "−") for axis, value in zip("XYZ", (x, y, z), strict=True) if value]
    return "by " + ", ".join(words)


def _node(structure: Structure, node: int) -> str:
    """A node by the members that meet there: “foot of Column 3·A”."""
    meeting = [structure.members[i] for i in structure.meeting[node]]
    first = next((m for m in meeting if m.role in ("column", "gable post")), meeting[0])
    own = structure.xyz[[first.nodes[0], first.nodes[-1]]]
    here = structure.xyz[node]
    if first.nodes[0] != node != first.nodes[-1]:
        end = "node on"
    elif abs(own[1, 2] - own[0, 2]) > np.linalg.norm(own[1, :2] - own[0, :2]):
        end = "foot of" if here[2] <= own[:, 2].min() + NEAR else "head of"
    else:
        end = "start of" if first.nodes[0] == node else "end of"
    return f"{end} {label(first)}"


def _moved(structure: Structure, node: int, step: Floats, cut: Cut) -> Difference:
    meeting = structure.meeting[node]
    words = _node(structure, node)
    x, y, z = structure.xyz[node]
    return Difference(
        f"moved:{structure.nodes[node]}",
        "moved",
        words[0].upper() + words[1:],
        f"at X {x:.3f}, Y {y:.3f}, Z {z:.3f} m",
        in_words(step),
        in_words(step),
        tuple(structure.members[i].name for i in meeting),
        node=structure.nodes[node],
        step=_at(step),
        lines=tuple(pair for i in meeting if cut.known[i] for pair in _pairs(cut.came[i])),
    )


def _placed(structure: Structure, i: int, away: list[int], axis: Floats, steps: Mapping[int, Floats]) -> Difference:
    """A member of which ends lie elsewhere than their nodes."""
    m = structure.members[i]
    spots = [
        _spot(structure, axis[e], {i}) if e in away else (structure.nodes[m.nodes[-e]], _node(structure, m.nodes[-e]))
        for e in (0, 1)
    ]
    own = [structure.nodes[m.nodes[0]], structure.nodes[m.nodes[-1]]]
    was = " to ".join(_node(structure, n) for n in (m.nodes[0], m.nodes[-1]))
    off = np.array([axis[e] - structure.xyz[m.nodes[-e]] - steps.get(m.nodes[-e], 0.0) for e in away])
    if [spot for spot, _ in spots] == own:
        return _set_off(structure, m, was, off, axis)
    now = " to ".join(words for _, words in spots)
    whole = len(off) == 2 and np.abs(off[0] - off[1]).max() < AGREE
    return Difference(
        f"placed:{m.name}",
        "placed",
        label(m),
        was,
        now,
        in_words(off[0]) if whole else "",
        (m.name,),
        start=spots[0][0] if 0 in away else None,
        end=spots[1][0] if 1 in away else None,
        lines=_pairs(axis),
        takes=spots[0][0] != spots[1][0],
    )


def _set_off(structure: Structure, m: Member, was: str, off: Floats, axis: Floats) -> Difference:
    """A member whose axis lies beside its nodes: all along by the same is an eccentricity that it may bear, by one end alone is none."""
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    own = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    far = np.linalg.norm(off, axis=1).max() * 1000
    step = off.mean(axis=0)
    whole = len(off) == 2 and np.abs(off[0] - off[1]).max() < AGREE and abs(float(step @ own[0])) < AGREE
    takes = whole and not m.pieces
    y, z = float(step @ own[1]), float(step @ own[2])
    words = f"its axis lies up to {far:.0f} mm beside its nodes: an eccentricity that the model does not bear"
    if takes:
        words = f"its axis lies {far:.0f} mm beside its nodes: by {y * 1000:+.0f} mm along its y, {z * 1000:+.0f} mm along its z"
    offset = (round(m.offset[0] + y, 4), round(m.offset[1] + z, 4)) if takes else None
    return Difference(
        f"placed:{m.name}",
        "set off",
        label(m),
        was,
        words.replace("-", "−"),
        "",
        (m.name,),
        offset=offset,
        lines=_pairs(axis),
        takes=takes,
    )


def _spot(structure: Structure, at: Floats, but: set[int]) -> tuple[str | tuple[float, float, float], str]:
    """What a place means: a node within reach, a place on the line of a member, else just that place; and in words."""
    away = np.linalg.norm(structure.xyz - at, axis=1)
    node = int(np.argmin(away))
    if away[node] <= FIT:
        return structure.nodes[node], _node(structure, node)
    ends = structure.xyz[structure.ends]
    way = ends[:, 1] - ends[:, 0]
    share = np.clip(np.einsum("mj,mj->m", at - ends[:, 0], way) / np.einsum("mj,mj->m", way, way), 0, 1)
    foot = ends[:, 0] + share[:, None] * way
    off = np.linalg.norm(foot - at, axis=1)
    off[list(but)] = np.inf
    near = int(np.argmin(off))
    if off[near] <= FIT:
        return _at(
            foot[near]
        ), f"{share[near] * np.linalg.norm(way[near]):.2f} m along {label(structure.members[near])}"
    x, y, z = _at(at)
    return (x, y, z), f"X {x:.3f}, Y {y:.3f}, Z {z:.3f} m, where nothing is"


def _split(structure: Structure, i: int, places: list[float], sections: list[str]) -> Difference:
    m = structure.members[i]
    if len(set(sections)) > 1:
        now = f"pieces of {', '.join(sections)}: cut the member here first, then its parts can be given them"
    elif places:
        now = (
            f"{len(sections)} pieces, cut at {', '.join(f'{x:.2f}' for x in places)} m: the same steel, nothing to take"
        )
    else:
        now = "another part in its place: the same steel, nothing to take"
    return Difference(f"split:{m.name}", "split", label(m), m.section.name, now, now, (m.name,), takes=False)


def _missing(structure: Structure, missing: list[int], axes: Floats) -> list[Difference]:
    """Members that did not come back. Where many did not, the file bears a part of the model: nobody removes a building by leaving it out."""
    part = len(missing) >= MANY and len(missing) > PART * len(structure.members)
    now = "is not in the file, which bears a part of the model alone: nothing to take" if part else "is not there"
    found = []
    for i in missing:
        m = structure.members[i]
        key, axis = f"removed:{m.name}", _pairs(axes[i])
        found.append(
            Difference(
                key, "removed", label(m), m.section.name, now, m.section.name, (m.name,), lines=axis, takes=not part
            )
        )
    return found


def _added(structure: Structure, came: ReturnedMember, plates: Mapping[str, BuiltSection]) -> Difference:
    """A member of their own."""
    built = plated(structure, plates, came.section)
    came = came.model_copy(update={"section": built.name}) if built else came
    ends = np.array([came.start, came.end])
    spots = [_spot(structure, end, set()) for end in ends]
    return Difference(
        f"added:{came.identity}",
        "added",
        came.called,
        "is not there",
        f"{came.section} from {spots[0][1]} to {spots[1][1]}, hinged at both ends",
        start=spots[0][0],
        end=spots[1][0],
        added=came,
        built=built,
        lines=_pairs(ends),
        takes=spots[0][0] != spots[1][0],
    )


def _fitted(axes: Floats, cut: Cut, but: set[tuple[int, int]]) -> tuple[int, float]:
    """Ends that lie elsewhere on their axis than they were sent."""
    span = axes[:, 1] - axes[:, 0]
    way = span / np.linalg.norm(span, axis=1, keepdims=True)
    along = np.abs(np.einsum("mej,mj->me", cut.came - axes, way))
    along[~cut.known] = 0.0
    for i, end in but:
        along[i, end] = 0.0
    fits = along[(along > NEAR) & (along <= FIT)]
    return len(fits), float(fits.max(initial=0.0))
