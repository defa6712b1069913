"""Two people at one project, through the real page: invited by link, shared with, refused, told of one another."""

import re

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class Office(BrowserCase):
    def setUp(self):
        super().setUp()
        User.objects.filter(pk=self.user.pk).update(is_superuser=True)

    def invited(self, role="Designer"):
        """A second page, of dora, who took the link that ada made."""
        page = self.page
        page.click("nav >> text=Office")
        page.click("text=Invite…")
        page.fill("[placeholder='Whom the link is for']", "Dora")
        self.choose("Role", f"{role}:")
        page.click("text=Make the link")
        link = page.input_value("[aria-label=Link]")
        other = self.open_page()
        other.goto(link)
        other.fill("#name", "dora")
        for field in ("#password", "#again"):
            other.fill(field, "purlin-cleat-9")
        other.click("text=Make the account")
        other.wait_for_selector("h1:has-text('Projects')")
        page.reload()
        expect(page.locator("td:has-text('dora')").first).to_be_visible()
        return other

    def share(self, role, name="Test hall"):
        page = self.page
        page.goto(f"{self.live_server_url}/")
        page.locator("li", has_text=name).get_by_text("Share…").click()
        self.choose("Person to share with", "dora")
        self.pick_option(page.get_by_role("combobox", name="Share as"), re.compile(f"^{role}$"))
        page.get_by_role("button", name="Share", exact=True).click()
        expect(page.locator(".el-dialog li", has_text="dora")).to_contain_text(role)

    def test_a_checker_looks_and_cannot_change(self):
        self.employ()
        self.start_hall()
        address = self.page.url
        self.page.goto(f"{self.live_server_url}/")
        other = self.invited("Checker")
        expect(other.locator(".empty")).to_contain_text("share with you")
        self.share("Checker")
        other.reload()
        row = other.locator("li", has_text="Test hall")
        expect(row).to_contain_text("ada’s · you are checker")
        self.assertEqual(row.get_by_text("Delete").count() + row.get_by_text("Rename").count(), 0)
        row.get_by_role("link", name="Test hall").click()
        other.wait_for_selector("tbody tr")
        expect(other.locator(".read")).to_have_text("Read only")
        expect(other.get_by_role("button", name="Undo")).to_be_disabled()
        other.keyboard.press("Alt+2")
        spans = self.field("Eaves", other)
        expect(spans).to_have_attribute("readonly", "")
        other.keyboard.press("Control+z")
        expect(other.locator(".message")).to_contain_text("ada’s project: you are checker, and may not change it.")
        other.click(".message >> text=Close")
        # what the owner does arrives by itself
        self.page.goto(address)
        self.page.wait_for_selector("tbody tr")
        self.page.keyboard.press("Alt+2")
        self.field("Eaves").fill("6.5")
        self.field("Eaves").press("Enter")
        expect(other.locator(".message")).to_contain_text(re.compile("ada: .*eaves.* 6.5 m · revision 2 is shown"))
        expect(self.field("Eaves", other)).to_have_value("6.5")
        expect(other.locator(".rev")).to_have_text("rev 2")
        other.click(".rev")
        expect(other.locator("h1")).to_contain_text("History of Test hall")
        expect(other.locator("tbody tr")).to_have_count(3)
        expect(other.locator("tbody tr").nth(1)).to_contain_text("Shared with dora as checker")
        self.assertEqual(User.objects.get(username="dora").member.role, "checker")
        other.context.close()

    def test_an_account_of_ones_own(self):
        self.sign_in_by_hand()
        elsewhere = Client(HTTP_USER_AGENT="Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
        elsewhere.post("/sign-in/", {"username": "ada", "password": "gusset-plate"})
        page = self.page
        # an address that leads nowhere opens the projects
        page.goto(f"{self.live_server_url}/projects/")
        page.click("nav >> text=Account")
        expect(page.locator("tbody tr")).to_have_count(2)
        expect(page.locator("tbody")).to_contain_text("Firefox on Linux")
        page.get_by_role("button", name="Sign out").nth(1).click()
        expect(page.locator("tbody tr")).to_have_count(1)
        self.assertEqual(elsewhere.get("/api/me").status_code, 401)
        for old, new, again, words in (
            ("gusset-plate", "purlin-cleat-9", "purlin", "The two passwords differ."),
            ("gusset", "purlin-cleat-9", "purlin-cleat-9", "not your present password"),
            ("gusset-plate", "short", "short", "too short"),
        ):
            for place, text in zip((0, 1, 2), (old, new, again), strict=True):
                page.locator("input[type=password]").nth(place).fill(text)
            page.click("text=Change password")
            expect(page.locator("[role=alert]").first).to_have_text(re.compile(words))
        for place, text in zip((0, 1, 2), ("gusset-plate", "purlin-cleat-9", "purlin-cleat-9"), strict=True):
            page.locator("input[type=password]").nth(place).fill(text)
        page.click("text=Change password")
        expect(page.locator(".el-message")).to_contain_text("The password is changed")
        page.reload()
        expect(page.locator("h1")).to_have_text("Account")
