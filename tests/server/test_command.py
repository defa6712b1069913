"""The one command: its parts that can be tried without installing anything."""

import io
import json
import socket
import subprocess
import sys
import tempfile
import unittest
from contextlib import redirect_stdout
from pathlib import Path
from unittest import mock

from command import check, environment, postgres, serve


class Stamps(unittest.TestCase):
    def test_a_digest_follows_names_and_contents(self):
        with tempfile.TemporaryDirectory(dir=environment.ROOT / ".local") as folder:
            file = Path(folder, "a.txt")
            file.write_text("one")
            first = environment.digest([Path(folder)])
            file.write_text("two")
            second = environment.digest([Path(folder)])
            file.rename(Path(folder, "b.txt"))
            third = environment.digest([Path(folder)])
        self.assertEqual(len({first, second, third}), 3)


class Faults(unittest.TestCase):
    def test_a_taken_port_is_one_sentence(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            with mock.patch.object(serve, "running", return_value=None), self.assertRaises(environment.Stop) as caught:
                serve.start(port, detach=True)
        self.assertEqual(
            str(caught.exception), f"Port {port} is taken by another program; choose another with --port NUMBER."
        )

    def test_a_missing_tool_is_named(self):
        with self.assertRaisesRegex(environment.Stop, "Sawing needs the program “no-such-saw”"):
            environment.call(["no-such-saw"], "Sawing")

    def test_a_failing_tool_shows_its_last_words(self):
        with self.assertRaisesRegex(environment.Stop, "(?s)Sawing failed.*blade broken"):
            environment.call([sys.executable, "-c", "raise SystemExit('blade broken')"], "Sawing")

    def test_missing_packages_without_apt(self):
        with mock.patch("shutil.which", return_value=None), self.assertRaisesRegex(environment.Stop, "chromium"):
            environment.debian_packages({"chromium": "tests"})

    def test_a_database_that_does_not_answer(self):
        with self.assertRaisesRegex(environment.Stop, "LORICA_DATABASE_URL cannot be reached"):
            serve._reach("postgres://nobody:x@127.0.0.1:1/none")

    def test_an_unknown_part(self):
        with self.assertRaisesRegex(environment.Stop, "no part “paint”"):
            check.test(["paint"])

    def test_data_without_its_password_is_not_overwritten(self):
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "PG_VERSION").write_text("15")
            with (
                mock.patch.object(postgres, "data_folder", return_value=Path(folder)),
                self.assertRaisesRegex(environment.Stop, "unfinished database"),
            ):
                postgres.start()

    def test_missing_server_programs(self):
        with mock.patch.object(Path, "glob", return_value=[]), self.assertRaisesRegex(environment.Stop, "PostgreSQL"):
            postgres.programs()


class Status(unittest.TestCase):
    def test_says_what_runs(self):
        out = io.StringIO()
        with mock.patch.object(serve, "running", return_value=None), redirect_stdout(out):
            self.assertEqual(serve.status(), 3)
        self.assertIn("web: not running", out.getvalue())

    def test_a_stale_process_id_is_no_server(self):
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "web.pid")
            file.write_text("999999999")
            with mock.patch.object(serve, "PID_FILE", file):
                self.assertIsNone(serve.running())


class Headless(unittest.TestCase):
    def test_solve_through_the_command(self):
        with tempfile.TemporaryDirectory() as folder:
            model = Path(folder, "model.json")
            model.write_text(json.dumps({"hall": {"spacings": [6.0]}}))
            done = subprocess.run(
                [str(environment.ROOT / "lorica"), "solve", "model.json", "--out", "result.json"],
                cwd=folder,
                capture_output=True,
                text=True,
            )
            self.assertEqual((done.returncode, done.stderr), (0, ""))
            self.assertEqual(json.loads(Path(folder, "result.json").read_text())["format"], "lorica-result")
            model.write_text(json.dumps({"hall": {"eaves_height": 1}}))
            done = subprocess.run(
                [str(environment.ROOT / "lorica"), "solve", "model.json"], cwd=folder, capture_output=True, text=True
            )
            self.assertEqual(
                (done.returncode, done.stderr), (2, "lorica: hall.eaves_height: must be at least 2, not 1.\n")
            )
