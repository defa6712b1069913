"""The round trip with an office that details steel, at the page."""

from threading import Thread

from django.test import override_settings
from playwright.sync_api import expect

from detailing.service import make
from server.projects.models import Project
from tests.browser.case import BrowserCase
from tests.browser.test_accessible import serious


class RoundTrip(BrowserCase):
    def setUp(self):
        super().setUp()
        office = make()
        Thread(target=office.serve_forever, daemon=True).start()
        self.addCleanup(office.server_close)
        self.addCleanup(office.shutdown)
        settings = override_settings(DETAILING_URL=f"http://127.0.0.1:{office.server_port}")
        settings.enable()
        self.addCleanup(settings.disable)

    def part(self):
        self.page.click("nav button:has-text('Frame')")
        self.page.locator("aside.right nav.parts button", has_text="Returned").click()

    def test_sent_solved_and_decided_one_by_one(self):
        self.start_hall()
        page = self.page
        self.employ()
        self.part()
        page.get_by_role("button", name="Send to the detailing office").click()
        sheet = page.locator("aside.right")
        expect(sheet.locator("h4", has_text="Tarnbeck Steel Detailing")).to_contain_text("sent as rev 1")
        groups = sheet.locator("section.group")
        foot = groups.filter(has_text="Foot of Column")
        braces = groups.filter(has_text="Elsewhere")
        sections = groups.filter(has_text="Section")
        expect(foot).to_contain_text("150 mm lower")
        expect(sheet.get_by_text("12 mm at most: axes stay")).to_be_visible()
        expect(sheet.get_by_text("Parts of joints: 10 plates, 10 groups of bolts")).to_be_visible()
        # what is alike is one thing, chosen and drawn in the whole
        count = Project.objects.get().head.content
        braces.get_by_role("button", name="2 members").click()
        expect(page.get_by_text("Whole building · 3D")).to_be_visible()
        expect(braces.get_by_role("button", name="Wall brace 1·A up", exact=True)).to_be_visible()
        # what they would do
        page.get_by_role("button", name="What would they do?").click()
        expect(sheet.locator(".effect", has_text="All taken")).to_contain_text("→", timeout=90_000)
        expect(sections.locator(".effect")).to_contain_text("If taken")
        self.assertEqual(serious(page), [])
        # one is taken, one is refused; the office's other changes stay open
        foot.get_by_role("button", name="Take", exact=True).click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(foot).to_have_count(0)
        moved = Project.objects.get().head.content["moved_nodes"]
        self.assertEqual([m["move"] for m in moved], [[0.0, 0.0, -0.15]])
        sections.get_by_role("button", name="Refuse", exact=True).last.click()
        expect(sheet.locator("h4", has_text="Refused")).to_be_visible()
        page.get_by_role("button", name="Take all").click()
        expect(page.locator("header .rev")).to_have_text("rev 3")
        expect(sheet.get_by_text("Nothing is left to decide.")).to_be_visible()
        document = Project.objects.get().head.content
        self.assertEqual([m["name"] for m in document["members"]], ["bay-1 wall-brace-A-up", "bay-1 wall-brace-A-down"])
        self.assertEqual(document["hall"], count["hall"])
        # each is undone like any other edit, and is then open again
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 1")
        expect(foot).to_be_visible()
        expect(braces).to_be_visible()
        sections.get_by_role("button", name="Consider again").click()
        expect(sheet.locator("h4", has_text="Refused")).to_have_count(0)
        page.get_by_role("button", name="Put this model away").click()
        expect(sheet.get_by_text("Nothing came back yet")).to_be_visible()

    def test_a_file_that_is_none_is_refused_in_a_sentence(self):
        self.start_hall()
        self.part()
        chosen = {"name": "letter.ifc", "mimeType": "x", "buffer": b"Dear Sir"}
        self.page.locator("aside.right input[type=file]").set_input_files(chosen)
        expect(self.page.locator("aside.right").get_by_role("alert")).to_contain_text("This is no IFC file")
        expect(self.page.get_by_text("Nothing came back yet")).to_be_visible()
