"""A server that stands: limits, builds, cleaning, quotas, history, sign-in, logs, health."""

import asyncio
import json
import logging
import time
from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import OperationalError
from django.test import Client, TestCase, override_settings
from django.utils import timezone

from engine.bench import portal_hall
from engine.document import Document
from server import bodies, sign_in
from server.projects import builds, cleaning, pieces, queue, quotas, results, revisions, runs
from server.projects.changes import Change
from server.projects.management.commands import work
from server.projects.models import Installed, Project, Result, ResultPart, Revision, Run
from server.projects.tasks import perform
from tests.quick import quick_passwords
from tests.server.test_api import ApiCase
from tests.server.test_runs import small


class Limits(TestCase):
    def words(self, memory, seconds, stage="verification", of=1726):
        present = queue.UnderWay(1, 0.0, stage, of)
        return work.exceeded(present, memory, seconds)

    @override_settings(RUN_MEMORY=2_000_000_000, RUN_SECONDS=60.0)
    def test_a_run_that_takes_too_much_is_told_what_and_by_how_much(self):
        self.assertEqual(self.words(1_999_000_000, 59.0), "")
        said = self.words(2_345_000_000, 1.0)
        self.assertIn("2,345 MB of memory in “verification” (1726 combinations); a run may take 2,000 MB", said)
        self.assertIn("needed 61 s; a run may take 60 s", self.words(0, 61.0, "", 0))
        self.assertLess(len(self.words(9e12, 1.0, "x" * 20, 50_000)), Run._meta.get_field("message").max_length)

    def test_the_first_of_several_workers_leaves_the_large_runs(self):
        self.assertEqual(work.queues(0, 2), ["small"])
        self.assertEqual(work.queues(1, 2), ["small", "large"])
        self.assertEqual(work.queues(0, 1), ["small", "large"])
        # one beyond them, for large runs alone
        self.assertEqual(work.queues(2, 2), ["large"])

    def test_a_body_that_is_too_large_is_refused_by_its_head_and_as_it_comes(self):
        async def application(scope, receive, send):
            while (message := await receive())["type"] == "http.request":
                if not message.get("more_body"):
                    await send({"type": "http.response.start", "status": 200, "headers": []})
                    await send({"type": "http.response.body", "body": b""})
                    return

        def ask(headers, pieces):
            sent, left = [], list(pieces)

            async def receive():
                body = left.pop(0)
                return {"type": "http.request", "body": body, "more_body": bool(left)}

            async def send(message):
                sent.append(message)

            asyncio.run(bodies.bounded(application)({"type": "http", "headers": headers}, receive, send))
            return sent[0]["status"]

        with override_settings(DATA_UPLOAD_MAX_MEMORY_SIZE=100):
            self.assertEqual(ask([(b"content-length", b"100")], [b"x" * 100]), 200)
            self.assertEqual(ask([(b"content-length", b"101")], []), 413)
            self.assertEqual(ask([], [b"x" * 60, b"x" * 40]), 200)
            self.assertEqual(ask([], [b"x" * 60, b"x" * 41, b""]), 413)


@override_settings(WORKERS=True)
class Turns(ApiCase):
    def setUp(self):
        super().setUp()
        self.queued = []

        def configure(**how):
            self.queued.append((how["queue"], how["priority"]))
            return mock.Mock(defer=lambda run: len(self.queued))

        patched = mock.patch("server.projects.tasks.compute.configure", configure)
        patched.start()
        self.addCleanup(patched.stop)

    def test_each_persons_next_run_comes_after_the_first_ones_of_others(self):
        for name in "ABC":
            revisions.create(self.user, small(name), "new")
        other = User.objects.create_user("ben", password="x")
        revisions.create(other, small("D"), "new")
        self.assertEqual(self.queued, [("small", 0), ("small", -1), ("small", -2), ("small", 0)])

    def test_large_runs_and_sizings_wait_in_a_queue_of_their_own(self):
        project = revisions.create(self.user, portal_hall(16, 1), "new")
        self.queued.clear()
        with mock.patch.object(queue, "LARGE", 10.0):
            revisions.edit(self.user, project.id, 1, "x", [Change("site.altitude", 10.0)])
        self.assertEqual(self.queued[-1][0], "large")
        self.post(f"projects/{project.id}/sizing", {"base": 1})
        self.assertEqual(self.queued[-1][0], "large")
        self.assertLess(self.queued[-1][1], -999)


class Builds(ApiCase):
    def setUp(self):
        super().setUp()
        builds._seen = (float("-inf"), "")
        self.addCleanup(setattr, builds, "_seen", (float("-inf"), ""))

    def run_of(self, build):
        project = self.new()
        head = Revision.objects.get(project=project["id"])
        return Run.objects.create(project_id=project["id"], revision=head, key="k", build=build)

    def test_a_worker_leaves_what_a_newer_build_asked_for(self):
        run = self.run_of("newer")
        Installed.objects.create(build="newer")
        with mock.patch.object(queue, "send") as again:
            perform(run.pk)
        again.assert_called_once()
        run.refresh_from_db()
        self.assertEqual(run.state, "waiting")

    def test_a_run_that_an_older_build_asked_for_ends_in_a_sentence(self):
        run = self.run_of("older")
        builds.install()
        perform(run.pk)
        run.refresh_from_db()
        self.assertEqual((run.state, run.message), ("failed", builds.OTHER))

    def test_a_web_process_of_a_replaced_build_says_so(self):
        self.assertEqual(self.client.get("/healthz").json()["build"], builds.own()[:12])
        project = self.new()
        Installed.objects.create(build="newer")
        builds._seen = (float("-inf"), "")
        for answer in (
            self.client.get(f"/api/projects/{project['id']}/chain"),
            self.edit(project, 1, ("site.altitude", 20)),
        ):
            self.assertEqual((answer.status_code, answer.json()["message"]), (503, builds.OTHER))
        self.assertEqual(Revision.objects.filter(project=project["id"]).count(), 1)


class History(ApiCase):
    def test_an_edit_of_a_large_project_costs_what_it_changes(self):
        document = Document(
            name="Long",
            nodes=[{"name": f"n{i}", "at": [float(i), 0.0, 0.0]} for i in range(400)],
            members=[{"name": f"m{i}", "start": f"n{i}", "end": f"n{i + 1}", "section": "IPE 200"} for i in range(399)],
        )
        project = revisions.create(self.user, document, "new")
        wanted = [project.head.content]
        for number in range(1, 12):
            changes = [Change(f"members.{number}.section", ("IPE 220", "IPE 240", "IPE 300")[number % 3])]
            project = revisions.edit(self.user, project.id, number, "x", changes)
            wanted.append(project.head.content)
        kept = list(Revision.objects.filter(project=project).order_by("number"))
        self.assertEqual([r.content for r in kept], wanted)
        self.assertIsNotNone(kept[0].document)
        whole = len(json.dumps(wanted[0]))
        for revision in kept[1:]:
            self.assertIsNone(revision.document)
            self.assertLess(len(json.dumps(revision.patch)), whole / 10)
        # the names of all members: nothing is left of the checkpoint, and a new one is made
        data = project.head.content
        for i, member in enumerate(data["members"]):
            member["name"] = f"renamed-{i}"
        project = revisions.edit(self.user, project.id, 12, "x", [Change("members", data["members"])])
        self.assertEqual(project.head.content["members"][5]["name"], "renamed-5")
        self.assertIsNotNone(project.head.document)
        project = revisions.undo(self.user, project.id, 13)
        self.assertEqual(project.head.content, wanted[-1])


class Keeping(ApiCase):
    def delete(self, project, name=""):
        return self.client.delete(
            f"/api/projects/{project['id']}", json.dumps({"name": name}), content_type="application/json"
        )

    def test_a_deleted_project_waits_and_can_be_brought_back(self):
        project = self.new()
        self.edit(project, 1, ("site.altitude", 20))
        self.assertEqual(self.delete(project).status_code, 204)
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}").status_code, 404)
        self.assertEqual(self.edit(project, 2, ("site.altitude", 30)).status_code, 404)
        (listed,) = self.client.get("/api/projects").json()["projects"]
        self.assertLess(listed["deleted"], listed["removed"])
        cleaning.clean()
        self.assertEqual(self.post(f"projects/{project['id']}/recover").status_code, 200)
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}").json()["revision"]["number"], 2)

    def test_it_goes_when_its_wait_is_over_or_its_name_is_typed(self):
        first, second = self.new(), self.new()
        for project in (first, second):
            for number in (1, 2):
                self.edit(project, number, ("site.altitude", 10.0 * number + 5))
        self.delete(first)
        Project.objects.filter(id=first["id"]).update(deleted=timezone.now() - timedelta(days=31))
        self.assertEqual(cleaning.clean()["projects"], 1)
        self.assertFalse(Revision.objects.filter(project=first["id"]).exists())
        self.assertEqual(self.delete(second, "another name").status_code, 422)
        self.assertEqual(self.delete(second, second["name"]).status_code, 204)
        self.assertEqual((Project.objects.count(), Revision.objects.count()), (0, 0))

    def test_what_has_had_its_time_goes(self):
        project = self.new()
        Session.objects.create(session_key="old", session_data="x", expire_date=timezone.now() - timedelta(days=1))
        head = Revision.objects.get(project=project["id"])
        old = timezone.now() - timedelta(days=2)
        for kind in ("chain", "sizing"):
            run = Run.objects.create(project_id=project["id"], revision=head, key=kind, kind=kind, state="done")
            Run.objects.filter(pk=run.pk).update(ended=old)
        Result.objects.create(key="never stored", screen=b"", size=0, used=old)
        found = cleaning.clean()
        self.assertEqual((found["sessions"], found["runs"]), (1, 1))
        self.assertEqual([r.kind for r in Run.objects.all()], ["sizing"])
        self.assertFalse(Result.objects.filter(key="never stored").exists())

    def test_nobody_keeps_more_than_one_may(self):
        project = self.new()
        now = self.client.get("/api/projects").json()
        self.assertEqual((len(now["projects"]), now["most_projects"]), (1, 1000))
        self.assertGreater(now["size"], 0.0)
        with override_settings(MOST_PROJECTS=1):
            answer = self.post("projects", {"name": "one more"})
            self.assertEqual(answer.status_code, 422)
            self.assertIn("1 projects, which is the most", answer.json()["message"])
        with override_settings(MOST_STORAGE=quotas.used(self.user).size):
            answer = self.edit(project, 1, ("site.altitude", 20))
            self.assertIn("the most they may take", answer.json()["message"])
        self.assertEqual(self.edit(project, 1, ("site.altitude", 20)).status_code, 200)


class Pieces(ApiCase):
    def test_a_result_is_stored_in_pieces_and_one_that_is_too_large_says_so_once(self):
        results._kept.clear()
        project = revisions.create(self.user, small("Pieces"), "new")
        with mock.patch.object(pieces, "PIECE", 10_000):
            first = runs.chain_of(project, project.head)
        self.assertGreater(ResultPart.objects.count(), 3)
        results._kept.clear()
        again = runs.chain_of(project, project.head)
        self.assertEqual(again.verification.verdicts, first.verification.verdicts)
        other = revisions.create(self.user, small("Too large"), "new")
        with override_settings(RESULTS_SIZE=1000):
            runs.ask(other, other.head, small("Too large"))
            results._kept.clear()
            for _ in range(2):
                with self.assertRaisesRegex(runs.ModelError, "MB are kept"):
                    runs.chain_of(other, other.head, patience=1.0)
        self.assertEqual(Run.objects.filter(project=other).count(), 1)

    def test_what_failed_is_not_computed_again_by_looking(self):
        project = revisions.create(self.user, small("Failing"), "new")
        with mock.patch.object(runs, "run", side_effect=ZeroDivisionError), self.assertRaises(ZeroDivisionError):
            runs.ask(project, project.head, small("Failing"))
        for _ in range(2):
            with self.assertRaisesRegex(runs.ModelError, "broke down .ZeroDivisionError.; the log"):
                runs.chain_of(project, project.head, patience=1.0)
        self.assertEqual(Run.objects.filter(project=project).count(), 1)


@quick_passwords
class SigningIn(TestCase):
    def setUp(self):
        User.objects.create_user("ada", password="gusset-plate")

    def attempt(self, name, password, address="10.0.0.1"):
        form = {"username": name, "password": password}
        return Client(REMOTE_ADDR=address).post("/sign-in/", form)

    def test_wrong_passwords_are_limited_by_name_and_address(self):
        for _ in range(7):
            self.assertContains(self.attempt("ada", "wrong"), "do not belong together")
        self.assertContains(self.attempt("ada", "wrong"), "Try again in 15 minutes", status_code=429)
        # now also with the right one, from there
        self.assertEqual(self.attempt("ada", "gusset-plate").status_code, 429)
        # a stranger has not locked out who signs in elsewhere, nor others there
        self.assertEqual(self.attempt("ada", "gusset-plate", "10.0.0.2").status_code, 302)
        self.assertContains(self.attempt("ben", "wrong"), "do not belong together")

    def test_passwords_are_checked_one_at_a_time(self):
        with mock.patch.object(sign_in, "TURN", 0.05), sign_in._gate:
            began = time.monotonic()
            self.assertContains(self.attempt("ada", "gusset-plate"), "in a few seconds", status_code=503)
            self.assertLess(time.monotonic() - began, 5)
        self.assertEqual(self.attempt("ada", "gusset-plate").status_code, 302)


class Told(ApiCase):
    def lines(self, logger, call):
        with self.assertLogs(logger, logging.INFO) as told:
            answer = call()
        return answer, told.records

    def test_a_request_is_a_line_without_what_is_in_it(self):
        project = self.new("Secret hall")
        answer, records = self.lines("lorica.requests", lambda: self.edit(project, 1, ("site.place", "Hidden")))
        record = records[-1]
        self.assertEqual(
            (record.person, record.method, record.route, record.status),
            (str(self.user.pk), "POST", "api/projects/<project_id>/edits", 200),
        )
        self.assertGreater(record.ms, 0)
        self.assertNotIn("Hidden", str(vars(record)))
        self.assertEqual(len(answer.headers["X-Request-Id"]), 12)

    @quick_passwords
    def test_sign_ins_and_refusals_are_told_without_passwords(self):
        User.objects.create_user("eva", password="anchor-plate")
        for password, words in (("wrong-one", "sign-in refused"), ("anchor-plate", "signed in")):
            form = {"username": "eva", "password": password}
            _, records = self.lines("lorica.people", lambda form=form: Client().post("/sign-in/", form))
            self.assertEqual(records[-1].getMessage(), words)
            self.assertNotIn(password, str([vars(r) for r in records]))

    def test_a_fault_is_told_in_the_log_and_numbered_on_the_screen(self):
        with (
            mock.patch("server.projects.quotas.used", side_effect=ZeroDivisionError("inner secret")),
            self.assertLogs("server.api", logging.ERROR) as told,
        ):
            answer = self.client.get("/api/projects")
        self.assertEqual(answer.status_code, 500)
        self.assertNotIn("secret", answer.json()["message"])
        self.assertIn(answer.headers["X-Request-Id"], answer.json()["message"])
        self.assertIn("inner secret", str(told.records[0].exc_info[1]))

    def test_health(self):
        stranger = Client()
        self.assertEqual(stranger.get("/healthz").json()["status"], "alive")
        self.assertEqual(stranger.get("/readyz").json(), {"status": "ready", "build": builds.own()[:12], "faults": []})
        with override_settings(WORKERS=True):
            answer = stranger.get("/readyz")
            self.assertEqual((answer.status_code, answer.json()["faults"]), (503, ["No worker is alive."]))
        with mock.patch("server.health._faults", side_effect=OperationalError):
            self.assertEqual(stranger.get("/readyz").json()["faults"], ["The database does not answer."])
        project = self.new()
        head = Revision.objects.get(project=project["id"])
        run = Run.objects.create(project_id=project["id"], revision=head, key="late")
        Run.objects.filter(pk=run.pk).update(asked=timezone.now() - timedelta(seconds=200))
        self.assertIn("has waited for a worker for 200 s", stranger.get("/readyz").json()["faults"][0])

    def test_numbers_to_watch(self):
        self.new()
        text = self.client.get("/metrics").content.decode()
        self.assertRegex(text, r'lorica_requests_total\{method="POST",route="api/projects",status="201"\} [1-9]')
        self.assertIn('lorica_runs{state="waiting"} 0.0', text)
        with override_settings(LOCAL=False, METRICS_TOKEN="t0ken", SECURE_SSL_REDIRECT=False):
            self.assertEqual(self.client.get("/metrics").status_code, 404)
            answer = self.client.get("/metrics", headers={"Authorization": "Bearer t0ken"})
            self.assertEqual(answer.status_code, 200)
