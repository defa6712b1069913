"""Bad input ends in a sentence, never in an error of the server."""

import json

from server.projects.models import Revision
from tests.server.test_api import ApiCase


class BadInput(ApiCase):
    def said(self, answer):
        """A refusal with a sentence as JSON."""
        self.assertLess(answer.status_code, 500, answer.content[:300])
        self.assertGreaterEqual(answer.status_code, 400)
        self.assertTrue(answer.headers["Content-Type"].startswith("application/json"), answer.headers["Content-Type"])
        body = answer.json()
        words = body.get("message") or body.get("detail")
        self.assertTrue(words, body)
        return str(words)

    def raw(self, path, text):
        return self.client.post(f"/api/{path}", text, content_type="application/json")

    def test_nul_in_texts(self):
        self.said(self.post("projects", {"name": "a\0b"}))
        project = self.new()
        one = {"base": 1, "label": "x\0", "changes": [{"path": "name", "value": "b"}]}
        self.said(self.post(f"projects/{project['id']}/edits", one))
        for path in ("name", "site.place", "hall.sections.columns"):
            self.said(self.edit(project, 1, (path, "a\0b")))
        self.said(self.edit(project, 1, ("na\0me", "b")))
        self.said(
            self.post(
                f"projects/{project['id']}/operate",
                {
                    "base": 1,
                    "label": "a",
                    "operations": [{"do": "draw", "points": [[0, 0, 0], [0, 0, 4]], "group": "\0"}],
                },
            )
        )
        for query in ("panel?name=a%00b", "loads?member=a%00&case=b", "chain?revision=%00"):
            self.said(self.client.get(f"/api/projects/{project['id']}/{query}"))
        self.said(self.post("projects/import", {"name": "a\0b"}))

    def test_numbers_that_are_none(self):
        project = self.new()
        for number in ("Infinity", "-Infinity", "NaN", "1e999", "9" * 400):
            body = '{"base": 1, "label": "x", "changes": [{"path": "hall.bays.0.span", "value": N}]}'.replace(
                "N", number
            )
            self.said(self.raw(f"projects/{project['id']}/edits", body))
            self.said(
                self.raw("projects/import", '{"version": 4, "hall": {"bays": [{"span": N}]}}'.replace("N", number))
            )
            self.said(self.raw(f"projects/{project['id']}/undo", '{"base": N}'.replace("N", number)))

    def test_bodies_that_are_none(self):
        project = self.new()
        for body in (b"", b"\xff\xfe", b"{", b"[]", b"null", b'"x"', b"[" * 100_000, b"{" * 50_000):
            for path in (
                "projects",
                "projects/import",
                f"projects/{project['id']}/edits",
                f"projects/{project['id']}/operate",
            ):
                self.said(self.raw(path, body))

    def test_nesting_in_values(self):
        project = self.new()
        deep = json.loads("[" * 500 + "]" * 500)
        self.said(self.edit(project, 1, ("nodes", deep)))
        self.said(self.edit(project, 1, ("hall.bays.0.span.deeper.still", 3)))

    def test_sizes_where_a_slip_of_units_shows(self):
        project = self.new()
        for path, value in (
            ("hall.bays.0.span", 24000),
            ("hall.eaves_height", 6000),
            ("hall.bays.0.ridge_height", 7500),
            ("hall.overhangs.left", 50),
            ("hall.spacings", [6000.0]),
            ("nodes", [{"name": "a", "at": [1e8, 0, 0]}]),
        ):
            self.said(self.edit(project, 1, (path, value)))

    def test_whole_numbers_beyond_reason(self):
        project = self.new()
        for query in ("chain?revision=99999999999999999999", "panel?name=x&revision=-1", "marks?revision=1e9"):
            self.said(self.client.get(f"/api/projects/{project['id']}/{query}"))
        self.said(self.post(f"projects/{project['id']}/restore", {"base": 1, "number": 10**30}))
        self.said(self.post(f"projects/{project['id']}/undo", {"base": 10**30}))
        self.said(self.post(f"projects/{project['id']}/edits", {"base": 10**30, "label": "", "changes": []}))


class Stored(ApiCase):
    def test_a_document_that_is_no_longer_taken_hides_nothing(self):
        kept, broken = self.new("Kept"), self.new("Broken")
        revision = Revision.objects.get(project_id=broken["id"])
        revision.document["hall"]["bays"][0]["ridge_height"] = 7500
        revision.save()
        found = {p["name"]: p for p in self.client.get("/api/projects").json()["projects"]}
        self.assertEqual((found["Kept"]["readable"], found["Broken"]["readable"]), (True, False))
        self.assertIn("hall.bays.0.ridge_height: must be at most 100, not 7500", found["Broken"]["summary"])
        for path in ("", "/chain", "/panel?name=x", "/marks", "/result"):
            answer = self.client.get(f"/api/projects/{broken['id']}{path}")
            self.assertEqual(answer.status_code, 422, path)
            self.assertIn("does not take the stored document", answer.json()["message"])
        # nothing of it is lost
        out = self.client.get(f"/api/projects/{broken['id']}/document")
        self.assertEqual(out.json()["hall"]["bays"][0]["ridge_height"], 7500)
        self.assertEqual(self.edit(broken, 1, ("hall.bays.0.span", 30)).status_code, 422)
        self.assertEqual(self.client.get(f"/api/projects/{kept['id']}").status_code, 200)
