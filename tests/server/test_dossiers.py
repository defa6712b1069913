"""Dossiers through the API: made of one revision, issued for good, asked about, ticked."""

import io
import json
import zipfile

from django.contrib.auth.models import User
from django.db import DatabaseError, transaction
from django.test import Client
from docx import Document
from openpyxl import load_workbook
from pypdf import PdfReader

from server.people.models import Event
from server.projects import queue
from server.projects.models import DossierFile, Issue, Project, Revision, Run, Share
from tests.engine.test_dossier import BEAM
from tests.server.test_api import ApiCase


class DossierCase(ApiCase):
    def setUp(self):
        super().setUp()
        self.project = self.post("projects/import", {**BEAM, "name": "Beam"}).json()
        self.at = f"projects/{self.project['id']}"

    def get(self, path, client=None):
        return (client or self.client).get(f"/api/{self.at}/{path}")

    def made(self):
        answer = self.get("dossier?make=true")
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        return answer.json()

    def send(self, method, path, body, client=None):
        send = getattr(client or self.client, method)
        return send(f"/api/{self.at}/{path}", json.dumps(body), content_type="application/json")

    def pages(self, path):
        answer = self.get(path)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(answer.content)).pages]


class Made(DossierCase):
    def test_of_what_stands(self):
        self.assertIsNone(self.get("dossier").json()["file"])
        self.assertEqual(self.get("dossier/pdf").status_code, 404)
        state = self.made()
        self.assertEqual((state["state"], state["file"]["revision"], state["file"]["current"]), ("done", 1, True))
        pages = self.pages(f"dossier/pdf?key={state['file']['key']}")
        self.assertEqual(len(pages), state["file"]["pages"])
        self.assertTrue(all("Revision 1" in words for words in pages))
        self.assertIn("Beam", pages[0])
        book = load_workbook(io.BytesIO(self.get("dossier/sheets").content))
        self.assertIn("verdicts by group", book.sheetnames)
        with zipfile.ZipFile(io.BytesIO(self.get("dossier/csv").content)) as archive:
            self.assertEqual([name.removesuffix(".csv") for name in archive.namelist()], book.sheetnames[1:])
            reactions = archive.read("reactions.csv").decode().split("\r\n")
        # 1.5 times 10 kN/m on 6 m, to the digits that the table has
        self.assertEqual(reactions[0].split(",")[:2], ["support", "V least [kN]"])
        self.assertIn("45.0", reactions[1].split(","))

    def test_how_the_sections_were_found(self):
        before = self.made()
        self.assertNotIn("sizing", [c["key"] for c in before["chapters"]])
        self.assertEqual(self.send("post", "sizing", {"base": 1}).status_code, 202)
        sizing = self.get("sizing").json()
        [group] = sizing["sizing"]["groups"]
        after = self.made()
        self.assertNotEqual(after["file"]["key"], before["file"]["key"])
        self.assertIn("sizing", [c["key"] for c in after["chapters"]])
        anchors = [s["anchor"] for s in after["file"]["sections"]]
        self.assertIn("sizing.rounds", anchors)
        words = " ".join(self.pages(f"dossier/pdf?key={after['file']['key']}"))
        found = f"{group['after']['section']} {group['after']['grade']}"
        self.assertIn(found, words)
        self.assertIn("as found", words)
        self.assertNotIn("What stands is not what was found in", words)
        self.assertIn(f"{group['worst_after']:.2f}", words)
        page = self.get("dossier/html").content.decode()
        self.assertIn(found, page)
        document = Document(io.BytesIO(self.get("dossier/docx").content))
        cells = [cell.text for table in document.tables for cell in table._cells]
        self.assertTrue([text for text in cells if found in text])
        change = {"do": "change", "members": ["beam"], "change": {"section": "IPE 330"}}
        self.send("post", "operate", {"base": 1, "label": "x", "operations": [change]})
        words = " ".join(self.pages(f"dossier/pdf?key={self.made()['file']['key']}"))
        self.assertIn("What stands is not what was found in: Members by hand", words)

    def test_once(self):
        self.made()
        runs = Run.objects.count()
        self.made()
        self.assertEqual((Run.objects.count(), DossierFile.objects.count()), (runs, 1))

    def test_an_older_one_says_so_until_the_new_one_is_there(self):
        self.made()
        self.assertEqual(self.edit(self.project, 1, ("dossier.client", "Ossel Timber")).status_code, 200)
        state = self.get("dossier").json()
        self.assertEqual((state["file"]["revision"], state["file"]["current"]), (1, False))
        # what is told is no part of what is computed
        chains = Run.objects.filter(kind=Run.Kind.CHAIN).count()
        state = self.made()
        self.assertEqual((state["file"]["revision"], state["file"]["current"]), (2, True))
        self.assertEqual(Run.objects.filter(kind=Run.Kind.CHAIN).count(), chains)
        self.assertIn("Ossel Timber", self.pages("dossier/pdf")[0])

    def test_the_plan_is_an_edit(self):
        self.edit(
            self.project, 1, ("dossier.chapters.actions.left_out", True), ("dossier.chapters.basis.level", "full")
        )
        state = self.made()
        chapters = {c["key"]: c for c in state["chapters"]}
        self.assertTrue(chapters["actions"]["left_out"])
        self.assertEqual((chapters["basis"]["level"], chapters["open"]["fixed"]), ("full", True))
        self.assertNotIn("actions", {s["anchor"] for s in state["file"]["sections"]})
        self.assertIn("Left out of this document: Actions.", " ".join(self.pages("dossier/pdf")))
        answer = self.edit(self.project, 2, ("dossier.chapters.basis.level", "loud"))
        self.assertEqual((answer.status_code, answer.json()["place"]), (422, "dossier.chapters.basis.level"))
        answer = self.edit(self.project, 2, ("dossier.chapters.nonsense.level", "full"))
        self.assertEqual(answer.status_code, 422)

    def test_what_cannot_be_computed_is_told(self):
        self.edit(self.project, 1, ("supports", []))
        state = self.made()
        self.assertEqual((state["state"], state["file"]), ("failed", None))
        self.assertEqual(state["problem"]["place"], "supports")

    def test_what_failed_is_not_tried_again_by_looking(self):
        self.edit(self.project, 1, ("supports", []))
        self.made()
        self.made()
        self.assertEqual(Run.objects.filter(kind=Run.Kind.DOSSIER).count(), 1)
        self.assertEqual(self.get("dossier?make=true&again=true").json()["state"], "failed")
        self.assertEqual(Run.objects.filter(kind=Run.Kind.DOSSIER).count(), 2)

    def test_only_the_last_few_are_kept(self):
        for number in range(1, 6):
            self.made()
            self.edit(self.project, number, ("dossier.reference", f"no. {number}"))
        self.assertEqual(DossierFile.objects.count(), 3)

    def test_one_under_way_ends_when_it_is_not_wanted(self):
        project = Project.objects.get(id=self.project["id"])
        run = Run.objects.create(
            project=project, revision=project.head, kind=Run.Kind.DOSSIER, key="x", state="running"
        )
        self.assertEqual(self.client.delete(f"/api/{self.at}/dossier").json()["state"], "cancelled")
        with self.assertRaises(queue.Stopped):
            queue.teller(run.pk)("Actions", 1, 9)


class Issued(DossierCase):
    def issue(self, base=1, purpose="approval"):
        return self.send("post", "issues", {"base": base, "purpose": purpose})

    def test_for_good_with_its_model(self):
        self.assertEqual(self.issue().status_code, 202)
        self.edit(self.project, 1, ("dossier.client", "Ossel Timber"))
        self.assertEqual(self.issue(2, "construction").status_code, 202)
        issues = self.get("dossier").json()["issues"]
        self.assertEqual(
            [(i["number"], i["purpose"], i["revision"], i["author"]) for i in issues],
            [(2, "construction", 2, "ada"), (1, "approval", 1, "ada")],
        )
        self.assertTrue(all("Issue 1, for approval · revision 1" in words for words in self.pages("issues/1/pdf")))
        self.assertEqual(self.get("issues/1/document").json(), Revision.objects.get(number=1).content)
        self.assertEqual(self.get("issues/3/pdf").status_code, 404)
        self.assertTrue(Event.objects.filter(words="Issued no. 1, for approval", person=self.user).exists())

    def test_what_differs_from_the_last_issue(self):
        self.issue()
        self.edit(
            self.project,
            1,
            ("member_loads", [{**BEAM["member_loads"][0], "value": [0, 0, -11]}]),
            ("dossier.chapters.joints.left_out", True),
        )
        file = self.made()["file"]
        since = {s["anchor"]: s["since"] for s in file["sections"]}
        self.assertEqual((since["basis.standards"], since["response.reactions"]), ("", "changed"))
        self.assertIn("Kinds of joints", " ".join(file["gone"]))
        self.issue(2)
        self.assertFalse(any(s["since"] for s in self.get("dossier").json()["file"]["sections"]))

    def test_not_of_what_the_page_does_not_show(self):
        self.edit(self.project, 1, ("dossier.client", "Ossel Timber"))
        self.assertEqual(self.issue(1).status_code, 409)
        self.assertFalse(Issue.objects.exists())

    def test_the_database_refuses_to_alter_it(self):
        self.issue()
        for values in ({"pdf": b"other"}, {"number": 7}):
            with self.assertRaises(DatabaseError), transaction.atomic():
                Issue.objects.update(**values)
        self.client.delete(f"/api/{self.at}")
        self.assertEqual(Issue.objects.count(), 1)


class Checked(DossierCase):
    def setUp(self):
        super().setUp()
        self.made()
        self.ben = User.objects.create_user("ben", password="gusset-plate")
        self.checker = Client()
        self.checker.force_login(self.ben)
        Share.objects.create(project_id=self.project["id"], person=self.ben, role="checker")

    def section(self, anchor):
        return next(s for s in self.get("dossier").json()["file"]["sections"] if s["anchor"] == anchor)

    def test_a_tick_falls_when_what_it_stands_on_changes(self):
        for anchor in ("basis.standards", "response.reactions"):
            self.assertEqual(self.send("put", "ticks", {"anchor": anchor, "seen": True}, self.checker).status_code, 200)
        self.edit(self.project, 1, ("member_loads", [{**BEAM["member_loads"][0], "value": [0, 0, -11]}]))
        self.made()
        self.assertEqual(
            (self.section("basis.standards")["seen"], self.section("basis.standards")["fallen"]), (["ben"], [])
        )
        self.assertEqual(
            (self.section("response.reactions")["seen"], self.section("response.reactions")["fallen"]), ([], ["ben"])
        )
        self.send("put", "ticks", {"anchor": "basis.standards", "seen": False}, self.checker)
        self.assertEqual(self.section("basis.standards")["seen"], [])

    def test_inputs_are_ticked_one_by_one_or_with_their_section(self):
        self.edit(self.project, 1, ("dossier.chapters.basis.level", "full"))
        self.made()
        rows = [s for s in self.get("dossier").json()["file"]["sections"] if s["anchor"].startswith("input.site.")]
        self.assertTrue(len(rows) > 4 and all(row["row"] for row in rows))
        self.assertFalse(self.section("inputs.site")["row"])
        self.send("put", "ticks", {"anchor": "input.site.ground_snow", "seen": True}, self.checker)
        self.assertEqual(self.section("input.site.ground_snow")["seen"], ["ben"])
        self.assertEqual(self.section("input.site.wind_speed")["seen"], [])
        self.assertEqual(self.section("inputs.site")["seen"], [])
        self.send("put", "ticks", {"anchor": "inputs.site", "seen": True}, self.checker)
        for anchor in ("inputs.site", *(row["anchor"] for row in rows)):
            self.assertEqual(self.section(anchor)["seen"], ["ben"])
        self.assertEqual(self.section("inputs.wind")["seen"], [])
        self.assertEqual(self.section("input.wind.season")["seen"], [])
        # a later value: its tick falls and that of the section, no other one
        self.edit(self.project, 2, ("site.ground_snow", 1.1))
        self.made()
        for anchor in ("input.site.ground_snow", "inputs.site"):
            self.assertEqual((self.section(anchor)["seen"], self.section(anchor)["fallen"]), ([], ["ben"]))
        self.assertEqual(self.section("input.site.wind_speed")["seen"], ["ben"])
        answer = self.send(
            "post", "questions", {"anchor": "input.site.ground_snow", "text": "Whose map?"}, self.checker
        )
        self.assertIn("ground snow", answer.json()["questions"][0]["title"])
        self.send("put", "ticks", {"anchor": "inputs.site", "seen": False}, self.checker)
        self.assertEqual(self.section("input.site.wind_speed")["seen"], [])

    def test_a_question_is_answered_and_closed(self):
        asked = self.send("post", "questions", {"anchor": "basis.standards", "text": " Which edition? "}, self.checker)
        question = asked.json()["questions"][0]
        self.assertEqual((question["number"], question["text"], question["state"]), (1, "Which edition?", "open"))
        self.assertEqual((question["title"], question["author"], question["page"]), ("1.1 Standards", "ben", 2))
        answer = self.send("patch", "questions/1", {"answer": "2005."}, self.checker)
        self.assertEqual(answer.status_code, 403)
        answer = self.send("patch", "questions/1", {"answer": "2005."}).json()["questions"][0]
        self.assertEqual((answer["state"], answer["answer"], answer["answered_by"]), ("answered", "2005.", "ada"))
        answer = self.send("patch", "questions/1", {"close": True}, self.checker).json()["questions"][0]
        self.assertEqual(answer["state"], "closed")

    def test_what_is_refused(self):
        for method, path, body, place in (
            ("post", "questions", {"anchor": "nowhere", "text": "Why?"}, "anchor"),
            ("post", "questions", {"anchor": "basis", "text": "  "}, "text"),
            ("post", "questions", {"anchor": "basis", "text": "x" * 3000}, "text"),
            ("put", "ticks", {"anchor": "nowhere", "seen": True}, "anchor"),
            ("patch", "questions/9", {"answer": "x"}, ""),
        ):
            with self.subTest(path, body=str(body)[:60]):
                answer = self.send(method, path, body)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["place"].endswith(place))
