/** A kit of the rack put into a setup: what it makes of the machine is told first, and nothing is changed until somebody takes it. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type KitFit as Fit, type RackPart, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { nameOf, useRack } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { decimals } from "../texts/locale";
import { kitFit as say } from "../texts/rack";
import { plainNumber, sentence, type UnitChoice, way, withUnit } from "../texts/units";
import { Dialog } from "../ui/Dialog";
import { Trouble } from "../ui/Trouble";

function List({ title, rows }: { title: string; rows: string[] }) {
  const { units } = useSettings();
  if (rows.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3 className="text-[15px]">{title}</h3>
      <ul className="list-disc pl-5">
        {rows.map((one) => (
          <li key={one}>{sentence(one, units)}</li>
        ))}
      </ul>
    </section>
  );
}

function amount(what: "speed" | "distance" | "power", value: number, units: UnitChoice): string {
  if (what === "power") return `${plainNumber(value, 0)} W`;
  return what === "speed" ? withUnit(value, "speed", units) : way(value, units);
}

function Claims({ fit }: { fit: Fit }) {
  const { units } = useSettings();
  if (fit.claims.length === 0) return null;
  return (
    <section aria-label={say.claims}>
      <h3 className="text-[15px]">{say.claims}</h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4">
        {fit.claims.map((one) => (
          <div key={one.what} className="contents">
            <dt className="font-bold">{say.claim[one.what]}</dt>
            <dd>
              <s>{amount(one.what, one.printed, units)}</s> <span className="text-small text-ink2">{say.printed}</span>,{" "}
              <b>
                {one.computed == null ? say.unknown : one.computed === 0 ? say.stands : amount(one.what, one.computed, units)}
              </b>{" "}
              {one.computed != null && one.computed !== 0 && <span className="text-small text-ink2">{say.computed}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

export function KitDialog({
  kit,
  garageId,
  setup,
  buildId,
  bare = false,
  onTake,
  close,
}: {
  kit: RackPart;
  garageId: number;
  setup: Doc;
  buildId: number | null;
  /** The machine's electric parts are yet to come. */
  bare?: boolean;
  /** Takes the machine with the kit in it; none where it is only looked at. */
  onTake?: (setup: Doc, name: string) => void;
  close: () => void;
}) {
  const fit = useQuery({
    queryKey: ["kit", kit.key, buildId, bare, setup],
    queryFn: () =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack/{part_id}/fit", {
          params: { path: { garage_id: garageId, part_id: kit.id } },
          body: { setup, bare, build_id: buildId },
        }),
      ),
    retry: false,
    // While the packs beside it change, what was found stays in view; it is not taken until it is of these.
    placeholderData: (old) => old,
  });
  const found = fit.data;
  return (
    <Dialog
      open
      onOpenChange={close}
      title={say.title(decimals(nameOf(kit)))}
      {...(onTake ? { description: say.nothingIsChanged } : {})}
    >
      {fit.isPending && <p role="status">{say.working}</p>}
      <Trouble error={fit.error} className="" />
      {found && (
        <div className="grid gap-3">
          <List title={say.brings} rows={found.brings} />
          <List title={say.lacks} rows={found.lacks.length ? found.lacks : [say.nothingLacks]} />
          <List title={say.twice} rows={found.twice} />
          <List title={say.idle} rows={found.idle} />
          <List title={say.over} rows={found.over} />
          <List title={say.leads} rows={found.leads.map((one) => `${one.lead}: ${one.do}`)} />
          <Claims fit={found} />
          <List title={say.stops} rows={found.stops} />
          {onTake === undefined ? (
            <button type="button" className="btn min-h-11 justify-self-start" onClick={close}>
              {say.close}
            </button>
          ) : (
            <button
              type="button"
              className="btn go min-h-11 justify-self-start"
              disabled={fit.isPlaceholderData}
              onClick={() => {
                onTake(found.setup as unknown as Doc, nameOf(kit));
                close();
              }}
            >
              {say.take}
            </button>
          )}
        </div>
      )}
    </Dialog>
  );
}

/** A choice among the kits of the rack; nothing where there are none. */
export function KitIn({
  setup,
  buildId,
  onTake,
}: {
  setup: Doc;
  buildId: number | null;
  onTake: (setup: Doc, name: string) => void;
}) {
  const garage = useGarage();
  const kits = (useRack(garage?.id) ?? []).filter((part) => part.kind === "kits" && !part.out);
  const [open, setOpen] = useState<RackPart>();
  if (!garage || kits.length === 0) return null;
  return (
    <>
      <label className="block max-w-80">
        <span className="mb-1 block text-small font-bold text-ink2">{say.putAWholeKit}</span>
        <select className="input" value="" onChange={(e) => setOpen(kits.find((one) => String(one.id) === e.target.value))}>
          <option value="">{say.which}</option>
          {kits.map((one) => (
            <option key={one.id} value={one.id}>
              {decimals(nameOf(one))}
            </option>
          ))}
        </select>
      </label>
      {open && (
        <KitDialog
          kit={open}
          garageId={garage.id}
          setup={setup}
          buildId={buildId}
          onTake={onTake}
          close={() => setOpen(undefined)}
        />
      )}
    </>
  );
}
