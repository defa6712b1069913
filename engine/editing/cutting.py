"""Dividing, joining and trimming members by hand, with what they bear."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.document import references
from engine.document.base import Freedom
from engine.document.byhand import MemberInput, Offset, Releases
from engine.document.loads import MemberLoad
from engine.editing.operations import Cross, Divide, Join, Rejoin, Trim
from engine.editing.work import SAME, Work
from engine.errors import ModelError
from engine.structure.axes import local_axes
from engine.structure.model import Floats

#: restraints of the flanges between the ends of a member
RESTRAINTS = ("restraints_outer", "restraints_inner")
#: what members that are joined share, in words
UNLIKE = {"sections": "section", "materials": "material", "behaviours": "behaviour", "bearings on columns": "bears_at"}
#: how far the axes of their sections may differ
TURNED = 1e-4


class Cutting(Work):
    """The operations that make several members of one, and one of several."""

    def _divide(self, o: Divide) -> None:
        if not o.at and o.parts is None:
            raise ModelError("Into how many parts, or at which shares of the length?", "parts")
        shares = sorted(set(o.at)) or [k / (o.parts or 1) for k in range(1, o.parts or 1)]
        for name in o.members:
            a, b = self.ends(name)
            places = [a + (b - a) * share for share in shares]
            if not o.cut:
                for place in places:
                    self.node(place)
                continue
            m = self.free(name, "cut")
            if m.end_section:
                raise ModelError(f"“{name}” tapers, so it cannot be cut.", name)
            like = self.like(name)
            length = float(np.linalg.norm(b - a))
            bounds = [0.0, *(length * share for share in shares), length]
            if min(np.diff(bounds)) < 3 * SAME:
                raise ModelError(f"“{name}” would be cut into a part shorter than {3000 * SAME:g} mm.", name)
            whole = m.releases
            stops = [m.start, *(self.node(place) for place in places), m.end]
            self._remove_only(name)
            last, made = len(stops) - 2, []
            for k, (start, end) in enumerate(zip(stops[:-1], stops[1:], strict=True)):
                ends = Releases(
                    start=whole.start if k == 0 else [],
                    end=whole.end if k == last else [],
                    start_springs=whole.start_springs if k == 0 else {},
                    end_springs=whole.end_springs if k == last else {},
                )
                haunches = {
                    "haunch_start": m.haunch_start if k == 0 else None,
                    "haunch_end": m.haunch_end if k == last else None,
                }
                own_part = bounds[k], bounds[k + 1]
                held = {key: _within(like[key], *own_part) for key in RESTRAINTS}
                share = round((own_part[1] - own_part[0]) / length, 12)
                checks = m.checks and m.checks.over(share).between(*own_part)
                own = {"releases": ends, "checks": checks}
                if found := self.add(start, end, like | own | haunches | held):
                    made.append(found.name)
            self._divide_loads(name, made, bounds)
            references.split(self.document, "member", {name: made})

    def _divide_loads(self, name: str, made: list[str], bounds: list[float]) -> None:
        """Loads on a member that is now several, in its direction, between these places: each takes what lies on it."""
        length = bounds[-1]
        kept: list[MemberLoad] = []
        for load in self.document.member_loads:
            if load.member != name or load.run:
                if name in (load.member, *load.run):
                    names = [load.member, *load.run]
                    at = names.index(name)
                    onward = (
                        self._meets(made[-1], names[at + 1]) if names[at + 1 :] else self._meets(made[0], names[at - 1])
                    )
                    ordered = made if onward else made[::-1]
                    load.member, *load.run = [*names[:at], *ordered, *names[at + 1 :]]
                kept.append(load)
                continue
            scale = length if load.ratio else 1.0
            start, end = load.start * scale, length if load.end is None else load.end * scale
            for k, new in enumerate(made):
                a, b = bounds[k], bounds[k + 1]
                values: dict[str, Any] = {"member": new, "ratio": False}
                if load.kind == "temperature":
                    values = {"member": new}
                elif load.kind == "line":
                    low, high = max(start, a), min(end, b)
                    if high - low < 1e-9:
                        continue
                    first, last = np.array(load.value), np.array(load.value_end or load.value)
                    ends = [first + (last - first) * (x - start) / (end - start) for x in (low, high)]
                    values |= {"start": low - a, "end": high - a, "value": tuple(ends[0].tolist())}
                    values["value_end"] = tuple(ends[1].tolist()) if load.value_end else None
                elif not (a <= start < b or (k == len(made) - 1 and start >= b)):
                    continue
                else:
                    values |= {"start": min(start - a, b - a), "end": None}
                kept.append(load.model_copy(update=values))
        self.document.member_loads = kept

    def _meets(self, part: str, other: str) -> bool:
        """Whether a part of what was cut, its first or its last, ends where another member does."""
        own = self.stated[part]
        return any(
            np.abs(self.at[node] - point).max() < SAME for node in (own.start, own.end) for point in self.ends(other)
        )

    def _remove_only(self, name: str) -> None:
        self.document.members = [m for m in self.document.members if m.name != name]
        del self.stated[name]

    def _join(self, o: Join) -> None:
        members = [self.free(name, "joined") for name in o.members]
        counts: dict[str, int] = {}
        for m in members:
            for node in (m.start, m.end):
                counts[node] = counts.get(node, 0) + 1
        loose = [node for node, count in counts.items() if count == 1]
        points = np.array([self.at[node] for node in counts])
        if len(loose) != 2 or max(counts.values()) > 2:
            raise ModelError("The members do not follow one another end to end.", "members")
        a, b = (self.at[node] for node in loose)
        unit = (b - a) / np.linalg.norm(b - a)
        off = points - a - ((points - a) @ unit)[:, None] * unit
        if np.linalg.norm(off, axis=1).max() > SAME:
            raise ModelError("The members do not lie on one line.", "members")
        self._refuse_unlike(members, loose)
        first = next(m for m in members if loose[0] in (m.start, m.end))
        start = loose[0] if first.start == loose[0] else loose[1]
        end = loose[1] if start == loose[0] else loose[0]
        like = self.like(first.name) | self._join_restraints(members, self.at[start], self.at[end])
        like["releases"] = _join_releases(members, start, end)
        if first.checks:
            before, after = (
                np.linalg.norm(self.at[b] - self.at[a]) for a, b in ((first.start, first.end), (start, end))
            )
            # of one that lies the other way the segments are counted from its other end
            like["checks"] = first.checks.over(float(after / before)).between(
                0.0, float(before) if first.start == start else 0.0
            )
        like["haunch_start"] = next((m.haunch_start for m in members if m.start == start), None)
        like["haunch_end"] = next((m.haunch_end for m in members if m.end == end), None)
        self._join_loads(members, first.name, self.at[start], self.at[end])
        for m in members:
            self._remove_only(m.name)
        references.rename(self.document, "member", {m.name: first.name for m in members})
        for panel in self.document.panels:
            panel.carriers = list(dict.fromkeys(panel.carriers))
            panel.excluded = list(dict.fromkeys(panel.excluded))
        for kept in self.document.sets:
            kept.members = list(dict.fromkeys(kept.members))
        self.document.members.append(MemberInput(**{**like, "name": first.name, "start": start, "end": end}))
        self.sweep()

    def _refuse_unlike(self, members: list[MemberInput], loose: list[str]) -> None:
        """Members that are not of one kind, one of which would silently become what the others are. loose: the nodes at their ends."""
        for words, of in UNLIKE.items():
            said = {str(getattr(m, of)) for m in members}
            if len(said) > 1:
                raise ModelError(f"The members have different {words}: {', '.join(sorted(said))}.", "members")
        first = members[0]
        way = self.at[first.end] - self.at[first.start]
        for m in members:
            if m.end_section:
                raise ModelError(f"“{m.name}” tapers, so it cannot be joined.", m.name)
            if (m.haunch_start and m.start not in loose) or (m.haunch_end and m.end not in loose):
                raise ModelError(f"“{m.name}” has a haunch where it meets the next one.", m.name)
            if not np.allclose(self._upright(m), self._upright(first), atol=TURNED):
                raise ModelError(f"“{m.name}” lies turned another way about its axis than “{first.name}”.", m.name)
            backward = (self.at[m.end] - self.at[m.start]) @ way < 0
            beside = m.align != "centre" or m.offset != Offset()
            if (m.align, m.offset) != (first.align, first.offset) or (beside and backward):
                raise ModelError(f"“{m.name}” lies otherwise beside its nodes than “{first.name}”.", m.name)

    def _upright(self, m: MemberInput) -> Floats:
        """The way in which its local z points."""
        return np.asarray(local_axes(self.at[m.start][None], self.at[m.end][None], np.radians([m.roll]))[0, 2])

    def _join_restraints(self, members: list[MemberInput], start: Floats, end: Floats) -> dict[str, list[float]]:
        """Where flanges of members that become one are held between its ends: where they were."""
        way = (end - start) / np.linalg.norm(end - start)
        found: dict[str, list[float]] = {}
        for key in RESTRAINTS:
            places = []
            for m in members:
                a, b = (float((self.at[n] - start) @ way) for n in (m.start, m.end))
                places += [a + (x if b > a else -x) for x in self.like(m.name)[key]]
            found[key] = sorted(places)
        return found

    def _join_loads(self, members: list[MemberInput], name: str, start: Floats, end: Floats) -> None:
        """Loads on members that become one from start to end: they stay where they are."""
        way = (end - start) / np.linalg.norm(end - start)
        lies = {m.name: sorted(float((self.at[n] - start) @ way) for n in (m.start, m.end)) for m in members}
        backward = {m.name: float((self.at[m.end] - self.at[m.start]) @ way) < 0 for m in members}
        warm = [load for load in self.document.member_loads if load.kind == "temperature" and load.member in lies]
        for case in {load.case for load in warm}:
            own = [load for load in warm if load.case == case]
            if len(own) != len(members) or len({load.value for load in own}) > 1:
                raise ModelError(
                    "The members are not equally warm: make their temperatures alike before they are joined.", name
                )
            self.document.member_loads = [load for load in self.document.member_loads if load not in own[1:]]
        for load in self.document.member_loads:
            if load.run and lies.keys() & {load.member, *load.run}:
                raise ModelError(
                    f"A load runs over “{load.member}” and others: take it off before they are joined.", name
                )
            if load.member not in lies or load.kind == "temperature":
                continue
            if load.axes == "local" and backward[load.member]:
                raise ModelError(
                    f"A load in local axes lies on “{load.member}”, which runs the other way.", load.member
                )
            low, high = lies[load.member]
            length = high - low
            scale = length if load.ratio else 1.0
            a, b = load.start * scale, length if load.end is None else load.end * scale
            if backward[load.member]:
                a, b = length - b, length - a
                if load.kind != "line":
                    a = b
                if load.value_end is not None:
                    load.value, load.value_end = load.value_end, load.value
            load.start, load.ratio = low + a, False
            load.end = low + b if load.kind == "line" else None

    def _cross(self, o: Cross) -> None:
        put = 0
        for i, one in enumerate(o.members):
            for other in o.members[i + 1 :]:
                place = _crossing(self.ends(one), self.ends(other), within=True)
                if place is not None:
                    self.node(place)
                    put += 1
        if not put:
            raise ModelError("These members do not cross.", "members")

    def _trim(self, o: Trim) -> None:
        target = self.ends(o.to)
        for name in o.members:
            m = self.free(name, "trimmed")
            own = self.ends(name)
            place = _crossing(own, target, within=False)
            if place is None:
                raise ModelError(f"The lines of “{name}” and “{o.to}” do not meet.", name)
            near = int(np.argmin(np.linalg.norm(own - place, axis=1)))
            if np.linalg.norm(own[1 - near] - place) < SAME:
                raise ModelError(f"“{name}” would have no length.", name)
            node = self.node(place)
            if near == 0:
                m.start = node
            else:
                m.end = node
            self._keep_places(m, own)
        self.sweep()

    def _keep_places(self, m: MemberInput, before: Floats) -> None:
        """Loads and restraints of a member of which an end has moved stay where they were, seen from the end that has not: of one whose start
        has moved they are counted from there. before: (2, 3) where it started and ended. What holds its flanges beyond an end is gone; a
        load there is refused where it is put."""
        after = np.array([self.at[m.start], self.at[m.end]])
        old, new = (float(np.linalg.norm(ends[1] - ends[0])) for ends in (before, after))
        moved = [np.linalg.norm(after[k] - before[k]) > SAME for k in (0, 1)]
        shift = new - old if moved == [True, False] else 0.0
        for key in RESTRAINTS:
            setattr(m, key, [x + shift for x in getattr(m, key) if SAME < x + shift < new - SAME])
        for load in self.document.member_loads if shift else ():
            if load.member != m.name or load.run or load.ratio or load.kind == "temperature":
                # shares of the length stay shares of it
                continue
            if load.kind == "line" and load.start == 0 and load.end is None:
                # all along
                continue
            start, end = load.start + shift, (old if load.end is None else load.end) + shift
            if start < -SAME:
                raise ModelError(f"A load lies where “{m.name}” would no longer be.", m.name)
            load.start = max(start, 0.0)
            load.end = end if load.kind == "line" else None

    def _rejoin(self, o: Rejoin) -> None:
        own = self.member(o.member)
        ends = [self.structure.nodes[n] for n in (own.nodes[0], own.nodes[-1])]
        start = ends[0] if o.start is None else self.point(o.start, "start")
        end = ends[1] if o.end is None else self.point(o.end, "end")
        if start == end:
            raise ModelError(f"“{o.member}” would have no length.", o.member)
        before = self.ends(o.member)
        if o.member in self.stated:
            self.stated[o.member].start, self.stated[o.member].end = start, end
            self._keep_places(self.stated[o.member], before)
            self.sweep()
            return
        made = self.add(start, end, self.like(o.member))
        assert made is not None
        own_name = o.member.replace("/", " ")
        if own_name not in self.structure.index and own_name not in self.stated:
            made.name = own_name
        # what is edited of it went into its likeness
        self.document.edits = [e for e in self.document.edits if e.member != o.member]
        self.edits.pop(o.member, None)
        references.rename(self.document, "member", {o.member: made.name})
        self._keep_places(made, before)
        self.edit(o.member).removed = True


def _within(places: list[float], start: float, end: float) -> list[float]:
    """Places between two others, from the first of them."""
    return [x - start for x in places if start + SAME < x < end - SAME]


def _join_releases(members: list[MemberInput], start: str, end: str) -> Releases:
    """Those of the ends of what members become. Raises ModelError for members that are hinged to each other."""
    at: dict[str, tuple[list[Freedom], dict[Freedom, float]]] = {}
    for m in members:
        r = m.releases
        for node, free, springs in ((m.start, r.start, r.start_springs), (m.end, r.end, r.end_springs)):
            if node in (start, end):
                at[node] = (free, springs)
            elif free or springs:
                raise ModelError(f"“{m.name}” is released where it meets the next one.", m.name)
    return Releases(start=at[start][0], end=at[end][0], start_springs=at[start][1], end_springs=at[end][1])


def _crossing(one: Floats, other: Floats, within: bool) -> Floats | None:
    """Where two lines meet; `within`: between the ends of both, else anywhere on the first and on the second's length."""
    u, v, w = one[1] - one[0], other[1] - other[0], one[0] - other[0]
    uu, vv, uv, uw, vw = u @ u, v @ v, u @ v, u @ w, v @ w
    det = uu * vv - uv**2
    if det < 1e-9 * uu * vv:
        return None
    s, t = (uv * vw - vv * uw) / det, (uu * vw - uv * uw) / det
    if np.linalg.norm(w + s * u - t * v) > 2 * SAME:
        return None
    inside = -1e-6 < t < 1 + 1e-6
    if within and not (inside and -1e-6 < s < 1 + 1e-6):
        return None
    point: Floats = other[0] + t * v
    return point
