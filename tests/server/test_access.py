"""Every route of the OpenAPI description × nobody, somebody else, each role, the owner. A route that is missing in the table fails the test."""

import io
import json
import uuid
from collections import Counter
from importlib import import_module
from itertools import product
from pathlib import Path

from django.contrib.auth.models import User
from django.test import Client
from openpyxl import Workbook
from pydantic import BaseModel

import engine.document
import server.projects
from server.api import api
from server.people.models import Event, Member
from server.projects.models import (
    DossierFile,
    Issue,
    OfficeKept,
    OfficeSection,
    Project,
    Question,
    Revision,
    Run,
    Share,
    Tick,
)
from tests.server.test_api import ApiCase

EDIT = {"base": 1, "label": "x", "changes": [{"path": "site.altitude", "value": 20}]}
DRAW = {"base": 1, "label": "x", "operations": [{"do": "remove", "members": ["frame-1/column-A"]}]}
TRY = {
    "member": "frame-1/column-A",
    "operations": [{"do": "restrain", "members": ["frame-1/column-A"], "flange": "inner", "at": 2}],
}
OTHERWISE = TRY | {"criterion": "section", "combination": "C1", "methods": {"interaction": "annex A"}}
CSV = {"text": "name,shape,h,b,tw,tf\nPG 1,welded I,800,300,12,25\n"}
MEMBER = "member=frame-1/column-A"
#: route → query, body, and the answer to its owner. Routes under a project belong to whoever owns it, the others to whoever is signed in.
ROUTES = {
    ("get", "/api/me"): ("", None, 200),
    ("get", "/api/catalogue"): ("", None, 200),
    ("get", "/api/templates"): ("", None, 200),
    ("get", "/api/catalogue/outline"): ("name=IPE 300", None, 200),
    ("get", "/api/office"): ("", None, 200),
    ("post", "/api/office"): ("", CSV, 200),
    ("delete", "/api/office"): ("name=PG 9", None, 200),
    ("get", "/api/office/kept"): ("", None, 200),
    ("post", "/api/office/kept"): ("", {"kind": "limits", "name": "x", "project": "PROJECT"}, 200),
    ("post", "/api/office/national"): ("", {"name": "x", "text": "path,value\nrules.gamma_M1,1.1\n"}, 200),
    ("get", "/api/office/national/{number}"): ("", None, 404),
    ("post", "/api/projects/{project_id}/kept"): ("", {"base": 1, "kept": "KEPT"}, 200),
    ("delete", "/api/office/kept/{number}"): ("", None, 204),
    ("get", "/api/materials"): ("", None, 200),
    ("post", "/api/load-tables"): ("", {"text": "profile,span,down,up\nZ,6,3,2\n"}, 200),
    ("get", "/api/projects/{project_id}/load-tables"): ("", None, 200),
    ("get", "/api/national"): ("", None, 200),
    ("get", "/api/limits"): ("", None, 200),
    ("get", "/api/climate"): ("place=Ossel", None, 422),
    ("get", "/api/climate/places"): ("name=Os", None, 200),
    ("get", "/api/people"): ("", None, 200),
    ("patch", "/api/people"): ("", {"name": "ben", "role": "viewer"}, 403),
    ("get", "/api/people/invitations"): ("", None, 403),
    ("post", "/api/people/invitations"): ("", {"role": "administrator"}, 403),
    ("delete", "/api/people/invitations/{invitation_id}"): ("", None, 403),
    ("get", "/api/people/events"): ("", None, 403),
    ("post", "/api/me/password"): ("", {"old": "wrong", "new": "another-plate"}, 422),
    ("get", "/api/me/sessions"): ("", None, 200),
    ("delete", "/api/me/sessions/{session_id}"): ("", None, 200),
    ("get", "/api/projects"): ("", None, 200),
    ("post", "/api/projects"): ("", {"name": "another"}, 201),
    ("post", "/api/projects/import"): ("", {"name": "from a file"}, 201),
    ("post", "/api/projects/import/read"): ("", {"name": "no file"}, 422),
    ("get", "/api/projects/{project_id}"): ("", None, 200),
    ("patch", "/api/projects/{project_id}"): ("", {"paused": False}, 200),
    ("delete", "/api/projects/{project_id}"): ("", {"name": ""}, 204),
    ("post", "/api/projects/{project_id}/recover"): ("", {}, 200),
    ("get", "/api/projects/{project_id}/head"): ("", None, 200),
    ("post", "/api/projects/{project_id}/duplicate"): ("", {}, 201),
    ("post", "/api/projects/{project_id}/edits"): ("", EDIT, 200),
    ("post", "/api/projects/{project_id}/operate"): ("", DRAW, 200),
    ("get", "/api/projects/{project_id}/versions"): ("", None, 200),
    ("post", "/api/projects/{project_id}/versions"): ("", {"number": 1, "name": "mine"}, 200),
    ("post", "/api/projects/{project_id}/restore"): ("", {"base": 1, "number": 1}, 200),
    ("get", "/api/projects/{project_id}/compare"): ("before=1&after=1", None, 200),
    ("get", "/api/projects/{project_id}/sharing"): ("", None, 200),
    ("put", "/api/projects/{project_id}/sharing"): ("", {"name": "ben", "role": None}, 200),
    ("post", "/api/projects/{project_id}/transfer"): ("", {"name": "ada"}, 200),
    ("get", "/api/projects/{project_id}/history"): ("", None, 200),
    ("post", "/api/projects/{project_id}/undo"): ("", {"base": 1}, 422),
    ("post", "/api/projects/{project_id}/redo"): ("", {"base": 1}, 422),
    ("get", "/api/projects/{project_id}/document"): ("", None, 200),
    ("get", "/api/projects/{project_id}/chain"): ("", None, 200),
    ("post", "/api/projects/{project_id}/runs"): ("", {}, 202),
    ("delete", "/api/projects/{project_id}/runs"): ("", None, 202),
    ("get", "/api/projects/{project_id}/structure"): ("", None, 200),
    ("get", "/api/projects/{project_id}/result"): ("", None, 200),
    ("get", "/api/projects/{project_id}/ifc"): ("", None, 200),
    ("get", "/api/projects/{project_id}/axes"): ("", None, 200),
    ("get", "/api/projects/{project_id}/archive"): ("", None, 200),
    ("post", "/api/projects/import/archive"): ("", None, 422),
    ("get", "/api/projects/{project_id}/beside"): ("before=1", None, 200),
    ("get", "/api/projects/{project_id}/dossier/html"): ("", None, 200),
    ("get", "/api/projects/{project_id}/dossier/docx"): ("", None, 200),
    ("get", "/api/projects/{project_id}/joints"): ("", None, 200),
    ("get", "/api/projects/{project_id}/tables"): ("", None, 200),
    ("get", "/api/projects/{project_id}/marks"): ("", None, 200),
    ("get", "/api/projects/{project_id}/diagrams"): ("", None, 200),
    ("get", "/api/projects/{project_id}/mechanism"): ("", None, 200),
    ("get", "/api/projects/{project_id}/modes"): ("combination=C1", None, 200),
    ("get", "/api/projects/{project_id}/states"): ("", None, 200),
    ("get", "/api/projects/{project_id}/extremes"): ("", None, 200),
    ("get", "/api/projects/{project_id}/sways"): ("", None, 200),
    ("get", "/api/projects/{project_id}/decks"): ("", None, 200),
    ("get", "/api/projects/{project_id}/slabs"): ("", None, 200),
    ("get", "/api/projects/{project_id}/slab"): ("name=none", None, 422),
    ("get", "/api/projects/{project_id}/lateral"): (f"{MEMBER}&state=C1", None, 200),
    ("get", "/api/projects/{project_id}/ribbon"): (MEMBER, None, 200),
    ("get", "/api/projects/{project_id}/site"): ("", None, 200),
    ("get", "/api/projects/{project_id}/panel"): ("name=roof-AB-left", None, 200),
    ("get", "/api/projects/{project_id}/loads"): (f"{MEMBER}&case=G1", None, 200),
    ("get", "/api/projects/{project_id}/proof"): (f"{MEMBER}&criterion=section", None, 200),
    ("get", "/api/projects/{project_id}/derivations"): ("direction=left", None, 200),
    ("get", "/api/projects/{project_id}/secondary-sections"): ("role=purlin", None, 200),
    ("get", "/api/projects/{project_id}/why"): (MEMBER, None, 200),
    ("get", "/api/projects/{project_id}/lengths"): (MEMBER, None, 200),
    ("post", "/api/projects/{project_id}/try"): ("", TRY, 200),
    ("post", "/api/projects/{project_id}/otherwise"): ("", OTHERWISE, 200),
    ("get", "/api/projects/{project_id}/dossier"): ("", None, 200),
    ("delete", "/api/projects/{project_id}/dossier"): ("", None, 200),
    ("get", "/api/projects/{project_id}/dossier/pdf"): ("", None, 200),
    ("get", "/api/projects/{project_id}/dossier/sheets"): ("", None, 200),
    ("get", "/api/projects/{project_id}/dossier/csv"): ("", None, 200),
    ("get", "/api/projects/{project_id}/dossier/drawings"): ("", None, 200),
    ("post", "/api/projects/{project_id}/issues"): ("", {"base": 1, "purpose": "tender"}, 202),
    ("get", "/api/projects/{project_id}/issues/{number}/pdf"): ("", None, 200),
    ("get", "/api/projects/{project_id}/issues/{number}/document"): ("", None, 200),
    ("post", "/api/projects/{project_id}/questions"): ("", {"anchor": "basis", "text": "Which edition?"}, 200),
    ("patch", "/api/projects/{project_id}/questions/{number}"): ("", {"answer": "The present one."}, 200),
    ("put", "/api/projects/{project_id}/ticks"): ("", {"anchor": "basis", "seen": True}, 200),
    ("get", "/api/projects/{project_id}/groups"): ("", None, 200),
    ("post", "/api/projects/{project_id}/lay"): (
        "",
        {"load": {"case": "Q", "on": "roofs", "pressure": 0.5}},
        200,
    ),
    ("get", "/api/projects/{project_id}/sizing"): ("", None, 200),
    ("post", "/api/projects/{project_id}/sizing"): ("", {"base": 1}, 202),
    ("delete", "/api/projects/{project_id}/sizing"): ("", None, 200),
    ("get", "/api/projects/{project_id}/study"): ("", None, 200),
    ("post", "/api/projects/{project_id}/study"): ("", {"base": 1, "ranges": {"bases": ["fixed"]}}, 202),
    ("delete", "/api/projects/{project_id}/study"): ("", None, 200),
    ("post", "/api/projects/{project_id}/study/take"): ("", {"base": 1, "number": 0}, 404),
    ("post", "/api/projects/{project_id}/pictures"): ("", None, 422),
    ("get", "/api/projects/{project_id}/pictures/{key}"): ("", None, 404),
    ("get", "/api/projects/{project_id}/returned"): ("", None, 200),
    ("post", "/api/projects/{project_id}/returned"): ("", None, 422),
    ("delete", "/api/projects/{project_id}/returned"): ("", None, 200),
    ("post", "/api/projects/{project_id}/returned/order"): ("", None, 422),
    ("post", "/api/projects/{project_id}/returned/refuse"): ("", {"keys": [], "refused": True}, 404),
    ("post", "/api/projects/{project_id}/returned/take"): ("", {"base": 1, "keys": ["x"]}, 404),
    ("post", "/api/projects/{project_id}/returned/effects"): ("", {"base": 1}, 404),
    ("delete", "/api/projects/{project_id}/returned/effects"): ("", None, 200),
}

#: what only the owner of a project may do, of what changes something
OWNERS = {
    ("delete", "/api/projects/{project_id}"),
    ("post", "/api/projects/{project_id}/recover"),
    ("put", "/api/projects/{project_id}/sharing"),
    ("post", "/api/projects/{project_id}/transfer"),
}
#: what changes nothing of the project, though it is no GET
DUPLICATE = ("post", "/api/projects/{project_id}/duplicate")
#: what checkers may do: ask and tick
CHECKERS = {("post", "/api/projects/{project_id}/questions"), ("put", "/api/projects/{project_id}/ticks")}
HARMLESS = {DUPLICATE} | {("post", "/api/projects/{project_id}/" + name) for name in ("try", "otherwise", "lay")}
#: what somebody does to their own account, whatever they may do in the office
PERSONAL = {("post", "/api/me/password"), ("delete", "/api/me/sessions/{session_id}")}


def book():
    """A workbook without a table."""
    file = io.BytesIO()
    Workbook().save(file)
    return file.getvalue()


class Matrix(ApiCase):
    def setUp(self):
        super().setUp()
        self.project = self.new()
        # a short hall, for the routes that compute
        Revision.objects.filter(project=self.project["id"]).update(document=self.short())
        self.hand_over(Project.objects.get(id=self.project["id"]))
        self.other = Client()
        self.other.force_login(User.objects.create_user("ben", password="gusset-plate"))

    def hand_over(self, project):
        """A dossier, an issue and a question, as they are stored."""
        section = {
            "anchor": "basis",
            "depth": 1,
            "number": "1",
            "title": "Basis",
            "page": 1,
            "down": 20.0,
            "digest": "d",
        }
        files = {
            "revision": project.head,
            "pdf": b"%PDF",
            "sheets": book(),
            "drawings": b"0",
            "sections": [section],
            "pages": 1,
        }
        DossierFile.objects.create(key="k", project=project, **files)
        Issue.objects.create(project=project, number=1, purpose="tender", author="ada", document={}, **files)
        Question.objects.create(project=project, number=1, anchor="basis", title="1 Basis", revision=1, text="Why?")
        limits = {"rules.rafter_deflection_ratio": 250.0}
        self.kept = OfficeKept.objects.create(kind="limits", name="Ours", content=limits)

    def short(self):
        document = Revision.objects.get(project=self.project["id"]).content
        document["hall"]["spacings"] = [6.0]
        document["wind"]["inside"] = {"kind": "own", "values": [0.2]}
        return document

    def ask(self, client, route, project):
        method, path = route
        query, body, _ = ROUTES[route]
        address = (
            path.replace("{project_id}", str(project)).replace("{invitation_id}", "0").replace("{session_id}", "0")
        )
        address = address.replace("kept/{number}", f"kept/{self.kept.pk}").replace("{number}", "1")
        address += f"?{query}" if query else ""
        if method == "get":
            return client.get(address)
        text = json.dumps(body or {}).replace("PROJECT", str(project or uuid.UUID(int=0)))
        text = text.replace('"KEPT"', str(self.kept.pk))
        return getattr(client, method)(address, text, content_type="application/json")

    def test_no_two_schemas_bear_one_name(self):
        """The description of the API knows them by their names alone: one would take the other's place."""
        modules = ["engine.editing.operations", "engine.returned.model", "publish.taken"]
        for package in (engine.document, server.projects):
            names = [f.stem for f in Path(package.__file__).parent.glob("*.py") if f.stem != "__init__"]
            modules += [package.__name__, *(f"{package.__name__}.{name}" for name in names)]
        names = Counter(
            name
            for module in modules
            for name, found in vars(import_module(module)).items()
            if isinstance(found, type) and issubclass(found, BaseModel) and found.__module__ == module
        )
        self.assertGreater(len(names), 100)
        self.assertEqual([name for name, count in names.items() if count > 1], [])

    def test_every_route_is_in_the_table(self):
        described = {
            (method, path) for path, methods in api.get_openapi_schema()["paths"].items() for method in methods
        }
        self.assertEqual(described, set(ROUTES))

    def test_nobody(self):
        for route in ROUTES:
            with self.subTest(route):
                answer = self.ask(Client(), route, self.project["id"])
                self.assertEqual(
                    (answer.status_code, answer.json()), (401, {"message": "Nobody is signed in.", "place": ""})
                )

    def test_somebody_else(self):
        before = list(Revision.objects.values()), list(Project.objects.values())
        nothing = uuid.uuid4()
        for route in ROUTES:
            if "{project_id}" not in route[1]:
                continue
            with self.subTest(route):
                theirs, none = (self.ask(self.other, route, project) for project in (self.project["id"], nothing))
                self.assertEqual(theirs.status_code, 404)
                self.assertEqual(theirs.content, none.content)
        self.assertEqual((list(Revision.objects.values()), list(Project.objects.values())), before)

    def test_what_somebody_else_is_told_without_a_project(self):
        for route in ROUTES:
            if "{project_id}" in route[1]:
                continue
            with self.subTest(route):
                answer = self.ask(self.other, route, "")
                self.assertIn(answer.status_code, (200, 201, 204, 403, 404, 422))
                for word in (self.project["id"], self.project["name"]):
                    self.assertNotIn(word, answer.content.decode())

    def rows(self):
        """All of the projects that could be changed, but for when they were."""
        return [
            list(model.objects.order_by("pk").values())
            for model in (
                Project,
                Revision,
                Run,
                Share,
                Event,
                OfficeSection,
                OfficeKept,
                DossierFile,
                Issue,
                Question,
                Tick,
            )
        ]

    def test_who_may_only_look_changes_nothing_by_any_route(self):
        shared = (("viewer", "designer"), ("checker", "designer"), ("editor", "viewer"), ("editor", "checker"))
        for (share, office), route in product(shared, ROUTES):
            if route[0] == "get" or "{project_id}" not in route[1] or route in HARMLESS:
                continue
            self.share(share, office)
            if route in CHECKERS and "checker" in (share, office):
                continue
            before = self.rows()
            with self.subTest(route, share=share, office=office):
                answer = self.ask(self.other, route, self.project["id"])
                self.assertEqual(answer.status_code, 403, answer.content[:200])
                self.assertEqual(self.rows(), before)

    def test_who_may_only_look_in_the_office_changes_nothing_of_it(self):
        for office, route in product(("viewer", "checker"), ROUTES):
            if route[0] == "get" or "{project_id}" in route[1] or route in PERSONAL:
                continue
            self.share("viewer", office)
            before = self.rows()
            with self.subTest(route, office=office):
                self.assertEqual(self.ask(self.other, route, "").status_code, 403)
                self.assertEqual(self.rows(), before)
        self.assertEqual(self.ask(self.other, DUPLICATE, self.project["id"]).status_code, 403)

    def test_a_checker_asks_and_ticks(self):
        for share, office in (("checker", "designer"), ("editor", "checker")):
            self.share(share, office)
            for route in CHECKERS:
                with self.subTest(route, share=share, office=office):
                    self.assertEqual(self.ask(self.other, route, self.project["id"]).status_code, 200)

    def test_who_may_look_sees_everything(self):
        self.share("viewer", "viewer")
        for route, (*_, status) in ROUTES.items():
            if route[0] == "get" and "{project_id}" in route[1]:
                with self.subTest(route):
                    self.assertEqual(self.ask(self.other, route, self.project["id"]).status_code, status)

    def test_an_editor_does_all_but_what_is_the_owners(self):
        for route, (*_, status) in ROUTES.items():
            if "{project_id}" not in route[1]:
                continue
            self.back_to_the_first()
            self.share("editor", "designer")
            with self.subTest(route):
                answer = self.ask(self.other, route, self.project["id"])
                self.assertEqual(answer.status_code, 403 if route in OWNERS else status, answer.content[:200])

    def share(self, share, office):
        """Ben sees the project by a share, with a role in the office."""
        ben = User.objects.get(username="ben")
        Member.objects.update_or_create(person=ben, defaults={"role": office})
        Share.objects.update_or_create(project_id=self.project["id"], person=ben, defaults={"role": share})

    def back_to_the_first(self):
        own = Revision.objects.filter(project=self.project["id"])
        own.filter(number__gt=1).update(parent=None)
        Project.objects.filter(id=self.project["id"]).update(head=own.get(number=1), deleted=None, redo=[])
        own.filter(number__gt=1).delete()

    def test_the_owner(self):
        for route, (*_, status) in ROUTES.items():
            with self.subTest(route):
                self.back_to_the_first()
                answer = self.ask(self.client, route, self.project["id"])
                self.assertEqual(answer.status_code, status, answer.content[:300])


class Described(ApiCase):
    """The API's own pages are for those who look after the installation."""

    def test_for_staff_alone(self):
        paths = ("/api/docs", "/api/openapi.json")
        for path in paths:
            self.assertIn(Client().get(path).status_code, (302, 401), path)
            self.assertEqual(self.client.get(path).status_code, 302, path)
        staff = Client()
        staff.force_login(User.objects.create_user("keeper", password="a-plate-of-steel", is_staff=True))
        page, described = (staff.get(path) for path in paths)
        self.assertContains(page, "swagger-ui")
        # with no network: nothing comes from elsewhere
        self.assertNotContains(page, "https://")
        self.assertIn("/api/projects/{project_id}", described.json()["paths"])
