"""Members that go on in others on their line: cutting a member where nothing holds it never makes it pass."""

import unittest

from engine.chain import run
from engine.document import read_document
from engine.editing.apply import operate
from engine.editing.operations import Join
from engine.expand import expand
from engine.structure.audit import audit
from engine.structure.runs import HELD, in_pieces, reaches
from tests.engine.helpers import FIXED

FORK = ["x", "y", "z", "rx"]


def line(parts, kind, force, held=(), **more):
    """IPE 360 over 8 m in equal parts: a cantilever with a force at its tip, or between forks with one in the middle; `held`: numbers of
    nodes that a support along Y holds."""
    nodes = [{"name": f"n{k}", "at": [8.0 * k / parts, 0, 0]} for k in range(parts + 1)]
    members = [
        {"name": f"m{k}", "start": f"n{k}", "end": f"n{k + 1}", "section": "IPE 360", **more} for k in range(parts)
    ]
    supports = [{"node": "n0", "fixed": FIXED if kind == "cantilever" else FORK}]
    if kind != "cantilever":
        supports.append({"node": f"n{parts}", "fixed": FORK[1:]})
    supports += [{"node": f"n{k}", "fixed": ["y", "rx"]} for k in held]
    load = {"case": "P", "node": f"n{parts}", "force": [0, 0, -force]}
    loads = [load] if kind == "cantilever" else []
    lines = (
        [{"case": "P", "member": m["name"], "value": [0, 0, -force]} for m in members] if kind != "cantilever" else []
    )
    return read_document(
        {
            "nodes": nodes,
            "members": members,
            "supports": supports,
            "cases": [{"name": "P"}],
            "node_loads": loads,
            "member_loads": lines,
            "rules": {"imperfections": False},
            "combinations": [{"name": "C", "factors": {"P": 1.0}}],
        }
    )


def worst(document, criterion="lateral"):
    chain = run(document)
    found = [o.utilisation for v in chain.verification.verdicts for o in v.outcomes if o.criterion == criterion]
    return max(found), {v.status for v in chain.verification.verdicts}


class CutIntoPieces(unittest.TestCase):
    def test_a_cantilever(self):
        whole, status = worst(line(1, "cantilever", 20.0))
        self.assertGreater(whole, 3.0)
        self.assertEqual(status, {"fails"})
        for parts in (2, 3, 5):
            cut, status = worst(line(parts, "cantilever", 20.0))
            self.assertAlmostEqual(cut, whole, delta=1e-9)
            self.assertIn("fails", status)

    def test_a_beam_between_forks(self):
        """As if uniform and with the load of a whole span above it: never below the whole beam's."""
        whole = worst(line(1, "beam", 8.0))[0]
        for parts in (2, 3, 4, 8):
            cut = worst(line(parts, "beam", 8.0))[0]
            self.assertGreaterEqual(cut, whole * (1 - 1e-9), parts)
            self.assertLess(cut, 1.35 * whole, parts)

    def test_a_held_node_is_held(self):
        document = line(2, "beam", 8.0, held=[1])
        self.assertEqual(reaches(run(document).structure), {})
        self.assertLess(worst(document)[0], 0.7 * worst(line(2, "beam", 8.0))[0])

    def test_how_far_it_goes_on(self):
        structure = run(line(4, "cantilever", 1.0)).structure
        found = reaches(structure)
        self.assertEqual(found[0].outer, (0.0, 6.0))
        self.assertEqual(found[2].outer, (4.0, 2.0))
        self.assertEqual(found[3].free, (False, False))
        self.assertEqual(found[0].free, (False, True))
        # restraints in the next member end it, flange by flange
        structure = run(line(2, "beam", 1.0, restraints_outer=[1.0], restraints_inner=[3.0])).structure
        found = reaches(structure)
        self.assertEqual((found[0].outer, found[0].inner), ((0.0, 1.0), (0.0, 3.0)))
        self.assertEqual((found[1].outer, found[1].inner), ((3.0, 0.0), (1.0, 0.0)))

    def test_what_meets_it_from_the_side_holds_it(self):
        data = line(2, "beam", 8.0).model_dump()
        data["nodes"].append({"name": "p", "at": [4.0, 3.0, 0.0]})
        side = {"name": "s", "start": "n1", "end": "p", "section": "IPE 200"}
        data["members"].append(side)
        data["supports"].append({"node": "p", "fixed": ["x", "y", "z"]})
        structure = run(read_document(data)).structure
        self.assertEqual(reaches(structure).get(0, HELD), HELD)

    def test_a_haunch_that_goes_on_is_not_covered(self):
        data = line(2, "cantilever", 1.0).model_dump()
        data["members"][0]["haunch_start"] = {"length": 1.5, "depth": 0.3}
        verdict = run(read_document(data)).verification.verdicts[0]
        self.assertEqual(verdict.status, "not covered")
        self.assertTrue(any("go on" in words for words in verdict.not_covered))


class HinglyHeld(unittest.TestCase):
    """What passes by joints that only hinged beams meet says so: these may lead to no bracing."""

    def pair(self, releases, behaviour="beam", cut=True):
        """Two beams side by side in two pieces each, and a joist between their middles."""
        data = line(2 if cut else 1, "beam", 8.0).model_dump()
        other = line(2 if cut else 1, "beam", 8.0).model_dump()
        for n in other["nodes"]:
            data["nodes"].append({"name": f"o{n['name']}", "at": [n["at"][0], 4.0, 0.0]})
        for m in other["members"]:
            data["members"].append({**m, "name": f"o{m['name']}", "start": f"o{m['start']}", "end": f"o{m['end']}"})
            data["member_loads"].append({"case": "P", "member": f"o{m['name']}", "value": [0, 0, -8.0]})
        data["supports"] += [{**s, "node": f"o{s['node']}"} for s in other["supports"]]
        ends = {"start": releases, "end": releases}
        if not cut:
            data["nodes"] += [{"name": "n5", "at": [4.0, 0, 0]}, {"name": "on5", "at": [4.0, 4.0, 0]}]
        middle = "n1" if cut else "n5"
        joist = {"name": "joist", "start": middle, "end": f"o{middle}", "section": "IPE 200", "behaviour": behaviour}
        data["members"].append(joist | {"releases": ends})
        return read_document(data)

    def told(self, document):
        verdicts = run(document).verification.verdicts
        names = [m.name for m in expand(document).members]
        return {names[v.member] for v in verdicts if any("hinged to it there" in words for words in v.left_out)}

    def test_pieces_that_pass_where_the_whole_falls(self):
        pieces, whole = self.pair(["ry", "rz"]), self.pair(["ry", "rz"], cut=False)
        self.assertGreater(worst(whole)[0], 1.2 * worst(pieces)[0])
        self.assertEqual(self.told(whole), set())
        self.assertEqual(self.told(pieces), {"m0", "m1", "om0", "om1"})
        self.assertEqual(self.told(self.pair([], "bar")), {"m0", "m1", "om0", "om1"})

    def test_what_holds_them_is_not_told(self):
        self.assertEqual(self.told(self.pair([])), set())
        held = self.pair(["ry", "rz"])
        held.supports.append(held.supports[0].model_copy(update={"node": "n1", "fixed": ["y", "rx"]}))
        self.assertEqual(self.told(held), {"om0", "om1"})
        # in one of another section it goes on too
        held.members[3].section = "IPE 400"
        self.assertEqual(self.told(held), {"om0", "om1"})


class OnePieceInParts(unittest.TestCase):
    def snags(self, document):
        return [snag for snag in audit(expand(document)) if snag.kind == "in pieces"]

    def test_it_is_found_from_end_to_end_and_joined_it_is_the_whole(self):
        document = line(4, "forks", 5.0)
        self.assertEqual(in_pieces(expand(document)), [(0, 1, 2, 3)])
        [snag] = self.snags(document)
        self.assertEqual((snag.mend, snag.weight), ("join", "note"))
        joined = operate(document, Join(members=list(snag.members)))
        self.assertEqual(self.snags(joined), [])
        whole, cut = worst(line(1, "forks", 5.0))[0], worst(document)[0]
        self.assertAlmostEqual(worst(joined)[0], whole, delta=1e-6)
        self.assertGreater(cut, 1.05 * whole)

    def test_drawn_in_any_order_and_direction(self):
        data = line(3, "forks", 5.0).model_dump(mode="json")
        middle = data["members"].pop(1)
        middle["start"], middle["end"] = middle["end"], middle["start"]
        data["members"].append(middle)
        [run] = in_pieces(expand(read_document(data)))
        self.assertIn(run, [(0, 2, 1), (1, 2, 0)])

    def test_other_sections_hinges_and_what_is_held_are_several(self):
        data = line(3, "forks", 5.0).model_dump(mode="json")
        data["members"][2]["section"] = "IPE 400"
        self.assertEqual(in_pieces(expand(read_document(data))), [(0, 1)])
        data["members"][1]["releases"] = {"start": ["ry"]}
        self.assertEqual(in_pieces(expand(read_document(data))), [])
        self.assertEqual(in_pieces(expand(line(2, "forks", 5.0, held=(1,)))), [])
