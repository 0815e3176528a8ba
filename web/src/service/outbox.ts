import { useMemo, useSyncExternalStore } from "react";
import type { Change } from "./client";

/** A tick, a reading or a note of a step that has not reached the program yet. The key makes it count once,
 * however often it is sent; `refused` is why it waits although it was heard. */
export type Waiting = {
  key: string;
  job: string;
  change: Extract<Change, { verb: "tick" }>;
  at: string;
  refused?: string;
};

const NAME = "evtro.outbox";
const hearers = new Set<() => void>();
let rows = read();

function read(): Waiting[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(NAME) ?? "[]");
    return Array.isArray(found) ? (found as Waiting[]) : [];
  } catch {
    return [];
  }
}

function keep(next: Waiting[]) {
  rows = next;
  try {
    localStorage.setItem(NAME, JSON.stringify(next));
  } catch {
    // a browser that keeps nothing has it until the page is left
  }
  for (const hear of hearers) hear();
}

function subscribe(hear: () => void) {
  const other = (e: StorageEvent) => {
    if (e.key !== NAME) return;
    rows = read();
    hear();
  };
  hearers.add(hear);
  window.addEventListener("storage", other);
  return () => {
    hearers.delete(hear);
    window.removeEventListener("storage", other);
  };
}

export const outbox = {
  put: (row: Waiting) => keep([...rows, row]),
  drop: (key: string) => keep(rows.filter((r) => r.key !== key)),
  refuse: (key: string, refused: string) =>
    keep(rows.map((r) => (r.key === key ? { ...r, refused } : r))),
  /** What was refused is tried once more: something else has changed since. */
  anew: (job: string) => {
    if (rows.some((r) => r.job === job && r.refused))
      keep(rows.map((r) => (r.job === job ? { ...r, refused: undefined } : r)));
  },
};

/** What of a job waits here, in the order in which it was done. */
export function useOutbox(job: string): Waiting[] {
  const all = useSyncExternalStore(subscribe, () => rows);
  return useMemo(() => all.filter((r) => r.job === job), [all, job]);
}
