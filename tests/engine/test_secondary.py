"""Purlins and rails that are no members, by tables of what they bear."""

import unittest
from math import cos, log10, radians

from engine.chain import fingerprints, run
from engine.document import read_document
from engine.document.jigs import Purlins
from engine.document.secondary import LoadTable, SpanRow
from engine.errors import ModelError
from engine.result import result
from engine.standards.family import family
from engine.verification.secondary import row_for
from tests.engine.helpers import hall
from tests.engine.test_torsion import beam

ROWS = [
    (5.0, 1, 5.0, 4.0, 3.0),
    (6.0, 1, 3.2, 2.4, 2.0),
    (7.5, 1, 2.0, 1.6, 1.0),
    (6.0, 2, 3.0, 2.3, 4.0),
    (6.0, 3, 3.4, 2.6, 3.6),
]


def table(rows=ROWS, name="Z 200"):
    keys = ("span", "spans", "down", "up", "service")
    return LoadTable(name=name, source="test", rows=[SpanRow(**dict(zip(keys, row, strict=True))) for row in rows])


def small(rails=None, **purlins):
    """A hall of three bays of 6 m, pitch 10°, purlins at 1.5 m by a table."""
    document = hall()
    document.hall.spacings = [6.0] * 3
    document.hall.purlins = Purlins(**({"table": "Z 200"} | purlins))
    document.hall.rails = rails
    document.load_tables = [table()]
    return document


def of(document, role="purlin"):
    chain = run(document)
    return chain, next(s for s in chain.verification.secondary if s.role == role)


class Rows(unittest.TestCase):
    def test_the_next_longer_span_of_as_many_in_line(self):
        own = table()
        for span, spans, found in (
            (6.0, 1, (6.0, 1)), (5.2, 1, (6.0, 1)), (6.01, 1, (7.5, 1)), (4.0, 1, (5.0, 1)), (6.0, 2, (6.0, 2)), (5.0, 3, (6.0, 3)),
            (6.0, 7, (6.0, 3)),
        ):  # fmt: skip
            row = row_for(own, span, spans)
            self.assertEqual((row.span, row.spans), found)
        self.assertIsNone(row_for(own, 8.0, 1))
        # continuous ones bear other forces over their supports: single spans say nothing of them
        self.assertIsNone(row_for(table([(6.0, 1, 9.0, 9.0, 9.0)]), 6.0, 2))


class SpansFarther(unittest.TestCase):
    """Purlins that no rafter bears on their way span 12 m and not the 6 m of the table: they do not pass."""

    def reasons(self, **changes):
        document = read_document(small().model_dump() | {"site": {"ground_snow": 0.5}} | changes)
        found = of(document)[1]
        return found.status, [reason for reason in found.reasons if "farther than 6 m" in reason]

    def test_where_a_rafter_is_left_out(self):
        self.assertEqual(self.reasons()[1], [])
        # an inner one, and that of a gable
        for frame in (2, 4):
            rafter = f"frame-{frame}/rafter-AB-left"
            status, reasons = self.reasons(panel_edits=[{"panel": "roof-AB-left", "excluded": [rafter]}])
            self.assertEqual(len(reasons), 1, frame)
            self.assertIn("“roof-AB-left”", reasons[0])
            self.assertNotEqual(status, "passes")


class Loads(unittest.TestCase):
    def by_hand(self, document, snow, imposed, exposure=1.0):
        chain, found = of(document)
        local = family(document).local_pressures(document, chain.structure, chain.loading)
        F = next(p for p in local if p.role == "purlin" and p.zone == "F")
        # roof 0.25 kN/m² of surface at 10°, μ1 = 0.8, ψ0 0.5 of snow below 1000 m and 0.6 of wind
        slope = cos(radians(10))
        G, S, H = 0.25 * slope, 0.8 * exposure * snow * slope**2, imposed * slope**2
        most, least = F.most / 1000, F.least / 1000
        self.assertGreater(most, 0)
        ways = {
            "down": (1.35 * G + 1.5 * S + 0.9 * most, 1.35 * G + 1.5 * most + 0.75 * S, 1.35 * G + 1.5 * H),
            "up": (-(1.0 * G + 1.5 * least),),
            "service": (G + S + 0.6 * most, G + most + 0.5 * S, G + H, -(G + least)),
        }
        governs = {}
        for way, loads in ways.items():
            use = next((u for u in found.uses if u.way == way and u.zone == "F"), None)
            if max(loads) <= 0:
                self.assertIsNone(use)
                continue
            self.assertAlmostEqual(use.load / 1000, 1.5 * max(loads), delta=1e-9)
            governs[way] = loads.index(max(loads))
        self.assertEqual(found.worst, max(u.utilisation for u in found.uses))
        return found, governs

    def test_pressed_lifted_and_bent_by_hand(self):
        found, governs = self.by_hand(small(), 0.8, 0.4)
        self.assertEqual(found.status, "fails")
        self.assertEqual({u.way: u.resistance for u in found.uses}, {"down": 3200.0, "up": 2400.0, "service": 2000.0})

    def test_each_action_leads_where_it_is_the_larger(self):
        snowy = small()
        snowy.site.ground_snow, snowy.snow.exposure, snowy.snow.thermal = 3.0, 1.2, 0.9
        self.assertEqual(self.by_hand(snowy, 3.0 * 0.9, 0.4, 1.2)[1], {"down": 0, "up": 0, "service": 0})
        imposed = small()
        imposed.cladding.roof_imposed = 3.0
        self.assertEqual(self.by_hand(imposed, 0.8, 3.0)[1], {"down": 2, "up": 0, "service": 2})
        windy = small()
        windy.site.ground_snow, windy.site.wind_speed, windy.cladding.roof_imposed = 0.3, 40.0, 0.0
        # inside under suction the roof is pressed
        windy.wind.inside.kind, windy.wind.inside.values = "own", [-1.5]
        self.assertEqual(self.by_hand(windy, 0.3, 0.0)[1], {"down": 1, "service": 1})

    def test_what_a_table_does_not_say_is_no_use(self):
        document = small()
        document.load_tables = [table([(6.0, 1, 9.0, 9.0, 0.0)])]
        found = of(document)[1]
        self.assertEqual({u.way for u in found.uses}, {"down", "up"})
        self.assertEqual(found.status, "passes")
        left_out = run(document).verification.whole.left_out
        self.assertTrue(any("nothing of deflection" in words for words, _ in left_out))

    def test_rails_under_wind_alone(self):
        document = small(rails=Purlins(spacing=2.0, table="Z 200"))
        chain, found = of(document, "side rail")
        local = family(document).local_pressures(document, chain.structure, chain.loading)
        rails = [p for p in local if p.role == "side rail"]
        self.assertAlmostEqual(
            max(u.load for u in found.uses if u.way == "up"), 2.0 * 1.5 * max(-p.least for p in rails), delta=1e-6
        )
        self.assertAlmostEqual(
            max(u.load for u in found.uses if u.way == "down"), 2.0 * 1.5 * max(p.most for p in rails), delta=1e-6
        )

    def test_exceptional_snow_and_what_nations_choose(self):
        document = small()
        before = next(u for u in of(document)[1].uses if u.way == "down")
        document.snow.exceptional = 3.0
        document.rules.gamma_Q = 1.6
        after = next(u for u in of(document)[1].uses if u.way == "down")
        slope = cos(radians(10))
        by_hand = 1.5 * (0.25 * slope + 3.0 * 0.64 * slope**2)
        self.assertAlmostEqual(after.load / 1000, by_hand, delta=1e-9)
        self.assertGreater(after.load, before.load)


class Verdicts(unittest.TestCase):
    def test_without_a_table_they_are_left_out_and_the_verdict_says_so(self):
        for change, words in (
            ({"table": ""}, "no table says what they bear"),
            ({"table": "C 300"}, "there is no table “C 300”"),
            ({"continuous": True}, ""),
        ):
            document = small(**change)
            chain, found = of(document)
            if words:
                self.assertEqual(found.status, "not covered")
                self.assertTrue(
                    any("are not verified" in said and words in said for said, _ in chain.verification.whole.left_out)
                )
            else:
                self.assertEqual(found.spans, 3)
                self.assertEqual({u.resistance for u in found.uses if u.way == "up"}, {2600.0})

    def test_a_span_beyond_the_table_is_not_covered(self):
        document = small()
        document.hall.spacings = [8.0, 8.0]
        _, found = of(document)
        self.assertEqual((found.status, found.reasons), ("not covered", ("“Z 200” has no row for 8 m in one span",)))

    def test_what_fails_makes_the_building_fail(self):
        strong = small()
        strong.load_tables = [table([(6.0, 1, 99.0, 99.0, 99.0)])]
        weak = small()
        weak.load_tables = [table([(6.0, 1, 99.0, 0.5, 99.0)])]
        whole, other = of(strong)[0].verification.whole, of(weak)[0].verification.whole
        self.assertEqual(other.failing, whole.failing + 1)
        self.assertFalse(other.passes)
        self.assertGreater(other.worst, 4)

    def test_members_and_halls_without_them_need_none(self):
        document = small(modelled=True)
        self.assertEqual(run(document).verification.secondary, ())
        self.assertEqual(run(beam(torque=0.0)).verification.secondary, ())

    def test_members_bear_the_wind_of_larger_areas_and_say_so(self):
        for spacing, own, said in ((1.5, False, True), (2.0, False, False), (1.5, True, False)):
            document = small(modelled=True, spacing=spacing)
            document.wind.own_areas = own
            chain = run(document)
            of_purlins = [
                any("c_pe,10" in words for words in chain.verification.verdicts[i].left_out)
                for i, m in enumerate(chain.structure.members)
                if m.role == "purlin"
            ]
            self.assertTrue(of_purlins)
            self.assertEqual(set(of_purlins), {said})

    def test_as_members_they_bear_the_wind_of_their_own_area(self):
        # zone F: c_pe of 1.5 · 6 = 9 m² between c_pe,10 and c_pe,1 of table 7.4a at 10°, for the suction set
        document = small(modelled=True)
        case = "Wind from left, inside +"
        pressures = {}
        for own in (True, False):
            document.wind.own_areas = own
            chain = run(document)
            number = next(
                i for i, c in enumerate(chain.loading.cases) if c.name.startswith(case) and "suction" in c.name
            )
            load = next(s for s in chain.loading.surfaces if s.case == number and s.zone == "F")
            pressures[own] = load.pressure[0]
            q = next(w for w in family(document).winds(document, chain.structure) if w.direction == "left").inner
        c10, c1 = -1.3, -2.25
        expected = c1 - (c1 - c10) * log10(9.0)
        self.assertAlmostEqual((pressures[True] - pressures[False]) / q, expected - c10, delta=1e-6)

    def test_open_sheds_say_that_their_wind_is_not_known(self):
        document = small()
        document.hall.open_sides = True
        self.assertIn("open roofs", of(document)[1].reasons[0])

    def test_the_verdict_is_made_anew_when_a_table_changes(self):
        one, other = small(), small()
        other.load_tables[0].rows[1].up = 9.0
        a, b = fingerprints(one), fingerprints(other)
        self.assertEqual(a["response"], b["response"])
        self.assertNotEqual(a["verification"], b["verification"])

    def test_the_result_file_tells(self):
        [told] = result(of(small())[0])["secondary"]
        self.assertEqual((told["role"], told["table"], told["status"]), ("purlin", "Z 200", "fails"))

    def test_bad_tables_are_refused_at_their_place(self):
        data = small().model_dump(mode="json")
        with self.assertRaisesRegex(ModelError, "load_tables.0.rows.0.down"):
            read_document(data | {"load_tables": [{"name": "Z", "rows": [{"span": 6, "down": 0, "up": 1}]}]})
        with self.assertRaisesRegex(ModelError, "two tables named"):
            read_document(data | {"load_tables": [data["load_tables"][0]] * 2})
