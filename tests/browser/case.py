"""A live server and a browser for tests of the real page."""

from __future__ import annotations

import os
import re
from threading import Event, Thread
from time import monotonic

from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.db import connection, connections
from django.test import Client, override_settings
from playwright.sync_api import Locator, Page, Request, TimeoutError, expect, sync_playwright

from command.environment import chromium
from engine.document import Document
from engine.document.jigs import HallJig
from engine.document.rules import Inside
from server.projects import revisions, tasks
from server.projects.models import Run
from tests.quick import quick_passwords

# a busy machine may need a while; what never comes fails all the same
expect.set_options(timeout=60_000)
ARGUMENTS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--enable-unsafe-swiftshader",
]

# nothing moves by itself: what a test waits for is there at once
STILL = """addEventListener('DOMContentLoaded', () => {
  const still = new CSSStyleSheet()
  still.replaceSync('*, ::before, ::after { transition: none !important; animation: none !important }')
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, still]
})"""


def short(document: Document) -> Document:
    """A hall of four bays with one internal pressure: a third of the combinations and half of the members, and the page is the same."""
    assert document.hall
    document.hall.spacings = [6.0] * 4
    document.wind.inside = Inside(kind="own", values=[0.2])
    return document


@quick_passwords
class BrowserCase(StaticLiveServerTestCase):
    """Each test gets a page of its own, signed in as `ada`; errors and foreign requests of the page fail the test."""

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright runs an event loop in this thread; Django must still let the test use the database
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=chromium(), args=ARGUMENTS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        self.user = User.objects.create_user("ada", password="gusset-plate")
        self.troubles: list[str] = []
        self.asked: dict[Page, set[Request]] = {}
        self.page = self.open_page()

    def tearDown(self) -> None:
        # a request still being answered would hold the tables that are emptied next
        self._settle()
        self.page.context.close()
        self.assertEqual(self.troubles, [])

    def _settle(self) -> None:
        """Until the page waits for no answer. Its state “networkidle” would not do: once reached it stays, whatever is asked later."""
        asked, end, quiet = self.asked[self.page], monotonic() + 60, 0
        while quiet < 3 and monotonic() < end:
            self.page.wait_for_timeout(100)
            quiet = 0 if asked else quiet + 1

    def employ(self) -> None:
        """Have runs done by a worker, a thread in this process, as they are with worker processes."""
        done = Event()

        def work() -> None:
            while not done.wait(0.05):
                for pk in list(Run.objects.filter(state=Run.State.WAITING).order_by("id").values_list("pk", flat=True)):
                    tasks.perform(pk)
            connections.close_all()

        def dismiss() -> None:
            done.set()
            worker.join()
            with connection.cursor() as cursor:
                cursor.execute("TRUNCATE procrastinate_jobs CASCADE")

        workers = override_settings(WORKERS=True)
        workers.enable()
        self.addCleanup(workers.disable)
        worker = Thread(target=work)
        worker.start()
        self.addCleanup(dismiss)

    def open_page(self) -> Page:
        """A page in a fresh context of 1280 × 800."""
        page = self.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.add_init_script(STILL)
        page.set_default_timeout(90_000)
        asked = self.asked[page] = set()
        page.on("request", lambda request: asked.add(request))
        page.on("requestfinished", lambda request: asked.discard(request))
        page.on("requestfailed", lambda request: asked.discard(request))
        page.on("pageerror", lambda error: self.troubles.append(str(error)))
        page.on("request", lambda request: self._own(request.url))
        page.on(
            "console",
            lambda message: (
                self.troubles.append(message.text)
                if message.type == "error" and "status of 4" not in message.text
                else None
            ),
        )
        return page

    def _own(self, url: str) -> None:
        if not url.startswith((self.live_server_url, "blob:", "data:")):
            self.troubles.append(f"asked another host: {url}")

    def sign_in(self, to: str = "/") -> None:
        """Be signed in, and go somewhere."""
        client = Client()
        client.force_login(self.user)
        session = client.cookies["sessionid"].value
        self.page.context.add_cookies([{"name": "sessionid", "value": session, "url": self.live_server_url}])
        self.page.goto(f"{self.live_server_url}{to}")
        if to == "/":
            self.page.wait_for_selector("h1:has-text('Projects')")

    def sign_in_by_hand(self) -> None:
        """Sign in through the real page."""
        page = self.page
        page.goto(f"{self.live_server_url}/")
        page.fill("#id_username", "ada")
        page.fill("#id_password", "gusset-plate")
        page.click("button:has-text('Sign in')")
        page.wait_for_selector("h1:has-text('Projects')")

    def start_hall(self, name: str = "Test hall") -> None:
        """A new project with a hall of usual values, opened and computed. Not all of its members pass."""
        project = revisions.create(self.user, short(Document(name=name, hall=HallJig())), "Test data")
        self.sign_in(f"/projects/{project.id}")
        self.page.wait_for_selector("tbody tr")

    def choose(self, label: str, option: str, page: Page | None = None) -> None:
        """Take an option of a labelled list."""
        self.pick_option((page or self.page).locator(f"[role=combobox][aria-label='{label}']"), option)

    def pick_option(self, box: Locator, option: str | re.Pattern[str]) -> None:
        """Take an option of a list."""
        self.offered(box, option).click()

    def offered(self, box: Locator, option: str | re.Pattern[str]) -> Locator:
        """An option of a list, in sight. A list open before may take the first click to close, and a sheet that is still filling may move
        between the press and the release: what did not open is pressed again, as a person would."""
        wanted = box.page.locator(".el-select-dropdown__item:visible").filter(has_text=option).first
        for _ in range(6):
            if box.get_attribute("aria-expanded") != "true":
                # the words shown in it lie over the list's input
                box.click(force=True)
            if box.is_editable() and isinstance(option, str):
                # a long list draws only what is in sight: it is searched
                box.fill(option)
            try:
                wanted.wait_for(timeout=10_000)
                break
            except TimeoutError:
                continue
        return wanted

    def picked(self, label: str) -> Locator:
        """A labelled list with what is taken in it."""
        return self.page.locator(f".el-select:has([role=combobox][aria-label='{label}'])")

    def field(self, label: str, page: Page | None = None):
        """The input of a labelled field."""
        return (page or self.page).locator(f"label.field:has(> span:has-text('{label}')) input").first
