"""What bracing carries from what it restrains (EN 1993-1-1 5.3.3): the formula, statics by hand, and structures that must not pass."""

import math
import unittest
from itertools import product
from typing import Any

import numpy as np

from engine.chain import Chain, run
from engine.demo import planer_shed, workshop
from engine.document import read_document
from engine.expand import expand
from engine.standards.en.stabilising import flange_force, reduction, stabilising
from engine.structure.rows import Line, Row, Truss, rows
from engine.verification.stabilising import Stabilising, pushed, sag
from tests.engine.helpers import published

SPAN, WIDTH, PANELS = 12.0, 4.0, 4
PRESS = 400e3


def braced_pair(
    bar: str = "CHS 114.3x5", cut: bool = False, braced: bool = True, press: float = PRESS
) -> dict[str, Any]:
    """Two level beams beside each other, pressed by forces at their ends, posts between them and one diagonal in each panel. Nothing
    else pushes sideways. cut: each beam made of two members."""
    step = SPAN / PANELS
    nodes = [
        {"name": f"{line}{i}", "at": [i * step, y, 4.0]} for line, y in (("a", 0.0), ("b", WIDTH)) for i in range(5)
    ]
    beam = {"section": "HEA 240", "material": "S355", "role": "rafter"}
    beam |= {"restraints_outer": [step], "restraints_inner": [step]} if cut else {}
    if not cut:
        beam |= {"restraints_outer": [step, 2 * step, 3 * step], "restraints_inner": [step, 2 * step, 3 * step]}
    pieces = [(0, 2), (2, 4)] if cut else [(0, 4)]
    members: list[dict[str, Any]] = [
        {"name": f"{line}-{i}", "start": f"{line}{i}", "end": f"{line}{j}", **beam} for line in "ab" for i, j in pieces
    ]
    thin = {"section": bar, "material": "S355", "behaviour": "bar"}
    if braced:
        members += [{"name": f"post-{i}", "start": f"a{i}", "end": f"b{i}", **thin} for i in range(5)]
        ends = [("a0", "b1"), ("a1", "b2"), ("b2", "a3"), ("b3", "a4")]
        members += [{"name": f"brace-{i}", "start": s, "end": e, **thin} for i, (s, e) in enumerate(ends)]
    # b is pressed from both ends: held along X at both lines, their ends would clamp the bracing
    held = {"a0": ["x", "y", "z", "rx"], "b0": ["y", "z", "rx"], "a4": ["y", "z", "rx"], "b4": ["y", "z", "rx"]}
    return {
        "nodes": nodes,
        "members": members,
        "supports": [{"node": node, "fixed": fixed} for node, fixed in held.items()],
        "cases": [{"name": "Thrust", "nature": "permanent"}],
        "node_loads": [
            {"case": "Thrust", "node": node, "force": [sign * press / 1e3, 0, 0]}
            for node, sign in (("a4", -1), ("b4", -1), ("b0", 1))
        ],
        "combinations": [{"name": "Strength", "use": "strength", "factors": {"Thrust": 1.0}}],
        "rules": {"imperfections": True},
    }


def chain_of(data: dict[str, Any]) -> Chain:
    return run(read_document(data))


def spans_of(chain: Chain) -> Stabilising:
    return chain.verification.grounds.stabilising


class Formula(unittest.TestCase):
    def test_published_case_of_five_members(self) -> None:
        case = next(c for c in published("steel-deep.json")["cases"] if c["id"] == "R01")
        given, expected = case["inputs"], case["expect"]
        m, L = given["m"], given["L_mm"] / 1e3
        N = np.full((m, 1), given["N_total_kN"] * 1e3 / m)
        v = stabilising(N, np.zeros(m), np.full(m, L), m, np.array([given["bracing_deflection_mm"] / 1e3]))
        self.assertAlmostEqual(v["alpha_m"], expected["alpha_m"], places=6)
        self.assertAlmostEqual(float(v["q"].sum()) / 1e3, expected["qd_kN_per_m"], delta=1e-5)

    def test_growth_is_what_repeating_by_hand_ends_at(self) -> None:
        N, L, soft, moved = 900e3, 24.0, 4e-6, 0.004
        e0 = math.sqrt(0.5 * (1 + 1 / 3)) * L / 500
        delta = 0.0
        for _ in range(200):
            q = 3 * N * 8 * (e0 + delta) / L**2
            delta = moved + soft * q
        v = stabilising(np.full((3, 1), N), np.full(3, soft), np.full(3, L), 3, np.array([moved]))
        self.assertAlmostEqual(float(v["q"].sum()), q, delta=q * 1e-9)
        self.assertTrue(v["firm"].all())

    def test_bracing_softer_than_what_leans_on_it_is_not_firm(self) -> None:
        # 8 N soft/L² above one: the row buckles with its bracing
        v = stabilising(np.full((1, 1), 1e6), np.array([1e-4]), np.array([10.0]), 1, np.zeros(1))
        self.assertFalse(v["firm"].any())

    def test_one_member_and_very_many(self) -> None:
        self.assertAlmostEqual(reduction(1), 1.0)
        self.assertAlmostEqual(reduction(1e9), math.sqrt(0.5), places=6)

    def test_flange_of_a_beam_bent_either_way(self) -> None:
        N, My = np.array([0.0, 50e3, -50e3]), np.array([-200e3, 200e3, 0.0])
        self.assertEqual(flange_force(N, My, 0.5).tolist(), [400e3, 400e3, 50e3])


class Statics(unittest.TestCase):
    def hand(self, chain: Chain) -> float:
        """Σ q of the pair, N/m, with how far the truss moves by virtual work: its diagonals, chords and posts, as hinged; and how far it
        moves before, because the beams grow shorter."""
        inner = [chain.structure.nodes.index(f"{line}{i}") for line in "ab" for i in (1, 2, 3)]
        moved = float(np.abs(chain.combined.displacement([0])[inner, 1]).max())
        step, long = SPAN / PANELS, math.hypot(SPAN / PANELS, WIDTH)
        E, bar, chord = 210e9, math.pi / 4 * (0.1143**2 - 0.1043**2), 7.68e-3
        # per 1 N/m: panel loads of one step, shears 1.5 and 0.5 steps, posts the shears beside them; unit load in the middle: 0.5
        shears, unit = [1.5 * step, 0.5 * step], 0.5
        soft = 2 * sum(V * unit * (long / WIDTH) ** 2 * long / (E * bar) for V in shears)
        # posts: the inner ones carry a panel shear, the middle one nothing or a panel load between both halves
        soft += 2 * (0.5 * step) * unit * WIDTH / (E * bar)
        moments = [1.5 * step * step, 2.0 * step * step]
        forces, ones = [moments[0] / WIDTH, moments[1] / WIDTH], [unit * step / WIDTH, 2 * unit * step / WIDTH]
        soft += 2 * step / (E * chord) * (forces[0] * ones[0] * 2 + forces[1] * ones[1])
        e0 = math.sqrt(0.5 * (1 + 1 / 2)) * SPAN / 500
        share = 8 * 2 * PRESS / SPAN**2
        return share * (e0 + moved) / (1 - share * soft)

    def test_diagonals_carry_the_shear_of_the_stabilising_force(self) -> None:
        chain = chain_of(braced_pair())
        added, pressed = spans_of(chain).added()
        q = self.hand(chain)
        found = float(spans_of(chain).spans[0].q[0])
        self.assertAlmostEqual(found, q, delta=0.005 * q)
        step, long = SPAN / PANELS, math.hypot(SPAN / PANELS, WIDTH)
        for name, shear in (("brace-0", 1.5 * step * q), ("brace-1", 0.5 * step * q)):
            row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index[name])[0])
            by_hand = shear * long / WIDTH
            # the beams, which run through, take some of it by bending
            for value in (float(added[row, 0]), float(pressed[row, 0])):
                self.assertAlmostEqual(value, by_hand, delta=0.03 * by_hand)

    def test_nothing_is_left_over(self) -> None:
        chain = chain_of(braced_pair())
        reaction = chain.combined.reaction([0])[..., 0].sum(axis=0)
        self.assertAlmostEqual(float(reaction[0]), PRESS, delta=1.0)
        self.assertAlmostEqual(float(reaction[1]), 0.0, delta=1e-3)

    def test_beams_cut_in_two_are_the_same_lines(self) -> None:
        whole, cut = (spans_of(chain_of(braced_pair(cut=c))) for c in (False, True))
        self.assertEqual(len(cut.spans), 1)
        self.assertEqual(cut.spans[0].lines, 2)
        # bow imperfections go by member: the bracing moves a little less far before
        whole_q = float(whole.spans[0].q[0])
        self.assertAlmostEqual(float(cut.spans[0].q[0]), whole_q, delta=1e-3 * whole_q)

    def test_chords_of_bars_from_panel_point_to_panel_point_are_lines_too(self) -> None:
        data = braced_pair()
        beams = [m for m in data["members"] if m["name"] in ("a-0", "b-0")]
        bar = {"section": "HEA 240", "material": "S355", "behaviour": "bar"}
        data["members"] = [m for m in data["members"] if m not in beams] + [
            {"name": f"{line}-{i}", "start": f"{line}{i}", "end": f"{line}{i + 1}", **bar}
            for line in "ab"
            for i in range(4)
        ]
        data["supports"] += [{"node": f"{line}{i}", "fixed": ["z"]} for line in "ab" for i in (1, 2, 3)]
        chain = chain_of(data)
        (span,) = spans_of(chain).spans
        self.assertEqual((span.lines, span.L), (2, SPAN))
        q = self.hand(chain)
        self.assertAlmostEqual(float(span.q[0]), q, delta=0.005 * q)
        row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index["brace-0"])[0])
        # of bars alone, the truss is what the hand calculation takes it for
        by_hand = 1.5 * 3.0 * q * 5.0 / 4.0
        self.assertAlmostEqual(float(spans_of(chain).added()[0][row, 0]), by_hand, delta=0.005 * by_hand)

    def test_bars_in_tension_alone_carry_all_of_it(self) -> None:
        data = braced_pair()
        step = SPAN / PANELS
        for m in [m for m in data["members"] if m["name"].startswith("brace")]:
            m["behaviour"] = "tension-only"
            a, b = m["start"], m["end"]
            other = {"a": "b", "b": "a"}
            crossed = {"name": f"{m['name']}-x", "start": other[a[0]] + a[1], "end": other[b[0]] + b[1]}
            data["members"].append({**m, **crossed})
        chain = chain_of(data)
        added, pressed = spans_of(chain).added()
        q = float(spans_of(chain).spans[0].q[0])
        by_hand = 1.5 * step * q * math.hypot(step, WIDTH) / WIDTH
        for name in ("brace-0", "brace-0-x"):
            row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index[name])[0])
            self.assertAlmostEqual(float(added[row, 0]), by_hand, delta=0.03 * by_hand)
            self.assertEqual(float(pressed[row, 0]), 0.0)


class Elsewhere(unittest.TestCase):
    """The same structure at another place, turned, counted in another order."""

    def turned(self, data: dict[str, Any], angle: float) -> dict[str, Any]:
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))

        def turn(v: list[float]) -> list[float]:
            return [c * v[0] - s * v[1], s * v[0] + c * v[1], v[2]]

        for node in data["nodes"]:
            x, y, z = turn(node["at"])
            node["at"] = [x + 130.0, y - 55.0, z + 7.0]
        for support in data["supports"]:
            support["turn"] = angle
        for load in data["node_loads"]:
            load["force"] = turn(load["force"])
        data["members"].reverse()
        return data

    def test_it_stabilises_alike(self) -> None:
        here = spans_of(chain_of(braced_pair()))
        for angle in (0.0, 30.0, 117.0):
            with self.subTest(angle):
                chain = chain_of(self.turned(braced_pair(), angle))
                there = spans_of(chain)
                self.assertEqual([(s.lines, round(s.L, 6)) for s in there.spans], [(2, SPAN)])
                q = float(here.spans[0].q[0])
                self.assertAlmostEqual(float(there.spans[0].q[0]), q, delta=1e-4 * q)
                added = there.added()[0]
                row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index["brace-0"])[0])
                by_hand = 1.5 * 3.0 * q * 5.0 / 4.0
                self.assertAlmostEqual(float(added[row, 0]), by_hand, delta=0.03 * by_hand)


class Shared(unittest.TestCase):
    """Lines that lie as those with bracing do lean on it, with nothing in the model between them."""

    def with_third(self, shift: float = 0.0, length: float = SPAN) -> Chain:
        data = braced_pair()
        data["nodes"] += [
            {"name": "c0", "at": [shift, 12.0, 4.0]},
            {"name": "c4", "at": [shift + length, 12.0, 4.0]},
        ]
        third = {"name": "c-0", "start": "c0", "end": "c4", "section": "HEA 240", "material": "S355", "role": "rafter"}
        third |= {"restraints_outer": [3.0, 6.0, 9.0], "restraints_inner": [3.0, 6.0, 9.0]}
        data["members"].append(third)
        data["supports"] += [
            {"node": "c0", "fixed": ["x", "y", "z", "rx"]},
            {"node": "c4", "fixed": ["y", "z", "rx"]},
        ]
        data["node_loads"].append({"case": "Thrust", "node": "c4", "force": [-PRESS / 1e3, 0, 0]})
        return chain_of(data)

    def test_a_third_line_beside_is_held_by_the_same_bracing(self) -> None:
        chain = self.with_third()
        (span,) = spans_of(chain).spans
        self.assertEqual((span.lines, span.count), (3, 3.0))
        self.assertAlmostEqual(span.alpha_m, math.sqrt(0.5 * (1 + 1 / 3)))
        self.assertAlmostEqual(float(span.N[0]), 3 * PRESS, delta=0.01 * PRESS)
        # all three press on the one truss, and are pressed back at its ends
        q = float(span.q[0])
        row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index["brace-0"])[0])
        by_hand = 1.5 * 3.0 * q * 5.0 / 4.0
        self.assertAlmostEqual(float(spans_of(chain).added()[0][row, 0]), by_hand, delta=0.03 * by_hand)
        self.assertEqual(self.loose(chain), [])

    def loose(self, chain: Chain) -> list[str]:
        return [chain.structure.members[m].name for m in spans_of(chain).loose]

    def test_one_that_ends_elsewhere_is_not(self) -> None:
        for shift, length in ((0.0, 13.0), (-1.0, 12.0)):
            with self.subTest(shift=shift):
                chain = self.with_third(shift, length)
                self.assertEqual(spans_of(chain).spans[0].lines, 2)
                self.assertEqual(self.loose(chain), ["c-0"])

    def test_bracing_spans_between_the_walls_that_hold_it(self) -> None:
        chain = run(workshop())
        (row,) = [row for row in rows(chain.structure) if row.trusses]
        self.assertEqual([(round(a, 6), round(b, 6)) for a, b in row.spans], [(0.0, 15.0), (15.0, 27.0)])
        self.assertEqual([t.lines for t in row.trusses], [(0, 1), (3, 4)])
        spans = spans_of(chain).spans
        self.assertEqual([s.L for s in spans], [15.0, 12.0])
        for s in spans:
            self.assertAlmostEqual(s.count, 2.5)

    def test_floor_beams_and_joists_are_held_by_their_floor(self) -> None:
        chain = run(workshop())
        roles = {chain.structure.members[m].role for m in spans_of(chain).loose}
        self.assertEqual(roles, set())

    def test_what_presses_on_the_bracing_is_pressed_back_at_its_ends(self) -> None:
        hall = planer_shed()
        hall.hall.purlins.modelled = True  # type: ignore[union-attr]
        for document in (hall, workshop()):
            structure = expand(document)
            for row in (row for row in rows(structure) if row.trusses):
                for span, (number, line) in product(row.spans, enumerate(row.lines)):
                    force = pushed(structure, row, span, line, number).reshape(-1, 6)
                    length = span[1] - span[0]
                    across = force[:, :3] @ row.across
                    self.assertAlmostEqual(float(across.sum()), 0.0, places=9)
                    self.assertLess(float(across[across > 0].sum()), length + 1e-9)
                    self.assertGreater(float(across[across > 0].sum()), length / 2 - 1e-9)
                    places = structure.xyz @ row.along
                    self.assertAlmostEqual(float(across @ (places - span[0])), 0.0, places=6)

    def test_how_far_bracing_moves_is_beside_the_straight_between_its_ends(self) -> None:
        line = Line((0,), (0, 1, 2), np.array([0.0, 4.0, 10.0]))
        row = Row(
            (line,), (Truss((0, 0), (0.0, 4.0, 10.0), ()),), np.array([1.0, 0, 0]), np.array([0, 1.0, 0]), ((),), ()
        )
        across = np.array([[1.0, 2.0], [0.2, 5.0], [-1.0, 7.0]])
        # on the straight at 4 of 10: 0.2 and 4.0
        found = sag(row, (0.0, 10.0), across)
        self.assertAlmostEqual(float(found[0]), 0.0)
        self.assertAlmostEqual(float(found[1]), 1.0)


class Verdicts(unittest.TestCase):
    def verdict(self, chain: Chain, name: str) -> Any:
        return chain.verification.verdicts[chain.structure.index[name]]

    def test_bracing_that_only_stabilises_can_fail(self) -> None:
        # 6.6 kN in the end diagonal, 5 m long: CHS 33.7x3.2 buckles under 3 kN
        thin = chain_of(braced_pair("CHS 33.7x3.2", press=PRESS))
        self.assertEqual(self.verdict(thin, "brace-0").status, "fails")
        self.assertEqual(self.verdict(chain_of(braced_pair()), "brace-0").status, "passes")

    def test_proof_and_ledger_say_what_is_added(self) -> None:
        from engine.verification.proof import prove

        chain = chain_of(braced_pair())
        verdict = self.verdict(chain, "brace-0")
        proof = prove(
            chain.verification,
            chain.combinations,
            verdict.member,
            verdict.governing,
        )
        self.assertAlmostEqual(proof.utilisation, verdict.governing.utilisation, places=9)
        self.assertTrue(any("5.3.3" in note for note in proof.assumptions), proof.assumptions)

    def test_without_bracing_the_verdict_says_so(self) -> None:
        data = braced_pair(braced=False, press=10e3)
        data["supports"][1]["fixed"].append("x")
        verdict = self.verdict(chain_of(data), "a-0")
        self.assertTrue(any("5.3.3" in words for words in verdict.left_out), verdict.left_out)

    def test_without_imperfections_the_whole_says_so(self) -> None:
        data = braced_pair()
        data["rules"]["imperfections"] = False
        chain = chain_of(data)
        self.assertTrue(any("5.3.3" in words for words, _ in chain.verification.whole.left_out))
        self.assertFalse(spans_of(chain).acts())

    def test_without_imperfections_columns_that_stand_plumb_are_told(self) -> None:
        plumb = "imperfections: columns stand plumb (EN 1993-1-1 5.3.2)"
        for tilt, imperfections, said in ((90, False, True), (90, True, False), (0, False, False)):
            c, s = np.cos(np.radians(tilt)), np.sin(np.radians(tilt))
            chain = chain_of(
                {
                    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4 * c, 0, 4 * s]}],
                    "members": [{"name": "m", "start": "a", "end": "b", "section": "HEA 200", "role": "column"}],
                    "supports": [
                        {"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]},
                        {"node": "b", "fixed": ["y"]},
                    ],
                    "cases": [{"name": "Q", "nature": "imposed"}],
                    "node_loads": [{"case": "Q", "node": "b", "force": [0, 0, -20]}],
                    "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.5}}],
                    "rules": {"imperfections": imperfections},
                }
            )
            self.assertEqual(plumb in chain.verification.left_out, said, (tilt, imperfections))

    def test_forces_shown_are_those_of_the_analysis(self) -> None:
        chain = chain_of(braced_pair())
        row = int(np.flatnonzero(chain.combined.elements.member == chain.structure.index["brace-0"])[0])
        self.assertAlmostEqual(float(np.abs(chain.verification.forces.N[row]).max()), 0.0, delta=500.0)


class Rows(unittest.TestCase):
    def test_purlins_and_eaves_beams_are_no_restrained_lines(self) -> None:
        document = planer_shed()
        document.hall.purlins.modelled = True  # type: ignore[union-attr]
        chain = run(document)
        found = [row for row in rows(chain.structure) if row.trusses]
        self.assertEqual(len(found), 1)
        members = {chain.structure.members[m].role for line in found[0].lines for m in line.members}
        self.assertEqual(members, {"rafter"})
        self.assertEqual(len(found[0].lines), 6)
        # purlins that are members carry it to the bracing
        pressed = spans_of(chain).added()[1]
        purlins = [i for i, m in enumerate(chain.structure.members) if m.role == "purlin"]
        own = np.isin(chain.combined.elements.member, purlins)
        self.assertGreater(float(pressed[own].max()), 100.0)


if __name__ == "__main__":
    unittest.main()
