"""How long modules and functions may grow: what no longer fits is cut by subject."""

import ast
import statistics
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[2]
PACKAGES = ("engine", "publish", "server", "command", "climate", "detailing")


def modules():
    return [path for package in PACKAGES for path in sorted((ROOT / package).rglob("*.py"))]


def bodies():
    """Lines of every function, without its head and its docstring."""
    for path in modules():
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                told = ast.get_docstring(node, clean=False) is not None
                body = node.body[1:] if told else node.body
                yield path.name, node.name, (node.end_lineno - body[0].lineno + 1) if body else 0


class Layout(unittest.TestCase):
    def test_no_module_of_more_than_400_lines(self):
        long = {str(path.relative_to(ROOT)): n for path in modules() if (n := len(path.read_text().split("\n"))) > 401}
        self.assertEqual(long, {})

    def test_no_part_of_the_page_of_more_than_250_lines(self):
        source = ROOT / "web" / "src"
        parts = [*source.rglob("*.vue"), *(path for path in source.rglob("*.ts") if path.name != "schema.d.ts")]
        most = {".vue": 251, ".ts": 401}
        long = {path.name: n for path in parts if (n := len(path.read_text().split("\n"))) > most[path.suffix]}
        self.assertGreater(len(parts), 100)
        self.assertEqual(long, {})

    def test_functions_are_short(self):
        lengths = [length for _, _, length in bodies()]
        self.assertGreater(len(lengths), 1500)
        self.assertLessEqual(statistics.median(lengths), 8)
        self.assertGreater(sum(length <= 25 for length in lengths) / len(lengths), 0.9)

    def test_no_control_is_made_by_hand(self):
        # buttons, fields and lists are Element Plus; a table of figures is none
        for path in (ROOT / "web" / "src").rglob("*.vue"):
            template = path.read_text().split("<style")[0]
            for tag in ("button", "input", "select", "textarea", "progress"):
                self.assertNotIn(f"<{tag}", template.replace('<input type="hidden"', ""), path.name)


if __name__ == "__main__":
    unittest.main()
