"""The most usual jobs, from an empty database through Start to a plan without plan stops, typing only what people know."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserCase
from tools.browser import PHONE


class FromStart(BrowserCase):
    """Helpers that go through Start as a person does."""

    def start(self, family: str, volts: str) -> None:
        """Start a build of a kind of machine, which comes with its usual volts."""
        self.page.get_by_role("link", name=re.compile("^Start (your first|a) build$")).first.click()
        self.page.get_by_role("button", name=family, exact=True).click()
        expect(self.page.get_by_role("textbox", name="Battery volts")).to_have_value(volts)
        self.settled()

    def own_pack(self, kind: str, cells: int, ah: str, count: int = 1) -> None:
        """A pack that is in no list, by its label."""
        page = self.page
        summary = page.get_by_text("Not in the list? Enter what its label says")
        if not page.get_by_label("Cells in a row").is_visible():
            summary.click()
        page.get_by_label("Kind of pack").select_option(value=kind)
        page.get_by_label("Cells in a row").fill(str(cells))
        page.get_by_label("Amp-hours").fill(ah)
        page.get_by_label("How many of them").fill(str(count))
        page.get_by_role("button", name="Put it on my rack").click()
        self.settled()

    def open_the_best(self, name: str) -> None:
        """Take the arrangement the page advises; it has no plan stop from the start."""
        page = self.page
        page.get_by_label("Name of the build").fill(name)
        best = page.get_by_role("list", name="Arrangements, choose any").get_by_role("listitem").filter(has_text="Best start")
        expect(best).to_be_visible(timeout=40_000)
        expect(best).to_contain_text("no stop")
        expect(best.get_by_role("checkbox")).to_be_checked()
        page.get_by_role("button", name=re.compile(f"^Open {name} with")).click()
        expect(page.get_by_role("heading", name="Power", exact=True)).to_be_visible()
        self.no_stops()

    def stage(self, name: str) -> None:
        """To a stage."""
        self.page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile(name, re.I)).click()
        expect(self.page.get_by_role("heading", name=name.capitalize(), exact=True)).to_be_visible()
        self.settled()

    def no_stops(self) -> None:
        """Nothing holds the plan up, on any of its stages."""
        page = self.page
        for stage in ("power", "protect", "drive"):
            self.stage(stage)
            stops = page.locator("[data-findings] article").filter(has=page.locator("b", has_text=re.compile("^Stop$")))
            expect(stops).to_have_count(0)
        expect(page.locator('[data-outcome="top_speed_m_s"]')).to_contain_text("mph")

    def pedal_car(self) -> None:
        """12 V, two motors, walking pace, one five-cell pack of 6 Ah, a rider of four and 17 kg, lawn, up to the plan."""
        page = self.page
        self.start("Ride-on car", "12")
        self.typed("As bought it does about", "2.5")
        self.typed("Rider", "Lumi")
        self.typed("Rider's age", "4")
        self.typed("Rider's mass", "37")
        page.get_by_label("Where it is ridden", exact=True).select_option("short grass")
        self.own_pack("tool", 5, "6")
        self.open_the_best("Lumi's car")

    def typed(self, name: str, text: str) -> None:
        """A field typed into, key by key."""
        # On the way to 37 it is 3, which may be too little to be settled upon: said at the field, and gone with the next key.
        self.expected_statuses.add(422)
        field = self.page.get_by_role("textbox", name=name, exact=True)
        field.click()
        field.press_sequentially(text)


class Roads(FromStart):
    def test_a_pedal_car_on_one_tool_pack(self) -> None:
        """A module before the pedal, with its mark; both gears' speeds; the stock harness stays."""
        page = self.page
        self.open_garage()
        self.pedal_car()
        page.get_by_role("button", name="gears and modes").click()
        for gear in ("High: motors in parallel", "Low: motors in series"):
            expect(page.get_by_text(gear)).to_be_visible()
        page.get_by_role("link", name=re.compile("hookup", re.I)).first.click()
        expect(page.get_by_text("Stock harness onto the module's motor side").first).to_be_visible()

    def test_a_chain_bike_on_two_packs(self) -> None:
        """24 V, 280 W, 9 and 55 teeth, two seven-cell packs: side by side or one, without a stop."""
        page = self.page
        self.open_garage()
        self.start("Dirt bike", "24")
        page.get_by_role("textbox", name="Motor watts, each").fill("280")
        page.get_by_role("button", name=re.compile("^Look through all")).click()
        page.get_by_role("textbox", name="Motor teeth").fill("9")
        page.get_by_role("textbox", name="Wheel teeth").fill("55")
        page.get_by_role("textbox", name="Rider's age").fill("9")
        page.get_by_label("Add a pack").select_option(label="7-cell garden pack, 4 Ah")
        self.open_the_best("Nettle")

    def test_a_kart_frame_whose_engine_is_gone(self) -> None:
        """60 V, 2 kW brushless, 130 A motor side, 17 cells of 24 Ah, 12 and 54 teeth, a rider of 15 and 55 kg: no stock electrics are made up."""
        page = self.page
        self.open_garage()
        self.start("Kart", "48")
        expect(page.get_by_role("checkbox", name=re.compile("^Nothing electric on it yet"))).to_be_checked()
        page.get_by_role("button", name="60 V").click()
        page.get_by_role("textbox", name="Motor watts, each").fill("2000")
        page.get_by_role("textbox", name="Rider's age").fill("15")
        page.get_by_role("textbox", name="Rider's mass").fill("121")
        self.own_pack("board", 17, "24")
        self.open_the_best("Sorrel")
        page.get_by_role("link", name=re.compile("As found")).first.click()
        page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile("power", re.I)).click()
        expect(page.get_by_text("Choose a pack…").first).to_be_attached()

    def test_an_arrangement_with_stops_is_mended_in_one_press(self) -> None:
        """Three seven-cell packs on a 12 V car are too fast for a child of five: what is missing is put in and named."""
        page = self.page
        self.open_garage()
        self.start("Ride-on car", "12")
        page.get_by_role("textbox", name="Rider's age").fill("5")
        page.get_by_label("Add a pack").select_option(label="7-cell garden pack, 4 Ah")
        offers = page.get_by_role("list", name="Arrangements, choose any").get_by_role("listitem")
        stopped = offers.filter(has=page.get_by_role("button", name="Plan it with what it lacks")).first
        name = stopped.locator("b").first.inner_text()
        stopped.get_by_role("button", name="Plan it with what it lacks").click()
        mended = offers.filter(has_text=name).filter(has_text="With what it lacks:")
        expect(mended.first).to_be_visible(timeout=30_000)
        expect(mended.first).to_contain_text("no stop")

    def test_the_same_car_for_two_sisters_on_two_packs(self) -> None:
        """Two packs of 3 Ah, a sister of seven who rides it too; 25 A blade fuses and 16 AWG are in the drawer: packs joined safely, both children's
        marks, and the drawer's parts told in words."""
        page = self.page
        self.open_garage()
        self.start("Ride-on car", "12")
        self.typed("Rider", "Lumi")
        self.typed("Rider's age", "4")
        page.get_by_role("button", name="+ Somebody else, too").click()
        self.typed("Also rides", "Runa")
        self.typed("Their age", "7")
        self.own_pack("tool", 5, "3", 2)
        self.open_the_best("Two sisters")
        self.stage("power")
        expect(page.get_by_text("Charge packs to the same volts before you join them side by side.")).to_be_visible()
        page.get_by_role("button", name="slots and swaps").click()
        expect(page.get_by_role("row").filter(has_text="Only A")).to_contain_text("mph")
        self.stage("drive")
        page.get_by_role("button", name="riders", exact=True).click()
        for name in ("Lumi", "Runa"):
            row = page.get_by_role("row").filter(has_text=name)
            expect(row).to_contain_text("mph")
        page.get_by_role("button", name="Count with Runa").click()
        expect(page.get_by_role("row").filter(has_text="Runa")).to_contain_text("counted with")
        expect(page.get_by_role("row").filter(has_text="Lumi")).to_contain_text("Count with Lumi")
        self.stage("protect")
        page.get_by_role("button", name="Every gauge, as in your drawer").click()
        drawer = page.get_by_role("button", name=re.compile("^25 A × 16 AWG: ")).first
        expect(drawer).to_have_text("too thin")
        drawer.hover()
        expect(page.get_by_text(re.compile("^25 A × 16 AWG: .*wire"))).to_be_visible()

    def test_a_quad_and_a_third_block(self) -> None:
        """24 V, 500 W, three blocks of 9 Ah, a controller nobody could read: three in a row are too much for it, and the page says so; with two,
        and with three and another controller, nothing holds the plan up. The string's charger, the foot switch and the front wheels are spoken of."""
        page = self.page
        self.open_garage()
        self.start("Quad", "48")
        page.get_by_role("button", name="24 V").click()
        page.get_by_role("textbox", name="Motor watts, each").fill("500")
        self.typed("Rider's age", "9")
        self.own_pack("lead", 6, "9", 3)
        offers = page.get_by_role("list", name="Arrangements, choose any").get_by_role("listitem")
        three = offers.filter(has_text="Three packs in a row")
        expect(three).to_contain_text("Full packs may be too much for the controller", timeout=40_000)
        three.get_by_role("button", name="Plan it with what it lacks").click()
        expect(three).to_contain_text("Controller for 36 V nominal", timeout=40_000)
        expect(three).to_contain_text("no stop")
        three.get_by_role("checkbox").check()
        self.open_the_best("Bramble")
        page.get_by_role("link", name=re.compile("Three packs in a row")).first.click()
        self.no_stops()
        found = page.locator("[data-findings]")
        expect(found).to_contain_text("Is the foot switch wired, and does it stop the motor?")
        self.stage("drive")
        expect(page.get_by_text(re.compile("Front lifts")).first).to_be_visible()
        self.stage("hookup")
        expect(page.get_by_text("First power through lamps").first).to_be_visible()


class OnThePhone(FromStart):
    viewport = PHONE

    def test_a_pedal_car_takes_under_three_minutes_of_typing(self) -> None:
        """Keys and taps are counted in the page: at a slow one second a key and three a tap, from the empty garage to the plan."""
        page = self.page
        self.open_garage()
        page.evaluate("""() => { window.touched = { keys: 0, taps: 0 };
            addEventListener('keydown', () => window.touched.keys++, true); addEventListener('pointerdown', () => window.touched.taps++, true);
            addEventListener('change', (e) => { if (e.target.tagName === 'SELECT') window.touched.taps += 2; }, true); }""")
        self.pedal_car()
        touched = page.evaluate("() => window.touched")
        self.assertGreater(touched["keys"], 8)
        self.assertLess(touched["keys"] + 3 * touched["taps"], 180, touched)
        self.assertEqual(self.too_wide(), [])
