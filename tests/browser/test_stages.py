"""Each stage opens its own view, and comes back to it as it was left."""

from playwright.sync_api import expect

from engine.demo import drying_hall
from engine.document import Document
from server.projects import revisions
from server.projects.models import Project
from tests.browser.case import BrowserCase, short


class Stages(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, short(drying_hall()), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")

    def stage(self, name):
        self.page.click(f"header nav button:has-text('{name}')")

    def tool(self, name):
        return self.page.locator(".tools").get_by_role("button", name=name, exact=True)

    def test_each_stage_has_a_view_of_its_own_and_keeps_it(self):
        page = self.page
        colour = self.picked("Colour by")
        expect(colour).to_contain_text("utilisation")
        self.stage("Frame")
        expect(colour).to_contain_text("role")
        expect(self.tool("Forces")).to_have_attribute("aria-pressed", "false")
        page.click("[aria-label='Key plan and roles'] >> text=whole · 3D")
        expect(page.locator(".caption b")).to_have_text("Whole building · 3D")
        self.stage("Actions")
        expect(self.tool("Actions")).to_have_attribute("aria-pressed", "true")
        expect(self.picked("Case or combination shown")).to_contain_text("S1 ·")
        page.keyboard.press("Escape")
        self.choose("Case or combination shown", "W1 ·")
        self.stage("Verification")
        # the frame of the worst member, as it was left
        expect(page.locator(".caption b")).to_contain_text("Frame on grid")
        expect(colour).to_contain_text("utilisation")
        expect(self.picked("Case or combination shown")).to_contain_text("envelope")
        self.stage("Actions")
        expect(self.picked("Case or combination shown")).to_contain_text("W1 ·")
        expect(page.locator(".caption b")).to_have_text("Whole building · 3D")

    def test_the_site_shows_the_building_in_its_surroundings(self):
        page = self.page
        self.stage("Site")
        plan = page.locator("svg[aria-label='The building in its surroundings']")
        expect(plan).to_contain_text("24.00 × 24.00 m")
        # front to back at 76°, so that wind from the left comes from 346°
        expect(plan).to_contain_text("346°")
        expect(plan).to_contain_text("q_p 0.800 kN/m²")
        section = page.locator("svg[aria-label='Section across the building']")
        expect(section).to_contain_text("S2 Snow, drifted to the right")
        field = self.field("Bearing, front to back")
        field.fill("180")
        field.press("Enter")
        expect(plan).to_contain_text("90°")
        field.fill("400")
        field.press("Enter")
        expect(page.locator("label.field:has-text('Bearing') [role=alert]")).to_contain_text("less than 360")
        # values are typed where they act: the ground to the left, and how often wind comes from there
        self.choose("Terrain to the left, on the plan", "III")
        left = plan.locator("g.wind", has_text="from the left")
        expect(left).to_contain_text("q_p 0.5")
        reduced = left.locator("label.field input")
        reduced.fill("0.9")
        reduced.press("Enter")
        expect(left).not_to_contain_text("q_p 0.5")
        expect(plan.locator("g.wind", has_text="from the back")).to_contain_text("q_p 0.800")
        wind = Project.objects.get(pk=self.project.pk).head.content["wind"]
        self.assertEqual((wind["terrains"], wind["directional"]), ({"left": "III"}, {"left": 0.9}))
        reduced.fill("much")
        reduced.press("Enter")
        expect(left.get_by_role("alert")).to_be_visible()
        reduced.press("Escape")
        lying = section.locator("label.field", has_text="s_k").locator("input")
        lying.fill("1.6")
        lying.press("Enter")
        expect(section.locator("g.lying:has-text('S1 Snow, undrifted')")).to_contain_text("1.28")
        # snow is shown where it acts
        section.locator("g.lying:has-text('S2')").click()
        expect(page.locator("header nav [aria-current]")).to_contain_text("Actions")
        expect(self.picked("Case or combination shown")).to_contain_text("S2 ·")
        self.stage("Site")
        page.click("[aria-label='Key plan and roles'] >> text=whole · 3D")
        expect(page.locator(".caption b")).to_have_text("Whole building · 3D")
        page.click("[aria-label='Key plan and roles'] >> text=surroundings")
        expect(plan).to_be_visible()

    def test_a_site_without_a_building_says_so(self):
        page = self.page
        empty = revisions.create(self.user, drying_hall().model_copy(update={"hall": None, "edits": []}), "Empty")
        page.goto(f"{self.live_server_url}/projects/{empty.id}")
        self.stage("Site")
        expect(page.locator("main.view")).to_contain_text("Nothing stands yet")
        mast = Document.model_validate(
            {
                "name": "Mast",
                "nodes": [{"name": "foot", "at": [0, 0, 0]}, {"name": "head", "at": [0, 0, 5]}],
                "members": [{"name": "mast", "start": "foot", "end": "head", "section": "HEA 200"}],
                "supports": [{"node": "foot", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
            }
        )
        page.goto(f"{self.live_server_url}/projects/{revisions.create(self.user, mast, 'Mast').id}")
        page.wait_for_selector("tbody tr")
        self.stage("Site")
        expect(page.locator(".site")).to_contain_text("No building with a roof stands yet")

    def test_site_says_what_does_not_act_and_why(self):
        page = self.page
        self.stage("Site")
        idle = page.locator("aside.right li")
        expect(idle.filter(has_text="Drift against a taller building")).to_contain_text("none is stated beside it")
        # what nobody computes looks otherwise than what there is none of
        expect(idle.filter(has_text="Snow that slides against guards")).to_have_class("open")
        page.get_by_text("A taller building stands beside").click()
        expect(idle.filter(has_text="Drift against a taller building")).to_have_count(0, timeout=90_000)

    def test_what_is_chosen_heads_the_sheet_and_is_changed_there(self):
        page = self.page
        self.stage("Frame")
        page.click("[role=tab]:has-text('Steelwork')")
        page.fill("[aria-label='Filter the ledger']", "rafter 2·")
        page.locator(".bottom tbody tr").first.click()
        head = page.get_by_label("What is chosen", exact=True)
        expect(head.locator(".title b")).to_have_text("Rafter 2·AB-L")
        expect(head).to_contain_text("Column 2·A")
        section = head.get_by_label("Section of what is chosen")
        expect(section).to_have_value("IPE 450")
        page.locator(".bottom tbody tr").nth(1).click(modifiers=["Shift"])
        expect(head.locator(".title b")).to_have_text("2 members")
        section.fill("IPE 500")
        section.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2", timeout=90_000)
        expect(head).to_contain_text("Changed by hand")
        section.fill("IPE 5000")
        section.press("Enter")
        expect(head.get_by_role("alert")).to_contain_text("IPE 5000")
        head.get_by_role("button", name="Take back").click()
        expect(section).to_have_value("IPE 450", timeout=90_000)

    def test_a_column_of_the_ledger_is_widened_and_stays_so(self):
        page = self.page
        edge = page.locator(".bottom th .edge").first
        head = page.locator(".bottom th").first
        before = head.bounding_box()["width"]
        box = edge.bounding_box()
        page.mouse.move(box["x"] + 3, box["y"] + 8)
        page.mouse.down()
        page.mouse.move(box["x"] + 123, box["y"] + 8, steps=4)
        page.mouse.up()
        self.assertAlmostEqual(head.bounding_box()["width"], before + 120, delta=12)
        page.reload()
        page.wait_for_selector(".bottom tbody tr")
        self.assertAlmostEqual(head.bounding_box()["width"], before + 120, delta=12)
        edge.dblclick()
        self.assertLess(head.bounding_box()["width"], before + 60)
