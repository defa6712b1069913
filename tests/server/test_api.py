"""Projects, revisions, access and errors through the API."""

import json
import math
import re
from importlib import import_module
from unittest import mock

from django.apps import apps
from django.contrib.auth.models import User
from django.test import Client, TestCase

from engine.catalogue.sections import FAMILIES
from engine.chain import run
from engine.demo import drying_hall
from engine.document import Document, read_document
from server.projects import revisions
from server.projects.models import Project, Revision
from tests.engine.test_units import IN_NEWTON
from tests.quick import quick_passwords


@quick_passwords
class ApiCase(TestCase):
    def setUp(self):
        self.user = User.objects.create_user("ada", password="gusset-plate")
        self.client.force_login(self.user)

    def post(self, path, body=None, client=None):
        return (client or self.client).post(f"/api/{path}", json.dumps(body or {}), content_type="application/json")

    def new(self, name="Shed"):
        answer = self.post("projects", {"name": name})
        self.assertEqual(answer.status_code, 201)
        return answer.json()

    def edit(self, project, base, *changes, client=None):
        body = {"base": base, "label": "test", "changes": [{"path": p, "value": v} for p, v in changes]}
        return self.post(f"projects/{project['id']}/edits", body, client)


class Units(ApiCase):
    """The workbench shows and takes kilonewtons, whatever a document was stated in."""

    def test_a_document_in_newton_is_taken_in_in_kilonewton(self):
        project = self.post("projects/import", IN_NEWTON).json()
        document = project["document"]
        self.assertEqual(document["units"], "kN, m")
        self.assertEqual(document["node_loads"][0]["force"], [10.0, 2.0, -30.0])
        self.assertEqual(document["supports"][1]["springs"], {"y": 2000.0, "z": 4000.0})
        # a load stated on the screen, in kN, is one of kN
        loads = [*document["node_loads"], {"case": "P", "node": "b", "force": [0, 0, -5]}]
        answer = self.edit(project, 1, ("node_loads", loads))
        self.assertEqual(answer.status_code, 200)
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        state = run(Document.model_validate(answer.json()["document"]))
        self.assertAlmostEqual(state.loading.points[1].force[2], -5000.0)
        self.assertTrue(chain["members"])

    def test_an_edit_that_states_newton_is_converted(self):
        project = self.post("projects/import", IN_NEWTON).json()
        answer = self.edit(project, 1, ("units", "N, m"))
        self.assertEqual(answer.json()["document"]["units"], "kN, m")
        self.assertEqual(answer.json()["document"]["node_loads"][0]["force"], [0.01, 0.002, -0.03])

    def test_revisions_kept_in_newton_are_converted(self):
        project = self.post("projects/import", IN_NEWTON).json()
        revision = Revision.objects.get(project=project["id"])
        wanted = revision.document
        revision.document = read_document(IN_NEWTON).model_dump(mode="json")
        revision.save()
        import_module("server.projects.migrations.0005_kilonewtons").convert(apps, None)
        revision.refresh_from_db()
        self.assertEqual(revision.document, wanted)


class Access(ApiCase):
    def test_edits_need_the_csrf_token(self):
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.user)
        self.assertEqual(self.post("projects", {"name": "x"}, strict).status_code, 403)

    def test_policy_and_pages(self):
        answer = self.client.get("/")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("script-src 'self'", answer["Content-Security-Policy"])
        self.assertNotIn("unsafe", answer["Content-Security-Policy"])
        self.assertNotRegex(answer.content.decode(), r"https?://")
        script = re.search(r'src="(/static/[^"]+)"', answer.content.decode())
        for path in (script[1], "/api/projects", "/api/none"):
            answer = self.client.get(path)
            self.assertIn("script-src 'self'", answer["Content-Security-Policy"], path)
            self.assertEqual(answer.get("Cache-Control") == "no-store", path.startswith("/api/"), path)


class Projects(ApiCase):
    def test_create_rename_duplicate_archive_open(self):
        project = self.new("Log store")
        path = f"/api/projects/{project['id']}"
        answer = self.client.patch(path, json.dumps({"name": "Log barn"}), content_type="application/json").json()
        self.assertEqual((answer["name"], answer["document"]["name"]), ("Log barn", "Log barn"))
        copy = self.post(f"projects/{project['id']}/duplicate").json()
        self.assertEqual(copy["name"], "Log barn (copy)")
        self.assertEqual(copy["document"]["hall"], project["document"]["hall"])
        answer = self.client.patch(path, json.dumps({"archived": True}), content_type="application/json").json()
        self.assertTrue(answer["archived"])
        listed = {p["name"]: p["archived"] for p in self.client.get("/api/projects").json()["projects"]}
        self.assertEqual(listed, {"Log barn": True, "Log barn (copy)": False})
        self.assertEqual(self.client.get(path).json()["revision"]["number"], 2)

    def test_names_have_limits(self):
        self.assertEqual(self.post("projects", {"name": ""}).status_code, 422)
        self.assertEqual(self.post("projects", {"name": "x" * 81}).status_code, 422)

    def test_download_and_take_in(self):
        project = self.new("Round")
        self.edit(project, 1, ("hall.bays.0.span", 19.5))
        answer = self.client.get(f"/api/projects/{project['id']}/document")
        self.assertIn('filename="round-revision-2.json"', answer["Content-Disposition"])
        taken = self.client.post("/api/projects/import", answer.content, content_type="application/json")
        self.assertEqual(taken.status_code, 201)
        self.assertEqual(taken.json()["document"]["hall"]["bays"][0]["span"], 19.5)
        result = self.client.get(f"/api/projects/{project['id']}/result").json()
        self.assertEqual(result["format"], "lorica-result")
        self.assertEqual(result["revision"], 2)

    def test_wrong_files_are_refused_with_a_reason(self):
        for body, words in (
            ("{", "not JSON"),
            ('{"version": 9}', "version 9"),
            ('{"hall": {"bays": [{"span": "wide"}]}}', "hall.bays.0.span: must be a number"),
            ('{"hall": {"sections": {"rafters": "XYZ"}}}', "no section “XYZ”"),
            ('{"nodes": [{"name": "a", "at": [0, 0, NaN]}]}', "nodes.0.at.2"),
        ):
            answer = self.client.post("/api/projects/import", body, content_type="application/json")
            self.assertEqual(answer.status_code, 422, body)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(Project.objects.count(), 0)


class Edits(ApiCase):
    def test_an_edit_is_a_revision(self):
        project = self.new()
        answer = self.edit(project, 1, ("hall.bays.0.span", 30), ("hall.sections.rafters", "IPE 450")).json()
        self.assertEqual(answer["revision"]["number"], 2)
        self.assertEqual(answer["document"]["hall"]["bays"][0]["span"], 30)
        self.assertEqual(Revision.objects.get(number=1).document["hall"]["bays"][0]["span"], 24)

    def test_an_edit_that_changes_nothing_is_none(self):
        project = self.new()
        self.assertEqual(self.edit(project, 1, ("hall.bays.0.span", 24)).json()["revision"]["number"], 1)

    def test_undo_and_redo(self):
        project = self.new()
        for number, span in enumerate((25, 26, 27), 1):
            self.edit(project, number, ("hall.bays.0.span", span))
        spans = []
        for step, base in (("undo", 4), ("undo", 3), ("redo", 2), ("undo", 3), ("undo", 2)):
            answer = self.post(f"projects/{project['id']}/{step}", {"base": base}).json()
            spans.append(answer["document"]["hall"]["bays"][0]["span"])
        self.assertEqual(spans, [26, 25, 26, 25, 24])
        self.assertFalse(answer["can_undo"])
        self.assertEqual(self.post(f"projects/{project['id']}/undo", {"base": 1}).status_code, 422)
        # an edit after undo drops what could be redone, but no revision is lost
        answer = self.edit(project, 1, ("hall.bays.0.span", 40)).json()
        self.assertFalse(answer["can_redo"])
        self.assertEqual(Revision.objects.count(), 5)

    def test_the_second_of_two_gets_a_conflict(self):
        project = self.new()
        self.edit(project, 1, ("hall.bays.0.span", 30))
        late = self.edit(project, 1, ("hall.bays.0.span", 31))
        self.assertEqual(late.status_code, 409)
        self.assertEqual(late.json()["number"], 2)
        self.assertEqual(late.json()["differences"], [{"path": "hall.bays.0.span", "before": 24.0, "after": 30.0}])
        self.assertEqual(Revision.objects.count(), 2)
        self.assertEqual(self.post(f"projects/{project['id']}/undo", {"base": 1}).status_code, 409)

    def test_refused_edits_change_nothing(self):
        project = self.new()
        for path, value, words in (
            ("hall.bays.0.span", -1, "at least 3"),
            ("hall.bays.0.span", "wide", "must be a number"),
            ("hall.bays.0.span", None, "must be a number"),
            ("hall.sections.rafters", "IPE 305", "no section “IPE 305”"),
            ("hall.nothing", 1, "not a field"),
            ("name.first", 1, "no place"),
            ("version", 6, "version 6"),
        ):
            answer = self.edit(project, 1, (path, value))
            self.assertEqual(answer.status_code, 422, path)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(Revision.objects.count(), 1)


class Workbench(ApiCase):
    def setUp(self):
        super().setUp()
        document = drying_hall().model_dump(mode="json")
        document["hall"]["spacings"] = [6.0, 6.0]
        self.project = self.client.post(
            "/api/projects/import", json.dumps(document), content_type="application/json"
        ).json()
        self.path = f"/api/projects/{self.project['id']}"

    def test_chain(self):
        chain = self.client.get(f"{self.path}/chain").json()
        self.assertEqual(chain["fingerprints"], self.project["fingerprints"])
        self.assertTrue(all(case["holds"] for case in chain["cases"]))
        self.assertEqual({r["role"] for r in chain["roles"]} >= {"column", "rafter"}, True)
        worst = max(m["utilisation"] for m in chain["members"])
        self.assertEqual(worst, chain["worst"])
        self.assertEqual(len(chain["reactions"]), 6)

    def test_proof_diagram_and_ribbon_agree_with_the_chain(self):
        chain = self.client.get(f"{self.path}/chain").json()
        member = next(m for m in chain["members"] if m["name"] == "frame-2/rafter-AB-left")
        for check in member["checks"]:
            proof = self.client.get(
                f"{self.path}/proof", {"member": member["name"], "criterion": check["criterion"]}
            ).json()
            self.assertAlmostEqual(proof["utilisation"], check["utilisation"], places=9)
            self.assertEqual(proof["combination"], check["combination"])
        ribbon = self.client.get(f"{self.path}/ribbon", {"member": member["name"]}).json()
        # sideways between restraints, and with the haunch
        sideways = max(c["utilisation"] for c in member["checks"] if c["criterion"] in ("lateral", "general"))
        spans = ribbon["outer_spans"] + ribbon["inner_spans"]
        self.assertAlmostEqual(max(s["utilisation"] for s in spans), sideways, places=9)
        haunched = [c for c in member["checks"] if c["criterion"] == "general"]
        self.assertEqual([ribbon["buckled"]["combination"]], [c["combination"] for c in haunched])
        diagram = self.client.get(f"{self.path}/diagrams", {"plane": "frame-2", "state": "envelope"}).json()
        run = next(r for r in diagram["runs"] if r["member"] == member["name"])
        criteria = ("section", "shear", "interaction", "general")
        strong = [c["utilisation"] for c in member["checks"] if c["criterion"] in criteria]
        self.assertAlmostEqual(max(run["utilisation"]), max(strong), places=9)

    def test_loads_and_factors_say_how_they_come_about(self):
        def derived(**asked):
            return self.client.get(f"{self.path}/derivations", asked).json()

        panel = self.client.get(f"{self.path}/panel", {"name": "roof-AB-left"}).json()
        zone = next(z for z in panel["zones"] if z["direction"] == "left" and z["letter"] == "G")
        peak, extent, *surfaces = derived(direction="left", panel="roof-AB-left", zone="G")
        self.assertEqual(peak["steps"][-1]["value"], f"{zone['peak']:.4f} kN/m²")
        self.assertEqual(extent["steps"][-1]["symbol"], "e")
        # both sets of coefficients, each with +0.2 and -0.3 inside
        self.assertEqual(len(surfaces), 4)
        number = next(i for i, load in enumerate(panel["loads"]) if load["case"] == "W1" and load["zone"] == "G")
        own = derived(panel="roof-AB-left", number=number)[0]["steps"][-1]["value"]
        self.assertEqual(own, f"{panel['loads'][number]['pressure'][0]:.4f} kN/m²")
        self.assertIn(own, [s["steps"][-1]["value"] for s in surfaces])
        # every zone of the case once, and what is stated has nothing to say
        titles = [d["title"] for d in derived(case="W1")]
        self.assertEqual(sum("roof-AB-left, G" in title for title in titles), 1)
        self.assertEqual(derived(case="G2"), [])
        chain = self.client.get(f"{self.path}/chain").json()
        combination = next(c for c in chain["combinations"] if c["use"] == "strength" and "0.75 S" in c["formula"])
        factors = derived(combination=combination["name"])[0]
        self.assertFalse(factors["leads"])
        self.assertIn(r"1.500\cdot 0.5000", [step["numbers"] for step in factors["steps"]])

    def test_unknown_names_are_refused(self):
        for route, query in (
            ("diagrams", {"state": "C999"}),
            ("proof", {"member": "nobody", "criterion": "section"}),
            ("proof", {"member": "frame-2/rafter-AB-left", "criterion": "luck"}),
            ("ribbon", {"member": "nobody"}),
            ("derivations", {"combination": "C999"}),
            ("derivations", {"case": "S99"}),
            ("derivations", {"direction": "below"}),
            ("derivations", {"direction": "left", "panel": "roof-AB-left", "zone": "Q"}),
            ("derivations", {"panel": "roof-AB-left", "number": 999}),
        ):
            self.assertEqual(self.client.get(f"{self.path}/{route}", query).status_code, 422, query)

    def test_a_broken_chain_says_why(self):
        document = {"name": "Loose", "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}]}
        document["members"] = [{"name": "m", "start": "a", "end": "b", "section": "IPE 200"}]
        document["supports"] = [{"node": "a", "fixed": ["x", "y", "z"]}]
        document["cases"] = [{"name": "G", "nature": "permanent", "self_weight": True}]
        project = self.client.post("/api/projects/import", json.dumps(document), content_type="application/json").json()
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        self.assertIn("mechanism", chain["problem"]["message"])
        self.assertEqual(chain["broken_stage"], "response")

    def test_what_an_edit_left_to_its_run_may_break_there(self):
        # thousands of combinations are counted by the edit, and made by the run
        own = {"name": "C1", "use": "strength", "factors": {"Self-weight of steel": 1.35}}
        change = {"base": 1, "label": "own", "changes": [{"path": "combinations", "do": "add", "value": own}]}
        answer = self.post(f"projects/{self.project['id']}/edits", change)
        self.assertEqual((answer.status_code, answer.json()["place"]), (422, "combinations.0.name"))
        with mock.patch.object(revisions, "AT_ONCE", 10):
            self.assertEqual(self.post(f"projects/{self.project['id']}/edits", change).status_code, 200)
        chain = self.client.get(f"{self.path}/chain").json()
        self.assertEqual((chain["broken_stage"], chain["problem"]["place"]), ("combinations", "combinations.0.name"))
        self.assertIn("is the name of a generated combination", chain["problem"]["message"])

    def test_the_site_with_its_building(self):
        site = self.client.get(f"{self.path}/site").json()
        # q_p of terrain II at 8.116 m under 24 m/s, by hand: c_e = (1 + 7/ln(z/0.05)) (0.19 ln(z/0.05))², 0.36 kN/m²
        log = math.log(site["height"] / 0.05)
        by_hand = (1 + 7 / log) * (0.19 * log) ** 2 * 0.5 * 1.25 * 24**2 / 1000
        self.assertEqual([w["direction"] for w in site["winds"]], ["left", "right", "front", "back"])
        for wind in site["winds"]:
            self.assertAlmostEqual(wind["peak"], by_hand, delta=1e-9)
        self.assertEqual((site["x1"] - site["x0"], site["y1"] - site["y0"], site["folds"]), (24.0, 12.0, [12.0]))
        self.assertEqual([s["case"] for s in site["snow"]], ["S1", "S2", "S3"])

    def test_projects_begin_with_templates(self):
        found = {t["key"]: t for t in self.client.get("/api/templates").json()}
        self.assertEqual(found["empty"]["lines"], "")
        self.assertGreater(found["trussed"]["lines"].count("M"), 100)
        made = self.post("projects", {"name": "Store", "template": "trussed"}).json()
        self.assertEqual((made["name"], made["document"]["hall"]["bays"][0]["span"]), ("Store", 21.0))
        refused = self.post("projects", {"name": "Store", "template": "castle"})
        self.assertEqual((refused.status_code, refused.json()["place"]), (422, "template"))

    def test_sizing_keeps_its_rounds_and_changes_nothing(self):
        url = f"/api/projects/{self.project['id']}/sizing"
        self.assertEqual(self.client.get(url).json()["state"], "none")
        answer = self.post(f"projects/{self.project['id']}/sizing", {"base": 1})
        self.assertEqual((answer.status_code, answer.json()["state"]), (202, "done"))
        found = self.client.get(url).json()
        self.assertEqual(found, answer.json())
        self.assertEqual([r["number"] for r in found["rounds"]], list(range(1, len(found["rounds"]) + 1)))
        self.assertTrue(found["sizing"]["passes"])
        self.assertLess(found["sizing"]["after"]["tonnage"], found["sizing"]["before"]["tonnage"])
        self.assertEqual((Revision.objects.count(), found["revision"], found["stands"]), (1, 1, True))
        # what was found, given to the groups as operations, is one revision, and is what was promised
        groups = self.client.get(f"/api/projects/{self.project['id']}/groups").json()["groups"]
        self.assertEqual([g["name"] for g in groups], [g["name"] for g in found["sizing"]["groups"]])
        operations = [
            {"do": "resize", "members": g["members"], "section": g["after"]["section"]}
            for g in found["sizing"]["groups"]
            if g["after"] != g["before"]
        ]
        taken = self.post(
            f"projects/{self.project['id']}/operate", {"base": 1, "label": "Sized", "operations": operations}
        )
        self.assertEqual(taken.status_code, 200)
        self.assertEqual(taken.json()["document"]["edits"], [])
        self.assertFalse(self.client.get(url).json()["stands"])
        chain = self.client.get(f"/api/projects/{self.project['id']}/chain").json()
        self.assertAlmostEqual(chain["tonnage"], found["sizing"]["after"]["tonnage"], places=3)
        self.assertEqual(chain["whole"]["failing"] + chain["whole"]["not_covered"], 0)

    def test_what_sizing_may_choose_is_no_part_of_what_is_computed(self):
        at = f"projects/{self.project['id']}"
        self.post(f"{at}/sizing", {"base": 1})
        change = {"path": "sizing.groups.Rafters.families", "value": ["IPE", "HEA"]}
        self.assertEqual(self.post(f"{at}/edits", {"base": 1, "label": "x", "changes": [change]}).status_code, 200)
        self.assertTrue(self.client.get(f"/api/{at}/sizing").json()["stands"])
        rafters = next(g for g in self.client.get(f"/api/{at}/groups").json()["groups"] if g["name"] == "Rafters")
        self.assertEqual(rafters["families"], ["HEA", "IPE"] if rafters["families"][0] == "HEA" else ["IPE", "HEA"])
        # contradictions are refused where they are said, and what cannot be chosen is told
        for key, value, words in (
            ("least_depth", 6.0, "at most 5"),
            ("target", 1.5, "at most 1"),
        ):
            wrong = {"path": f"sizing.groups.Rafters.{key}", "value": value}
            answer = self.post(f"{at}/edits", {"base": 2, "label": "x", "changes": [wrong]})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])
        none = {"path": "sizing.groups.Rafters.least_depth", "value": 2.0}
        self.post(f"{at}/edits", {"base": 2, "label": "x", "changes": [none]})
        problem = self.client.get(f"/api/{at}/groups").json()["problem"]
        self.assertEqual(problem["place"], "sizing.groups.Rafters")
        # the groups stay, so that it can be mended; the one it is about says why
        groups = self.client.get(f"/api/{at}/groups").json()["groups"]
        self.assertEqual([g["name"] for g in groups if "within its limits" in g["kept"]], ["Rafters"])
        self.assertGreater(len(groups), 3)
        self.assertEqual(self.post(f"{at}/sizing", {"base": 3}).status_code, 422)

    def test_catalogue(self):
        families = {f["name"]: f for f in self.client.get("/api/catalogue").json()}
        self.assertEqual(set(families), set(FAMILIES))
        ipe = next(s for s in families["IPE"]["sections"] if s["name"] == "IPE 300")
        self.assertAlmostEqual(ipe["mass"], 42.2, delta=0.1)
