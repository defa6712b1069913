"""Views and tables of the workbench in the dossier, against closed forms and what is known of a building."""

import unittest
from math import pi, sqrt
from typing import get_args

import numpy as np

from engine.chain import run
from engine.demo import drying_hall
from engine.document import read_document
from engine.document.handover import DossierPlan, PlacedTable, PlacedView, TableKind
from engine.dossier.acting import zones_drawing
from engine.dossier.compose import compose
from engine.dossier.elevations import in_space
from engine.dossier.tables import _TABLES, fits, placed_table
from engine.dossier.values import Column, Paragraph, Table
from engine.dossier.views import placed
from engine.expand import expand
from engine.report.states import find_state
from engine.standards.family import family
from engine.structure.planes import planes
from engine.verification.outcomes import SERVICE
from tests.engine.helpers import failing_hall
from tests.engine.test_dossier import told

#: 6 m between pins, IPE 300: 10 kN/m down, 2 kN/m sideways, 30 kN along it
PINNED = {
    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
    "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300"}],
    "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z"]}],
    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
    "member_loads": [{"case": "Q", "member": "beam", "value": [0, -2, -10]}],
    "node_loads": [{"case": "Q", "node": "b", "force": [-30, 0, 0]}],
    "analysis": {"shear_deformation": False, "order": "first"},
    "rules": {"imperfections": False},
}


def words(figure):
    return [w.words for w in figure.drawing.words]


class Planes(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(read_document(PINNED))
        cls.key = next(p.key for p in planes(cls.chain.structure) if p.members)

    def placed(self, chain=None, **more):
        return placed(chain or self.chain, PlacedView(**{"name": "mine", "plane": self.key, **more}))

    def test_each_force_with_its_sign_and_unit(self):
        # q l²/8 and q l/2 both ways; N = −30 all along
        for quantity, said, end in (
            ("My", "45.0", "M_y in Q, Q, kNm"),
            ("Mz", "9.0", "M_z in Q, Q, kNm"),
            ("Vz", "30.0", "V_z in Q, Q, kN"),
            ("Vz", "−30.0", "V_z in Q, Q, kN"),
            ("Vy", "6.0", "V_y in Q, Q, kN"),
            ("N", "−30.0", "N in Q, Q, kN (tension positive)"),
        ):
            with self.subTest(quantity, said=said):
                found = self.placed(shows="forces", quantity=quantity, state="Q")
                self.assertIn(said, words(found))
                self.assertTrue(found.words.endswith(end), found.words)

    def test_loads_of_a_combination_are_those_of_its_cases_with_their_factors(self):
        twice = {**PINNED, "cases": [*PINNED["cases"], {"name": "G", "nature": "permanent"}]}
        twice["member_loads"] = [*PINNED["member_loads"], {"case": "G", "member": "beam", "value": [0, 0, -4]}]
        chain = run(read_document(twice))
        combination = next(c for c in chain.combinations if c.formula in ("1.35 G + 1.5 Q", "1.5 Q + 1.35 G"))
        found = self.placed(chain, shows="loads", state=combination.name)
        # 1.35 · 4 + 1.5 · 10 = 20.4 kN/m, 1.5 · 30 = 45 kN
        self.assertTrue({"20.40", "45.00 kN"} <= set(words(found)), words(found))
        self.assertIn(f"{combination.name} = {combination.formula}, kN/m and kN", found.words)

    def test_an_envelope_has_both_sides(self):
        both = {**PINNED, "cases": [{"name": n, "nature": "wind", "excludes": "w"} for n in ("U", "D")]}
        both["member_loads"] = [{"case": n, "member": "beam", "value": [0, 0, q]} for n, q in (("U", 8), ("D", -10))]
        both["node_loads"] = []
        chain = run(read_document(both))
        for state, most, least in (("envelope", "67.5", "54.0"), ("envelope:wind", "45.0", "36.0")):
            found = self.placed(chain, shows="forces", state=state)
            self.assertTrue({most, least} <= set(words(found)), words(found))
            self.assertIn("least and greatest over all", found.words)

    def test_movement_at_midspan(self):
        # 5 q l⁴/384 E I, I_y = 8356 cm⁴
        w = 5 * 10e3 * 6**4 / (384 * 210e9 * 8356e-8) * 1000
        found = self.placed(shows="movement", state="Q")
        [said] = words(found)
        self.assertAlmostEqual(float(said), w, delta=0.06)
        self.assertTrue(found.words.endswith("movement in Q, Q, enlarged, mm"), found.words)
        # the largest is drawn as 11 mm, downwards
        [line] = [np.array(s.points) for s in found.drawing.strokes if s.style == "outline"]
        self.assertAlmostEqual(line[:, 1].min() - line[0, 1], -11.0, places=3)

    def test_a_mode_has_no_sizes(self):
        column = {
            **PINNED,
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 6]}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rz"]}, {"node": "b", "fixed": ["x", "y"]}],
            "member_loads": [],
            "node_loads": [{"case": "Q", "node": "b", "force": [0, 0, -30]}],
        }
        chain = run(read_document(column))
        name = chain.combinations[chain.verification.strength[0]].name
        # about z first: π² E I_z / l² over 1.5 · 30 kN, I_z = 603.8 cm⁴
        alpha = pi**2 * 210e9 * 603.8e-8 / 36 / 45e3
        key = next(p.key for p in planes(chain.structure) if p.members)
        found = placed(chain, PlacedView(name="mine", plane=key, shows="movement", state=f"mode:{name}:1"))
        self.assertEqual(words(found), [])
        self.assertIn(f"buckling mode 1, α_cr = {alpha:.2f}", found.words)
        self.assertTrue(found.words.endswith(f", of {name}, enlarged"), found.words)

    def test_a_mode_of_what_is_meant(self):
        chain = self.chain
        name = chain.combinations[chain.verification.strength[0]].name
        formula = next(c.formula for c in chain.combinations if c.name == name)
        found = self.placed(shows="movement", state="mode:C99:1", means=formula)
        self.assertIn(f", of {name}, enlarged", found.words)
        self.assertEqual(self.placed(shows="movement", state="mode:C99:1").kind, "missing")

    def test_what_cannot_be_drawn_is_told(self):
        for more in (
            {"shows": "movement", "state": "envelope"},
            {"shows": "loads", "state": "envelope"},
            {"shows": "forces", "state": "vibration:1"},
            {"shows": "forces", "state": "envelope:snow"},
        ):
            with self.subTest(str(more)):
                found = self.placed(**more)
                self.assertIsInstance(found, Paragraph)
                self.assertIn("any more", found.words)

    def test_utilisation_in_words_and_look(self):
        chain = run(failing_hall())
        plane = next(p for p in planes(chain.structure) if p.kind == "frame")
        found = placed(chain, PlacedView(name="mine", plane=plane.key, shows="utilisation"))
        verdicts = {v.member: v for v in chain.verification.verdicts}
        failing = [i for i in plane.members if verdicts[i].status == "fails"]
        self.assertTrue(failing)
        self.assertEqual(len([s for s in found.drawing.strokes if s.style == "failing"]), len(failing))
        worst = max(o.utilisation for o in verdicts[failing[0]].outcomes)
        bold = {w.words for w in found.drawing.words if w.bold}
        self.assertIn(f"{worst:.2f}", bold)

    def test_what_is_not_covered_has_no_figure(self):
        odd = {**PINNED, "sections": [{"name": "odd", "A": 0.01, "Iy": 1e-4, "Iz": 1e-5, "It": 1e-6}]}
        odd["members"] = [{**PINNED["members"][0], "section": "odd"}]
        found = self.placed(run(read_document(odd)), shows="utilisation")
        self.assertEqual(words(found)[-1], "not covered")
        self.assertEqual([s.style for s in found.drawing.strokes if s.style in ("steel", "uncovered")], ["uncovered"])


class Space(unittest.TestCase):
    def test_from_where_it_is_seen(self):
        structure = expand(drying_hall())
        for bearing, tilt, u, v in (
            (270.0, 0.0, (1, 0, 0), (0, 0, 1)),  # from the front: X to the right
            (180.0, 0.0, (0, -1, 0), (0, 0, 1)),  # from the left: the front on the right
            (270.0, 90.0, (1, 0, 0), (0, 1, 0)),  # from above
        ):
            plane = in_space(structure, bearing, tilt)
            np.testing.assert_allclose((plane.u, plane.v), (u, v), atol=1e-12)
            self.assertEqual(sorted(plane.members), list(range(len(structure.members))))

    def test_what_is_far_is_drawn_first(self):
        structure = expand(drying_hall())
        middles = [structure.xyz[structure.ends[i]].mean(axis=0)[1] for i in in_space(structure, 270.0, 0.0).members]
        self.assertEqual(middles, sorted(middles, reverse=True))

    def test_the_whole_with_forces_and_movement(self):
        chain = run(read_document(PINNED))
        steel = placed(chain, PlacedView(name="mine", plane="whole", shows="steel", bearing=270, tilt=0))
        self.assertEqual(steel.words, "The whole building, seen from afar")
        # seen at 45° from the side the beam is as long as 6 m / √2
        askew = placed(chain, PlacedView(name="mine", plane="whole", shows="forces", state="Q", bearing=225, tilt=0))
        line = next(np.array(s.points) for s in askew.drawing.strokes if s.style == "outline")
        self.assertAlmostEqual(np.ptp(line[:, 0]) * askew.drawing.scale / 1000, 6 / sqrt(2), places=3)
        self.assertIn("45.0", words(askew))
        moved = placed(chain, PlacedView(name="mine", plane="whole", shows="movement", state="Q", bearing=225, tilt=30))
        self.assertIn("movement in Q, Q", moved.words)


class States(unittest.TestCase):
    def test_by_their_words(self):
        chain = run(read_document(PINNED))
        name = chain.combinations[0].name
        for state, kind in (("Q", "case"), (name, "combination"), ("envelope", "envelope"), (f"mode:{name}:1", "mode")):
            self.assertEqual(find_state(chain, state).kind, kind)
        for state in ("", "R", "envelope:", "mode:", "mode:C9:1", "vibration:99", "vibration:x", f"mode:{name}:99"):
            with self.subTest(state):
                if state == "envelope:":
                    # no word: all of them, as without the colon
                    self.assertEqual(find_state(chain, state).kind, "envelope")
                    continue
                with self.assertRaises(KeyError):
                    find_state(chain, state)


class Tables(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(drying_hall())

    def rows(self, table, words=""):
        found = placed_table(self.chain, PlacedTable(name="mine", table=table, words=words))
        return next((b.rows for b in found if isinstance(b, Table)), ())

    def test_each_has_its_rows(self):
        chain, structure = self.chain, self.chain.structure
        held = int((structure.fixed | (structure.springs != 0)).any(axis=1).sum())
        service = sum(o.criterion in SERVICE for v in chain.verification.verdicts for o in v.outcomes)
        for table, count in (
            ("steelwork", len(structure.members)),
            ("members", len(structure.members)),
            ("design members", len(structure.members)),
            ("forces", len(structure.members)),
            ("nodes", len(structure.nodes)),
            ("supports", held),
            ("reactions", held),
            ("cases", len(chain.loading.cases)),
            ("combinations", len(chain.combinations)),
            ("states", int(np.isfinite(chain.combined.alpha).sum())),
            ("deflections", service),
        ):
            with self.subTest(table):
                self.assertEqual(len(self.rows(table)), count)
        self.assertEqual(set(_TABLES), set(get_args(TableKind)))
        empty = {t for t, make in _TABLES.items() if not ((found := make(chain)) and found.rows)}
        self.assertEqual(empty, {"decks", "footings", "loads", "slabs"})

    def test_forces_are_the_extremes_along_the_member(self):
        chain = run(read_document(PINNED))
        [table] = [b for b in placed_table(chain, PlacedTable(name="f", table="forces")) if isinstance(b, Table)]
        [row] = table.rows
        # 1.5 times N = −30, V_y = ±6, V_z = ±30, M_y = 45, M_z = 9
        expected = (-45, -45, 9, -9, 45, -45, 0, 0, 67.5, 0, 13.5, 0)
        np.testing.assert_allclose(np.abs(row[1:]), np.abs(expected), atol=1e-6)

    def test_forces_of_a_group_are_those_of_its_worst_members(self):
        chain = self.chain
        members = next(b for b in placed_table(chain, PlacedTable(name="m", table="forces")) if isinstance(b, Table))
        groups = next(
            b for b in placed_table(chain, PlacedTable(name="g", table="group forces")) if isinstance(b, Table)
        )
        [rafters] = [row for row in groups.rows if "Rafters" in row[0]]
        self.assertEqual(rafters[0], "16 × Rafters IPE 450")
        own = np.array([row[1:] for row in members.rows if row[0].startswith("Rafter ")])
        np.testing.assert_allclose(rafters[1::2], own[:, ::2].max(axis=0))
        np.testing.assert_allclose(rafters[2::2], own[:, 1::2].min(axis=0))

    def test_sways_of_columns(self):
        # a cantilever of 5 m, 6 kN at its head: H l³/3 E I, in strength half as much again
        column = {
            **PINNED,
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 5]}],
            "members": [{**PINNED["members"][0], "role": "column"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
            "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
            "member_loads": [],
            "node_loads": [{"case": "Q", "node": "b", "force": [6, 0, 0]}],
        }
        w = 6e3 * 5**3 / (3 * 210e9 * 8356e-8) * 1000
        chain = run(read_document(column))
        [table] = [b for b in placed_table(chain, PlacedTable(name="s", table="sways")) if isinstance(b, Table)]
        found = {row[3]: row for row in table.rows}
        self.assertEqual(found["deflection"][1:3], (0.0, 5.0))
        self.assertAlmostEqual(found["deflection"][4], w, delta=1e-3 * w)
        self.assertAlmostEqual(found["strength"][4], 1.5 * w, delta=1e-3 * w)

    def test_loads_by_hand(self):
        [table] = [
            b
            for b in placed_table(run(read_document(PINNED)), PlacedTable(name="l", table="loads"))
            if isinstance(b, Table)
        ]
        self.assertEqual(table.rows, (("Q", "beam", "line", "0, -2, -10", "", "0 to end", "global"),))

    def test_rows_that_are_wanted(self):
        every = self.rows("members")
        self.assertEqual(self.rows("members", "rafter"), tuple(r for r in every if "rafter" in r[0].lower()))
        loaded = tuple(r for r in every if r[5] is not None and r[5] > 0.5)
        self.assertTrue(0 < len(loaded) < len(every))
        self.assertEqual(self.rows("members", "utilisation > 0.5"), loaded)
        self.assertEqual(self.rows("members", "util > 0.5"), loaded)
        both = tuple(r for r in loaded if "IPE 450" in r[1])
        self.assertEqual(self.rows("members", "section: ipe 450, util > 0.5"), both)
        self.assertEqual([r[0] for r in self.rows("members", "column 1·a")], ["Column 1·A"])

    def test_conditions(self):
        table = Table("t", (Column("name"), Column("w", "mm")), (("a", 2.0), ("b", -3.0), ("c", None)))
        for asked, names in (
            ("w >= 2", "a"), ("w < 0", "b"), ("w < −2.5", "b"), ("w > x", ""), ("name: c", "c"), ("", "abc"), ("2.00", "a"), ("a, w > 1", "a"),
            ("a, w > 3", ""),
        ):  # fmt: skip
            with self.subTest(asked):
                self.assertEqual("".join(r[0] for r in table.rows if fits(asked, table, r)), names)

    def test_none_is_told(self):
        found = placed_table(self.chain, PlacedTable(name="mine", table="members", words="zzz"))
        self.assertEqual(found, [Paragraph("The table “mine” has no rows: nothing in it holds “zzz”.", "missing")])
        pulled = {**PINNED, "node_loads": [{"case": "Q", "node": "b", "force": [30, 0, 0]}]}
        found = placed_table(run(read_document(pulled)), PlacedTable(name="mine", table="states"))
        self.assertEqual(found, [Paragraph("The table “mine” has no rows.", "missing")])

    def test_it_stands_in_its_chapter(self):
        table = {"name": "Rafters", "table": "members", "words": "rafter"}
        plan = DossierPlan.model_validate({"chapters": {"building": {"tables": [table]}}})
        blocks = told(compose(self.chain, plan), "building").blocks
        self.assertRegex(blocks[0].words, r"^Rafters: 16 of \d+ rows\.$")
        self.assertEqual((blocks[1].name, len(blocks[1].rows)), ("Rafters", 16))


class Zones(unittest.TestCase):
    """Zones of the wind with their coefficients, walls laid flat around the roof."""

    @classmethod
    def setUpClass(cls):
        document = drying_hall()
        cls.structure = expand(document)
        cls.winds = {w.direction: w for w in family(document).winds(document, cls.structure)}

    def test_coefficients_stand_in_their_zones(self):
        drawing = zones_drawing(self.winds["left"], "Wind from the left")
        said = [w.words for w in drawing.words]
        # h/d = (6 + 12 tan 10°)/24 = 0.338: table 7.1 between 0.25 and 1
        between = (0.338 - 0.25) / 0.75
        for letter, value in (("D", 0.7 + 0.1 * between), ("E", -0.3 - 0.2 * between)):
            at = said.index(letter)
            self.assertEqual(said[at + 1], f"{value:+.2f}".replace("-", "−"))
        # A, B, C on both gables
        self.assertEqual([said.count(x) for x in ("A", "B", "C", "−1.20", "−0.80", "−0.50")], [2, 2, 2, 2, 2, 2])

    def test_seen_from_above_not_in_a_mirror(self):
        # Y runs to the right, so that X runs downwards: wind from the left comes from the top, and meets zone D there
        drawing = zones_drawing(self.winds["left"], "Wind from the left")
        at = {w.words: np.array(w.at) for w in drawing.words}
        self.assertGreater(at["D"][1], at["E"][1])
        shaft = next(np.array(s.points) for s in drawing.strokes if s.style == "load" and not s.closed)
        self.assertGreater(shaft[0, 1], shaft[1, 1])

    def test_walls_lie_flat_around_the_roof_to_their_size(self):
        drawing = zones_drawing(self.winds["left"], "Wind from the left")
        zones = [np.array(s.points) * drawing.scale / 1000 for s in drawing.strokes if s.style == "zone"]
        sizes = sorted((round(float(np.ptp(z[:, 0])), 2), round(float(np.ptp(z[:, 1])), 2)) for z in zones)
        # the long walls: 42 m by 6 m; no two zones lie over one another
        self.assertEqual(sizes.count((42.0, 6.0)), 2)
        boxes = [(*z.min(axis=0), *z.max(axis=0)) for z in zones]
        for k, a in enumerate(boxes):
            for b in boxes[:k]:
                apart = a[0] >= b[2] - 0.05 or b[0] >= a[2] - 0.05 or a[1] >= b[3] - 0.05 or b[1] >= a[3] - 0.05
                self.assertTrue(apart, (a, b))
