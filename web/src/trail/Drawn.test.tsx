import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { show, stationOf } from "../testing/render";
import { SideRibbon, UprightRibbon } from "./Ribbon";
import { Trail } from "./Trail";

const stations = [
  stationOf({ id: "packs", name: "Packs", stage: "power", share: 0.5, detail: "36 V" }),
  stationOf({ id: "leads", name: "Leads", share: 0.95, state: "close", weak: true }),
  stationOf({ id: "plugs", name: "Plugs", share: 1.3, asks: 39, state: "over", detail: "spade" }),
  stationOf({ id: "rider", name: "Rider", stands: null, share: null, state: "unknown", detail: "" }),
];
const page = (selected?: string) =>
  show(<Trail stations={stations} selected={selected} to={(s) => `/builds/2/setups/7/${s.stage}/${s.id}`} />);
const link = (name: string) => screen.getByRole("link", { name: new RegExp(`^${name}`) });

test("every station leads to its stage, in the order of the current", () => {
  page();
  expect(screen.getAllByRole("link").map((a) => a.getAttribute("href"))).toEqual([
    "/builds/2/setups/7/power/packs",
    "/builds/2/setups/7/protect/leads",
    "/builds/2/setups/7/protect/plugs",
    "/builds/2/setups/7/protect/rider",
  ]);
});

test("each says what is asked, what it stands and what is spare", () => {
  page();
  expect(within(link("Packs")).getByText("50 % spare")).toBeDefined();
  expect(within(link("Packs")).getByText("12 of 30 A")).toBeDefined();
  expect(within(link("Plugs")).getByText("over")).toBeDefined();
  expect(within(link("Rider")).getByText("not known")).toBeDefined();
  expect(within(link("Leads")).getByText("Weak link")).toBeDefined();
  expect(within(link("Leads")).getByText("12 AWG")).toBeDefined();
});

test("the one in view is marked for those who do not see colours", () => {
  page("plugs");
  expect(link("Plugs").getAttribute("aria-current")).toBe("true");
  expect(link("Packs").getAttribute("aria-current")).toBeNull();
});

test("no station yet says how to begin", () => {
  show(<Trail stations={[]} selected={undefined} to={() => "/"} />);
  expect(screen.getByText(/start with the packs/)).toBeDefined();
});

test("a stop with room to spare is still a stop", () => {
  show(<Trail stations={[stationOf({ share: 0.3, state: "over" })]} selected={undefined} to={() => "/"} />);
  expect(screen.getByText("stop")).toBeDefined();
});

const width = (path: Element | null) => {
  const numbers = [...(path?.getAttribute("d") ?? "").matchAll(/-?\d+(\.\d+)?/g)].map((m) => Number(m[0]));
  return numbers;
};

test("the ribbon is narrow where little is spare", () => {
  const { container } = show(<SideRibbon stations={[{ share: 0, state: "fine" }]} id="wide" />);
  const wide = Math.max(...width(container.querySelector("path")).filter((_, i) => i % 2 === 1));
  const { container: other } = show(<SideRibbon stations={[{ share: 1, state: "over" }]} id="narrow" />);
  const narrow = Math.max(...width(other.querySelector("path")).filter((_, i) => i % 2 === 1));
  expect(wide).toBeGreaterThan(narrow);
});

test("marks have a shape for each state: eight corners over, a triangle close, a dashed ring unknown", () => {
  const { container } = show(<UprightRibbon stations={stations} step={50} />);
  expect(container.querySelectorAll("circle").length).toBe(2);
  expect(container.querySelectorAll("circle[stroke-dasharray]").length).toBe(1);
  expect(container.querySelectorAll("g").length).toBe(2);
});

test("nothing to draw is an empty frame", () => {
  const { container } = show(<SideRibbon stations={[]} id="none" />);
  expect(container.querySelector("svg")).toBeNull();
});
