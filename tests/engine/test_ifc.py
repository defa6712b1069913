"""IFC out: valid, and the same structure, loads and combinations when read again by the library alone."""

import json
import unittest
import uuid

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.validate
import numpy as np

from engine.chain import prepare, run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import HallJig
from engine.editing.apply import operate
from engine.editing.operations import ReleaseJig
from engine.expand import expand
from engine.structure.model import FREEDOMS
from publish.ifc.out import ifc
from publish.ifc.profiles import properties_of
from publish.ifc.taken import taken

SPACE = uuid.UUID(int=7)
#: a frame with a hinge, a spring at an end, a rod, springs below, an oblique member, sections of every kind of profile
MIXED = {
    "version": 4,
    "name": "Mixed",
    "nodes": [
        {"name": "a", "at": [0, 0, 0]},
        {"name": "b", "at": [0, 0, 4]},
        {"name": "c", "at": [5, 1, 5]},
        {"name": "d", "at": [5, 1, 0]},
    ],
    "members": [
        {"name": "left", "start": "a", "end": "b", "section": "HEA 200", "role": "column"},
        {"name": "top", "start": "b", "end": "c", "section": "UPN 200", "role": "rafter", "releases": {"start": ["ry", "rz"], "end_springs": {"ry": 500}}},
        {"name": "right", "start": "d", "end": "c", "section": "RHS 200x100x6", "roll": 90},
        {"name": "rod", "start": "a", "end": "c", "section": "RD 20", "behaviour": "tension-only", "role": "wall bracing"},
        {"name": "leg", "start": "b", "end": "d", "section": "L 100x10", "behaviour": "bar"},
    ],
    "supports": [
        {"node": "a", "fixed": ["x", "y", "z", "rz"], "springs": {"rx": 800}},
        {"node": "d", "fixed": ["x", "y", "z"]},
    ],
    "cases": [{"name": "P", "nature": "imposed"}, {"name": "W", "nature": "wind"}],
    "node_loads": [{"case": "P", "node": "b", "force": [1, 2, -3]}],
    "member_loads": [{"case": "W", "member": "top", "value": [0, 0, -2], "value_end": [0, 0, -4], "start": 1.0, "end": 3.0}, {"case": "P", "member": "right", "kind": "force", "value": [4, 0, 0], "start": 1.5}],
    "combinations": [{"name": "U1", "factors": {"P": 1.5, "W": 0.9}}],
}  # fmt: skip


def read(data: bytes):
    return ifcopenshell.file.from_string(data.decode())


def at_of(connection):
    return np.array(connection.Representation.Representations[0].Items[0].VertexGeometry.Coordinates)


class Out(unittest.TestCase):
    def valid(self, found):
        logger = ifcopenshell.validate.json_logger()
        ifcopenshell.validate.validate(found, logger, express_rules=True)
        self.assertEqual([json.dumps(s, default=str)[:300] for s in logger.statements], [])

    def same(self, document):
        """The structure, as it is read again."""
        loaded = prepare(document)
        structure, found = loaded.structure, read(ifc(loaded, document.name, SPACE, "revision 1"))
        nodes = {n.Name: n for n in found.by_type("IfcStructuralPointConnection")}
        self.assertEqual(set(nodes), set(structure.nodes))
        for i, name in enumerate(structure.nodes):
            np.testing.assert_allclose(at_of(nodes[name]), structure.xyz[i], atol=1e-8)
            condition = nodes[name].AppliedCondition
            values = [condition[k].wrappedValue for k in range(1, 7)] if condition else [False] * 6
            for k, value in enumerate(values):
                if structure.springs[i, k]:
                    self.assertAlmostEqual(value, structure.springs[i, k])
                else:
                    self.assertEqual(value, bool(structure.fixed[i, k]), (name, FREEDOMS[k]))
        members = {m.Name: m for m in found.by_type("IfcStructuralCurveMember")}
        self.assertEqual(set(members), set(structure.index))
        built = {p.Name: p for kind in ("IfcBeam", "IfcColumn", "IfcMember") for p in found.by_type(kind)}
        self.assertEqual(set(built), set(structure.index))
        sections = {
            one.Name: rel.RelatingMaterial.MaterialProfiles[0]
            for rel in found.by_type("IfcRelAssociatesMaterial")
            for one in rel.RelatedObjects
        }
        for m in structure.members:
            self.assertEqual((sections[m.name].Name, sections[m.name].Material.Name), (m.section.name, m.material.name))
            ends = {r.RelatedStructuralConnection.Name: r.AppliedCondition for r in members[m.name].ConnectedBy}
            self.assertEqual(set(ends), {structure.nodes[n] for n in m.nodes})
            for node, free, springs in (
                (m.nodes[0], m.release_start, dict(m.springs_start)),
                (m.nodes[-1], m.release_end, dict(m.springs_end)),
            ):
                condition = ends[structure.nodes[node]]
                for k, freedom in enumerate(FREEDOMS):
                    value = condition[k + 1].wrappedValue if condition else True
                    self.assertEqual(value, springs.get(freedom, freedom not in free), (m.name, freedom))
        # what each case puts on the building is what was expected of it
        cases = {c.Name: c for c in found.by_type("IfcStructuralLoadCase")}
        for k, case in enumerate(loaded.loading.cases):
            total = np.zeros(3)
            for rel in cases[case.symbol].IsGroupedBy:
                for action in rel.RelatedObjects:
                    load = action.AppliedLoad
                    if action.is_a("IfcStructuralPointAction"):
                        total += [load.ForceX, load.ForceY, load.ForceZ]
                        continue
                    first, last = (np.array([v.LinearForceX, v.LinearForceY, v.LinearForceZ]) for v in load.Values)
                    (start,), (end,) = load.Locations
                    total += (first + last) / 2 * (end - start)
            np.testing.assert_allclose(total, loaded.loading.borne[k], atol=1e-3 * max(1.0, np.abs(total).max()))
        factors = {
            (r.RelatingGroup.Name, r.RelatedObjects[0].Name): r.Factor
            for r in found.by_type("IfcRelAssignsToGroupByFactor")
        }
        for c in loaded.combinations:
            for k in np.flatnonzero(c.factors):
                self.assertEqual(factors[c.name, loaded.loading.cases[k].symbol], c.factors[k])
        return loaded, found

    def test_a_mixed_frame(self):
        loaded, found = self.same(read_document(MIXED))
        self.valid(found)
        kinds = {m.Name: m.PredefinedType for m in found.by_type("IfcStructuralCurveMember")}
        self.assertEqual(
            (kinds["rod"], kinds["leg"], kinds["top"]), ("TENSION_MEMBER", "PIN_JOINED_MEMBER", "RIGID_JOINED_MEMBER")
        )

    def test_sections_built_up_have_their_own_profile(self):
        # two channels laced and two angles back to back are two areas, a box is one with a void, unequal flanges one outline
        built = [
            {"name": "laced", "shape": "laced", "of": "UPE 200", "h": 300, "panel": 500, "by": "L 50x5"},
            {"name": "pair", "shape": "double", "of": "L 80x8", "gap": 10},
            {"name": "box", "shape": "box", "h": 300, "b": 200, "tw": 8, "tf": 12},
            {"name": "plates", "shape": "welded I", "h": 600, "b": 220, "tw": 10, "tf": 18, "b2": 160, "tf2": 14},
        ]
        kinds = [
            "IfcCompositeProfileDef",
            "IfcCompositeProfileDef",
            "IfcArbitraryProfileDefWithVoids",
            "IfcAsymmetricIShapeProfileDef",
        ]
        made_of = dict(zip(("left", "leg", "right", "top"), (of["name"] for of in built), strict=True))
        members = [dict(m, section=made_of.get(m["name"], m["section"])) for m in MIXED["members"]]
        document = read_document(MIXED | {"built_sections": built, "members": members})
        found = read(ifc(prepare(document), "Mixed", SPACE, "revision 1"))
        self.valid(found)
        structure = expand(document)
        for (member, of), kind in zip(made_of.items(), kinds, strict=True):
            profile = next(p for p in found.by_type("IfcProfileDef") if p.ProfileName == of and p.is_a(kind))
            area = structure.member(member).section.A
            self.assertAlmostEqual(properties_of(profile, 1.0)["A"] / area, 1, delta=0.005)

    def test_unequal_flanges_hang_on_their_centroid(self):
        sizes = {"h": 600, "b": 220, "tw": 10, "tf": 18, "b2": 160, "tf2": 14}
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [5, 0, 0]}],
                "built_sections": [{"name": "plates", "shape": "welded I", **sizes}],
                "members": [{"name": "beam", "start": "a", "end": "b", "section": "plates"}],
            }
        )
        found = read(ifc(prepare(document), "Beam", SPACE, "revision 1"))
        settings = ifcopenshell.geom.settings()
        settings.set("use-world-coords", True)
        shape = ifcopenshell.geom.create_shape(settings, found.by_type("IfcMember")[0])
        points = np.array(shape.geometry.verts).reshape(-1, 3)
        # plates about the lower edge: 220 × 18 at 591, 568 × 10 at 298, 160 × 14 at 7 mm
        areas, at = np.array([3960.0, 5680.0, 2240.0]), np.array([591.0, 298.0, 7.0])
        centre = (areas @ at) / areas.sum() / 1000
        self.assertAlmostEqual(points[:, 2].max(), 0.6 - centre, places=4)
        self.assertAlmostEqual(points[:, 2].min(), -centre, places=4)
        # the wider one is the upper
        self.assertAlmostEqual(np.ptp(points[points[:, 2] > 0.6 - centre - 0.001, 1]), 0.22, places=4)

    def test_a_hall_with_haunches(self):
        hall = HallJig(spacings=[6.0], eaves_haunch=Haunch(length=2.4, depth=0.3))
        document = Document(name="Short", hall=hall)
        document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
        loaded, found = self.same(document)
        self.valid(found)
        self.assertEqual({a.AxisTag for a in found.by_type("IfcGridAxis")}, {"A", "B", "1", "2"})
        settings = ifcopenshell.geom.settings()
        settings.set("use-world-coords", True)
        for name in ("frame-1/column-A", "frame-1/rafter-AB-left"):
            m = loaded.structure.member(name)
            product = next(p for p in (*found.by_type("IfcColumn"), *found.by_type("IfcBeam")) if p.Name == name)
            shape = ifcopenshell.geom.create_shape(settings, product)
            points = np.array(shape.geometry.verts).reshape(-1, 3)
            low, high = points.min(axis=0), points.max(axis=0)
            ends = loaded.structure.xyz[[m.nodes[0], m.nodes[-1]]]
            if m.role == "column":
                # upright between base and eaves, its depth along X
                np.testing.assert_allclose(low, [-m.section.h / 2, -m.section.b / 2, 0.0], atol=1e-3)
                np.testing.assert_allclose(high, [m.section.h / 2, m.section.b / 2, ends[1, 2]], atol=1e-3)
            else:
                # the haunch hangs below the rafter at its foot
                way = (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
                down = (m.section.h / 2 + m.haunches[0].depth) * way[0]
                self.assertAlmostEqual(low[2], ends[0, 2] - down, places=3)

    def test_results_where_they_are_wanted(self):
        # 10 kN/m down on 6 m between pins: q l/2 at the ends, q l²/8 in the middle
        document = read_document(
            {
                "version": 4,
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
                "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300"}],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z", "ry"], "turn": 90},
                    {"node": "b", "fixed": ["y", "z"]},
                ],
                "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
                "member_loads": [{"case": "Q", "member": "beam", "value": [0, 0, -10]}],
                "node_loads": [{"case": "Q", "node": "b", "force": [-30, 0, 0]}],
                "rules": {"imperfections": False},
            }
        )
        chain = run(document)
        found = read(ifc(chain, "Beam", SPACE, "r", chain))
        self.valid(found)
        [model] = found.by_type("IfcStructuralAnalysisModel")
        groups = {g.Name: g for g in model.HasResults}
        strength = {chain.combinations[i].name for i in chain.verification.strength}
        self.assertTrue({"Q"} < set(groups) <= {"Q"} | strength, groups)
        self.assertEqual(groups["Q"].ResultForLoadGroup.Name, "Q")
        related = [r for rel in groups["Q"].IsGroupedBy for r in rel.RelatedObjects]
        at = {r.Name: r.AppliedLoad for r in related if r.is_a("IfcStructuralPointReaction")}
        a, b = ([at[n].ForceX, at[n].ForceY, at[n].ForceZ] for n in "ab")
        # the turned support gives what it holds along X in global axes
        np.testing.assert_allclose(a, [30e3, 0, 30e3], atol=1e-3)
        np.testing.assert_allclose(b, [0, 0, 30e3], atol=1e-3)
        [forces] = [r.AppliedLoad for r in related if r.is_a("IfcStructuralCurveReaction")]
        np.testing.assert_allclose(np.ravel(forces.Locations), [0, 1.5, 3, 4.5, 6], atol=1e-6)
        rows = [[v.ForceX, v.ForceZ, v.MomentY] for v in forces.Values]
        expected = [(-30, V, M) for V, M in ((30, 0), (15, 33.75), (0, 45), (-15, 33.75), (-30, 0))]
        np.testing.assert_allclose(rows, 1000 * np.array(expected), atol=1e-2)
        # what it says besides is the same as without them
        again = taken(ifc(chain, "Beam", SPACE, "r", chain))
        self.assertEqual(again.document, taken(ifc(chain, "Beam", SPACE, "r")).document)
        self.assertEqual(read(ifc(chain, "Beam", SPACE, "r")).by_type("IfcStructuralResultGroup"), ())

    def test_identifiers_last_when_a_hall_is_released(self):
        hall = Document(name="Short", hall=HallJig(spacings=[6.0]))
        free = operate(hall, ReleaseJig(jig="hall"))
        one, two = (
            {
                p.Name.replace("/", " "): p.GlobalId
                for p in read(ifc(prepare(d), "Short", SPACE, "r")).by_type("IfcElement")
            }
            for d in (hall, free)
        )
        self.assertEqual(one, two)
        # a hall set out anew beside the free one has identifiers of its own
        both = free.model_copy(update={"hall": HallJig(spacings=[6.0]), "panels": [], "panel_loads": [], "cases": []})
        found = [p.GlobalId for p in read(ifc(prepare(both), "Short", SPACE, "r")).by_type("IfcRoot")]
        self.assertEqual(len(found), len(set(found)))

    def test_identifiers_last(self):
        before = read(ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "revision 1"))
        data = json.loads(json.dumps(MIXED))
        data["members"][0]["section"] = "HEA 240"
        data["members"].pop()
        after = read(ifc(prepare(read_document(data)), "Mixed", SPACE, "revision 2"))
        one, two = ({p.Name: p.GlobalId for p in f.by_type("IfcElement")} for f in (before, after))
        self.assertEqual({n: one[n] for n in two}, two)
        self.assertEqual(set(one) - set(two), {"leg"})
        other = read(ifc(prepare(read_document(data)), "Mixed", uuid.UUID(int=8), "revision 2"))
        self.assertFalse(set(two.values()) & {p.GlobalId for p in other.by_type("IfcElement")})
