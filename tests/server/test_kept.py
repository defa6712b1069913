"""What the office keeps: kept from one project, put into another, begun with."""

from django.contrib.auth.models import User
from django.test import Client

from engine.document import Document
from engine.document.jigs import HallJig
from server.projects import revisions
from server.projects.models import OfficeKept, Project
from tests.server.test_api import ApiCase


class Kept(ApiCase):
    def setUp(self):
        super().setUp()
        self.one, self.two = (
            revisions.create(self.user, Document(name=name, hall=HallJig(spacings=[6.0])), "Test data")
            for name in ("One", "Two")
        )

    def edit(self, project, path, value, **how):
        base = Project.objects.get(id=project.id).head.number
        body = {"base": base, "label": "x", "changes": [{"path": path, "value": value} | how]}
        answer = self.client.post(f"/api/projects/{project.id}/edits", body, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content[:300])

    def keep(self, kind, name="Ours", project=None, client=None):
        body = {"kind": kind, "name": name, "project": str((project or self.one).id)}
        return (client or self.client).post("/api/office/kept", body, content_type="application/json")

    def put(self, kept, project=None):
        project = project or self.two
        base = Project.objects.get(id=project.id).head.number
        body = {"base": base, "kept": kept}
        return self.client.post(f"/api/projects/{project.id}/kept", body, content_type="application/json")

    def document(self, project):
        return Project.objects.get(id=project.id).head.content

    def test_national_values_are_those_that_differ_and_the_others_become_recommended(self):
        self.edit(self.one, "rules.gamma_M1", 1.1)
        self.edit(self.one, "national.source", "Annex of Osselland")
        self.edit(self.two, "rules.gamma_M0", 1.05)
        kept = self.keep("national").json()
        content = OfficeKept.objects.get().content
        self.assertEqual(content, {"rules.gamma_M1": 1.1, "national.source": "Annex of Osselland"})
        answer = self.put(kept["id"])
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        rules = self.document(self.two)["rules"]
        self.assertEqual((rules["gamma_M1"], rules["gamma_M0"]), (1.1, 1.0))
        self.assertEqual(answer.json()["revision"]["label"], "National values of the office: Ours")
        undone = self.client.post(
            f"/api/projects/{self.two.id}/undo",
            {"base": answer.json()["revision"]["number"]},
            content_type="application/json",
        )
        self.assertEqual(undone.json()["document"]["rules"]["gamma_M0"], 1.05)

    def test_limits_prices_and_the_layout_of_the_dossier(self):
        self.edit(self.one, "rules.deflections.purlin", 250.0)
        self.edit(self.one, "sizing.prices.rolled", 2.9)
        self.edit(self.one, "dossier.chapters.actions", {"level": "full", "remark": "Only here."})
        self.edit(self.two, "dossier.chapters.actions", {"left_out": True, "remark": "Mine."})
        self.edit(self.two, "dossier.chapters.basis", {"remark": "Mine too.", "level": "summary"})
        for kind in ("limits", "prices", "dossier"):
            answer = self.put(self.keep(kind).json()["id"])
            self.assertEqual(answer.status_code, 200, answer.content[:300])
        found = self.document(self.two)
        self.assertEqual(found["rules"]["deflections"]["purlin"], 250.0)
        self.assertEqual(found["sizing"]["prices"]["rolled"], 2.9)
        self.assertEqual(found["dossier"]["chapters"]["actions"]["level"], "full")
        # a layout brings no words along, and takes none away
        chapters = found["dossier"]["chapters"]
        self.assertEqual((chapters["actions"]["remark"], chapters["actions"]["left_out"]), ("Mine.", False))
        self.assertEqual((chapters["basis"]["remark"], chapters["basis"]["level"]), ("Mine too.", "normal"))
        self.assertNotIn("remark", OfficeKept.objects.get(kind="dossier").content["dossier.chapters"]["actions"])

    def test_materials_join_those_that_are_there(self):
        mine = {"name": "S390", "E": 210e6, "density": 7850.0, "fy": 390e3}
        self.edit(self.one, "materials", [mine])
        self.edit(self.two, "materials", [{**mine, "fy": 380e3}, {**mine, "name": "Other"}])
        self.put(self.keep("materials").json()["id"])
        found = {m["name"]: m["fy"] for m in self.document(self.two)["materials"]}
        self.assertEqual(found, {"S390": 390e3, "Other": 390e3})

    def test_a_template_begins_a_project(self):
        self.edit(self.one, "hall.bays.0.span", 21.0)
        kept = self.keep("template", "Our hall").json()
        self.assertTrue(kept["lines"].startswith("M"))
        body = {"name": "Three", "kept": kept["id"]}
        made = self.client.post("/api/projects", body, content_type="application/json")
        self.assertEqual(made.status_code, 201, made.content[:300])
        self.assertEqual(made.json()["document"]["hall"]["bays"][0]["span"], 21.0)
        self.assertEqual(made.json()["name"], "Three")
        self.assertEqual(self.put(kept["id"]).status_code, 422)

    def test_a_name_that_is_there_is_replaced_and_what_is_not_there_refused(self):
        self.edit(self.one, "sizing.prices.rolled", 2.9)
        self.assertEqual(self.keep("prices").json()["id"], self.keep("prices").json()["id"])
        for kind, name, words in (
            ("national", "x", "nothing of it to keep"),
            ("materials", "x", "nothing of it"),
            ("limits", "  ", "needs a name"),
        ):
            answer = self.keep(kind, name)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.put(99999).status_code, 404)

    def test_only_who_may_change_a_project_keeps_what_is_in_it(self):
        other = Client()
        other.force_login(User.objects.create_user("ben", password="gusset-plate"))
        self.assertEqual(self.keep("template", client=other).status_code, 404)
        self.assertEqual(OfficeKept.objects.count(), 0)

    def take(self, text, name="Osselland"):
        return self.client.post("/api/office/national", {"name": name, "text": text}, content_type="application/json")

    def test_national_values_go_out_as_csv_and_come_in_the_same(self):
        self.edit(self.one, "rules.gamma_M1", 1.1)
        self.edit(self.one, "national.source", "Annex of Osselland")
        first = self.keep("national").json()["id"]
        answer = self.client.get(f"/api/office/national/{first}")
        self.assertEqual(answer["Content-Type"], "text/csv")
        text = answer.content.decode()
        self.assertIn("rules.gamma_M1,γ_M1,", text)
        self.assertIn(",1.0,1.1\r\n", text)
        second = self.take(text).json()["id"]
        contents = OfficeKept.objects.in_bulk()
        self.assertEqual(contents[first].content, contents[second].content)

    def test_what_a_file_says_wrongly_is_told_by_its_row(self):
        for text, words in (
            ("symbol,value\nx,1\n", "lacks “path”"),
            ("path,value\nrules.gamma_M7,1.1\n", "Row 2: “rules.gamma_M7”"),
            ("path,value\n\nrules.gamma_M1,much\n", "Row 3: rules.gamma_M1 is a number"),
            (
                "path;value\nnational.steel.interaction;annex C\n",
                "Row 2: national.steel.interaction is one of annex A, annex B",
            ),
            ("path,value\nrules.gamma_M1,-1\n", "gamma_M1"),
            ("path,value\nrules.gamma_M1,1\n", "nothing to keep"),
        ):
            with self.subTest(text):
                answer = self.take(text)
                self.assertEqual(answer.status_code, 422, answer.content[:200])
                self.assertIn(words, answer.json()["message"])
        self.assertEqual(OfficeKept.objects.count(), 0)

    def test_what_is_dropped_stays_where_it_was_taken_over(self):
        self.edit(self.one, "sizing.prices.rolled", 2.9)
        kept = self.keep("prices").json()["id"]
        self.put(kept)
        self.assertEqual(self.client.delete(f"/api/office/kept/{kept}").status_code, 204)
        self.assertEqual(self.client.get("/api/office/kept").json(), [])
        self.assertEqual(self.document(self.two)["sizing"]["prices"]["rolled"], 2.9)

    def test_tables_of_purlins_come_in_and_out_and_are_kept(self):
        text = (
            "profile;span;spans;down;up;service;stiffness;moment;source\n"
            "Z 200;6;1;3,2;2,4;2;;;maker\nZ 200;7;;2,3;1,8;;;;\nZ 250;6;3;5;4;3;1600;12,5;maker\n"
        )
        tables = self.client.post("/api/load-tables", {"text": text}, content_type="application/json").json()
        self.assertEqual(
            [(t["name"], len(t["rows"]), t["source"]) for t in tables], [("Z 200", 2, "maker"), ("Z 250", 1, "maker")]
        )
        self.assertEqual(tables[0]["rows"][1], {"span": 7, "spans": 1, "down": 2.3, "up": 1.8, "service": 0})
        self.assertEqual([(t["stiffness"], t["moment"]) for t in tables], [(0, 0), (1600, 12.5)])
        for table in tables:
            self.edit(self.one, "load_tables", table, do="add")
        out = self.client.get(f"/api/projects/{self.one.pk}/load-tables").content.decode()
        again = self.client.post("/api/load-tables", {"text": out}, content_type="application/json").json()
        self.assertEqual(again, tables)
        kept = self.keep("tables").json()["id"]
        self.put(kept)
        self.assertEqual(self.document(self.two)["load_tables"], tables)

    def test_what_a_table_says_wrongly_is_told_by_its_row(self):
        for text, words in (
            ("profile,span,down\nZ,6,3\n", "lacks “up”"),
            ("profile,span,down,up\nZ,6,3,much\n", "Row 2: up is a number, not “much”"),
            ("profile,span,down,up\nZ,6,3,2\nZ,0,3,2\n", "Row 3: span"),
            ("profile,span,spans,down,up\nZ,6,5,3,2\n", "Row 2: spans"),
            ("profile,span,down,up\n", "no row with a profile"),
        ):
            with self.subTest(text):
                answer = self.client.post("/api/load-tables", {"text": text}, content_type="application/json")
                self.assertEqual(answer.status_code, 422, answer.content[:200])
                self.assertIn(words, answer.json()["message"])
