"""Drawings taken in: axes that go out come back, drawings made by others are read, what is none is refused in a sentence."""

import io
import unittest

import ezdxf
import numpy as np

from engine.chain import prepare, run
from engine.demo import DEMOS
from engine.document import read_document
from engine.errors import ModelError
from publish.dxf import axes
from publish.take import take


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
        }
        chain = run(read_document(document))
        k = [c.symbol for c in chain.loading.cases].index("Q")
        ends = {name: chain.structure.xyz[i].tolist() for i, name in enumerate(chain.structure.nodes)}
        self.assertIn([6.0, 0.0, 4.0], ends.values())
        # two hinged feet, uniform load: H = q l² / (4 h (2 k + 3)) with k = I_R/I_C · h/l
        ratio = 8356 / 5696 * 4 / 6
        thrust = 10 * 6**2 / (4 * 4 * (2 * ratio + 3))
        feet = [i for i, at in enumerate(chain.structure.xyz) if at[2] < 1e-6]
        reactions = chain.report.reactions if hasattr(chain, "report") else None
        self.assertIsNone(reactions)
        pushed = np.abs(chain.response.cases.reactions[k][feet][:, 0]) / 1000
        np.testing.assert_allclose(pushed, thrust, rtol=0.02)


if __name__ == "__main__":
    unittest.main()
