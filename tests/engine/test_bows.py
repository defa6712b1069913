"""Bow imperfections against closed forms: a start shape acts like the equivalent load 8 N e0/L² of EN 1993-1-1 figure 5.4."""

import unittest
from math import cos, pi, sqrt, tan

from engine.analysis.combined import combine_results
from engine.analysis.solve import assemble
from engine.catalogue.sections import section
from engine.chain import run
from engine.document import Document, read_document
from engine.document.jigs import HallJig
from engine.document.national import ImperfectionValues
from engine.errors import ModelError
from engine.expand import expand
from engine.load import bows, combinations, load
from engine.standards.en.imperfections import bow_ratio
from tests.engine.helpers import FIXED, textbook

L, E, I, A = 6.0, 210e9, 8.356e-05, 5.381e-3  # noqa: E741
PINNED, GUIDED = ["x", "y", "z", "rz"], ["x", "y", "rz"]


def strut(pieces=1, force=-3e5, across=0.0, foot=PINNED, head=GUIDED, releases=None, **bow):
    """A strut along Z under an axial force, and a load across it, N/m along X."""
    member = {"name": "s", "start": "a", "end": "b", "section": "p", "material": "m"}
    if releases:
        member["releases"] = releases
    nodes = [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, L]}]
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": E / 2.6}],
        "sections": [{"name": "p", "A": A, "Iy": I, "Iz": I / 10, "It": I}],
        "nodes": nodes + [{"name": f"n{i}", "at": [0, 0, L * i / pieces]} for i in range(1, pieces)],
        "members": [member],
        "supports": [{"node": "a", "fixed": foot}, {"node": "b", "fixed": head}],
        "cases": [{"name": "P"}],
        "node_loads": [{"case": "P", "node": "b", "force": [0, 0, force]}],
        "member_loads": [{"case": "P", "member": "s", "value": [across, 0, 0]}] if across else [],
        "analysis": {"order": "second", "shear_deformation": False, "bows": [{"member": "s", "ratio": 250, **bow}]},
    }


def moments(data, order="second"):
    """M_y at the start, in the middle and at the end of the strut, and α_cr."""
    document = read_document(textbook(data))
    structure = expand(document)
    loading = load(document, structure)
    system = assemble(structure, loading, document.analysis.shear_deformation, bows(document, structure))
    found = combine_results(system, combinations(document, loading), order)
    d = found.diagrams([0])
    x = found.elements.positions(d.x).ravel()
    My = d.My[:, :, 0].ravel()
    at = [My[abs(x - place).argmin()] for place in (0.0, L / 2, L)]
    residual = found.states.residual[0] if found.states else 0.0
    return at, found.alpha[0], residual


class Struts(unittest.TestCase):
    P = 3e5

    def equal_load(self, p=None):
        """q and u = kL/2 of the equivalent uniform load."""
        p = p or self.P
        return 8 * p * (L / 250) / L**2, sqrt(p / (E * I)) * L / 2

    def test_pinned(self):
        # M = q/k² (sec u − 1)
        q, u = self.equal_load()
        exact = q * (L / 2 / u) ** 2 * (1 / cos(u) - 1)
        for pieces in (1, 2, 5):
            (foot, middle, _), _, residual = moments(strut(pieces))
            self.assertAlmostEqual(abs(middle) / exact, 1, delta=1e-4, msg=f"{pieces} pieces")
            self.assertAlmostEqual(foot, 0, delta=1e-6 * exact)
            self.assertLess(residual, 1e-8)

    def test_clamped(self):
        # ends q/k² (1 − u/tan u), middle q/k² (u/sin u − 1)
        q, u = self.equal_load(9e5)
        clamped = [*FIXED]
        (foot, middle, head), _, _ = moments(strut(2, -9e5, foot=clamped, head=["x", "y", "rx", "ry", "rz"]))
        self.assertAlmostEqual(abs(foot) / (q * (L / 2 / u) ** 2 * (1 - u / tan(u))), 1, delta=2e-4)
        self.assertAlmostEqual(foot / head, 1, delta=1e-6)
        self.assertLess(foot * middle, 0)

    def test_a_hinged_member_bows_too(self):
        # hinged at both ends between clamped supports
        hinges = {"start": ["ry", "rz"], "end": ["ry", "rz"]}
        q, u = self.equal_load()
        data = strut(1, releases=hinges, foot=FIXED, head=["x", "y", "rx", "ry", "rz"])
        (_, middle, _), alpha, _ = moments(data)
        self.assertAlmostEqual(abs(middle) / (q * (L / 2 / u) ** 2 * (1 / cos(u) - 1)), 1, delta=1e-4)
        # about the weaker axis, bowed or not
        self.assertAlmostEqual(alpha * self.P / (pi**2 * E * I / 10 / L**2), 1, delta=1e-3)

    def test_in_the_sense_in_which_it_bends(self):
        q, u = self.equal_load()
        for across in (200.0, -200.0):
            alone = (200.0 + q) * (L / 2 / u) ** 2 * (1 / cos(u) - 1)
            (_, middle, _), _, _ = moments(strut(across=across))
            self.assertAlmostEqual(abs(middle) / alone, 1, delta=1e-4)
        # stated: along +z of the member, which is −X
        (_, plus, _), _, _ = moments(strut(across=200.0, sense="+"))
        (_, less, _), _, _ = moments(strut(across=200.0, sense="-"))
        self.assertAlmostEqual(min(abs(plus), abs(less)) / abs(q - 200.0), (L / 2 / u) ** 2 * (1 / cos(u) - 1), delta=1)
        self.assertAlmostEqual(max(abs(plus), abs(less)) / (q + 200.0), (L / 2 / u) ** 2 * (1 / cos(u) - 1), delta=1)

    def test_none_under_tension_and_in_first_order(self):
        (_, middle, _), _, _ = moments(strut(force=2e5))
        self.assertEqual(middle, 0.0)
        (_, middle, _), _, _ = moments(strut(), order="first")
        self.assertEqual(middle, 0.0)

    def test_about_the_weak_axis(self):
        document = read_document(textbook(strut(about="z", force=-5e4)))
        chain = run(document)
        p = 5e4
        q, u = 8 * p * (L / 250) / L**2, sqrt(p / (E * I / 10)) * L / 2
        Mz = chain.combined.diagrams([0]).Mz[0, :, 0]
        self.assertAlmostEqual(abs(Mz).max() / (q * (L / 2 / u) ** 2 * (1 / cos(u) - 1)), 1, delta=1e-4)


class Asked(unittest.TestCase):
    def hall(self, **bow):
        return Document.model_validate({"hall": {}, "analysis": {"bows": [bow]}})

    def test_by_the_buckling_curve(self):
        self.assertEqual(bow_ratio(section("IPE 400"), "S355", "y", ImperfectionValues()), 300)
        self.assertEqual(bow_ratio(section("IPE 400"), "S355", "z", ImperfectionValues()), 250)
        self.assertEqual(bow_ratio(section("HEA 300"), "S355", "z", ImperfectionValues()), 200)
        self.assertEqual(bow_ratio(section("UPN 200"), "S355", "y", ImperfectionValues()), 200)
        document = self.hall(member="frame-2/column-A")
        found = bows(document, structure := expand(document))[0]
        self.assertAlmostEqual(found.rise, structure.length(structure.member("frame-2/column-A")) / 250)

    def test_what_cannot_bow_is_said(self):
        brace = next(m.name for m in expand(Document(hall=HallJig())).members if m.bar)
        for bow, words in (
            ({"member": brace}, "it does not bend"),
            ({"member": "frame-2/rafter-AB-left", "about": "z"}, "held sideways"),
        ):
            document = self.hall(**bow)
            with self.assertRaisesRegex(ModelError, words):
                bows(document, expand(document))

    def test_a_member_that_is_gone_waits(self):
        document = self.hall(member="frame-99/column-A")
        self.assertEqual(bows(document, expand(document)), ())

    def test_a_hall_with_bowed_columns_stays_in_balance(self):
        document = Document.model_validate(
            {"hall": {}, "analysis": {"order": "second", "bows": [{"member": "frame-2/column-A"}]}}
        )
        chain = run(document)
        states = chain.combined.states
        self.assertLess(float(states.residual.max()), 1e-7)
        self.assertTrue((states.signs != 0).any())
