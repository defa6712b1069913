"""The real page, driven as a designer would."""

import json
import re
import tempfile
import time
from pathlib import Path

from playwright.sync_api import expect

from engine.chain import run
from engine.document import Document
from server.projects import revisions
from server.projects.changes import Change
from server.projects.models import Project, Revision
from tests.browser.case import BrowserCase
from tests.engine.helpers import failing_hall


class NewUser(BrowserCase):
    def test_from_sign_in_to_an_accepted_sizing_in_two_minutes(self):
        start = time.monotonic()
        self.start_hall("Kiln house")
        page = self.page
        page.click("nav button:has-text('Frame')")
        expect(self.field("Span")).to_have_value("24")
        page.click("nav button:has-text('Sizing')")
        page.click("text=Size every group")
        page.wait_for_selector("text=Every member of the building passes", timeout=100_000)
        self.assertEqual(Revision.objects.count(), 1)
        page.click("button:has-text('Accept')")
        page.wait_for_selector("text=These are the sections that stand")
        self.assertLess(time.monotonic() - start, 120)
        head = Project.objects.get(name="Kiln house").head
        self.assertEqual(head.number, 2)
        self.assertLessEqual(run(Document.model_validate(head.content)).verification.worst, 1.0)
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 1")
        page.keyboard.press("Control+Shift+z")
        expect(page.locator("header .rev")).to_have_text("rev 2")

    def test_a_sizing_outlives_a_reload_and_can_be_stopped(self):
        self.employ()
        self.start_hall("Long work")
        page = self.page
        page.click("nav button:has-text('Sizing')")
        page.click("text=Size every group")
        expect(page.locator("button:has-text('Stop · analysis')")).to_contain_text(re.compile(r"analysis [2-9]"))
        page.reload()
        page.wait_for_selector("tbody tr")
        page.click("nav button:has-text('Sizing')")
        expect(page.locator("button:has-text('Stop · analysis')")).to_contain_text(re.compile(r"analysis ([3-9]|\d\d)"))
        self.assertEqual(page.locator("text=Every member of the building passes").count(), 0)
        page.click("button:has-text('Stop · analysis')")
        expect(page.locator("button:has-text('Size again')")).to_be_visible()
        expect(page.locator("text=Every member of the building passes")).to_have_count(0)
        self.assertEqual(Revision.objects.count(), 1)

    def test_projects_page(self):
        self.sign_in_by_hand()
        page = self.page
        expect(page.locator("text=No projects yet")).to_be_visible()
        page.fill("[aria-label='Name of the new project']", "Pump house")
        page.click(".template:has-text('24 m span, rafters')")
        page.wait_for_selector("tbody tr")
        expect(page.locator("header.top")).to_contain_text("Pump house")
        page.click("a:has-text('LORICA')")
        page.click("text=Duplicate")
        expect(page.locator("main li")).to_have_count(2)
        page.click("li:has-text('copy') >> text=Rename")
        page.keyboard.type("Boiler house")
        page.keyboard.press("Enter")
        page.click("li:has-text('Boiler house') >> text=Archive")
        expect(page.locator("main li")).to_have_count(1)
        page.click("text=Archived (1)")
        page.click("text=Bring back")
        expect(page.locator("main li")).to_have_count(2)
        page.click("text=Sign out")
        page.wait_for_selector("#id_username")

    def test_the_list_tells_of_each_building_and_finds_it(self):
        self.employ()
        for name in ("Workshop", "Shed by the river"):
            self.start_hall(name)
        revisions.create(self.user, Document(name="Drawn by hand"), "Test data")
        page = self.page
        page.goto(f"{self.live_server_url}/")
        rows = page.locator("main li")
        expect(rows).to_have_count(3)
        shed = page.locator("li", has_text="Shed by the river")
        expect(shed).to_contain_text(re.compile(r"\d+ of \d+ fail"))
        expect(shed).to_contain_text(re.compile(r"\d+\.\d t steel · worst \d\.\d\d"))
        self.assertGreater(len(shed.locator("path.failing").get_attribute("d")), 100)
        expect(page.locator("li", has_text="Drawn by hand")).to_contain_text("nothing stands yet")
        page.fill("[aria-label='Search the projects']", "river shed")
        expect(rows).to_have_count(1)
        page.fill("[aria-label='Search the projects']", "nowhere")
        expect(page.locator(".empty")).to_have_text("No project here has these words.")
        page.fill("[aria-label='Search the projects']", "")
        self.choose("Sort by", "Name")
        expect(rows.first).to_contain_text("Drawn by hand")

    def test_wrong_password_is_said(self):
        page = self.page
        page.goto(f"{self.live_server_url}/")
        page.fill("#id_username", "ada")
        page.fill("#id_password", "wrong")
        page.click("button:has-text('Sign in')")
        expect(page.locator("[role=alert]")).to_contain_text("do not belong together")


class Editing(BrowserCase):
    def test_units_arithmetic_and_wrong_input(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        span = self.field("Span")
        span.fill("3*7.2 m")
        span.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(span).to_have_value("21.6")
        span.fill("wide")
        span.press("Enter")
        expect(page.locator("label.field:has-text('Span') [role=alert]")).to_contain_text("not a number")
        expect(span).to_have_value("wide")
        span.fill("900")
        span.press("Enter")
        expect(page.locator("label.field:has-text('Span') [role=alert]")).to_contain_text("at most 80")
        expect(span).to_have_value("900")
        # the field bears its own name, and no place in the document
        expect(page.locator("label.field:has-text('Span') [role=alert]")).to_have_text("Must be at most 80, not 900.")
        expect(page.locator(".refused")).to_contain_text("Hall, bays 1, span: must be at most 80")
        # letters are undone while the field is typed into, the document once it is not
        span.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        span.press("Escape")
        self.assertEqual(Project.objects.get().head.content["hall"]["bays"][0]["span"], 21.6)
        self.assertEqual(Revision.objects.count(), 2)

    def test_a_change_is_undone_in_the_field_that_made_it(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        span = self.field("Span")
        span.press("ControlOrMeta+a")
        page.keyboard.type("21")
        page.keyboard.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        page.keyboard.press("Control+z")
        expect(page.locator("header .rev")).to_have_text("rev 1")
        expect(span).to_have_value("24")
        page.keyboard.press("Control+y")
        expect(span).to_have_value("21")

    def test_the_verdict_follows_an_edit(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Frame')")
        first = page.locator("tbody tr").filter(has_text="Rafters")
        before = first.inner_text()
        rafters = self.field("Rafters")
        rafters.fill("IPE 600")
        rafters.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(first).to_contain_text("IPE 600")
        self.assertNotEqual(before, first.inner_text())
        expect(page.locator("header nav .link.behind, header nav .link.refreshing")).to_have_count(0)

    def test_a_second_editor_gets_a_conflict(self):
        self.start_hall()
        page = self.page
        project = Project.objects.get()
        page.click("nav button:has-text('Frame')")
        # what others do would arrive by itself, were there time
        page.route("**/head", lambda route: route.fulfill(status=204))
        revisions.edit(self.user, project.id, 1, "Pitch 12", [Change("hall.bays.0.pitch", 12.0)])
        pitch = self.field("Pitch")
        pitch.fill("7")
        pitch.press("Enter")
        dialog = page.locator(".el-dialog")
        expect(dialog).to_contain_text("revision 2")
        expect(dialog).to_contain_text("pitch")
        expect(dialog).to_contain_text("10 → 12")
        page.click("text=Show me the present revision")
        expect(self.field("Pitch")).to_have_value("12")
        self.assertEqual(Project.objects.get().head.number, 2)

    def test_another_editor_at_another_thing_is_no_conflict(self):
        self.start_hall()
        page = self.page
        project = Project.objects.get()
        page.click("nav button:has-text('Frame')")
        revisions.edit(self.user, project.id, 1, "Pitch 12", [Change("hall.bays.0.pitch", 12.0)])
        eaves = self.field("Eaves height")
        eaves.fill("7")
        eaves.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 3")
        expect(self.field("Pitch")).to_have_value("12")
        expect(eaves).to_have_value("7")


class Looking(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, failing_hall(), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")

    def test_proof_shows_the_engines_number(self):
        page = self.page
        chain = run(failing_hall())
        verdict = chain.verification.verdicts[chain.structure.index["frame-3/rafter-AB-left"]]
        lateral = next(o for o in verdict.outcomes if o.criterion == "lateral")
        page.fill("[aria-label='Filter the ledger']", "Rafter 3·AB-L")
        page.click("tbody tr")
        page.click(".criteria button:has-text('Lateral-torsional')")
        last = page.locator(".el-drawer ol li").last
        expect(last.locator("b")).to_have_text(f"{lateral.utilisation:.2f}")
        # formulas are set in type once that has come
        expect(page.locator(".el-drawer .katex").nth(15)).to_be_attached()
        expect(page.locator(".el-drawer")).to_contain_text("6.3.2.2(2)")
        for criterion in ("Buckling under", "Cross-section", "Flexural", "Shear", "Deflection"):
            page.click(f".el-drawer nav button:has-text('{criterion}')")
            expect(page.locator(".el-drawer .lead")).to_contain_text(criterion)
            expect(page.locator(".katex-error")).to_have_count(0)
        page.keyboard.press("Escape")
        expect(page.locator(".el-drawer")).to_have_count(0)

    def test_key_plan_whole_building_and_keys(self):
        page = self.page
        page.click("[aria-label='Frame on grid 2']")
        expect(page.locator(".caption b")).to_have_text("Frame on grid 2 · elevation")
        page.keyboard.press("]")
        expect(page.locator(".caption b")).to_have_text("Frame on grid 3 · elevation")
        page.click("text=whole · 3D")
        page.wait_for_selector("canvas")
        expect(page.locator(".caption b")).to_have_text("Whole building · 3D")
        page.keyboard.press("Alt+3")
        expect(page.locator("header nav [aria-current=step]")).to_have_text("Actions")

    def test_failing_is_said_in_words_and_hatched(self):
        page = self.page
        expect(page.locator("tbody tr").first).to_contain_text("fails")
        page.wait_for_selector("svg line.over", state="attached")

    def test_every_stage_opens_and_nothing_overflows(self):
        page = self.page
        for stage in ("Site", "Frame", "Actions", "Combinations", "Response", "Verification", "Sizing", "Dossier"):
            page.click(f"header nav button:has-text('{stage}')")
            page.wait_for_timeout(150)
            size = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
            self.assertEqual(size, [1280, 800], stage)

    def test_a_case_on_the_frame(self):
        page = self.page
        page.click("header nav button:has-text('Actions')")
        page.click("aside button:has-text('Snow, undrifted')")
        expect(page.locator(".caption .formula")).to_have_text("S1: Snow, undrifted")
        # 0.8 · 1.2 kN/m² · 6.5 m · cos 8° on the slope
        expect(page.locator("svg text.load").first).to_have_text("6.18")

    def test_ledger_saves_csv(self):
        page = self.page
        with page.expect_download() as download:
            page.click(".bottom button:has-text('CSV')")
        text = Path(download.value.path()).read_text()
        self.assertTrue(
            text.startswith(
                "Member,Section,Length m,Governs,Combination,Cross-section,Stability,Deflection,Utilisation,Mass kg"
            )
        )
        self.assertEqual(len(text.splitlines()), 1 + len(run(failing_hall()).structure.members))

    def test_document_comes_back_as_it_went(self):
        page = self.page
        page.click("header nav button:has-text('Dossier')")
        with page.expect_download() as download:
            page.click("a:has-text('Model (JSON)')")
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "model.json")
            download.value.save_as(file)
            page.click("a:has-text('LORICA')")
            page.set_input_files("input[type=file]", str(file))
            # the stage that was looked at stays: its own dossier is made
            page.wait_for_selector(".sheets canvas")
            broken = Path(folder, "broken.json")
            broken.write_text(json.dumps({"hall": {"bays": [{"span": "wide"}]}}))
            page.click("a:has-text('LORICA')")
            page.set_input_files("input[type=file]", str(broken))
            expect(page.locator("[role=alert]")).to_contain_text(re.compile("hall.bays.0.span: must be a number"))
        self.assertEqual(Project.objects.count(), 2)


class Directly(BrowserCase):
    def test_a_textbook_frame_without_a_hall(self):
        document = Document.model_validate(
            {
                "name": "Mast",
                "nodes": [{"name": "foot", "at": [0, 0, 0]}, {"name": "head", "at": [0, 0, 5]}],
                "members": [{"name": "mast", "start": "foot", "end": "head", "section": "HEA 200"}],
                "supports": [{"node": "foot", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
                "cases": [{"name": "H"}],
                "node_loads": [{"case": "H", "node": "head", "force": [10, 0, 0]}],
            }
        )
        project = revisions.create(self.user, document, "Stated")
        self.sign_in(f"/projects/{project.id}")
        expect(self.page.locator("tbody tr").first).to_contain_text("mast")
        self.page.wait_for_selector("canvas")
