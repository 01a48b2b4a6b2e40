/** The labels of the machine, filled in or typical. */
import { type Doc, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { withUnit } from "../lib/units";
import { BasisGlyph } from "../ui/Glyph";

/** A tag on the drawing: filled when read, italic when typical. */
function Tag({ label, text, basis }: { label: string; text: string; basis: "measured" | "nameplate" | "assumed" }) {
  return (
    <li className={`rounded-md border bg-card px-2 py-1 ${basis === "assumed" ? "border-dashed border-strong" : "border-ink"}`}>
      <b className="block text-small">{label}</b>
      <span className={`flex items-center gap-1 text-small ${basis === "assumed" ? "text-ink3 italic" : ""}`}>
        <BasisGlyph basis={basis} /> {text}
      </span>
    </li>
  );
}

export function Tags({ doc }: { doc: Doc }) {
  const { units } = useSettings();
  const figure = (pointer: string) =>
    read(doc, pointer) as { value?: number; basis?: "measured" | "nameplate" | "assumed" } | null | undefined;
  const tag = (label: string, pointer: string, say: (v: number) => string) => {
    const f = figure(pointer);
    return f?.value === undefined ? null : <Tag key={pointer} label={label} text={say(f.value)} basis={f.basis ?? "assumed"} />;
  };
  return (
    <ul className="flex flex-wrap justify-center gap-2" aria-label="What is known">
      {tag(
        "Battery",
        "/bank/rows/0/units/0/capacity_ah",
        (v) => `${(read(doc, "/stock/volts_v/value") as number | undefined) ?? "?"} V, ${v} Ah`,
      )}
      {tag("Motor", "/motor/power_w", (v) => `${read(doc, "/motor/count") === 2 ? "two, " : ""}${v} W`)}
      {tag("Gears", "/drivetrain/ratio", (v) => `about ${v}:1`)}
      {tag("Wheel", "/wheel/diameter_m", (v) => withUnit(v, "small", units))}
      {tag("Mass", "/vehicle/mass_kg", (v) => withUnit(v, "mass", units))}
      <Tag
        label="Rider"
        text={
          read(doc, "/rider/age_years")
            ? `${read(doc, "/rider/name") || "rider"}, ${read(doc, "/rider/age_years")} years`
            : "not known"
        }
        basis={read(doc, "/rider/age_years") ? "measured" : "assumed"}
      />
    </ul>
  );
}
