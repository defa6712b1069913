"""Ordinary jobs from beginning to end through the real page: what comes out, and how many actions it takes.

An action is a click, a field that is filled, an option that is taken, or a key. The numbers are what each job may take: a page that
asks for more fails.
"""

import re

from playwright.sync_api import expect

from engine.chain import respond, run
from engine.document import Document, read_document
from engine.structure.audit import audit
from server.projects.models import Project
from tests.browser.case import BrowserCase


class Job(BrowserCase):
    """Counts what the designer does."""

    def setUp(self):
        super().setUp()
        self.actions = 0
        self.sign_in()

    def click(self, what: str, **more):
        self.actions += 1
        self.page.locator(what).first.click(**more)

    def press(self, key: str):
        self.actions += 1
        self.page.keyboard.press(key)

    def fill(self, label: str, text: str, enter: bool = True):
        """Fill the field of that label, and press Enter."""
        self.actions += 1
        field = self.page.locator(f"[aria-label='{label}'], label.field:has-text('{label}') input").first
        field.fill(text)
        if enter:
            self.actions += 1
            field.press("Enter")

    def take(self, label: str, option: str):
        self.actions += 2
        self.choose(label, option)

    def name_case(self, name: str):
        """Name a new case where the load says which it belongs to."""
        self.actions += 2
        self.page.locator("[role=combobox][aria-label='Case of the load']").press_sequentially(name)
        self.page.locator(".el-select-dropdown__item:visible").filter(has_text=name).first.wait_for()
        self.page.keyboard.press("Enter")

    def part(self, name: str):
        self.click(f"nav.parts button:has-text('{name}')", force=True)

    def stage(self, name: str):
        self.click(f"header nav button:has-text('{name}')")

    def start(self, how: str = "Empty"):
        self.fill("Name of the new project", "A job", enter=False)
        self.click(f".template:has-text('{how}')")
        self.page.wait_for_selector("nav.parts, tbody tr")

    def settled(self, revision: int):
        expect(self.page.locator(".rev")).to_have_text(f"rev {revision}")

    def chosen(self, words: str):
        """Wait until that many members are chosen."""
        expect(self.page.locator("h4:has-text('Chosen') span")).to_have_text(words)

    def document(self) -> Document:
        return read_document(Project.objects.get().head.content)

    def at_most(self, wanted: int):
        self.assertLessEqual(self.actions, wanted, f"{self.actions} actions")


class Jobs(Job):
    def test_a_building_of_storeys_copied_up_braced_and_clad(self):
        """3 x 4 bays, four levels; one of them with another load; braced, with walls, roof, snow and wind."""
        self.start()
        self.part("Jigs")
        self.click("button:has-text('Storeys')")
        self.settled(2)
        self.fill("Storeys above", "3 to 14.5")
        self.settled(3)
        self.click(".el-collapse-item__header:has-text('Storeys one by one')")
        self.page.locator(".each label.field:has-text('Imposed') input").first.fill("5")
        self.press("Enter")
        self.actions += 1
        self.settled(4)
        self.at_most(20)
        document = self.document()
        chain = run(document)
        self.assertEqual([level.height for level in chain.structure.levels], [4.0, 7.5, 11.0, 14.5])
        self.assertEqual(audit(chain.structure), [])
        case = next(i for i, c in enumerate(chain.loading.cases) if c.nature == "imposed" and c.category == "B")
        # 18 x 24 m: 3 + 5 + 3 kN/m2, by hand
        self.assertAlmostEqual(-chain.loading.expected[case][2] / (18 * 24 * 11e3), 1, delta=1e-9)
        foot = chain.structure.nodes.index("storeys-1/base-2-2")
        self.assertAlmostEqual(chain.response.reaction[foot, 2, case] / (6 * 6 * 11e3), 1, delta=5e-3)
        expect(self.page.locator("aside.left")).to_contain_text("Wall bracing")
        # it stands by rigid frames as well
        self.choose("Rigidly joined to columns", "all beams on columns")
        self.settled(5)
        self.fill("Braced fields", "")
        self.settled(6)
        rigid = respond(self.document()).structure
        self.assertEqual(audit(rigid), [])
        self.assertNotIn("wall bracing", {m.role for m in rigid.members})

    def test_a_truss_on_the_columns_of_a_building_repeated_clad_and_loaded(self):
        self.start()
        self.part("Jigs")
        self.click("button:has-text('Storeys')")
        self.settled(2)
        self.choose("Uppermost it has a", "columns alone")
        self.settled(3)
        self.page.wait_for_selector("[aria-label='Frame on grid 1']")
        # from here on: the building stands, and trusses are put on it
        self.actions = 0
        self.click("[aria-label='Frame on grid 1'] circle")
        self.click("path.grip[aria-label*='storeys-1·3-1-1']", force=True)
        self.click("path.grip[aria-label*='storeys-1·3-4-1']", force=True, modifiers=["Shift"])
        self.click("button:has-text('Truss on the two columns')")
        self.settled(4)
        self.fill("Height at the apex", "2.4")
        self.settled(5)
        self.at_most(15)
        structure = respond(self.document()).structure
        self.assertEqual(sum(m.role == "bottom chord" for m in structure.members), 5)
        self.assertEqual([s.what for s in audit(structure) if s.weight == "fault"], [])
        self.assertAlmostEqual(float(structure.xyz[:, 2].max()), 11.0 - 1.0 + 2.4)
        chain = respond(self.document())
        self.assertTrue(any(c.nature == "wind" for c in chain.loading.cases))
        self.assertTrue(any(c.nature == "snow" for c in chain.loading.cases))

    def test_a_load_on_all_roofs_without_some_members(self):
        self.start("24 m span, rafters")
        self.page.wait_for_selector("tbody tr")
        self.page.click("path.grip[aria-label^='Rafter']", force=True)
        self.actions = 0
        self.stage("Actions")
        self.part("By hand")
        self.name_case("Lighting")
        self.take("What bears the load", "surfaces")
        self.fill("Size of the load", "0.3", enter=False)
        self.click("label:has-text('take none of it')")
        # it is told and drawn before it is taken
        expect(self.page.locator(".told")).to_contain_text("2 panels")
        self.page.locator("[aria-label='Size of the load']").press("Enter")
        self.actions += 1
        self.settled(2)
        self.at_most(9)
        document = self.document()
        load = document.area_loads[0]
        self.assertEqual((load.on, len(load.excluded), document.cases[0].name), ("roofs", 1, "Lighting"))
        chain = respond(document)
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Lighting")
        self.assertNotIn(
            load.excluded[0],
            {chain.structure.members[m].name for m in chain.loading.spread.member[chain.loading.spread.case == case]},
        )
        roofs = [p for p in chain.structure.panels if p.kind == "roof"]
        self.assertAlmostEqual(-chain.loading.expected[case][2] / (300 * sum(p.area for p in roofs)), 1, delta=1e-9)

    def test_a_beam_over_two_spans_with_patterns_and_steps(self):
        """Two spans of 6 m by hand: 10 kN/m in patterns, and steps of a permanent load."""
        self.start()
        self.part("By hand")
        self.fill("Section to draw", "IPE 300", enter=False)
        self.fill("Typed point", "0, 0, 3; 6, 0, 3; 12, 0, 3")
        self.press("Enter")
        self.settled(2)
        self.take("Where the supports are", "all its ends")
        self.click(".holds >> text=pinned")
        self.settled(3)
        self.stage("Actions")
        self.part("By hand")
        self.name_case("Use")
        self.click("label:has-text('in patterns of spans')")
        self.fill("Size of the load", "10")
        self.settled(4)
        self.at_most(25)
        document = self.document()
        self.assertEqual([c.name for c in document.cases], ["Use, all spans", "Use, odd spans", "Use, even spans"])
        chain = respond(document)
        reactions = chain.response.reaction[:, 2].T / 1e3
        xs = chain.structure.xyz[:, 0]
        by_case = {c.name: reactions[i][xs.argsort()] for i, c in enumerate(chain.loading.cases)}
        # q l = 60: 3/8, 10/8, 3/8 of it; one span alone: 7/16, 10/16, −1/16 (beam tables)
        for name, shares in (
            ("Use, all spans", (3 / 8, 10 / 8, 3 / 8)),
            ("Use, odd spans", (7 / 16, 10 / 16, -1 / 16)),
        ):
            for found, share in zip(by_case[name], shares, strict=True):
                # shear deformation of the section moves them by less than one per cent
                self.assertAlmostEqual(found / (60 * share), 1, delta=0.03)

    def test_a_slab_on_concrete_columns_and_pads_with_a_steel_frame_above(self):
        """2 × 1 fields of 6 × 5 m, a slab that cantilevers by 1.5 m, a steel frame on it, timber purlins: drawn, loaded, analysed."""
        self.start()
        self.part("By hand")
        self.fill("Section to draw", "RECT 300x300", enter=False)
        self.fill("Grade to draw", "C25/30", enter=False)
        self.take("Role to draw", "column")
        self.fill("Typed point", "0, 0, 0; 0, 0, 3")
        self.press("Enter")
        self.settled(2)
        self.chosen("1 member")
        self.fill("Step", "6, 0, 0", enter=False)
        self.fill("Times", "2", enter=False)
        self.fill("Second step", "0, 5, 0", enter=False)
        self.click("button:has-text('Copy') >> nth=0")
        self.settled(3)
        self.part("Choose")
        # the list follows the analysis of what was copied
        expect(self.page.locator("ul.kinds li:has-text('column')")).to_contain_text("6", timeout=90_000)
        self.click("ul.kinds >> text=column")
        self.part("By hand")
        self.chosen("6 members")
        self.fill("Sides and depth of the pads", "2.2 × 2.2 × 0.6", enter=False)
        self.click("button:has-text('Stand on pads')")
        self.settled(4)
        self.fill("Typed point", "-1.5, 0, 3; 12, 0, 3; 12, 5, 3; -1.5, 5, 3")
        self.click("button:has-text('Make a slab')")
        self.settled(5)
        self.fill("Section to draw", "HEA 200", enter=False)
        self.fill("Grade to draw", "S355", enter=False)
        self.take("Role to draw", "member")
        self.fill("Typed point", "0, 0, 3; 0, 0, 6; 6, 0, 7; 12, 0, 6; 12, 0, 3")
        self.press("Enter")
        self.settled(6)
        self.chosen("4 members")
        self.fill("Step", "0, 5, 0", enter=False)
        self.fill("Times", "1", enter=False)
        self.fill("Second step", "", enter=False)
        self.click("button:has-text('Copy') >> nth=0")
        self.settled(7)
        self.fill("Section to draw", "RECT 120x240", enter=False)
        self.fill("Grade to draw", "C24", enter=False)
        self.take("Role to draw", "purlin")
        self.fill("Typed point", "0, 0, 6; 0, 5, 6")
        self.press("Enter")
        self.settled(8)
        self.chosen("1 member")
        self.fill("Step", "3, 0, 0.5", enter=False)
        self.fill("Times", "2", enter=False)
        self.click("button:has-text('Copy') >> nth=0")
        self.settled(9)
        self.fill("Typed point", "12, 0, 6; 12, 5, 6")
        self.press("Enter")
        self.settled(10)
        self.fill("Deck and finishes", "1.2")
        self.settled(11)
        self.fill("Imposed", "4")
        self.settled(12)
        self.at_most(60)
        document = self.document()
        chain = run(document)
        structure = chain.structure
        self.assertEqual([s.kind for s in audit(structure) if s.weight == "fault"], [])
        self.assertEqual(structure.masses().keys(), {"C25/30", "steel", "C24"})
        # by hand: 13.5 × 5 m of 4 kN/m², all of it on six pads
        case = next(i for i, c in enumerate(chain.loading.cases) if c.nature == "imposed")
        pads = list(structure.pads)
        self.assertAlmostEqual(chain.response.reaction[pads, 2, case].sum() / (67.5 * 4e3), 1, delta=1e-9)
        # it is symmetric about y = 2.5, and the cantilever leans on the first two columns
        by_x = {}
        for node in pads:
            by_x.setdefault(round(structure.xyz[node, 0]), []).append(chain.response.reaction[node, 2, case] / 1e3)
        for one, other in by_x.values():
            self.assertAlmostEqual(one, other, places=6)
        moments = sum(x * sum(pair) for x, pair in by_x.items())
        self.assertAlmostEqual(moments / (4 * 67.5 * 5.25), 1, delta=0.03)
        verdicts = {structure.members[v.member].material.name: v.status for v in chain.verification.verdicts}
        self.assertEqual((verdicts["C25/30"], verdicts["C24"]), ("not covered", "not covered"))
        # what goes on in the slab is seen
        page = self.page
        self.stage("Response")
        page.get_by_role("button", name="look into it").click()
        expect(page.locator(".slab svg[role=img]")).to_have_attribute("aria-label", re.compile("^slab 1: moment m_x"))
        expect(page.locator(".slab text.peak").first).to_be_visible()
        self.choose("What is shown of the slab", "movement w, mm")
        expect(page.locator(".slab .legend")).to_contain_text("positive downwards")
        page.click("button:has-text('Cut ↕')")
        expect(page.get_by_label("Cut through the slab")).to_contain_text("5.00 m")
        self.choose("Case or combination shown", "Q1 · ")
        self.choose("What is shown of the slab", "greater principal moment")
        expect(page.locator(".slab path.cross").first).to_be_visible()
        page.get_by_role("tab", name="Slabs").click()
        expect(page.locator("tbody tr", has_text="moment m_x,").filter(has_not_text="twisting")).to_have_count(1)
