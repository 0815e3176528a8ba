import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { create } from "zustand";
import type { Showing } from "../units/units";
import { client, type Profile } from "./client";
import { told } from "./refusals";

export type Settings = {
  theme: "day" | "night" | "sun" | "system";
  units: "profile" | "metric" | "us";
  level: "profile" | "dbuv" | "dbmv" | "dbm";
  north: "true" | "compass";
  /** Whether single letters and digits are keys of the stations (WCAG 2.2, 2.1.4: they can be switched off). */
  keys: "on" | "off";
};
const DEFAULTS: Settings = {
  theme: "system",
  units: "profile",
  level: "profile",
  north: "true",
  keys: "on",
};

const CHOICES: { [K in keyof Settings]: readonly Settings[K][] } = {
  theme: ["day", "night", "sun", "system"],
  units: ["profile", "metric", "us"],
  level: ["profile", "dbuv", "dbmv", "dbm"],
  north: ["true", "compass"],
  keys: ["on", "off"],
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
    // a browser that stores nothing starts with the defaults each time
  }
  return kept;
}

export const useSettings = create<Settings>()(readSettings);

export function changeSettings(part: Partial<Settings>) {
  const next = { ...readSettings(), ...part };
  useSettings.setState(next);
  try {
    localStorage.setItem(NAME, JSON.stringify(next));
  } catch {
    // it holds for this visit then
  }
}

if (typeof window !== "undefined")
  // Another tab of this device.
  window.addEventListener("storage", (e) => {
    if (e.key === NAME) useSettings.setState(readSettings());
  });

/** Puts the theme of this device on the page. */
export function useTheme() {
  const theme = useSettings((s) => s.theme);
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

const NONE: Profile[] = [];

export function useProfiles(): Profile[] {
  const found = useQuery({
    queryKey: ["profiles"],
    queryFn: () => told(client.GET("/api/profiles")),
  });
  return found.data ?? NONE;
}

/** The units in force: the installer's choice, or those of the job's regional profile. */
export function useShowing(own: Partial<Pick<Showing, "units" | "level">> = {}): Showing {
  const { units, level, north } = useSettings();
  return useMemo(
    () => ({
      units: units !== "profile" ? units : (own.units ?? "metric"),
      level: level !== "profile" ? level : (own.level ?? "dbuv"),
      north,
    }),
    [units, level, north, own.units, own.level],
  );
}
