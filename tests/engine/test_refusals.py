"""What cannot be is refused with the name of the thing, the reason, and its place in the document."""

import copy
import unittest
from typing import Any

from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import HallJig
from engine.document.loads import CaseInput
from engine.errors import ModelError
from tests.engine.helpers import FIXED

#: a bent of two columns and a beam, in kilonewton
BENT: dict[str, Any] = {
    "nodes": [
        {"name": n, "at": list(at)}
        for n, at in {"a": (0, 0, 0), "b": (0, 0, 4), "c": (6, 0, 4), "d": (6, 0, 0), "e": (9, 0, 4)}.items()
    ],
    "members": [{"name": f"{i}{j}", "start": i, "end": j, "section": "HEA 200"} for i, j in ("ab", "bc", "dc", "ce")],
    "supports": [{"node": n, "fixed": FIXED} for n in "ad"],
    "cases": [{"name": "P"}],
    "node_loads": [],
    "member_loads": [{"case": "P", "member": "bc", "value": [0, 0, -5]}],
    "settlements": [],
    "panels": [],
    "panel_loads": [],
    "combinations": [],
}
FLOOR = {"name": "deck", "kind": "surface", "corners": ["a", "b", "c", "d"]}


def bent(**more: Any) -> dict[str, Any]:
    """The bent with some lists longer; a dict in place of a list changes the first of it."""
    data = copy.deepcopy(BENT)
    for name, value in more.items():
        if isinstance(value, dict):
            data[name][0] |= value
        else:
            data[name] = [*data[name], *value]
    return data


class Refusals(unittest.TestCase):
    def refused(self, data: dict[str, Any] | Document, words: str, place: str) -> None:
        with self.assertRaises(ModelError) as caught:
            run(data if isinstance(data, Document) else read_document(data))
        self.assertIn(words, caught.exception.message)
        self.assertEqual(caught.exception.place, place)

    def test_the_bent_itself_stands(self) -> None:
        self.assertTrue(run(read_document(bent())).verification.verdicts)

    def test_what_the_format_does_not_know(self) -> None:
        """The place is that of the field, without the kinds that were tried, and the reason is in words."""
        for data, words, place in (
            ({"jigs": [{"kind": "truss", "name": "roof", "panels": "many"}]}, "must be a number", "jigs.0.panels"),
            ({"jigs": [{"kind": "truss", "name": "roof", "columns": 0.2}]}, "at least 0.5, not 0.2", "jigs.0.columns"),
            ({"jigs": [{"kind": "crane", "name": "roof"}]}, "a kind that the format does not know, 'crane'", "jigs.0"),
            ({"jigs": [{"name": "roof"}]}, "does not say of which kind it is", "jigs.0"),
            ({"jigs": {"name": "roof"}}, "must be a valid list", "jigs"),
            (bent(members={"bears_at": 5}), "must be at most 2, not 5", "members.0.bears_at"),
            (bent(nodes={"at": [0, 0]}), "is missing", "nodes.0.at.2"),
            ({"hull": 1}, "is not a field of the format", "hull"),
            ({"version": 1, "hall": {"span": "wide"}}, "must be a number, not 'wide'", "hall.bays.0.span"),
        ):
            with self.subTest(words):
                self.refused(data, f"{place}: ", place)
                self.refused(data, words, place)

    def test_loads(self) -> None:
        line = {"case": "P", "member": "bc"}
        for more, words, place in (
            ({"node_loads": [{"case": "Q", "node": "b"}]}, "case “Q”", "node_loads.0.case"),
            ({"node_loads": [{"case": "P", "node": "z"}]}, "node “z”", "node_loads.0.node"),
            (
                {"member_loads": [{"case": "Q", "member": "bc", "value": [0, 0, 1]}]},
                "case “Q”",
                "member_loads.1.case",
            ),
            (
                {"member_loads": [{"case": "P", "member": "zz", "value": [0, 0, 1]}]},
                "member “zz”",
                "member_loads.1.member",
            ),
            (
                {"member_loads": [line | {"run": ["cz"], "value": [0, 0, 1]}]},
                "member “cz”",
                "member_loads.1.member",
            ),
            (
                {"member_loads": [line | {"value": [0, 0, 1], "start": 7.0}]},
                "reaches 7 m, beyond the member's length 6.000 m",
                "member_loads.1",
            ),
            (
                {"member_loads": [line | {"value": [0, 0, 1], "start": 3.0, "end": 2.0}]},
                "ends at 2 m, not after its start",
                "member_loads.1",
            ),
        ):
            self.refused(bent(**more), words, place)

    def test_loads_over_runs(self) -> None:
        over = {"case": "P", "member": "bc", "value": [0, 0, -1]}
        for change, words, place in (
            ({"run": ["ce"], "axes": "local"}, "global axes", "member_loads.1.axes"),
            ({"run": ["ce", "bc"]}, "twice", "member_loads.1"),
            ({"run": ["ab", "dc"]}, "“dc” does not follow", "member_loads.1"),
            ({"run": ["ce"], "end": 12.0}, "beyond the run's length 9.000 m", "member_loads.1"),
            ({"run": ["ce"], "start": 4.0, "end": 4.0}, "ends at 4 m, not after its start", "member_loads.1"),
        ):
            self.refused(bent(member_loads=[over | change]), words, place)

    def test_settlements(self) -> None:
        moved = {"case": "P", "node": "a", "movement": [0, 0, -0.01]}
        for more, words, place in (
            ({"settlements": [moved | {"case": "Q"}]}, "case “Q”", "settlements.0.case"),
            ({"settlements": [moved | {"node": "z"}]}, "node “z”", "settlements.0.node"),
            ({"settlements": [moved | {"node": "b"}]}, "“b” is free along Z", "settlements.0"),
            (
                {"settlements": [moved], "supports": {"fixed": ["x", "y", "rx"], "springs": {"z": 100.0}}},
                "“a” is held by a spring along Z",
                "settlements.0",
            ),
            (
                {"supports": {"fixed": ["y", "z", "rx", "ry"], "settlement": [0.01, 0, 0]}},
                "“a” is free along X",
                "supports.0.settlement",
            ),
            # turned by 90° its own x is the global Y
            (
                {"settlements": [moved | {"movement": [0.01, 0, 0]}], "supports": {"fixed": ["x", "z"], "turn": 90.0}},
                "“a” is free along its own y",
                "settlements.0",
            ),
        ):
            self.refused(bent(**more), words, place)

    def test_a_turned_support_moves_along_what_it_holds(self) -> None:
        held = {"fixed": ["x", "z", "rx", "ry", "rz"], "turn": 90.0}
        data = bent(supports=held, settlements=[{"case": "P", "node": "a", "movement": [0, 0.02, 0]}])
        chain = run(read_document(data))
        node = chain.structure.nodes.index("a")
        self.assertAlmostEqual(chain.response.displacement[node, 1, 0], 0.02, places=12)

    def test_panels(self) -> None:
        pressed = {"case": "P", "panel": "deck", "pressure": 1.0}
        for more, words, place in (
            ({"panels": [FLOOR, FLOOR]}, "two panels named “deck”", "panels.1.name"),
            ({"panel_loads": [pressed]}, "panel “deck”", "panel_loads.0.panel"),
            ({"panels": [FLOOR], "panel_loads": [pressed | {"case": "Q"}]}, "case “Q”", "panel_loads.0.case"),
            (
                {
                    "panels": [FLOOR],
                    "panel_loads": [pressed | {"part": [[20, 20], [21, 20], [21, 21]]}],
                },
                "lies beside the panel “deck”",
                "panel_loads.0.part",
            ),
            (
                {"panels": [FLOOR | {"kind": "floor"}], "cases": [{"name": "G", "self_weight": True}]},
                "would count self-weight twice",
                "cases",
            ),
        ):
            self.refused(bent(**more), words, place)

    def test_combinations(self) -> None:
        for item, words, place in (
            ({"name": "c", "factors": {}}, "“c” is empty", "combinations.0.factors"),
            ({"name": "c", "factors": {"Q": 1.0}}, "Q", "combinations.0.factors"),
        ):
            self.refused(bent(combinations=[item]), words, place)

    def test_cases_named_like_generated_ones(self) -> None:
        # the page, formulas and files know cases by their symbols: two of one symbol would show one for the other
        hall = Document(hall=HallJig(spacings=[6.0]))
        for name, words, place in (
            ("S1", "Case “S1” is named like “Snow, undrifted”", "cases.0.name"),
            ("Snow, undrifted", "bears the name of a generated one", "cases"),
            ("Φx(S1)", "Two cases are known by “Φx(S1)”", "cases"),
        ):
            self.refused(hall.model_copy(update={"cases": [CaseInput(name=name, nature="snow")]}), words, place)
        free = run(hall.model_copy(update={"cases": [CaseInput(name="S9", nature="snow")]}))
        symbols = [case.symbol for case in free.loading.cases]
        self.assertEqual(len(set(symbols)), len(symbols))

    def test_members(self) -> None:
        beam = "members.1"
        for change, words, place in (
            ({"end": "z"}, "node “z”", f"{beam}.end"),
            ({"end": "b"}, "“bc”", beam),
            ({"section": "HEX 200"}, "HEX 200", f"{beam}.section"),
            ({"material": "S999"}, "S999", f"{beam}.material"),
            ({"restraints_outer": [7.0]}, "lies beyond the length of “bc”", f"{beam}.restraints_outer"),
            ({"releases": {"start": ["rx"], "end": ["rx"]}}, "spin about its own axis", f"{beam}.releases"),
            ({"releases": {"start": ["x"], "end": ["x"]}}, "slide along its own axis", f"{beam}.releases"),
            ({"releases": {"start": ["z"], "end": ["z"]}}, "slide sideways", f"{beam}.releases"),
            ({"releases": {"start": ["ry", "z"], "end": ["ry"]}}, "it would fall", f"{beam}.releases"),
            (
                {"end_section": "HEA 300", "haunch_start": {"length": 1.0, "depth": 0.2}},
                "tapers; it cannot have haunches too",
                f"{beam}.haunch_start",
            ),
        ):
            data = bent()
            data["members"][1] |= change
            with self.subTest(words):
                self.refused(data, words, place)

    def test_supports_and_nodes(self) -> None:
        for more, words, place in (
            ({"supports": [{"node": "z", "fixed": ["x"]}]}, "node “z”", "supports.2.node"),
            ({"nodes": [{"name": "a", "at": [1, 1, 1]}]}, "two nodes named “a”", "nodes.5.name"),
        ):
            self.refused(bent(**more), words, place)
        nothing = bent()
        nothing["supports"] = []
        self.refused(nothing, "it has no supports", "supports")

    def test_what_a_jig_has_named(self) -> None:
        hall = Document(hall=HallJig(spacings=[6.0], eaves_haunch=Haunch(length=2.0, depth=0.3)))
        chain = run(hall)
        corners = [[0, 0, 9], [1, 0, 9], [1, 1, 9]]
        for more, words, place in (
            ({"nodes": [{"name": "frame-1/eaves-A", "at": [0, 0, 0]}]}, "already set a node", "nodes.0.name"),
            ({"cases": [{"name": chain.loading.cases[0].name}]}, "the name of a generated one", "cases"),
            (
                {"panels": [{"name": chain.structure.panels[0].name, "kind": "surface", "corners": corners}]},
                "There already is a panel",
                "panels.0.name",
            ),
        ):
            self.refused(read_document(hall.model_dump() | more), words, place)
