"""References are found by their types, and no operation by hand leaves one that leads nowhere."""

import unittest

import numpy as np
from pydantic import TypeAdapter

from engine.chain import prepare
from engine.demo import DEMOS, drying_hall, workshop
from engine.document import Document, read_document, references
from engine.editing.apply import operate
from engine.editing.operations import Operation
from engine.errors import ModelError
from engine.expand import expand

ONE = TypeAdapter(Operation)


def do(document: Document, **said) -> Document:
    return operate(document, ONE.validate_python(said))


def dangling(document: Document) -> list[tuple[str, str, str]]:
    """References to nodes, members, cases and panels that are not there; edits and views may wait for what is not."""
    built = expand(document)
    cases = {c.name for c in prepare(document).loading.cases}
    there = {
        "node": {*built.nodes, *built.aliases},
        "member": set(built.index),
        "case": cases,
        "panel": {p.name for p in built.panels},
    }
    waiting = ("edits.", "moved_nodes.", "views.", "analysis.bows.", "sets.")
    return [
        (place, kind, name)
        for place, kind, name in references.references(document)
        if name not in there[kind] and not place.startswith(waiting)
    ]


def rich() -> Document:
    """The workshop with something of everything that refers."""
    data = workshop().model_dump(mode="json")
    beam = "mezzanine/beam-1-1"
    data |= {
        "nodes": [
            {"name": n, "at": at}
            for n, at in (("p", [2, 30, 0]), ("q", [2, 30, 3]), ("r", [6, 30, 3]), ("s", [6, 30, 0]))
        ],
        "members": [
            {"name": "pq", "start": "p", "end": "q", "section": "HEA 200"},
            {"name": "qr", "start": "q", "end": "r", "section": "HEA 200"},
            {"name": "sr", "start": "s", "end": "r", "section": "HEA 200"},
        ],
        "supports": [{"node": n, "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for n in "ps"],
        "cases": [{"name": "crane", "nature": "crane"}],
        "node_loads": [{"case": "crane", "node": "q", "force": [0, 0, -5]}],
        "member_loads": [
            {"case": "crane", "member": beam, "value": [0, 0, -1]},
            {"case": "crane", "member": "qr", "value": [0, 0, -1]},
        ],
        "panel_loads": [{"case": "crane", "panel": "mezzanine/deck-1-1-1", "pressure": 1.0}],
        "settlements": [{"case": "crane", "node": "s", "movement": [0, 0, -0.01]}],
        "sets": [{"name": "some", "members": [beam, "qr", "frame-2/column-A"]}],
        "combinations": [{"name": "Own", "factors": {"crane": 1.5, "Cladding": 1.35}}],
        "analysis": {"bows": [{"member": "frame-2/column-A"}, {"member": "pq"}], "masses": {"crane": 0.5}},
    }
    data["edits"] += [
        {"member": "mezzanine/joist-1-1-1", "section": "IPE 270"},
        {"member": "mezzanine/joist-2-1-1", "removed": True},
        {"member": "bay-1/ridge-beam-AB", "removed": True},
    ]
    return read_document(data)


class Walk(unittest.TestCase):
    def test_all_that_refer_are_found(self):
        found = {(place.split(".")[0], kind) for place, kind, _ in references.references(rich())}
        for expected in (
            ("members", "node"),
            ("supports", "node"),
            ("node_loads", "node"),
            ("node_loads", "case"),
            ("member_loads", "member"),
            ("panel_loads", "panel"),
            ("settlements", "case"),
            ("sets", "member"),
            ("edits", "member"),
            ("combinations", "case"),
            ("analysis", "member"),
            ("analysis", "case"),
        ):
            self.assertIn(expected, found)

    def test_renaming_and_dropping(self):
        document = rich()
        references.rename(document, "case", {"crane": "hoist"})
        names = {name for _, kind, name in references.references(document) if kind == "case"}
        self.assertEqual(names, {"hoist", "Cladding"})
        references.drop(document, "member", {"qr"})
        self.assertNotIn("qr", [load.member for load in document.member_loads])
        self.assertEqual(document.sets[0].members, ["mezzanine/beam-1-1", "frame-2/column-A"])


class Operations(unittest.TestCase):
    def test_nothing_dangles_to_begin_with(self):
        for document in (rich(), *(make() for make in DEMOS.values())):
            self.assertEqual(dangling(document), [])

    def test_releasing_a_jig(self):
        released = do(rich(), do="release", jig="mezzanine")
        self.assertEqual(dangling(released), [])
        # what was removed of the hall stays removed, what was removed of the floor does not come back
        self.assertIn("bay-1/ridge-beam-AB", [e.member for e in released.edits if e.removed])
        self.assertNotIn("bay-1/ridge-beam-AB", expand(released).index)
        self.assertNotIn("mezzanine joist-2-1-1", expand(released).index)
        self.assertEqual(expand(released).member("mezzanine joist-1-1-1").section.name, "IPE 270")

    def test_releasing_several_jigs_in_any_order(self):
        whole = prepare(workshop())
        for order in (("hall", "mezzanine"), ("mezzanine", "hall")):
            free = workshop()
            for jig in order:
                free = do(free, do="release", jig=jig)
            self.assertEqual(dangling(read_document(free.model_dump(mode="json"))), [])
            after = prepare(free)
            self.assertEqual(len(after.structure.members), len(whole.structure.members))
            self.assertEqual(int(after.structure.fixed.sum()), int(whole.structure.fixed.sum()))
            masses = [sum(s.mass(m) for m in s.members) for s in (whole.structure, after.structure)]
            self.assertAlmostEqual(masses[1] / masses[0], 1, delta=1e-9)

    def test_releasing_another_jig_of_the_same_name(self):
        floor = {"kind": "floor", "name": "deck", "level": 3.0, "across": ["A", "B"], "along": ["1", "2"]}
        data = {"hall": {}, "jigs": [floor]}
        once = do(read_document(data), do="release", jig="deck")
        again = once.model_dump(mode="json") | {"jigs": [floor | {"level": 4.5}]}
        twice = do(read_document(again), do="release", jig="deck")
        self.assertEqual(dangling(read_document(twice.model_dump(mode="json"))), [])
        names = [m.name for m in twice.members]
        self.assertEqual(len(names), 2 * len(once.members))
        self.assertEqual(len(set(names)), len(names))
        self.assertEqual(len(twice.panels), 2 * len(once.panels))

    def test_releasing_the_hall_keeps_its_cladding_and_bows(self):
        document = drying_hall()
        document.analysis.bows = read_document({"analysis": {"bows": [{"member": "frame-2/column-A"}]}}).analysis.bows
        before = prepare(document)
        weight = next(i for i, c in enumerate(before.loading.cases) if c.name == "Cladding")
        released = do(document, do="release", jig="hall")
        self.assertEqual(dangling(released), [])
        self.assertEqual([b.member for b in released.analysis.bows], ["frame-2 column-A"])
        after = prepare(released)
        kept = next(i for i, c in enumerate(after.loading.cases) if c.name.startswith("Cladding kept"))
        self.assertAlmostEqual(after.loading.expected[kept][2] / before.loading.expected[weight][2], 1, delta=1e-6)
        snow = [
            next(i for i, c in enumerate(one.loading.cases) if c.name == "Snow, undrifted") for one in (before, after)
        ]
        ratio = after.loading.expected[snow[1]][2] / before.loading.expected[snow[0]][2]
        self.assertAlmostEqual(ratio, 1, delta=1e-6)

    def test_loads_stay_where_they_are_when_members_are_cut_and_joined(self):
        data = rich().model_dump(mode="json")
        line = {"case": "crane", "member": "qr", "value": [0, 0, -1], "value_end": [0, 0, -3], "start": 0.5, "end": 3.5}
        force = {"case": "crane", "member": "qr", "kind": "force", "value": [0, 0, -7], "start": 2.5}
        warm = {"case": "crane", "member": "qr", "kind": "temperature", "value": [10, 0, 0]}
        data["member_loads"] = [line, force, warm]
        whole = read_document(data)
        cut = do(whole, do="divide", members=["qr"], parts=3, cut=True)
        self.assertEqual(dangling(cut), [])
        parts = [m.name for m in cut.members if m.section == "HEA 200" and m.start != "p" and m.start != "s"]
        joined = do(cut, do="join", members=parts)
        self.assertEqual(dangling(joined), [])

        def moments(document):
            found = prepare(document)
            case = next(i for i, c in enumerate(found.loading.cases) if c.name == "crane")
            table = found.loading.table(found.structure)
            total = np.zeros(6)
            for k in np.flatnonzero(table.case == case):
                a, b = found.structure.xyz[found.structure.ends[table.member[k]]]
                way = (b - a) / np.linalg.norm(b - a)
                for share in (0.5 - np.sqrt(1 / 12), 0.5 + np.sqrt(1 / 12)):
                    x = table.start[k] + (table.end[k] - table.start[k]) * share
                    f = (
                        (table.first[k] + (table.last[k] - table.first[k]) * share)
                        * (table.end[k] - table.start[k])
                        / 2
                    )
                    total += np.concatenate([f, np.cross(a + way * x, f)])
            for p in found.loading.points:
                if p.case == case and p.member:
                    a, b = found.structure.xyz[found.structure.ends[found.structure.index[p.member]]]
                    at = a + (b - a) / np.linalg.norm(b - a) * p.at
                    total += np.concatenate([p.force, np.cross(at, p.force)])
            return total, len(found.loading.warmings)

        (before, _), (between, three), (after, one) = (moments(d) for d in (whole, cut, joined))
        np.testing.assert_allclose(between, before, atol=1e-6)
        np.testing.assert_allclose(after, before, atol=1e-6)
        self.assertEqual((three, one), (3, 1))

    def test_two_supports_merge_to_one(self):
        document = rich()
        merged = do(document, do="merge", nodes=["p", "s"])
        self.assertEqual(dangling(merged), [])
        self.assertEqual(sum(s.node in ("p", "s") for s in merged.supports), 1)

    def test_no_run_of_operations_leaves_one(self):
        for seed in range(6):
            rng = np.random.default_rng(seed)
            document = rich()
            for _ in range(8):
                built = expand(document)
                names, by_hand = list(built.index), [m.name for m in document.members]
                nodes = [n.name for n in document.nodes]

                def some(of, count=2, rng=rng):
                    return [of[i] for i in rng.choice(len(of), min(count, len(of)), replace=False)]

                choices = [
                    {"do": "remove", "members": some(names)},
                    {"do": "copy", "members": some(names), "step": [0, 0, 4.0], "count": 1},
                    {"do": "release", "jig": str(rng.choice(["hall", "mezzanine"]))},
                ]
                if by_hand:
                    choices.append({"do": "divide", "members": some(by_hand, 1), "parts": 2, "cut": True})
                if len(nodes) > 1:
                    choices.append({"do": "merge", "nodes": some(nodes)})
                said = choices[int(rng.integers(len(choices)))]
                try:
                    document = read_document(do(document, **said).model_dump(mode="json"))
                except ModelError:
                    continue
                try:
                    self.assertEqual(dangling(document), [], f"seed {seed}: {said}")
                except ModelError as error:
                    self.fail(f"seed {seed}: {said}: {error.message} ({error.place})")


if __name__ == "__main__":
    unittest.main()
