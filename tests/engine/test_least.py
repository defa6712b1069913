"""Least forces at joints: splices in compression and ties against sums by hand."""

import copy
import unittest

from engine.chain import run
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.every_end import end_forces
from engine.dossier.values import Heading, Paragraph
from tests.engine.test_dossier import tables, told

#: HEA 160 on HEB 200, 3 m each, S355: 100 kN imposed on the head
COLUMN = {
    "version": 4,
    "nodes": [{"name": n, "at": [0, 0, z]} for n, z in (("foot", 0), ("splice", 3), ("head", 6))],
    "members": [
        {"name": "lower", "start": "foot", "end": "splice", "section": "HEB 200", "role": "column"},
        {"name": "upper", "start": "splice", "end": "head", "section": "HEA 160", "role": "column"},
    ],
    "supports": [{"node": "foot", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
    "node_loads": [{"case": "Q", "node": "head", "force": [0, 0, -100]}],
    "rules": {"imperfections": False},
}
#: a beam of 6 m between two columns, which are held at both ends: 10 kN/m permanent, 20 kN/m imposed on it
BEAM = {
    "version": 4,
    "nodes": [
        {"name": n, "at": [x, 0, z]}
        for n, x, z in (("foot 1", 0, 0), ("foot 2", 6, 0), ("a", 0, 4), ("b", 6, 4), ("m", 3, 4))
    ],
    "members": [
        {"name": "column 1", "start": "foot 1", "end": "a", "section": "HEA 200", "role": "column"},
        {"name": "column 2", "start": "foot 2", "end": "b", "section": "HEA 200", "role": "column"},
        {"name": "beam", "start": "a", "end": "b", "section": "IPE 360", "role": "main beam"},
    ],
    "supports": [
        *({"node": f"foot {k}", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for k in (1, 2)),
        *({"node": n, "fixed": ["y"]} for n in "abm"),
    ],
    "cases": [{"name": "G", "nature": "permanent"}, {"name": "Q", "nature": "imposed", "category": "B"}],
    "member_loads": [
        {"case": "G", "member": "beam", "value": [0, 0, -10]},
        {"case": "Q", "member": "beam", "value": [0, 0, -20]},
    ],
    "rules": {"imperfections": False, "consequences": "2a"},
}


def rows(document, words):
    """Rows of the table for who designs the joints: member, end, and forces, of what is asked at least."""
    table = end_forces(run(read_document(document)))
    names = [c.words for c in table.columns]
    found = [dict(zip(names, row, strict=True)) for row in table.rows]
    return [row for row in found if row["most by"] == f"at least, {words}"]


class Splices(unittest.TestCase):
    def test_of_a_column_by_the_weaker_section(self):
        # HEA 160: W_pl,y = 245.1 cm³, W_pl,z = 117.6 cm³, A = 38.77 cm²; f_y = 355 N/mm²
        found = rows(COLUMN, "ends not in full contact")
        self.assertEqual({r["member"] for r in found}, {"lower", "upper"})
        for row in found:
            self.assertEqual(row["joint"], "splice")
            self.assertEqual(row["combination"], "EN 1993-1-8 6.2.7.1(14)")
            self.assertAlmostEqual(row["M_y"], 0.25 * 245.1 * 0.355, delta=0.02)
            self.assertAlmostEqual(row["M_z"], 0.25 * 117.6 * 0.355, delta=0.02)
            self.assertAlmostEqual(row["V_y"], 0.025 * 38.77 * 35.5, delta=0.02)
            self.assertEqual(row["V_z"], row["V_y"])
            self.assertIsNone(row["N"])
        # γ_Q = 1.5 on 100 kN; a quarter of it where the ends bear
        for row in rows(COLUMN, "ends in full contact"):
            self.assertEqual(row["combination"], "EN 1993-1-8 6.2.7.1(15)")
            self.assertAlmostEqual(row["N"], -0.25 * 150, places=6)

    def test_of_a_column_where_a_beam_meets_it(self):
        met = copy.deepcopy(COLUMN)
        met["nodes"] += [{"name": "out", "at": [4, 0, 3]}, {"name": "foot 2", "at": [4, 0, 0]}]
        met["members"] += [
            {"name": "beam", "start": "splice", "end": "out", "section": "IPE 240", "role": "main beam"},
            {"name": "post", "start": "foot 2", "end": "out", "section": "HEA 160", "role": "column"},
        ]
        met["supports"].append({**COLUMN["supports"][0], "node": "foot 2"})
        found = rows(met, "ends not in full contact")
        self.assertEqual(
            {(r["member"], r["what"]) for r in found}, {("lower", "beam to column"), ("upper", "beam to column")}
        )
        self.assertAlmostEqual(found[0]["M_y"], 0.25 * 245.1 * 0.355, delta=0.02)
        # beams on both sides of a column are none
        cross = copy.deepcopy(met)
        cross["members"][:2] = [
            {"name": "whole", "start": "foot", "end": "head", "section": "HEB 200", "role": "column"}
        ]
        cross["nodes"].append({"name": "other", "at": [-4, 0, 3]})
        cross["members"].append(
            {"name": "beam 2", "start": "other", "end": "splice", "section": "IPE 240", "role": "main beam"}
        )
        cross["supports"].append({**COLUMN["supports"][0], "node": "other"})
        self.assertEqual(rows(cross, "ends not in full contact"), [])

    def test_none_in_tension(self):
        pulled = copy.deepcopy(COLUMN)
        pulled["node_loads"][0]["force"] = [0, 0, 100]
        self.assertEqual(rows(pulled, "ends not in full contact"), [])

    def test_with_gamma_M0(self):
        found = rows({**COLUMN, "rules": {"imperfections": False, "gamma_M0": 1.1}}, "ends not in full contact")
        self.assertAlmostEqual(found[0]["M_y"], 0.25 * 245.1 * 0.355 / 1.1, delta=0.02)


class Vertical(unittest.TestCase):
    """Two columns of two storeys, spliced above the first floor, with a beam on each: 10 kN/m permanent, 20 kN/m imposed below, 12 above."""

    def storeys(self, consequences="2b"):
        column = {"section": "HEA 200", "role": "column"}
        hinged = {"releases": {"start": ["ry", "rz"], "end": ["ry", "rz"]}}
        beam = {"section": "IPE 360", "role": "main beam", **hinged}
        heights = ((0, "foot"), (4, "floor"), (5, "splice"), (8, "roof"))
        return {
            **BEAM,
            "nodes": [{"name": f"{n} {k}", "at": [6 * k, 0, z]} for z, n in heights for k in (0, 1)],
            "members": [
                *({"name": f"lower {k}", "start": f"foot {k}", "end": f"splice {k}", **column} for k in (0, 1)),
                # from its head downwards
                *({"name": f"upper {k}", "start": f"roof {k}", "end": f"splice {k}", **column} for k in (0, 1)),
                *({"name": f"beam {n}", "start": f"{n} 0", "end": f"{n} 1", **beam} for n in ("floor", "roof")),
            ],
            "supports": [
                *({"node": f"foot {k}", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for k in (0, 1)),
                *({"node": f"{n} {k}", "fixed": ["y"]} for n in ("floor", "splice", "roof") for k in (0, 1)),
            ],
            "member_loads": [
                {"case": case, "member": f"beam {n}", "value": [0, 0, -q]}
                for n, case, q in (("floor", "G", 10), ("floor", "Q", 20), ("roof", "G", 10), ("roof", "Q", 12))
            ],
            "rules": {"imperfections": False, "consequences": consequences},
        }

    def test_the_heaviest_storey(self):
        found = rows(self.storeys(), "as a vertical tie, by itself")
        ends = {("lower 0", "end"), ("lower 1", "end"), ("upper 0", "end"), ("upper 1", "end")}
        self.assertEqual({(r["member"], r["end"]) for r in found}, ends)
        for row in found:
            # 3 m of 1.35 · 10 + 1.5 · 20 = 130.5 kN
            self.assertAlmostEqual(row["N"], 130.5, delta=0.01)
            self.assertEqual(row["combination"], "EN 1991-1-7 A.6(2)")

    def test_the_upper_storey_where_it_is_heavier(self):
        heavy = self.storeys()
        heavy["member_loads"][-1]["value"] = [0, 0, -30]
        # 3 · (13.5 + 45)
        self.assertAlmostEqual(rows(heavy, "as a vertical tie, by itself")[0]["N"], 175.5, delta=0.01)

    def test_not_asked_below_class_2b(self):
        self.assertEqual(rows(self.storeys("2a"), "as a vertical tie, by itself"), [])


class Trusses(unittest.TestCase):
    def test_a_truss_is_a_tie_by_all_that_lies_on_it(self):
        # 8 m between columns, 1 m deep, posts at its ends and its middle; 30 kN permanent at the middle, 5 kN/m imposed on the top chords
        nodes = {
            "foot 1": (0, 0),
            "foot 2": (8, 0),
            "a": (0, 4),
            "b": (8, 4),
            "m": (4, 4),
            "c": (0, 5),
            "d": (8, 5),
            "n": (4, 5),
        }
        pin = {"releases": {"start": ["ry", "rz"], "end": ["ry", "rz"]}}
        top = {"section": "HEA 140", "role": "top chord", **pin}
        document = {
            **BEAM,
            "nodes": [{"name": n, "at": [x, 0, z]} for n, (x, z) in nodes.items()],
            "members": [
                {"name": "column 1", "start": "foot 1", "end": "c", "section": "HEA 200", "role": "column"},
                {"name": "column 2", "start": "foot 2", "end": "d", "section": "HEA 200", "role": "column"},
                {"name": "top 1", "start": "c", "end": "n", **top},
                {"name": "top 2", "start": "d", "end": "n", **top},
                *({"name": f"bottom {k}", "start": i, "end": "m", "section": "HEA 100", "role": "bottom chord", **pin} for k, i in ((1, "a"), (2, "b"))),
                *(
                    {"name": f"web {k}", "start": i, "end": j, "section": "L 60x6", "role": "web", "behaviour": "bar"}
                    for k, (i, j) in enumerate((("c", "m"), ("d", "m"), ("m", "n")))
                ),
            ],
            "supports": [
                *({"node": f"foot {k}", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for k in (1, 2)),
                *({"node": n, "fixed": ["y"]} for n in "abcdmn"),
            ],
            "node_loads": [{"case": "G", "node": "n", "force": [0, 0, -30]}],
            "member_loads": [{"case": "Q", "member": f"top {k}", "value": [0, 0, -5]} for k in (1, 2)],
        }  # fmt: skip
        found = rows(document, "as a tie, by itself")
        ends = {("top 1", "start"), ("top 2", "start"), ("bottom 1", "start"), ("bottom 2", "start")}
        self.assertEqual({(r["member"], r["end"]) for r in found}, ends)
        # 30 + 0.5 · 5 · 8 = 50 kN, 0.8 of it below 75
        self.assertEqual({r["N"] for r in found}, {75.0})
        document["node_loads"][0]["force"] = [0, 0, -300]
        for row in rows(document, "as a tie, by itself"):
            self.assertAlmostEqual(row["N"], 0.8 * 320, delta=0.01)


class Ties(unittest.TestCase):
    def test_by_the_load_on_the_beam(self):
        # W = 6 (10 + 0.5 · 20) = 120 kN with ψ1 of category B; T = 0.8 W
        found = rows(BEAM, "as a tie, by itself")
        self.assertEqual({(r["member"], r["end"]) for r in found}, {("beam", "start"), ("beam", "end")})
        for row in found:
            self.assertAlmostEqual(row["N"], 96.0, places=6)
            self.assertEqual(row["combination"], "EN 1991-1-7 A.5.1")

    def test_with_psi_2_where_the_nation_chooses_it(self):
        # 6 (10 + 0.3 · 20) = 96; 0.8 · 96 = 76.8
        found = rows({**BEAM, "national": {"basis": {"accidental_lead": "ψ2"}}}, "as a tie, by itself")
        self.assertAlmostEqual(found[0]["N"], 76.8, places=6)

    def test_75_kilonewtons_at_least(self):
        light = copy.deepcopy(BEAM)
        light["member_loads"][1]["value"] = [0, 0, -1]
        self.assertEqual({r["N"] for r in rows(light, "as a tie, by itself")}, {75.0})

    def test_of_loads_that_exclude_one_another_the_worst(self):
        both = copy.deepcopy(BEAM)
        both["cases"][1]["excludes"] = "use"
        both["cases"].append({"name": "P", "nature": "imposed", "category": "B", "excludes": "use"})
        both["member_loads"].append({"case": "P", "member": "beam", "value": [0, 0, -24]})
        # 6 (10 + 0.5 · 24) = 132
        self.assertAlmostEqual(rows(both, "as a tie, by itself")[0]["N"], 0.8 * 132, places=6)

    def test_one_action_leads(self):
        both = copy.deepcopy(BEAM)
        both["cases"].append({"name": "S", "nature": "snow"})
        both["member_loads"].append({"case": "S", "member": "beam", "value": [0, 0, -5]})
        # snow: ψ1 = 0.2, ψ2 = 0; imposed: 0.5 and 0.3; the imposed load leads: 6 (10 + 0.5 · 20)
        self.assertAlmostEqual(rows(both, "as a tie, by itself")[0]["N"], 96.0, places=6)
        both["member_loads"][-1]["value"] = [0, 0, -50]
        # the snow leads: 6 (10 + 0.2 · 50 + 0.3 · 20)
        self.assertAlmostEqual(rows(both, "as a tie, by itself")[0]["N"], 0.8 * 156, places=6)

    def test_a_beam_in_two_pieces_is_one_tie(self):
        pieces = copy.deepcopy(BEAM)
        pieces["members"][2:] = [
            {"name": "left", "start": "a", "end": "m", "section": "IPE 360", "role": "main beam"},
            {"name": "right", "start": "m", "end": "b", "section": "IPE 360", "role": "main beam"},
        ]
        pieces["member_loads"] = [
            {**load, "member": name} for load in BEAM["member_loads"] for name in ("left", "right")
        ]
        pieces["supports"] = BEAM["supports"][:4]
        found = rows(pieces, "as a tie, by itself")
        self.assertEqual({r["member"] for r in found}, {"left", "right"})
        for row in found:
            self.assertAlmostEqual(row["N"], 96.0, places=6)

    def test_two_rafters_are_one_tie(self):
        gable = copy.deepcopy(BEAM)
        gable["nodes"][4]["at"] = [3, 0, 5]
        gable["members"][2:] = [
            {"name": "left", "start": "a", "end": "m", "section": "IPE 360", "role": "rafter"},
            {"name": "right", "start": "b", "end": "m", "section": "IPE 360", "role": "rafter"},
        ]
        # 40 kN/m of plan are 40 · 3/√10 of the slope
        slope = 3 / 10**0.5
        gable["member_loads"] = [
            {"case": case, "member": name, "value": [0, 0, -q * slope]}
            for name in ("left", "right")
            for case, q in (("G", 10), ("Q", 20))
        ]
        for row in rows(gable, "as a tie, by itself"):
            self.assertAlmostEqual(row["N"], 96.0, places=5)
            self.assertEqual(row["what"], "eaves")

    def test_what_joists_put_on_it_counts(self):
        loaded = copy.deepcopy(BEAM)
        loaded["nodes"] += [{"name": "w", "at": [3, 5, 4]}, {"name": "foot 3", "at": [3, 5, 0]}]
        loaded["members"] += [
            {"name": "joist", "start": "m", "end": "w", "section": "IPE 240", "role": "joist",
             "releases": {"start": ["ry", "rz"], "end": ["ry", "rz"]}},
            {"name": "column 3", "start": "foot 3", "end": "w", "section": "HEA 200", "role": "column"},
        ]  # fmt: skip
        loaded["supports"] = [
            *BEAM["supports"],
            {**BEAM["supports"][0], "node": "foot 3"},
            {"node": "w", "fixed": ["x", "y"]},
        ]
        loaded["member_loads"].append({"case": "G", "member": "joist", "value": [0, 0, -8]})
        found = {(r["member"], r["end"]): r["N"] for r in rows(loaded, "as a tie, by itself")}
        # half of 5 · 8 kN lies on the beam: 0.8 (120 + 20); the joist meets a column at one end: 0.8 · 40 is below 75
        self.assertAlmostEqual(found["beam", "start"], 0.8 * 140, places=5)
        self.assertEqual(found["joist", "end"], 75.0)
        self.assertNotIn(("joist", "start"), found)

    def test_by_consequence_class(self):
        for consequences, asked, words in (
            ("", False, "No consequence class is stated"),
            ("1", False, "no ties are asked for"),
            ("2a", True, "Consequence class 2a"),
            ("2b", True, "columns that may be missing in place of ties (A.7), are not covered"),
            ("3", True, "The assessment of risks that EN 1991-1-7 A.4 asks for is not covered"),
        ):
            with self.subTest(consequences):
                document = {**BEAM, "rules": {"imperfections": False, "consequences": consequences}}
                self.assertEqual(bool(rows(document, "as a tie, by itself")), asked)
                chapter = told(compose(run(read_document(document)), DossierPlan()), "joints")
                self.assertTrue([b for b in chapter.blocks if isinstance(b, Paragraph) and words in b.words])


class Told(unittest.TestCase):
    def test_kinds_are_sections_with_their_least_forces(self):
        chain = run(read_document(COLUMN))
        dossier = compose(chain, DossierPlan())
        found = tables(dossier, "least forces")
        self.assertEqual(
            [(row[1], row[3], row[4]) for row in found.rows],
            [
                (end, "splice", clause)
                for end in ("Column HEB 200", "Column HEA 160")
                for clause in ("EN 1993-1-8 6.2.7.1(14)", "EN 1993-1-8 6.2.7.1(15)")
            ],
        )
        headings = {b.anchor: b for b in told(dossier, "joints").blocks if isinstance(b, Heading)}
        self.assertEqual(headings["joint.splice"].aside, "column HEA 160; column HEB 200")

    def test_the_designers_words_go_along(self):
        notes = [
            {"name": "joint.splice", "remark": "Cover plates,\n8 M20 8.8"},
            {"name": "joint.foot", "remark": "Grouted."},
        ]
        document = {**COLUMN, "dossier": {"notes": notes}}
        table = end_forces(run(read_document(document)))
        names = [c.words for c in table.columns]
        words = {(row[0], row[names.index("described as")]) for row in table.rows}
        self.assertEqual(words, {("splice", "Cover plates, 8 M20 8.8"), ("foot", "Grouted.")})
