"""The list of what ships with the program and under which licence: the fonts and libraries of the page, the packages of the server.

`python tools/licences.py` writes docs/licences.md; with --check it only says whether it is current.
"""

from __future__ import annotations

import json
import re
import sys
from email.message import Message
from importlib.metadata import metadata
from pathlib import Path
from typing import cast

ROOT = Path(__file__).resolve().parent.parent
LIST = ROOT / "docs" / "licences.md"

CLASSIFIER = "License :: OSI Approved :: "
WORDS = {"BSD License": "BSD", "MIT License": "MIT", "Apache Software License": "Apache-2.0", "Python Software Foundation License": "PSF-2.0"}


def of_package(name: str) -> tuple[str, str]:
    """Version and licence of an installed Python package, as it says itself."""
    # Its type in this version of Python names a part of what a message can.
    told = cast(Message, metadata(name))
    short = told.get("License-Expression") or ""
    classified = [line.removeprefix(CLASSIFIER) for line in told.get_all("Classifier") or [] if line.startswith(CLASSIFIER)]
    text = (told.get("License") or "").strip().splitlines()
    licence = short or ", ".join(WORDS.get(one, one) for one in classified) or (text[0][:60] if text else "see the package")
    return told["Version"], licence


def server() -> list[tuple[str, str, str]]:
    """Packages the server runs with: those of requirements.txt."""
    names = re.findall(r"^([A-Za-z0-9._-]+)==", (ROOT / "requirements.txt").read_text(encoding="utf-8"), re.MULTILINE)
    return [(name, *of_package(name)) for name in sorted(names, key=str.lower)]


def page() -> list[tuple[str, str, str]]:
    """Fonts, icons and libraries that end up in the page: what the lock file does not mark as needed for making it only."""
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text(encoding="utf-8"))["packages"]
    found = {}
    for path, entry in lock.items():
        if not path.startswith("node_modules/") or entry.get("dev") or entry.get("optional"):
            continue
        told = json.loads((ROOT / "web" / path / "package.json").read_text(encoding="utf-8"))
        found[path.rsplit("node_modules/", 1)[1]] = (str(entry["version"]), str(told.get("license", "see the package")))
    return [(name, *found[name]) for name in sorted(found)]


def table(rows: list[tuple[str, str, str]]) -> str:
    """Rows as a Markdown table."""
    return "\n".join(["| what | version | licence |", "|---|---|---|", *(f"| {name} | {version} | {licence} |" for name, version, licence in rows)])


def written() -> str:
    """The whole list."""
    return f"""# Licences

Plucky Gecko itself is under the licence in `LICENSE`. With it ship, unchanged and under their own:

## In the page: fonts, icons, libraries
{table(page())}

## On the server
{table(server())}

Made by `tools/licences.py` from what each says of itself; the texts lie in the packages.
"""


if __name__ == "__main__":
    if "--check" in sys.argv[1:]:
        if LIST.read_text(encoding="utf-8") != written():
            sys.exit("docs/licences.md is out of date: run python tools/licences.py")
    else:
        LIST.write_text(written(), encoding="utf-8")
