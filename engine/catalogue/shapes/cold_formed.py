"""Cold-formed sections with lips, of one wall."""

from __future__ import annotations

import numpy as np

from engine.catalogue.outlines import Ring, integrals
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import make
from engine.catalogue.thin_walled import thin_walled


def _channel_line(h: float, b: float, lip: float, t: float) -> Ring:
    y, z, c = b - t, (h - t) / 2, lip - t / 2
    return np.array([(y, -z + c), (y, -z), (0, -z), (0, z), (y, z), (y, z - c)])


def _zed_line(h: float, b: float, lip: float, t: float) -> Ring:
    y, z, c = b - t, (h - t) / 2, lip - t / 2
    return np.array([(-y, -z + c), (-y, -z), (0, -z), (0, z), (y, z), (y, z - c)])


def lipped_channel(name: str, h: float, b: float, lip: float, t: float) -> Section:
    """Cold-formed channel with lips, sharp corners of the middle line (EN 1993-1-3 5.1(3): fillets small)."""
    return _cold(name, "CL", "lipped channel", _channel_line(h, b, lip, t), h, b, lip, t)


def zed(name: str, h: float, b: float, lip: float, t: float) -> Section:
    """Cold-formed Z with lips, sharp corners of the middle line, turned to its principal axes."""
    return _cold(name, "Z", "zed", _zed_line(h, b, lip, t), h, b, lip, t)


def _cold(name: str, family: str, shape: str, line: Ring, h: float, b: float, lip: float, t: float) -> Section:
    w = thin_walled(line, t)
    return make(
        name,
        family,
        shape,
        [wall(line, t)],
        h=h,
        b=b,
        tw=t,
        tf=t,
        It=w.It,
        Iw=w.Iw,
        web=(h - t) * t,
        flanges=2 * (b - t) * t,
        shear=(w.y + w.shear_y, w.z + w.shear_z),
        principal=shape == "zed",
        lip=lip,
        cold=True,
    )


def wall(line: Ring, t: float) -> Ring:
    """The outline of a wall of thickness t along a line, mitred at its corners."""
    step = np.diff(line, axis=0)
    step /= np.hypot(*step.T)[:, None]
    normal = np.stack([-step[:, 1], step[:, 0]], axis=1)
    before, after = np.vstack([normal[:1], normal]), np.vstack([normal, normal[-1:]])
    mitre = (before + after) / (1 + (before * after).sum(axis=1))[:, None]
    ring = np.vstack([line - mitre * t / 2, (line + mitre * t / 2)[::-1]])
    return ring if integrals([ring]).A > 0 else ring[::-1]


OUTLINES = {
    "zed": lambda s: [wall(_zed_line(s.h, s.b, s.lip, s.tw), s.tw)],
    "lipped channel": lambda s: [wall(_channel_line(s.h, s.b, s.lip, s.tw), s.tw)],
}
