"""The Verification stage: restraints on the ribbon, proofs in any combination, what moves a member, filters."""

import re

from playwright.sync_api import expect

from engine.chain import run
from engine.document import Document, read_document
from engine.document.jigs import HallJig
from engine.document.rules import ROOF
from engine.editing.operations import ChangeMembers, MemberChange
from engine.sizing.levers import next_larger, proof_otherwise
from engine.verification.single import everything
from server.projects import revisions
from server.projects.models import Project, Revision
from tests.browser.case import BrowserCase
from tests.engine.test_rails import PULLED, craneway, pulled

RAFTER = "frame-2/rafter-AB-left"


def short_hall() -> Document:
    """Two bays of the usual hall, whose rafters fail sideways."""
    document = Document(name="Short", hall=HallJig(spacings=[6.0, 6.0]))
    document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
    return document


class Verifying(BrowserCase):
    def setUp(self):
        super().setUp()
        self.project = revisions.create(self.user, short_hall(), "Demo data")
        self.sign_in(f"/projects/{self.project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.fill("[aria-label='Filter the ledger']", "Rafter 2·AB-L")
        page.click("tbody tr")
        self.ribbon = page.locator("section[aria-label='Restraint ribbon']")
        expect(self.ribbon.locator("svg .mark").first).to_be_visible()

    def held(self, flange: str) -> list[float]:
        labels = self.ribbon.locator(f".mark[aria-label^='{flange} flange']").all()
        return [float((mark.get_attribute("aria-label") or "").split(" at ")[1].split(" m")[0]) for mark in labels]

    def revision(self, number: int) -> None:
        expect(self.page.locator("header .rev")).to_have_text(f"rev {number}")

    def test_a_stay_is_put_dragged_and_let_go(self):
        page = self.page
        before = self.held("Inner")
        # between the purlins without a stay, the open marks: the first of them
        free = self.ribbon.locator(".open").first
        free.hover()
        tip = self.ribbon.locator(".tip")
        expect(tip).to_contain_text("Inner flange held at")
        expect(tip).to_contain_text("→")
        free.click()
        self.revision(2)
        expect(self.ribbon.locator(".mark[aria-label^='Inner']")).to_have_count(len(before) + 1)
        [new] = set(self.held("Inner")) - set(before)
        self.assertIn(new, self.held("Outer"))
        mark = self.ribbon.locator(f".mark[aria-label^='Inner flange held at {new:.2f}']")
        box = mark.bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2 + 24, box["y"] + 5, steps=4)
        expect(tip).to_contain_text("drop it here")
        page.mouse.up()
        self.revision(3)
        expect(mark).to_have_count(0)
        [moved] = set(self.held("Inner")) - set(before)
        self.assertGreater(moved, new)
        # by the keyboard: let go, and taken back
        own = self.ribbon.locator(f".mark[aria-label^='Inner flange held at {moved:.2f}']")
        own.focus()
        page.keyboard.press("Delete")
        self.revision(4)
        expect(self.ribbon.locator(".mark[aria-label^='Inner']")).to_have_count(len(before))
        self.assertEqual(self.held("Inner"), before)
        page.keyboard.press("Control+z")
        expect(self.ribbon.locator(".mark[aria-label^='Inner']")).to_have_count(len(before) + 1)

    def test_what_the_jig_holds_is_let_go_and_the_verdict_follows(self):
        page = self.page
        before = self.held("Inner")
        page.locator(f".mark[aria-label^='Inner flange held at {before[0]:.2f}']").click()
        self.revision(2)
        expect(self.ribbon.locator(".mark[aria-label^='Inner']")).to_have_count(len(before) - 1)
        edit = Project.objects.get(pk=self.project.pk).head.content["edits"][0]
        self.assertAlmostEqual(edit["freed_inner"][0], before[0], places=2)

    def test_places_are_typed_repeated_and_copied_to_all_alike(self):
        page = self.page
        page.fill("[aria-label='Hold at, m']", "1.1")
        page.fill("[aria-label='and then every, m']", "2")
        page.click("button:has-text('Hold')")
        self.revision(2)
        for place in (1.1, 3.1, 5.1):
            expect(self.ribbon.locator(f".mark[aria-label^='Inner flange held at {place:.2f}']")).to_have_count(1)
        page.click("button:has-text('alike')")
        self.revision(3)
        document = Project.objects.get(pk=self.project.pk).head.content
        self.assertEqual(len([e for e in document["edits"] if 3.1 in e["restraints_inner"]]), 6)
        page.fill("[aria-label='Hold at, m']", "99")
        page.click("button:has-text('Hold')")
        expect(self.ribbon.locator(".wrong")).to_contain_text("beyond the length")

    def test_a_proof_in_another_combination_and_two_side_by_side(self):
        page = self.page
        chain = run(short_hall())
        index = chain.structure.index[RAFTER]
        found = everything(chain.verification, index)[0]
        order = (-found.utilisation).argsort(kind="stable")
        names = [chain.combinations[found.used[c]].name for c in order[:3].tolist()]
        page.click(f".criteria .next:has-text('{names[1]}')")
        expect(page.locator(".el-drawer .lead")).to_contain_text(f"in {names[1]} =")
        self.assertAlmostEqual(self.last()[0], found.utilisation[order[1]], delta=0.006)
        self.choose("Beside this proof", f"{names[0]} ·")
        expect(page.locator(".el-drawer ol li.heads b")).to_have_text([names[1], names[0]])
        for shown, column in zip(self.last(), order[[1, 0]].tolist(), strict=True):
            self.assertAlmostEqual(shown, found.utilisation[column], delta=0.006)

    def test_another_section_and_another_method_beside_a_proof(self):
        page = self.page
        chain = run(short_hall())
        page.fill("[aria-label='Filter the ledger']", "Column 2·A")
        page.click("tbody tr")
        page.click(".criteria button:has-text('Buckling under')")
        lead = page.locator(".el-drawer .lead")
        expect(lead).to_contain_text("Buckling under N + M")
        combination = re.search(r" in (\w+) =", lead.inner_text())[1]
        column = chain.structure.member("frame-2/column-A")

        def other(operations, methods):
            which = "interaction", combination
            return proof_otherwise(chain, column.name, operations, methods, which)[0].utilisation

        self.choose("Beside this proof", "k_ij by annex A")
        expect(page.locator(".el-drawer ol li.heads b")).to_have_text(["annex B", "annex A"])
        now, annex_a = self.last()
        self.assertAlmostEqual(annex_a, other((), {"interaction": "annex A"}), delta=0.006)
        expect(page.locator(".el-drawer .told button")).to_have_count(0)
        heavier = next_larger(column.section).name
        self.choose("Beside this proof", f"{heavier} ·")
        expect(page.locator(".el-drawer ol li.heads b")).to_have_text([column.section.name, heavier])
        change = ChangeMembers(members=[column.name], change=MemberChange(section=heavier))
        self.assertAlmostEqual(self.last()[1], other((change,), {}), delta=0.006)
        self.assertLess(self.last()[1], now)
        page.click(".el-drawer .told button:has-text('Take')")
        self.revision(2)
        expect(page.locator("aside.right .head").first).to_contain_text(heavier)

    def last(self) -> list[float]:
        """What the last line of the proof says."""
        return [float(words) for words in self.page.locator(".el-drawer ol li").last.locator("b").all_inner_texts()]

    def test_what_moves_it_is_taken(self):
        page = self.page
        line = page.locator("aside.right li", has_text="section")
        expect(line).to_contain_text("IPE 400")
        line.locator("button").click()
        self.revision(2)
        expect(page.locator("aside.right .head").first).to_contain_text("IPE 400")

    def test_an_effective_length_is_taken_and_says_where_it_comes_from(self):
        page = self.page
        page.fill("[aria-label='Filter the ledger']", "Column 2·A")
        page.click("tbody tr")
        own = page.locator(".lengths")
        expect(own.locator("b").first).to_have_text("6.00 m")
        before = page.locator(".criteria button", has_text="Buckling under").locator("b").inner_text()
        option = self.offered(own.get_by_role("combobox").first, "frame, swaying")
        factor = float(option.locator("b").inner_text())
        self.assertGreater(factor, 2.0)
        option.click()
        self.revision(2)
        expect(own.locator("b").first).to_have_text(f"{factor * 6:.2f} m")
        expect(own.locator("small").first).to_contain_text("stiffness of the frame at its ends, swaying, G = ∞")
        # about z twice the length: the verdict follows
        self.choose("Way to the effective length about z", "fixed and free")
        self.revision(3)
        expect(own.locator("b").nth(1)).to_have_text("12.00 m")
        expect(page.locator(".criteria button", has_text="Buckling under").locator("b")).not_to_have_text(before)
        # typed by hand it says so
        typed = page.locator("label.field", has_text="Buckling about y").locator("input")
        typed.fill("2.2")
        typed.press("Enter")
        self.revision(4)
        expect(own.locator("small").first).to_contain_text("2.2 × own length, set for this member")
        self.choose("Way to the effective length about y", "by its role")
        self.revision(5)
        expect(own.locator("b").first).to_have_text("6.00 m")

    def test_the_length_of_one_segment_is_typed(self):
        page = self.page
        page.click("aside.right .el-collapse-item__header:has-text('Lateral buckling, by segment')")
        field = page.locator("aside.right label.field", has_text="inner 0.00 to").locator("input")
        own, use = float(field.get_attribute("placeholder") or ""), self.ribbon.locator("svg .figure").nth(9)
        before = (use.text_content() or "").strip()
        field.fill(f"{own / 2:g}")
        field.press("Enter")
        self.revision(2)
        expect(use).not_to_have_text(before)
        [stated] = Project.objects.get(pk=self.project.pk).head.content["edits"][0]["checks"]["lateral"]
        self.assertEqual((stated["flange"], round(stated["factor"], 2)), ("inner", 0.5))
        field.fill("100")
        field.press("Enter")
        expect(page.locator("aside.right label.field.wrong")).to_contain_text("ten times")
        field.fill("")
        field.press("Enter")
        self.revision(3)

    def test_holes_at_the_ends_bring_the_net_section(self):
        page = self.page
        page.fill("[aria-label='Filter the ledger']", "Wall brace 1·A up")
        page.click("tbody tr")
        field = page.locator("label.field", has_text="Diameter of the holes").locator("input")
        field.fill("22")
        field.press("Enter")
        # the next change waits for none of it: neither is lost
        page.fill("[aria-label='Remark on this member']", "Two M20, see sheet S-204.")
        page.locator("[aria-label='Remark on this member']").blur()
        self.revision(3)
        across = page.locator("label.field", has_text="Holes in a section").locator("input")
        across.fill("2")
        across.press("Enter")
        self.revision(4)
        [edit] = Project.objects.get(pk=self.project.pk).head.content["edits"]
        self.assertEqual((edit["checks"]["holes"]["d0"], edit["checks"]["holes"]["across"]), (22, 2))
        page.click(".criteria button:has-text('Net section')")
        expect(page.locator(".el-drawer .remark")).to_have_text("Two M20, see sheet S-204.")
        expect(page.locator(".el-drawer .lead")).to_contain_text("Net section in tension, EN 1993-1-1 6.2.3(2)")
        expect(page.locator(".el-drawer ol")).to_contain_text("6.2.2.2(3)")

    def test_filters_light_up_the_view(self):
        page = self.page
        page.fill("[aria-label='Filter the ledger']", "")
        chain = run(short_hall())
        failing = sum(v.status == "fails" for v in chain.verification.verdicts)
        expect(page.locator(".filters .el-check-tag", has_text="fails")).to_contain_text(str(failing))
        self.assertEqual(page.locator("svg .faded").count(), 0)
        stability = sum(v.governing.criterion in ("interaction", "lateral") for v in chain.verification.verdicts)
        page.click(".filters .el-check-tag:has-text('stability governs')")
        expect(page.locator("section[aria-label=Ledger] tbody tr")).to_have_count(stability)
        self.assertGreater(page.locator("svg .faded").count(), 0)
        page.click(".filters button:has-text('show all')")
        expect(page.locator("section[aria-label=Ledger] tbody tr")).to_have_count(len(chain.verification.verdicts))
        expect(page.locator("svg .faded")).to_have_count(0)


class Carried(BrowserCase):
    def test_what_bracing_stabilises_is_listed_and_bearing_is_stated_by_member(self):
        self.start_hall()
        page = self.page
        sheet = page.locator("aside.right")
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        expect(sheet).to_contain_text("What bracing stabilises")
        row = sheet.locator(".checks button", has_text="lines over")
        expect(row).to_contain_text("kN/m")
        row.click()
        expect(page.locator(".caption .formula")).to_contain_text("C")
        # a proof of a brace says how much of its force comes from there
        page.locator(".bottom tbody tr:has-text('Roof brace 1')").first.click()
        sheet.get_by_role("button", name="Proof").click()
        expect(page.get_by_role("dialog")).to_contain_text("bracing carries for the members which lean on it")
        page.keyboard.press("Escape")
        page.locator(".bottom tbody tr:has-text('Rafter 4')").first.click()
        self.field("Stiff bearing length").fill("120")
        self.field("Stiff bearing length").press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        sheet.locator(".el-switch", has=page.get_by_label("Stiffeners where something presses")).click()
        expect(page.locator("header .rev")).to_have_text("rev 3")
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(self.field("Stiff bearing length")).to_have_value("")
        expect(page.locator("header nav .link.current")).to_have_count(8)


class Purlins(BrowserCase):
    def test_sheeting_and_slenderness_are_stated_by_role(self):
        document = short_hall()
        document.hall.purlins.modelled = True
        project = revisions.create(self.user, document, "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.fill("[aria-label='Filter the ledger']", "Purlin 1")
        page.click("tbody tr")
        sheet = page.locator("aside.right")
        # what sheeting needs stands there before any is stated
        figure = sheet.locator(".pairs b[title*='BB.2.1']")
        expect(figure).to_have_text("0 kN")
        field = sheet.locator("label.field", has_text="Purlins: S").locator("input")
        field.fill("100000")
        field.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(sheet.locator(".pairs b[title*='holds the outer flange all along']")).to_have_text("100000 kN")
        field = sheet.locator("label.field", has_text="Purlins: C_θ").locator("input")
        field.fill("50")
        field.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 3")
        expect(sheet.locator(".pairs b[title*='does not twist']")).to_have_text("50.00 kNm/m")
        field = sheet.locator("h4:has-text('Slenderness') ~ label.field", has_text="Purlins").first.locator("input")
        field.fill("20")
        field.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 4")
        expect(sheet.locator(".criteria")).to_contain_text("Slenderness")
        expect(sheet.locator(".verdict")).to_contain_text("fails · Slenderness")
        field.blur()
        page.keyboard.press("Control+z")
        expect(sheet.locator(".criteria")).not_to_contain_text("Slenderness")

    def test_what_stays_lead_to_is_found_or_stated(self):
        project = revisions.create(self.user, short_hall(), "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.fill("[aria-label='Filter the ledger']", "Rafter 2")
        page.click("tbody tr")
        sheet = page.locator("aside.right")
        # nothing is known of purlins without a section: what they would need stands there
        expect(sheet.locator("p.uncovered", has_text="nothing is known of what they lead to")).to_be_visible()
        expect(sheet.locator(".pairs b[title*='nothing is known of what it does lead to']")).to_contain_text("≥")
        field = sheet.locator("label.field", has_text="Rafters, one stay: C_θ").locator("input")
        field.fill("0.01")
        field.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 2")
        expect(sheet.locator(".verdict")).to_contain_text("fails · Stiffness of stays")
        field.fill("5000")
        field.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 3")
        expect(sheet.locator(".verdict")).not_to_contain_text("Stiffness of stays")
        field = sheet.locator("label.field", has_text="Rafters, one stay: M_Rd").locator("input")
        field.fill("10")
        field.press("Enter")
        expect(sheet.locator(".criteria")).to_contain_text("Moment from stays")
        sheet.locator(".criteria").get_by_text("Stiffness of stays").click()
        proof = page.locator(".el-drawer", has_text="Taken as given")
        expect(proof).to_contain_text("what is stated for them")

    def test_a_table_says_what_purlins_bear(self):
        project = revisions.create(self.user, short_hall(), "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        sheet = page.locator("aside.right")
        page.click("nav button:has-text('Frame')")
        sheet.locator(".el-collapse-item__header", has_text="Purlins and rails").click()
        bad = {"name": "z.csv", "mimeType": "text/csv", "buffer": b"profile,span,down,up\nZ 200,0,3,2\n"}
        good = {"name": "z.csv", "mimeType": "text/csv", "buffer": b"profile,span,down,up\nZ 200,6,9,0.5\n"}
        sheet.locator("input[type=file]").set_input_files(bad)
        expect(sheet.get_by_role("alert").last).to_contain_text("Row 2: span")
        sheet.locator("input[type=file]").set_input_files(good)
        expect(page.locator("header .rev")).to_have_text("rev 2")
        sheet.get_by_role("button", name="Z 200", exact=True).click()
        expect(sheet.locator("table", has_text="in line")).to_contain_text("0.50")
        self.choose("Purlins are verified by", "table: Z 200")
        expect(page.locator("header .rev")).to_have_text("rev 3")
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        expect(sheet).to_contain_text("Z 200 over 6 m")
        expect(sheet.locator("tr", has_text="lifted").locator("td.fails")).to_be_visible()
        expect(sheet).to_contain_text("their table says nothing of deflection")
        expect(sheet).not_to_contain_text("no table says what they bear")
        # the same purlins computed as cold-formed ones, with how they fare step by step
        page.click("nav button:has-text('Frame')")
        sheet.locator(".el-collapse-item__header", has_text="Purlins and rails").click()
        self.choose("Purlins are verified by", "cold-formed, computed")
        expect(page.locator("header .rev")).to_have_text("rev 4")
        self.field("Sheeting: C_D").fill("2")
        self.field("Sheeting: C_D").press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 5")
        page.click("nav button:has-text('Verification')")
        expect(sheet).to_contain_text("Z 200x2.0 S350GD over 6 m")
        expect(sheet).to_contain_text("sheeting that holds it sideways, with S of")
        sheet.get_by_role("button", name="What they bear, step by step").click()
        steps = page.get_by_role("dialog")
        expect(steps).to_contain_text("Free flange in compression, lifted")
        expect(steps).to_contain_text("(10.7)")
        page.keyboard.press("Escape")
        # the lightest of the series that passes is named, and taken
        sheet.get_by_role("button", name="Other sections").click()
        expect(sheet.locator("tr", has_text="Z 200x2.0").last).to_contain_text("now")
        words = sheet.get_by_text("The lightest that passes is").inner_text()
        lightest = words.split("is ")[1].split(". ")[0]
        sheet.get_by_role("button", name=f"Take {lightest}", exact=True).click()
        expect(page.locator("header .rev")).to_have_text("rev 6")
        expect(sheet).to_contain_text(f"{lightest} S350GD over 6 m")
        expect(sheet.locator("table.plain").first.locator("td.fails")).to_have_count(0)

    def test_a_set_of_limits_is_taken_role_by_role(self):
        document = short_hall()
        document.rules.deflections["main beam"] = 400
        project = revisions.create(self.user, document, "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.click("nav button:has-text('Verification')")
        sheet = page.locator("aside.right")
        for number, name, sway in ((2, "Brittle finishes", "300"), (3, "Metal sheeting", "150")):
            self.pick_option(
                sheet.locator("label.field", has_text="By what hangs on the steel").get_by_role("combobox"), name
            )
            expect(page.locator("header .rev")).to_have_text(f"rev {number}")
            expect(sheet.locator("label.field", has_text="Columns, sway").locator("input")).to_have_value(sway)
        rules = Project.objects.get(pk=project.id).head.content["rules"]
        self.assertEqual(rules["deflections"].get("side rail"), 150)
        # what no set says stays out, what another one said is gone
        self.assertEqual(rules["deflections_variable"], {})

    def test_a_limit_is_written_as_engineers_write_it(self):
        self.start_hall()
        page = self.page
        page.click("nav button:has-text('Verification')")
        field = self.field("Rafters, chords")
        for number, written, ratio, mm in ((2, "L/250, 25 mm", 250, 25), (3, "250", 250, None)):
            field.fill(written)
            field.press("Enter")
            expect(page.locator("header .rev")).to_have_text(f"rev {number}")
            rules = Project.objects.get().head.content["rules"]
            self.assertEqual(rules["rafter_deflection_ratio"], ratio)
            self.assertEqual({r: own["total_mm"] for r, own in rules["limits"].items()}, dict.fromkeys(ROOF, mm))
        expect(field).to_have_value("250")
        field.fill("25 mm, 30 mm")
        field.press("Enter")
        expect(page.locator("label.field:has-text('Rafters, chords') [role=alert]")).to_have_text(
            "Millimetres are stated twice."
        )
        self.assertEqual(Revision.objects.count(), 3)


class Cranes(BrowserCase):
    """Two clamped columns with brackets; the crane pulls on one rail."""

    def test_rails_are_put_on_brackets_that_are_chosen(self):
        data = craneway(loads=pulled(force=20.0))
        data["crane_rails"] = []
        project = revisions.create(self.user, read_document({**data, "name": "Craneway"}), "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        page.click("text=more are left out")
        expect(page.locator("aside.right")).to_contain_text("cranes act, and no crane rails are stated")
        rails = page.locator(".fold", has_text="Crane rails")
        add = rails.locator("button.add")
        expect(add).to_be_disabled()
        rows = page.locator("tbody tr", has_text=re.compile("^b"))
        expect(rows).to_have_count(4)
        rows.first.click()
        for k in (1, 2, 3):
            rows.nth(k).click(modifiers=["ControlOrMeta"])
        expect(add).to_have_text("Rails on the 4 chosen members")
        add.click()
        expect(page.locator("header .rev")).to_have_text("rev 2")
        stated = Project.objects.get(pk=project.id).head.content["crane_rails"]
        self.assertEqual([(r["name"], set(r["members"])) for r in stated], [("Crane 1", {"b1L", "b1R", "b2L", "b2R"})])
        # 4.4 mm × 2.5 by hand, beside 10 mm: PULLED of tests/engine/test_rails.py
        expect(page.locator("tbody tr", has_text="c1L")).to_contain_text(f"{PULLED * 20 / 8 / 0.010:.2f} fails")
        # cases of a crane that stands where brackets are chosen, and once more with other loads
        page.click("nav button:has-text('Actions')")
        page.click("nav.parts >> text=By hand")
        for number, (most, across) in ((3, ("60", "8")), (4, ("90", "8"))):
            for label, text in (
                ("Most on one rail", most),
                ("At once on the other", "30"),
                ("Across, both rails", across),
            ):
                page.fill(f"[aria-label='{label}']", text)
            page.click("button:has-text('Cases at 2 frames')")
            expect(page.locator("header .rev")).to_have_text(f"rev {number}")
        made = Project.objects.get(pk=project.id).head.content
        own = [c for c in made["cases"] if c["excludes"] == "Crane 1"]
        self.assertEqual(len(own), 8)
        loads = {
            load["node"]: load["force"] for load in made["node_loads"] if load["case"] == "Crane 1 at 2, second rail, ←"
        }
        self.assertEqual(loads, {"tip2L": [-4.0, 0.0, -30.0], "tip2R": [-4.0, 0.0, -90.0]})
        page.click("nav button:has-text('Verification')")
        page.keyboard.press("Escape")
        expect(page.locator("aside.right")).not_to_contain_text("no crane rails are stated")
        spread = self.field("Apart or together")
        spread.fill("20")
        spread.press("Enter")
        expect(page.locator("header .rev")).to_have_text("rev 5")
        rails.get_by_role("button", name="Delete the rails of Crane 1").click()
        expect(page.locator("header .rev")).to_have_text("rev 6")
        self.assertEqual(Project.objects.get(pk=project.id).head.content["crane_rails"], [])


class DesignMembers(BrowserCase):
    def test_pieces_of_one_line_are_one_row_and_chosen_together(self):
        document = read_document(
            {
                "name": "Pieces",
                "nodes": [{"name": n, "at": [4.0 * k, 0, 3]} for k, n in enumerate("abcd")],
                "members": [
                    {"name": f"piece {k + 1}", "start": a, "end": b, "section": "IPE 300", "role": "main beam"}
                    for k, (a, b) in enumerate(("ab", "bc", "cd"))
                ],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z", "rx"]},
                    {"node": "c", "fixed": ["y", "z", "rx"]},
                    {"node": "d", "fixed": ["y", "z", "rx"]},
                ],
                "cases": [{"name": "Q", "nature": "imposed"}],
                "member_loads": [{"case": "Q", "member": "piece 1", "value": [0, 0, -10]}],
            }
        )
        project = revisions.create(self.user, document, "Demo data")
        self.sign_in(f"/projects/{project.id}")
        page = self.page
        page.wait_for_selector("tbody tr")
        page.click("section[aria-label='Ledger'] >> text=Design members")
        row = page.locator("section[aria-label='Ledger'] tbody tr")
        expect(row).to_have_count(1)
        expect(row).to_contain_text("piece 1 … piece 3")
        expect(row).to_contain_text("12.00")
        row.click()
        page.click("header nav button:has-text('Frame')")
        expect(page.locator("aside.right")).to_contain_text("3 members")
