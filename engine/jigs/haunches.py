"""Haunches and tapers as prismatic pieces along their true centroid line."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.shapes.i_sections import haunched, welded_i
from engine.document.base import Haunch
from engine.errors import ModelError
from engine.jigs.parts import Materials
from engine.structure.model import Floats, Member, Piece

#: pieces of a haunch; twice as many change the moments of a portal frame by less than 0.1 % (tests)
PIECES = 6
#: pieces of a member that tapers from one section to another
TAPER_PIECES = 16


def haunched_pieces(
    haunches: tuple[Haunch | None, Haunch | None],
    section: Section,
    length: float,
    materials: Materials,
    places: tuple[str, str],
) -> tuple[Piece, ...]:
    """Pieces of the haunches at start and end of a member; `places` name their fields. Raises ModelError."""
    found: tuple[Piece, ...] = ()
    for at_start, haunch, place in zip((True, False), haunches, places, strict=True):
        if haunch:
            found += haunch_pieces(haunch, section, length, at_start, materials, place)
    covered = sum(piece.end - piece.start for piece in found)
    if covered > length + 1e-9:
        raise ModelError(
            f"The haunches take {covered:.2f} m of a rafter that is {length:.2f} m long.", f"{places[0]}.length"
        )
    return found


def haunch_pieces(
    haunch: Haunch,
    rafter: Section,
    length: float,
    at_start: bool,
    materials: Materials,
    place: str,
    pieces: int = PIECES,
) -> tuple[Piece, ...]:
    """Pieces of a haunch at the start or the end of a rafter of that length. Raises ModelError naming the field.

    The depth falls linearly to nothing. Each piece has the section at its middle; its centroid line runs from the
    centroid at the one end to that at the other, below the rafter's own.
    """
    if haunch.length >= length:
        raise ModelError(
            f"The haunch is {haunch.length:g} m long, longer than the rafter of {length:.2f} m.", f"{place}.length"
        )
    if rafter.shape != "I":
        raise ModelError(f"A haunch lies below an I section with equal flanges; “{rafter.name}” is none.", place)
    web, width, flange = haunch.web, haunch.flange_width, haunch.flange
    if haunch.made_of == "cut":
        cut = materials.section(haunch.section, f"{place}.section") if haunch.section else rafter
        if cut.shape != "I":
            raise ModelError(f"A haunch is cut from an I section; “{cut.name}” is none.", f"{place}.section")
        if haunch.depth > cut.h - cut.tf:
            raise ModelError(
                f"A cut from {cut.name} gives a haunch of at most {cut.h - cut.tf:.3f} m, not {haunch.depth:g} m; cut it from a "
                "deeper section, or make it of plates.",
                f"{place}.depth",
            )
        web, width, flange = cut.tw, cut.b, cut.tf

    def at(share: float) -> Section:
        return haunched(rafter, max(haunch.depth * (1 - share), flange), web, width, flange)

    found = []
    for i in range(pieces):
        near, far = i / pieces, (i + 1) / pieces
        a, b = near * haunch.length, far * haunch.length
        rises = at(near).centre_z, at(far).centre_z
        if at_start:
            found.append(Piece(a, b, at((near + far) / 2), *rises))
        else:
            found.append(Piece(length - b, length - a, at((near + far) / 2), *rises[::-1]))
    return tuple(found)


def steel(haunch: Haunch, web: Floats, width: Floats, flange: Floats) -> Floats:
    """(n,) m³ that a haunch adds to its rafter, cut from sections with these webs and flanges, (n,) m; its own plates count where it has
    such. What its pieces hold together."""
    if haunch.made_of == "plates":
        web, width, flange = (np.full_like(web, x) for x in (haunch.web, haunch.flange_width, haunch.flange))
    depths = np.maximum(haunch.depth * (1 - (np.arange(PIECES) + 0.5) / PIECES), flange[:, None])
    areas = web[:, None] * (depths - flange[:, None]) + (width * flange)[:, None]
    return np.asarray(areas.mean(axis=1) * haunch.length)


def deepest(members: Iterable[Member]) -> Haunch | None:
    """The deepest haunch of members, of those the longest; None where they have none."""
    found = [haunch for m in members for haunch in m.haunches if haunch]
    return max(found, key=lambda h: (h.depth, h.length), default=None)


def taper(start: Section, end: Section, length: float, align: str) -> tuple[Piece, ...]:
    """Pieces of a plate girder whose depth and plates run linearly from one I section to another.

    align: "top flange" or "bottom flange" runs straight, else the centroid. Raises ModelError for other sections.
    """
    if start.shape != "I" or end.shape != "I" or start.r or end.r:
        raise ModelError("a taper runs only between two welded I sections with equal flanges.", "end_section")
    found = []
    for i in range(TAPER_PIECES):
        share = (i + 0.5) / TAPER_PIECES
        sizes = [getattr(start, key) * (1 - share) + getattr(end, key) * share for key in ("h", "b", "tf", "tw")]
        made = welded_i(f"{start.name} … {end.name}", *sizes)
        # the flange that `align` names stays straight; else the centroid does
        rise = {"top flange": -0.5, "bottom flange": 0.5}.get(align, 0.0)
        near, far = ((start.h + (end.h - start.h) * s) - start.h for s in (i / TAPER_PIECES, (i + 1) / TAPER_PIECES))
        found.append(Piece(i / TAPER_PIECES * length, (i + 1) / TAPER_PIECES * length, made, rise * near, rise * far))
    return tuple(found)


def pieces_of(
    materials: Materials,
    section: Section,
    length: float,
    end_section: str | None,
    haunches: tuple[Haunch | None, Haunch | None],
    align: str,
    name: str,
    place: str,
) -> tuple[Piece, ...]:
    """What a member is made of besides its section: a taper, or haunches."""
    places = (f"{place}.haunch_start", f"{place}.haunch_end")
    if not end_section:
        return haunched_pieces(haunches, section, length, materials, places)
    if haunches != (None, None):
        raise ModelError(f"Member “{name}” tapers; it cannot have haunches too.", places[0 if haunches[0] else 1])
    try:
        return taper(section, materials.section(end_section, f"{place}.end_section"), length, align)
    except ModelError as error:
        raise ModelError(f"Member “{name}”: {error.message}", f"{place}.end_section") from None
