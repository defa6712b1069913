"""The compressed flange as a strut (EN 1993-1-1 6.3.2.4), by hand."""

import unittest

from engine.catalogue.sections import section
from engine.catalogue.shapes.i_sections import welded_i
from engine.chain import run
from engine.standards.en.compressed_flange import flange_strut
from tests.engine.test_own_checks import bent

RECOMMENDED = (0.4, 1.1)


def strut(M, length=3.0, C1=1.0, of=None, welded=False, values=RECOMMENDED):
    """IPE 300 of S355: W_pl,y = 628.4 cm³, M_c,Rd = 223.1 kNm."""
    return flange_strut(of or section("IPE 300"), length, C1, M, 223.1e3, 355e6, 210e9, welded, values)


class ByHand(unittest.TestCase):
    def test_its_slenderness(self):
        # A_f + A_wc/3 = 150 · 10.7 + 139.3 · 7.1/3 = 1934.7 mm², I_f,z = 10.7 · 150³/12 = 3009375 mm⁴, i = 39.44 mm, λ_1 = 76.41
        self.assertAlmostEqual(strut(100e3).slenderness, 3000 / (39.44 * 76.41), delta=1e-3)
        # k_c = 0.94 of a parabola (table 6.6)
        self.assertAlmostEqual(strut(100e3, C1=1 / 0.94**2).slenderness, 0.94 * 0.9955, delta=1e-3)

    def test_below_its_plateau_nothing_is_reduced(self):
        # λ̄_c,0 = 0.5: 0.5 · 223.1/100 = 1.116 is more than 0.9955, 0.5 · 223.1/150 = 0.744 is less
        found = strut(100e3)
        self.assertAlmostEqual(found.plain, 1.116, delta=1e-3)
        self.assertAlmostEqual(found.resistance, 223.1e3, delta=1)
        # curve c: Φ = 0.5 (1 + 0.49 · 0.7955 + 0.991) = 1.1904, χ = 0.5425; 1.1 · 0.5425 · 223.1 = 133.1
        self.assertAlmostEqual(strut(150e3).resistance / 1e3, 133.1, delta=0.2)
        self.assertAlmostEqual(strut(150e3, values=(0.4, 1.0)).resistance / 1e3, 121.0, delta=0.2)
        self.assertLess(strut(150e3, values=(0.1, 1.1)).plain, 0.3)

    def test_never_more_than_without_buckling(self):
        # beyond its plateau, 0.2, at λ̄_f = 0.332 χ is 0.932, and 1.1 times that would be more
        found = strut(220e3, length=1.0, values=(0.1, 1.1))
        self.assertGreater(found.slenderness, found.plain)
        self.assertAlmostEqual(found.resistance, 223.1e3, delta=1)

    def test_stocky_welded_sections_take_curve_d(self):
        # h/t_f = 300/10.7 = 28 is less than 44 ε = 35.8; of a thin flange, 300/6 = 50, it is more
        stocky, thin = (welded_i("w", 0.3, 0.15, tf, 0.0071, 0.15, tf) for tf in (0.0107, 0.006))
        self.assertLess(strut(150e3, of=stocky, welded=True).resistance, strut(150e3, of=stocky).resistance)
        self.assertEqual(strut(150e3, of=thin, welded=True).resistance, strut(150e3, of=thin).resistance)


class Shown(unittest.TestCase):
    def test_beside_the_ribbon(self):
        # 6 m under 1.5 · 50 kNm: λ̄_f = 1.991, plain 0.5 · 223.1/75 = 1.487, χ_c = 0.1977
        chain = run(bent())
        found = {f.symbol: f for f in chain.verification.checks.figures(0, chain.verification.verdicts[0].outcomes)}
        quick = found[r"M_{Ed}/M_{b,Rd}"]
        self.assertIn("λ̄_f = 1.99", quick.words)
        self.assertAlmostEqual(float(quick.value), 75 / (1.1 * 0.1977 * 223.1), delta=0.006)
