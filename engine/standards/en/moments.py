"""What the shape of a moment diagram does in buckling: C1 for lateral-torsional buckling, C_m of annex B and C_m,0 of annex A.

A doubly symmetric beam between forks under moments M(x) = λ m(x), m at most 1, twists by φ = Σ a_k sin(kπx/L) with

E I_w φ⁗ − G I_t φ″ − (λ m)²/(E I_z) φ + λ q z φ = 0

after the sideways movement, v″ = −M φ/E I_z, has been eliminated (Timoshenko and Gere, Theory of Elastic Stability, 6.3; Trahair,
Flexural-Torsional Buckling of Structures, 7.2); q is the load that belongs to m and z its height above the shear centre. C1 is
the greatest factor on the uniform moment; whether a moment is sagging or hogging makes no difference.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from engine.structure.model import Bools, Floats, Ints

#: half waves of the twist that take part: C1 is then within 0.5 % above the exact one for loads and end moments
WAVES = 5
#: C1 is not taken greater than this
MOST_C1 = 3.5
#: a deviation from the straight line between the ends below this share of the largest moment is none
STRAIGHT = 1e-6


@cache
def _weights(samples: int) -> tuple[Floats, Floats]:
    """((s, pairs) Simpson's weights of 2 ∫ m² sin kπξ sin jπξ dξ, (s,) those of −4 ∫ m cos 2πξ dξ), s odd, equally spaced."""
    xi = np.linspace(0.0, 1.0, samples)
    simpson = np.full(samples, 2.0)
    simpson[1::2] = 4.0
    simpson[0] = simpson[-1] = 1.0
    simpson /= 3 * (samples - 1)
    waves = np.sin(np.pi * np.outer(xi, np.arange(1, WAVES + 1)))
    first, second = np.triu_indices(WAVES)
    return 2 * simpson[:, None] * waves[:, first] * waves[:, second], -4 * simpson * np.cos(2 * np.pi * xi)


def shape_of_moments(moments: Floats, signed: Floats, warping: Floats) -> tuple[Floats, Floats]:
    """(C1, c) of segments: moments (…, s, c) that count, as magnitudes at s equally spaced places; signed: the same with the sign
    positive where a load from above belongs to them; warping: π² E I_w/(G I_t L²), broadcast against (…, c). C1: (…, c), on the
    safe side by the bound λ_max ≤ (Σ λ⁴)^¼, nowhere below that of a uniform moment; c: of a load at the flange, 0 where it holds the
    beam back."""
    largest = moments.max(axis=-2)
    m = np.swapaxes(moments / np.where(largest > 0, largest, 1.0)[..., None, :], -1, -2)
    entries = (m**2) @ _weights(moments.shape[-2])[0]
    k2 = np.arange(1, WAVES + 1) ** 2
    # stiffness of each wave beside that of the first
    w = np.asarray(warping)[..., None]
    soft = 1 / np.sqrt(k2 * (1 + k2 * w) / (1 + w))
    first, second = np.triu_indices(WAVES)
    A = np.empty((*entries.shape[:-1], WAVES, WAVES))
    A[..., first, second] = entries * soft[..., first] * soft[..., second]
    A[..., second, first] = A[..., first, second]
    bound = np.sqrt(np.sqrt(np.square(A @ A).sum(axis=(-1, -2))))
    C1 = np.where(largest > 0, np.minimum(1 / np.sqrt(np.maximum(bound, 1e-9)), MOST_C1), 1.0)
    return C1, lift_of(largest, signed)


def lift_of(largest: Floats, signed: Floats) -> Floats:
    """c of `shape_of_moments` alone, from the largest moments that count, (…, c)."""
    unit = np.where(largest > 0, largest, 1.0)
    lift = np.swapaxes(signed, -1, -2) @ _weights(signed.shape[-2])[1] / unit
    return np.where(largest > 0, np.maximum(lift, 0.0), 0.0)


def moment_factor(moments: Floats) -> Floats:
    """C_m of table B.3, (…, c), from moments (…, s, c) at s equally spaced places along the length, s odd.

    M_s of the table is the moment in the middle of a uniform load's parabola. Of any diagram it is taken where it deviates most
    from the line between the ends, to either side, and where it is greatest between them if that is beyond the ends; the
    largest factor counts. By the column for distributed load, which is nowhere below that for a concentrated one.
    """
    start, end = moments[..., 0, :], moments[..., -1, :]
    xi = np.linspace(0.0, 1.0, moments.shape[-2])[:, None]
    off = moments - start[..., None, :] * (1 - xi) - end[..., None, :] * xi
    size = np.abs(moments)
    middle = moments[..., moments.shape[-2] // 2, :]

    def at(pick: Ints) -> Floats:
        return np.asarray(np.take_along_axis(moments, pick[..., None, :], axis=-2)[..., 0, :])

    found = _from_three(start, middle, end)
    largest = size.max(axis=-2)
    for pick, counts in (
        (off.argmax(axis=-2), off.max(axis=-2) > STRAIGHT * largest),
        (off.argmin(axis=-2), -off.min(axis=-2) > STRAIGHT * largest),
        (size.argmax(axis=-2), largest > np.maximum(np.abs(start), np.abs(end)) * (1 + STRAIGHT)),
    ):
        found = np.maximum(found, np.where(counts, _from_three(start, at(pick), end), 0.0))
    return found


def _from_three(start: Floats, middle: Floats, end: Floats) -> Floats:
    """C_m of table B.3 from the moments at the ends and between, by its column for distributed load; a linear diagram gives
    0.6 + 0.4 ψ by it too."""
    swap = np.abs(end) > np.abs(start)
    M_h = np.where(swap, end, start)
    other = np.where(swap, start, end)
    none = (M_h == 0) & (middle == 0)
    safe_h = np.where(M_h == 0, 1.0, M_h)
    psi = np.where(M_h == 0, 1.0, other / safe_h)
    alpha_s = middle / safe_h
    alpha_h = np.where(middle == 0, 0.0, M_h / np.where(middle == 0, 1.0, middle))
    hogging = np.where(
        alpha_s >= 0,
        0.2 + 0.8 * alpha_s,
        np.where(psi >= 0, 0.1 - 0.8 * alpha_s, 0.1 * (1 - psi) - 0.8 * alpha_s),
    )
    span = np.where((alpha_h >= 0) | (psi >= 0), 0.95 + 0.05 * alpha_h, 0.95 + 0.05 * alpha_h * (1 + 2 * psi))
    value = np.where((np.abs(middle) <= np.abs(M_h)) & (M_h != 0), np.maximum(hogging, 0.4), span)
    return np.where(none, 1.0, np.clip(value, 0.4, 1.0))


@cache
def _sag(samples: int) -> Floats:
    """(s, s): the deflection at s equally spaced places of a beam of unit length and stiffness between supports at its ends under
    a moment that runs linearly between those places."""
    xi = np.linspace(0.0, 1.0, samples)
    h = xi[1]
    # integrals of a hat function twice: of the moment between its places
    sums = np.cumsum(np.eye(samples), axis=0) - np.eye(samples) / 2
    sums[:, 0] -= 0.5
    turn = sums * h
    steps = np.zeros((samples, samples))
    for i in range(1, samples):
        steps[i] = steps[i - 1] + turn[i - 1] * h
        steps[i, i - 1] += h**2 / 3
        steps[i, i] += h**2 / 6
    return np.asarray(xi[:, None] * steps[-1] - steps)


def amplification(moments: Floats) -> tuple[Floats, Floats]:
    """(a, b) of C_m,0 = a + b N_Ed/N_cr of table A.2, each (…, c), from moments (…, s, c) at s equally spaced places along the
    length: of a straight diagram by its ψ, of any other by the greatest deflection that belongs to it, π² EI |δ| / (L² |M|) − 1."""
    start, end = moments[..., 0, :], moments[..., -1, :]
    size = np.abs(moments).max(axis=-2)
    safe = np.where(size > 0, size, 1.0)
    xi = np.linspace(0.0, 1.0, moments.shape[-2])[:, None]
    off = np.abs(moments - start[..., None, :] * (1 - xi) - end[..., None, :] * xi).max(axis=-2)
    swap = np.abs(end) > np.abs(start)
    larger, smaller = np.where(swap, end, start), np.where(swap, start, end)
    psi = np.where(size > 0, smaller / np.where(larger == 0, 1.0, larger), 1.0)
    sag = np.abs(np.matmul(_sag(moments.shape[-2]), moments)).max(axis=-2)
    straight = off <= STRAIGHT * safe
    a = np.where(straight, 0.79 + 0.21 * psi, 1.0)
    return a, np.where(straight, 0.36 * (psi - 0.33), np.pi**2 * sag / safe - 1)


def counting(My: Floats, flange: Ints, other_held: Bools) -> Floats:
    """Moments (…, s, c) that count in a flange's segments: where the other flange is held within the segment only those that
    compress this one, else all as soon as any of them compresses it, for then nothing holds the flange that the others compress.

    flange: (…,) +1 outer, −1 inner; other_held: (…,).
    """
    pressing = np.maximum(My * flange[..., None, None], 0.0)
    # what rounding leaves of a moment presses nothing
    any_ = pressing.max(axis=-2, keepdims=True) > STRAIGHT * np.abs(My).max(axis=-2, keepdims=True)
    return np.where(other_held[..., None, None], pressing, np.where(any_, np.abs(My), 0.0))


def most_counting(My: Floats, flange: Ints, other_held: Bools) -> Floats:
    """The largest of `counting` over the places (…, s), (…, c)."""
    high, low = My.max(axis=-2), My.min(axis=-2)
    pressing = np.where(flange[..., None] > 0, high, -low)
    size = np.maximum(high, -low)
    any_ = pressing > STRAIGHT * size
    return np.where(other_held[..., None], np.maximum(pressing, 0.0), np.where(any_, size, 0.0))
