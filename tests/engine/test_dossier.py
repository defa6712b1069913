"""The dossier: what it says is what the engine found, what is open is always told, and drawings are to scale."""

import unittest
from collections import Counter
from math import cos, hypot, radians
from unittest.mock import patch

from engine.chain import run
from engine.demo import drying_hall
from engine.document import Document, read_document
from engine.document.byhand import MemberEdit, OwnChecks
from engine.document.handover import DossierPlan
from engine.document.jigs import HallJig
from engine.dossier.compose import TITLES, compose, ordered
from engine.dossier.drawing import scale_for
from engine.dossier.elevations import alike, elevation
from engine.dossier.every_end import end_forces
from engine.dossier.meeting import joints_of
from engine.dossier.second import second
from engine.dossier.values import Column, Derived, Facts, Figure, Heading, Link, Paragraph, Proven, Table
from engine.dossier.verified import anchor_of
from engine.expand import expand
from engine.report.verdicts import groups
from engine.structure.planes import planes
from publish.tables.separated import separated
from tests.engine.helpers import failing_hall

#: 6 m between pins, IPE 300 of S355: 10 kN/m imposed on it, its own weight left out by an own case
BEAM = {
    "version": 4,
    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
    "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300"}],
    "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
    "member_loads": [{"case": "Q", "member": "beam", "value": [0, 0, -10]}],
}


def told(dossier, key):
    return next(chapter for chapter in dossier.chapters if chapter.key == key)


def tables(dossier, name):
    return next(table for _, table in dossier.tables if table.name == name)


def full(**more):
    keys = [key for key in TITLES if key != "open"]
    return DossierPlan.model_validate({"chapters": {key: {"level": "full"} for key in keys}, **more})


class Hall(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(drying_hall())
        cls.plain = compose(cls.chain, DossierPlan(), revision="Revision 4", made="today")

    def test_each_group_with_what_governs_it_and_its_proof(self):
        verdicts = self.chain.verification.verdicts
        rows = tables(self.plain, "verdicts by group").rows
        self.assertEqual(sum(row[1] for row in rows), len(verdicts))
        proofs = {}
        anchor = ""
        for block in told(self.plain, "verification").blocks:
            if isinstance(block, Heading):
                anchor = block.anchor
            elif isinstance(block, Proven):
                proofs.setdefault(anchor, block.proof)
        for row in rows:
            self.assertIsInstance(row[2], Link)
            section = row[0].split(", ")[1]
            role = {m.role for m in self.chain.structure.members if m.section.name == section}
            own = [v for v in verdicts if self.chain.structure.members[v.member].section.name == section]
            with self.subTest(row[0]):
                if len(role) == 1:
                    self.assertEqual(row[5], max(v.governing.utilisation for v in own))
                self.assertAlmostEqual(proofs[row[2].anchor].utilisation, row[5], delta=1e-9)

    def test_actions_and_factors_are_derived_line_by_line(self):
        def derived(dossier, key):
            return [b.derivation for b in told(dossier, key).blocks if isinstance(b, Derived)]

        # one peak pressure from every side, the snow of three arrangements on two slopes: even, and half
        *snow, peak = derived(self.plain, "actions")
        wind = next(
            iter(
                self.chain.loading.surfaces[i]
                for i, s in enumerate(self.chain.loading.surfaces)
                if s.reason and s.reason.kind == "wind"
            )
        )
        self.assertEqual(peak.steps[-1].value, f"{wind.reason.values['peak'] / 1000:.4f} kN/m²")
        self.assertEqual([d.steps[-1].value for d in snow], ["0.6303 kN/m²", "0.3151 kN/m²"])
        factors = derived(self.plain, "combinations")
        governing = {row[0] for row in tables(self.plain, "combinations").rows}
        self.assertLessEqual({d.title.removeprefix("Factors of ") for d in factors}, governing)
        self.assertEqual(len({d.clause for d in factors}), len(factors))
        brief = DossierPlan.model_validate(
            {"chapters": {key: {"level": "summary"} for key in ("actions", "combinations")}}
        )
        found = compose(self.chain, brief)
        self.assertEqual(derived(found, "actions") + derived(found, "combinations"), [])

    def test_mass_is_that_of_the_chain(self):
        self.assertAlmostEqual(tables(self.plain, "sections by role").rows[-1][5], self.chain.tonnage(), places=6)
        self.assertAlmostEqual(tables(self.plain, "material by section").rows[-1][4], self.chain.tonnage(), places=6)

    def test_reactions_hold_up_the_vertical_loads_of_a_combination(self):
        strength = self.chain.verification.strength
        force = self.chain.combined.reaction(strength)[:, 2] / 1000
        rows = tables(self.plain, "reactions").rows
        names = [c.words for c in tables(self.plain, "reactions").columns]
        most = names.index("V least") + 1
        for row in rows:
            node = self.chain.structure.nodes.index(row[0])
            self.assertEqual((row[most - 1], row[most]), (force[node].min(), force[node].max()))

    def test_joints_by_kind_with_forces_that_act_together(self):
        count = Counter(joint.kind for joint in joints_of(self.chain.structure))
        # two feet and two eaves a frame, one ridge; roof bracing meets the rafters of four frames at the quarters
        self.assertEqual(count, {"base": 16, "eaves": 16, "apex": 8, "bracing": 8})
        names = [c.name for c in self.chain.combinations]
        force = self.chain.combined.reaction(self.chain.verification.strength)
        [base] = [r for r in tables(self.plain, "kinds of joints").rows if r[2] == "column IPE 550"]
        rows = [
            row for _, t in self.plain.tables if t.name == "forces at ends" for row in t.rows if row[0] == base[0].words
        ]
        self.assertEqual({row[2] for row in rows}, {"N least", "N most", "V_z"})
        for row in rows:
            node = self.chain.structure.nodes.index(row[3])
            c = self.chain.verification.strength.index(names.index(row[4]))
            # a foot with a column alone, upright: its axial force is the reaction, its shear the thrust
            self.assertAlmostEqual(row[5], -force[node, 2, c] / 1000, places=6)
            # in second order the shear is that across the bent column: H differs by N times its slope
            if not self.chain.combined.second[self.chain.verification.strength[c]]:
                self.assertAlmostEqual(abs(row[7]), abs(force[node, 0, c]) / 1000, places=6)

    def test_every_end_with_the_forces_that_act_together(self):
        chain, table = self.chain, end_forces(self.chain)
        names = [c.words for c in table.columns]
        rows = [dict(zip(names, row, strict=True)) for row in table.rows]
        ends = {(r["joint"], r["member"], r["end"]) for r in rows}
        # whatever bears something at an end stands there with it
        meeting = {
            (chain.structure.nodes[j.node], chain.structure.members[m.member].name, m.where)
            for j in joints_of(chain.structure)
            for m in j.members
            if m.where != "through"
        }
        self.assertTrue(ends <= meeting)
        bent = {e for e in meeting if "column" in e[1] or "rafter" in e[1]}
        self.assertTrue(bent <= ends)
        combinations = {c.name: k for k, c in enumerate(chain.combinations)}
        reaction = chain.combined.reaction(chain.verification.strength)
        # feet with a column alone
        alone = {node for node, count in Counter(e[0] for e in meeting).items() if count == 1}
        feet = [r for r in rows if r["what"] == "base" and r["joint"] in alone]
        self.assertEqual(len({r["joint"] for r in feet}), 8)
        for row in feet:
            node = chain.structure.nodes.index(row["joint"])
            c = chain.verification.strength.index(combinations[row["combination"]])
            self.assertAlmostEqual(row["N"], -reaction[node, 2, c] / 1000, places=6)
        # the extremes over all feet are those of the kinds together
        kinds = [r for _, t in self.plain.tables if t.name == "forces at ends" for r in t.rows if r[2] == "N least"]
        self.assertIn(min(r["N"] for r in feet), [r[5] for r in kinds])

    def test_in_full_each_case_and_each_check_is_a_section(self):
        plan = DossierPlan.model_validate({"chapters": {key: {"level": "full"} for key in ("actions", "verification")}})
        told = compose(self.chain, plan)
        headings = [b for c in told.chapters for b in c.blocks if isinstance(b, Heading)]
        anchors = [h.anchor for h in headings]
        self.assertEqual(len(anchors), len(set(anchors)))
        self.assertEqual(
            [a for a in anchors if a.startswith("case.")], [f"case.{c.symbol}" for c in self.chain.loading.cases]
        )
        for group in groups(self.chain):
            worst = group.members[0]
            for check in worst.checks:
                self.assertIn(f"{anchor_of(worst.member.name)}.{check.outcome.criterion}", anchors)
        blocks = next(c for c in told.chapters if c.key == "actions").blocks
        at = next(k for k, b in enumerate(blocks) if isinstance(b, Heading) and b.anchor == "case.G1")
        rows = {term: value for term, value, _ in blocks[at + 1].rows}
        weight = sum(self.chain.structure.mass(m) for m in self.chain.structure.members) * 9.81 / 1000
        self.assertEqual(rows["On the members"], f"0.0, 0.0, −{weight:.1f} kN")
        self.assertFalse(
            [
                a
                for c in self.plain.chapters
                for a in [b.anchor for b in c.blocks if isinstance(b, Heading)]
                if a.startswith("case.")
            ]
        )

    def test_a_table_as_separated_values(self):
        columns = (Column("a"), Column("N", "kN", 1))
        table = Table("t", columns, (("=1+1", 2.04), ("x, “y”", -0.04), (Link("there", "z"), None)))
        self.assertEqual(separated(table), 'a,N [kN]\r\n\'=1+1,2.0\r\n"x, “y”",0.0\r\nthere,\r\n')

    def test_loads_are_drawn_with_their_values(self):
        blocks = told(self.plain, "actions").blocks
        at = next(
            k for k, b in enumerate(blocks) if isinstance(b, Heading) and b.words.startswith("S1 · Frame on grid")
        )
        words = [one.words for one in blocks[at + 1].drawing.words]
        # μ1 s_k on the plan of a bay, along the slope of 10°
        self.assertEqual(words, [f"{0.8 * 0.8 * 6.0 * cos(radians(10)):.2f}"] * 2)

    def test_levels_order_and_what_is_left_out(self):
        brief = DossierPlan.model_validate(
            {
                "chapters": {
                    "verification": {"level": "summary"},
                    "response": {"left_out": True},
                    "quantities": {"place": 0.5},
                    "open": {"left_out": True},
                }
            }
        )
        found = compose(self.chain, brief)
        self.assertEqual(found.left_out, (TITLES["response"],))
        self.assertEqual(found.chapters[0].key, "quantities")
        self.assertEqual(found.chapters[-1].key, "open")
        self.assertFalse(any(isinstance(block, Proven) for block in told(found, "verification").blocks))
        self.assertFalse(any(isinstance(row[2], Link) for row in tables(found, "verdicts by group").rows))
        self.assertEqual([key for _, key, _ in ordered(DossierPlan())], list(TITLES))

    def test_every_member_at_the_full_level(self):
        found = compose(self.chain, full(every_member=True))
        names = {b.anchor for b in told(found, "verification").blocks if isinstance(b, Heading)}
        self.assertLessEqual({f"member.{m.name}" for m in self.chain.structure.members}, names)
        self.assertEqual(len(tables(found, "members").rows), len(self.chain.structure.members))
        self.assertEqual(len(tables(found, "combinations").rows), len(self.chain.combinations))

    def test_proofs_of_every_member_have_an_end(self):
        plan = DossierPlan(every_member=True)
        with patch("engine.dossier.verified.MOST_PROVEN", 76):
            blocks = told(compose(self.chain, plan), "verification").blocks
        self.assertEqual(sum(isinstance(b, Proven) for b in blocks), 6)
        self.assertTrue(any("up to 76 members; here are 77" in b.words for b in blocks if isinstance(b, Paragraph)))

    def test_a_changed_national_value_is_marked(self):
        document = drying_hall()
        document.rules.gamma_M1 = 1.1
        self.assertIn("All", told(self.plain, "basis").blocks[3].words)
        chain = run(document)
        found = compose(chain, DossierPlan())
        rows = tables(found, "national values").rows
        self.assertEqual([(row[0], row[1], row[2], row[3]) for row in rows], [("γ_M1", "1.1", "1", "differs")])

    def test_progress_may_stop_it(self):
        class Stop(Exception):
            pass

        def progress(stage, done, of):
            if stage == "Proofs":
                raise Stop

        with self.assertRaises(Stop):
            compose(self.chain, DossierPlan(), progress=progress)

    def test_the_frame_is_drawn_to_scale(self):
        groups = alike(self.chain.structure, [p for p in planes(self.chain.structure) if p.kind == "frame"])
        self.assertEqual([len(group) for group in groups], [8])
        drawing = elevation(self.chain.structure, groups[0][0], "Frame")
        self.assertEqual(drawing.scale, 200)
        said = [one.words for one in drawing.words]
        # 24 m span; the ridge is 12 m · tan 10° above the eaves at 6 m
        self.assertIn("24.00", said)
        self.assertIn("+8.12", said)
        bubbles = sorted(one.at[0] for one in drawing.circles)
        self.assertAlmostEqual(bubbles[1] - bubbles[0], 24000 / 200, places=6)
        columns = [s for s in drawing.strokes if s.style == "steel" and abs(s.points[0][0] - s.points[1][0]) < 1e-6]
        # an IPE 550 is 550 mm deep
        points = columns[0].points
        self.assertAlmostEqual(hypot(points[0][0] - points[-1][0], points[0][1] - points[-1][1]), 550 / 200, places=6)
        for stroke in drawing.strokes:
            for x, y in stroke.points:
                self.assertTrue(0 <= x <= drawing.width and 0 <= y <= drawing.height)

    def test_scales(self):
        self.assertEqual(scale_for((24.0, 8.0), (120.0, 100.0)), 200)
        self.assertEqual(scale_for((24.1, 8.0), (120.0, 100.0)), 250)
        self.assertEqual(scale_for((2e4, 1.0), (100.0, 100.0)), 200_000)


class ByHand(unittest.TestCase):
    def test_a_beam_against_sums_by_hand(self):
        chain = run(read_document(BEAM))
        found = compose(chain, full())
        reactions = tables(found, "reactions")
        column = [c.words for c in reactions.columns].index("V least") + 1
        # 1.5 · 10 kN/m · 6 m / 2
        self.assertAlmostEqual(reactions.rows[0][column], 45.0, places=6)
        # 53.81 cm² · 6 m · 7850 kg/m³
        self.assertAlmostEqual(tables(found, "material by section").rows[0][4], 53.81e-4 * 6 * 7850, delta=0.3)
        # 5/384 · 10 kN/m · 6⁴ / (210 GPa · 8356 cm⁴), with the shear of its web; limit 6 m / 250
        row = tables(found, "deflections").rows[0]
        bent = 5 / 384 * 10e3 * 6**4 / (210e9 * 8356e-8) * 1000
        self.assertAlmostEqual(row[3], bent, delta=0.04 * bent)
        self.assertGreater(row[3], bent)
        self.assertAlmostEqual(row[4], 24.0)
        moments = [b.drawing for b in told(found, "response").blocks if isinstance(b, Figure)]
        # 1.5 · 10 kN/m · (6 m)² / 8, in the only elevation there is: the envelope, and what governs
        self.assertEqual([[w.words for w in drawing.words] for drawing in moments], [["67.5"], ["67.5"]])
        askew = {**BEAM, "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 1, 0]}]}
        found = compose(run(read_document(askew)), full())
        words = [b.words for b in told(found, "response").blocks if isinstance(b, Paragraph)]
        self.assertIn("No member lies in an upright plane across the building: no moments are drawn.", words)

    def test_a_second_figure_by_another_method(self):
        chain = run(read_document(BEAM))
        own = {o.criterion: o for o in chain.verification.verdicts[0].outcomes}
        bent = 5 / 384 * 10e3 * 6**4 / (210e9 * 8356e-8) / (6 / 250)
        found = second(chain, 0, own["deflection"])
        self.assertAlmostEqual(found.utilisation, bent, delta=1e-4 * bent)
        self.assertLess(found.utilisation, own["deflection"].utilisation)
        # 1.5 · 10 kN/m · (6 m)² / 8 over 557.1 cm³ · 355 N/mm²
        self.assertAlmostEqual(second(chain, 0, own["section"]).utilisation, 67.5e3 / (557.1e-6 * 355e6), delta=0.005)
        # V S/(I t): half of W_pl = 628.4 cm³ over 7.1 mm
        tau = 45e3 * 314.2e-6 / (8356e-8 * 7.1e-3)
        self.assertAlmostEqual(second(chain, 0, own["shear"]).utilisation, tau * 3**0.5 / 355e6, delta=0.001)
        rows = tables(compose(chain, DossierPlan()), "second opinion").rows
        self.assertEqual([(row[0], row[3]) for row in rows], [("Members by hand, IPE 300", "χ_LT by 6.3.2.2")])

    def test_a_second_figure_is_the_verdict_of_a_document_that_chooses_that_method(self):
        axial = {"case": "Q", "node": "b", "force": [-200, 0, 0]}
        for values in (("annex B", "annex A"), ("annex A", "annex B")):
            chains = []
            for value in values:
                national = {"steel": {"interaction": value}}
                chains.append(run(read_document({**BEAM, "node_loads": [axial], "national": national})))
            first, other = (
                {o.criterion: o for o in chain.verification.verdicts[0].outcomes}["interaction"] for chain in chains
            )
            found = second(chains[0], 0, first)
            self.assertEqual(first.combination, other.combination)
            self.assertAlmostEqual(found.utilisation, other.utilisation, places=9)
            self.assertNotAlmostEqual(found.utilisation, first.utilisation, places=3)

    def test_proofs_of_members_that_are_chosen_or_bear_a_remark(self):
        def proven(**checks):
            document = Document(hall=HallJig(spacings=[6.0]))
            document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
            columns = sorted(m.name for m in expand(document).members if m.role == "column")
            document.edits = [
                MemberEdit(member=name, checks=own) for name, own in zip(columns, checks.values(), strict=False)
            ]
            plan = DossierPlan.model_validate({"chapters": {"actions": {"left_out": True}}})
            blocks = told(compose(run(document), plan), "verification").blocks
            at = [b.anchor for b in blocks if isinstance(b, Heading) and b.anchor.startswith("member.")]
            return {c for c in columns if anchor_of(c) in at}, columns, blocks

        alone, columns, _ = proven()
        self.assertEqual(len(alone), 1)
        free = [c for c in columns if c not in alone]
        # chosen: the first two columns, of which one may be the worst; a remark alone does it too
        found, _, blocks = proven(a=OwnChecks(proven=True), b=OwnChecks(remark="Beside the crane."))
        self.assertEqual(found, alone | set(columns[:2]))
        self.assertIn("Beside the crane.", [b.words for b in blocks if isinstance(b, Paragraph) and b.kind == "remark"])
        self.assertTrue(set(free) - found, "the others are not proven")

    def test_what_is_not_covered_is_always_told(self):
        light = [{**BEAM["member_loads"][0], "value": [0, 0, -0.5]}]
        member = {**BEAM["members"][0], "section": "Z 300x3.0"}
        chain = run(read_document({**BEAM, "members": [member], "member_loads": light}))
        plan = DossierPlan.model_validate({"chapters": {"open": {"left_out": True, "level": "summary"}}})
        found = compose(chain, plan)
        words = " ".join(b.words for b in told(found, "open").blocks if isinstance(b, Paragraph))
        reasons = [reason for v in chain.verification.verdicts for reason in v.not_covered]
        self.assertTrue(reasons)
        for reason in reasons:
            self.assertIn(reason, words)
        self.assertEqual((found.verdict, found.standing), ("1 member is not verified", "open"))

    def test_what_fails_is_told_on_the_cover_and_at_the_end(self):
        chain = run(failing_hall())
        found = compose(chain, DossierPlan())
        failing = [v for v in chain.verification.verdicts if v.status == "fails"]
        self.assertTrue(failing)
        self.assertEqual((found.verdict, found.standing), (f"{len(failing)} members fail", "fails"))
        self.assertEqual(len(tables(found, "members that fail").rows), len(failing))
        self.assertIn(("Fail", f"{len(failing)}", ""), found.cover.rows)
        self.assertIsInstance(found.cover, Facts)

    def test_a_frame_that_buckles_is_told_as_falling(self):
        column = {**BEAM, "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 6]}]}
        column |= {"supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}], "member_loads": []}
        # a cantilever 6 m high: N_cr about z is π² E I / (2 L)² = 210e9 · 603.8e-8 · π² / 144, 87 kN
        loads = [{"case": "Q", "node": "b", "force": [0, 0, -200.0]}]
        found = compose(run(read_document({**column, "node_loads": loads})), DossierPlan())
        self.assertEqual(found.standing, "fails")
        words = " ".join(b.words for b in told(found, "analysis").blocks if isinstance(b, Paragraph))
        self.assertIn("beyond their critical load", words)

    def test_remarks_stand_after_their_heading(self):
        plan = DossierPlan.model_validate({"chapters": {"basis": {"remark": " Agreed with the client.\n"}}})
        found = compose(run(read_document(BEAM)), plan)
        self.assertEqual(told(found, "basis").blocks[0], Paragraph("Agreed with the client.", "remark"))

    def test_every_table_has_as_many_cells_as_columns(self):
        for document in (BEAM, drying_hall().model_dump(mode="json")):
            for _, table in compose(run(read_document(document)), full()).tables:
                self.assertIsInstance(table, Table)
                for row in table.rows:
                    self.assertEqual(len(row), len(table.columns), table.name)
