"""Actions over HTTP: panels laid flat, the climate service up, unknown and down, combinations that lost a case."""

from threading import Thread

from django.test import override_settings

from climate.service import answer, make
from tests.server.test_api import ApiCase


class Pressures(ApiCase):
    def test_what_a_pressure_would_put_on_members_is_told_before_it_is_taken(self):
        project = self.new()
        url = f"/api/projects/{project['id']}/lay"
        load = {"case": "new", "on": "roofs", "pressure": 0.5, "axes": "plan"}
        told = self.client.post(url, {"load": load}, content_type="application/json").json()
        # 24 x 42 m of plan; inner rafters take 6 m of it along their slope
        self.assertAlmostEqual(told["total"][2], -0.5 * 24 * 42, delta=1e-6)
        self.assertEqual((len(told["panels"]), told["members"]), (2, 16))
        self.assertAlmostEqual(told["most"], 0.5 * 6 * 0.98481, delta=1e-3)
        # nothing was changed
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}/head").json()["number"], 1)
        wrong = self.client.post(url, {"load": load | {"on": "floors"}}, content_type="application/json")
        self.assertEqual((wrong.status_code, wrong.json()["place"]), (422, "load.on"))


class Panels(ApiCase):
    def test_a_panel_laid_flat(self):
        project = self.new()
        found = self.client.get(f"/api/projects/{project['id']}/panel?name=roof-AB-left").json()
        xs, ys = zip(*found["outline"], strict=True)
        self.assertAlmostEqual(max(xs) - min(xs), 42.0)
        self.assertAlmostEqual(max(ys), 12.185, delta=1e-3)
        self.assertEqual(len(found["carriers"]), 8)
        left = [z for z in found["zones"] if z["direction"] == "left"]
        self.assertEqual(sorted(z["letter"] for z in left), ["F", "F", "G", "H"])
        self.assertAlmostEqual(sum(z["area"] for z in left), found["area"], delta=1e-6)
        # from outside, the eaves are at the foot of the drawing
        corner = next(z for z in left if z["letter"] == "F")
        self.assertAlmostEqual(min(y for _, y in corner["polygon"]), 0.0, delta=1e-9)
        loads = [load for load in found["loads"] if load["case"] == "W1"]
        self.assertIn("c_pe", loads[0]["why"])
        # the turn leads from the drawing to the panel's own coordinates
        (a, b, c), (d, e, f) = found["turn"]
        self.assertAlmostEqual(abs(b * f - c * e), 1.0, delta=1e-9)
        unknown = self.client.get(f"/api/projects/{project['id']}/panel?name=roof-XY")
        self.assertEqual((unknown.status_code, unknown.json()["place"]), (422, "panel"))

    def test_no_panel_of_another_user(self):
        project = self.new()
        self.client.logout()
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}/panel?name=roof-AB-left").status_code, 401)

    def test_the_chain_says_what_the_sheets_show(self):
        project = self.new()
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        self.assertEqual([w["direction"] for w in chain["winds"]], ["left", "right", "front", "back"])
        self.assertTrue(all(c["holds"] for c in chain["cases"]))
        self.assertIn("gable-front", [p["name"] for p in chain["panels"]])
        self.assertEqual({p["row"] for p in chain["psi"]}, {"H", "snow", "wind"})
        self.assertTrue(any(row["role"] == "purlin" and row["least"] < 0 for row in chain["local"]))

    def test_a_combination_that_lost_its_case_is_kept_and_said(self):
        project = self.new()
        own = [{"name": "Own", "factors": {"Snow, undrifted": 1.0}, "use": "strength"}]
        self.assertEqual(self.edit(project, 1, ("combinations", own)).status_code, 200)
        self.assertEqual(self.edit(project, 2, ("site.ground_snow", 0.0)).status_code, 200)
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        lost = next(c for c in chain["combinations"] if c["name"] == "Own")
        self.assertEqual(lost["use"], "lost")
        self.assertIsNone(chain.get("problem"))

    def test_marks_of_combinations_and_equilibrium(self):
        project = self.new()
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        marks = self.client.get(f"/api/projects/{project['id']}/marks").json()
        self.assertEqual([m["name"] for m in marks], [c["name"] for c in chain["combinations"]])
        of = {m["name"]: m for m in marks}
        for member in chain["members"]:
            self.assertEqual(of[member["combination"]]["share"], 1.0)
        self.assertTrue(all(0 <= m["share"] <= 1 for m in marks))
        words = [t["words"] for t in chain["equilibrium"]]
        self.assertEqual(len(words), 5)
        self.assertIn("Overturning about the left edge", words)
        left, right = (next(t for t in chain["equilibrium"] if side in t["words"]) for side in ("left", "right"))
        self.assertAlmostEqual(left["utilisation"], right["utilisation"], delta=1e-6)
        self.assertTrue(all(f["combination"].startswith("U") and f["tension"] > 0 for f in chain["lifted"]))
        self.client.logout()
        self.assertEqual(self.client.get(f"/api/projects/{project['id']}/marks").status_code, 401)

    def test_an_obstruction_off_the_roof_is_refused_at_its_field(self):
        project = self.new()
        wrong = [{"panel": "roof-AB-left", "at": 50.0, "height": 1.0}]
        answer = self.edit(project, 1, ("snow.obstructions", wrong))
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        told = answer.json() if answer.status_code == 422 else chain["problem"]
        self.assertEqual(told["place"], "snow.obstructions.0.at")

    def test_a_load_is_traced_back_to_its_panel(self):
        project = self.new()
        rows = self.client.get(f"/api/projects/{project['id']}/loads?member=frame-4/rafter-AB-left&case=W1").json()[
            "loads"
        ]
        self.assertEqual({r["panel"] for r in rows}, {"roof-AB-left"})
        self.assertEqual([r["zone"] for r in rows], ["G", "H"])
        self.assertAlmostEqual(rows[-1]["end"], 12.185, delta=1e-3)
        # the rafter takes the field of a frame in the middle, 6 m; wind pushes across it, along its own z alone
        for row in rows:
            self.assertAlmostEqual(row["widths"][0], 6.0, delta=1e-9)
            x, y, z = row["own_first"]
            self.assertAlmostEqual(x, 0, delta=1e-9)
            self.assertAlmostEqual(y, 0, delta=1e-9)
            self.assertAlmostEqual(z, sum(v * v for v in row["first"]) ** 0.5, delta=1e-9)
        traced = self.client.get(f"/api/projects/{project['id']}/loads?member=frame-4/rafter-AB-left&case=G1").json()
        weight = traced["loads"]
        self.assertEqual([(r["panel"], r["widths"]) for r in weight], [("", None)])
        # steel at 10°: g sin 10° along the rafter, g cos 10° across it
        x, _, z = weight[0]["own_first"]
        self.assertAlmostEqual(x / weight[0]["first"][2], 0.173648, delta=1e-6)
        self.assertAlmostEqual(z / weight[0]["first"][2], 0.984808, delta=1e-6)
        unknown = self.client.get(f"/api/projects/{project['id']}/loads?member=frame-4/rafter-AB-left&case=W99")
        self.assertEqual(unknown.json()["place"], "case")

    def test_no_load_says_why(self):
        project = self.new()

        def told(member, case):
            answer = self.client.get(f"/api/projects/{project['id']}/loads?member={member}&case={case}").json()
            self.assertEqual(answer["loads"], [])
            return " ".join(answer["nothing"])

        self.assertIn("No panel rests on it", told("bay-1/ridge-beam-AB", "W1"))
        # snow lies on roofs alone
        self.assertIn("Nothing of S1 acts on wall-A", told("frame-4/column-A", "S1"))

    def test_a_zone_tells_what_it_is_read_from_and_what_it_gives_to(self):
        project = self.new()
        panel = self.client.get(f"/api/projects/{project['id']}/panel?name=roof-AB-left").json()
        zone = next(z for z in panel["zones"] if z["direction"] == "left" and z["letter"] == "H")
        # 10°, between 5° and 15° of table 7.4a
        self.assertEqual(zone["read"], ["between -0.60 at 5° and -0.30 at 15°", "between +0.00 at 5° and +0.20 at 15°"])
        self.assertIsNone(zone["below"])
        taken = {c["member"]: c["takes"] for c in panel["carriers"]}
        (part,) = taken["frame-4/rafter-AB-left"]
        xs, ys = zip(*part, strict=True)
        self.assertAlmostEqual(max(xs) - min(xs), 6.0, delta=1e-6)
        self.assertAlmostEqual(max(ys) - min(ys), 12.185, delta=1e-3)

    def test_the_reduction_by_area_is_told_of_beams_and_of_what_stands_below(self):
        floor = {
            "kind": "floor",
            "name": "deck",
            "across": ["A", "B"],
            "along": ["2", "4"],
            "level": 3.0,
            "reduced": True,
        }
        project = self.new()
        self.edit(project, 1, ("jigs", [floor]))
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        case = next(c["symbol"] for c in chain["cases"] if c["nature"] == "imposed" and "floors" in c["name"])
        joist = next(m["name"] for m in chain["members"] if m["role"] == "joist")
        post = next(m["name"] for m in chain["members"] if m["name"].startswith("deck/column"))
        answer = self.client.get(f"/api/projects/{project['id']}/loads?member={joist}&case={case}").json()
        # category B: 5/7 · 0.7 + 10 / A, at most 1
        self.assertAlmostEqual(answer["factor"], min(1.0, 0.5 + 10 / answer["area"]), delta=1e-9)
        widths = answer["loads"][0]["widths"]
        length = answer["loads"][-1]["end"]
        self.assertAlmostEqual(sum(widths) / 2 * length, answer["area"], delta=0.01)
        below = self.client.get(f"/api/projects/{project['id']}/loads?member={post}&case={case}").json()
        self.assertTrue(any("not reduced further" in words for words in below["nothing"]), below)

    def test_a_load_off_its_member_is_refused_with_the_reason(self):
        project = self.new()
        load = {"case": "Cladding", "member": "frame-2/column-A", "value": [0, 0, -1], "start": 7.0, "end": 8.0}
        refused = self.edit(project, 1, ("member_loads", [load]))
        chain = self.client.get(f"/api/projects/{project['id']}/chain").json()
        reason = refused.json().get("message") or (chain.get("problem") or {}).get("message", "")
        self.assertIn("beyond", reason)


class Climate(ApiCase):
    def setUp(self):
        super().setUp()
        self.service = make()
        Thread(target=self.service.serve_forever, daemon=True).start()
        self.url = f"http://127.0.0.1:{self.service.server_port}"

    def tearDown(self):
        self.service.shutdown()
        self.service.server_close()

    def test_known_unknown_and_wrong(self):
        with override_settings(CLIMATE_URL=self.url):
            found = self.client.get("/api/climate?place=ossel ford").json()
            self.assertEqual((found["place"], found["wind_speed"], found["terrain"]), ("Ossel Ford", 24.0, "II"))
            higher = self.client.get("/api/climate?place=Ossel Ford&altitude=700").json()
            self.assertGreater(higher["ground_snow"], found["ground_snow"])
            unknown = self.client.get("/api/climate?place=Osel Ford")
            self.assertEqual(unknown.status_code, 422)
            self.assertIn("Near to it: Ossel Ford", unknown.json()["message"])
            wrong = self.client.get("/api/climate?place=Ossel Ford&altitude=9000")
            self.assertIn("altitude", wrong.json()["message"])
            self.assertEqual(self.client.get("/api/climate/places?name=tarn").json(), ["Upper Tarn"])

    def test_down_and_not_set_up(self):
        with override_settings(CLIMATE_URL="http://127.0.0.1:9"):
            down = self.client.get("/api/climate?place=Ossel Ford")
            self.assertEqual((down.status_code, down.json()["place"]), (422, "site.place"))
            self.assertIn("does not answer", down.json()["message"])
            self.assertEqual(self.client.get("/api/climate/places?name=a").json(), [])
        with override_settings(CLIMATE_URL=""):
            self.assertIn("by hand", self.client.get("/api/climate?place=Ossel Ford").json()["message"])

    def test_only_for_those_who_are_signed_in(self):
        self.client.logout()
        self.assertEqual(self.client.get("/api/climate?place=Ossel Ford").status_code, 401)

    def test_its_rule_for_the_altitude(self):
        # s_k = 0.74 (1 + (210/728)²) = 0.80
        self.assertEqual(answer("/places/Ossel%20Ford")[1]["ground_snow"], 0.80)
        self.assertEqual(answer("/elsewhere")[0], 404)
        self.assertEqual(answer("/places/Nowhere")[1]["near"], [])
