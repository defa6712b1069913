"""Loads by hand, seen and taken hold of: over runs, on panels, on nodes, in three dimensions, and several at once."""

from __future__ import annotations

from math import dist

from playwright.sync_api import expect

from engine.chain import run
from engine.document import read_document
from engine.document.base import Slab
from server.projects import revisions
from tests.browser.case import BrowserCase

LEVEL = {"a": (0, 0), "b": (6, 0), "c": (6, 4), "d": (0, 4)}
BEAMS = {"south": "ab", "east": "bc", "north": "dc", "west": "ad"}


def table():
    """A floor of 6 × 4 m on four columns of 3 m, with loads of every kind in one case."""
    corner = {"kind": "line", "case": "Q"}
    return read_document(
        {
            "name": "Table",
            "nodes": [{"name": n, "at": [x, y, 3]} for n, (x, y) in LEVEL.items()]
            + [{"name": f"{n}0", "at": [x, y, 0]} for n, (x, y) in LEVEL.items()],
            "grid": [{"name": "1", "axis": "Y", "at": 0}],
            "members": [
                {"name": m, "start": a, "end": b, "section": "IPE 300", "role": "main beam"}
                for m, (a, b) in BEAMS.items()
            ]
            + [
                {"name": f"column {n}", "start": f"{n}0", "end": n, "section": "HEA 200", "role": "column"}
                for n in LEVEL
            ],
            "supports": [{"node": f"{n}0", "fixed": ["x", "y", "z"]} for n in LEVEL],
            "panels": [{"name": "floor", "corners": list("abcd")}],
            "cases": [{"name": "Q", "nature": "imposed", "category": "E"}, {"name": "R", "nature": "imposed"}],
            "member_loads": [
                {**corner, "member": "column a", "run": ["south"], "value": [2, 0, -4], "start": 1.0, "end": 5.0},
                {**corner, "member": "north", "value": [0, 0, -5], "start": 1.0, "end": 4.0},
                {"case": "Q", "member": "south", "kind": "force", "value": [0, 0, -12], "start": 5.0},
            ],
            "node_loads": [{"case": "Q", "node": "a", "force": [0, 0, -9]}],
            "panel_loads": [
                {
                    "case": "Q",
                    "panel": "floor",
                    "pressure": 3.0,
                    "axes": "down",
                    "part": [[1, 1], [3, 1], [3, 3], [1, 3]],
                },
                {"case": "R", "panel": "floor", "pressure": 1.0, "axes": "down"},
            ],
        }
    )


class Loads(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, table(), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")
        self.page.click("header nav button:has-text('Actions')")
        self.page.click("nav.parts >> text=By hand")

    def content(self):
        self.project.refresh_from_db()
        return self.project.head.content

    def revision(self, number):
        expect(self.page.locator("header .rev")).to_have_text(f"rev {number}")

    def row(self, words):
        return self.page.locator("aside.right .load-list li", has_text=words)

    def look(self, words, *modifiers):
        self.row(words).locator("button").first.click(modifiers=list(modifiers))

    def middle(self, locator):
        box = locator.bounding_box()
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def drag(self, start, end):
        mouse = self.page.mouse
        mouse.move(*start)
        mouse.down()
        mouse.move((start[0] + end[0]) / 2, (start[1] + end[1]) / 2, steps=4)
        mouse.move(*end, steps=4)
        mouse.up()

    def test_over_a_run_round_its_corner_and_from_node_to_node(self):
        page = self.page
        page.click("[aria-label='Frame on grid 1']")
        self.look("column a + 1")
        end, start = (page.locator(f"main.view [aria-label='{which} of the load']") for which in ("End", "Start"))
        expect(end).to_have_attribute("aria-valuetext", "5.00 m")
        # its end stands 2 m along the beam, its start 1 m above the foot; both counted along the two
        foot, beam = self.middle(start), self.middle(end)
        metre = (beam[0] - foot[0]) / 2
        self.drag(beam, (beam[0] + 2 * metre, beam[1]))
        self.revision(2)
        self.assertEqual(self.content()["member_loads"][0]["end"], 7.0)
        # the start is brought round the corner
        self.drag(self.middle(start), (beam[0] - metre, beam[1]))
        self.revision(3)
        self.assertEqual(self.content()["member_loads"][0]["start"], 4.0, self.content()["member_loads"][0])
        # counted from the other end of both: 9 m less
        self.row("column a + 1").locator("button:has-text('mirror')").click()
        self.revision(4)
        load = self.content()["member_loads"][0]
        self.assertEqual((load["start"], load["end"]), (2.0, 5.0))
        self.look("force (0, 0, −9)")
        # the arrow is drawn anew after each edit: what is not there yet cannot be taken up
        expect(page.locator("header nav .link.behind, header nav .link.refreshing")).to_have_count(0)
        expect(page.locator("main.view path.hit", has=page.locator("title:has-text('a node')"))).to_have_count(1)
        ring = page.locator("main.view circle.along")
        self.drag(self.middle(ring), (beam[0] + 4 * metre, beam[1] + 5))
        self.revision(5)
        self.assertEqual(self.content()["node_loads"][0]["node"], "b")

    def test_several_at_once(self):
        page = self.page
        self.look("north")
        self.look("at 5 m", "Shift")
        self.look("force (0, 0, −9)", "Shift")
        self.look("3 kN/m²", "Shift")
        together = page.locator("aside.right .together")
        expect(together).to_contain_text("4 loads chosen")
        factor = together.locator("label", has_text="all times").locator("input")
        factor.fill("1.5")
        factor.press("Enter")
        self.revision(2)
        found = self.content()
        self.assertEqual([load["value"][2] for load in found["member_loads"]], [-4, -7.5, -18])
        self.assertEqual((found["node_loads"][0]["force"][2], found["panel_loads"][0]["pressure"]), (-13.5, 4.5))
        # what is chosen already is left
        self.look("4.5 kN/m²", "Shift")
        expect(together).to_contain_text("3 loads chosen")
        self.offered(together.locator("[role=combobox]"), "R").click()
        self.revision(3)
        found = self.content()
        self.assertEqual([load["case"] for load in found["member_loads"]], ["Q", "R", "R"])
        together.locator("button:has-text('Delete')").click()
        self.revision(4)
        found = self.content()
        self.assertEqual((len(found["member_loads"]), len(found["node_loads"]), len(found["panel_loads"])), (1, 0, 2))
        page.keyboard.press("Control+z")
        self.revision(3)
        self.assertEqual(len(self.content()["member_loads"]), 3)

    def test_a_pressure_is_chosen_on_its_panel_and_dragged(self):
        page = self.page
        self.look("3 kN/m²")
        corners = page.locator(".panel .corner")
        expect(corners).to_have_count(4)
        expect(page.locator(".panel text", has_text="2.00 × 2.00 m · 4.0 m²")).to_be_visible()
        places = sorted(self.middle(corners.nth(k)) for k in range(4))
        metre = (places[-1][0] - places[0][0]) / 2
        # the corner at the right and the top, half a metre outwards and by as much upwards
        top = min(places[2:], key=lambda p: p[1])
        self.drag(top, (top[0] + metre / 2, top[1] - metre / 2))
        self.revision(2)
        part = self.content()["panel_loads"][0]["part"]
        self.assertEqual(sorted(map(tuple, part)), [(1, 1), (1, 3.5), (3.5, 1), (3.5, 3.5)])
        # all of it, as far as the right edge
        inside = (places[0][0] + metre, places[0][1] - metre if places[0][1] > places[1][1] else places[0][1] + metre)
        self.drag(inside, (inside[0] + 9 * metre, inside[1]))
        self.revision(3)
        part = self.content()["panel_loads"][0]["part"]
        self.assertEqual(sorted({x for x, _ in part}), [3.5, 6.0])
        corners.first.focus()
        page.keyboard.press("ArrowLeft")
        self.revision(4)
        self.assertEqual(sorted({x for x, _ in self.content()["panel_loads"][0]["part"]}), [3.45, 6.0])
        # its size where it is typed; one on all of the panel gets a part by its corners
        field = page.locator("aside.right .load-change label.field", has_text="pressure").locator("input")
        field.fill("2.5")
        field.press("Enter")
        self.revision(5)
        self.look("1 kN/m²")
        expect(page.locator(".panel text", has_text="6.00 × 4.00 m · 24.0 m²")).to_be_visible()
        page.click(".panel .all", position={"x": 30, "y": 30})
        expect(self.row("1 kN/m²")).to_have_class("on")

    def test_in_three_dimensions(self):
        page = self.page
        page.click("text=whole · 3D")
        page.wait_for_selector("canvas")
        self.look("at 5 m")
        figure = page.locator(".figure", has_text="12.0 kN")
        self.look("north")
        expect(figure).to_be_visible()
        x, y = self.middle(figure)
        page.mouse.click(x, y)
        expect(self.row("at 5 m")).to_have_class("on")
        x, y = self.middle(page.locator(".figure", has_text="9.0 kN"))
        page.keyboard.down("Shift")
        page.mouse.click(x, y)
        page.keyboard.up("Shift")
        expect(page.locator("aside.right .together")).to_contain_text("2 loads chosen")
        # the band of a line load, a little below its head
        x, y = self.middle(page.locator(".figure", has_text="5.00"))
        page.mouse.click(x, y + 9)
        expect(self.row("north")).to_have_class("on")
        # its end is dragged towards its start, and stays where it was put, as far along as it is seen there
        end = page.get_by_role("slider", name="End of the load")
        a, b = self.middle(page.get_by_role("slider", name="Start of the load")), self.middle(end)
        there = (0.4 * a[0] + 0.6 * b[0], 0.4 * a[1] + 0.6 * b[1])
        self.drag(b, there)
        self.revision(2)
        load = self.content()["member_loads"][1]
        self.assertEqual(load["start"], 1.0)
        self.assertTrue(2.4 < load["end"] < 3.3, load)
        x, y = self.middle(end)
        self.assertLess(abs(x - there[0]) + abs(y - there[1]), 12)
        # both keep their distance where the whole is dragged
        self.drag(((a[0] + x) / 2, (a[1] + y) / 2), ((a[0] + 3 * x) / 4, (a[1] + 3 * y) / 4))
        self.revision(3)
        moved = self.content()["member_loads"][1]
        self.assertGreater(moved["start"], 1.1)
        self.assertAlmostEqual(moved["end"] - moved["start"], load["end"] - load["start"], places=3)
        page.keyboard.press("Control+z")
        self.revision(2)

    def test_on_nodes_and_slabs_in_three_dimensions(self):
        document = table()
        document.panels[0].diaphragm = "slab"
        document.panels[0].slab = Slab(thickness=0.16, material="C25/30")
        self.project = revisions.create(self.user, document, "Demo data")
        page = self.page
        page.goto(f"{self.live_server_url}/projects/{self.project.id}")
        page.wait_for_selector("tbody tr")
        page.click("header nav button:has-text('Actions')")
        page.click("nav.parts >> text=By hand")
        page.click("text=whole · 3D")
        page.wait_for_selector("canvas")
        self.look("north")
        # what acts on a node is carried to the node nearest to where it is let go: below the force near the other end of "south"
        force = self.middle(page.locator(".figure", has_text="12.0 kN"))
        self.look("moment (0, 0, 0)")
        ring = page.locator("circle.along")
        expect(ring).to_be_visible()
        self.drag(self.middle(ring), (force[0] + 20, force[1] + 40))
        self.revision(2)
        self.assertEqual([load["node"] for load in self.content()["node_loads"]], ["b"])
        # a pressure on a part of the slab: the corner (3, 3) is drawn away from (1, 1) by a quarter of what lies between
        page.mouse.click(*self.middle(page.locator(".figure", has_text="3.00")))
        corners = page.locator(".over .corner")
        expect(corners).to_have_count(4)
        near, far = self.middle(corners.nth(0)), self.middle(corners.nth(2))
        there = (far[0] + (far[0] - near[0]) / 4, far[1] + (far[1] - near[1]) / 4)
        self.drag(far, there)
        self.revision(3)
        part = self.content()["panel_loads"][0]["part"]
        self.assertEqual(part[0], [1.0, 1.0])
        # farther away a metre is fewer pixels
        self.assertTrue(all(3.45 < x < 3.8 for x in part[2]), part)
        found = self.middle(corners.nth(2))
        self.assertLess(abs(found[0] - there[0]) + abs(found[1] - there[1]), 12)
        page.screenshot(path="/tmp/w/n3.png")
        # all of it by its edge
        a, b = self.middle(corners.nth(0)), self.middle(corners.nth(1))
        self.drag(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), (b[0], b[1]))
        self.revision(4)
        moved = self.content()["panel_loads"][0]["part"]
        self.assertGreater(moved[0][0], 1.5)
        self.assertAlmostEqual(moved[2][0] - moved[0][0], part[2][0] - part[0][0], places=3)
        page.keyboard.press("Control+z")
        self.revision(3)

    def test_along_a_line_and_at_a_point_of_a_slab(self):
        document = table()
        document.panels[0].diaphragm = "slab"
        document.panels[0].slab = Slab(thickness=0.16, material="C25/30")
        self.project = revisions.create(self.user, document, "Demo data")
        page = self.page
        page.goto(f"{self.live_server_url}/projects/{self.project.id}")
        page.wait_for_selector("tbody tr")
        page.click("header nav button:has-text('Actions')")
        page.click("nav.parts >> text=By hand")
        self.look("3 kN/m²")
        page.wait_for_selector(".panel .corner")

        def choose(label, option):
            self.offered(page.locator(f"[role=combobox][aria-label='{label}']"), option).click()

        choose("Case of the load", "R")
        choose("What bears the load", "a panel, or a part of it")
        choose("What of the slab it lies on", "a line")
        page.fill("[aria-label='Size of the load']", "6")
        page.click("button:has-text('Put the load')")
        expect(page.locator("aside.right [role=alert]")).to_contain_text("A line is four numbers")
        page.fill("[aria-label='Part of the panel']", "1 1 5 1")
        page.click("button:has-text('Put the load')")
        self.revision(2)
        choose("What of the slab it lies on", "a point")
        page.fill("[aria-label='Part of the panel']", "3 2.5")
        page.fill("[aria-label='Size of the load']", "25")
        page.press("[aria-label='Size of the load']", "Enter")
        self.revision(3)
        kinds = [(load["kind"], load["pressure"], len(load["part"])) for load in self.content()["panel_loads"][2:]]
        self.assertEqual(kinds, [("line", 6, 2), ("point", 25, 1)])
        # pointed at, and dragged by its end
        page.locator(".panel .zone.narrow", has=page.locator("title:has-text('6.00 kN/m')")).click(force=True)
        expect(self.row("along a line")).to_have_class("on")
        ends = page.locator(".panel .corner")
        expect(ends).to_have_count(2)
        left, right = sorted(self.middle(ends.nth(k)) for k in range(2))
        metre = (right[0] - left[0]) / 4
        self.drag(right, (right[0], right[1] - 2 * metre))
        self.revision(4)
        part = self.content()["panel_loads"][2]["part"]
        self.assertAlmostEqual(dist(*part), 20**0.5, places=4)
        # what acts on the columns is what was put there: 1 kN/m² on 24 m², 6 kN/m and 25 kN
        page.click("button:has-text('Back to the building')")
        chain = run(read_document(self.content()))
        number = next(i for i, c in enumerate(chain.loading.cases) if c.name == "R")
        up = chain.response.reaction[:, 2, number].sum() / 1000
        self.assertAlmostEqual(up, 24 + 6 * 20**0.5 + 25, places=3)
