"""Tables of extremes over combinations as they are sent: forces of members, sways of columns, membrane forces of decks."""

from __future__ import annotations

from engine.chain import Chain
from engine.report.extremes import column_sways, deck_forces, member_extremes
from engine.structure.model import Structure
from server.projects import response_schemas


def extremes_out(chain: Chain) -> list[response_schemas.ExtremesOut]:
    """Envelopes of all members over the strength combinations, with where along the member and in which of these."""
    out = []
    for m, pairs in zip(chain.structure.members, member_extremes(chain), strict=False):
        (most, least) = zip(*pairs, strict=True)
        out.append(
            response_schemas.ExtremesOut(
                member=m.name,
                role=m.role,
                most=[e.value / 1000 for e in most],
                most_at=[e.at for e in most],
                most_in=[e.combination for e in most],
                least=[e.value / 1000 for e in least],
                least_at=[e.at for e in least],
                least_in=[e.combination for e in least],
            )
        )
    return out


def _grid_place(structure: Structure, node: int) -> str:
    """A node by the grid lines through it: “A 4”."""
    x, y = structure.xyz[node, :2]
    words = [
        next((line.name for line in structure.grid if line.axis == axis and abs(line.at - at) < 0.01), "")
        for axis, at in (("X", x), ("Y", y))
    ]
    return " ".join(word for word in words if word)


def sways_out(chain: Chain) -> list[response_schemas.SwayOut]:
    """Sway of every storey of every column, and of whole columns: the largest along X and along Y over the combinations for
    deflection, and over those for strength."""
    structure = chain.structure
    return [
        response_schemas.SwayOut(
            member=structure.members[s.storey.member].name,
            grid=_grid_place(structure, s.storey.foot),
            foot=float(structure.xyz[s.storey.foot, 2]),
            head=float(structure.xyz[s.storey.head, 2]),
            whole=s.storey.whole,
            use=s.use,
            sway=[v * 1000 for v in s.sway],
            ratio=[_ratio(s.storey.height, v) for v in s.sway],
            combination=list(s.combination),
        )
        for s in column_sways(chain)
    ]


def _ratio(height: float, sway: float) -> float | None:
    """Height over sway, None beyond 100,000."""
    return height / abs(sway) if abs(sway) > height * 1e-5 else None


def decks_out(chain: Chain) -> list[response_schemas.DeckForcesOut]:
    """Membrane forces of stiff decks, the largest in size over the strength combinations: n_x, n_y, n_xy of each panel."""
    return [
        response_schemas.DeckForcesOut(panel=d.panel, force=[f / 1000 for f in d.force], combination=d.combination)
        for d in deck_forces(chain)
    ]
