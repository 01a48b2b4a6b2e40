"""Hookup at depth in a real browser: the meter anywhere, colours, orders of phases and Halls, what was opened."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.test_demo import DemoCase
from gecko.document.setup import load_setup
from server.answers.kept import hookup_of
from server.builds.models import Setup
from server.builds.services import context_of
from tools.browser import PHONE

SECTIONS = (
    "meter anywhere",
    "which colour is which",
    "phases and Halls",
    "small wires",
    "all wires",
    "controls",
    "covers and seals",
    "way back",
)


GEOMETRY = """
() => {
  const box = e => { const b = e.getBBox(); return [b.x, b.y, b.x + b.width, b.y + b.height]; };
  const parts = [...document.querySelectorAll('[data-part]')].map(g => ({
    id: g.dataset.part, box: box([...g.querySelectorAll('rect')].at(-1)) }));
  const lines = [...document.querySelectorAll('[data-line]')].map(g => {
    const paths = [...g.querySelectorAll('path')];
    const way = paths.find(p => 'way' in p.dataset);
    const drawn = paths.filter(p => p !== way).map(box);
    const middle = box(way);
    return { id: g.dataset.line, points: way.getAttribute('d').slice(1).split('L').map(p => p.split(' ').map(Number)),
      // Half the width of what is drawn along the way: outermost wire, and half its own stroke.
      half: Math.max(...drawn.map(d => Math.max(middle[0] - d[0], d[2] - middle[2], middle[1] - d[1], d[3] - middle[3], 0))) + 1.3 };
  });
  const labels = [...document.querySelectorAll('[data-label]')].map(t => ({ id: t.dataset.label, box: box(t) }));
  const hits = (a, b, room) => a[0] < b[2] - room && b[0] < a[2] - room && a[1] < b[3] - room && b[1] < a[3] - room;
  const runs = l => l.points.slice(1).map((p, i) => [Math.min(p[0], l.points[i][0]), Math.min(p[1], l.points[i][1]),
    Math.max(p[0], l.points[i][0]), Math.max(p[1], l.points[i][1])]);
  const wrong = [];
  const flat = r => r[3] - r[1] < 0.01;
  for (let i = 0; i < lines.length; i++) for (let k = 0; k < i; k++) for (const a of runs(lines[i])) for (const b of runs(lines[k])) {
    // Side by side for more than a port's width, nearer than both are wide: one lies on the other.
    const along = flat(a) ? [0, 2] : [1, 3], across = flat(a) ? 1 : 0;
    if (flat(a) !== flat(b) || Math.min(a[along[1]], b[along[1]]) - Math.max(a[along[0]], b[along[0]]) < 12) continue;
    const shared = ['0', '-1'].some(e => lines[i].points.at(+e).join() === lines[k].points.at(+e).join());
    if (!shared && Math.abs(a[across] - b[across]) < lines[i].half + lines[k].half) wrong.push(`${lines[i].id} on ${lines[k].id}`);
  }
  for (const l of lines) for (const run of runs(l)) for (const p of parts)
    if (run[0] < p.box[2] - 2 && run[2] > p.box[0] + 2 && run[1] < p.box[3] - 2 && run[3] > p.box[1] + 2) wrong.push(`${l.id} through ${p.id}`);
  for (const t of labels) {
    for (const p of parts) if (hits(t.box, p.box, 1)) wrong.push(`label ${t.id} on ${p.id}`);
    for (const o of labels) if (o.id < t.id && hits(t.box, o.box, 1)) wrong.push(`label ${t.id} on label ${o.id}`);
    for (const l of lines) for (const run of runs(l))
      if (run[0] - l.half < t.box[2] - 1 && run[2] + l.half > t.box[0] + 1 && run[1] < t.box[3] - 1 && run[3] > t.box[1] + 1) wrong.push(`${l.id} across label ${t.id}`);
  }
  for (let i = 0; i < parts.length; i++) for (let k = 0; k < i; k++) if (hits(parts[i].box, parts[k].box, 0)) wrong.push(`${parts[i].id} on ${parts[k].id}`);
  return { parts: parts.length, lines: lines.length, labels: labels.length, wrong };
}
"""


class HookupDrawings(DemoCase):
    def test_no_wire_through_a_part_and_no_label_crossed_in_any_demo_drawing(self) -> None:
        page = self.page
        wrong: dict[str, object] = {}
        for setup in Setup.objects.filter(build__garage__name="Tideline Shed").select_related("build"):
            self.open(self.path(setup.build.name, setup.name, "hookup"))
            page.locator("[data-part]").first.wait_for()
            found = page.evaluate(GEOMETRY)
            self.assertGreater(found["lines"], 5)
            self.assertGreater(found["labels"], 0)
            if found["wrong"]:
                wrong[f"{setup.build.name}, {setup.name}"] = found["wrong"]
        self.assertEqual(wrong, {})
        # One wire drawn a pixel beside another: the measure sees it.
        page.evaluate("""() => {
          const [one, other] = [...document.querySelectorAll('[data-way]')];
          other.setAttribute('d', one.getAttribute('d').replace(/(-?[0-9.]+) (-?[0-9.]+)/g, (_m, x, y) => `${+x + 1} ${+y + 1}`));
        }""")
        self.assertTrue(any(" on w" in one for one in page.evaluate(GEOMETRY)["wrong"]))
        # A part grown over its neighbours and their wires: the measure sees it.
        page.evaluate("() => document.querySelectorAll('[data-part=\"controller\"] rect').forEach(r => r.setAttribute('height', '400'))")
        self.assertTrue(page.evaluate(GEOMETRY)["wrong"])

    def test_two_touched_points_are_where_the_meter_stands(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.locator('[data-port="cut_off.in"]').click()
        page.locator('[data-port="cut_off.out"]').click()
        # Said right under the drawing; where the state is set one comes by the link.
        expect(page.get_by_text("Red on Cut-off, pack side, black on Cut-off, load side: 0 V")).to_be_visible()
        page.get_by_role("button", name="Change that").click()
        expect(page.get_by_label("Red tip on")).to_have_value("cut_off.in")
        expect(page.get_by_label("Red tip on")).to_be_focused()
        expect(page.get_by_label("Black tip on")).to_have_value("cut_off.out")
        page.get_by_role("button", name="Packs in").click()
        expect(page.locator("section").get_by_text("near 0 Ω", exact=True)).to_be_visible()
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save as SVG").click()
        text = saved.value.path().read_text(encoding="utf-8")
        self.assertIn("Controller", text)
        self.assertNotIn("var(--", text)


class HookupAtDepth(DemoCase):
    def document(self) -> dict[str, object]:
        return dict(Setup.objects.get(name="Two packs", build__name="Pocket Comet").document)

    def test_every_section_opens_and_passes_axe_also_on_a_phone(self) -> None:
        page = self.page
        problems: dict[str, list[str]] = {}
        for size in (None, PHONE):
            if size is not None:
                page.set_viewport_size(size)
            self.open(self.path("Pocket Comet", "Two packs", "hookup"))
            for section in SECTIONS:
                page.get_by_role("button", name=section, exact=True).click()
                self.settled()
                within = "" if section == SECTIONS[0] else 'section[aria-label="More of the hookup"]'
                problems[f"{section} {'phone' if size else ''}"] = [*([] if size else self.axe(within)), *self.too_wide()]
        self.assertEqual({section: found for section, found in problems.items() if found}, {})

    def test_the_meter_by_keys_and_the_order_found_in_three_tries(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.get_by_label("Red tip on").select_option("motor0.Hall 5 V")
        page.get_by_label("Black tip on").select_option("motor0.Hall ground")
        expect(page.get_by_role("region", name="More of the hookup").get_by_text("4.93 V", exact=True)).to_be_visible()
        page.get_by_role("button", name="Cut-off on").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_text("0 V", exact=True).last).to_be_visible()
        page.get_by_role("button", name="phases and Halls", exact=True).click()
        for did in ("Twitches, growls or locks", "Runs smoothly, backward", "Runs smoothly, forward"):
            tried = page.locator('section[aria-label="More of the hookup"] ol li').count()
            page.get_by_role("button", name=did).click()
            expect(page.locator('section[aria-label="More of the hookup"] ol li')).to_have_count(tried + 1)
            self.settled()
        expect(page.get_by_role("heading", name="Found: leave it so")).to_be_visible()
        self.saved()
        self.settled()
        self.assertEqual([trial["outcome"] for trial in self.document()["order_trials"]], ["jerks", "smooth backward", "smooth forward"])  # type: ignore[attr-defined]

    def test_colours_pair_by_function_and_come_out_and_in_as_a_table(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Eight-cell LFP", "hookup"))
        page.get_by_role("button", name="which colour is which").click()
        page.get_by_role("button", name="Add throttle").click()
        for half, colours in (("Controller's half", ("violet", "orange", "white")), ("Part's half", ("grey", "pink", "green"))):
            for number, colour in enumerate(colours, start=1):
                page.get_by_label(f"{half}, colour of wire {number}").fill(colour)
        expect(page.get_by_text("violet to grey")).to_be_visible()
        expect(page.get_by_text("orange to pink")).to_be_visible()
        # The drawing has them, with their letters.
        expect(page.locator("figure text", has_text="5 V VT–GY")).to_have_count(1)
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save the colours as CSV").click()
        page.get_by_role("button", name="Keep on the rack").click()
        expect(page.get_by_text("Kept as “Throttle”.")).to_be_visible()
        page.get_by_role("button", name="Take the plug Throttle out").click()
        expect(page.get_by_text("violet to grey")).to_have_count(0)
        page.get_by_label("From the rack").select_option("Throttle")
        expect(page.get_by_text("violet to grey")).to_be_visible()
        page.get_by_role("button", name="Take the plug Throttle out").click()
        expect(page.get_by_text("violet to grey")).to_have_count(0)
        page.get_by_label("Table of plug colours, CSV").set_input_files(str(saved.value.path()))
        expect(page.get_by_text("violet to grey")).to_be_visible()
        page.get_by_role("button", name="all wires", exact=True).click()
        expect(page.get_by_role("cell", name="violet to grey")).to_be_visible()
        with page.expect_download() as wires:
            page.get_by_role("button", name="Save the wire list as CSV").click()
        self.assertIn("wire,from,to,function", wires.value.path().read_text(encoding="utf-8"))

    def test_an_opened_seal_is_a_step_and_a_note_until_it_is_closed(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.get_by_role("button", name="covers and seals").click()
        page.get_by_role("button", name="Add a seal against water").click()
        expect(page.get_by_role("button", name=re.compile("^Close: Lid with a gasket"))).to_be_visible()
        # A note among the folded ones.
        page.locator("[data-findings]:visible summary").click()
        expect(page.get_by_text("Not closed yet: Lid with a gasket")).to_be_visible()
        page.get_by_role("checkbox", name="Closed again").check()
        expect(page.get_by_text("Not closed yet: Lid with a gasket")).to_have_count(0)


class HookupByKeys(DemoCase):
    def test_through_all_steps_by_keyboard_each_with_its_words_at_the_field(self) -> None:
        """Tab to the first step, then only readings and Enter: every step says what to do where one enters it, the last one leaves all checked."""
        page = self.page
        setup = Setup.objects.get(name="Gentle, for Odette", build__name="Thistle")
        plan = hookup_of(load_setup(setup.document), context_of(setup))
        assert plan is not None
        self.open(self.path("Thistle", "Gentle, for Odette", "hookup"))
        expect(page.get_by_role("form", name="Step 1")).to_be_visible()
        for _ in range(80):
            page.keyboard.press("Tab")
            if page.evaluate("() => document.activeElement.id === 'measured'"):
                break
        for number, step in enumerate(plan.steps, start=1):
            at = page.get_by_label("you read") if step.reading is not None else page.get_by_role("button", name=f"Tick step {number}")
            expect(page.get_by_role("form", name=f"Step {number}", exact=True)).to_be_visible()
            expect(at).to_be_focused()
            expect(at).to_have_accessible_description(re.compile(re.escape(step.what[:40])))
            if step.reading is not None:
                expect(at).to_have_accessible_description(re.compile(re.escape(step.reading.red_on)))
                page.keyboard.type("OL" if step.reading.expected is None else f"{step.reading.expected:.2f}")
            page.keyboard.press("Enter")
            if step.reading is not None and step is not plan.steps[-1]:
                expect(page.get_by_role("form", name=f"Step {number + 1}", exact=True)).to_be_visible()
        expect(page.get_by_text(f"{len(plan.steps)} of {len(plan.steps)} checked")).to_be_visible()
        steps = page.get_by_role("list", name="Steps").get_by_role("listitem")
        self.assertEqual(steps.count(), len(plan.steps))
        expect(page.locator('[aria-current="step"]')).to_contain_text(plan.steps[-1].title)

    def test_a_thicker_lead_asks_for_its_own_steps_once_more(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        expect(page.get_by_text(re.compile(r"^(\d+) of \1 checked$"))).to_be_visible()
        setup = Setup.objects.get(name="Two packs", build__name="Pocket Comet")
        document = dict(setup.document)
        document["main_lead"] = {**document["main_lead"], "awg": 6}
        Setup.objects.filter(pk=setup.pk).update(document=document)
        page.reload()
        expect(page.get_by_text("changed since: once more").first).to_be_visible()
        expect(page.get_by_role("form").get_by_role("heading")).to_contain_text("Minus lead to the controller")

    def test_the_drawing_goes_on_paper_over_several_sheets(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "drawing"))
        for paper, (width, height) in (("A4", (595, 842)), ("Letter", (612, 792))):
            page.get_by_role("button", name=paper, exact=True).click()
            page.get_by_label("Sheets side by side").select_option("2")
            count = page.locator("[data-sheet]").count()
            self.assertGreater(count, 2)
            pdf = page.pdf(prefer_css_page_size=True, print_background=True)
            # The list of all wires goes along, on sheets of its own.
            self.assertIn(len(re.findall(rb"/Type\s*/Page\b", pdf)), (count + 1, count + 2), paper)
            for box in re.findall(rb"/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)", pdf):
                self.assertAlmostEqual(float(box[0]), width, delta=1.5)
                self.assertAlmostEqual(float(box[1]), height, delta=1.5)
        self.assertEqual([*self.axe(), *self.too_wide()], [])
        ink = "() => getComputedStyle(document.documentElement).getPropertyValue('--ink')"
        day = page.evaluate(ink)
        page.evaluate("() => { document.documentElement.dataset.theme = 'dark'; }")
        self.assertNotEqual(page.evaluate(ink), day)
        page.emulate_media(media="print")
        self.assertEqual(page.evaluate(ink), day, "On paper it is day.")
