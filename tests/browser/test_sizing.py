"""The Sizing stage: limits and locks of groups, the shelf, group by group, set-outs."""

import re

from playwright.sync_api import expect

from engine.document.base import Haunch
from engine.sizing.study import in_words
from server.projects import revisions
from server.projects.models import Project
from tests.browser.case import BrowserCase
from tests.engine.test_study import shed


class SizingPage(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, shed(), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("nav button:has-text('Sizing')")
        self.page.wait_for_selector("tbody tr")
        self.page.click("nav button:has-text('Sizing')")
        expect(self.page.get_by_role("button", name="Size every group")).to_be_enabled()

    def content(self):
        return Project.objects.get(id=self.project.id).head.content

    def size(self, words="Size every group"):
        self.page.get_by_role("button", name=words).click()
        expect(self.page.get_by_role("button", name="Size again")).to_be_visible(timeout=90_000)

    def test_one_group_is_accepted_and_another_kept(self):
        page = self.page
        row = page.locator("tr:has-text('Eaves beams')")
        expect(row).to_contain_text("locked")
        self.size()
        expect(page.get_by_text("Every member of the building passes")).to_be_visible()
        # the shelf shows what was solved beside what is foreseen
        shelf = page.get_by_role("list", name="Candidates of Columns")
        expect(shelf.locator(".proposed")).to_contain_text("●")
        expect(shelf).to_contain_text("○")
        expect(page.get_by_role("img", name=re.compile("Tonnage and greatest use"))).to_be_visible()
        page.get_by_role("button", name="Only Columns").click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        head = self.content()["hall"]["sections"]
        self.assertNotEqual(head["columns"], "HEA 300")
        self.assertEqual(head["rafters"], "IPE 360")
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 1")

    def test_a_group_is_held_to_a_depth_and_solved_with_another_section(self):
        page = self.page
        page.get_by_role("spinbutton", name="Most depth, mm").fill("200")
        page.keyboard.press("Enter")
        expect(page.locator("tr:has-text('Columns')").first).to_contain_text("candidates")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        self.assertEqual(self.content()["sizing"]["groups"]["Columns"]["most_depth"], 0.2)
        self.size()
        name = page.locator("tr:has-text('Columns') b.mono").first.inner_text()
        self.assertLessEqual(int(name.split()[1]), 200)
        candidate = page.locator(".one:not(.proposed)").filter(has_text="Solve with it").last
        wanted = candidate.locator("strong").inner_text()
        candidate.get_by_role("button", name="Solve with it").click()
        expect(page.locator("header .rev")).to_have_text("rev 3")
        expect(page.locator("tr:has-text('Columns') b.mono").first).to_have_text(wanted, timeout=90_000)
        self.assertEqual(self.content()["sizing"]["groups"]["Columns"]["only"], [wanted])
        expect(page.get_by_role("button", name="Let it choose again")).to_be_visible()

    def test_how_far_a_group_is_used_and_plates_and_what_is_avoided(self):
        page = self.page
        page.get_by_text("Used at most 100 %").click()
        page.get_by_role("spinbutton", name="Deflection and sway used at most, %").fill("80")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Used at most 100, 100, 80 %")).to_be_visible()
        self.assertEqual(self.content()["sizing"]["groups"]["Columns"]["targets"], {"service": 0.8})
        page.locator("header").get_by_role("button", name="Undo").click()
        expect(page.get_by_text("Used at most 100 %")).to_be_visible()
        page.get_by_text("Welded of plates, none").click()
        plates = {"Depths": "250 to 300 by 50", "Widths of flanges": "200, 250", "Webs": "8", "Flanges": "thick"}
        for label, text in plates.items():
            page.get_by_label(f"{label} of plates, mm", exact=True).fill(text)
        page.get_by_role("button", name="Offer plates").click()
        expect(page.get_by_role("alert").filter(has_text="Flanges: a list in mm")).to_be_visible()
        page.get_by_label("Flanges of plates, mm", exact=True).fill("12, 15")
        page.get_by_role("button", name="Offer plates").click()
        expect(page.locator("header .rev")).to_have_text("rev 3")
        plan = self.content()["sizing"]["groups"]["Columns"]["plates"]
        self.assertEqual(plan, {"depths": [250, 300], "widths": [200, 250], "webs": [8], "flanges": [12, 15]})
        expect(page.locator("tr:has-text('Columns')").first).to_contain_text("8 candidates")
        page.get_by_text("What is on stock, what is avoided").click()
        avoided = page.get_by_label("To be avoided")
        avoided.fill("IPE 301")
        avoided.press("Enter")
        expect(page.get_by_text("There is no section and no series “IPE 301”.")).to_be_visible()
        avoided.fill("IPE 300, HEA")
        avoided.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 4")
        self.assertEqual(self.content()["sizing"]["avoid"], ["IPE 300", "HEA"])
        self.size()
        expect(page.locator("tr:has-text('Columns') b.mono").filter(has_text="WI ").first).to_be_visible()

    def test_a_haunch_is_chosen_with_the_section_and_a_split_is_told(self):
        page = self.page
        document = shed(eaves_haunch=Haunch(length=3.0, depth=0.3))
        self.project = revisions.create(self.user, document, "Demo data")
        page.goto(f"{self.live_server_url}/projects/{self.project.id}")
        page.wait_for_selector("tbody tr")
        page.click("nav button:has-text('Sizing')")
        page.get_by_role("button", name="Rafters", exact=True).first.click()
        lengths = page.get_by_label("Haunches long, m")
        lengths.fill("1.5, 30")
        lengths.press("Enter")
        expect(page.get_by_role("alert").filter(has_text="From 0.2 to 20.")).to_be_visible()
        lengths.fill("1.5")
        lengths.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        self.size()
        # the shorter haunch bears it too, with less steel
        row = page.locator("tr:has-text('Rafters')").first
        expect(row).to_contain_text("haunch 1.5 × 0.30 m")
        page.get_by_role("button", name="Only Rafters").click()
        expect(page.locator("header .rev")).to_have_text("rev 3")
        self.assertEqual(self.content()["hall"]["eaves_haunch"]["length"], 1.5)
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        page.get_by_role("button", name="What would splitting save?").click()
        expect(page.get_by_text("2 of 2 set-outs are sized.")).to_be_visible(timeout=90_000)
        expect(page.get_by_role("button", name="Split Rafters by end frames").first).to_be_visible()

    def test_a_set_out_is_taken(self):
        page = self.page
        page.get_by_text("Set-outs", exact=True).click()
        page.locator(".el-checkbox:has-text('fixed')").click()
        page.get_by_label(re.compile("^Frames over its length")).fill("3 to x")
        expect(page.get_by_text("A list, or “4 to 8 by 1”.")).to_be_visible()
        page.get_by_label(re.compile("^Frames over its length")).fill("3, 4")
        page.get_by_role("button", name="Size 2 set-outs").click()
        words = in_words({"frames": 4.0, "bases": "fixed"})
        expect(page.get_by_text("3 of 3 set-outs are sized.")).to_be_visible(timeout=90_000)
        # drawn along one thing by several measures, and across all
        expect(page.get_by_role("img", name=re.compile("steel, t of 3 set-outs"))).to_be_visible()
        page.get_by_text("cost per m²", exact=True).click()
        expect(page.get_by_role("img", name=re.compile("cost per m² of 3"))).to_be_visible()
        page.get_by_text("Across all", exact=True).click()
        expect(page.get_by_role("img", name=re.compile("3 set-outs across 2 things varied"))).to_be_visible()
        page.get_by_role("button", name=words).first.click()
        page.get_by_role("button", name=re.compile(f"Take “{words}”")).click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        hall = self.content()["hall"]
        self.assertEqual((hall["bases"], len(hall["spacings"])), ("fixed", 3))
        expect(page.get_by_text("the model has changed since")).to_be_visible()
