"""What an office that details steel typically does to a model that it was sent as IFC4: it knows no more of it than the file says."""

from __future__ import annotations

from collections import Counter
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import ifcopenshell.util.placement
import numpy as np

#: beams end this far before what bears them, and one foundation lies this much lower than it was drawn, metres
CUT, LOWER = 0.012, 0.15
#: steel longer than this comes on two lorries, metres
LONGEST = 6.0


def detailed(text: str) -> tuple[str, list[str]]:
    """The model with changes, and what was done in words. Raises RuntimeError for what is no IFC file."""
    file = ifcopenshell.file.from_string(text)
    office = _Office(file)
    done = [office.swap(), office.lower(), office.move_brace(), office.cut_back(), office.split(), office.plates()]
    return str(file.to_string()), [words for words in done if words]


class _Office:
    def __init__(self, file: Any) -> None:
        self.file = file
        kinds = ("IfcColumn", "IfcBeam", "IfcMember")
        self.products = [p for kind in kinds for p in file.by_type(kind) if self.solid(p) is not None]

    def solid(self, product: Any) -> Any:
        shapes = product.Representation.Representations if product.Representation else ()
        return next((i for s in shapes for i in s.Items if i.is_a("IfcExtrudedAreaSolid")), None)

    def axis(self, product: Any) -> Any:
        """(2, 3): where its steel begins and ends."""
        place = np.array(ifcopenshell.util.placement.get_local_placement(product.ObjectPlacement), dtype=float)
        solid = self.solid(product)
        way = place[:3, :3] @ np.array(solid.ExtrudedDirection.DirectionRatios, dtype=float)
        return np.array([place[:3, 3], place[:3, 3] + way * solid.Depth])

    def shift(self, product: Any, step: Any) -> None:
        old = product.ObjectPlacement
        place = old.RelativePlacement
        at = np.array(place.Location.Coordinates) + step
        point = self.file.create_entity("IfcCartesianPoint", [float(v) for v in at])
        moved = self.file.create_entity("IfcAxis2Placement3D", point, place.Axis, place.RefDirection)
        product.ObjectPlacement = self.file.create_entity("IfcLocalPlacement", old.PlacementRelTo, moved)

    def stretch(self, product: Any, start: float, end: float) -> None:
        """Let its steel reach further at its start and its end."""
        axis = self.axis(product)
        way = (axis[1] - axis[0]) / np.linalg.norm(axis[1] - axis[0])
        self.shift(product, -start * way)
        self.solid(product).Depth += start + end

    def swap(self) -> str:
        """The rarest rolled section is not on stock: the next deeper one that is used anyway takes its place."""
        counts = Counter(
            self.solid(p).SweptArea for p in self.products if self.solid(p).SweptArea.is_a("IfcIShapeProfileDef")
        )
        rising = sorted(counts, key=lambda profile: (profile.OverallDepth, profile.ProfileName))
        if len(rising) < 2:
            return ""
        rare = min(rising[:-1], key=lambda profile: (counts[profile], profile.ProfileName))
        stock = rising[rising.index(rare) + 1]
        for product in self.products:
            if self.solid(product).SweptArea == rare:
                self.solid(product).SweptArea = stock
        for profile in self.file.by_type("IfcMaterialProfile"):
            if profile.Profile == rare:
                profile.Profile, profile.Name = stock, stock.ProfileName
        return f"{rare.ProfileName} is not on stock: {stock.ProfileName} in its place"

    def lower(self) -> str:
        """The foundation of one column lies lower than it was drawn."""
        columns = [p for p in self.products if p.is_a("IfcColumn") and self.upright(p)]
        if not columns:
            return ""
        columns.sort(key=lambda p: self.axis(p)[0].round(3).tolist())
        column = columns[len(columns) // 2]
        axis = self.axis(column)
        below = axis[0, 2] < axis[1, 2]
        self.stretch(column, LOWER if below else 0.0, 0.0 if below else LOWER)
        return f"The foundation of {column.Name} is {1000 * LOWER:.0f} mm lower"

    def upright(self, product: Any) -> bool:
        axis = self.axis(product)
        return bool(abs(axis[1, 2] - axis[0, 2]) > 0.99 * np.linalg.norm(axis[1] - axis[0]))

    def move_brace(self) -> str:
        """A crossing of braces stands in the way of a door: it goes to the next panel where its ends find columns."""
        braces = [p for p in self.products if p.is_a("IfcMember") and p.PredefinedType == "BRACE"]
        ends = np.array([self.axis(p) for p in self.products if p.is_a("IfcColumn")]).reshape(-1, 3)
        taken = {tuple(self.axis(p).mean(axis=0).round(2)) for p in braces}
        for brace in braces:
            own = self.axis(brace)
            steps = sorted(ends - own[0], key=lambda step: float(np.linalg.norm(step)))
            for step in steps:
                level = abs(step[2]) < 0.001 and np.linalg.norm(step) > 0.5
                lands = all(np.linalg.norm(ends - (at + step), axis=1).min() < 0.005 for at in own)
                if level and lands and tuple((own.mean(axis=0) + step).round(2)) not in taken:
                    crossing = [
                        p for p in braces if np.allclose(self.axis(p).mean(axis=0), own.mean(axis=0), atol=0.01)
                    ]
                    for one in crossing:
                        self.shift(one, step)
                    return f"{', '.join(p.Name for p in crossing)}: one panel on, for a door"
        return ""

    def cut_back(self) -> str:
        """Beams end before what bears them."""
        beams = [p for p in self.products if p.is_a("IfcBeam")]
        for beam in beams:
            self.stretch(beam, -CUT, -CUT)
        return f"{len(beams)} beams are {1000 * CUT:.0f} mm shorter at each end" if beams else ""

    def split(self) -> str:
        """The longest beam comes in two pieces."""
        beams = [p for p in self.products if p.is_a("IfcBeam") and self.solid(p).Depth > LONGEST]
        if not beams:
            return ""
        beam = max(beams, key=lambda p: (round(self.solid(p).Depth, 3), p.Name))
        solid, axis = self.solid(beam), self.axis(beam)
        half = solid.Depth / 2
        shape = beam.Representation.Representations[0]
        second = self.file.create_entity(
            "IfcExtrudedAreaSolid", solid.SweptArea, solid.Position, solid.ExtrudedDirection, half
        )
        body = self.file.create_entity("IfcShapeRepresentation", shape.ContextOfItems, "Body", "SweptSolid", [second])
        piece = self.file.create_entity(
            beam.is_a(),
            GlobalId=ifcopenshell.guid.new(),
            Name=f"{beam.Name} second piece",
            ObjectType=beam.ObjectType,
            ObjectPlacement=beam.ObjectPlacement,
            Representation=self.file.create_entity("IfcProductDefinitionShape", None, None, [body]),
            PredefinedType=beam.PredefinedType,
        )
        self.shift(piece, (axis[1] - axis[0]) / 2)
        solid.Depth = half
        for relation in beam.HasAssociations:
            relation.RelatedObjects = [*relation.RelatedObjects, piece]
        return f"{beam.Name} comes in two pieces"

    def plates(self) -> str:
        """Base plates and anchors below columns."""
        feet = [p for p in self.products if p.is_a("IfcColumn") and self.upright(p)]
        context = self.file.by_type("IfcGeometricRepresentationContext")[0]
        square = self.file.create_entity("IfcRectangleProfileDef", "AREA", "base plate", None, 0.4, 0.4)
        up = self.file.create_entity("IfcDirection", [0.0, 0.0, 1.0])
        for column in feet:
            foot = min(self.axis(column).tolist(), key=lambda at: at[2])
            point = self.file.create_entity("IfcCartesianPoint", [foot[0], foot[1], foot[2] - 0.025])
            place = self.file.create_entity(
                "IfcLocalPlacement", None, self.file.create_entity("IfcAxis2Placement3D", point)
            )
            solid = self.file.create_entity("IfcExtrudedAreaSolid", square, None, up, 0.025)
            body = self.file.create_entity("IfcShapeRepresentation", context, "Body", "SweptSolid", [solid])
            shape = self.file.create_entity("IfcProductDefinitionShape", None, None, [body])
            own = {"ObjectPlacement": place, "Name": f"base plate of {column.Name}"}
            self.file.create_entity("IfcPlate", GlobalId=ifcopenshell.guid.new(), Representation=shape, **own)
            self.file.create_entity(
                "IfcMechanicalFastener", GlobalId=ifcopenshell.guid.new(), Name=f"anchors of {column.Name}"
            )
        return f"{len(feet)} base plates with anchors" if feet else ""
