"""One structure stated in newton and in kilonewton; documents whose end springs were always in kN."""

import unittest

import numpy as np

from engine.chain import respond, run
from engine.document import Document, read_document
from engine.document.units import in_kilonewtons
from engine.result import result
from tests.engine.helpers import E, I

#: one of each thing that holds a force, in newton
IN_NEWTON = {
    "units": "N, m",
    "materials": [{"name": "m", "E": E, "G": E / 2.6, "fy": 355e6}, {"name": "soft", "E": E / 3}],
    "sections": [{"name": "s", "A": 5e-3, "Iy": I, "Iz": I / 3, "It": I / 90}],
    "nodes": [{"name": n, "at": list(at)} for n, at in {"a": (0, 0, 0), "b": (5, 0, 0), "c": (9, 0, 0)}.items()],
    "members": [
        {
            "name": "ab",
            "start": "a",
            "end": "b",
            "section": "s",
            "material": "m",
            "releases": {"start_springs": {"ry": 3e6}, "end": ["rz"]},
        },
        {"name": "bc", "start": "b", "end": "c", "section": "s", "material": "soft"},
    ],
    "supports": [
        {"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]},
        {"node": "b", "springs": {"z": 4e6, "y": 2e6}},
        {"node": "c", "fixed": ["y", "z", "rx"]},
    ],
    "cases": [{"name": "P"}, {"name": "T"}],
    "node_loads": [{"case": "P", "node": "b", "force": [1e4, 2e3, -3e4], "moment": [0, 5e3, 0]}],
    "member_loads": [
        {"case": "P", "member": "ab", "value": [0, 0, -4e3], "value_end": [0, 0, -8e3]},
        {"case": "P", "member": "bc", "kind": "force", "start": 1.0, "value": [0, 1e3, -9e3]},
        {"case": "T", "member": "ab", "kind": "temperature", "value": [30, 0, 0]},
    ],
    "settlements": [{"case": "T", "node": "c", "movement": [0, 0, -0.01]}],
    "combinations": [{"name": "c", "use": "strength", "factors": {"P": 1.35, "T": 1.0}}],
}


class Kilonewtons(unittest.TestCase):
    def setUp(self):
        self.newton = read_document(IN_NEWTON)
        self.kilonewton = in_kilonewtons(self.newton)

    def test_the_same_structure(self):
        one, other = respond(self.newton), respond(self.kilonewton)
        self.assertEqual(self.kilonewton.units, "kN, m")
        for name in ("displacement", "reaction", "end_force"):
            a, b = getattr(one.combined, name)([0]), getattr(other.combined, name)([0])
            self.assertGreater(np.abs(a).max(), 0)
            np.testing.assert_allclose(a, b, rtol=0, atol=1e-9 * np.abs(a).max())

    def test_results_are_told_in_the_unit_of_the_document(self):
        one, other = (result(run(d))["states"]["c"]["reactions"] for d in (self.newton, self.kilonewton))
        for node, reaction in one.items():
            np.testing.assert_allclose(np.array(other[node]) * 1000, reaction, atol=1e-5)

    def test_what_holds_no_force_stays(self):
        a, b = (d.model_dump() for d in (self.newton, self.kilonewton))
        for name in ("nodes", "sections", "settlements", "combinations", "cases"):
            self.assertEqual(a[name], b[name])
        self.assertEqual(b["member_loads"][2]["value"], (30, 0, 0))
        self.assertEqual(b["members"][0]["releases"]["start_springs"], {"ry": 3000.0})
        self.assertEqual(b["materials"][0]["fy"], 355e3)
        self.assertIsNone(b["materials"][1]["fy"])

    def test_in_kilonewton_already(self):
        self.assertIs(in_kilonewtons(self.kilonewton), self.kilonewton)
        document = Document(name="empty")
        self.assertIs(in_kilonewtons(document), document)

    def test_end_springs_of_the_second_format_were_in_kilonewton(self):
        older = IN_NEWTON | {"version": 2}
        older["members"] = [
            IN_NEWTON["members"][0] | {"releases": {"start_springs": {"ry": 3e3}, "end": ["rz"]}},
            IN_NEWTON["members"][1],
        ]
        found = read_document(older)
        self.assertEqual(found.version, 5)
        self.assertEqual(found.members, self.newton.members)
        # in kilonewton they were right
        kept = self.kilonewton.model_dump(mode="json") | {"version": 2}
        self.assertEqual(read_document(kept).members, self.kilonewton.members)
