"""Revisions under simultaneous edits, the demo, and how members are named on the screen."""

import threading

from django.contrib.auth.models import User
from django.core.management import call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase

from engine.chain import run
from engine.demo import DEMOS, drying_hall
from engine.document import Document, read_document
from engine.document.jigs import HallJig
from engine.errors import ModelError
from engine.structure.words import label
from server.projects import response, revisions, workbench
from server.projects.changes import Change, changed, differences
from server.projects.models import Project, Revision
from tests.quick import quick_passwords


@quick_passwords
class Simultaneous(TransactionTestCase):
    def test_of_many_edits_at_once_one_wins_and_the_others_get_a_conflict(self):
        user = User.objects.create_user("ada", password="gusset-plate")
        project = revisions.create(user, Document(name="Busy", hall=HallJig()), "new")
        outcomes: list[str] = []
        start = threading.Barrier(6)

        def edit(span: float) -> None:
            start.wait()
            try:
                revisions.edit(user, project.id, 1, f"span {span}", [Change("hall.bays.0.span", span)])
                outcomes.append("done")
            except revisions.Conflict as conflict:
                outcomes.append(f"conflict {conflict.head.number}")
            finally:
                connection.close()

        threads = [threading.Thread(target=edit, args=(30.0 + i,)) for i in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(outcomes), ["conflict 2"] * 5 + ["done"])
        self.assertEqual(Revision.objects.count(), 2)
        project.refresh_from_db()
        self.assertEqual(project.head.number, 2)


@quick_passwords
class Changes(TestCase):
    def test_differences_by_path(self):
        before = drying_hall().model_dump(mode="json")
        after = changed(before, [Change("hall.bays.0.span", 30.0), Change("rules.effective_lengths.column.y", 2.0)])
        found = {d.path: d.after for d in differences(before, after)}
        self.assertEqual(found, {"hall.bays.0.span": 30.0, "rules.effective_lengths.column": {"y": 2.0}})
        # the document that was changed is a copy
        self.assertEqual(before["hall"]["bays"][0]["span"], 24.0)

    def test_list_items_and_wrong_paths(self):
        data = read_document({"nodes": [{"name": "a", "at": [0, 0, 0]}]}).model_dump(mode="json")
        self.assertEqual(changed(data, [Change("nodes.0.name", "b")])["nodes"][0]["name"], "b")
        for path in ("nodes.7.name", "nodes.x", "hall.bays.0.span", "name.0"):
            with self.assertRaisesRegex(ModelError, "no place"):
                changed(data, [Change(path, 1)])

    def test_a_long_history_undone_to_its_start(self):
        user = User.objects.create_user("ada", password="gusset-plate")
        project = revisions.create(user, Document(name="Long", hall=HallJig()), "new")
        for i in range(30):
            project = revisions.edit(user, project.id, project.head.number, "x", [Change("hall.bays.0.span", 20.0 + i)])
        while project.head.parent_id:
            project = revisions.undo(user, project.id, project.head.number)
        self.assertEqual(project.head.number, 1)
        for _ in range(30):
            project = revisions.redo(user, project.id, project.head.number)
        self.assertEqual(project.head.content["hall"]["bays"][0]["span"], 49.0)
        with self.assertRaisesRegex(ModelError, "nothing to redo"):
            revisions.redo(user, project.id, 31)

    def test_the_name_follows_undo(self):
        user = User.objects.create_user("ada", password="gusset-plate")
        project = revisions.create(user, Document(name="First"), "new")
        project = revisions.edit(user, project.id, 1, "rename", [Change("name", "Second")])
        self.assertEqual(project.name, "Second")
        self.assertEqual(revisions.undo(user, project.id, 2).name, "First")


class Demo(TestCase):
    def test_loading_twice_makes_one_set(self):
        for _ in range(2):
            call_command("load_demo", "demo", "sandmartin")
        self.assertEqual(Project.objects.count(), len(DEMOS))
        self.assertTrue(User.objects.get(username="demo").check_password("sandmartin"))


class Screen(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.chain = run(drying_hall())

    def test_labels(self):
        names = {m.name: label(m) for m in self.chain.structure.members}
        self.assertEqual(names["frame-4/rafter-AB-left"], "Rafter 4·AB-L")
        self.assertEqual(names["frame-8/column-B"], "Column 8·B")
        self.assertEqual(names["bay-1/wall-brace-A-up"], "Wall brace 1·A up")
        self.assertEqual(names["bay-7/roof-brace-AB-right-2-down"], "Roof brace 7·AB-R-2 down")
        self.assertEqual(names["bay-3/ridge-beam-AB"], "Ridge beam 3·AB")
        self.assertEqual(len(set(names.values())), len(names))

    def test_roles_add_up(self):
        out = workbench.chain_out(self.chain, 1)
        self.assertEqual(sum(r.count for r in out.roles), len(out.members))
        self.assertAlmostEqual(sum(r.mass for r in out.roles) / 1000, out.tonnage, places=9)
        self.assertAlmostEqual(max(r.worst for r in out.roles), out.worst, places=12)

    def test_diagram_numbers_are_the_engines(self):
        state = "C51"
        number = next(i for i, c in enumerate(self.chain.combinations) if c.name == state)
        out = response.diagram_out(self.chain, 1, "frame-4", state)
        run_ = next(r for r in out.runs if r.member == "frame-4/rafter-AB-left")
        forces = self.chain.combined.diagrams([number])
        own = self.chain.response.elements.member == self.chain.structure.index["frame-4/rafter-AB-left"]
        self.assertEqual([round(v, 9) for v in run_.My], [round(v / 1000, 9) for v in forces.My[own].ravel().tolist()])
        self.assertEqual(run_.My, run_.least_My)

    def test_envelopes_of_other_sets(self):
        for state, names in (("envelope:snow", ("S1", "S2", "S3")), ("envelope:uplift", ("U1",))):
            envelope = response.diagram_out(self.chain, 1, "frame-4", state)
            self.assertEqual(envelope.kind, "envelope")
            for name in names:
                for whole, one in zip(
                    envelope.runs, response.diagram_out(self.chain, 1, "frame-4", name).runs, strict=True
                ):
                    self.assertTrue(all(a >= b - 1e-9 for a, b in zip(whole.My, one.My, strict=True)))
                    self.assertTrue(all(a <= b + 1e-9 for a, b in zip(whole.least_My, one.My, strict=True)))
        with self.assertRaises(KeyError):
            response.diagram_out(self.chain, 1, "frame-4", "envelope:magnets")

    def test_envelope_holds_every_combination(self):
        envelope = response.diagram_out(self.chain, 1, "frame-4", "envelope")
        single = response.diagram_out(self.chain, 1, "frame-4", "C35")
        for whole, one in zip(envelope.runs, single.runs, strict=True):
            self.assertTrue(all(a <= b + 1e-9 for a, b in zip(one.My, whole.My, strict=True)))
            self.assertTrue(all(a >= b - 1e-9 for a, b in zip(one.N, whole.least_N, strict=True)))

    def test_summed_loads_equal_the_case_resultants(self):
        # the whole building under S1: pieces times their length give the expected 645.12 kN
        out = response.diagram_out(self.chain, 1, "whole", "S1")
        total = 0.0
        for load in out.loads:
            length = sum((a - b) ** 2 for a, b in zip(load.start, load.end, strict=True)) ** 0.5
            total += (load.first[2] + load.last[2]) / 2 * length
        self.assertAlmostEqual(total, -645.12, places=6)

    def test_reactions_name_their_combinations(self):
        out = workbench.chain_out(self.chain, 1)
        base = next(r for r in out.reactions if r.node == "frame-4/base-A")
        z = base.directions.index("z")
        number = next(i for i, c in enumerate(self.chain.combinations) if c.name == base.most_in[z])
        node = self.chain.structure.nodes.index("frame-4/base-A")
        value = float(self.chain.combined.reaction([number])[node, 2, 0]) / 1000
        self.assertAlmostEqual(value, base.most[z], places=9)
