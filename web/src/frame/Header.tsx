/** The header of every page: where you are, units, light or dark, keys. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { LifeBuoy, Moon, Search, Sun } from "lucide-react";
import { memo, type ReactNode, useEffect } from "react";
import { Link } from "react-router";
import { client, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { useSettings } from "../lib/settings";
import { header as say } from "../texts/frame";
import { IMPERIAL, METRIC, type UnitChoice } from "../texts/units";
import { Gecko } from "../ui/Glyph";
import { useShortcuts } from "./Shortcuts";

export function UnitSwitch() {
  const { units, setUnits } = useSettings();
  const garage = useGarage();
  const queryClient = useQueryClient();
  const save = useMutation({
    mutationFn: (next: UnitChoice) =>
      unwrap(
        client.PATCH("/api/garages/{garage_id}", { params: { path: { garage_id: garage?.id ?? 0 } }, body: { units: next } }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["garages"] }),
  });
  useEffect(() => {
    if (garage) setUnits({ ...IMPERIAL, ...garage.units });
  }, [garage, setUnits]);
  const pick = (next: UnitChoice) => {
    setUnits(next);
    if (garage) save.mutate(next);
  };
  return (
    <fieldset className="seg" aria-label={say.units}>
      <button type="button" aria-pressed={units.speed === "mph"} onClick={() => pick(IMPERIAL)}>
        {say.mph}
      </button>
      <button type="button" aria-pressed={units.speed !== "mph"} onClick={() => pick(METRIC)}>
        {say.kmH}
      </button>
    </fieldset>
  );
}

/** Trouble, units, finder, light: the same whatever is being typed. */
const HeaderTools = memo(function HeaderTools({ build, busy }: { build: number | undefined; busy: boolean }) {
  const { theme, toggleTheme } = useSettings();
  const { openKeys, openSearch } = useShortcuts();
  return (
    <>
      <Link
        to={build === undefined ? "/trouble" : `/builds/${build}/trouble`}
        className="btn !min-h-9 !px-2.5 max-desk:!min-h-11"
        aria-label={say.troubleWhenItGoes}
      >
        <LifeBuoy size={17} aria-hidden="true" />{" "}
        <span className={busy ? "max-[1379px]:hidden" : "max-desk:hidden"}>{say.trouble}</span>
      </Link>
      <span className="max-desk:hidden">
        <UnitSwitch />
      </span>
      <button type="button" className="btn quiet !px-2 max-desk:hidden" onClick={openSearch} aria-label={say.findKey}>
        <Search size={17} aria-hidden="true" />
      </button>
      <button
        type="button"
        className={`btn quiet !px-2 ${busy ? "max-desk:hidden" : ""}`}
        onClick={toggleTheme}
        aria-label={theme === "dark" ? say.light : say.dark}
      >
        {theme === "dark" ? <Sun size={17} aria-hidden="true" /> : <Moon size={17} aria-hidden="true" />}
      </button>
      <button type="button" className="btn quiet !px-2 max-desk:hidden" onClick={openKeys} aria-label={say.keysKey}>
        <kbd className="rounded border border-b-2 border-strong px-1.5 font-text">?</kbd>
      </button>
    </>
  );
});

export function Header({
  crumb,
  home = false,
  children,
  saved,
  tools,
  build,
}: {
  /** Where one is, below the garage. */
  crumb: ReactNode;
  /** This is the garage itself. */
  home?: boolean;
  children?: ReactNode;
  saved?: ReactNode;
  tools?: ReactNode;
  /** The machine at hand, so that trouble is told for its own switches. */
  build?: number | undefined;
}) {
  const busy = children !== undefined;
  return (
    <header className="head flex items-center gap-3.5 bg-paper pr-4 pl-3 max-desk:gap-2">
      <Link
        to="/"
        className="flex items-center gap-2 font-head text-[18px] font-bold tracking-[-.03em] whitespace-nowrap"
        aria-label={say.pluckyGeckoToThe}
      >
        <Gecko /> <span className={busy ? "max-[1499px]:hidden" : "max-desk:hidden"}>{say.pluckyGecko}</span>
      </Link>
      <div className="flex min-w-0 items-baseline gap-2 border-line pl-3.5 leading-6 whitespace-nowrap text-ink3 max-desk:border-0 max-desk:pl-0 desk:border-l">
        {!home && (
          <>
            <Link to="/" className="underline underline-offset-3 max-desk:hidden">
              {say.garage}
            </Link>
            <span className="max-desk:hidden">/</span>
          </>
        )}
        {crumb}
      </div>
      <div className="mx-auto flex min-w-0 flex-1 self-stretch">{children}</div>
      <div className="flex flex-none items-center gap-2.5">
        <span className="max-wide:hidden">{saved}</span>
        {tools}
        <HeaderTools build={build} busy={busy} />
      </div>
    </header>
  );
}
