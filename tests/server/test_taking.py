"""IFC files taken in through the API: offered before anything is made, refused in a sentence."""

import uuid

from engine.chain import prepare
from engine.document import read_document
from publish.ifc import ifc
from server.projects.models import Project
from tests.engine.test_ifc import MIXED
from tests.server.test_api import ApiCase


class Taking(ApiCase):
    def read(self, data):
        return self.client.post("/api/projects/import/ifc", data, content_type="application/x-step")

    def test_offered_then_made(self):
        answer = self.read(ifc(prepare(read_document(MIXED)), "Mixed", uuid.UUID(int=7), "revision 1"))
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        found = answer.json()
        self.assertEqual(Project.objects.count(), 0)
        self.assertIn("5 members, 4 nodes, 2 supports", " ".join(found["understood"]))
        made = self.post("projects/import", found["document"])
        self.assertEqual(made.status_code, 201, made.content[:300])
        document = made.json()["document"]
        # stated in newton, shown in kilonewton
        self.assertEqual((document["units"], document["node_loads"][0]["force"]), ("kN, m", [1.0, 2.0, -3.0]))

    def test_refused(self):
        whole = ifc(prepare(read_document(MIXED)), "Mixed", uuid.UUID(int=7), "revision 1")
        for data, words in ((b"", "no IFC file"), (whole[:5000], "cut off"), (b"\x00" * 100, "no IFC file")):
            with self.subTest(words):
                answer = self.read(data)
                self.assertEqual((answer.status_code, words in answer.json()["message"]), (422, True), answer.content)
