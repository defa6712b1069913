"""Concentrated loads by category of use (EN 1991-1-1 6.2.1(3)): where they govern, where the imposed load outdoes them, and what they act with."""

from __future__ import annotations

import unittest

import numpy as np

from engine.chain import prepare, run
from engine.document import read_document
from engine.report.loads import factors
from engine.standards.en.concentrated import OUTDONE, OUTDONE_RIGID, concentrated
from engine.standards.en.least import ties
from engine.verification.unsaid import CONCENTRATED

FLOOR = {
    "kind": "floor",
    "name": "office",
    "level": 3.0,
    "grid": {"across": [6.0], "along": [4.0, 4.0]},
    "sections": {"columns": "HEB 160", "main_beams": "IPE 300", "joists": "IPE 100"},
    "joist_spacing": 0.6,
    "permanent": 0.6,
    "imposed": 2.0,
    "category": "B",
    "frames": "all",
}


def floor(values=(), **more):
    """Two fields of 6 by 4 m, joists IPE 100 every 0.6 m over 4 m, 0.6 + 2.0 kN/m² of offices."""
    return read_document({"jigs": [FLOOR | more], "national": {"imposed": dict(values)}})


def beam(length=4.0, load=-1.0, cases=("B",), **more):
    """One beam IPE 160 on two supports under a line load of each category, kN/m."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 160", "material": "S235"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z"]}],
            "cases": [{"name": "dead", "nature": "permanent"}]
            + [{"name": c, "nature": "imposed", "category": c} for c in cases],
            "member_loads": [
                {"case": c, "member": "beam", "kind": "line", "value": [0, 0, load]} for c in ("dead", *cases)
            ],
        }
        | more
    )


def alone(loading):
    return [k for k, case in enumerate(loading.cases) if case.alone]


class Stands(unittest.TestCase):
    def test_it_governs_joists_that_stand_close(self):
        # M = 1.35 (0.6 · 0.6 + 0.0810 · 0.981) 4²/8 + 1.5 · 4.5 · 4/4 kNm; IPE 100: 8.10 kg/m, W_pl 39.4 cm³, S355
        chain = run(floor())
        M = 1.35 * (0.36 + 0.0810 * 0.981) * 4**2 / 8 + 1.5 * 4.5 * 4 / 4
        joists = [m for m in chain.structure.members if m.role == "joist" and m.release_start]
        self.assertEqual(len(joists), 18)
        for m in joists:
            verdict = chain.verification.verdicts[chain.structure.index[m.name]]
            section = next(o for o in verdict.outcomes if o.criterion == "section")
            self.assertAlmostEqual(section.utilisation, M / (39.4e-6 * 355e3), delta=0.004)
        without = run(floor({"concentrated_B": 0.0}))
        M = 1.35 * (0.36 + 0.0810 * 0.981) * 4**2 / 8 + 1.5 * 1.2 * 4**2 / 8
        verdict = without.verification.verdicts[without.structure.index[joists[0].name]]
        section = next(o for o in verdict.outcomes if o.criterion == "section")
        self.assertAlmostEqual(section.utilisation, M / (39.4e-6 * 355e3), delta=0.004)

    def test_every_joist_bears_it_in_the_middle_and_at_an_end_for_itself(self):
        loaded = prepare(floor())
        loading, structure = loaded.loading, loaded.structure
        simple = {m.name for m in structure.members if m.role == "joist" and m.release_start}
        for at in (lambda x: abs(x - 2.0) < 1e-9, lambda x: x < 0.2):
            there = [p.member for p in loading.points if p.member in simple and p.force[2] == -4500.0 and at(p.at)]
            self.assertEqual(sorted(there), sorted(simple))
        for case in alone(loading):
            points = [p for p in loading.points if p.case == case]
            names = [p.member for p in points]
            self.assertEqual(len(names), len(set(names)))
            nodes = [n for name in names for n in (structure.member(name).nodes[0], structure.member(name).nodes[-1])]
            self.assertEqual(len(nodes), len(set(nodes)))
            self.assertAlmostEqual(loading.expected[case][2], -4500.0 * len(points))

    def test_the_same_floor_with_joists_far_apart_is_outdone(self):
        # 2.0 kN/m² · 3 m · 4 m / 2 = 12 kN on a joist: more than 4.5 kN
        loading = prepare(floor(joist_spacing=3.0)).loading
        on = {p.member for p in loading.points if p.case in alone(loading)}
        self.assertFalse(any(name.startswith("office/joist-1-1-") for name in on))

    def test_up_to_half_of_the_load_on_a_simple_beam(self):
        for load, stands in ((-2.26, 0), (-2.24, 2)):
            with self.subTest(load=load):
                # 4.5 kN against half of 4 m · load, hinged at both ends
                hinged = beam(load=load)
                hinged.members[0].releases.start = ["ry"]
                hinged.members[0].releases.end = ["ry"]
                self.assertEqual(len(alone(prepare(hinged).loading)), stands)

    def test_what_outdoes_it_asks_for_more_everywhere(self):
        L, w = 1.0, 1.0
        x = np.linspace(0, L, 201)
        uniform = w * x * (L - x) / 2
        Q = OUTDONE * w * L
        for a in np.linspace(0.01, 0.99, 50):
            single = Q * np.where(x < a, x * (L - a), a * (L - x)) / L
            self.assertTrue((single <= uniform + 1e-12).all())
        # clamped at both ends, in the middle: the field's moments (Q L/8, q L²/24)
        self.assertAlmostEqual(OUTDONE_RIGID * w * L * L / 8, w * L**2 / 24)

    def test_values_of_the_tables(self):
        # EN 1991-1-1 tables 6.2 (recommended), 6.4 and 6.10, kN
        values = beam().national.imposed
        printed = {"A": 2.0, "B": 4.5, "C": 4.0, "D": 4.0, "E": 7.0, "H": 1.0}
        self.assertEqual({c: concentrated(c, values) / 1000 for c in printed}, printed)


class Combined(unittest.TestCase):
    def test_it_acts_with_permanent_loads_alone_and_for_strength_alone(self):
        loaded = prepare(beam(cases=("B", "E")))
        own = alone(loaded.loading)
        self.assertTrue(own)
        variable = [k for k, c in enumerate(loaded.loading.cases) if c.nature == "imposed"]
        for combination in loaded.combinations:
            acting = [k for k in variable if combination.factors[k]]
            if set(acting) & set(own):
                self.assertEqual(len(acting), 1)
                self.assertEqual(combination.use, "strength")
                self.assertAlmostEqual(combination.factors[acting[0]], 1.5)
        for case in own:
            rows = [c for c in loaded.combinations if c.factors[case]]
            self.assertEqual(sorted(c.factors[0] for c in rows), [1.0, 1.35])

    def test_it_adds_to_no_tie_and_to_no_row_of_factors(self):
        few, many = run(floor({"concentrated_B": 0.0})), run(floor())
        on = [np.ones((1, len(chain.loading.cases))) * 1e6 for chain in (few, many)]
        both = [ties(chain.document, chain.loading.cases, w) for chain, w in zip((few, many), on, strict=True)]
        self.assertEqual(both[0].tolist(), both[1].tolist())
        self.assertEqual([symbols for _, symbols in factors(few)], [symbols for _, symbols in factors(many)])

    def test_names_of_other_combinations_stay(self):
        few = {c.name: c.formula for c in prepare(floor({"concentrated_B": 0.0})).combinations}
        many = {c.name: c.formula for c in prepare(floor()).combinations}
        self.assertEqual(few, {name: many[name] for name in few})
        self.assertGreater(len(many), len(few))

    def test_where_combinations_are_stated_the_verdict_says_that_it_is_in_none(self):
        chain = run(beam(combinations=[{"name": "K", "factors": {"dead": 1.35, "B": 1.5}}]))
        self.assertEqual([c.name for c in chain.combinations], ["K", *(c.name for c in chain.combinations[1:])])
        self.assertEqual([words for words, _ in chain.verification.whole.left_out].count(CONCENTRATED), 1)
        self.assertNotIn(CONCENTRATED, [words for words, _ in run(beam()).verification.whole.left_out])


class Kinds(unittest.TestCase):
    def test_free_ends_bear_it_at_their_tip(self):
        # a cantilever of 1.5 m with 2 kN/m: 3/3 < 4.5 kN; M = 1.35 · 2 · 1.5²/2 + 1.5 · 4.5 · 1.5
        document = beam(length=1.5, load=-2.0, supports=[{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}])
        chain = run(document)
        verdict = chain.verification.verdicts[0]
        section = next(o for o in verdict.outcomes if o.criterion == "section")
        M = 1.35 * 2.0 * 1.5**2 / 2 + 1.5 * 4.5 * 1.5
        self.assertAlmostEqual(section.utilisation, M / (123.9e-6 * 235e3), delta=0.004)

    def test_a_beam_that_bears_its_load_by_others_counts_with_it(self):
        # four joists of 4 m with 3 kN/m each end on a beam of 6 m: they bring 4 · 6 kN, half of which outdoes 4.5 kN
        joists = [f"j{k}" for k in range(1, 5)]
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}]
                + [
                    {"name": f"{j}-{end}", "at": [1.2 * (k + 1), 4.0 * end, 0]}
                    for k, j in enumerate(joists)
                    for end in (0, 1)
                ],
                "members": [{"name": "main", "start": "a", "end": "b", "section": "IPE 300", "material": "S235"}]
                + [
                    {
                        "name": j,
                        "start": f"{j}-0",
                        "end": f"{j}-1",
                        "section": "IPE 160",
                        "material": "S235",
                        "releases": {"start": ["ry", "rz"], "end": ["ry", "rz"]},
                    }
                    for j in joists
                ],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z", "rx"]},
                    {"node": "b", "fixed": ["y", "z", "rx"]},
                    *({"node": f"{j}-1", "fixed": ["x", "y", "z", "rx"]} for j in joists),
                ],
                "cases": [{"name": "people", "nature": "imposed", "category": "B"}],
                "member_loads": [
                    {"case": "people", "member": j, "kind": "line", "value": [0, 0, -3.0]} for j in joists
                ],
            }
        )
        loading = prepare(document).loading
        self.assertEqual(alone(loading), [])
        light = document.model_copy(deep=True)
        for load in light.member_loads:
            load.value = (0.0, 0.0, -0.5)
        loading = prepare(light).loading
        # 4 · 1 kN on the main beam, a third of it less than 4.5 kN: it too has stands of its own
        self.assertEqual({p.member for p in loading.points}, {"main", *joists})


if __name__ == "__main__":
    unittest.main()
