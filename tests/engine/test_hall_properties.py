"""Properties that hold for every hall: connected, named, symmetric, monotonic where physics says so."""

import unittest

import numpy as np

from engine.analysis.diagrams import deflections, diagrams, peaked
from engine.balance import balances
from engine.chain import fingerprints, respond, run
from engine.document import Document, read_document
from engine.document.jigs import Gable, HallJig
from engine.expand import expand
from engine.structure.axes import local_axes
from tests.engine.helpers import hall

RNG = np.random.default_rng(11)


def random_parameters():
    return {
        "span": float(RNG.uniform(6, 45)),
        "eaves_height": float(RNG.uniform(2.5, 12)),
        "pitch": float(RNG.uniform(5, 45)),
        "frames": int(RNG.integers(2, 12)),
        "spacing": float(RNG.uniform(2, 9)),
        "bases": str(RNG.choice(["pinned", "fixed"])),
        "purlin_spacing": float(RNG.uniform(0.6, 3)),
        "stay_every": int(RNG.integers(0, 5)),
    }


class SetOut(unittest.TestCase):
    def test_random_halls_are_connected_and_supported(self):
        for _ in range(25):
            parameters = random_parameters()
            structure = expand(hall(**parameters))
            reached, frontier = {0}, [0]
            neighbours = {i: set() for i in range(len(structure.nodes))}
            for member in structure.members:
                for a, b in zip(member.nodes[:-1], member.nodes[1:], strict=True):
                    neighbours[a].add(b)
                    neighbours[b].add(a)
            while frontier:
                for other in neighbours[frontier.pop()] - reached:
                    reached.add(other)
                    frontier.append(other)
            self.assertEqual(len(reached), len(structure.nodes), parameters)
            self.assertEqual(int(structure.fixed.any(axis=1).sum()), 2 * parameters["frames"])
            self.assertEqual(len({m.name for m in structure.members}), len(structure.members))

    def test_same_parameters_same_identities(self):
        for _ in range(5):
            parameters = random_parameters()
            first, second = hall(**parameters), hall(**parameters)
            self.assertEqual([m.name for m in expand(first).members], [m.name for m in expand(second).members])
            self.assertEqual(fingerprints(first), fingerprints(second))

    def test_dimensions(self):
        for _ in range(20):
            document = hall(**random_parameters())
            h = document.hall
            structure = expand(document)
            rafter, panel = structure.member("frame-1/rafter-AB-left"), structure.panels[0]
            slope = structure.length(rafter)
            rise = h.span / 2 * np.tan(np.radians(h.bays[0].pitch))
            self.assertAlmostEqual(slope**2, rise**2 + (h.span / 2) ** 2, delta=1e-9)
            self.assertEqual(len(panel.carriers), h.frames)
            self.assertAlmostEqual(panel.area, h.length * slope, delta=1e-6)
            self.assertEqual(rafter.outer[0], 0.0)
            self.assertAlmostEqual(rafter.outer[-1], slope, delta=1e-9)
            self.assertTrue(set(rafter.inner) <= set(rafter.outer))

    def test_panels_close_the_building(self):
        # the panels' areas times their normals sum to nothing but the open ground: no pressure leaves a net lift
        structure = respond(hall(span=20.0, pitch=17.0, frames=5)).structure
        total = sum(p.area * p.outside for p in structure.panels)
        self.assertAlmostEqual(total[0], 0, delta=1e-9)
        self.assertAlmostEqual(total[2], 20.0 * 4 * 6.0, delta=1e-6)

    def test_local_z_of_frame_members_points_outside(self):
        chain = respond(hall())
        middle = np.array([12.0, 0.0, 3.0])
        for e, m in enumerate(chain.response.elements.member):
            member = chain.structure.members[m]
            if member.frame:
                at = chain.structure.xyz[chain.response.elements.ends[e]].mean(axis=0)
                outwards = at - middle
                outwards[1] = 0
                self.assertGreater(float(chain.response.elements.axes[e, 2] @ outwards), 0, member.name)

    def test_local_z_of_gable_posts_points_outside(self):
        posts = Gable(kind="posts", posts=3)
        structure = expand(Document(hall=HallJig(front=posts, back=posts)))
        found = {"front": 0, "back": 0}
        for m in structure.members:
            if m.role == "gable post":
                ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
                z = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0, 2]
                middle = structure.xyz[:, 1].mean()
                self.assertAlmostEqual(abs(z[1]), 1, delta=1e-9)
                self.assertGreater(z[1] * (ends[0, 1] - middle), 0, m.name)
                found[m.place] += 1
        self.assertEqual(found, {"front": 3, "back": 3})


class Physics(unittest.TestCase):
    def test_symmetric_snow_gives_symmetric_moments(self):
        chain = respond(hall())
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
        d = diagrams(chain.response)
        of = {m.name: i for i, m in enumerate(chain.structure.members)}
        e = chain.response.elements.member
        for one, other in (("column-A", "column-B"), ("rafter-AB-left", "rafter-AB-right")):
            left = d.My[e == of[f"frame-4/{one}"], :, case]
            right = d.My[e == of[f"frame-4/{other}"], :, case]
            # the bracing of the end bays is alike on both sides, so the frame's mirror image is itself
            self.assertLess(np.abs(left - right).max(), 2e-3 * np.abs(left).max())

    def test_twice_the_snow_twice_the_response(self):
        one, two = respond(hall()), respond(read_document({"hall": {}, "site": {"ground_snow": 1.6}}))
        case = next(i for i, c in enumerate(one.loading.cases) if c.symbol == "S2")
        np.testing.assert_allclose(
            two.response.displacement[:, :, case], 2 * one.response.displacement[:, :, case], atol=1e-12
        )

    def test_combinations_superpose(self):
        chain = respond(hall(frames=3))
        combination = chain.combinations[40]
        alone = diagrams(chain.response)
        together = alone.combined(combination.factors[None])
        expected = sum(f * alone.My[:, :, i] for i, f in enumerate(combination.factors))
        np.testing.assert_allclose(together.My[:, :, 0], expected, atol=1e-6)

    def test_fixed_bases_sway_less(self):
        sway = []
        for bases in ("pinned", "fixed"):
            chain = run(hall(bases=bases))
            sway.append(
                max(o.utilisation for v in chain.verification.verdicts for o in v.outcomes if o.criterion == "sway")
            )
        self.assertLess(sway[1], 0.6 * sway[0])

    def test_heavier_rafters_are_used_less(self):
        use = []
        for name in ("IPE 400", "IPE 500", "IPE 600"):
            chain = run(hall(sections={"columns": "HEA 450", "rafters": name}))
            rafters = [v for v in chain.verification.verdicts if chain.structure.members[v.member].slot == "rafters"]
            use.append(max(v.governing.utilisation for v in rafters))
        self.assertEqual(use, sorted(use, reverse=True))

    def test_displacements_of_elements_meet_at_the_nodes(self):
        chain = respond(hall(frames=3))
        w = deflections(chain.response)
        u = chain.response.displacement[:, :3]
        for e, (a, b) in enumerate(chain.response.elements.ends):
            np.testing.assert_allclose(w[e, 0], u[a], atol=1e-10)
            np.testing.assert_allclose(w[e, -1], u[b], atol=1e-9)

    def test_peaks_only_raise(self):
        chain = respond(hall(frames=3))
        d = diagrams(chain.response)
        p = peaked(d, chain.response.loads)
        self.assertTrue((np.abs(p.My) >= np.abs(d.My) - 1e-9).all())
        # two thousand stations see nothing beyond the peaks, moments and shears
        fine = diagrams(chain.response, chain.response.elements.length[:, None] * np.linspace(0, 1, 2001))
        for name, small in (("My", 1.0), ("Mz", 1.0), ("Vy", 1.0), ("Vz", 1.0), ("N", 1.0)):
            over = np.abs(getattr(fine, name)).max(axis=1) / np.maximum(np.abs(getattr(p, name)).max(axis=1), small)
            self.assertLess(over.max(), 1 + 1e-6, name)

    def test_reactions_of_every_combination_balance_its_loads(self):
        chain = respond(hall(frames=4))
        expected = chain.loading.borne
        for combination in chain.combinations[::25]:
            reacted = -(chain.response.reaction[:, :3] @ combination.factors).sum(axis=0)
            np.testing.assert_allclose(reacted, combination.factors @ expected, rtol=1e-6, atol=1.0)

    def test_balance_names_directions(self):
        chain = respond(hall(frames=3))
        for case, b in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
            if case.nature in ("permanent", "imposed", "snow"):
                self.assertLess(b.applied[2], 0)
                self.assertAlmostEqual(b.applied[0], 0, delta=1e-6)
            for words, axis, sign in (("left", 0, 1), ("right", 0, -1), ("front", 1, 1), ("back", 1, -1)):
                if f"Wind from {words}" in case.name:
                    self.assertGreater(sign * b.applied[axis], 0)
                    self.assertAlmostEqual(b.applied[1 - axis], 0, delta=1e-6)
