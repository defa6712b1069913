"""Two angles or channels back to back."""

from __future__ import annotations

from collections.abc import Callable

from engine.catalogue.outlines import Ring, mirrored
from engine.catalogue.properties import Section
from engine.catalogue.shapes.angles import angle_outline
from engine.catalogue.shapes.channels import channel_outline
from engine.catalogue.shapes.making import make


def pair_outline(shape: str, h: float, b: float, tw: float, tf: float, r: float, gap: float) -> list[Ring]:
    """Two angles or channels of these sizes, backs to the gap between them."""
    one = channel_outline(h, b, tw, tf, r) if shape == "channel" else angle_outline(h, b, tf, r, r / 2)
    right = one + (gap / 2, 0.0)
    return [right, mirrored(right)]


def double(name: str, of: Section, gap: float) -> Section:
    """Two angles or two channels back to back with a gap, joined so closely that they act as one. It, Iw: twice the one's."""
    return make(
        name,
        "built",
        f"double {of.shape}",
        pair_outline(of.shape, of.h, of.b, of.tw, of.tf, of.r, gap),
        h=of.h,
        b=2 * of.b + gap,
        tw=of.tw,
        tf=of.tf,
        r=of.r,
        It=2 * of.It,
        Iw=2 * of.Iw,
        web=2 * of.Av_z,
        flanges=2 * of.Av_y,
        gap=gap,
    )


def _drawn(shape: str) -> Callable[[Section], list[Ring]]:
    return lambda s: pair_outline(shape, s.h, (s.b - s.gap) / 2, s.tw, s.tf, s.r, s.gap)


OUTLINES = {f"double {shape}": _drawn(shape) for shape in ("angle", "channel")}
