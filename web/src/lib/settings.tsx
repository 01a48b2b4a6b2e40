/** Units of the garage and light or dark, for every screen. */
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { IMPERIAL, type UnitChoice } from "../texts/units";

type Theme = "light" | "dark";
interface Settings {
  units: UnitChoice;
  setUnits: (units: UnitChoice) => void;
  theme: Theme;
  toggleTheme: () => void;
  shortcuts: boolean;
  setShortcuts: (on: boolean) => void;
}

const Context = createContext<Settings | null>(null);

export function SettingsProvider({ children }: { children: ReactNode }) {
  const [units, setUnits] = useState<UnitChoice>(IMPERIAL);
  const [theme, setTheme] = useState<Theme>(() => (localStorage.getItem("gecko-theme") === "dark" ? "dark" : "light"));
  const [shortcuts, setShortcutsState] = useState(() => localStorage.getItem("gecko-shortcuts") !== "off");
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("gecko-theme", theme);
  }, [theme]);
  const setShortcuts = (on: boolean) => {
    localStorage.setItem("gecko-shortcuts", on ? "on" : "off");
    setShortcutsState(on);
  };
  const toggleTheme = () => setTheme((now) => (now === "dark" ? "light" : "dark"));
  return <Context value={{ units, setUnits, theme, toggleTheme, shortcuts, setShortcuts }}>{children}</Context>;
}

export function useSettings(): Settings {
  const settings = useContext(Context);
  if (!settings) throw new Error("SettingsProvider is missing");
  return settings;
}
