"""Members cut in pieces and joined again bear what they bore, and what would silently become something else is refused."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.document import Document, read_document
from engine.editing.apply import operate
from engine.editing.operations import Divide, Join, Trim
from engine.errors import ModelError
from tests.engine.helpers import FIXED, by_case

#: of three members in a line, whether each is drawn backwards; shares of the loads and of the cuts
BACKWARDS = st.lists(st.booleans(), min_size=3, max_size=3)
SHARES = st.lists(st.sampled_from([k / 20 for k in range(21)]), min_size=4, max_size=4)
CUTS = st.lists(st.sampled_from([0.1, 0.25, 0.5, 0.65, 0.9]), min_size=1, max_size=3, unique=True)


def line(backwards=(False, False, False), loads=(), **more: Any) -> Document:
    """Three members of 3, 4 and 5 m in a line that rises, clamped at its start and held at its end."""
    at = np.array([0.0, 3.0, 7.0, 12.0])[:, None] * np.array([0.8, 0.0, 0.6])
    members = [
        {"name": f"m{k}", "start": f"n{k + back}", "end": f"n{k + 1 - back}", "section": "IPE 300", "material": "S235"}
        for k, back in enumerate(map(int, backwards))
    ]
    for name, changes in more.items():
        members[int(name[1])] |= changes
    return read_document(
        {
            "nodes": [{"name": f"n{k}", "at": point.round(9).tolist()} for k, point in enumerate(at)],
            "members": members,
            "supports": [{"node": "n0", "fixed": FIXED}, {"node": "n3", "fixed": ["x", "y", "z"]}],
            "cases": [{"name": "c"}],
            "member_loads": [{"case": "c"} | load for load in loads],
        }
    )


def borne(document: Document) -> tuple[list[float], list[float], list[float]]:
    """What the loads come to in N, the reactions, and the movements of the nodes that were there first, mm."""
    solved = by_case(document)
    case = next(k for k, c in enumerate(solved.loading.cases) if c.name == "c")
    # by place: joined and cut again they have other names
    at = np.array([0.0, 3.0, 7.0, 12.0])[:, None] * np.array([0.8, 0.0, 0.6])
    nodes = [int(np.linalg.norm(solved.structure.xyz - point, axis=1).argmin()) for point in at]
    held = solved.response.reaction[nodes, :, case]
    moved = solved.response.displacement[nodes, :, case]
    return solved.loading.expected[case].tolist(), held.ravel().tolist(), (moved * 1e3).ravel().tolist()


class Cut(unittest.TestCase):
    def same(self, one: Document, other: Document) -> None:
        for before, after in zip(borne(one), borne(other), strict=True):
            np.testing.assert_allclose(after, before, rtol=1e-6, atol=1e-6 * max(map(abs, before)))

    @settings(max_examples=60, deadline=None)
    @given(BACKWARDS, SHARES, CUTS, st.integers(0, 2))
    def test_loads_stay_where_they_are(self, backwards, shares, cuts, which):
        a, b, c, d = shares
        low, high = (min(a, b), max(a, b)) if a != b else (0.0, 1.0)
        loads = [
            {"member": "m0", "run": ["m1", "m2"], "kind": "line", "value": [1, 2, -3], "value_end": [2, 0, -1]}
            | {"start": low, "end": high, "ratio": True},
            {"member": "m1", "kind": "force", "value": [1, 2, -3], "start": c, "ratio": True},
            {"member": "m2", "kind": "moment", "value": [1, 2, -3], "start": 5 * d, "axes": "local"},
            {"member": "m2", "kind": "line", "value": [0, 1, -2], "value_end": [0, 0, -3], "axes": "projected"},
        ]
        whole = line(backwards, loads)
        self.same(whole, operate(whole, Divide(members=[f"m{which}"], at=cuts, cut=True)))

    @settings(max_examples=30, deadline=None)
    @given(BACKWARDS, SHARES)
    def test_joined_they_are_as_before(self, backwards, shares):
        loads = [
            {"member": f"m{k}", "kind": kind, "value": [1, 2, -3], "start": share, "ratio": True}
            for k, kind, share in zip((0, 1, 2, 2), ("force", "moment", "force", "moment"), shares, strict=True)
        ]
        three = line(backwards, loads)
        one = operate(three, Join(members=["m0", "m1", "m2"]))
        self.assertEqual(len(one.members), 1)
        # the places on its nodes are those of joints that no longer are
        kept = operate(
            one, Divide(members=["m0"], at=[3 / 12, 7 / 12] if one.members[0].start == "n0" else [5 / 12, 9 / 12])
        )
        self.same(three, kept)

    def test_cuts_beside_one_another_are_refused(self):
        # steel and load beyond them would be lost
        with self.assertRaisesRegex(ModelError, "“m1” would be cut into a part shorter than 3 mm"):
            operate(line(), Divide(members=["m1"], at=[0.5, 0.5002], cut=True))
        with self.assertRaisesRegex(ModelError, "shorter than 3 mm"):
            operate(line(), Divide(members=["m1"], at=[0.9999], cut=True))


class Trimmed(unittest.TestCase):
    """A beam along X from 0 to 6 m, trimmed to what crosses at 8 m or at 5 m: what lies on it stays there, whichever end is its start."""

    #: the same places from either end
    LOADS = [
        [
            {"kind": "line", "value": [0, 0, -1], "start": line, "end": line + 3},
            {"kind": "force", "value": [0, 0, -10], "start": force},
            {"kind": "line", "value": [0, 0, -2]},
            {"kind": "force", "value": [0, 0, -5], "start": 0.5, "ratio": True},
        ]
        for line, force in ((1.0, 4.5), (2.0, 1.5))
    ]

    def beam(self, backwards: bool, loads: Any = None) -> Document:
        loads = loads or self.LOADS[backwards]
        at = {"a": [0, 0, 0], "b": [6, 0, 0], "c": [8, -1, 0], "d": [8, 1, 0], "e": [5, -1, 0], "f": [5, 1, 0]}
        own = {"start": "b", "end": "a"} if backwards else {"start": "a", "end": "b"}
        members = [{"name": "m", **own, "restraints_outer": [2.0, 5.5]}]
        members += [{"name": "far", "start": "c", "end": "d"}, {"name": "near", "start": "e", "end": "f"}]
        return read_document(
            {
                "nodes": [{"name": name, "at": place} for name, place in at.items()],
                "members": [m | {"section": "IPE 300"} for m in members],
                "supports": [{"node": name, "fixed": FIXED} for name in "ace"],
                "cases": [{"name": "c"}],
                "member_loads": [{"case": "c", "member": "m"} | load for load in loads],
            }
        )

    def lies(self, document: Document) -> tuple[list[float], list[list[float]]]:
        """X of the restraints, and of starts and ends of loads."""
        structure = by_case(document).structure
        m = structure.member("m")
        a, b = (float(structure.xyz[node][0]) for node in (m.nodes[0], m.nodes[-1]))
        at = lambda x: round(a + (x if b > a else -x), 6)  # noqa: E731
        loads = [sorted(at(x) for x in (load.start, load.end) if x is not None) for load in document.member_loads[:2]]
        return sorted(at(x) for x in document.members[0].restraints_outer), loads

    def test_what_lies_on_it_stays(self):
        for backwards in (False, True):
            for to, held in (("far", lambda x: True), ("near", lambda x: x < 5)):
                with self.subTest(backwards=backwards, to=to):
                    before = self.beam(backwards)
                    restraints, loads = self.lies(before)
                    after = operate(before, Trim(members=["m"], to=to))
                    self.assertEqual(self.lies(after), ([x for x in restraints if held(x)], loads))
                    # what is stated all along or by a share of the length stays so
                    self.assertEqual(after.member_loads[2:], before.member_loads[2:])

    def test_a_load_where_it_would_no_longer_be_is_refused(self):
        loads = ({"kind": "force", "value": [0, 0, -10], "start": 0.5},)
        with self.assertRaisesRegex(ModelError, "A load lies where “m” would no longer be"):
            operate(self.beam(True, loads), Trim(members=["m"], to="near"))


class Joined(unittest.TestCase):
    def test_what_differs_is_refused_in_words(self):
        haunch = {"length": 0.5, "depth": 0.2}
        for change, words in (
            ({"m1": {"section": "IPE 330"}}, "different sections: IPE 300, IPE 330"),
            ({"m1": {"material": "S355"}}, "different materials: S235, S355"),
            ({"m1": {"behaviour": "bar"}}, "different behaviours: bar, beam"),
            ({"m1": {"roll": 90}}, "“m1” lies turned another way about its axis than “m0”"),
            ({"m1": {"align": "top flange"}}, "“m1” lies otherwise beside its nodes than “m0”"),
            ({"m1": {"offset": {"y": 0.05}}}, "“m1” lies otherwise beside its nodes than “m0”"),
            (
                {
                    "m0": {"section": "WI 300x200x8x12"},
                    "m1": {"section": "WI 300x200x8x12", "end_section": "WI 500x200x8x12"},
                },
                "“m1” tapers",
            ),
            ({"m1": {"haunch_start": haunch}}, "“m1” has a haunch where it meets the next one"),
        ):
            with self.subTest(words=words), self.assertRaisesRegex(ModelError, words):
                operate(line(**change), Join(members=["m0", "m1"]))

    def test_one_drawn_the_other_way_is_refused_where_it_would_be_turned_or_moved(self):
        backwards = (False, True, False)
        both = {"m0": {"roll": 30}, "m1": {"roll": 30}}
        with self.assertRaisesRegex(ModelError, "turned another way"):
            operate(line(backwards, **both), Join(members=["m0", "m1"]))
        # turned against one another they lie alike
        both["m1"] = {"roll": -30}
        self.assertEqual(len(operate(line(backwards, **both), Join(members=["m0", "m1"])).members), 2)
        aside = {"m0": {"offset": {"y": 0.05}}, "m1": {"offset": {"y": 0.05}}}
        with self.assertRaisesRegex(ModelError, "lies otherwise beside"):
            operate(line(backwards, **aside), Join(members=["m0", "m1"]))
        self.assertEqual(len(operate(line(**aside), Join(members=["m0", "m1"])).members), 2)


if __name__ == "__main__":
    unittest.main()
