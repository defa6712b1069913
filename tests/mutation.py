"""How many small faults in the rules of the standards and in verification the tests notice.

    python -m tests.mutation [--count 100] [--seed 1] [--out FILE] [files]

A copy of the engine gets one fault at a time: a constant changed, an operator, a comparison, a bound or a condition turned round.
It survives when no test fails that meets these rules. Tolerances (constants below 0.001 and what they are added to) and sums with
nothing (0 · x, which gives an array its shape) stay as they are: they are no rules.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
#: tests that notice most faults of a file, before the others
FIRST = {
    "steel": ("test_worked", "test_steel"),
    "member_stability": ("test_worked", "test_steel"),
    "stabilising": ("test_stabilising",),
    "rails": ("test_rails",),
    "limits": ("test_variable_limits",),
    "transverse": ("test_webs",),
    "torsion": ("test_torsion",),
    "sheeting": ("test_sheeting",),
    "stays": ("test_stays",),
    "stays_to": ("test_stays",),
    "sprung": ("test_stays",),
    "faces": ("test_faces",),
    "shear_lag": ("test_shear_lag",),
    "secondary": ("test_secondary",),
    "slenderness": ("test_slenderness",),
    "haunched": ("test_unequal_flanges", "test_haunched_members"),
    "webs": ("test_webs",),
    "interaction": ("test_worked",),
    "moments": ("test_moments", "test_parts", "test_members", "test_worked"),
    "wind": ("test_wind", "test_wind_details", "test_worked_buildings", "test_more_actions"),
    "roofs": ("test_wind_details", "test_wind", "test_snow"),
    "service": ("test_parts", "test_members"),
    "verify": ("test_parts", "test_members"),
    "snow": ("test_snow", "test_worked_buildings"),
    "combinations": ("test_combinations", "test_parts", "test_national"),
    "equilibrium": ("test_equilibrium",),
    "marks": ("test_equilibrium",),
    "proof": ("test_proof_text",),
    "segments": ("test_members", "test_left_free"),
    "effective": ("test_members",),
}
#: what else meets these rules; tests of the analysis alone do not
OTHERS = (
    "test_found",
    "test_parts",
    "test_wind",
    "test_wind_details",
    "test_snow",
    "test_combinations",
    "test_national",
    "test_actions",
    "test_more_actions",
    "test_panels",
    "test_members",
    "test_left_free",
    "test_steel",
    "test_equilibrium",
    "test_hand_calculation",
    "test_worked_buildings",
    "test_proof_text",
    "test_frame_details",
    "test_lasting",
    "test_bows",
)
COMPARED = {ast.Lt: ast.Gt, ast.LtE: ast.Gt, ast.Gt: ast.Lt, ast.GtE: ast.Lt}
COUNTED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


def _idle(tree: ast.Module) -> set[int]:
    """Parts that are no rule: words, indices, types, axes."""
    found: set[int] = set()
    for node in ast.walk(tree):
        inner: list[ast.AST] = []
        if isinstance(node, ast.Subscript):
            inner = [node.slice]
        elif isinstance(node, ast.AnnAssign):
            inner = [node.annotation]
        elif isinstance(node, ast.JoinedStr) or (isinstance(node, ast.keyword) and node.arg in ("axis", "ndigits")):
            inner = [node]
        elif isinstance(node, ast.FunctionDef):
            inner = [*(a.annotation for a in node.args.args if a.annotation), *([node.returns] if node.returns else [])]
        found |= {id(part) for one in inner for part in ast.walk(one)}
    return found


def _sites(tree: ast.Module) -> Iterator[ast.AST]:
    idle = _idle(tree)
    for node in ast.walk(tree):
        if id(node) in idle:
            continue
        constant = isinstance(node, ast.Constant) and type(node.value) in (int, float) and abs(node.value) >= 1e-3
        compared = isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in COMPARED
        counted = isinstance(node, ast.BinOp) and type(node.op) in COUNTED
        if isinstance(node, ast.BinOp) and (_nothing(node) or _nothing(node.left) or _nothing(node.right)):
            continue
        bound = isinstance(node, ast.Attribute) and node.attr in ("minimum", "maximum")
        if constant or compared or counted or bound or isinstance(node, ast.BoolOp):
            yield node


def _nothing(node: ast.AST) -> bool:
    """A tolerance, or nothing times something."""
    if isinstance(node, ast.Constant) and isinstance(node.value, float):
        return abs(node.value) < 1e-3
    return isinstance(node, ast.BinOp) and any(
        isinstance(n, ast.Constant) and n.value == 0 for n in (node.left, node.right)
    )


def _turn(node: ast.AST) -> None:
    if isinstance(node, ast.Constant):
        node.value = node.value * 1.15 if isinstance(node.value, float) else node.value + 1  # type: ignore[operator]
    elif isinstance(node, ast.Compare):
        node.ops[0] = COMPARED[type(node.ops[0])]()
    elif isinstance(node, ast.BinOp):
        node.op = COUNTED[type(node.op)]()
    elif isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
    elif isinstance(node, ast.Attribute):
        node.attr = "maximum" if node.attr == "minimum" else "minimum"


def _tests(file: str) -> list[list[str]]:
    """Modules in groups: those that are likely to notice, then the others."""
    stem = Path(file).stem
    first = next((tests for start, tests in FIRST.items() if stem.startswith(start)), ())
    groups = [list(first), [m for m in OTHERS if m not in first]]
    return [[f"tests.engine.{m}" for m in group] for group in groups if group]


def _noticed(copy: Path, file: str) -> bool:
    for modules in _tests(file):
        command = [sys.executable, "-m", "unittest", "-f", *modules]
        try:
            env = {**os.environ, "OPENBLAS_NUM_THREADS": "1"}
            if subprocess.run(command, cwd=copy, capture_output=True, timeout=240, env=env).returncode:
                return True
        except subprocess.TimeoutExpired:
            return True
    return False


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--out", type=Path)
    parser.add_argument("files", nargs="*")
    given = parser.parse_args()
    files = given.files or [
        str(p.relative_to(ROOT))
        for part in ("standards/en", "verification")
        for p in (ROOT / "engine" / part).rglob("*.py")
    ]
    sites = [(f, i) for f in sorted(files) for i, _ in enumerate(_sites(ast.parse((ROOT / f).read_text())))]
    random.Random(given.seed).shuffle(sites)
    survived = 0
    with tempfile.TemporaryDirectory() as name:
        copy = Path(name)
        for part in ("engine", "tests"):
            shutil.copytree(ROOT / part, copy / part, ignore=shutil.ignore_patterns("__pycache__"))
        for number, (file, i) in enumerate(sites[: given.count], 1):
            source = (copy / file).read_text()
            tree = ast.parse(source)
            node = list(_sites(tree))[i]
            before, line = ast.unparse(node), getattr(node, "lineno", 0)
            _turn(node)
            (copy / file).write_text(ast.unparse(tree))
            start = time.perf_counter()
            noticed = _noticed(copy, file)
            (copy / file).write_text(source)
            survived += not noticed
            words = f"{'noticed ' if noticed else 'SURVIVED'} {file}:{line} {before} → {ast.unparse(node)}"
            words += f" ({time.perf_counter() - start:.0f} s; {survived} of {number})"
            print(words, flush=True)
            if given.out:
                with given.out.open("a") as out:
                    out.write(words + "\n")
    print(f"{survived} of {min(given.count, len(sites))} survived; {len(sites)} places in all")


if __name__ == "__main__":
    main()
