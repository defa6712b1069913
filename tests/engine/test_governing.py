"""What the verdicts are found from, a few combinations of each place, says the same as all of them would."""

import unittest
from itertools import combinations

import numpy as np
from hypothesis import example, given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from engine.catalogue.sections import section
from engine.catalogue.steels import material
from engine.chain import run
from engine.demo import DEMOS
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import HallJig
from engine.standards.en.checks.general import general_utilisations
from engine.standards.en.checks.sections import section_values
from engine.standards.en.checks.stability import stability_values
from engine.standards.en.moments import counting, moment_factor, most_counting, shape_of_moments
from engine.standards.en.steel import section_bound, section_check, steel_arrays
from engine.verification.proof import prove
from tests.engine.helpers import FIXED, failing_hall, textbook

EVERY = slice(None)


def complete(chain):
    """{(member, criterion): largest utilisation} of every combination at every place."""
    document, v, elements = chain.document, chain.verification, chain.response.elements
    found = {}

    def note(owner, values, criterion, hidden=None):
        for row, u in enumerate(values):
            # shapes that are checked in axial force alone have no such resistance
            if not np.isnan(u).all() and (hidden is None or not hidden[row]):
                key = int(owner[row]), criterion
                found[key] = max(found.get(key, -1.0), float(np.max(u)))

    s = section_values(v.grounds, EVERY, EVERY, EVERY)
    note(elements.member, s["u_NM"], "section")
    note(elements.member, s["u_V"], "shear")
    segments = v.grounds.segments()
    s = stability_values(document, segments, v.grounds.steel, v.grounds.limits)
    prone = v.grounds.steel.kind[segments.member] == 0
    for criterion, u, hidden in (
        ("flexural", np.maximum(s["u_Ny"], s["u_Nz"]), segments.inside),
        ("lateral", s["u_LT"], segments.inside | ~prone),
        ("interaction", np.maximum(s["u_661"], s["u_662"]), segments.inside),
    ):
        note(segments.member, u, criterion, hidden)
    for members, values in general_utilisations(v.grounds):
        note(members, values, "general")
    return {key: u for key, u in found.items() if np.isfinite(u)}


class SameAsEverything(unittest.TestCase):
    def same(self, document):
        chain = run(document)
        strength = ("section", "shear", "flexural", "lateral", "interaction", "general")
        found = {
            (verdict.member, o.criterion): o.utilisation
            for verdict in chain.verification.verdicts
            for o in verdict.outcomes
            if o.criterion in strength
        }
        wanted = complete(chain)
        self.assertEqual(found.keys(), wanted.keys())
        for key, u in wanted.items():
            self.assertAlmostEqual(found[key], u, delta=1e-9 * max(u, 1.0), msg=str(key))
        return found

    def test_in_every_demo_building(self):
        for make in DEMOS.values():
            with self.subTest(make.__name__):
                self.same(make())

    def test_with_haunches_and_tapers(self):
        haunch = Haunch(length=2.4, depth=0.3)
        data = HallJig(eaves_haunch=haunch, apex_haunch=Haunch(length=1.2, depth=0.2), spacings=[6.0]).model_dump()
        edit = {"member": "frame-2/column-A", "section": "big", "end_section": "small"}
        plates = {"shape": "welded I", "b": 200, "tw": 9, "tf": 14}
        document = Document.model_validate(
            {
                "hall": data,
                "built_sections": [{"name": "big", "h": 600, **plates}, {"name": "small", "h": 300, **plates}],
                "edits": [edit],
            }
        )
        found = self.same(document)
        self.assertGreaterEqual(sum(criterion == "general" for _, criterion in found), 5)

    def test_where_things_fail(self):
        self.assertGreater(max(self.same(failing_hall()).values()), 1.0)

    def test_with_other_methods_and_loads_at_the_flange(self):
        for interaction, modification, at in (
            ("annex A", "1", "upper flange"),
            ("annex B", "1", "upper flange"),
            ("annex B", "(6.58)", "shear centre"),
        ):
            with self.subTest(interaction=interaction, modification=modification, at=at):
                data = failing_hall().model_dump()
                data["hall"]["spacings"] = [6.5, 6.5]
                data["national"]["steel"] |= {"interaction": interaction, "modification": modification}
                data["rules"]["loads_at"] = at
                self.same(Document.model_validate(data))


class Bounds(unittest.TestCase):
    rows = steel_arrays(
        [
            (section(name), material(grade), False)
            for name in ("IPE 300", "IPE 600", "HEA 300", "HEM 200", "SHS 100x5", "RHS 200x100x6", "CHS 139.7x5")
            for grade in ("S235", "S355")
        ]
    )

    @settings(max_examples=100, deadline=None)
    @given(st.tuples(*[st.floats(-1.1, 1.1)] * 5))
    @example((1.0, 0.0, 0.0, 0.0, 0.0))
    @example((-1.0, 0.0, 0.0, 0.0, 0.0))
    def test_no_section_is_used_more_than_its_bound(self, ratios):
        """N, V_y, V_z, M_y, M_z as shares of the plastic resistances."""
        p = self.rows.take(EVERY, 2)
        n, vy, vz, my, mz = ratios
        tau = p.fy / np.sqrt(3)
        forces = (n * p.A * p.fy, vy * p.Av_y * tau, vz * p.Av_z * tau, my * p.Wpl_y * p.fy, mz * p.Wpl_z * p.fy)
        N, Vy, Vz, My, Mz = forces
        v = section_check(p, N, Vy, Vz, 0 * N, My, Mz, 1.0)
        bound, shear = section_bound(p, N, Vy, Vz, My, Mz, 1.0)
        self.assertTrue((bound >= v["u_NM"] * (1 - 1e-12)).all())
        np.testing.assert_array_equal(shear, v["u_V"])
        self.assertFalse(((v["cls"] == 4) & np.isfinite(bound)).any())

    moments = arrays(float, (25, 6), elements=st.floats(-1.0, 1.0, width=32))

    @settings(max_examples=80, deadline=None)
    @given(moments, st.floats(0.0, 100.0))
    def test_no_diagram_is_worse_than_a_uniform_one(self, moments, warping):
        even = np.ones((25, 1))
        least = shape_of_moments(even, even, np.array(warping))[0]
        self.assertTrue((shape_of_moments(np.abs(moments), moments, np.array(warping))[0] >= least - 1e-12).all())
        self.assertLessEqual(moment_factor(moments).max(), 1.0)

    @settings(max_examples=80, deadline=None)
    @given(moments, st.sampled_from([1, -1]), st.booleans())
    def test_the_largest_of_what_counts(self, moments, flange, held):
        flange, held = np.array([flange]), np.array([held])
        each = counting(moments[None], flange, held)
        np.testing.assert_array_equal(most_counting(moments[None], flange, held), each.max(axis=-2))


class PulledApart(unittest.TestCase):
    def verdict(self, name, share):
        """Of a tie clamped at both ends, pulled with a share of its resistance, with a little load along it."""
        section_ = section(name)
        data = {
            "units": "N, m",
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}],
            "members": [{"name": "t", "start": "a", "end": "b", "section": name, "material": "S235"}],
            "supports": [{"node": "a", "fixed": FIXED}, {"node": "b", "fixed": FIXED[1:]}],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "b", "force": [share * section_.A * 235e6, 0, 0]}],
            "member_loads": [{"case": "P", "member": "t", "value": [0, 0, -1000.0]}],
        }
        chain = run(read_document(textbook(data)))
        verdict = chain.verification.verdicts[0]
        proof = prove(chain.verification, chain.combinations, 0, verdict.governing)
        self.assertEqual(proof.utilisation, verdict.governing.utilisation)
        return verdict, proof.steps[-1].clause

    def test_a_tie_beyond_its_resistance_fails_also_where_it_is_bent(self):
        for name in ("IPE 200", "SHS 100x5", "RHS 200x100x6", "CHS 139.7x5"):
            for share in (1.0 + 1e-9, 1.3):
                with self.subTest(name, share=share):
                    found, clause = self.verdict(name, share)
                    self.assertEqual(clause, "(6.2)")
                    self.assertEqual(found.status, "fails")
                    self.assertGreater(found.governing.utilisation, share)
            found, clause = self.verdict(name, 0.8)
            self.assertEqual(found.status, "passes")
            self.assertIn("6.31", clause)


class NothingCarriesMoreThanItsSection(unittest.TestCase):
    def test_no_end_force_beyond_a_resistance_passes_alone_or_with_another(self):
        for name in ("IPE 300", "RHS 200x100x6", "CHS 139.7x5"):
            s = section(name)
            tau = 235e6 / np.sqrt(3)
            plastic = (s.A * 235e6, s.Av_y * tau, s.Av_z * tau, s.Wt * tau, s.Wpl_y * 235e6, s.Wpl_z * 235e6)
            for picked in (*combinations(range(6), 1), *combinations(range(6), 2)):
                for sense in (1, -1):
                    load = [1.2 * plastic[i] * (sense if i == picked[0] else 1) * (i in picked) for i in range(6)]
                    data = {
                        "units": "N, m",
                        "analysis": {"order": "first"},
                        "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [2, 0, 0]}],
                        "members": [{"name": "t", "start": "a", "end": "b", "section": name, "material": "S235"}],
                        "supports": [{"node": "a", "fixed": FIXED}],
                        "cases": [{"name": "P"}],
                        "node_loads": [{"case": "P", "node": "b", "force": load[:3], "moment": load[3:]}],
                    }
                    with self.subTest(name, picked=picked, sense=sense):
                        found = run(read_document(textbook(data))).verification.verdicts[0]
                        self.assertNotEqual(found.status, "passes")


if __name__ == "__main__":
    unittest.main()
