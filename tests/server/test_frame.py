"""The frame stage over HTTP: operations, what is shown without forces, versions and their comparison, sections to scale."""

from django.contrib.auth.models import User
from django.test import Client

from engine.document.sizing import Prices
from tests.server.test_api import ApiCase


class Operations(ApiCase):
    def operate(self, project, base, *operations):
        body = {"base": base, "label": "by hand", "operations": operations}
        return self.post(f"projects/{project['id']}/operate", body)

    def chain(self, project):
        return self.client.get(f"/api/projects/{project['id']}/chain").json()

    def test_several_are_one_revision_and_survive_the_jig(self):
        project = self.new()
        answer = self.operate(
            project,
            1,
            {"do": "change", "members": ["frame-4/rafter-AB-left"], "change": {"section": "IPE 450"}},
            {"do": "remove", "members": ["bay-1/wall-brace-A-up"]},
        )
        self.assertEqual((answer.status_code, answer.json()["revision"]["number"]), (200, 2))
        self.assertEqual(self.edit(project, 2, ("hall.spacings", [5.0] * 7)).status_code, 200)
        members = {m["name"]: m for m in self.chain(project)["members"]}
        self.assertEqual(members["frame-4/rafter-AB-left"]["section"], "IPE 450")
        self.assertTrue(members["frame-4/rafter-AB-left"]["edited"])
        self.assertNotIn("bay-1/wall-brace-A-up", members)
        undone = self.post(f"projects/{project['id']}/undo", {"base": 3}).json()
        self.assertEqual(undone["document"]["hall"]["spacings"], [6.0] * 7)

    def test_refusals_change_nothing_and_name_the_thing(self):
        project = self.new()
        answer = self.operate(project, 1, {"do": "move", "members": ["frame-1/column-A"], "step": [0, 1, 0]})
        self.assertEqual((answer.status_code, answer.json()["place"]), (422, "frame-1/column-A"))
        self.assertIn("belongs to the jig", answer.json()["message"])
        unknown = self.operate(project, 1, {"do": "fly", "members": []})
        self.assertEqual(unknown.status_code, 422)
        wrong = self.operate(
            project, 1, {"do": "change", "members": ["frame-1/column-A"], "change": {"section": "XX 1"}}
        )
        self.assertIn("no section", wrong.json()["message"])
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}").json()["revision"]["number"], 1)

    def test_conflict(self):
        project = self.new()
        self.operate(project, 1, {"do": "remove", "members": ["bay-1/wall-brace-A-up"]})
        late = self.operate(
            project, 1, {"do": "change", "members": ["bay-1/wall-brace-A-up"], "change": {"section": "CHS 88.9x4"}}
        )
        self.assertEqual(late.status_code, 409)
        # another member is another thing
        beside = self.operate(project, 1, {"do": "remove", "members": ["bay-1/wall-brace-B-up"]})
        self.assertEqual(beside.status_code, 200)
        removed = {edit["member"] for edit in beside.json()["document"]["edits"]}
        self.assertEqual(removed, {"bay-1/wall-brace-A-up", "bay-1/wall-brace-B-up"})

    def test_a_drawing_without_supports_is_shown_with_its_snags(self):
        project = self.post("projects", {"name": "Tower", "template": "empty"}).json()
        empty = self.chain(project)
        self.assertEqual((empty["members"], empty["broken_stage"]), ([], "response"))
        self.operate(project, 1, {"do": "draw", "points": [[0, 0, 0], [0, 0, 4]]})
        shown = self.chain(project)
        self.assertEqual([m["name"] for m in shown["members"]], ["m1"])
        self.assertEqual([s["kind"] for s in shown["snags"]], ["no supports"])
        self.assertIn("no supports", shown["problem"]["message"])
        self.operate(project, 2, {"do": "support", "nodes": ["n1"], "fixed": ["x", "y", "z", "rx", "ry", "rz"]})
        held = self.chain(project)
        self.assertIsNone(held["problem"])
        self.assertEqual(held["supports"][0]["own"], True)

    def test_orphans_are_listed(self):
        project = self.new()
        self.operate(project, 1, {"do": "change", "members": ["frame-8/column-A"], "change": {"section": "HEA 400"}})
        self.edit(project, 2, ("hall.spacings", [6.0] * 3))
        orphan = self.chain(project)["orphans"][0]
        self.assertEqual((orphan["target"], orphan["said"]), ("frame-8/column-A", "section HEA 400"))
        self.assertEqual(self.operate(project, 3, {"do": "replace", "place": orphan["place"]}).status_code, 200)
        self.assertEqual(self.chain(project)["orphans"], [])

    def test_planes_hold_their_members(self):
        project = self.new()
        shown = self.chain(project)
        planes = {p["key"]: p for p in shown["planes"]}
        names = [shown["members"][i]["name"] for i in planes["frame-3"]["members"]]
        self.assertEqual(
            sorted(names), [f"frame-3/{n}" for n in ("column-A", "column-B", "rafter-AB-left", "rafter-AB-right")]
        )
        self.assertIn("roof-AB-left", planes)
        self.assertIn("level-Eaves", planes)
        slope = self.client.get(f"/api/projects/{project['id']}/diagrams?plane=roof-AB-left").json()
        self.assertTrue(
            all(
                "roof-brace-AB-left" in r["member"] or "rafter-AB-left" in r["member"] or "beam" in r["member"]
                for r in slope["runs"]
            )
        )


class Versions(ApiCase):
    def test_named_compared_and_gone_back_to(self):
        project = self.new()
        path = f"projects/{project['id']}"
        self.assertEqual(self.post(f"{path}/versions", {"number": 1, "name": "tender"}).json()["name"], "tender")
        self.edit(project, 1, ("hall.spacings", [6.0] * 8), ("hall.sections.rafters", "IPE 550"))
        taken = self.post(f"{path}/versions", {"number": 2, "name": "tender"})
        self.assertEqual(taken.status_code, 422)
        listed = self.client.get(f"/api/{path}/versions").json()
        self.assertEqual([(v["number"], v["name"]) for v in listed], [(2, ""), (1, "tender")])
        found = self.client.get(f"/api/{path}/compare?before=1&after=2").json()
        self.assertIn("frame-9/column-A", found["added"])
        # the bracing of the last bay moved with the end of the hall
        self.assertIn("bay-7/wall-brace-A-up", found["removed"])
        self.assertIn({"member": "frame-1/rafter-AB-left", "what": "section IPE 500 → IPE 550"}, found["changed"])
        self.assertGreater(found["tonnage_after"], found["tonnage_before"])
        beside = self.client.get(f"/api/{path}/beside?before=1").json()
        self.assertEqual((beside["before"], beside["after"]), (1, 2))
        # what it weighs by role is what it weighs; costs by the same prices
        for k, whole in enumerate(("stood", "stands")):
            self.assertAlmostEqual(sum(a["mass"][k] for a in beside["amounts"]), beside[whole]["tonnage"], places=6)
        columns = next(a for a in beside["amounts"] if a["words"] == "Columns")
        self.assertGreater(columns["number"][0], 0)
        prices = Prices()
        mass, number = columns["mass"][0], columns["number"][0]
        self.assertAlmostEqual(columns["carbon"][0], mass * prices.carbon, places=6)
        self.assertGreaterEqual(columns["cost"][0], 1000 * mass * prices.rolled + number * prices.piece - 1e-6)
        inputs = {d["what"]: (d["before"], d["after"]) for d in beside["inputs"]}
        self.assertEqual(inputs["hall · sections · rafters"], ("IPE 500", "IPE 550"))
        chain = self.client.get(f"/api/{path}/chain?revision=2").json()
        use = {m["name"]: m["utilisation"] for m in chain["members"]}
        rafter = next(m for m in beside["members"] if m["member"] == "frame-1/rafter-AB-left")
        self.assertEqual((rafter["before"]["section"], rafter["after"]["section"]), ("IPE 500", "IPE 550"))
        self.assertAlmostEqual(rafter["after"]["utilisation"], use["frame-1/rafter-AB-left"])
        self.assertIsNone(next(m for m in beside["members"] if m["member"] == "frame-9/column-A")["before"])
        self.assertAlmostEqual(beside["stands"]["worst"], chain["worst"])
        self.assertEqual(self.client.get(f"/api/{path}/beside?before=9").status_code, 422)
        back = self.post(f"{path}/restore", {"base": 2, "number": 1}).json()
        self.assertEqual((back["revision"]["number"], back["revision"]["label"]), (3, "Back to “tender”"))
        self.assertEqual(len(back["document"]["hall"]["spacings"]), 7)

    def test_a_document_of_the_first_format_is_taken_in(self):
        old = {
            "format": "lorica",
            "version": 1,
            "name": "Old",
            "hall": {"span": 20, "frames": 5, "spacing": 5, "pitch": 8},
        }
        answer = self.post("projects/import", old)
        self.assertEqual(answer.status_code, 201)
        hall = answer.json()["document"]["hall"]
        self.assertEqual((hall["bays"][0]["span"], hall["bays"][0]["pitch"], hall["spacings"]), (20, 8, [5, 5, 5, 5]))


class Sections(ApiCase):
    def test_to_scale_with_neighbours(self):
        found = self.client.get("/api/catalogue/outline?name=IPE 300").json()
        points = found["rings"][0]
        self.assertAlmostEqual(max(z for _, z in points) - min(z for _, z in points), 300, places=6)
        self.assertEqual([n["name"] for n in found["neighbours"]][2:4], ["IPE 270", "IPE 330"])
        self.assertEqual(self.client.get("/api/catalogue/outline?name=XYZ 3").status_code, 422)

    def test_every_family_has_an_outline_of_its_area(self):
        for name in (
            "UPN 200",
            "L 100x10",
            "T IPE 300",
            "RHS 200x100x6",
            "CHS 88.9x4",
            "Z 200x2.0",
            "CL 200x2.0",
            "RD 20",
            "FL 100x10",
            "W 14x30",
        ):
            found = self.client.get(f"/api/catalogue/outline?name={name}").json()
            area = 0.0
            for ring in found["rings"]:
                area += sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, ring[1:] + ring[:1], strict=True)) / 2
            with self.subTest(name):
                self.assertAlmostEqual(area / 100 / found["section"]["A"], 1, delta=0.005)

    def test_materials_say_what_they_are(self):
        names = {m["name"]: m["what"] for m in self.client.get("/api/materials").json()}
        self.assertIn("355 MPa", names["S355"])
        self.assertIn("not checked", names["C30/37"])


class Office(ApiCase):
    CSV = "name;shape;h;b;tw;tf;b2;tf2\nPG 800;welded I;800;250;10;20;;\nPG 800 U;welded I;800;300;10;20;200;15\n"

    def test_taken_in_listed_and_used(self):
        answer = self.post("office", {"text": self.CSV})
        self.assertEqual([s["name"] for s in answer.json()], ["PG 800", "PG 800 U"])
        project = self.new()
        section = next(s for s in answer.json() if s["name"] == "PG 800")
        done = self.edit(project, 1, ("built_sections", [section]), ("hall.sections.columns", "PG 800"))
        self.assertEqual(done.status_code, 200)
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        column = next(m for m in chain["members"] if m["role"] == "column")
        self.assertEqual((column["section"], column["status"] != "not covered"), ("PG 800", True))
        left = self.client.delete("/api/office?name=PG 800").json()
        self.assertEqual([s["name"] for s in left], ["PG 800 U"])

    def test_everybodys_in_the_office_and_nobodys_outside(self):
        self.post("office", {"text": self.CSV})
        other = Client()
        other.force_login(User.objects.create_user("bob", password="fish-plate"))
        self.assertEqual(other.get("/api/office").json(), self.client.get("/api/office").json())
        self.assertEqual(Client().get("/api/office").status_code, 401)

    def test_a_wrong_row_is_named_and_nothing_is_taken(self):
        for text, words in (
            ("", "empty"),
            ("name,shape\n" + "x" * 200_000, "field larger than field limit"),
            ('name,shape\n"a\nb', "shape"),
            ("name,h\nA,100\n", "lacks “shape”"),
            ("name,shape,depth\nA,box,3\n", "“depth” is not known"),
            (
                "name,shape,h,b,tw,tf\nA,box,300,200,8,10\nB,box,tall,200,8,10\n",
                "Row 3: h: input should be a valid number",
            ),
            ("name,shape,h,b,tw,tf\nA,box,10,200,8,10\n", "Row 2: “A”: its flanges are thicker"),
            ("name,shape,h,b,tw,tf\nA,tube,10,200,8,10\n", "Row 2: shape"),
            ("name,shape,of\nA,cross,XX\n", "Row 2: There is no section “XX”"),
            ("name,shape\n", "no sections"),
        ):
            answer = self.post("office", {"text": text.replace("\n", "\n")})
            with self.subTest(words):
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.client.get("/api/office").json(), [])
