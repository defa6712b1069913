"""Runs and stored results: computed once, pruned, sealed, paused, stopped, superseded, taken up again."""

import threading
from datetime import timedelta
from unittest import mock

import numpy as np
from django.contrib.auth.models import User
from django.db import connection, connections
from django.test import TestCase, TransactionTestCase, override_settings
from django.utils import timezone

from engine.document import Document
from engine.document.jigs import HallJig
from engine.document.rules import Inside
from server.api import chains
from server.projects import looks, queue, results, revisions, runs, tasks
from server.projects.changes import Change
from server.projects.models import Result, ResultPart, Run
from tests.quick import quick_passwords
from tests.server.test_api import ApiCase


def small(name="Once", **more):
    document = Document(name=name, hall=HallJig(spacings=[6.0]), **more)
    document.wind.inside = Inside(kind="own", values=[0.2])
    return document


@quick_passwords
class StoredResults(TestCase):
    def setUp(self):
        self.user = User.objects.create_user("ada", password="gusset-plate")
        results._kept.clear()

    def project(self, document):
        found = revisions.create(self.user, document, "new")
        return found, found.head

    def test_a_chain_is_computed_once_and_read_back_the_same(self):
        project, head = self.project(small())
        first = runs.chain_of(project, head)
        self.assertIs(runs.chain_of(project, head), first)
        results._kept.clear()
        again = runs.chain_of(project, head)
        self.assertIsNot(again, first)
        self.assertEqual(again.verification.verdicts, first.verification.verdicts)
        self.assertTrue((again.verification.peaks.My == first.verification.peaks.My).all())
        np.testing.assert_array_equal(again.combined.alpha, first.combined.alpha)
        self.assertEqual(Run.objects.count(), 1)
        self.assertGreater(Run.objects.get().seconds["verification"], 0)

    def test_equal_documents_share_a_result(self):
        for _ in range(2):
            runs.chain_of(*self.project(small()))
        self.assertEqual((Result.objects.count(), Run.objects.count()), (1, 1))

    def test_a_limit_alone_leaves_the_response_as_it_is(self):
        first = runs.chain_of(*self.project(small()))
        other = small()
        other.rules.rafter_deflection_ratio = 100.0
        second = runs.chain_of(*self.project(other))
        self.assertIs(second.combined, first.combined)
        self.assertEqual(second.seconds["response"], 0.0)
        self.assertIsNot(second.verification, first.verification)

    def test_a_refusal_is_stored_too(self):
        project, head = self.project(Document(name="Nothing"))
        for _ in range(2):
            with self.assertRaisesRegex(runs.ModelError, "nothing to analyse"):
                runs.chain_of(project, head)
            results._kept.clear()
        self.assertEqual(Run.objects.count(), 1)

    def test_what_does_not_bear_the_seal_is_not_opened(self):
        project, head = self.project(small())
        runs.chain_of(project, head)
        key = results.key_of(small())
        part = ResultPart.objects.get()
        part.data = bytes(part.data[:-1]) + bytes([part.data[-1] ^ 1])
        part.save()
        results._kept.clear()
        self.assertIsNone(results.chain_by(key))

    def test_a_result_shown_but_not_stored_is_computed_again(self):
        project, head = self.project(small())
        first = runs.chain_of(project, head)
        Result.objects.update(complete=False)
        results._kept.clear()
        again = runs.chain_of(project, head)
        self.assertEqual(again.verification.verdicts, first.verification.verdicts)
        self.assertEqual(Run.objects.count(), 2)

    def test_the_longest_unused_are_pruned(self):
        for name in "ABC":
            self.assertEqual(runs.ask(*self.project(Document(name=name)), Document(name=name)).state, "done")
        sizes = sum(Result.objects.values_list("size", flat=True))
        kept = results.key_of(Document(name="C"))
        with override_settings(RESULTS_SIZE=sizes - 1):
            results.prune()
            self.assertEqual(Result.objects.count(), 2)
        with override_settings(RESULTS_SIZE=sizes // 3 + 1):
            results.prune()
        self.assertEqual([r.key for r in Result.objects.all()], [kept])

    def test_a_run_is_remembered_for_a_day(self):
        runs.chain_of(*self.project(small()))
        Run.objects.update(ended=timezone.now() - timedelta(days=1, minutes=1))
        old = Run.objects.get()
        runs.ask(*self.project(Document(name="Other")), Document(name="Other"))
        self.assertNotIn(old, Run.objects.all())
        self.assertEqual(Run.objects.count(), 1)

    def test_only_the_last_keeps_what_can_be_recovered(self):
        first = runs.chain_of(*self.project(small()))
        largest = np.abs(first.verification.peaks.My).max()
        self.assertIn("peaks", vars(first.verification.grounds))
        other = small()
        other.name = "another"
        runs.chain_of(*self.project(other))
        kept = vars(first.verification.grounds)
        self.assertEqual(set(kept), {"document", "combined", "strength", "stabilising"})
        self.assertEqual(np.abs(first.verification.peaks.My).max(), largest)

    def test_only_so_many_are_kept_in_memory(self):
        for i in range(results.KEPT + 3):
            results.keep(str(i), runs.ModelError("no"))
        self.assertEqual(len(results._kept), results.KEPT)


class PauseAndStop(ApiCase):
    def test_a_paused_project_waits_to_be_asked(self):
        project = self.new()
        url = f"/api/projects/{project['id']}"
        paused = self.client.patch(url, '{"paused": true}', content_type="application/json").json()
        self.assertTrue(paused["paused"])
        answer = self.client.get(f"{url}/chain")
        self.assertEqual((answer.status_code, answer.json()["state"]), (202, "paused"))
        bare = self.client.get(f"{url}/structure").json()
        self.assertEqual(list(bare["fingerprints"]), ["structure"])
        self.assertGreater(len(bare["members"]), 50)
        self.assertIsNone(bare["members"][0]["utilisation"])
        self.assertEqual(self.post(f"projects/{project['id']}/runs").status_code, 202)
        self.assertEqual(self.client.get(f"{url}/chain").status_code, 200)

    def test_of_another_user_nothing_is_started_or_stopped(self):
        project = self.new()
        self.client.force_login(User.objects.create_user("bob", password="anchor-bolt"))
        self.assertEqual(self.post(f"projects/{project['id']}/runs").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/projects/{project['id']}/runs").status_code, 404)
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}/structure").status_code, 404)


@override_settings(WORKERS=True)
@quick_passwords
class Queue(TransactionTestCase):
    """The queue itself, with this process in the worker's place."""

    def setUp(self):
        self.user = User.objects.create_user("ada", password="gusset-plate")
        results._kept.clear()
        self.project = revisions.create(self.user, small(), "new")

    def tearDown(self):
        with connection.cursor() as cursor:
            cursor.execute("TRUNCATE procrastinate_jobs CASCADE")

    def edit(self, ratio):
        self.project = revisions.edit(
            self.user, self.project.id, self.project.head.number, "x", [Change("rules.rafter_deflection_ratio", ratio)]
        )

    def ask(self, **more):
        return runs.ask(self.project, self.project.head, Document.model_validate(self.project.head.content), **more)

    def test_an_edit_queues_its_run_and_supersedes_the_one_before(self):
        self.edit(150.0)
        self.edit(160.0)
        self.assertEqual(
            list(Run.objects.order_by("id").values_list("state", flat=True)), ["superseded", "superseded", "waiting"]
        )
        last = Run.objects.get(state="waiting")
        for run in Run.objects.order_by("id"):
            tasks.perform(run.pk)
        last.refresh_from_db()
        self.assertEqual((last.state, Result.objects.count()), ("done", 1))
        self.assertIsNone(self.ask())

    def test_a_newer_edit_stops_a_run_under_way(self):
        run = Run.objects.get()
        Run.objects.filter(pk=run.pk).update(state="running")
        tell = queue.teller(run.pk)
        tell("structure", 0, 0)
        self.edit(150.0)
        with self.assertRaises(queue.Stopped):
            tell("loading", 0, 0)

    def test_a_cancelled_run_stays_so_until_it_is_asked_for(self):
        runs.cancel(self.project)
        self.assertEqual(self.ask().state, "cancelled")
        tasks.perform(Run.objects.get().pk)
        self.assertEqual(Result.objects.count(), 0)
        self.assertEqual(self.ask(force=True).state, "waiting")

    def test_numbers_of_a_revision_whose_run_is_stopped_are_not_waited_for(self):
        run = Run.objects.get()
        stopper = threading.Timer(
            0.3, lambda: (Run.objects.filter(pk=run.pk).update(state="cancelled"), connections.close_all())
        )
        stopper.start()
        with self.assertRaisesRegex(runs.ModelError, "revision 1 was stopped"):
            runs.chain_of(self.project, self.project.head, patience=10)
        stopper.join()

    def test_a_run_whose_worker_died_is_taken_up_again_and_given_up_in_the_end(self):
        run = Run.objects.get()
        for attempt in (2, 3):
            Run.objects.filter(pk=run.pk).update(state="running")
            found = self.ask()
            self.assertEqual((found.state, found.attempts), ("waiting", attempt))
            self.assertIn("taken up again", found.message)
        Run.objects.filter(pk=run.pk).update(state="running")
        self.assertEqual(self.ask().state, "failed")
        self.assertIn("ended 3 times", self.ask().message)

    def test_a_run_that_is_held_is_left_alone(self):
        run = Run.objects.get()
        Run.objects.filter(pk=run.pk).update(state="running")
        held, done = threading.Event(), threading.Event()

        def hold():
            with queue._holding(run.pk) as ours:
                self.assertTrue(ours)
                held.set()
                done.wait(10)
            connections.close_all()

        other = threading.Thread(target=hold)
        other.start()
        held.wait(10)
        self.assertEqual(self.ask().state, "running")
        done.set()
        other.join()
        self.assertEqual(self.ask().state, "waiting")

    def test_progress_names_the_stages_in_order(self):
        run, seen = Run.objects.get(), []
        document = Document.model_validate(run.revision.content)
        document.analysis.order = "second"
        runs.run(document, lambda *told: seen.append(told))
        stages = list(dict.fromkeys(stage for stage, *_ in seen))
        self.assertEqual(stages, ["structure", "loading", "combinations", "response", "verification"])
        done = [(d, of) for stage, d, of in seen if stage == "response" and of]
        self.assertEqual(done[-1][0], done[-1][1])


@override_settings(WORKERS=True)
class Looking(ApiCase):
    """What takes long is looked at by a worker; here this process takes its place."""

    def test_modes_and_large_results_are_looked_at_by_a_worker_and_come_out_the_same(self):
        project = revisions.create(self.user, small("Looked at"), "new")
        tasks.perform(Run.objects.get(project=project).pk)
        url = f"/api/projects/{project.id}"
        asked = ("modes", "marks", "diagrams?plane=whole", "proof?member=frame-1/column-A&criterion=section")
        with override_settings(WORKERS=False):
            wanted = [self.client.get(f"{url}/{path}").json() for path in asked]
        with mock.patch.object(looks, "LARGE", 1000), mock.patch.object(chains, "PATIENCE", 0.0):
            for path, found in zip(asked, wanted, strict=True):
                with self.subTest(path):
                    answer = self.client.get(f"{url}/{path}")
                    self.assertEqual((answer.status_code, "still being" in answer.json()["message"]), (422, True))
                    run = Run.objects.filter(project=project, kind="look").first()
                    self.assertEqual(run.state, "waiting")
                    tasks.perform(run.pk)
                    self.assertEqual(self.client.get(f"{url}/{path}").json(), found)
            # a refusal is one there too, and what is remembered is not looked at again
            self.client.get(f"{url}/modes?combination=nothing")
            tasks.perform(Run.objects.filter(project=project, kind="look").first().pk)
            answer = self.client.get(f"{url}/modes?combination=nothing")
            self.assertEqual((answer.status_code, answer.json()["place"]), (422, "combination"))
        self.assertEqual(Run.objects.filter(project=project, kind="look").count(), 5)
        # a small result is looked at here, but for its modes
        self.assertFalse(looks.by_worker("marks", results.key_of(small("Looked at"))))
        self.assertTrue(looks.by_worker("modes", results.key_of(small("Looked at"))))

    def test_who_waits_for_numbers_that_an_edit_overtakes_is_sent_on_and_they_are_not_made(self):
        project = revisions.create(self.user, small("Overtaken"), "new")
        waited = []

        async def superseded(run, seconds):
            waited.append(run.pk)
            await chains.in_thread(lambda: Run.objects.filter(pk=run.pk).update(state="superseded"))
            await chains.in_thread(run.refresh_from_db)
            return run

        with mock.patch.object(chains, "_ended", superseded):
            answer = self.client.get(f"/api/projects/{project.id}/marks?revision=1")
        self.assertEqual((answer.status_code, answer.content, len(waited)), (204, b"", 1))
        self.assertEqual([run.state for run in project.runs.all()], ["superseded"])
        # a file of that revision is made all the same, somebody asked for it; and what stands now is waited for
        for path in ("axes", "marks"):
            waited.clear()
            with mock.patch.object(chains, "_ended", superseded), mock.patch.object(chains, "PATIENCE", 0.3):
                answer = self.client.get(f"/api/projects/{project.id}/{path}")
            self.assertEqual(answer.status_code, 422)
            self.assertGreater(len(waited), 1)

    def test_a_look_that_failed_is_not_tried_again_by_looking(self):
        project = revisions.create(self.user, small("Looked at in vain"), "new")
        tasks.perform(Run.objects.get(project=project).pk)
        url = f"/api/projects/{project.id}/modes"
        with mock.patch.object(chains, "PATIENCE", 0.0):
            self.client.get(url)
            run = Run.objects.get(project=project, kind="look")
            queue.end(run.pk, Run.State.FAILED, message="This needed 4,000 MB of memory.")
            for _ in range(2):
                answer = self.client.get(url)
                self.assertEqual(
                    (answer.status_code, answer.json()["message"]), (422, "This needed 4,000 MB of memory.")
                )
        self.assertEqual(Run.objects.filter(project=project, kind="look").count(), 1)
