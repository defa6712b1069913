"""Factors and block solves beside SuperLU's own and a dense solution."""

from unittest import TestCase

import numpy as np
from scipy.sparse import csc_array
from scipy.sparse.linalg import splu

from engine.analysis.factors import Factors, sound_factor, sparse_lu
from engine.analysis.solve import assemble
from engine.bench import portal_hall
from engine.expand import expand
from engine.load import load


class FactorsTest(TestCase):
    def stiffness(self) -> csc_array:
        """A hall of three frames."""
        document = portal_hall(3, 1)
        structure = expand(document)
        return assemble(structure, load(document, structure)).Kff

    def test_solves_as_superlu_does(self) -> None:
        K = self.stiffness()
        lu = sparse_lu(K)
        factors, random = Factors(lu), np.random.default_rng(3)
        for count in (0, 1, 7, 64, 301):
            right = random.standard_normal((K.shape[0], count))
            found, theirs = factors.solve(right), lu.solve(right)
            self.assertEqual(found.shape, right.shape)
            np.testing.assert_allclose(found, theirs, rtol=0, atol=1e-12 * np.abs(theirs).max(initial=1.0))

    def test_takes_right_hand_sides_in_any_layout_and_leaves_them(self) -> None:
        K = self.stiffness()
        factors = Factors(sparse_lu(K))
        wide = np.random.default_rng(4).standard_normal((K.shape[0], 12))
        kept = wide.copy()
        expected = factors.solve(wide)
        np.testing.assert_array_equal(factors.solve(np.asfortranarray(wide)), expected)
        np.testing.assert_array_equal(factors.solve(wide[:, ::2]), expected[:, ::2])
        np.testing.assert_array_equal(wide, kept)

    def test_rows_that_change_places(self) -> None:
        # with full pivoting rows and columns are not permuted alike
        random = np.random.default_rng(5)
        dense = random.standard_normal((40, 40)) * (random.random((40, 40)) < 0.3) + np.diag(np.full(40, 1e-3))
        lu = splu(csc_array(dense))
        self.assertFalse(np.array_equal(lu.perm_r, lu.perm_c))
        right = random.standard_normal((40, 5))
        np.testing.assert_allclose(dense @ Factors(lu).solve(right), right, atol=1e-9)

    def test_what_moves_freely_has_no_factors(self) -> None:
        chain = np.diag([1.0, 2.0, 1.0]) - np.diag([1.0, 1.0], 1) - np.diag([1.0, 1.0], -1)
        self.assertIsNone(sound_factor(csc_array(chain)))
        held = sound_factor(csc_array(chain + np.diag([1.0, 0.0, 0.0])))
        assert held is not None
        np.testing.assert_allclose(held.solve(np.array([[0.0], [0.0], [1.0]])).ravel(), [1.0, 2.0, 3.0])
