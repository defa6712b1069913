"""Random frames with every kind of load, release, spring and offset: nodes laid on their members change nothing, and the work
of one load on the movement of another is that of the other on the one."""

import unittest
from typing import Any

import numpy as np

from engine.analysis.combined import Combined, combine_results
from engine.analysis.solve import assemble
from engine.analysis.state_diagrams import state_deflections, state_diagrams
from engine.analysis.states import States, solve_states
from engine.chain import Loading
from engine.document import read_document
from engine.expand import expand
from engine.load import combinations, load
from tests.engine.helpers import FIXED, E, I, textbook

PAIRS = [(i, i + 1) for i in range(6)] + [(0, 3), (1, 5), (2, 6)]


def rich_frame(seed: int, press: float = 0.0) -> dict[str, Any]:
    """Seven nodes, nine members; two cases with all kinds of loads. press: times more load downwards at the nodes."""
    rng = np.random.default_rng(seed)
    at = rng.uniform(-4, 4, (7, 3))
    names = [f"{a}-{b}" for a, b in PAIRS]
    length = {n: float(np.linalg.norm(at[a] - at[b])) for n, (a, b) in zip(names, PAIRS, strict=True)}

    def vector(size: float) -> list[float]:
        found: list[float] = rng.uniform(-size, size, 3).tolist()
        return found

    members = [
        {"name": n, "start": n[0], "end": n[2], "section": "s", "material": "m", "roll": float(rng.uniform(0, 90))}
        for n in names
    ]
    members[2]["releases"] = {"end": ["ry"], "start_springs": {"rz": 2e6}}
    members[5]["releases"] = {"start": ["ry", "rz"], "end_springs": {"ry": 3e6}}
    members[7]["offset"] = {"y": 0.1, "z": -0.15}
    loads: list[dict[str, Any]] = []
    for k, n in enumerate(names):
        case = {"case": "PQ"[k % 2], "member": n}
        a, b = sorted(rng.uniform(0.05, 0.95, 2) * length[n])
        loads += [
            case | {"value": vector(4e3), "value_end": vector(4e3), "start": a, "end": b},
            case | {"kind": "force", "value": vector(1e4), "start": a, "axes": "local"},
            case | {"kind": "moment", "value": vector(6e3), "start": b},
        ]
    loads.append({"case": "Q", "member": names[0], "value": [0, 0, -3e3], "axes": "projected"})
    loads.append({"case": "P", "member": names[6], "kind": "temperature", "value": [25, 0, 0]})
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": E / 2.6}],
        "sections": [{"name": "s", "A": 5e-3, "Iy": I, "Iz": I / 4, "It": I / 20, "Avy": 3e-3, "Avz": 1.5e-3}],
        "nodes": [{"name": str(i), "at": p.tolist()} for i, p in enumerate(at)],
        "members": members,
        "supports": [
            {"node": "0", "fixed": FIXED},
            {"node": "6", "fixed": ["x", "z"], "springs": {"rz": 1e6}, "turn": 35.0},
            {"node": "3", "springs": {"z": 2e6}},
        ],
        "cases": [{"name": "P"}, {"name": "Q"}],
        "node_loads": [
            {"case": "PQ"[i % 2], "node": str(i), "force": vector(1e4), "moment": vector(3e3)} for i in range(1, 6)
        ]
        + [{"case": "Q", "node": str(i), "force": [0, 0, -press]} for i in (1, 2, 4, 5) if press],
        "member_loads": loads,
        "settlements": [{"case": "Q", "node": "6", "movement": [0, 0, -0.01]}],
        "combinations": [{"name": "c", "use": "strength", "factors": {"P": 1.2, "Q": 1.0}}],
    }


def cut(data: dict[str, Any], seed: int) -> dict[str, Any]:
    """The same with two more nodes on every member that has no offset."""
    rng = np.random.default_rng(seed)
    at = {n["name"]: np.array(n["at"]) for n in data["nodes"]}
    nodes = list(data["nodes"])
    for m in data["members"]:
        for share in rng.uniform(0.1, 0.9, 2) if "offset" not in m else []:
            place = at[m["start"]] * (1 - share) + at[m["end"]] * share
            nodes.append({"name": f"n{len(nodes)}", "at": place.tolist()})
    return data | {"nodes": nodes}


def analysed(data: dict[str, Any], order: str = "first") -> tuple[Combined, Loading]:
    """The results of a document's combinations, and its loading."""
    document = read_document(textbook(data))
    structure = expand(document)
    loading = load(document, structure)
    return combine_results(assemble(structure, loading), combinations(document, loading), order), loading


def states_of(data: dict[str, Any], order: str) -> States:
    """The solved states of a document's combinations."""
    document = read_document(textbook(data))
    structure = expand(document)
    loading = load(document, structure)
    rows = np.array([c.factors for c in combinations(document, loading)])
    return solve_states(assemble(structure, loading), rows, np.full(len(rows), order == "second"))


def values_at(states: States, x: np.ndarray) -> dict[str, np.ndarray]:
    """Forces and deflections of the first state at places x (e, s)."""
    first = np.array([0])
    d = state_diagrams(states, first, x)
    found = {name: getattr(d, name)[..., 0] for name in ("N", "Vy", "Vz", "T", "My", "Mz")}
    return found | {"w": state_deflections(states, first, x)[..., 0]}


class CutFrames(unittest.TestCase):
    def compared(self, one: Combined, other: Combined, close: float) -> None:
        nodes = range(7)
        self.assertGreater(len(other.elements), len(one.elements))
        a, b = one.displacement([0])[nodes], other.displacement([0])[nodes]
        np.testing.assert_allclose(b, a, rtol=0, atol=close * np.abs(a).max())
        a, b = one.reaction([0])[nodes], other.reaction([0])[nodes]
        np.testing.assert_allclose(b, a, rtol=0, atol=close * np.abs(a).max())
        # forces at the ends of the members
        members = np.arange(len(PAIRS))
        for pick, side in ((0, "left"), (6, "right")):
            rows = [np.searchsorted(c.elements.member, members, side=side) - (pick > 0) for c in (one, other)]
            a, b = (c.end_force([0])[r, pick : pick + 6] for c, r in zip((one, other), rows, strict=True))
            np.testing.assert_allclose(b, a, rtol=0, atol=close * np.abs(a).max())

    def test_first_order(self) -> None:
        for seed in range(6):
            data = rich_frame(seed)
            self.compared(analysed(data)[0], analysed(cut(data, seed))[0], 1e-7)

    def test_second_order(self) -> None:
        compared = 0
        for seed in range(6):
            data = rich_frame(seed, press=8e4)
            one, other = analysed(data, "second")[0], analysed(cut(data, seed), "second")[0]
            self.assertEqual(one.stable(0), other.stable(0))
            if one.stable(0):
                self.compared(one, other, 5e-4)
                plain = analysed(data)[0].displacement([0])
                compared += np.abs(one.displacement([0]) - plain).max() > 0.02 * np.abs(plain).max()
        # in most of them it is more than two per cent that second order adds
        self.assertGreaterEqual(compared, 3)

    def test_values_along_the_members(self) -> None:
        # diagrams and deflections at any place of a member are those of the piece that lies there
        close = {"w": 1e-4, "N": 1e-4, "T": 1e-4, "My": 1e-3, "Mz": 1e-3, "Vy": 5e-3, "Vz": 5e-3}
        for order, press in (("first", 0.0), ("second", 4e4)):
            for seed in range(3):
                data = rich_frame(seed, press)
                whole, pieces = (states_of(d, order) for d in (data, cut(data, seed)))
                one, other = whole.system.elements, pieces.system.elements
                x = np.linspace(0.013, 0.987, 7) * other.length[:, None]
                own = np.searchsorted(one.member, other.member)
                at = other.positions(x) * (one.length / one.reach)[own, None]
                found = values_at(pieces, x)
                size = dict.fromkeys(found, 0.0)
                wrong = dict(size)
                for k, e in enumerate(own.tolist()):
                    places = np.repeat(at[[k]], len(one), axis=0)
                    for name, values in values_at(whole, places).items():
                        size[name] = max(size[name], float(np.abs(values[e]).max()))
                        wrong[name] = max(wrong[name], float(np.abs(values[e] - found[name][k]).max()))
                for name, limit in close.items():
                    limit = 1e-9 if order == "first" else limit
                    self.assertLess(wrong[name], limit * size[name], (order, seed, name))


class Reciprocity(unittest.TestCase):
    def test_betti(self) -> None:
        # nodes loaded one at a time: the movement at j from a force at i is that at i from one at j
        for seed in range(4):
            data = rich_frame(seed)
            data["member_loads"], data["settlements"] = [], []
            data["cases"] = [{"name": f"{i}"} for i in range(1, 6)]
            rng = np.random.default_rng(seed)
            ways = rng.standard_normal((5, 6))
            data["node_loads"] = [
                {"case": f"{i + 1}", "node": f"{i + 1}", "force": w[:3].tolist(), "moment": w[3:].tolist()}
                for i, w in enumerate(ways)
            ]
            data["combinations"] = []
            combined, _ = analysed(data)
            u = combined.response.displacement[1:6]
            work = np.einsum("jk,jki->ij", ways, u)
            np.testing.assert_allclose(work, work.T, atol=1e-9 * np.abs(work).max())
            self.assertTrue((np.diag(work) > 0).all())
