"""What the office keeps, the ledger's filter and columns, and the tour, in the real page."""

import re

from playwright.sync_api import expect

from server.projects.models import Project
from tests.browser.case import BrowserCase


class Kept(BrowserCase):
    def test_limits_are_kept_from_one_project_and_taken_into_another_and_a_template_begins_one(self):
        self.start_hall("First")
        page = self.page
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        sheet = page.locator("aside.right")
        self.field("Rafters, chords").fill("250")
        self.field("Rafters, chords").press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        sheet.get_by_role("button", name="Keep for the office…").first.click()
        name = page.get_by_label("Name in the office")
        name.fill("Sheeting on purlins")
        name.press("Enter")
        expect(sheet.locator(".kept")).to_be_visible()
        # taken into another project, as one revision
        self.start_hall("Second")
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        self.choose("Take from the office", "Sheeting on purlins")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(self.field("Rafters, chords")).to_have_value("250")
        page.keyboard.press("Control+z")
        expect(self.field("Rafters, chords")).to_have_value("200")
        # the second project becomes a template
        page.goto(f"{self.live_server_url}/")
        page.locator("li:has-text('Second')").get_by_role("button", name="Keep as template").click()
        expect(page.locator(".el-message")).to_contain_text("“Second” is a template of the office.")
        page.reload()
        page.click(".template:has-text('Second')")
        page.wait_for_selector("tbody tr")
        self.assertEqual(Project.objects.latest("created").name, "Second")
        page.goto(f"{self.live_server_url}/office")
        page.get_by_role("tab", name="Kept for projects (2)").click()
        table = page.get_by_label("What the office keeps")
        expect(table).to_contain_text("Limits of deflection")
        table.locator("tr:has-text('Sheeting on purlins')").get_by_role("button", name="Delete").click()
        page.locator(".el-popconfirm:visible").get_by_role("button", name="Delete").click()
        expect(page.get_by_role("tab", name="Kept for projects (1)")).to_be_visible()


class Ledger(BrowserCase):
    def test_rows_are_filtered_by_columns_and_columns_are_chosen(self):
        self.start_hall()
        page = self.page
        rows = page.locator(".bottom tbody tr")
        expect(rows.first).to_be_visible()
        page.get_by_label("Filter the ledger").fill("section: shs, length > 5")
        expect(rows.first).to_contain_text("SHS")
        page.get_by_label("Filter the ledger").fill("length < 1")
        expect(page.locator(".bottom")).to_contain_text("Nothing here contains")
        page.get_by_label("Filter the ledger").fill("")
        heads = page.locator(".bottom thead th:visible")
        before = heads.count()
        page.get_by_role("button", name="columns", exact=True).click()
        page.locator(".el-popover:visible .el-checkbox", has_text="Governs").click()
        expect(heads).to_have_count(before - 1)
        page.reload()
        expect(rows.first).to_be_visible()
        expect(heads).to_have_count(before - 1)

    def test_a_tour_shows_the_parts_once(self):
        self.start_hall()
        page = self.page
        page.get_by_role("button", name="Show me around").click()
        tour = page.locator(".el-tour__content:visible")
        expect(tour).to_contain_text("The chain")
        for title in ("Key plan and roles", "The view", "The sheet", "The ledger", "Find"):
            tour.get_by_role("button", name=re.compile("Next")).click()
            expect(tour).to_contain_text(title)
        tour.get_by_role("button", name=re.compile("Finish|Close", re.I)).last.click()
        expect(tour).to_have_count(0)
        expect(page.get_by_role("button", name="Show me around")).to_have_count(0)
