"""The chapter on how the sections were found: beside what stands, in rounds, with what else there was."""

import unittest

from engine.chain import run
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.sized import ToldCandidate, ToldGroup, ToldRound, ToldSizing
from engine.dossier.values import Paragraph, Table
from tests.engine.test_dossier import BEAM


def group(after=("IPE 240", "S355"), **values):
    shelf = tuple(
        ToldCandidate(f"IPE {h} S355", mass, use, True)
        for h, mass, use in ((220, 157, 1.2), (240, 184, 0.9), (270, 217, 0.7))
    )
    known = {
        "name": "Members by hand",
        "members": ("beam",),
        "before": ("IPE 300", "S355"),
        "after": after,
        "mass": (253.0, 184.0),
        "worst": (0.6, 0.9),
        "criterion": "Deflection",
        "kept": "",
        "shelf": shelf,
    }
    return ToldGroup(**{**known, **values})


def told(*groups, passes=True, obstacles=()):
    rounds = (
        ToldRound(1, "start", "as it stands", 0, 0.6, True, 0.253, 500.0),
        ToldRound(2, "proposal", "lighter", 3, None, False, 0.184, 380.0),
    )
    return ToldSizing(3, "mass", passes, obstacles, ((0.253, 500.0, 0.6), (0.184, 380.0, 0.4)), rounds, groups)


class Chapter(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(read_document(BEAM))

    def blocks(self, found, level="normal"):
        plan = DossierPlan.model_validate({"chapters": {"sizing": {"level": level}}})
        chapters = [c for c in compose(self.chain, plan, sized=found).chapters if c.key == "sizing"]
        return chapters[0].blocks if chapters else None

    def table(self, blocks, name):
        return next(b for b in blocks if isinstance(b, Table) and b.name == name)

    def words(self, blocks, kind):
        return [b.words for b in blocks if isinstance(b, Paragraph) and b.kind == kind]

    def test_none_without_a_sizing(self):
        self.assertIsNone(self.blocks(None))

    def test_what_stands_is_told_beside_what_was_found(self):
        blocks = self.blocks(told(group()))
        [row] = self.table(blocks, "sizing groups").rows
        self.assertEqual(
            row, ("Members by hand", 1.0, "IPE 300 S355", "IPE 240 S355", "IPE 300 S355", -69.0, 0.6, 0.9, "Deflection")
        )
        self.assertEqual(self.words(blocks, "missing"), ["What stands is not what was found in: Members by hand."])
        taken = self.blocks(told(group(after=("IPE 300", "S355"))))
        self.assertEqual(self.table(taken, "sizing groups").rows[0][4], "as found")
        self.assertEqual(self.words(taken, "missing"), [])
        gone = self.blocks(told(group(members=("beam", "other"))))
        self.assertEqual(self.table(gone, "sizing groups").rows[0][4], "several")

    def test_what_is_in_the_way_is_told(self):
        blocks = self.blocks(
            told(group(), passes=False, obstacles=("Deflection: no section is stiff enough.",)), "summary"
        )
        self.assertEqual(self.words(blocks, "fails"), ["Nothing that was allowed makes every member pass."])
        self.assertIn("Deflection: no section is stiff enough.", self.words(blocks, "missing"))
        self.assertFalse([b for b in blocks if isinstance(b, Table) and b.name == "sizing rounds"])

    def test_rounds_and_in_full_the_shelf(self):
        blocks = self.blocks(told(group()), "full")
        rounds = self.table(blocks, "sizing rounds").rows
        self.assertEqual(
            [(r[3], r[4], r[5]) for r in rounds], [("all", 0.6, "passes"), ("3 that governed", None, "fails")]
        )
        shelf = self.table(blocks, "shelf of Members by hand")
        self.assertEqual(
            [(r[1], r[4]) for r in shelf.rows], [("IPE 220 S355", ""), ("IPE 240 S355", "found"), ("IPE 270 S355", "")]
        )
        self.assertEqual(shelf.marked, 1)
