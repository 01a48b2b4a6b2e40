"""From an empty database: make a build, reach a plan without stops, tick the hookup, enter trials, reload and find it all."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserCase
from gecko.document.setup import load_setup
from server.answers.kept import hookup_of
from server.builds.models import Setup
from server.builds.services import context_of


class WholeTrail(BrowserCase):
    def test_from_nothing_to_a_checked_speed(self) -> None:
        page = self.page
        self.open_garage()
        page.get_by_role("link", name="Start your first build").click()
        page.get_by_role("button", name=re.compile("Ride-on car")).click()
        page.get_by_label("Name of the build").fill("Marigold")
        self.settled()
        page.get_by_role("textbox", name="Battery volts").fill("12")
        page.get_by_role("textbox", name="Rider's age").fill("7")
        page.get_by_label("Add a pack").select_option(label="5-cell tool pack, 5 Ah")
        expect(page.get_by_text("Two packs side by side")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Open Marigold with 2 setups")).click()
        expect(page.get_by_role("heading", name="Power", exact=True)).to_be_visible()
        self.clear_stops()
        expect(page.locator('[data-outcome="top_speed_m_s"]')).to_contain_text("mph")

        # Until somebody has looked, and until the steps are done, there is neither power nor a ride.
        setup = Setup.objects.filter(build__name="Marigold").latest("pk")
        self.to_stage("prove")
        expect(page.get_by_label("Wheels turn forward")).to_be_disabled()
        self.expected_statuses = {409}
        self.ride()
        expect(page.get_by_text("This setup may not be ridden yet; your numbers stay here.")).to_be_visible()
        expect(page.get_by_role("textbox", name="Out 1")).to_have_value("10,3")

        self.to_stage("survey")
        self.look_at_everything()
        expect(page.get_by_role("heading", name=re.compile("Looked at: all"))).to_be_visible()
        self.close_what_is_left_to_look_at()
        self.to_stage("hookup")
        expect(page.get_by_text(re.compile(r"\d+ things? open"))).to_have_count(0)
        self.hook_up(setup.pk)

        self.to_stage("prove")
        boxes = page.locator("section", has=page.get_by_role("heading", name="On the stand")).get_by_role("checkbox")
        expect(boxes.first).to_be_visible()
        for box in boxes.all():
            box.check()
            expect(box).to_be_checked()
            self.settled()
        self.ride()
        expect(page.locator("table")).to_contain_text("6.6")

        page.get_by_role("link", name=re.compile("care", re.I)).first.click()
        page.get_by_label("What happened").fill("First ride round the plum tree.")
        page.get_by_role("button", name="Write it down").click()
        # The words also stand in the form until the server has them.
        written = page.get_by_role("listitem").filter(has_text="note First ride round the plum tree.")
        expect(written).to_be_visible()

        page.reload()
        expect(written).to_be_visible()
        expect(page.get_by_text(re.compile("snap back by itself.* By ada")).first).to_be_visible()
        self.to_stage("prove")
        expect(page.locator("table")).to_contain_text("6.6")
        expect(page.get_by_label("Wheels turn forward")).to_be_checked()
        page.goto(self.live_server_url)
        expect(page.get_by_role("heading", name="Marigold")).to_be_visible()
        expect(page.get_by_text("6.6 mph")).to_be_visible()

    def to_stage(self, name: str) -> None:
        self.page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile(name, re.I)).click()
        expect(self.page.get_by_role("heading", name=name.capitalize(), exact=True)).to_be_visible()
        self.settled()

    def ride(self) -> None:
        """A timed run out and back."""
        page = self.page
        page.get_by_role("textbox", name="Marked length").fill("100")
        page.get_by_role("textbox", name="Out 1").fill("10,3")
        page.get_by_role("textbox", name="Back 1").fill("10.5")
        page.get_by_role("button", name="Save run").click()

    def look_at_everything(self) -> None:
        """Every question of the survey in one tap each, each time as somebody sees it on a sound machine."""
        page = self.page
        for _ in range(24):
            open_now = page.locator("main li", has=page.get_by_role("img", name="not started")).filter(has=page.get_by_role("button", name="Can't tell"))
            if open_now.count() == 0:
                return
            before = open_now.count()
            group = open_now.first.get_by_role("group")
            none = group.get_by_role("button", name="There is none")
            (none if none.count() else group.get_by_role("button").first).click()
            expect(open_now).to_have_count(before - 1)
            self.saved()
        self.fail("Questions are left.")

    def close_what_is_left_to_look_at(self) -> None:
        """What no question of the survey asks: answered or looked at where it stands among the findings."""
        page = self.page
        looks = page.locator("[data-findings] article").filter(has=page.locator("b", has_text=re.compile("^To look at$")))
        for _ in range(12):
            self.settled()
            if looks.count() == 0:
                return
            button = looks.first.locator("button.btn").first
            if button.inner_text() == "Looked at…":
                button.click()
                page.get_by_label("What you saw").fill("Looked at it, in order.")
                page.get_by_role("button", name="Write it down").click()
                expect(page.get_by_role("dialog")).to_have_count(0)
            else:
                button.click()
                self.saved()
        self.fail(f"To look at: {looks.all_inner_texts()}")

    def hook_up(self, setup_id: int) -> None:
        """Every step of the hookup, each reading as it should be; a wrong one first, which is no tick."""
        page = self.page
        setup = Setup.objects.get(pk=setup_id)
        plan = hookup_of(load_setup(setup.document), context_of(setup))
        assert plan is not None
        for number, step in enumerate(plan.steps, start=1):
            expect(page.get_by_role("form", name=f"Step {number}", exact=True)).to_be_visible()
            if step.reading is not None:
                if step.id == "pack0":
                    page.get_by_label("you read").fill("-3")
                    page.get_by_role("button", name=f"Tick step {number}").click()
                    expect(page.get_by_text("Likeliest first")).to_be_visible()
                page.get_by_label("you read").fill("OL" if step.reading.expected is None else f"{step.reading.expected:.2f}")
            page.get_by_role("form").get_by_role("button", name=re.compile("Tick step|Measure again|Done again")).click()
            expect(page.get_by_text(re.compile(rf"^{number} of {len(plan.steps)} checked$"))).to_be_visible()

    def test_bad_entries_stay_in_the_field_with_a_sentence(self) -> None:
        page = self.page
        self.expected_statuses = {422}
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name="Dirt bike").click()
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        page.get_by_role("link", name=re.compile("drive", re.I)).first.click()
        wheel = page.get_by_role("textbox", name="Wheel across")
        for text, words in (("-3", "negative|more than zero"), ("0", "more than zero"), ("99999", "Check the unit"), ("abc", "must be a number")):
            wheel.fill(text)
            expect(page.get_by_role("alert").filter(has_text=re.compile(words)).first).to_be_visible()
            self.assertEqual(wheel.input_value(), text)
        wheel.fill("12,5")
        self.saved()
        wheel.blur()
        expect(wheel).to_have_value("12.5")
        page.reload()
        expect(page.get_by_role("textbox", name="Wheel across")).to_have_value("12.5")

    def test_two_devices_one_without_a_connection_and_neither_edit_is_lost(self) -> None:
        """What both typed is joined; only the field both changed is asked about, and undo leaves the other's edits in."""
        page = self.page
        self.expected_statuses = {409}
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        elsewhere = self.browser.new_context(storage_state=self.context.storage_state(), locale=self.locale)
        self.addCleanup(elsewhere.close)
        phone = elsewhere.new_page()
        self.watch(phone)
        phone.set_default_timeout(20_000)
        phone.goto(page.url)
        expect(phone.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        elsewhere.set_offline(True)
        for name, value in (("Stock capacity", "7"), ("Wheelbase", "36")):
            phone.get_by_role("textbox", name=name).fill(value)
        expect(phone.locator('[data-save="offline"]').first).to_be_attached()
        for name, value in (("Stock capacity", "9"), ("Parts added", "5")):
            page.get_by_role("textbox", name=name).fill(value)
        self.saved()
        elsewhere.set_offline(False)
        asked = phone.get_by_role("dialog", name="Changed in two places")
        expect(asked.get_by_role("group")).to_have_count(1)
        asked.get_by_role("radio", name=re.compile("^Mine")).check()
        asked.get_by_role("button", name="Save it so").click()
        expect(phone.locator('[data-save="saved"]').first).to_be_attached()
        page.reload()
        for window in (phone, page):
            for name, value in (("Stock capacity", "7"), ("Wheelbase", "36"), ("Parts added", "5")):
                expect(window.get_by_role("textbox", name=name)).to_have_value(value)
        # Another field each, nobody is asked.
        page.get_by_role("textbox", name="Track").fill("24")
        self.saved()
        phone.get_by_role("textbox", name="Height of mass").fill("18")
        expect(phone.get_by_role("textbox", name="Track")).to_have_value("24")
        expect(phone.get_by_role("dialog")).to_have_count(0)

    def test_a_lost_connection_keeps_the_edit_and_saves_it_later(self) -> None:
        page = self.page
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        self.context.set_offline(True)
        page.get_by_role("textbox", name="Stock capacity").fill("8")
        expect(page.locator('[data-save="offline"]').first).to_be_attached()
        self.context.set_offline(False)
        self.saved()
        page.reload()
        expect(page.get_by_role("textbox", name="Stock capacity")).to_have_value("8")

    def test_a_wrong_value_leaves_the_plan_in_view(self) -> None:
        """Half-typed or impossible, the trail, the findings and the speed of before stay until the value is mended."""
        page = self.page
        self.expected_statuses = {422}
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        page.get_by_role("link", name=re.compile("drive", re.I)).first.click()
        speed = page.locator('[data-outcome="top_speed_m_s"]')
        expect(speed).to_contain_text("mph")
        before = speed.inner_text()
        page.get_by_role("textbox", name="Wheel across").fill("0")
        expect(page.get_by_text("What you see below is from before this change.")).to_be_visible()
        expect(speed).to_have_text(before, use_inner_text=True)
        expect(page.get_by_role("navigation", name="The Trail").get_by_text("Packs").first).to_be_visible()

    def test_a_household_shares_its_garage(self) -> None:
        page = self.page
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_label("Name of the build").fill("Marigold")
        page.get_by_role("button", name=re.compile("^Open Marigold")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        self.open()
        page.get_by_text("Household").click()
        page.get_by_label("Name to sign in with").fill("cleo")
        page.get_by_label("First password").fill("willow-lane-3")
        page.get_by_role("button", name="Let them in").click()
        expect(page.get_by_role("button", name="Take cleo out")).to_be_visible()
        self.expected_statuses = {401}
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        page.get_by_label("Your name").fill("cleo")
        page.get_by_label("Password").fill("willow-lane-3")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Marigold")).to_be_visible()
        page.get_by_text("Household").click()
        expect(page.get_by_text("(you)")).to_be_visible()
        expect(page.get_by_role("button", name="Let them in")).to_have_count(0)
        self.assertEqual(self.axe(), [])

    def test_another_battery_on_the_shelf_of_a_first_visit(self) -> None:
        """Stock volts make the stock battery: a 24 V bike in lead has two blocks, at 36 V three, and the baseline goes faster."""
        page = self.page
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name="Dirt bike").click()
        baseline = page.get_by_role("list", name="Arrangements, choose any").get_by_role("listitem").first
        expect(baseline).to_contain_text("mph")
        # What the kind of machine brings along is on its way into the fields still: nobody types that soon.
        self.settled()
        slow = float(re.search(r"([\d.]+) mph", baseline.inner_text()).group(1))  # type: ignore[union-attr]
        page.get_by_role("textbox", name="Battery volts").fill("36")
        page.get_by_role("button", name=re.compile("^Look through all")).click()
        expect(page.get_by_role("textbox", name="Motor volts")).to_have_value("36")
        expect(page.get_by_label("What is taken as typical")).to_contain_text("9 Ah")
        expect(baseline).not_to_contain_text(f"{slow} mph")
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        page.get_by_role("link", name=re.compile("power", re.I)).first.click()
        expect(page.get_by_role("group", name=re.compile("1 row of 3 packs in series: 36 volts, 9 amp-hours"))).to_be_visible()
        expect(page.locator("dl").get_by_text("full 43.2")).to_be_visible()
