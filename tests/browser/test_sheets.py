"""The sheets of the stages: values of the site, limits and lengths, roles, the ledger by keyboard."""

from playwright.sync_api import expect

from engine.chain import run
from engine.demo import drying_hall
from server.projects import revisions
from tests.browser.case import BrowserCase, short


class Sheets(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, short(drying_hall()), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")

    def head(self):
        self.project.refresh_from_db()
        return self.project.head.content

    def set(self, label, value, revision):
        field = self.field(label)
        field.fill(value)
        field.press("Enter")
        expect(self.page.locator("header .rev")).to_have_text(f"rev {revision}")

    def test_site_values_show_what_follows_from_them(self):
        page = self.page
        page.click("header nav button:has-text('Site')")
        sheet = page.locator("aside.right")
        expect(sheet).to_contain_text("0.360 kN/m²")
        expect(sheet).to_contain_text("0.800 kN/m²")
        self.set("Basic wind speed", "90 km/h", 2)
        expect(sheet).to_contain_text("0.391 kN/m²")
        self.set("Ground snow", "1000 N/m²", 3)
        expect(sheet).to_contain_text("0.80 kN/m²")
        self.choose("Terrain", "III")
        expect(page.locator("header .rev")).to_have_text("rev 4")
        self.assertEqual(self.head()["site"]["terrain"], "III")
        self.assertEqual(self.head()["site"]["wind_speed"], 25.0)
        wrong = self.field("Ground snow")
        wrong.fill("-1")
        wrong.press("Enter")
        expect(page.locator("label.field:has-text('Ground snow') [role=alert]")).to_contain_text("at least 0")

    def test_a_limit_changes_the_verdict_and_not_the_forces(self):
        page = self.page
        before = run(short(drying_hall()))
        self.set("Rafters, chords", "400", 2)
        page.click("[role=tab]:has-text('Deflection')")
        page.fill("[aria-label='Filter the ledger']", "Rafter 4·AB-L")
        outcome = next(
            o
            for o in before.verification.verdicts[before.structure.index["frame-4/rafter-AB-left"]].outcomes
            if o.criterion == "deflection"
        )
        expect(page.locator("tbody tr").first).to_contain_text(f"{2 * outcome.utilisation:.2f}")

    def test_effective_lengths_can_be_set_and_given_back(self):
        page = self.page
        expect(page.locator("aside.right b").first).to_contain_text("Column")
        field = self.field("Columns: about y")
        expect(field).to_have_attribute("placeholder", "1.000")
        self.set("Columns: about y", "2.5", 2)
        self.assertEqual(self.head()["rules"]["effective_lengths"]["column"]["y"], 2.5)
        expect(page.locator("aside.right .lengths")).to_contain_text("15.00 m")
        self.set("Columns: about y", "", 3)
        self.assertIsNone(self.head()["rules"]["effective_lengths"]["column"]["y"])
        expect(page.locator("aside.right .lengths")).to_contain_text("6.00 m")

    def test_one_member_has_its_own_length(self):
        page = self.page
        expect(page.locator("aside.right b").first).to_contain_text("Column")
        wrong = self.field("Buckling about y")
        wrong.fill("0")
        wrong.press("Enter")
        expect(page.locator("label.field:has-text('Buckling about y') [role=alert]")).to_contain_text("0.1")
        self.set("Buckling about y", "2.5", 2)
        expect(page.locator("aside.right .lengths")).to_contain_text("set for this member")
        expect(page.locator("aside.right .lengths")).to_contain_text("15.00 m")
        [edit] = self.head()["edits"]
        self.assertEqual(edit["checks"]["buckling_y"], 2.5)
        self.set("Buckling about y", "", 3)
        expect(page.locator("aside.right .lengths")).to_contain_text("6.00 m")

    def test_partial_factors_make_other_combinations(self):
        page = self.page
        page.click("header nav button:has-text('Combinations')")
        self.set("γQ", "1.6", 2)
        page.fill("[aria-label='Filter the ledger']", "1.6 S1")
        expect(page.locator(".bottom tbody tr").first).to_contain_text("1.35 (G1 + G2) + 1.6 S1")

    def test_roles_hide_and_select(self):
        page = self.page
        grips = page.locator("path.grip")
        expect(grips).to_have_count(4)
        page.click("[aria-label='Show or hide Rafters']")
        expect(grips).to_have_count(2)
        page.click("[aria-label='Show or hide Rafters']")
        expect(grips).to_have_count(4)
        page.click("button.name:has-text('Wall bracing')")
        expect(page.locator("aside.right b").first).to_contain_text("Wall brace")

    def test_ledger_by_keyboard_and_view(self):
        page = self.page
        rows = page.locator("tbody tr")
        rows.first.focus()
        page.keyboard.press("ArrowDown")
        expect(rows.nth(1)).to_have_class("on")
        name = rows.nth(1).locator("td").first.inner_text()
        expect(page.locator("aside.right b").first).to_have_text(name)
        # pointing at a member in the view selects its row
        page.locator("path.grip[aria-label^='Rafter']").first.click(force=True)
        expect(page.locator("tr.on td").first).to_contain_text("Rafter")

    def test_a_combination_of_the_ledger_is_shown_on_the_frame(self):
        page = self.page
        page.click("header nav button:has-text('Combinations')")
        chain = run(short(drying_hall()))
        wanted = next(c for c in chain.combinations if c.formula == "1.35 (G1 + G2) + 1.5 S1 + 0.9 W5 + Φ(−X)")
        page.fill("[aria-label='Filter the ledger']", wanted.formula)
        page.click(f".bottom tbody tr:has-text('{wanted.formula}') >> nth=0")
        expect(page.locator(".caption .formula")).to_have_text(f"{wanted.name}: {wanted.formula}")
        # its loads are shown, and its forces where they are wanted: the moment at the eaves
        page.locator(".tools").get_by_role("button", name="Forces", exact=True).click()
        number, structure = chain.combinations.index(wanted), chain.structure
        column = chain.combined.elements.member == structure.index["frame-3/column-A"]
        eaves = abs(chain.combined.diagrams([number]).My[column]).max() / 1000
        expect(page.locator("svg text.figure", has_text=f"{eaves:.0f}").first).to_be_visible()

    def test_panels_fold_away(self):
        page = self.page
        page.click("[title='Fold the key plan']")
        expect(page.locator("text=Roles")).to_have_count(0)
        page.click("text=fold >> nth=-1")
        expect(page.locator("tbody")).to_have_count(0)

    def test_it_uses_a_large_screen(self):
        page = self.page
        page.set_viewport_size({"width": 1920, "height": 1080})
        page.wait_for_timeout(300)
        size = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
        self.assertEqual(size, [1920, 1080])
        box = page.locator("main.view").bounding_box()
        self.assertGreater(box["width"], 1300)
