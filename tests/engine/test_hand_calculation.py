"""The hand calculation of docs/verification.md: one column and one rafter of the drying hall.

Forces by the force method on the plane frame, checks from the printed dimensions alone. Nothing of the engine's is used
but the numbers that are compared.
"""

import unittest
from math import cos, pi, radians, sin, sqrt, tan

import numpy as np

from engine.chain import run
from engine.demo import drying_hall
from engine.verification.proof import prove

E, G, FY = 210e9, 210e9 / 2.6, 355e6
SPAN, EAVES, PITCH, SPACING = 24.0, 6.0, radians(10), 6.0
RISE = SPAN / 2 * tan(PITCH)
SLOPE = SPAN / 2 / cos(PITCH)


def prismatic_hall():
    """The drying hall without its haunches, and with the sections that it needs then."""
    document = drying_hall()
    sections = document.hall.sections.model_copy(update={"columns": "HEA 450", "rafters": "IPE 500"})
    hall = document.hall.model_copy(update={"eaves_haunch": None, "sections": sections})
    return document.model_copy(update={"hall": hall})


def upright(document):
    """The same without sway imperfections, in first order with effective lengths of the sway mode, and with loads at the shear
    centre, as by hand."""
    rules = document.rules.model_copy(update={"imperfections": False, "loads_at": "shear centre"})
    analysis = document.analysis.model_copy(update={"order": "first"})
    return document.model_copy(update={"rules": rules, "analysis": analysis})


def c1(*moments):
    """C1 from moments at equal distances, straight between: the twist as one half sine wave, 1/√(2 ∫ m² sin² πξ dξ)."""
    xi = np.linspace(0, 1, 4001)
    m = np.interp(xi, np.linspace(0, 1, len(moments)), np.array(moments) / max(moments))
    return 1 / sqrt(2 * np.trapezoid(m**2 * np.sin(pi * xi) ** 2, xi))


def two_hinged_frame(wall_left, wall_right, roof_left, roof_right, I_column, I_rafter):
    """Moments of the two-hinged frame by the force method (bending only), sampled along its line from base A to B.

    Loads: functions of the distance along each part giving (x, z) force per metre. One redundant, the thrust H at B:
    H = −∫ M0 m/EI ds / ∫ m²/EI ds with m = −z, the moment of a unit thrust. M positive with tension inside.
    """
    parts = [
        ((0, 0), (0, EAVES), wall_left, I_column),
        ((0, EAVES), (SPAN / 2, EAVES + RISE), roof_left, I_rafter),
        ((SPAN / 2, EAVES + RISE), (SPAN, EAVES), roof_right, I_rafter),
        ((SPAN, EAVES), (SPAN, 0), wall_right, I_column),
    ]
    n = 2000
    points, lengths, stiffness, forces = [], [], [], []
    for (x0, z0), (x1, z1), load, inertia in parts:
        t = (np.arange(n) + 0.5) / n
        length = np.hypot(x1 - x0, z1 - z0)
        points.append(np.stack([x0 + t * (x1 - x0), z0 + t * (z1 - z0)], 1))
        lengths.append(np.full(n, length / n))
        stiffness.append(np.full(n, inertia))
        forces.append(np.array([load(x) for x in t * length]) * length / n)
    at, ds, EI, F = np.concatenate(points), np.concatenate(lengths), np.concatenate(stiffness), np.concatenate(forces)
    # statics with a roller at B: A carries all horizontal force; moments about A give the vertical reaction at B
    VB = -(F[:, 1] @ at[:, 0] - F[:, 0] @ at[:, 1]) / SPAN
    VA, HA = -F[:, 1].sum() - VB, -F[:, 0].sum()
    sumF = np.cumsum(F, axis=0)
    momentA = np.cumsum(F[:, 1] * at[:, 0] - F[:, 0] * at[:, 1])
    # moment of everything to the left of a point about that point, clockwise positive = tension inside
    M0 = VA * at[:, 0] - HA * at[:, 1] + sumF[:, 1] * at[:, 0] - sumF[:, 0] * at[:, 1] - momentA
    m = -at[:, 1]
    H = -(M0 * m / EI * ds).sum() / (m * m / EI * ds).sum()
    return at, M0 + H * m, VA, HA + H


def chi(alpha, slenderness):
    phi = 0.5 * (1 + alpha * (slenderness - 0.2) + slenderness**2)
    return min(1.0, 1 / (phi + sqrt(phi**2 - slenderness**2)))


class Forces(unittest.TestCase):
    def test_snow_by_the_closed_form_of_the_two_hinged_gable_frame(self):
        # Kleinlogel, Rahmenformeln: k = (I_r/I_c)(h/s), m = 1 + f/h, N = 2(k + 1) + m + m(1 + 2m)
        # H = w L² (3 + 5 m) / (16 N h); w = 0.8 · 0.8 · 6 = 3.84 kN/m: H = 24.7 kN, M = 148 kNm
        k = 48200 / 63720 * EAVES / SLOPE
        m = 1 + RISE / EAVES
        N = 2 * (k + 1) + m + m * (1 + 2 * m)
        H = 3.84e3 * SPAN**2 * (3 + 5 * m) / (16 * N * EAVES)
        self.assertAlmostEqual(H, 24.69e3, delta=10)
        chain = run(prismatic_hall())
        nodes = {name: i for i, name in enumerate(chain.structure.nodes)}
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
        found = chain.response.reaction[nodes["frame-4/base-A"], 0, case]
        self.assertAlmostEqual(found / H, 1, delta=0.01)
        # the force method of this file gives the closed form
        snow = lambda _: (0.0, -3.84e3 * cos(PITCH))  # noqa: E731
        none = lambda _: (0.0, 0.0)  # noqa: E731
        self.assertAlmostEqual(two_hinged_frame(none, none, snow, snow, 63720, 48200)[3] / H, 1, delta=1e-4)

    def test_governing_combination_by_the_force_method(self):
        # 1.35 (G1 + G2) + 1.5 S1 + 0.9 W16 on the frame on grid 4
        chain = run(upright(prismatic_hall()))
        formulas = {c.formula for c in chain.combinations if c.use == "strength"}
        self.assertIn("1.35 (G1 + G2) + 1.5 S1 + 0.9 W16", formulas)
        steel, wall, roof = 77.0085, 0.20e3 * SPACING, 0.25e3 * SPACING
        column, rafter = 178.0e-4 * steel * 1e3, 115.5e-4 * steel * 1e3
        h = EAVES + RISE
        cr = 0.19 * np.log(h / 0.05)
        q = (1 + 7 / np.log(h / 0.05)) * cr**2 * 1.25 / 2 * 24**2
        strip = min(42.0, 2 * h) / 10 / cos(PITCH)
        # W16: from the right, pressure on both slopes, c_pi = −0.3
        D, Ew = 0.7 + 0.1 * (h / SPAN - 0.25) / 0.75, -0.3 - 0.2 * (h / SPAN - 0.25) / 0.75
        front, J, I = 0.1, 0.1, -0.3  # noqa: E741
        down = 1.35 * (rafter + roof) + 1.5 * 3.84e3 * cos(PITCH)

        def slope(pressure, sense):
            p = 0.9 * q * SPACING * (pressure + 0.3)
            return (sense * p * sin(PITCH), -down - p * cos(PITCH))

        result = two_hinged_frame(
            lambda _: (0.9 * q * SPACING * (Ew + 0.3), -1.35 * (column + wall)),
            lambda _: (-0.9 * q * SPACING * (D + 0.3), -1.35 * (column + wall)),
            lambda s: slope(J if s > SLOPE - strip else I, 1),
            lambda s: slope(front, -1),
            63720,
            48200,
        )
        at, M, VA, _ = result
        eaves = M[np.argmin(np.hypot(at[:, 0], at[:, 1] - EAVES))]
        self.assertAlmostEqual(eaves / -435.0e3, 1, delta=0.01)
        # the eaves beam and half a ridge beam (SHS 100x5, 18.7 cm²) hang on the column too: 1.35 · 1.5 · 0.864 kN
        VA += 1.35 * 1.5 * 18.7e-4 * steel * 1e3 * SPACING
        self.assertAlmostEqual(VA / 141.9e3, 1, delta=0.002)


class Checks(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(upright(prismatic_hall()))

    def proof(self, member, criterion):
        c = self.chain
        index = c.structure.index[member]
        outcome = next(o for o in c.verification.verdicts[index].outcomes if o.criterion == criterion)
        return prove(c.verification, c.combinations, index, outcome)

    def assert_three_figures(self, found, hand):
        self.assertEqual(f"{found:.3g}", f"{hand:.3g}")

    def test_column(self):
        # HEA 450: A 178.0 cm², Iy 63720, Iz 9465 cm⁴, Wpl,y 3216 cm³, It 243.8 cm⁴, Iw 4 148 000 cm⁶ (published)
        A, Iz, W, It, Iw = 178.0e-4, 9465e-8, 3216e-6, 243.8e-8, 4.148e-6
        N, M = 141.9e3, 435.0e3
        # α_cr of the pitched portal, axial force in the rafters included (Davies, The Structural Engineer 68, 1990)
        R = (63720 / 6) / (48200 / SLOPE)
        alpha = 3 * E * 48200e-8 / (SLOPE * ((1 + 1.2 / R) * N * EAVES + 0.3 * 91.93e3 * SLOPE))
        chi_y = chi(0.21, sqrt(A * FY / (alpha * N)))
        lz = sqrt(A * FY / (pi**2 * E * Iz / 36))
        chi_z = chi(0.34, lz)
        C1 = c1(1, 0.7508, 0.5011, 0.2508, 0)
        euler = pi**2 * E * Iz / 36
        Mcr = C1 * euler * sqrt(Iw / Iz + G * It / euler)
        lLT = sqrt(W * FY / Mcr)
        phi = 0.5 * (1 + 0.34 * (lLT - 0.4) + 0.75 * lLT**2)
        chi_LT = 1 / (phi + sqrt(phi**2 - 0.75 * lLT**2))
        ny, nz, m = N / (chi_y * A * FY), N / (chi_z * A * FY), M / (chi_LT * W * FY)
        kyy = 0.9 * (1 + 0.8 * ny)
        kzy = 1 - 0.1 * nz / (0.6008 - 0.25)
        hand = max(ny + kyy * m, nz + kzy * m)
        self.assertAlmostEqual(hand, 0.474, delta=5e-4)
        # the engine's α_cr is 0.9 % below Davies' formula
        self.assertAlmostEqual(self.proof("frame-4/column-A", "interaction").utilisation / hand, 1, delta=0.006)
        self.assert_three_figures(self.proof("frame-4/column-A", "section").utilisation, M / (W * FY))

    def test_rafter(self):
        # IPE 500: A 115.5 cm², Iy 48200, Iz 2142 cm⁴, Wpl,y 2194 cm³, It 89.29 cm⁴, Iw 1 249 000 cm⁶ (published)
        A, Iy, Iz, W, It, Iw, h = 115.5e-4, 48200e-8, 2142e-8, 2194e-6, 89.29e-8, 1.249e-6, 0.5
        N, M = 91.93e3, 435.0e3
        chi_y = chi(0.21, sqrt(A * FY / (pi**2 * E * Iy / (2 * SLOPE) ** 2)))
        LT = 2 * SLOPE / 9
        is2 = (Iy + Iz) / A + (h / 2) ** 2
        NT = (pi**2 * E * (Iz * (h / 2) ** 2 + Iw) / LT**2 + G * It) / is2
        lT = sqrt(A * FY / NT)
        chi_z = min(chi(0.34, lT), chi(0.34, sqrt(A * FY / (pi**2 * E * Iz / (SLOPE / 9) ** 2))))
        C1 = c1(435.0, 365.5, 300.1, 238.6, 181.0)
        euler = pi**2 * E * Iz / LT**2
        Mcr = C1 * euler * sqrt(Iw / Iz + G * It / euler)
        lLT = sqrt(W * FY / Mcr)
        phi = 0.5 * (1 + 0.49 * (lLT - 0.4) + 0.75 * lLT**2)
        chi_LT = 1 / (phi + sqrt(phi**2 - 0.75 * lLT**2))
        ny, nz, m = N / (chi_y * A * FY), N / (chi_z * A * FY), M / (chi_LT * W * FY)
        hand = max(ny + 0.9 * (1 + 0.8 * ny) * m, nz + (1 - 0.1 * lT * nz / (0.7519 - 0.25)) * m)
        self.assertAlmostEqual(hand, 0.655, delta=5e-4)
        self.assert_three_figures(self.proof("frame-4/rafter-AB-left", "interaction").utilisation, hand)
        self.assert_three_figures(self.proof("frame-4/rafter-AB-left", "lateral").utilisation, m)
