import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo } from "react";
import { client, type Profile, type Settings } from "../service/client";
import type { Showing } from "./units";

type Kept = { settings: Settings; change: (part: Partial<Settings>) => void; profiles: Profile[] };
const Context = createContext<Kept | null>(null);
const DEFAULTS: Settings = { theme: "system", units: "profile", level: "profile", north: "true" };

export function SettingsProvider({ children }: { children: ReactNode }) {
  const cache = useQueryClient();
  const found = useQuery({
    queryKey: ["settings"],
    queryFn: async () => (await client.GET("/api/settings")).data ?? DEFAULTS,
  });
  const profiles = useQuery({
    queryKey: ["profiles"],
    queryFn: async () => (await client.GET("/api/profiles")).data ?? [],
  });
  const settings = found.data ?? DEFAULTS;
  const change = useCallback(
    (part: Partial<Settings>) => {
      const next = { ...DEFAULTS, ...cache.getQueryData<Settings>(["settings"]), ...part };
      cache.setQueryData(["settings"], next);
      client.PUT("/api/settings", { body: next });
    },
    [cache],
  );
  useTheme(settings.theme ?? "system");
  const kept = useMemo(
    () => ({ settings, change, profiles: profiles.data ?? [] }),
    [settings, change, profiles.data],
  );
  if (!found.isFetched) return null;
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
      units:
        settings.units && settings.units !== "profile" ? settings.units : (own?.units ?? "metric"),
      level:
        settings.level && settings.level !== "profile" ? settings.level : (own?.level ?? "dbuv"),
      north: settings.north ?? "true",
    }),
    [settings, own],
  );
}
