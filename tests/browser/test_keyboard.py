"""The palette, the sheet of shortcuts, and a job done without a mouse."""

import re

from playwright.sync_api import expect

from server.projects.models import Revision
from tests.browser.case import BrowserCase


class Keyboard(BrowserCase):
    def tab_to(self, what, most=120):
        """Press Tab until the focused element answers to a CSS selector."""
        for _ in range(most):
            self.page.keyboard.press("Tab")
            if self.page.evaluate("selector => document.activeElement.matches(selector)", what):
                return
        self.fail(f"{what} is not reached by Tab")

    def type_line(self, text):
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")

    def find(self, words):
        self.page.keyboard.press("Control+k")
        expect(self.page.locator(".palette input")).to_be_focused()
        self.page.keyboard.type(words)
        expect(self.page.locator("[role=option]").first).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".palette")).to_be_hidden()

    def test_from_sign_in_to_a_changed_section(self):
        page = self.page
        page.goto(f"{self.live_server_url}/")
        expect(page.locator("#id_username")).to_be_focused()
        page.keyboard.type("ada")
        page.keyboard.press("Tab")
        self.type_line("gusset-plate")
        page.wait_for_selector("h1:has-text('Projects')")
        self.tab_to("[aria-label='Name of the new project']")
        self.type_line("By keys alone")
        page.wait_for_selector("tbody tr")
        self.find("frame stage")
        page.wait_for_selector(".link.on:has-text('Frame')")
        self.tab_to("aside.right input[list=sections]")
        before = page.evaluate("document.activeElement.value")
        page.keyboard.press("Control+a")
        self.type_line("HEB 500" if before != "HEB 500" else "HEB 450")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        hall = Revision.objects.get(number=2).content["hall"]
        self.assertIn("HEB 500", str(hall["sections"]))
        self.find("undo")
        expect(page.locator("header .rev")).to_have_text("rev 1")

    def test_the_palette_finds_everything(self):
        self.start_hall()
        page = self.page

        self.find("rafter 3")
        expect(page.locator("aside.right")).to_contain_text("Rafter 3")
        self.find("whole building")
        page.wait_for_selector("canvas")
        self.find("grid 2")
        expect(page.locator(".view")).to_contain_text("Frame on grid 2")
        self.find("snow case")
        expect(page.locator(".link.on")).to_have_text("Actions")
        self.find("combination c3")
        expect(page.locator(".link.on")).to_have_text("Combinations")
        page.keyboard.press("Control+k")
        expect(page.locator(".palette input")).to_be_focused()
        expect(page.locator("[role=option]").first).to_contain_text(re.compile("^C3"))
        page.keyboard.type("no such thing")
        expect(page.locator(".palette")).to_contain_text("Nothing here has these words.")
        page.keyboard.press("Escape")
        page.click("header button[aria-label=Find]")
        expect(page.locator(".palette input")).to_be_focused()
        page.keyboard.type("shortcuts")
        page.keyboard.press("Enter")
        expect(page.locator(".palette")).to_be_hidden()
        expect(page.locator(".el-dialog:visible")).to_contain_text("The combination before and the next one")
        page.keyboard.press("Escape")
        expect(page.locator(".el-dialog:visible")).to_have_count(0)
        page.keyboard.press("?")
        expect(page.locator(".el-dialog:visible")).to_contain_text("Keyboard shortcuts")
        page.keyboard.press("Escape")
        expect(page.locator(".el-dialog:visible")).to_have_count(0)

    def test_escape_closes_what_is_open_and_keeps_what_is_chosen(self):
        self.start_hall()
        page = self.page
        self.find("verification stage")
        self.find("rafter 3")
        chosen = page.locator("aside.right")
        expect(chosen).to_contain_text("Rafter 3")
        page.click(".criteria button >> nth=0")
        page.wait_for_selector(".el-drawer .katex")
        page.keyboard.press("Escape")
        expect(page.locator(".el-drawer:visible")).to_have_count(0)
        expect(chosen).to_contain_text("Rafter 3")
        page.keyboard.press("?")
        expect(page.locator(".el-dialog:visible")).to_contain_text("Keyboard shortcuts")
        page.keyboard.press("Escape")
        expect(page.locator(".el-dialog:visible")).to_have_count(0)
        expect(chosen).to_contain_text("Rafter 3")
        page.keyboard.press("Escape")
        expect(chosen).not_to_contain_text("Rafter 3")
