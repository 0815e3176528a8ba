import type { DBSchema, IDBPDatabase } from "idb";
import type { Change, JobView } from "./client";

export type Tick = Extract<Change, { verb: "tick" }>;
export type Photo = {
  step: string;
  by: string;
  file: Blob;
  place?: { latitude_deg: number; longitude_deg: number } | null;
};

/** What was done here and has not reached the program yet, in its order `n`: a tick, a reading or a note of a
 * step, or a photograph. The key makes it count once, however often it is sent; `at` is this device's own
 * clock [ms]; `refused` is why it waits although it was heard. */
export type Waiting = {
  n: number;
  key: string;
  job: string;
  at: number;
  change?: Tick;
  photo?: Photo;
  refused?: string;
};

export type KeptJob = { id: string; view: JobView; at: number; form: number };

/** Raised when views change their words: one that an older program kept cannot be drawn. It is left out here
 * and not by a new version of the database, which another tab would hold up. */
const FORM = 2;

interface Rooms extends DBSchema {
  outbox: { key: number; value: Omit<Waiting, "n"> & { n?: number } };
  jobs: { key: string; value: KeptJob };
}

let opening: Promise<IDBPDatabase<Rooms> | null> | null = null;

/** What this browser keeps over a reload; null in one that keeps nothing. */
export function kept(): Promise<IDBPDatabase<Rooms> | null> {
  // Its library comes beside the page: what is first drawn does without it.
  opening ??= import("idb")
    .then(({ openDB }) =>
      openDB<Rooms>("evtro", 1, {
        upgrade(db) {
          db.createObjectStore("outbox", { keyPath: "n", autoIncrement: true });
          db.createObjectStore("jobs", { keyPath: "id" });
        },
      }),
    )
    .catch(() => null);
  return opening;
}

const MOST_JOBS = 40;

/** Keeps a job as it is shown now, for when there is no network; the oldest go. */
export async function keepJob(view: JobView) {
  const db = await kept();
  if (!db) return;
  const old = (await keptJob(view.id))?.view;
  // Answers of one revision stand together; what other pages asked for stays.
  const answers =
    old?.revision === view.revision ? { ...old.answers, ...view.answers } : view.answers;
  await db.put("jobs", { id: view.id, view: { ...view, answers }, at: Date.now(), form: FORM });
  const all = await db.getAllKeys("jobs");
  if (all.length <= MOST_JOBS) return;
  const rows = await db.getAll("jobs");
  rows.sort((a, b) => a.at - b.at);
  for (const old of rows.slice(0, rows.length - MOST_JOBS)) await db.delete("jobs", old.id);
}

export async function keptJob(id: string): Promise<KeptJob | null> {
  const db = await kept();
  const row = await db?.get("jobs", id);
  return row?.form === FORM ? row : null;
}

/** The jobs that can be opened without a network, the one looked at last first. */
export async function keptJobs(): Promise<KeptJob[]> {
  const all = (await (await kept())?.getAll("jobs")) ?? [];
  const rows = all.filter((row) => row.form === FORM);
  return rows.sort((a, b) => b.at - a.at);
}
