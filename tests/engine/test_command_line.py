"""`solve` on files that are none, and with results that cannot be written: a sentence and exit status 2."""

import contextlib
import gzip
import io
import json
import tempfile
import unittest
from pathlib import Path

from engine.cli import main

BEAM = {
    "version": 4,
    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}],
    "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300"}],
    "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
    "cases": [{"name": "P", "nature": "imposed"}],
    "node_loads": [{"case": "P", "node": "b", "force": [0, 0, -5]}],
}


class Solve(unittest.TestCase):
    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)
        self.model = Path(self.folder.name) / "model.json"

    def solve(self, text, *more):
        """Exit status and what was said."""
        self.model.write_bytes(text)
        said, out = io.StringIO(), io.StringIO()
        with contextlib.redirect_stderr(said), contextlib.redirect_stdout(out):
            status = main(["solve", str(self.model), *more])
        return status, said.getvalue(), out.getvalue()

    def test_texts_that_are_none(self):
        text = json.dumps(BEAM).encode()
        for wrong, words in (
            (b"\x00\x9f\x92", "not JSON"),
            (b"\x80abc", "UTF-8"),
            (json.dumps(BEAM).encode("utf-16"), "UTF-16"),
            (gzip.compress(text), "gzip"),
            (b"[" * 100_000, "nested too deeply"),
            (b"{", "not JSON"),
            (b"", "not JSON"),
            (b"[1, 2]", "document"),
            (b'{"version": ' + b"9" * 5000 + b"}", "too many digits"),
            (b'{"name": "a", "name": "b"}', "“name” is stated twice"),
            (b'{"name": "a\\u0000b"}', "NUL"),
            (b'{"nodes": [{"name": "a", "at": [0, 0, Infinity]}]}', "finite"),
        ):
            status, said, out = self.solve(wrong)
            self.assertEqual((status, out), (2, ""), wrong[:40])
            self.assertIn(words, said)
            self.assertEqual(said.count("\n"), 1, said)

    def test_a_mark_of_utf_8_is_read(self):
        status, _, out = self.solve(b"\xef\xbb\xbf" + json.dumps(BEAM).encode())
        self.assertEqual(status, 0)
        self.assertEqual(json.loads(out)["format"], "lorica-result")

    def test_a_result_that_cannot_be_written_is_told(self):
        text = json.dumps(BEAM).encode()
        for out in (self.folder.name, f"{self.folder.name}/none/result.json"):
            status, said, _ = self.solve(text, "--out", out)
            self.assertEqual(status, 2)
            self.assertIn("cannot write", said)
        status, said, _ = self.solve(text, "--out", f"{self.folder.name}/result.json")
        self.assertEqual((status, said), (0, ""))
        self.assertEqual(json.loads(Path(f"{self.folder.name}/result.json").read_text())["format"], "lorica-result")

    def test_no_file(self):
        said = io.StringIO()
        with contextlib.redirect_stderr(said):
            self.assertEqual(main(["solve", f"{self.folder.name}/none.json"]), 2)
        self.assertIn("cannot read", said.getvalue())
