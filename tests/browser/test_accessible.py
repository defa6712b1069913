"""Every view under axe-core: nothing that it calls serious or critical."""

from django.conf import settings
from django.contrib.auth.models import User
from django.test import override_settings

from server.people import accounts
from tests.browser.case import BrowserCase

AXE = settings.ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
ASK = """axe.run(document, {resultTypes: ['violations']}).then(found => found.violations
    .filter(v => ['serious', 'critical'].includes(v.impact))
    .map(v => `${v.id}: ${v.help} (${v.nodes.map(n => n.html.slice(0, 120)).join(' · ')})`))"""


def serious(page):
    """What axe-core finds serious or critical in what a page shows."""
    page.evaluate(AXE.read_text())
    return page.evaluate(ASK)


class Accessible(BrowserCase):
    def setUp(self):
        super().setUp()
        User.objects.filter(pk=self.user.pk).update(is_superuser=True)

    def clean(self, view):
        self.assertEqual(serious(self.page), [], view)

    def test_pages(self):
        page = self.page
        for path, view in (
            ("/sign-in/", "sign-in"),
            ("/invited/none", "an invitation that was used"),
            (f"/invited/{accounts.invite(self.user, 'viewer', 'Dora')}", "invitation"),
        ):
            page.goto(self.live_server_url + path)
            self.clean(view)
        self.sign_in()
        self.clean("no projects")
        page.fill("[aria-label='Name of the new project']", "Shed")
        page.click(".template:has-text('Empty')")
        page.wait_for_selector(".view .waiting")
        self.clean("an empty project")
        for path, shown, view in (
            ("/", "li", "projects"),
            ("/office", "td:has-text('ada')", "office"),
            ("/account", "td", "account"),
        ):
            page.goto(self.live_server_url + path)
            page.wait_for_selector(shown)
            self.clean(view)
        page.goto(f"{self.live_server_url}/office")
        page.click("text=Invite…")
        page.wait_for_selector("[placeholder='Whom the link is for']")
        page.wait_for_timeout(400)
        self.clean("inviting")
        page.goto(f"{self.live_server_url}/")
        page.click("text=Share…")
        page.wait_for_selector("text=All of the office")
        page.wait_for_timeout(400)
        self.clean("sharing")
        page.click("[aria-label='Close this dialog'] >> visible=true")
        page.click("text=History")
        page.wait_for_selector("td")
        self.clean("history")

    @override_settings(WORKERS=False)
    def test_every_stage(self):
        self.start_hall()
        page = self.page
        for number in range(1, 9):
            page.keyboard.press(f"Alt+{number}")
            page.wait_for_selector("nav .link.on")
            page.wait_for_load_state("networkidle")
            self.clean(f"stage {number}")
        page.wait_for_selector(".sheets canvas")
        page.get_by_role("button", name="7 Verification").click()
        page.wait_for_load_state("networkidle")
        self.clean("a chapter of the dossier")
        page.keyboard.press("Alt+6")
        page.click(".criteria button >> nth=0")
        page.wait_for_selector(".el-drawer .katex")
        page.wait_for_timeout(400)
        self.clean("proof")
        page.keyboard.press("Escape")
        page.keyboard.press("0")
        page.wait_for_selector("canvas")
        self.clean("whole building")
        page.keyboard.press("Control+k")
        page.wait_for_selector("[role=option]")
        page.wait_for_timeout(400)
        self.clean("palette")
        page.keyboard.press("Escape")
        page.wait_for_selector(".palette", state="hidden")
        page.wait_for_timeout(100)
        page.keyboard.press("Alt+2")
        page.click("[aria-label^='Choose a section for'] >> nth=0")
        page.wait_for_selector(".el-dialog svg")
        page.wait_for_timeout(400)
        self.clean("choosing a section")
