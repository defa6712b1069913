"""Stays as stiff as what they lead to: springs against twist in closed form, and what purlins must be and bear for members that they hold."""

import unittest
from math import pi, sqrt

import numpy as np

from engine.analysis.lateral import Ends, geometry_of, modes_below, stretch_of
from engine.analysis.twist_springs import added, share_needed, twist_rows
from engine.catalogue.sections import section
from engine.chain import run
from engine.document import read_document
from engine.document.byhand import MemberEdit, Releases, SectionInput
from engine.document.rules import Inside
from engine.expand import expand
from engine.standards.en.checks.sprung import Sprung
from engine.standards.en.checks.stays import _whole, asked_of_stays
from engine.standards.en.checks.stays_to import stays_of

E, G = 210e9, 210e9 / 2.6
L, M_EXTRA = 8.0, 1.4
IPE = section("IPE 300")


def bare(restraints=()):
    """An IPE 300 of 8 m between forks."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [L, 0, 0]}],
            "members": [
                {
                    "name": "m",
                    "start": "a",
                    "end": "b",
                    "section": "IPE 300",
                    "material": "S355",
                    "restraints_outer": list(restraints),
                }
            ],
        }
    )


def uniform(places, held=(), moment=1.0):
    """The stretch of that beam with nodes at places, and what a uniform moment does in it."""
    member = expand(bare(held)).members[0]
    stretch = stretch_of(member, [0.0, *places, L], 0.0, L, Ends("fork", "fork"), 40)
    n = len(stretch.elastic)
    geometric = geometry_of(
        stretch, np.zeros((2 * n, 1)), np.full((2 * n, 1), moment), np.zeros((2 * n, 1)), above=False
    )
    return member, stretch, geometric


def waves(n, spread):
    """M_cr of the beam in n half-waves with k_θ = spread, Nm per radian and m, all along: M² = P (G I_t + E I_w n²π²/L² + k L²/(n²π²))."""
    P = n**2 * pi**2 * E * IPE.Iz / L**2
    return sqrt(P * (G * IPE.It + E * IPE.Iw * n**2 * pi**2 / L**2 + spread * L**2 / (n**2 * pi**2)))


def by_series(rotation, held=0.0, terms=60):
    """Moment that presses the inner flange at which the beam buckles with one spring against twist in its middle, by sines for v and φ;
    held: stiffness that holds the middle of the outer flange sideways, N/m."""
    n = np.arange(1, terms + 1)
    wave, z = n * pi / L, (IPE.h - IPE.tf) / 2
    at = np.sin(n * pi / 2)
    middle, none = np.outer(at, at), np.zeros((terms, terms))
    lateral = np.diag(E * IPE.Iz * wave**4 * L / 2) + held * middle
    twist = np.diag((G * IPE.It * wave**2 + E * IPE.Iw * wave**4) * L / 2) + (rotation + held * z**2) * middle
    K = np.block([[lateral, -held * z * middle], [-held * z * middle, twist]])
    coupled = np.diag(wave**2 * L / 2)
    # Π = ½ (v, φ) K (v, φ) − M v C φ
    most = np.linalg.eigvals(np.linalg.solve(K, np.block([[none, coupled], [coupled, none]]))).real
    return 1 / most.max()


class Springs(unittest.TestCase):
    def test_many_springs_are_as_if_spread(self):
        places = [L * k / 20 for k in range(1, 20)]
        for each in (2e3, 2e4, 2e5):
            member, stretch, geometric = uniform(places)
            M = min(waves(n, each / (L / 20)) for n in range(1, 6))
            elastic = added(twist_rows(member, stretch, [(x, each) for x in places]), len(stretch.x))
            for share, below in ((0.995, False), (1.005, True)):
                found = modes_below(stretch, geometric, np.array([share * M]), (elastic, np.ones(1)))
                self.assertEqual(found[0] > 0, below, (each, share))

    def test_what_is_needed_for_more_than_nothing_gives(self):
        places = [L * k / 20 for k in range(1, 20)]
        member, stretch, geometric = uniform(places)
        rows = twist_rows(member, stretch, [(x, 1.0) for x in places])
        # in one half-wave, as long as that is the lowest
        M = M_EXTRA * waves(1, 0.0)
        by_hand = (M**2 - waves(1, 0.0) ** 2) / (E * IPE.Iz)
        self.assertLess(M, min(waves(n, by_hand) for n in range(2, 6)))
        found = share_needed(stretch, geometric, np.array([M, 0.9 * waves(1, 0.0)]), rows)
        self.assertAlmostEqual(float(found[0]) / (L / 20) / by_hand, 1, delta=5e-3)
        self.assertEqual(found[1], 0.0)

    def test_one_spring_in_the_middle(self):
        member, stretch, geometric = uniform([L / 2])
        rows = twist_rows(member, stretch, [(L / 2, 1.0)])
        for rotation in (3e3, 1e4, 2e4):
            M = by_series(rotation)
            self.assertAlmostEqual(
                float(share_needed(stretch, geometric, np.array([M]), rows)[0]) / rotation, 1, delta=0.01
            )

    def test_beyond_two_half_waves_no_spring_in_the_middle_helps(self):
        member, stretch, geometric = uniform([L / 2])
        rows = twist_rows(member, stretch, [(L / 2, 1.0)])
        found = share_needed(stretch, geometric, np.array([0.99, 1.01]) * waves(2, 0.0), rows)
        self.assertTrue(np.isfinite(found[0]))
        self.assertTrue(np.isinf(found[1]))


def drawn(name, start, end, **more):
    return {"name": name, "start": start, "end": end, "section": "IPE 300", "material": "S355"} | more


def frame(
    purlin="IPE 120",
    spans=(5.0, 5.0),
    moment=-100.0,
    stays=None,
    cut=0.0,
    load=0.0,
    beyond=(),
    rules=None,
    push=0.0,
    **beam,
):
    """An IPE 300 of 8 m in forks under a uniform moment in kNm, which presses its inner flange where negative, both flanges held in the
    middle. There purlins of given spans meet it, hinged at both ends, or cut once more where they go on; beyond: what holds nothing at their ends."""
    nodes = [{"name": n, "at": at} for n, at in (("a", [0, 0, 0]), ("b", [L, 0, 0]), ("p", [4, 0, 0]))]
    members = [drawn("m", "a", "b", role="rafter", restraints_outer=[4.0], restraints_inner=[4.0]) | beam]
    supports = [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}]
    loads = [
        {"case": "M", "node": n, "force": [0, 0, 0], "moment": [0, s * moment, 0]} for n, s in (("a", 1), ("b", -1))
    ]
    loads += [{"case": "M", "node": "b", "force": [-push, 0, 0], "moment": [0, 0, 0]}] if push else []
    lines = []
    for k, (way, span) in enumerate(zip((1, -1), spans, strict=False)):
        at = ["p", *([f"r{k}"] if cut else []), f"q{k}"]
        nodes.append({"name": f"q{k}", "at": [4, way * span, 0]})
        nodes += [{"name": f"r{k}", "at": [4, way * cut, 0]}] if cut else []
        supports.append({"node": f"q{k}", "fixed": ["x", "y", "z"]})
        for n, (start, end) in enumerate(zip(at, at[1:], strict=False)):
            hinges = {"start": ["ry", "rz"] if n == 0 else [], "end": ["ry", "rz"] if end == at[-1] else []}
            members.append(drawn(f"p{k}{n}", start, end, role="purlin", releases=hinges) | {"section": purlin})
            lines += [{"case": "M", "member": f"p{k}{n}", "kind": "line", "value": [0, 0, -load]}] if load else []
    return read_document(
        {
            "nodes": nodes,
            "members": members,
            "supports": [s for s in supports if s["node"] not in beyond],
            "cases": [{"name": "M", "nature": "imposed"}],
            "combinations": [{"name": "C", "use": "strength", "factors": {"M": 1.0}}],
            "analysis": {"order": "first"},
            "rules": {"imperfections": False, "stays": {"rafter": stays} if stays else {}, **(rules or {})},
            "node_loads": loads,
            "member_loads": lines,
        }
    )


def reached(document, name="m"):
    chain = run(document)
    number = next(i for i, m in enumerate(chain.structure.members) if m.name == name)
    verdict = chain.verification.verdicts[number]
    return {o.criterion: o for o in verdict.outcomes}, verdict, chain, number


def passing(use, alpha_z, alpha_LT):
    """The factor at which a member with 1/α_ult,k = use passes by (6.63), γ_M1 = 1, by halving."""
    low, high = 1e-3, 1e3
    for _ in range(80):
        alpha = sqrt(low * high)
        slender = sqrt(1 / (use * alpha))
        chi = min(
            1 / (phi + sqrt(phi**2 - slender**2)) if slender > 0.2 else 1.0
            for phi in (0.5 * (1 + a * (slender - 0.2) + slender**2) for a in (alpha_z, alpha_LT))
        )
        low, high = (low, alpha) if use / chi <= 1 else (alpha, high)
    return high


class Verdicts(unittest.TestCase):
    # 2 E I/L of an IPE 120 (318 cm⁴) over 5 m, to two sides
    HAS = 2 * 2 * 210e9 * 318e-8 / 5

    def test_what_is_there_and_what_is_needed(self):
        # W_pl of an IPE 300 is 628.4 cm³; curves of a welded section with h/b = 2: c and c
        for moment, whole in ((80.0, True), (100.0, False)):
            out, _, chain, i = reached(frame(moment=-moment))
            values = chain.verification.checks.evaluated(i, out["held"]).values
            self.assertAlmostEqual(values["C_stay"] / self.HAS, 1, delta=2e-3)
            alpha = passing(moment / (628.4e-6 * 355e3), 0.49, 0.49)
            self.assertAlmostEqual(values["alpha_whole"] / alpha, 1, delta=2e-3)
            # by its segments it buckles in two half-waves
            need = alpha if whole else 0.995 * waves(2, 0.0) / (moment * 1e3)
            self.assertAlmostEqual(values["alpha_need"] / need, 1, delta=2e-3)
            self.assertAlmostEqual(by_series(values["C_need"], 1e9) / (need * moment * 1e3), 1, delta=5e-3)
            self.assertAlmostEqual(out["held"].utilisation / (values["C_need"] / self.HAS), 1, delta=2e-3)

    def test_moments_that_stays_bring(self):
        out, _, chain, i = reached(frame(spans=(5.0, 4.0), load=2.0))
        v = chain.verification.checks.evaluated(i, out["stays"]).values
        # what the purlins bring bends the beam the other way: 9 kN in its middle
        M = 100.0 - 9.0 * 8 / 4
        force = M / (0.300 - 0.0107)
        # the shorter side takes more, by its stiffness; W_pl,y of an IPE 120 is 60.7 cm³; hinged at both ends it bears nothing there
        part = (1 / 4) / (1 / 4 + 1 / 5)
        self.assertAlmostEqual(v["F_stay"] / (25.0 * force), 1, delta=2e-3)
        self.assertAlmostEqual(v["u"] / (0.025 * M * part / (60.7e-6 * 355e3)), 1, delta=3e-3)

    def test_what_presses_the_member_presses_its_flange_too(self):
        out, _, chain, i = reached(frame(push=200.0))
        v = chain.verification.checks.evaluated(i, out["stays"]).values
        # A_f/A of an IPE 300 is 150 · 10.7/5381; N_Ed in front of the stay and behind it alike
        self.assertAlmostEqual(v["N_f"] / 1e3, 100.0 / 0.2893 + 200.0 * 150 * 10.7 / 5381, delta=0.3)

    def test_resistances_of_what_is_in_the_model(self):
        for purlin, W, grade, gamma in (("IPE 120", 60.73e-6, 355e3, 1.1), ("SHS 100x5", 66.4e-6, 355e3, 1.0)):
            out, _, chain, i = reached(frame(purlin, rules={"gamma_M0": gamma}))
            v = chain.verification.checks.evaluated(i, out["stays"]).values
            self.assertAlmostEqual(v["M_side"] / (W * grade / gamma * 1e3), 1, delta=0.01)
        # of what is known by its stiffness alone nothing is known
        document = frame()
        document.sections = [SectionInput(name="g", A=0.002, Iy=318e-8, Iz=3e-7, It=1e-8)]
        for member in document.members[1:]:
            member.section = "g"
        out, verdict, _, _ = reached(document)
        self.assertIn("held", out)
        self.assertNotIn("stays", out)
        self.assertTrue(any("what it bears is not known" in words for words in verdict.left_out))

    def test_what_is_asked_of_stays_stands_beside_the_ribbon(self):
        for document, there in ((frame(), self.HAS), (frame(spans=()), None)):
            out, _, chain, i = reached(document)
            needed, force, has = asked_of_stays(chain.verification.checks.grounds, i)
            self.assertAlmostEqual(force / (25.0 * 100.0 / 0.2893), 1, delta=2e-3)
            self.assertAlmostEqual(by_series(needed, 1e9) / (0.995 * waves(2, 0.0)), 1, delta=5e-3)
            if there:
                self.assertAlmostEqual(has / there, 1, delta=2e-3)
            else:
                self.assertTrue(np.isnan(has))
        # without stays, and where one flange alone is held
        for held in (
            {"restraints_outer": [], "restraints_inner": []},
            {"restraints_outer": [4.0], "restraints_inner": [2.0]},
        ):
            self.assertIsNone(asked_of_stays(run(frame(**held)).verification.checks.grounds, 0))

    def test_bars_have_no_stays(self):
        document = frame(behaviour="bar")
        self.assertEqual(stays_of(document, expand(document), 0), ([], []))

    def test_within_a_haunch_by_its_lower_flange(self):
        haunch = {"length": 6.0, "depth": 0.27}
        _, _, chain, i = reached(frame(haunch_start=haunch, push=50.0))
        grounds = chain.verification.checks.grounds
        sprung = _whole(grounds, [i])[0]
        one = Sprung(grounds, sprung, -1)
        depth, share, _ = one.shape(4.0)
        # a third of the haunch is left 4 m from its deep end: 90 mm below the beam's lower flange
        self.assertAlmostEqual(depth, 0.2893 + 0.09, delta=6e-3)
        piece = next(p.section for p in one.member.pieces if p.start <= 4.0 <= p.end)
        self.assertAlmostEqual(share, piece.b2 * piece.tf2 / piece.A, delta=1e-9)
        other = Sprung(grounds, sprung, 1).shape(4.0)[1]
        self.assertAlmostEqual(other, 0.150 * 0.0107 / piece.A, delta=1e-6)

    def test_purlins_in_pieces_are_one(self):
        whole, pieces = (reached(frame(cut=cut))[0]["held"].utilisation for cut in (0.0, 2.0))
        self.assertAlmostEqual(pieces / whole, 1, delta=1e-6)

    def test_softer_purlins_and_one_side_hold_less(self):
        both = reached(frame())[0]["held"].utilisation
        self.assertAlmostEqual(reached(frame(spans=(5.0,)))[0]["held"].utilisation / both, 2, delta=1e-3)
        self.assertAlmostEqual(reached(frame(spans=(10.0, 10.0)))[0]["held"].utilisation / both, 2, delta=1e-3)
        self.assertGreater(reached(frame("IPE 80"))[0]["held"].utilisation, 2 * both)

    def test_too_soft_fails_though_all_else_passes(self):
        out, verdict, _, _ = reached(frame(stays={"rotation": 5.0}, moment=-110.0))
        self.assertEqual(verdict.status, "fails")
        self.assertEqual(verdict.governing.criterion, "held")
        self.assertTrue(all(o.utilisation < 1 for name, o in out.items() if name != "held"))
        stiff, verdict, _, _ = reached(frame(stays={"rotation": 500.0, "moment": 5.0}, moment=-110.0))
        self.assertEqual(verdict.status, "passes")
        self.assertAlmostEqual(stiff["stays"].utilisation, 0.025 * 110.0 / 5.0, delta=2e-3)

    def test_where_the_held_flange_is_pulled_nothing_is_needed(self):
        out = reached(frame(moment=100.0))[0]
        self.assertEqual((out["held"].utilisation, out["stays"].utilisation), (0.0, 0.0))

    def test_what_is_not_known_is_told(self):
        _, verdict, _, _ = reached(frame(spans=()))
        self.assertTrue(any("nothing is known of what they lead to" in words for words in verdict.left_out))
        self.assertNotIn("held", {o.criterion for o in verdict.outcomes})
        _, verdict, _, _ = reached(frame(stays={"rotation": 500.0}))
        self.assertTrue(any("what it bears is not known" in words for words in verdict.left_out))

    def test_rolled_over_the_other_flange_is_stayed(self):
        own = reached(frame())[0]
        rolled = reached(frame(roll=180.0))[0]
        for criterion in ("held", "stays"):
            self.assertGreater(own[criterion].utilisation, 0.02)
            self.assertAlmostEqual(rolled[criterion].utilisation, own[criterion].utilisation, delta=1e-6)

    def test_a_stay_where_nothing_lies_on_the_other_flange_is_told(self):
        _, verdict, _, _ = reached(frame(restraints_inner=[3.9, 4.0]))
        self.assertTrue(any("nothing is known of what they lead to" in words for words in verdict.left_out))

    def test_a_purlin_that_runs_through_bears_its_own_moment_there(self):
        document = frame(load=2.0, moment=100.0)
        one = document.members[1].model_copy(update={"name": "p", "start": "q0", "end": "q1"})
        document.members = [document.members[0], one]
        document.member_loads = [document.member_loads[0].model_copy(update={"member": "p"})]
        document.supports.append(document.supports[0].model_copy(update={"node": "p", "fixed": ["z"]}))
        one.releases = Releases()
        out, _, chain, i = reached(document)
        v = chain.verification.checks.evaluated(i, out["stays"]).values
        # over two spans q L²/8; the beam between them, held there, bends as it would by itself
        self.assertAlmostEqual(v["M_own"] / 1e3, 2.0 * 25 / 8, delta=0.02)
        self.assertAlmostEqual(v["u"], (v["M_own"] + v["M_stay"]) / v["M_side"], delta=1e-9)
        self.assertGreater(v["M_stay"], 100.0)

    def test_where_the_stayed_flange_alone_is_held_that_is_told(self):
        _, verdict, _, _ = reached(frame(restraints_outer=[], restraints_inner=[2.0]))
        self.assertTrue(any("nothing is known of what they lead to" in words for words in verdict.left_out))
        # what lies on the other flange alone is no stay
        _, verdict, _, _ = reached(frame(restraints_outer=[2.0], restraints_inner=[]))
        self.assertFalse(any("stays" in words for words in verdict.left_out))

    def test_each_bears_what_it_is_made_of(self):
        """Two members alike whose purlins differ in their grade."""
        document = frame()
        document.nodes += [
            n.model_copy(update={"name": f"{n.name}'", "at": (n.at[0], n.at[1] + 40, n.at[2])}) for n in document.nodes
        ]
        grades = {"rafter": "S355", "purlin": "S235"}
        document.members += [
            m.model_copy(
                update={"name": f"{m.name}'", "start": f"{m.start}'", "end": f"{m.end}'", "material": grades[m.role]}
            )
            for m in document.members
        ]
        for name in ("supports", "node_loads"):
            of = getattr(document, name)
            of += [x.model_copy(update={"node": f"{x.node}'"}) for x in of]
        chain = run(document)
        found = {}
        for i, m in enumerate(chain.structure.members):
            if m.role == "rafter":
                found[m.name] = next(
                    o.utilisation for o in chain.verification.verdicts[i].outcomes if o.criterion == "stays"
                )
        self.assertAlmostEqual(found["m'"] / found["m"], 355 / 235, delta=1e-6)

    def test_one_combination_says_what_all_say(self):
        out, _, chain, i = reached(frame())
        found = {r.criterion: float(r.utilisation[0]) for r in chain.verification.checks.reached(i)}
        for criterion in ("held", "stays"):
            own = out[criterion]
            self.assertAlmostEqual(found[criterion], own.utilisation, delta=1e-9)
            self.assertAlmostEqual(chain.verification.checks.evaluated(i, own).values["u"], own.utilisation, delta=1e-9)


def hall(**purlins):
    """A hall of three bays of 5, 6 and 7 m with its purlins."""
    return read_document(
        {
            "hall": {
                "bays": [{"span": 12.0, "pitch": 6.0}],
                "spacings": [5.0, 6.0, 7.0],
                "purlins": {"spacing": 1.5, **purlins},
            },
            "load_tables": [
                {"name": "T", "stiffness": 1200.0, "moment": 9.0, "rows": [{"span": 8, "down": 9, "up": 9}]}
            ],
        }
    )


class Purlins(unittest.TestCase):
    def rotations(self, document):
        """kNm per radian at a stay of the left rafter of each frame, with what it leads to, and whether others are unknown."""
        structure = expand(document)
        found = []
        for i, m in enumerate(structure.members):
            if m.role == "rafter" and m.name.endswith("left"):
                known, others = stays_of(document, structure, i)
                found.append(
                    (m.frame, {round(s.rotation / 1e3, 3) for s in known}, {s.what for s in known}, bool(others))
                )
        return sorted(found, key=lambda one: one[0])

    def expected(self, EI):
        """2 E I/L to each side, kNm per radian, of the four frames."""
        return [2 * EI / 5, 2 * EI / 5 + 2 * EI / 6, 2 * EI / 6 + 2 * EI / 7, 2 * EI / 7]

    def check(self, found, EI, what, digits=2):
        for (_, rotations, words, others), by_hand in zip(found, self.expected(EI), strict=True):
            self.assertEqual((words, others), ({what}, False))
            for rotation in rotations:
                self.assertAlmostEqual(rotation / by_hand, 1, digits)

    def test_by_a_table(self):
        self.check(self.rotations(hall(table="T")), 1200.0, "T", 6)

    def test_as_members(self):
        document = hall(modelled=True)
        document.hall.sections.purlins = "IPE 140"
        # I_y of an IPE 140 is 541.2 cm⁴
        self.check(self.rotations(document), 210e6 * 541.2e-8, "IPE 140", 3)

    def test_cold_formed(self):
        found = self.rotations(hall(cold={"section": "Z 200x2.0"}))
        gross = 210e6 * section("Z 200x2.0").Iy
        for (_, rotations, _, _), by_hand in zip(found, self.expected(gross), strict=True):
            # effective: less than the whole, by no more than a fifth
            self.assertTrue(all(0.8 * by_hand < r < by_hand for r in rotations), (rotations, by_hand))

    def test_what_they_bear(self):
        document = hall(table="T")
        structure = expand(document)
        stays = [stays_of(document, structure, i)[0] for i, m in enumerate(structure.members) if m.role == "rafter"]
        self.assertEqual({side.resistance for own in stays for stay in own for side in stay.sides}, {9000.0})
        document.load_tables[0].moment = 0.0
        stays = stays_of(document, structure, next(i for i, m in enumerate(structure.members) if m.role == "rafter"))[0]
        self.assertTrue(all(np.isnan(side.resistance) for stay in stays for side in stay.sides))
        cold = hall(cold={"section": "Z 200x2.0"})
        structure = expand(cold)
        stay = stays_of(cold, structure, next(i for i, m in enumerate(structure.members) if m.role == "rafter"))[0][0]
        gross = section("Z 200x2.0").Wel_y * 350e6
        self.assertTrue(all(0.7 * gross < side.resistance < gross for side in stay.sides))

    def test_a_stay_where_no_purlin_lies_leads_to_nothing_known(self):
        document = hall(table="T")
        name = next(m.name for m in expand(document).members if m.role == "rafter")
        document.edits = [MemberEdit(member=name, restraints_outer=[0.7], restraints_inner=[0.7])]
        structure = expand(document)
        known, others = stays_of(
            document, structure, next(i for i, m in enumerate(structure.members) if m.name == name)
        )
        self.assertEqual(others, [0.7])
        self.assertTrue(known)

    def test_what_is_asked_of_stays_where_some_are_known(self):
        document = hall(table="T", cold=None)
        document.wind.inside = Inside(kind="own", values=[0.2])
        rafters = [i for i, m in enumerate(expand(document).members) if m.role == "rafter"]
        names = [expand(document).members[i].name for i in rafters]
        document.edits = [
            MemberEdit(member=name, restraints_outer=[x], restraints_inner=[x])
            for name, x in zip(names, (0.7, 5.9, 0.002), strict=False)
        ]
        grounds = run(document).verification.checks.grounds
        for i in rafters:
            needed, force, has = asked_of_stays(grounds, i)
            self.assertTrue(np.isfinite([needed, force, has]).all() and force > 0)

    def test_nothing_is_known(self):
        for document in (hall(), hall(table="another")):
            self.assertTrue(all(others and not rotations for _, rotations, _, others in self.rotations(document)))

    def test_no_stays_no_question(self):
        self.assertTrue(all(not others and not r for _, r, _, others in self.rotations(hall(stay_every=0))))

    def test_drawn_by_hand_they_hold_as_those_of_the_jig(self):
        """The same document in any order of its members."""
        base = frame(spans=(5.0, 4.0))
        turned = base.model_copy(update={"members": list(reversed(base.members))})
        own, other = (reached(document)[0]["held"].utilisation for document in (base, turned))
        self.assertAlmostEqual(own, other, delta=1e-9)


if __name__ == "__main__":
    unittest.main()
