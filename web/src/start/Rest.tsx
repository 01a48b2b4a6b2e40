/** What nobody has to type: the rest is typical of its kind, shown in a line, and unfolded where somebody knows better. */
import { useState } from "react";
import { chosenId, useParts } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { rest as say } from "../texts/start";
import { NumberField, useForm } from "../ui/Field";
import { BasisGlyph } from "../ui/Glyph";
import { PickPart } from "../ui/PickPart";

/** Parts that may be others than the stock ones, of the rack or of the list. */
const OTHERS = [
  ["motors", "/motor", say.anotherMotor],
  ["controllers", "/controller", say.anotherController],
] as const;

type Basis = "measured" | "nameplate" | "assumed";

function Tag({ text, basis }: { text: string; basis: Basis }) {
  return (
    <li className={`flex items-center gap-1 whitespace-nowrap ${basis === "assumed" ? "text-ink2 italic" : "font-semibold"}`}>
      <BasisGlyph basis={basis} /> {text}
    </li>
  );
}

export function Rest({ doc, direct }: { doc: Doc; direct: boolean }) {
  const [open, setOpen] = useState(false);
  const { units } = useSettings();
  const { edit } = useForm();
  const parts = useParts();
  const chain = read(doc, "/drivetrain/kind") === "chain";
  const hub = read(doc, "/drivetrain/kind") === "hub";
  const tag = (pointer: string, say: (v: number) => string) => {
    const one = read(doc, pointer) as { value?: number; basis?: Basis } | number | null | undefined;
    const value = typeof one === "number" ? one : one?.value;
    if (value === undefined) return null;
    return <Tag key={pointer} text={say(value)} basis={typeof one === "number" ? "assumed" : (one?.basis ?? "assumed")} />;
  };
  const fields = [
    <NumberField key="ah" label={say.batteryCapacity} pointer="/stock/capacity_ah" unit="Ah" />,
    <NumberField key="mv" label={say.motorVolts} pointer="/motor/volts_v" unit="V" />,
    ...(chain
      ? [
          <NumberField key="mt" label={say.motorTeeth} pointer="/drivetrain/motor_teeth" plain whole />,
          <NumberField key="wt" label={say.wheelTeeth} pointer="/drivetrain/wheel_teeth" plain whole />,
        ]
      : hub
        ? []
        : [<NumberField key="r" label={say.gearRatio} pointer="/drivetrain/ratio" unit=": 1" />]),
    <NumberField key="w" label={say.wheelAcross} pointer="/wheel/diameter_m" kind="small" />,
    <NumberField key="m" label={say.machinesMass} pointer="/vehicle/mass_kg" kind="mass" />,
    ...(direct
      ? []
      : [
          <NumberField key="l" label={say.controllerLimit} pointer="/controller/battery_limit_a" unit="A" />,
          <NumberField key="p" label={say.motorSideLimit} pointer="/controller/phase_limit_a" unit="A" />,
        ]),
    <NumberField key="f" label={say.fuseAsFound} pointer="/main_fuse/rating_a" unit="A" plain />,
    ...OTHERS.map(([kind, at, words]) => (
      <PickPart
        key={kind}
        label={words}
        parts={parts[kind]}
        value={chosenId(parts[kind] ?? [], read(doc, at) as Doc | undefined)}
        none={say.asItIs}
        onPick={(part) => edit(at, part)}
      />
    )),
  ];
  return (
    <section className="border-t border-strong bg-paper" aria-label={say.theRest}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-5 py-2 max-desk:px-4">
        <b className="font-head">{say.theRestIsTypical}</b>
        <ul
          className="flex min-w-0 flex-1 flex-wrap gap-x-4 max-desk:basis-full gap-y-0.5 text-small"
          aria-label={say.whatIsTakenAs}
        >
          {tag("/motor/power_w", (v) => say.motors(read(doc, "/motor/count") === 2, v))}
          {chain
            ? tag("/drivetrain/wheel_teeth", (v) => say.andTeeth(read(doc, "/drivetrain/motor_teeth"), v))
            : tag("/drivetrain/ratio", (v) => say.gears1(v))}
          {tag("/wheel/diameter_m", (v) => say.wheels(v, units))}
          {tag("/main_lead/awg", (v) => say.wireAwg(v))}
          {tag("/main_fuse/rating_a", (v) => say.fuseA(v))}
          {tag("/stock/capacity_ah", (v) => say.ah(v))}
        </ul>
        <button type="button" className="btn" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? say.foldItAway : say.lookThroughAll(fields.length)}
        </button>
      </div>
      {open && (
        <div className="px-5 pb-3 max-desk:px-4">
          <p className="mb-2 text-small text-ink2">{say.fillInWhatYou}</p>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-3">{fields}</div>
        </div>
      )}
    </section>
  );
}
