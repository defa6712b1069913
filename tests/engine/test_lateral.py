"""Lateral-torsional buckling as an eigenvalue, against closed forms and published values."""

import contextlib
import io
import json
import tempfile
import unittest
from math import pi, sqrt
from pathlib import Path

from engine import cli
from engine.analysis.lateral_members import lateral_factors
from engine.chain import respond
from engine.document import read_document
from tests.engine.helpers import FIXED, hall, textbook
from tests.engine.test_second_order import ANALYSIS

E, G = 210e9, 210e9 / 2.6
FORK = ["x", "y", "z", "rx"]
IPE300 = {"Iz": 603.8e-8, "It": 20.12e-8, "Iw": 125900e-12}
RECTANGLE = {"Iz": 2e-7, "It": 7e-7, "Iw": 0.0}


def beam(length, section, kind="simple", loads=(), moment=0.0, **member):
    """A beam along X, pinned in forks, or a cantilever; loads downwards as (N/m) or (N, at); end moments in Nm."""
    supports = [{"node": "a", "fixed": FORK}, {"node": "b", "fixed": ["y", "z", "rx"]}]
    if kind == "cantilever":
        supports = [{"node": "a", "fixed": FIXED}]
    if kind == "clamped":
        supports = [{"node": n, "fixed": FIXED} for n in "ab"]
    lines = [{"case": "P", "member": "m", "value": [0, 0, -q]} for q in loads if not isinstance(q, tuple)]
    lines += [
        {"case": "P", "member": "m", "kind": "force", "start": at, "value": [0, 0, -P]}
        for P, at in (q for q in loads if isinstance(q, tuple))
    ]
    ends = [
        {"case": "P", "node": n, "force": [0, 0, 0], "moment": [0, s * moment, 0]} for n, s in (("a", 1), ("b", -1))
    ]
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": G}],
        "sections": [{"name": "s", "A": 0.005, "Iy": 8.356e-5, **section}],
        "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
        "members": [{"name": "m", "start": "a", "end": "b", "section": "s", "material": "m", **member}],
        "supports": supports,
        "cases": [{"name": "P"}],
        "member_loads": lines,
        "node_loads": ends if moment else [],
    }


def factor(data):
    combined = respond(read_document(textbook(data))).combined
    return float(lateral_factors(combined, [0], 0)[0])


def solved(data):
    """The factor as `./lorica solve --lateral` writes it."""
    with tempfile.TemporaryDirectory() as folder:
        model, out = Path(folder) / "m.json", Path(folder) / "r.json"
        model.write_text(json.dumps(data))
        with contextlib.redirect_stdout(io.StringIO()):
            assert cli.main(["solve", str(model), "--out", str(out), "--lateral"]) == 0
        return json.loads(out.read_text())["lateral_factors"]["P"]["m"]


class Published(unittest.TestCase):
    def test_uniform_moment(self):
        case = ANALYSIS["ltb-uniform-moment"]
        for length, expected in zip(case["inputs"]["L"], case["expect"]["Mcr_kNm"], strict=True):
            data = beam(length, IPE300, moment=1e3)
            for found in (factor(data), solved(data)):
                self.assertAlmostEqual(found / expected, 1, delta=case["tolerance"])

    def test_narrow_rectangle(self):
        case = ANALYSIS["ltb-narrow-rectangle"]
        L, P = 4.0, 100.0
        unit = sqrt(E * RECTANGLE["Iz"] * G * RECTANGLE["It"]) / L**2
        for name, data, total in (
            ("cantilever_tip_force", beam(L, RECTANGLE, "cantilever", [(P, L)]), P),
            ("cantilever_uniform_total", beam(L, RECTANGLE, "cantilever", [P]), P * L),
            ("simply_supported_midspan_force", beam(L, RECTANGLE, "simple", [(P, L / 2)]), P),
            ("simply_supported_uniform_total", beam(L, RECTANGLE, "simple", [P]), P * L),
        ):
            for found in (factor(data), solved(data)):
                self.assertAlmostEqual(
                    found * total / unit / case["expect"][name], 1, delta=case["tolerance"], msg=name
                )


class ClosedForms(unittest.TestCase):
    def test_either_sense_of_the_moment(self):
        one, other = (factor(beam(6.0, IPE300, moment=m)) for m in (1e3, -1e3))
        self.assertAlmostEqual(one / other, 1, delta=1e-6)

    def test_flexural_buckling_about_the_weak_axis_and_in_torsion(self):
        # π² E I_z/L² between forks; with the axis held at both flanges in the middle a quarter of the length
        L = 5.0
        data = beam(L, IPE300)
        data["node_loads"] = [{"case": "P", "node": "b", "force": [-1e3, 0, 0]}]
        data["supports"][1]["fixed"] = ["y", "z", "rx"]
        euler = pi**2 * E * IPE300["Iz"] / L**2
        self.assertAlmostEqual(factor(data) * 1e3 / euler, 1, delta=1e-4)
        held = {"restraints_outer": [L / 2], "restraints_inner": [L / 2]}
        data["members"][0] |= held
        radius = (8.356e-5 + IPE300["Iz"]) / 0.005
        half = L / 2
        torsional = (G * IPE300["It"] + pi**2 * E * IPE300["Iw"] / half**2) / radius
        self.assertAlmostEqual(factor(data) * 1e3 / min(4 * euler, torsional), 1, delta=1e-4)

    def test_uniform_moment_between_lateral_restraints(self):
        # forks at mid-length make two halves
        L = 8.0
        data = beam(L, IPE300, moment=1e3)
        data["members"][0] |= {"restraints_outer": [L / 2], "restraints_inner": [L / 2]}
        self.assertAlmostEqual(factor(data) / factor(beam(L / 2, IPE300, moment=1e3)), 1, delta=1e-4)

    def test_a_held_compression_flange_lifts_it_a_held_tension_flange_hardly(self):
        document = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
            "supports": [{"node": "a", "fixed": FORK}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "P"}],
            "member_loads": [{"case": "P", "member": "m", "value": [0, 0, -5]}],
        }
        found = {}
        for name, held in (
            ("none", {}),
            ("top", {"restraints_outer": [4.0]}),
            ("bottom", {"restraints_inner": [4.0]}),
            ("both", {"restraints_outer": [4.0], "restraints_inner": [4.0]}),
        ):
            member = {"name": "m", "start": "a", "end": "b", "section": "IPE 300", **held}
            found[name] = factor(document | {"members": [member]})
        self.assertLess(found["none"], found["bottom"])
        self.assertGreater(found["top"], 2.0 * found["none"])
        self.assertGreater(found["top"], 1.5 * found["bottom"])
        self.assertGreaterEqual(found["both"], found["top"] * (1 - 1e-9))

    def test_pulled_members_do_not_buckle_and_bars_are_not_covered(self):
        data = beam(5.0, IPE300)
        data["node_loads"] = [{"case": "P", "node": "b", "force": [1e3, 0, 0]}]
        self.assertEqual(factor(data), float("inf"))
        combined = respond(hall(frames=2)).combined
        bars = [i for i, m in enumerate(combined.structure.members) if m.bar]
        self.assertIsNone(lateral_factors(combined, [0], bars[0]))

    def test_agrees_with_the_closed_form_of_the_check(self):
        # simple beam under uniform load at the shear centre: C1 = 1.13 (ECCS 119; Access Steel SN003: 1.127)
        L = 6.0
        uniform, load = factor(beam(L, IPE300, moment=1e3)), factor(beam(L, IPE300, loads=[1e3]))
        self.assertAlmostEqual(load * 1e3 * L**2 / 8 / (uniform * 1e3), 1.13, delta=0.006)
        point = factor(beam(L, IPE300, loads=[(1e3, L / 2)]))
        self.assertAlmostEqual(point * 1e3 * L / 4 / (uniform * 1e3), 1.35, delta=0.02)
