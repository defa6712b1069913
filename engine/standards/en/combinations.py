"""Combinations by EN 1990: strength, uplift (EQU), accidental, and the serviceability ones; the leading action rotates."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import product
from math import hypot, prod

import numpy as np

from engine.actions.cases import Case
from engine.actions.combinations import Combination, formula
from engine.document.national import BasisValues
from engine.document.rules import Rules, Site
from engine.errors import ModelError
from engine.structure.model import Floats

#: use -> letter of the names, and what it is
USES = {
    "strength": ("C", "strength, persistent and transient (STR)"),
    "accidental": ("A", "strength, accidental (6.11b)"),
    "uplift": ("U", "overturning and uplift (EQU)"),
    "deflection": ("D", "deflection, characteristic (6.14b)"),
    "variable": ("V", "deflection, variable actions alone"),
    "frequent": ("F", "frequent (6.15b)"),
    "quasi-permanent": ("P", "quasi-permanent (6.16b)"),
}

#: permanent cases that may come from separate sources
SEPARATE = 5
#: combinations, as they are foreseen, that are not begun
MOST = 50_000

#: table A1.1: (ψ0, ψ1, ψ2); snow of sites up to 1000 m, and above
PSI: dict[str, tuple[float, float, float]] = {
    "A": (0.7, 0.5, 0.3),
    "B": (0.7, 0.5, 0.3),
    "C": (0.7, 0.7, 0.6),
    "D": (0.7, 0.7, 0.6),
    "E": (1.0, 0.9, 0.8),
    "F": (0.7, 0.7, 0.6),
    "G": (0.7, 0.5, 0.3),
    "H": (0.0, 0.0, 0.0),
    "snow": (0.5, 0.2, 0.0),
    "snow above 1000 m": (0.7, 0.5, 0.2),
    "wind": (0.6, 0.2, 0.0),
    "temperature": (0.6, 0.5, 0.0),
    "crane": (1.0, 0.9, 0.5),
    "other": (1.0, 1.0, 1.0),
}


def psi_key(case: Case, site: Site, basis: BasisValues) -> str:
    """The row of table A1.1 that a case takes."""
    if case.nature == "snow":
        return "snow above 1000 m" if site.altitude > basis.snow_altitude else "snow"
    if case.nature == "imposed":
        return case.category or "B"
    return case.nature if case.nature in PSI else "other"


def psi(case: Case, rules: Rules, site: Site, basis: BasisValues) -> tuple[float, float, float]:
    """(ψ0, ψ1, ψ2) of a case: table A1.1, or as the document changes them."""
    key = psi_key(case, site, basis)
    first, second, third = rules.psi.get(key, PSI[key])
    return first, second, third


def gamma_Q(case: Case, rules: Rules, basis: BasisValues) -> float:
    """γ_Q of a case, of its own nature where the document states one, with K_FI."""
    own = {
        "imposed": basis.gamma_imposed,
        "snow": basis.gamma_snow,
        "wind": basis.gamma_wind,
        "temperature": basis.gamma_temperature,
        "crane": basis.gamma_crane,
    }.get(case.nature)
    return basis.importance * (rules.gamma_Q if own is None else own)


def partial_factor(case: Case, rules: Rules, basis: BasisValues) -> float:
    """What the most unfavourable combinations for strength multiply a case by at least, table A1.2(B), with K_FI: γ_Q, γ_G, of (6.10b) with ξ; 0 of cases
    that have none."""
    if case.nature in ("accidental", "seismic", "imperfection"):
        return 0.0
    if case.nature != "permanent":
        return gamma_Q(case, rules, basis)
    return basis.importance * rules.gamma_G_unfavourable * (1.0 if rules.strength_rule == "6.10" else rules.xi)


def actions(cases: list[Case]) -> list[int]:
    """For each case the first case of its action: cases that act together are one action."""
    first: dict[tuple[str, str], int] = {}
    found = []
    for i, case in enumerate(cases):
        found.append(first.setdefault((case.exclusive, case.together), i) if case.together else i)
    return found


def _sets(cases: list[Case]) -> dict[str, dict[int, list[int]]]:
    """The sets of which one action at most acts at once, each with its actions and their cases; a case without one is a set."""
    sets: dict[str, dict[int, list[int]]] = defaultdict(lambda: defaultdict(list))
    for i, (case, first) in enumerate(zip(cases, actions(cases), strict=True)):
        if case.nature not in ("permanent", "accidental", "seismic", "imperfection") and not case.alone:
            sets[case.exclusive or cases[first].name][first].append(i)
    return sets


def choices(cases: list[Case]) -> list[tuple[int, ...]]:
    """Which variable cases may act at once: of every set one action or none; those without a set each by itself.

    Imposed load on roofs (category H) never acts with snow or wind (EN 1991-1-1 3.3.2(1)).
    """
    found = []
    for choice in product(*[[[], *members.values()] for members in _sets(cases).values()]):
        acting = tuple(i for members in choice for i in members)
        roof = any(cases[i].nature == "imposed" and cases[i].category == "H" for i in acting)
        if not (roof and any(cases[i].nature in ("snow", "wind") for i in acting)):
            found.append(acting)
    return found


def foresee(cases: list[Case], basis: BasisValues) -> int:
    """About how many combinations the cases make, from above, before any is made: every choice of one case or none of each set,
    each of its actions leading once, for strength and overturning with the permanent cases either way, and for service."""
    sizes = [len(members) for members in _sets(cases).values()]
    choices_ = prod(1 + size for size in sizes)
    leading = sum(choices_ // (1 + size) * size for size in sizes) + 1
    permanent = sum(case.nature == "permanent" for case in cases)
    ways = 2 ** min(permanent, SEPARATE) if basis.permanents == "separate" else 2
    alone = sum(case.alone for case in cases)
    return (2 * ways + 2) * leading + choices_ + 2 * ways * alone


def counted(cases: list[Case], basis: BasisValues) -> int:
    """The same. Raises ModelError for more than may be made."""
    foreseen = foresee(cases, basis)
    if foreseen > MOST:
        alone = sum(1 for members in _sets(cases).values() if len(members) == 1)
        raise ModelError(
            f"The cases would make about {foreseen:,} combinations, of which {MOST:,} are the most: {alone} of them act "
            "independently of all others. Say which exclude one another or always act together.",
            "cases",
        )
    return foreseen


def combine(
    cases: list[Case],
    rules: Rules,
    site: Site,
    basis: BasisValues,
    leans: dict[int, tuple[int, int]] | None = None,
    resultants: Floats | None = None,
) -> list[Combination]:
    """All combinations of generated and stated cases.

    Permanent cases act together, all unfavourable or all favourable. leans: case -> its two imperfection cases,
    which follow the case's factor in the strength combinations whose horizontal load is below 15 % of the vertical one
    (EN 1993-1-1 5.3.2(4)): the way the horizontal load pushes, both where it pushes about as much in both, or all four ways where there is none (below 0.5 %).
    resultants: (cases, 3) N along both ways in which it leans, and upwards.
    """
    counted(cases, basis)
    none = np.zeros((len(cases), 3))
    maker = _Maker(cases, rules, site, basis, leans or {}, none if resultants is None else resultants)
    acting = choices(cases)
    maker.strength(acting, lean=rules.imperfections)
    maker.accidental(acting)
    maker.uplift(acting)
    maker.service(acting)
    # local resistance is asked for, not that of the whole; last, so that their number changes no other name
    maker.strength([(i,) for i, case in enumerate(cases) if case.alone], lean=False)
    return maker.found


def leaning(factors: Floats, leans: dict[int, tuple[int, int]], resultants: Floats) -> list[Floats]:
    """A combination (cases,) with the sway imperfections of its cases (EN 1993-1-1 5.3.2), in each way in which it must be
    looked at: the way its horizontal load pushes, both where the lesser is half of the greater; all four ways where there is none (below 0.5 % of the vertical one); none
    where the horizontal load reaches 15 % of it (5.3.2(4)), or where nothing leans. resultants: (cases, 3) N."""
    x, y, z = (factors @ resultants).tolist()
    return _leaning(factors, leans, x, y, z)


def _leaning(factors: Floats, leans: dict[int, tuple[int, int]], x: float, y: float, z: float) -> list[Floats]:
    """The same under the resultant x, y, z."""
    own = {i: both for i, both in leans.items() if factors[i]}
    # a plane frame leans in its plane alone
    axes = [axis for axis in (0, 1) if any(both[axis] >= 0 for both in own.values())]
    x, y = x if 0 in axes else 0.0, y if 1 in axes else 0.0
    across = hypot(x, y)
    if not own or across >= -0.15 * z:
        return []
    ways = [(axis, sign) for axis in axes for sign in (1.0, -1.0)]
    if across > -0.005 * z:
        pushed = [(axis, (x, y)[axis]) for axis in axes]
        ways = [(axis, float(np.sign(push))) for axis, push in pushed if 2 * abs(push) >= max(abs(x), abs(y))]
    found = []
    for axis, sign in ways:
        row = factors.copy()
        for i, both in own.items():
            row[both[axis]] = sign * factors[i]
        found.append(row)
    return found


#: use, factors of the permanent cases, factors of variable cases, and the rule of a combination
Wanted = tuple[str, float | Floats, dict[int, float], str]


class _Maker:
    def __init__(
        self,
        cases: list[Case],
        rules: Rules,
        site: Site,
        basis: BasisValues,
        leans: dict[int, tuple[int, int]],
        resultants: Floats,
    ):
        self.cases, self.rules, self.basis = cases, rules, basis
        self.leans, self.resultants = leans, resultants
        self.permanent = [i for i, case in enumerate(cases) if case.nature == "permanent"]
        self.psi = [psi(case, rules, site, basis) for case in cases]
        self.gamma_Q = [gamma_Q(case, rules, basis) for case in cases]
        # of the leading variable action in an accident
        self.lead = 1 if basis.accidental_lead == "ψ1" else 2
        self.action = actions(cases)
        self.found: list[Combination] = []
        self.counts: dict[str, int] = defaultdict(int)
        self.seen: set[tuple[str, bytes]] = set()

    def put(self, wanted: Sequence[Wanted], lean: bool = False) -> None:
        """Make combinations of what is wanted, each different one once. lean: with sway imperfections."""
        factors = np.zeros((len(wanted), len(self.cases)))
        for row, (_, permanent, variable, _) in zip(factors, wanted, strict=True):
            row[self.permanent] = permanent
            for i, value in variable.items():
                row[i] = value
        pushed = (factors @ self.resultants).tolist()
        for row, push, (use, _, _, rule) in zip(factors, pushed, wanted, strict=True):
            for own in (_leaning(row, self.leans, *push) if lean else []) or [row]:
                key = (use, own.round(9).tobytes())
                if key in self.seen or not own.any():
                    continue
                self.seen.add(key)
                self.counts[use] += 1
                name = f"{USES[use][0]}{self.counts[use]}"
                self.found.append(Combination(name, use, formula(self.cases, own), own, rule))

    def rotate(self, acting: tuple[int, ...]) -> Iterator[dict[int, float]]:
        """Each action leading once: 1 for the leading one, ψ0 for the others."""
        for lead in self.leads(acting):
            yield {i: 1.0 if self.action[i] == lead else self.psi[i][0] for i in acting}

    def permanents(self, gammas: tuple[float, float]) -> list[Floats]:
        """Factors (k,) of the permanent cases, k of them: all the greater or all the lesser one; of each its own where they come
        from separate sources."""
        k = len(self.permanent)
        if self.basis.permanents == "separate":
            if k > SEPARATE:
                raise ModelError(
                    f"{k} permanent cases from separate sources make {2**k} times as many combinations: {SEPARATE} at most.",
                    "national.basis.permanents",
                )
            return [np.array(each) for each in product(*[dict.fromkeys(gammas)] * k)]
        return [np.full(k, gamma) for gamma in dict.fromkeys(gammas)]

    def safe(self, share: dict[int, float]) -> dict[int, float]:
        """Shares of variable cases times their γ_Q."""
        return {i: self.gamma_Q[i] * v for i, v in share.items()}

    def leads(self, acting: tuple[int, ...]) -> list[int]:
        """The actions that act, by their first cases; one that is none where nothing acts."""
        return list(dict.fromkeys(self.action[i] for i in acting)) or [-1]

    def strength(self, every: list[tuple[int, ...]], lean: bool) -> None:
        r = self.rules
        heavy = r.gamma_G_unfavourable * self.basis.importance
        gammas = self.permanents((heavy, r.gamma_G_favourable))
        rows: list[tuple[Floats, dict[int, float], str]] = []
        for acting in every:
            for gamma in gammas:
                if r.strength_rule == "6.10":
                    rows += [(gamma, self.safe(share), "(6.10)") for share in self.rotate(acting)]
                    continue
                rows.append((gamma, self.safe({i: self.psi[i][0] for i in acting}), "(6.10a)"))
                reduced = np.where(gamma == heavy, gamma * r.xi, gamma)
                rows += [(reduced, self.safe(share), "(6.10b)") for share in self.rotate(acting)]
        rows.sort(key=lambda row: (-float(row[0].sum()), len(row[1])))
        self.put([("strength", *row) for row in rows], lean)

    def accidental(self, every: list[tuple[int, ...]]) -> None:
        wanted: list[Wanted] = []
        for accident in (i for i, case in enumerate(self.cases) if case.nature == "accidental"):
            # what excludes it: the usual snow does not act with the exceptional one (EN 1991-1-3 A.1)
            kind = self.cases[accident].exclusive
            others = [acting for acting in every if not kind or all(self.cases[i].exclusive != kind for i in acting)]
            for acting in others:
                for lead in self.leads(acting):
                    share = {i: self.psi[i][self.lead if self.action[i] == lead else 2] for i in acting}
                    wanted.append(("accidental", 1.0, {accident: 1.0, **share}, "(6.11b)"))
        for quake in (i for i, case in enumerate(self.cases) if case.nature == "seismic"):
            for acting in every:
                share = {i: self.psi[i][2] for i in acting}
                wanted.append(("accidental", 1.0, {quake: 1.0, **share}, "(6.12b)"))
        self.put(wanted)

    def uplift(self, every: list[tuple[int, ...]]) -> None:
        r = self.rules
        heavy = r.gamma_G_equ_unfavourable * self.basis.importance
        gammas = self.permanents((heavy, r.gamma_G_equ_favourable))
        rule = "(6.10), table A1.2(A)"
        self.put(
            [
                ("uplift", gamma, self.safe(share), rule)
                for acting in every
                if acting
                for gamma in gammas
                for share in self.rotate(acting)
            ]
        )

    def service(self, every: list[tuple[int, ...]]) -> None:
        ordered = sorted(every, key=len)
        self.put([("deflection", 1.0, share, "(6.14b)") for acting in ordered for share in self.rotate(acting)])
        wanted: list[Wanted] = []
        for acting in ordered:
            without = "(6.14b) without permanent actions"
            wanted += [("variable", 0.0, share, without) for share in self.rotate(acting)]
            for lead in self.leads(acting):
                share = {i: self.psi[i][1 if self.action[i] == lead else 2] for i in acting}
                wanted.append(("frequent", 1.0, share, "(6.15b)"))
            wanted.append(("quasi-permanent", 1.0, {i: self.psi[i][2] for i in acting}, "(6.16b)"))
        self.put(wanted)
