"""Solid rounds and flats."""

from __future__ import annotations

from math import pi

import numpy as np

from engine.catalogue.outlines import Ring, circle
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import make


def round_bar(name: str, d: float) -> Section:
    """Solid round."""
    second = pi * d**4 / 64
    return make(
        name,
        "RD",
        "round",
        [circle(d / 2)],
        h=d,
        b=d,
        tw=d,
        tf=d,
        It=2 * second,
        Iw=0.0,
        web=0.9 * pi * d**2 / 4,
        flanges=0.9 * pi * d**2 / 4,
        thickest=d,
    )


def _rectangle(b: float, h: float) -> Ring:
    return np.array([(-b / 2, -h / 2), (b / 2, -h / 2), (b / 2, h / 2), (-b / 2, h / 2)])


def flat_bar(name: str, family: str, b: float, h: float) -> Section:
    """Solid rectangle, h deep and b wide. It: the series of Timoshenko and Goodier, Theory of Elasticity, article 109."""
    long, short = max(b, h), min(b, h)
    n = np.arange(1, 60, 2)
    It = (
        long
        * short**3
        / 3
        * (1 - 192 / pi**5 * short / long * float((np.tanh(n * pi * long / (2 * short)) / n**5).sum()))
    )
    ring = _rectangle(b, h)
    return make(
        name,
        family,
        "flat",
        [ring],
        h=h,
        b=b,
        tw=b,
        tf=h,
        It=It,
        Iw=0.0,
        web=b * h * 5 / 6,
        flanges=b * h,
        thickest=short,
    )


OUTLINES = {"round": lambda s: [circle(s.h / 2)], "flat": lambda s: [_rectangle(s.b, s.h)]}
