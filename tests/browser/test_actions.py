"""Site, actions and combinations in the browser: from a place's name to the zones on a slope, loads and combinations."""

from __future__ import annotations

from threading import Thread

from django.test import override_settings
from playwright.sync_api import expect
from shapely.geometry import Polygon

from climate.service import make
from engine.actions.panels import areas
from engine.chain import run
from engine.demo import drying_hall
from engine.document import read_document
from engine.document.loads import NodeLoad, SettlementLoad
from engine.standards.en.wind_cases import hall_winds
from server.projects import revisions
from tests.browser.case import BrowserCase, short


class Actions(BrowserCase):
    def setUp(self):
        super().setUp()
        self.climate = make()
        Thread(target=self.climate.serve_forever, daemon=True).start()
        self.settings_ = override_settings(CLIMATE_URL=f"http://127.0.0.1:{self.climate.server_port}")
        self.settings_.enable()
        self.project = revisions.create(self.user, short(drying_hall()), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")

    def tearDown(self):
        super().tearDown()
        self.settings_.disable()
        self.climate.shutdown()
        self.climate.server_close()

    def stage(self, name):
        self.page.click(f"header nav button:has-text('{name}')")

    def revision(self, number):
        expect(self.page.locator("header .rev")).to_have_text(f"rev {number}")

    def head(self):
        self.project.refresh_from_db()
        return self.project.head.content

    def test_from_a_place_to_the_zones_on_its_left_slope(self):
        page = self.page
        self.stage("Site")
        page.fill("[aria-label='Place']", "Kestrel Gap")
        page.press("[aria-label='Place']", "Tab")
        self.revision(2)
        page.click("button:has-text('Ask the climate service')")
        self.revision(3)
        site = self.head()["site"]
        self.assertEqual((site["wind_speed"], site["altitude"]), (30.5, 1460.0))
        expect(page.locator("aside.right")).to_contain_text("Ossel Valley Climate Office (invented)")
        # a value changed by hand says so
        field = page.locator("label.field:has-text('Ground snow') input")
        field.fill("3.1")
        field.press("Enter")
        self.revision(4)
        expect(page.locator("aside.right .from").first).to_have_text("entered by hand")
        self.stage("Actions")
        page.click("nav.parts >> text=Surfaces")
        page.click("li button:has-text('roof-AB-left')")
        zones = page.locator(".panel g.zone")
        expect(zones).to_have_count(4)
        letters = page.locator(".panel g.words text:first-child").all_text_contents()
        self.assertEqual(sorted(text.strip()[0] for text in letters), ["F", "F", "G", "H"])
        # the proof of a spot: q_p of the new wind speed
        expect(page.locator("header nav .link.behind, header nav .link.refreshing")).to_have_count(0, timeout=90_000)
        # beside the rafter in its middle
        box = zones.nth(3).bounding_box()
        zones.nth(3).click(position={"x": box["width"] / 2 + 20, "y": box["height"] / 2})
        w = hall_winds(read_document(self.head()), run(read_document(self.head())).structure)[0]
        peak = max(p.peak for p in w.pressures.values()) / 1000
        expect(page.locator("aside.right")).to_contain_text(f"{peak:.3f} kN/m²")
        expect(page.locator("aside.right")).to_contain_text("table 7.4a, α = 10.0°")

    def test_loads_and_factors_say_how_they_come_about(self):
        page = self.page
        self.stage("Actions")
        page.click("aside.right li button:has-text('Snow, undrifted')")
        page.click("aside.right button.how")
        drawer = page.locator(".proof .el-drawer__body:visible")
        # 0.8 · 0.8 kN/m² on the plan, at 10°
        expect(drawer).to_contain_text("(5.1)")
        expect(drawer.locator("li", has_text="on the plan")).to_contain_text("0.6400 kN/m²")
        expect(drawer.locator("li.last")).to_contain_text("0.6303 kN/m²")
        # printed, it stands alone
        page.emulate_media(media="print")
        expect(page.locator("header nav").first).to_be_hidden()
        expect(drawer.locator("li.last")).to_be_visible()
        page.emulate_media(media="screen")
        page.keyboard.press("Escape")
        expect(drawer).to_have_count(0)
        self.stage("Combinations")
        page.click("aside.right button.how")
        expect(drawer.locator("li").first).to_contain_text("Self-weight of steel: permanent")

    def test_the_pitch_moves_zones_and_loads_by_itself(self):
        page = self.page
        self.stage("Actions")
        page.click("nav.parts >> text=Surfaces")
        page.click("li button:has-text('roof-AB-left')")
        scale = page.locator(".panel g.scale")
        expect(scale).to_contain_text("1.65")
        self.choose("Case shown on the panel", "W1 ·")
        before = page.locator(".panel g.words").all_text_contents()
        self.stage("Frame")
        field = self.field("Pitch")
        field.fill("20")
        field.press("Enter")
        self.revision(2)
        # e/10 of a higher hall on a longer slope: 2 (6 + 12 tan 20°)/10 / cos 20°
        expect(scale).to_contain_text("2.21")
        self.assertNotEqual(page.locator(".panel g.words").all_text_contents(), before)
        # a rafter bears none of it: its share goes to those beside it, 7.5 m of a width of 6 m each, until it is let bear again
        label = "Rafter 4·AB-L"
        bears = page.get_by_role("button", name=f"{label} bears it")
        bears.press("Enter")
        expect(page.locator(".panel footer")).to_contain_text(f"{label} takes")
        page.click(".panel footer >> text=leave it out")
        self.revision(3)
        expect(page.locator(".panel footer")).to_contain_text(f"{label} bears none of it")
        self.assertEqual(
            self.head()["panel_edits"], [{"panel": "roof-AB-left", "excluded": ["frame-4/rafter-AB-left"]}]
        )
        page.click(".panel footer >> text=let it bear")
        self.revision(4)
        expect(bears).to_have_count(1)
        self.assertEqual(self.head()["panel_edits"], [])
        page.click("text=Back to the building")
        expect(page.locator("text=Panel laid flat")).to_have_count(0)

    def test_an_own_combination_survives_the_hall(self):
        page = self.page
        self.stage("Combinations")
        page.fill("[aria-label='Name of the combination']", "Crane stop")
        page.fill("[aria-label='Factors of the combination']", "1.2 (G1 + G2) + 0.3 S9")
        page.click("button:has-text('Add the combination')")
        expect(page.locator("aside.right [role=alert]")).to_have_text("There is no case “S9”.")
        page.fill("[aria-label='Factors of the combination']", "1.2 (G1 + G2) + 0.3 S1")
        page.click("button:has-text('Add the combination')")
        self.revision(2)
        own = page.locator("aside.right li:has-text('Crane stop')")
        expect(own).to_contain_text("1.2 (G1 + G2) + 0.3 S1")
        # a generated one, copied and changed; the own one, changed in its place
        self.choose("Case or combination shown", "C1 ·")
        page.click("button:has-text('copy C1 here')")
        expect(page.locator("[aria-label='Name of the combination']")).to_have_value("C1 changed 1")
        page.click("[title='Change Crane stop']")
        page.fill("[aria-label='Factors of the combination']", "1.1 (G1 + G2) + 0.3 S1")
        page.click("button:has-text('Change the combination')")
        self.revision(3)
        self.assertEqual([c["factors"]["Cladding"] for c in self.head()["combinations"]], [1.1])
        page.keyboard.press("Control+z")
        self.revision(2)
        self.stage("Frame")
        field = page.locator("label.field:has-text('Span') input").first
        field.fill("20")
        field.press("Enter")
        # what was undone keeps its number
        self.revision(4)
        self.stage("Combinations")
        expect(own).to_contain_text("1.2 (G1 + G2) + 0.3 S1")

    def test_wrong_site_values_and_a_silent_service_say_why(self):
        page = self.page
        self.stage("Site")
        field = page.locator("label.field:has-text('Basic wind speed') input")
        field.fill("75")
        field.press("Enter")
        expect(page.locator("label.field:has-text('Basic wind speed') [role=alert]")).to_contain_text("at most 60")
        page.fill("[aria-label='Place']", "Osel Ford")
        page.press("[aria-label='Place']", "Tab")
        self.revision(2)
        page.click("button:has-text('Ask the climate service')")
        expect(page.locator("aside.right p[role=alert]")).to_contain_text("Near to it: Ossel Ford")
        self.climate.shutdown()
        self.climate.server_close()
        page.click("button:has-text('Ask the climate service')")
        expect(page.locator("aside.right p[role=alert]")).to_contain_text("does not answer")
        self.assertEqual(self.head()["site"]["wind_speed"], 24.0)
        self.climate = make()
        Thread(target=self.climate.serve_forever, daemon=True).start()

    def test_quick_entries_all_stand(self):
        page = self.page
        self.stage("Actions")
        page.click("nav.parts >> text=By hand")
        self.choose("Nature of the case", "permanent")
        for name in ("One", "Two", "Three"):
            page.fill("[aria-label='Name of the case']", name)
            page.click("button:has-text('Add the case')")
            page.wait_for_timeout(150)
        self.revision(4)
        self.assertEqual([c["name"] for c in self.head()["cases"]], ["One", "Two", "Three"])
        self.choose("Kind of load", "force")
        page.fill("[aria-label='Where on the member']", "50 %")
        for size in (10, 20, 30):
            page.fill("[aria-label='Size of the load']", str(size))
            page.click("button:has-text('Put the load')")
            page.wait_for_timeout(150)
        self.revision(7)
        self.assertEqual([load["value"][2] for load in self.head()["member_loads"]], [-10, -20, -30])

    def test_loads_by_hand_in_view_and_table(self):
        page = self.page
        self.stage("Actions")
        page.click("nav.parts >> text=By hand")
        page.fill("[aria-label='Name of the case']", "Crane, east")
        self.choose("Nature of the case", "crane")
        page.click("button:has-text('Add the case')")
        self.revision(2)
        self.choose("Kind of load", "force")
        page.fill("[aria-label='Where on the member']", "50 %")
        page.fill("[aria-label='Size of the load']", "40")
        page.click("button:has-text('Put the load')")
        self.revision(3)
        load = self.head()["member_loads"][0]
        self.assertEqual((load["value"], load["start"], load["ratio"]), ([0, 0, -40], 0.5, True))
        page.click("[role=tab]:has-text('Loads')")
        cell = page.locator(".bottom tbody tr").first.locator("td").nth(3)
        cell.dblclick()
        page.keyboard.press("Control+A")
        page.keyboard.type("0, 0, -55")
        page.keyboard.press("Enter")
        self.revision(4)
        self.assertEqual(self.head()["member_loads"][0]["value"], [0, 0, -55])
        page.click("[title='Drop Crane, east with its loads']")
        self.revision(5)
        self.assertEqual(self.head()["member_loads"], [])

    def test_factors_changed_are_marked(self):
        page = self.page
        self.stage("Combinations")
        page.fill("[aria-label='ψ0 of wind']", "0.5")
        page.press("[aria-label='ψ0 of wind']", "Tab")
        self.revision(2)
        row = page.locator("aside.right tr:has-text('wind')")
        expect(row).to_contain_text("changed")
        page.fill("[aria-label='Filter the ledger']", "1.5 S1 + 0.75 W1")
        expect(page.locator(".bottom tbody tr").first).to_contain_text("0.75 W1")
        self.choose("Strength by", "(6.10a) and (6.10b)")
        self.revision(3)
        page.fill("[aria-label='Filter the ledger']", "(6.10b)")
        expect(page.locator(".bottom tbody tr").first).to_contain_text("strength")

    def test_ground_rises_snow_drifts_and_idle_combinations_hide(self):
        page = self.page
        self.stage("Site")
        self.choose("Rising ground to the", "left")
        self.revision(2)
        expect(page.locator("[aria-label='c_o left']")).to_have_attribute("placeholder", "1.257")
        page.click("button:has-text('Add an obstruction')")
        self.revision(3)
        expect(page.locator(".bottom tbody")).to_contain_text("Snow, drifted at obstruction 1")
        self.stage("Combinations")
        page.click(".idle label")
        expect(page.locator(".bottom tbody tr").first).to_contain_text("100 %")
        self.stage("Verification")
        page.keyboard.press("Escape")
        expect(page.locator("aside.right")).to_contain_text("Overturning about the left edge")


def beam_by_hand():
    """A beam of 8 m with a line load over its first half, and a force at 6 m."""
    return read_document(
        {
            "name": "Beam",
            "nodes": [{"name": n, "at": [x, 0, 3]} for n, x in (("a", 0), ("b", 8))],
            "grid": [{"name": "1", "axis": "Y", "at": 0}],
            "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"}],
            "supports": [
                {"node": "a", "fixed": ["x", "y", "z", "rx"]},
                {"node": "b", "fixed": ["y", "z", "rx"]},
            ],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [
                {"case": "Q", "member": "beam", "value": [0, 0, -5], "end": 4},
                {"case": "Q", "member": "beam", "kind": "force", "value": [0, 0, -12], "start": 6},
            ],
        }
    )


class Hands(BrowserCase):
    """Loads chosen in the view, moved by their handles and typed."""

    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, beam_by_hand(), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")
        self.page.click("header nav button:has-text('Actions')")
        self.page.click("[aria-label='Frame on grid 1']")

    def loads(self):
        self.project.refresh_from_db()
        return self.project.head.content["member_loads"]

    def revision(self, number):
        expect(self.page.locator("header .rev")).to_have_text(f"rev {number}")

    def test_chosen_in_the_view_moved_by_a_handle_and_typed(self):
        page, hit = self.page, self.page.locator("main.view path.hit")
        expect(hit).to_have_count(2)
        hit.first.click()
        chosen = page.locator("aside.right .load-list li.on")
        expect(chosen).to_contain_text("0 m – 4 m")
        # what is typed of it comes into sight
        expect(page.locator("aside.right .load-change label.field").last).to_be_in_viewport()
        # its end by the keyboard, by 5 cm; then by the pointer as far as the support, which is near
        hand = page.locator("main.view path.hand")
        expect(hand).to_have_count(2)
        end = page.locator("main.view [aria-label='End of the load']")
        end.focus()
        page.keyboard.press("ArrowRight")
        self.revision(2)
        self.assertEqual((self.loads()[0]["start"], self.loads()[0]["end"]), (0.0, 4.05))
        expect(end).to_have_attribute("aria-valuetext", "4.05 m")
        box = end.bounding_box()
        self.drag(box, 940)
        self.revision(3)
        self.assertEqual(self.loads()[0]["end"], 8.0)
        # typed: its size, and where it begins
        for label, value, number in (("along Z", "-7.5", 4), ("from", "1.5", 5)):
            field = page.locator("aside.right .load-change label.field", has_text=label).locator("input")
            field.fill(value)
            field.press("Enter")
            self.revision(number)
        self.assertEqual((self.loads()[0]["value"], self.loads()[0]["start"]), ([0, 0, -7.5], 1.5))
        field = page.locator("aside.right .load-change label.field", has_text="to").locator("input")
        field.fill("1")
        field.press("Enter")
        expect(page.locator("aside.right .load-change .wrong")).to_contain_text("ends before it begins")

    def test_a_load_on_a_node_and_a_movement_are_chosen_and_typed(self):
        document = beam_by_hand()
        document.node_loads = [NodeLoad(case="Q", node="b", force=(0, 0, -9))]
        document.settlements = [SettlementLoad(case="Q", node="a", movement=(0, 0, -0.004))]
        self.project = revisions.create(self.user, document, "Demo data")
        page = self.page
        page.goto(f"{self.live_server_url}/projects/{self.project.id}")
        page.wait_for_selector("tbody tr")
        page.click("header nav button:has-text('Actions')")
        page.click("[aria-label='Frame on grid 1']")
        page.locator("main.view path.hit", has=page.locator("title:has-text('a node')")).click()
        chosen = page.locator("aside.right .load-list li.on")
        expect(chosen).to_contain_text("force (0, 0, −9)")
        expect(page.locator("aside.right .load-change label.field").last).to_be_in_viewport()
        # what is dragged is none of the loads on members
        expect(page.locator("main.view path.hand")).to_have_count(0)
        for label, value, number in (("along Z", "-12", 2), ("about Y", "3", 3)):
            field = page.locator("aside.right .load-change label.field", has_text=label).locator("input")
            field.fill(value)
            field.press("Enter")
            self.revision(number)
        self.project.refresh_from_db()
        load = self.project.head.content["node_loads"][0]
        self.assertEqual((load["force"], load["moment"]), ([0, 0, -12], [0, 3, 0]))
        page.locator("aside.right .load-list li", has_text="moved").locator("button").first.click()
        field = page.locator("aside.right .load-change label.field", has_text="along Z").locator("input")
        expect(field).to_have_value("-4")
        field.fill("-6")
        field.press("Enter")
        self.revision(4)
        self.project.refresh_from_db()
        self.assertEqual(self.project.head.content["settlements"][0]["movement"], [0, 0, -0.006])

    def drag(self, box, to):
        """Something from its middle to an abscissa."""
        page, y = self.page, box["y"] + box["height"] / 2
        page.mouse.move(box["x"] + box["width"] / 2, y)
        page.mouse.down()
        page.mouse.move((box["x"] + to) / 2, y, steps=4)
        page.mouse.move(to, y, steps=4)
        page.mouse.up()

    def test_a_force_is_dragged_and_undone(self):
        page = self.page
        hits, hand = page.locator("main.view path.hit"), page.locator("main.view path.hand")
        hits.first.click()
        expect(hand).to_have_count(2)
        # where 4 m are
        middle = page.locator("main.view [aria-label='End of the load']").bounding_box()
        hits.last.click()
        expect(page.locator("aside.right .load-list li.on")).to_contain_text("at 6 m")
        expect(hand).to_have_count(1)
        self.drag(hand.bounding_box(), middle["x"] + middle["width"] / 2)
        self.revision(2)
        self.assertEqual(self.loads()[1]["start"], 4.0)
        page.keyboard.press("Control+z")
        self.revision(1)
        self.assertEqual(self.loads()[1]["start"], 6.0)
        # a line load as a whole, as far as the end of its beam
        hits.first.click()
        expect(hand).to_have_count(2)
        self.drag(hits.first.bounding_box(), 940)
        expect(page.locator("aside.right .load-list li.on")).to_contain_text("4 m – 8 m")


def deck():
    """A drawn floor of 6 × 4 m on four beams, with a fifth across its middle."""
    places = {"a": (0, 0), "b": (6, 0), "c": (6, 4), "d": (0, 4), "e": (3, 0), "f": (3, 4)}
    lines = {"south": "ab", "east": "bc", "north": "dc", "west": "ad", "middle": "ef"}
    return read_document(
        {
            "name": "Deck",
            "nodes": [{"name": n, "at": [x, y, 3]} for n, (x, y) in places.items()],
            "members": [
                {"name": m, "start": a, "end": b, "section": "IPE 300", "role": "main beam"}
                for m, (a, b) in lines.items()
            ],
            "supports": [{"node": n, "fixed": ["x", "y", "z"]} for n in "abcd"],
            "panels": [{"name": "floor", "corners": list("abcd"), "imposed": 2.0}],
        }
    )


class Bearing(BrowserCase):
    """What bears a drawn panel, and which way it spans, changed where it is seen."""

    def test_a_beam_is_left_out_and_the_panel_turned(self):
        project = revisions.create(self.user, deck(), "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.click("header nav button:has-text('Actions')")
        page.click("nav.parts >> text=Surfaces")
        page.click("li button:has-text('floor')")
        bearers = page.locator(".panel .bearer:not(.not)")
        expect(bearers).to_have_count(5)
        page.click(".panel [aria-label='middle bears it']", force=True)
        page.click(".panel footer >> text=leave it out")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(page.locator(".panel footer")).to_contain_text("1 left out")
        expect(bearers).to_have_count(4)

        def takes():
            """m² by the beams, from the loads of the chain."""
            project.refresh_from_db()
            chain = run(read_document(project.head.content))
            own = next(p for p in chain.structure.panels if p.name == "floor")
            return {
                m: round(sum(Polygon(p).area for p in parts), 6) for m, parts in areas(own, chain.structure).items()
            }

        # the longest are the south and north ones: it spans from one to the other, half of 24 m² on each
        self.assertEqual({m: a for m, a in takes().items() if a}, {"south": 12.0, "north": 12.0})
        page.locator(".panel [aria-label='floor spans this way: turn it']").press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 3")
        self.assertEqual({m: a for m, a in takes().items() if a}, {"east": 12.0, "west": 12.0})
        expect(page.locator("header nav .link.behind, header nav .link.refreshing")).to_have_count(0, timeout=90_000)
        page.locator(".panel .bearer.not").press("Enter")
        page.click(".panel footer >> text=let it bear")
        expect(page.locator("header .rev")).to_have_text("rev 4")
        expect(bearers).to_have_count(5)
        self.assertEqual(takes()["middle"], 12.0)
