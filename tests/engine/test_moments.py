"""C1 and C_m from whole moment diagrams: published values, and diagrams that three points miss."""

import unittest

import numpy as np

from engine.standards.en.moments import _from_three, amplification, counting, moment_factor, shape_of_moments

XI = np.linspace(0, 1, 25)


def c1(moments, warping=0.0):
    """(C1, c) of one diagram at 25 places."""
    m = np.asarray(moments, dtype=float).reshape(25, 1)
    C1, lift = shape_of_moments(np.abs(m), m, np.array(warping))
    return float(C1[0]), float(lift[0])


class C1(unittest.TestCase):
    def test_end_moments(self):
        # EN 1993-1-1 NCCI SN003 table 3.1: 1.77 and 2.55 for ψ = 0 and −1; 1.31 at 0.5 (loaded at the shear centre, k = 1)
        for psi, published, close in (
            (1, 1.0, 0.01),
            (0.5, 1.31, 0.01),
            (0, 1.77, 0.01),
            (-0.5, 2.33, 0.01),
            (-1, 2.55, 0.02),
        ):
            self.assertAlmostEqual(c1(1 - (1 - psi) * XI)[0] / published, 1, delta=close, msg=f"{psi}")

    def test_loads(self):
        # the same source, table 3.2: 1.127 and C2 = 0.454 under uniform load, 1.348 and 0.630·… for a load in the middle
        uniform, lift = c1(4 * XI * (1 - XI))
        self.assertAlmostEqual(uniform, 1.127, delta=0.01)
        self.assertAlmostEqual(uniform * lift / 2, 0.454, delta=0.01)
        self.assertAlmostEqual(c1(1 - np.abs(2 * XI - 1))[0], 1.348, delta=0.015)
        self.assertAlmostEqual(c1(1 - 6 * XI + 6 * XI**2)[0], 2.578, delta=0.03)

    def test_never_above_a_finer_solution(self):
        # Rayleigh and Ritz with thirty half waves, on 2001 places
        rng = np.random.default_rng(4)
        fine = np.linspace(0, 1, 2001)
        waves = np.sin(np.pi * np.outer(np.arange(1, 31), fine))
        k2 = np.arange(1, 31) ** 2
        for warping in (0.0, 0.5, 3.0):
            stiff = k2 * (1 + k2 * warping) / (1 + warping)
            for _ in range(20):
                a, b, c, d = rng.uniform(-1, 1, 4)

                def shape(x, a=a, b=b, c=c, d=d):
                    return a + b * x + 4 * c * x * (1 - x) + d * np.sin(2 * np.pi * x)

                m = shape(fine) / np.abs(shape(XI)).max()
                A = (
                    2
                    * np.trapezoid(waves[:, None] * waves[None] * m**2, fine, axis=2)
                    / np.sqrt(np.outer(stiff, stiff))
                )
                exact = min(1 / np.sqrt(np.linalg.eigvalsh(A)[-1]), 3.5)
                found = c1(shape(XI), warping)[0]
                self.assertLess(found, 1.01 * exact)
                self.assertGreater(found, 0.9 * exact)

    def test_opposite_loads_at_the_thirds(self):
        # the quarter points miss the peaks: 2.5 by them
        self.assertAlmostEqual(c1(np.interp(XI, [0, 1 / 3, 2 / 3, 1], [0, 1, -1, 0]))[0], 1.55, delta=0.02)

    def test_a_load_that_pulls_away_helps_nothing(self):
        self.assertEqual(c1(-4 * XI * (1 - XI))[1], 0.0)


class Counting(unittest.TestCase):
    def test_only_a_flange_that_is_held_counts_as_nothing_while_it_is_pressed(self):
        M = np.array([1.0, 0.5, -2.0]).reshape(1, 3, 1)
        flange = np.array([1.0])
        np.testing.assert_array_equal(counting(M, flange, np.array([True])).ravel(), [1, 0.5, 0])
        np.testing.assert_array_equal(counting(M, flange, np.array([False])).ravel(), [1, 0.5, 2])
        np.testing.assert_array_equal(counting(-np.abs(M), flange, np.array([False])).ravel(), [0, 0, 0])
        rounded = np.array([1e-12, -0.5, -2.0]).reshape(1, 3, 1)
        np.testing.assert_array_equal(counting(rounded, flange, np.array([False])).ravel(), [0, 0, 0])
        np.testing.assert_allclose(counting(rounded + 1e-3, flange, np.array([False])).ravel(), [1e-3, 0.499, 1.999])


class Cm(unittest.TestCase):
    def cm(self, moments):
        return float(moment_factor(np.asarray(moments, dtype=float).reshape(-1, 1))[0])

    def test_table_b3(self):
        # linear: 0.6 + 0.4 ψ, at least 0.4
        for psi, expected in ((1, 1.0), (0.5, 0.8), (0, 0.6), (-0.5, 0.4), (-1, 0.4)):
            self.assertAlmostEqual(self.cm(1 - (1 - psi) * XI), expected)
            self.assertAlmostEqual(self.cm(psi + (1 - psi) * XI), expected)
        # uniform load: α_h = 0; clamped ends, M_s = −M_h/2: 0.1 + 0.8/2 with ψ = 1
        self.assertAlmostEqual(self.cm(4 * XI * (1 - XI)), 0.95)
        self.assertAlmostEqual(self.cm(-1 + 6 * XI * (1 - XI)), 0.1 + 0.8 * 0.5)
        # α_h = −0.5: 0.95 − 0.025
        self.assertAlmostEqual(self.cm(-1 + 12 * XI * (1 - XI)), 0.95 - 0.05 * 0.5)
        self.assertAlmostEqual(self.cm(0 * XI), 1.0)

    def test_the_column_for_distributed_load_in_every_branch(self):
        # typed a second time: α_s = M_s/M_h within the ends, α_h = M_h/M_s beyond them
        for psi in (-1.0, -0.6, -0.2, 0.0, 0.3, 0.8, 1.0):
            for middle in (-2.5, -1.2, -0.9, -0.5, -0.1, 0.0, 0.2, 0.7, 1.0, 1.6):
                for turned in (1.0, -1.0):
                    ends = (turned, turned * psi)
                    if abs(middle) <= 1:
                        a_s = middle / turned
                        if a_s >= 0:
                            expected = max(0.2 + 0.8 * a_s, 0.4)
                        elif psi >= 0:
                            expected = max(0.1 - 0.8 * a_s, 0.4)
                        else:
                            expected = max(0.1 * (1 - psi) - 0.8 * a_s, 0.4)
                    else:
                        a_h = turned / middle
                        expected = 0.95 + 0.05 * a_h * (1 + 2 * psi if a_h < 0 and psi < 0 else 1)
                    for start, end in (ends, ends[::-1]):
                        found = float(_from_three(np.array([start]), np.array([middle]), np.array([end]))[0])
                        self.assertAlmostEqual(found, min(expected, 1.0), msg=f"{start} {middle} {end}")

    def test_a_peak_off_the_middle_counts(self):
        # a load at a quarter with end moments that make the middle vanish: by the middle 0.41
        tent = np.interp(XI, [0, 0.25, 1], [0.0, 1.0, -0.5])
        self.assertGreaterEqual(self.cm(tent), 0.9)

    def test_table_a2(self):
        # C_m,0 = a + b n: 0.79 + 0.21 ψ + 0.36 (ψ − 0.33) n; 1 + 0.03 n under uniform load, 1 − 0.18 n under a load in the middle
        for psi in (1.0, 0.4, -0.7):
            for turned in (1.0, -1.0):
                line = turned * (1 - (1 - psi) * XI)
                for diagram in (line, line[::-1]):
                    a, b = amplification(diagram.reshape(25, 1))
                    self.assertAlmostEqual(float(a[0]), 0.79 + 0.21 * psi)
                    self.assertAlmostEqual(float(b[0]), 0.36 * (psi - 0.33))
        for diagram, published in ((4 * XI * (1 - XI), 0.03), (1 - np.abs(2 * XI - 1), -0.18)):
            a, b = amplification(diagram.reshape(25, 1))
            self.assertEqual(float(a[0]), 1.0)
            self.assertAlmostEqual(float(b[0]), published, delta=0.004)
        # clamped at both ends: w = q L⁴/384 EI, M = q L²/12: π² 12/384 − 1
        a, b = amplification((-1 + 6 * XI * (1 - XI)).reshape(25, 1))
        self.assertAlmostEqual(float(b[0]), np.pi**2 * 12 / 384 - 1, delta=0.006)
        self.assertEqual([float(v[0]) for v in amplification(np.zeros((25, 1)))][0], 1.0)


if __name__ == "__main__":
    unittest.main()
