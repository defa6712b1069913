"""Where flanges are held, changed by hand: members of one's own say it themselves, an edit adds to what a jig gives and frees of it."""

from __future__ import annotations

from engine.document.byhand import MemberEdit, MemberInput, OwnChecks, SegmentLength
from engine.errors import ModelError
from engine.structure.model import Member

#: places nearer than this are one, m
SAME = 1e-3

Target = MemberEdit | MemberInput


def hold(target: Target, flange: str, at: float) -> None:
    """Hold a flange at a distance from the start."""
    freed = _places(target, "freed", flange)
    if any(abs(x - at) < SAME for x in freed):
        _set(target, "freed", flange, [x for x in freed if abs(x - at) >= SAME])
        return
    own = [x for x in _places(target, "restraints", flange) if abs(x - at) >= SAME]
    _set(target, "restraints", flange, [*own, at])


def let_go(target: Target, member: Member, flange: str, at: float, length: float) -> None:
    """Let go what holds a flange there: what was put by hand, or what the jig gives. Raises ModelError where nothing does."""
    if at < SAME or at > length - SAME:
        raise ModelError(f"The ends of “{member.name}” are held by what it meets there.", "at")
    own = _places(target, "restraints", flange)
    there = next((x for x in getattr(member, flange) if abs(x - at) < SAME), None)
    if any(abs(x - at) < SAME for x in own):
        _set(target, "restraints", flange, [x for x in own if abs(x - at) >= SAME])
    elif there is not None and isinstance(target, MemberEdit):
        _set(target, "freed", flange, [*target_freed(target, flange), there])
    else:
        raise ModelError(f"Nothing holds the {flange} flange of “{member.name}” at {at:g} m.", "at")


def match(target: Target, member: Member, like: Member, length: float) -> None:
    """Hold both flanges at the distances at which those of another member are held between its ends."""
    for flange in ("outer", "inner"):
        wanted = [x for x in getattr(like, flange) if SAME < x < length - SAME]
        if isinstance(target, MemberInput):
            _set(target, "restraints", flange, wanted)
            continue
        own = _places(target, "restraints", flange)
        given = [x for x in getattr(member, flange) if not _near(x, own) and SAME < x < length - SAME]
        given += target_freed(target, flange)
        _set(target, "restraints", flange, [x for x in wanted if not _near(x, given)])
        _set(target, "freed", flange, [x for x in given if not _near(x, wanted)])


def state_length(target: Target, member: Member, flange: str, at: float, factor: float | None, length: float) -> None:
    """State the length for lateral-torsional buckling of the segment of a flange around a place, over the distance of what holds it; None: no longer."""
    places = getattr(member, flange)
    start, end = max((x for x in places if x <= at), default=0.0), min((x for x in places if x > at), default=length)
    checks = target.checks or OwnChecks()
    kept = [s for s in checks.lateral or () if s.flange != flange or not start <= s.at < end]
    if factor is not None:
        kept.append(SegmentLength(flange=flange, at=at, factor=factor, over=round(end - start, 6)))  # type: ignore[arg-type]
    target.checks = checks.changed(OwnChecks(lateral=tuple(sorted(kept, key=lambda s: (s.flange, s.at))) or None))


def target_freed(target: MemberEdit, flange: str) -> list[float]:
    """Places where what the jig holds does not count."""
    return list(target.freed_outer if flange == "outer" else target.freed_inner)


def _near(place: float, others: list[float]) -> bool:
    return any(abs(place - x) < SAME for x in others)


def _places(target: Target, kind: str, flange: str) -> list[float]:
    return list(getattr(target, f"{kind}_{flange}", []))


def _set(target: Target, kind: str, flange: str, places: list[float]) -> None:
    setattr(target, f"{kind}_{flange}", sorted(round(x, 6) for x in places))
