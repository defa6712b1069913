"""Models that come back through the API: told, refused, taken as one revision, undone; an office that refuses or is down."""

import uuid
from threading import Thread
from unittest import mock

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, override_settings

from detailing.service import Handler, make
from engine.bench import portal_hall
from engine.chain import prepare, run
from engine.document import read_document
from engine.document.rules import Inside
from engine.report.standing import effect_of
from publish.ifc.out import ifc
from server.projects import queue, returning
from server.projects.models import Project, Returned, Revision, Run, Share
from tests.server.test_api import ApiCase


def hall():
    """With one internal pressure: a third of the combinations."""
    document = portal_hall(4, 1)
    document.wind.inside = Inside(kind="own", values=[0.2])
    return document


class ReturnedModels(ApiCase):
    def setUp(self):
        super().setUp()
        self.document = hall()
        self.project = self.post("projects/import", self.document.model_dump(mode="json")).json()
        self.at = f"projects/{self.project['id']}"
        self.whole = ifc(prepare(self.document), "Hall", uuid.UUID(self.project["id"]), "revision 1").decode()

    def receive(self, text, name="back.ifc", client=None):
        file = SimpleUploadedFile(name, text.encode())
        return (client or self.client).post(f"/api/{self.at}/returned", {"file": file})

    def model(self):
        return self.client.get(f"/api/{self.at}/returned").json()["model"]

    def swapped(self, was, now):
        """The file with another profile, by its name and nothing else of it."""
        self.assertIn(f"'{was}'", self.whole)
        return self.whole.replace(f"'{was}'", f"'{now}'")

    def test_told_taken_and_undone(self):
        self.assertEqual(
            self.client.get(f"/api/{self.at}/returned").json(), {"office": False, "model": None, "problem": ""}
        )
        same = self.receive(self.whole)
        self.assertEqual(same.status_code, 200, same.content[:300])
        self.assertEqual((same.json()["model"]["groups"], same.json()["model"]["sent"]), ([], 1))
        columns = self.document.hall.sections.columns
        answer = self.receive(self.swapped(columns, "HEB 320")).json()["model"]
        [group] = answer["groups"]
        self.assertEqual((group["kind"], group["words"]), ("section", f"{columns} → HEB 320"))
        # the name says one thing, the drawing another: that is said too
        self.assertIn("is drawn as", answer["guessed"][0])
        keys = [d["key"] for d in group["items"]]
        self.assertEqual(Revision.objects.filter(project_id=self.project["id"]).count(), 1)
        taken = self.post(f"{self.at}/returned/take", {"base": 1, "keys": keys})
        self.assertEqual(taken.status_code, 200, taken.content[:300])
        self.assertEqual(taken.json()["document"]["hall"]["sections"]["columns"], "HEB 320")
        self.assertEqual(taken.json()["revision"]["label"], f"From back.ifc: {len(keys)} changes")
        self.assertEqual((self.model()["groups"], self.model()["already"]), ([], len(keys)))
        late = self.post(f"{self.at}/returned/take", {"base": 2, "keys": keys})
        self.assertEqual(late.status_code, 422)
        self.assertIn("no difference", late.json()["message"])
        self.post(f"{self.at}/undo", {"base": 2})
        self.assertEqual([d["key"] for d in self.model()["groups"][0]["items"]], keys)

    def test_refused_ones_stay_refused_until_somebody_thinks_again(self):
        columns = self.document.hall.sections.columns
        [group] = self.receive(self.swapped(columns, "HEB 320")).json()["model"]["groups"]
        keys = [d["key"] for d in group["items"]]
        one = self.post(f"{self.at}/returned/refuse", {"keys": keys[:1], "refused": True}).json()["model"]
        self.assertFalse(one["groups"][0]["refused"])
        self.post(f"{self.at}/returned/refuse", {"keys": keys[1:], "refused": True})
        self.assertTrue(self.model()["groups"][0]["refused"])
        back = self.post(f"{self.at}/returned/refuse", {"keys": keys, "refused": False}).json()["model"]
        self.assertFalse(back["groups"][0]["refused"])
        self.assertEqual(Returned.objects.get().refused, [])
        self.assertIsNone(self.client.delete(f"/api/{self.at}/returned").json()["model"])
        self.assertEqual(Returned.objects.count(), 0)

    def test_what_they_do_is_solved_for_each_and_for_all(self):
        columns, rafters = self.document.hall.sections.columns, self.document.hall.sections.rafters
        self.receive(self.swapped(columns, "IPE 240").replace(f"'{rafters}'", "'IPE 600'"))
        answer = self.post(f"{self.at}/returned/effects", {"base": 1})
        self.assertEqual(answer.status_code, 202)
        model = self.model()
        self.assertEqual((model["state"], model["solved"], model["done_of"]), ("done", True, [4, 4]))
        now = effect_of(run(self.document))
        self.assertAlmostEqual(model["stands"]["worst"], now.worst)
        by = {g["words"]: g["effect"] for g in model["groups"]}
        slim = self.document.model_copy(deep=True)
        slim.hall.sections.columns = "IPE 240"
        self.assertAlmostEqual(by[f"{columns} → IPE 240"]["worst"], run(slim).verification.whole.worst)
        self.assertGreater(by[f"{columns} → IPE 240"]["worst"], 1.1 * now.worst)
        both = slim.model_copy(deep=True)
        both.hall.sections.rafters = "IPE 600"
        self.assertAlmostEqual(model["together"]["worst"], run(both).verification.whole.worst)
        # asked for again, nothing is solved again; refused, it is of something else
        with mock.patch.object(returning, "effect", side_effect=AssertionError):
            self.post(f"{self.at}/returned/effects", {"base": 1})
        keys = [d["key"] for g in model["groups"] if "IPE 240" in g["words"] for d in g["items"]]
        self.post(f"{self.at}/returned/refuse", {"keys": keys, "refused": True})
        self.assertFalse(self.model()["solved"])
        self.assertIsNone(self.model()["together"])

    def test_solving_is_stopped_with_what_was_found(self):
        self.receive(self.swapped(self.document.hall.sections.columns, "HEB 320"))
        with mock.patch.object(queue, "perform"):
            self.post(f"{self.at}/returned/effects", {"base": 1})
        self.assertEqual(self.model()["state"], "waiting")
        stopped = self.client.delete(f"/api/{self.at}/returned/effects").json()["model"]
        self.assertEqual((stopped["state"], stopped["together"]), ("cancelled", None))
        # another model puts an end to what is solved of the one before
        with mock.patch.object(queue, "perform"):
            self.post(f"{self.at}/returned/effects", {"base": 1})
        self.receive(self.whole)
        self.assertEqual(Run.objects.filter(kind="returned").count(), 0)

    def test_changed_here_since_it_was_sent(self):
        columns = self.document.hall.sections.columns
        back = self.swapped(columns, "HEB 320")
        change = {"base": 1, "label": "x", "changes": [{"path": "hall.sections.columns", "value": "HEB 300"}]}
        self.post(f"{self.at}/edits", change)
        [group] = self.receive(back).json()["model"]["groups"]
        self.assertEqual((group["words"], group["meanwhile"]), ("HEB 300 → HEB 320", columns))
        # a file that lost the number of its revision is compared with what stands
        found = self.receive(self.whole.replace("revision 1", "some model")).json()["model"]
        self.assertEqual((found["sent"], found["groups"][0]["words"]), (None, f"HEB 300 → {columns}"))
        self.assertIn("no longer says which revision", " ".join(found["guessed"]))

    def test_what_cannot_be_read_changes_nothing(self):
        self.receive(self.whole, "first.ifc")
        other = ifc(prepare(self.document), "Hall", uuid.uuid4(), "revision 1").decode()
        for text, words in (
            ("", "No file was sent|no IFC file"),
            ("ISO-10303-21;", "schema"),
            (self.whole[:5000], "cut off"),
            (other, "no model that was sent from here"),
        ):
            with self.subTest(words):
                answer = self.receive(text)
                self.assertEqual(answer.status_code, 422)
                self.assertRegex(answer.json()["message"], words)
        self.assertEqual(Returned.objects.get().name, "first.ifc")

    def test_a_hall_that_is_released_keeps_its_identities(self):
        columns = self.document.hall.sections.columns
        back = self.swapped(columns, "HEB 320")
        [sent] = self.receive(back).json()["model"]["groups"]
        release = {"base": 1, "label": "x", "operations": [{"do": "release", "jig": "hall"}]}
        done = self.post(f"{self.at}/operate", release)
        self.assertEqual(done.status_code, 200, done.content[:300])
        [group] = self.model()["groups"]
        self.assertEqual((group["words"], group["meanwhile"], group["takes"]), (sent["words"], "", True))
        self.assertEqual(len(group["items"]), len(sent["items"]))
        keys = [d["key"] for d in group["items"]]
        taken = self.post(f"{self.at}/returned/take", {"base": 2, "keys": keys})
        self.assertEqual(taken.status_code, 200, taken.content[:300])
        made = [m["section"] for m in taken.json()["document"]["members"] if m["role"] == "column"]
        self.assertEqual(set(made), {"HEB 320"})
        # and the other way: sent free, taken in after the release is undone
        free = ifc(prepare(read_document(done.json()["document"])), "Hall", uuid.UUID(self.project["id"]), "revision 2")
        self.post(f"{self.at}/undo", {"base": 3})
        self.post(f"{self.at}/undo", {"base": 4})
        self.assertEqual(self.receive(free.decode()).json()["model"]["groups"], [])
        [group] = self.receive(free.decode().replace(f"'{columns}'", "'HEB 320'")).json()["model"]["groups"]
        self.assertEqual((group["words"], group["meanwhile"]), (sent["words"], ""))

    def test_one_that_cannot_be_compared_any_more_says_why(self):
        self.receive(self.whole)
        empty = {"path": "hall", "value": None}
        beam = {"path": "nodes", "value": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}]}
        member = {"path": "members", "value": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300"}]}
        done = self.post(f"{self.at}/edits", {"base": 1, "label": "x", "changes": [empty, beam, member]})
        self.assertEqual(done.status_code, 200, done.content[:300])
        state = self.client.get(f"/api/{self.at}/returned").json()
        self.assertIsNone(state["model"])
        self.assertIn("back.ifc cannot be compared", state["problem"])

    def test_what_was_refused_stays_refused_where_it_comes_again(self):
        columns = self.document.hall.sections.columns
        [group] = self.receive(self.swapped(columns, "HEB 320")).json()["model"]["groups"]
        keys = [d["key"] for d in group["items"]]
        self.post(f"{self.at}/returned/refuse", {"keys": keys, "refused": True})
        again = self.receive(self.swapped(columns, "HEB 320"), "second.ifc").json()["model"]
        self.assertTrue(again["groups"][0]["refused"])
        self.assertIn(f"{len(keys)} differences, which stay refused", " ".join(again["said"]))
        # another section is another thing
        other = self.receive(self.swapped(columns, "HEB 340"), "third.ifc").json()["model"]
        self.assertFalse(other["groups"][0]["refused"])
        self.assertEqual(other["said"], [])

    def test_it_goes_with_its_project(self):
        self.receive(self.whole)
        body = {"name": self.project["name"]}
        gone = self.client.delete(f"/api/{self.at}", body, content_type="application/json")
        self.assertEqual((gone.status_code, Returned.objects.count(), Project.objects.count()), (204, 0, 0))

    def test_a_checker_reads_and_decides_nothing(self):
        columns = self.document.hall.sections.columns
        [group] = self.receive(self.swapped(columns, "HEB 320")).json()["model"]["groups"]
        keys = [d["key"] for d in group["items"]]
        checker = User.objects.create_user("cleo", password="x")
        Share.objects.create(project=Project.objects.get(), person=checker, role="checker")
        client = Client()
        client.force_login(checker)
        self.assertEqual(len(client.get(f"/api/{self.at}/returned").json()["model"]["groups"]), 1)
        for path, body in (
            ("take", {"base": 1, "keys": keys}),
            ("refuse", {"keys": keys, "refused": True}),
            ("effects", {"base": 1}),
            ("order", {}),
        ):
            answer = client.post(f"/api/{self.at}/returned/{path}", body, content_type="application/json")
            self.assertEqual(answer.status_code, 403, path)
        self.assertEqual(self.receive(self.whole, client=client).status_code, 403)
        self.assertEqual(client.delete(f"/api/{self.at}/returned").status_code, 403)
        self.assertEqual(Returned.objects.get().refused, [])


class Office(ApiCase):
    """The stand-in for an office that details steel."""

    def setUp(self):
        super().setUp()
        self.service = make()
        Thread(target=self.service.serve_forever, daemon=True).start()
        self.addCleanup(self.service.server_close)
        self.addCleanup(self.service.shutdown)
        self.url = f"http://127.0.0.1:{self.service.server_port}"
        document = hall().model_dump(mode="json")
        self.at = f"projects/{self.post('projects/import', document).json()['id']}"

    def order(self):
        return self.client.post(f"/api/{self.at}/returned/order", content_type="application/json")

    def test_sent_and_come_back(self):
        with override_settings(DETAILING_URL=self.url):
            answer = self.order()
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            self.assertTrue(answer.json()["office"])
        model = answer.json()["model"]
        self.assertRegex(model["name"], r"T-\d+ of Tarnbeck Steel Detailing \(invented\)")
        self.assertEqual({g["kind"] for g in model["groups"] if g["takes"]}, {"section", "moved", "placed"})
        self.assertEqual(model["sent"], 1)
        self.assertGreater(len(model["said"]), 5)
        # the forces at its joints go with it: two ends of every member, and none of what passes
        self.assertRegex(model["said"][-1], r"Forces at \d+ ends")
        keys = [d["key"] for g in model["groups"] if g["takes"] for d in g["items"]]
        taken = self.post(f"{self.at}/returned/take", {"base": 1, "keys": keys})
        self.assertEqual(taken.status_code, 200, taken.content[:300])
        read_document(taken.json()["document"])
        after = self.client.get(f"/api/{self.at}/returned").json()["model"]
        self.assertEqual([g["key"] for g in after["groups"] if g["takes"]], [])

    def test_down_refusing_and_not_set_up(self):
        for url, words in (("", "is set up"), ("http://127.0.0.1:9", "does not answer")):
            with override_settings(DETAILING_URL=url):
                answer = self.order()
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["message"])
        with (
            override_settings(DETAILING_URL=self.url),
            mock.patch.object(Handler, "order", lambda handler, _: handler.say(400, {"message": "We are on holiday."})),
        ):
            self.assertIn("We are on holiday.", self.order().json()["message"])
        for nonsense in ({"order": "T-9"}, [], {"order": "T-9", "done": 7, "office": ""}):
            with (
                override_settings(DETAILING_URL=self.url),
                mock.patch.object(Handler, "order", lambda handler, _, said=nonsense: handler.say(201, said)),
            ):
                answer = self.order()
                self.assertEqual(answer.status_code, 422)
        self.assertEqual(Returned.objects.count(), 0)
