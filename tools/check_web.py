"""The web computes no engineering value: it may convert and draw, but the words of the model do not occur in it.

A crude but honest guard: formulas need roots, exponentials, logarithms or physical constants. Only the plots' own folder may
use logarithms, for its axes, and only `texts/units.ts` may hold conversion factors.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

FORBIDDEN = re.compile(r"Math\.(sqrt|exp|log|log2|pow|cbrt|hypot|tanh?)\b|9\.81|1\.724|0\.00393|\*\*")
ALLOWED = {"texts/units.ts", "ui/Plot.tsx"}


def main() -> int:
    """Exit code 1 with the places when a formula is found."""
    root = Path(__file__).resolve().parent.parent / "web" / "src"
    found = []
    for file in sorted(root.rglob("*.ts*")):
        name = file.relative_to(root).as_posix()
        if name in ALLOWED or name.endswith((".test.ts", ".test.tsx", "schema.d.ts")):
            continue
        for number, line in enumerate(file.read_text(encoding="utf-8").splitlines(), 1):
            if FORBIDDEN.search(line) and not line.lstrip().startswith(("//", "*", "/*")):
                found.append(f"web/src/{name}:{number}: {line.strip()[:100]}")
    for place in found:
        print(f"The web computes no engineering value, this looks like one: {place}")
    host = re.compile(r"https?://[^\"]*(registry|pypi|npmjs)")
    for lock in ("requirements-dev.txt", "web/package-lock.json"):
        if host.search((root.parent.parent / lock).read_text(encoding="utf-8")):
            print(f"{lock} names a host.")
            found.append(lock)
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
