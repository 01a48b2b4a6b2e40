"""Requests as somebody would try them by hand: those that work, and what one does to them to see what breaks."""

from __future__ import annotations

import json
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

JSON = "application/json"


@dataclass(frozen=True)
class Attempt:
    """A request as bytes."""

    method: str
    path: str
    body: bytes = b""
    kind: str = JSON
    headers: tuple[tuple[str, str], ...] = ()
    rule: str = "as it is"


def working(ids: dict[str, list[Any]], document: dict[str, Any]) -> list[Attempt]:
    """One request of every kind that gets through, for the ids of a household and a whole setup."""
    garage, build, setup = ids["garage_id"][0], ids["build_id"][0], ids["setup_id"][1]
    at, of = f"/api/garages/{garage}", f"/api/builds/{build}"
    part = f"{at}/rack/{ids['part_id'][0]}"
    draft = {"setup": document, "build_id": build}
    reading = {"kind": "volts", "red_on": "a", "black_on": "b", "expected": 12.0, "low": 11.0, "high": 13.0, "unit": "V", "note": ""}
    passes = [{"distance_m": 30.0, "time_s": 8.0, "direction": "out"}]
    course = {"name": "Round", "stretches": [{"surface": "lawn", "grade": 0.02, "length_m": 100.0, "share": 1.0}]}
    gpx = '<gpx version="1.1"><trk><trkseg>' + "".join(f'<trkpt lat="{50 + n / 1e4}" lon="8"><ele>{100 + n}</ele></trkpt>' for n in range(20)) + "</trkseg></trk></gpx>"
    rows: list[tuple[str, str, Any]] = [
        *(("POST", f"/api/{name}", draft) for name in ("evaluate", "ranges", "fixes", "power", "protect", "drive", "charging")),
        ("POST", "/api/hookup", {**draft, "done": [{"step": "safe", "mark": "", "measured": 0.0, "measured_open": False}]}),
        ("POST", "/api/hookup/meter", {"setup": document, "red": "pack 1 +", "black": "pack 1 -", "situation": {}}),
        ("POST", "/api/hookup/wires", {"setup": document}),
        ("POST", "/api/hookup/colours", {"setup": document}),
        ("POST", "/api/hookup/colours/read", {"text": "place,half,colour,function\nthrottle,part,red,5 V\n"}),
        ("POST", "/api/judge", {"reading": reading, "measured": 12.1}),
        ("POST", "/api/courses/read", {"name": "Own", "text": gpx}),
        ("POST", "/api/courses/read", {"name": "Own", "text": "0,100\n50,101\n120,99\n"}),
        ("POST", "/api/courses/csv", {"course": course}),
        ("POST", "/api/measure", {"pack": {"cells_in_series": 5}, "what": "resistance", "amps_a": 10, "rest_v": 20.0, "load_v": 19.0}),
        ("POST", "/api/instead", {**draft, "slot": "motor", "candidates": [{"name": "Another", "part": {"kind": "brushed", "power_w": 500}}]}),
        ("POST", "/api/drive/goal", {**draft, "kind": "time", "value": 3600}),
        ("POST", "/api/completed", {"setup": document, "baseline": document}),
        ("POST", "/api/offers", {"baseline": document, "shelf": [{"pack": {"cells_in_series": 5}, "count": 2}]}),
        ("POST", "/api/compare", {"setup_ids": ids["setup_id"][:2]}),
        ("POST", f"{at}/builds", {"name": "By hand", "family": "quad", "setups": [{"name": "As found", "document": document}]}),
        ("PATCH", of, {"name": "Clover", "description": "Chain bike.", "new_price": {"amount": 349, "currency": "EUR"}}),
        ("POST", f"{of}/setups", {"name": "One more", "document": document}),
        ("PUT", f"/api/setups/{setup}", {"document": document, "based_on": 1, "base": document, "answers": {}}),
        ("PATCH", f"/api/setups/{setup}", {"name": "Changed"}),
        ("POST", f"/api/setups/{setup}/restore", {"number": 1, "based_on": 1}),
        ("PUT", f"/api/setups/{setup}/ticks/safe", {"measured": 0.0}),
        ("PUT", f"/api/setups/{setup}/overrules", {"finding": "ride.cap", "reason": "On the bench only."}),
        ("PUT", f"/api/setups/{setup}/observations", {"finding": "look.held", "text": "Held by two bolts."}),
        ("POST", f"{of}/trials", {"setup_id": ids["setup_id"][0], "passes": passes, "confirmed": True, "when": "2026-03-01T10:00:00Z"}),
        ("POST", f"{of}/journal", {"kind": "note", "text": "New tyres."}),
        ("POST", f"{of}/incidents", {"kind": "crash", "note": "Into the hedge.", "done": []}),
        ("POST", f"{of}/look-links", {"days": 7, "note": "For uncle"}),
        ("POST", "/api/look", {"token": "x" * 43}),
        ("PATCH", at, {"name": "Shed", "units": {"speed": "km/h"}, "house_rules": {"wire_school": "common"}, "emergency_number": "112"}),
        ("POST", f"{at}/rack", {"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}, "quantity": 2}),
        ("POST", f"{at}/rack", {"kind": "packs", "document": {"cells_in_series": 5, "capacity_ah": 5}, "quantity": 2, "about": {"status": "ordered"}}),
        (
            "PUT",
            part,
            {"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}, "quantity": 3, "about": {"price": {"amount": 3, "currency": "EUR"}}, "follow": [setup]},
        ),
        ("POST", f"{at}/rack/table", {"text": "part,label,rating_a\nfuses,30 A,30\n"}),
        ("POST", f"{at}/photos", {"upload": ids["upload_id"][0], "part": ids["part_id"][0], "caption": "its label"}),
        ("POST", f"{part}/fit", {"setup": document, "build_id": build}),
        ("POST", f"{part}/take-out", {"number": 0}),
        ("POST", f"{at}/rack", {"kind": "kits", "document": {"contents": [{"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}}], "leads": ["key"]}}),
        ("POST", f"{part}/log", {"kind": "note", "text": "From the drawer.", "when": "2026-03-01T10:00:00Z"}),
        ("POST", f"{at}/riders", {"document": {"name": "Bo", "age_years": 7}}),
        ("POST", f"{at}/invitations", {"role": "viewer", "days": 7}),
        ("POST", "/api/garages", {"name": "Another"}),
        ("POST", "/api/uploads", {"name": "shed.zip", "size": 10}),
        ("POST", f"{at}/import", {"format": "plucky gecko build", "version": 1, "name": "By hand", "family": "quad", "setups": []}),
        ("POST", f"{at}/imports", {"upload": ids["upload_id"][0]}),
        ("POST", "/api/session/sign-in", {"username": "nobody", "password": "nothing at all"}),
        *(("GET", path, None) for path in ("/api/session", "/api/parts", "/api/troubles", "/api/typical/quad", at, f"{at}/index", f"{at}/bin", f"{at}/export")),
        *(("GET", f"{of}{part}", None) for part in ("", "/trials?skip=0&limit=10", "/journal?limit=5", "/troubles", "/incidents", "/costs", "/photos", "/export")),
        *(("GET", f"/api/setups/{setup}/{part}", None) for part in ("revisions?limit=3", "latest", "standing", "parts", "parts.csv")),
        ("GET", f"{at}/photos?part={ids['part_id'][0]}", None),
        *(("GET", f"{part}{more}", None) for more in ("", "/uses", "/log?limit=5", "/life")),
        *(("GET", path, None) for path in (f"{at}/rack", f"{at}/rack.csv", "/api/mishaps/packs")),
    ]
    return [Attempt(method, path, b"" if body is None else json.dumps(body).encode()) for method, path, body in rows]


def _numbers(rule: Callable[[float], Any], dice: random.Random, value: Any) -> Any:
    """One number of a value changed by a rule."""
    places: list[tuple[Any, Any]] = []

    def walk(inner: Any) -> None:
        for key, one in list(inner.items() if isinstance(inner, dict) else enumerate(inner) if isinstance(inner, list) else ()):
            if isinstance(one, int | float) and not isinstance(one, bool):
                places.append((inner, key))
            walk(one)

    walk(value)
    if places:
        holder, key = dice.choice(places)
        holder[key] = rule(holder[key])
    return value


def _somewhere(put: Callable[[random.Random], Any], dice: random.Random, value: Any) -> Any:
    """Something else in one place of a value, at any depth."""
    place = value
    while isinstance(place, dict | list) and place:
        key: Any = dice.choice(list(place)) if isinstance(place, dict) else dice.randrange(len(place))
        if dice.random() < 0.35 or not isinstance(place[key], dict | list) or not place[key]:
            place[key] = put(dice)
            return value
        place = place[key]
    return put(dice)


def _dropped(dice: random.Random, value: Any) -> Any:
    if isinstance(value, dict) and value:
        value.pop(dice.choice(list(value)))
    return value


VALUES: dict[str, Callable[[random.Random, Any], Any]] = {
    "a number ten times": lambda dice, value: _numbers(lambda n: n * 10, dice, value),
    "a number a thousand times": lambda dice, value: _numbers(lambda n: n * 1000, dice, value),
    "a number a thousandth": lambda dice, value: _numbers(lambda n: n / 1000, dice, value),
    "a number below zero": lambda dice, value: _numbers(lambda n: -n - 1, dice, value),
    "a number of zero": lambda dice, value: _numbers(lambda _: 0, dice, value),
    "a number as text": lambda dice, value: _numbers(lambda n: f" {n} ".replace(".", ","), dice, value),
    "a number at the edge": lambda dice, value: _numbers(lambda _: dice.choice((1e308, 5e-324, -0.0, 2**31, 2**53, 10**14)), dice, value),
    "nothing somewhere": lambda dice, value: _somewhere(lambda _: None, dice, value),
    "a list somewhere": lambda dice, value: _somewhere(lambda _: [1, "a", None] * 20, dice, value),
    "an object somewhere": lambda dice, value: _somewhere(lambda _: {"__proto__": {}, "value": {"value": 1}}, dice, value),
    "a word somewhere": lambda dice, value: _somewhere(
        lambda d: d.choice(("", " ", "yes", "\u202e", "\x00", "😀" * 50, "'; --", "<script>", "[[1|speed]]", "٣")), dice, value
    ),
    "a long word somewhere": lambda dice, value: _somewhere(lambda _: "x" * 200_000, dice, value),
    "half a character somewhere": lambda dice, value: _somewhere(lambda _: "\ud800", dice, value),
    "a date at the edge of time": lambda dice, value: _somewhere(
        lambda d: d.choice(("0001-01-01T00:00:00Z", "9999-12-31T23:59:59-12:00", "2026-02-30", "1e9")), dice, value
    ),
    "a field gone": _dropped,
    "a field more": lambda _, value: {**value, "surprise": 1} if isinstance(value, dict) else value,
    "a list of many": lambda dice, value: _somewhere(lambda _: [{}] * 3000, dice, value),
    "deep": lambda dice, value: _somewhere(lambda _: json.loads("[" * 30 + "]" * 30), dice, value),
    "a list itself": lambda _, value: [value],
    "the same twice": lambda _, value: {key: one + one if isinstance(one, list) else one for key, one in value.items()} if isinstance(value, dict) else value,
}
"""What is done to the value of a body."""

BODIES: dict[str, Callable[[random.Random, bytes], bytes]] = {
    "cut off": lambda dice, body: body[: dice.randrange(len(body) + 1)],
    "a byte changed": lambda dice, body: body[: (k := dice.randrange(len(body) + 1))] + bytes([dice.randrange(256)]) + body[k + 1 :],
    "no number": lambda _, body: body.replace(b"1", b"NaN", 1),
    "without end": lambda _, body: body.replace(b"1", b"Infinity", 1),
    "a number of many digits": lambda _, body: body.replace(b"1", b"1" * 5000, 1),
    "very deep": lambda _, body: b"[" * 50_000 + body,
    "a key twice": lambda _, body: body.replace(b"{", b'{"name": 1, "name": {}, ', 1),
    "not of its letters": lambda _, body: body + b"\xff\xfe",
    "with a mark of its letters": lambda _, body: b"\xef\xbb\xbf" + body,
    "empty": lambda *_: b"",
    "long": lambda _, body: body + b" " * 9_000_000,
}
"""What is done to the bytes of a body."""

PATHS: dict[str, Callable[[random.Random, str], str]] = {
    "of another": lambda dice, path: "/".join(
        str(dice.choice((0, 1, 2, 999, -1, 2**63, "9" * 40, "%00", "a", "..", "%2e%2e"))) if p.isdigit() else p for p in path.split("/")
    ),
    "a slash more": lambda _, path: path + "/",
    "asked for too much": lambda dice, path: (
        path.split("?")[0] + dice.choice(("?limit=0", "?limit=100000", "?skip=-1", "?skip=99999999999999999999", "?limit=x", "?a=%ff", "?limit=1&limit=2"))
    ),
    "written oddly": lambda _, path: path.replace("/api/", "/api//"),
}
"""What is done to an address."""


def attempts(ids: dict[str, list[Any]], document: dict[str, Any], seed: int) -> Iterator[Attempt]:
    """Attempts without end: one that works, and one thing done to it."""
    dice = random.Random(seed)
    base = working(ids, document)
    while True:
        one = dice.choice(base)
        kind = dice.choices(("value", "body", "path", "method", "type", "header", "none"), (60, 14, 10, 4, 4, 4, 4))[0]
        if kind == "value" and one.body:
            rule = dice.choice(list(VALUES))
            changed = VALUES[rule](dice, json.loads(one.body))
            yield replace(one, body=json.dumps(changed).encode(), rule=rule)
        elif kind == "body":
            rule = dice.choice(list(BODIES))
            yield replace(one, body=BODIES[rule](dice, one.body), rule=rule)
        elif kind == "path":
            rule = dice.choice(list(PATHS))
            yield replace(one, path=PATHS[rule](dice, one.path), rule=rule)
        elif kind == "method":
            yield replace(one, method=dice.choice(("GET", "POST", "PUT", "PATCH", "DELETE", "OPTIONS", "HEAD", "TRACE", "BREW")), rule="another method")
        elif kind == "type":
            odd = (
                "text/plain",
                "application/x-www-form-urlencoded",
                "multipart/form-data; boundary=x",
                "application/json; charset=utf-16",
                "",
                "application/octet-stream",
            )
            yield replace(one, kind=dice.choice(odd), rule="another type")
        elif kind == "header":
            odd_headers = (("Idempotency-Key", "ö"), ("Idempotency-Key", "a" * 500), ("Accept", "image/png"), ("Content-Encoding", "gzip"), ("X-Forwarded-For", "' or 1"))
            yield replace(one, headers=(dice.choice(odd_headers),), rule="a header")
        else:
            yield one
