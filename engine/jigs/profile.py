"""The cross-section of a hall as lines: where columns stand, and the slopes between them."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, ceil, cos, degrees, hypot, radians, tan

from engine.document.jigs import HallJig, Purlins, RoofBay
from engine.errors import ModelError
from engine.jigs.parts import Materials
from engine.lazy import lazily

LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


@dataclass(frozen=True)
class ColumnLine:
    """A row of columns: its letter, place across the hall, foot and top."""

    name: str
    x: float
    base: float
    top: float


@dataclass(frozen=True)
class Slope:
    """A roof slope in the cross-section, from its start (eaves or valley, or the left end of a single pitch) to its end.

    name: “AB-left”, “AB-right”, or “AB” when the bay has one slope; bay: “AB”. column_start, column_end: letters of the columns that
    it stands on, "" at a ridge. outside: −1 when the slope faces left, +1 right, 0 flat.
    """

    name: str
    bay: str
    side: str
    x0: float
    z0: float
    x1: float
    z1: float
    column_start: str
    column_end: str

    @lazily
    def length(self) -> float:
        """Along the slope, in metres."""
        return hypot(self.x1 - self.x0, self.z1 - self.z0)

    @property
    def pitch(self) -> float:
        """Degrees, positive."""
        return abs(degrees(atan2(self.z1 - self.z0, abs(self.x1 - self.x0))))

    @property
    def lean(self) -> float:
        """Radians by which what runs along the hall is turned about itself to stand at right angles to the slope."""
        way = 1.0 if self.x1 > self.x0 else -1.0
        return atan2(-way * (self.z1 - self.z0), way * (self.x1 - self.x0))

    def at(self, distance: float) -> tuple[float, float]:
        """(x, z) at a distance from its start."""
        share = distance / self.length
        return self.x0 + share * (self.x1 - self.x0), self.z0 + share * (self.z1 - self.z0)

    @property
    def outside(self) -> tuple[float, float]:
        """Unit normal (x, z) pointing up."""
        dx, dz = (self.x1 - self.x0) / self.length, (self.z1 - self.z0) / self.length
        return (-dz, dx) if dx > 0 else (dz, -dx)


@dataclass(frozen=True)
class Profile:
    """Columns from left to right, slopes from left to right, ridges as (bay letters, x, z). outside: how far the cladding lies
    outside the lines of the steel, sideways and square to the roof, in metres; 0 where nothing is measured to it."""

    columns: tuple[ColumnLine, ...]
    slopes: tuple[Slope, ...]
    ridges: tuple[tuple[str, float, float], ...]
    outside: tuple[float, float] = (0.0, 0.0)

    def above(self, slope: Slope) -> float:
        """How far the cladding lies above a slope, in metres."""
        return self.outside[1] / cos(radians(slope.pitch))

    @property
    def height(self) -> float:
        """Highest point, in metres above ±0."""
        return max(max(s.z0, s.z1) for s in self.slopes)

    @property
    def span(self) -> float:
        """Between the outer column lines."""
        return self.columns[-1].x - self.columns[0].x


def profile(hall: HallJig, materials: Materials) -> Profile:
    """The cross-section between system lines. Raises ModelError naming the field when a roof shape cannot be."""
    margins = _margins(hall, materials)
    x, top, base = 0.0, hall.eaves_height, hall.base_level
    columns: list[ColumnLine] = []
    slopes: list[Slope] = []
    ridges: list[tuple[str, float, float]] = []
    last = len(hall.bays) - 1
    for i, bay in enumerate(hall.bays):
        place = f"hall.bays.{i}"
        left, right = LETTERS[i], LETTERS[i + 1]
        span = bay.span + (margins.first if i == 0 else margins.inner) + (margins.first if i == last else margins.inner)
        lift = margins.height(bay.pitch if bay.shape != "flat" else 0.0)
        if i == 0:
            top += lift
        x1 = x + span
        if bay.shape == "duopitch":
            end = bay.right_height + lift if bay.right_height is not None else top
            ridge_x, ridge_z = _ridge(bay, span, top, end, place)
            ridges.append((left + right, x + ridge_x, ridge_z))
            slopes.append(Slope(f"{left}{right}-left", left + right, "left", x, top, x + ridge_x, ridge_z, left, ""))
            slopes.append(
                Slope(f"{left}{right}-right", left + right, "right", x1, end, x + ridge_x, ridge_z, right, "")
            )
        else:
            rise = 0.0 if bay.shape == "flat" else span * tan(radians(bay.pitch))
            end = top + rise
            slopes.append(Slope(f"{left}{right}", left + right, "", x, top, x1, end, left, right))
        columns.append(ColumnLine(left, x, base, top))
        x, top = x1, end
        base = bay.right_base if bay.right_base is not None else base
    columns.append(ColumnLine(LETTERS[last + 1], x, base, top))
    for i, column in enumerate(columns):
        if column.top - column.base < 1:
            place = "hall.base_level"
            if i:
                bay = hall.bays[i - 1]
                field = (
                    "pitch"
                    if bay.shape == "single pitch"
                    else "right_height"
                    if bay.right_base is None
                    else "right_base"
                )
                place = f"hall.bays.{i - 1}.{field}"
            raise ModelError(
                f"The columns on grid line {column.name} would be {column.top - column.base:.2f} m high; at least 1 m is needed.",
                place,
            )
    outside = (-margins.first, -margins.depth) if hall.measured == "cladding" else (0.0, 0.0)
    return Profile(tuple(columns), tuple(slopes), tuple(ridges), outside)


def _ridge(bay: RoofBay, span: float, left: float, right: float, place: str) -> tuple[float, float]:
    if bay.ridge_height is not None:
        x = bay.ridge_at if bay.ridge_at is not None else span / 2
        z = bay.ridge_height
        where = f"{place}.ridge_height"
    elif bay.ridge_at is not None:
        x = bay.ridge_at
        z = left + x * tan(radians(bay.pitch))
        where = f"{place}.ridge_at"
    else:
        up, down = tan(radians(bay.pitch)), tan(radians(bay.right_pitch if bay.right_pitch is not None else bay.pitch))
        where = f"{place}.pitch"
        if up + down <= 1e-6:
            raise ModelError("A duopitch roof rises to its ridge on both sides; choose a flat roof instead.", where)
        x = (right - left + span * down) / (up + down)
        z = left + x * up
    if not 0.02 * span <= x <= 0.98 * span:
        raise ModelError(
            f"The ridge would lie {x:.2f} m from the left grid line, outside the span of {span:.2f} m.", where
        )
    if z <= max(left, right) + 0.01:
        raise ModelError(f"The ridge at {z:.2f} m would not be above the eaves at {max(left, right):.2f} m.", where)
    return x, z


@dataclass(frozen=True)
class _Margins:
    """What is added to a bay's span at an outer and at an inner column, and to heights (vertical depth at no pitch)."""

    first: float
    inner: float
    depth: float

    def height(self, pitch: float) -> float:
        return self.depth / cos(radians(pitch))


def _margins(hall: HallJig, materials: Materials) -> _Margins:
    if hall.measured == "grid":
        return _Margins(0.0, 0.0, 0.0)
    s = hall.sections
    column = materials.section(s.columns, "hall.sections.columns").h / 2
    inner = materials.section(s.inner_columns, "hall.sections.inner_columns").h / 2
    rafter = materials.section(s.rafters, "hall.sections.rafters").h / 2
    if hall.measured == "clear":
        return _Margins(column, inner, rafter)
    rail = materials.section(s.rails, "hall.sections.rails").h
    purlin = materials.section(s.purlins, "hall.sections.purlins").h
    return _Margins(-(column + rail), 0.0, -(rafter + purlin))


def purlin_positions(length: float, purlins: Purlins) -> tuple[float, ...]:
    """Distances from the eaves along a slope (rails: from the foot): the first, then equal spaces not longer than asked
    for; both ends included."""
    start = purlins.first or 0.0
    if start >= length:
        start = 0.0
    spaces = max(1, ceil((length - start) / purlins.spacing - 1e-9))
    found = tuple(start + (length - start) * i / spaces for i in range(spaces + 1))
    return found if start == 0.0 else (0.0, *found)


def stay_positions(positions: tuple[float, ...], every: int) -> tuple[float, ...]:
    """Those of the positions that are stayed: every n-th, and both ends."""
    chosen = positions[every:-1:every] if every else ()
    return (positions[0], *chosen, positions[-1])


def beside(hall: HallJig, materials: Materials) -> dict[str, float]:
    """Metres of the purlins and rails that the hall is said to have and that are no members, by role; those along eaves and ridge, where
    beams stand, and on gables are not counted. Raises ModelError for a hall that cannot be."""
    shape, found = profile(hall, materials), {}
    if not hall.purlins.modelled:
        slopes = [slope.length for slope in shape.slopes]
        slopes += [lean.span / cos(radians(lean.pitch)) for lean in (hall.lean_to_left, hall.lean_to_right) if lean]
        rows = sum(len(purlin_positions(length, hall.purlins)) - 2 for length in slopes)
        found["purlin"] = rows * hall.length
    if hall.rails and not hall.rails.modelled and not hall.open_sides:
        outer = (shape.columns[0], shape.columns[-1])
        rows = sum(len(purlin_positions(column.top - column.base, hall.rails)) - 2 for column in outer)
        found["side rail"] = rows * hall.length
    return found
