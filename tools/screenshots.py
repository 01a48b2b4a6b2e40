"""Takes one picture of each main view from the demo data into docs/screenshots. `--to DIR` and names choose fewer, elsewhere."""

from __future__ import annotations

import argparse
import sys
import tempfile
from functools import partial
from pathlib import Path

from playwright.sync_api import Page, ViewportSize, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from tools.browser import DESK, PHONE, launch  # noqa: E402
from tools.serving import demo_server  # noqa: E402

# name → (build, setup, rest of the address, size, dark)
VIEWS: dict[str, tuple[str, str, str, ViewportSize, bool]] = {
    "garage": ("", "", "/", DESK, False),
    "start": ("", "", "/start", DESK, False),
    "survey": ("Thistle", "As found", "survey", DESK, False),
    "power": ("Marmalade", "Three side by side", "power", DESK, False),
    "protect": ("Bramble", "14-cell, first idea", "protect", DESK, False),
    "pack": ("", "", "pack 7-cell garden pack, 4 Ah A", DESK, False),
    "protect-leads": ("Marmalade", "Three side by side", "protect", DESK, False),
    "drive": ("Thistle", "Twelve-cell LFP", "drive", DESK, False),
    "drive-ride": ("Marmalade", "Three side by side", "drive", DESK, False),
    "compare": ("Thistle", "Eight-cell LFP", "compare", DESK, False),
    "hookup": ("Pocket Comet", "Two packs", "hookup/motor", DESK, False),
    "hookup-paper": ("Marmalade", "Three side by side", "drawing", DESK, False),
    "prove": ("Thistle", "Eight-cell LFP", "prove", DESK, False),
    "care": ("Pocket Comet", "Two packs", "care", DESK, False),
    "sheet": ("Marmalade", "Three side by side", "sheet", DESK, False),
    "power-night": ("Pocket Comet", "Two packs", "power", DESK, True),
    "trouble": ("Thistle", "Eight-cell LFP", "trouble?what=smoke", DESK, False),
    "phone-garage": ("", "", "/", PHONE, False),
    "phone-hookup": ("Bramble", "14-cell pack", "hookup", PHONE, False),
}


# name → (button to press or "", heading to scroll to), for views further down a page
FURTHER: dict[str, tuple[str, str]] = {
    "drive-ride": ("the ride", ""),
}


def address(page: Page, base: str, view: tuple[str, str, str, ViewportSize, bool]) -> str:
    """The address of a view, looked up by names through the API."""
    build_name, setup_name, rest, _, _ = view
    if rest.startswith("/"):
        return base + rest
    garage = page.request.get(f"{base}/api/garages").json()[0]["id"]
    if rest.startswith("pack "):
        parts = page.request.get(f"{base}/api/garages/{garage}/rack").json()
        return f"{base}/rack/{next(one['id'] for one in parts if rest == ' '.join(('pack', one['label'], one['letter'])))}"
    builds = page.request.get(f"{base}/api/garages/{garage}").json()["builds"]
    build = next(b for b in builds if b["name"] == build_name)["id"]
    setups = page.request.get(f"{base}/api/builds/{build}").json()["setups"]
    setup = next(s for s in setups if s["name"] == setup_name)["id"]
    if rest.startswith("trouble"):
        return f"{base}/builds/{build}/{rest}"
    if rest == "compare":
        return f"{base}/builds/{build}/compare?with={','.join(str(s['id']) for s in setups)}"
    return f"{base}/builds/{build}/setups/{setup}/{rest}"


def shoot(base: str, names: list[str], folder: Path) -> None:
    """Take the pictures."""
    folder.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name in names:
            view = VIEWS[name]
            phone = view[3] is PHONE
            context = browser.new_context(viewport=view[3], locale="en-GB", device_scale_factor=2 if phone else 1)
            if view[4]:
                context.add_init_script("localStorage.setItem('gecko-theme', 'dark')")
            page = context.new_page()
            page.on("pageerror", partial(print, f"{name}:"))
            page.request.get(f"{base}/api/session")
            page.goto(address(page, base, view))
            page.wait_for_load_state("networkidle")
            if name == "start":
                page.get_by_label("Name of the build").fill("Marigold")
                page.get_by_role("button", name="24 V").click()
                page.get_by_role("checkbox", name="Pip").check()
                page.wait_for_timeout(6000)
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(1200)
            if view[2] == "protect":
                page.get_by_role("list", name="Leads from the packs outward").wait_for()
            if name in FURTHER:
                button, heading = FURTHER[name]
                if button:
                    page.get_by_role("button", name=button, exact=True).click()
                place = page.get_by_role("heading", name=heading) if heading else page.get_by_role("button", name=button, exact=True)
                place.evaluate("(e) => e.scrollIntoView({block: 'start'})")
                page.wait_for_timeout(600)
            page.wait_for_load_state("networkidle")
            page.screenshot(path=folder / f"{name}.png")
            context.close()
        browser.close()


def main() -> int:
    """Start a demo server of its own, take the pictures, stop it."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", default=list(VIEWS))
    parser.add_argument("--to", type=Path, default=ROOT / "docs" / "screenshots")
    parser.add_argument("--base", help="a server that runs already")
    args = parser.parse_args()
    if args.base:
        shoot(args.base, args.names, args.to)
        return 0
    with tempfile.TemporaryDirectory() as var, demo_server(Path(var)) as running:
        shoot(running.address, args.names, args.to)
    return 0


if __name__ == "__main__":
    sys.exit(main())
