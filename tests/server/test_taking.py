"""Files of others taken in through the API: offered before anything is made, refused in a sentence."""

import json
import uuid

from django.core.files.uploadedfile import SimpleUploadedFile

from engine.chain import prepare
from engine.document import read_document
from publish.ifc.out import ifc
from server.projects.models import Project
from tests.engine.test_dxf_in import portal, written
from tests.engine.test_ifc import MIXED
from tests.server.test_api import ApiCase


class Taking(ApiCase):
    def read(self, data, name="frame.ifc", settled=()):
        file = SimpleUploadedFile(name, data)
        return self.client.post("/api/projects/import/read", {"file": file, "settled": json.dumps(list(settled))})

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
        for data, words in ((b"", "is empty"), (whole[:5000], "cut off"), (b"\x00" * 100, "no IFC file")):
            with self.subTest(words):
                answer = self.read(data)
                self.assertEqual((answer.status_code, words in answer.json()["message"]), (422, True), answer.content)

    def test_a_drawing_is_settled_then_made(self):
        data = written(portal(0, 1.0)[0])
        layer = "Roof beam IPE300"
        answer = self.read(data, "hall 3.dxf")
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        self.assertIn("taken to be in metres", " ".join(answer.json()["guessed"]))
        self.assertTrue(answer.json()["lines"].startswith("M"))
        settled = [
            {"of": "", "field": "unit", "value": "ft"},
            {"of": layer, "field": "section", "value": "IPE 400"},
            {"of": layer, "field": "role", "value": "rafter"},
        ]
        found = self.read(data, "hall 3.dxf", settled).json()
        values = {(c["of"], c["field"]): c["value"] for c in found["choices"]}
        for one in settled:
            self.assertEqual(values[(one["of"], one["field"])], one["value"])
        made = self.post("projects/import", found["document"])
        self.assertEqual(made.status_code, 201, made.content[:300])
        document = made.json()["document"]
        self.assertEqual(document["name"], "hall 3")
        self.assertEqual({m["section"] for m in document["members"]}, {"HEB 200", "IPE 400"})

    def test_what_is_settled_is_bounded(self):
        data = written(portal()[0])
        for settled in ([{"of": "", "field": "unit"}], [{"of": "x" * 400, "field": "role", "value": ""}], ["x"]):
            answer = self.read(data, "a.dxf", settled)
            self.assertEqual((answer.status_code, answer.json()["place"]), (422, "settled"), settled)
        many = [{"of": "x" * 290, "field": "role", "value": "column"}] * 1000
        self.assertIn("More is settled", self.read(data, "a.dxf", many).json()["message"])
        self.assertEqual(self.read(data, "--out=x.dxf").status_code, 200)

    def test_model_out_as_tables_and_axes(self):
        project = self.post("projects/import", MIXED | {"units": "kN, m"}).json()["id"]
        for route, name in (("tables", "frame.xlsx"), ("axes", "frame.dxf")):
            with self.subTest(route):
                answer = self.client.get(f"/api/projects/{project}/{route}")
                self.assertEqual(answer.status_code, 200, answer.content[:200])
                found = self.read(answer.content, name).json()
                self.assertEqual(found["problems"], [])
                self.assertEqual(len(found["document"]["members"]), 5)
