"""Second order with settled supports, released and sprung ends, slack members on turned supports and floors: beside the
differential equation of the beam-column, solved here by its boundary conditions."""

import math
import unittest

import numpy as np

from engine.analysis.modes import natural_modes
from engine.analysis.solve import assemble
from engine.catalogue.steels import GRAVITY
from engine.chain import respond
from engine.document import Document, read_document
from engine.expand import expand
from engine.load import load
from tests.engine.helpers import FIXED, textbook
from tests.engine.test_classics import E as ELASTIC
from tests.engine.test_classics import G as SHEAR
from tests.engine.test_classics import I as IY
from tests.engine.test_classics import J as IT
from tests.engine.test_modes import beam as light_beam
from tests.engine.test_modes import system_of
from tests.engine.test_second_order import E, I, analysed, column
from tests.engine.test_stiff_floors import CORNERS, A, B, H, table

L, PINNED, ROLLER = 5.0, ["x", "y", "z", "rx", "rz"], ["y", "z", "rx", "rz"]


class Span:
    """EI w'''' + P w'' = q: w = a + b x + c cos kx + d sin kx + q x²/2P, k² = P/EI; rows of its derivatives at x for
    (a, b, c, d), and what q adds to them. Without P the cubic, and q x⁴/24EI."""

    def __init__(self, P: float, q: float = 0.0):
        self.P, self.q, self.k = P, q, math.sqrt(P / (E * I))

    def row(self, x: float, order: int) -> tuple[np.ndarray, float]:
        """The row and the part of the load of the derivative of an order from 0 to 3."""
        k, c, s = self.k, math.cos(self.k * x), math.sin(self.k * x)
        rows = ([1, x, c, s], [0, 1, -k * s, k * c], [0, 0, -(k**2) * c, -(k**2) * s], [0, 0, k**3 * s, -(k**3) * c])
        loads = (x**2 / 2, x, 1.0, 0.0)
        return np.array(rows[order], dtype=float), self.q / self.P * loads[order]


def boundary(conditions: list[tuple[list[tuple[int, Span, float, int, float]], float]], spans: int) -> np.ndarray:
    """(spans, 4) constants from conditions Σ factor · w⁽ⁿ⁾ = value; terms: number of the span, the span, x, n, factor."""
    matrix, right = np.zeros((4 * spans, 4 * spans)), np.zeros(4 * spans)
    for i, (terms, value) in enumerate(conditions):
        right[i] = value
        for number, span, x, order, factor in terms:
            row, load = span.row(x, order)
            matrix[i, 4 * number : 4 * number + 4] += factor * row
            right[i] -= factor * load
    return np.linalg.solve(matrix, right).reshape(spans, 4)


def continuous(P: float, settled: float = 0.0, q: float = 0.0, **more) -> dict:
    """Two spans along X pressed by P; the middle support settles."""
    data = light_beam(2, mass=0.0, length=2 * L, **more)
    data["supports"] = [
        {"node": "n0", "fixed": PINNED},
        {"node": "n1", "fixed": ROLLER},
        {"node": "n2", "fixed": ROLLER},
    ]
    data["node_loads"] = [{"case": "G", "node": "n2", "force": [-P, 0, 0]}]
    data["settlements"] = [{"case": "G", "node": "n1", "movement": [0, 0, -settled]}] if settled else []
    data["member_loads"] = [{"case": "G", "member": f"m{i}", "value": [0, 0, -q]} for i in range(2) if q]
    return data | {"combinations": [{"name": "c", "use": "strength", "factors": {"G": 1.0}}]}


class Settled(unittest.TestCase):
    def exact(self, P: float, settled: float, q: float) -> tuple[float, float]:
        """Moment over the middle support, sagging positive, and its reaction upwards."""
        left = right = Span(P, -q)
        conditions = [
            ([(0, left, 0, 0, 1)], 0),
            ([(0, left, 0, 2, 1)], 0),
            ([(0, left, L, 0, 1)], -settled),
            ([(1, right, 0, 0, 1)], -settled),
            ([(0, left, L, 1, 1), (1, right, 0, 1, -1)], 0),
            ([(0, left, L, 2, 1), (1, right, 0, 2, -1)], 0),
            ([(1, right, L, 0, 1)], 0),
            ([(1, right, L, 2, 1)], 0),
        ]
        constants = boundary(conditions, 2)
        bend, load = left.row(L, 2)
        jump = [span.row(x, 3)[0] @ c for span, x, c in ((left, L, constants[0]), (right, 0.0, constants[1]))]
        # with w upwards M = EI w'' sags, and EI w''' jumps by what pushes upwards
        return E * I * (bend @ constants[0] + load), E * I * (jump[1] - jump[0])

    def test_a_middle_support_under_compression(self):
        critical = math.pi**2 * E * I / L**2
        for share, settled, q in ((0.05, 0.03, 0.0), (0.5, 0.03, 0.0), (0.5, 0.02, 8e3), (0.8, 0.0, 8e3)):
            P = share * critical
            found = analysed(continuous(P, settled, q))
            moment, reaction = self.exact(P, settled, q)
            d = found.diagrams([0])
            scale = max(abs(moment), 1e3)
            self.assertAlmostEqual(d.My[0, -1, 0] / scale, moment / scale, delta=2e-5)
            self.assertAlmostEqual(d.My[1, 0, 0] / scale, moment / scale, delta=2e-5)
            self.assertAlmostEqual(found.reaction([0])[1, 2, 0] / reaction, 1.0, delta=2e-5)
            self.assertAlmostEqual(found.displacement([0])[1, 2, 0], -settled, delta=1e-12)

    def test_little_compression_is_first_order(self):
        # 3 EI Δ/L² from each of two pinned spans
        found = analysed(continuous(1.0, 0.03))
        self.assertAlmostEqual(found.diagrams([0]).My[0, -1, 0] / (3 * E * I * 0.03 / L**2), 1.0, delta=1e-5)


class Released(unittest.TestCase):
    """A beam clamped at its start, its end held against moving and turning but released from it."""

    def found(self, P: float, q: float, spring: float = 0.0):
        data = continuous(P, 0.0, 0.0)
        data["nodes"], data["members"] = data["nodes"][:2], data["members"][:1]
        data["supports"] = [{"node": "n0", "fixed": FIXED}, {"node": "n1", "fixed": ["y", "z", "rx", "ry", "rz"]}]
        data["node_loads"] = [{"case": "G", "node": "n1", "force": [-P, 0, 0]}]
        data["member_loads"] = [{"case": "G", "member": "m0", "value": [0, 0, -q]}]
        releases = {"end_springs": {"ry": spring}} if spring else {"end": ["ry"]}
        data["members"][0]["releases"] = releases
        return analysed(data)

    def exact(self, P: float, q: float, spring: float = 0.0) -> tuple[float, float, float]:
        """Moments at start and end, sagging positive, and the slope at the end."""
        span = Span(P, -q)
        conditions = [
            ([(0, span, 0, 0, 1)], 0),
            ([(0, span, 0, 1, 1)], 0),
            ([(0, span, L, 0, 1)], 0),
            # the spring resists the turning of the end: M = −k w'
            ([(0, span, L, 2, E * I), (0, span, L, 1, spring)], 0),
        ]
        (constants,) = boundary(conditions, 1)
        values = [row @ constants + load for row, load in (span.row(0, 2), span.row(L, 2), span.row(L, 1))]
        return E * I * values[0], E * I * values[1], values[2]

    def test_a_hinge_turns_under_its_load(self):
        for share in (0.02, 0.6, 1.4):
            P = share * math.pi**2 * E * I / L**2
            found = self.found(P, 6e3)
            start, end, slope = self.exact(P, 6e3)
            d = found.diagrams([0])
            self.assertAlmostEqual(d.My[0, 0, 0] / start, 1.0, delta=1e-4)
            self.assertAlmostEqual(d.My[0, -1, 0] / start, 0.0, delta=1e-8)
            # about −y, for the rotation about y turns x towards −z
            turned = -found.states.end_displacement[0, 10, 0]
            self.assertAlmostEqual(turned / slope, 1.0, delta=1e-4)
            # which the node does not
            self.assertEqual(found.displacement([0])[1, 4, 0], 0.0)

    def test_a_semi_rigid_end(self):
        for spring in (0.2 * E * I / L, 4 * E * I / L, 100 * E * I / L):
            P = math.pi**2 * E * I / L**2
            found = self.found(P, 6e3, spring)
            start, end, slope = self.exact(P, 6e3, spring)
            d = found.diagrams([0])
            self.assertAlmostEqual(d.My[0, 0, 0] / start, 1.0, delta=1e-4)
            self.assertAlmostEqual(d.My[0, -1, 0] / end, 1.0, delta=1e-4)

    def test_its_critical_load_lies_between_those_of_hinge_and_clamp(self):
        unit = math.pi**2 * E * I / L**2
        for spring, factor in ((0.0, 2.0457), (1e6 * E * I / L, 4.0)):
            self.assertAlmostEqual(self.found(unit, 1.0, spring).alpha[0] / factor, 1.0, delta=1e-3)
        between = self.found(unit, 1.0, 4 * E * I / L).alpha[0]
        self.assertTrue(2.0457 < between < 4.0)
        # at the critical load the determinant of the boundary conditions vanishes
        k = math.sqrt(between) * math.pi / L
        span, spring = Span(between * unit), 4 * E * I / L
        rows = [span.row(0, 0)[0], span.row(0, 1)[0], span.row(L, 0)[0]]
        last = E * I * span.row(L, 2)[0] + spring * span.row(L, 1)[0]
        scales = np.array([1.0, k, 1.0, E * I * k**2])
        matrix = np.array([*rows, last]) / scales[:, None]
        self.assertLess(np.abs(np.linalg.svd(matrix)[1][-1]), 2e-3)


class Uneven(unittest.TestCase):
    """Axial forces that loads along a member change on their way."""

    HEIGHT = 8.0

    def column(self, top: float, bracket: float, at: float, side: float, nodes=(), ends=()) -> dict:
        data = column(FIXED, ends, self.HEIGHT, 1, (side, 0, -top))
        data["member_loads"] = [{"case": "P", "member": "m0", "kind": "force", "start": at, "value": [0, 0, -bracket]}]
        data["nodes"] += [{"name": f"x{k}", "at": [0, 0, z]} for k, z in enumerate(nodes)]
        return data

    def exact(self, top: float, bracket: float, at: float, side: float) -> float:
        """Moment at the clamped foot of a column with a free head, which pushes it sideways."""
        low, high = Span(top + bracket), Span(top)
        h = self.HEIGHT - at
        conditions = [
            ([(0, low, 0, 0, 1)], 0),
            ([(0, low, 0, 1, 1)], 0),
            ([(0, low, at, 0, 1), (1, high, 0, 0, -1)], 0),
            ([(0, low, at, 1, 1), (1, high, 0, 1, -1)], 0),
            ([(0, low, at, 2, 1), (1, high, 0, 2, -1)], 0),
            # the force across, −EI w‴ − P w′, is the same on both sides
            ([(0, low, at, 3, E * I), (0, low, at, 1, low.P), (1, high, 0, 3, -E * I), (1, high, 0, 1, -high.P)], 0),
            ([(1, high, h, 2, 1)], 0),
            ([(1, high, h, 3, -E * I), (1, high, h, 1, -high.P)], side),
        ]
        return E * I * float(low.row(0, 2)[0] @ boundary(conditions, 2)[0])

    def test_a_bracket_on_a_column(self):
        for top, bracket, at in ((1e5, 3e5, 5.0), (1e3, 5e5, 4.0), (1e5, 2e5, 7.0), (2e5, -1e5, 3.0)):
            exact = self.exact(top, bracket, at, 1e4)
            inside = analysed(self.column(top, bracket, at, 1e4))
            at_node = analysed(self.column(top, bracket, at, 1e4, (at,)))
            # within one element four bubbles meet the kink at the bracket
            for found, close in ((inside, 2e-4), (at_node, 3e-5)):
                self.assertAlmostEqual(abs(found.diagrams([0]).My[0, 0, 0]) / exact, 1.0, delta=close)
            # at the head nothing is left, and along the member the slope of the moment is the shear
            d = inside.diagrams([0])
            self.assertAlmostEqual(d.My[0, -1, 0] / exact, 0.0, delta=1e-7)
            self.assertAlmostEqual(inside.alpha[0] / at_node.alpha[0], 1.0, delta=5e-3)
            many = analysed(self.column(top, bracket, at, 1e4, (1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0)))
            x = found.elements.positions(inside.stations)[0]
            places = many.elements.positions(many.stations).ravel()
            for name in ("My", "Vz"):
                one, other = (getattr(c.diagrams([0]), name)[..., 0] for c in (inside, many))
                read = np.interp(x, places, other.ravel())
                np.testing.assert_allclose(one[0, 1:-1:3], read[1:-1:3], atol=0.01 * np.abs(other).max())

    def test_own_weight_alone(self):
        # Timoshenko and Gere, Theory of Elastic Stability, 2.12: (q L)cr L²/EI; clamped and pinned: 52.50
        length, q = 6.0, 3e3
        for ends, start, exact in (
            ((), FIXED, 7.83735),
            (("x", "y"), ["x", "y", "z", "rz"], 18.5687),
            (("x", "y"), FIXED, 52.5007),
        ):
            for pieces, close in ((1, 2e-4), (2, 2e-4), (8, 7e-3)):
                found = analysed(column(start, ends, length, pieces, (0, 0, 0), (0, 0, -q)))
                self.assertAlmostEqual(found.alpha[0] * q * length**3 / (E * I) / exact, 1.0, delta=close)

    def test_a_load_over_a_part_and_one_that_grows(self):
        for stated in (
            {"value": [0, 0, -9e4], "start": 2.0, "end": 4.0},
            {"value": [0, 0, 0], "value_end": [0, 0, -6e4]},
        ):
            data = self.column(1e5, 0.0, 4.0, 1e4)
            data["member_loads"] = [{"case": "P", "member": "m0"} | stated]
            one = analysed(data)
            data["nodes"] += [{"name": f"x{z}", "at": [0, 0, float(z)]} for z in range(1, 8)]
            many = analysed(data)
            for name in ("alpha", "displacement"):
                a, b = (c.alpha[0] if name == "alpha" else c.displacement([0])[1, 0, 0] for c in (one, many))
                self.assertAlmostEqual(a / b, 1.0, delta=2e-3)

    def test_a_part_that_buckles_by_itself(self):
        # held at head and foot, all the load enters below the head: the state says that it does not stand
        data = self.column(0.0, 1.2 * 80 * E * I / self.HEIGHT**2, 7.9, 0.0, ends=("x", "y", "ry", "rx"))
        found = analysed(data)
        self.assertLess(found.alpha[0], 1.0)
        self.assertFalse(found.stable(0))

    def test_what_hangs_on_a_slack_bar_pulls_at_its_ends_alone(self):
        # a stay that the push slackens, and a load along it: as half of the load at each of its ends, without the stay
        found = []
        for stay in (True, False):
            data = self.column(4e5, 1e5, 5.0, 1e4, ends=("y",))
            data["nodes"].append({"name": "anchor", "at": [5.0, 0, 0]})
            data["supports"].append({"node": "anchor", "fixed": FIXED})
            if stay:
                data["sections"].append({"name": "rod", "A": 2e-4, "Iy": 1e-9, "Iz": 1e-9, "It": 1e-9})
                member = {"name": "stay", "start": "anchor", "end": "n1", "section": "rod", "material": "m"}
                data["members"].append(member | {"behaviour": "tension-only"})
                data["member_loads"].append({"case": "P", "member": "stay", "value": [0, 0, -3e3]})
            else:
                # the anchor bears nothing then: a node that no member meets
                half = 3e3 * math.hypot(5.0, self.HEIGHT) / 2
                data["node_loads"].append({"case": "P", "node": "n1", "force": [0, 0, -half]})
            found.append(analysed(data))
        with_stay, without = found
        self.assertEqual([with_stay.structure.members[m].name for m in with_stay.slack(0)], ["stay"])
        moved = [c.displacement([0])[c.structure.nodes.index("n1")] for c in found]
        self.assertGreater(abs(moved[1][0, 0]), 0.01)
        # slack members keep a millionth of their stiffness
        np.testing.assert_allclose(moved[0], moved[1], atol=2e-4 * abs(moved[1][0, 0]))
        foot = [abs(c.diagrams([0]).My[0, 0, 0]) for c in found]
        self.assertAlmostEqual(foot[0] / foot[1], 1.0, delta=2e-4)


class SlackOnTurnedSupportsAndFloors(unittest.TestCase):
    """A deck on four posts with crossed tension-only bars in one bay: as without the bar that does not pull."""

    def data(self, bars: list[tuple[str, str]], turn: float, order: str) -> dict:
        found = table([("a", (2e4, 3e3, -5e4)), ("c", (0, 0, -2e5))], diaphragm="rigid")
        for support in found["supports"]:
            support["turn"] = turn
        found["members"] += [
            {"name": f"{i}-{j}", "start": i, "end": j, "section": "s", "material": "m", "behaviour": "tension-only"}
            for i, j in bars
        ]
        found["analysis"] = {"order": order}
        found["combinations"] = [{"name": "T", "use": "strength", "factors": {"P": 1.0}}]
        return found

    def found(self, bars: list[tuple[str, str]], turn: float, order: str):
        """The results, and the number of the combination: the last, behind those that the deck's own cases make."""
        found = analysed(self.data(bars, turn, order), order)
        return found, found.count - 1

    def test_the_bar_that_hangs_could_as_well_be_away(self):
        moved = []
        for order in ("first", "second"):
            plain, _ = self.found([("a0", "b")], 0.0, order)
            for turn in (0.0, 30.0):
                both, number = self.found([("a0", "b"), ("b0", "a")], turn, order)
                self.assertEqual([both.structure.members[m].name for m in both.slack(number)], ["b0-a"])
                one, _ = self.found([("a0", "b")], turn, order)
                v = one.displacement([number])
                np.testing.assert_allclose(both.displacement([number]), v, atol=2e-5 * np.abs(v).max())
                # bases that are clamped hold alike whichever way their axes are turned
                np.testing.assert_allclose(v, plain.displacement([number]), atol=1e-8 * np.abs(v).max())
            moved.append(plain.displacement([number])[0, 0, 0])
            total = plain.reaction([number])[:, :3, 0].sum(axis=0)
            np.testing.assert_allclose(total, [-2e4, -3e3, 2.5e5], atol=1e-3)
        # the posts lean on the braced bay, which moves by a millimetre: second order adds next to nothing
        self.assertGreater(moved[1], moved[0])
        self.assertLess(moved[1], 1.05 * moved[0])


class Mixed(unittest.TestCase):
    def test_strength_in_second_order_beside_service_by_superposition(self):
        data = continuous(2e5, 0.01, 8e3)
        data["combinations"].append({"name": "s", "use": "deflection", "factors": {"G": 0.5}})
        found = analysed(data)
        self.assertEqual(found.place.tolist()[:2], [0, -1])
        case = found.case(0)
        both, ways = [1, 0, case], ([1], [0], [case])
        for name in ("N", "Vy", "Vz", "T", "My", "Mz"):
            joined = getattr(found.diagrams(both), name)
            for k, which in enumerate(ways):
                np.testing.assert_allclose(joined[..., k], getattr(found.diagrams(which), name)[..., 0], atol=1e-9)
        joined = found.deflections(both)
        for k, which in enumerate(ways):
            np.testing.assert_allclose(joined[..., k], found.deflections(which)[..., 0], atol=1e-15)
        # half the case alone is the service combination
        np.testing.assert_allclose(2 * joined[..., 0], joined[..., 2], atol=1e-12)


class Some(unittest.TestCase):
    def test_diagrams_of_some_members_are_those_of_all(self):
        document = Document.model_validate(
            {
                "name": "H",
                "hall": {"spacings": [6.0, 6.0]},
                "analysis": {"order": "second"},
                "rules": {"imperfections": True},
            }
        )
        found = respond(document).combined
        numbers = list(range(0, found.count, 7))
        assert found.states is not None
        self.assertTrue(found.states.varies.any())
        rows = np.flatnonzero(found.elements.member % 3 == 1)
        every, some = found.diagrams(numbers), found.diagrams(numbers, rows)
        self.assertGreater(np.abs(every.My).max(), 1e4)
        for name in ("x", "N", "Vy", "Vz", "T", "My", "Mz"):
            np.testing.assert_array_equal(getattr(some, name), getattr(every, name)[rows])


class Masses(unittest.TestCase):
    def first(self, data: dict) -> float:
        return natural_modes(system_of(data), np.ones(1), 1)[0].value

    def test_a_mass_hung_on_a_beam(self):
        # f = √(k/m)/2π with k = 3 EI L/(a² (L − a)²), the stiffness under the mass
        mass, length = 800.0, 6.0
        for at in (3.0, 2.0, 0.6):
            exact = math.sqrt(3 * E * I * length / (at**2 * (length - at) ** 2) / mass) / (2 * math.pi)
            spot = {"case": "G", "member": "m0", "kind": "force", "start": at, "value": [0, 0, -mass * GRAVITY]}
            on_it = self.first(light_beam(1, mass=0.0, length=length, member_loads=[spot]))
            # four bubbles hold the kink below the mass to half a per cent
            self.assertAlmostEqual(on_it / exact, 1.0, delta=6e-3)
            data = light_beam(2, mass=0.0, length=length)
            data["nodes"][1]["at"] = [at, 0, 0]
            data["node_loads"] = [{"case": "G", "node": "n1", "force": [0, 0, -mass * GRAVITY]}]
            self.assertAlmostEqual(self.first(data) / exact, 1.0, delta=1e-6)

    def test_a_mass_counts_where_it_lies(self):
        # a load over a third of the span, and one that grows: on one element as on thirty
        length = 6.0
        for stated in (
            {"start": 4.0, "end": 6.0, "value": [0, 0, -5e3]},
            {"value": [0, 0, 0], "value_end": [0, 0, -6e3]},
        ):
            one = light_beam(1, mass=0.0, length=length, member_loads=[{"case": "G", "member": "m0", **stated}])
            many = light_beam(30, mass=0.0, length=length)
            a, b = stated.get("start", 0.0), stated.get("end", length)
            first, last = stated["value"][2], stated.get("value_end", stated["value"])[2]
            for k in range(30):
                low, high = max(k * 0.2, a), min(k * 0.2 + 0.2, b)
                if high - low > 1e-9:
                    q = [first + (last - first) * (x - a) / (b - a) for x in (low, high)]
                    load = {"value": [0, 0, q[0]], "value_end": [0, 0, q[1]]}
                    many.setdefault("member_loads", []).append({"case": "G", "member": f"m{k}", **load})
            self.assertAlmostEqual(self.first(one) / self.first(many), 1.0, delta=1e-3)

    def test_what_lifts_takes_off_the_rest(self):
        data = light_beam(1, mass=100.0)
        plain = self.first(data)
        data["member_loads"].append({"case": "G", "member": "m0", "value": [0, 0, 75 * GRAVITY]})
        self.assertAlmostEqual(self.first(data) / plain, 2.0, delta=1e-6)
        data["member_loads"].append({"case": "G", "member": "m0", "value": [0, 0, 75 * GRAVITY]})
        self.assertEqual(natural_modes(system_of(data), np.ones(1)), [])

    def test_a_rigid_deck_sways_and_turns(self):
        # a mass m on each of four posts of 3 EI/h³: √(k/m) along X and Y, and about Z with k Σr² + 4 GJ/h on m Σr²
        mass = 900.0
        corners = [(n, (0, 0, -mass * GRAVITY)) for n in CORNERS]
        for turn in (0.0, 25.0):
            data = table(corners, diaphragm="rigid")
            data["sections"][0]["Iz"] = 4 * data["sections"][0]["Iy"]
            for support in data["supports"]:
                support["turn"] = turn
            document = read_document(textbook(data))
            structure = expand(document)
            loading = load(document, structure)
            factors = np.array([float(c.name == "P") for c in loading.cases])
            found = natural_modes(assemble(structure, loading, False), factors, 3)
            stiff = {axis: 3 * ELASTIC * inertia / H**3 for axis, inertia in (("x", IY), ("y", 4 * IY))}
            torsion = stiff["x"] * 4 * (B / 2) ** 2 + stiff["y"] * 4 * (A / 2) ** 2 + 4 * SHEAR * IT / H
            inertia = mass * ((A / 2) ** 2 + (B / 2) ** 2) * 4
            wanted = sorted([stiff["x"] / mass, stiff["y"] / mass, torsion / inertia])
            for mode, square in zip(found, wanted, strict=True):
                self.assertAlmostEqual(mode.value / (math.sqrt(square) / (2 * math.pi)), 1.0, delta=2e-3)
