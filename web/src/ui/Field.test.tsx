import { screen } from "@testing-library/react";
import { useState } from "react";
import { expect, test } from "vitest";
import { type Doc, read, write } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { formOf, show } from "../testing/render";
import { METRIC } from "../texts/units";
import { CheckField, FormProvider, NumberField, SegmentField, SelectField, TextField } from "./Field";

const plate = (value: number, basis = "nameplate") => ({ value, basis });

/** A form that really changes, as the bench's does. */
function Live({ start, children }: { start: Doc; children: React.ReactNode }) {
  const [doc, setDoc] = useState(start);
  return (
    <FormProvider
      value={{
        doc,
        edit: (pointer, value) => setDoc((now) => write(now, pointer, value)),
        problems: [],
        help: () => "",
        assumed: {},
      }}
    >
      {children}
      <output aria-label="document">{JSON.stringify(doc)}</output>
    </FormProvider>
  );
}
const documentNow = () => JSON.parse(screen.getByLabelText("document").textContent ?? "") as Doc;

function Metric() {
  const { setUnits } = useSettings();
  return (
    <button type="button" onClick={() => setUnits(METRIC)}>
      metric
    </button>
  );
}

test("a number is written in SI with the basis of a label just read", async () => {
  const { user } = show(
    <Live start={{}}>
      <NumberField label="Wheel" pointer="/wheel/diameter_m" kind="small" />
    </Live>,
  );
  await user.type(screen.getByLabelText("Wheel"), "10");
  expect(read(documentNow(), "/wheel/diameter_m")).toEqual({ value: 0.254, basis: "nameplate" });
});

test("a decimal comma counts as a point", async () => {
  const { user } = show(
    <Live start={{}}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  await user.type(screen.getByLabelText("Capacity"), "4,5");
  expect(read(documentNow(), "/c/value")).toBe(4.5);
  expect(screen.getByLabelText<HTMLInputElement>("Capacity").value).toBe("4,5");
});

test("half-typed text stays, is explained, and changes nothing", async () => {
  const { user } = show(
    <Live start={{ c: plate(4) }}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  const field = screen.getByLabelText<HTMLInputElement>("Capacity");
  await user.clear(field);
  await user.type(field, "abc");
  expect(screen.getByRole("alert").textContent).toBe("This must be a number, such as 12.5");
  expect(field.getAttribute("aria-invalid")).toBe("true");
  await user.tab();
  expect(field.value).toBe("abc");
  expect(read(documentNow(), "/c")).toBeNull();
  await user.clear(field);
  await user.type(field, "6");
  expect(screen.queryByRole("alert")).toBeNull();
  expect(read(documentNow(), "/c/value")).toBe(6);
});

test("emptied means not known", async () => {
  const { user } = show(
    <Live start={{ c: plate(4) }}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  await user.clear(screen.getByLabelText("Capacity"));
  expect(read(documentNow(), "/c")).toBeNull();
  expect(screen.getByPlaceholderText("not known")).toBeDefined();
});

test("a count is whole and plain", async () => {
  const { user } = show(
    <Live start={{ n: 10 }}>
      <NumberField label="Cells" pointer="/n" plain whole />
    </Live>,
  );
  const field = screen.getByLabelText("Cells");
  await user.type(field, ".5");
  expect(screen.getByRole("alert").textContent).toBe("This must be a whole number");
  expect(documentNow().n).toBe(10);
  await user.clear(field);
  await user.type(field, "12");
  expect(documentNow().n).toBe(12);
});

test("where a number comes from goes round by a click, the number stays", async () => {
  const { user } = show(
    <Live start={{ c: plate(4, "measured") }}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  for (const basis of ["nameplate", "assumed", "measured"]) {
    await user.click(screen.getByTitle("Change where this number comes from"));
    expect(read(documentNow(), "/c")).toEqual({ value: 4, basis });
  }
});

test("a new number keeps the basis the old one had", async () => {
  const { user } = show(
    <Live start={{ c: plate(4, "measured") }}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  await user.type(screen.getByLabelText("Capacity"), "2");
  expect(read(documentNow(), "/c")).toEqual({ value: 42, basis: "measured" });
});

test("typing over what was assumed makes it a number that was read", async () => {
  const { user } = show(
    <Live start={{ c: plate(4, "assumed") }}>
      <NumberField label="Capacity" pointer="/c" unit="Ah" />
    </Live>,
  );
  await user.type(screen.getByLabelText("Capacity"), "2");
  expect(read(documentNow(), "/c")).toEqual({ value: 42, basis: "nameplate" });
});

test("other units show another number and leave the document alone", async () => {
  const { user } = show(
    <Live start={{ wheel: plate(0.254, "measured") }}>
      <NumberField label="Wheel" pointer="/wheel" kind="small" />
      <Metric />
    </Live>,
  );
  expect(screen.getByLabelText<HTMLInputElement>("Wheel").value).toBe("10");
  await user.click(screen.getByText("metric"));
  expect(screen.getByLabelText<HTMLInputElement>("Wheel").value).toBe("254");
  expect(documentNow().wheel).toEqual({ value: 0.254, basis: "measured" });
});

test("what the server found wrong stands at its field, and what it took as typical in it", () => {
  const { scope } = formOf(
    { a: plate(-1) },
    { problems: [{ path: "/a/value", message: "This must be more than zero." }], assumed: { "/b": 0.093 } },
  );
  show(
    <FormProvider value={scope}>
      <NumberField label="A" pointer="/a" />
      <NumberField label="B" pointer="/b" />
      <NumberField label="Ab" pointer="/ab" />
    </FormProvider>,
  );
  expect(screen.getAllByRole("alert").map((alert) => alert.textContent)).toEqual(["This must be more than zero."]);
  expect(screen.getByLabelText("B").getAttribute("placeholder")).toBe("0.093, typical");
});

test("help opens on its question mark", async () => {
  const { scope } = formOf({}, { help: (pointer) => (pointer === "/a" ? "Amps printed on it." : "") });
  const { user } = show(
    <FormProvider value={scope}>
      <NumberField label="Rating" pointer="/a" />
      <NumberField label="Other" pointer="/b" />
    </FormProvider>,
  );
  expect(screen.queryByRole("button", { name: "Help with: Other" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Help with: Rating" }));
  expect(screen.getByText("Amps printed on it.")).toBeDefined();
});

test("a choice that was numbers stays numbers", async () => {
  const { user } = show(
    <Live start={{ awg: 12, kind: null }}>
      <SelectField
        label="Gauge"
        pointer="/awg"
        options={[
          ["12", "12 AWG"],
          ["10", "10 AWG"],
        ]}
      />
      <SelectField label="Kind" pointer="/kind" options={[["hub", "hub motor"]]} />
    </Live>,
  );
  expect(screen.getByText("Choose…")).toBeDefined();
  await user.selectOptions(screen.getByLabelText("Gauge"), "10");
  await user.selectOptions(screen.getByLabelText("Kind"), "hub");
  expect(documentNow()).toEqual({ awg: 10, kind: "hub" });
});

test("a segment of yes and no writes true and false", async () => {
  const { user } = show(
    <Live start={{}}>
      <SegmentField
        label="Foot switch"
        pointer="/f"
        fallback="false"
        options={[
          ["true", "wired"],
          ["false", "not"],
        ]}
      />
    </Live>,
  );
  expect(screen.getByRole("button", { name: "not" }).getAttribute("aria-pressed")).toBe("true");
  await user.click(screen.getByRole("button", { name: "wired" }));
  expect(documentNow()).toEqual({ f: true });
});

test("text and tick", async () => {
  const { user } = show(
    <Live start={{ note: "Red is plus" }}>
      <TextField label="Note" pointer="/note" long />
      <CheckField label="Proven" pointer="/proven" />
    </Live>,
  );
  await user.type(screen.getByLabelText("Note"), ", measured");
  await user.click(screen.getByLabelText("Proven"));
  expect(documentNow()).toEqual({ note: "Red is plus, measured", proven: true });
});
