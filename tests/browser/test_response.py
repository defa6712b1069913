"""The Response stage in the browser: values read on diagrams, combinations stepped through, modes and mechanisms drawn."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

import numpy as np
from playwright.sync_api import expect

from engine.chain import run
from engine.demo import drying_hall
from engine.document import read_document
from server.projects import revisions
from server.projects.changes import Change
from tests.browser.case import BrowserCase, short
from tests.engine.test_left_free import braced


class Response(BrowserCase):
    def setUp(self):
        super().setUp()
        self.document = short(drying_hall())

    def open(self, document):
        self.project = revisions.create(self.user, document, "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        self.page.wait_for_selector("tbody tr")
        self.page.click("header nav button:has-text('Response')")

    def shown(self):
        return self.page.locator("aside.right h4 .mono").first

    def test_a_value_read_on_a_diagram_is_the_engine_s(self):
        self.open(self.document)
        page = self.page
        chain = run(self.document)
        number = next(i for i, c in enumerate(chain.combinations) if c.use == "strength")
        name = chain.combinations[number].name
        self.choose("Case or combination shown", f"{name} ·")
        expect(self.shown()).to_have_text(name)
        # the worst member is chosen at first; its chart is read at its far end
        chart = page.locator(".chart svg")
        chart.focus()
        for _ in range(40):
            page.keyboard.press("ArrowRight")
        member = chain.structure.index[self.selected()]
        forces = chain.combined.diagrams([number])
        e = int(np.flatnonzero(chain.response.elements.member == member)[-1])
        read = page.locator(".chart text.read")
        wanted = [forces.N[e, -1, 0], forces.Vz[e, -1, 0], forces.My[e, -1, 0]]
        for k, value in enumerate(wanted):
            text = read.nth(k).text_content().replace("−", "-")
            self.assertAlmostEqual(float(text), value / 1000, delta=0.051)

    def selected(self):
        return self.page.evaluate(
            "() => document.querySelector('#app').__vue_app__.config.globalProperties.$pinia.state.value.workbench.selected"
        )

    def test_combinations_are_stepped_through_and_checked(self):
        self.open(self.document)
        page = self.page
        self.choose("Case or combination shown", "C1 ·")
        expect(self.shown()).to_have_text("C1")
        for key, number in ((".", "C2"), (".", "C3"), (",", "C2")):
            page.locator("body").press(key)
            expect(self.shown()).to_have_text(number)
        # drawings are saved with what they show, by the page's own rules for styles
        shown = self.shown().text_content()
        for button in (".tools button:has-text('Save picture')", ".chart button:has-text('Save picture')"):
            with page.expect_download() as kept:
                page.click(button)
            drawing = Path(kept.value.path()).read_text()
            self.assertIn(f"{shown}, revision 1</text>", drawing)
            self.assertIn("M_y" if "chart" in button else "24.00 m", drawing)
        expect(page.locator("aside.right")).to_contain_text("Applied, kN", timeout=90_000)
        expect(page.locator("aside.right")).to_contain_text("Lowest α_cr")
        page.click("button:has-text('Buckling modes')")
        first = page.locator("aside.right .buttons button.mono:not(:has-text('Hz'))").first
        first.click(timeout=90_000)
        expect(page.locator(".legend")).to_contain_text("buckling mode 1")
        page.click(".bottom [role=tab]:has-text('States')")
        expect(page.locator(".bottom tbody tr").first).to_contain_text("stands")

    def test_an_older_revision_beside(self):
        self.open(self.document)
        page = self.page
        read = page.locator(".chart text.read").nth(2)

        def at_the_end():
            # which member is the worst may change with the section
            page.locator(".bottom tbody tr:has-text('Column 4·A')").click()
            self.choose("Case or combination shown", "C1 ·")
            expect(self.shown()).to_have_text("C1")
            page.locator(".chart svg").focus()
            for _ in range(40):
                page.keyboard.press("ArrowRight")
            return read.text_content().replace("−", "-")

        before = at_the_end()
        changes = [Change("hall.sections.columns", "HEA 320")]
        revisions.edit(self.user, self.project.id, 1, "Columns HEA 320", changes)
        page.reload()
        page.wait_for_selector("tbody tr")
        page.click("header nav button:has-text('Response')")
        self.choose("What is drawn beside", "the same, revision 1")
        at_the_end()
        expect(page.locator(".legend")).to_contain_text("dashed: C1 of revision 1")
        self.assertGreater(page.locator("path.beside").count(), 2)
        expect(read).to_contain_text(" | ")
        now, old = at_the_end().split(" | ")
        self.assertEqual(old, before)
        self.assertNotEqual(now, old)

    def test_a_mechanism_is_drawn(self):
        self.open(
            read_document(
                {
                    "nodes": [
                        {"name": "a", "at": [0, 0, 0]},
                        {"name": "b", "at": [0, 0, 4]},
                        {"name": "c", "at": [5, 0, 4]},
                    ],
                    "members": [
                        {"name": "post", "start": "a", "end": "b", "section": "HEA 200"},
                        {"name": "arm", "start": "b", "end": "c", "section": "HEA 200"},
                    ],
                    "supports": [{"node": "a", "fixed": ["x", "y", "z", "rz"]}],
                    "cases": [{"name": "P"}],
                }
            )
        )
        expect(self.page.locator("aside.right")).to_contain_text("mechanism")
        expect(self.page.locator("aside.right")).to_contain_text("can move without resistance")

    def test_what_slack_members_leave_free_is_told_and_drawn_and_the_whole_shows_forces(self):
        data = braced("second")
        data["members"][0]["material"] = "S235"
        del data["combinations"][2]
        data["combinations"][0]["name"], data["combinations"][1]["name"] = "C1", "C2"
        self.open(read_document(data))
        page = self.page
        page.keyboard.press("0")
        self.choose("Case or combination shown", "C2 ·")
        sheet = page.locator("aside.right")
        expect(sheet).to_contain_text("leaves a mechanism")
        page.click("button:has-text('Draw how it moves')")
        expect(sheet).to_contain_text("how what acts here moves freely")
        page.click(".bottom [role=tab]:has-text('States')")
        expect(page.locator(".bottom tbody tr:has-text('C2')")).to_contain_text("a mechanism")
        # what stands shows its reactions on the whole building: the brace pulls the foot a down
        self.choose("Case or combination shown", "C1 ·")
        page.click(".tools button:has-text('Reactions')")
        chain = run(read_document(data))
        pull = chain.combined.reaction([0])[chain.structure.nodes.index("a"), 2, 0] / 1000
        figure = page.locator(".figure")
        expect(figure.filter(has_text=f"Z {pull:.1f}".replace("-", "−")).first).to_be_visible(timeout=90_000)
        # a bow for the chosen member, taken back by undo
        page.click(".bottom [role=tab]:has-text('Forces')")
        page.locator(".bottom tbody tr:has-text('ab')").first.click()
        expect(sheet).to_contain_text("HEA 200 · S235")
        page.click("button:has-text('Chosen, about y')")
        ratio = page.locator("[aria-label='L/e0 of ab']")
        expect(ratio).to_be_visible(timeout=90_000)
        ratio.fill("abc")
        ratio.press("Enter")
        expect(sheet).to_contain_text("is not a number")
        page.click("header [aria-label='Undo']")
        expect(ratio).to_have_count(0)
        with page.expect_download() as kept:
            page.click(".tools button:has-text('Save picture')")
        with open(kept.value.path(), "rb") as picture:
            self.assertEqual(picture.read(8), b"\x89PNG\r\n\x1a\n")

    def test_old_numbers_are_marked_until_the_new_ones_are_there(self):
        self.open(self.document)
        page = self.page
        page.click("header nav button:has-text('Frame')")
        row = page.locator(".bottom tbody tr:has-text('Rafter 4·AB-L')")
        page.click(".bottom [role=tab]:has-text('Members')")
        row.click()
        before = row.text_content()
        page.click("nav[aria-label='Parts of the frame sheet'] button:has-text('Choose')")
        held = []
        page.route("**/chain?*", lambda route: held.append(route))
        page.fill("[aria-label='New section']", "IPE 500")
        page.click("button:has-text('Change 1')")
        expect(page.locator("header")).to_contain_text("rev 2")
        # the numbers that stand there are those of revision 1, and say so
        expect(page.locator(".view .stale")).to_contain_text("numbers of revision 1")
        expect(page.locator(".bottom .stale")).to_contain_text("of revision 1")
        expect(page.locator("nav .link.refreshing")).not_to_have_count(0)
        self.assertEqual(row.text_content(), before)
        for route in held:
            route.continue_()
        page.unroute("**/chain?*")
        expect(page.locator(".stale")).to_have_count(0, timeout=90_000)
        expect(page.locator("nav .link.current")).to_have_count(8)
        self.assertNotEqual(row.text_content(), before)
        expect(row).to_contain_text("IPE 500")

    def test_paused_and_side_by_side_and_out_to_a_spreadsheet(self):
        self.open(self.document)
        page = self.page
        page.click(".tools button:has-text('Reactions')")
        self.choose("Case or combination shown", "C1 ·")
        expect(page.locator(".push text").first).to_be_visible(timeout=90_000)
        page.click("header button:has-text('Pause')")
        expect(page.locator("header button:has-text('Go live')")).to_be_visible()
        changes = [Change("hall.sections.rafters", "IPE 550")]
        revisions.edit(self.user, self.project.id, 1, "Rafters IPE 550", changes)
        page.reload()
        # a paused project opens without numbers, and gets them when asked
        expect(page.locator("header .run")).to_contain_text("Paused")
        expect(page.locator(".bottom tbody tr").first).to_be_visible()
        page.click("header button:has-text('Refresh now')")
        expect(page.locator("nav .link.current")).to_have_count(8, timeout=90_000)
        page.click("header nav button:has-text('Response')")
        self.choose("Case or combination shown", "C1 ·")
        self.choose("What is drawn beside", "the same, revision 1")
        page.click("button:has-text('Side by side')")
        expect(page.locator("text.which")).to_have_text(["C1 of revision 2", "C1 of revision 1"])
        expect(page.locator(".bottom tbody tr").nth(5)).to_be_visible()
        with page.expect_download() as kept:
            page.click(".bottom button:has-text('spreadsheet')")
        with zipfile.ZipFile(kept.value.path()) as book:
            words = book.read("xl/sharedStrings.xml").decode()
            cells = book.read("xl/worksheets/sheet1.xml").decode()
        self.assertIn("Forces, revision 2", words)
        self.assertGreater(len(re.findall(r"<v>-?\d+\.\d+</v>", cells)), 50)
