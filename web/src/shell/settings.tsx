import { useQuery } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
} from "react";
import { client, type Profile } from "../service/client";
import { told } from "../service/refusals";
import type { Showing } from "../units/units";

export type Settings = {
  theme: "day" | "night" | "sun" | "system";
  units: "profile" | "metric" | "us";
  level: "profile" | "dbuv" | "dbmv" | "dbm";
  north: "true" | "compass";
};
type Kept = { settings: Settings; change: (part: Partial<Settings>) => void; profiles: Profile[] };
const Context = createContext<Kept | null>(null);
const DEFAULTS: Settings = { theme: "system", units: "profile", level: "profile", north: "true" };

const CHOICES: { [K in keyof Settings]: readonly Settings[K][] } = {
  theme: ["day", "night", "sun", "system"],
  units: ["profile", "metric", "us"],
  level: ["profile", "dbuv", "dbmv", "dbm"],
  north: ["true", "compass"],
};
const NAME = "evtro.settings";

/** The settings of this device: a phone in the sun leaves the desk's theme as it is. */
function readSettings(): Settings {
  const kept: Settings = { ...DEFAULTS };
  try {
    const found = JSON.parse(localStorage.getItem(NAME) ?? "{}") as Record<string, unknown>;
    for (const key of Object.keys(CHOICES) as (keyof Settings)[]) {
      const choice = (CHOICES[key] as readonly unknown[]).find((c) => c === found[key]);
      if (choice) Object.assign(kept, { [key]: choice });
    }
  } catch {
    // a browser that keeps nothing starts anew each time
  }
  return kept;
}

export function SettingsProvider({ children }: { children: ReactNode }) {
  const [settings, set] = useState(readSettings);
  const profiles = useQuery({
    queryKey: ["profiles"],
    queryFn: () => told(client.GET("/api/profiles")),
  });
  const change = useCallback((part: Partial<Settings>) => {
    const next = { ...readSettings(), ...part };
    set(next);
    try {
      localStorage.setItem(NAME, JSON.stringify(next));
    } catch {
      // it holds for this visit then
    }
  }, []);
  useEffect(() => {
    // Another tab of this device.
    const hear = (e: StorageEvent) => e.key === NAME && set(readSettings());
    window.addEventListener("storage", hear);
    return () => window.removeEventListener("storage", hear);
  }, []);
  useTheme(settings.theme);
  const kept = useMemo(
    () => ({ settings, change, profiles: profiles.data ?? [] }),
    [settings, change, profiles.data],
  );
  return <Context.Provider value={kept}>{children}</Context.Provider>;
}

function useTheme(theme: string) {
  useEffect(() => {
    const dark = window.matchMedia("(prefers-color-scheme: dark)");
    const apply = () => {
      const night = theme === "night" || (theme === "system" && dark.matches);
      document.documentElement.dataset.theme = theme === "sun" ? "sun" : night ? "night" : "day";
    };
    apply();
    dark.addEventListener("change", apply);
    return () => dark.removeEventListener("change", apply);
  }, [theme]);
}

export function useSettings(): Kept {
  const kept = useContext(Context);
  if (!kept) throw new Error("no settings");
  return kept;
}

/** The units in force: the installer's choice, or what the job's practice profile uses. */
export function useShowing(profile = "europe"): Showing {
  const { settings, profiles } = useSettings();
  const own = profiles.find((p) => p.key === profile);
  return useMemo(
    () => ({
      units: settings.units !== "profile" ? settings.units : (own?.units ?? "metric"),
      level: settings.level !== "profile" ? settings.level : (own?.level ?? "dbuv"),
      north: settings.north,
    }),
    [settings, own],
  );
}
