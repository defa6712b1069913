"""Files of others at the page: what they become is told and settled before anything is made."""

from playwright.sync_api import expect

from server.projects.models import Project
from tests.browser.case import BrowserCase
from tests.engine.test_dxf_in import portal, written
from tests.engine.test_tables_in import BEAM, BEAMS, book


class TakingIn(BrowserCase):
    def test_a_drawing_is_settled_layer_by_layer(self):
        self.sign_in()
        page = self.page
        document, space = portal()
        space.add_line((0, 2000), (6000, 2000), {"layer": "old things"})
        chosen = {"name": "kiln.dxf", "mimeType": "image/vnd.dxf", "buffer": written(document)}
        page.set_input_files("input[type=file]", chosen)
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("4 lines for members, with 6 nodes.")).to_be_visible()
        expect(dialog.get_by_text("Layer old things is taken for main beams, by how its lines run")).to_be_visible()
        # two at once: none is lost
        self.choose("old things: Becomes", "Leave out")
        self.choose("Roof beam IPE300: Section", "IPE 360")
        expect(dialog.get_by_text("3 lines for members, with 4 nodes.")).to_be_visible()
        expect(dialog.get_by_text("2 choices are set")).to_be_visible()
        dialog.get_by_role("button", name="Import", exact=True).click()
        page.wait_for_selector("tbody tr")
        document = Project.objects.get().head.content
        self.assertEqual({m["section"] for m in document["members"]}, {"HEB 200", "IPE 360"})
        # another drawing with the same layers begins where this one ended
        page.goto(self.live_server_url)
        page.set_input_files("input[type=file]", {**chosen, "name": "kiln 2.dxf"})
        expect(dialog.get_by_text("3 lines for members, with 4 nodes.")).to_be_visible()
        dialog.get_by_role("button", name="Guess anew").click()
        expect(dialog.get_by_text("4 lines for members, with 6 nodes.")).to_be_visible()

    def test_a_table_says_what_is_wrong_by_its_cell(self):
        self.sign_in()
        page = self.page
        heights = [["Node no.", "X (mm)", "Y (mm)", "Up (mm)"], [1, 0, 0, 0], [2, 6000, 0, 0]]
        page.set_input_files("input[type=file]", {"name": "a.docx", "mimeType": "x", "buffer": b"Dear Sir"})
        expect(page.get_by_role("alert")).to_contain_text(
            "a.docx was not taken in. The file is none that can be taken in; IFC4, DXF"
        )
        sheets = BEAM | {"Nodes": heights, "Beams": [*BEAMS, ["B2", 2, 1, "IPE 301", "S275"]]}
        page.set_input_files("input[type=file]", {"name": "a.xlsx", "mimeType": "x", "buffer": book(**sheets)})
        dialog = page.get_by_role("dialog")
        wrong = dialog.get_by_role("alert")
        expect(wrong).to_contain_text("Nodes: no column is Z.")
        expect(wrong).to_contain_text("Beams, D3: there is no section “IPE 301”")
        expect(dialog.get_by_role("button", name="Import", exact=True)).to_be_disabled()
        self.choose("Nodes: Up [mm]", "Z")
        expect(wrong).not_to_contain_text("no column is Z")
        self.choose("Beams: Holds", "Leave out")
        expect(wrong).to_contain_text("No sheet holds members")
        self.assertEqual(Project.objects.count(), 0)

    def test_members_of_a_drawing_come_into_a_project_that_stands(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        page.locator("aside.right nav.parts button", has_text="By hand").click()
        page.locator("aside.right input[type=file]").set_input_files(
            {"name": "annexe.dxf", "mimeType": "image/vnd.dxf", "buffer": written(portal()[0])}
        )
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("3 lines for members, with 4 nodes.")).to_be_visible()
        # the left column's foot on the base of the hall's first column on the right
        for axis, value in (("X", "24"), ("Y", "0")):
            dialog.get_by_label(f"{axis} of the origin").fill(value)
            dialog.get_by_label(f"{axis} of the origin").press("Tab")
        self.choose("Feet of columns", "pinned")
        expect(dialog.get_by_text("2 feet are pinned")).to_be_visible()
        dialog.get_by_role("button", name="Import", exact=True).click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(dialog).to_be_hidden()
        document = Project.objects.get().head.content
        self.assertEqual([m["name"] for m in document["members"]], ["Column 1", "Main beam 1", "Column 2"])
        self.assertEqual(document["members"][0]["start"], "frame-1/base-B")
        # what the hall holds stays as it is; the new foot is pinned
        self.assertEqual([s["fixed"] for s in document["supports"]], [["x", "y", "z"]])
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 1")
        self.assertEqual(Project.objects.get().head.content["members"], [])

    def test_loads_of_a_table_come_along_where_they_are_asked_for(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        page.locator("aside.right nav.parts button", has_text="By hand").click()
        page.locator("aside.right input[type=file]").set_input_files(
            {"name": "annexe.xlsx", "mimeType": "x", "buffer": book(**BEAM)}
        )
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("X of the origin").fill("40")
        dialog.get_by_label("X of the origin").press("Tab")
        dialog.locator(".el-checkbox", has_text="With its cases and loads").click()
        dialog.get_by_role("button", name="Import", exact=True).click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        document = Project.objects.get().head.content
        self.assertEqual([(c["name"], c["nature"]) for c in document["cases"]], [("Q", "imposed")])
        self.assertEqual([(x["member"], x["value"]) for x in document["member_loads"]], [("B1", [0, 0, -10])])
        self.assertEqual(len(document["supports"]), 2)
