/** Kinds of parts on the rack, in the order they are shown, and where each stands in a document while it is entered. */
import { kinds as say } from "../texts/rack";

/** The place of a part in a document of its own: that of a setup's slot, so that fields and their help are the same in both. */
export const SLOT: Record<string, string> = {
  packs: "/bank/rows/0/units/0",
  motors: "/motor",
  controllers: "/controller",
  chargers: "/chargers/0",
  throttles: "/throttle",
  gearboxes: "/drivetrain",
  wheels: "/wheel",
  fuses: "/main_fuse",
  wires: "/reel",
  plugs: "/plugs/0",
  switches: "/cut_off",
  guards: "/guard",
  converters: "/auxiliaries/0/converter",
  hardware: "/hardware",
  kits: "/kit",
};

/** What a part of nothing but its kind starts as. */
export const BLANK: Record<string, object> = {
  packs: { chemistry: "li-ion", cell_kind: "power", guard_in_tool: true },
  motors: { kind: "brushed" },
  controllers: { kind: "brushed" },
  chargers: { chemistry: "li-ion" },
  throttles: { kind: "unknown" },
  gearboxes: { kind: "plastic gearbox" },
  wheels: { tyre: "pneumatic" },
  fuses: { kind: "blade", dc_volts_v: 32 },
  wires: { awg: 12 },
  plugs: { kind: "two-pole 60", poles: 2 },
  switches: { kind: "switch" },
  guards: { kind: "module" },
  converters: {},
  hardware: { what: "sprocket" },
  kits: { donor: false, contents: [], leads: [], does: [], pairs: [], direction: "none" },
};

/** Kinds one puts on the rack here. */
export const KINDS = Object.keys(SLOT);
/** All there may be: plugs with their colours come from the hookup, leads from older files. */
export const EVERY_KIND = [...KINDS, "plug colours", "leads"];

/** A kind in words. */
export const kindName = (kind: string): string => say.names[kind as keyof typeof say.names] ?? kind;
