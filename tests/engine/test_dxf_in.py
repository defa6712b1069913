"""Drawings taken in: axes that go out come back, drawings made by others are read, what is none is refused in a sentence."""

import io
import unittest

import ezdxf
import numpy as np

from engine.chain import prepare, run
from engine.demo import DEMOS
from engine.document import read_document
from engine.errors import ModelError
from engine.report.supports import reactions
from publish.dxf.axes import axes
from publish.take import take
from publish.words import section_in


def written(document, **kind) -> bytes:
    if kind.get("fmt") == "bin":
        file = io.BytesIO()
        document.write(file, fmt="bin")
        return file.getvalue()
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def drawing(unit=4):
    document = ezdxf.new("R2010")
    document.header["$INSUNITS"] = unit
    return document, document.modelspace()


def on(layer):
    return {"layer": layer}


def portal(unit=4, scale=1000.0):
    """A portal of two columns of 4 m and a beam of 6 m, drawn as an elevation."""
    document, space = drawing(unit)
    for x in (0.0, 6.0):
        space.add_line((x * scale, 0), (x * scale, 4 * scale), on("Stanchions HEB 200"))
    space.add_line((0, 4 * scale), (6 * scale, 4 * scale), on("Roof beam IPE300"))
    return document, space


def read(document, **settled):
    pairs = {tuple(key.split("|")): value for key, value in settled.pop("settled", {}).items()}
    return take(written(document, **settled), "drawing.dxf", pairs)


def value(found, of, field):
    return next(c.value for c in found.choices if (c.of, c.field) == (of, field))


class Back(unittest.TestCase):
    def test_axes_of_every_demo(self):
        for name, make in DEMOS.items():
            with self.subTest(name):
                before = prepare(make()).structure
                found = take(axes(before), "axes.dxf", {})
                self.assertEqual(found.problems, [])
                after = prepare(read_document(found.document)).structure

                def parts(structure):
                    return sorted(
                        (m.role, m.section.name, *sorted(np.round(structure.xyz[[m.nodes[0], m.nodes[-1]]] + 0.0, 4).tolist()))
                        for m in structure.members
                        if m.behaviour != "rigid link" and m.section.shape != "given"
                    )  # fmt: skip

                self.assertEqual(len(parts(after)), len(parts(before)))
                lines = [{(g.name, g.axis, round(g.at, 4)) for g in structure.grid} for structure in (before, after)]
                self.assertEqual(lines[1], {line for line in lines[0] if len(line[0]) <= 8})
                for one, two in zip(parts(before), parts(after), strict=True):
                    self.assertEqual(one[:2], two[:2])
                    np.testing.assert_allclose(one[2:], two[2:], atol=0.011)


class OfOthers(unittest.TestCase):
    def test_an_elevation_becomes_a_frame_that_is_analysed(self):
        found = read(portal()[0])
        self.assertEqual(found.problems, [])
        self.assertEqual(value(found, "", "view"), "elevation")
        self.assertEqual(value(found, "Stanchions HEB 200", "role"), "column")
        self.assertEqual(value(found, "Stanchions HEB 200", "section"), "HEB 200")
        self.assertEqual(value(found, "Roof beam IPE300", "section"), "IPE 300")
        document = found.document | {
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [{"case": "Q", "member": "Main beam 1", "value": [0, 0, -10]}],
            "combinations": [{"name": "U", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
        }
        chain = run(read_document(document))
        of = reactions(chain)
        k = [c.name for c in of.combinations].index("U")
        # hinged feet, uniform load on the beam: H = q l² / (4 h (2 k + 3)) with k = I_R/I_C · h/l
        thrust = 10 * 6**2 / (4 * 4 * (2 * (8356 / 5696) * 4 / 6 + 3))
        np.testing.assert_allclose(np.abs(of.force[of.held[:, 2], 0, k]) / 1000, thrust, rtol=0.02)
        np.testing.assert_allclose(of.force[of.held[:, 2], 2, k] / 1000, 30.0, rtol=1e-6)
        self.assertIn("Every node is held sideways", " ".join(found.guessed))

    def test_what_holds_it_in_the_air_is_left_out_of_the_verdict(self):
        found = read(portal()[0])
        left = [words for words, _ in run(read_document(found.document)).verification.whole.left_out]
        self.assertIn(
            "2 nodes are held along Y by supports in the air: what holds there is not in the model, and not verified",
            left,
        )
        remark = read_document(found.document).dossier.chapters["basis"].remark
        self.assertTrue(remark.startswith("Taken in from drawing.dxf."))
        self.assertIn("Every node is held sideways", remark)
        # feet alone, and a head that a column of its own stands under, are not in the air
        free = read(portal()[0], settled={"|sideways": "free", "|feet": "fixed"}).document
        for supports in (free["supports"], [*free["supports"], {"node": "n2", "fixed": ["y", "z"]}]):
            own = run(read_document(free | {"supports": supports})).verification.whole.left_out
            self.assertNotIn("in the air", " ".join(words for words, _ in own))
        sprung = [*free["supports"], {"node": "n2", "springs": {"x": 100.0}}]
        own = run(read_document(free | {"supports": sprung})).verification.whole.left_out
        self.assertIn("a node is held along X by supports in the air", " ".join(words for words, _ in own))

    def test_held_by_hand_it_is_not_held(self):
        found = read(portal()[0], settled={"|sideways": "free", "|feet": "fixed", "|grade": "S275"})
        self.assertEqual([s["fixed"] for s in found.document["supports"]], [["x", "y", "z", "rx", "ry", "rz"]] * 2)
        self.assertEqual({m["material"] for m in found.document["members"]}, {"S275"})
        self.assertNotIn("held sideways, along Y", " ".join(found.guessed))

    def test_units(self):
        for unit, scale, words in (
            (1, 1 / 0.0254, "in inches"),
            (2, 1 / 0.3048, "in feet"),
            (6, 1.0, "in metres"),
            (5, 100.0, "in centimetres"),
        ):
            with self.subTest(words):
                found = read(portal(unit, scale)[0])
                self.assertIn(words, " ".join(found.understood))
                heights = {round(n["at"][2], 6) for n in found.document["nodes"]}
                self.assertEqual(heights, {0.0, 4.0})
        for scale, words in ((1000.0, "taken to be in millimetres"), (1.0, "taken to be in metres")):
            found = read(portal(0, scale)[0])
            self.assertIn(words, " ".join(found.guessed))
            self.assertEqual({round(n["at"][2], 6) for n in found.document["nodes"]}, {0.0, 4.0})
        settled = read(portal(0, 1.0)[0], settled={"|unit": "ft"})
        self.assertAlmostEqual(max(n["at"][2] for n in settled.document["nodes"]), 4 * 0.3048, places=6)

    def test_ends_that_nearly_meet_and_ends_on_a_line(self):
        document, space = drawing()
        space.add_line((0, 0, 0), (0, 0, 4000), on("COLUMN"))
        space.add_line((6000, 0, 0), (6000, 0, 4000), on("COLUMN"))
        # 4 mm short of one head, 3 mm beside the other column, half way up
        space.add_line((4, 0, 4000), (6000, 0, 4000), on("BEAM"))
        space.add_line((0, 0, 2000), (5997, 0, 2000), on("BEAM"))
        found = read(document)
        structure = prepare(read_document(found.document)).structure
        low = next(m for m in structure.members if m.name == "Main beam 1")
        np.testing.assert_allclose(structure.xyz[list(low.nodes)][:, 0], [0.0, 6.0], atol=1e-9)
        column = next(m for m in structure.members if m.name == "Column 2")
        self.assertEqual(len(column.nodes), 3, "the column passes through the node of the beam that ends on it")
        said = " ".join(found.guessed)
        self.assertIn("the farthest moves by 4.0 mm", said)
        self.assertIn("1 end is put on the line", said)
        self.assertNotIn("cross without a node", said)
        apart = read(document, settled={"|gap": "1"})
        self.assertEqual(len(apart.document["nodes"]) - len(found.document["nodes"]), 1)
        loose = prepare(read_document(apart.document)).structure
        self.assertEqual(len(next(m for m in loose.members if m.name == "Column 2").nodes), 2)

    def test_what_lies_twice_or_has_no_length_is_left_out(self):
        document, space = portal()
        space.add_line((6000, 4000), (0, 4000), on("Roof beam IPE300"))
        space.add_line((1000, 4000), (3000, 4000), on("Roof beam IPE300"))
        space.add_line((5, 4000), (0, 4000), on("Roof beam IPE300"))
        found = read(document)
        self.assertEqual(len(found.document["members"]), 3)
        self.assertIn("2 lines on another one.", found.left_out)
        self.assertIn("1 line no longer than the gap.", found.left_out)
        space.add_line((3000, 4000), (9000, 4000), on("Roof beam IPE300"))
        self.assertIn("1 pair of lines overlap in part", " ".join(read(document).guessed))

    def test_lines_that_cross_are_not_joined_and_that_is_said(self):
        document, space = portal()
        space.add_line((0, 0), (6000, 4000), on("Wall bracing RD 24"))
        space.add_line((6000, 0), (0, 4000), on("Wall bracing RD 24"))
        found = read(document)
        self.assertIn("1 pair of lines cross without a node", " ".join(found.guessed))
        rods = [m for m in found.document["members"] if m["role"] == "wall bracing"]
        self.assertEqual({(m["section"], m["behaviour"]) for m in rods}, {("RD 24", "tension-only")})

    def test_blocks_polylines_arcs_and_what_is_off(self):
        document, space = drawing()
        frame = document.blocks.new("frame")
        frame.add_lwpolyline([(0, 0), (0, 4000), (6000, 4000), (6000, 0)], dxfattribs=on("FRAME"))
        space.add_blockref("frame", (0, 0))
        space.add_blockref("frame", (10000, 0))
        space.add_lwpolyline([(0, 0, 0.5), (0, 3000, 0)], format="xyb", dxfattribs=on("FRAME"))
        space.add_arc((0, 0), 500, 0, 90, dxfattribs=on("FRAME"))
        space.add_line((3000, 0), (3000, 9000), on("OLD"))
        document.layers.add("OLD").off()
        space.add_line((0, -500), (6000, -500), on("DIMENSIONS"))
        found = read(document)
        self.assertEqual(len(found.document["members"]), 6)
        left = " ".join(found.left_out)
        for words in (
            "1 line on layer OLD, which is off",
            "1 line on layer DIMENSIONS",
            "1 ARC of a polyline",
            "1 ARC",
        ):
            self.assertIn(words, left)
        taken = read(document, settled={"OLD|role": "column"})
        self.assertEqual(len(taken.document["members"]), 7)

    def test_members_run_upwards_and_to_the_right_and_are_numbered_so(self):
        document, space = drawing(6)
        space.add_line((6, 0, 4), (6, 0, 0), on("column"))
        space.add_line((0, 0, 4), (0, 0, 0), on("column"))
        space.add_line((6, 0, 4), (0, 0, 4), on("beam"))
        space.add_line((6, 0, 4), (3, 0, 5), on("rafter"))
        found = read(document).document
        at = {n["name"]: n["at"] for n in found["nodes"]}
        ends = {m["name"]: (at[m["start"]], at[m["end"]]) for m in found["members"]}
        self.assertEqual(
            ends,
            {
                "Column 1": ([0, 0, 0], [0, 0, 4]),
                "Main beam 1": ([0, 0, 4], [6, 0, 4]),
                "Rafter 1": ([3, 0, 5], [6, 0, 4]),
                "Column 2": ([6, 0, 0], [6, 0, 4]),
            },
        )
        self.assertEqual({tuple(at[s["node"]]) for s in found["supports"]}, {(0, 0, 0), (6, 0, 0)})
        bare = read(document, settled={"|feet": "none"})
        self.assertEqual(bare.document["supports"], [])
        self.assertNotIn("where columns begin", " ".join(bare.guessed))

    def test_a_line_that_passes_a_circle_is_no_grid_line(self):
        for end, found in (((3.0, -0.45), True), ((3.4, -0.85), False), ((3.0, 0.2), False)):
            document, space = drawing(6)
            space.add_circle((3, -0.9), 0.4, on("lines"))
            space.add_text("C", height=0.3, dxfattribs=on("lines")).set_placement((2.9, -1.0))
            space.add_line((3.0, 9.0), end, on("lines"))
            space.add_line((0, 0), (6, 0), on("joists"))
            with self.subTest(end):
                grid = read(document, settled={"|view": "plan"}).document["grid"]
                self.assertEqual([g["name"] for g in grid], ["C"] if found else [])

    def test_grid_lines_by_their_circles_and_the_plan(self):
        document, space = drawing(6)
        for name, x in (("A", 0.0), ("B", 6.0)):
            space.add_line((x, -1), (x, 12), on("lines"))
            space.add_circle((x, -1.4), 0.4, on("lines"))
            space.add_text(name, height=0.3, dxfattribs=on("lines")).set_placement((x, -1.4))
        space.add_line((-1, 10), (7, 10), on("lines"))
        space.add_circle((-1.4, 10), 0.4, on("lines"))
        space.add_mtext("2", on("lines")).set_location((-1.4, 10))
        space.add_line((0, 0), (6, 0), on("joists"))
        found = read(document, settled={"|view": "plan"})
        lines = {(g["name"], g["axis"], g["at"]) for g in found.document["grid"]}
        self.assertEqual(lines, {("A", "X", 0.0), ("B", "X", 6.0), ("2", "Y", 10.0)})
        self.assertEqual([m["role"] for m in found.document["members"]], ["joist"])
        # nothing stands in a plan: nothing is held
        self.assertEqual(found.document["supports"], [])
        held = read(document, settled={"|view": "plan", "|feet": "pinned"})
        self.assertEqual(len(held.document["supports"]), 2)
        self.assertIn("2 feet are pinned: the lowest nodes.", held.guessed)
        # the layer of the grid bears nothing else: it is not asked about
        self.assertEqual({c.of for c in found.choices}, {"", "joists"})

    def test_far_from_the_origin(self):
        document, space = drawing(6)
        space.add_line((512000, 4021000, 0), (512000, 4021000, 5), on("column"))
        found = read(document)
        self.assertEqual([n["at"] for n in found.document["nodes"]], [[0, 0, 0], [0, 0, 5]])
        self.assertIn("X -512000.000 m, Y -4021000.000 m", " ".join(found.guessed))

    def test_a_binary_drawing_and_one_of_another_name(self):
        binary = take(written(portal()[0], fmt="bin"), "frame.dxf", {})
        self.assertEqual(len(binary.document["members"]), 3)
        self.assertEqual(len(take(written(portal()[0]), "frame", {}).document["members"]), 3)


class Refused(unittest.TestCase):
    def refused(self, data, words, name="a.dxf", **settled):
        with self.assertRaises(ModelError) as caught:
            take(data, name, settled.get("settled", {}))
        self.assertIn(words, caught.exception.message)

    def test_what_is_none(self):
        self.refused(b"", "empty")
        self.refused(b"hello", "cannot be read as DXF")
        self.refused(b"\x00" * 300, "cannot be read as DXF")
        self.refused(b"hello", "none that can be taken in", "a.docx")
        empty, space = drawing()
        self.refused(written(empty), "holds no straight line")
        space.add_circle((0, 0), 3)
        space.add_spline([(0, 0), (1, 1), (2, 0)])
        self.refused(written(empty), "it holds 1 SPLINE")

    def test_a_drawing_cut_off_is_read_as_far_as_it_goes_or_refused(self):
        whole = written(portal()[0])
        for share in (0.2, 0.5, 0.9, 0.98):
            try:
                found = take(whole[: int(len(whole) * share)], "a.dxf", {})
            except ModelError as error:
                self.assertTrue(error.message)
            else:
                self.assertLessEqual(len(found.document.get("members", [])), 3)

    def test_too_much(self):
        document, space = drawing()
        for k in range(101):
            space.add_line((k, 0), (k, 3000), on(f"layer {k}"))
        self.refused(written(document), "on 101 layers")

    def test_what_is_settled_wrongly(self):
        whole = written(portal()[0])
        self.refused(whole, "is none of what", settled={("", "unit"): "furlong"})
        self.refused(whole, "no section “HEB 201”", settled={("Stanchions HEB 200", "section"): "HEB 201"})
        layers = ("Stanchions HEB 200", "Roof beam IPE300")
        nothing = take(whole, "a.dxf", {(layer, "role"): "" for layer in layers})
        self.assertEqual(nothing.problems, ["No layer is taken as steel: give one a role."])
        self.assertTrue(nothing.choices)


class Names(unittest.TestCase):
    def test_sections_in_names(self):
        for words, name in {
            "COLUMNS_HEB240": "HEB 240",
            "Column - HEB 240 - S355": "HEB 240",
            "beams ipe 300": "IPE 300",
            "T HEB 650": "T HEB 650",
            "shs 140x12.5": "SHS 140x12.5",
            "HSS 10x6x1/4": "HSS 10x6x1/4",
            "SHS 200x5 cold": "SHS 200x5 cold",
        }.items():
            self.assertEqual(section_in(words), name)
        for words in ("HEB 240A", "steel 65x7", "IPE", "ROW 12x65y", "IPE 3000"):
            self.assertIsNone(section_in(words), words)


if __name__ == "__main__":
    unittest.main()
