"""Slabs in the frame: how they are divided, joined, loaded and held, against closed forms."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from shapely.geometry import LineString, Polygon

from engine import chain
from engine.analysis.modes import natural_modes
from engine.analysis.shell import RESULTANTS
from engine.analysis.slabs import Within, substructure, within
from engine.balance import balances
from engine.chain import Forces
from engine.demo_boiler_house import boiler_house
from engine.document import Document
from engine.dossier.slabs import isolines, slab_blocks
from engine.dossier.values import Figure, Table
from engine.editing.apply import operate
from engine.editing.operations import Draw, Support
from engine.errors import ModelError
from engine.expand import expand
from engine.report.acting import pressed
from engine.report.slabs import pictured, slab_extremes
from engine.structure.audit import audit
from engine.structure.mesh import divide

ALL = ["x", "y", "z", "rx", "ry", "rz"]


def stated(**parts: Any) -> Document:
    return Document.model_validate({"units": "kN, m", "cases": [{"name": "Q", "nature": "imposed"}], **parts})


def slab(**own: Any) -> dict[str, Any]:
    """A panel that bends; what is of the slab itself in `slab`."""
    return {"name": "slab", "diaphragm": "slab"} | own


def corners(a: float, b: float, z: float = 3.0) -> list[dict[str, Any]]:
    places = {"a": (0, 0, z), "b": (a, 0, z), "c": (a, b, z), "d": (0, b, z)}
    return [{"name": name, "at": list(at)} for name, at in places.items()]


#: a post of its own, so that something stands beside the slab
POST: dict[str, Any] = {"name": "post", "start": "foot", "end": "head", "section": "HEA 200"}
POST_NODES = [{"name": "foot", "at": [40, 0, 0]}, {"name": "head", "at": [40, 0, 3]}]


def solved(document: Document) -> tuple[Forces, Within]:
    """The response to the case Q, and what goes on in the first slab."""
    forces = chain.respond(document)
    number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
    factors = np.zeros((1, len(forces.loading.cases)))
    factors[0, number] = 1.0
    moved = forces.response.displacement[:, :, [number]]
    structure = forces.structure
    return forces, within(structure, structure.slabs[0], forces.loading, factors, moved)


def at(forces: Forces, found: Within, place: tuple[float, float], which: str) -> list[float]:
    """Values of a resultant at a place of the first slab, in its own axes."""
    own = forces.structure.slabs[0]
    point = int(np.argmin(np.linalg.norm(own.flat - place, axis=1)))
    places = np.unique(found.corner[own.cells == point])
    return [float(v) for v in found.resultants[places, RESULTANTS.index(which), 0]]


class DividedTests(unittest.TestCase):
    def area(self, points: Any, cells: Any) -> float:
        flat = points[cells]
        x, y = flat[..., 0], flat[..., 1]
        return float((x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum() / 2)

    def test_at_right_angles_in_rectangles(self) -> None:
        area = Polygon([(0, 0), (6, 0), (6, 4), (0, 4)], [[(2, 1), (3, 1), (3, 2), (2, 2)]])
        mesh = divide(area, np.array([[1.3, 2.2]]), np.array([[[0, 3], [6, 3.0]]]), 0.5)
        self.assertAlmostEqual(self.area(mesh.points, mesh.cells), 23.0)
        for wanted in ([1.3, 2.2], [2, 1], [3, 2], [0, 3]):
            self.assertLess(np.linalg.norm(mesh.points - wanted, axis=1).min(), 1e-9)
        sides = np.linalg.norm(mesh.points[mesh.cells] - np.roll(mesh.points[mesh.cells], -1, axis=1), axis=2)
        self.assertLess(sides.max(), 0.5 + 1e-9)

    def test_turned_is_the_same(self) -> None:
        c, s = np.cos(0.4), np.sin(0.4)
        turn = np.array([[c, s], [-s, c]])
        plain = np.array([(0, 0), (6, 0), (6, 4), (0, 4.0)])
        one = divide(Polygon(plain), np.zeros((0, 2)), np.zeros((0, 2, 2)), 0.7)
        other = divide(Polygon(plain @ turn), np.zeros((0, 2)), np.zeros((0, 2, 2)), 0.7)
        self.assertEqual(one.cells.shape, other.cells.shape)
        self.assertAlmostEqual(self.area(other.points, other.cells), 24.0)

    def test_of_any_outline(self) -> None:
        area = Polygon([(0, 0), (6, 0), (8, 4), (3, 6), (0, 4)], [[(2, 1), (3, 1), (3, 2), (2, 2)]])
        line = np.array([[[0, 3], [7.5, 3.0]]])
        mesh = divide(area, np.array([[1.3, 2.2]]), line, 0.5)
        self.assertAlmostEqual(self.area(mesh.points, mesh.cells), area.area, places=6)
        self.assertLess(np.linalg.norm(mesh.points - [1.3, 2.2], axis=1).min(), 1e-9)
        # no cell lies across the line
        y = mesh.points[mesh.cells][..., 1]
        self.assertFalse(((y.min(axis=1) < 3 - 1e-6) & (y.max(axis=1) > 3 + 1e-6)).any())
        # every inner side has two cells: nothing hangs
        three = mesh.cells[:, 2] == mesh.cells[:, 3]
        sides = [
            tuple(sorted(p))
            for c, t in zip(mesh.cells.tolist(), three, strict=True)
            for p in _sides(c[: 3 if t else 4])
        ]
        once = {side for side in sides if sides.count(side) == 1}
        edge = area.boundary
        for a, b in once:
            self.assertLess(edge.distance(LineString(mesh.points[[a, b]]).centroid), 1e-6)


def _sides(cell: list[int]) -> list[tuple[int, int]]:
    return list(zip(cell, cell[1:] + cell[:1], strict=True))


class BentTests(unittest.TestCase):
    def plate(self, fixed: list[str], size: float = 0.25, **more: Any) -> Document:
        """6 × 6 m, 60 mm thin, held along its edges, 10 kN/m²; E and ν by hand."""
        held = [{"edge": k, "fixed": fixed} for k in (1, 2, 3, 4)]
        return stated(
            nodes=[*corners(6, 6), *POST_NODES],
            members=[POST],
            materials=[{"name": "plate", "E": 30e6, "G": 30e6 / 2.6}],
            supports=[
                {"node": "foot", "fixed": ALL},
                {"node": "a", "fixed": ["x", "y", "z"]},
                {"node": "b", "fixed": ["y", "z"]},
            ],
            panels=[
                slab(
                    corners=["a", "b", "c", "d"],
                    slab={"thickness": 0.06, "material": "plate", "size": size, "held": held},
                )
            ],
            panel_loads=[{"case": "Q", "panel": "slab", "pressure": 10.0, "axes": "down"}],
            **more,
        )

    def test_simply_supported(self) -> None:
        # Timoshenko and Woinowsky-Krieger, table 8: 0.00406 q a⁴/D, 0.0479 q a², ν = 0.3
        forces, found = solved(self.plate(["z"]))
        D = 30e9 * 0.06**3 / 12 / (1 - 0.3**2)
        w = -found.movement[:, 2, 0].min()
        self.assertAlmostEqual(w * D / (10e3 * 6**4) / 0.00406, 1, delta=0.006)
        for which in ("mx", "my"):
            self.assertAlmostEqual(at(forces, found, (3, 3), which)[0] / (10e3 * 36) / 0.0479, 1, delta=0.01)

    def test_clamped(self) -> None:
        forces, found = solved(self.plate(["z", "rx", "ry"]))
        # Taylor and Govindjee 2004: 0.022905 and −0.051334 q a²; shear 0.4420 q a in the middle of an edge
        self.assertAlmostEqual(at(forces, found, (3, 3), "mx")[0] / 360e3 / 0.022905, 1, delta=0.01)
        self.assertAlmostEqual(at(forces, found, (0, 3), "mx")[0] / 360e3 / -0.051334, 1, delta=0.02)
        self.assertAlmostEqual(abs(at(forces, found, (0, 3), "vx")[0]) / 60e3 / 0.442, 1, delta=0.05)

    def test_cells_say_how_coarse_they_are(self) -> None:
        # errors of the energy fall with the square of the width of the cells, and are as large as the deflection tells
        one, other = (solved(self.plate(["z", "rx", "ry"], size))[1] for size in (0.6, 0.3))
        self.assertAlmostEqual(one.coarse[0] / other.coarse[0], 4, delta=0.8)
        w = [-found.movement[:, 2, 0].min() for found in (one, other)]
        D = 30e9 * 0.06**3 / 12 / (1 - 0.3**2)
        exact = 0.00126532 * 10e3 * 6**4 / D
        self.assertLess(abs(1 - w[0] / exact), one.coarse[0])
        self.assertLess(one.coarse[0], 0.1)

    def test_it_swings(self) -> None:
        # Timoshenko and Woinowsky-Krieger, article on vibration: f = π/2 (m² + n²)/a² √(D/(ρ t))
        document = self.plate(["z"], 0.25, rules={"imperfections": False})
        document.materials[0].density = 2500.0
        forces = chain.respond(document)
        permanent = np.array([float(c.nature == "permanent") for c in forces.loading.cases])
        found = natural_modes(forces.response.system, permanent)
        D = 30e9 * 0.06**3 / 12 / (1 - 0.3**2)
        wanted = [np.pi / 2 * k / 36 * np.sqrt(D / (2500 * 0.06)) for k in (2, 5, 5, 8)]
        own = [m for m in found if np.abs(m.slabs[0][:, 2]).max() > 0.5]
        np.testing.assert_allclose([m.value for m in own[:4]], wanted, rtol=0.01)
        # half a wave each way: the largest in the middle
        flat = forces.structure.slabs[0].flat
        middle = int(np.argmin(np.linalg.norm(flat - 3, axis=1)))
        self.assertAlmostEqual(abs(own[0].slabs[0][middle, 2]), 1.0, places=6)

    def test_every_case_balances(self) -> None:
        for balance in balances(*(lambda f: (f.loading, f.response))(solved(self.plate(["z"]))[0])):
            self.assertTrue(balance.holds, balance)

    def test_a_part_of_it_is_loaded(self) -> None:
        # a square metre off the middle: its force, and its moment about the edges
        document = self.plate(["z"])
        part = np.array([(1.1, 2.3, 3), (2.1, 2.3, 3), (2.1, 3.3, 3), (1.1, 3.3, 3)])
        panel = expand(document).panels[0]
        document.panel_loads[0].part = [(s, t) for s, t in panel.flat(part).tolist()]
        forces, _ = solved(document)
        place = (1.6, 2.8)
        number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
        reaction = forces.response.reaction[:, :, number]
        self.assertAlmostEqual(reaction[:, 2].sum(), 10e3, delta=1e-3)
        for axis in (0, 1):
            self.assertAlmostEqual((reaction[:, 2] * forces.structure.xyz[:, axis]).sum() / 10e3, place[axis], places=4)

    def test_what_lies_on_it_is_drawn_with_its_factors(self) -> None:
        document = self.plate(["z"])
        part = np.array([(1.1, 2.3, 3), (2.1, 2.3, 3), (2.1, 3.3, 3), (1.1, 3.3, 3)])
        panel = expand(document).panels[0]
        document.panel_loads[0].part = [(s, t) for s, t in panel.flat(part).tolist()]
        forces, _ = solved(document)
        factors = np.array([1.5 if c.name == "Q" else 0.0 for c in forces.loading.cases])
        (found,) = pressed(forces.structure, forces.loading, factors)
        # 10 kN/m² on a square metre, where it lies
        self.assertTrue(np.allclose(found.force, [[0, 0, -15e3]] * 4))
        self.assertTrue(np.allclose(sorted(map(tuple, found.corners.tolist())), sorted(map(tuple, part.tolist()))))

    def test_its_own_weight(self) -> None:
        document = self.plate(["z"], rules={"imperfections": False})
        document.panels[0].slab.material = "C25/30"
        forces = chain.respond(document)
        weight = next(i for i, c in enumerate(forces.loading.cases) if c.name.startswith("Self-weight"))
        post = forces.structure.mass(forces.structure.member("post")) * 9.81
        self.assertAlmostEqual(-forces.loading.expected[weight][2], 36 * 0.06 * 2500 * 9.81 + post, delta=40)
        self.assertAlmostEqual(forces.structure.masses()["C25/30"], 36 * 0.06 * 2500)


class OnMembersTests(unittest.TestCase):
    def strip(self, rise: float, joint: str = "rigid", width: float = 1.0) -> Document:
        """A beam of 8 m with a slab of `width` on its axis, `rise` above it; ν = 0 and no own weight."""
        half = width / 2
        return stated(
            nodes=[{"name": "s", "at": [0, 0, 4]}, {"name": "e", "at": [8, 0, 4]}],
            members=[{"name": "beam", "start": "s", "end": "e", "section": "IPE 300", "role": "main beam"}],
            materials=[{"name": "deck", "E": 30e6, "G": 15e6}],
            supports=[
                {"node": "s", "fixed": ["x", "y", "z", "rx"]},
                {"node": "e", "fixed": ["y", "z", "rx"]},
            ],
            panels=[
                slab(
                    corners=[[0, -half, 4], [8, -half, 4], [8, half, 4], [0, half, 4]],
                    slab={"thickness": 0.12, "material": "deck", "size": 0.25, "rise": rise, "joint": joint},
                )
            ],
            panel_loads=[{"case": "Q", "panel": "slab", "pressure": 10.0 / width, "axes": "down"}],
            analysis={"shear_deformation": False},
        )

    def sag(self, document: Document) -> float:
        forces, _ = solved(document)
        number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
        # of the beam in its middle, not of what is free beside it
        middle = int(np.argmin(np.linalg.norm(forces.structure.xyz - [4, 0, 4], axis=1)))
        return float(-forces.response.displacement[middle, 2, number])

    def test_they_share_the_load_by_their_stiffness(self) -> None:
        steel, concrete = 210e9 * 83.56e-6, 30e9 * 1.0 * 0.12**3 / 12
        wanted = 5 * 10e3 * 8**4 / 384 / (steel + concrete)
        self.assertAlmostEqual(self.sag(self.strip(0.0)) / wanted, 1, delta=0.01)

    def test_above_the_beam_they_act_as_one(self) -> None:
        # a T of two materials: E A of both about their common axis
        e = 0.15 + 0.06
        EA_s, EA_c = 210e9 * 53.81e-4, 30e9 * 0.12
        EI = 210e9 * 83.56e-6 + 30e9 * 0.12**3 / 12 + EA_s * EA_c / (EA_s + EA_c) * e**2
        self.assertAlmostEqual(self.sag(self.strip(e)) / (5 * 10e3 * 8**4 / 384 / EI), 1, delta=0.015)

    def test_loads_lie_on_the_slab_not_on_carriers(self) -> None:
        forces, _ = solved(self.strip(0.21))
        number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
        table = forces.loading.table(forces.structure)
        self.assertFalse((table.case == number).any())
        self.assertTrue(all(b.holds for b in balances(forces.loading, forces.response)))
        self.assertAlmostEqual(forces.response.reaction[:, 2, number].sum(), 80e3, delta=1.0)

    def test_a_hinged_one_takes_no_moment_from_a_beam_that_twists(self) -> None:
        document = self.strip(0.0, "hinged", 1.0)
        with self.assertRaisesRegex(ModelError, "it can turn freely"):
            chain.respond(document)

    def test_shear_differs_on_both_sides_of_a_beam(self) -> None:
        # a slab over two spans of 4 m on three beams on walls: a strip with ν = 0: V = ∓ 5/8 q l at the middle support
        beams = [{"name": f"b{i}", "start": f"s{i}", "end": f"e{i}", "section": "HEB 600"} for i in range(3)]
        nodes = [{"name": f"{k}{i}", "at": [4 * i, y, 4]} for i in range(3) for k, y in (("s", 0), ("e", 2))]
        document = stated(
            nodes=nodes,
            members=beams,
            materials=[{"name": "deck", "E": 1e6, "G": 0.5e6}],
            supports=[{"node": n["name"], "fixed": ["x", "y", "z", "ry"]} for n in nodes],
            panels=[
                slab(
                    corners=["s0", "s2", "e2", "e0"],
                    slab={"thickness": 0.12, "material": "deck", "size": 0.25, "joint": "hinged"},
                )
            ],
            panel_loads=[{"case": "Q", "panel": "slab", "pressure": 10.0, "axes": "down"}],
        )
        forces, found = solved(document)
        left, right = sorted(at(forces, found, (4, 1), "vx"))
        self.assertAlmostEqual(left / 1e3, -25.0, delta=0.5)
        self.assertAlmostEqual(right / 1e3, 25.0, delta=0.5)
        self.assertAlmostEqual(at(forces, found, (4, 1), "mx")[0] / 1e3, -20.0, delta=0.4)
        self.assertAlmostEqual(at(forces, found, (1.5, 1), "mx")[0] / 1e3, 9 / 128 * 160, delta=0.3)


class JoinedTests(unittest.TestCase):
    def test_on_columns_alone(self) -> None:
        nodes = [
            *corners(6, 5),
            *({"name": f"f{c}", "at": [x, y, 0]} for c, x, y in (("a", 0, 0), ("b", 6, 0), ("c", 6, 5), ("d", 0, 5))),
        ]
        document = stated(
            nodes=nodes,
            members=[{"name": c, "start": f"f{c}", "end": c, "section": "HEA 200", "role": "column"} for c in "abcd"],
            supports=[{"node": f"f{c}", "fixed": ALL} for c in "abcd"],
            panels=[slab(corners=list("abcd"), imposed=4.0)],
        )
        forces = chain.respond(document)
        self.assertEqual(len(forces.structure.slabs[0].joined), 4)
        self.assertFalse([s for s in audit(forces.structure) if s.weight == "fault"])
        imposed = next(i for i, c in enumerate(forces.loading.cases) if c.nature == "imposed")
        reacted = forces.response.reaction[[forces.structure.nodes.index(f"f{c}") for c in "abcd"], 2, imposed]
        # a rectangle on its corners, doubly symmetric: a quarter each
        wanted = -forces.loading.expected[imposed][2] / 4
        np.testing.assert_allclose(reacted, wanted, rtol=1e-6)

    def test_a_post_in_the_middle_stands_on_the_slab(self) -> None:
        nodes = [
            *corners(6, 5),
            *({"name": f"f{c}", "at": [x, y, 0]} for c, x, y in (("a", 0, 0), ("b", 6, 0), ("c", 6, 5), ("d", 0, 5))),
        ]
        parts: dict[str, Any] = {
            "nodes": [*nodes, {"name": "low", "at": [2.3, 1.9, 3]}, {"name": "high", "at": [2.3, 1.9, 5]}],
            "members": [
                *({"name": c, "start": f"f{c}", "end": c, "section": "HEA 200", "role": "column"} for c in "abcd"),
                {"name": "post", "start": "low", "end": "high", "section": "HEA 120"},
            ],
            "panels": [slab(corners=list("abcd"))],
            "node_loads": [{"case": "Q", "node": "high", "force": [0, 0, -50]}],
        }
        held = [{"node": f"f{c}", "fixed": ALL} for c in "abcd"]
        document = stated(**parts, supports=held)
        forces = chain.respond(document)
        self.assertEqual([s.what for s in audit(forces.structure) if s.weight != "note"], [])
        number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
        feet = [forces.structure.nodes.index(f"f{c}") for c in "abcd"]
        reacted = forces.response.reaction[feet, 2, number]
        self.assertAlmostEqual(reacted.sum(), 50e3, delta=1e-3)
        # a support under it would keep its load from the slab: that is told
        told = audit(expand(stated(**parts, supports=[*held, {"node": "low", "fixed": ["z"]}])))
        self.assertEqual([(s.kind, s.weight) for s in told if s.weight != "note"], [("in mid-air", "doubt")])

    def test_a_column_that_passes_through_is_joined(self) -> None:
        nodes = [*corners(6, 6), {"name": "low", "at": [2.2, 3.1, 0]}, {"name": "high", "at": [2.2, 3.1, 6]}]
        document = stated(
            nodes=nodes,
            members=[{"name": "column", "start": "low", "end": "high", "section": "HEB 200", "role": "column"}],
            supports=[{"node": "low", "fixed": ALL}],
            panels=[slab(corners=list("abcd"))],
        )
        structure = expand(document)
        (_, passed, _) = structure.member("column").nodes
        np.testing.assert_allclose(structure.xyz[passed], [2.2, 3.1, 3.0])
        self.assertIn(passed, structure.slabs[0].joined)

    def test_slabs_and_walls_share_points_where_they_meet(self) -> None:
        nodes = [*corners(6, 4), {"name": "e", "at": [11, 0, 3]}, {"name": "f", "at": [11, 4, 3]}]
        wall = [[0, 1, 0], [6, 1, 0], [6, 1, 3], [0, 1, 3]]
        document = stated(
            nodes=nodes,
            members=[{"name": "strut", "start": "b", "end": "c", "section": "IPE 200"}],
            panels=[
                slab(name="one", corners=list("abcd"), slab={"size": 0.5}),
                slab(
                    name="two", corners=["b", "e", "f", "c"], slab={"size": 0.35, "held": [{"edge": 2, "fixed": ALL}]}
                ),
                slab(name="wall", corners=wall, slab={"size": 0.6, "held": [{"edge": 1, "fixed": ALL}]}),
            ],
            panel_loads=[{"case": "Q", "panel": "one", "pressure": 5.0, "axes": "down"}],
        )
        forces = chain.respond(document)
        one, two, wall_ = forces.structure.slabs
        edge = [n for n in one.joined if abs(forces.structure.xyz[n, 0] - 6) < 1e-6]
        self.assertTrue(set(edge) <= set(two.joined))
        on_wall = {n for n in one.joined if abs(forces.structure.xyz[n, 1] - 1) < 1e-6}
        self.assertGreater(len(on_wall), 10)
        self.assertTrue(on_wall <= set(wall_.joined))
        self.assertTrue(all(b.holds for b in balances(forces.loading, forces.response)))

    def test_a_beam_across_an_opening_leaves_no_narrow_cells(self) -> None:
        document = stated(
            nodes=[*corners(6, 4), {"name": "s", "at": [0, 2, 3]}, {"name": "e", "at": [6, 2, 3]}],
            supports=[{"node": n, "fixed": ["x", "y", "z"]} for n in "abcd"],
            members=[{"name": "beam", "start": "s", "end": "e", "section": "IPE 200"}],
            panels=[slab(corners=list("abcd"), openings=[[[2, 1, 3], [4, 1, 3], [4, 3, 3], [2, 3, 3]]])],
        )
        structure = expand(document)
        flat = structure.slabs[0].flat[structure.slabs[0].cells]
        self.assertGreater(np.linalg.norm(flat - np.roll(flat, -1, axis=1), axis=2).min(), 0.4)
        # it is joined on both sides of the opening, and free over it
        along = structure.xyz[list(structure.member("beam").nodes), 0]
        self.assertFalse(((along > 2 + 1e-6) & (along < 4 - 1e-6)).any())
        self.assertEqual(len(along), 10)

    def test_slabs_of_one_shape_are_reduced_once(self) -> None:
        nodes = [{"name": f"{k}{i}", "at": [5 * i, y, 3]} for i in range(4) for k, y in (("s", 0), ("e", 4))]
        document = stated(
            nodes=nodes,
            supports=[{"node": n["name"], "fixed": ["x", "y", "z"]} for n in nodes],
            members=[{"name": f"b{i}", "start": f"s{i}", "end": f"e{i}", "section": "IPE 200"} for i in range(4)],
            panels=[slab(name=f"p{i}", corners=[f"s{i}", f"s{i + 1}", f"e{i + 1}", f"e{i}"]) for i in range(3)],
        )
        slabs = expand(document).slabs
        one, two, three = (substructure(s) for s in slabs)
        self.assertIs(one.parts, two.parts)
        self.assertIs(two.parts, three.parts)
        self.assertNotEqual(one.joined.tolist(), two.joined.tolist())

    def test_openings_are_left_out(self) -> None:
        document = stated(
            nodes=corners(6, 4),
            supports=[{"node": n, "fixed": ["x", "y", "z"]} for n in "abcd"],
            members=[{"name": "strut", "start": "a", "end": "b", "section": "IPE 200"}],
            panels=[slab(corners=list("abcd"), openings=[[[2, 1, 3], [4, 1, 3], [4, 3, 3], [2, 3, 3]]])],
        )
        self.assertAlmostEqual(expand(document).slabs[0].area, 20.0)

    def test_floors_of_a_jig_bend_over_their_beams(self) -> None:
        document = Document.model_validate(
            {
                "units": "kN, m",
                "grid": [
                    *({"name": n, "axis": "X", "at": x} for n, x in (("A", 0), ("B", 6), ("C", 12))),
                    *({"name": n, "axis": "Y", "at": y} for n, y in (("1", 0), ("2", 5), ("3", 10))),
                ],
                "jigs": [
                    {
                        "kind": "floor",
                        "name": "floor",
                        "across": ["A", "C"],
                        "along": ["1", "3"],
                        "diaphragm": "slab",
                        "slab": {"size": 1.0},
                        "braced": [{"line": "A", "bay": 1}, {"line": "1", "bay": 1}],
                    }
                ],
            }
        )
        forces = chain.respond(document)
        self.assertGreater(len(forces.structure.slabs), 3)
        imposed = next(i for i, c in enumerate(forces.loading.cases) if c.nature == "imposed")
        self.assertAlmostEqual(-forces.loading.expected[imposed][2], 12 * 10 * 5e3, delta=1.0)
        self.assertTrue(all(b.holds for b in balances(forces.loading, forces.response)))


class ToldTests(unittest.TestCase):
    """What is said of slabs, over all combinations."""

    chain: chain.Chain

    @classmethod
    def setUpClass(cls) -> None:
        cls.chain = chain.run(boiler_house())

    def test_the_extremes_are_those_of_single_combinations(self) -> None:
        (row,) = slab_extremes(self.chain)
        envelope = pictured(self.chain, "floor", "envelope")
        for key in ("mx", "my", "mxy", "vx", "nxy", "m1", "m2"):
            most, least = row.found[key]
            self.assertAlmostEqual(envelope.most[key].max(), most.value, places=6)
            self.assertAlmostEqual(envelope.least[key].min(), least.value, places=6)
            one = pictured(self.chain, "floor", most.combination)
            self.assertAlmostEqual(one.most[key].max() / most.value, 1, places=9)
        sag, _ = row.found["w"]
        self.assertEqual(next(c.use for c in self.chain.combinations if c.name == sag.combination), "deflection")
        # as far as the frame moves there
        near = int(np.argmin(np.linalg.norm(self.chain.structure.slabs[0].points - sag.at, axis=1)))
        self.assertAlmostEqual(np.linalg.norm(self.chain.structure.slabs[0].points[near] - sag.at), 0)

    def test_in_a_combination_cases_add_up_in_first_order(self) -> None:
        name = next(c.name for c in self.chain.combinations if c.use == "deflection")
        number = [c.name for c in self.chain.combinations].index(name)
        whole = pictured(self.chain, "floor", name).most["my"]
        parts = np.zeros_like(whole)
        for factor, case in zip(self.chain.combined.rows[number], self.chain.loading.cases, strict=True):
            if factor:
                parts += factor * pictured(self.chain, "floor", case.symbol).most["my"]
        np.testing.assert_allclose(parts, whole, atol=2e-2 * np.abs(whole).max())

    def test_the_verdict_leaves_them_out(self) -> None:
        self.assertIn("told, not verified", " ".join(words for words, _ in self.chain.verification.whole.left_out))

    def test_the_dossier_draws_their_moments(self) -> None:
        blocks = slab_blocks(self.chain)
        (table,) = (b for b in blocks if isinstance(b, Table))
        self.assertEqual(len(table.rows), 6)
        figures = [b for b in blocks if isinstance(b, Figure)]
        self.assertEqual(len(figures), 4)
        said = {w.words for w in figures[0].drawing.words}
        envelope = pictured(self.chain, "floor", "envelope").most["mx"] / 1e3
        self.assertIn(f"{envelope.max():.1f}", said)

    def test_lines_of_equal_value(self) -> None:
        # over one cell of 2 × 1 with the value x: straight lines across it
        flat, values = np.array([[[0, 0], [2, 0], [2, 1], [0, 1.0]]]), np.array([[0, 2.0, 2, 0]])
        (line,) = isolines(flat, values, np.array([0.5]))
        np.testing.assert_allclose(line[:, 0], 0.5)
        self.assertEqual(sorted(line[[0, -1], 1].tolist()), [0.0, 1.0])

    def test_a_model_that_is_stored_keeps_its_slabs(self) -> None:
        document = boiler_house()
        again = Document.model_validate(document.model_dump(mode="json"))
        self.assertEqual(again, document)
        self.assertEqual(chain.fingerprints(again), self.chain.fingerprints)
        thicker = document.model_copy(deep=True)
        thicker.panels[0].slab.thickness = 0.25
        self.assertNotEqual(chain.fingerprints(thicker)["structure"], self.chain.fingerprints["structure"])


class DrawnOnTests(unittest.TestCase):
    """Nodes at which a slab cuts members are none of the document's: what is drawn from one states it."""

    def test_a_post_from_where_a_slab_is_joined(self) -> None:
        document = boiler_house()
        structure = expand(document)
        at = next(n for n in structure.slabs[0].joined if structure.nodes[n] in structure.passing)
        name, (x, y, z) = structure.nodes[at], structure.xyz[at].tolist()
        draw = Draw(do="draw", points=[name, (x, y, z + 3.0)], section="HEA 120")
        drawn = operate(document, draw)
        self.assertEqual([n.at for n in drawn.nodes if n not in document.nodes], [(x, y, z), (x, y, z + 3.0)])
        again = expand(drawn)
        foot = again.member(drawn.members[-1].name).nodes[0]
        self.assertIn(foot, again.slabs[0].joined)
        held = operate(document, Support(do="support", nodes=[name], fixed=["z"]))
        self.assertEqual(len(held.supports), len(document.supports) + 1)
        self.assertTrue(expand(held).fixed[expand(held).nodes.index(held.supports[-1].node), 2])


class RefusedTests(unittest.TestCase):
    def refused(self, words: str, panels: list[dict[str, Any]], **more: Any) -> None:
        document = stated(
            nodes=[*corners(6, 4), *POST_NODES],
            members=[POST],
            supports=[{"node": "foot", "fixed": ALL}],
            panels=panels,
            **more,
        )
        with self.assertRaisesRegex(ModelError, words):
            expand(document)

    def test_what_cannot_be_analysed(self) -> None:
        edges = [{"edge": k, "fixed": ["x", "y", "z"]} for k in (1, 3)]
        alone = stated(nodes=corners(6, 4), panels=[slab(corners=list("abcd"), slab={"held": edges})])
        with self.assertRaisesRegex(ModelError, "Slabs alone are not analysed"):
            chain.run(alone)
        one = {"held": edges[:1]}
        flap = stated(
            nodes=[*corners(6, 4), *POST_NODES],
            members=[POST],
            supports=[{"node": "foot", "fixed": ALL}],
            panels=[slab(corners=list("abcd"), slab=one)],
        )
        with self.assertRaisesRegex(ModelError, "is a mechanism: node"):
            chain.run(flap)

    def test_one_that_rests_on_nothing(self) -> None:
        corners_ = [[20, 0, 0], [24, 0, 0], [24, 4, 0], [20, 4, 0]]
        self.refused("rests on nothing", [slab(corners=corners_)])

    def test_two_that_pass_through_each_other(self) -> None:
        wall = [[2, 1, 1], [5, 1, 1], [5, 1, 5], [2, 1, 5]]
        self.refused("pass through each other", [slab(corners=list("abcd")), slab(name="wall", corners=wall)])

    def test_an_edge_that_is_not_there(self) -> None:
        held = {"held": [{"edge": 5}]}
        self.refused("has 4 edges: there is none of number 5", [slab(corners=list("abcd"), slab=held)])

    def test_too_many_cells(self) -> None:
        corners_ = [[0, 0, 9], [90, 0, 9], [90, 90, 9], [0, 90, 9]]
        self.refused("more than 40,000", [slab(corners=corners_, slab={"size": 0.1})])


if __name__ == "__main__":
    unittest.main()
