"""Rigid floors and membranes against hand calculations."""

import unittest
from math import tan

import numpy as np
from scipy.optimize import brentq

from engine.analysis.membranes import membrane_forces, stiffness_of
from engine.chain import run
from engine.document import Document, read_document
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig
from engine.editing.apply import operate
from engine.editing.operations import ReleaseJig
from engine.errors import ModelError
from engine.expand import expand
from engine.result import result
from engine.verification.unsaid import DECKS
from tests.engine.helpers import FIXED
from tests.engine.test_classics import E, G, I, J, model
from tests.engine.test_second_order import analysed

H, A, B = 4.0, 6.0, 8.0
CORNERS = {"a": (0, 0), "b": (A, 0), "c": (A, B), "d": (0, B)}


def table(loads, **panel):
    """Four clamped posts under a weightless panel, in newton and metre."""
    points = {n: (*at, H) for n, at in CORNERS.items()} | {f"{n}0": (*at, 0) for n, at in CORNERS.items()}
    found = model(points, [(f"{n}0", n) for n in CORNERS], {f"{n}0": FIXED for n in CORNERS}, loads)
    return found | {"panels": [{"name": "deck", "kind": "surface", "corners": list(CORNERS), **panel}]}


def solved(data):
    """The chain of a document with case P alone as a combination, and its state."""
    data = data | {"combinations": [{"name": "T", "use": "strength", "factors": {"P": 1.0}}]}
    chain = run(read_document(data))
    return chain, result(chain)["states"]["T"]


class RigidFloors(unittest.TestCase):
    def test_turns_about_its_middle(self):
        # 3 EI/h³ a post; P at the edge y = 0 turns the floor with P B/2 against k Σr² + 4 GJ/h
        P, k = 10e3, 3 * E * I / H**3
        chain, state = solved(table([("a", (P, 0, 0))], diaphragm="rigid"))
        turn = P * B / 2 / (k * (A**2 + B**2) + 4 * G * J / H)
        for n, (x, y) in CORNERS.items():
            u = state["displacements"][n]
            self.assertAlmostEqual(u[0] / (P / (4 * k) - turn * (y - B / 2)), 1, delta=1e-4)
            self.assertAlmostEqual(u[1] / (turn * (x - A / 2)), 1, delta=1e-4)
            self.assertAlmostEqual(u[5] / turn, 1, delta=1e-4)
        total = sum(np.array(r) for r in state["reactions"].values())
        self.assertAlmostEqual(total[0], -P, delta=1e-6 * P)

    def test_the_verdict_leaves_the_deck_itself_out(self):
        for stiff in ("rigid", "membrane"):
            chain, _ = solved(table([("a", (1e3, 0, 0))], diaphragm=stiff))
            self.assertIn(DECKS, chain.verification.left_out)
        loose, _ = solved(table([("a", (1e3, 0, 0))]))
        self.assertNotIn(DECKS, loose.verification.left_out)

    def test_a_support_on_the_floor_takes_what_pushes_it(self):
        data = table([("a", (0, 9e3, 0)), ("c", (5e3, 0, 0))], diaphragm="rigid")
        data["supports"].append({"node": "b", "fixed": ["x", "y", "rz"]})
        chain, state = solved(data)
        reaction = state["reactions"]["b"]
        self.assertAlmostEqual(reaction[0], -5e3, delta=1)
        self.assertAlmostEqual(reaction[1], -9e3, delta=1)
        # about b: 9 kN at −A along x, 5 kN at B along y
        self.assertAlmostEqual(reaction[5], 9e3 * A + 5e3 * B, delta=10)
        self.assertAlmostEqual(state["displacements"]["d"][0], 0, delta=1e-12)

    def test_a_spring_on_a_turned_support_holds_a_corner(self):
        stiff = 1e6
        data = table([("a", (0, 20e3, 0))], diaphragm="rigid")
        data["supports"].append({"node": "b", "fixed": [], "springs": {"z": stiff}})
        _, state = solved(data)
        self.assertAlmostEqual(state["reactions"]["b"][2], -stiff * state["displacements"]["b"][2], delta=1e-6)

    def test_two_of_four_posts_pressed_lean_on_the_others(self):
        P = 1e5
        data = table([("a", (0, 0, -P)), ("c", (0, 0, -P))], diaphragm="rigid")
        data["combinations"] = [{"name": "T", "use": "strength", "factors": {"P": 1.0}}]
        found = analysed(data)
        # the last of the combinations is the stated one
        alpha = found.alpha[found.count - 1]

        def stiffness(force):
            # of a cantilever under an axial force: P / (h (tan kh / kh − 1))
            u = H * (force / (E * I)) ** 0.5
            return force / (H * (tan(u) / u - 1)) + 3 * E * I / H**3

        euler = np.pi**2 * E * I / (4 * H**2)
        exact = brentq(stiffness, 1.01 * euler, 3.9 * euler)
        self.assertAlmostEqual(float(alpha) * P / exact, 1, delta=1e-3)

    def test_what_cannot_be_is_said(self):
        two = table([], diaphragm="rigid")
        two["supports"] += [{"node": n, "fixed": ["x"]} for n in "ab"]
        with self.assertRaisesRegex(ModelError, "between them its forces cannot be told"):
            solved(two)
        inclined = table([], diaphragm="rigid")
        for node in inclined["nodes"]:
            if node["name"] in "bc":
                node["at"][2] += 1.0
        with self.assertRaisesRegex(ModelError, "a rigid floor lies level"):
            solved(inclined)
        off = table([], diaphragm="membrane")
        off["panels"][0]["corners"][0] = [1.0, 0.0, H]
        with self.assertRaisesRegex(ModelError, "Corner 1 of panel “deck” is no node"):
            solved(off)
        open_ = table([], diaphragm="membrane", openings=[[[1, 1, H], [2, 1, H], [2, 2, H]]])
        with self.assertRaisesRegex(ModelError, "openings"):
            solved(open_)


class Membranes(unittest.TestCase):
    LAW = (2e8, 0.3 * 2e8, 0.35 * 2e8)

    def test_sheeting_carries_a_frame_of_hinged_bars(self):
        # γ = P/(S a), shear flow P/a
        P, S = 12e3, 3e6
        points = {"a": (0, 0, 0), "b": (A, 0, 0), "c": (A, 0, H), "d": (0, 0, H)}
        data = model(
            points,
            [("a", "d"), ("b", "c"), ("d", "c")],
            {"a": FIXED, "b": FIXED, "c": ["y"], "d": ["y"]},
            [("d", (P, 0, 0))],
            A_=1e3,
            behaviour="bar",
        )
        deck = {"kind": "sheeting", "shear": S / 1000}
        data["panels"] = [
            {"name": "wall", "kind": "surface", "corners": list("abcd"), "diaphragm": "membrane", "membrane": deck}
        ]
        chain, state = solved(data)
        self.assertAlmostEqual(state["displacements"]["c"][0] / (P / (S * A) * H), 1, delta=1e-6)
        which = next(i for i, c in enumerate(chain.combinations) if c.name == "T")
        flow = membrane_forces(chain.structure, chain.combined.displacement([which]))
        self.assertAlmostEqual(abs(flow[0, 2, 0]) / (P / A), 1, delta=1e-6)
        self.assertAlmostEqual(state["reactions"]["a"][0] + state["reactions"]["b"][0], -P, delta=1e-3)

    def test_patch_of_constant_stress(self):
        # a distorted panel under uniform n: corner forces of the edges' tractions
        flat = np.array([[0.0, 0.0], [3.0, 0.4], [2.6, 2.5], [-0.3, 1.9]])
        D = np.array([[self.LAW[0], self.LAW[1], 0], [self.LAW[1], self.LAW[0], 0], [0, 0, self.LAW[2]]])
        strain = np.array([1e-3, -4e-4, 7e-4])
        u = np.stack([flat @ [strain[0], strain[2] / 2], flat @ [strain[2] / 2, strain[1]]], axis=1)
        n = D @ strain
        stress = np.array([[n[0], n[2]], [n[2], n[1]]])
        force = np.zeros((4, 2))
        for i in range(4):
            j = (i + 1) % 4
            dx, dy = flat[j] - flat[i]
            pull = stress @ [dy, -dx] / 2
            force[i] += pull
            force[j] += pull
        for law, shape in ((self.LAW, flat), (self.LAW, flat[:3])):
            K = stiffness_of(shape, law)
            self.assertLess(np.abs(K - K.T).max(), 1e-6 * np.abs(K).max())
            # no force from moving and turning as a rigid body
            body = np.stack([-shape[:, 1], shape[:, 0]], axis=1).ravel()
            self.assertLess(np.abs(K @ body).max(), 1e-6 * np.abs(K).max())
        self.assertLess(np.abs(stiffness_of(flat, self.LAW) @ u.ravel() - force.ravel()).max(), 1e-9 * np.abs(n).max())

    def test_one_panel_bends_like_a_beam(self):
        # pure bending of a strip: rotation M L / EI with E t and I = t d³/12, exact with the incompatible modes
        E_t, length, depth, M = 5e7, 6.0, 1.0, 1e4
        law = (E_t, 0.0, E_t / 2)
        K = stiffness_of(np.array([[0, 0], [length, 0], [length, depth], [0, depth]]), law)
        free = [2, 4, 5, 3, 7]  # the left edge held, without stopping it from narrowing
        couple = np.zeros(8)
        couple[2], couple[4] = M / depth, -M / depth
        u = np.zeros(8)
        u[free] = np.linalg.solve(K[np.ix_(free, free)], couple[free])
        turn = (u[2] - u[4]) / depth
        self.assertAlmostEqual(turn / (M * length / (E_t * depth**3 / 12)), 1, delta=1e-9)

    def test_a_thick_one_moves_as_a_rigid_floor(self):
        # but does not twist the posts: it holds their heads, not their rotation
        P, k = 10e3, 3 * E * I / H**3
        deck = {"kind": "plate", "thickness": 1.0, "material": "C25/30"}
        _, state = solved(table([("a", (P, 0, 0))], diaphragm="membrane", membrane=deck))
        turn = P * B / 2 / (k * (A**2 + B**2))
        for n, (_, y) in CORNERS.items():
            moved = P / (4 * k) - turn * (y - B / 2)
            self.assertAlmostEqual(state["displacements"][n][0] / moved, 1, delta=1e-3)

    def test_more_nodes_make_triangles(self):
        data = table([("a", (10e3, 0, 0))], diaphragm="membrane")
        data["nodes"].append({"name": "m", "at": [A / 2, 0, H]})
        data["members"].append({"name": "am", "start": "a", "end": "m", "section": "s", "material": "m"})
        structure = expand(read_document(data))
        self.assertEqual(sorted(len(m.nodes) for m in structure.membranes), [3, 3, 3])
        solved(data)


class FloorJigs(unittest.TestCase):
    def floor(self, **more):
        return Document(hall=HallJig(), jigs=[FloorJig(name="loft", along=("2", "4"), **more)])

    def test_a_rigid_floor_is_one_body_with_the_hall(self):
        structure = expand(self.floor())
        self.assertEqual(len(structure.diaphragms), 1)
        heights = structure.xyz[list(structure.diaphragms[0]), 2]
        self.assertEqual(set(np.round(heights, 6).tolist()), {3.2})
        self.assertGreater(len(heights), 9)

    def test_a_membrane_spans_between_joists(self):
        structure = expand(self.floor(diaphragm="membrane"))
        self.assertEqual(len(structure.membranes), len([p for p in structure.panels if p.kind == "floor"]))
        self.assertFalse(structure.diaphragms)

    def test_documents_that_said_yes_or_no(self):
        for said, meant in ((True, "rigid"), (False, "none")):
            self.assertEqual(FloorJig(name="f", diaphragm=said).diaphragm, meant)

    def test_a_released_floor_stays_stiff(self):
        for diaphragm in ("rigid", "membrane"):
            document = self.floor(diaphragm=diaphragm)
            before = expand(document)
            after = expand(operate(document, ReleaseJig(do="release", jig="loft")))
            self.assertEqual(
                sorted(len(d) for d in after.diaphragms), sorted(len(d) for d in before.diaphragms), diaphragm
            )
            self.assertEqual(len(after.membranes), len(before.membranes))
