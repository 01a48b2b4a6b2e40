"""From an empty database: make a build, reach a plan without stops, tick the hookup, enter trials, reload and find it all."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserCase


class WholeTrail(BrowserCase):
    def clear_stops(self) -> None:
        """Take the first offered fix of the first stop until no stop is left."""
        stops = self.page.locator("[data-findings] article").filter(has=self.page.locator("b", has_text=re.compile("^Stop$")))
        for _ in range(12):
            self.page.wait_for_load_state("networkidle")
            self.page.wait_for_timeout(700)
            if stops.count() == 0:
                return
            fix = stops.first.locator("button.btn").first
            fix.click()
            self.saved()
        self.fail(f"Stops are left: {stops.all_inner_texts()}")

    def test_from_nothing_to_a_checked_speed(self) -> None:
        page = self.page
        self.open_garage()
        page.get_by_role("link", name="Start your first build").click()
        page.get_by_role("button", name=re.compile("Ride-on car")).click()
        page.get_by_label("Name of the build").fill("Marigold")
        page.get_by_role("textbox", name="Battery volts").fill("12")
        page.get_by_role("textbox", name="Rider's age").fill("7")
        page.get_by_label("Add a pack").select_option(label="5-cell tool pack, 5 Ah")
        expect(page.get_by_text("Two packs side by side")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Open Marigold with 2 setups")).click()
        expect(page.get_by_role("heading", name="Power", exact=True)).to_be_visible()
        self.clear_stops()
        expect(page.locator('[data-outcome="top_speed_m_s"]')).to_contain_text("mph")

        page.get_by_role("link", name=re.compile("hookup", re.I)).first.click()
        first_step = page.locator("ol[aria-label=Steps] li").first
        expect(first_step).to_contain_text("Make it safe")
        page.get_by_label("you read").fill("0")
        page.get_by_role("button", name="Tick step 1").click()
        expect(page.get_by_text(re.compile("1 of .* checked"))).to_be_visible()
        expect(page.get_by_role("button", name="Tick step 2")).to_be_visible()
        # Old leads off, parts laid out: nothing to measure. Then the throttle, whose supply must be no short.
        page.get_by_role("button", name="Tick step 2").click()
        page.get_by_role("button", name="Tick step 3").click()
        page.get_by_label("you read").fill("2")
        page.get_by_role("button", name="Tick step 4").click()
        expect(page.get_by_text("Likeliest first")).to_be_visible()

        page.get_by_role("link", name=re.compile("prove", re.I)).first.click()
        page.get_by_label("Brake cut-off beats the throttle").check()
        page.get_by_label("Wheels turn forward").check()
        page.get_by_role("textbox", name="Marked length").fill("100")
        page.get_by_role("textbox", name="Out 1").fill("10,3")
        page.get_by_role("textbox", name="Back 1").fill("10.5")
        page.get_by_role("button", name="Save run").click()
        expect(page.locator("table")).to_contain_text("6.6")

        page.get_by_role("link", name=re.compile("care", re.I)).first.click()
        page.get_by_label("What happened").fill("First ride round the plum tree.")
        page.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text("First ride round the plum tree.")).to_be_visible()

        page.reload()
        expect(page.get_by_text("First ride round the plum tree.")).to_be_visible()
        page.get_by_role("link", name=re.compile("prove", re.I)).first.click()
        expect(page.locator("table")).to_contain_text("6.6")
        expect(page.get_by_label("Brake cut-off beats the throttle")).to_be_checked()
        expect(page.get_by_label("Wheels turn forward")).to_be_checked()
        page.get_by_role("link", name=re.compile("hookup", re.I)).first.click()
        expect(page.get_by_text(re.compile("1 of .* checked"))).to_be_visible()
        page.goto(self.live_server_url)
        expect(page.get_by_role("heading", name="Marigold")).to_be_visible()
        expect(page.get_by_text("6.6 mph")).to_be_visible()

    def test_bad_entries_stay_in_the_field_with_a_sentence(self) -> None:
        page = self.page
        self.expected_statuses = {422}
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name=re.compile("Small dirt bike")).click()
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

    def test_two_windows_clash_and_neither_edit_is_lost(self) -> None:
        page = self.page
        self.expected_statuses = {409}
        self.open_garage()
        page.get_by_role("link", name="Start a build").first.click()
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        second = self.context.new_page()
        self.watch(second)
        second.set_default_timeout(20_000)
        second.goto(page.url)
        expect(second.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        for window, value in ((page, "9"), (second, "7")):
            window.get_by_role("textbox", name="Stock capacity").fill(value)
            window.wait_for_timeout(1500)
        expect(second.get_by_role("dialog")).to_contain_text("Changed in two places")
        second.get_by_role("button", name="Keep what I have here").click()
        expect(second.locator('[data-save="saved"]').first).to_be_attached()
        page.reload()
        expect(page.get_by_role("textbox", name="Stock capacity")).to_have_value("7")

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
        page.get_by_role("button", name=re.compile("Small dirt bike")).click()
        baseline = page.get_by_role("list", name="Arrangements, choose any").get_by_role("listitem").first
        expect(baseline).to_contain_text("mph")
        slow = float(re.search(r"([\d.]+) mph", baseline.inner_text()).group(1))  # type: ignore[union-attr]
        page.get_by_role("textbox", name="Battery volts").fill("36")
        expect(page.get_by_role("textbox", name="Motor volts")).to_have_value("36")
        expect(page.get_by_label("What is known")).to_contain_text("36 V, 9 Ah")
        expect(baseline).not_to_contain_text(f"{slow} mph")
        page.get_by_role("button", name=re.compile("^Open the build")).click()
        expect(page.get_by_role("heading", name="Survey", exact=True)).to_be_visible()
        page.get_by_role("link", name=re.compile("power", re.I)).first.click()
        expect(page.get_by_role("group", name=re.compile("1 row of 3 packs in series: 36 volts, 9 amp-hours"))).to_be_visible()
        expect(page.locator("dl").get_by_text("full 43.2")).to_be_visible()
