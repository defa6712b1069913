"""The Dossier stage: pages as they will be printed, how much each chapter tells, ticks that fall, questions, issues."""

import io
import re

from django.contrib.auth.models import User
from playwright.sync_api import expect
from pypdf import PdfReader

from engine.document import read_document
from server.projects import revisions
from server.projects.models import Issue, Project, Share
from tests.browser.case import BrowserCase
from tests.engine.test_dossier import BEAM
from tests.server.test_pictures import drawn


class Views(BrowserCase):
    def test_what_is_looked_at_goes_into_the_dossier_and_out_of_it(self):
        self.start_hall()
        page = self.page
        rev = page.locator("header .rev")
        page.click("nav button:has-text('Frame')")
        button = page.get_by_role("button", name="In dossier", exact=True)
        button.click()
        expect(rev).to_have_text("rev 2")
        expect(button).to_have_attribute("aria-pressed", "true")
        page.click("nav button:has-text('Response')")
        expect(button).to_have_attribute("aria-pressed", "false")
        button.click()
        expect(rev).to_have_text("rev 3")
        # the whole in space, and a table with what it is filtered by
        page.click("nav button:has-text('Frame')")
        page.get_by_role("button", name="whole · 3D").click()
        button.click()
        expect(rev).to_have_text("rev 4")
        page.click("nav button:has-text('Verification')")
        page.get_by_label("Filter the ledger").fill("rafter, util > 0.1")
        table = page.get_by_role("button", name="in dossier: this table")
        table.click()
        expect(rev).to_have_text("rev 5")
        expect(table).to_have_attribute("aria-pressed", "true")
        # the plan of the site, and a member's restraints from its ribbon
        page.click("nav button:has-text('Site')")
        button.click()
        expect(rev).to_have_text("rev 6")
        expect(button).to_have_attribute("aria-pressed", "true")
        page.click("nav button:has-text('Verification')")
        page.get_by_label("Filter the ledger").fill("Rafter 2·AB-L")
        page.click("tbody tr")
        ribbon = page.get_by_label("Restraint ribbon").get_by_role("button", name="In dossier", exact=True)
        ribbon.click()
        expect(rev).to_have_text("rev 7")
        expect(ribbon).to_have_attribute("aria-pressed", "true")
        chapters = Project.objects.get().head.content["dossier"]["chapters"]
        [site], [laid] = chapters["actions"]["views"], chapters["restraints"]["views"]
        self.assertEqual((site["shows"], laid["shows"], laid["member"][:14]), ("site", "restraints", "frame-2/rafter"))
        shown = {key: [(v["plane"], v["shows"]) for v in chapter["views"]] for key, chapter in chapters.items()}
        plane = shown["building"][0][0]
        views = {
            "building": [(plane, "steel"), ("whole", "steel")],
            "response": [(plane, "forces")],
            "verification": [],
            "actions": [("whole", "site")],
            "restraints": [("whole", "restraints")],
        }
        self.assertEqual(shown, views)
        placed = {"name": "Members · rafter, util > 0.1", "table": "members", "words": "rafter, util > 0.1"}
        self.assertEqual(chapters["verification"]["tables"], [placed])
        page.get_by_role("button", name="Dossier", exact=True).click()
        expect(page.locator(".sheets canvas").first).to_be_visible()
        page.get_by_role("navigation", name="Contents of the dossier").get_by_role(
            "button", name="2 The building"
        ).click()
        listed = page.get_by_role("list", name="Views and tables in this chapter")
        listed.get_by_role("button", name=re.compile("^Remove Frame on grid")).click()
        expect(rev).to_have_text("rev 8")
        listed.get_by_role("button", name=re.compile("^Remove The whole building")).click()
        expect(rev).to_have_text("rev 9")
        expect(listed).to_have_count(0)


class HandingOver(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, read_document({**BEAM, "name": "Loft beam"}), "Demo data")

    def open(self):
        self.sign_in(f"/projects/{self.project.id}")
        self.page.get_by_role("button", name="Dossier", exact=True).click()
        expect(self.page.locator(".sheets canvas").first).to_be_visible()
        self.contents = self.page.get_by_role("navigation", name="Contents of the dossier")

    def words(self, link):
        """What stands in the file behind a link."""
        answer = self.page.request.get(self.live_server_url + link.get_attribute("href"))
        return " ".join(" ".join(p.extract_text().split()) for p in PdfReader(io.BytesIO(answer.body())).pages)

    def rev(self, number: int) -> None:
        expect(self.page.locator("header .rev")).to_have_text(f"rev {number}")

    def revision(self, number: int) -> None:
        """That revision stands, and its pages are there."""
        self.rev(number)
        expect(self.page.get_by_text(f"Files revision {number}")).to_be_visible()

    def test_composed_and_issued(self):
        self.employ()
        self.open()
        page, contents = self.page, self.contents
        expect(page.get_by_text(re.compile(r"\d+ pages, as they will be printed"))).to_be_visible()
        contents.get_by_role("button", name="1 Basis of design").click()
        page.get_by_role("complementary", name="Sheet").get_by_text("Seen as it stands").click()
        expect(page.get_by_text("Seen by ada.")).to_be_visible()
        page.get_by_label("A question about this section").fill("Which edition?")
        page.get_by_role("button", name="Ask").click()
        expect(page.locator(".asked")).to_have_text("?1")
        page.get_by_label("Own remark on this chapter").fill("Agreed with the client.")
        page.keyboard.press("Tab")
        self.revision(2)
        # what was seen is no longer what stands
        expect(page.get_by_text("ada had seen it before it changed.")).to_be_visible()
        contents.get_by_role("button", name=re.compile("Basis of design: level normal")).click()
        self.revision(3)
        contents.get_by_role("button", name=re.compile("Response$")).click()
        page.locator(".el-switch:has([aria-label='Response is told'])").click()
        self.revision(4)
        expect(contents.get_by_text("left out")).to_be_visible()
        contents.get_by_role("button", name="Response: further up").click()
        self.revision(5)
        words = self.words(page.get_by_role("link", name="PDF"))
        for wanted in ("Agreed with the client.", "Left out of this document: Response.", "Revision 5", "γM1"):
            self.assertIn(wanted, words)
        ledger = page.get_by_role("region", name="Questions, ticks and issues")
        ledger.get_by_role("button", name="Answer").click()
        page.get_by_label("Answer", exact=True).fill("That of 2005.")
        page.get_by_role("dialog").get_by_role("button", name="Answer").click()
        expect(ledger.get_by_text("That of 2005.")).to_be_visible()
        page.get_by_role("button", name="Issue no. 1").click()
        page.get_by_role("dialog").get_by_role("button", name="Issue", exact=True).click()
        ledger.get_by_role("tab", name="Issues 1").click()
        link = ledger.get_by_role("link", name="PDF")
        expect(link).to_be_visible()
        self.assertIn("Issue 1, for approval · revision 5", self.words(link))
        self.assertEqual(Issue.objects.get().author, "ada")
        page.get_by_role("button", name="Undo").click()
        # a move is taken back like any edit; what was issued stays
        self.revision(4)
        self.assertEqual((Project.objects.get().head.number, Issue.objects.count()), (4, 1))

    def test_a_picture_of_ones_own_stands_in_a_chapter(self):
        self.open()
        page = self.page
        self.contents.get_by_role("button", name="Basis of design").first.click()
        sheet = page.get_by_role("complementary", name="Sheet")
        chosen = {"name": "yard.png", "mimeType": "image/png", "buffer": b"no picture"}
        sheet.locator("input[type=file]").set_input_files(chosen)
        expect(sheet.get_by_role("alert")).to_contain_text("yard.png was not taken in. The file is no picture")
        sheet.locator("input[type=file]").set_input_files({**chosen, "buffer": drawn(size=(160, 120))})
        caption = sheet.get_by_label("Caption of picture 1")
        caption.fill("The yard from the east")
        caption.press("Tab")
        self.rev(3)
        sheet.get_by_label("Width of picture 1").get_by_text("full").click()
        self.rev(4)
        self.assertTrue(sheet.locator("img").evaluate("image => image.complete && image.naturalWidth === 160"))
        expect(sheet.get_by_role("alert")).to_have_count(0)
        [placed] = Project.objects.get().head.content["dossier"]["chapters"]["basis"]["pictures"]
        self.assertEqual((placed["caption"], placed["width"]), ("The yard from the east", 1))
        sheet.get_by_role("button", name="Remove picture 1").click()
        self.rev(5)
        expect(sheet.locator("img")).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(sheet.locator("img")).to_have_count(1)

    def test_a_remark_at_a_section_and_a_tick_at_an_input(self):
        self.employ()
        self.open()
        page, contents = self.page, self.contents
        contents.get_by_role("button", name="Basis of design").first.click()
        page.get_by_role("complementary", name="Sheet").get_by_text("full", exact=True).click()
        contents.get_by_role("button", name=re.compile(r"^1\.4 Inputs")).click()
        contents.get_by_role("button", name=re.compile(r"\.1 Site")).click()
        remark = page.get_by_label("Own remark at this section")
        remark.fill("Snow by a letter of 3 May.")
        remark.press("Tab")
        self.revision(3)
        [note] = Project.objects.get().head.content["dossier"]["notes"]
        self.assertEqual((note["name"], note["remark"]), ("inputs.site", "Snow by a letter of 3 May."))
        rows = page.get_by_role("list", name="Inputs of this section")
        rows.get_by_text("ground snow").click()
        expect(contents.get_by_text(re.compile("1 of [0-9]+ chapters, sections and inputs"))).to_be_visible()
        rows.get_by_role("button", name="Ask about wind speed").click()
        page.get_by_placeholder("A question about wind speed").fill("From which map?")
        page.get_by_role("button", name="Ask", exact=True).click()
        expect(page.get_by_text("on 1.4.1 (3) wind speed, open: From which map?")).to_be_visible()

    def test_a_checker_ticks_and_asks_but_changes_nothing(self):
        Share.objects.create(
            project=self.project, person=User.objects.create_user("ben", password="gusset-plate"), role="checker"
        )
        self.user = User.objects.get(username="ben")
        self.open()
        page, contents = self.page, self.contents
        contents.get_by_role("button", name="Verification").first.click()
        expect(contents.get_by_role("button", name="Verification: level normal, next level")).to_be_disabled()
        expect(page.get_by_role("switch", name="Verification is told")).to_be_disabled()
        expect(page.get_by_role("button", name=re.compile("Issue no."))).to_have_count(0)
        page.get_by_role("complementary", name="Sheet").get_by_text("Seen as it stands").click()
        expect(page.get_by_text("Seen by ben.")).to_be_visible()
        page.get_by_label("A question about this section").fill("Is it braced?")
        page.get_by_role("button", name="Ask").click()
        ledger = page.get_by_role("region", name="Questions, ticks and issues")
        expect(ledger.get_by_text("Is it braced?")).to_be_visible()
        expect(ledger.get_by_role("button", name="Answer")).to_have_count(0)
        ledger.get_by_role("button", name="Close").click()
        expect(ledger.get_by_text("closed")).to_be_visible()
        # a proof is a click away from the summary
        contents.get_by_role("button", name=re.compile(r"\.1 Summary")).click()
        page.get_by_role("button", name=re.compile("Go to page")).first.click()
        self.assertEqual(Project.objects.get().head.number, 1)

    def test_the_model_goes_out_and_comes_back(self):
        self.open()
        page = self.page
        link = page.get_by_role("link", name="Model (IFC)").get_attribute("href")
        data = page.request.get(self.live_server_url + link).body()
        page.goto(self.live_server_url)
        chosen = {"name": "loft.ifc", "mimeType": "application/x-step", "buffer": data}
        page.set_input_files("input[type=file]", {**chosen, "buffer": data[:3000]})
        expect(page.get_by_text("loft.ifc was not taken in. The file is cut off")).to_be_visible()
        page.set_input_files("input[type=file]", chosen)
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("The structural analysis model: 1 members, 2 nodes, 2 supports.")).to_be_visible()
        self.assertEqual(Project.objects.count(), 1)
        dialog.get_by_role("button", name="Import").click()
        page.wait_for_selector("tbody tr")
        self.assertEqual(Project.objects.count(), 2)

    def test_a_whole_project_goes_out_and_comes_back(self):
        self.open()
        page = self.page
        link = page.get_by_role("link", name="Whole project (ZIP)").get_attribute("href")
        data = page.request.get(self.live_server_url + link).body()
        page.goto(self.live_server_url)
        chosen = {"name": "loft.zip", "mimeType": "application/zip", "buffer": data}
        page.set_input_files("input[type=file]", {**chosen, "buffer": b"no archive"})
        expect(page.get_by_text("loft.zip was not taken in. The file is no archive")).to_be_visible()
        page.set_input_files("input[type=file]", chosen)
        page.wait_for_selector("tbody tr")
        self.assertEqual([p.name for p in Project.objects.all()], ["Loft beam", "Loft beam"])

    def test_nothing_to_tell_of(self):
        project = revisions.create(self.user, read_document({"name": "Empty"}), "x")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        expect(page.get_by_text("Nothing stands yet. Set out a hall")).to_be_visible()
        page.get_by_role("button", name="Dossier", exact=True).click()
        expect(page.get_by_text("Nothing stands yet: a dossier tells of a building")).to_be_visible()
