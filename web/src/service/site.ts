import { useSyncExternalStore } from "react";
import type { Called, WatchView } from "../wire/types";

/** What is going on at a job's site beside its rows, as the stream tells it: who is alone, what other devices
 * keep back, heard when by this device's clock [ms]; the reading that is called out. */
type Site = { watch: WatchView | null; called: Called | null; at: number };

const NOTHING: Site = { watch: null, called: null, at: 0 };
const sites = new Map<string, Site>();
const hearers = new Set<() => void>();

export const site = {
  tell: (job: string, what: Partial<Omit<Site, "at">>) => {
    const old = sites.get(job) ?? NOTHING;
    sites.set(job, { ...old, ...what, at: what.watch ? Date.now() : old.at });
    for (const hear of hearers) hear();
  },
};

function subscribe(hear: () => void) {
  hearers.add(hear);
  return () => void hearers.delete(hear);
}

export function useSite(job: string): Site {
  return useSyncExternalStore(subscribe, () => sites.get(job) ?? NOTHING);
}
