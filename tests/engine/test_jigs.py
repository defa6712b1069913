"""The jigs: shapes of halls, trusses, floors and bracing, and that random ones stand without a snag."""

import unittest
from math import cos, radians, tan

import numpy as np

from engine.catalogue.sections import section
from engine.document import Document, read_document
from engine.document.floors import FloorJig
from engine.document.jigs import (
    BracedBays,
    BracingJig,
    Gable,
    HallBracing,
    HallJig,
    Haunch,
    KneeBraces,
    LeanTo,
    Overhangs,
    Purlins,
    RafterTie,
    Repeat,
    RoofBay,
    RoofTruss,
    TrussJig,
)
from engine.errors import ModelError
from engine.expand import expand
from engine.jigs.haunches import haunch_pieces
from engine.jigs.parts import Materials
from engine.structure.audit import audit
from tests.engine.helpers import by_case

RNG = np.random.default_rng(5)


def at(structure, name):
    return structure.xyz[structure.nodes.index(name)]


def hall(**more):
    return Document(hall=HallJig(**more))


class Roofs(unittest.TestCase):
    def test_ridge_by_pitch_by_place_and_by_height(self):
        for bay, x, z in (
            (RoofBay(span=20, pitch=10), 10, 6 + 10 * tan(radians(10))),
            (
                RoofBay(span=20, pitch=10, right_pitch=20),
                20 * tan(radians(20)) / (tan(radians(10)) + tan(radians(20))),
                None,
            ),
            (RoofBay(span=20, pitch=10, ridge_at=5), 5, 6 + 5 * tan(radians(10))),
            (RoofBay(span=20, ridge_height=9, ridge_at=8), 8, 9),
            (RoofBay(span=20, ridge_height=9), 10, 9),
        ):
            ridge = at(expand(hall(bays=[bay])), "frame-1/ridge-AB")
            self.assertAlmostEqual(ridge[0], x)
            if z is not None:
                self.assertAlmostEqual(ridge[2], z)

    def test_unequal_eaves_and_bases(self):
        built = expand(hall(bays=[RoofBay(span=20, pitch=10, right_height=8, right_base=1)]))
        self.assertAlmostEqual(at(built, "frame-2/eaves-B")[2], 8)
        self.assertAlmostEqual(at(built, "frame-2/base-B")[2], 1)
        left, right = (built.member(f"frame-2/rafter-AB-{side}") for side in ("left", "right"))
        slopes = [np.diff(built.xyz[[m.nodes[0], m.nodes[-1]]], axis=0)[0] for m in (left, right)]
        self.assertAlmostEqual(slopes[0][2] / slopes[0][0], tan(radians(10)))
        self.assertAlmostEqual(-slopes[1][2] / slopes[1][0], tan(radians(10)))

    def test_six_bays_with_valleys(self):
        built = expand(hall(bays=[RoofBay(span=10 + i) for i in range(6)]))
        self.assertEqual(sum(m.name.startswith("frame-1/column") for m in built.members), 7)
        self.assertEqual([g.name for g in built.grid if g.axis == "X"], list("ABCDEFG"))
        self.assertAlmostEqual(at(built, "frame-1/base-G")[0], sum(10 + i for i in range(6)))

    def test_single_pitch_and_flat(self):
        built = expand(hall(bays=[RoofBay(span=12, shape="single pitch", pitch=6)]))
        self.assertAlmostEqual(at(built, "frame-1/eaves-B")[2], 6 + 12 * tan(radians(6)))
        flat = expand(hall(bays=[RoofBay(span=12, shape="flat")]))
        self.assertAlmostEqual(at(flat, "frame-1/eaves-B")[2], 6)
        self.assertNotIn("frame-1/ridge-AB", flat.nodes)

    def test_what_is_measured(self):
        column, rafter = section("HEA 300").h, section("IPE 360").h
        clear = expand(hall(measured="clear", bays=[RoofBay(span=20)]))
        self.assertAlmostEqual(at(clear, "frame-1/base-B")[0], 20 + column)
        self.assertAlmostEqual(at(clear, "frame-1/eaves-A")[2], 6 + rafter / 2 / cos(radians(10)))
        outside = expand(hall(measured="cladding", bays=[RoofBay(span=20)]))
        rail = section("IPE 140").h
        self.assertAlmostEqual(at(outside, "frame-1/base-B")[0], 20 - column - 2 * rail)

    def test_nonsense_is_refused_at_its_field(self):
        for parameters, words, place in (
            ({"bays": [RoofBay(span=20, ridge_at=25)]}, "outside the span", "hall.bays.0.ridge_at"),
            ({"bays": [RoofBay(span=20, ridge_height=5)]}, "not be above the eaves", "hall.bays.0.ridge_height"),
            ({"bays": [RoofBay(span=20, pitch=0)]}, "choose a flat roof", "hall.bays.0.pitch"),
            ({"bays": [RoofBay(span=40, shape="single pitch", pitch=-15)]}, "m high", "hall.bays.0.pitch"),
            ({"base_level": 5.5}, "0.50 m high; at least 1 m", "hall.base_level"),
            ({"eaves_haunch": Haunch(length=15)}, "longer than the rafter", "hall.eaves_haunch.length"),
            (
                {"eaves_haunch": Haunch(length=8), "apex_haunch": Haunch(length=8)},
                "haunches take 16",
                "hall.eaves_haunch.length",
            ),
            ({"eaves_haunch": Haunch(depth=0.5)}, "at most 0.347", "hall.eaves_haunch.depth"),
            ({"bracing": HallBracing(walls=BracedBays(bays=[9]))}, "no bay 9", "hall.bracing.walls.bays.0"),
            ({"lean_to_left": LeanTo(height=6.5)}, "meets the column at 6.5", "hall.lean_to_left.height"),
            ({"lean_to_right": LeanTo(span=25, height=5, pitch=10)}, "less than 1 m", "hall.lean_to_right.pitch"),
            ({"knee_braces": KneeBraces(down=7)}, "reach 7 m down", "hall.knee_braces.down"),
            ({"truss": RoofTruss(depth=6)}, "no column below", "hall.truss.depth"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as caught:
                expand(hall(**parameters))
            self.assertEqual(caught.exception.place, place)


class Details(unittest.TestCase):
    def test_haunch_pieces_cover_it_and_fall_away(self):
        pieces = haunch_pieces(Haunch(length=2.4, depth=0.3), section("IPE 360"), 12.0, True, Materials(), "h")
        self.assertAlmostEqual(sum(p.end - p.start for p in pieces), 2.4)
        self.assertTrue(all(a.section.Iy > b.section.Iy for a, b in zip(pieces[:-1], pieces[1:], strict=True)))
        mirrored = haunch_pieces(Haunch(length=2.4, depth=0.3), section("IPE 360"), 12.0, False, Materials(), "h")
        self.assertAlmostEqual(min(p.start for p in mirrored), 9.6)

    def test_haunches_converge(self):
        import engine.jigs.haunches as haunches

        moments = []
        usual = haunches.PIECES
        for pieces in (usual, 4 * usual):
            haunches.haunch_pieces.__defaults__ = (pieces,)
            chain = by_case(hall(eaves_haunch=Haunch(length=2.4, depth=0.3), spacings=[6.0] * 2))
            haunches.haunch_pieces.__defaults__ = (usual,)
            node = chain.structure.nodes.index("frame-2/eaves-A")
            case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
            column = chain.structure.index["frame-2/column-A"]
            e = int(np.flatnonzero(chain.response.elements.member == column)[-1])
            moments.append(chain.response.end_force[e, 10, case])
            self.assertIn(node, chain.structure.members[column].nodes)
        self.assertAlmostEqual(moments[0] / moments[1], 1, delta=1e-3)

    def test_a_haunch_draws_moment_to_the_eaves(self):
        def eaves(document):
            chain = by_case(document)
            case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
            column = chain.structure.index["frame-4/column-A"]
            e = int(np.flatnonzero(chain.response.elements.member == column)[-1])
            return abs(chain.response.end_force[e, 10, case])

        self.assertGreater(eaves(hall(eaves_haunch=Haunch(length=2.4, depth=0.3))), 1.03 * eaves(hall()))

    def test_posts_braces_ties_and_lean_to(self):
        built = expand(
            hall(
                front=Gable(kind="posts", posts=5),
                knee_braces=KneeBraces(),
                tie=RafterTie(at=0.3),
                lean_to_left=LeanTo(),
                overhangs=Overhangs(right=1.0),
                bracing=HallBracing(gables=BracedBays(bays=[1], kind="single")),
            )
        )
        self.assertEqual(sum(m.role == "gable post" for m in built.members), 5)
        self.assertEqual(sum(m.role == "tie" for m in built.members), 7)
        self.assertEqual(sum(m.role == "knee brace" for m in built.members), 14)
        self.assertIn("frame-3/lean-rafter-left", built.index)
        self.assertIn("front/brace-1-up", built.index)
        self.assertIn("frame-8/overhang-right", built.index)
        # posts and ties stand on nodes that the rafters pass through
        rafter = built.member("frame-1/rafter-AB-left")
        self.assertIn(built.member("front/post-1").nodes[-1], rafter.nodes)

    def test_purlins_as_members_carry_the_roof(self):
        plain, modelled = by_case(hall()), by_case(hall(purlins=Purlins(modelled=True), spacings=[6.0] * 7))
        case = {c.symbol: i for i, c in enumerate(modelled.loading.cases)}
        table = modelled.loading.spread
        on = {
            modelled.structure.members[m].name.split("/")[1].split("-")[0]
            for m in np.unique(table.member[table.case == case["S1"]])
        }
        self.assertEqual(on, {"purlin", "eaves", "ridge"})
        for chain in (plain, modelled):
            total = chain.loading.expected[case["S1"]][2]
            self.assertAlmostEqual(total / (-0.64e3 * 24 * 42), 1, delta=1e-9)
        reaction = modelled.response.reaction[:, 2, case["S1"]].sum()
        self.assertAlmostEqual(reaction / -modelled.loading.expected[case["S1"]][2], 1, delta=1e-9)

    def test_kinds_of_bracing(self):
        for kind, count in (("X", 2), ("single", 1), ("K", 2), ("V", 2)):
            built = expand(hall(bracing=HallBracing(walls=BracedBays(bays=[1], kind=kind))))
            self.assertEqual(sum(m.name.startswith("bay-1/wall-brace-A") for m in built.members), count)
        tension = expand(hall(bracing=HallBracing(walls=BracedBays(bays=[1], tension_only=True))))
        self.assertEqual(tension.member("bay-1/wall-brace-A-up").behaviour, "tension-only")


class Trusses(unittest.TestCase):
    PATTERNS = ("Pratt", "Howe", "Warren", "Warren with posts", "N", "K", "fan")

    def test_every_pattern_stands_on_its_supports(self):
        for pattern in (*self.PATTERNS, "Fink"):
            for outline, support in (
                ("double pitch", 1.0),
                ("double pitch", 0.0),
                ("parallel", 1.5),
                ("single pitch", 0.8),
                ("curved", 1.0),
            ):
                if pattern == "Fink" and outline in ("single pitch",):
                    continue
                for panels in (2, 3, 4):
                    if pattern == "Fink" and panels == 3:
                        continue
                    jig = TrussJig(name="t", pattern=pattern, outline=outline, height_support=support, panels=panels)
                    with self.subTest(f"{pattern} {outline} {support} {panels}"):
                        document = Document(jigs=[jig])
                        self.assertEqual(
                            [built.what for built in audit(expand(document)) if built.kind != "unbraced"], []
                        )
                        chain = by_case(document)
                        down = -chain.loading.expected[0][2]
                        self.assertAlmostEqual(chain.response.reaction[:, 2, 0].sum() / down, 1, delta=1e-9)

    def test_pratt_truss_by_the_method_of_joints(self):
        # parallel chords 2 m apart, six panels of 3 m, 10 kN at every inner lower joint: midspan moment 10·18·6/8 … by sections
        jig = TrussJig(
            name="t",
            pattern="Pratt",
            outline="parallel",
            height_apex=2.0,
            panels=3,
            chords_continuous=False,
            end=(18.0, 0.0, 5.0),
        )
        names = [f"t/1/bottom-{i}" for i in range(1, 6)]
        data = Document(jigs=[jig]).model_dump()
        data |= {
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": n, "force": [0, 0, -10]} for n in names],
            "supports": [
                {"node": n, "fixed": ["y", "rx", "ry", "rz"]} for n in [f"t/1/top-{i}" for i in range(1, 6)] + names
            ],
        }
        chain = by_case(read_document(data))
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "P")
        force = {
            chain.structure.members[m].name: -chain.response.end_force[e, 0, case] / 1000
            for e, m in enumerate(chain.response.elements.member)
        }
        # reaction 25 kN; moment at 9 m: 25·9 − 10·6 − 10·3 = 135 kNm → bottom chord at the middle panel cut at top joint 3
        self.assertAlmostEqual(force["t/1/top-3"], -135 / 2, delta=1e-6)
        # moment at 6 m: 25·6 − 10·3 = 120 kNm → bottom chord of panel 3 (top joint 2 above)
        self.assertAlmostEqual(force["t/1/bottom-3"], 120 / 2, delta=1e-6)
        # shear of panel 1: 25 kN in the end diagonal, falling inwards and in tension
        self.assertAlmostEqual(force["t/1/diagonal-1"], 25 * np.hypot(3, 2) / 2, delta=1e-6)

    def test_columns_and_repeats(self):
        built = expand(Document(jigs=[TrussJig(name="t", columns=5.0, repeat=Repeat(count=4, step=(0, 5, 0)))]))
        self.assertEqual(sum(m.role == "column" for m in built.members), 8)
        self.assertEqual(sum(m.role == "strut" for m in built.members), 9)
        self.assertEqual([s.kind for s in audit(built)], ["cantilevers"])

    def test_refusals(self):
        for parameters, words in (
            ({"start": (0, 0, 5), "end": (0, 0, 5)}, "coincide"),
            ({"end": (18, 0, 6)}, "different heights"),
            ({"height_support": 3.0, "height_apex": 2.0}, "not more than 3"),
            ({"pattern": "Fink", "panels": 3}, "two or four panels"),
            ({"repeat": Repeat(count=2, step=(0, 0, 0))}, "one place"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as caught:
                expand(Document(jigs=[TrussJig(name="t", **parameters)]))
            self.assertTrue(caught.exception.place.startswith("jigs.0."))

    def test_trussed_hall(self):
        chain = by_case(hall(truss=RoofTruss(pattern="Pratt"), spacings=[6.0] * 3))
        self.assertEqual(audit(chain.structure), [])
        self.assertNotIn("frame-2/rafter-AB-left", chain.structure.index)
        snow = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S3")
        table, chord = chain.loading.spread, chain.structure.index["frame-2/truss-AB/top-2"]
        own = (table.case == snow) & (table.member == chord)
        length = chain.structure.length(chain.structure.members[chord])
        self.assertAlmostEqual(float((table.end - table.start)[own].sum()), length, delta=1e-6)


class Floors(unittest.TestCase):
    def document(self, **more):
        return Document(hall=HallJig(), jigs=[FloorJig(name="mezzanine", along=("2", "4"), **more)])

    def test_joins_the_columns_of_the_hall(self):
        built = expand(self.document())
        column = built.member("frame-3/column-A")
        self.assertEqual(len(column.nodes), 3)
        self.assertEqual(sum(m.role == "column" and m.jig == "mezzanine" for m in built.members), 3)
        self.assertEqual(audit(built), [])

    def test_loads_reach_the_ground_one_way_and_two_ways(self):
        for deck in ("one way", "two ways"):
            for main in ("across", "along"):
                chain = by_case(self.document(deck=deck, main=main, imposed=4.0))
                case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "Q1")
                with self.subTest(f"{deck} {main}"):
                    self.assertAlmostEqual(chain.response.reaction[:, 2, case].sum() / (4e3 * 24 * 12), 1, delta=1e-9)

    def test_follows_the_grid(self):
        built = expand(Document(hall=HallJig(spacings=[5.0] * 7), jigs=[FloorJig(name="m", along=("2", "4"))]))
        ys = {round(float(at(built, n)[1]), 6) for n in built.nodes if n.startswith("m/")}
        self.assertEqual((min(ys), max(ys)), (5.0, 15.0))

    def test_refusals(self):
        for parameters, words in (
            ({"across": ("A", "Z")}, "no grid line “Z”"),
            ({"along": ("2", "2")}, "itself"),
            ({"level": 0.2}, "at least 0.5 m"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words):
                expand(Document(hall=HallJig(), jigs=[FloorJig(name="m", **parameters)]))


class Bracing(unittest.TestCase):
    def test_a_braced_tower_of_three_storeys(self):
        corners = ((0, 0, 0), (4, 0, 0), (4, 0, 9), (0, 0, 9))
        built = expand(
            Document(jigs=[BracingJig(name="b", corners=corners, storeys=3, repeat=Repeat(count=2, step=(0, 4, 0)))])
        )
        self.assertEqual(sum(m.role == "wall bracing" for m in built.members), 12)
        self.assertAlmostEqual(at(built, "b/2-3-3")[2], 9)

    def test_between_nodes_of_a_hall(self):
        jig = BracingJig(name="b", corners=("frame-4/base-A", "frame-5/base-A", "frame-5/eaves-A", "frame-4/eaves-A"))
        built = expand(Document(hall=HallJig(), jigs=[jig]))
        brace = built.member("b/1-1-up")
        self.assertEqual({built.nodes[n] for n in brace.nodes}, {"frame-4/base-A", "frame-5/eaves-A"})
        with self.assertRaisesRegex(ModelError, "no node “nowhere”"):
            expand(Document(jigs=[BracingJig(name="b", corners=("nowhere", "b", "c", "d"))]))


def random_hall():
    shapes = ["duopitch", "single pitch", "flat"]
    bays = []
    for _ in range(int(RNG.integers(1, 4))):
        shape = str(RNG.choice(shapes))
        pitch = float(RNG.uniform(5, 30)) if shape == "duopitch" else float(RNG.uniform(-2, 4))
        bays.append(RoofBay(span=float(RNG.uniform(8, 30)), shape=shape, pitch=pitch))
    pick = lambda *choices: choices[int(RNG.integers(len(choices)))]  # noqa: E731
    posts = Gable(kind="posts", posts=int(RNG.integers(0, 7)))
    return HallJig(
        bays=bays,
        eaves_height=float(RNG.uniform(5.5, 12)),
        spacings=[float(x) for x in RNG.uniform(3, 8, size=int(RNG.integers(1, 7)))],
        bases=pick("pinned", "fixed", "spring"),
        eaves_haunch=pick(None, Haunch(length=1.0, depth=0.2)),
        apex_haunch=pick(None, Haunch(length=0.8, depth=0.15)),
        truss=pick(
            None, None, RoofTruss(depth=1.0, panels=int(RNG.integers(2, 6)), pattern=str(RNG.choice(Trusses.PATTERNS)))
        ),
        front=pick(Gable(), posts),
        back=pick(Gable(), posts),
        purlins=Purlins(spacing=float(RNG.uniform(1, 2.5)), modelled=pick(True, False), continuous=pick(True, False)),
        rails=pick(None, Purlins(spacing=float(RNG.uniform(1, 2.5)), modelled=pick(True, False))),
        bracing=HallBracing(
            # a hall of nothing but gables on posts stands only when they are braced
            gables=BracedBays(bays=[1]),
            roof=BracedBays(kind=pick("X", "single", "K", "V")),
            walls=BracedBays(kind=pick("X", "single", "K", "V")),
        ),
        overhangs=Overhangs(left=pick(0.0, 0.8)),
        lean_to_right=pick(None, None, LeanTo(span=4.0, height=4.0, pitch=5.0)),
    )


class Random(unittest.TestCase):
    def test_random_halls_stand_without_a_snag(self):
        for _ in range(40):
            jig = random_hall()
            structure = expand(Document(hall=jig))
            self.assertEqual([built.what for built in audit(structure)], [], jig)
            self.assertEqual(structure.orphans, ())
            self.assertEqual(len(structure.index), len(structure.members))

    def test_and_are_no_mechanism(self):
        for _ in range(8):
            jig = random_hall()
            chain = by_case(Document(hall=jig))
            for case, expected in enumerate(chain.loading.expected):
                self.assertAlmostEqual(
                    chain.response.reaction[:, 2, case].sum(), -expected[2], delta=1e-6 * max(abs(expected[2]), 1e3)
                )

    def test_same_parameters_same_identities(self):
        for _ in range(5):
            jig = random_hall()
            one, two = expand(Document(hall=jig)), expand(Document(hall=jig))
            self.assertEqual([m.name for m in one.members], [m.name for m in two.members])
            self.assertEqual(one.nodes, two.nodes)
