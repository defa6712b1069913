"""Beams that bear nothing but themselves say so: what was copied without its floor, or never got a load."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np

from engine.actions.cases import Loading
from engine.chain import run
from engine.demo import drying_hall
from engine.demo_boiler_house import boiler_house
from engine.document import Document, read_document
from engine.document.byhand import MemberInput, NodeInput
from engine.document.floors import FloorGrid, FloorJig
from engine.document.loads import CaseInput, MemberLoad, NodeLoad, PanelLoad
from engine.editing.apply import operate
from engine.editing.operations import Copy
from engine.expand import expand
from engine.load import load
from engine.verification.unloaded import NOTHING_BORNE, lost, unasked, unloaded, unplaced
from engine.verification.unsaid import of_sheeting, untempered
from tests.engine.helpers import FIXED, by_case
from tests.engine.test_copied_panels import BEAMS, EVERY, table


def named(document: Document) -> list[str]:
    structure = expand(document)
    return [structure.members[i].name for i in unloaded(structure, load(document, structure))]


class Lost(unittest.TestCase):
    def test_a_force_at_the_very_end_of_a_member_is_borne_whatever_rounding_does(self) -> None:
        # lengths of members at any angle differ in their last digit by the way they are summed
        rng = np.random.default_rng(1)
        starts = rng.uniform(-30, 30, (400, 3)).round(3)
        ends = (starts + rng.uniform(-9, 9, (400, 3))).round(3)
        nodes = [
            {"name": f"{word}{k}", "at": at.tolist()}
            for word, all_ in (("a", starts), ("b", ends))
            for k, at in enumerate(all_)
        ]
        document = read_document(
            {
                "nodes": nodes,
                "members": [
                    {"name": f"m{k}", "start": f"a{k}", "end": f"b{k}", "section": "IPE 300"} for k in range(400)
                ],
                "supports": [{"node": f"a{k}", "fixed": FIXED} for k in range(400)],
                "cases": [{"name": "tips"}],
                "member_loads": [
                    {"case": "tips", "member": f"m{k}", "kind": "force", "value": [0, 0, -1], "start": 1, "ratio": True}
                    for k in range(400)
                ],
            }
        )
        solved = by_case(document)
        self.assertAlmostEqual(solved.response.reaction[:, 2, 0].sum(), 400e3, delta=1)
        self.assertEqual(lost(solved.response), ())
        # what a fault of the computation would look like
        solved.loading.expected[0] = solved.loading.expected[0] - np.array([0, 0, 2e3])
        self.assertEqual(len(lost(solved.response)), 1)
        self.assertIn("2.00 kN", lost(solved.response)[0])


class Unloaded(unittest.TestCase):
    def test_a_frame_copied_without_its_floor(self) -> None:
        # the deck spans from south to north: the beams beside it bear none of it
        self.assertEqual(named(table()), ["east", "west"])
        whole = table(two_way=True)
        self.assertEqual(named(whole), [])
        self.assertEqual(named(operate(whole, Copy(members=EVERY, step=(10, 0, 0)))), [])
        bare = operate(whole, Copy(members=EVERY, step=(10, 0, 0), panels=False))
        copies = [m.name for m in bare.members if m.name not in EVERY and m.role == "main beam"]
        self.assertEqual(named(bare), copies)
        verdicts = run(bare).verification.verdicts
        structure = expand(bare)
        told = [structure.members[v.member].name for v in verdicts if NOTHING_BORNE in v.left_out]
        self.assertEqual(told, copies)

    def test_what_bears_otherwise_says_nothing(self) -> None:
        plain = table()
        plain.panels, plain.panel_loads, plain.area_loads = [], [], []
        self.assertEqual(named(plain), list(BEAMS))
        # a load on one, a force on another, what meets the third between its ends, and a force on a node of the fourth
        plain.member_loads = [
            MemberLoad(case="Q", member="south", value=(0, 0, -1)),
            MemberLoad(case="Q", member="east", kind="force", value=(0, 0, -1), start=2.0),
        ]
        plain.nodes += [
            NodeInput(name="middle", at=(3, 4, 3)),
            NodeInput(name="out", at=(3, 7, 3)),
            NodeInput(name="on", at=(0, 2, 3)),
        ]
        plain.members.append(MemberInput(name="post", start="middle", end="out", section="IPE 200", role="strut"))
        plain.node_loads = [NodeLoad(case="Q", node="on", force=(0, 0, -1))]
        self.assertEqual(named(plain), [])

    def test_cladding_is_borne_and_the_own_weight_is_not(self) -> None:
        plain = table()
        plain.panels, plain.panel_loads, plain.area_loads = [], [], []
        plain.cases[0].nature = "permanent"
        plain.member_loads = [MemberLoad(case="Q", member="south", value=(0, 0, -0.3))]
        self.assertEqual(named(plain), ["east", "north", "west"])
        # with a case of the weight beside, or in the same one
        plain.cases[1].nature, plain.cases[1].self_weight = "permanent", True
        self.assertEqual(named(plain), ["east", "north", "west"])
        plain.member_loads[0].case = "A"
        self.assertEqual(named(plain), ["east", "north", "west"])

    def test_of_whole_buildings(self) -> None:
        for document in (drying_hall(), boiler_house()):
            self.assertEqual(named(document), [])


def house(**more) -> Document:
    """One clad storey of 6 by 5 m that ends with a floor: no roof, and so no wind of its own."""
    grid = FloorGrid(across=[6.0], along=[5.0])
    return Document(jigs=[FloorJig(name="house", grid=grid, frames="all", walls=True, **more)])


def said(document: Document) -> tuple[str, ...]:
    structure = expand(document)
    return unasked(document, structure, load(document, structure))


class Unasked(unittest.TestCase):
    def test_walls_without_wind_are_told_by_the_verdict_on_the_whole(self) -> None:
        bare = house()
        words = "no wind acts on “house/wall-left”, “house/wall-right”, “house/wall-front” and 1 more in any case"
        self.assertEqual(said(bare), (words,))
        # it comes first of all that is left out
        self.assertEqual(run(bare).verification.whole.left_out[0], (words, 0))
        self.assertEqual(said(house(top="roof")), ())

    def test_wind_of_ones_own_counts_on_panels_and_on_what_carries_them(self) -> None:
        own = house()
        own.cases = [CaseInput(name="W", nature="wind")]
        own.panel_loads = [PanelLoad(case="W", panel=f"house/wall-{side}", pressure=0.5) for side in ("left", "right")]
        self.assertEqual(said(own), ("no wind acts on “house/wall-front”, “house/wall-back” in any case",))
        own.member_loads = [MemberLoad(case="W", member="house/column-1-1", value=(0, 1, 0))]
        # that column carries a part of the front
        self.assertEqual(said(own), ("no wind acts on “house/wall-back” in any case",))
        own.cases[0].nature = "imposed"
        self.assertEqual(len(said(own)), 1)

    def test_roofs_without_snow_where_there_is_snow(self) -> None:
        hall = drying_hall()
        structure = expand(hall)
        bare = unasked(hall, structure, Loading())
        self.assertEqual([words.split(" acts")[0] for words in bare], ["no wind", "no snow"])
        self.assertEqual(unasked(hall, structure, load(hall, structure)), ())
        hall.site.ground_snow = 0.0
        self.assertEqual([words.split(" acts")[0] for words in unasked(hall, structure, Loading())], ["no wind"])

    def test_values_that_a_new_project_begins_with_are_told_until_a_place_or_others_are_stated(self) -> None:
        words = "no place is stated: 0.8 kN/m² of snow on the ground and a wind of 24 m/s are what a new project begins with"
        building = house(top="roof")
        self.assertIn((words, 0), run(building).verification.whole.left_out)

        def told(document: Document) -> tuple[str, ...]:
            return unplaced(document, load(document, expand(document)))

        for more in ({"place": "Norrbacka"}, {"ground_snow": 2.0}, {"wind_speed": 26.0}, {"altitude": 20.0}):
            other = building.model_copy(update={"site": building.site.model_copy(update=more)})
            self.assertEqual(told(other), (), more)
        # nothing is generated where nothing is clad; what is one's own was stated
        self.assertEqual(told(table()), ())
        own = house()
        own.cases = [CaseInput(name="W", nature="wind")]
        own.panel_loads = [PanelLoad(case="W", panel="house/wall-left", pressure=0.5)]
        self.assertEqual(told(own), ())
        self.assertEqual(told(drying_hall()), ())


class Undrawn(unittest.TestCase):
    def told(self, role: str, natures: tuple[str, ...], loaded: bool = True) -> list[str]:
        """What is said of a beam without cladding, under cases of natures, each with a load or none."""
        member = {"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": role}
        data = {
            "site": {"ground_snow": 1.0},
            "nodes": [{"name": "a", "at": [0, 0, 4]}, {"name": "b", "at": [6, 0, 4]}],
            "members": [member],
            "supports": [{"node": n, "fixed": FIXED} for n in "ab"],
            "cases": [{"name": nature, "nature": nature} for nature in natures],
            "member_loads": [
                {"case": nature, "member": "m", "kind": "line", "value": [0, 0, -1]} for nature in natures if loaded
            ],
        }
        document = read_document(data)
        structure = expand(document)
        return list(unasked(document, structure, load(document, structure)))

    def test_rafters_without_cladding_say_that_no_wind_and_no_snow_acts(self) -> None:
        wind, snow = (f"no {nature} acts in any case, though there are rafters" for nature in ("wind", "snow"))
        self.assertEqual(self.told("rafter", ("imposed",)), [wind, snow])
        self.assertEqual(self.told("rafter", ("snow",)), [wind])
        self.assertEqual(self.told("rafter", ("wind", "snow"), loaded=False), [wind, snow])
        self.assertEqual(self.told("rafter", ("wind", "snow")), [])

    def test_what_stands_indoors_does_not(self) -> None:
        self.assertEqual(self.told("main beam", ("imposed",)), [])
        self.assertEqual(
            self.told("gable post", ("imposed",)), ["no wind acts in any case, though there are gable posts"]
        )


class Sheeting(unittest.TestCase):
    WORDS = "decks and sheeting themselves, which span up to {} m between members, are not verified"

    def floor(self, ends: list[tuple[float, float]], **panel: Any) -> tuple[str, ...]:
        """A deck of 6 × 7 m over beams along X from the first to the second y, with 3 kN/m²."""
        nodes = [
            {"name": f"{side}{k}", "at": [x, y[i], 3]}
            for k, y in enumerate(ends)
            for i, (side, x) in enumerate((("a", 0), ("b", 6)))
        ]
        names = [n["name"] for n in nodes]
        data = {
            "nodes": nodes,
            "members": [
                {"name": f"m{k}", "start": f"a{k}", "end": f"b{k}", "section": "IPE 300", "role": "main beam"}
                for k in range(len(ends))
            ],
            "supports": [{"node": n, "fixed": FIXED} for n in names],
            "panels": [{"name": "deck", "corners": [[0, 0, 3], [6, 0, 3], [6, 7, 3], [0, 7, 3]], **panel}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "panel_loads": [{"case": "Q", "panel": "deck", "pressure": 3}],
        }
        return run(read_document(data)).verification.left_out

    def test_decks_say_how_far_they_span(self) -> None:
        self.assertIn(self.WORDS.format("4.00"), self.floor([(0, 0), (3, 3), (7, 7)]))
        # askew: 3.5 m on either side in the middle of the floor, 3.8 m at its edges
        self.assertIn(self.WORDS.format("3.80"), self.floor([(0, 0), (3.2, 3.8), (7, 7)], span=[0, 1, 0]))
        self.assertIn(self.WORDS.format("6.00"), self.floor([(0, 0), (7, 7)], two_way=True))

    def test_what_bears_nothing_and_what_bends_itself_says_nothing(self) -> None:
        slab = self.floor([(0, 0), (7, 7)], diaphragm="slab")
        self.assertFalse(any("decks and sheeting themselves" in words for words in slab))
        structure = expand(house())
        walls = {panel.name for panel in structure.panels if panel.kind == "wall"}
        self.assertEqual(len(of_sheeting(structure, walls, ())), 1)
        self.assertEqual(of_sheeting(structure, (), ()), ())
        # where purlins and rails of the hall stand beside the model, these are what spans: not on what else there is
        self.assertEqual(len(of_sheeting(structure, walls, ("wall",))), 1)
        hall = expand(read_document({"hall": {"spacings": [6, 6]}}))
        own = {panel.name for panel in hall.panels if panel.kind == "wall"}
        self.assertEqual((len(of_sheeting(hall, own, ())), of_sheeting(hall, own, ("wall",))), (1, ()))


class Untempered(unittest.TestCase):
    def test_what_is_long_says_that_no_temperature_acts(self) -> None:
        words = "no temperature acts in any case (EN 1991-1-5), though it is {} m long"
        for spans, more, said in ((10, {}, True), (9, {}, False), (10, {"cases": [SUMMER]}, False)):
            hall = {"spacings": [6.5] * spans, "eaves_height": 5.0}
            chain = run(read_document({"hall": hall, **more}))
            self.assertEqual(words.format(65) in chain.verification.left_out, said)

    def test_it_says_so_however_it_lies(self) -> None:
        for degrees in (0, 30, 45, 90):
            for length, said in ((61.0, True), (58.0, False)):
                c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
                corners = [(x * c - y * s, x * s + y * c, 0.0) for x, y in ((0, 0), (length, 0), (length, 20), (0, 20))]
                nodes = [{"name": f"n{k}", "at": at} for k, at in enumerate(corners)]
                members = [
                    {"name": f"m{k}", "start": f"n{k}", "end": f"n{(k + 1) % 4}", "section": "HEA 200"}
                    for k in range(4)
                ]
                structure = expand(read_document({"nodes": nodes, "members": members}))
                self.assertEqual(bool(untempered(structure, {"wind"})), said)


SUMMER = {"name": "Summer", "nature": "temperature"}
