"""Studies: each set-out a run of its own, kept, stopped, taken as one revision."""

from unittest import mock

from engine.sizing.study import varied
from server.projects import queue, studies
from server.projects.models import Project, Revision, Run
from tests.engine.test_study import shed
from tests.server.test_api import ApiCase


class Studies(ApiCase):
    def setUp(self):
        super().setUp()
        document = shed().model_dump(mode="json")
        self.project = self.post("projects/import", document).json()
        self.at = f"projects/{self.project['id']}"

    def start(self, base=1, **ranges):
        return self.post(f"{self.at}/study", {"base": base, "ranges": ranges})

    def test_set_outs_are_sized_kept_and_taken(self):
        first = self.client.get(f"/api/{self.at}/study").json()
        self.assertEqual(first["points"], [])
        self.assertEqual(next(q["now"] for q in first["quantities"] if q["key"] == "bases"), "pinned")
        answer = self.start(bases=["pinned", "fixed"])
        self.assertEqual(answer.status_code, 202)
        points = answer.json()["points"]
        self.assertEqual([p["words"] for p in points], ["As it stands", "Bases pinned", "Bases fixed"])
        self.assertEqual({p["state"] for p in points}, {"done"})
        self.assertEqual(points[0]["tonnage"], points[1]["tonnage"])
        self.assertLess(points[2]["tonnage"], points[0]["tonnage"])
        self.assertEqual((points[2]["passes"], points[2]["area"]), (True, 150.0))
        # the dossier tells of it, in type and as a page
        dossier = self.client.get(f"/api/{self.at}/dossier").json()
        self.assertIn("sizing", [c["key"] for c in dossier["chapters"]])
        page = self.client.get(f"/api/{self.at}/dossier/html").content.decode()
        for words in ("Set-outs beside one another", "Bases fixed", "cost by the prices"):
            self.assertIn(words, page)
        # asked for again, what was found is not sized again
        with mock.patch.object(studies, "solve", side_effect=AssertionError):
            again = self.start(bases=["pinned", "fixed"]).json()
        self.assertEqual([p["number"] for p in again["points"]], [p["number"] for p in points])
        taken = self.post(f"{self.at}/study/take", {"base": 1, "number": points[2]["number"]})
        self.assertEqual(taken.status_code, 200)
        self.assertEqual(taken.json()["document"]["hall"]["bases"], "fixed")
        self.assertEqual(taken.json()["revision"]["number"], 2)
        chain = self.client.get(f"/api/{self.at}/chain").json()
        self.assertAlmostEqual(chain["tonnage"], points[2]["tonnage"], places=3)
        self.assertEqual(chain["whole"]["failing"], 0)
        # what was found is of another model now
        self.assertFalse(self.client.get(f"/api/{self.at}/study").json()["stands"])
        late = self.post(f"{self.at}/study/take", {"base": 2, "number": points[1]["number"]})
        self.assertEqual(late.status_code, 422)
        self.assertIn("has changed since", late.json()["message"])
        self.assertEqual(Revision.objects.filter(project_id=self.project["id"]).count(), 2)

    def test_a_set_out_that_cannot_be_is_told_and_the_others_stand(self):
        found = self.start(frames=[2, 90]).json()["points"]
        self.assertEqual([p["state"] for p in found], ["done", "done", "failed"])
        self.assertIn("at least 0.5", found[2]["message"])
        for ranges, words in (({"pitch": ["steep"]}, "no number"), ({"colour": [1]}, "nothing that a study varies")):
            answer = self.start(**ranges)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])

    def test_stopped_it_keeps_what_was_found_and_is_taken_up_again(self):
        project = Project.objects.get(id=self.project["id"])
        with mock.patch.object(queue, "perform"):
            self.start(bases=["fixed"])
        waiting = project.runs.filter(kind=Run.Kind.STUDY)
        self.assertEqual({r.state for r in waiting}, {"waiting"})
        queue.perform(waiting.last().pk, studies.compute)
        stopped = self.client.delete(f"/api/{self.at}/study").json()
        self.assertEqual(sorted(p["state"] for p in stopped["points"]), ["cancelled", "done"])
        with mock.patch.object(studies, "solve", wraps=studies.solve) as solve:
            again = self.start(bases=["fixed"]).json()
        self.assertEqual({p["state"] for p in again["points"]}, {"done"})
        self.assertEqual(solve.call_count, 1)
        self.assertEqual(varied(shed(), {"bases": "fixed"}).hall.bases, "fixed")
