"""The frame stage in the browser: a whole hall from nothing, trusses along a grid, a tower by hand, snags, tables."""

from playwright.sync_api import expect

from engine.document import read_document
from engine.expand import expand
from engine.structure.audit import audit
from server.projects.models import Project
from tests.browser.case import BrowserCase
from tests.browser.test_accessible import serious


class FrameCase(BrowserCase):
    def start_empty(self):
        self.sign_in()
        self.page.fill("[aria-label='Name of the new project']", "From nothing")
        self.page.click(".template:has-text('Empty')")
        self.page.wait_for_selector("header .rev")
        # nothing here looks at snow or wind: without them there are few combinations
        head = Project.objects.get().head
        head.content["site"] |= {"ground_snow": 0.0, "wind_speed": 0.0}
        head.save()
        self.page.reload()
        self.page.wait_for_selector("header .rev")
        self.page.click("header nav button:has-text('Frame')")

    def part(self, name):
        self.page.click(f"nav[aria-label='Parts of the frame sheet'] button:has-text('{name}')")

    def settled(self, revision):
        """Wait until a revision stands and the chain belongs to it."""
        expect(self.page.locator("header .rev")).to_have_text(f"rev {revision}")
        expect(self.page.locator("header nav .link.behind, header nav .link.refreshing")).to_have_count(
            0, timeout=90_000
        )

    def put(self, label, value):
        field = self.field(label)
        field.fill(value)
        field.press("Enter")

    def document(self):
        return read_document(Project.objects.get().head.content)

    def structure(self):
        return expand(self.document())


class WholeHall(FrameCase):
    def test_from_nothing_to_edits_that_outlive_the_jig(self):
        page = self.page
        self.start_empty()
        self.part("Hall")
        page.click("button:has-text('Set out a hall')")
        self.settled(2)
        page.click("text=+ bay on the right")
        self.settled(3)
        page.click(".el-collapse-item__header:has-text('Haunches')")
        page.click("label.toggle:has-text('Eaves haunch')")
        self.settled(4)
        page.click(".el-collapse-item__header:has-text('End frames')")
        self.choose("Front gable", "posts and simple rafters")
        self.settled(5)
        page.click(".el-collapse-item__header:has-text('Bracing')")
        page.locator("label.field:has-text('In bays')").nth(1).locator("input").fill("1, 4, -1")
        page.locator("label.field:has-text('In bays')").nth(1).locator("input").press("Enter")
        self.settled(6)
        self.part("Jigs")
        page.click("button:has-text('Floor')")
        self.settled(7)
        structure = self.structure()
        self.assertEqual(audit(structure), [])
        self.assertTrue(structure.member("frame-3/rafter-BC-left").pieces)
        self.assertIn("front/post-1", structure.index)
        self.assertIn("bay-4/wall-brace-B-up", structure.index)
        self.assertTrue(any(p.kind == "floor" for p in structure.panels))

        # by hand: another section for one rafter, a brace taken out
        page.click("[aria-label='Frame on grid 7']")
        page.click("path.grip[aria-label^='Rafter 7·BC-L']")
        self.part("Choose")
        page.fill("[aria-label='New section']", "IPE 450")
        page.click("button:has-text('Change 1')")
        self.settled(8)
        page.click("[aria-label='Row on grid A']")
        # the other brace of the cross lies over its middle: by keyboard
        page.locator("path.grip[aria-label^='Wall brace 4·A up']").focus()
        page.keyboard.press("Enter")
        page.click("button:has-text('Remove')")
        self.settled(9)

        # other spacings: the edits are still there
        self.part("Hall")
        self.put("Bay spacings", "3*5.5 + 4*6.2")
        self.settled(10)
        after = self.structure()
        self.assertEqual(after.member("frame-7/rafter-BC-left").section.name, "IPE 450")
        self.assertNotIn("bay-4/wall-brace-A-up", after.index)
        self.assertEqual(after.orphans, ())
        # fewer frames than the edit needs: it is listed, and comes back
        self.put("Bay spacings", "4*6")
        self.settled(11)
        self.part("Snags")
        expect(page.locator("aside.right")).to_contain_text("frame-7/rafter-BC-left")
        expect(page.locator("aside.right")).to_contain_text("section IPE 450")
        page.keyboard.press("Control+z")
        self.settled(10)
        self.assertEqual(self.structure().member("frame-7/rafter-BC-left").section.name, "IPE 450")

    def test_a_haunch_too_long_is_refused_where_it_is_typed(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        page.click(".el-collapse-item__header:has-text('Haunches')")
        page.click("label.toggle:has-text('Eaves haunch')")
        self.settled(2)
        self.put("Length along the rafter", "15")
        expect(page.locator("label.field:has-text('Length along the rafter') [role=alert]")).to_contain_text(
            "longer than the rafter"
        )
        self.assertEqual(Project.objects.get().head.number, 2)


class Trusses(FrameCase):
    def test_a_pratt_truss_on_two_columns_along_a_grid(self):
        page = self.page
        self.start_empty()
        self.part("By hand")
        self.choose("Axis of the grid lines", "Y, numbered")
        page.fill("[aria-label='Spacings of the grid lines']", "4*5")
        page.click("button:has-text('Add grid lines')")
        self.settled(2)
        self.part("Jigs")
        page.click("button:has-text('Truss')")
        self.settled(3)
        page.locator("label.field:has-text('Repeated') input").fill("5")
        page.locator("label.field:has-text('Repeated') input").press("Enter")
        self.settled(4)
        self.put("Step (x, y, z)", "0, 5, 0")
        self.settled(5)
        structure = self.structure()
        self.assertEqual(sum(m.role == "column" for m in structure.members), 10)
        self.assertEqual({round(float(y), 6) for y in structure.xyz[:, 1]}, {g.at for g in structure.grid})
        page.click("[aria-label='Frame on grid 3']")
        expect(page.locator(".caption b")).to_have_text("Frame on grid 3 · elevation")
        expect(page.locator("path.grip[aria-label^='Web']").first).to_be_attached()


class ByHand(FrameCase):
    def type_point(self, text):
        self.page.fill("[aria-label='Typed point']", text)
        self.page.press("[aria-label='Typed point']", "Enter")

    def test_a_tower_with_turned_columns_and_angle_bracing(self):
        page = self.page
        self.start_empty()
        self.part("By hand")
        page.fill("[aria-label='Section to draw']", "HEA 160")
        page.click("button:has-text('Draw members')")
        self.type_point("0, 0, 0")
        self.type_point("@ 0, 0, 4")
        page.click("button:has-text('Make 1')")
        self.settled(2)
        page.click("button:has-text('Stop')")
        # its foot held, then turned about the tower's middle: columns and supports on four corners
        page.locator("tbody tr").first.click()
        self.part("Choose")
        page.click("ul.kinds >> text=member")
        self.part("By hand")
        page.click(".holds >> text=fixed")
        self.settled(3)
        page.fill("[aria-label='Turn by']", "90")
        page.fill("[aria-label='Turn about']", "1.5, 1.5, 0")
        page.fill("[aria-label='Times']", "3")
        page.click("button:has-text('Turn copies')")
        self.settled(4)
        structure = self.structure()
        self.assertEqual(len(structure.members), 4)
        self.assertEqual(sorted(round(degrees_of(m.roll)) % 360 for m in structure.members), [0, 90, 180, 270])
        page.click("button:has-text('Choose')")
        page.click("ul.kinds >> text=member")
        self.part("By hand")
        page.click(".holds >> text=fixed")
        self.settled(5)
        # angle bracing on two faces by a jig between nodes
        self.part("Jigs")
        page.click("button:has-text('Bracing')")
        self.settled(6)
        self.put("Corner 2", "3, 0, 0")
        self.settled(7)
        self.put("Corner 3", "3, 0, 4")
        self.settled(8)
        self.put("Section", "L 60x6")
        self.settled(9)
        structure = self.structure()
        self.assertEqual(structure.member("bracing-1/1-1-up").section.name, "L 60x6")
        self.assertEqual([s.kind for s in audit(structure)], [])

    def test_pointing_draws_between_nodes_of_the_plane(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        self.part("By hand")
        page.click("button:has-text('Draw members')")
        columns = page.locator("path.grip[aria-label^='Column']")
        tops = [columns.nth(i).bounding_box() for i in range(2)]
        for box in tops:
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 1)
            page.mouse.click(box["x"] + box["width"] / 2, box["y"] + 1)
        page.keyboard.press("Enter")
        self.settled(2)
        member = self.document().members[0]
        self.assertEqual({member.start.split("/")[1], member.end.split("/")[1]}, {"eaves-A", "eaves-B"})

    def test_a_window_chooses_what_it_encloses(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        self.part("Choose")
        view = page.locator("main.view").bounding_box()
        page.mouse.move(view["x"] + 40, view["y"] + 150)
        page.mouse.down()
        page.mouse.move(view["x"] + view["width"] - 30, view["y"] + view["height"] - 60, steps=4)
        page.mouse.up()
        expect(page.locator("h4:has-text('Chosen') span")).to_have_text("4 of 56")

    def test_feet_stand_on_pads_and_what_acts_under_them_is_told(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        page.locator("ul button.name", has_text="Columns").click()
        self.part("By hand")
        page.fill("[aria-label='Sides and depth of the pads']", "2")
        page.get_by_role("button", name="Stand on pads").click()
        expect(page.locator("aside.right")).to_contain_text("“2” is no pad")
        page.fill("[aria-label='Sides and depth of the pads']", "2 × 2.5 × 0.6")
        page.get_by_role("button", name="Stand on pads").click()
        self.settled(2)
        expect(page.locator("main.view path.pad")).to_have_count(1)
        page.click("header nav button:has-text('Response')")
        page.get_by_role("tab", name="Footings").click()
        row = page.locator("tbody tr")
        expect(row).to_have_count(1)
        expect(row).to_contain_text("2 × 2.5 × 0.6 m")
        # 25 · 2 · 2.5 · 0.6
        expect(row).to_contain_text("75.0")
        # another depth, written in the table of supports
        page.click("header nav button:has-text('Frame')")
        page.get_by_role("tab", name="Supports").click()
        cell = page.locator("tbody tr", has_text="2 × 2.5 × 0.6").locator("td").nth(6)
        cell.dblclick()
        page.keyboard.type("2 × 2.5 × 1")
        page.keyboard.press("Enter")
        self.settled(3)
        footing = Project.objects.get().head.content["supports"][0]["footing"]
        self.assertEqual((footing["depth"], footing["subgrade"]), (1.0, 20000.0))


class Tables(FrameCase):
    def test_cells_are_written_pasted_and_refused_with_a_reason(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        page.click("[role=tab]:has-text('Steelwork')")
        page.fill("[aria-label='Filter the ledger']", "rafter 4")
        cell = page.locator("tbody tr").first.locator("td").nth(2)
        cell.dblclick()
        page.keyboard.type("IPE 400")
        page.keyboard.press("Enter")
        self.settled(2)
        expect(page.locator("tbody tr").first.locator("td").nth(2)).to_have_text("IPE 400")
        page.locator("tbody tr").first.locator("td").nth(2).dblclick()
        page.keyboard.type("IPE 4000")
        page.keyboard.press("Enter")
        expect(page.locator("section[aria-label=Ledger] [role=alert]")).to_contain_text("no section “IPE 4000”")
        page.locator("tbody tr").first.locator("td").nth(2).click()
        page.evaluate(
            """() => {
                const data = new DataTransfer()
                data.setData('text', 'IPE 450\\tS275\\nIPE 500\\tS275')
                document.querySelector('.scroll').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
            }"""
        )
        self.settled(3)
        edits = {e.member: (e.section, e.material) for e in self.document().edits}
        self.assertEqual(sorted(edits.values()), [("IPE 450", "S275"), ("IPE 500", "S275")])

    def test_versions_are_named_and_compared(self):
        page = self.page
        self.start_hall()
        page.click("header nav button:has-text('Frame')")
        self.part("Versions")
        page.fill("[aria-label='Name of this version']", "tender")
        page.click("button:has-text('Keep')")
        expect(page.locator("aside.right li").first).to_contain_text("tender")
        self.part("Hall")
        self.put("Bay spacings", "8*6")
        self.settled(2)
        self.part("Versions")
        page.click("aside.right li:has-text('tender') >> text=compare")
        expect(page.locator("aside.right .pairs")).to_contain_text("Tonnage before")
        expect(page.locator("aside.right")).to_contain_text("frame-6/column-A")
        # and as they were computed
        beside = page.locator("aside.right .compared")
        expect(beside).to_contain_text("Largest utilisation")
        expect(beside.locator("table", has_text="Inputs")).to_contain_text("hall · spacings")
        expect(beside.locator("table", has_text="Verdicts of members")).to_contain_text("not there")
        expect(beside.locator("table", has_text="Reactions")).to_contain_text("frame-6/base-A")
        self.assertEqual(serious(page), [])


def degrees_of(angle):
    """Degrees of an angle in radians."""
    return angle * 180 / 3.141592653589793


class BuiltUp(BrowserCase):
    def test_a_laced_section_begins_with_chords_that_make_one(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        page.locator("aside.right nav.parts button", has_text="Steel").click()
        page.get_by_label("Name of the built-up section").fill("K1")
        self.pick_option(page.locator("aside.right .form").get_by_role("combobox").first, "laced")
        expect(page.get_by_label("h of the built-up section")).to_have_value("350")
        page.get_by_role("button", name="Add to this project").first.click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(page.locator("aside.right")).to_contain_text("laced, UPE 200 at 350 mm")
