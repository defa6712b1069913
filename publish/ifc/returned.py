"""A model that was sent and came back: its members with the identities that last, as they are built now."""

from __future__ import annotations

import argparse
import re
import sys
from collections import Counter
from typing import Any

import ifcopenshell.guid

from engine.catalogue.steels import STRENGTH
from engine.errors import ModelError, refused
from engine.returned.model import ReturnedMember, ReturnedModel
from publish.ifc.haunches import haunches_of
from publish.ifc.opening import opened
from publish.ifc.taken import ROLES, IfcReader
from publish.taken import counted

#: what joints are made of, in words
JOINTS = {
    "IfcPlate": "plate",
    "IfcMechanicalFastener": "group of bolts",
    "IfcFastener": "weld",
    "IfcDiscreteAccessory": "accessory",
    "IfcBuildingElementProxy": "other part",
}


def main(arguments: list[str]) -> int:
    """A file from standard input as JSON; 0 when it worked, 2 for a file that cannot be used."""
    parser = argparse.ArgumentParser(prog="lorica", description="A model that came back, as its members.")
    parser.add_subparsers(dest="command", required=True).add_parser("returned")
    parser.parse_args(arguments)
    try:
        print(returned(sys.stdin.buffer.read()).model_dump_json())
    except ModelError as error:
        return refused(error.message)
    return 0


def returned(data: bytes) -> ReturnedModel:
    """The members of an IFC4 file as they are built. Raises ModelError with one sentence for a file that cannot be read."""
    return opened(data, lambda file: _Returned(file, {}).returned())


class _Returned(IfcReader):
    def returned(self) -> ReturnedModel:
        products = [p for kind in ROLES for p in self.file.by_type(kind)]
        if not products:
            raise ModelError("The file holds no beam, column or member.")
        members, unread = [], []
        for product in products:
            found = self.product(product)
            identity = ifcopenshell.guid.expand(product.GlobalId)
            if found is None:
                unread.append(identity)
                continue
            values, (start, end) = found
            members.append(
                ReturnedMember(
                    identity=identity,
                    called=(product.Name or product.is_a())[:80],
                    section=values["section"],
                    material=values["material"],
                    role=values["role"],
                    start=tuple(start.tolist()),
                    end=tuple(end.tolist()),
                    roll=values.get("roll", 0.0),
                    haunches=haunches_of(product, self.scale),
                )
            )
        project = (self.file.by_type("IfcProject") or [None])[0]
        stated = re.search(r"revision (\d+)$", (project and project.Description) or "")
        joints = Counter({words: len(self.file.by_type(kind)) for kind, words in JOINTS.items()})
        left = [f"Parts of joints: {', '.join(counted(n, words, _many(words)) for words, n in joints.items() if n)}."]
        return ReturnedModel(
            revision=int(stated[1]) if stated else None,
            members=members,
            unread=unread,
            sections=[dict(own) for own in self.made.own.values()],  # type: ignore[misc]
            built=[dict(built) for built in self.made.built.values()],  # type: ignore[misc]
            guessed=[f"{words} ({count})." for words, count in self.alike.items()],
            left_out=[*self.taken.left_out, *(left if joints.total() else [])],
        )

    def made_of(self, product: Any, profile: Any = None) -> dict[str, str]:
        """Section and grade, which keeps its name where it is none that is known; without the quality that a grade is ordered with."""
        stated, name = self.material_of(product)
        grade = re.match(r"S\d{3}", name)
        known = grade[0] if grade and grade[0] in STRENGTH else name
        return {"section": self.made.section(stated or profile), "material": known}


def _many(words: str) -> str:
    return "groups of bolts" if words.startswith("group") else "accessories" if words == "accessory" else f"{words}s"
