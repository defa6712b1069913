"""Pad footings: springs of stiff pads on Winkler's ground, and what acts under them by hand."""

import unittest

from engine.chain import prepare, run
from engine.document import read_document
from engine.dossier.behaviour import pad_table
from engine.editing.apply import operate
from engine.editing.operations import Copy, Support
from engine.errors import ModelError
from engine.verification.pads import told_of

PAD = {"x": 2.0, "y": 1.5, "depth": 0.5, "subgrade": 30_000.0, "friction": 0.5}


def post(
    footing=None, fixed=("x", "y", "rz"), force=(0, 0, -100), moment=(0, 0, 0), turn=0.0, factor=1.0, springs=None
):
    """A stiff post of 4 m on a pad, pressed and pushed at its top; its own weight counts for nothing."""
    return read_document(
        {
            "nodes": [{"name": "foot", "at": [0, 0, 0]}, {"name": "top", "at": [0, 0, 4]}],
            "members": [{"name": "post", "start": "foot", "end": "top", "section": "HEM 1000"}],
            "supports": [
                {
                    "node": "foot", "fixed": list(fixed), "turn": turn, "springs": springs or {},
                    "footing": PAD | {"clamped": True} if footing is None else footing,
                }
            ],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "node_loads": [{"node": "top", "case": "Q", "force": list(force), "moment": list(moment)}],
            "combinations": [{"name": "U", "use": "strength", "factors": {"Q": factor}}],
            "analysis": {"order": "first"},
            "rules": {"imperfections": False},
        }
    )  # fmt: skip


def under(document):
    chain = run(document)
    return chain.verification.pads[0], chain


class Springs(unittest.TestCase):
    def test_of_a_stiff_pad(self):
        s = prepare(post()).structure
        # k_s A = 30 000 · 3; about X k_s x y³/12, about Y k_s y x³/12
        self.assertEqual(s.springs[0].round(3).tolist(), [0, 0, 90e6, 30e6 * 2 * 1.5**3 / 12, 30e6 * 1.5 * 8 / 12, 0])
        self.assertEqual(s.fixed[0].tolist(), [True, True, False, False, False, True])
        pinned = prepare(post(PAD | {"clamped": False})).structure
        self.assertEqual(pinned.springs[0].tolist(), [0, 0, 90e6, 0, 0, 0])

    def test_a_post_leans_with_its_pad(self):
        """At the top: H h²/k_ry beside what the post bends, and N/k_z down."""
        document = post(force=(6, 0, -90))
        document.analysis.shear_deformation = False
        chain = run(document)
        top = chain.combined.displacement([0])[1, :, 0]
        self.assertAlmostEqual(
            top[2], -90e3 / 90e6 - 90e3 * 4 / (210e9 * chain.structure.members[0].section.A), delta=1e-9
        )
        # a post turns its web along X
        bent = 6e3 * 4**3 / (3 * 210e9 * chain.structure.members[0].section.Iy)
        self.assertAlmostEqual(top[0], 6e3 * 16 / (30e6 * 1.5 * 8 / 12) + bent, delta=1e-9)

    def test_what_holds_besides_stays(self):
        s = prepare(
            post(PAD | {"clamped": False}, fixed=("x", "y", "z", "rz"), springs={"rx": 500.0, "ry": 400.0})
        ).structure
        self.assertEqual(s.fixed[0].tolist(), [True, True, False, False, False, True])
        self.assertEqual(s.sprung(0), {"rx": 500e3, "ry": 400e3})


class Under(unittest.TestCase):
    #: 25 · 2 · 1.5 · 0.5
    WEIGHT = 37.5

    def test_pressed_in_the_middle(self):
        found, _ = under(post(force=(0, 0, -300)))
        self.assertAlmostEqual(found.weight / 1000, self.WEIGHT)
        # with 1.35 of its weight on the whole base; with 0.9 least on the ground
        self.assertAlmostEqual(found.pressure[0] / 1000, (300 + 1.35 * self.WEIGHT) / 3, delta=1e-6)
        self.assertAlmostEqual(found.least[0] / 1000, 300 + 0.9 * self.WEIGHT, delta=1e-6)
        self.assertEqual((found.slide[0], found.gapes, found.stands), (0.0, False, True))

    def test_beside_the_middle_and_pushed(self):
        """20 kN at 4 m along X: M = 80 kNm at the top of the pad, 90 at its base."""
        found, _ = under(post(force=(20, 0, -300)))
        for_weight = []
        for gamma in (1.35, 0.9):
            N = 300 + gamma * self.WEIGHT
            for_weight.append(N / ((2 - 2 * 90 / N) * 1.5))
        self.assertAlmostEqual(found.pressure[0] / 1000, max(for_weight), delta=1e-3)
        self.assertAlmostEqual(found.slide[0], 20 / (0.5 * (300 + 0.9 * self.WEIGHT)), delta=1e-6)
        # 90/333.75 = 0.27 m < 2/6; pushed by 30 the force leaves the core
        self.assertFalse(found.gapes)
        self.assertTrue(under(post(force=(30, 0, -300)))[0].gapes)
        self.assertEqual(told_of(under(post(force=(30, 0, -300)))[0]), "stands, a part comes off the ground")

    def test_along_the_short_side_and_turned(self):
        along, _ = under(post(force=(0, 10, -300)))
        N = 300 + 0.9 * self.WEIGHT
        heavy = 300 + 1.35 * self.WEIGHT
        expected = max(n / (2 * (1.5 - 2 * 45 / n)) for n in (N, heavy))
        self.assertAlmostEqual(along.pressure[0] / 1000, expected, delta=1e-3)
        # the pad turned by a quarter: what pushed along its short side pushes along its long one
        turned, _ = under(post(force=(0, 10, -300), turn=90.0))
        expected = max(n / (1.5 * (2 - 2 * 45 / n)) for n in (N, heavy))
        self.assertAlmostEqual(turned.pressure[0] / 1000, expected, delta=1e-3)

    def test_it_tips_slides_and_lifts(self):
        tips, chain = under(post(force=(90, 0, -300)))
        self.assertEqual(tips.pressure[0], float("inf"))
        self.assertFalse(tips.stands)
        self.assertTrue(any("1 tip over" in words for words in chain.verification.left_out))
        self.assertTrue(told_of(tips).startswith("tips over"))
        slides, _ = under(post(PAD | {"clamped": True, "depth": 3.0, "friction": 0.1}, force=(40, 0, -100)))
        self.assertGreater(slides.slide[0], 1)
        self.assertEqual(told_of(slides), "slides")
        self.assertFalse(slides.stands)
        lifts, chain = under(post(force=(0, 0, 100)))
        self.assertAlmostEqual(lifts.least[0] / 1000, 0.9 * self.WEIGHT - 100, delta=1e-6)
        self.assertFalse(lifts.stands)
        self.assertEqual(lifts.slide[0], 0.0)
        self.assertEqual(pad_table(chain).rows[0][-1], "lifts off")

    def test_combinations_for_uplift_count_too(self):
        document = post(force=(0, 0, 30))
        document.combinations.append(
            document.combinations[0].model_copy(update={"name": "E", "use": "uplift", "factors": {"Q": 1.2}})
        )
        found, chain = under(document)
        self.assertAlmostEqual(found.least[0] / 1000, 0.9 * self.WEIGHT - 36, delta=1e-6)
        self.assertEqual(chain.combinations[found.least[1]].use, "uplift")
        self.assertFalse(found.stands)

    def test_what_is_told_is_said_to_be_no_verdict(self):
        _, chain = under(post())
        words = [w for w, _ in chain.verification.whole.left_out if "pad footing" in w]
        self.assertEqual(
            words, ["1 pad footing and the ground under them: pressure, sliding and uplift are told, not verified"]
        )


class Editing(unittest.TestCase):
    def test_put_and_taken_by_an_edit(self):
        document = post()
        document.supports = []
        document = operate(document, Support(nodes=["foot"], fixed=["x", "y", "rz"], footing=PAD))
        self.assertEqual(document.supports[0].footing.x, 2.0)
        self.assertEqual(prepare(document).structure.springs[0, 2], 90e6)
        self.assertEqual(operate(document, Support(nodes=["foot"])).supports, [])

    def test_a_copy_stands_on_a_pad_of_its_own(self):
        document = operate(post(), Copy(members=["post"], step=(5.0, 0.0, 0.0), supports=True))
        self.assertEqual(len(document.supports), 2)
        self.assertEqual(document.supports[1].footing, document.supports[0].footing)
        self.assertEqual(document.supports[1].springs, {})
        s = prepare(document).structure
        self.assertEqual(s.springs[0].tolist(), s.springs[s.nodes.index(document.supports[1].node)].tolist())

    def test_bad_input_says_where(self):
        with self.assertRaises(ModelError) as raised:
            post(PAD | {"x": -1})
        self.assertIn("supports.0.footing.x", raised.exception.place)
