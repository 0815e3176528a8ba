import { create } from "zustand";
import type { Called, WatchView } from "../wire/types";

/** What is going on at a job's site beside its rows, as the stream tells it: who is alone, what other devices
 * keep back, heard when by this device's clock [ms]; the reading that is called out. */
type Site = { watch: WatchView | null; called: Called | null; at: number };

const NOTHING: Site = { watch: null, called: null, at: 0 };
const sites = create<Record<string, Site>>()(() => ({}));

export function tellSite(job: string, what: Partial<Omit<Site, "at">>) {
  sites.setState((all) => {
    const old = all[job] ?? NOTHING;
    return { [job]: { ...old, ...what, at: what.watch ? Date.now() : old.at } };
  });
}

export const useSite = (job: string): Site => sites((all) => all[job] ?? NOTHING);
