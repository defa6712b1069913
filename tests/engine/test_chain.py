"""The chain as a whole: verdicts, proofs, fingerprints, sizing, documents, the headless command."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

import numpy as np

from engine import cli
from engine.chain import fingerprints, run
from engine.demo import DEMOS, drying_hall
from engine.document import Document, read_document
from engine.document.jigs import Purlins
from engine.errors import ModelError
from engine.expand import expand
from engine.verification.proof import prove
from tests.engine.helpers import FIXED, PINNED, ROLLER, E, beam, failing_hall, hall, textbook


class Hall(unittest.TestCase):
    def test_identities_last_when_the_spacing_changes(self):
        names = [m.name for m in run(hall()).structure.members]
        self.assertEqual(names, [m.name for m in run(hall(spacing=5.0)).structure.members])
        self.assertIn("frame-4/rafter-AB-left", names)
        self.assertEqual(len(set(names)), len(names))

    def test_geometry(self):
        chain = run(hall(span=20.0, pitch=15.0, eaves_height=5.0, frames=4, spacing=6.0))
        at = dict(zip(chain.structure.nodes, chain.structure.xyz, strict=True))
        np.testing.assert_allclose(at["frame-3/ridge-AB"], [10.0, 12.0, 5 + 10 * np.tan(np.radians(15))])
        np.testing.assert_allclose(at["frame-2/base-B"], [20.0, 6.0, 0.0])

    def test_purlins_and_stays(self):
        document = hall(purlin_spacing=1.5, stay_every=3)
        rafter = expand(document).member("frame-1/rafter-AB-left")
        purlins = rafter.outer
        self.assertLessEqual(max(np.diff(purlins)), 1.5 + 1e-9)
        stays = rafter.inner
        self.assertEqual(stays[1], purlins[3])
        self.assertEqual((stays[0], stays[-1]), (0.0, purlins[-1]))
        self.assertEqual(len(expand(hall(stay_every=0)).member("frame-1/rafter-AB-left").inner), 2)

    def test_a_hall_of_one_bay_has_one_set_of_bracing(self):
        names = [m.name for m in run(hall(frames=2)).structure.members]
        self.assertEqual(len(set(names)), len(names))
        self.assertTrue(all(not n.startswith("bay-2") for n in names))

    def test_inner_frames_alike_under_symmetric_snow(self):
        chain = run(hall(frames=8))
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
        nodes = {n: i for i, n in enumerate(chain.structure.nodes)}
        reaction = chain.response.reaction[:, 2, case]
        a, b = reaction[nodes["frame-4/base-A"]], reaction[nodes["frame-5/base-A"]]
        self.assertAlmostEqual(a / b, 1, delta=1e-6)


class Verdicts(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chains = {name: run(make()) for name, make in DEMOS.items()}

    def test_every_proof_gives_the_utilisation_of_the_verdict(self):
        for name, chain in self.chains.items():
            for verdict in chain.verification.verdicts:
                for outcome in verdict.outcomes:
                    proof = prove(chain.verification, chain.combinations, verdict.member, outcome)
                    self.assertAlmostEqual(proof.utilisation, outcome.utilisation, delta=1e-9, msg=f"{name} {outcome}")
                    u = outcome.utilisation
                    figures = f"{u:.{3 - len(str(int(u))) if u >= 1 else 3}f}" if u > 1e-9 else "0"
                    self.assertEqual(proof.steps[-1].value, figures)

    def test_every_demo_building_passes(self):
        for name, chain in self.chains.items():
            with self.subTest(name):
                whole = chain.verification.whole
                self.assertEqual((whole.failing, whole.not_covered), (0, 0))
                self.assertEqual(whole.passing, len(chain.structure.members))

    def test_a_shed_without_stays_and_stiffness_fails_in_three_ways(self):
        chain = run(failing_hall())
        failing = {
            (chain.structure.members[v.member].role, v.governing.criterion)
            for v in chain.verification.verdicts
            if v.status == "fails"
        }
        braces = {("roof bracing", "interaction"), ("wall bracing", "interaction")}
        self.assertEqual(failing, {("column", "sway"), ("rafter", "interaction"), *braces})

    def test_more_stays_help_the_rafters(self):
        document = failing_hall()

        def worst(of):
            chain = run(of)
            rafters = [v for v in chain.verification.verdicts if chain.structure.members[v.member].slot == "rafters"]
            return max(v.governing.utilisation for v in rafters)

        stayed = document.model_copy(
            update={"hall": document.hall.model_copy(update={"purlins": Purlins(spacing=1.6, stay_every=2)})}
        )
        self.assertLess(worst(stayed), worst(document))

    def test_class_4_of_shells_is_said_and_never_passes(self):
        # d/t = 323.9/6.3 = 51.4 above 90 ε² = 46 of S460
        document = drying_hall()
        document.hall.sections.eaves_beams = "CHS 323.9x6.3"
        document.hall.grade = "S460"
        chain = run(document)
        verdict = chain.verification.verdicts[chain.structure.index["bay-2/eaves-beam-A"]]
        self.assertEqual(verdict.status, "not covered")
        self.assertIn("class 4", verdict.not_covered[0])

    def test_a_stated_section_is_not_covered(self):
        chain = run(read_document(beam(supports=[{"node": "n0", "fixed": FIXED}])))
        self.assertEqual(chain.verification.verdicts[0].status, "not covered")
        self.assertTrue(chain.verification.verdicts[0].not_covered)

    def test_effective_lengths_can_be_set_per_role(self):
        document = drying_hall()
        rules = {"effective_lengths": {"column": {"y": 4.0, "z": 0.5}}}
        changed = read_document({**document.model_dump(mode="json"), "rules": rules})
        chain = run(changed)
        lengths = chain.verification.grounds.lengths[chain.structure.index["frame-2/column-A"]]
        self.assertAlmostEqual(lengths.y, 24.0)
        self.assertAlmostEqual(lengths.z, 3.0)

    def test_simple_beam_of_a_rolled_section_by_hand(self):
        # IPE 300 S355, 6 m, q = 20 kN/m: M = 90 kNm; M_pl = 628.4 · 0.355 = 223.1 kNm: 0.403
        # LTB: C1 = 1.13, M_cr = 1.13 · 90.38 = 102 kNm, λ̄ = 1.479, curve b: Φ = 1.504; χ = 0.4325 by (6.57)
        data = beam(
            units="kN, m",
            materials=[],
            sections=[],
            supports=[{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, -20]}],
            combinations=[{"name": "C", "factors": {"P": 1.0}}],
        )
        data["members"][0] |= {"section": "IPE 300", "material": "S355"}
        data["rules"] = {"loads_at": "shear centre"}
        verdict = run(read_document(textbook(data))).verification.verdicts[0]
        found = {o.criterion: o.utilisation for o in verdict.outcomes}
        self.assertAlmostEqual(found["section"], 0.4034, delta=5e-4)
        slender = np.sqrt(223.1 / (1.13 * 90.38))
        phi = 0.5 * (1 + 0.34 * (slender - 0.4) + 0.75 * slender**2)
        chi = min(1 / (phi + np.sqrt(phi**2 - 0.75 * slender**2)), 1 / slender**2)
        self.assertAlmostEqual(found["lateral"] / (90 / (chi * 223.1)), 1, delta=0.01)
        # at the upper flange, unless it is said otherwise: M_cr = C1 N_z (√(…² + (C2 z)²) − C2 z) with C2 = 0.459, z = 150 mm
        # (ENV 1993-1-1 table F.1.2): N_z = π² · 210 · 603.8e4 / 6000² = 347.6 kN, M_cr = 1.132 (√(90.38² + 23.93²) − 23.93) = 78.7
        upper = run(read_document(textbook(data) | {"rules": {}})).verification.verdicts[0]
        slender = np.sqrt(223.1 / 78.7)
        phi = 0.5 * (1 + 0.34 * (slender - 0.4) + 0.75 * slender**2)
        chi = min(1 / (phi + np.sqrt(phi**2 - 0.75 * slender**2)), 1 / slender**2)
        above = {o.criterion: o.utilisation for o in upper.outcomes}
        self.assertAlmostEqual(above["lateral"] / (90 / (chi * 223.1)), 1, delta=0.01)

    def test_a_peak_between_stations_is_not_missed(self):
        # triangular load: M = q L² / (9 √3) at L/√3, which is no station; 8 stations apart it would be 0.5 % less
        data = beam(
            length=12.0,
            units="kN, m",
            materials=[],
            sections=[],
            supports=[{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, 0], "value_end": [0, 0, -9]}],
        )
        data["members"][0] |= {"section": "IPE 400", "material": "S355"}
        chain = run(read_document(textbook(data)))
        outcome = next(o for o in chain.verification.verdicts[0].outcomes if o.criterion == "section")
        exact = 9e3 * 12**2 / (9 * 3**0.5) / (chain.structure.members[0].section.Wpl_y * 355e6)
        self.assertAlmostEqual(outcome.utilisation / exact, 1, delta=1e-9)

    def test_deflection_of_the_rafters_is_that_of_the_ridge_node(self):
        chain = self.chains["drying-hall"]
        v = chain.verification.verdicts[chain.structure.index["frame-4/rafter-AB-left"]]
        outcome = next(o for o in v.outcomes if o.criterion == "deflection")
        factors = chain.combinations[chain.verification.deflection[outcome.combination]].factors
        u = chain.response.displacement[:, 2] @ factors
        nodes = {n: i for i, n in enumerate(chain.structure.nodes)}
        sag = (u[nodes["frame-4/eaves-A"]] + u[nodes["frame-4/eaves-B"]]) / 2 - u[nodes["frame-4/ridge-AB"]]
        self.assertAlmostEqual(outcome.utilisation * 24.0 / 200.0 / sag, 1, delta=0.06)
        self.assertGreaterEqual(outcome.utilisation * 24.0 / 200.0, sag - 1e-9)


class Fingerprints(unittest.TestCase):
    def changed(self, **more):
        before = fingerprints(drying_hall())
        after = fingerprints(read_document({**drying_hall().model_dump(mode="json"), **more}))
        return {stage for stage in before if before[stage] != after[stage]}

    def test_a_name_refreshes_nothing(self):
        self.assertEqual(self.changed(name="Other"), set())

    def test_a_limit_only_verifies_again(self):
        self.assertEqual(self.changed(rules={"rafter_deflection_ratio": 250.0}), {"verification"})

    def test_a_partial_factor_leaves_the_structure_and_its_loads(self):
        self.assertEqual(self.changed(rules={"gamma_Q": 1.6}), {"combinations", "response", "verification"})

    def test_a_section_changes_all(self):
        dump = drying_hall().model_dump(mode="json")
        dump["hall"]["sections"]["columns"] = "HEA 500"
        self.assertEqual(len(self.changed(hall=dump["hall"])), 5)

    def test_snow_leaves_the_structure(self):
        self.assertNotIn("structure", self.changed(site={"ground_snow": 1.0}))


class Documents(unittest.TestCase):
    def refused(self, data, words, place=None):
        with self.assertRaisesRegex(ModelError, words) as caught:
            run(read_document(data))
        if place is not None:
            self.assertEqual(caught.exception.place, place)

    def test_bad_input_names_the_field_and_the_reason(self):
        self.refused({"hall": {"bays": [{"span": -3}]}}, "at least 3, not -3", "hall.bays.0.span")
        self.refused({"hall": {"bays": [{"span": "wide"}]}}, "must be a number, not 'wide'", "hall.bays.0.span")
        self.refused({"hall": {"bays": [{"span": float("nan")}]}}, "finite", "hall.bays.0.span")
        self.refused({"hall": {"bays": [{"pitch": 61}]}}, "at most 60", "hall.bays.0.pitch")
        self.refused({"version": 1, "hall": {"frames": 2.5}}, "list", "hall.spacings")
        self.refused({"hall": {"spam": 1}}, "not a field", "hall.spam")
        self.refused({"hall": {"sections": {"columns": "HEA 305"}}}, "no section “HEA 305”", "hall.sections.columns")
        self.refused({"version": 6}, "version 6; this Lorica reads up to version 5", "version")
        self.refused({}, "nothing to analyse")

    def test_dangling_references(self):
        data = beam(supports=[{"node": "n7", "fixed": FIXED}])
        self.refused(data, "node “n7”")
        data = beam(supports=[{"node": "n0", "fixed": FIXED}])
        data["members"][0]["end"] = "n5"
        self.refused(data, "“b0” refers to node “n5”")
        data["members"][0] |= {"end": "n1", "material": "iron"}
        self.refused(data, "material “iron”")
        data["members"][0] |= {"material": "m", "end": "n0"}
        self.refused(data, "no length")

    def test_doubles(self):
        data = beam()
        data["nodes"].append(data["nodes"][0])
        self.refused(data, "two nodes named “n0”")

    def test_round_trip(self):
        for make in DEMOS.values():
            document = make()
            again = read_document(json.loads(json.dumps(document.model_dump(mode="json"))))
            self.assertEqual(document, again)


class Headless(unittest.TestCase):
    def lorica(self, *arguments):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = cli.main(list(arguments))
        return status, out.getvalue(), err.getvalue()

    def test_solve_writes_a_result(self):
        with tempfile.TemporaryDirectory() as folder:
            model, out = Path(folder, "model.json"), Path(folder, "result.json")
            model.write_text(drying_hall().model_dump_json())
            self.assertEqual(self.lorica("solve", str(model), "--out", str(out))[0], 0)
            data = json.loads(out.read_text())
            self.assertEqual(
                set(data["fingerprints"]), {"structure", "loading", "combinations", "response", "verification"}
            )
            self.assertTrue(all(case["balance_holds"] for case in data["cases"]))
            state = data["states"]["Snow, undrifted"]
            self.assertIn("frame-4/base-A", state["reactions"])
            self.assertEqual(len(state["members"]["frame-4/rafter-AB-left"]["end_forces"][0]), 12)
            member = next(m for m in data["members"] if m["name"] == "frame-4/rafter-AB-left")
            self.assertEqual(member["governs"], "Buckling with haunch or taper")
            self.assertAlmostEqual(member["utilisation"], max(c["utilisation"] for c in member["checks"].values()))

    def test_solve_refuses_in_one_sentence(self):
        with tempfile.TemporaryDirectory() as folder:
            model = Path(folder, "model.json")
            self.assertIn("cannot read", self.lorica("solve", str(model))[2])
            model.write_text("{")
            self.assertIn("not JSON", self.lorica("solve", str(model))[2])
            model.write_text('{"hall": {"eaves_height": 1}}')
            status, out, err = self.lorica("solve", str(model))
            self.assertEqual((status, out), (2, ""))
            self.assertEqual(err, "lorica: hall.eaves_height: must be at least 2, not 1.\n")

    def test_profile_says_where_the_time_goes(self):
        with tempfile.TemporaryDirectory() as folder:
            model = Path(folder, "model.json")
            self.assertIn("cannot read", self.lorica("profile", str(model))[2])
            model.write_text(json.dumps(beam(supports=[{"node": "n0", "fixed": FIXED}])))
            status, out, _ = self.lorica("profile", str(model), "--lines", "3")
            self.assertEqual(status, 0)
            stages = [line.split()[0] for line in out.splitlines()[:5]]
            self.assertEqual(stages, ["structure", "loading", "combinations", "response", "verification"])
            self.assertIn("due to restriction <3>", out)

    def test_units_of_the_document(self):
        # the same cantilever in kN and in N
        results = []
        for units, factor in (("N, m", 1.0), ("kN, m", 1e-3)):
            data = beam(
                units=units,
                materials=[{"name": "m", "E": E * factor}],
                supports=[{"node": "n0", "fixed": FIXED}],
                node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -1e4 * factor]}],
            )
            results.append(run(read_document(data)).response.displacement)
        np.testing.assert_allclose(results[0], results[1], rtol=1e-12, atol=1e-15)

    def test_schema(self):
        status, out, _ = self.lorica("schema")
        self.assertEqual(status, 0)
        self.assertEqual(json.loads(out), Document.model_json_schema())
