"""What is mirrored or turned stands and bears as its first does, mirrored or turned: sections with a hand, offsets, springs, supports and loads."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.document import Document, read_document
from engine.editing.apply import operate
from engine.editing.operations import Copy, Mirror, Operation, Rotate
from engine.errors import ModelError
from tests.engine.helpers import FIXED, by_case

PLACES = np.array([[0, 0, 0], [3, 1, 1], [6, -1, 2], [6, -1, 5], [8, 3, 4]], dtype=float)
SECTIONS = st.sampled_from(["IPE 300", "UPE 200", "L 100x10", "CHS 139.7x6.3", "TEE 200x100x8x12"])
LYING = st.one_of(
    st.just({}),
    st.builds(lambda y, z: {"offset": {"y": y, "z": z}}, st.sampled_from([0.05, -0.1]), st.sampled_from([0.0, 0.07])),
    st.builds(
        lambda side: {"align": side}, st.sampled_from(["top flange", "bottom flange", "left side", "right side"])
    ),
)
MEMBERS = st.lists(
    st.tuples(SECTIONS, st.sampled_from([0, 30, 90, -45]), LYING, st.booleans(), st.booleans()), min_size=4, max_size=4
)
LOADS = st.lists(
    st.tuples(
        st.integers(0, 3),
        st.sampled_from(["line", "force", "moment", "temperature"]),
        st.sampled_from(["global", "local", "projected"]),
    ),
    min_size=1,
    max_size=4,
)
SUPPORTS = st.sampled_from(
    [
        {"fixed": ["x", "y", "z"]},
        {"fixed": ["z"], "springs": {"x": 300.0}},
        {"fixed": ["x", "rz"], "turn": 30, "springs": {"y": 200.0, "ry": 50.0}},
        {"fixed": ["x", "y", "z"], "settlement": [0.01, -0.02, -0.03]},
    ]
)
OPERATIONS = st.one_of(
    st.builds(lambda axis: Mirror(members=NAMES, axis=axis, at=20, supports=True, loads=True), st.sampled_from("XYZ")),
    st.builds(
        lambda axis, angle: Rotate(
            members=NAMES, about=(20, 20, 20), axis=axis, angle=angle, supports=True, loads=True
        ),
        st.sampled_from("XYZ"),
        st.sampled_from([37, 90, 180]),
    ),
    st.just(Copy(members=[f"m{k}" for k in range(4)], step=(30, 5, 1), loads=True)),
)
NAMES = [f"m{k}" for k in range(4)]


def chain_of(members: Any, loads: Any, support: Any = None) -> Document:
    """Four members one after another, one of them upright, clamped at the start and held at the end, which one case moves."""
    support = support or {"fixed": ["x", "y", "z"]}
    drawn = []
    for k, (section, roll, lying, backwards, sprung) in enumerate(members):
        ends = {"start": f"n{k + backwards}", "end": f"n{k + 1 - backwards}"}
        springs = {"releases": {"end_springs": {"ry": 500.0}}} if sprung else {}
        drawn.append({"name": f"m{k}", "section": section, "roll": roll, **ends, **lying, **springs})
    put = []
    for k, kind, axes in loads:
        load = {"case": "c", "member": f"m{k}", "kind": kind, "value": [1.5, -2, 3]}
        if kind != "temperature":
            load |= {"axes": axes, "start": 0.3, "ratio": True}
        elif members[k][0] != "CHS 139.7x6.3":
            load["value"] = [20, 5, -8]
        put.append(load | ({"value_end": [0, 1, 2]} if kind == "line" else {}))
    return read_document(
        {
            "nodes": [{"name": f"n{k}", "at": at} for k, at in enumerate(PLACES.tolist())],
            "members": drawn,
            "supports": [{"node": "n0", "fixed": FIXED}, {"node": "n4", **support}],
            "cases": [{"name": "c"}],
            "settlements": [{"case": "c", "node": "n4", "movement": [0.02 * ("y" in support["fixed"]), 0, 0]}],
            "member_loads": put,
            "node_loads": [{"case": "c", "node": "n2", "force": [1, 2, -3], "moment": [2, 1, -1]}],
        }
    )


def becomes(operation: Operation) -> tuple[np.ndarray, np.ndarray]:
    """(3, 3) and (3,): what becomes of a direction, and where the origin comes to."""
    if isinstance(operation, Copy):
        return np.eye(3), np.array(operation.step)
    axis = "XYZ".index(operation.axis)
    turned = np.eye(3)
    if isinstance(operation, Mirror):
        turned[axis, axis] = -1
        return turned, 2 * operation.at * np.eye(3)[axis]
    i, j = [(1, 2), (2, 0), (0, 1)][axis]
    c, s = np.cos(np.radians(operation.angle)), np.sin(np.radians(operation.angle))
    turned[[i, i, j, j], [i, j, i, j]] = c, -s, s, c
    about = np.array(operation.about)
    return turned, about - turned @ about


class Handed(unittest.TestCase):
    @settings(max_examples=120, deadline=None)
    @given(MEMBERS, LOADS, SUPPORTS, OPERATIONS)
    def test_it_bears_as_the_first_does(self, members, loads, support, operation):
        turned, moved = becomes(operation)
        try:
            solved = by_case(operate(chain_of(members, loads, support), operation))
        except ModelError as refused:
            # only what lies askew is
            self.assertIn("its axes would lie askew", str(refused))
            self.assertTrue(support.get("springs") and abs(turned[2, 2]) < 1)
            return
        names = [c.name for c in solved.loading.cases]
        for case in [names.index("c")] + ([names.index("Settlement")] if support.get("settlement") else []):
            self.bears(solved, case, turned, moved)

    def bears(self, solved, case, turned, moved):
        couple, xyz, found = turned * np.linalg.det(turned), solved.structure.xyz, solved.response
        for place in PLACES:
            i, j = (int(np.linalg.norm(xyz - at, axis=1).argmin()) for at in (place, turned @ place + moved))
            self.assertLess(np.linalg.norm(xyz[j] - turned @ place - moved), 1e-6)
            for values in (found.displacement[:, :, case], found.reaction[:, :, case]):
                expected = np.concatenate([turned @ values[i, :3], couple @ values[i, 3:]])
                scale = np.abs(values).max()
                np.testing.assert_allclose(values[j], expected, atol=1e-5 * scale)

    def test_what_no_turn_makes_is_refused(self):
        members = [(name, 0, {}, False, False) for name in ("IPE 300", "L 100x65x10", "IPE 300", "IPE 300")]
        with self.assertRaisesRegex(ModelError, "“m1” cannot be mirrored: the mirror image of L 100x65x10 is another"):
            operate(chain_of(members, []), Mirror(members=NAMES, axis="X", at=20))

    def test_restraints_of_a_flange_that_turns_over_go_along(self):
        # a channel whose flanges point to the other side is the same one turned over
        document = chain_of([("UPE 200", 0, {}, False, False)] * 4, [])
        document.members[0].restraints_outer = [1.0]
        copy = operate(document, Mirror(members=["m0"], axis="Y", at=20)).members[-1]
        self.assertEqual((copy.restraints_outer, copy.restraints_inner), ([], [1.0]))

    def test_what_pushes_back_alone_pushes_the_same_way_or_is_refused(self):
        pushed = {"fixed": ["x", "y", "z"], "one_way": ["x"], "turn": 20}
        document = chain_of([("IPE 300", 0, {}, False, False)] * 4, [], pushed)
        # its own x, at 20°, points to 160° where X is mirrored, to 200° and not to 20° where it is turned by 180°
        for operation, turn in (
            (Mirror(members=NAMES, axis="X", at=20, supports=True), 160),
            (Rotate(members=NAMES, about=(20, 20, 20), angle=180, supports=True), 200),
        ):
            self.assertAlmostEqual(operate(document, operation).supports[-1].turn, turn, 6)
        # its own y, at 110°, points to 70°
        document.supports[1].one_way = ["y"]
        mirrored = operate(document, Mirror(members=NAMES, axis="X", at=20, supports=True))
        self.assertAlmostEqual(mirrored.supports[-1].turn, 340, 6)
        document.supports[1].one_way, document.supports[1].turn = ["z"], 0
        mirrored = operate(document, Mirror(members=NAMES, axis="X", at=20, supports=True))
        self.assertEqual(mirrored.supports[-1].one_way, ["z"])
        with self.assertRaisesRegex(ModelError, "support of “.*” cannot be copied so: it would push down"):
            operate(document, Mirror(members=NAMES, axis="Z", at=20, supports=True))
        # a quarter about X brings Z to Y, or to −Y
        over = Rotate(members=NAMES, about=(20, 20, 20), axis="X", angle=-90, supports=True)
        self.assertEqual(operate(document, over).supports[-1].one_way, ["y"])
        with self.assertRaisesRegex(ModelError, "it would push the other way"):
            operate(document, over.model_copy(update={"angle": 90}))

    def test_a_level_beam_keeps_its_supports(self):
        # what stands on other steel has none, but a beam does not stand on itself
        document = chain_of([("IPE 300", 0, {}, False, False)] * 4, [])
        for k, at in enumerate(PLACES.tolist()):
            document.nodes[k].at = (at[0], at[1] + k, 0.0)
        copied = operate(document, Copy(members=NAMES, step=(0, 30, 0), count=2))
        self.assertEqual(len(copied.supports), 6)


if __name__ == "__main__":
    unittest.main()
