"""Accounts, roles, invitations, sessions; projects shared, given away, and what is written of it."""

import re
from datetime import timedelta
from unittest.mock import patch

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.test import Client
from django.utils import timezone

from server.people.models import Event, Invitation, Member, SignedIn
from server.projects.cleaning import clean
from server.projects.models import OfficeSection, Project
from tests.server.test_api import ApiCase

NEW = "purlin-cleat-9"


class PeopleCase(ApiCase):
    def setUp(self):
        super().setUp()
        self.chief = User.objects.create_superuser("cleo", password="gusset-plate")
        self.ben = User.objects.create_user("ben", password="gusset-plate")
        self.as_chief, self.as_ben = Client(), Client()
        self.as_chief.force_login(self.chief)
        self.as_ben.force_login(self.ben)

    def ask(self, client, method, path, body=None):
        return getattr(client, method)(f"/api/{path}", body, content_type="application/json")

    def signs_in(self, name, password, client=None):
        form = {"username": name, "password": password}
        return (client or Client()).post("/sign-in/", form).status_code == 302

    def share(self, project, name, role):
        return self.ask(self.client, "put", f"projects/{project['id']}/sharing", {"name": name, "role": role})

    def link(self, **body):
        answer = self.ask(self.as_chief, "post", "people/invitations", body)
        self.assertEqual(answer.status_code, 201, answer.content)
        return re.sub("^https?://[^/]*", "", answer.json()["link"])


class Invited(PeopleCase):
    def accept(self, link, **more):
        return Client().post(link, {"name": "dora", "password": NEW, "again": NEW} | more)

    def test_somebody_makes_an_account_with_the_role_of_the_invitation(self):
        link = self.link(role="checker", note="Dora from the testing office")
        page = Client().get(link)
        self.assertContains(page, "invited to this office as checker")
        client = Client()
        answer = client.post(link, {"name": "dora", "password": NEW, "again": NEW})
        self.assertRedirects(answer, "/", fetch_redirect_response=False)
        self.assertEqual(client.get("/api/me").json(), {"name": "dora", "role": "checker"})
        self.assertEqual(self.ask(client, "post", "projects", {"name": "Mine"}).status_code, 403)
        self.assertContains(Client().get(link), "was used", status_code=404)
        self.assertEqual(self.accept(link, name="eve").status_code, 404)

    def test_what_is_refused_says_why_and_the_link_stays_good(self):
        link = self.link(role="designer")
        for more, words in (
            ({"again": "another"}, "The two passwords differ."),
            ({"password": "short", "again": "short"}, "too short"),
            ({"password": "password123", "again": "password123"}, "too common"),
            ({"name": "ben"}, "already exists"),
            ({"name": "BEN"}, "already exists"),
            ({"name": "  "}, "valid username"),
            ({"name": "a b/c"}, "valid username"),
        ):
            with self.subTest(more):
                self.assertContains(self.accept(link, **more), words, status_code=422)
        self.assertEqual(self.accept(link).status_code, 302)

    def test_old_and_withdrawn_links_are_none(self):
        old, withdrawn = self.link(), self.link()
        first, second = Invitation.objects.order_by("pk")
        Invitation.objects.filter(pk=first.pk).update(expires=timezone.now() - timedelta(seconds=1))
        self.ask(self.as_chief, "delete", f"people/invitations/{second.pk}")
        for link in (old, withdrawn, "/invited/" + "a" * 32):
            self.assertEqual(self.accept(link).status_code, 404)
        self.assertFalse(User.objects.filter(username="dora").exists())

    def test_the_secret_is_not_kept(self):
        secret = self.link().rsplit("/", 1)[1]
        self.assertNotIn(secret, str(list(Invitation.objects.values())) + str(list(Event.objects.values())))
        listed = self.ask(self.as_chief, "get", "people/invitations").content.decode()
        self.assertNotIn(secret, listed)
        self.assertNotIn(Invitation.objects.get().digest, listed)

    def test_a_new_password_by_link_signs_out_elsewhere(self):
        link = self.link(person="ben")
        self.assertContains(Client().get(link), "A new password for ben")
        self.assertEqual(self.as_ben.get("/api/me").status_code, 200)
        self.assertEqual(Client().post(link, {"password": NEW, "again": NEW}).status_code, 302)
        self.assertEqual(self.as_ben.get("/api/me").status_code, 401)
        self.assertTrue(self.signs_in("ben", NEW))
        self.assertEqual(self.link(person="ben").count("/"), 2)


class Roles(PeopleCase):
    def test_administrators_alone_see_to_people(self):
        seen = self.ask(self.client, "get", "people").json()
        self.assertEqual([p["name"] for p in seen], ["ada", "ben", "cleo"])
        self.assertEqual([p["role"] for p in seen], ["designer", "designer", "administrator"])
        self.assertTrue(all(p["last"] is None for p in seen))
        answer = self.ask(self.as_chief, "patch", "people", {"name": "ben", "role": "administrator"})
        self.assertEqual(answer.json()[1]["role"], "administrator")
        self.assertEqual(self.ask(self.as_ben, "get", "people/events").json()[0]["words"], "ben is administrator now")

    def test_who_is_disabled_is_out_at_once(self):
        self.ask(self.as_chief, "patch", "people", {"name": "ben", "active": False})
        self.assertEqual(self.as_ben.get("/api/me").status_code, 401)
        self.assertFalse(self.signs_in("ben", "gusset-plate"))
        self.ask(self.as_chief, "patch", "people", {"name": "ben", "active": True})
        self.assertTrue(self.signs_in("ben", "gusset-plate"))

    def test_the_last_administrator_stays(self):
        for change in ({"role": "designer"}, {"active": False}):
            answer = self.ask(self.as_chief, "patch", "people", {"name": "cleo", **change})
            self.assertEqual(answer.status_code, 422)
            self.assertIn("only administrator", answer.json()["message"])
        self.assertEqual(Member.objects.count(), 0)

    def test_djangos_administration_shows_and_changes_nothing(self):
        self.new()
        for client, there in ((self.client, "/"), (Client(), "/sign-in/?next=/administration/")):
            answer = client.get("/administration/", follow=True)
            self.assertEqual(answer.redirect_chain[-1], (there, 302))
        self.assertEqual(self.as_chief.get("/administration/password_change/").headers["Location"], "/account")
        self.assertEqual(self.as_chief.get("/administration/").status_code, 200)
        for model in ("auth/user", "projects/project", "people/event", "people/signedin", "people/invitation"):
            self.assertEqual(self.as_chief.get(f"/administration/{model}/").status_code, 200, model)
            self.assertEqual(self.as_chief.get(f"/administration/{model}/add/").status_code, 403, model)
        user = self.as_chief.get(f"/administration/auth/user/{self.ben.pk}/change/").content.decode()
        self.assertNotIn(self.ben.password, user)
        form = {"username": "changed"}
        self.assertEqual(self.as_chief.post(f"/administration/auth/user/{self.ben.pk}/change/", form).status_code, 403)

    def test_the_sections_of_the_office_are_everybodys(self):
        csv = {"text": "name,shape,h,b,tw,tf\nPG 1,welded I,800,300,12,25\n"}
        self.assertEqual(self.ask(self.client, "post", "office", csv).status_code, 200)
        self.assertEqual(self.ask(self.as_ben, "get", "office").json()[0]["name"], "PG 1")
        Member.objects.create(person=self.ben, role="viewer")
        self.assertEqual(self.ask(self.as_ben, "delete", "office?name=PG 1").status_code, 403)
        self.assertTrue(OfficeSection.objects.exists())


class Sharing(PeopleCase):
    def names(self, client):
        return {p["name"]: (p["owner"], p["role"]) for p in client.get("/api/projects").json()["projects"]}

    def test_two_people_at_one_project(self):
        project = self.new()
        self.assertEqual(self.names(self.as_ben), {})
        self.assertEqual(self.share(project, "ben", "editor").json()["shares"], [{"name": "ben", "role": "editor"}])
        self.assertEqual(self.names(self.as_ben), {"Shed": ("ada", "editor")})
        mine = self.edit(project, 1, ("site.altitude", 10)).json()
        theirs = self.edit(project, 1, ("site.ground_snow", 0.9), client=self.as_ben).json()
        self.assertEqual(theirs["document"]["site"]["altitude"], 10.0)
        self.assertEqual((mine["revision"]["author"], theirs["revision"]["author"]), ("ada", "ben"))
        self.assertEqual((mine["role"], theirs["role"], theirs["owner"]), ("owner", "editor", "ada"))

    def test_who_looks_is_told_whose_it_is(self):
        project = self.new()
        self.share(project, "ben", "viewer")
        answer = self.edit(project, 1, ("site.altitude", 10), client=self.as_ben)
        self.assertEqual(answer.status_code, 403)
        self.assertEqual(answer.json()["message"], "ada shares this project with you as viewer: you may not change it.")
        self.share(project, "ben", None)
        self.assertEqual(self.edit(project, 1, ("site.altitude", 10), client=self.as_ben).status_code, 404)

    def test_shared_with_all_of_the_office(self):
        project = self.new()
        self.share(project, "", "checker")
        self.assertEqual(self.names(self.as_ben), {"Shed": ("ada", "checker")})
        self.assertEqual(self.names(self.as_chief), {"Shed": ("ada", "owner")})
        self.share(project, "ben", "editor")
        self.assertEqual(self.names(self.as_ben), {"Shed": ("ada", "editor")})
        self.share(project, "", None)
        self.assertEqual(self.names(self.as_chief), {})

    def test_what_a_designer_made_who_became_a_viewer(self):
        project = self.new()
        Member.objects.create(person=self.user, role="viewer")
        self.assertEqual(self.names(self.client), {"Shed": ("ada", "viewer")})
        answer = self.edit(project, 1, ("site.altitude", 10))
        self.assertEqual(answer.status_code, 403)
        self.assertIn("You are a viewer in this office", answer.json()["message"])

    def test_a_project_is_given_away(self):
        project = self.new()
        answer = self.ask(self.client, "post", f"projects/{project['id']}/transfer", {"name": "ben"})
        self.assertEqual(answer.json()["owner"], "ben")
        self.assertEqual(self.names(self.client), {"Shed": ("ben", "editor")})
        self.assertEqual(self.names(self.as_ben), {"Shed": ("ben", "owner")})
        again = self.ask(self.client, "post", f"projects/{project['id']}/transfer", {"name": "ada"})
        self.assertEqual(again.status_code, 403)
        Member.objects.create(person=self.user, role="checker")
        refused = self.ask(self.as_ben, "post", f"projects/{project['id']}/transfer", {"name": "ada"})
        self.assertIn("projects belong to designers", refused.json()["message"])

    def test_projects_of_who_has_left_are_the_administrators_to_give(self):
        project = self.new()
        self.assertEqual(self.names(self.as_chief), {})
        self.assertEqual(self.as_chief.get(f"/api/projects/{project['id']}").status_code, 404)
        self.ask(self.as_chief, "patch", "people", {"name": "ada", "active": False})
        self.assertEqual(self.names(self.as_chief), {"Shed": ("ada", "owner")})
        self.assertEqual(self.names(self.as_ben), {})
        self.ask(self.as_chief, "post", f"projects/{project['id']}/transfer", {"name": "ben"})
        self.assertEqual(self.names(self.as_ben), {"Shed": ("ben", "owner")})
        self.assertEqual(self.names(self.as_chief), {})

    def test_nobody_is_shared_with_by_mistake(self):
        project = self.new()
        for name, words in (("zoe", "nobody named"), ("ada", "own")):
            answer = self.share(project, name, "viewer")
            self.assertEqual((answer.status_code, answer.json()["place"]), (422, "name"))
            self.assertIn(words, answer.json()["message"])

    def test_who_did_what(self):
        project = self.new()
        self.share(project, "ben", "editor")
        self.edit(project, 1, ("site.altitude", 10), client=self.as_ben)
        found = self.ask(self.as_ben, "get", f"projects/{project['id']}/history").json()
        self.assertEqual(
            [(h["person"], h["words"], h["revision"]) for h in found],
            [("ben", "test", 2), ("ada", "Shared with ben as editor", None), ("ada", "New project", 1)],
        )

    def test_storage_counts_for_whose_it_is(self):
        project = self.new()
        self.share(project, "ben", "editor")
        with self.settings(MOST_STORAGE=1):
            answer = self.edit(project, 1, ("site.altitude", 10), client=self.as_ben)
        self.assertIn("The projects of ada take", answer.json()["message"])
        self.assertEqual(Project.objects.get().head.number, 1)


class OwnAccount(PeopleCase):
    def test_a_new_password_signs_other_browsers_out(self):
        other = Client()
        self.assertTrue(self.signs_in("ben", "gusset-plate", other))
        for old, new, place in (("wrong", NEW, "old"), ("gusset-plate", "short", "new")):
            answer = self.ask(self.as_ben, "post", "me/password", {"old": old, "new": new})
            self.assertEqual((answer.status_code, answer.json()["place"]), (422, place))
        answer = self.ask(self.as_ben, "post", "me/password", {"old": "gusset-plate", "new": NEW})
        self.assertEqual(answer.status_code, 204)
        self.assertEqual(self.as_ben.get("/api/me").status_code, 200)
        self.assertEqual(other.get("/api/me").status_code, 401)

    def test_sessions_are_listed_and_ended(self):
        elsewhere = Client(HTTP_USER_AGENT="A browser at home", REMOTE_ADDR="10.0.0.7")
        form = {"username": "ben", "password": "gusset-plate"}
        self.assertEqual(elsewhere.post("/sign-in/", form).status_code, 302)
        found = self.ask(self.as_ben, "get", "me/sessions").json()
        self.assertEqual([s["present"] for s in found], [False, True])
        self.assertEqual((found[0]["browser"], found[0]["address"]), ("A browser at home", "10.0.0.7"))
        left = self.ask(self.as_ben, "delete", f"me/sessions/{found[0]['id']}").json()
        self.assertEqual(len(left), 1)
        self.assertEqual(elsewhere.get("/api/me").status_code, 401)
        # nobody ends what is not theirs
        theirs = SignedIn.objects.get(person=self.user)
        self.ask(self.as_ben, "delete", f"me/sessions/{theirs.pk}")
        self.assertEqual(self.client.get("/api/me").status_code, 200)

    def test_signing_out_is_forgotten(self):
        key = SignedIn.objects.get(person=self.ben).key
        self.as_ben.post("/sign-out/")
        self.assertFalse(SignedIn.objects.filter(person=self.ben).exists())
        self.assertFalse(Session.objects.filter(session_key=key).exists())


class Cleaning(PeopleCase):
    def test_what_has_had_its_time_goes(self):
        project = self.new()
        self.share(project, "ben", "viewer")
        self.link(note="old")
        self.link(note="new")
        long_ago = timezone.now() - timedelta(days=401)
        Event.objects.update(at=long_ago)
        Invitation.objects.filter(note="old").update(expires=long_ago)
        Session.objects.filter(session_key=SignedIn.objects.get(person=self.ben).key).update(expire_date=long_ago)
        clean()
        self.assertEqual([e.words for e in Event.objects.all()], ["Shared with ben as viewer"])
        self.assertEqual([i.note for i in Invitation.objects.all()], ["new"])
        self.assertEqual({s.person for s in SignedIn.objects.all()}, {self.user, self.chief})


class Cards(PeopleCase):
    """What the list tells of a building without opening it."""

    def card(self):
        return self.client.get("/api/projects").json()["projects"][0]["card"]

    def test_of_the_revision_that_stands_or_an_older_one(self):
        project = self.new()
        self.assertIsNone(self.card())
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        card = self.card()
        failing = sum(m["status"] == "fails" for m in chain["members"])
        self.assertEqual((card["revision"], card["members"], card["failing"]), (1, len(chain["members"]), failing))
        self.assertAlmostEqual(card["tonnage"], chain["tonnage"], delta=1e-3)
        self.assertAlmostEqual(card["worst"], chain["worst"], delta=1e-3)
        self.assertEqual(card["failing_lines"].count("M"), failing)
        self.assertEqual(card["lines"].count("M"), len(chain["members"]) - failing)
        places = [float(v) for v in re.findall(r"-?[\d.]+", card["lines"] + card["failing_lines"])]
        self.assertGreaterEqual(min(places), 0.0)
        # as large as the box lets it be
        self.assertTrue(max(places[::2]) == 120.0 or max(places[1::2]) == 60.0)
        self.edit(project, 1, ("hall.eaves_height", 6.5))
        self.assertEqual(self.card()["revision"], 1)
        self.client.get(f"/api/projects/{project['id']}/chain")
        self.assertEqual(self.card()["revision"], 2)
        # its numbers are there: going back asks for no run
        self.post(f"projects/{project['id']}/undo", {"base": 2})
        self.client.get(f"/api/projects/{project['id']}/chain")
        self.assertEqual(self.card(), card)

    def test_of_what_cannot_be_computed_and_of_nothing(self):
        empty = self.post("projects", {"name": "Nothing", "template": "empty"}).json()
        self.client.get(f"/api/projects/{empty['id']}/chain")
        card = self.card()
        self.assertEqual((card["problem"], card["members"], card["lines"]), ("", 0, ""))
        loose = {
            "name": "Loose",
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
            "members": [{"name": "post", "start": "a", "end": "b", "section": "HEA 200"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rz"]}],
            "cases": [{"name": "P"}],
        }
        broken = self.post("projects/import", loose).json()
        self.client.get(f"/api/projects/{broken['id']}/chain")
        self.assertIn("mechanism", self.card()["problem"])

    def test_archiving_does_not_undo_what_others_do_meanwhile(self):
        project = self.new()
        self.edit(project, 1, ("site.altitude", 10))
        stale = Project.objects.get()
        self.edit(project, 2, ("site.altitude", 20))
        with patch("server.api.projects.revisions.project_of", return_value=stale):
            self.ask(self.client, "patch", f"projects/{project['id']}", {"archived": True})
        self.assertEqual((Project.objects.get().head.number, Project.objects.get().archived), (3, True))
