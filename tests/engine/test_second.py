"""Second figures: sways without the stiffness matrix against closed forms and the analysis itself, other allowed methods against sums by hand."""

import copy
import unittest
from math import pi, sqrt

import numpy as np

from engine.chain import run
from engine.demo import drying_hall, log_store
from engine.document import read_document
from engine.dossier.around import followed
from engine.dossier.braced import stretched
from engine.dossier.second import second
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.second_sections import most_sheared

E, Iy, A = 210e9, 8356e-8, 53.8e-4
PIN, CLAMP = ["x", "y", "z", "rx", "rz"], ["x", "y", "z", "rx", "ry", "rz"]


def portal(bases=PIN, height=5.0, width=8.0, ridge=0.0, hinged=False, **more):
    """Columns and a beam, or two rafters, of IPE 300 in the plane of X and Z; 10 kN along X at the head of the first column."""
    middle = [{"name": "m", "at": [width / 2, 0, height + ridge]}] if ridge or hinged else []
    free = {"releases": {"start": ["ry"]}} if hinged else {}
    pairs = [("left", "a", "m"), ("right", "m", "b")] if middle else [("beam", "a", "b")]
    beams = [
        {"name": n, "start": i, "end": j, "section": "IPE 300", **(free if n == "right" else {})} for n, i, j in pairs
    ]
    return {
        "nodes": [
            {"name": "foot 1", "at": [0, 0, 0]}, {"name": "foot 2", "at": [width, 0, 0]}, {"name": "a", "at": [0, 0, height]},
            {"name": "b", "at": [width, 0, height]}, *middle,
        ],
        "members": [
            *({"name": f"column {k}", "start": f"foot {k}", "end": n, "section": "IPE 300", "role": "column"} for k, n in ((1, "a"), (2, "b"))), *beams,
        ],
        "supports": [
            *({"node": f"foot {k}", "fixed": bases} for k in (1, 2)), *({"node": n, "fixed": ["y"]} for n in ("a", "b", *(["m"] if middle else []))),
        ],
        "cases": [{"name": "H", "nature": "wind"}],
        "node_loads": [{"case": "H", "node": "a", "force": [10, 0, 0]}],
        "analysis": {"order": "first", "shear_deformation": False},
        "rules": {"imperfections": False},
        **more,
    }  # fmt: skip


def sways(document):
    """Of each column: by the analysis and followed around, in mm, in the case H."""
    chain = run(read_document(document))
    number = chain.combined.case(0)
    moved = chain.combined.displacement([number])[..., 0]
    found = {}
    for stretch in chain.verification.stretches:
        if stretch.criterion == "sway":
            name = chain.structure.members[stretch.members[0]].name
            ways = np.abs(moved[stretch.end, :2] - moved[stretch.start, :2])
            analysed = float(ways.max()) * 1000
            other = followed(chain, stretch, number, int(ways.argmax()))
            found[name] = analysed, None if other is None else other * 1000
    return found


class Around(unittest.TestCase):
    def test_a_cantilever(self):
        mast = portal()
        mast["nodes"], mast["members"] = mast["nodes"][:3:2], mast["members"][:1]
        mast["supports"] = [{"node": "foot 1", "fixed": CLAMP}]
        [(_, found)] = sways(mast).values()
        self.assertAlmostEqual(found, 10e3 * 5**3 / (3 * E * Iy) * 1000, delta=1e-3)

    def test_a_portal_between_pins(self):
        # H h³/6EI of the columns, H h² l/12EI of the beam, and what they stretch: N = H h/l in the columns, H/2 in the beam
        h, width, H = 5.0, 8.0, 10e3
        bent = H * h**3 / (6 * E * Iy) + H * h**2 * width / (12 * E * Iy)
        # virtual work of a unit load in place of H: each N of it is that of H, divided by H
        stretched = 2 * H * (h / width) ** 2 * h / (E * A) + H / 4 * width / (E * A)
        for analysed, found in [sways(portal())["column 1"]]:
            self.assertAlmostEqual(found, (bent + stretched) * 1000, delta=2e-3 * bent * 1000)
            self.assertAlmostEqual(found, analysed, places=6)

    def test_of_every_kind_of_frame_it_is_what_the_analysis_finds(self):
        haunch = {"length": 1.5, "depth": 0.25}
        haunched = portal(ridge=1.0)
        for m in haunched["members"][2:]:
            m["haunch_start" if m["name"] == "left" else "haunch_end"] = haunch
        sheared = portal(ridge=1.0)
        sheared["analysis"] = {"order": "first", "shear_deformation": True}
        loaded = portal(ridge=1.0)
        loaded["member_loads"] = [{"case": "H", "member": "left", "value": [3, 0, -8], "value_end": [0, 0, -2]}]
        along_y = portal(ridge=1.0)
        for node in along_y["nodes"]:
            node["at"] = [node["at"][1], node["at"][0], node["at"][2]]
        along_y["supports"] = [
            {**s, "fixed": ["x"] if s["fixed"] == ["y"] else ["x", "y", "z", "ry", "rz"]} for s in along_y["supports"]
        ]
        along_y["node_loads"][0]["force"] = [0, 10, 0]
        for name, document in {
            "clamped": portal(CLAMP),
            "with a ridge": portal(ridge=1.5),
            "hinged at the ridge": portal(ridge=1.5, hinged=True),
            "clamped, hinged at the ridge": portal(CLAMP, ridge=1.5, hinged=True),
            "haunched": haunched,
            "with shear": sheared,
            "with loads on a rafter": loaded,
            "along Y": along_y,
        }.items():
            for column, (analysed, found) in sways(document).items():
                with self.subTest(name, column=column):
                    self.assertGreater(analysed, 0.5)
                    self.assertAlmostEqual(found, analysed, delta=1e-4 * analysed)

    def test_where_no_way_leads_around_there_is_none(self):
        warm = portal()
        warm["cases"] = [{"name": "H", "nature": "temperature"}]
        three = portal(ridge=1.5, hinged=True)
        for m in three["members"][:1]:
            m["releases"] = {"end": ["ry"]}
        three["supports"][2]["fixed"] = ["x", "y"]
        soft = portal()
        soft["supports"][1] = {"node": "foot 2", "fixed": ["y", "z", "rx", "rz"], "springs": {"x": 1000}}
        sunk = portal()
        sunk["settlements"] = [{"case": "H", "node": "foot 2", "movement": [0, 0, -0.01]}]
        for name, document in {"warm": warm, "too many hinges": three, "on a spring": soft, "sinking": sunk}.items():
            with self.subTest(name):
                self.assertIsNone(sways(document)["column 1"][1])

    def test_it_stands_beside_the_sway_of_a_hall(self):
        chain = run(drying_hall())
        own = [(v.member, o) for v in chain.verification.verdicts for o in v.outcomes if o.criterion == "sway"]
        self.assertEqual(len(own), 16)
        for member, outcome in own[:6]:
            found = second(chain, member, outcome)
            self.assertAlmostEqual(found.utilisation, outcome.utilisation, delta=1e-3 * outcome.utilisation)


def braced(crossed=False, high=4.0, wide=6.0):
    """Two columns and a strut between hinges, IPE 300, a tie from the second foot to the first head, perhaps another the other way; 10 kN along X at the
    first head."""
    hinges = {"releases": {"start": ["ry"], "end": ["ry"]}}
    bars = [("left", "p", "a"), ("right", "q", "b"), ("strut", "a", "b")]
    ties = [("tie", "q", "a"), *([("other", "p", "b")] if crossed else [])]
    # under 10 kN along X towards b the tie from p to b is pulled, that from q to a pressed
    return {
        "nodes": [
            {"name": n, "at": at}
            for n, at in (("p", [0, 0, 0]), ("q", [wide, 0, 0]), ("a", [0, 0, high]), ("b", [wide, 0, high]))
        ],
        "members": [
            *({"name": n, "start": i, "end": j, "section": "IPE 300", "role": "strut" if n == "strut" else "column", **hinges} for n, i, j in bars),
            *({"name": n, "start": i, "end": j, "section": "RD 20", "behaviour": "tension-only" if crossed else "bar", "role": "wall bracing"} for n, i, j in ties),
        ],
        "supports": [*({"node": n, "fixed": ["x", "y", "z", "rx", "rz"]} for n in "pq"), *({"node": n, "fixed": ["y", "rx", "rz"]} for n in "ab")],
        "cases": [{"name": "H", "nature": "wind"}],
        "node_loads": [{"case": "H", "node": "a", "force": [10, 0, 0]}],
        "analysis": {"order": "first", "shear_deformation": False},
        "rules": {"imperfections": False},
    }  # fmt: skip


def laid(document):
    """Sways of braced rows: by the analysis and by what the bars stretch, mm."""
    chain = run(read_document(document))
    number = chain.combined.case(0)
    moved = chain.combined.displacement([number])[..., 0]
    found = {}
    for stretch in chain.verification.stretches:
        if stretch.criterion == "sway":
            ways = np.abs(moved[stretch.end, :2] - moved[stretch.start, :2])
            analysed = float(ways.max()) * 1000
            other = stretched(chain, stretch, number, int(ways.argmax()))
            found[chain.structure.members[stretch.members[0]].name] = analysed, other and other * 1000
    return found


class Braced(unittest.TestCase):
    def test_one_diagonal(self):
        # virtual work: diagonal H L/l, the column below its head H h/l; area of RD 20 314 mm²
        h, wide, H = 4.0, 6.0, 10e3
        long = np.hypot(h, wide)
        round_ = pi * 0.02**2 / 4
        moved = H * (long / wide) ** 2 * long / (E * round_) + H * (h / wide) ** 2 * h / (E * A)
        found = laid(braced())
        self.assertAlmostEqual(found["left"][1], moved * 1000, delta=2e-3 * moved * 1000)
        self.assertAlmostEqual(found["left"][1], found["left"][0], delta=1e-6)
        # the strut bears nothing: its other end moves along with it
        self.assertAlmostEqual(found["right"][1], found["left"][1], places=9)

    def test_ties_that_are_slack_are_left_out(self):
        found = laid(braced(crossed=True))
        self.assertAlmostEqual(found["left"][1], found["left"][0], delta=1e-4 * found["left"][0])

    def test_without_a_brace_nothing_fixes_it(self):
        clamped = braced()
        clamped["members"] = clamped["members"][:3]
        for m in clamped["members"][:2]:
            m["releases"] = {"end": ["ry"]}
        for s in clamped["supports"][:2]:
            s["fixed"] = ["x", "y", "z", "rx", "ry", "rz"]
        self.assertIsNone(laid(clamped)["left"][1])

    def test_it_stands_as_second_opinion(self):
        chain = run(read_document(braced()))
        own = [(v.member, o) for v in chain.verification.verdicts for o in v.outcomes if o.criterion == "sway"]
        for member, outcome in own:
            found = second(chain, member, outcome)
            self.assertIn("bars", found.method)
            self.assertAlmostEqual(found.utilisation, outcome.utilisation, delta=1e-4 * outcome.utilisation)

    def test_of_a_column_that_a_beam_ties_to_a_frame(self):
        leaning = portal()
        leaning["nodes"] += [{"name": "foot 3", "at": [14, 0, 0]}, {"name": "c", "at": [14, 0, 5]}]
        hinged = {"releases": {"start": ["ry"], "end": ["ry"]}}
        leaning["members"] += [
            {"name": "column 3", "start": "foot 3", "end": "c", "section": "IPE 300", "role": "column"},
            {"name": "tie", "start": "b", "end": "c", "section": "IPE 300", **hinged},
        ]
        leaning["supports"] += [{"node": "foot 3", "fixed": PIN}, {"node": "c", "fixed": ["y"]}]
        leaning["node_loads"].append({"case": "H", "node": "c", "force": [4, 0, 0]})
        for column, (analysed, found) in sways(leaning).items():
            with self.subTest(column):
                self.assertAlmostEqual(found, analysed, delta=1e-4 * analysed)


class Sections(unittest.TestCase):
    """Second figures of cross-sections, against closed forms."""

    def test_the_largest_shear_over_an_outline(self):
        # a rectangle: S/t = h²/8 whatever its width; a circle of radius r: r²/3; a thin square tube of side a: S = a·t·a/2 + 2·t·(a/2)²/2, over 2 t
        plate = np.array([(-0.1, -0.15), (0.1, -0.15), (0.1, 0.15), (-0.1, 0.15)])
        self.assertAlmostEqual(most_sheared([plate], 1), 0.3**2 / 8, places=6)
        self.assertAlmostEqual(most_sheared([plate], 0), 0.2**2 / 8, places=6)
        angle = np.linspace(0, 2 * pi, 721)[:-1]
        disc = 0.1 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        self.assertAlmostEqual(most_sheared([disc], 1), 0.1**2 / 3, delta=2e-5)
        a, t = 0.2, 0.001
        outer, inner = (np.array([(-s, -s), (s, -s), (s, s), (-s, s)]) for s in ((a + t) / 2, (a - t) / 2))
        middle = (a * t * a / 2 + 2 * t * (a / 2) ** 2 / 2) / (2 * t)
        self.assertAlmostEqual(most_sheared([outer, inner[::-1]], 1), middle, delta=1e-4 * middle)
        # an I of plates 300 × 10 and 600 × 8: at the middle 300·10·305 + 300·8·150 over 8; sideways beside the web 2·146·10·77 over 2·10
        plates = 0.001 * np.array(
            [
                (-150, -310), (150, -310), (150, -300), (4, -300), (4, 300), (150, 300), (150, 310), (-150, 310), (-150, 300), (-4, 300), (-4, -300),
                (-150, -300),
            ]
        )  # fmt: skip
        self.assertAlmostEqual(most_sheared([plates], 1) * 1e6, (3000 * 305 + 2400 * 150) / 8, delta=5)
        self.assertAlmostEqual(most_sheared([plates], 0) * 1e6, 2 * 146 * 10 * 77 / 20, delta=5)

    def beam(self, force, section="IPE 300", **checks):
        """Of a beam of 4 m between pins with a force at its middle, kN."""
        return run(
            read_document(
                {
                    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}],
                    "members": [{"name": "beam", "start": "a", "end": "b", "section": section, "checks": checks}],
                    "supports": [{"node": n, "fixed": ["x", "y", "z", "rx"]} for n in "ab"],
                    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
                    "member_loads": [
                        {"case": "Q", "member": "beam", "kind": "force", "start": 2.0, "value": [0, 0, -force]}
                    ],
                }
            )
        )

    def of(self, chain, criterion):
        [outcome] = [o for o in chain.verification.verdicts[0].outcomes if o.criterion == criterion]
        return outcome, second(chain, 0, outcome)

    def test_shear_of_a_rolled_beam(self):
        _, found = self.of(self.beam(100), "shear")
        # V = 75 kN; S of half an IPE 300 is W_pl/2 = 314.2 cm³, over t = 7.1 mm and I = 8356 cm⁴
        tau = 75e3 * 314.2e-6 / (8356e-8 * 7.1e-3)
        self.assertAlmostEqual(found.utilisation, tau * sqrt(3) / 355e6, delta=3e-3 * found.utilisation)

    def test_web_by_the_older_rules(self):
        outcome, found = self.of(self.beam(60, bearing=100), "web")
        # F = 90 kN, σ_f = 90 kNm/557 cm³ = 161.6 MPa; s_y = 2·10.7·√(150/7.1)·√(1 − (161.6/355)²) = 87.6 mm
        crushes = (100 + 87.6) * 7.1 * 355
        # λ̄ = 0.75·248.6·√12/7.1 / (π √(210000/355)) = 1.190, χ_c = 0.439; b_eff = √(300² + 100²) = 316.2 mm
        buckles = 0.439 * 316.2 * 7.1 * 355
        share = 90e3 / min(crushes, buckles)
        eta = 161.6 / 355
        self.assertAlmostEqual(found.utilisation, max(share, (share + 0.8 * eta) / 1.4), delta=0.004)

    def test_a_bar_in_tension_and_one_in_compression(self):
        truss = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [3, 0, 0]}, {"name": "c", "at": [0, 0, 3]}],
            "members": [
                {"name": "tie", "start": "a", "end": "b", "section": "RD 20", "behaviour": "bar"},
                {"name": "strut", "start": "c", "end": "b", "section": "FL 100x20", "behaviour": "bar"},
            ],
            "supports": [{"node": "a", "fixed": ["x", "y", "z"]}, {"node": "c", "fixed": ["x", "y", "z"]}, {"node": "b", "fixed": ["y"]}],
            "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
            "node_loads": [{"case": "Q", "node": "b", "force": [2, 0, 1]}],
            "rules": {"imperfections": False},
        }  # fmt: skip
        chain = run(read_document(truss))
        for member, method in ((0, "area of the outline"), (1, "Rankine")):
            [outcome] = [o for o in chain.verification.verdicts[member].outcomes if o.criterion == "axial"]
            found = second(chain, member, outcome)
            self.assertIn(method, found.method)
            # at b: the strut presses by 1.5 √2 kN, the tie is pulled by 1.5 · 3 kN
            if member == 0:
                self.assertAlmostEqual(
                    found.utilisation, 4.5e3 / (pi * 0.01**2 * 355e6), delta=1e-3 * found.utilisation
                )
            else:
                euler = pi**2 * 210e9 * 0.1 * 0.02**3 / 12 / 18
                N = 1.5e3 * sqrt(2)
                self.assertAlmostEqual(
                    found.utilisation, N / (2000e-6 * 355e6) + N / euler, delta=2e-3 * found.utilisation
                )


class Others(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.hall, cls.store = run(drying_hall()), run(log_store())

    def worst(self, chain, criterion):
        found = [
            (o.utilisation, v.member, o)
            for v in chain.verification.verdicts
            for o in v.outcomes
            if o.criterion == criterion
        ]
        _, member, outcome = max(found, key=lambda row: row[0])
        return member, outcome, evaluated(chain.verification.checks.grounds, member, outcome).values

    def test_chi_and_chi_LT_each_for_its_own(self):
        member, outcome, v = self.worst(self.hall, "general")
        # the section governs: N/N_Rk + M/M_Rk, each over its own reduction
        self.assertGreater(v["use_section"], v["use_plane"])
        expected = abs(v["N"]) / v["N_Rk"] / v["chi_flex"] + abs(v["My"]) / v["My_Rk"] / v["chi_LTop"]
        found = second(self.hall, member, outcome)
        self.assertAlmostEqual(found.utilisation, expected + v["u_general"] - v["u_op"], places=9)
        self.assertLessEqual(found.utilisation, outcome.utilisation)

    def test_an_angle_between_pins(self):
        member, outcome, v = self.worst(self.store, "axial")
        # L 80x8: i_v = 15.5 mm, A = 12.27 cm², curve b; 2.793 m long
        slender = 2.793 / 15.55e-3 / (pi * sqrt(210e3 / 355))
        phi = 0.5 * (1 + 0.34 * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(phi**2 - slender**2))
        found = second(self.store, member, outcome)
        self.assertAlmostEqual(found.utilisation, v["N_Ed"] / (chi * 12.27e-4 * 355e6), delta=0.01)
        self.assertGreater(found.utilisation, 1.2 * outcome.utilisation)
        self.assertIn("BB.1.2", found.why)

    def test_torsion_by_the_other_annex(self):
        member, outcome, _ = self.worst(self.store, "twist")
        found = second(self.store, member, outcome)
        other = log_store()
        annex = other.national.steel.interaction
        other.national.steel.interaction = "annex A" if annex == "annex B" else "annex B"
        chain = run(other)
        own = [o for o in chain.verification.verdicts[member].outcomes if o.criterion == "twist"]
        self.assertLessEqual(found.utilisation, max(o.utilisation for o in own) + 1e-9)
        self.assertIn("annex", found.method)

    def test_a_column_by_the_critical_load_of_the_whole(self):
        # alone between pins the critical load of the whole is its own
        column = copy.deepcopy(portal())
        column["nodes"], column["members"] = column["nodes"][:3:2], column["members"][:1]
        column["supports"] = [{"node": "foot 1", "fixed": ["x", "y", "z", "rz"]}, {"node": "a", "fixed": ["x", "y"]}]
        column["node_loads"] = [{"case": "H", "node": "a", "force": [0, 0, -200]}]
        chain = run(read_document(column))
        member, outcome, v = self.worst(chain, "flexural")
        found = second(chain, member, outcome)
        self.assertAlmostEqual(found.utilisation, v["u_Nz"], delta=2e-3 * v["u_Nz"])

    def test_beyond_its_critical_load_on_a_finer_mesh(self):
        column = copy.deepcopy(portal())
        column["nodes"], column["members"] = column["nodes"][:3:2], column["members"][:1]
        column["supports"] = [{"node": "foot 1", "fixed": ["x", "y", "z", "rz"]}, {"node": "a", "fixed": ["x", "y"]}]
        column["node_loads"] = [{"case": "H", "node": "a", "force": [0, 0, -500]}]
        chain = run(read_document(column))
        member, outcome, _ = self.worst(chain, "critical")
        # 1.5 · 500 kN beside π² E I_z/l², I_z = 603.8 cm⁴
        euler = 750e3 / (pi**2 * E * 603.8e-8 / 25)
        self.assertAlmostEqual(second(chain, member, outcome).utilisation, euler, delta=2e-3 * euler)
