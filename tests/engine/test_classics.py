"""Published and closed-form cases of structural analysis: beams, frames, trusses, grillages, space frames, arches."""

import contextlib
import io
import json
import math
import tempfile
import unittest
from pathlib import Path

import numpy as np

from engine import cli
from tests.engine.helpers import FIXED, solved
from tests.engine.test_second_order import ANALYSIS, INCH, KIP, KSI, column, portal

E, G, A, I, J = 210e9, 80e9, 0.02, 8e-5, 1.2e-4  # noqa: E741


def model(points, members, supports, loads=(), lines=(), A_=A, behaviour=None, releases=None):
    """A frame of one section between named points, in newton and metre; shear rigid."""
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": G}],
        "sections": [{"name": "s", "A": A_, "Iy": I, "Iz": I, "It": J}],
        "nodes": [{"name": n, "at": list(at)} for n, at in points.items()],
        "members": [
            {
                "name": f"{a}{b}",
                "start": a,
                "end": b,
                "section": "s",
                "material": "m",
                **({"behaviour": behaviour} if behaviour else {}),
                **({"releases": releases[f"{a}{b}"]} if releases and f"{a}{b}" in releases else {}),
            }
            for a, b in members
        ],
        "supports": [{"node": n, "fixed": list(held)} for n, held in supports.items()],
        "cases": [{"name": "P"}],
        "node_loads": [{"case": "P", "node": n, "force": list(f)} for n, f in loads],
        "member_loads": [{"case": "P", "member": m, "value": list(v)} for m, v in lines],
    }


PIN, ROLL = ("x", "y", "z", "rx", "rz"), ("y", "z", "rx", "rz")


class Beams(unittest.TestCase):
    """Continuous beams under uniform load: coefficients of any handbook (three moments)."""

    def reactions(self, spans, loaded=None):
        names = [f"n{i}" for i in range(len(spans) + 1)]
        at = np.concatenate([[0.0], np.cumsum(spans)])
        members = list(zip(names[:-1], names[1:], strict=True))
        supports = {n: PIN if i == 0 else ROLL for i, n in enumerate(names)}
        lines = [(a + b, (0, 0, -1e3)) for i, (a, b) in enumerate(members) if loaded is None or i in loaded]
        _, state = solved(model({n: (x, 0, 0) for n, x in zip(names, at, strict=True)}, members, supports, lines=lines))
        return np.array([state["reactions"][n][2] for n in names]) / 1e3

    def test_two_equal_spans(self):
        np.testing.assert_allclose(self.reactions([6, 6]), np.array([3 / 8, 10 / 8, 3 / 8]) * 6, rtol=1e-9)

    def test_three_equal_spans(self):
        np.testing.assert_allclose(self.reactions([5, 5, 5]), np.array([0.4, 1.1, 1.1, 0.4]) * 5, rtol=1e-9)

    def test_four_equal_spans(self):
        expected = np.array([11, 32, 26, 32, 11]) / 28 * 5
        np.testing.assert_allclose(self.reactions([5, 5, 5, 5]), expected, rtol=1e-9)

    def test_one_span_of_three_loaded(self):
        # three moments: M_B = −w l²/15, M_C = w l²/60
        w, l = 1.0, 5.0  # noqa: E741
        MB, MC = -w * l**2 / 15, w * l**2 / 60
        expected = [w * l / 2 + MB / l, w * l / 2 - MB / l + (MC - MB) / l, (MB - MC) / l - MC / l, MC / l]
        np.testing.assert_allclose(self.reactions([l, l, l], {0}), expected, rtol=1e-8)

    def test_unequal_spans(self):
        # M_B = −w (l1³ + l2³) / (8 (l1 + l2))
        a, b = 4.0, 7.0
        M = -(a**3 + b**3) / (8 * (a + b))
        expected = [a / 2 + M / a, a / 2 - M / a + b / 2 - M / b, b / 2 + M / b]
        np.testing.assert_allclose(self.reactions([a, b]), expected, rtol=1e-9)

    def test_point_load_between_clamped_ends(self):
        # M_a = P a b²/l², M_b = P a² b/l²
        points = {"a": (0, 0, 0), "c": (2, 0, 0), "b": (6, 0, 0)}
        _, state = solved(model(points, [("a", "c"), ("c", "b")], {"a": FIXED, "b": FIXED}, [("c", (0, 0, -9e3))]))
        self.assertAlmostEqual(abs(state["reactions"]["a"][4]), 9e3 * 2 * 16 / 36, delta=1e-5)
        self.assertAlmostEqual(abs(state["reactions"]["b"][4]), 9e3 * 4 * 4 / 36, delta=1e-5)


class Frames(unittest.TestCase):
    def test_a_bent_cantilever_in_space(self):
        # an L in plan, clamped at one end, loaded across at the other:
        # P a³/3EI + P b³/3EI + P a b²/GJ
        a, b, P = 3.0, 2.0, 5e3
        points = {"o": (0, 0, 0), "k": (a, 0, 0), "t": (a, b, 0)}
        _, state = solved(model(points, [("o", "k"), ("k", "t")], {"o": FIXED}, [("t", (0, 0, -P))]))
        expected = P * a**3 / (3 * E * I) + P * b**3 / (3 * E * I) + P * a * b**2 / (G * J)
        self.assertAlmostEqual(-state["displacements"]["t"][2] / expected, 1.0, delta=1e-9)

    def test_portal_by_slope_deflection(self):
        # clamped feet, sway under H at the head, equal EI, height h, span l (axially stiff):
        # column foot M = H h/2 · (3k + 1)/(6k + 1), head M = H h/2 · 3k/(6k + 1) with k = h_I: k = (I_b/l)/(I_c/h)
        h, span, H = 4.0, 6.0, 8e3
        points = {"a": (0, 0, 0), "b": (0, 0, h), "c": (span, 0, h), "d": (span, 0, 0)}
        held = {"a": FIXED, "d": FIXED, "b": ("y", "rx", "rz"), "c": ("y", "rx", "rz")}
        _, state = solved(model(points, [("a", "b"), ("b", "c"), ("d", "c")], held, [("b", (H, 0, 0))], A_=10.0))
        k = h / span
        self.assertAlmostEqual(
            abs(state["reactions"]["a"][4]) / (H * h / 2 * (3 * k + 1) / (6 * k + 1)), 1.0, delta=1e-5
        )
        self.assertAlmostEqual(
            abs(state["reactions"]["d"][2]) / (2 * H * h / 2 * 3 * k / (6 * k + 1) / span), 1.0, delta=1e-5
        )

    def test_gable_of_two_bars(self):
        # symmetric two-bar frame, clamped feet, hinged apex under P: each bar is a propped cantilever along its axis
        _, state = solved(
            model(
                {"a": (-4, 0, 0), "t": (0, 0, 3), "b": (4, 0, 0)},
                [("a", "t"), ("b", "t")],
                {"a": ("x", "y", "z"), "b": ("x", "y", "z")},
                [("t", (0, 0, -12e3))],
                behaviour="bar",
            )
            | {"supports": [{"node": n, "fixed": ["x", "y", "z"]} for n in "ab"] + [{"node": "t", "fixed": ["y"]}]}
        )
        # N = P/(2 sin α); v = P L³/(2 EA h²)
        self.assertAlmostEqual(state["members"]["at"]["stations"][0]["N"], -12e3 / 2 * 5 / 3, delta=1e-6)
        self.assertAlmostEqual(-state["displacements"]["t"][2] / (12e3 * 125 / (2 * E * A * 9)), 1.0, delta=1e-9)

    def test_three_bars_that_share_a_load(self):
        # Timoshenko, Strength of Materials I: upright bar and two at α, equal EA: N0 = P/(1 + 2cos³α), N1 = N0 cos²α
        height, alpha, P = 3.0, math.radians(35), 30e3
        reach = height * math.tan(alpha)
        points = {"l": (-reach, 0, height), "m": (0, 0, height), "r": (reach, 0, height), "t": (0, 0, 0)}
        held = dict.fromkeys("lmr", ("x", "y", "z")) | {"t": ("y",)}
        _, state = solved(
            model(points, [("l", "t"), ("m", "t"), ("r", "t")], held, [("t", (0, 0, -P))], behaviour="bar")
        )
        N0 = P / (1 + 2 * math.cos(alpha) ** 3)
        self.assertAlmostEqual(state["members"]["mt"]["stations"][0]["N"] / N0, 1.0, delta=1e-9)
        self.assertAlmostEqual(
            state["members"]["lt"]["stations"][0]["N"] / (N0 * math.cos(alpha) ** 2), 1.0, delta=1e-9
        )

    def test_a_tripod(self):
        # three legs of equal spread carry a load at their head alike: N = P l/(3 h)
        spread, height, P = 2.0, 4.0, 21e3
        feet = {
            f"f{i}": (spread * math.cos(a), spread * math.sin(a), 0)
            for i, a in enumerate(np.arange(3) * 2 * math.pi / 3)
        }
        _, state = solved(
            model(
                {**feet, "t": (0, 0, height)},
                [(f, "t") for f in feet],
                dict.fromkeys(feet, ("x", "y", "z")),
                [("t", (0, 0, -P))],
                behaviour="bar",
            )
        )
        for f in feet:
            N = state["members"][f"{f}t"]["stations"][0]["N"]
            self.assertAlmostEqual(N, -P * math.hypot(spread, height) / (3 * height), delta=1e-6)

    def test_grillage_of_two_beams(self):
        # simply supported beams of spans a and b crossing in the middle, P there: shared as b³ to a³
        a, b, P = 6.0, 4.0, 10e3
        points = {"w": (-a / 2, 0, 0), "e": (a / 2, 0, 0), "s": (0, -b / 2, 0), "n": (0, b / 2, 0), "o": (0, 0, 0)}
        held = {"w": ("x", "y", "z", "rx"), "e": ("y", "z", "rx"), "s": ("z", "ry"), "n": ("z", "ry")}
        _, state = solved(model(points, [("w", "o"), ("o", "e"), ("s", "o"), ("o", "n")], held, [("o", (0, 0, -P))]))
        share = P * b**3 / (a**3 + b**3)
        self.assertAlmostEqual(state["reactions"]["w"][2] / (share / 2), 1.0, delta=1e-8)
        self.assertAlmostEqual(-state["displacements"]["o"][2] / (share * a**3 / (48 * E * I)), 1.0, delta=1e-8)

    def test_grillage_clamped(self):
        # clamped beams crossing in the middle: stiffness 192 EI/l³ each
        a, b, P = 6.0, 4.0, 10e3
        points = {"w": (-a / 2, 0, 0), "e": (a / 2, 0, 0), "s": (0, -b / 2, 0), "n": (0, b / 2, 0), "o": (0, 0, 0)}
        held = dict.fromkeys("wesn", FIXED)
        _, state = solved(model(points, [("w", "o"), ("o", "e"), ("s", "o"), ("o", "n")], held, [("o", (0, 0, -P))]))
        stiffness = 192 * E * I * (1 / a**3 + 1 / b**3)
        self.assertAlmostEqual(-state["displacements"]["o"][2] * stiffness / P, 1.0, delta=1e-8)


class Arches(unittest.TestCase):
    def arch(self, shape, count, held, loads, A_=10.0, releases=None):
        names = [f"p{i}" for i in range(count + 1)]
        points = {n: shape(i / count) for i, n in enumerate(names)}
        sides = dict.fromkeys(names[1:-1], ("y", "rx", "rz"))
        _, state = solved(
            model(
                points,
                list(zip(names[:-1], names[1:], strict=True)),
                {names[0]: held, names[-1]: held, **sides},
                loads(names, points),
                A_=A_,
                releases=releases,
            )
        )
        return state, names

    def test_semicircle_on_two_hinges(self):
        # Timoshenko and Young, Theory of Structures: P at the crown, H = P/π
        R, P, count = 5.0, 10e3, 64
        state, names = self.arch(
            lambda t: (-R * math.cos(math.pi * t), 0, R * math.sin(math.pi * t)),
            count,
            PIN,
            lambda names, _: [(names[count // 2], (0, 0, -P))],
        )
        self.assertAlmostEqual(abs(state["reactions"][names[0]][0]) / (P / math.pi), 1.0, delta=2e-3)

    def test_parabola_under_uniform_load_is_free_of_moments(self):
        # H = w l²/8f, no bending (the load as forces at the points)
        span, rise, w, count = 20.0, 4.0, 3e3, 40
        state, names = self.arch(
            lambda t: (span * t, 0, 4 * rise * t * (1 - t)),
            count,
            PIN,
            lambda names, points: [(n, (0, 0, -w * span / count)) for n in names[1:-1]],
            A_=10.0,
        )
        H = w * span**2 / (8 * rise)
        self.assertAlmostEqual(abs(state["reactions"][names[0]][0]) / H, 1.0, delta=2e-3)
        most = max(abs(s["My"]) for m in state["members"].values() for s in m["stations"])
        self.assertLess(most, 1e-3 * H * rise)

    def test_three_hinges(self):
        # P at a quarter of the span: V_b = P/4, H = V_b (l/2)/f
        span, rise, P, count = 16.0, 4.0, 12e3, 16
        state, names = self.arch(
            lambda t: (span * t, 0, 4 * rise * t * (1 - t)),
            count,
            PIN,
            lambda names, _: [(names[count // 4], (0, 0, -P))],
            releases={f"p{count // 2 - 1}p{count // 2}": {"end": ["ry"]}},
        )
        self.assertAlmostEqual(state["reactions"][names[-1]][2], P / 4, delta=1e-3)
        self.assertAlmostEqual(abs(state["reactions"][names[0]][0]), P / 4 * span / 2 / rise, delta=1e-3)

    def test_quarter_ring(self):
        # clamped at the foot, P downwards at the free end, bending alone: π P R³/4EI
        R, P, count = 3.0, 2e3, 48
        names = [f"p{i}" for i in range(count + 1)]
        points = {
            n: (R * math.sin(math.pi / 2 * i / count), 0, R * math.cos(math.pi / 2 * i / count))
            for i, n in enumerate(names)
        }
        data = model(
            points, list(zip(names[:-1], names[1:], strict=True)), {"p0": FIXED}, [(names[-1], (P, 0, 0))], A_=10.0
        )
        _, state = solved(data)
        # along X at the free end: ∫ (R cos φ)² … over the quarter = π P R³/4EI
        self.assertAlmostEqual(
            state["displacements"][names[-1]][0] / (math.pi * P * R**3 / (4 * E * I)), 1.0, delta=1e-3
        )


class Headless(unittest.TestCase):
    """Second order and buckling through `./lorica solve`."""

    def solve(self, data):
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder, "model.json")
            place.write_text(json.dumps(data))
            out = io.StringIO()
            with contextlib.redirect_stdout(out):
                self.assertEqual(cli.main(["solve", str(place)]), 0)
        return json.loads(out.getvalue())

    def test_second_order(self):
        for name, support in (("p-delta-simply-supported", False), ("p-delta-cantilever", True)):
            case, expected = ANALYSIS[name]["inputs"], ANALYSIS[name]["expect"]
            section = {"E": case["E_ksi"] * KSI, "A": case["A_in2"] * INCH**2, "I": case["I_in4"] * INCH**4}
            keys = (
                ("base_moment_kip_in", "tip_deflection_in") if support else ("mid_moment_kip_in", "mid_deflection_in")
            )
            for P, M, y in zip(case["P_kip"], *(expected[key] for key in keys), strict=True):
                w = 0.0 if support else case["w_kip_per_ft"] * KIP / (12 * INCH)
                force = (case["H_kip"] * KIP if support else 0.0, 0, -P * KIP)
                ends = (FIXED, ()) if support else (["x", "y", "z", "rz"], ["x", "y"])
                data = column(*ends, 336 * INCH, 1, force, (w, 0, 0), section)
                data["analysis"] = {"order": "second", "shear_deformation": False}
                found = self.solve(data)
                stations = found["states"]["c"]["members"]["m0"]["stations"]
                moment = abs(stations[0 if support else 4]["My"]) / KIP / INCH
                moved = abs(stations[8 if support else 4]["displacement"][0]) / INCH
                self.assertAlmostEqual(moment / M, 1.0, delta=ANALYSIS[name]["tolerance"])
                self.assertAlmostEqual(moved / y, 1.0, delta=ANALYSIS[name]["tolerance"])
                self.assertEqual(found["combinations"][0]["order"], 2)

    def test_critical_factor(self):
        data = column()
        data["analysis"] = {"shear_deformation": False}
        found = self.solve(data)["combinations"][0]
        E_, I_ = 210e9, 8.356e-05
        self.assertAlmostEqual(found["alpha_cr"] / (math.pi**2 * E_ * I_ / 144 / 1e5), 1.0, delta=1e-4)
        self.assertTrue(found["stable"] and found["settled"])

    def effective(self, data, length):
        """K from the critical factor that is written."""
        alpha = self.solve(data | {"analysis": {"shear_deformation": False}})["combinations"][0]["alpha_cr"]
        return math.sqrt(math.pi**2 * 210e9 * 8.356e-05 / length**2 / (alpha * 1e5))

    def test_columns_of_four_kinds(self):
        expected = ANALYSIS["buckling-columns"]["expect"]
        for name, start, end in (
            ("pinned_pinned", ["x", "y", "z", "rz"], ["x", "y"]),
            ("fixed_free", FIXED, ()),
            ("fixed_pinned", FIXED, ["x", "y"]),
            ("fixed_fixed", FIXED, ["x", "y", "rx", "ry"]),
        ):
            found = self.effective(column(start, end, 6.0, 2), 6.0)
            self.assertAlmostEqual(found, expected[name], delta=ANALYSIS["buckling-columns"]["tolerance"])

    def test_portals_in_sway(self):
        for name, fixed in (("buckling-portal-sway-pinned", False), ("buckling-portal-sway-fixed", True)):
            case = ANALYSIS[name]
            for ratio, K in zip(case["inputs"]["r"], case["expect"]["K"], strict=True):
                self.assertAlmostEqual(self.effective(portal(ratio, fixed), 5.0) / K, 1, delta=case["tolerance"])


if __name__ == "__main__":
    unittest.main()
