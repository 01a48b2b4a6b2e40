/** Keys that work while no field has the focus, the list of them, and the finder. They never replace Ctrl+Z. */
import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { useSettings } from "../lib/settings";
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
  ["1 – 7", "stages"],
  ["[  ]", "previous and next station"],
  ["f", "first finding"],
  ["s", "setups"],
  ["b", "the baseline, and back"],
  ["u", "undo"],
  ["Shift + u", "redo"],
  ["/", "find builds, setups, stations, parts, trials"],
  ["?", "this list"],
];

function Finder({ items, close }: { items: FindItem[]; close: () => void }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
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
      ...(index.data?.rack ?? []).map((p) => ({ label: p.name, kind: "on the rack", to: `/#part-${p.id}` })),
      ...(index.data?.builds ?? []).flatMap((b) =>
        b.setups
          .filter((s) => !items.some((i) => i.to.startsWith(`/builds/${b.id}/setups/${s.id}/`)))
          .map((s) => ({ label: s.name, kind: `setup of ${b.name}`, to: `/builds/${b.id}/setups/${s.id}/power` })),
      ),
    ],
    [items, index.data],
  );
  const found = all.filter((item) => `${item.label} ${item.kind}`.toLowerCase().includes(text.trim().toLowerCase())).slice(0, 9);
  const go = (item: FindItem | undefined) => {
    if (!item) return;
    close();
    navigate(item.to);
  };
  return (
    <Dialog open onOpenChange={close} title="Find">
      <input
        className="input"
        aria-label="Find builds, setups, stations, parts and trials"
        role="combobox"
        aria-expanded="true"
        aria-controls="find-list"
        aria-activedescendant={found[at] ? `find-${at}` : undefined}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown") setAt((n) => Math.min(n + 1, found.length - 1));
          else if (e.key === "ArrowUp") setAt((n) => Math.max(n - 1, 0));
          else if (e.key === "Enter") go(found[at]);
          else return;
          e.preventDefault();
        }}
      />
      <div id="find-list" role="listbox" aria-label="Found" className="mt-2">
        {found.map((item, i) => (
          <div
            key={`${item.kind}${item.label}${item.to}`}
            id={`find-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onMouseDown={() => go(item)}
            className={`flex cursor-pointer justify-between rounded-md px-3 py-2 ${i === at ? "bg-focustint" : ""}`}
          >
            <b>{item.label}</b> <span className="text-ink3">{item.kind}</span>
          </div>
        ))}
        {found.length === 0 && <p className="p-3 text-ink2">Nothing of that name.</p>}
      </div>
    </Dialog>
  );
}

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
      {search && <Finder items={items} close={() => setSearch(false)} />}
      {keys && (
        <Dialog open onOpenChange={setKeys} title="Keys" description="They work while no field has the focus.">
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
            <input type="checkbox" className="size-5" checked={shortcuts} onChange={(e) => setShortcuts(e.target.checked)} /> Keys
            are on
          </label>
        </Dialog>
      )}
    </Context>
  );
}
