/** All wires as a list to cut and join them by: on screen, on paper, and as CSV. */
import { useMutation } from "@tanstack/react-query";
import { client, type Hookup, unwrap } from "../../api/client";
import type { Doc } from "../../lib/pointer";
import { saveAs } from "../../lib/saveAs";
import { useSettings } from "../../lib/settings";
import { wiresSection as say } from "../../texts/hookup";
import { sentence, withUnit } from "../../texts/units";
import { Wide } from "../../ui/Table";
import { Trouble } from "../../ui/Trouble";

const HEADS = say.fromHeads;

export function WireTable({ plan }: { plan: Hookup }) {
  const { units } = useSettings();
  return (
    <Wide label={say.allWires}>
      <table className="w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-3 [&_th]:pr-3">
        <thead>
          <tr className="text-left text-ink3">
            {HEADS.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.wires.map((wire) => (
            <tr key={wire.id} className="break-inside-avoid">
              <td>{wire.start}</td>
              <td>{wire.end}</td>
              <td>{wire.function}</td>
              <td>
                {wire.start_colour === wire.end_colour
                  ? wire.start_colour
                  : say.fromColourToColour(wire.start_colour, wire.end_colour)}
              </td>
              <td className="whitespace-nowrap">{sentence(wire.gauge, units)}</td>
              <td className="whitespace-nowrap">{wire.length_m == null ? "" : withUnit(wire.length_m, "length", units)}</td>
              <td>{wire.joint}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

export function WiresSection({ plan, doc, name }: { plan: Hookup; doc: Doc; name: string }) {
  const asList = useMutation({
    mutationFn: async () => {
      const text = await unwrap(client.POST("/api/hookup/wires", { body: { setup: doc as never }, parseAs: "text" }));
      saveAs(text as string, `${name}, wires.csv`, "text/csv");
    },
  });
  return (
    <div className="grid gap-3">
      <WireTable plan={plan} />
      <div>
        <button type="button" className="btn" disabled={asList.isPending} onClick={() => asList.mutate()}>
          {say.saveTheWireList}
        </button>
      </div>
      <Trouble error={asList.error} />
    </div>
  );
}
