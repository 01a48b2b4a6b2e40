/** Keys that work while no field has the focus, the list of them, and the finder. They never replace Ctrl+Z. */
import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { useSettings } from "../lib/settings";
import { shortcuts as say } from "../texts/frame";
import { Dialog } from "../ui/Dialog";

export interface FindItem {
  label: string;
  kind: string;
  to: string;
}
type Actions = Record<string, () => void>;
interface Value {
  openKeys: () => void;
  openSearch: () => void;
}
const Context = createContext<Value>({ openKeys: () => {}, openSearch: () => {} });
export const useShortcuts = () => useContext(Context);

const KEYS: [string, string][] = [
  ["1 – 7", say.stages],
  ["[  ]", say.previousAndNextStation],
  ["f", say.firstFinding],
  ["s", say.setups],
  ["b", say.theBaselineAndBack],
  ["u", say.undo],
  [say.shiftU, say.redo],
  ["/", say.findBuildsSetupsStations],
  ["?", say.thisList],
];
/** What can be done from the finder as well, by the key that does it. */
const DOES: Record<string, string> = say.does;

function Finder({ items, actions, close }: { items: FindItem[]; actions: Actions; close: () => void }) {
  const navigate = useNavigate();
  const garage = useGarage();
  const index = useQuery({
    queryKey: ["garage", garage?.id, "index"],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}/index", { params: { path: { garage_id: garage?.id ?? 0 } } })),
    enabled: garage !== undefined,
  });
  const all = useMemo<FindItem[]>(
    () => [
      ...items,
      ...(index.data?.builds ?? []).map((b) => ({ label: b.name, kind: "build", to: `/builds/${b.id}` })),
      ...(index.data?.rack ?? []).map((p) => ({ label: p.name, kind: say.onTheRack, to: `/rack/${p.id}` })),
      ...(index.data?.builds ?? []).flatMap((b) =>
        b.setups
          .filter((s) => !items.some((i) => i.to.startsWith(`/builds/${b.id}/setups/${s.id}/`)))
          .map((s) => ({ label: s.name, kind: say.setupOf(b.name), to: `/builds/${b.id}/setups/${s.id}/power` })),
      ),
    ],
    [items, index.data],
  );
  const line = (key: string, label: string, kind: string, go: () => void) => (
    <Command.Item
      key={key}
      value={key}
      keywords={[label, kind]}
      onSelect={() => {
        close();
        go();
      }}
      className="flex cursor-pointer justify-between rounded-md px-3 py-2 data-[selected=true]:bg-focustint"
    >
      <b>{label}</b> <span className="text-ink3">{kind}</span>
    </Command.Item>
  );
  return (
    <Dialog open onOpenChange={close} title={say.find}>
      <Command label={say.findBuildsSetupsStationsParts} filter={rank}>
        <Command.Input className="input" placeholder={say.aBuildSetupStation} />
        <Command.List label={say.found} className="mt-2 h-[min(56vh,480px)] overflow-y-auto">
          <Command.Empty className="p-3 text-ink2">{say.nothingOfThatName}</Command.Empty>
          {all.map((item) => line(`${item.to} ${item.kind} ${item.label}`, item.label, item.kind, () => navigate(item.to)))}
          {Object.entries(DOES).map(([key, words]) => {
            const act = actions[key];
            return act && line(`key ${key}`, words, say.byKey(key === "U" ? say.shiftU : key), act);
          })}
        </Command.List>
      </Command>
    </Dialog>
  );
}

/** The better the earlier the text stands in what the line says; 0: not in it. */
const rank = (_key: string, text: string, words: string[] = []) => {
  const at = words.join(" ").toLowerCase().indexOf(text.trim().toLowerCase());
  return at < 0 ? 0 : 1 / (1 + at);
};

export function Shortcuts({ actions, items = [], children }: { actions: Actions; items?: FindItem[]; children: ReactNode }) {
  const [keys, setKeys] = useState(false);
  const [search, setSearch] = useState(false);
  const { shortcuts, setShortcuts } = useSettings();
  const current = useRef(actions);
  current.current = actions;
  useEffect(() => {
    if (!shortcuts) return;
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest("input, textarea, select, [contenteditable], [role=dialog], [role=menu]")
      )
        return;
      if (event.key === "/") setSearch(true);
      else if (event.key === "?") setKeys(true);
      else {
        const action = current.current[event.key];
        if (!action) return;
        action();
      }
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [shortcuts]);
  const value = useMemo(() => ({ openKeys: () => setKeys(true), openSearch: () => setSearch(true) }), []);
  return (
    <Context value={value}>
      {children}
      {search && <Finder items={items} actions={actions} close={() => setSearch(false)} />}
      {keys && (
        <Dialog open onOpenChange={setKeys} title={say.keys} description={say.theyWorkWhileNo}>
          <dl className="grid grid-cols-[110px_1fr] gap-y-1.5">
            {KEYS.map(([key, words]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="rounded border border-b-2 border-strong px-1.5">{key}</kbd>
                </dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
          <label className="mt-4 flex items-center gap-2">
            <input type="checkbox" className="size-5" checked={shortcuts} onChange={(e) => setShortcuts(e.target.checked)} />{" "}
            {say.keysAreOn}
          </label>
        </Dialog>
      )}
    </Context>
  );
}
