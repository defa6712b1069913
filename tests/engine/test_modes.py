"""Buckling modes and natural frequencies: closed forms."""

import math
import unittest

import numpy as np

from engine.analysis.masses import masses
from engine.analysis.modes import buckling_modes, mechanism, natural_modes
from engine.analysis.solve import assemble
from engine.catalogue.steels import GRAVITY
from engine.chain import respond
from engine.document import read_document
from engine.expand import expand
from engine.load import load
from tests.engine.helpers import FIXED, hall
from tests.engine.test_second_order import A, E, I, analysed, column, portal


def system_of(data):
    document = read_document(data)
    structure = expand(document)
    return assemble(structure, load(document, structure), False)


def beam(pieces=1, supports=("pin", "roll"), mass=100.0, length=6.0, **more):
    """A beam along X with a mass in kg/m, that moves in X–Z alone."""
    names = [f"n{i}" for i in range(pieces + 1)]
    held = {"pin": ["x", "y", "z", "rx", "rz"], "roll": ["y", "z", "rx", "rz"], "fix": FIXED, "free": []}
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": E / 2.6}],
        "sections": [{"name": "s", "A": A, "Iy": I, "Iz": 1e3 * I, "It": I}],
        "nodes": [{"name": n, "at": [length * i / pieces, 0, 0]} for i, n in enumerate(names)],
        "members": [
            {"name": f"m{i}", "start": a, "end": b, "section": "s", "material": "m"}
            for i, (a, b) in enumerate(zip(names[:-1], names[1:], strict=True))
        ],
        "supports": [
            {"node": n, "fixed": held[s]} for n, s in ((names[0], supports[0]), (names[-1], supports[1])) if held[s]
        ],
        "cases": [{"name": "G"}],
        "member_loads": [
            {"case": "G", "member": f"m{i}", "value": [0, 0, -mass * GRAVITY]} for i in range(pieces) if mass
        ],
        **more,
    }


class Vibration(unittest.TestCase):
    def first(self, data, count=3):
        return [m.value for m in natural_modes(system_of(data), np.ones(1), count)]

    def test_single_beams(self):
        # f = (βL)²/(2π L²) √(EI/m): π, 2π; 1.87510 (cantilever); 4.73004 (clamped); 3.92660 (clamped, pinned)
        unit = math.sqrt(E * I / 100.0) / (2 * math.pi * 36)
        for supports, beta in (
            (("pin", "roll"), math.pi),
            (("fix", "free"), 1.8751041),
            (("fix", "fix"), 4.7300407),
            (("fix", "roll"), 3.9266023),
        ):
            for pieces in (1, 3):
                f = self.first(beam(pieces, supports))[0]
                self.assertAlmostEqual(f / (beta**2 * unit), 1.0, delta=1e-4, msg=f"{supports} {pieces}")
        second = self.first(beam(4))[1]
        self.assertAlmostEqual(second / ((2 * math.pi) ** 2 * unit), 1.0, delta=1e-4)

    def test_a_mass_on_a_cantilever(self):
        # f = √(3EI/(M L³))/2π
        data = beam(1, ("fix", "free"), 0.0, node_loads=[{"case": "G", "node": "n1", "force": [0, 0, -500 * GRAVITY]}])
        # vibrates along the beam too, far higher
        f = self.first(data, 1)[0]
        self.assertAlmostEqual(f / (math.sqrt(3 * E * I / (500 * 216)) / (2 * math.pi)), 1.0, delta=1e-6)

    def test_masses_of_a_hall_are_its_weights(self):
        forces = respond(hall(spacings=[6.0, 6.0]))
        factors = np.array([float(c.symbol in ("G1", "G2")) for c in forces.loading.cases])
        found = masses(forces.response.system, factors)
        total = -sum(forces.loading.expected[i][2] for i in np.flatnonzero(factors)) / GRAVITY
        self.assertAlmostEqual(found.total / total, 1.0, delta=1e-9)

    def test_a_hall_sways_first(self):
        forces = respond(hall(spacings=[6.0, 6.0]))
        factors = np.array([float(c.symbol in ("G1", "G2")) for c in forces.loading.cases])
        found = natural_modes(forces.response.system, factors, 3)
        values = [m.value for m in found]
        self.assertEqual(values, sorted(values))
        self.assertTrue(0.3 < values[0] < 20)
        self.assertAlmostEqual(float(np.abs(found[0].along).max()), 1.0)

    def test_without_mass_nothing_vibrates(self):
        self.assertEqual(natural_modes(system_of(beam(1, mass=0.0)), np.ones(1)), [])


class Buckling(unittest.TestCase):
    def test_modes_of_a_pinned_column(self):
        # n² π² EI/L², half waves; both planes alike
        data = column(["x", "y", "z", "rz"], ["x", "y"], pieces=4)
        data["sections"][0]["Iz"] = 50 * I
        found = buckling_modes(analysed(data), 0, 3)
        euler = math.pi**2 * E * I / 36 / 1e5
        for n, mode in enumerate(found[:3], 1):
            self.assertAlmostEqual(mode.value / (n**2 * euler), 1.0, delta=2e-3)
        shape = found[0].along[:, :, 0].ravel()
        z = np.concatenate([np.linspace(i, i + 1, 9) * 1.5 for i in range(4)])
        np.testing.assert_allclose(np.abs(shape), np.abs(np.sin(math.pi * z / 6)), atol=2e-3)

    def test_the_lowest_is_the_critical_factor(self):
        found = analysed(portal(1.0, False))
        modes = buckling_modes(found, 0, 2)
        self.assertAlmostEqual(modes[0].value / found.alpha[0], 1.0, delta=1e-6)
        # both heads move alike
        heads = modes[0].nodes[[1, 2], 0]
        self.assertAlmostEqual(heads[0] / heads[1], 1.0, delta=1e-3)

    def test_tension_has_none(self):
        self.assertEqual(buckling_modes(analysed(column(force=(0, 0, 1e5))), 0), [])

    def test_a_mechanism_has_a_shape(self):
        data = column(start=["x", "y", "z", "rz"])
        mode = mechanism(system_of(data))
        self.assertEqual(int(np.abs(mode.nodes[:, :2]).max(axis=1).argmax()), 1)


if __name__ == "__main__":
    unittest.main()


class ByItself(unittest.TestCase):
    """Whether a mode is one member's own buckling or the frame's."""

    def modes(self, head, section):
        # two posts under a stiff beam, one of a section of its own; their heads held sideways or not
        at = {"a": (0, 0, 0), "b": (0, 0, 6), "c": (8, 0, 6), "d": (8, 0, 0)}
        data = {
            "nodes": [{"name": n, "at": list(p)} for n, p in at.items()],
            "members": [
                {"name": "thin", "start": "a", "end": "b", "section": section},
                {"name": "thick", "start": "d", "end": "c", "section": "HEB 300"},
                {"name": "beam", "start": "b", "end": "c", "section": "HEB 300"},
            ],
            "supports": [{"node": n, "fixed": ["x", "y", "z", "rx", "rz"]} for n in "ad"]
            + [{"node": n, "fixed": ["y", "rx", "rz", *head]} for n in "bc"],
            "cases": [{"name": "P", "nature": "permanent"}],
            "node_loads": [{"case": "P", "node": n, "force": [0, 0, -100]} for n in "bc"],
            "combinations": [{"name": "C", "use": "strength", "factors": {"P": 1}}],
        }
        combined = respond(read_document(data)).combined
        return combined.structure, buckling_modes(combined, 0)

    def test_a_thin_post_between_held_ends(self):
        structure, found = self.modes(["x"], "HEA 100")
        self.assertEqual(structure.members[found[0].by_itself].name, "thin")

    def test_a_frame_that_sways(self):
        _, found = self.modes([], "HEB 300")
        self.assertEqual(found[0].by_itself, -1)
