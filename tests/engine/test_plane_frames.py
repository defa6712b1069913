"""Frames that move in a plane alone: as if every node were held out of it, in analysis; and what the verdict says of that."""

import unittest

import numpy as np

from engine.balance import balances
from engine.chain import fingerprints, run
from engine.document import read_document
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.audit import audit
from engine.verification.unsaid import OUT_OF_PLANE

PLACES = {"a": (0, 0), "b": (0, 5), "c": (5, 6), "d": (10, 5), "e": (10, 0)}
LINES = {"left": "ab", "up": "bc", "down": "cd", "right": "ed"}


def portal(plane="XZ", held=(), feet=("x", "z"), across=0.0, along="X", **more):
    """A pitched frame of 10 m on feet held so, under snow and wind in its plane. held: directions in which every node is held by supports; across: kN/m on a
    column out of its plane; along: the axis that it stands along."""
    turn = (lambda x, z: [x, 0, z]) if along == "X" else (lambda x, z: [0, x, z])
    push = (lambda q: [q, 0, 0]) if along == "X" else (lambda q: [0, q, 0])
    off = [0, across, 0] if along == "X" else [across, 0, 0]
    supports = [{"node": n, "fixed": sorted({*held, *(feet if n in "ae" else ())})} for n in PLACES]
    return read_document(
        {
            "nodes": [{"name": n, "at": turn(*at)} for n, at in PLACES.items()],
            "members": [
                {
                    "name": m,
                    "start": a,
                    "end": b,
                    "section": "HEA 200" if m in ("left", "right") else "IPE 300",
                    "role": "column" if m in ("left", "right") else "rafter",
                    # with its web in the plane of the frame
                    "roll": 90.0 if along == "Y" and m in ("left", "right") else 0.0,
                }
                for m, (a, b) in LINES.items()
            ],
            "supports": [s for s in supports if s["fixed"]],
            "cases": [{"name": "S", "nature": "snow"}, {"name": "W", "nature": "wind"}],
            "member_loads": [
                *({"case": "S", "member": m, "value": [0, 0, -6]} for m in ("up", "down")),
                {"case": "W", "member": "left", "value": push(4)},
                *([{"case": "W", "member": "left", "value": off}] if across else []),
            ],
            "rules": {"imperfections": False},
            "analysis": {"plane": plane, "order": "second"},
            **more,
        }
    )


class Analysis(unittest.TestCase):
    def test_as_if_every_node_were_held_out_of_it(self):
        # the same held by supports that the document states one by one
        for along, plane, held in (("X", "XZ", ("y", "rx", "rz")), ("Y", "YZ", ("x", "ry", "rz"))):
            feet = ("x", "z") if along == "X" else ("y", "z")
            own = run(portal(plane, feet=feet, along=along))
            stated = run(portal("", held, feet=feet, along=along))
            for name in ("My", "Mz", "N"):
                one, other = (getattr(c.combined.diagrams(range(len(c.combinations))), name) for c in (own, stated))
                np.testing.assert_allclose(one, other, atol=1e-6 * np.abs(other).max() + 1e-6)
            np.testing.assert_allclose(own.combined.alpha, stated.combined.alpha, rtol=1e-9)
            every = list(range(len(own.combinations)))
            np.testing.assert_allclose(own.combined.displacement(every), stated.combined.displacement(every), atol=1e-9)

    def test_without_it_such_a_frame_falls(self):
        with self.assertRaisesRegex(ModelError, "mechanism"):
            run(portal(""))
        self.assertIn("unbraced", {s.kind for s in audit(expand(portal("", feet=("x", "y", "z"))))})
        self.assertNotIn("unbraced", {s.kind for s in audit(expand(portal()))})

    def test_in_its_plane_it_may_still_fall(self):
        document = portal().model_dump(mode="json")
        for m in document["members"]:
            if m["name"] in ("up", "down"):
                m["releases"] = {"start": ["ry"], "end": ["ry"]}
        with self.assertRaisesRegex(ModelError, "mechanism"):
            run(read_document(document))

    def test_it_leans_in_its_plane_alone(self):
        rules = {"rules": {"imperfections": True}}
        for along, plane, held, axis in (("X", "XZ", ("y", "rx", "rz"), 0), ("Y", "YZ", ("x", "ry", "rz"), 1)):
            feet = ("x", "z") if along == "X" else ("y", "z")
            own = run(portal(plane, feet=feet, along=along, **rules))
            stated = run(portal("", held, feet=feet, along=along, **rules))
            leaning = [c for c in own.loading.cases if c.nature == "imperfection"]
            self.assertEqual({c.name.rpartition(" ")[2] for c in leaning}, {"XY"[axis]})
            self.assertLess(len(own.combinations), len(stated.combinations))
            # those across act on nothing: the verdicts are the same, as far as critical factors of several combinations together are
            for one, other in zip(own.verification.verdicts, stated.verification.verdicts, strict=True):
                found = [{o.criterion: o.utilisation for o in v.outcomes} for v in (one, other)]
                self.assertEqual(found[0].keys(), found[1].keys())
                for criterion, value in found[0].items():
                    self.assertAlmostEqual(value, found[1][criterion], delta=1e-3, msg=criterion)

    def test_what_pushes_across_goes_to_ground_and_is_told(self):
        chain = run(portal(across=2.0))
        self.assertTrue(all(b.holds for b in balances(chain.loading, chain.response)))
        self.assertIn(OUT_OF_PLANE, chain.verification.left_out)
        self.assertNotIn(OUT_OF_PLANE, run(portal("", ("y", "rx", "rz"))).verification.left_out)


class Members(unittest.TestCase):
    def test_a_free_end_is_one_sideways_too(self):
        # a cantilever in a plane frame: its tip is held out of the plane in the analysis, not in its check
        def beam(plane):
            return run(
                read_document(
                    {
                        "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}],
                        "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"}],
                        "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
                        "cases": [{"name": "Q", "nature": "imposed"}],
                        "member_loads": [{"case": "Q", "member": "m", "value": [0, 0, -6]}],
                        "analysis": {"plane": plane},
                    }
                )
            )

        found = [
            {o.criterion: o.utilisation for o in beam(plane).verification.verdicts[0].outcomes} for plane in ("", "XZ")
        ]
        self.assertEqual(found[0].keys(), found[1].keys())
        for criterion, value in found[0].items():
            self.assertAlmostEqual(found[1][criterion], value, delta=1e-9, msg=criterion)

    def test_a_turned_support_is_refused_at_its_place(self):
        document = portal().model_dump(mode="json")
        document["supports"][0]["turn"] = 30.0
        with self.assertRaisesRegex(ModelError, "turned about Z") as caught:
            run(read_document(document))
        self.assertEqual(caught.exception.place, "analysis.plane")

    def test_slabs_that_bend_are_refused(self):
        document = portal().model_dump(mode="json")
        document["nodes"] += [{"name": n, "at": [x, 3, 5]} for n, x in (("f", 0), ("g", 10))]
        document["panels"] = [{"name": "p", "corners": ["b", "d", "g", "f"], "diaphragm": "slab"}]
        with self.assertRaisesRegex(ModelError, "plane frames have none"):
            run(read_document(document))

    def test_its_choice_is_part_of_the_structure(self):
        self.assertNotEqual(fingerprints(portal())["structure"], fingerprints(portal(""))["structure"])
