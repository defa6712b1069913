"""The response over HTTP: states, extremes, modes, mechanisms, and second order by choice."""

from tests.engine.test_left_free import braced
from tests.server.test_api import ApiCase


class Response(ApiCase):
    def get(self, project, what, **query):
        words = "&".join(f"{key}={value}" for key, value in query.items())
        return self.client.get(f"/api/projects/{project['id']}/{what}?{words}")

    def test_checks_of_every_combination(self):
        project = self.new()
        chain = self.get(project, "chain").json()
        states = self.get(project, "states").json()
        self.assertEqual([s["name"] for s in states], [c["name"] for c in chain["combinations"]])
        for s in states:
            for applied, reacted in zip(s["applied"], s["reacted"], strict=True):
                self.assertAlmostEqual(applied, reacted, delta=1e-4)
            self.assertLess(s["residual"], 1e-7)
            self.assertTrue(s["stable"] and s["settled"])
        strength = [s for s in states if s["use"] == "strength"]
        # what buckles in each is said, and those of which more than one member buckles below 10 are in second order
        self.assertTrue(all(s["alpha"] > 1 and s["buckles"] for s in strength if s["alpha"]))
        together = [s for s in strength if s["alpha"] and "by itself" not in s["buckles"]]
        self.assertTrue(all((s["order"] == 2) == (s["alpha"] < 10) for s in together))
        self.assertTrue(all(s["order"] == 1 for s in states if s["use"] == "deflection"))
        self.assertTrue(all(s["alpha"] is None for s in states if s["use"] == "deflection"))

    def test_extremes_are_those_of_the_diagrams(self):
        project = self.new()
        rows = {e["member"]: e for e in self.get(project, "extremes").json()}
        runs = self.get(project, "diagrams", plane="frame-4", state="envelope").json()["runs"]
        for run in runs:
            row = rows[run["member"]]
            self.assertAlmostEqual(row["most"][0], max(run["N"]), delta=1e-6)
            self.assertAlmostEqual(row["least"][0], min(run["least_N"]), delta=1e-6)
            # peaks between stations may be larger
            self.assertGreaterEqual(row["most"][4], max(run["My"]) - 1e-6)
            # and stand where they are said to be: between the stations around the greatest one
            place = row["most_at"][4]
            self.assertTrue(0 <= place <= run["x"][-1] + 1e-9)
            k = run["My"].index(max(run["My"]))
            around = run["x"][max(k - 1, 0) : k + 2]
            self.assertTrue(around[0] - 1e-9 <= place <= around[-1] + 1e-9, (place, around))

    def test_sways_are_those_of_the_nodes(self):
        project = self.new()
        chain = self.get(project, "chain").json()
        rows = self.get(project, "sways").json()
        own = next(s for s in rows if s["member"] == "frame-4/column-A" and s["use"] == "deflection")
        self.assertEqual((own["grid"], own["foot"], own["head"], own["whole"]), ("A 4", 0.0, 6.0, True))
        runs = self.get(project, "diagrams", plane="frame-4", state=own["combination"][0]).json()["runs"]
        column = next(r for r in runs if r["member"] == "frame-4/column-A")
        self.assertAlmostEqual(own["sway"][0], column["displacement"][-1][0] - column["displacement"][0][0], places=6)
        self.assertAlmostEqual(own["ratio"][0], 6000 / abs(own["sway"][0]), places=3)
        names = {c["name"] for c in chain["combinations"] if c["use"] == "deflection"}
        self.assertIn(own["combination"][0], names)

    def test_forces_of_decks(self):
        project = self.new()
        self.assertEqual(self.get(project, "decks").json(), [])
        floor = {"kind": "floor", "name": "loft", "along": ["2", "4"], "diaphragm": "membrane"}
        self.assertEqual(self.edit(project, 1, ("jigs", [floor])).status_code, 200)
        rows = self.get(project, "decks").json()
        chain = self.get(project, "chain").json()
        self.assertEqual(len(rows), len([p for p in chain["panels"] if p["name"].startswith("loft/")]))
        self.assertTrue(any(abs(r["force"][2]) > 0.01 for r in rows))
        # a rigid floor leaves none
        self.assertEqual(self.edit(project, 2, ("jigs.0.diaphragm", "rigid")).status_code, 200)
        self.assertEqual(self.get(project, "decks").json(), [])

    def test_what_goes_on_within_slabs(self):
        project = self.new()
        self.assertEqual(self.get(project, "slabs").json(), [])
        floor = {
            "kind": "floor",
            "name": "loft",
            "along": ["2", "4"],
            "joists": 1,
            "diaphragm": "slab",
            "slab": {"size": 1.5},
            "imposed": 3.0,
        }
        self.assertEqual(self.edit(project, 1, ("jigs", [floor])).status_code, 200)
        rows = self.get(project, "slabs").json()
        chain = self.get(project, "chain").json()
        bent = [p for p in chain["panels"] if p["stiff"] == "slab"]
        self.assertEqual({r["name"] for r in rows}, {p["name"] for p in bent})
        self.assertEqual(bent[0]["plate"]["thickness"], 0.2)
        name = rows[0]["name"]
        found = self.get(project, "slab", name=name).json()
        self.assertEqual((found["kind"], found["name"], found["way"]), ("envelope", name, []))
        for key in ("mx", "my", "vx", "n1"):
            self.assertAlmostEqual(max(found["most"][key]), rows[0]["most"][key]["value"], delta=1e-2)
            self.assertAlmostEqual(min(found["least"][key]), rows[0]["least"][key]["value"], delta=1e-2)
        # every corner of every cell has a value, and every cell has its points
        last = max(max(cell) for cell in found["corner"])
        self.assertEqual(last + 1, len(found["most"]["mx"]))
        self.assertLess(max(max(cell) for cell in found["cells"]), len(found["points"]))
        own = self.get(project, "slab", name=name, state=rows[0]["most"]["mx"]["combination"]).json()
        self.assertEqual((own["kind"], own["least"]), ("combination", {}))
        self.assertEqual(len(own["way"]), len(own["most"]["m1"]))
        self.assertAlmostEqual(max(own["most"]["mx"]), rows[0]["most"]["mx"]["value"], delta=1e-2)
        self.assertGreater(len(own["members"]), 1)
        self.assertIn("told, not verified", str(chain["whole"]["left_out"]))
        # in space what lies on them is drawn, deck and imposed loads as they are stated
        imposed = next(c["symbol"] for c in chain["cases"] if c["nature"] == "imposed" and "floor" in c["name"])
        lying = self.get(project, "diagrams", plane="whole", state=imposed).json()["areas"]
        self.assertEqual({a["panel"] for a in lying}, {p["name"] for p in bent})
        for area in lying:
            self.assertEqual(area["force"], [[0.0, 0.0, -3.0]] * len(area["corners"]))
        self.assertEqual(self.get(project, "diagrams", plane="frame-2", state=imposed).json()["areas"], [])
        swinging = self.get(project, "slab", name=name, state="vibration:1").json()
        self.assertEqual((swinging["kind"], list(swinging["most"])), ("mode", ["w"]))
        self.assertLessEqual(max(map(abs, swinging["most"]["w"])), 1.0 + 1e-4)
        strong = next(c["name"] for c in chain["combinations"] if c["use"] == "strength")
        for wrong in ({"name": "none"}, {"name": name, "state": f"mode:{strong}:1"}, {"name": name, "state": "C99999"}):
            self.assertEqual(self.get(project, "slab", **wrong).status_code, 422)

    def test_a_bow_is_refused_with_its_place(self):
        project = self.new()
        brace = next(m["name"] for m in self.get(project, "chain").json()["members"] if m["role"] == "wall bracing")
        answer = self.edit(project, 1, ("analysis.bows", [{"member": brace}]))
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["place"], "analysis.bows.0")
        self.assertIn("does not bend", answer.json()["message"])
        bow = {"member": "frame-4/column-A"}
        self.assertEqual(self.edit(project, 1, ("analysis.order", "second"), ("analysis.bows", [bow])).status_code, 200)
        self.assertIsNone(self.get(project, "chain").json().get("problem"))

    def test_what_slack_members_leave_free_is_drawn(self):
        project = self.new()
        data = braced()
        changes = [("hall", None), *((key, value) for key, value in data.items() if key != "analysis")]
        self.assertEqual(self.edit(project, 1, *changes).status_code, 200)
        states = {s["name"]: s for s in self.get(project, "states").json()}
        self.assertEqual({name: s["free"] for name, s in states.items()}["to the right"], False)
        self.assertTrue(states["to the left"]["free"])
        self.assertEqual(states["to the left"]["slack"], ["br"])
        drawn = self.get(project, "diagrams", state="free:to the left").json()
        self.assertEqual(drawn["kind"], "mode")
        largest = max(abs(p[0]) for run in drawn["runs"] for p in run["displacement"])
        self.assertAlmostEqual(largest, 1000, delta=1)
        self.assertEqual(self.get(project, "diagrams", state="free:to the right").status_code, 422)

    def test_modes_can_be_drawn(self):
        project = self.new()
        states = self.get(project, "states").json()
        worst = min((s for s in states if s["alpha"]), key=lambda s: s["alpha"])
        modes = self.get(project, "modes", combination=worst["name"]).json()
        self.assertAlmostEqual(modes[0]["value"] / worst["alpha"], 1.0, delta=1e-3)
        drawn = self.get(project, "diagrams", plane="whole", state=modes[0]["state"]).json()
        self.assertEqual(drawn["kind"], "mode")
        largest = max(abs(d) for run in drawn["runs"] for point in run["displacement"] for d in point)
        self.assertAlmostEqual(largest, 1000.0, delta=1e-6)
        natural = self.get(project, "modes").json()
        self.assertEqual([m["value"] for m in natural], sorted(m["value"] for m in natural))
        self.assertIn("Hz", self.get(project, "diagrams", state=natural[0]["state"]).json()["formula"])
        self.assertEqual(self.get(project, "modes", combination="C9999").status_code, 422)
        self.assertEqual(self.get(project, "diagrams", state="mode:C1:99").status_code, 422)

    def test_masses_of_ones_own_slow_it_down(self):
        project = self.new()
        before = self.get(project, "modes").json()[0]["value"]
        masses = {"Self-weight of steel": 1.0, "Cladding": 1.0, "Snow, undrifted": 1.0}
        self.assertEqual(self.edit(project, 1, ("analysis.masses", masses)).status_code, 200)
        self.assertLess(self.get(project, "modes").json()[0]["value"], before)

    def test_second_order_by_choice(self):
        project = self.new()
        self.assertEqual(self.edit(project, 1, ("analysis.order", "first")).status_code, 200)
        before = {m["name"]: m for m in self.get(project, "chain").json()["members"]}
        self.assertEqual(self.edit(project, 2, ("analysis.order", "second")).status_code, 200)
        chain = self.get(project, "chain").json()
        after = {m["name"]: m for m in chain["members"]}
        self.assertIsNone(chain.get("problem"))
        column = next(length for length in chain["lengths"] if length["role"] == "column")
        self.assertAlmostEqual(column["y"], column["length"])
        self.assertIn("5.2.2(7)b", column["why_y"])
        # a frame that leans is bent more by its own weight
        one, two = (
            next(c for c in found["frame-4/column-A"]["checks"] if c["criterion"] == "section")["utilisation"]
            for found in (before, after)
        )
        self.assertGreater(two, one)
        states = self.get(project, "states").json()
        self.assertEqual({s["order"] for s in states if s["use"] == "strength"}, {2})
        self.assertEqual({s["order"] for s in states if s["use"] == "deflection"}, {1})
        for s in states:
            for applied, reacted in zip(s["applied"], s["reacted"], strict=True):
                self.assertAlmostEqual(applied, reacted, delta=1e-4)

    def test_a_mechanism_is_drawn(self):
        project = self.new()
        document = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
            "members": [{"name": "post", "start": "a", "end": "b", "section": "HEA 200"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rz"]}],
            "cases": [{"name": "P"}],
        }
        changes = [("hall", None), *document.items()]
        self.assertEqual(self.edit(project, 1, *changes).status_code, 200)
        chain = self.get(project, "chain").json()
        self.assertIn("mechanism", chain["problem"]["message"])
        self.assertEqual(chain["broken_stage"], "response")
        drawn = self.get(project, "mechanism").json()
        moved = drawn["runs"][0]["displacement"]
        self.assertEqual(moved[0], [0.0, 0.0, 0.0])
        self.assertGreater(max(abs(v) for v in moved[-1][:2]), 500)

    def test_without_any_case(self):
        project = self.new()
        document = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
            "members": [{"name": "post", "start": "a", "end": "b", "section": "HEA 200"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
        }
        self.assertEqual(self.edit(project, 1, ("hall", None), *document.items()).status_code, 200)
        drawn = self.get(project, "diagrams", state="envelope").json()
        self.assertEqual(drawn["runs"][0]["My"], [0.0] * 9)
        for what in ("states", "extremes", "sways", "decks", "modes", "marks"):
            answer = self.get(project, what)
            self.assertEqual((answer.status_code, answer.json()), (200, []), what)

    def test_nothing_for_others(self):
        project = self.new()
        self.client.logout()
        for what in ("states", "extremes", "sways", "decks", "modes", "mechanism"):
            self.assertEqual(self.get(project, what).status_code, 401)
