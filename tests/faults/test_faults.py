"""Processes killed, a database crashed, a disk that refuses: nothing acknowledged is lost, and all of it recovers."""

import os
import random
import signal
import socket
import time
from concurrent.futures import ThreadPoolExecutor
from threading import Event

import psycopg
from django.test import SimpleTestCase
from playwright.sync_api import expect, sync_playwright

from command.environment import chromium
from engine.bench import portal_hall
from engine.chain import run
from engine.document import Document
from tests import load
from tests.browser.case import ARGUMENTS
from tests.faults.installation import Installation, Visitor, children, until

LONG = os.environ.get("LORICA_LONG") == "1"


def heavy(name: str, eaves: float) -> Document:
    """A hall whose chain takes two seconds or more: with snow it has 180 combinations for strength."""
    document = portal_hall(16, 1)
    document.name = name
    document.hall.eaves_height = eaves
    document.analysis.order = "second"
    return document


def half_sent(port, head_is_whole):
    """A connection on which a part of a request was sent: of its head, or of its body."""
    made = socket.create_connection(("127.0.0.1", port))
    head = b"POST /api/projects HTTP/1.1\r\nHost: localhost\r\nContent-Length: 100\r\n"
    made.sendall(head + (b"\r\n{" if head_is_whole else b""))
    made.setblocking(False)
    return made


def closed(made):
    """Whether the other side has ended a connection."""
    try:
        while made.recv(1000):
            pass
    except BlockingIOError:
        return False
    except OSError:
        pass
    return True


class Faults(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.place = Installation()
        cls.addClassCleanup(cls.place.remove)
        cls.place.start()
        cls.visitor = Visitor(cls.place)

    def bring(self, document):
        status, project = self.visitor.ask("projects/import", "POST", document.model_dump(mode="json"))
        self.assertEqual(status, 201)
        return project["id"]

    def stands(self, project):
        return self.visitor.ask(f"projects/{project}")[1].get("revision", {}).get("number")

    def asked(self, project):
        return self.visitor.ask(f"projects/{project}/chain?wait=0.2")

    def computing(self, project):
        """Wait until a worker is at it."""
        until(lambda: self.asked(project)[1].get("state") == "running", "the run began")

    def chain(self, project):
        """The chain, once it is there."""
        return until(lambda: (found := self.asked(project))[0] == 200 and found[1], "the chain came", 90)

    def test_a_worker_killed_mid_run(self):
        document = heavy("Killed", 6.11)
        project = self.bring(document)
        self.computing(project)
        # two, and the one of large runs beside them
        self.assertEqual(self.place.kill_workers(), 3)
        told = until(lambda: (t := self.asked(project)[1]).get("attempts", 0) == 2 and t, "the run was taken up again")
        self.assertIn("taken up again", told["message"])
        chain = self.chain(project)
        # what the second worker found is what the engine finds
        self.assertAlmostEqual(chain["worst"], run(document).verification.worst, places=9)
        until(lambda: len(children(self.place.pid("workers"))) == 3, "all workers were replaced")

    def test_the_database_restarted_mid_run(self):
        project = self.bring(heavy("Restarted", 6.12))
        status, answer = self.visitor.edit(project, 1, "rules.rafter_deflection_ratio", 180.0)
        self.assertEqual(status, 200)
        self.computing(project)
        self.place.restart_database()
        chain = self.chain(project)
        self.assertEqual((self.stands(project), chain["revision"]), (2, 2))

    def test_the_server_killed_right_after_an_edit_was_answered(self):
        project = self.bring(heavy("Answered", 6.13))
        status, answer = self.visitor.edit(project, 1, "rules.rafter_deflection_ratio", 170.0)
        self.place.kill_server()
        self.assertEqual((status, answer["revision"]["number"]), (200, 2))
        self.assertEqual(self.asked(project)[0], 0)
        self.place.start()
        self.assertEqual(self.stands(project), 2)
        self.assertEqual(self.chain(project)["revision"], 2)

    def test_a_backup_taken_while_edits_go_on_comes_back_in_an_empty_installation(self):
        project = self.bring(Document(name="Backed up"))
        answered, stop = [], Event()

        def edits():
            while not stop.is_set():
                status, answer = self.visitor.edit(project, len(answered) + 1, "site.altitude", 10.0 + len(answered))
                self.assertEqual(status, 200, answer)
                answered.append(answer["document"]["site"]["altitude"])

        with ThreadPoolExecutor() as pool:
            working = pool.submit(edits)
            until(lambda: len(answered) > 5, "edits were answered")
            before = len(answered)
            file = self.place.folder / "all.backup"
            self.place.command("backup", str(file))
            stop.set()
            working.result()
        self.assertEqual(file.stat().st_mode & 0o077, 0)
        other = Installation()
        self.addCleanup(other.remove)
        other.command("restore", str(file))
        with self.assertRaisesRegex(AssertionError, "holds .* projects"):
            other.command("restore", str(file))
        other.start()
        visitor = Visitor(other)
        status, found = visitor.ask(f"projects/{project}")
        number = found["revision"]["number"]
        self.assertGreaterEqual(number, before + 1)
        self.assertEqual(found["document"]["site"]["altitude"], answered[number - 2])
        # its history is there, and it goes on
        self.assertEqual(visitor.ask(f"projects/{project}/undo", "POST", {"base": number})[0], 200)
        self.assertEqual(visitor.ask(f"projects/{project}")[1]["document"]["site"]["altitude"], answered[number - 3])

    def test_start_mends_what_has_died(self):
        os.kill(self.place.pid("workers"), signal.SIGKILL)
        self.place.restart_database(signal.SIGINT)
        os.kill(self.place.pid("climate"), signal.SIGKILL)
        told = self.place.command("start", "--detach", "--port", str(self.place.port))
        self.assertIn("the workers had ended", told)
        self.assertIn("the climate service had ended", told)
        self.assertIn("already serving", told)
        self.chain(self.bring(heavy("Mended", 6.19)))

    def test_a_run_cancelled(self):
        project = self.bring(heavy("Cancelled", 6.14))
        self.computing(project)
        self.assertEqual(self.visitor.ask(f"projects/{project}/runs", "DELETE")[0], 202)
        self.assertEqual(self.asked(project)[1]["state"], "cancelled")
        time.sleep(0.5)
        self.assertEqual(self.asked(project)[1]["state"], "cancelled")
        self.visitor.ask(f"projects/{project}/runs", "POST", {})
        self.assertEqual(self.chain(project)["revision"], 1)

    def test_a_newer_edit_supersedes_the_run_under_way(self):
        project = self.bring(heavy("Superseded", 6.15))
        self.computing(project)
        self.assertEqual(self.visitor.edit(project, 1, "hall.eaves_height", 6.16)[0], 200)
        self.assertEqual(self.chain(project)["revision"], 2)
        with psycopg.connect(self.place.database_url()) as connection:
            states = connection.execute(
                "SELECT state FROM projects_run WHERE project_id = %s ORDER BY id", [project]
            ).fetchall()
        self.assertEqual(states, [("superseded",), ("done",)])

    def test_an_office_at_work(self):
        """Designers edit while forty requests never arrive whole and sixty pages wait for a run that nobody takes."""
        waited = self.bring(Document(name="Waited for"))
        with psycopg.connect(self.place.database_url(), autocommit=True) as connection:
            connection.execute(
                "INSERT INTO projects_run (project_id, revision_id, kind, key, build, head, state, stage, done, of, seconds, message,"
                " answer, attempts, asked) SELECT project_id, id, 'sizing', 'nobody', '', false, 'waiting', '', 0, 0, '{}', '',"
                " '{}', 1, now() + interval '1 hour' FROM projects_revision WHERE project_id = %s",
                [waited],
            )
        cut = [half_sent(self.place.port, whole) for whole in (False, True) for _ in range(20)]
        with ThreadPoolExecutor(60) as pool:
            pages = [pool.submit(self.visitor.ask, f"projects/{waited}/sizing?wait=2") for _ in range(60 * 4)]
            found = load.measure(self.place, 3, 8.0, 4.0)
            self.assertEqual({page.result()[0] for page in pages}, {200})
        self.assertEqual(found.errors, [])
        self.assertLess(max(found.edits), 5.0)
        until(lambda: all(closed(one) for one in cut), "requests that do not arrive are cut off", 30)
        self.assertGreater(len(found.verdicts), 2)
        self.assertEqual([name for name in found.missed() if "MB" in name], [])

    def test_kills_at_random(self):
        """Workers, web processes, the whole server and the database are killed while edits go on (a hundred times with LORICA_LONG=1)."""
        rng = random.Random(15)
        project = self.bring(heavy("Killed at random", 6.21))
        answered = {}
        base, slowest = 1, 0.0
        for _ in range(100 if LONG else 6):
            for _edit in range(rng.randint(1, 4)):
                value = round(rng.uniform(120.0, 300.0), 3)
                status, answer = self.visitor.edit(project, base, "rules.rafter_deflection_ratio", value)
                if status == 200:
                    base = answer["revision"]["number"]
                    answered[base] = value
                else:
                    # not answered: whether it was stored is seen by looking, as the page does
                    base = until(lambda: self.stands(project), "the project answers again")
            time.sleep(rng.uniform(0.0, 0.6))
            what = rng.choice(("workers", "workers", "web process", "web process", "server", "database"))
            began = time.monotonic()
            if what == "workers":
                self.place.kill_workers()
            elif what == "web process":
                os.kill(rng.choice(children(self.place.pid("web"))), signal.SIGKILL)
            elif what == "server":
                self.place.kill_server()
                self.place.start()
            else:
                self.place.restart_database()
            base = until(
                lambda: self.visitor.ask(f"projects/{project}")[1].get("revision", {}).get("number"), "it answers"
            )
            slowest = max(slowest, time.monotonic() - began)
        chain = self.chain(project)
        self.assertEqual(chain["revision"], base)
        with psycopg.connect(self.place.database_url()) as connection:
            kept = dict(
                connection.execute(
                    "SELECT number, label FROM projects_revision WHERE project_id = %s", [project]
                ).fetchall()
            )
            stuck = connection.execute(
                "SELECT count(*) FROM projects_run WHERE project_id = %s AND state IN ('waiting', 'running')", [project]
            ).fetchone()
        lost = [number for number, value in answered.items() if str(value) not in kept.get(number, "")]
        self.assertEqual((lost, stuck), ([], (0,)))
        self.assertGreater(len(answered), 5)
        self.assertLess(slowest, 30.0)
        print(f"{len(answered)} edits answered, none lost; slowest to answer again {slowest:.1f} s")

    def test_a_disk_that_refuses_a_write(self):
        project = self.bring(heavy("Full", 6.17))
        other = self.bring(Document(name="Long history"))
        self.chain(project)
        with psycopg.connect(self.place.database_url(), autocommit=True) as connection:
            connection.execute("SET session_replication_role = replica")
            # a table longer than the files that its server will be allowed to write, its pages full
            connection.execute(
                "INSERT INTO projects_revision (project_id, number, document, label, name, created)"
                " SELECT %s, n, '{}', '', '', now() FROM generate_series(1000, 240000) AS n",
                [other],
            )
        self.place.restart_database(signal.SIGINT, longest_file=17_000_000)
        try:
            for tried in range(60):
                status, answer = self.visitor.edit(project, tried + 1, "rules.rafter_deflection_ratio", 201.0 + tried)
                if status != 200:
                    break
        finally:
            self.place.restart_database(signal.SIGINT)
        self.assertEqual(status, 503)
        self.assertIn("cannot write", answer["message"])
        self.assertEqual(self.stands(project), tried + 1)
        status, answer = self.visitor.edit(project, tried + 1, "rules.rafter_deflection_ratio", 150.0)
        self.assertEqual(status, 200)
        self.assertEqual(self.chain(project)["revision"], answer["revision"]["number"])

    def test_the_page_says_what_happened_and_recovers_by_itself(self):
        document = heavy("On the page", 6.18)
        document.analysis.order = "first"
        project = self.bring(document)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=chromium(), args=ARGUMENTS)
            pages = [browser.new_context(viewport={"width": 1280, "height": 800}).new_page() for _ in range(2)]
            for page in pages:
                page.set_default_timeout(60_000)
                page.goto(f"{self.place.address}/projects/{project}")
                page.fill("#id_username", "demo")
                page.fill("#id_password", "sandmartin")
                page.click("button:has-text('Sign in')")
                page.wait_for_selector("tbody tr")
                page.click("header nav button:has-text('Verification')")
            first, second = pages

            def limit(page, value):
                field = page.locator("label.field:has-text('Rafters, chords') input").first
                field.fill(str(value))
                field.press("Enter")

            # edited in one browser, the other follows by itself and says so
            limit(first, 150)
            expect(first.locator("header")).to_contain_text("rev 2")
            expect(second.locator(".message")).to_contain_text("revision 2 is shown")
            expect(second.locator("header")).to_contain_text("rev 2")
            # a worker dies: nobody has to do anything
            limit(first, 160)
            expect(first.locator("header")).to_contain_text("rev 3")
            self.place.kill_workers()
            expect(first.locator("nav .link.current")).to_have_count(8, timeout=60_000)
            # the server hangs: said after ten seconds, and what was typed is stored when it stirs again
            hung = children(self.place.pid("web"))
            for pid in hung:
                os.kill(pid, signal.SIGSTOP)
            limit(first, 165)
            expect(first.locator(".message")).to_contain_text("not answered for 10 seconds", timeout=60_000)
            for pid in hung:
                os.kill(pid, signal.SIGCONT)
            expect(first.locator("header")).to_contain_text("rev 4", timeout=60_000)
            expect(first.locator(".message")).to_have_count(0)
            # the server dies: what was asked then is told to be undone
            self.place.kill_server()
            limit(first, 170)
            expect(first.locator(".message")).to_contain_text("cannot be reached")
            self.place.start()
            expect(first.locator(".message")).to_contain_text("The server is back", timeout=60_000)
            expect(first.locator(".message")).to_contain_text("was not stored")
            limit(first, 170)
            expect(first.locator("header")).to_contain_text("rev 5", timeout=60_000)
            expect(first.locator("nav .link.current")).to_have_count(8, timeout=60_000)
            browser.close()
